package clearance

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/schema"
)

// Format names the file format of a definition and its version.
const Format = "dogbolt.paper/1"

// Definition is the form of a paper: what it asks, what goes with it, and what
// it bounces for. It is data, so that a contractor adds those of the schemes and
// offices that they deal with.
type Definition struct {
	Format      string       `json:"format" enum:"dogbolt.paper/1" doc:"Name and version of this file format."`
	ID          string       `json:"id" minLength:"2" maxLength:"60" pattern:"^[a-z0-9][a-z0-9-]*$" doc:"Id of the form."`
	Title       string       `json:"title" minLength:"2" maxLength:"120" doc:"What the form is called."`
	Who         string       `json:"who" minLength:"2" maxLength:"120" doc:"Who decides."`
	To          string       `json:"to" minLength:"3" maxLength:"120" doc:"Mail address that it is sent to."`
	Paper       string       `json:"paper" minLength:"1" maxLength:"40" doc:"Id of the paper that it answers: grant, permit."`
	Rulebooks   []string     `json:"rulebooks" minItems:"1" maxItems:"8" maxLength:"60" doc:"Rulebooks of the jobs that it is for, by the beginning of their ids: bs7671, nec."`
	Before      job.Before   `json:"before" doc:"What must wait for the answer."`
	WaitLow     int          `json:"waitLow" minimum:"0" maximum:"730" doc:"Usual wait, days, at least."`
	WaitHigh    int          `json:"waitHigh" minimum:"0" maximum:"730" doc:"Usual wait, days, at most."`
	Source      string       `json:"source" minLength:"2" maxLength:"300" doc:"Where its demands were read, and when."`
	Fields      []Question   `json:"fields" minItems:"1" maxItems:"80" doc:"What the form asks, in its order."`
	Attachments []Wanted     `json:"attachments,omitempty" maxItems:"30" doc:"What goes with it, in the order asked."`
	Order       []DateOrder  `json:"order,omitempty" maxItems:"20" doc:"Days that must follow each other."`
	Signature   Declaration  `json:"signature,omitempty,omitzero" doc:"Whose signature it needs."`
	Register    Registration `json:"registration,omitempty,omitzero" doc:"Registration that the installer must hold."`
}

// Question is one question of a form.
type Question struct {
	ID       string    `json:"id" minLength:"1" maxLength:"40" pattern:"^[a-z0-9][a-z0-9-]*$" doc:"Id of the field."`
	Label    string    `json:"label" minLength:"1" maxLength:"120" doc:"What the form prints."`
	From     string    `json:"from,omitempty" maxLength:"60" doc:"Where the job answers it: one of the sources that docs/formats/paper.md lists. Left out: it is entered."`
	Optional bool      `json:"optional,omitempty" doc:"May stay empty."`
	Kind     FieldKind `json:"kind,omitempty" doc:"What it takes; left out: text."`
	Pattern  string    `json:"pattern,omitempty" maxLength:"200" doc:"Regular expression (RE2) that the whole answer must match."`
	Hint     string    `json:"hint,omitempty" maxLength:"200" doc:"What the pattern means, in words."`
	Same     string    `json:"same,omitempty" maxLength:"40" doc:"Id of a field whose answer this one must equal, but for capitals, dots and spaces."`
}

// FieldKind is what a question of a form takes.
type FieldKind string

// Kinds of question.
const (
	TextField   FieldKind = "text"
	DateField   FieldKind = "date"
	NumberField FieldKind = "number"
)

// Values lists the kinds of question.
func (FieldKind) Values() []string {
	return []string{string(TextField), string(DateField), string(NumberField)}
}

// Moment is a day in the course of a job.
type Moment string

// Days on which a registration must be valid.
const (
	OnToday        Moment = "today"
	OnBooked       Moment = "booked"
	OnCommissioned Moment = "commissioned"
)

// Values lists the days.
func (Moment) Values() []string {
	return []string{string(OnToday), string(OnBooked), string(OnCommissioned)}
}

// Wanted is a file that goes with a form.
type Wanted struct {
	Kind     string   `json:"kind" minLength:"1" maxLength:"40" doc:"What it shows; a survey photo of the same kind serves."`
	Title    string   `json:"title" minLength:"1" maxLength:"120" doc:"What the form calls it."`
	Optional bool     `json:"optional,omitempty"`
	Made     Made     `json:"made,omitempty" doc:"What the program prints of the job serves."`
	Types    []string `json:"types,omitempty" maxItems:"6" maxLength:"60" doc:"Media types that are taken: image/jpeg, image/png, application/pdf. Left out: all three."`
	MinSide  int      `json:"minSide,omitempty" minimum:"0" maximum:"20000" doc:"Least length of a picture's shorter side, pixels: smaller is not legible."`
	MaxBytes int      `json:"maxBytes,omitempty" minimum:"0" maximum:"50000000" doc:"Largest file that is taken, bytes."`
}

// Made is what the program prints of a job for a form.
type Made string

// MadePackage is the package of the design: demand, diagrams, plan, board, equipment and workings.
const MadePackage Made = "package"

// Values lists what the program prints for a form.
func (Made) Values() []string { return []string{string(MadePackage)} }

// DateOrder is a pair of days of which the first must not be after the second.
type DateOrder struct {
	First string `json:"first" minLength:"1" maxLength:"40" doc:"Id of a date field, or one of: signed, today, booked, commissioned."`
	Then  string `json:"then" minLength:"1" maxLength:"40" doc:"Likewise."`
	Title string `json:"title" minLength:"1" maxLength:"160" doc:"What the order means."`
}

// Declaration is whose signature a form needs.
type Declaration struct {
	Field string `json:"field,omitempty" maxLength:"40" doc:"Id of the field that holds the name of who signs."`
	Text  string `json:"text,omitempty" maxLength:"600" doc:"What is declared."`
}

// Registration is a registration that the installer must hold.
type Registration struct {
	Scheme string `json:"scheme,omitempty" maxLength:"80" doc:"Name of the register, as the firm's settings name it."`
	On     Moment `json:"on,omitempty" doc:"Day on which it must be valid; left out: today."`
}

// Parse reads a definition and refuses what cannot be: unknown members, ids
// used twice, references to fields that are not there, sources that this
// program does not know, patterns that do not compile.
func Parse(data []byte) (Definition, error) {
	var d Definition
	if errs := schema.Of[Definition]().Read("", data, &d); len(errs) > 0 {
		return d, fmt.Errorf("form definition: %w", errs)
	}
	if d.WaitHigh < d.WaitLow {
		return d, fmt.Errorf("form definition %s: waitHigh is less than waitLow", d.ID)
	}
	ids := map[string]Question{}
	for i, f := range d.Fields {
		where := fmt.Sprintf("form definition %s: fields[%d]", d.ID, i)
		if _, twice := ids[f.ID]; twice {
			return d, fmt.Errorf("%s: needs an id of its own, %q is used twice", where, f.ID)
		}
		if _, ok := sources[f.From]; f.From != "" && !ok {
			return d, fmt.Errorf("%s: from %q is not a source", where, f.From)
		}
		if _, err := regexp.Compile(f.Pattern); err != nil {
			return d, fmt.Errorf("%s: pattern: %w", where, err)
		}
		ids[f.ID] = f
	}
	for i, f := range d.Fields {
		if _, ok := ids[f.Same]; f.Same != "" && !ok {
			return d, fmt.Errorf("form definition %s: fields[%d]: same %q is not a field", d.ID, i, f.Same)
		}
	}
	for i, o := range d.Order {
		for _, end := range []string{o.First, o.Then} {
			if f, ok := ids[end]; !slices.Contains(days, end) && (!ok || f.Kind != DateField) {
				return d, fmt.Errorf("form definition %s: order[%d]: %q is neither a date field nor one of %v", d.ID, i, end, days)
			}
		}
	}
	if _, ok := ids[d.Signature.Field]; d.Signature.Field != "" && !ok {
		return d, fmt.Errorf("form definition %s: signature.field %q is not a field", d.ID, d.Signature.Field)
	}
	return d, nil
}

// For reports whether the form is for jobs of a rulebook.
func (d *Definition) For(rulebook string) bool {
	return slices.ContainsFunc(d.Rulebooks, func(b string) bool { return rulebook == b || strings.HasPrefix(rulebook, b+":") })
}

// days are the days that an order may name besides date fields.
var days = []string{"signed", "today", "booked", "commissioned"}

// File is what is known about an attached file.
type File struct {
	Type   string // media type by its content
	Width  int    // pixels, pictures
	Height int
	Pages  int // PDF
	Bytes  int
	Fault  string // why it cannot be read; empty where it can
}

// Registered is a registration of the house.
type Registered struct {
	Scheme string `json:"scheme" minLength:"1" maxLength:"80" doc:"Name of the register."`
	Number string `json:"number" minLength:"1" maxLength:"40" doc:"Number in it."`
	From   string `json:"from" format:"date" doc:"First day."`
	Until  string `json:"until" format:"date" doc:"Last day."`
}

// Facts are what a form is filled and judged from.
type Facts struct {
	Job           *job.Job
	Firm          Firm
	Registrations []Registered
	Files         map[string]File // by digest, of attachments and survey photos
	Today         string
	Commissioned  string // day on which it was switched on; empty before
	Demand        float64

	register string // of the form that is filled
}

// Firm is the contractor on a form.
type Firm struct{ Name, Address, Phone, Email string }

// sources are what a job answers by itself.
var sources = map[string]func(*Facts) string{
	"job.number":    func(f *Facts) string { return f.Job.Number },
	"site.customer": func(f *Facts) string { return f.Job.Site.Customer },
	"site.phone":    func(f *Facts) string { return f.Job.Site.Phone },
	"site.email":    func(f *Facts) string { return f.Job.Site.Email },
	"site.street":   func(f *Facts) string { return f.Job.Site.Street },
	"site.town":     func(f *Facts) string { return f.Job.Site.Town },
	"site.postcode": func(f *Facts) string { return f.Job.Site.Postcode },
	"bill.name":     func(f *Facts) string { return f.Job.Site.Bill.Name },
	"bill.street":   func(f *Facts) string { return f.Job.Site.Bill.Street },
	"bill.postcode": func(f *Facts) string { return f.Job.Site.Bill.Postcode },
	"bill.account":  func(f *Facts) string { return f.Job.Site.Bill.Account },
	"firm.name":     func(f *Facts) string { return f.Firm.Name },
	"firm.address":  func(f *Facts) string { return f.Firm.Address },
	"firm.phone":    func(f *Facts) string { return f.Firm.Phone },
	"firm.email":    func(f *Facts) string { return f.Firm.Email },
	"charger.type":  func(f *Facts) string { return each(f, func(c *job.Circuit) string { return c.Charger.Type }) },
	"charger.serial": func(f *Facts) string {
		return each(f, func(c *job.Circuit) string { return commission.SerialOf(f.Job, c) })
	},
	"charger.left":    func(f *Facts) string { return each(f, left) },
	"charger.moved":   func(f *Facts) string { return each(f, func(c *job.Circuit) string { return c.Charger.Moved }) },
	"charger.setting": func(f *Facts) string { return each(f, func(c *job.Circuit) string { return amps(float64(c.Setting)) }) },
	"breaker": func(f *Facts) string {
		return each(f, func(c *job.Circuit) string { return amps(float64(c.Breaker.Rating)) })
	},
	"cable":            func(f *Facts) string { return each(f, func(c *job.Circuit) string { return c.Cable.Size }) },
	"points":           func(f *Facts) string { return fmt.Sprint(len(f.Job.Survey.Places)) },
	"supply.rating":    func(f *Facts) string { return amps(float64(f.Job.Survey.Supply.Rating)) },
	"supply.demand":    func(f *Facts) string { return amps(float64(int(f.Demand + 0.5))) },
	"vehicle":          func(f *Facts) string { return vehicles(f.Job) },
	"plan.day":         func(f *Facts) string { return f.Job.Plan.Day },
	"commissioned":     func(f *Facts) string { return f.Commissioned },
	"paper.permit":     func(f *Facts) string { return reference(f.Job, "permit") },
	"paper.operator":   func(f *Facts) string { return reference(f.Job, "operator") },
	"registered.until": func(f *Facts) string { return registered(f).Until },
	"registered":       func(f *Facts) string { return registered(f).Number },
}

// Sources lists the names of what a job answers by itself, sorted.
func Sources() []string {
	out := make([]string, 0, len(sources))
	for name := range sources {
		out = append(out, name)
	}
	slices.Sort(out)
	return out
}

func each(f *Facts, what func(*job.Circuit) string) string {
	var list []string
	for i := range f.Job.Design.Circuits {
		v := what(&f.Job.Design.Circuits[i])
		if v == "" {
			return "" // of one point it is not known
		}
		list = append(list, v)
	}
	return strings.Join(list, ", ")
}

// left says what stays of the circuit of a charger that is taken away.
func left(c *job.Circuit) string {
	f := c.Fates()
	if c.Kind() != job.Removal || f.Breaker == "" || f.Cable == "" {
		return ""
	}
	says := map[job.Fate]string{job.FateKept: "stays", job.FateTakenOut: "taken out"}
	return "breaker " + says[f.Breaker] + ", cable " + says[f.Cable]
}

func amps(a float64) string {
	if a == 0 {
		return ""
	}
	return fmt.Sprintf("%g A", a)
}

func vehicles(j *job.Job) string {
	var list []string
	for _, v := range j.Survey.Vehicles {
		if v.Name != "" {
			list = append(list, v.Name)
		}
	}
	return strings.Join(list, ", ")
}

func reference(j *job.Job, paper string) string {
	for _, p := range j.PapersNow() {
		if p.ID == paper {
			return p.Reference
		}
	}
	return ""
}

// registered is the registration with the form's register that lasts longest;
// with any register where the form names none.
func registered(f *Facts) Registered {
	var best Registered
	for _, r := range f.Registrations {
		if (f.register == "" || plain(r.Scheme) == plain(f.register)) && r.Until > best.Until {
			best = r
		}
	}
	return best
}

// Titled is a form by its name.
type Titled struct {
	ID    string `json:"id"`
	Title string `json:"title"`
}
