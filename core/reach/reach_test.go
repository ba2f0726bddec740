package reach

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/verdict"
	"dogbolt/internal/testkit/fullplan"
)

func rect(x0, y0, x1, y1 float64) Polygon {
	return Polygon{{x0, y0}, {x1, y0}, {x1, y1}, {x0, y1}}
}

// TestByHand compares with lengths worked out on paper.
func TestByHand(t *testing.T) {
	block := rect(0, 0, 2, 2)
	cases := []struct {
		name     string
		solids   []Polygon
		from, to Pt
		want     float64 // −1 where there is no way
	}{
		{"nothing between", nil, Pt{0, 0}, Pt{3, 4}, 5},
		{"straight past a block", []Polygon{block}, Pt{-1, 3}, Pt{3, 3}, 4},
		{"along its face", []Polygon{block}, Pt{0, 2}, Pt{2, 2}, 2},
		{"round two corners", []Polygon{block}, Pt{-1, 1}, Pt{3, 1}, 2 + 2*math.Sqrt2},
		{"round one corner", []Polygon{block}, Pt{-1, 1}, Pt{1, -1}, 2 * math.Sqrt2},
		{"not between blocks that touch", []Polygon{block, rect(0, 2, 2, 4)}, Pt{-1, 2}, Pt{3, 2}, 2 + 2*math.Hypot(1, 2)},
		{"between blocks a hand apart", []Polygon{block, rect(0, 2.1, 2, 4)}, Pt{-1, 2.05}, Pt{3, 2.05}, 4},
		{"from a face to the other", []Polygon{block}, Pt{0, 1}, Pt{2, 1}, 4},
		{"walled in", []Polygon{rect(-2, -2, 2, -1), rect(-2, 1, 2, 2), rect(-2, -2, -1, 2), rect(1, -2, 2, 2)}, Pt{0, 0}, Pt{5, 0}, -1},
		{"from inside a block", []Polygon{block}, Pt{1, 1}, Pt{5, 0}, -1},
	}
	for _, c := range cases {
		path, got, ok := Shortest(c.solids, c.from, c.to)
		if !ok {
			got = -1
		}
		if math.Abs(got-c.want) > 1e-9 {
			t.Errorf("%s: %.6f by %v, want %.6f", c.name, got, path, c.want)
		}
	}
}

// sampled asks the same question with nothing of the code under test: a line is
// free when none of many points on it lies inside a solid.
func sampled(solids []Polygon, a, b Pt) bool {
	const n = 700
	for i := 1; i < n; i++ {
		p := Pt{a.X + (b.X-a.X)*float64(i)/n, a.Y + (b.Y-a.Y)*float64(i)/n}
		for _, g := range solids {
			in := true
			for k, q := range g {
				r := g[(k+1)%len(g)]
				in = in && (r.X-q.X)*(p.Y-q.Y)-(r.Y-q.Y)*(p.X-q.X) > 1e-9
			}
			if in {
				return false
			}
		}
	}
	return true
}

// brute is Floyd and Warshall over every pair of points.
func brute(solids []Polygon, nodes []Pt) float64 {
	n := len(nodes)
	d := make([][]float64, n)
	for i := range d {
		d[i] = make([]float64, n)
		for k := range d[i] {
			d[i][k] = math.Inf(1)
			if sampled(solids, nodes[i], nodes[k]) {
				d[i][k] = math.Hypot(nodes[i].X-nodes[k].X, nodes[i].Y-nodes[k].Y)
			}
		}
	}
	for m := range n {
		for i := range n {
			for k := range n {
				d[i][k] = min(d[i][k], d[i][m]+d[m][k])
			}
		}
	}
	return d[0][1]
}

func scene(r *rand.Rand) (solids []Polygon, from, to Pt) {
	for range 2 + r.IntN(4) {
		a := Pt{r.Float64() * 10, r.Float64() * 10}
		solids = append(solids, box(a, unit(r.Float64()*180), 0.5+4*r.Float64(), 0.3+2*r.Float64()))
	}
	return solids, Pt{-1, r.Float64() * 10}, Pt{11, r.Float64() * 10}
}

func TestAgainstBruteForce(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	bent := 0
	for i := range 120 {
		solids, from, to := scene(r)
		nodes := []Pt{from, to}
		for _, g := range solids {
			nodes = append(nodes, g...)
		}
		path, got, ok := Shortest(solids, from, to)
		want := brute(solids, nodes)
		if !ok && math.IsInf(want, 1) {
			continue // an end lies inside a solid
		}
		// The samples may miss a corner that is cut by less than their spacing.
		if !ok || got < want-1e-9 || got > want+5e-3 {
			t.Fatalf("scene %d: %.6f (%t), brute force %.6f, by %v", i, got, ok, want, path)
		}
		if len(path) > 2 {
			bent++
		}
		sum := 0.0
		for k := 1; k < len(path); k++ {
			sum += path[k].distance(path[k-1])
		}
		if math.Abs(sum-got) > 1e-9 {
			t.Fatalf("scene %d: the way's parts are %.6f, its length %.6f", i, sum, got)
		}
	}
	if bent < 40 {
		t.Errorf("only %d of the ways had a bend: the scenes test little", bent)
	}
}

// TestAreaAgainstPaths: a point is in the area exactly when the shortest way to
// it is within the cord.
func TestAreaAgainstPaths(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 8))
	in, out := 0, 0
	for range 25 {
		solids, from, _ := scene(r)
		const cord = 7.0
		area := Area(solids, from, cord)
		for range 40 {
			p := Pt{r.Float64() * 12, r.Float64() * 12}
			_, d, ok := Shortest(solids, from, p)
			if !ok || math.Abs(d-cord) < 0.02 {
				continue // inside a solid, or on the rim, where 3° rays are coarse
			}
			within := false
			for _, g := range area {
				within = within || encloses(g, p)
			}
			if within != (d < cord) {
				t.Fatalf("point %v at %.3f m: in the area %t, cord %.1f m", p, d, within, cord)
			}
			if within {
				in++
			} else {
				out++
			}
		}
	}
	if in < 100 || out < 100 {
		t.Errorf("%d points in, %d out: the scenes test little", in, out)
	}
}

// encloses counts crossings: the outline of an area is not convex.
func encloses(g Polygon, p Pt) bool {
	in := false
	for i, a := range g {
		b := g[(i+1)%len(g)]
		if (a.Y > p.Y) != (b.Y > p.Y) && p.X < a.X+(p.Y-a.Y)*(b.X-a.X)/(b.Y-a.Y) {
			in = !in
		}
	}
	return in
}

// drive is a bay 1.2 m east of a wall that runs north, its nose to the north,
// with the charger on the wall's east face.
func drive() *job.Survey {
	return &job.Survey{
		SitePlan: job.SitePlan{
			Walls:     []job.Wall{{From: job.XY{X: 0, Y: 0}, To: job.XY{X: 0, Y: 6}, Thick: 0.2}},
			Bays:      []job.Bay{{ID: "1", Centre: job.XY{X: 2.6, Y: 3}, Length: 5, Width: 2.6, Heading: 90}},
			Doors:     []job.Opening{{From: job.XY{X: 0, Y: 1}, To: job.XY{X: 0, Y: 1.9}, Name: "side door"}},
			Positions: []job.Position{{ID: "A", At: &job.XY{X: 0.1, Y: 3}, Height: 1.1}, {ID: "B", At: &job.XY{X: -0.1, Y: 3}, Height: 1.1}},
			Board:     &job.XY{X: -4, Y: 3},
		},
		Vehicles: []job.Vehicle{{Name: "hatchback", Bay: "1", Attitude: "nose-in", Inlet: "rear-left", Length: 4.4, Width: 1.8, InletHeight: 0.9}},
	}
}

func TestCords(t *testing.T) {
	s := drive()
	cords := On(s).Cords(6)
	if len(cords) != 4 {
		t.Fatalf("%d cords, want 2 positions × 2 attitudes", len(cords))
	}
	// Nose in, heading north: its left side faces the wall at x = 1.7; the inlet is
	// 0.8 m from the tail at y = 0.8 + 0.8.
	a := cords[0]
	ground := math.Hypot(1.7-0.1, 3-1.6)
	if want := ground + 1.1 + 0.9 + Slack; math.Abs(float64(a.Needed)-want) > 1e-9 || !a.Reaches || !a.Usual || !strings.Contains(a.Working, "over the ground") {
		t.Errorf("A, nose in: needs %.4f m, want %.4f: %+v", float64(a.Needed), want, a)
	}
	// Tail in: the left side faces away, so the cord goes round the nose or tail.
	if b := cords[1]; b.Needed <= a.Needed+2 || b.Usual || b.Attitude != "tail-in" {
		t.Errorf("A, tail in: %+v", b)
	}
	// From the other face of the wall, round its end.
	if c := cords[2]; c.Reaches || c.Needed <= a.Needed+3 {
		t.Errorf("B, nose in: %+v", c)
	}
	// A lone vehicle stands in the lone bay, said or not; with a second of either nobody knows.
	s.Vehicles[0].Bay = ""
	if b := On(s).Cords(6)[0]; b.Needed != a.Needed {
		t.Errorf("the only bay of the only vehicle: needs %.4f m, want %.4f", float64(b.Needed), float64(a.Needed))
	}
	s.SitePlan.Bays = append(s.SitePlan.Bays, job.Bay{ID: "2", Centre: job.XY{X: 8, Y: 3}, Length: 5, Width: 2.6, Heading: 90})
	if list := On(s).Cords(6); len(list) != 0 {
		t.Errorf("in one of two bays: %+v", list)
	}
	s.SitePlan.Bays, s.Vehicles[0].Bay = s.SitePlan.Bays[:1], "1"
	s.SitePlan.Positions[0].At.Y = 0.8
	if a := On(s).Cords(6)[0]; len(a.Crosses) != 1 || a.Crosses[0] != "side door" {
		t.Errorf("past the side door: crosses %v", a.Crosses)
	}
	s.SitePlan.Paths = []job.Walkway{{From: job.XY{X: 1, Y: -1}, To: job.XY{X: 1, Y: 7}, Width: 0.9, Name: "garden path"}}
	if a := On(s).Cords(0)[0]; len(a.Crosses) != 2 || a.Known || a.Reaches {
		t.Errorf("over the path, cord not known: %+v", a)
	}
	// A second vehicle in another bay stands in the way; in the same bay it does not.
	s = drive()
	s.SitePlan.Bays = append(s.SitePlan.Bays, job.Bay{ID: "2", Centre: job.XY{X: 1, Y: 2.3}, Length: 0.4, Width: 0.4})
	free := On(s).Cords(6)[0].Needed
	s.Vehicles = append(s.Vehicles, job.Vehicle{Name: "scooter", Bay: "2", Attitude: "nose-in", Length: 0.4, Width: 0.4})
	if blocked := On(s).Cords(6)[0].Needed; blocked <= free {
		t.Errorf("with a scooter in the way %.3f m, without %.3f m", float64(blocked), float64(free))
	}
	same := drive()
	same.SitePlan.Bays[0].Length = 12
	alone := On(same).Cords(6)[0].Needed
	same.Vehicles = append(same.Vehicles, job.Vehicle{Name: "the other one", Bay: "1", Attitude: "nose-in", Length: 10, Width: 2.4})
	if with := On(same).Cords(6)[0].Needed; with != alone {
		t.Errorf("another vehicle of the same bay %.3f m, alone %.3f m: they do not stand there together", float64(with), float64(alone))
	}
	if len(On(s).Cars()) != 2 || len(On(s).Reach("A", 6)) == 0 || On(s).Reach("Z", 6) != nil {
		t.Error("cars and area")
	}
	if d, ok := Straight(&s.SitePlan, "A"); !ok || math.Abs(float64(d)-4.1) > 1e-9 {
		t.Errorf("board to A %.2f m, want 4.10", float64(d))
	}
}

// TestCornerOfWalls: two walls that meet at a corner close it: a cord goes round the
// outer corner, 0.1 m beyond the centre lines, and does not cut it.
func TestCornerOfWalls(t *testing.T) {
	s := drive()
	s.SitePlan.Walls = []job.Wall{{To: job.XY{X: 4, Y: 0}, Thick: 0.2}, {To: job.XY{X: 0, Y: 4}, Thick: 0.2}}
	_, length, ok := Shortest(On(s).fixed, Pt{-0.5, 1}, Pt{1, -0.5})
	if want := 2 * math.Hypot(0.4, 1.1); !ok || math.Abs(length-want) > 1e-9 {
		t.Errorf("%.4f m round the corner, want %.4f m", length, want)
	}
}

// TestClearances: gas 25 mm from pipes and 150 mm from a meter (BS 6891), an
// outlet 0.5 m to 1.5 m above ground (BS 7671 722.55); from memory.
func TestClearances(t *testing.T) {
	limits := Limits{GasPipe: 0.025, GasMeter: 0.150, Low: 0.5, High: 1.5}
	plan := &job.SitePlan{Gas: []job.Gas{{Kind: "pipe", From: job.XY{X: 0, Y: 0}, To: &job.XY{X: 0, Y: 2}}, {Kind: "meter", From: job.XY{X: 1, Y: 0}}}}
	cases := []struct {
		at     job.XY
		height quantity.Metre
		meets  []bool
	}{
		{job.XY{X: 0.025, Y: 1}, 1.5, []bool{true, true, true}},
		{job.XY{X: 0.024, Y: 1}, 1.524, []bool{false, true, false}},
		{job.XY{X: 0.851, Y: 0}, 0.49, []bool{true, false, false}},
		{job.XY{X: 0.850, Y: 0}, 0.5, []bool{true, true, true}},
	}
	for _, c := range cases {
		for i, got := range Clearances(plan, job.Position{At: &c.at, Height: c.height}, limits) {
			if got.Meets != c.meets[i] {
				t.Errorf("at %v, %.3f m: %+v, want %t", c.at, float64(c.height), got, c.meets[i])
			}
		}
	}
	outdoors := Limits{Low: quantity.Inches(18), LowOutside: quantity.Inches(24)}
	for cover, want := range map[string]bool{"indoors": true, "open": false} {
		t.Run(cover, func(t *testing.T) {
			if got := Clearances(plan, job.Position{Height: quantity.Inches(20), Cover: job.Cover(cover)}, outdoors); len(got) != 1 || got[0].Meets != want {
				t.Errorf("20 in, %s: %+v", cover, got)
			}
		})
	}
}

func TestProblems(t *testing.T) {
	cases := []struct {
		name   string
		change func(*job.Survey)
		field  string
	}{
		{"as measured", func(*job.Survey) {}, ""},
		{"position inside a wall", func(s *job.Survey) { s.SitePlan.Positions[0].At.X = 0 }, "survey.sitePlan.positions[0].at"},
		{"position inside an obstacle", func(s *job.Survey) {
			s.SitePlan.Obstacles = []job.Obstacle{{At: job.XY{X: 0, Y: 2.5}, Width: 1, Height: 1}}
		}, "survey.sitePlan.positions[0].at"},
		{"bays that overlap", func(s *job.Survey) {
			s.SitePlan.Bays = append(s.SitePlan.Bays, job.Bay{ID: "2", Centre: job.XY{X: 5, Y: 3}, Length: 5, Width: 2.6, Heading: 90})
		}, "survey.sitePlan.bays[1].centre"},
		{"bays side by side", func(s *job.Survey) {
			s.SitePlan.Bays = append(s.SitePlan.Bays, job.Bay{ID: "2", Centre: job.XY{X: 5.2, Y: 3}, Length: 5, Width: 2.6, Heading: 90})
		}, ""},
		{"a bay over a wall", func(s *job.Survey) { s.SitePlan.Bays[0].Centre.X = 1.3 }, "survey.sitePlan.bays[0].centre"},
		{"a vehicle wider than its bay", func(s *job.Survey) { s.SitePlan.Bays[0].Width = 1.7 }, "survey.vehicles[0].bay"},
	}
	for _, c := range cases {
		s := drive()
		c.change(s)
		got := Problems(s)
		if c.field == "" && len(got) > 0 || c.field != "" && (len(got) != 1 || got[0].Field != c.field) {
			t.Errorf("%s: %v, want %q", c.name, got, c.field)
		}
	}
}

// BenchmarkPlan is two vehicles, three positions and eight walls, both ways.
func BenchmarkPlan(b *testing.B) {
	s := drive()
	for i := range 7 {
		y := quantity.Metre(i)
		s.SitePlan.Walls = append(s.SitePlan.Walls, job.Wall{From: job.XY{X: -3, Y: y}, To: job.XY{X: -1, Y: y}})
	}
	s.SitePlan.Bays = append(s.SitePlan.Bays, job.Bay{ID: "2", Centre: job.XY{X: 5.4, Y: 3}, Length: 5, Width: 2.6, Heading: 90})
	s.SitePlan.Positions = append(s.SitePlan.Positions, job.Position{ID: "C", At: &job.XY{X: 0.1, Y: 5}})
	s.Vehicles = append(s.Vehicles, job.Vehicle{Name: "van", Bay: "2", Inlet: "front-right", Attitude: "nose-in"})
	for b.Loop() {
		if got := On(s).Cords(7.5); len(got) != 12 {
			b.Fatal(len(got))
		}
	}
}

func TestCompare(t *testing.T) {
	s := drive()
	s.SitePlan.Positions[0].Run, s.SitePlan.Positions[1].Run = 6, 9
	s.SitePlan.Gas = []job.Gas{{Kind: "meter", From: job.XY{X: -0.1, Y: 3.1}}}
	cost := func(l quantity.Metre) (float64, bool) { return 5 * float64(l), true }
	rows := On(s).Compare("A", 4.5, Limits{GasMeter: 0.15, GasClause: "BS 6891"}, cost)
	a, b := rows[0], rows[1]
	// 4.5 m reaches the inlet nose in (2.13 + 1.1 + 0.9 + 0.5 = 4.63) with neither attitude.
	if !a.Chosen || a.Extra == nil || *a.Extra != 0 || a.Verdict != "stop" || !strings.Contains(a.Against[0], "does not reach the hatchback") {
		t.Errorf("A: %+v", a)
	}
	if b.Extra == nil || *b.Extra != 15 || b.Verdict != "stop" || !strings.Contains(strings.Join(b.Against, "; "), "gas meter 0.10 m not kept") {
		t.Errorf("B: %+v", b)
	}
	s.Vehicles[0].Attitude = "tail-in"
	a = On(s).Compare("A", 6, Limits{}, func(quantity.Metre) (float64, bool) { return 0, false })[0]
	if a.Verdict != "watch" || a.Against[0] != "reaches the hatchback only nose in" || a.Extra != nil {
		t.Errorf("tail in: %+v", a.Against)
	}
	s.SitePlan.Positions[0].Run, s.SitePlan.Positions[0].Drill, s.SitePlan.Positions[0].Signal = 3, job.No, "none"
	a = On(s).Compare("B", 0, Limits{}, cost)[0]
	// What is open counts before what is to be watched.
	if a.Chosen || len(a.Against) != 3 || a.Verdict != "open" || !strings.Contains(a.Against[0], "measure again") {
		t.Errorf("run shorter than the straight line, no drilling, no network: %+v", a.Against)
	}
}

// TestBound: a plan that is too full is left unjudged, and says so; the fullest that the
// schema takes is worked out on the page, and no longer than somebody waits.
func TestBound(t *testing.T) {
	s := fullplan.Of(false)
	for _, c := range On(s).CordsOf("A", 7.5) {
		if c.Unjudged {
			t.Errorf("one position of a full plan, car %d: not judged", c.Vehicle)
		}
	}
	unjudged := func(list []Cord) (n int) {
		for _, c := range list {
			if c.Unjudged && (c.Blocked || c.Reaches || len(c.Way) > 0) {
				t.Errorf("not judged, and yet %+v", c)
			}
			if c.Unjudged {
				n++
			}
		}
		return n
	}
	if n := unjudged(On(s).While(nil).Cords(7.5)); n > 0 {
		t.Errorf("%d of all cords are not judged on the page", n)
	}
	if n := unjudged(On(s).Cords(7.5)); n < 100 {
		t.Errorf("within the bound of one position only %d cords of 192 are not judged", n)
	}
	asked := 0
	gone := func() bool { asked++; return asked == 20 }
	rows := On(s).While(gone).Compare("A", 7.5, Limits{}, func(quantity.Metre) (float64, bool) { return 0, false })
	if asked != 20 {
		t.Errorf("after somebody is gone it is asked on, %d times", asked)
	}
	if last := rows[len(rows)-1]; last.Verdict != verdict.Open && last.Verdict != verdict.Stop || !strings.Contains(strings.Join(last.Against, "; "), "not judged") {
		t.Errorf("%s: %v", last.Verdict, last.Against)
	}
	// Round every car goes a wall: the whole plan is looked through before it is known that
	// there is no way.
	if n := unjudged(On(fullplan.Of(true)).CordsOf("A", 7.5)); n == 0 {
		t.Error("a plan that takes too long for one position is judged")
	}
	hasty := On(s)
	hasty.patience.left = 5000
	if area := hasty.Reach("A", 30); area != nil {
		t.Errorf("an area that was not worked out to its end has %d pieces", len(area))
	}
	if area := On(s).While(nil).Reach("A", 30); len(area) < 50 {
		t.Errorf("the area has %d pieces", len(area))
	}
}
