package job

// What a record says of values that a design has as words of the document. A value that is not
// among them is printed as it is.

var openPENs = map[OpenPEN]string{
	PENImbalance: "three phases, the load near balance (i)",
	PENElectrode: "an earth electrode that holds the touch voltage to 70 V (ii)",
	PENTouch:     "a device that measures the voltage to Earth (iii)",
	PENVoltage:   "a device that measures line to neutral voltage (iv)",
	PENOther:     "another device, declared as no less effective (v)",
	PENLiveOnly:  "a device that opens line and neutral only",
	PENTT:        "the point made TT",
	PENNone:      "none",
}

// Said is the way of open-PEN protection in words, with its part of 722.411.4.1.
func (v OpenPEN) Said() string { return said(openPENs, v) }

var spds = map[SPD]string{SPDFitted: "fitted with this work", SPDPresent: "present already", SPDDeclined: "declined by the owner"}

// Said is the state of surge protection in words.
func (v SPD) Said() string { return said(spds, v) }

var earths = map[EarthBy]string{EarthCore: "a core or wire of the cable", EarthArmour: "its armour or raceway"}

// Said is what serves as protective conductor, in words.
func (v EarthBy) Said() string { return said(earths, v) }

var photoKinds = map[PhotoKind]string{
	"label": "the board's label", "board-open": "the board, open", "board-closed": "the board, closed", "meter": "the meter and the cutout or service",
	"position": "the position", "route": "the route", "parking": "the parking", "other": "something else",
}

// Said is what a photo shows, in words.
func (v PhotoKind) Said() string { return said(photoKinds, v) }

func said[T ~string](words map[T]string, v T) string {
	if w, ok := words[v]; ok {
		return w
	}
	return string(v)
}
