package rulebook

import (
	"cmp"
	"slices"
	"strconv"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/panel"
	"dogbolt/core/quantity"
	"dogbolt/core/reach"
	"dogbolt/core/route"
	"dogbolt/core/worklog"
)

// The checks below look at what the survey drew: the board's map, the site plan
// and the route. Where nothing is drawn they do not apply.

// CheckMap judges room for every point's breaker on the board's map; mapped is
// false where there is none.
func (s *Subject) CheckMap(remedy string) (f Finding, mapped bool) {
	fits := panel.Of(s.Job)
	last := fits[len(fits)-1]
	own := &s.Job.Survey.Board.Rearrangement
	switch {
	case len(panel.Needed(s.Job)) == 0 && own.At+len(own.Moves) > 0:
		return Missing("why circuits are moved: " + fits[0].Why), true
	case len(panel.Needed(s.Job)) == 0:
		return Meets(fits[0].Why), true
	case own.At == 0 && len(own.Moves) > 0:
		return Missing("where the new breaker goes, in the arrangement that was entered"), true
	case own.At > 0 && !last.Mapped:
		return Missing("the board's map, to judge the arrangement by"), true
	case !last.Mapped:
		return Finding{}, false
	}
	// A map that was only begun shows room that is not there: it has to agree with the count.
	if free := s.Job.Survey.Board.WaysFree; free != nil && *free != len(fits[0].Free) {
		return Missing("one count of the free spaces: the map shows " + strconv.Itoa(len(fits[0].Free)) + ", " + strconv.Itoa(*free) + " were counted"), true
	}
	var said []string
	moves := 0
	for _, p := range fits {
		said = append(said, p.Why)
		moves += len(p.Moves)
	}
	working := strings.Join(said, "; then ")
	switch {
	case !last.Fits:
		return Fails(working, remedy), true
	case moves > 0 && len(last.Odd) > 0:
		return Advise(working+"; "+strings.Join(last.Odd, "; "),
			"allow time for moving circuits, put right what the label does not allow, and correct the circuit chart"), true
	case moves > 0:
		return Advise(working, "allow time for moving circuits, and correct the circuit chart"), true
	case len(last.Odd) > 0:
		return Advise(working+"; "+strings.Join(last.Odd, "; "), "put right what the label does not allow"), true
	}
	return Meets(working), true
}

// Route works out the subject's route once.
func (s *Subject) Route() route.Laying {
	if s.route == nil {
		straight, _ := reach.Straight(&s.Job.Survey.SitePlan, s.Point.Place.Position)
		r := s.Book.In.Laying.Of(&s.Point.Circuit, &s.Point.Place, s.Job.Board(), straight, route.Default)
		s.route = &r
	}
	return *s.route
}

// CheckConnects judges that the route has no gap: every segment has a length,
// and the whole is not shorter than board and position are apart.
func CheckConnects(s *Subject) Finding {
	if p := s.Route().Problem; p != "" {
		return Fails(p, "measure the missing stretch; count drops and walls")
	}
	return Finding{}
}

// CheckBends judges the bends of raceways between pull points. fail is the
// verdict of too many.
func CheckBends(fail Verdict) func(*Subject) Finding {
	return func(s *Subject) Finding {
		worst, at := 0.0, 0
		for i, g := range s.Route().Stretches {
			if g.Bends > worst {
				worst, at = g.Bends, i+1
			}
		}
		if worst == 0 {
			return Finding{}
		}
		f := AtMost(worst, route.MostBends, "°",
			quantity.Say("{}° between pull points, at most 360°, up to segment ", worst)+strconv.Itoa(at), "a pull point between the bends").Exactly()
		if f.Verdict == Stop {
			f.Verdict = fail
		}
		return f
	}
}

// CheckFill judges how full the raceways of a surveyed size are.
func CheckFill(fail Verdict) func(*Subject) Finding {
	return func(s *Subject) Finding {
		var worst *route.Fill
		at := 0
		for i, g := range s.Route().Stretches {
			if g.Fill != nil && (g.Fill.Chosen || g.Fill.Size == "") && (worst == nil || g.Fill.Used*worst.Allowed > worst.Used*g.Fill.Allowed) {
				worst, at = g.Fill, i+1
			}
		}
		switch {
		case worst == nil:
			return Finding{}
		case worst.Allowed == 0:
			return Missing("a listed size of the raceway in segment " + strconv.Itoa(at) + ": " + worst.Size + " is not one, or none holds the circuit")
		}
		f := AtMost(worst.Used, worst.Allowed, "mm²", quantity.Say("segment {}: {1} mm² of the ", float64(at), worst.Used)+
			quantity.Say("{1} mm² that may be filled, ", worst.Allowed)+worst.Size+", "+worst.Clause, "a larger raceway").Exactly()
		if f.Verdict == Stop {
			f.Verdict = fail
		}
		return f
	}
}

// recorded is the amount that a step of the point recorded, in SI; false where it did not.
func (s *Subject) recorded(step string) (float64, bool) {
	e, ok := s.Job.Latest(job.StepDone, s.Point.ID, step)
	if !ok {
		return 0, false
	}
	return s.Book.In.Install.Measure(step).Amount(e.Value)
}

// A cable that was run longer than runOver of the surveyed length is said to be built otherwise,
// one shorter than runUnder of it measured again. Common practice, no source.
const runOver, runUnder = 1.05, 0.5

// CheckRun holds the length that was run against the one that drop and loop are judged by.
func CheckRun(s *Subject) Finding {
	run, ok := s.recorded(worklog.RunCable)
	judged := float64(s.Point.LaidLength())
	if !ok || judged <= 0 {
		return Finding{}
	}
	in := s.Book.In.Units.Length
	working := in.SayTo(run, 1) + " were run; drop and loop are judged by " + in.SayTo(judged, 1)
	if run < judged*runUnder {
		return Advise(working, "measure it again, or note the length as built otherwise")
	}
	f := AtMost(quantity.Round(in.Of(run), 3), quantity.Round(in.Of(judged*runOver), 3), in.Symbol, working, "note the length as built otherwise").Exactly()
	if f.Verdict == Stop {
		f.Verdict = Watch
	}
	return f
}

// CheckDepth judges how deep buried stretches lie, as surveyed, or as laid once that is recorded.
// fail is the verdict of too little.
func CheckDepth(fail Verdict) func(*Subject) Finding {
	return func(s *Subject) Finding {
		in := s.Book.In.Units.Height
		stretches := s.Route().Stretches
		laid, known := s.recorded(worklog.OnWay + string(job.Buried))
		f := Finding{}
		for i := range stretches {
			d := stretches[i].Depth
			if d == nil {
				continue
			}
			g := &s.Point.Place.Route[i]
			n := strconv.Itoa(i + 1)
			switch {
			case g.Under == "":
				return Missing("what lies above segment " + n + ": garden, drive or street")
			case d.Value == 0 && !known:
				return Missing("depth of segment " + n)
			}
			deep, how := float64(d.Value), "deep"
			if known {
				deep, how = laid, "deep as laid"
			}
			value, least, unit := in.Of(deep), in.Of(float64(d.Least)), in.Symbol
			was := f
			working := quantity.Say("segment {}: {2} ", float64(i+1), value) + unit + " " + how + " under the " + string(g.Under) +
				quantity.Say(", {2} ", least) + unit + " wanted; " + d.Clause
			f = AtLeast(quantity.Round(value, 3), quantity.Round(least, 3), unit, working, "bury it deeper, or choose another method")
			switch {
			case f.Verdict == Stop:
				f.Verdict = fail
				return f
			case g.Taped != job.Yes:
				f.Verdict, f.Remedy = Watch, "marking tape or tiles above the cable"
			case was.Verdict == Watch:
				f = was
			}
		}
		return f
	}
}

// position returns the candidate position that was chosen for the point.
func (s *Subject) position() (job.Position, bool) {
	for _, p := range s.Job.Survey.SitePlan.Positions {
		if p.ID == s.Point.Place.Position {
			return p, true
		}
	}
	return job.Position{}, false
}

// CheckPosition judges that one of at least two positions was chosen, with a
// reason, and its clearances from gas.
func CheckPosition(s *Subject) Finding {
	plan := &s.Job.Survey.SitePlan
	if len(plan.Positions) == 0 {
		return Finding{}
	}
	p, ok := s.position()
	switch {
	case !ok:
		return Missing("which of the positions was chosen")
	case len(plan.Positions) > 1 && strings.TrimSpace(s.Point.Place.Why) == "":
		return Missing("why position " + p.ID + " and not another")
	}
	said := p.ID + " of " + strconv.Itoa(len(plan.Positions))
	if least := max(s.Book.In.Reach.GasPipe, s.Book.In.Reach.GasMeter); p.At == nil && least > 0 {
		clear := quantity.Say("{} mm from gas meters and pipes (", 1000*float64(least)) + s.Book.In.Reach.GasClause + ")"
		switch p.Gas {
		case job.Unasked:
			return Missing("whether position " + p.ID + " is at least " + clear)
		case job.No:
			return Fails(p.ID+" is not "+clear, "move the position away from the gas")
		}
		said += "; at least " + clear
	}
	for _, c := range reach.Clearances(plan, p, s.Book.In.Reach) {
		if c.Clause != s.Book.In.Reach.GasClause {
			continue // heights have a rule of their own
		}
		line := quantity.Say("{} mm from the ", quantity.Round(1000*float64(c.Value), 0)) + c.What +
			quantity.Say(", at least {} mm (", 1000*float64(c.Least)) + c.Clause + ")"
		if !c.Meets {
			return Fails(line, "move the position away from the "+c.What)
		}
		said += "; " + line
	}
	if p.Fixing == job.DoubtfulFixing || p.Drill == job.No {
		return Advise(said+"; the fixing is doubtful or may not be drilled", "a backboard, a post, or another position")
	}
	if len(plan.Positions) < 2 {
		return Advise(said, "there are usually two or three places: compare at least two")
	}
	return Meets(said)
}

// ofPosition are the rules that judge the position that was taken for a point.
var ofPosition = []string{"position", "cord-reach"}

// OfPosition reports whether a finding is about the position that was taken for a point.
func (f Finding) OfPosition() bool { return slices.Contains(ofPosition, f.Rule) }

// AtPosition judges a position of a point as if it had been taken.
func (b *Book) AtPosition(j *job.Job, p job.Point, position string) []Finding {
	p.Place.Position = position
	s := &Subject{Job: j, Designed: j, Point: p, Book: b}
	var out []Finding
	for i := range b.Rules {
		if slices.Contains(ofPosition, b.Rules[i].ID) {
			out = b.Rules[i].appendTo(out, s, false)
		}
	}
	return out
}

// CheckReach says which vehicles, parked as usual, the cord of the chosen
// position reaches, and what it lies across. It advises and never stops: the customer may
// park otherwise, and the table of positions says what each cord reaches both
// ways. Common practice, no source.
func CheckReach(s *Subject) Finding {
	p, ok := s.position()
	c := &s.Point.Circuit.Charger
	if !ok {
		return Finding{}
	}
	if p.At == nil && p.Cord <= 0 {
		return Missing("way of the cord from position " + p.ID + " over the ground")
	}
	length := c.CordLength
	site := reach.On(&s.Job.Survey)
	var said, short, across []string
	for _, cord := range site.CordsOf(p.ID, length) {
		name := s.Job.Survey.Vehicles[cord.Vehicle].Name + ", " + string(cord.Attitude)
		switch {
		case cord.Unjudged:
			return Advise(
				"the plan has too much on it to find the way of the cord to "+name,
				"leave out of the plan what no cord comes near, or measure the cord on site",
			)
		case cord.Blocked:
			short = append(short, name+": no way over the ground")
		case cord.Known && !cord.Reaches:
			short = append(short, name+s.length(": needs {} of ", cord.Needed)+s.length("{}", length))
		default:
			said = append(said, name+s.length(": needs {}", cord.Needed))
		}
		if len(cord.Crosses) > 0 {
			across = append(across, name+": across "+strings.Join(cord.Crosses, ", "))
		}
	}
	switch {
	case len(said)+len(short) == 0:
		return Finding{}
	case len(short) > 0:
		return Advise(strings.Join(append(short, said...), "; "), "another position, a longer cord, or the other way of parking")
	case len(across) > 0:
		return Advise(strings.Join(append(across, said...), "; "), "nobody may trip over it: another position, or a route for the cord")
	case length == 0:
		return Meets(strings.Join(said, "; ") + "; the cord's length is not known yet")
	}
	return Meets(strings.Join(said, "; ") + s.length(" of {}", length))
}

// length writes a length in the country's unit in place of {}.
func (s *Subject) length(format string, l quantity.Metre) string {
	return strings.Replace(format, "{}", s.Book.In.Units.Length.SayTo(float64(l), 1), 1)
}

// Freed is what the service would have to spare if one load could not run while
// a vehicle charges.
type Freed struct {
	Name string          `json:"name"`
	Amps quantity.Ampere `json:"amps"`
}

// Frees lists what would free more of the service, the most first: each load
// left out of the sum in turn. A measured demand does not tell loads apart and
// gives none.
func Frees(j *job.Job) []Freed {
	book, err := For(j)
	if err != nil {
		return nil
	}
	all := book.Demand(j).Without
	var out []Freed
	for i, l := range j.Survey.Loads {
		less := *j
		less.Survey.Loads = slices.Delete(slices.Clone(j.Survey.Loads), i, i+1)
		name := l.Name
		if name == "" {
			name = string(l.Kind)
		}
		if d := all - book.Demand(&less).Without; d > 0.05 {
			out = append(out, Freed{name, d})
		}
	}
	slices.SortStableFunc(out, func(a, b Freed) int { return cmp.Compare(b.Amps, a.Amps) })
	return out
}
