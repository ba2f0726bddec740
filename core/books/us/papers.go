package us

import (
	"slices"

	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

// papers proposes the papers of a job in the United States. Waits are usual ranges:
// common practice, no source.
func papers(j *job.Job, d clearance.Demand) []clearance.Advice {
	if j.Removes() {
		return clearance.Compare(j, []clearance.Advice{
			{Paper: job.Paper{
				ID: "permit", Title: "Electrical permit, where a removal needs one", Who: "building department", Before: job.BeforeInstalling, WaitLow: 1, WaitHigh: 15,
				Reason: "some building departments ask one for what stays: ask; common practice",
			}},
			{Paper: job.Paper{
				ID: "utility", Title: "Utility: notice of removal, where it was told of the charger", Who: "utility", Before: job.After, WaitLow: 1, WaitHigh: 30,
				Reason: "a rate or a rebate may hang on the charger: common practice",
			}},
			{Paper: clearance.Owner(j)},
		})
	}
	if j.Mends() && !j.Raises() {
		return clearance.Compare(j, []clearance.Advice{
			{Paper: job.Paper{
				ID: "permit", Title: "Electrical permit, where a repair needs one", Who: "building department", Before: job.BeforeInstalling, WaitLow: 1, WaitHigh: 15,
				Reason: "many building departments ask none for a repair like for like: ask; common practice",
			}},
			{Paper: clearance.Owner(j)},
		})
	}
	reason := "a new branch circuit"
	if j.Lays() {
		reason = "a new feeder and a panel"
	}
	if !j.Makes() {
		reason = "work on a branch circuit that is there: ask whether the building department wants one; common practice"
	}
	rough := job.Paper{ID: "rough-in", Title: "Rough-in inspection", Who: "building department", Before: job.BeforeCovering, WaitLow: 1, WaitHigh: 7}
	if where := clearance.Concealed(j); where != "" {
		rough.Needed, rough.Reason = job.Yes, "wiring is covered up: "+where
	} else if clearance.Surveyed(j) {
		rough.Needed, rough.Reason = job.No, "all of the route stays in sight"
	}
	utility := job.Paper{ID: "utility", Title: "Utility notice, where asked", Who: "utility", Before: job.BeforeEnergising, WaitLow: 5, WaitHigh: 30}
	switch {
	case j.Survey.Supply.Own():
		utility.Needed, utility.Reason = job.No, "the source was never joined to the utility's network"
	case d.Known && d.Total > d.Cutout && d.Cutout > 0:
		utility.Needed, utility.Reason = job.Yes, quantity.Say("{1} A is more than the {} A service", d.Total, d.Cutout)
	case d.Known && j.Lays():
		utility.Needed, utility.Reason = job.No, quantity.Say("no charger comes with this work, and {1} A is within the {} A service", d.Total, d.Cutout)
	case d.Known:
		utility.Reason = quantity.Say("{1} A of {} A: many utilities still ask to be told of a charger", d.Total, d.Cutout)
	}
	list := []clearance.Advice{
		{
			Paper: job.Paper{
				ID:       "permit",
				Title:    "Electrical permit",
				Who:      "building department",
				Before:   job.BeforeInstalling,
				Needed:   job.Yes,
				Reason:   reason,
				WaitLow:  1,
				WaitHigh: 15,
			},
		},
		{Paper: clearance.Owner(j)},
		{Paper: rough},
		{Paper: utility},
		{
			Paper: job.Paper{
				ID:       "final",
				Title:    "Final inspection",
				Who:      "building department",
				Before:   job.After,
				Needed:   job.Yes,
				Reason:   "closes the permit",
				WaitLow:  1,
				WaitHigh: 7,
			},
		},
	}
	if !j.Lays() {
		list = slices.Insert(list, 2, clearance.Advice{Paper: clearance.Grant("Rebate, where one is claimed", "utility or state")})
		list = append(list, clearance.Advice{Paper: clearance.Tariff()})
	}
	return clearance.Compare(j, list)
}

// after are the days for papers that come after the work in the United States. The authority's own
// rules come first.
var after = []clearance.Statutory{
	{
		Paper: "final", Days: 180, From: clearance.FromSwitchingOn, Asked: true,
		Late:   "the permit may have expired: ask the building department before the inspector comes",
		Source: "IRC R105.5: a permit expires where work is suspended or abandoned for 180 days; from memory",
	},
}

// button is the test button of a receptacle's ground-fault protection: monthly by makers' instructions
// (UL 943 asks them to say so; from memory).
func button(c *job.Circuit) string {
	if c.Connection != job.PluggedIn || c.Receptacle.GFCI != job.Yes {
		return ""
	}
	return "Press TEST of the outlet's ground-fault protection every month: it must switch off; then RESET. " +
		"Stop the charging first. Does it not switch off, call us."
}
