// Package jurisdiction puts together what one country's practice consists of: one
// value that the general packages, the pages and the records take what they need
// from. A country's folder under core/books fills it and registers it; nothing else
// in the program asks which country it is.
package jurisdiction

import (
	"fmt"
	"slices"

	"dogbolt/core/clearance"
	"dogbolt/core/commission"
	"dogbolt/core/demand"
	"dogbolt/core/inspect"
	"dogbolt/core/job"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/planning"
	"dogbolt/core/practice"
	"dogbolt/core/protection"
	"dogbolt/core/quantity"
	"dogbolt/core/reach"
	"dogbolt/core/route"
	"dogbolt/core/sizing"
	"dogbolt/core/supply"
	"dogbolt/core/visit"
	"dogbolt/core/worklog"
)

// Jurisdiction is what one country's practice consists of. Editions of its wiring
// rules are rulebooks, which name it.
type Jurisdiction struct {
	ID   string // "uk"
	Name string // "United Kingdom"

	Units quantity.Units
	Lang  string // of its papers, as BCP 47 has it: en-GB
	// Languages are what customers may be given their pack in, English first; none where nobody is asked.
	Languages []job.Language
	Money     Currency
	Paper     Paper
	Zone      string // usual time zone of a site, until a firm sets its own
	Date      string // layout of a day, as time.Format has it

	Systems supply.Systems
	// Demand works out the service demand of a job by the methods of the country.
	Demand func(*job.Job) demand.Result
	// ManagedShare is how much of the service's rating the limit of a load management
	// may be, 0 to 1.
	ManagedShare float64
	// SharedCircuit is what is said of one circuit for several points under a shared
	// limit, where the country allows that; "" where it does not.
	SharedCircuit string
	// SettingLimit is the most that a charger may be set to on its breaker, A, and
	// how it follows from it.
	SettingLimit func(*job.Circuit) (limit float64, how string)

	// Overload is when devices of the country open on an overload: breakers, and the service's own device.
	Overload Overload

	// Poles are the numbers of poles that a breaker of a charger of so many phases may
	// have; none where the country does not have such chargers.
	Poles func(phases int) []int

	Survey      visit.Practice
	Photos      []string     // kinds of photo that a survey has
	Reach       reach.Limits // clearances of a charger's position
	Sizing      sizing.Practice
	Laying      route.Practice
	Install     worklog.Practice
	Tests       commission.Practice
	Inspect     inspect.Schedule
	Certificate Certificate
	// Minor certifies work that makes no new circuit; without a title where Certificate does that too.
	Minor   Certificate
	Package Package
	Labels  func(*Facts) []Label // nil for none
	Papers  func(*job.Job, clearance.Demand) []clearance.Advice
	After   []clearance.Statutory // days for papers that come after the work
	Days    planning.Practice
	Night   loadmgmt.Practice
	Cases   practice.Set

	Asked Asked
	Drawn Drawn
	// Button tells a customer which test button of a circuit to press, and how often; "" where it
	// has none. nil for none in the country.
	Button func(*job.Circuit) string
	// Supply lists what a record says of a supply beside system, phases, rating and
	// voltage; nil for nothing.
	Supply func(*job.Supply) [][2]string
}

// Overload is when devices open on an overload.
type Overload struct{ Breaker, Service protection.Conventional }

// Drawn is what a one-line diagram says of the supply side.
type Drawn struct {
	Service string                   // the device that the network operator's side ends in: cutout
	Supply  func(*job.Supply) string // a surveyed supply, in a few words
}

// Currency is a country's money, and how it prices fuel and tells consumption.
type Currency struct {
	Symbol    string  `json:"symbol" doc:"£"`
	Minor     string  `json:"minor" doc:"A hundredth: p."`
	Fuel      string  `json:"fuel" doc:"How a price of fuel is written: p/litre."`
	FuelScale float64 `json:"fuelScale" doc:"One of that, in the main unit a litre."`
	Gallon    float64 `json:"gallon" doc:"Litres of the gallon of miles per gallon."`
}

// Paper is a size of paper, mm.
type Paper struct {
	Name          string
	Width, Height float64
}

// The sizes of paper (ISO 216; ANSI Y14.1).
var (
	A4     = Paper{"A4", 210, 297}
	Letter = Paper{"Letter", 215.9, 279.4}
)

var list []*Jurisdiction

// Register adds a country. It is called by its folder when that is initialised, and
// panics on an id that is taken or a set of practice cases that is broken: both are
// mistakes of the program.
func Register(j *Jurisdiction) *Jurisdiction {
	if _, ok := Find(j.ID); ok {
		panic("jurisdiction " + j.ID + " registered twice")
	}
	if err := j.Cases.Own(); err != nil {
		panic(fmt.Errorf("jurisdiction %s: %w", j.ID, err))
	}
	list = append(list, j)
	return j
}

// All lists the countries in the order of their registration.
func All() []*Jurisdiction { return list }

// Find returns the country with the id.
func Find(id string) (*Jurisdiction, bool) {
	i := slices.IndexFunc(list, func(j *Jurisdiction) bool { return j.ID == id })
	if i < 0 {
		return nil, false
	}
	return list[i], true
}

// Cases lists the practice cases of every country.
func Cases() []practice.Case {
	var out []practice.Case
	for _, j := range list {
		out = append(out, j.Cases.Cases...)
	}
	return out
}

// FindCase returns the practice case with the id, and its country.
func FindCase(id string) (practice.Case, *Jurisdiction, bool) {
	for _, j := range list {
		for _, c := range j.Cases.Cases {
			if c.ID == id {
				return c, j, true
			}
		}
	}
	return practice.Case{}, nil, false
}

// FindTest returns the test with the id of the first country that has it: for what
// belongs to no job yet, such as a mapping of an instrument's files.
func FindTest(id string) (commission.Test, bool) {
	for _, j := range list {
		if t, ok := j.Tests.Find(id); ok {
			return t, true
		}
	}
	return commission.Test{}, false
}
