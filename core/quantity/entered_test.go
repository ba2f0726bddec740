package quantity

import "testing"

// TestEntered: a unit stands once, what was typed in another is told in the one that is asked for.
func TestEntered(t *testing.T) {
	for _, c := range []struct{ entered, unit, want string }{
		{"0.10", "Ω", "0.10 Ω"}, {">999", "MΩ", ">999 MΩ"}, {"0.74 kA", "kA", "0.74 kA"}, {"24", "ms", "24 ms"},
		{"1100 A", "kA", "1.1 kA (entered as 1100 A)"}, {"1200 mΩ", "Ω", "1.2 Ω (entered as 1200 mΩ)"}, {"200k", "MΩ", "0.2 MΩ (entered as 200k)"},
		{">2 GΩ", "MΩ", ">2000 MΩ (entered as >2 GΩ)"}, {"LIM", "MΩ", "LIM"}, {"correct", "", "correct"}, {"", "V", "not recorded"}, {"3.1.0", "", "3.1.0"},
		{"200 Wh", "kWh", "200 Wh"}, {"0.2", "kWh", "0.2 kWh"}, {"0.2 kWh", "kWh", "0.2 kWh"}, {"not in 5 s", "s", "not in 5 s"}, {"0 V", "V", "0 V"},
	} {
		if got := Entered(c.entered, c.unit); got != c.want {
			t.Errorf("%q in %q: %q, want %q", c.entered, c.unit, got, c.want)
		}
	}
}
