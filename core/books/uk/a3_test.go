package uk

import (
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/rulebook"
	"dogbolt/internal/testkit/ruletest"
)

// TestA3 checks what amendment 3 of 2024 has otherwise (530.3.201, from memory), and
// that it shares the rest: no other rule says anything else of the passing example.
func TestA3(t *testing.T) {
	j := ruletest.Example(t, "../../../docs/formats/examples/uk-pass.json")
	j.Rulebook = A3.ID
	feeds := func(exports, both job.Answer) func(*job.Job) {
		return circuit(func(c *job.Circuit) { c.Charger.Exports, c.Breaker.BothWays = exports, both })
	}
	ruletest.Rows(t, j, []ruletest.Case{
		{Name: "not asked", Change: none, Rule: "both-sides", Verdict: rulebook.Open, Says: "feed back"},
		{Name: "feeds nothing back", Change: feeds(job.No, ""), Rule: "both-sides", Verdict: rulebook.Sound},
		{Name: "devices not looked at", Change: feeds(job.Yes, ""), Rule: "both-sides", Verdict: rulebook.Open, Says: "marked"},
		{Name: "devices made for one side", Change: feeds(job.Yes, job.No), Rule: "both-sides", Verdict: rulebook.Stop, Says: "not made for that"},
		{Name: "devices made for both", Change: feeds(job.Yes, job.Yes), Rule: "both-sides", Verdict: rulebook.Sound},
	})
	ruletest.Shared(t, j, A2.ID, "both-sides")
	if len(A3.Editions()) != 2 {
		t.Errorf("the edition does not say what of it is not known: %v", A3.Editions())
	}
}
