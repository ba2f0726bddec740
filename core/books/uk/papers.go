package uk

import (
	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// notifyUpTo is the greatest demand, A a phase, with which a network operator in
// Great Britain is told after the work: 60 A, 13.8 kVA. Common practice of the
// operators, from memory.
const notifyUpTo = 60

// chargerUpTo is the largest charger, A a phase, that is told after the work.
// Common practice of the operators, from memory.
const chargerUpTo = 32

// operatorRoute decides whether the network operator is told after the work or asked
// before it. An unknown is "": the reason says what is missing.
func operatorRoute(d clearance.Demand) (route clearance.Route, reason string) {
	switch {
	case !d.Known || d.Cutout == 0:
		return "", "demand, cutout and charger setting are not known yet"
	case d.Sound == job.No:
		return clearance.ApplyBefore, "cutout, service cable or earthing terminal look doubtful: the operator looks at them first"
	case d.Total > d.Cutout:
		return clearance.ApplyBefore, quantity.Say("{1} A per phase is more than the {} A cutout", d.Total, d.Cutout)
	case d.Total > notifyUpTo:
		return clearance.ApplyBefore, quantity.Say("{1} A per phase is more than {} A (13.8 kVA)", d.Total, notifyUpTo)
	case d.Largest > chargerUpTo:
		return clearance.ApplyBefore, quantity.Say("a charger of {} A per phase is more than {} A", d.Largest, chargerUpTo)
	case d.Sound == job.Unasked:
		return "", quantity.Say("{1} A per phase is within {} A and the cutout, but the condition of the service is not recorded", d.Total, notifyUpTo)
	}
	return clearance.NotifyAfter, quantity.Say(
		"{1} A per phase ≤ {} A and within the {} A cutout, service sound: notify within 28 days of commissioning",
		d.Total,
		notifyUpTo,
		d.Cutout,
	)
}

// papers proposes the papers of a job in Great Britain. Waits are usual ranges:
// common practice, no source; a grant's 6 to 12 weeks by the field guide.
func papers(j *job.Job, d clearance.Demand) []clearance.Advice {
	if j.Removes() {
		return clearance.Compare(j, []clearance.Advice{
			{Paper: job.Paper{
				ID: "operator", Title: "Network operator: notice of removal", Who: "network operator", Before: job.After, Needed: job.Yes,
				Reason: "the operator counts the charger until it is told: common practice, from memory", WaitLow: 1, WaitHigh: 28,
			}},
			{Paper: clearance.Owner(j)},
		})
	}
	if j.Mends() && !j.Raises() {
		return clearance.Compare(j, []clearance.Advice{
			{Paper: job.Paper{ID: "operator", Title: "Network operator: notice or application", Who: "network operator", Before: job.After, WaitLow: 1, WaitHigh: 28,
				Reason: "not told again where charger and setting are those that the operator was told of: are they? Common practice, from memory"}},
			{Paper: clearance.Owner(j)},
		})
	}
	operator := job.Paper{
		ID:       "operator",
		Title:    "Network operator: notice or application",
		Who:      "network operator",
		Before:   job.After,
		WaitLow:  1,
		WaitHigh: 28,
	}
	route, why := routeOf(j, d)
	operator.Reason = why
	switch route {
	case clearance.ApplyBefore:
		operator.Title, operator.Needed, operator.Before = "Network operator: application", job.Yes, job.BeforeEnergising
		operator.WaitLow, operator.WaitHigh = 14, 65
	case clearance.NotifyAfter:
		operator.Title, operator.Needed = "Network operator: notice", job.Yes
	case untold:
		route, operator.Needed = "", job.No
	}
	list := []clearance.Advice{{Paper: operator, Route: route}, {Paper: clearance.Owner(j)}}
	if !j.Lays() {
		list = append(list, clearance.Advice{Paper: clearance.Grant("Grant for a charge point, where one is claimed", "grant body")})
	}
	list = append(list,
		clearance.Advice{
			Paper: job.Paper{
				ID:       "installer",
				Title:    "Registered installer: registration looked up",
				Who:      "the scheme's public register",
				Before:   job.BeforeInstalling,
				Needed:   job.Yes,
				Reason:   "self-certification and most grants ask for a registration that is valid on the day",
				WaitHigh: 1,
			},
		},
		clearance.Advice{Paper: buildingControl(j)})
	if !j.Lays() {
		list = append(list, clearance.Advice{Paper: clearance.Tariff()})
	}
	return clearance.Compare(j, list)
}

// untold is the route of a job of which the operator hears nothing: it makes no charging point, or not on the network.
const untold clearance.Route = "untold"

// routeOf is operatorRoute for a job: a source apart is none of the operator's, and of a sub-main whose demand is within a sound service
// the operator hears by the job of each charging point on it.
func routeOf(j *job.Job, d clearance.Demand) (clearance.Route, string) {
	if j.Survey.Supply.Own() {
		return untold, "the source was never joined to the operator's network"
	}
	if j.Lays() && d.Known && d.Cutout > 0 && d.Total <= d.Cutout && d.Sound == job.Yes {
		return untold, quantity.Say("no charging point comes with this work, and {1} A per phase is within the {} A cutout: ", d.Total, d.Cutout) +
			"the operator is told by the job of each point"
	}
	return operatorRoute(d)
}

// buildingControl is told by the scheme after the work, or by us before it where the firm is not registered: the job
// says so by its look-up, which was found not to be needed.
func buildingControl(j *job.Job) job.Paper {
	p := job.Paper{
		ID:       "building-control",
		Title:    "Building control notice (Part P, within 30 days)",
		Who:      "registered installer's scheme",
		Before:   job.After,
		Needed:   job.Yes,
		Reason:   "a new circuit in a dwelling in England: notice within 30 days",
		WaitHigh: 30,
	}
	if !j.Makes() {
		p.Needed, p.Reason = job.No, "no new circuit: a replacement is not notifiable, Building Regulations 2010 schedule 4"
		return p
	}
	if j.Design.Beside.Renews() { // reg. 12(6A)(b), from memory
		p.Reason = "a new circuit and another consumer unit in a dwelling in England: notice within 30 days"
	}
	for _, have := range j.Clearances.Papers {
		if have.ID == "installer" && have.Needed == job.No {
			p.Title, p.Who, p.Before = "Building control: notice before the work (Part P)", "the authority's building control", job.BeforeInstalling
			p.Reason = "no registered installer: building control is told before the work, Building Regulations 2010 reg. 12(6)"
			p.WaitLow, p.WaitHigh = 2, 35 // two clear days for a notice, reg. 16(1); five weeks for plans, Building Act 1984 s. 16(12); from memory
		}
	}
	return p
}

// after are the days for papers that come after the work in Great Britain.
var after = []clearance.Statutory{
	{
		Paper: "operator", Days: 28, From: clearance.FromSwitchingOn,
		Late:   "tell the operator all the same; it may ask for the demand to be shown, or for the point to stay off until it has been told",
		Source: "form to the operator within 28 days of commissioning: common practice of the operators, from memory",
	},
	{
		Paper: "building-control", Days: 30, From: clearance.FromCompletion,
		Late:   "give the notice all the same; the building control body may then ask for the work to be shown and charge for it",
		Source: "Building Regulations 2010 (England), regulation 20: notice within 30 days of completion; what follows when late, from memory",
	},
}

// button is the test button of a residual device: six-monthly by the notice of 514.12.2 (BS 7671:2018,
// from memory).
func button(c *job.Circuit) string {
	if c.RCD.Fitted != job.Yes {
		return ""
	}
	return "Press the button marked T of this circuit's residual device at the board every six months: it must switch off. " +
		"Unplug first, switch it on again after. Does it not switch off, call us."
}
