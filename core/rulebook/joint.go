package rulebook

import (
	"strconv"

	"dogbolt/core/job"
)

// The checks below are of circuits whose cable changes at a joint box on the way.

// EachCable makes a check of a circuit's cable look at both where it changes at a joint
// box, each on its own part of the route: the graver finding counts.
func EachCable(check func(*Subject) Finding) func(*Subject) Finding {
	return func(s *Subject) Finding {
		if !s.Point.Joined() {
			return check(s)
		}
		var worst Finding
		for i, name := range []string{"to the joint box: ", "beyond the joint box: "} {
			f := check(s.leg(i))
			if f.Verdict == "" || worst.Verdict != "" && !f.Verdict.Graver(worst.Verdict) {
				continue
			}
			if f.Working != "" {
				f.Working = name + f.Working
			}
			if f.Missing != "" {
				f.Missing = name + f.Missing
			}
			worst = f
		}
		return worst
	}
}

// LastCable makes a check look at the cable that reaches the charger.
func LastCable(check func(*Subject) Finding) func(*Subject) Finding {
	return func(s *Subject) Finding {
		if !s.Point.Joined() {
			return check(s)
		}
		return check(s.leg(1))
	}
}

// leg is the subject with one part of its circuit.
func (s *Subject) leg(i int) *Subject {
	part := *s
	part.Point, part.route = s.Point.Legs()[i], nil
	s.Book.Prepare(&part)
	return &part
}

// CheckJoint judges a joint box on the route: it is on the route, can be reached, and is
// made for its place and its conductors.
func CheckJoint(s *Subject) Finding {
	b := &s.Point.Circuit.Beyond
	switch {
	case *b == (job.Beyond{}):
		return Finding{}
	case b.From == 0:
		return Missing("segment at whose beginning the joint box is")
	case !s.Point.Joined():
		return Missing("the route beyond the joint box: it has no segment " + strconv.Itoa(b.From))
	}
	f, ok := Answered(
		Question{b.Accessible, "whether the joint box can be reached", "the joint box cannot be reached for inspection and testing",
			"put it where it can be opened, or run one cable all the way"},
		Question{b.Suited, "whether the joint box is made for its place and its conductors", "the joint box is not made for its place or its conductors",
			"another box: dust and water, number and size of the conductors"},
	)
	if !ok {
		return f
	}
	return Meets("where segment " + strconv.Itoa(b.From) + " begins; it can be reached, and suits its place and conductors")
}
