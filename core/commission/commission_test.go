package commission_test

import (
	"math"
	"os"
	"strings"
	"testing"

	"dogbolt/core/books/uk"
	"dogbolt/core/books/us"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/quantity"
)

// TestDuty checks the points that IEC 61851-1 annex A and SAE J1772 give (from
// memory), both ways.
func TestDuty(t *testing.T) {
	for _, c := range []struct{ amps, duty float64 }{
		{6, 10}, {10, 16.67}, {16, 26.67}, {24, 40}, {30, 50}, {32, 53.33}, {40, 66.67}, {48, 80}, {51, 85}, {65, 90}, {80, 96},
	} {
		if got := commission.Duty(quantity.Ampere(c.amps)); math.Abs(got-c.duty) > 0.005 {
			t.Errorf("%g A: %.2f %%, published %.2f", c.amps, got, c.duty)
		}
		if got := commission.Offered(c.duty); math.Abs(float64(got)-c.amps) > 0.01 {
			t.Errorf("%.2f %%: %.2f A, published %g", c.duty, float64(got), c.amps)
		}
	}
}

// TestOffered checks the ranges of the duty cycle and their ends.
func TestOffered(t *testing.T) {
	for duty, want := range map[float64]float64{
		0: 0, 2: 0, 5: 0, 7.5: 0, 8: 6, 9.9: 6, 10: 6, 85: 51, 85.1: 52.75, 96: 80, 96.5: 80, 97: 80, 97.1: 0, 100: 0,
	} {
		if got := commission.Offered(duty); math.Abs(float64(got)-want) > 1e-9 {
			t.Errorf("%g %%: %g A, want %g", duty, float64(got), want)
		}
	}
	for amps, want := range map[quantity.Ampere]float64{51: 51, 51.5: 51, 52.5: 51, 52.6: 52.6, 60: 60} {
		if got := float64(commission.Offered(commission.Duty(amps))); math.Abs(got-want) > 1e-9 || got > float64(amps) {
			t.Errorf("%g A is offered as %g A", float64(amps), got)
		}
	}
	for _, amps := range []quantity.Ampere{0, 5.9, 80.1, 100} {
		if d := commission.Duty(amps); d != 0 {
			t.Errorf("%g A is offered by %g %%", float64(amps), d)
		}
	}
}

func ids(tests []commission.Test) string {
	s := ""
	for _, t := range tests {
		s += t.ID + " "
	}
	return s
}

func has(tests []commission.Test, id string) bool {
	for _, t := range tests {
		if t.ID == id {
			return true
		}
	}
	return false
}

// TestSequence: dead before live, and only the tests that the circuit needs.
func TestSequence(t *testing.T) {
	order := map[commission.Group]int{commission.Dead: 0, commission.Live: 1, commission.Charger: 2}
	for _, in := range jurisdiction.All() {
		s := in.ID
		last := 0
		for _, test := range in.Tests.Sequence(job.Circuit{Connection: "receptacle"}) {
			if order[test.Group] < last {
				t.Errorf("%s: %s, %s, comes after a later group", s, test.ID, test.Group)
			}
			last = order[test.Group]
			if found, ok := in.Tests.Find(test.ID); !ok || found.Title == "" || found.Unit == "" && found.Choice == nil && !found.Words {
				t.Errorf("%s: test %+v", s, test)
			}
		}
	}
	if has(us.Practice.Tests.Sequence(job.Circuit{Connection: "hard-wired"}), commission.GFCITrip) {
		t.Error("a hard-wired charger has no receptacle to trip")
	}
	if !has(us.Practice.Tests.Sequence(job.Circuit{Connection: "receptacle"}), commission.GFCITrip) {
		t.Error("a receptacle's ground-fault device is not tested")
	}
	typeB := job.Circuit{RCD: job.RCD{Type: "B"}}
	if has(uk.Practice.Tests.Sequence(typeB), commission.DCTrip) {
		t.Error("type B without detection in the charger has a 6 mA test")
	}
	typeB.Charger.DCDetection = job.Yes
	if !has(uk.Practice.Tests.Sequence(typeB), commission.DCTrip) {
		t.Errorf("detection is fitted and not tested: %s", ids(uk.Practice.Tests.Sequence(typeB)))
	}
	if _, ok := jurisdiction.FindTest("no such test"); ok {
		t.Error("there is a test of any name")
	}
}

func TestDeadTested(t *testing.T) {
	c := job.Circuit{Point: "A"}
	j := &job.Job{}
	if uk.Practice.Tests.DeadTested(j, c) {
		t.Error("nothing was read")
	}
	for i, id := range []string{commission.Bonding, commission.R1R2, commission.Insulation, commission.InsulationLive, commission.PolarityDead, commission.PolarityOrigin, commission.Ze, commission.FaultCurrent} {
		if uk.Practice.Tests.DeadTested(j, c) {
			t.Errorf("tested after %d of 8", i)
		}
		j.Log = append(j.Log, job.Entry{ID: id, Kind: job.ReadingMade, Point: "A", Subject: id, Value: "1"})
	}
	if !uk.Practice.Tests.DeadTested(j, c) {
		t.Error("all of them were read")
	}
}

// TestFormatDoc: every test is in the published format, with its words or unit.
func TestFormatDoc(t *testing.T) {
	b, err := os.ReadFile("../../docs/formats/readings.md")
	if err != nil {
		t.Fatal(err)
	}
	for _, in := range jurisdiction.All() {
		for _, x := range in.Tests.Tests {
			_, line, _ := strings.Cut(string(b), "| `"+x.ID+"` | ")
			line, _, _ = strings.Cut(line, "\n")
			if want := append(x.Choice, x.Unit)[0]; line == "" || !strings.Contains(line, want) {
				t.Errorf("docs/formats/readings.md does not say %s in %s: %q", x.ID, want, line)
			}
		}
	}
}

// TestLoopAt: the largest of the lines counts, and nothing that is only said to be more than a figure.
func TestLoopAt(t *testing.T) {
	for _, c := range []struct {
		zs, l2 string
		want   quantity.Ohm
	}{{"", "", 0}, {"0.37", "", 0.37}, {"0.37", "0.41", 0.41}, {"0.37", ">20", 0}, {"<0.02", "", 0.02}, {"what", "", 0}} {
		var j job.Job
		for test, v := range map[string]string{commission.Zs: c.zs, commission.ZsL2: c.l2} {
			if v != "" {
				j.Log = append(j.Log, job.Entry{ID: "zs-entry-" + test, Kind: job.ReadingMade, Point: "A", Subject: test, Value: v})
			}
		}
		if got := commission.LoopAt(&j, "A"); got != c.want {
			t.Errorf("%q, %q: %v Ω, want %v Ω", c.zs, c.l2, got, c.want)
		}
	}
}
