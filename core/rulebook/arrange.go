package rulebook

import (
	"encoding/json"
	"fmt"
	"strings"

	"dogbolt/core/job"
	"dogbolt/core/verdict"
)

// Decision is a question of the design that has a few answers, each judged by
// the rules that it touches.
type Decision struct {
	ID, Title string
	Rules     []string // ids of the rules that judge it
	Answers   []Answer
	// Asked says whether the question arises; nil for always.
	Asked func(*job.Job, job.Point) bool
}

// Answer is one way of answering a decision: the values that it sets, by their
// path in the circuit, or in the design where the path begins with "/".
type Answer struct {
	Title string
	Set   map[string]any
}

// Judged is an answer with what the rules say of it.
type Judged struct {
	Title   string         `json:"title"`
	Set     map[string]any `json:"set" doc:"Values by their path in the circuit, or in the design where the path begins with a slash."`
	Chosen  bool           `json:"chosen"`
	Verdict Verdict        `json:"verdict"`
	Says    []string       `json:"says" doc:"What each rule says, with its clause."`
}

// Arrangement is a decision with its answers judged.
type Arrangement struct {
	ID      string   `json:"id"`
	Title   string   `json:"title"`
	Answers []Judged `json:"answers"`
}

// Arrange judges every answer to every decision of a point: it sets the values,
// runs the rules, and keeps what they say.
func Arrange(j *job.Job, point string) ([]Arrangement, error) {
	book, err := For(j)
	if err != nil {
		return nil, err
	}
	p, _ := j.Point(point)
	var out []Arrangement
	for _, d := range book.Decisions {
		if d.Asked != nil && !d.Asked(j, p) {
			continue
		}
		a := Arrangement{ID: d.ID, Title: d.Title}
		for _, answer := range d.Answers {
			with, same, err := answer.Apply(j, point)
			if err != nil {
				return nil, err
			}
			said := Judged{Title: answer.Title, Set: answer.Set, Chosen: same, Verdict: Sound}
			for _, f := range book.run(&with, point, d.Rules) {
				said.Verdict = verdict.Worse(said.Verdict, f.Verdict)
				text := f.Working
				if f.Verdict == Open {
					text = "needs: " + f.Missing
				}
				if f.Remedy != "" && f.Verdict != Sound {
					text += ": " + f.Remedy
				}
				said.Says = append(said.Says, text+" ("+f.Clause+")")
			}
			a.Answers = append(a.Answers, said)
		}
		out = append(out, a)
	}
	return out, nil
}

// run runs some rules of a book on one point.
func (b *Book) run(j *job.Job, point string, ids []string) []Finding {
	s := Subject{Job: j, Book: b, Demand: b.Demand(j)}
	for i, p := range j.Points() {
		if p.ID == point {
			s.Point, s.Index = p, i
		}
	}
	b.Prepare(&s)
	var out []Finding
	for _, id := range ids {
		for i := range b.Rules {
			if b.Rules[i].ID == id {
				out = b.Rules[i].appendTo(out, &s, false)
			}
		}
	}
	return out
}

// Apply returns the job with the answer's values, and whether it had them already.
func (a Answer) Apply(j *job.Job, point string) (with job.Job, same bool, err error) {
	with = *j
	b, err := json.Marshal(j.Design)
	if err != nil {
		return with, false, err
	}
	var design map[string]any
	if err := json.Unmarshal(b, &design); err != nil {
		return with, false, err
	}
	var circuit map[string]any
	circuits, _ := design["circuits"].([]any)
	for _, c := range circuits {
		if m := c.(map[string]any); m["point"] == point {
			circuit = m
		}
	}
	if circuit == nil && point != "" { // a finding of the whole job changes no circuit
		circuit = map[string]any{"point": point}
		design["circuits"] = append(circuits, circuit)
	}
	same = true
	for path, value := range a.Set {
		at := circuit
		if rest, whole := strings.CutPrefix(path, "/"); whole {
			at, path = design, rest
		} else if circuit == nil {
			return with, false, fmt.Errorf("answer “%s”: %s is of a point's circuit", a.Title, path)
		}
		parts := strings.Split(path, ".")
		for _, key := range parts[:len(parts)-1] {
			next, _ := at[key].(map[string]any)
			if next == nil {
				next = map[string]any{}
				at[key] = next
			}
			at = next
		}
		last := parts[len(parts)-1]
		same = same && fmt.Sprint(at[last]) == fmt.Sprint(value)
		at[last] = value
	}
	if b, err = json.Marshal(design); err != nil {
		return with, false, err
	}
	with.Design = job.Design{}
	return with, same, json.Unmarshal(b, &with.Design)
}

// Sharing is the decision how two or more points share the supply.
var Sharing = Decision{
	ID: "sharing", Title: "Two or more points", Rules: []string{"sharing", "demand"},
	Asked: func(j *job.Job, _ job.Point) bool { return len(j.Survey.Places) > 1 },
	Answers: []Answer{
		{"separate circuits, each at its setting", map[string]any{"/sharing": "separate"}},
		{"one limit in fixed parts", map[string]any{"/sharing": "shared-limit"}},
		{"one limit, shared out among those that charge", map[string]any{"/sharing": "load-sharing"}},
	},
}
