package clearance

import (
	"fmt"
	"regexp"
	"slices"
	"strings"
	"unicode"

	"dogbolt/core/job"
)

// Filled is a field of a form with its answer.
type Filled struct {
	ID    string    `json:"id"`
	Label string    `json:"label"`
	Value string    `json:"value"`
	From  string    `json:"from,omitempty" doc:"Where the job answers it; empty where it is entered."`
	Kind  FieldKind `json:"kind,omitempty"`
	Hint  string    `json:"hint,omitempty"`
}

// Enclosed is a file that goes with a form, in its order.
type Enclosed struct {
	Kind   string `json:"kind"`
	Title  string `json:"title"`
	Digest string `json:"digest,omitempty" doc:"Empty where it is not there."`
	Name   string `json:"name,omitempty"`
	Photo  bool   `json:"photo" doc:"A photo of the survey serves."`
	Needed bool   `json:"needed"`
	Made   Made   `json:"made,omitempty" doc:"What the program prints of the job serves."`
}

// Trifle is one thing that a form would bounce for.
type Trifle struct {
	Field  string `json:"field" doc:"Where to mend it: a field of the job, of the form, or an attachment."`
	What   string `json:"what"`
	Remedy string `json:"remedy"`
}

// Check is a form filled from a job and judged before it is sent.
type Check struct {
	Form     string     `json:"form"`
	Title    string     `json:"title"`
	To       string     `json:"to"`
	Fields   []Filled   `json:"fields"`
	Enclosed []Enclosed `json:"enclosed"`
	Declared string     `json:"declared,omitempty" doc:"What is declared above the signature."`
	Signer   string     `json:"signer,omitempty" doc:"Who signs."`
	Lacks    []Trifle   `json:"lacks" doc:"Everything that it would bounce for."`
}

// Preflight fills the form of a paper and names everything that it would bounce
// for: fields that are missing or of the wrong shape, names that differ from the
// bill's, files that are missing, of the wrong kind, not legible or too large,
// days out of order, a missing signature, a registration that is not valid.
func Preflight(d *Definition, p *job.Paper, f *Facts) Check {
	c := Check{Form: d.ID, Title: d.Title, To: d.To, Fields: []Filled{}, Enclosed: []Enclosed{}, Declared: d.Signature.Text, Lacks: []Trifle{}}
	values := map[string]string{}
	facts := *f
	facts.register = d.Register.Scheme
	f = &facts
	for _, q := range d.Fields {
		v := strings.TrimSpace(p.Answers[q.ID])
		if q.From != "" {
			v = strings.TrimSpace(sources[q.From](f))
		}
		values[q.ID] = v
		c.Fields = append(c.Fields, Filled{q.ID, q.Label, v, q.From, q.Kind, q.Hint})
	}
	for _, q := range d.Fields {
		if facts.register != "" && values[q.ID] == "" && strings.HasPrefix(q.From, "registered") {
			continue // the registration is judged below, and named once
		}
		c.field(q, values)
	}
	for _, w := range d.Attachments {
		c.enclose(w, p, f)
	}
	c.order(d, values, p, f)
	c.signature(d, values, p, f)
	c.registration(d, f)
	return c
}

func (c *Check) lack(field, remedy, format string, args ...any) {
	c.Lacks = append(c.Lacks, Trifle{field, fmt.Sprintf(format, args...), remedy})
}

// mend is where a field's answer is entered.
func mend(q Question) string {
	if q.From != "" {
		return q.From
	}
	return "answers." + q.ID
}

func (c *Check) field(q Question, values map[string]string) {
	v := values[q.ID]
	remedy := "enter it on the form"
	if q.From != "" {
		remedy = "the job answers it: enter it there"
	}
	if v == "" {
		if !q.Optional {
			c.lack(mend(q), remedy, "%s is missing", q.Label)
		}
		return
	}
	switch q.Kind {
	case "date":
		if _, err := DaysBetween(v, v); err != nil {
			c.lack(mend(q), "a day such as 2027-03-28", "%s: %q is not a day", q.Label, v)
		}
	case "number":
		if !number.MatchString(v) {
			c.lack(mend(q), "digits, with a point for decimals", "%s: %q is not a number", q.Label, v)
		}
	}
	if q.Pattern != "" {
		// Parse has compiled it before.
		if ok, err := regexp.MatchString("^(?:"+q.Pattern+")$", v); err != nil || !ok {
			hint := q.Hint
			if hint == "" {
				hint = "as the form asks"
			}
			c.lack(mend(q), hint, "%s: %q has not the shape that is asked for", q.Label, v)
		}
	}
	if q.Same != "" && values[q.Same] != "" && plain(v) != plain(values[q.Same]) {
		other := c.Fields[slices.IndexFunc(c.Fields, func(o Filled) bool { return o.ID == q.Same })].Label
		c.lack(mend(q), "write both as the bill prints them", "%s is %q, but %s is %q", q.Label, v, strings.ToLower(other[:1])+other[1:], values[q.Same])
	}
}

var number = regexp.MustCompile(`^-?\d+(\.\d+)?$`)

// plain is a text without capitals, dots, commas and spaces: what a clerk
// compares.
func plain(s string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return unicode.ToLower(r)
		}
		return -1
	}, s)
}

var readable = []string{"image/jpeg", "image/png", "application/pdf"}

// enclose finds the file of a kind among the paper's own and the survey's
// photos, the newest first, and judges it.
func (c *Check) enclose(w Wanted, p *job.Paper, f *Facts) {
	e := Enclosed{Kind: w.Kind, Title: w.Title, Needed: !w.Optional, Made: w.Made}
	for _, a := range slices.Backward(p.Attached) {
		if a.Kind == w.Kind {
			e.Digest, e.Name = a.Digest, a.Name
			break
		}
	}
	if e.Digest == "" {
		for _, ph := range slices.Backward(f.Job.Survey.Photos) {
			if string(ph.Kind) == w.Kind {
				e.Digest, e.Name, e.Photo = ph.Digest, string(ph.Kind)+".jpg", true
				break
			}
		}
	}
	c.Enclosed = append(c.Enclosed, e)
	field := "attached." + w.Kind
	if e.Digest == "" {
		if !w.Optional {
			remedy := "add the file, or take the photo on the survey page"
			if w.Made != "" {
				remedy = "print it of this job, or add a file"
			}
			c.lack(field, remedy, "%s is missing", w.Title)
		}
		return
	}
	file, ok := f.Files[e.Digest]
	types := w.Types
	if len(types) == 0 {
		types = readable
	}
	switch {
	case !ok:
		c.lack(field, "add it again", "%s: the file is not kept here", w.Title)
	case file.Fault != "":
		c.lack(field, "add it again from the original", "%s cannot be read: %s", w.Title, file.Fault)
	case !slices.Contains(types, file.Type):
		c.lack(field, "send it as "+strings.Join(types, " or "), "%s is %s", w.Title, file.Type)
	case w.MinSide > 0 && file.Width > 0 && min(file.Width, file.Height) < w.MinSide:
		c.lack(field, fmt.Sprintf("at least %d pixels on the shorter side", w.MinSide), "%s is not legible: %d × %d pixels", w.Title, file.Width, file.Height)
	case w.MaxBytes > 0 && file.Bytes > w.MaxBytes:
		c.lack(field, fmt.Sprintf("at most %d kB", w.MaxBytes/1000), "%s is too large: %d kB", w.Title, (file.Bytes+999)/1000)
	}
}

// order compares days that must follow each other. Days that are not known are
// left to the fields that ask for them.
func (c *Check) order(d *Definition, values map[string]string, p *job.Paper, f *Facts) {
	known := map[string]string{"signed": p.SignedOn, "today": f.Today, "booked": f.Job.Plan.Day, "commissioned": f.Commissioned}
	day := func(name string) string {
		if v, ok := known[name]; ok {
			return v
		}
		return values[name]
	}
	for _, o := range d.Order {
		first, then := day(o.First), day(o.Then)
		if first != "" && then != "" && first > then {
			c.lack("answers."+o.First, "look at both days", "days out of order: %s, but %s is after %s", o.Title, first, then)
		}
	}
}

func (c *Check) signature(d *Definition, values map[string]string, p *job.Paper, f *Facts) {
	if d.Signature.Field == "" {
		return
	}
	c.Signer = values[d.Signature.Field]
	switch {
	case p.SignedBy == "" || p.SignedOn == "":
		c.lack("signedBy", "have the declaration signed, and enter name and day", "signature is missing")
	case c.Signer != "" && plain(p.SignedBy) != plain(c.Signer):
		c.lack("signedBy", "the person named on the form signs", "signed by %q, but the form names %q", p.SignedBy, c.Signer)
	case p.SignedOn > f.Today:
		c.lack("signedOn", "look at the day", "signed on %s, which is still to come", p.SignedOn)
	}
}

func (c *Check) registration(d *Definition, f *Facts) {
	if d.Register.Scheme == "" {
		return
	}
	day := f.Today
	switch d.Register.On {
	case "booked":
		day = f.Job.Plan.Day
	case "commissioned":
		day = f.Commissioned
	}
	if day == "" {
		day = f.Today
	}
	last := ""
	for _, r := range f.Registrations {
		if plain(r.Scheme) != plain(d.Register.Scheme) {
			continue
		}
		if r.From <= day && day <= r.Until {
			return
		}
		last = fmt.Sprintf("%s is valid from %s to %s", r.Number, r.From, r.Until)
	}
	if last == "" {
		c.lack("registration", "enter the registration under People and firm", "no registration with %s", d.Register.Scheme)
		return
	}
	c.lack("registration", "renew it, or wait with the form", "registration with %s on %s: %s", d.Register.Scheme, day, last)
}
