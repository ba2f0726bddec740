package jurisdiction

import (
	"strconv"

	"dogbolt/core/inspect"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/quantity"
	"dogbolt/core/visit"
)

// Term is one value of a field with the country's words for it.
type Term struct {
	Value string  `json:"value"`
	Text  string  `json:"text"`
	Volts float64 `json:"volts,omitempty" doc:"Of a supply system: at which a circuit of one phase works, V."`
}

// Asked is what the pages of a country ask and call in its own way.
type Asked struct {
	// Words are what the country calls things, by a key that the pages know: board.
	Words map[string]string
	// Fields are the labels of the fields that not every country asks, by their path
	// without places, as supply.declaredZe. A field that is not among them is not
	// asked.
	Fields map[string]string

	Methods       []Term // of installing, in the order of the list
	Families      []Term // of cables and conductors
	Terminals     []int  // temperatures that terminals are marked for, °C
	DemandMethods []Term
}

// Page is what the pages of a job take from its country.
type Page struct {
	ID            string            `json:"id"`
	Name          string            `json:"name"`
	Units         quantity.Units    `json:"units"`
	Money         Currency          `json:"money"`
	Zone          string            `json:"zone" doc:"Usual time zone."`
	Date          string            `json:"date" doc:"How a day is written, as 2 January 2006 would be: 2 Jan 2006."`
	Words         map[string]string `json:"words" doc:"What the country calls things, by a key that the pages know: board, space."`
	Fields        map[string]string `json:"fields" doc:"Labels of the fields that not every country asks, by their path without places; one that is not here is not asked."`
	Systems       []Term            `json:"systems"`
	Methods       []Term            `json:"methods"`
	Families      []Term            `json:"families"`
	Terminals     []Term            `json:"terminals"`
	DemandMethods []Term            `json:"demandMethods"`
	Services      []float64         `json:"services" doc:"Usual ratings of a service, A."`
	Included      quantity.Metre    `json:"included" doc:"Cable run that the firm's price of a new point covers, m."`
	Usual         []visit.Usual     `json:"usual" doc:"Answers that most sites have, to be confirmed all at once."`
	Inspections   []inspect.Asked   `json:"inspections" doc:"Items of the schedule of inspections."`
	Inspectors    []inspect.Visit   `json:"inspectors" doc:"Papers that are an inspection by the authority: who inspects may want something put right."`
	Certificate   string            `json:"certificate,omitempty" doc:"Title of the paper that certifies new work; left out where the country has none."`
	Package       string            `json:"package,omitempty" doc:"Title of the package of the design for who decides before the work; left out where the country has none."`
	Schedule      string            `json:"schedule" doc:"What the country calls the schedule of inspections."`
	Drop          float64           `json:"drop" doc:"Voltage drop that is allowed or advised, as a share."`
}

// Page returns what the pages take from the country.
func (j *Jurisdiction) Page() Page {
	p := Page{ID: j.ID, Name: j.Name, Units: j.Units, Money: j.Money, Zone: j.Zone, Date: j.Date, Words: j.Asked.Words, Fields: j.Asked.Fields,
		Systems: []Term{}, Methods: j.Asked.Methods, Families: j.Asked.Families, Terminals: []Term{}, DemandMethods: j.Asked.DemandMethods,
		Services: j.Night.Services, Drop: j.Sizing.Drop, Usual: j.Survey.Usual, Included: loadmgmt.Included,
		Inspections: j.Inspect.Asked(), Inspectors: append([]inspect.Visit{}, j.Inspect.By...), Schedule: j.Inspect.Title,
		Certificate: j.Certificate.Title, Package: j.Package.Title}
	for _, s := range j.Systems {
		p.Systems = append(p.Systems, Term{Value: string(s.ID), Text: s.Name, Volts: float64(s.Circuit)})
	}
	for _, t := range j.Asked.Terminals {
		p.Terminals = append(p.Terminals, Term{Value: strconv.Itoa(t), Text: strconv.Itoa(t) + " °C"})
	}
	return p
}
