package standin

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/coder/websocket"
	"github.com/coder/websocket/wsjson"

	"dogbolt/core/books/uk"
	"dogbolt/core/commission"
	"dogbolt/core/quantity"
	"dogbolt/internal/testkit/ruletest"
)

func bench(t *testing.T, f BenchFault) *Bench {
	t.Helper()
	j := ruletest.Example(t, "../../docs/formats/examples/uk-pass.json")
	j.Design.Circuits[0].ManagedTo = 60
	b, err := NewBench(&j, "A", f)
	if err != nil {
		t.Fatal(err)
	}
	return b
}

func (b *Bench) run(t *testing.T, o Order, seconds float64) Sight {
	t.Helper()
	if err := b.Do(o); err != nil {
		t.Fatal(err)
	}
	for range int(seconds / 0.05) {
		b.Step(0.05)
	}
	return b.See()
}

func amount(v float64) *float64 { return &v }

// TestPilotLevels: the upper level of every state, ±1 V (IEC 61851-1 annex A, from
// memory), and no current but in C and D.
func TestPilotLevels(t *testing.T) {
	b := bench(t, BenchSound)
	for _, c := range []struct {
		state     State
		high      float64
		pulsed    bool
		contactor bool
	}{{"A", 12, false, false}, {"B", 9, true, false}, {"C", 6, true, true}, {"D", 3, true, true}, {"E", 0, false, false}, {"F", -12, false, false}, {"A", 12, false, false}} {
		s := b.run(t, Order{State: c.state}, 8)
		if math.Abs(s.High-c.high) > 1 || (s.Low != s.High) != c.pulsed || s.Contactor != c.contactor || s.Contactor != (s.Amps > 0) {
			t.Errorf("state %s: %+v", c.state, s)
		}
	}
}

// TestDutyOverRange: from 6 A to 80 A the duty is that of the published formula,
// and reading it back gives the setting.
func TestDutyOverRange(t *testing.T) {
	b := bench(t, BenchSound)
	b.Limit = 0
	for amps := 6.0; amps <= 80; amps++ {
		s := b.run(t, Order{State: "B", Setting: amount(amps)}, 0.1)
		says := amps
		if amps == 52 {
			says = 51 // no duty says 52 A
		}
		if math.Abs(s.Duty-commission.Duty(quantity.Ampere(amps))) > 1e-9 || math.Abs(float64(commission.Offered(s.Duty))-says) > 1e-9 {
			t.Errorf("%g A: duty %g %%", amps, s.Duty)
		}
	}
}

// TestVehicleRamps: the current rises by its ramp to the least of setting and
// vehicle, and follows a lower offer within 5 s (IEC 61851-1, from memory).
func TestVehicleRamps(t *testing.T) {
	b := bench(t, BenchSound)
	b.OnBoard = 30
	half := b.run(t, Order{State: "C"}, 3)
	if half.Amps <= 1 || half.Amps >= 29 {
		t.Errorf("after 3 s: %g A", half.Amps)
	}
	if s := b.run(t, Order{}, 12); math.Abs(s.Amps-30) > 0.01 {
		t.Errorf("at the end: %g A, the vehicle takes 30", s.Amps)
	}
	if s := b.run(t, Order{Setting: amount(10)}, 5); math.Abs(s.Amps-10) > 0.01 {
		t.Errorf("5 s after the offer fell: %g A", s.Amps)
	}
}

// TestStops: the charger opens in the times of the standards, and a fault keeps
// each one from happening.
func TestStops(t *testing.T) {
	no := false
	for _, c := range []struct {
		name   string
		order  Order
		within float64
		unseen BenchFault
	}{
		{"earth lost", Order{Earth: &no}, 0.1, EarthIgnored},
		{"open neutral", Order{Volts: amount(268)}, 5, NeutralIgnored},
		{"6 mA d.c.", Order{Leak: amount(6)}, 10, NoDCStop},
		{"60 mA d.c.", Order{Leak: amount(60)}, 0.3, NoDCStop},
		{"unplugged", Order{State: "B"}, 0.1, StuckContactor},
		{"pilot to earth", Order{State: "E"}, 0.1, ShortedPilot},
	} {
		t.Run(c.name, func(t *testing.T) {
			for _, f := range []BenchFault{BenchSound, c.unseen} {
				b := bench(t, f)
				if s := b.run(t, Order{State: "C"}, 10); !s.Contactor || s.Amps < 20 {
					t.Fatalf("%s, %s: does not charge: %+v", c.name, f, s)
				}
				s := b.run(t, c.order, c.within)
				if s.Contactor != (f != BenchSound) {
					t.Errorf("%s, %s: contactor closed %t", c.name, f, s.Contactor)
				}
			}
		})
	}
	b := bench(t, BenchSound)
	b.run(t, Order{State: "C", Leak: amount(5.9)}, 30)
	if s := b.See(); !s.Contactor {
		t.Errorf("5.9 mA stops it: %+v", s)
	}
	b.run(t, Order{Earth: &no}, 1)
	yes := true
	if s := b.run(t, Order{Earth: &yes}, 5); s.Contactor {
		t.Error("it starts again by itself after a stop")
	}
	if s := b.run(t, Order{Reset: true}, 5); !s.Contactor {
		t.Errorf("after the reset: %+v", s)
	}
}

// TestManagement: the limit is kept within a few seconds, pauses below the floor,
// and comes back; turned sensors and slow ones are to be seen.
func TestManagement(t *testing.T) {
	b := bench(t, BenchSound)
	b.run(t, Order{State: "C", House: amount(10)}, 15)
	if s := b.See(); math.Abs(s.Amps-32) > 0.1 {
		t.Fatalf("with room: %+v", s)
	}
	s := b.run(t, Order{House: amount(45)}, 10)
	if s.Total > s.Limit+0.01 || s.Amps < 14 || s.Fall <= 0 || s.Fall > 10 {
		t.Errorf("a big load: %+v", s)
	}
	if s = b.run(t, Order{House: amount(57)}, 10); s.Amps != 0 || s.Duty != 0 {
		t.Errorf("3 A are left, less than 6: %+v", s)
	}
	if s = b.run(t, Order{House: amount(5)}, 20); math.Abs(s.Amps-32) > 0.1 {
		t.Errorf("the load is off again: %+v", s)
	}
	for f, late := range map[BenchFault]bool{SensorTurned: true, SlowAnswer: true, BenchSound: false} {
		b := bench(t, f)
		b.run(t, Order{State: "C", House: amount(5)}, 15)
		if s := b.run(t, Order{House: amount(45)}, 12); (s.Total > s.Limit) != late {
			t.Errorf("%s: %g A of %g A after 12 s", f, s.Total, s.Limit)
		}
	}
}

func TestBenchRefuses(t *testing.T) {
	b := bench(t, BenchSound)
	for _, o := range []Order{{State: "Q"}, {Setting: amount(5)}, {House: amount(-1)}, {Leak: amount(math.NaN())}, {Volts: amount(1000)}} {
		if err := b.Do(o); err == nil {
			t.Errorf("%+v is taken", o)
		}
	}
	j := ruletest.Example(t, "../../docs/formats/examples/uk-pass.json")
	if _, err := NewBench(&j, "Q", BenchSound); err == nil {
		t.Error("a bench on no point")
	}
	if _, err := NewBench(&j, "A", "gremlins"); err == nil {
		t.Error("a bench with a fault that there is not")
	}
}

// TestStreams talks to both stand-ins as a page does.
func TestStreams(t *testing.T) {
	ctx, cancel := context.WithTimeout(context.Background(), 20*time.Second)
	defer cancel()
	dial := func(f http.HandlerFunc) *websocket.Conn {
		srv := httptest.NewServer(f)
		t.Cleanup(srv.Close)
		c, _, err := websocket.Dial(ctx, strings.Replace(srv.URL, "http", "ws", 1), nil)
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(func() { c.CloseNow() })
		return c
	}
	c := dial(func(w http.ResponseWriter, r *http.Request) { ServeBench(w, r, bench(t, BenchSound)) })
	if err := wsjson.Write(ctx, c, map[string]any{"state": "Z"}); err != nil {
		t.Fatal(err)
	}
	if err := wsjson.Write(ctx, c, map[string]any{"state": "C"}); err != nil {
		t.Fatal(err)
	}
	refused := false
	for {
		var s struct {
			Sight
			Error string `json:"error"`
		}
		if err := wsjson.Read(ctx, c, &s); err != nil {
			t.Fatal(err)
		}
		refused = refused || strings.Contains(s.Error, "not A to F")
		if s.Contactor && s.Amps > 0 {
			break
		}
	}
	if !refused {
		t.Error("a wrong order is not answered")
	}

	_, circuit := tested(t, "uk-pass.json", NoFault, 3)
	c = dial(func(w http.ResponseWriter, r *http.Request) {
		_, circuit := tested(t, "uk-pass.json", NoFault, 3)
		ServeTester(w, r, NewTester(circuit, rand.New(rand.NewPCG(3, 5))), func(test string) (string, bool) {
			x, ok := uk.Practice.Tests.Find(test)
			return x.Unit, ok
		})
	})
	for test, want := range map[string]float64{commission.Ze: circuit.Ze, commission.R1R2: circuit.R1 + circuit.R2, commission.Zs: circuit.Loop()} {
		t.Run(test, func(t *testing.T) {
			if err := wsjson.Write(ctx, c, map[string]string{"test": test}); err != nil {
				t.Fatal(err)
			}
			var s Shown
			if err := wsjson.Read(ctx, c, &s); err != nil {
				t.Fatal(err)
			}
			var got float64
			if _, err := fmt.Sscan(s.Value, &got); err != nil || s.Unit != "Ω" || math.Abs(got-want) > 2*Resolution {
				t.Errorf("%s: %+v, the circuit has %g Ω", test, s, want)
			}
		})
	}
	if err := wsjson.Write(ctx, c, map[string]string{"test": "mood"}); err != nil {
		t.Fatal(err)
	}
	var s Shown
	if err := wsjson.Read(ctx, c, &s); err != nil || s.Error == "" {
		t.Errorf("%+v %v", s, err)
	}
}
