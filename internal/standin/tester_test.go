package standin

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strconv"
	"testing"
	"time"

	_ "dogbolt/core/books" // the countries register themselves
	"dogbolt/core/books/uk"
	"dogbolt/core/books/us"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/rulebook"
	"dogbolt/internal/testkit/ruletest"
)

// practiceOf is the practice of a job's country.
func practiceOf(t *testing.T, j *job.Job) *jurisdiction.Jurisdiction {
	t.Helper()
	book, err := rulebook.For(j)
	if err != nil {
		t.Fatal(err)
	}
	return book.In
}

// tested is an example job whose readings are those of the tester on a circuit
// with a hidden fault.
func tested(t *testing.T, file string, f Fault, seed uint64) (*job.Job, Circuit) {
	t.Helper()
	example := ruletest.Example(t, "../../docs/formats/examples/"+file)
	j := &example
	in := practiceOf(t, j)
	j.Design.Circuits[0].ManagedTo = 100
	rng := rand.New(rand.NewPCG(seed, 5))
	c, err := AsBuilt(j, in, "A", f, rng)
	if err != nil {
		t.Fatal(err)
	}
	tester := NewTester(c, rng)
	j.Log = slices.DeleteFunc(j.Log, func(e job.Entry) bool { return e.Kind == job.ReadingMade && e.Point == "A" })
	p, _ := j.Point("A")
	for i, x := range in.Tests.Sequence(p.Circuit) {
		j.Log = append(j.Log, job.Entry{ID: fmt.Sprintf("standin-%03d", i), Kind: job.ReadingMade, Point: "A", Subject: x.ID, Value: tester.Read(x.ID), Unit: x.Unit, Instrument: "stand-in", At: time.Date(2026, 5, 4, 15, i, 0, 0, time.UTC)})
	}
	return j, c
}

func verdicts(t *testing.T, j *job.Job) map[string]rulebook.Finding {
	t.Helper()
	list, err := rulebook.Check(j)
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]rulebook.Finding{}
	for _, f := range list {
		if f.Stage == job.StageCommission && f.Rule != "test-order" && f.Rule != "inspected" { // the readings come after the log of the example, on a circuit that it was not inspected for
			out[f.Rule] = f
		}
	}
	return out
}

// TestSoundCircuitIsSound: without a fault nothing of the tests stops or is
// doubted, whatever the seed.
func TestSoundCircuitIsSound(t *testing.T) {
	for _, file := range []string{"uk-pass.json", "us-pass.json"} {
		for seed := range uint64(60) {
			j, _ := tested(t, file, NoFault, seed)
			for rule, f := range verdicts(t, j) {
				if f.Verdict != rulebook.Sound {
					t.Errorf("%s, seed %d: %s is %s: %s %s", file, seed, rule, f.Verdict, f.Working, f.Missing)
				}
			}
		}
	}
}

// TestPhysics: what the tester shows hangs together: Zs is Ze + R1 + R2 within
// the resolution and the noise of three readings, whatever circuit and seed.
func TestPhysics(t *testing.T) {
	for _, f := range []Fault{NoFault, LongRoute, SlowRCD, DampInsulation} {
		for seed := range uint64(100) {
			j, c := tested(t, "uk-pass.json", f, seed)
			read := map[string]float64{}
			for _, e := range j.Log {
				if v, err := strconv.ParseFloat(e.Value, 64); err == nil && e.Kind == job.ReadingMade && e.Point == "A" {
					read[e.Subject] = v
				}
			}
			sum := read[commission.Ze] + read[commission.R1R2]
			if d := math.Abs(read[commission.Zs] - sum); d > 4.5*Resolution { // three of one digit's noise, three half digits of rounding
				t.Errorf("%s, seed %d: Zs %.2f Ω, Ze + R1 + R2 %.2f Ω", f, seed, read[commission.Zs], sum)
			}
			if want := c.Voltage / c.Ze / 1000; math.Abs(read[commission.FaultCurrent]-want) > 0.006 {
				t.Errorf("%s, seed %d: %g kA, U ÷ Ze is %g kA", f, seed, read[commission.FaultCurrent], want)
			}
		}
	}
}

// TestFaultsAreFound: every hidden fault shows in the rule that a verifier would
// name, whatever the seed.
func TestFaultsAreFound(t *testing.T) {
	want := map[string]map[Fault]string{
		"uk-pass.json": {
			LooseNeutral: "voltage", Reversed: "polarity-dead", SlowRCD: "rcd-time", WrongRCD: "dc-trip", DampInsulation: "insulation", OpenPE: "r1r2", BorrowedNeutral: "insulation",
			LongRoute: "r1r2", ParallelPath: "doubtful", NoDCDetection: "dc-trip", SwappedSensor: "load-management",
		},
		"us-pass.json": {
			LooseNeutral: "doubtful", Reversed: "doubtful", SlowRCD: "gf-self-test", DampInsulation: "insulation", OpenPE: "ground-continuity", LongRoute: "ground-continuity", SwappedSensor: "load-management",
		},
	}
	for file, faults := range want {
		example := ruletest.Example(t, "../../docs/formats/examples/"+file)
		if possible := len(practiceOf(t, &example).Cases.Faults) - 1; len(faults) != possible {
			t.Errorf("%s: %d of %d faults are tried", file, len(faults), possible)
		}
		for f, rule := range faults {
			for seed := range uint64(20) {
				j, _ := tested(t, file, f, seed)
				got := verdicts(t, j)[rule]
				if got.Verdict != rulebook.Stop && got.Verdict != rulebook.Watch {
					t.Errorf("%s, %s, seed %d: %s is %s: %s", file, f, seed, rule, got.Verdict, got.Working)
				}
			}
		}
	}
}

func TestSameSeedSameReadings(t *testing.T) {
	a, _ := tested(t, "uk-pass.json", NoFault, 3)
	b, _ := tested(t, "uk-pass.json", NoFault, 3)
	c, _ := tested(t, "uk-pass.json", NoFault, 4)
	value := func(j *job.Job) string {
		s := ""
		for _, e := range j.Log {
			s += e.Value + " "
		}
		return s
	}
	if value(a) != value(b) || value(a) == value(c) {
		t.Error("the seed does not rule the readings")
	}
	if _, err := AsBuilt(a, uk.Practice, "Z", NoFault, rand.New(rand.NewPCG(1, 1))); err == nil {
		t.Error("a point that there is not")
	}
	if _, err := AsBuilt(a, us.Practice, "A", BorrowedNeutral, rand.New(rand.NewPCG(1, 1))); err == nil {
		t.Error("a fault that the country does not have")
	}
}
