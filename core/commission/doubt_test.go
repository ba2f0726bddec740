package commission_test

import (
	"strings"
	"testing"

	"dogbolt/core/commission"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/quantity"
)

func readings(t *testing.T, list map[string]string) map[string]quantity.Reading {
	t.Helper()
	out := map[string]quantity.Reading{}
	for id, v := range list {
		test, ok := jurisdiction.FindTest(id)
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
	pme := commission.Expected{Supply: "TN-C-S", ZeMost: 0.35, R1R2: 0.12, Nominal: 230}
	for _, c := range []struct {
		name  string
		e     commission.Expected
		read  map[string]string
		what  string // "" for nothing to doubt
		cause string // the likeliest
	}{
		{"a plain circuit", pme, map[string]string{commission.R1R2: "0.12", commission.Ze: "0.24", commission.Zs: "0.37", commission.FaultCurrent: "0.98", commission.Insulation: ">999"}, "", ""},
		{"loop readings vary by a fifth", pme, map[string]string{commission.R1R2: "0.12", commission.Ze: "0.30", commission.Zs: "0.50"}, "", ""},
		{"Zs below Ze", pme, map[string]string{commission.Ze: "0.31", commission.Zs: "0.22"}, "Zs 0.22 Ω is below Ze 0.31 Ω", "parallel earth path"},
		{"Zs at Ze within the display", pme, map[string]string{commission.Ze: "0.31", commission.Zs: "0.30"}, "", ""},
		{"gap upwards", pme, map[string]string{commission.R1R2: "0.12", commission.Ze: "0.24", commission.Zs: "0.61"}, "0.25 Ω more than Ze + (R1 + R2)", "loose joint"},
		{"gap downwards", commission.Expected{}, map[string]string{commission.R1R2: "0.40", commission.Ze: "0.24", commission.Zs: "0.30"}, "0.34 Ω less", "parallel earth path"},
		{"Ze of TN-C-S", pme, map[string]string{commission.Ze: "0.52"}, "more than a TN-C-S", "not TN-C-S"},
		{"Ze of TN-S may be so", commission.Expected{Supply: "TN-S"}, map[string]string{commission.Ze: "0.52"}, "", ""},
		{"R1 + R2 far above the design", pme, map[string]string{commission.R1R2: "0.41"}, "more than twice", "loose joint"},
		{"R1 + R2 far below the design", commission.Expected{R1R2: 0.40}, map[string]string{commission.R1R2: "0.08"}, "less than half", "parallel earth path"},
		{"the same everywhere", commission.Expected{}, map[string]string{commission.R1R2: "0.30", commission.Ze: "0.30", commission.Zs: "0.30"}, "", ""}, // see below: two doubts
		{"insulation on the end of the range", pme, map[string]string{commission.Insulation: "999"}, "exactly 999 MΩ", ">999"},
		{"insulation beyond it", pme, map[string]string{commission.Insulation: ">999"}, "", ""},
		{"insulation of 187 MΩ", pme, map[string]string{commission.Insulation: "187"}, "", ""},
		{"current below U ÷ Ze", pme, map[string]string{commission.Ze: "0.20", commission.FaultCurrent: "0.42"}, "= 1.15 kA", "at the charger"},
		{"current far above: line to neutral", pme, map[string]string{commission.Ze: "0.30", commission.FaultCurrent: "1.9"}, "", ""},
		{"split phase", commission.Expected{}, map[string]string{commission.HotHot: "243", commission.HotGround1: "121.4", commission.HotGround2: "121.6"}, "", ""},
		{"wrong way round", commission.Expected{}, map[string]string{commission.HotHot: "121", commission.HotGround1: "243", commission.HotGround2: "243"}, "wrong way round", "exchanged"},
		{"both on one leg", commission.Expected{}, map[string]string{commission.HotHot: "0.3", commission.HotGround1: "121", commission.HotGround2: "121"}, "wrong way round", "exchanged"},
		{"a loose neutral", commission.Expected{}, map[string]string{commission.HotHot: "242", commission.HotGround1: "104", commission.HotGround2: "138"}, "the legs differ", "loose neutral"},
		{"208Y/120", commission.Expected{}, map[string]string{commission.HotHot: "208", commission.HotGround1: "120", commission.HotGround2: "120"}, "√3", "208Y/120"},
		{"does not add up", commission.Expected{}, map[string]string{commission.HotHot: "262", commission.HotGround1: "120", commission.HotGround2: "121"}, "is not 120 V + 121 V", "different times"},
	} {
		t.Run(c.name, func(t *testing.T) {
			got := commission.Doubts(readings(t, c.read), c.e)
			if c.name == "the same everywhere" {
				if len(got) != 2 || !strings.Contains(got[1].What, "alike") {
					t.Errorf("%s: %+v", c.name, got)
				}
				return
			}
			switch {
			case c.what == "" && len(got) > 0:
				t.Errorf("%s: %+v", c.name, got)
			case c.what != "" && (len(got) != 1 || !strings.Contains(got[0].What, c.what) || !strings.Contains(got[0].Causes[0], c.cause) || len(got[0].Tests) == 0):
				t.Errorf("%s: %+v, want %q because %q", c.name, got, c.what, c.cause)
			}
		})
	}
}
