package commission

import (
	"strings"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
)

func readings(t *testing.T, list map[string]string) map[string]quantity.Reading {
	t.Helper()
	out := map[string]quantity.Reading{}
	for id, v := range list {
		test, ok := Find(id)
		if !ok {
			t.Fatalf("no test %s", id)
		}
		r, err := quantity.ParseReading(v, test.Unit)
		if err != nil {
			t.Fatal(err)
		}
		out[id] = r
	}
	return out
}

func TestDoubts(t *testing.T) {
	pme := Expected{System: job.TNCS, R1R2: 0.12, Nominal: 230}
	for _, c := range []struct {
		name  string
		e     Expected
		read  map[string]string
		what  string // "" for nothing to doubt
		cause string // the likeliest
	}{
		{"a plain circuit", pme, map[string]string{R1R2: "0.12", Ze: "0.24", Zs: "0.37", FaultCurrent: "0.98", Insulation: ">999"}, "", ""},
		{"loop readings vary by a fifth", pme, map[string]string{R1R2: "0.12", Ze: "0.30", Zs: "0.50"}, "", ""},
		{"Zs below Ze", pme, map[string]string{Ze: "0.31", Zs: "0.22"}, "Zs 0.22 Ω is below Ze 0.31 Ω", "parallel earth path"},
		{"Zs at Ze within the display", pme, map[string]string{Ze: "0.31", Zs: "0.30"}, "", ""},
		{"gap upwards", pme, map[string]string{R1R2: "0.12", Ze: "0.24", Zs: "0.61"}, "0.25 Ω more than Ze + (R1 + R2)", "loose joint"},
		{"gap downwards", Expected{}, map[string]string{R1R2: "0.40", Ze: "0.24", Zs: "0.30"}, "0.34 Ω less", "parallel earth path"},
		{"Ze of TN-C-S", pme, map[string]string{Ze: "0.52"}, "more than a TN-C-S", "not TN-C-S"},
		{"Ze of TN-S may be so", Expected{System: job.TNS}, map[string]string{Ze: "0.52"}, "", ""},
		{"R1 + R2 far above the design", pme, map[string]string{R1R2: "0.41"}, "more than twice", "loose joint"},
		{"R1 + R2 far below the design", Expected{R1R2: 0.40}, map[string]string{R1R2: "0.08"}, "less than half", "parallel earth path"},
		{"the same everywhere", Expected{}, map[string]string{R1R2: "0.30", Ze: "0.30", Zs: "0.30"}, "", ""}, // see below: two doubts
		{"insulation on the end of the range", pme, map[string]string{Insulation: "999"}, "exactly 999 MΩ", ">999"},
		{"insulation beyond it", pme, map[string]string{Insulation: ">999"}, "", ""},
		{"insulation of 187 MΩ", pme, map[string]string{Insulation: "187"}, "", ""},
		{"current below U ÷ Ze", pme, map[string]string{Ze: "0.20", FaultCurrent: "0.42"}, "= 1.15 kA", "at the charger"},
		{"current far above: line to neutral", pme, map[string]string{Ze: "0.30", FaultCurrent: "1.9"}, "", ""},
		{"split phase", Expected{}, map[string]string{HotHot: "243", HotGround1: "121.4", HotGround2: "121.6"}, "", ""},
		{"wrong way round", Expected{}, map[string]string{HotHot: "121", HotGround1: "243", HotGround2: "243"}, "wrong way round", "exchanged"},
		{"both on one leg", Expected{}, map[string]string{HotHot: "0.3", HotGround1: "121", HotGround2: "121"}, "wrong way round", "exchanged"},
		{"a loose neutral", Expected{}, map[string]string{HotHot: "242", HotGround1: "104", HotGround2: "138"}, "the legs differ", "loose neutral"},
		{"208Y/120", Expected{}, map[string]string{HotHot: "208", HotGround1: "120", HotGround2: "120"}, "√3", "208Y/120"},
		{"does not add up", Expected{}, map[string]string{HotHot: "262", HotGround1: "120", HotGround2: "121"}, "is not 120 V + 121 V", "different times"},
	} {
		got := Doubts(readings(t, c.read), c.e)
		if c.name == "the same everywhere" {
			if len(got) != 2 || !strings.Contains(got[1].What, "alike") {
				t.Errorf("%s: %+v", c.name, got)
			}
			continue
		}
		switch {
		case c.what == "" && len(got) > 0:
			t.Errorf("%s: %+v", c.name, got)
		case c.what != "" && (len(got) != 1 || !strings.Contains(got[0].What, c.what) || !strings.Contains(got[0].Causes[0], c.cause) || len(got[0].Tests) == 0):
			t.Errorf("%s: %+v, want %q because %q", c.name, got, c.what, c.cause)
		}
	}
}
