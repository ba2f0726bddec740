package uk

import (
	"dogbolt/core/job"
	"dogbolt/core/protection"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/sizing"
)

// checkVehicleUse says when a larger circuit than the vehicle can take gains
// nothing today.
func checkVehicleUse(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	if c.Setting == 0 {
		return rulebook.Finding{}
	}
	var most float64
	for _, v := range s.Job.Survey.Vehicles {
		a := float64(v.OnBoard) / protection.U0
		if v.Phases == 3 {
			a /= 3
		}
		most = max(most, a)
	}
	if most == 0 {
		return rulebook.Finding{}
	}
	// On-board chargers are named by rounded kW: 7.4 kW is 32 A.
	if float64(c.Setting) > most*1.02 {
		return rulebook.Advise(
			quantity.Say("{} A set, the vehicle takes {1} A", float64(c.Setting), most),
			"more amps gain nothing today; say so, and note the future value",
		)
	}
	return rulebook.Meets(quantity.Say("{} A set, the vehicle takes {1} A", float64(c.Setting), most))
}

func checkIbIn(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	ib, in := float64(c.Setting), float64(c.Breaker.Rating)
	switch {
	case ib == 0:
		return rulebook.Missing(c.Unset())
	case in == 0:
		return rulebook.Missing("breaker rating")
	case !protection.IsListed(protection.Preferred, c.Breaker.Rating):
		return rulebook.Fails(quantity.Say("{} A is not a preferred rating of BS EN 60898 or 60947-2", in), "choose a rating that is made")
	}
	return rulebook.AtLeast(in, ib, "A", quantity.Say("Ib {} A ≤ In {} A", ib, in), "choose a larger breaker or a lower setting")
}

func checkInIz(s *rulebook.Subject) rulebook.Finding {
	m, c := metric(s), &s.Point.Circuit
	switch {
	case m.MissingCable != "":
		return rulebook.Missing(m.MissingCable)
	case m.MissingRoute != "":
		return rulebook.Missing(m.MissingRoute)
	case c.Breaker.Rating == 0:
		return rulebook.Missing("breaker rating")
	}
	if m := s.Conditions(func(g *job.Segment) int { return g.Grouped }, "loaded circuits that run together, this one included,"); m != "" {
		return rulebook.Missing(m)
	}
	in, iz := float64(c.Breaker.Rating), float64(m.Iz)
	working := quantity.Say("Iz = It {} A × Ca {2} × Cg {2}", float64(m.It), m.Ca, m.Cg)
	for _, f := range [...]struct {
		name  string
		value float64
	}{{" × Ci {2}", m.Ci}, {" × Cs {2}", m.Cs}, {" × Cc {2}", m.Cc}} {
		if f.value != 1 {
			working += quantity.Say(f.name, f.value)
		}
	}
	working += quantity.Say(" = {1} A in segment {}; In {} A", iz, float64(m.Worst+1), in)
	f := rulebook.AtLeast(iz, in, "A", working, "a larger cable, another way of running the ruling segment, or a smaller breaker and setting")
	f.Cap = rulebook.Cap{Field: "design.circuits.{p}.breaker.rating", Most: iz}
	return f
}

func checkDemand(s *rulebook.Subject) rulebook.Finding {
	service, larger := "cutout", "a larger service"
	if s.Job.Survey.Supply.Own() {
		service, larger = "source", "a larger source"
	}
	return rulebook.CheckDemand(s, service, " at 100 %", "a lower setting, load management, a priority switch, or "+larger)
}

// DropLimit is the greatest voltage drop from the origin to any point other
// than lighting, as a share: appendix 4, section 6.4.
const DropLimit = 0.05

func checkDrop(s *rulebook.Subject) rulebook.Finding {
	m, c := metric(s), &s.Point.Circuit
	switch {
	case m.MissingCable != "":
		return rulebook.Missing(m.MissingCable)
	case !s.Point.Place.Surveyed():
		return rulebook.Missing("cable route")
	case c.Setting == 0:
		return rulebook.Missing(c.Unset())
	case s.Job.Board().FedFrom == job.FromSubMain && s.Job.Board().Drop == 0:
		return rulebook.Missing("voltage drop of the board's sub-main: the limit is from the origin")
	}
	term := func(m *sizing.Metric) string {
		return quantity.Say("{2} mV/A/m × {} A × {1} m", m.Row.DropPerAmpereMetre(m.Loaded), float64(c.Setting), float64(m.Length))
	}
	if m.MissingDrop() {
		return rulebook.Missing("the family's table has no voltage drop for three loaded conductors")
	}
	sum := term(m)
	if m.Legs != nil {
		sum = term(&m.Legs[0]) + " + " + term(&m.Legs[1])
	}
	// Over 100 m the limit grows by 0.005 % per metre, at most 0.5 %.
	limit := 100*DropLimit + min(max(float64(m.Length)-100, 0)*0.005, 0.5)
	sum += quantity.Say(" = {2} V = {2} %", float64(m.Drop), 100*m.DropShare)
	before := 0.0
	if b := s.Job.Board(); b.FedFrom == job.FromSubMain {
		before = b.Drop
		sum += quantity.Say(", and {2} % of the sub-main", before)
	}
	f := rulebook.AtMost(before+100*m.DropShare, limit, "%", sum,
		"a larger conductor or a shorter route")
	if !c.EndsInBoard() || f.Verdict != rulebook.Sound {
		return f
	}
	left := limit - before - 100*m.DropShare
	f.Working += quantity.Say("; {2} % left for the circuits of its board", left)
	if lights := left - 100*(DropLimit-lightingDrop); lights <= 0 {
		f.Verdict, f.Remedy = rulebook.Watch, "lighting on that board cannot keep to 3 %: a larger conductor where it has any"
	}
	return f
}

// lightingDrop is the greatest voltage drop from the origin to a lamp, as a share: appendix 4, section 6.4.
const lightingDrop = 0.03

func checkZsDesign(s *rulebook.Subject) rulebook.Finding {
	m := metric(s)
	switch {
	case m.MissingCable != "":
		return rulebook.Missing(m.MissingCable)
	case !s.Point.Place.Surveyed():
		return rulebook.Missing("cable route")
	case m.ZsHot == 0 && s.Job.Board().FedFrom == job.FromSubMain && !byElectrode(s):
		return rulebook.Missing("loop impedance measured at the board, at the end of its sub-main")
	case m.ZsHot == 0:
		return rulebook.Missing("external loop impedance or electrode resistance")
	case s.Job.Survey.Supply.Own() && s.Point.Circuit.FaultByRCD == job.Unasked:
		return rulebook.Missing("whether the residual device gives fault protection: a source of its own does not open a breaker at once")
	case s.Job.Survey.Supply.Own() && s.Point.Circuit.FaultByRCD == job.No:
		return rulebook.Fails("a source of its own does not give the current that opens a breaker at once, whatever its loop reads",
			"fault protection by the residual device (551.4.3.3, 411.4.204)").
			Offering(rulebook.Answer{Title: "Fault protection by the residual device", Set: set{"faultByRcd": "yes"}})
	case m.ZsLimit == 0:
		return rulebook.Missing("breaker rating and type, or residual current")
	}
	sum := quantity.Say("Zs = {2} + {3} hot = {2} Ω; ", float64(m.ZsHot-m.R1R2Hot), float64(m.R1R2Hot), float64(m.ZsHot))
	return rulebook.AtMost(float64(m.ZsHot), float64(m.ZsLimit), "Ω", sum+limitText(s),
		"a larger protective conductor, a shorter route, a type B device, or fault protection by the residual device")
}

// byElectrode reports whether the loop closes through an electrode: a TT
// supply or a TT point.
func byElectrode(s *rulebook.Subject) bool {
	return s.Job.Survey.Supply.System == job.TT || s.Point.Circuit.Earthing.OpenPEN == job.PENTT
}

// limitText is the working of the loop's limit.
func limitText(s *rulebook.Subject) string {
	c := &s.Point.Circuit
	if byElectrode(s) || c.FaultByRCD == job.Yes {
		return quantity.Say("50 V ÷ {} mA = {} Ω (table 41.5)", c.RCD.TripMA, quantity.Round(float64(metric(s).ZsLimit), 0))
	}
	return quantity.Say(
		"218.5 V ÷ ({} × {} A) = {2} Ω",
		protection.InstantMultiple(string(c.Breaker.Curve)),
		float64(c.Breaker.Rating),
		float64(metric(s).ZsLimit),
	)
}

func checkEarthSize(s *rulebook.Subject) rulebook.Finding {
	m := metric(s)
	if m.MissingCable != "" {
		return rulebook.Missing(m.MissingCable)
	}
	have, table := float64(m.EarthArea), float64(m.EarthByTable)
	if have >= table {
		f := rulebook.Meets(quantity.Say("{} mm² ≥ {} mm² by table 54.7", have, quantity.Round(table, 1)))
		f.Value, f.Low, f.Unit = rulebook.Num(have), rulebook.Num(table), "mm²"
		return f
	}
	if m.EarthByFault == 0 {
		return rulebook.Missing("external loop impedance, route and breaker for the adiabatic check")
	}
	fault := float64(m.EarthByFault)
	if have < fault && s.Point.Circuit.Breaker.LetThrough == 0 {
		// A breaker lets less through than the current for 0.1 s, or its class at most: at a
		// better supply that says nothing against a cable that does at a worse one.
		return rulebook.Missing(quantity.Say("the energy that the breaker lets through at {} A, by its maker's table: ", quantity.Round(float64(m.Fault), 0)) +
			quantity.Say(
				"{} mm² < {} mm² by table 54.7, and 543.1.3 could ask as much as {2} mm²; or a larger protective conductor",
				have,
				quantity.Round(table, 1),
				fault,
			))
	}
	return rulebook.AtLeast(
		have,
		fault,
		"mm²",
		quantity.Say(
			"{} mm² < {} mm² by table 54.7; 543.1.3 with {} A earth fault asks {2} mm²",
			have,
			quantity.Round(table, 1),
			quantity.Round(float64(m.Fault), 0),
			fault,
		),
		"a cable with a larger protective conductor, or a breaker that lets less through",
	)
}

// fuseMost is the largest fuse of a service, A, behind which a consumer unit's
// conditional rating holds: a BS 88-3 or BS 1361 type II fuse of 100 A (BS EN 61439-3,
// annex ZB; from memory).
const fuseMost = 100

// conditional judges a fault current that the device alone does not break by the
// conditional rating that the board's label declares behind the service's fuse.
func conditional(s *rulebook.Subject, fault, breaks float64) (rulebook.Finding, bool) {
	b, p := s.Job.Board(), &s.Job.Survey.Supply
	if fault <= breaks || b.ConditionalKA == 0 || fault > b.ConditionalKA || p.Rating == 0 || p.Rating > fuseMost {
		return rulebook.Finding{}, false
	}
	return rulebook.Meets(
		quantity.Say("{} kA > {} kA of the device, within the {} kA that the board's label declares behind a fuse of {} A (434.5.1, BS EN 61439-3)",
			fault, breaks, b.ConditionalKA, float64(p.Rating)),
	), true
}

func checkBreaking(s *rulebook.Subject) rulebook.Finding {
	p, kA := &s.Job.Survey.Supply, s.Breaks()
	switch {
	case kA == 0:
		return rulebook.Missing("breaking capacity of the breaker")
	case p.FaultCurrent == 0:
		return rulebook.Missing("prospective fault current at the origin, declared or measured")
	}
	if f, ok := conditional(s, p.FaultCurrent, kA); ok {
		return f
	}
	return rulebook.AtMost(p.FaultCurrent, kA, "kA", quantity.Say("{} kA declared, device breaks {} kA", p.FaultCurrent, kA),
		"a device or a board of higher rating; the declared figure is a maximum at the cutout: measure at the board").Exactly()
}
