// Package visit says how complete a survey is, section by section, and what is
// still open before the surveyor leaves the site, most costly to come back for
// first.
package visit

import (
	"cmp"
	"slices"
	"strconv"

	"dogbolt/core/job"
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
	Section string `json:"section"`
	Field   string `json:"field" doc:"Where it is entered."`
	What    string `json:"what"`
	Cost    Cost   `json:"cost" doc:"1 a telephone call, 2 another visit, 3 another visit with the board open."`
	Takes   string `json:"takes" doc:"The cost in words."`
}

// Section is one part of the survey and how far it has come.
type Section struct {
	ID    string `json:"id" enum:"supply,board,loads,vehicles,positions,route,connectivity,consents,photos"`
	Title string `json:"title"`
	Done  int    `json:"done"`
	Total int    `json:"total"`
}

// Visit is a survey's completeness.
type Visit struct {
	Sections []Section `json:"sections"`
	Leave    []Lack    `json:"leave" doc:"What is open, most costly to come back for first."`
}

// photoWords name the kinds of photo.
var photoWords = map[string]string{"label": "the board's label", "board-open": "the board, open", "board-closed": "the board, closed",
	"meter": "the meter and the cutout or service", "position": "the position", "route": "the route", "parking": "the parking", "other": "something else"}

// survey gathers what is asked.
type survey struct {
	sections []Section
	items    []Lack
}

func (s *survey) begin(id, title string) {
	s.sections = append(s.sections, Section{ID: id, Title: title})
}

// ask counts one question of the current section.
func (s *survey) ask(answered bool, cost Cost, field, what string) {
	c := &s.sections[len(s.sections)-1]
	c.Total++
	if answered {
		c.Done++
		return
	}
	s.items = append(s.items, Lack{c.ID, field, what, cost, words[cost]})
}

// Of judges a survey by what its country asks. photos lists the kinds of photo
// that the rulebook and the house ask for.
func Of(sheet *job.SurveySheet, us bool, photos []string) Visit {
	var s survey
	s.supply(sheet, us)
	s.board(sheet, us)
	s.loads(sheet, us)
	s.vehicles(sheet)
	s.positions(sheet)
	s.route(sheet, us)
	s.begin("connectivity", "Connectivity")
	n := sheet.Network
	s.ask(n.Kind != "", Drive, "survey.network.kind", "how the charger joins a network")
	if n.Kind != "none" {
		s.ask(n.Signal != "" || n.Kind == "wired", Drive, "survey.network.signal", "signal tried at the position")
		s.ask(n.Password != "", Call, "survey.network.passwordWith", "who holds the password")
	}
	s.ask(n.Without != "", Call, "survey.network.setUpWithout", "whether set-up can be done without network")
	s.begin("consents", "Refusals and consents")
	s.ask(sheet.Consent.Asked == job.Yes, Call, "survey.consent.asked", "what the customer will not have")
	s.ask(sheet.Consent.Landlord != "", Call, "survey.consent.landlord", "whether a landlord must agree")
	s.ask(sheet.Consent.OwnBay != "", Call, "survey.consent.ownBay", "whether the bay is the customer's own")
	s.photos(sheet, photos)
	slices.SortStableFunc(s.items, func(a, b Lack) int { return cmp.Compare(b.Cost, a.Cost) })
	return Visit{s.sections, append([]Lack{}, s.items...)}
}

func (s *survey) supply(sheet *job.SurveySheet, us bool) {
	p := &sheet.Supply
	s.begin("supply", "Supply")
	s.ask(p.System != "", Drive, "survey.supply.system", "earthing or supply system")
	s.ask(p.Phases != 0, Drive, "survey.supply.phases", "number of phases")
	s.ask(p.Rating > 0, Drive, "survey.supply.rating", "rating of the service itself")
	s.ask(p.RatingSeen == job.Yes, Drive, "survey.supply.ratingSeen", "rating read off the fuse or service, not the board")
	s.ask(p.Voltage != "", Open, "survey.supply.voltage", "measured voltage")
	s.ask(p.Condition != "", Drive, "survey.supply.condition", "condition of cutout, service cable and earthing terminal")
	s.ask(p.OtherSource != "", Call, "survey.supply.otherSource", "solar, battery or generator on site")
	s.ask(p.MainsSwitchAt != "", Call, "survey.supply.mainSwitchAt", "where the main switch is")
	if us {
		return
	}
	if p.System == job.TT {
		s.ask(p.ElectrodeRA > 0, Open, "survey.supply.electrodeRa", "resistance of the earth electrode")
	} else {
		s.ask(p.DeclaredZe > 0, Open, "survey.supply.declaredZe", "external loop impedance")
	}
	s.ask(p.FaultCurrent > 0, Open, "survey.supply.faultCurrent", "prospective fault current")
}

func (s *survey) board(sheet *job.SurveySheet, us bool) {
	b := &sheet.Board
	s.begin("board", "Board")
	s.ask(b.Label != "", Drive, "survey.board.label", "what the board's label says")
	s.ask(b.Rating > 0, Drive, "survey.board.rating", "rating of the board")
	s.ask(b.Ways > 0, Drive, "survey.board.ways", "ways or spaces")
	s.ask(len(b.Slots) > 0 || b.WaysFree != nil, Open, "survey.board.map", "what is fitted where, or at least how many are free")
	s.ask(b.Terminals > 0, Open, "survey.board.terminals", "temperature that the terminals are marked for")
	s.ask(b.BreakingKA > 0, Open, "survey.board.breakingKa", "breaking capacity of its devices")
	if us {
		s.ask(b.CircuitsMax > 0, Drive, "survey.board.circuitsMax", "circuits that the label allows")
		return
	}
	s.ask(b.UpstreamRCDType != "", Open, "survey.board.upstreamRcdType", "residual device upstream")
}

func (s *survey) loads(sheet *job.SurveySheet, us bool) {
	s.begin("loads", "Loads")
	s.ask(len(sheet.Loads) > 0, Call, "survey.loads", "appliances on the supply")
	for i, l := range sheet.Loads {
		s.ask(l.Power > 0 || l.Amps > 0, Call, "survey.loads."+strconv.Itoa(i)+".power", "rating of the "+named(l.Name, string(l.Kind)))
	}
	if us {
		s.ask(sheet.Dwelling.FloorArea > 0, Call, "survey.dwelling.floorArea", "floor area")
	}
}

func named(name, other string) string {
	if name != "" {
		return name
	}
	return other
}

func (s *survey) vehicles(sheet *job.SurveySheet) {
	s.begin("vehicles", "Vehicles and parking")
	s.ask(len(sheet.Vehicles) > 0, Call, "survey.vehicles", "a vehicle")
	for i, v := range sheet.Vehicles {
		f := "survey.vehicles." + strconv.Itoa(i) + "."
		name := named(v.Name, "vehicle "+strconv.Itoa(i+1))
		s.ask(v.Inlet != "", Call, f+"inlet", "inlet corner of the "+name)
		s.ask(v.Attitude != "", Drive, f+"attitude", "how the "+name+" is parked")
		s.ask(v.OnBoard > 0, Call, f+"onBoard", "on-board charger of the "+name)
		s.ask(v.Energy > 0 && v.Departure != "" && v.Arrival != "", Call, f+"energy", "energy needed by the "+name+", arrival and departure")
		if len(sheet.SitePlan.Bays) > 0 {
			s.ask(v.Bay != "", Drive, f+"bay", "bay of the "+name)
		}
	}
}

func (s *survey) positions(sheet *job.SurveySheet) {
	s.begin("positions", "Positions")
	plan := &sheet.SitePlan
	s.ask(len(plan.Bays) > 0, Drive, "survey.sitePlan.bays", "parking bays, measured")
	s.ask(len(plan.Walls) > 0, Drive, "survey.sitePlan.walls", "walls, measured")
	s.ask(len(plan.Positions) >= 2, Drive, "survey.sitePlan.positions", "two or more candidate positions")
	for i, p := range plan.Positions {
		s.ask(p.Run > 0 && p.Cover != "" && p.Fixing != "" && p.Drill != "" && p.Signal != "", Drive,
			"survey.sitePlan.positions."+strconv.Itoa(i), "run, cover, fixing, drilling and signal of position "+p.ID)
	}
	for i, p := range sheet.Places {
		f := "survey.places." + strconv.Itoa(i) + "."
		if len(plan.Positions) > 0 {
			s.ask(p.Position != "", Drive, f+"position", "position chosen for point "+p.Point)
		}
		s.ask(p.Why != "", Call, f+"why", "why there, point "+p.Point)
		s.ask(p.Outdoors != "", Call, f+"outdoors", "outdoors or in, point "+p.Point)
		s.ask(p.HolderHeight > 0, Drive, f+"holderHeight", "height of the holder, point "+p.Point)
	}
}

func (s *survey) route(sheet *job.SurveySheet, us bool) {
	s.begin("route", "Route")
	for i, p := range sheet.Places {
		f := "survey.places." + strconv.Itoa(i) + ".route"
		s.ask(len(p.Route) > 0, Drive, f, "cable route of point "+p.Point)
		for k, g := range p.Route {
			at := f + "." + strconv.Itoa(k)
			what := "segment " + strconv.Itoa(k+1) + " of point " + p.Point
			s.ask(g.Method != "" && g.Run() > 0, Drive, at+".length", "method and length of "+what)
			if us {
				s.ask(g.Wet != "", Drive, at+".wet", "wet or dry, "+what)
			}
			if g.Method == job.Buried {
				s.ask(g.Under != "" && g.Cover > 0, Drive, at+".cover", "what lies above and how deep, "+what)
			}
			if g.Method == job.ThroughWall {
				s.ask(g.Wall > 0, Drive, at+".wall", "thickness of the wall, "+what)
			}
		}
	}
}

func (s *survey) photos(sheet *job.SurveySheet, required []string) {
	s.begin("photos", "Photos")
	for _, kind := range required {
		cost := Drive
		if kind == "board-open" || kind == "label" {
			cost = Open
		}
		has := slices.ContainsFunc(sheet.Photos, func(p job.Photo) bool { return p.Kind == kind })
		s.ask(has, cost, "survey.photos", "photo of "+photoWords[kind])
	}
}

// Photos lists the kinds of photo that are required: the rulebook's and the
// house's own.
func Photos(book, house []string) []string {
	out := slices.Clone(book)
	for _, k := range house {
		if _, known := photoWords[k]; known && !slices.Contains(out, k) {
			out = append(out, k)
		}
	}
	return out
}
