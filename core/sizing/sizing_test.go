package sizing

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"dogbolt/core/conductor"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/internal/testkit/reftest"
)

func near(t *testing.T, what string, got, want, tolerance float64) {
	t.Helper()
	if math.Abs(got-want) > tolerance {
		t.Errorf("%s: %.4f, want %.4f", what, got, want)
	}
}

func celsius(c float64) *quantity.Celsius { v := quantity.Celsius(c); return &v }

// uk is a 32 A point on B40 with TN-C-S 0.35 Ω.
func uk(family job.Family, size string, route ...job.Segment) (job.Circuit, job.Place, job.Supply, job.Board) {
	c := job.Circuit{Point: "A", Setting: 32, Charger: job.Charger{Phases: 1, Terminals: 70}, Breaker: job.Breaker{Rating: 40, Curve: "B"},
		RCD: job.RCD{Fitted: job.Yes, TripMA: 30}, Cable: job.Cable{Family: family, Size: size}}
	return c, job.Place{Point: "A", Route: route}, job.Supply{System: job.TNCS, DeclaredZe: 0.35}, job.Board{Terminals: 70}
}

func metric(family job.Family, size string, route ...job.Segment) Metric {
	c, p, s, b := uk(family, size, route...)
	return ForMetric(&c, &p, &s, &b)
}

// TestCapacityAlongRoute: worked by hand from tables 4D4, 4D5 and 4B1 to 4C1.
func TestCapacityAlongRoute(t *testing.T) {
	for _, c := range []struct {
		name   string
		family job.Family
		size   string
		route  []job.Segment
		iz     float64
		worst  int
	}{
		{"clipped", job.TwinEarth, "6 mm²", []job.Segment{{Method: job.Surface, Length: 10}}, 47, 0},
		{"the worst segment rules", job.TwinEarth, "6 mm²", []job.Segment{{Method: job.Surface, Length: 10}, {Method: job.InInsulation, Length: 1}, {Method: job.Surface, Length: 3}}, 23.5, 1},
		{"hot loft", job.TwinEarth, "10 mm²", []job.Segment{{Method: job.Surface, Length: 10, Ambient: celsius(40)}}, 55.68, 0},
		{"two circuits together", job.TwinEarth, "10 mm²", []job.Segment{{Method: job.Surface, Length: 10, Grouped: 2}}, 51.2, 0},
		{"hot and together", job.TwinEarth, "10 mm²", []job.Segment{{Method: job.Surface, Length: 10, Grouped: 2, Ambient: celsius(40)}}, 44.544, 0},
		// 46 A × 0.9: 6 mm² two-core 70 °C buried carries 41.4 A; 10 mm² 54 A (433.1.203).
		{"buried 6 mm²", job.Armoured70, "6 mm²", []job.Segment{{Method: job.Buried, Length: 10}}, 41.4, 0},
		{"buried 10 mm²", job.Armoured70, "10 mm²", []job.Segment{{Method: job.Buried, Length: 10}}, 54, 0},
		// A 90 °C cable on 70 °C terminals takes the 70 °C figures (512.1.5).
		{"90 °C cable on 70 °C terminals", job.Armoured90, "6 mm²", []job.Segment{{Method: job.Surface, Length: 10}}, 49, 0},
	} {
		t.Run(c.name, func(t *testing.T) {
			m := metric(c.family, c.size, c.route...)
			if m.MissingCable != "" || m.MissingRoute != "" {
				t.Errorf("%s: missing %s%s", c.name, m.MissingCable, m.MissingRoute)
			}
			near(t, c.name, float64(m.Iz), c.iz, 0.001)
			if m.Worst != c.worst {
				t.Errorf("%s: segment %d rules, want %d", c.name, m.Worst, c.worst)
			}
		})
	}
}

func TestNinetyDegreesAtBothEnds(t *testing.T) {
	c, p, s, b := uk(job.Armoured90, "6 mm²", job.Segment{Method: job.Surface, Length: 10})
	c.Charger.Terminals, b.Terminals = 90, 90
	near(t, "both ends at 90 °C", float64(ForMetric(&c, &p, &s, &b).Iz), 62, 0)
	c.Charger.Terminals = 70
	near(t, "the charger at 70 °C", float64(ForMetric(&c, &p, &s, &b).Iz), 49, 0)
	c.Charger.Terminals, b.Terminals = 90, 70
	near(t, "one end at 70 °C", float64(ForMetric(&c, &p, &s, &b).Iz), 49, 0)
}

// TestDropAndLoop: by hand, 6 mm² multicore over 20 m at 32 A:
// 7.3 mV × 32 × 20 = 4.672 V = 2.03 %; R1+R2 = 2 × 3.08 × 20 = 0.1232 Ω cold,
// × 1.20 = 0.1478 hot; Zs = 0.4978 Ω against 218.5/200 = 1.0925.
func TestDropAndLoop(t *testing.T) {
	m := metric(job.Multicore, "6 mm²", job.Segment{Method: job.Surface, Length: 20})
	near(t, "drop", float64(m.Drop), 4.672, 1e-9)
	near(t, "share", m.DropShare, 4.672/230, 1e-9)
	near(t, "R1+R2 cold", float64(m.R1R2Cold), 0.1232, 1e-9)
	near(t, "R1+R2 hot", float64(m.R1R2Hot), 0.14784, 1e-9)
	near(t, "Zs hot", float64(m.ZsHot), 0.49784, 1e-9)
	near(t, "limit", float64(m.ZsLimit), 1.0925, 1e-9)
	near(t, "table 54.7", float64(m.EarthByTable), 6, 0)
}

func TestThreePhaseDrop(t *testing.T) {
	c, p, s, b := uk(job.Multicore, "6 mm²", job.Segment{Method: job.Surface, Length: 30})
	c.Charger.Phases = 3
	m := ForMetric(&c, &p, &s, &b)
	near(t, "6.4 mV × 32 A × 30 m", float64(m.Drop), 6.144, 1e-9)
	near(t, "of 400 V", m.DropShare, 6.144/400, 1e-9)
	near(t, "three-core, method C", float64(m.Iz), 41, 0)
}

func TestTTUsesElectrode(t *testing.T) {
	c, p, _, b := uk(job.Multicore, "6 mm²", job.Segment{Method: job.Surface, Length: 20})
	s := job.Supply{System: job.TT, ElectrodeRA: 80}
	m := ForMetric(&c, &p, &s, &b)
	near(t, "TT limit, table 41.5", float64(m.ZsLimit), 1666.667, 0.001)
	near(t, "TT loop", float64(m.ZsHot), 80.148, 0.001)
	c.RCD.TripMA = 0
	if m = ForMetric(&c, &p, &s, &b); m.ZsLimit != 0 {
		t.Errorf("no residual device, and a limit of %g", float64(m.ZsLimit))
	}
}

// TestFaultLoop: whose electrode closes the loop, and what the fault current is: Cmax
// of 1.1 × 230 V over Ze (BS 7671 appendix 14 and BS EN 60909-0, from memory), or as
// measured.
func TestFaultLoop(t *testing.T) {
	c, p, _, b := uk(job.Multicore, "6 mm²", job.Segment{Method: job.Surface, Length: 20})
	s := job.Supply{System: job.TNCS, DeclaredZe: 0.35}
	m := ForMetric(&c, &p, &s, &b)
	near(t, "fault current at the board", float64(m.Fault), 1.1*230/0.35, 0.001)
	s.EarthFault = 1.5
	m = ForMetric(&c, &p, &s, &b)
	near(t, "as measured", float64(m.Fault), 1500, 0.001)
	added := float64(m.ZsHot) - 0.35
	c.Earthing = job.PointEarthing{OpenPEN: job.PENTT, RA: 60}
	for _, s := range []job.Supply{{System: job.TNCS, DeclaredZe: 0.35}, {System: job.TT, ElectrodeRA: 80, DeclaredZe: 0.35}} {
		m = ForMetric(&c, &p, &s, &b)
		near(t, "a TT point has an electrode of its own", float64(m.ZsHot), 60+added, 0.001)
	}
	c.Earthing, c.FaultByRCD = job.PointEarthing{}, job.Yes
	s = job.Supply{System: job.TNCS, DeclaredZe: 0.35}
	if m = ForMetric(&c, &p, &s, &b); m.ZsLimit < 1000 {
		t.Errorf("fault protection by 30 mA allows 1667 Ω, not %g", float64(m.ZsLimit))
	}
}

func TestMetricMissing(t *testing.T) {
	for _, c := range []struct {
		name         string
		m            Metric
		cable, route bool
	}{
		{"no cable", metric("", "", job.Segment{Method: job.Surface, Length: 5}), true, false},
		{"no route", metric(job.TwinEarth, "6 mm²"), false, true},
		{"segment without length", metric(job.TwinEarth, "6 mm²", job.Segment{Method: job.Surface}), false, true},
		{"not tabulated", metric(job.TwinEarth, "6 mm²", job.Segment{Method: job.Buried, Length: 3}), false, true},
		{"too hot", metric(job.TwinEarth, "6 mm²", job.Segment{Method: job.Surface, Length: 3, Ambient: celsius(70)}), false, true},
		{"too many together", metric(job.TwinEarth, "6 mm²", job.Segment{Method: job.Surface, Length: 3, Grouped: 12}), false, true},
	} {
		t.Run(c.name, func(t *testing.T) {
			if (c.m.MissingCable != "") != c.cable || (c.m.MissingRoute != "") != c.route {
				t.Errorf("%s: cable %q, route %q", c.name, c.m.MissingCable, c.m.MissingRoute)
			}
			if c.m.Iz != 0 {
				t.Errorf("%s: carries %g A all the same", c.name, float64(c.m.Iz))
			}
		})
	}
}

var printed = regexp.MustCompile(`(?m)^(\w+)\s*=\s*([-+0-9.eE]+)`)

// spice runs a netlist in ngspice and returns what it measured by name.
func spice(t *testing.T, netlist string) map[string]float64 {
	t.Helper()
	out := reftest.Run(t, netlist, "ngspice", "-b", "/dev/stdin")
	values := map[string]float64{}
	for _, m := range printed.FindAllStringSubmatch(out, -1) {
		v, err := strconv.ParseFloat(m[2], 64)
		if err == nil {
			values[m[1]] = v
		}
	}
	return values
}

// TestLoopAgainstSimulator: the earth fault current through the source, the
// external loop and the circuit's own conductors, as the circuit simulator
// ngspice computes it, gives the Zs that is worked out here.
func TestLoopAgainstSimulator(t *testing.T) {
	for _, c := range []struct {
		family job.Family
		size   string
		length float64
	}{{job.TwinEarth, "6 mm²", 22}, {job.Multicore, "10 mm²", 48}, {job.Armoured90, "4 mm²", 15}} {
		m := metric(c.family, c.size, job.Segment{Method: job.Surface, Length: quantity.Metre(c.length)})
		hot := conductor.HotFactor(c.family)
		r1, _ := conductor.ResistanceAt20(m.Row.Area)
		r2, _ := conductor.ResistanceAt20(m.Row.Earth)
		v := spice(t, fmt.Sprintf(`earth fault at the charger
V1 supply 0 DC 230
RZE supply board 0.35
R1 board fault %.9g
R2 fault 0 %.9g
.control
op
let loop = 230 / abs(i(V1))
print loop
quit 0
.endc
.end
`, r1*c.length*hot, r2*c.length*hot))
		if v["loop"] == 0 {
			t.Fatal("ngspice printed no loop")
		}
		near(t, fmt.Sprintf("%s %s, %g m", c.size, c.family, c.length), float64(m.ZsHot), v["loop"], 1e-4)
	}
}

// TestDropAgainstSimulator: the voltage at a charger that draws its setting
// through out and return conductor, as ngspice computes it. The tabulated
// mV/A/m are rounded, so 4 % of the drop is allowed.
func TestDropAgainstSimulator(t *testing.T) {
	for _, c := range []struct {
		family job.Family
		size   string
		length float64
	}{{job.TwinEarth, "10 mm²", 30}, {job.Multicore, "6 mm²", 18}, {job.Armoured70, "16 mm²", 70}} {
		m := metric(c.family, c.size, job.Segment{Method: job.Surface, Length: quantity.Metre(c.length)})
		r, _ := conductor.ResistanceAt20(m.Row.Area)
		r *= c.length * conductor.HotFactor(c.family)
		v := spice(t, fmt.Sprintf(`charger at its setting
V1 line 0 DC 230
RL line a %.9g
I1 a b DC 32
RN b 0 %.9g
.control
op
let drop = 230 - (v(a) - v(b))
print drop
quit 0
.endc
.end
`, r, r))
		near(t, fmt.Sprintf("%s %s, %g m", c.size, c.family, c.length), float64(m.Drop), v["drop"], 0.04*v["drop"])
	}
}

// TestThreePhaseAgainstSimulator: a balanced load on three sources 120° apart,
// line-to-line drop, as ngspice computes it by phasors.
func TestThreePhaseAgainstSimulator(t *testing.T) {
	c, p, s, b := uk(job.Multicore, "10 mm²", job.Segment{Method: job.Surface, Length: 40})
	c.Charger.Phases = 3
	m := ForMetric(&c, &p, &s, &b)
	r, _ := conductor.ResistanceAt20(10)
	r *= 40 * conductor.HotFactor(job.Multicore)
	// Three equal resistors that draw 32 A at 230 V less the drop in one wire.
	load := 230.0/32 - r
	v := spice(t, fmt.Sprintf(`three-phase charger
V1 a 0 DC 0 AC 230 0
V2 b 0 DC 0 AC 230 -120
V3 c 0 DC 0 AC 230 120
RA a x %[1]g
RB b y %[1]g
RC c z %[1]g
RX x n %[2]g
RY y n %[2]g
RZ z n %[2]g
.control
ac lin 1 50 50
let drop3 = mag(v(a)-v(b)) - mag(v(x)-v(y))
print drop3
quit 0
.endc
.end
`, r, load))
	near(t, "three-phase drop", float64(m.Drop), v["drop3"], 0.04*v["drop3"])
}

// us is a 48 A point on a 60 A breaker.
func us(family job.Family, size, ground string, route ...job.Segment) (job.Circuit, job.Place, job.Supply, job.Board) {
	c := job.Circuit{Point: "A", Setting: 48, Charger: job.Charger{Phases: 1, Terminals: 75}, Breaker: job.Breaker{Rating: 60},
		Cable: job.Cable{Family: family, Size: size, EarthSize: ground}}
	return c, job.Place{Point: "A", Route: route}, job.Supply{System: job.Split240}, job.Board{Terminals: 75}
}

func awg(family job.Family, size, ground string, route ...job.Segment) AWG {
	c, p, _, b := us(family, size, ground, route...)
	return ForAWG(&c, &p, 240, &b)
}

// TestThreeChecks: the cases that tell the three checks of ampacity apart.
func TestThreeChecks(t *testing.T) {
	dry := job.Segment{Method: job.Conduit, Length: 10, Wet: job.No}
	hot := func(c float64, wires int) job.Segment {
		return job.Segment{Method: job.Conduit, Length: 10, Wet: job.No, Ambient: celsius(c), Wires: wires}
	}
	for _, c := range []struct {
		name       string
		a          AWG
		term, der  float64
		maxBreaker float64
	}{
		{"6 AWG THWN-2, 75 °C terminals", awg(job.ThwnEMT, "6 AWG", "10 AWG", dry), 65, 75, 70},
		{"6 AWG NM-B is held to 60 °C", awg(job.NMB, "6 AWG", "10 AWG", dry), 55, 55, 60},
		{"4 AWG NM-B", awg(job.NMB, "4 AWG", "10 AWG", dry), 70, 70, 70},
		// 75 A × 0.91 × 0.80 = 54.6 A: carries 48 A, breaker up to 60 A.
		{"derated to 54.6 A passes", awg(job.ThwnEMT, "6 AWG", "10 AWG", hot(40, 6)), 65, 54.6, 60},
		// 75 A × 0.82 × 0.80 = 49.2 A: carries 48 A, but ends at 50 A.
		{"derated to 49.2 A fails on 60 A", awg(job.ThwnEMT, "6 AWG", "10 AWG", hot(50, 6)), 65, 49.2, 50},
		// 10 AWG ends at 30 A whatever its column says, 240.4(D).
		{"10 AWG", awg(job.ThwnEMT, "10 AWG", "10 AWG", dry), 35, 40, 30},
		{"12 AWG", awg(job.ThwnEMT, "12 AWG", "12 AWG", dry), 25, 30, 20},
		{"14 AWG", awg(job.ThwnEMT, "14 AWG", "14 AWG", dry), 20, 25, 15},
	} {
		near(t, c.name+", terminals", float64(c.a.Termination), c.term, 1e-9)
		near(t, c.name+", derated", float64(c.a.Derated), c.der, 1e-9)
		near(t, c.name+", breaker", float64(c.a.MaxBreaker), c.maxBreaker, 0)
	}
}

func TestUnmarkedTerminalsCountSixty(t *testing.T) {
	c, p, _, b := us(job.ThwnEMT, "6 AWG", "10 AWG", job.Segment{Method: job.Conduit, Length: 10})
	b.Terminals = 0
	if a := ForAWG(&c, &p, 240, &b); a.Termination != 55 {
		t.Errorf("unmarked terminals: %g A, 55 wanted (110.14(C)(1)(a))", float64(a.Termination))
	}
	b.Terminals, c.Charger.Terminals = 90, 90
	if a := ForAWG(&c, &p, 240, &b); a.Termination != 65 {
		t.Errorf("90 °C terminals: %g A, at most the 75 °C column", float64(a.Termination))
	}
}

// TestNECDrop: 2 × 0.491 Ω/kft × 0.1 kft × 48 A = 4.71 V, 1.96 % of 240 V.
func TestNECDrop(t *testing.T) {
	a := awg(job.ThwnEMT, "6 AWG", "10 AWG", job.Segment{Method: job.Conduit, Length: quantity.Feet(100)})
	near(t, "drop", float64(a.Drop), 4.7136, 1e-6)
	near(t, "share", a.DropShare, 4.7136/240, 1e-9)
	near(t, "equipment ground, 1.24 Ω/kft", float64(a.GroundOhm), 0.124, 1e-9)
}

// TestGroundEnlargement: conductors enlarged for voltage drop enlarge the
// ground; conductors enlarged because of ambient and count do not (250.122(B)).
func TestGroundEnlargement(t *testing.T) {
	dry := job.Segment{Method: job.Conduit, Length: 60}
	if a := awg(job.ThwnEMT, "4 AWG", "10 AWG", dry); a.GroundLeast != 8 || a.GroundBase != 10 {
		t.Errorf("6 to 4 AWG for drop: ground %s, 8 AWG wanted", a.GroundLeast)
	}
	hot := job.Segment{Method: job.Conduit, Length: 60, Ambient: celsius(50), Wires: 6}
	if a := awg(job.ThwnEMT, "4 AWG", "10 AWG", hot); a.GroundLeast != 10 {
		t.Errorf("6 to 4 AWG for heat: ground %s, 10 AWG wanted", a.GroundLeast)
	}
}

func TestNMBInWetPlaces(t *testing.T) {
	for _, c := range []struct {
		seg  job.Segment
		want int
	}{
		{job.Segment{Method: job.Surface, Length: 3, Wet: job.No}, 0},
		{job.Segment{Method: job.Surface, Length: 3, Wet: job.Yes}, 1},
		{job.Segment{Method: job.Conduit, Length: 3, Wet: job.Yes}, 1},
		{job.Segment{Method: job.Buried, Length: 3, Wet: job.No}, 1},
	} {
		if a := awg(job.NMB, "4 AWG", "10 AWG", c.seg); a.WetNotAllowed != c.want {
			t.Errorf("%+v: %d", c.seg, a.WetNotAllowed)
		}
	}
}

func TestAWGMissing(t *testing.T) {
	if a := awg(job.TwinEarth, "6 mm²", ""); a.MissingCable == "" {
		t.Error("a metric cable is sized in AWG")
	}
	if a := awg(job.ThwnEMT, "6 AWG", "10 AWG"); a.MissingRoute == "" || a.Derated != 0 {
		t.Error("no route, and a derated ampacity")
	}
	if a := awg(job.ThwnEMT, "6 AWG", "", job.Segment{Method: job.Conduit, Length: 5}); a.MissingGround == "" {
		t.Error("no equipment ground, and nothing is missing")
	}
	c, p, _, b := us(job.ThwnEMT, "14 AWG", "14 AWG", job.Segment{Method: job.Conduit, Length: 5})
	c.Cable.Material = "aluminium"
	if a := ForAWG(&c, &p, 240, &b); a.MissingCable == "" {
		t.Error("14 AWG aluminium has an ampacity")
	}
}

func TestBreakerFor(t *testing.T) {
	for setting, want := range map[quantity.Ampere]quantity.Ampere{6: 6, 16: 16, 20: 20, 30: 32, 32: 32, 33: 40} {
		if got, _ := MetricDevices.For(setting); got != want {
			t.Errorf("%g A: %g A by BS 7671", float64(setting), float64(got))
		}
	}
	if got, _ := AWGDevices.For(48); got != 60 {
		t.Errorf("48 A: %g A by the NEC", float64(got))
	}
}

// own keeps the options with the circuit's own device.
func own(options []Option) []Option {
	return slices.DeleteFunc(options, func(o Option) bool { return !o.Own })
}

// smallest returns the label of the first option of a family that meets.
func smallest(options []Option, f job.Family) string {
	i := slices.IndexFunc(options, func(o Option) bool { return o.Cable.Family == f && len(o.Fails)+len(o.Missing) == 0 })
	if i < 0 {
		return "none"
	}
	return options[i].Cable.Size
}

// TestSolveMetric: what the tables give by hand for 32 A on B40 over 15 m.
func TestSolveMetric(t *testing.T) {
	c, p, s, b := uk("", "", job.Segment{Method: job.Surface, Length: 15})
	options := own(SolveMetric(Ask{Circuit: c, Place: &p, Supply: &s, Board: &b}))
	for f, want := range map[job.Family]string{job.TwinEarth: "6 mm²", job.Multicore: "6 mm²", job.Armoured70: "6 mm²", job.Armoured90: "6 mm²"} {
		if got := smallest(options, f); got != want {
			t.Errorf("smallest %s that meets: %s, want %s", f, got, want)
		}
	}
	// The same route with one metre in insulation: 16 mm² (42.5 A), not 6.
	p.Route = append(p.Route, job.Segment{Method: job.InInsulation, Length: 1})
	if got := smallest(own(SolveMetric(Ask{Circuit: c, Place: &p, Supply: &s, Board: &b})), job.TwinEarth); got != "16 mm²" {
		t.Errorf("one metre in insulation: %s, want 16 mm²", got)
	}
	// 120 m: 16 mm² drops 10.75 V, 4.7 %; 10 mm² drops 7.3 %.
	p.Route = []job.Segment{{Method: job.Surface, Length: 120}}
	if got := smallest(own(SolveMetric(Ask{Circuit: c, Place: &p, Supply: &s, Board: &b})), job.TwinEarth); got != "16 mm²" {
		t.Errorf("120 m: %s, want 16 mm² for the drop", got)
	}
}

func TestSolveAWG(t *testing.T) {
	// Only what the surveyed ways are made for: 334.10, 334.12 for cables, 352.10 in the ground.
	for _, x := range []struct {
		ways []job.Method
		want map[job.Family]string
	}{
		{[]job.Method{job.Conduit}, map[job.Family]string{job.NMB: "none", job.MC: "none", job.ThwnEMT: "6 AWG", job.ThwnPVC: "6 AWG"}},
		{[]job.Method{job.StudWall, job.ThroughWall}, map[job.Family]string{job.NMB: "4 AWG", job.MC: "6 AWG", job.ThwnEMT: "none", job.ThwnPVC: "none"}},
		{[]job.Method{job.StudWall, job.Conduit}, map[job.Family]string{job.NMB: "none", job.ThwnEMT: "6 AWG"}},
		{[]job.Method{job.Conduit, job.Buried}, map[job.Family]string{job.MC: "none", job.ThwnEMT: "none", job.ThwnPVC: "6 AWG"}},
	} {
		c, p, s, b := us("", "", "")
		for _, m := range x.ways {
			p.Route = append(p.Route, job.Segment{Method: m, Length: 5, Wet: job.No})
		}
		options := own(SolveAWG(Ask{Circuit: c, Place: &p, Supply: &s, Volts: 240, Board: &b}))
		for f, want := range x.want {
			if got := smallest(options, f); got != want {
				t.Errorf("%v: smallest %s that meets: %s, want %s", x.ways, f, got, want)
			}
		}
		for _, o := range options {
			if len(o.Fails) > 0 && !strings.ContainsAny(o.Fails[0], "0123456789") {
				t.Errorf("%s fails without a number: %s", o.Label, o.Fails[0])
			}
			if o.Cable.Material == job.Aluminium {
				t.Errorf("%s, which the firm does not buy", o.Label)
			}
		}
	}
}

// TestOptionsAgreeWithChecks: an option meets exactly where its bars do.
func TestOptionsAgreeWithChecks(t *testing.T) {
	for _, length := range []quantity.Metre{2, 30, 90} {
		c, p, s, b := uk("", "", job.Segment{Method: job.Surface, Length: length, Grouped: 2})
		for _, o := range own(SolveMetric(Ask{Circuit: c, Place: &p, Supply: &s, Board: &b})) {
			for _, bar := range o.Bars {
				meets := bar.Value <= bar.Limit
				if bar.Least {
					meets = bar.Value >= bar.Limit
				}
				if meets != bar.Meets {
					t.Errorf("%s: %s %g against %g", o.Label, bar.Title, bar.Value, bar.Limit)
				}
				if !bar.Meets && len(o.Fails) == 0 {
					t.Errorf("%s meets although its %s does not", o.Label, bar.Title)
				}
			}
		}
	}
}

const ukPrices = "item,size,unit,price,currency\ntwin-earth,6 mm²,m,3.10,£\ntwin-earth,10 mm²,m,5.20,£\narmoured-90,6 mm²,m,4.40,£\n" +
	"device,B40,each,38,£\ndevice,C40,each,44,£\nsingles,6 mm²,m,1.10,£\nconduit,20 mm,m,1.90,£\n"

func prices(t testing.TB, file string) *PriceList {
	t.Helper()
	l, err := ReadPrices(strings.NewReader(file))
	if err != nil {
		t.Fatal(err)
	}
	return &l
}

// TestCost is worked out by hand: 20 m cut at 3.10 and a breaker at 38.
func TestCost(t *testing.T) {
	c, p, s, b := uk("", "", job.Segment{Method: job.Surface, Length: 17})
	c.Breaker.Rating, c.Breaker.Curve = 40, "B"
	ask := Ask{Circuit: c, Place: &p, Supply: &s, Board: &b, Prices: prices(t, ukPrices), Cut: 20}
	options := own(SolveMetric(ask))
	if o := options[0]; o.Cable.Family != job.TwinEarth || o.Cable.Size != "6 mm²" || !o.Priced || o.Cost != 100 {
		t.Errorf("cheapest that meets: %+v, want 6 mm² twin and earth at 100", o)
	}
	if o := options[1]; o.Cable.Family != job.Armoured90 || o.Cost != 126 {
		t.Errorf("next: %s at %g, want armoured at 126", o.Label, o.Cost)
	}
	for i, o := range options {
		if i > 0 && len(o.Fails) == 0 && o.Priced && options[i-1].Priced && o.Cost < options[i-1].Cost {
			t.Errorf("%s at %g after %s at %g", o.Label, o.Cost, options[i-1].Label, options[i-1].Cost)
		}
		if !o.Priced && o.Unpriced == "" && len(o.Bars) > 0 {
			t.Errorf("%s has no price and names none", o.Label)
		}
	}
	// Singles in conduit: three cores of 20 m and 17 m of 20 mm conduit.
	p.Route = []job.Segment{{Method: job.Conduit, Length: 17}}
	c.Cable = job.Cable{Family: job.Singles, Size: "6 mm²"}
	if cost, missing := ask.Prices.Cost(&c, &p, 20, "B40"); missing != "" || math.Abs(cost-(38+3*20*1.10+17*1.90)) > 1e-9 {
		t.Errorf("singles: %.2f, %q missing", cost, missing)
	}
	// THWN-2 in EMT by the foot: 40 ft route, 45 ft of two hots, a ground, pipe.
	uc, up, us, ub := us("", "", "", job.Segment{Method: job.Conduit, Length: quantity.Feet(40), Wet: job.No})
	l := prices(t, "item,size,unit,price,currency\nthwn-2,6 AWG,ft,0.80,$\nthwn-2,10 AWG,ft,0.35,$\nemt,¾,ft,1.20,$\ndevice,60 A 2-pole,each,22,$\n")
	options = own(SolveAWG(Ask{Circuit: uc, Place: &up, Supply: &us, Volts: 240, Board: &ub, Prices: l, Cut: quantity.Feet(45)}))
	if o := options[0]; o.Label != "6 AWG THWN-2 in EMT" || math.Abs(o.Cost-(22+2*45*0.80+45*0.35+40*1.20)) > 1e-9 {
		t.Errorf("EMT: %s at %.3f", o.Label, o.Cost)
	}
}

func TestReadPrices(t *testing.T) {
	for file, want := range map[string]string{
		"": "line 1", "item,size,unit,price\n": "line 1",
		"item,size,unit,price,currency\n": "no prices",
		"item,size,unit,price,currency\nrope,6,m,1,£\ntwin-earth,6 mm²,yard,1,£\ntwin-earth,6 mm²,m,free,£\n": "line 4: price",
		"item,size,unit,price,currency\ntwin-earth,6 mm²,m,1,£\ntwin-earth,6 mm²,m,2,£\n":                     "priced in line 2 already",
		"item,size,unit,price,currency\ntwin-earth,6 mm²,m,1,£\nmc,6 AWG,ft,2,$\n":                            "a list has one",
		"item,size,unit,price,currency\ntwin-earth,6 mm²,m,\"1,£\n":                                           "line 2",
	} {
		t.Run(file, func(t *testing.T) {
			if _, err := ReadPrices(strings.NewReader(file)); err == nil || !strings.Contains(err.Error(), want) {
				t.Errorf("%q: %v, want %q", file, err, want)
			}
		})
	}
	l := prices(t, ukPrices)
	var out strings.Builder
	if err := l.Write(&out); err != nil || out.String() != strings.ReplaceAll(ukPrices, "3.10", "3.1") && !strings.Contains(out.String(), "twin-earth,6 mm²,m,3.1,£") {
		t.Errorf("written: %q %v", out.String(), err)
	}
	if again := prices(t, out.String()); len(again.Prices) != len(l.Prices) {
		t.Errorf("read again: %d prices of %d", len(again.Prices), len(l.Prices))
	}
}

// TestSideBySide: of one family the smallest that meets, the next size, and the
// chosen one are marked; other devices are tried beside the own one.
func TestSideBySide(t *testing.T) {
	c, p, s, b := uk(job.TwinEarth, "16 mm²", job.Segment{Method: job.Surface, Length: 15})
	all := SolveMetric(Ask{Circuit: c, Place: &p, Supply: &s, Board: &b})
	marks := map[string]string{}
	devices := map[string]bool{}
	for _, o := range all {
		devices[o.Device] = true
		for mark, is := range map[string]bool{"smallest": o.Smallest, "one up": o.OneUp, "chosen": o.Chosen} {
			if is {
				marks[mark] += string(o.Cable.Family) + " " + o.Cable.Size
			}
		}
	}
	if marks["smallest"] != "twin-earth 6 mm²" || marks["one up"] != "twin-earth 10 mm²" || marks["chosen"] != "twin-earth 16 mm²" {
		t.Errorf("marks: %v", marks)
	}
	for _, d := range []string{"B40", "B32", "C32", "C40"} {
		if !devices[d] {
			t.Errorf("device %s was not tried: %v", d, devices)
		}
	}
	// Twin and earth has no figure for the ground (table 4D5): the loser says so.
	p.Route = append(p.Route, job.Segment{Method: job.Buried, Length: 5})
	i := slices.IndexFunc(SolveMetric(Ask{Circuit: c, Place: &p, Supply: &s, Board: &b}), func(o Option) bool { return o.Cable.Family == job.TwinEarth })
	all = SolveMetric(Ask{Circuit: c, Place: &p, Supply: &s, Board: &b})
	if k := slices.IndexFunc(all, func(o Option) bool { return o.Smallest }); k < 0 || all[k].Cable.Family == job.TwinEarth {
		t.Error("no size of the chosen family meets: the smallest of the best family is marked instead")
	}
	if o := all[i]; len(o.Fails) != 1 || !strings.Contains(o.Fails[0], "segment 2") {
		t.Errorf("twin and earth in the ground: %+v", o)
	}
}

// TestFar: 6 mm² at 7.3 mV/A/m and 32 A drops 5 % of 230 V after 49.2 m (BS 7671
// table 4D5, from memory); with a limit of 3 % after 29.5 m.
func TestFar(t *testing.T) {
	c, p, s, b := uk("", "", job.Segment{Method: job.Surface, Length: 15})
	for share, want := range map[float64]float64{0: 11.5 / (0.0073 * 32), 0.03: 6.9 / (0.0073 * 32)} {
		options := own(SolveMetric(Ask{Circuit: c, Place: &p, Supply: &s, Board: &b, MaxDrop: share}))
		i := slices.IndexFunc(options, func(o Option) bool { return o.Cable.Family == job.TwinEarth && o.Cable.Size == "6 mm²" })
		if o := options[i]; math.Abs(float64(o.Far)-want) > 1e-6 || o.FarBy != "drop" {
			t.Errorf("drop of %g: %.2f m by %s, want %.2f", share, float64(o.Far), o.FarBy, want)
		}
	}
	// A poor supply: the loop ends first. (1.0925 − 1.00) / ((3.08 + 7.41) mΩ/m × 1.2).
	s.DeclaredZe = 1.0
	options := own(SolveMetric(Ask{Circuit: c, Place: &p, Supply: &s, Board: &b}))
	i := slices.IndexFunc(options, func(o Option) bool { return o.Cable.Family == job.TwinEarth && o.Cable.Size == "6 mm²" })
	if o := options[i]; o.FarBy != "loop impedance" || math.Abs(float64(o.Far)-(218.5/200-1)/(0.01049*1.2)) > 1e-6 {
		t.Errorf("Ze 1.0 Ω: %.2f m by %s", float64(o.Far), o.FarBy)
	}
}

// TestAluminium: 48 A on 60 A terminals at 75 °C needs 4 AWG aluminium (65 A in
// table 310.16, from memory), one size above copper's 6, in MC and in conduit.
func TestAluminium(t *testing.T) {
	list := prices(t, "item,size,unit,price,currency\nthwn-2,6 AWG,ft,1.10,$\nthwn-2-aluminium,4 AWG,ft,0.60,$\nmc-aluminium,4 AWG,ft,2.10,$\n")
	c, p, s, b := us("", "", "", job.Segment{Method: job.Conduit, Length: 10, Wet: job.No})
	for f, way := range map[job.Family]job.Method{job.MC: job.Surface, job.ThwnEMT: job.Conduit, job.ThwnPVC: job.Conduit} {
		p.Route[0].Method = way
		options := own(SolveAWG(Ask{Circuit: c, Place: &p, Supply: &s, Volts: 240, Board: &b, Prices: list}))
		if o := options[0]; len(o.Fails) > 0 || o.Cable.Material != job.Copper {
			t.Errorf("first is %s", o.Label)
		}
		i := slices.IndexFunc(options, func(o Option) bool {
			return o.Cable.Family == f && o.Cable.Material == "aluminium" && len(o.Fails) == 0
		})
		if i < 0 || options[i].Cable.Size != "4 AWG" || !slices.ContainsFunc(options[i].Advice, func(a string) bool { return strings.Contains(a, "aluminium") }) {
			t.Errorf("%s in aluminium: %+v", f, options[max(i, 0)])
		}
	}
	p.Route[0].Wet, p.Route[0].Method = job.Yes, job.Surface
	for _, o := range own(SolveAWG(Ask{Circuit: c, Place: &p, Supply: &s, Volts: 240, Board: &b})) {
		if o.Cable.Family == job.MC && len(o.Fails) == 0 {
			t.Errorf("%s meets in the wet", o.Label)
		}
	}
}

func BenchmarkSolveMetric(b *testing.B) {
	c, p, s, bd := uk("", "", job.Segment{Method: job.Surface, Length: 15}, job.Segment{Method: job.Surface, Length: 5, Grouped: 2, Ambient: celsius(35)})
	for b.Loop() {
		SolveMetric(Ask{Circuit: c, Place: &p, Supply: &s, Board: &bd})
	}
}

func BenchmarkSolveAWG(b *testing.B) {
	c, p, s, bd := us("", "", "", job.Segment{Method: job.Conduit, Length: 15, Ambient: celsius(38)})
	for b.Loop() {
		SolveAWG(Ask{Circuit: c, Place: &p, Supply: &s, Volts: 240, Board: &bd})
	}
}

// TestJoined: a circuit of two cables has the sums of both, and where one of them is not
// known there is no loop and no ground path to expect: a part would look too good.
func TestJoined(t *testing.T) {
	route := []job.Segment{{Method: job.Surface, Length: 10}, {Method: job.Surface, Length: 5}}
	c, p, s, b := uk(job.TwinEarth, "6 mm²", route...)
	c.Beyond = job.Beyond{From: 2, Cable: job.Cable{Family: job.TwinEarth, Size: "10 mm²"}}
	m := ForMetric(&c, &p, &s, &b)
	near(t, "R1+R2 of both, (3.08 + 7.41) × 10 + (1.83 + 4.61) × 5 mΩ", float64(m.R1R2Cold), 0.1049+0.0322, 1e-6)
	near(t, "the length of both", float64(m.Length), 15, 1e-9)
	near(t, "the 6 mm² rules", float64(m.Iz), 47, 1e-9)
	c.Beyond.Cable.Size = ""
	if m = ForMetric(&c, &p, &s, &b); m.R1R2Cold != 0 || m.ZsHot != 0 || m.MissingCable == "" {
		t.Errorf("the second cable is not known: %+v", m)
	}
	c, p, _, b = us(job.NMB, "4 AWG", "8 AWG", route...)
	c.Beyond = job.Beyond{From: 2, Cable: job.Cable{Family: job.ThwnEMT, Size: "6 AWG"}}
	if a := ForAWG(&c, &p, 240, &b); a.GroundOhm != 0 || a.MissingGround == "" {
		t.Errorf("the second ground is not known: %+v", a)
	}
}
