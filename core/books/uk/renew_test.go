package uk

import (
	"slices"
	"strings"
	"testing"

	"dogbolt/core/commission"
	"dogbolt/core/demand"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/quantity"
	"dogbolt/core/route"
	"dogbolt/core/rulebook"
	"dogbolt/core/worklog"
	"dogbolt/internal/testkit/ruletest"
)

// another is a board that takes the place of the old one and meets its rules behind a fuse of 100 A: ten ways of its circuits move over.
var another = job.Beside{Fitted: job.Yes, Instead: job.Yes, Where: "under the stairs", Outdoors: job.No, Made: job.OfSteel, Ways: 14, Taken: 10, Rating: 100,
	BreakingKA: 6, Tails: 25, Length: 1.5, Earth: 16, Opens: job.OpensIsolator, Ahead: job.NoUpstream, Protected: job.Yes, Tried: job.Yes}

// anotherBut replaces the full board by one that differs in something.
func anotherBut(with func(*job.Beside), changes ...change) change {
	return func(j *job.Job) {
		free := 0
		j.Survey.Board.WaysFree, j.Survey.Board.FedFrom, j.Design.Beside = &free, job.FromService, another
		with(&j.Design.Beside)
		for _, c := range changes {
			c(j)
		}
	}
}

func asIs(*job.Beside) {}

// onItsSubMain leaves out what a board on a sub-main is not asked.
func onItsSubMain(b *job.Beside) { b.Tails, b.Length, b.Earth = 0, 0, 0 }

// renewals are the rows of a board in place of the one that was found. Clauses as the rule names them; that the main switch carries the whole
// demand and its devices break the fault current at the origin is what any board is asked (536.4.202, 434.5.1).
var renewals = []edge{
	{"another board, all of it known", anotherBut(asIs), "beside", sound, "in place of the old board, 10 ways of its circuits moved over: main switch 100 A, tails of 25 mm² and 1.5 m behind the fuse of 100 A, 16 mm² to its earth bar", "133.1"},
	{"its circuits were not tested before", anotherBut(func(b *job.Beside) { b.Tried = job.No }), "beside", watch, "10 ways", "common practice, no source"},
	{"nobody knows whether they were", anotherBut(func(b *job.Beside) { b.Tried = "" }), "beside", open, "tested before the change", "common practice, no source"},
	{"the old board on nobody knows what", anotherBut(asIs, board(func(b *job.Board) { b.FedFrom = "" })), "beside", open, "fed from the service itself", "433.2.2"},
	{"the old board on a sub-main, and tails", anotherBut(asIs, onSub(0.5, 1)), "beside", open, "what tails or their earth are for", "an entry without a use"},
	{"the old board on a sub-main that stays", anotherBut(onItsSubMain, onSub(0.5, 1)), "beside", sound, "on the sub-main that is there", "433.2.2"},
	{"what moved over, tested again", anotherBut(asIs, read(commission.Behind, "sound")), "behind", sound, "Circuits moved over, tested again: sound", "643"},
	{"what moved over, not sound", anotherBut(asIs, read(commission.Behind, "not sound")), "behind", stop, "Circuits moved over, tested again: not sound", "643"},
	{"what moved over, not tested again", anotherBut(asIs), "behind", open, "", "643"},
	{"its loop counts from there", anotherBut(onItsSubMain, onSub(0, 1)), "zs-design", open, "at the end of its sub-main", "GN3"},
	{"its feed carries what hangs on it", anotherBut(onItsSubMain, onSub(0.5, 1), board(func(b *job.Board) {
		b.Links = []job.Link{{Kind: job.FeederDevice, Rating: 30}, {Kind: job.MainSwitch, Rating: 20}}
	})), "links", stop, "30 A is the least of 2 links", "536.4.202"},
	{"a sub-main that the operator makes dead", anotherBut(func(b *job.Beside) { onItsSubMain(b); b.Opens = job.OpensOperator }, onSub(0.5, 1)), "beside", stop,
		"made dead by the operator", "462"},
	{"what is asked of a panel in America", anotherBut(func(b *job.Beside) { b.Space = job.Yes }), "beside", open, "in America", "an entry without a use"},
	{"connector blocks, and nothing beside", anotherBut(func(b *job.Beside) { b.Blocks = 100 }), "beside", open, "what the connector blocks are for", "an entry without a use"},
	{"the device ahead replaced besides", anotherBut(asIs, upstream("AC", ahead)), "beside", open, "which device ahead is replaced", "an entry without a use"},
	{"nothing known of what is ahead in it", anotherBut(func(b *job.Beside) { b.Ahead = "" }), "beside", open, "stands ahead of the points", "531.3.3"},
	{"nothing known of what is ahead in it, by the circuit's rule", anotherBut(func(b *job.Beside) { b.Ahead = "" }), "rcd-upstream", open, "", "531.3.3"},
	{"the old one was type AC, nothing ahead now", anotherBut(asIs, board(func(b *job.Board) { b.UpstreamRCDType = "AC" })), "rcd-upstream", sound, "none upstream", "531.3.3"},
	{"type AC ahead in the new one", anotherBut(func(b *job.Beside) { b.Ahead, b.AheadRating = "AC", 63 }), "rcd-upstream", stop, "type AC", "531.3.3"},
	{"type A of 50 A ahead, 56 A drawn", anotherBut(func(b *job.Beside) { b.Ahead, b.AheadRating = "A", 50 }), "links", stop, "50 A is the least", "536.4.202"},
	{"a device ahead of no rating", anotherBut(func(b *job.Beside) { b.Ahead = "A" }), "beside", open, "rated current of the residual device", "536.4.202"},
	{"a rating of no device ahead", anotherBut(func(b *job.Beside) { b.AheadRating = 63 }), "beside", open, "type of the residual device", "an entry without a use"},
	{"a circuit without its residual device", anotherBut(func(b *job.Beside) { b.Protected = job.No }), "beside", stop, "without the residual device", "411.3.3, 411.3.4"},
	{"nobody knows whether they have theirs", anotherBut(func(b *job.Beside) { b.Protected = "" }), "beside", open, "residual device that its use asks for", "411.3.3, 411.3.4"},
	{"devices that break nobody knows what", anotherBut(func(b *job.Beside) { b.BreakingKA = 0 }), "beside", open, "breaking capacity of the new board", "434.5.1"},
	{"its other devices break less than the charger's", anotherBut(func(b *job.Beside) { b.BreakingKA = 1 }, circuit(func(c *job.Circuit) { c.Breaker.BreakingKA = 10 })), "breaking", stop, "device breaks 1 kA", "434.5.1"},
	{"the charger's device breaks less than the others", anotherBut(func(b *job.Beside) { b.BreakingKA = 10 }, circuit(func(c *job.Circuit) { c.Breaker.BreakingKA = 1 })), "breaking", stop, "device breaks 1 kA", "434.5.1"},
	{"of insulating material", anotherBut(func(b *job.Beside) { b.Made = job.OfPlastic }), "beside", stop, "421.1.201", "421.1.201"},
	{"of insulating material, in a cabinet of steel", anotherBut(func(b *job.Beside) { b.Made = job.InCabinet }), "beside", sound, "", "421.1.201"},
	{"a charger's circuit that was there", anotherBut(asIs, circuit(func(c *job.Circuit) { c.Existing = job.Yes })), "beside", stop, "one of those that move over", "a row of the certificate"},
	{"a main switch of 50 A for the 56 A of the house", anotherBut(func(b *job.Beside) { b.Rating = 50 }), "links", stop, "56.0 A with charging; 50 A is the least of 1 links", "536.4.202"},
	{"the old board's links are gone with it", anotherBut(asIs, board(func(b *job.Board) { b.Links = []job.Link{{Kind: job.ResidualLink, Rating: 30}} })), "links", sound, "", "536.4.202"},
	{"14 ways, 10 moved over and 2 for the charger", anotherBut(asIs), "board", sound, "new board of 14 ways, the devices of the points take 2 and the circuits moved over 10", "132.15"},
	{"12 ways, as many as are asked for", anotherBut(func(b *job.Beside) { b.Ways = 12 }), "board", sound, "", "132.15"},
	{"11 ways, one too few", anotherBut(func(b *job.Beside) { b.Ways = 11 }), "board", stop, "11 ways", "132.15"},
	{"nobody knows how many ways move over", anotherBut(func(b *job.Beside) { b.Taken = 0 }), "board", open, "ways that the circuits moved over take", "132.15"},
	{"tails of 16 mm² behind 100 A", anotherBut(func(b *job.Beside) { b.Tails = 16 }), "beside", stop, "tails of 16 mm²", "OSG section 2"},
}

// TestRenewedWork: the tails are dead before the old board is touched, the circuits' tests are asked and their schedule named, and what
// is bought, labelled and certified is the new board.
func TestRenewedWork(t *testing.T) {
	j := ruletest.Example(t, examples+"uk-pass.json")
	j.Survey.Board.FedFrom, j.Design.Beside = job.FromService, another
	steps := map[string]worklog.Step{}
	for _, s := range Practice.Install.Plan(&j) {
		steps[s.ID] = s
	}
	for id, after := range map[string]string{worklog.CoverOff: worklog.TailsOpen, worklog.BoardOut: worklog.Barrier, worklog.BesideFixed: worklog.BoardOut,
		worklog.BesideFed: worklog.BesideFixed, worklog.BoardWork: worklog.BesideFed, worklog.DeadTests: worklog.BesideFed, worklog.Scheduled: worklog.Energise} {
		if s, ok := steps[id]; !ok || !slices.Contains(s.After, after) {
			t.Errorf("%s does not wait for %s: %+v", id, after, s)
		}
	}
	if s := steps[worklog.BoardWork]; !strings.Contains(s.Title, "at the new board") || !steps[worklog.BoardOut].Inside {
		t.Errorf("steps: %+v, %+v", s, steps[worklog.BoardOut])
	}
	if pairs := Practice.Install.PairsOf(&j); !slices.Contains(pairs, "tails L-N") {
		t.Errorf("pairs: %v", pairs)
	}
	asked := 0
	for _, x := range Practice.Tests.Sequence(j.Points()[0].Circuit) {
		if x.ID == commission.Behind {
			asked++
			if x.Title != "Circuits moved over, tested again" {
				t.Errorf("asked: %s", x.Title)
			}
		}
	}
	if asked != 1 {
		t.Errorf("what moved over is asked %d times", asked)
	}
	got := map[string]float64{}
	for _, p := range laying.TakeOff(&j, route.Default) {
		got[p.Name] = p.Quantity
	}
	for name, want := range map[string]float64{"new board of 14 ways, main switch 100 A, steel": 1, "device for a circuit moved over, with a residual device where its use asks for one": 10,
		"tail, double insulated, 25 mm²": 4, "connector block 0 A, enclosed": 0, "green-and-yellow conductor 16 mm²": 2} {
		if got[name] != want {
			t.Errorf("%s: %g, want %g in %v", name, got[name], want, got)
		}
	}
	if kind, says := extent(&j); !strings.HasPrefix(says, "consumer unit replaced, 10 ways of circuits moved over to the new one; new circuit from a new consumer unit") {
		t.Errorf("extent: %s, %s", kind, says)
	}
	ruletest.Log(&j, job.StepDone, "", worklog.Scheduled, "schedule 12, K. Osei")
	ruletest.Certified(t, Practice, &j, map[string]string{"Where": "under the stairs", "Rated current": "100 A", "Their schedule of test results": "schedule 12, K. Osei",
		"Board in place of the old one":        "under the stairs, main switch 100 A, 14 ways, 10 of them circuits moved over, devices break 6 kA, tails 25 mm², earth 16 mm²",
		"Residual device ahead of the circuit": "none", "Small board of the points": notApplicable})
	if !slices.ContainsFunc(labels(rulebook.FactsOf(Practice, &j, demand.Result{})), func(l jurisdiction.Label) bool {
		return l.Where == "circuit chart at the new board" && l.Lines[0] == "Circuits moved over"
	}) {
		t.Error("the chart has no lines of the circuits moved over")
	}
	next := j.Next(job.NewCircuit, job.Measured{})
	if b := &next.Survey.Board; b.Label != "under the stairs" || b.Ways != 14 || b.WaysFree != nil || b.Rating != 100 {
		t.Errorf("the next job's board: %+v", b)
	}
}

// TestRenewalOffered: a board without room is replaced with one press.
func TestRenewalOffered(t *testing.T) {
	j := ruletest.Example(t, "../../../docs/formats/examples/uk-pass.json")
	*j.Survey.Board.WaysFree = 0
	ruletest.Offered(t, &j, "board", "Fit a small board beside it", "Replace the board")
}

// TestRenewedOnSubMain: of a board on a sub-main the installation's main switch stays what it was, and nothing is asked of tails.
func TestRenewedOnSubMain(t *testing.T) {
	j := ruletest.Example(t, examples+"uk-pass.json")
	anotherBut(onItsSubMain, onSub(0.5, 1))(&j)
	j.Survey.Supply.MainsSwitchAt = "in the hall"
	facts := rulebook.FactsOf(Practice, &j, demand.Result{})
	ruletest.Certified(t, Practice, &j, map[string]string{"Where": "in the hall", "Rated current": quantity.Say("{} A", float64(j.Survey.Board.Rating)),
		"Board in place of the old one": "under the stairs, main switch 100 A, 14 ways, 10 of them circuits moved over, devices break 6 kA, on the sub-main that was there"})
	if _, says := extent(&j); !strings.HasPrefix(says, "board on its sub-main replaced, 10 ways") {
		t.Errorf("extent: %s", says)
	}
	if at := j.Next(job.NewCircuit, job.Measured{}).Survey.Supply.MainsSwitchAt; at != "in the hall" {
		t.Errorf("the next job's main switch is %s", at)
	}
	for _, p := range laying.TakeOff(&j, route.Default) {
		if strings.Contains(p.Name, "tail") {
			t.Errorf("bought: %s", p.Name)
		}
	}
	if s := labels(facts); !slices.ContainsFunc(s, func(l jurisdiction.Label) bool {
		return strings.Contains(strings.Join(l.Lines, " "), "its sub-main stays live")
	}) {
		t.Error("the main switch's label says that it isolates the house")
	}
}
