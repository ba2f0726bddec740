// Package visit says how complete a survey is, section by section, and what is
// still open before the surveyor leaves the site, most costly to come back for
// first.
package visit

import (
	"cmp"
	"slices"
	"strconv"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/schema"
)

// Cost is what it takes to come back for something.
type Cost int

// The costs, cheapest first.
const (
	Call  Cost = iota + 1 // the customer can be asked by telephone
	Drive                 // somebody has to go there again
	Open                  // the board has to be opened, or measured live, again
)

// words say what it takes.
var words = map[Cost]string{Call: "can be asked by telephone", Drive: "takes another visit", Open: "takes another visit with the board open"}

// Lack is one thing that is still open.
type Lack struct {
	Section SectionID `json:"section"`
	Field   string    `json:"field" doc:"Where it is entered."`
	What    string    `json:"what"`
	Cost    Cost      `json:"cost" doc:"1 a telephone call, 2 another visit, 3 another visit with the board open."`
	Takes   string    `json:"takes" doc:"The cost in words."`
}

// SectionID names a part of the survey.
type SectionID string

// The parts of the survey.
const (
	InSupply       SectionID = "supply"
	InBoard        SectionID = "board"
	InLoads        SectionID = "loads"
	InVehicles     SectionID = "vehicles"
	InPositions    SectionID = "positions"
	InRoute        SectionID = "route"
	InConnectivity SectionID = "connectivity"
	InConsents     SectionID = "consents"
	InPhotos       SectionID = "photos"
)

// Values lists the parts of the survey.
func (SectionID) Values() []string {
	return schema.Words(InSupply, InBoard, InLoads, InVehicles, InPositions, InRoute, InConnectivity, InConsents, InPhotos)
}

// Section is one part of the survey and how far it has come.
type Section struct {
	ID    SectionID `json:"id"`
	Title string    `json:"title"`
	Done  int       `json:"done"`
	Total int       `json:"total"`
}

// Visit is a survey's completeness.
type Visit struct {
	Sections []Section `json:"sections"`
	Leave    []Lack    `json:"leave" doc:"What is open, most costly to come back for first."`
}

// Practice is what a survey asks in one country beside what every survey asks. Each
// is nil where it asks nothing more.
type Practice struct {
	Supply, Board, Loads, Positions func(*Survey, *job.Survey)
	// Segment asks about one segment of a route; at is its field and what its name.
	Segment func(s *Survey, g *job.Segment, at, what string)
	// Usual are answers that a person may confirm all at once. None is about earthing, bonding,
	// a second source, a device upstream, the service's rating or gas: those are asked one by one.
	Usual []Usual
}

// Usual is the answer to one question on most sites.
type Usual struct {
	Field  string   `json:"field" doc:"Its place in the job document; of the first vehicle, place and segment."`
	Value  any      `json:"value"`
	Says   string   `json:"says" doc:"In words, to be confirmed."`
	Others []Answer `json:"others,omitempty" doc:"What a firm may have as its usual answer instead."`
	Figure *Figure  `json:"figure,omitempty" doc:"A firm may have a figure of its own instead."`
}

// Answer is another answer to the same question.
type Answer struct {
	Value any    `json:"value"`
	Says  string `json:"says"`
}

// Figure is what a firm's own figure keeps to.
type Figure struct {
	Least float64       `json:"least" doc:"In SI."`
	Most  float64       `json:"most" doc:"In SI."`
	Unit  quantity.Unit `json:"unit"`
	Says  string        `json:"says" doc:"In words; {} stands for the figure with its unit."`
}

// AnyHouse are the usual answers wherever the house stands. Common practice, no source.
var AnyHouse = []Usual{
	{Field: "survey.supply.phases", Value: 1, Says: "single phase"},
	{Field: "survey.supply.mainSwitchAt", Value: "at the board", Says: "main switch at the board"},
	{Field: "survey.vehicles.0.name", Value: "car", Says: "one car"},
	{Field: "survey.vehicles.0.phases", Value: 1, Says: "its charger has one phase"},
	{Field: "survey.vehicles.0.energy", Value: 12, Says: "it needs 12 kWh in a usual night", Others: []Answer{
		{8, "it needs 8 kWh in a usual night"}, {16, "it needs 16 kWh in a usual night"}, {24, "it needs 24 kWh in a usual night"},
	}},
	{Field: "survey.vehicles.0.arrival", Value: "18:30", Says: "plugged in at 18:30", Others: []Answer{
		{"17:00", "plugged in at 17:00"}, {"20:00", "plugged in at 20:00"}, {"22:00", "plugged in at 22:00"},
	}},
	{Field: "survey.vehicles.0.departure", Value: "07:00", Says: "leaves at 07:00", Others: []Answer{
		{"05:00", "leaves at 05:00"}, {"06:00", "leaves at 06:00"}, {"08:00", "leaves at 08:00"},
	}},
	{Field: "survey.places.0.outdoors", Value: job.Yes, Says: "the charger is outdoors", Others: []Answer{{job.No, "the charger is indoors"}}},
	{Field: "survey.network.kind", Value: "wifi", Says: "on the customer's wireless network", Others: []Answer{
		{job.ByWire, "by a data cable"}, {job.ByMobile, "by a mobile network of its own"},
	}},
	{Field: "survey.network.passwordWith", Value: "the customer", Says: "the customer has its password and will be there"},
	{Field: "survey.network.setUpWithout", Value: job.Yes, Says: "the charger can be set up without network", Others: []Answer{
		{job.No, "the charger cannot be set up without network"},
	}},
	{Field: "survey.consent.asked", Value: job.Yes, Says: "asked what the customer will not have: nothing"},
	{Field: "survey.consent.landlord", Value: job.No, Says: "no landlord has to agree"},
	{Field: "survey.consent.ownBay", Value: job.Yes, Says: "the parking is the customer's own"},
}

// more asks what a country asks beside the rest.
func (s *Survey) more(ask func(*Survey, *job.Survey), survey *job.Survey) {
	if ask != nil {
		ask(s, survey)
	}
}

// Survey gathers what is asked.
type Survey struct {
	sections []Section
	items    []Lack
}

func (s *Survey) begin(id SectionID, title string) {
	s.sections = append(s.sections, Section{ID: id, Title: title})
}

// Ask counts one question of the current section.
func (s *Survey) Ask(answered bool, cost Cost, field, what string) {
	c := &s.sections[len(s.sections)-1]
	c.Total++
	if answered {
		c.Done++
		return
	}
	s.items = append(s.items, Lack{c.ID, field, what, cost, words[cost]})
}

// Left judges the survey of a job that only takes chargers away: what switching off and the papers ask.
func (w *Practice) Left(survey *job.Survey) Visit {
	var s Survey
	p := &survey.Supply
	s.begin(InSupply, "Supply")
	s.Ask(p.System != "", Drive, "survey.supply.system", "earthing or supply system")
	s.Ask(p.Phases != 0, Drive, "survey.supply.phases", "number of phases")
	s.Ask(p.OtherSource != "", Call, "survey.supply.otherSource", "solar, battery, generator or another service on site")
	s.Ask(p.MainsSwitchAt != "", Call, "survey.supply.mainSwitchAt", "where the main switch is")
	s.begin(InBoard, "Board")
	s.Ask(survey.Board.Label != "", Drive, "survey.board.label", "which board it is")
	s.begin(InPositions, "Positions")
	for i, place := range survey.Places {
		s.Ask(place.Name != "", Call, "survey.places."+strconv.Itoa(i)+".name", "where the charger is")
	}
	s.begin(InConsents, "Refusals and consents")
	s.Ask(survey.Consent.Landlord != "", Call, "survey.consent.landlord", "whether a landlord must agree")
	s.photos(survey, LeftPhotos)
	slices.SortStableFunc(s.items, func(a, b Lack) int { return cmp.Compare(b.Cost, a.Cost) })
	return Visit{s.sections, append([]Lack{}, s.items...)}
}

// Mended judges the survey of a job that repairs chargers alone: how their circuits were made is not asked, and what is drawn, and over
// which cable, only where more may be drawn after.
func (w *Practice) Mended(survey *job.Survey, raises bool) Visit {
	var s Survey
	s.supply(survey)
	s.begin(InBoard, "Board")
	s.Ask(survey.Board.Label != "", Drive, "survey.board.label", "which board it is")
	if raises {
		s.Ask(survey.Board.Rating > 0, Drive, "survey.board.rating", "rating of the board")
		s.loads(survey)
		s.more(w.Loads, survey)
		s.vehicles(survey)
	}
	s.begin(InPositions, "Positions")
	for i, p := range survey.Places {
		f := "survey.places." + strconv.Itoa(i) + "."
		s.Ask(p.Name != "", Call, f+"name", "where the charger is, point "+p.Point)
		s.Ask(p.Outdoors != "", Call, f+"outdoors", "outdoors or in, point "+p.Point)
	}
	if raises {
		w.route(&s, survey) // its cable carries more
	}
	s.begin(InConsents, "Refusals and consents")
	s.Ask(survey.Consent.Landlord != "", Call, "survey.consent.landlord", "whether a landlord must agree")
	s.photos(survey, LeftPhotos)
	slices.SortStableFunc(s.items, func(a, b Lack) int { return cmp.Compare(b.Cost, a.Cost) })
	return Visit{s.sections, append([]Lack{}, s.items...)}
}

// Laid judges the survey of a job that runs a sub-main to a board: nobody asks how a charger would be used.
func (w *Practice) Laid(survey *job.Survey, photos []string) Visit {
	var s Survey
	w.house(&s, survey)
	s.begin(InPositions, "Board at the end")
	for i, p := range survey.Places {
		f := "survey.places." + strconv.Itoa(i) + "."
		s.Ask(p.Name != "", Drive, f+"name", "where the board goes, point "+p.Point)
		s.Ask(p.Outdoors != "", Call, f+"outdoors", "outdoors or in, point "+p.Point)
		s.Ask(p.Detached != "", Call, f+"detached", "whether point "+p.Point+" is in a building apart from the supply's")
		if p.Detached == job.Yes {
			s.Ask(p.OtherSupply != "", Drive, f+"otherSupply", "whether that building has a circuit or a sub-main already")
		}
	}
	w.route(&s, survey)
	s.begin(InConsents, "Refusals and consents")
	s.Ask(survey.Consent.Asked == job.Yes, Call, "survey.consent.asked", "what the customer will not have")
	s.Ask(survey.Consent.Landlord != "", Call, "survey.consent.landlord", "whether a landlord must agree")
	s.photos(survey, photos)
	slices.SortStableFunc(s.items, func(a, b Lack) int { return cmp.Compare(b.Cost, a.Cost) })
	return Visit{s.sections, append([]Lack{}, s.items...)}
}

// LaidPhotos are those photos that a job that runs a sub-main asks for: nobody parks there yet.
func LaidPhotos(photos []string) []string {
	return slices.DeleteFunc(slices.Clone(photos), func(kind string) bool { return kind == "parking" })
}

// LeftPhotos are the photos of a job that only takes chargers away or repairs them: the charger, and the board.
var LeftPhotos = []string{"position", "board-closed"}

// Of judges a survey by what its country asks. photos lists the kinds of photo
// that the country and the firm's policy ask for.
func (w *Practice) Of(survey *job.Survey, photos []string) Visit {
	var s Survey
	w.house(&s, survey)
	s.vehicles(survey)
	s.positions(survey)
	s.more(w.Positions, survey)
	w.route(&s, survey)
	s.begin(InConnectivity, "Connectivity")
	n := survey.Network
	s.Ask(n.Kind != "", Drive, "survey.network.kind", "how the charger joins a network")
	if n.Kind != job.NotJoined {
		s.Ask(n.Signal != "" || n.Kind == job.ByWire, Drive, "survey.network.signal", "signal tried at the position")
		s.Ask(n.Password != "", Call, "survey.network.passwordWith", "who holds the password")
	}
	s.Ask(n.Without != "", Call, "survey.network.setUpWithout", "whether set-up can be done without network")
	s.begin(InConsents, "Refusals and consents")
	s.Ask(survey.Consent.Asked == job.Yes, Call, "survey.consent.asked", "what the customer will not have")
	s.Ask(survey.Consent.Landlord != "", Call, "survey.consent.landlord", "whether a landlord must agree")
	s.Ask(survey.Consent.OwnBay != "", Call, "survey.consent.ownBay", "whether the bay is the customer's own")
	s.photos(survey, photos)
	slices.SortStableFunc(s.items, func(a, b Lack) int { return cmp.Compare(b.Cost, a.Cost) })
	return Visit{s.sections, append([]Lack{}, s.items...)}
}

// house asks of supply, board and loads.
func (w *Practice) house(s *Survey, survey *job.Survey) {
	s.supply(survey)
	s.more(w.Supply, survey)
	s.board(survey)
	s.more(w.Board, survey)
	s.loads(survey)
	s.more(w.Loads, survey)
}

func (s *Survey) supply(survey *job.Survey) {
	p := &survey.Supply
	s.begin(InSupply, "Supply")
	s.Ask(p.System != "", Drive, "survey.supply.system", "earthing or supply system")
	s.Ask(p.Phases != 0, Drive, "survey.supply.phases", "number of phases")
	s.Ask(p.Rating > 0, Drive, "survey.supply.rating", "rating of the service itself")
	s.Ask(p.RatingSeen == job.Yes, Drive, "survey.supply.ratingSeen", "rating read off the fuse or service, not the board")
	s.Ask(p.Voltage != "", Open, "survey.supply.voltage", "measured voltage")
	s.Ask(p.Condition != "", Drive, "survey.supply.condition", "condition of cutout, service cable and earthing terminal")
	s.Ask(p.OtherSource != "", Call, "survey.supply.otherSource", "solar, battery, generator or another service on site")
	if p.Own() {
		s.Ask(p.Earthed != "", Drive, "survey.supply.sourceEarthed", "whether the source's neutral is joined to earth at an electrode of its own")
	}
	if p.OtherSource == job.Yes {
		s.Ask(p.Second.Kind != "", Call, "survey.supply.second.kind", "what the second source does when the grid is out")
		s.Ask(p.Second.Isolator != "", Drive, "survey.supply.second.isolator", "where the second source is switched off")
	}
	s.Ask(p.MainsSwitchAt != "", Call, "survey.supply.mainSwitchAt", "where the main switch is")
}

func (s *Survey) board(survey *job.Survey) {
	b := &survey.Board
	s.begin(InBoard, "Board")
	s.Ask(b.Label != "" || photographed(survey, job.PhotoKind("label")), Drive, "survey.board.label", "what the board's label says")
	s.Ask(b.Rating > 0, Drive, "survey.board.rating", "rating of the board")
	s.Ask(b.Ways > 0 || len(b.Slots) == 0 && b.WaysFree != nil, Drive, "survey.board.ways", "ways or spaces")
	s.Ask(len(b.Slots) > 0 || b.WaysFree != nil, Open, "survey.board.map", "what is fitted where, or at least how many are free")
	s.Ask(b.Terminals > 0, Open, "survey.board.terminals", "temperature that the terminals are marked for")
	s.Ask(b.BreakingKA > 0, Open, "survey.board.breakingKa", "breaking capacity of its devices")
}

func (s *Survey) loads(survey *job.Survey) {
	s.begin(InLoads, "Loads")
	s.Ask(len(survey.Loads) > 0, Call, "survey.loads", "appliances on the supply")
	for i, l := range survey.Loads {
		s.Ask(l.Power > 0 || l.Amps > 0, Call, "survey.loads."+strconv.Itoa(i)+".power", "rating of the "+named(l.Name, string(l.Kind)))
	}
}

func named(name, other string) string {
	if name != "" {
		return name
	}
	return other
}

func (s *Survey) vehicles(survey *job.Survey) {
	s.begin(InVehicles, "Vehicles and parking")
	s.Ask(len(survey.Vehicles) > 0, Call, "survey.vehicles", "a vehicle")
	for i, v := range survey.Vehicles {
		f := "survey.vehicles." + strconv.Itoa(i) + "."
		name := named(v.Name, "vehicle "+strconv.Itoa(i+1))
		s.Ask(v.Inlet != "", Call, f+"inlet", "inlet corner of the "+name)
		if !measured(&survey.SitePlan) {
			s.Ask(v.Attitude != "", Drive, f+"attitude", "how the "+name+" is parked") // a cord was measured to where it stands
		}
		s.Ask(v.OnBoard > 0, Call, f+"onBoard", "on-board charger of the "+name)
		s.Ask(v.Energy > 0 && v.Departure != "" && v.Arrival != "", Call, f+"energy", "energy needed by the "+name+", arrival and departure")
		if len(survey.SitePlan.Bays) > 0 {
			s.Ask(survey.BayOf(i) != "", Drive, f+"bay", "bay of the "+name)
		}
	}
}

func (s *Survey) positions(survey *job.Survey) {
	s.begin(InPositions, "Positions")
	plan := &survey.SitePlan
	if measured(plan) {
		for i, p := range plan.Positions {
			f := "survey.sitePlan.positions." + strconv.Itoa(i) + "."
			s.Ask(p.Run > 0, Drive, f+"run", "cable run to position "+p.ID)
			s.Ask(p.Cord > 0, Drive, f+"cord", "way of the cord from position "+p.ID)
		}
	} else {
		s.plan(plan)
	}
	for i, p := range survey.Places {
		f := "survey.places." + strconv.Itoa(i) + "."
		if len(plan.Positions) > 0 {
			s.Ask(p.Position != "", Drive, f+"position", "position chosen for point "+p.Point)
		}
		if len(plan.Positions) != 1 {
			s.Ask(p.Why != "", Call, f+"why", "why there, point "+p.Point)
		}
		s.Ask(p.Outdoors != "", Call, f+"outdoors", "outdoors or in, point "+p.Point)
		s.Ask(p.HolderHeight > 0, Drive, f+"holderHeight", "height of the holder, point "+p.Point)
	}
}

// measured reports whether the positions are known by their lengths, and nothing is drawn.
func measured(plan *job.SitePlan) bool {
	drawn := func(p job.Position) bool { return p.At != nil }
	return len(plan.Positions) > 0 && len(plan.Bays)+len(plan.Walls) == 0 && !slices.ContainsFunc(plan.Positions, drawn)
}

// plan asks for a plan that is drawn.
func (s *Survey) plan(plan *job.SitePlan) {
	s.Ask(len(plan.Bays) > 0, Drive, "survey.sitePlan.bays", "parking bays, measured")
	s.Ask(len(plan.Walls) > 0, Drive, "survey.sitePlan.walls", "walls, measured")
	s.Ask(len(plan.Positions) >= 2, Drive, "survey.sitePlan.positions", "two or more candidate positions")
	for i, p := range plan.Positions {
		s.Ask(p.Run > 0 && p.Cover != "" && p.Fixing != "" && p.Drill != "" && p.Signal != "", Drive,
			"survey.sitePlan.positions."+strconv.Itoa(i), "run, cover, fixing, drilling and signal of position "+p.ID)
	}
}

func (w *Practice) route(s *Survey, survey *job.Survey) {
	s.begin(InRoute, "Route")
	for i, p := range survey.Places {
		f := "survey.places." + strconv.Itoa(i) + ".route"
		s.Ask(len(p.Route) > 0, Drive, f, "cable route of point "+p.Point)
		for k, g := range p.Route {
			at := f + "." + strconv.Itoa(k)
			what := "segment " + strconv.Itoa(k+1) + " of point " + p.Point
			s.Ask(g.Method != "" && g.Run() > 0, Drive, at+".length", "method and length of "+what)
			if w.Segment != nil {
				w.Segment(s, &g, at, what)
			}
			if g.Method == job.Buried {
				s.Ask(g.Under != "" && g.Cover > 0, Drive, at+".cover", "what lies above and how deep, "+what)
			}
			if g.Method == job.ThroughWall {
				s.Ask(g.Wall > 0, Drive, at+".wall", "thickness of the wall, "+what)
			}
		}
	}
}

func (s *Survey) photos(survey *job.Survey, required []string) {
	s.begin(InPhotos, "Photos")
	for _, kind := range required {
		cost := Drive
		if kind == "board-open" || kind == "label" {
			cost = Open
		}
		s.Ask(photographed(survey, job.PhotoKind(kind)), cost, "survey.photos", "photo of "+job.PhotoKind(kind).Said())
	}
}

func photographed(survey *job.Survey, kind job.PhotoKind) bool {
	return slices.ContainsFunc(survey.Photos, func(p job.Photo) bool { return p.Kind == kind })
}

// Photos lists the kinds of photo that are required: the rulebook's and the
// house's own.
func Photos(book, policy []string) []string {
	out := slices.Clone(book)
	for _, k := range policy {
		if slices.Contains(job.PhotoKinds, job.PhotoKind(k)) && !slices.Contains(out, k) {
			out = append(out, k)
		}
	}
	return out
}
