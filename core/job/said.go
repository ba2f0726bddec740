package job

// Word is a value of the document, and how pages and records tell it.
type Word struct {
	Value string `json:"value"`
	Text  string `json:"text"`
}

// Words are what pages and records tell of values of a design, by the field, in the order of its
// choices. Web pages have them generated (web/src/api/words.json).
func Words() map[string][]Word {
	return map[string][]Word{"openPen": openPENs, "spd": spds, "earth": earths, "inspection": inspections,
		Scheduler: agreed[Scheduler], Account: agreed[Account], Access: agreed[Access],
		"kind": kindWords, "mended": mendedWords, "fate": fateWords, "opener": openerWords,
		"casing": casingWords, "bondRun": bondWords, "source": sourceWords, "side": sideWords,
		"outcome": outcomes}
}

// The ways of open-PEN protection, with their parts of 722.411.4.1.
var openPENs = []Word{
	{string(PENVoltage), "device, line-neutral voltage (iv)"},
	{string(PENTouch), "device, voltage to Earth (iii)"},
	{string(PENOther), "device, declared as effective (v)"},
	{string(PENElectrode), "electrode holds 70 V (ii)"},
	{string(PENImbalance), "three-phase balance (i)"},
	{string(PENTT), "point made TT"},
	{string(PENLiveOnly), "device opens line and neutral only"},
	{string(PENNone), "none"},
}

// Said is the way of open-PEN protection in words.
func (v OpenPEN) Said() string { return said(openPENs, string(v)) }

var spds = []Word{
	{string(SPDFitted), "fitted with this work"}, {string(SPDPresent), "already present"},
	{string(SPDReplaced), "replaced with this work"}, {string(SPDDeclined), "declined by the owner"},
}

// Said is the state of surge protection in words.
func (v SPD) Said() string { return said(spds, string(v)) }

var earths = []Word{{string(EarthCore), "a core or wire"}, {string(EarthArmour), "its armour or raceway"}}

// Said is what serves as protective conductor, in words.
func (v EarthBy) Said() string { return said(earths, string(v)) }

var photoKinds = []Word{
	{"label", "the board's label"}, {"board-open", "the board, open"}, {"board-closed", "the board, closed"},
	{"meter", "the meter and the cutout or service"}, {"position", "the position"}, {"route", "the route"}, {"parking", "the parking"},
	{"other", "something else"},
}

// Said is what a photo shows, in words.
func (v PhotoKind) Said() string { return said(photoKinds, string(v)) }

// said is a value in words; one that has none is told as it is.
func said(words []Word, v string) string {
	for _, w := range words {
		if w.Value == v {
			return w.Text
		}
	}
	return v
}
