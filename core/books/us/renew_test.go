package us

import (
	"slices"
	"strings"
	"testing"

	"dogbolt/core/commission"
	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/route"
	"dogbolt/core/rulebook"
	"dogbolt/core/worklog"
	"dogbolt/internal/testkit/ruletest"
)

// another is a panel that takes the place of the old one at the service: thirty spaces of its circuits move over.
var another = job.Beside{Fitted: job.Yes, Instead: job.Yes, Where: "garage, north wall", Outdoors: job.No, Ways: 40, Taken: 30, Rating: 200, BreakingKA: 22, Terminals: 75,
	Space: job.Yes, Handle: quantity.Inches(66), Grounded: job.Yes, Surge: job.Yes, Outside: job.Yes, Opens: job.OpensIsolator}

// anotherBut replaces the full panel by one that differs in something.
func anotherBut(with func(*job.Beside), changes ...change) change {
	return func(j *job.Job) {
		j.Survey.Board.FreePair, j.Survey.Board.FedFrom, j.Design.Beside = job.No, job.FromService, another
		with(&j.Design.Beside)
		for _, c := range changes {
			c(j)
		}
	}
}

func asIs(*job.Beside) {}

// onFeeder replaces a panel on a feeder in the service's own building, with its neutral apart.
func onFeeder(with func(*job.Beside)) change {
	return anotherBut(func(b *job.Beside) { b.Surge, b.Outside = "", ""; with(b) }, panel(func(b *job.Board) {
		four := quantity.Ampere(4)
		b.FedFrom, b.OtherDemand, b.Links = job.FromSubMain, &four, []job.Link{{Kind: job.FeederDevice, Rating: 100}, {Kind: job.Busbar, Rating: 20}}
		b.Outbuilding.Apart = job.No
	}))
}

// elsewhere replaces a panel in a building of its own whose neutral was joined to the ground.
func elsewhere(with func(*job.Beside)) change {
	return both(onFeeder(with), panel(func(b *job.Board) {
		b.Outbuilding = job.Outbuilding{Apart: job.Yes, Disconnect: job.Yes, Electrode: job.Yes, Neutral: job.No}
	}))
}

// renewals are the rows of a panel in place of the old one. Clauses as the rule names them, from memory.
var renewals = []row{
	{"no panel replaced", none, "panel-new", "", ""},
	{"another panel, all of it known", anotherBut(asIs), "panel-new", sound, "30 spaces of its circuits moved over: 200 A, breakers interrupt 22 kA; main bonding jumper and electrodes connected"},
	{"opened by the utility", anotherBut(func(b *job.Beside) { b.Opens = job.OpensOperator }), "panel-new", watch, "200 A"},
	{"without surge protection", anotherBut(func(b *job.Beside) { b.Surge = job.No }), "panel-new", watch, "200 A"},
	{"nobody knows of surge protection", anotherBut(func(b *job.Beside) { b.Surge = "" }), "panel-new", open, "surge protection"},
	{"without a disconnect outdoors", anotherBut(func(b *job.Beside) { b.Outside = job.No }), "panel-new", watch, "200 A"},
	{"nobody knows of a disconnect outdoors", anotherBut(func(b *job.Beside) { b.Outside = "" }), "panel-new", open, "disconnect outdoors"},
	{"without its bonding jumper", anotherBut(func(b *job.Beside) { b.Grounded = job.No }), "panel-new", stop, "without its main bonding jumper"},
	{"nobody knows of its bonding jumper", anotherBut(func(b *job.Beside) { b.Grounded = "" }), "panel-new", open, "main bonding jumper"},
	{"terminals marked for nobody knows what", anotherBut(func(b *job.Beside) { b.Terminals = 0 }), "panel-new", open, "marked for"},
	{"outdoors, of no type", anotherBut(func(b *job.Beside) { b.Outdoors = job.Yes }), "panel-new", open, "as 3R"},
	{"outdoors, type 1", anotherBut(func(b *job.Beside) { b.Outdoors, b.Case = job.Yes, "1" }), "panel-new", stop, "type 1 outdoors"},
	{"outdoors, type 3R", anotherBut(func(b *job.Beside) { b.Outdoors, b.Case = job.Yes, "3R" }), "panel-new", sound, ""},
	{"indoors, with a type", anotherBut(func(b *job.Beside) { b.Case = "3R" }), "panel-new", open, "whether the new panel is outdoors"},
	{"a British residual device ahead", anotherBut(func(b *job.Beside) { b.Ahead = "A" }), "panel-new", open, "in Britain"},
	{"nobody knows whether it is the service's", anotherBut(asIs, panel(func(b *job.Board) { b.FedFrom = "" })), "panel-new", open, "fed from the service itself"},
	{"on a feeder", onFeeder(asIs), "panel-new", sound, "on the feeder that is there, neutral apart from the ground"},
	{"on a feeder, neutral and ground joined", onFeeder(func(b *job.Beside) { b.Grounded = job.No }), "panel-new", stop, "joined in a panel on a feeder"},
	{"on a feeder, surge protection of a service", onFeeder(func(b *job.Beside) { b.Surge = job.Yes }), "panel-new", open, "whether the old panel is the service's"},
	{"on a feeder, opened by the utility", onFeeder(func(b *job.Beside) { b.Opens = job.OpensOperator }), "panel-new", stop, "made dead by the operator or utility"},
	{"on a feeder to another building, the neutral joined in the old panel", elsewhere(asIs), "outbuilding", sound, ""},
	{"on a feeder to another building, and nobody knows of the new panel's neutral", elsewhere(func(b *job.Beside) { b.Grounded = "" }), "outbuilding", stop, "neutral"},
	{"on a feeder to another building, and the neutral put right besides", both(elsewhere(asIs), func(j *job.Job) { j.Design.Building.Neutral = job.Yes }), "outbuilding", open, "what is put right"},
	{"what moved over, tested again", anotherBut(asIs, read(commission.Behind, "sound")), "behind", sound, "Circuits moved over, tested again: sound"},
	{"what moved over, not sound", anotherBut(asIs, read(commission.Behind, "not sound")), "behind", stop, "Circuits moved over, tested again: not sound"},
	{"what moved over, not tested again", anotherBut(asIs), "behind", open, ""},
	{"on a feeder of 100 A, its old bus is gone", onFeeder(asIs), "links", sound, "100 A is the least of 2 links"},
	{"40 spaces, 30 moved over and 2 for the charger", anotherBut(asIs), "spaces", sound, "new panel of 40 spaces, the devices of the points take 2 and the circuits moved over 30"},
	{"32 spaces, as many as are asked for", anotherBut(func(b *job.Beside) { b.Ways = 32 }), "spaces", sound, ""},
	{"31 spaces, one too few", anotherBut(func(b *job.Beside) { b.Ways = 31 }), "spaces", stop, "31 spaces"},
	{"nobody knows how many spaces move over", anotherBut(func(b *job.Beside) { b.Taken = 0 }), "spaces", open, "spaces that the circuits moved over take"},
	{"circuits moved on the old panel", anotherBut(asIs, panel(func(b *job.Board) { b.Rearrangement.At = 3 })), "spaces", open, "why circuits are moved"},
	{"a panel of 100 A for the whole house", anotherBut(func(b *job.Beside) { b.Rating = 100 }), "links", stop, "100 A is the least of 1 links"},
	{"its breakers interrupt 5 kA, the charger's 10", anotherBut(func(b *job.Beside) { b.BreakingKA = 5 }, circuit(func(c *job.Circuit) { c.Breaker.BreakingKA = 10 })), "interrupting", stop, "interrupts 5 kA"},
	{"no space in front of the new panel", anotherBut(func(b *job.Beside) { b.Space = job.No }), "working-space", stop, "not clear"},
	{"space in front of the new panel is not known, the old one had it", anotherBut(func(b *job.Beside) { b.Space = "" }), "working-space", open, "space in front"},
	{"its handle at 6 ft 8 in", anotherBut(func(b *job.Beside) { b.Handle = quantity.Inches(80) }), "handle-height", stop, "80.0 in"},
	{"its handle is not known, the old one's was", anotherBut(func(b *job.Beside) { b.Handle = 0 }), "handle-height", open, "highest breaker handle"},
}

// TestRenewedWork: what feeds the panel is dead before the old one is touched, the circuits' tests are asked, and what is bought, labelled
// and shown to the inspector is the new panel.
func TestRenewedWork(t *testing.T) {
	j := ruletest.Example(t, "../../../docs/formats/examples/us-pass.json")
	anotherBut(asIs)(&j)
	steps := map[string]worklog.Step{}
	for _, s := range work.Plan(&j) {
		steps[s.ID] = s
	}
	for id, after := range map[string]string{worklog.CoverOff: worklog.TailsOpen, worklog.BoardOut: worklog.Barrier, worklog.BesideFed: worklog.BesideFixed, worklog.BoardWork: worklog.BesideFed} {
		if s, ok := steps[id]; !ok || !slices.Contains(s.After, after) {
			t.Errorf("%s does not wait for %s: %+v", id, after, s)
		}
	}
	for id, says := range map[string]string{worklog.TailsOpen: "Service conductors opened, locked", worklog.BoardOut: "Old panel out", worklog.BesideFed: "Circuits moved over, service conductors connected",
		worklog.BoardWork: "at the new panel"} {
		if s := steps[id]; !strings.Contains(s.Title, says) {
			t.Errorf("%s: %q", id, s.Title)
		}
	}
	if _, asked := steps[worklog.Scheduled]; asked {
		t.Error("a schedule of test results is British")
	}
	if pairs := work.PairsOf(&j); !slices.Contains(pairs, "supply L1-L2") || len(pairs) != 12 {
		t.Errorf("pairs: %v", pairs)
	}
	asked := 0
	for _, x := range sequence.Sequence(j.Points()[0].Circuit) {
		if x.ID == commission.Behind && x.Title == "Circuits moved over, tested again" {
			asked++
		}
	}
	if asked != 1 {
		t.Errorf("what moved over is asked %d times", asked)
	}
	got := map[string]float64{}
	for _, p := range laying.TakeOff(&j, route.Default) {
		got[p.Name] = p.Quantity
	}
	if got["new board of 40 ways, main switch 200 A"] != 1 || got["device for a circuit moved over"] != 30 || got["tail, double insulated, 0 mm²"] > 0 {
		t.Errorf("parts: %v", got)
	}
	ruletest.Read(commission.Behind, "sound")(&j)
	facts := rulebook.FactsOf(Practice, &j, demand.Result{})
	ruletest.Certified(t, Practice, &j, map[string]string{"Panel": "garage, north wall", "Panel rating": "200 A", "Devices interrupt": "22 kA",
		"In place of the old panel": "40 spaces, 30 of them circuits moved over, tested again: sound"})
	where := map[string]bool{}
	for _, l := range labels(facts) {
		where[l.Where] = true
	}
	if !where["main of the new panel"] || !where["disconnect outdoors"] {
		t.Errorf("labels: %v", where)
	}
}

// TestRenewalOffered: a board without room is replaced with one press.
func TestRenewalOffered(t *testing.T) {
	j := ruletest.Example(t, "../../../docs/formats/examples/us-pass.json")
	j.Survey.Board.FreePair = job.No
	ruletest.Offered(t, &j, "spaces", "Replace the panel")
}
