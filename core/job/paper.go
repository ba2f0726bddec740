package job

import (
	"fmt"

	"dogbolt/core/schema"
)

// Clearances lists the permissions of a job.
type Clearances struct {
	Papers []Paper `json:"papers,omitempty" maxItems:"30" doc:"Permissions, notices and inspections."`
}

// Before says what a paper must come before.
type Before string

// What papers come before, in the order of work. Each holds up everything that
// follows it too: what must precede the order precedes the booking.
const (
	BeforeOrder      Before = "order"      // before anything is bought or agreed
	BeforeBooking    Before = "booking"    // before a day is set
	BeforeInstalling Before = "installing" // before the work begins
	BeforeCovering   Before = "covering"   // before anything is covered up
	BeforeEnergising Before = "energising" // before anything is switched on
	BeforeSealing    Before = "sealing"    // before the record is sealed
	After            Before = "after"      // after the work, by a day
)

// Befores lists them in the order of work.
var Befores = []Before{BeforeOrder, BeforeBooking, BeforeInstalling, BeforeCovering, BeforeEnergising, BeforeSealing, After}

// Paper is one permission, notice or inspection.
type Paper struct {
	ID        string `json:"id" minLength:"1" maxLength:"40" doc:"Id within the job."`
	Title     string `json:"title,omitempty" maxLength:"120" doc:"What it is."`
	Who       string `json:"who,omitempty" maxLength:"120" doc:"Who grants or receives it."`
	Before    Before `json:"before,omitempty" doc:"What must wait for it."`
	Needed    Answer `json:"needed,omitempty" doc:"Does this job need it?"`
	Reason    string `json:"reason,omitempty" maxLength:"500" doc:"Why it is or is not needed."`
	WaitLow   int    `json:"waitLow,omitempty" minimum:"0" maximum:"730" doc:"Usual wait for an answer, days, at least."`
	WaitHigh  int    `json:"waitHigh,omitempty" minimum:"0" maximum:"730" doc:"Usual wait for an answer, days, at most."`
	Sent      string `json:"sent,omitempty" format:"date" doc:"Day it was sent."`
	Noticed   string `json:"acknowledged,omitempty" format:"date" doc:"Day its receipt was acknowledged."`
	Granted   string `json:"granted,omitempty" format:"date" doc:"Day it was granted, answered or passed."`
	Due       string `json:"due,omitempty" format:"date" doc:"Day by which it must be done."`
	Reference string `json:"reference,omitempty" maxLength:"80" doc:"Reference on the answer."`

	Form     string            `json:"form,omitempty" maxLength:"60" doc:"Id of the definition of its form, where it has one."`
	Answers  map[string]string `json:"answers,omitempty" maxItems:"120" maxLength:"2000" doc:"What was entered on the form, by the id of the field; fields that the job answers itself are left out."`
	Attached []Attachment      `json:"attached,omitempty" maxItems:"30" doc:"Files that go with it."`
	SignedBy string            `json:"signedBy,omitempty" maxLength:"120" doc:"Name under the form's declaration."`
	SignedOn string            `json:"signedOn,omitempty" format:"date" doc:"Day of the signature."`
	Replies  []Reply           `json:"replies,omitempty" maxItems:"40" doc:"What came back, oldest first."`
}

// Attachment is a file that goes with a paper.
type Attachment struct {
	Kind   string `json:"kind" minLength:"1" maxLength:"40" doc:"What it shows, by the form's list: meter, quote, bill."`
	Digest string `json:"digest" pattern:"^[0-9a-f]{64}$" doc:"SHA-256 of the file."`
	Name   string `json:"name,omitempty" maxLength:"120" doc:"Name of the file."`
}

// Outcome is what a reply says.
type Outcome string

// Outcomes of a reply.
const (
	Received Outcome = "received" // acknowledged, not decided
	Accepted Outcome = "accepted"
	Bounced  Outcome = "bounced" // sent back to be mended
)

// Reply is one answer to a paper.
type Reply struct {
	On        string   `json:"on" format:"date" doc:"Day of the answer."`
	Outcome   Outcome  `json:"outcome" doc:"What it says."`
	Reasons   []string `json:"reasons,omitempty" maxItems:"40" maxLength:"500" doc:"Why it bounced."`
	Reference string   `json:"reference,omitempty" maxLength:"80" doc:"Reference on the answer."`
}

// Done reports whether nothing more is to be done about the paper.
func (p Paper) Done() bool {
	return p.Needed == No && p.Reason != "" || p.Needed == Yes && p.Granted != ""
}

// SentBack reports whether the last answer was a bounce that has not been
// answered by sending the paper again.
func (p Paper) SentBack() bool {
	return p.Granted == "" && p.Sent == "" && len(p.Replies) > 0 && p.Replies[len(p.Replies)-1].Outcome == Bounced
}

// Paper returns the paper with the id, or nil.
func (j *Job) Paper(id string) *Paper {
	for i := range j.Clearances.Papers {
		if j.Clearances.Papers[i].ID == id {
			return &j.Clearances.Papers[i]
		}
	}
	return nil
}

// PutAside returns the override by which a qualified person let the work go on
// without a paper. It is an entry of the log, with its name and reason.
func (j *Job) PutAside(paper string) (Entry, bool) {
	return j.Latest(Overridden, "", PaperOverride+paper)
}

// PaperOverride begins the subject of an override of a paper; its id follows.
const PaperOverride = "paper:"

// Plan is parts, day and crew. Day, start, hours and crew are set by
// booking alone, which holds the crew and the parts for the job.
type Plan struct {
	Parts  []Part   `json:"parts,omitempty" maxItems:"120" doc:"What the van must hold."`
	Day    string   `json:"day,omitempty" format:"date" doc:"Day of the installation."`
	Start  string   `json:"start,omitempty" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"When the work begins, by the clock of the site."`
	Hours  float64  `json:"hours,omitempty" minimum:"0" maximum:"24" doc:"How long it is reckoned to take, h."`
	Team   string   `json:"team,omitempty" maxLength:"40" doc:"Id of the crew among the firm's crews."`
	Crew   []string `json:"crew,omitempty" maxItems:"8" maxLength:"80" doc:"Who goes, lead first."`
	Notice Answer   `json:"notice,omitempty" doc:"Has the customer been told when the power is off?"`
	Home   Answer   `json:"home,omitempty" doc:"Is the customer at home on the day, to join the charger to the network?"`
	Over   Override `json:"override,omitempty,omitzero" doc:"Who booked the day although reasons stood against it."`
}

// Override is a decision against advice, with its name and reason.
type Override struct {
	By      string   `json:"by,omitempty" maxLength:"80" doc:"Who decided."`
	Reason  string   `json:"reason,omitempty" maxLength:"500" doc:"Why."`
	Against []string `json:"against,omitempty" maxItems:"40" maxLength:"500" doc:"What stood against it."`
}

// Part is one line of the parts list.
type Part struct {
	Name     string    `json:"name" minLength:"1" maxLength:"120" doc:"What it is."`
	Item     string    `json:"item,omitempty" maxLength:"120" doc:"Name in the stock; left out where it is the same."`
	Quantity float64   `json:"quantity,omitempty" minimum:"0" maximum:"10000" doc:"How many or how much."`
	Unit     string    `json:"unit,omitempty" maxLength:"8" doc:"Unit of the quantity."`
	Pieces   int       `json:"pieces,omitempty" minimum:"0" maximum:"24" doc:"Equal pieces that the length is cut into, such as the wires of a raceway; left out: one."`
	Says     []string  `json:"says,omitempty" maxItems:"40" maxLength:"400" doc:"What is written on them, of labels."`
	Why      string    `json:"why,omitempty" maxLength:"200" doc:"What it follows from, with its rule where it has one."`
	Tool     Answer    `json:"tool,omitempty" doc:"A tool that comes back, not a part that stays."`
	InHand   Answer    `json:"inHand,omitempty" doc:"In hand, not merely listed by a supplier?"`
	By       Supplier  `json:"by,omitempty" doc:"Who brings it; left out: the firm."`
	Supply   PartState `json:"supply,omitempty" doc:"Where it stands while it is not in hand: listed by a supplier, or ordered."`
	From     string    `json:"from,omitempty" maxLength:"120" doc:"Where it is held for this job: van, shelf, reel."`
}

// Supplier is who brings a part.
type Supplier string

// ByCustomer says that a part is the customer's own: it is neither taken from the stock nor ordered, and is in hand once somebody
// has seen it.
const ByCustomer Supplier = "customer"

// Values lists who may bring a part besides the firm.
func (Supplier) Values() []string { return schema.Words(ByCustomer) }

// Lacks reports whether a part keeps the day from being booked: it is not in hand. A tool belongs to the van: it is there unless
// somebody says that it is not.
func (p Part) Lacks() bool {
	if p.Tool == Yes {
		return p.InHand == No
	}
	return p.InHand != Yes
}

// InStock is the name under which the stock knows the part.
func (p Part) InStock() string {
	if p.Item != "" {
		return p.Item
	}
	return p.Name
}

// PartState is how far a part that is not in hand has come.
type PartState string

// How far a part has come.
const (
	Listed  PartState = "listed"  // a supplier lists it: that is not in hand
	Ordered PartState = "ordered" // ordered, on its way
)

// Booked reports whether the job has a day and people.
func (p *Plan) Booked() bool { return p.Day != "" && len(p.Crew) > 0 }

// check refuses papers whose days and waits stand against each other.
func (s *Clearances) check(c *checker) {
	seen := map[string]bool{}
	for i, p := range s.Papers {
		f := item("clearances.papers", i)
		c.once(seen, f+".id", p.ID)
		if p.Sent != "" && p.Granted != "" && p.Granted < p.Sent {
			c.fail(f+".granted", "is before the day it was sent")
		}
		if p.Sent != "" && p.Noticed != "" && p.Noticed < p.Sent {
			c.fail(f+".acknowledged", "is before the day it was sent")
		}
		if p.WaitHigh < p.WaitLow {
			c.fail(f+".waitHigh", "is not below the least wait")
		}
	}
}

func (s *Plan) check(c *checker) {
	people := map[string]bool{}
	for i, n := range s.Crew {
		if people[n] {
			c.fail(item("plan.crew", i), fmt.Sprintf("%q is named twice", n))
		}
		people[n] = true
	}
}
