package uk

import (
	"strings"

	"dogbolt/core/clearance"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/protection"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
)

func checkRCD(s *rulebook.Subject) rulebook.Finding {
	switch s.Point.Circuit.RCD.Fitted {
	case job.Yes:
		return rulebook.Meets("a device of its own")
	case job.No:
		return rulebook.Fails("no residual current device", "fit one of 30 mA for this point alone")
	}
	return rulebook.Missing("whether a residual current device is fitted")
}

func checkRCDTrip(s *rulebook.Subject) rulebook.Finding {
	r := &s.Point.Circuit.RCD
	switch {
	case r.Fitted == job.No:
		return rulebook.Finding{}
	case r.TripMA == 0:
		return rulebook.Missing("rated residual current")
	case r.Delayed == job.Yes:
		return rulebook.Fails("a delayed (S) device gives no additional protection: it may take 500 ms", "fit a general device of 30 mA")
	}
	return rulebook.AtMost(r.TripMA, 30, "mA", quantity.Say("{} mA, at most 30 mA", r.TripMA), "fit a 30 mA device").Exactly()
}

// checkRCDType: type B alone, or type A or F with 6 mA direct-current
// detection in the charger. Type AC never.
func checkRCDType(s *rulebook.Subject) rulebook.Finding {
	r, dc := &s.Point.Circuit.RCD, s.Point.Circuit.Charger.DCDetection
	switch {
	case r.Fitted == job.No:
		return rulebook.Finding{}
	case r.Type == "":
		return rulebook.Missing("type of the residual current device")
	case r.Type == "AC":
		return rulebook.Fails("type AC does not see the pulsating and direct currents of a charger", "fit type A with 6 mA detection, or type B")
	case r.Type == job.TypeB:
		return rulebook.Meets("type B sees smooth direct current by itself")
	case s.Point.Circuit.Kind() == job.OutletOnly:
		return rulebook.Fails("type "+string(r.Type)+", and no charger is known whose detection could be counted on", "fit type B")
	case dc == job.Unasked:
		return rulebook.Missing("whether the charger has 6 mA direct-current detection")
	case dc == job.No:
		return rulebook.Fails("type "+string(r.Type)+" without 6 mA detection in the charger", "fit type B, or a charger with detection to IEC 62955")
	}
	return rulebook.Meets("type " + string(r.Type) + " with 6 mA detection in the charger")
}

func checkRCDPoles(s *rulebook.Subject) rulebook.Finding {
	r := &s.Point.Circuit.RCD
	switch {
	case r.Fitted == job.No:
		return rulebook.Finding{}
	case r.AllPoles == job.Unasked:
		return rulebook.Missing("whether the device opens the neutral too")
	case r.AllPoles == job.No:
		return rulebook.Fails("the neutral is not switched", "fit a two-pole (three-phase: four-pole) device")
	}
	return rulebook.Meets("opens every live conductor")
}

func checkRCDUpstream(s *rulebook.Subject) rulebook.Finding {
	c, found, by := &s.Point.Circuit, s.Job.Board().UpstreamRCDType, s.Job.Design.Ahead.Type
	blinding := c.RCD.Type == job.TypeB && c.Charger.DCDetection != job.Yes
	up, now := found, ""
	if by != "" {
		up, now = job.Upstream(by), "type "+string(found)+" found upstream, replaced with this work: "
	}
	switch {
	case found == "":
		return rulebook.Missing("whether a residual device stands upstream, and its type")
	case found == job.NoUpstream && by != "":
		return rulebook.Missing("which device is replaced by type " + string(by) + ": the survey found none upstream")
	case found == job.NoUpstream:
		return rulebook.Meets("none upstream")
	case up == "AC":
		return rulebook.Fails(
			now+"a type AC device upstream may be blinded by up to 6 mA of direct current",
			"feed the point from ahead of it, or replace it by type A",
		).Offering(replaceAhead(s, job.TypeA), replaceAhead(s, job.TypeF))
	case (up == "A" || up == "F") && blinding:
		return rulebook.Fails(
			now+"a type "+string(up)+" device upstream of type B may be blinded: type B lets more than 10 mA of direct current pass",
			"feed the point from ahead of it, or fit type B there too",
		).Offering(replaceAhead(s, job.TypeB))
	}
	return rulebook.Meets(now + "type " + string(up) + " upstream")
}

// replaceAhead plans another type in place of the device that was found ahead, or for that of a board in place of the old one.
func replaceAhead(s *rulebook.Subject, by job.RCDType) rulebook.Answer {
	if s.Job.Design.Beside.Renews() {
		return rulebook.Answer{Title: "Have it of type " + string(by), Set: set{"/beside.ahead": string(by)}}
	}
	return rulebook.Answer{Title: "Replace it by type " + string(by), Set: set{"/ahead.type": string(by)}}
}

// checkAhead asks what is bought in place of a device ahead, and what else hangs on it.
func checkAhead(s *rulebook.Subject) rulebook.Finding {
	a := &s.Job.Design.Ahead
	switch {
	case a.Type == "":
		return rulebook.Finding{}
	case a.Rating == 0:
		return rulebook.Missing("rated current of the device that takes its place")
	case a.TripMA == 0:
		return rulebook.Missing("rated residual current of the device that takes its place")
	case a.Delayed == "":
		return rulebook.Missing("whether the device that takes its place is delayed")
	case a.Feeds == "":
		return rulebook.Missing("what else it feeds: that is tested again")
	}
	var points float64
	for _, a := range s.Job.EVLoads() {
		points += float64(a)
	}
	all := quantity.Say("; charging alone is {} A", points)
	switch {
	case float64(a.Rating) < points:
		return rulebook.Fails(quantity.Say("type "+string(a.Type)+", {} A", float64(a.Rating))+all, "a device of a rating that carries what it feeds")
	case len(s.Demand.Missing) > 0:
		return rulebook.Missing("the demand that it may carry: " + strings.Join(s.Demand.Missing, "; "))
	case a.TripMA > additionalMA:
		return rulebook.Advise(quantity.Say("{} mA: above {} mA it gives nobody behind it additional protection", a.TripMA, additionalMA),
			"30 mA where it feeds sockets, a bathroom or lights of a dwelling (411.3.3, 411.3.4, 415.1.1), or a device of their own for each")
	case a.Rating < s.Demand.Total:
		return rulebook.Advise(quantity.Say("type "+string(a.Type)+", {} A; the whole demand is {1} A", float64(a.Rating), float64(s.Demand.Total))+all,
			"see that what it feeds stays below its rating, or fit one that carries the demand")
	}
	return rulebook.Meets(quantity.Say("type "+string(a.Type)+", {} A, {} mA; ", float64(a.Rating), a.TripMA) + "tested again with it: " + a.Feeds)
}

// additionalMA is the most rated residual current of additional protection, mA (415.1.1).
const additionalMA = 30.0

// Times within which a residual device opens at its rated residual current, ms: general, and delayed (S), which also waits (BS EN
// 61008-1 table 1, from memory).
const (
	opensIn     = 300.0
	delayedMin  = 130.0
	delayedMost = 500.0
)

// checkAheadTime judges how fast the device that was fitted ahead opens.
func checkAheadTime(s *rulebook.Subject) rulebook.Finding {
	low, high := rulebook.Number{}, rulebook.Num(opensIn)
	if s.Job.Design.Ahead.Delayed == job.Yes {
		low, high = rulebook.Num(delayedMin), rulebook.Num(delayedMost)
	}
	r, f, ok := s.Reading(commission.AheadTime)
	if !ok {
		return f.Against(low, high, "ms")
	}
	meets := r.AtMost(high.V)
	if low.Set {
		meets = r.Within(low.V, high.V)
	}
	f = rulebook.Judge(meets, r, low, high, r.String()+" at its rated residual current",
		"another device, or a fault behind it: find it and test again")
	return rulebook.NotZero(r, f)
}

// checkOpenPEN: an outdoor point on a PME supply needs one of the ways of
// 722.411.4.1, or to be made TT.
func checkOpenPEN(s *rulebook.Subject) rulebook.Finding {
	sys, out := s.Job.Survey.Supply.System, s.Point.Place.Outdoors
	switch {
	case sys == "":
		return rulebook.Missing("earthing system")
	case sys == job.TNS && out != job.No:
		return rulebook.Advise(
			"TN-S supply: the rule is for PME, but many a TN-S service is fed from a network with combined conductors",
			"ask the operator whether a PEN lies upstream, or protect the point as on PME",
		)
	case sys != job.TNCS:
		return rulebook.Meets(strings.ToUpper(string(sys)) + " supply: the rule is for PME only")
	case out == job.Unasked:
		return rulebook.Missing("whether the point serves a vehicle outdoors")
	case out == job.No:
		return rulebook.Meets("indoors, no vehicle charged outside")
	}
	c := &s.Point.Circuit
	demand := float64(s.Demand.Total)
	switch e := &c.Earthing; e.OpenPEN {
	case "":
		return rulebook.Missing("way of open-PEN protection")
	case job.PENNone:
		return rulebook.Fails("outdoors on PME without open-PEN protection: a broken neutral puts mains voltage on the vehicle's body",
			"fit a device that opens live and protective conductors, or make the point TT with separation")
	case job.PENLiveOnly:
		return rulebook.Fails("the device leaves the protective conductor connected", "fit a device that opens live and protective conductors")
	case job.PENTouch:
		return rulebook.Meets("way (iii): opens live and protective conductors within 5 s above 70 V to Earth")
	case job.PENVoltage:
		if s.Job.Survey.Supply.Phases == 3 {
			return rulebook.Fails("way (iv) is for single-phase supplies", "choose way (iii) or TT")
		}
		return rulebook.Meets("way (iv): opens live and protective conductors within 5 s outside 207 V to 253 V")
	case job.PENOther:
		return rulebook.Advise("way (v): declared no less effective", "keep the maker's declaration with the record")
	case job.PENTT:
		return rulebook.Meets("the point is TT; see earth electrode and separation")
	case job.PENElectrode:
		if e.RA == 0 || demand == 0 {
			return rulebook.Missing("electrode resistance and demand for way (ii)")
		}
		limit := float64(protection.ElectrodeLimit(quantity.Ampere(demand)))
		return rulebook.AtMost(float64(e.RA), limit, "Ω",
			quantity.Say("way (ii): 70 × 230 ÷ ({1} A × (1.1 × 230 − 70)) = {2} Ω; electrode {} Ω", demand, limit, float64(e.RA)),
			"a household rod hardly ever does: choose a device or TT")
	default: // imbalance
		if s.Job.Survey.Supply.Phases != 3 {
			return rulebook.Fails("way (i) is for three-phase installations", "choose a device or TT")
		}
		if len(e.Loads) != 3 {
			return rulebook.Missing("normal load of each phase other than charging, for way (i)")
		}
		return checkImbalance(s)
	}
}

// checkImbalance is way (i): the loads of the phases with and without the charger's own
// current, on the line that is worst where it has one phase.
func checkImbalance(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	if c.Setting == 0 || c.Charger.Phases == 0 {
		return rulebook.Missing("setting and phases of the charger, for way (i)")
	}
	own := [][3]quantity.Ampere{{}, {c.Setting, 0, 0}, {0, c.Setting, 0}, {0, 0, c.Setting}}
	if c.Charger.Phases == 3 {
		own = [][3]quantity.Ampere{{}, {c.Setting, c.Setting, c.Setting}}
	}
	var worst float64
	var at [3]float64
	for _, o := range own {
		var l [3]quantity.Ampere
		for k := range l {
			l[k] = c.Earthing.Loads[k] + o[k]
		}
		if u := float64(protection.ImbalanceVoltage(l[0], l[1], l[2])); u >= worst {
			worst, at = u, [3]float64{float64(l[0]), float64(l[1]), float64(l[2])}
		}
	}
	return rulebook.AtMost(worst, 70, "V", quantity.Say("way (i): {} A, {} A, {} A, the charger counted on its line, displace the neutral by {1} V, at most 70 V",
		at[0], at[1], at[2], worst), "balance the phases, or choose a device or TT")
}

// separationDefault keeps a TT point out of arm's reach of metal on the PME
// earth, m: part 2, arm's reach; industry guidance says 2.0 m (from memory).
const separationDefault = 2.5

// raStable is the electrode resistance above which it may not be stable, Ω:
// table 41.5, note.
const raStable = 200

func armoured(f job.Family) bool { return f == job.Armoured70 || f == job.Armoured90 }

func checkTT(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	pointTT := c.Earthing.OpenPEN == job.PENTT && s.Job.Survey.Supply.System != job.TT
	ra := float64(s.Job.Survey.Supply.ElectrodeRA)
	if pointTT {
		ra = float64(c.Earthing.RA)
	} else if s.Job.Survey.Supply.System != job.TT {
		return rulebook.Finding{}
	}
	armour := false // reaches the point
	if pointTT {
		armour = armoured(s.Point.Last().Circuit.Cable.Family)
	}
	switch {
	case ra == 0:
		return rulebook.Missing("resistance of the earth electrode")
	case c.RCD.TripMA == 0:
		return rulebook.Missing("rated residual current")
	case armour && c.Earthing.ArmourApart == job.Unasked:
		return rulebook.Missing("whether the cable's armour, which is on the PME earth at the board, is insulated at the point")
	case armour && c.Earthing.ArmourApart == job.No:
		return rulebook.Fails("the cable's armour brings the PME earth to the TT point", "insulate the armour at the point's gland, or run a cable without armour")
	case pointTT && c.Earthing.Separation == 0:
		return rulebook.Missing("separation from metalwork on the PME earth")
	case pointTT && c.Earthing.Separation < separationDefault:
		f := rulebook.AtLeast(float64(c.Earthing.Separation), separationDefault, "m",
			quantity.Say("{2} m to metalwork on the PME earth, {2} m wanted", float64(c.Earthing.Separation), separationDefault),
			"move the point or the electrode so that both cannot be touched at once")
		return f
	}
	touch := ra * c.RCD.TripMA / 1000
	f := rulebook.AtMost(touch, 50, "V", quantity.Say("{} Ω × {} mA = {2} V, at most 50 V", ra, c.RCD.TripMA, touch), "lower the electrode resistance").
		Exactly()
	if f.Verdict == rulebook.Sound && ra > raStable {
		f.Verdict, f.Remedy = rulebook.Watch, "above 200 Ω an electrode may not be stable"
	}
	return f
}

// checkIP reads the two digits of an IP code: outdoors IPX4 and IP4X.
func checkIP(s *rulebook.Subject) rulebook.Finding {
	switch s.Point.Place.Outdoors {
	case job.Unasked:
		return rulebook.Missing("whether the point is outdoors")
	case job.No:
		return rulebook.Meets("indoors")
	}
	return againstWeather(s.Point.Circuit.Charger.IP, "charger")
}

// againstWeather judges the IP code of a thing outdoors: IP and two digits, the document holds no other.
func againstWeather(ip, thing string) rulebook.Finding {
	if ip == "" {
		return rulebook.Missing("IP code of the " + thing + ", such as IP54")
	}
	body, water := ip[2], ip[3]
	if body == 'X' || water == 'X' {
		return rulebook.Missing("both digits of the IP code")
	}
	if body < '4' || water < '4' {
		return rulebook.Fails(ip+" outdoors, IP44 at least", "choose a "+thing+" for outdoors, or shelter it")
	}
	return rulebook.Meets(ip + " ≥ IP44, digit by digit")
}

func checkSPD(s *rulebook.Subject) rulebook.Finding {
	c := &s.Point.Circuit
	switch {
	case c.SPD.There():
		return rulebook.Meets("surge protection " + string(c.SPD))
	case c.SPD == job.SPDDeclined:
		if c.SPDReason == "" {
			return rulebook.Missing("who declined surge protection, and why")
		}
		return rulebook.Advise("left out: "+c.SPDReason, "the owner's declaration is printed on the record")
	}
	return rulebook.Missing("fit surge protection, or record why not")
}

func checkIsolator(s *rulebook.Subject) rulebook.Finding {
	switch s.Point.Circuit.Isolator {
	case job.Yes:
		return rulebook.Meets("local isolator")
	case job.No:
		return rulebook.Advise("isolated at the board", "tell the customer where; a local isolator is the habit where the board is far")
	}
	return rulebook.Missing("local isolator, or isolated at the board")
}

// checkOperator decides notify-after or apply-before from the demand per phase,
// the cutout and the condition of the service.
func checkOperator(s *rulebook.Subject) rulebook.Finding {
	route, why := routeOf(s.Job, rulebook.OperatorDemand(s.Job, s.Demand))
	switch route {
	case "":
		return rulebook.Missing(why)
	case clearance.NotifyAfter, untold:
		return rulebook.Meets(why)
	}
	for _, p := range s.Job.Clearances.Papers {
		if e, aside := s.Job.PutAside(p.ID); p.ID == "operator" && aside && p.Granted == "" {
			return rulebook.Advise("put aside by "+e.By+": "+e.Reason, "printed on the record, with name and reason")
		}
		if p.ID == "operator" && p.Granted != "" {
			return rulebook.Meets(why + ": applied for, answered " + p.Granted)
		}
	}
	return rulebook.Missing("the operator's answer: " + why + "; apply before the work")
}
