// Package job is the job document: what was asked, seen, chosen, allowed,
// planned, done and measured at one address.
//
// A zero number or an empty string means "not known yet", never "none": rules
// report what they cannot judge as open. Questions that have a real zero use
// Answer or a pointer.
package job

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"strconv"
	"strings"
	"time"

	"dogbolt/core/quantity"
	"dogbolt/core/schema"
)

// Format names the file format of an exported job and its version.
const Format = "dogbolt.job/2"

// Stage is one of the seven bolts of a job.
type Stage string

// The stages in the order of work.
const (
	StageSurvey     Stage = "survey"
	StageDesign     Stage = "design"
	StageClearances Stage = "clearances"
	StagePlan       Stage = "plan"
	StageInstall    Stage = "install"
	StageCommission Stage = "commission"
	StageHandover   Stage = "handover"
)

// Stages lists the stages in the order of work.
var Stages = []Stage{StageSurvey, StageDesign, StageClearances, StagePlan, StageInstall, StageCommission, StageHandover}

// Answer is a question answered yes or no, or not yet asked.
type Answer string

// The answers; the zero value is "not asked".
const (
	Unasked Answer = ""
	Yes     Answer = "yes"
	No      Answer = "no"
)

// Job is the whole document. It is what `dogbolt check` reads, what the
// program exports, and what a sealed record carries.
type Job struct {
	Format   string `json:"format" enum:"dogbolt.job/2" doc:"Name and version of this file format."`
	Number   string `json:"number" maxLength:"40" pattern:"\\S" doc:"The contractor's job number."`
	Rulebook string `json:"rulebook" maxLength:"60" pattern:"\\S" doc:"Edition that the job is judged by, such as bs7671:2018+A2:2022 or nec:2023."`
	Site     Site   `json:"site" doc:"Who and where."`

	Survey     Survey     `json:"survey,omitempty" doc:"What was seen on site."`
	Design     Design     `json:"design,omitempty" doc:"What was chosen."`
	Clearances Clearances `json:"clearances,omitempty" doc:"Permissions and papers."`
	Plan       Plan       `json:"plan,omitempty" doc:"Parts, day and crew."`

	Log []Entry `json:"log,omitempty" maxItems:"20000" doc:"Append-only entries: steps, readings, settings, sign-offs, in the order received."`

	Refused []schema.Refused `json:"refused,omitempty" maxItems:"500" doc:"Values of an older file that this version refuses, as they stood, until they are entered anew."`

	index *index // of the log; nil where none was made
}

// Site is the customer and the address.
type Site struct {
	Customer string   `json:"customer,omitempty" maxLength:"120" doc:"Name of the customer."`
	Phone    string   `json:"phone,omitempty" maxLength:"40" doc:"Telephone of the customer."`
	Email    string   `json:"email,omitempty" maxLength:"120" doc:"Mail address of the customer."`
	Language Language `json:"language,omitempty" doc:"Language of the handover pack, where the country's customers are asked for one; left out: English."`
	Street   string   `json:"street,omitempty" maxLength:"160" doc:"Street and number of the site."`
	Town     string   `json:"town,omitempty" maxLength:"80" doc:"Town of the site."`
	Postcode string   `json:"postcode,omitempty" maxLength:"20" doc:"Postcode or ZIP."`
	Note     string   `json:"note,omitempty" maxLength:"2000" doc:"Anything the crew should know before they arrive."`
	Zone     string   `json:"zone,omitempty" maxLength:"40" doc:"Time zone of the site, Europe/London; left out: the firm's own for the country."`
	Follows  string   `json:"follows,omitempty" maxLength:"40" doc:"Number of our job before this one at the same site: what it left is where this one began."`
	Bill     Bill     `json:"bill,omitempty,omitzero" doc:"Name and address as the energy bill prints them."`
}

// Bill is what an energy bill says about its customer. Forms bounce where they
// say it differently.
type Bill struct {
	Name     string `json:"name,omitempty" maxLength:"120" doc:"Name on the bill."`
	Street   string `json:"street,omitempty" maxLength:"160" doc:"Street and number on the bill."`
	Postcode string `json:"postcode,omitempty" maxLength:"20" doc:"Postcode or ZIP on the bill."`
	Account  string `json:"account,omitempty" maxLength:"40" doc:"Number of the account or supply."`
}

// Point is one charging point: its place as surveyed and its circuit as
// designed. Either is the zero value while that stage has not reached it.
type Point struct {
	ID      string
	Place   Place
	Circuit Circuit
}

// Joined reports whether the cable changes at a joint box that is on the route.
func (p *Point) Joined() bool {
	from := p.Circuit.Beyond.From
	return from > 1 && from <= len(p.Place.Route)
}

// Legs returns the stretches of the point's circuit that have one cable each, from the
// board on: as points with that part of the route and that cable. The service loop is
// on the last.
func (p *Point) Legs() []Point {
	if !p.Joined() {
		return []Point{*p}
	}
	box := p.Circuit.Beyond.From - 1
	near, far := *p, *p
	near.Place.Route, near.Place.Loop = p.Place.Route[:box], 0
	far.Place.Route, far.Place.First = p.Place.Route[box:], box
	far.Circuit.Cable = p.Circuit.Beyond.Cable
	near.Circuit.Beyond, far.Circuit.Beyond = Beyond{}, Beyond{}
	return []Point{near, far}
}

// Last is the last of the point's legs: what reaches the charger.
func (p *Point) Last() Point {
	legs := p.Legs()
	return legs[len(legs)-1]
}

// Points joins survey and design by point id, in the order of the survey.
func (j *Job) Points() []Point {
	points := make([]Point, 0, len(j.Survey.Places))
	_, shares := j.SharedLimit()
	for _, pl := range j.Survey.Places {
		p := Point{ID: pl.Point, Place: pl}
		for _, c := range j.Design.Circuits {
			if c.Point == pl.Point {
				p.Circuit = c
				p.Circuit.Shares, p.Circuit.Ahead = shares, j.Design.Ahead
				p.Circuit.Renewed = j.Design.Beside.Renews()
				p.Circuit.OtherWork = j.Design.Bonds != Bonds{} || j.Design.Building != Building{}
			}
		}
		points = append(points, p)
	}
	return points
}

// Point returns the charging point with the id, and whether there is one.
func (j *Job) Point(id string) (Point, bool) {
	for _, p := range j.Points() {
		if p.ID == id {
			return p, true
		}
	}
	return Point{}, false
}

// EVLoads returns what the charging points may draw together, A per phase: each
// at its setting, or all under their shared limit (load curtailment, BS 7671
// 722.311.201, NEC 625.42(A)).
func (j *Job) EVLoads() []quantity.Ampere {
	var list []quantity.Ampere
	var sum quantity.Ampere
	for i := range j.Design.Circuits {
		if c := &j.Design.Circuits[i]; c.Charges() {
			list = append(list, c.Draws())
			sum += c.Draws()
		}
	}
	if limit, shared := j.SharedLimit(); shared && sum > limit {
		return []quantity.Ampere{limit}
	}
	return list
}

// SharedLimit returns the limit that two or more points keep to together, and
// whether they do.
func (j *Job) SharedLimit() (quantity.Ampere, bool) {
	d := &j.Design
	return d.SharedTo, len(d.Circuits) > 1 && d.SharedTo > 0 && (d.Sharing == SharedLimit || d.Sharing == LoadSharing)
}

// DesignDigest returns a short digest of what a design signature covers: supply,
// bonding, board, what else the supply feeds, places and circuits. It changes with any
// of their values, but not with the customer's figures of tariff and fuel.
func (j *Job) DesignDigest() string {
	s, design := &j.Survey, j.Design
	design.Money = Money{}
	return wide + digest2(j.Rulebook, &s.Supply, &s.Bonding, &s.Board, &s.Dwelling, s.Loads, s.Places, &design)
}

// wide begins the digests of this program: of what fields hold, and of designs with
// bonding, dwelling and loads. Without it a digest is of an older program, by JSON.
const wide = "2-"

// SignsDesign reports whether a design signature is of the design as it stands. The
// signatures of an older program did not cover bonding, dwelling and loads: they hold
// for what they covered.
func (j *Job) SignsDesign(e *Entry) bool {
	if strings.HasPrefix(e.Value, wide) {
		return e.Value == j.DesignDigest()
	}
	design := j.Design
	design.Money = Money{}
	return e.Value == digestOf(j.Rulebook, j.Survey.Supply, j.Survey.Board, j.Survey.Places, design)
}

// ConstructionDigest returns a short digest of what a construction signature covers:
// places and circuits as built, steps, torques and settings. Readings are the
// inspection's, which the seal signs.
func (j *Job) ConstructionDigest() string {
	built, done := j.built()
	return wide + digest2(built.Survey.Places, built.Design.Circuits, done)
}

// SignsConstruction reports whether a construction signature is of what was built as it
// stands.
func (j *Job) SignsConstruction(e *Entry) bool {
	if strings.HasPrefix(e.Value, wide) {
		return e.Value == j.ConstructionDigest()
	}
	built, done := j.built()
	return e.Value == digestOf(built.Survey.Places, built.Design.Circuits, done)
}

// built returns the job as built, and what was done to build it.
func (j *Job) built() (*Job, [][5]string) {
	built := j.Built()
	done := make([][5]string, 0, min(len(j.Log), 64))
	for _, e := range j.Of(StepDone, TorqueMade, SettingMade, Varied, PutRight) {
		switch {
		case e.Kind == StepDone && e.Subject != "answer" && e.Subject != "clock",
			e.Kind == TorqueMade,
			e.Kind == SettingMade && len(AgreedWords(e.Subject)) == 0,
			e.Kind == Varied, e.Kind == PutRight:
			done = append(done, [5]string{string(e.Kind), e.Point, e.Subject, e.Value, e.Target})
		}
	}
	return built, done
}

// digestOf is a short digest of values, "" where they cannot be written.
func digestOf(values ...any) string {
	b, err := json.Marshal(values)
	if err != nil {
		return ""
	}
	sum := sha256.Sum256(b)
	return hex.EncodeToString(sum[:8])
}

// Sign fills in what a signature covers as the job stands; an entry that signs nothing
// covers nothing.
func (j *Job) Sign(e *Entry) {
	if e.Covers = ""; e.Kind != SignedOff {
		return
	}
	switch e.Subject {
	case "design":
		e.Value = j.DesignDigest()
	case "construction":
		e.Value = j.ConstructionDigest()
	case "testing":
		e.Value = j.TestingDigest()
	}
	var parts []string
	built := j.Built()
	for i := range built.Design.Circuits {
		c := &built.Design.Circuits[i]
		device := digestOf(c.Breaker, c.RCD, c.Cable, c.Setting)
		charger := digestOf(c.Charger.Type, c.Charger.Serial, c.Charger.Rating, c.Charger.Phases, c.Charger.DCDetection, c.Setting)
		parts = append(parts, c.Point+"="+device[:8]+"/"+charger[:8])
	}
	e.Covers = strings.Join(parts, " ")
}

// Covered returns the digests of a point's device and charger that a signature covers,
// "" where it does not say.
func (e *Entry) Covered(point string) (device, charger string) {
	for _, part := range strings.Fields(e.Covers) {
		if p, digests, ok := strings.Cut(part, "="); ok && p == point {
			device, charger, _ = strings.Cut(digests, "/")
		}
	}
	return device, charger
}

// EntryKind says what an entry of the log records.
type EntryKind string

// The kinds of entry.
const (
	StepDone    EntryKind = "step"     // an installation step was done
	ReadingMade EntryKind = "reading"  // a test instrument was read
	TorqueMade  EntryKind = "torque"   // a terminal was tightened
	SettingMade EntryKind = "setting"  // a charger setting was made
	Overridden  EntryKind = "override" // a qualified person accepted a stop, with reason
	SignedOff   EntryKind = "signoff"  // a person took responsibility for a part of the work
	PhotoTaken  EntryKind = "photo"    // a picture of a step, by its digest
	Noted       EntryKind = "note"     // anything else worth keeping, near misses included
	TakenBack   EntryKind = "takeback" // an entry never should have been written: it stays to be read, and counts no more
)

// SwitchedOn is the subject of the step that puts voltage on the work. It is never taken back:
// what follows it is isolation.
const SwitchedOn = "energise"

// MayGo reports whether an entry can be taken back at all.
func (e *Entry) MayGo() bool {
	return e.Kind != TakenBack && e.Kind != Withdrawn && !(e.Kind == StepDone && e.Subject == SwitchedOn)
}

// Entry is one line of the append-only log. It is never changed or deleted: a
// correction is a new entry that names what it replaces.
type Entry struct {
	ID      string    `json:"id" minLength:"8" maxLength:"64" doc:"Made on the device that wrote the entry. The same id twice is one entry."`
	Kind    EntryKind `json:"kind" doc:"What the entry records."`
	At      time.Time `json:"at" doc:"When it happened, by the device's clock."`
	By      string    `json:"by,omitempty" maxLength:"80" doc:"Who did it. The program fills this in from the signed-in person."`
	Person  string    `json:"person,omitempty" maxLength:"40" doc:"Account of who did it, by its id on the firm's server. The program fills this in."`
	Point   string    `json:"point,omitempty" maxLength:"8" doc:"Charging point, where the entry belongs to one."`
	Subject string    `json:"subject,omitempty" maxLength:"80" doc:"Which step, test, terminal, setting, rule or role, by its id."`
	Value   string    `json:"value,omitempty" maxLength:"200" doc:"What was read or done, as entered: 0.52, >999, correct, lock 3."`
	Unit    string    `json:"unit,omitempty" maxLength:"12" doc:"Unit of the value."`
	Target  string    `json:"target,omitempty" maxLength:"40" doc:"Torque from the terminal's label, in the entry's unit."`

	// Covers is filled in with a signature.
	Covers string `json:"covers,omitempty" maxLength:"600" doc:"Digests of the device and the charger of each point when it was signed. The program fills this in."`

	Day string `json:"day,omitempty" format:"date" doc:"Day of it, where a paper says one."`

	// Strokes are drawn in a box of SignatureWidth by SignatureHeight.
	Strokes string `json:"strokes,omitempty" maxLength:"12000" pattern:"^(M[0-9]{1,3} [0-9]{1,3}(L[0-9]{1,3} [0-9]{1,3})*)+$" doc:"A signature as it was drawn: paths of SVG, in a box of 600 by 200."`

	Instrument string    `json:"instrument,omitempty" maxLength:"80" doc:"Instrument used, by its serial or inventory number."`
	Arrived    time.Time `json:"arrived,omitempty,omitzero" doc:"When it reached the server, where a device kept it meanwhile. The program fills this in."`
	Calibrated string    `json:"calibratedUntil,omitempty" format:"date" doc:"Last day of the instrument's calibration by the firm's register. The program fills this in."`
	Second     string    `json:"second,omitempty" maxLength:"80" doc:"Second person who saw it, where the firm asks for one."`
	Reason     string    `json:"reason,omitempty" maxLength:"1000" doc:"Why: for overrides, corrections and notes."`
	Replaces   string    `json:"replaces,omitempty" maxLength:"64" doc:"Id of the entry that this one corrects, tests again or takes back."`
	Imported   *Import   `json:"imported,omitempty" doc:"Where the entry came in by a file: all else is what the file claims. The program fills this in."`
}

// Import says of an entry that it came in by a file.
type Import struct {
	By     string    `json:"by" maxLength:"80" doc:"Who read the file in."`
	At     time.Time `json:"at" doc:"When it was read in."`
	Digest string    `json:"digest" pattern:"^[0-9a-f]{64}$" doc:"SHA-256 of the entry as the file had it, in canonical JSON (RFC 8785)."`
}

// Signs reports whether an entry binds who it names: what a file claims binds nobody.
func (e *Entry) Signs() bool { return e.Imported == nil }

// Binding are the kinds of entries that bind somebody.
var Binding = []EntryKind{SignedOff, Overridden, Withdrawn, HandedOver}

// Said is what an entry says, for the chain in which a device without signal keeps what
// it logs: fields with tabs between them, the time in ms since 1970.
func (e *Entry) Said() string {
	said := []string{e.ID, string(e.Kind), strconv.FormatInt(e.At.UnixMilli(), 10), e.Point, e.Subject, e.Value, e.Reason, e.Replaces}
	if e.Strokes != "" {
		said = append(said, e.Strokes)
	}
	if e.Day != "" {
		said = append(said, e.Day)
	}
	return strings.Join(said, "\t")
}
