package record

import (
	"maps"
	"slices"
	"strconv"
	"strings"
	"time"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/panel"
	"dogbolt/core/quantity"
	"dogbolt/core/rulebook"
	"dogbolt/core/sizing"
	"dogbolt/core/verdict"
)

// Document is a printed paper: what it says, in order, without any layout.
type Document struct {
	Lang   string  `json:"lang,omitempty"` // other than the country's papers have, as BCP 47 has it
	Title  string  `json:"title"`
	Number string  `json:"number"` // job number, printed on each page
	Blocks []Block `json:"blocks"`
}

// Block is one part of a document: a heading with text, pairs, a table, photos, or a
// place where a diagram or the site plan goes.
type Block struct {
	Heading  string      `json:"heading"`
	Text     []string    `json:"text,omitempty"`
	Caution  bool        `json:"caution,omitempty"` // the text warns
	Pairs    [][2]string `json:"pairs,omitempty"`
	Table    *Table      `json:"table,omitempty"`
	Diagram  string      `json:"diagram,omitempty"` // id of the point whose one-line diagram goes here
	Across   bool        `json:"across,omitempty"`  // printed on a page that lies across
	Plan     bool        `json:"plan,omitempty"`    // the site plan goes here
	Space    bool        `json:"space,omitempty"`   // the working space in front of the board, drawn
	Pictures []Picture   `json:"pictures,omitempty"`
	Strokes  string      `json:"strokes,omitempty"` // a signature, drawn
	Code     string      `json:"code,omitempty"`    // an address, drawn as a code for a phone
}

// Picture is a photo of a document, by its digest, with what it shows, when and by whom.
type Picture struct {
	Digest  string `json:"digest"`
	Caption string `json:"caption"`
}

// Table is a table of a document. Verdicts, where given, mark its rows.
type Table struct {
	Columns  []Column          `json:"columns"`
	Rows     [][]string        `json:"rows"`
	Verdicts []verdict.Verdict `json:"verdicts,omitempty"`
}

// Column is a column of a table, its width as a share of the page.
type Column struct {
	Title string  `json:"title"`
	Share float64 `json:"share"`
	Right bool    `json:"right,omitempty"`
}

// builder gathers the blocks of a document about one record.
type builder struct {
	r    *Record
	j    *job.Job
	book *rulebook.Book // nil where this program does not know it
	in   *jurisdiction.Jurisdiction
	zone *time.Location
	doc  Document

	phrases Phrases      // of the document's language; nil for English
	heard   func(string) // of each text that is told, for tests; nil otherwise
}

func (b *builder) add(block Block) { b.doc.Blocks = append(b.doc.Blocks, block) }

// build begins a document about a record. The country is that of its rulebook; one
// that this program does not know is refused long before a record is printed.
func build(r *Record, title string) *builder {
	b := &builder{r: r, j: r.Job.Built(), in: new(jurisdiction.Jurisdiction), doc: Document{Title: title, Number: r.Job.Number}}
	if book, ok := rulebook.Find(r.Job.Rulebook); ok {
		b.book, b.in = book, book.In
	}
	var err error
	if b.zone, err = time.LoadLocation(r.Zone); err != nil {
		b.zone = time.UTC
	}
	return b
}

// moment writes a time by the clock of the site, with its zone's letters: 28 Nov 2026 08:21 GMT.
func (b *builder) moment(t time.Time) string {
	return b.phrases.date(t.In(b.zone), b.date()) + t.In(b.zone).Format(" 15:04 MST")
}

// day writes a day as the country does; what is none stays as it is.
func (b *builder) day(s string) string {
	if t, err := time.Parse(time.DateOnly, s); err == nil {
		return b.phrases.date(t, b.date())
	}
	return s
}

func (b *builder) date() string {
	if b.in.Date == "" {
		return "2 Jan 2006"
	}
	return b.in.Date
}

// editions says which edition judged, and what of it is not known.
func (b *builder) editions() []string {
	notes := []string{rulebook.Notice}
	if b.book != nil {
		notes = b.book.Editions()
	}
	for i := range notes {
		notes[i] = b.say(notes[i])
	}
	return append([]string{b.say("Judged by %s.", b.r.Edition) + " " + notes[0]}, notes[1:]...)
}

// length writes a length in the country's unit.
func (b *builder) length(m quantity.Metre) string {
	if m == 0 {
		return "not recorded"
	}
	return b.in.Units.Length.SayTo(float64(m), b.in.Units.Length.Exact)
}

// online prints where the papers are read on a page, and how they stand; nothing where there is no page.
func (b *builder) online() {
	if b.r.Page != "" {
		b.add(Block{Heading: b.say("On a page"), Code: b.r.Page, Pairs: [][2]string{{"Address", b.r.Page}}})
	}
}

func text(s string) string {
	if s == "" {
		return "not recorded"
	}
	return s
}

// Inspection returns the inspection record: everything that was seen, chosen,
// done and measured, with every verdict.
func Inspection(r *Record) Document {
	b := build(r, "Inspection record")
	b.head()
	b.overrides()
	b.variations()
	b.changes()
	b.supply()
	if _, mapped := panel.WorkOf(b.j); mapped {
		b.board()
	}
	for _, p := range b.j.Points() {
		b.point(p)
		b.readings(p)
	}
	b.sitePlan()
	b.permissions()
	b.steps()
	b.pictures()
	b.findings()
	b.signatures()
	b.receipt()
	b.online()
	b.add(Block{Heading: "Editions and limits", Text: b.editions()})
	return b.doc
}

// sitePlan prints the site plan, where one was drawn.
func (b *builder) sitePlan() {
	if plan := &b.j.Survey.SitePlan; len(plan.Walls)+len(plan.Bays) > 0 {
		b.add(Block{Heading: "Site plan", Plan: true})
	}
}

// pictures prints the photos of the survey, in the order of their kinds, and those of the steps.
func (b *builder) pictures() {
	var list []Picture
	for _, kind := range job.PhotoKind("").Values() {
		for _, p := range b.j.Survey.Photos {
			if string(p.Kind) == kind {
				where := ""
				if p.Point != "" {
					where = "point " + p.Point
				}
				list = append(list, Picture{p.Digest, strings.Join(nonEmpty("Survey: "+p.Kind.Said(), where, p.Note), ", ")})
			}
		}
	}
	titles, _ := b.names()
	for _, e := range b.j.Of(job.PhotoTaken) {
		step := titles[e.Subject]
		if e.Point != "" {
			step += ", point " + e.Point
		}
		list = append(list, Picture{e.Value, strings.Join(nonEmpty(step, e.Reason, b.said(*e)), "; ")})
	}
	if len(list) > 0 {
		b.add(Block{Heading: "Photos", Pictures: list})
	}
}

// variations prints what was built otherwise than designed, with names and
// reasons, those that were followed by another included.
func (b *builder) variations() {
	var rows [][]string
	for _, e := range b.r.Job.Log {
		if e.Kind != job.Varied {
			continue
		}
		v, _ := job.FindVariation(e.Subject)
		was := ""
		if p, ok := b.r.Job.Point(e.Point); ok && v.Title != "" {
			was = v.Value(p)
		}
		rows = append(
			rows,
			[]string{
				e.Point,
				v.Title,
				strings.TrimSpace(was + " " + v.Unit),
				strings.TrimSpace(e.Value + " " + v.Unit),
				b.said(e) + ": " + e.Reason,
			},
		)
	}
	if len(rows) > 0 {
		b.add(
			Block{
				Heading: "Built otherwise than designed",
				Table: &Table{
					Columns: []Column{
						{Title: "Point", Share: 0.07},
						{Title: "What", Share: 0.22},
						{Title: "Designed", Share: 0.16},
						{Title: "Built", Share: 0.16},
						{Title: "Who and why", Share: 0.39},
					},
					Rows: rows,
				},
			},
		)
	}
}

// who is for whom, where and by whom, and the edition that judged.
func (b *builder) who() [][2]string {
	s, c := &b.j.Site, &b.r.Contractor
	return [][2]string{
		{"Customer", text(s.Customer)},
		{"Site", text(strings.Join(nonEmpty(s.Street, s.Town, s.Postcode), ", "))},
		{"Contractor", text(strings.Join(nonEmpty(c.Name, c.Address, c.Phone, c.Scheme), ", "))},
		{"Judged by", b.r.Edition},
	}
}

func (b *builder) head() {
	pairs := b.who()
	if before := b.j.Site.Follows; before != "" {
		pairs = append(pairs, [2]string{"After job", before})
	}
	pairs = append(pairs, [2]string{"Issue", strconv.Itoa(b.r.Issue)}, [2]string{"Sealed", b.sealed()})
	if b.r.Replaces != "" {
		pairs = append(pairs, [2]string{"Replaces issue", Code(b.r.Replaces) + ", " + b.r.Reason})
	}
	b.add(Block{Heading: b.say("Installation"), Pairs: pairs})
}

// sealed says when and by whom; a preview has no seal yet.
func (b *builder) sealed() string {
	if b.r.SealedAt.IsZero() {
		return "not sealed yet"
	}
	return b.r.SealedBy + ", " + b.moment(b.r.SealedAt)
}

func nonEmpty(list ...string) []string {
	var out []string
	for _, s := range list {
		if s != "" {
			out = append(out, s)
		}
	}
	return out
}

// system is what the country calls the supply's system; "" while it is not known.
func (b *builder) system() string {
	if p := &b.j.Survey.Supply; b.in.Systems.Has(p.System) {
		return b.in.Systems.Of(p).Name
	}
	return ""
}

func (b *builder) supply() {
	s, bd := b.j.Survey.Supply, b.j.Survey.Board
	pairs := [][2]string{
		{"System", text(b.system())},
		{"Phases", quantity.Recorded(float64(s.Phases), "")},
		{"Service rating", quantity.Recorded(float64(s.Rating), "A")},
		{"Voltage at survey", quantity.Entered(s.Voltage, "V")},
	}
	if b.in.Supply != nil {
		pairs = append(pairs, b.in.Supply(&s)...)
	}
	if s.ElectrodeRA > 0 {
		pairs = append(pairs, [2]string{"Earth electrode", quantity.Recorded(float64(s.ElectrodeRA), "Ω")})
	}
	pairs = append(pairs, [2]string{"Board", strings.Join(nonEmpty(bd.Label, quantity.Recorded(float64(bd.Rating), "A")), ", ")})
	if found, by := bd.UpstreamRCDType, b.j.Design.Ahead; by.Type != "" {
		says := "type " + text(string(found)) + " found; replaced by type " + string(by.Type)
		says += quantity.Say(", {} A, {} mA, which feeds too: ", float64(by.Rating), by.TripMA) + text(by.Feeds)
		pairs = append(pairs, [2]string{"Residual device upstream", says})
	}
	switch d := &b.j.Design.Beside; {
	case d.Renews():
		pairs = append(pairs, [2]string{"New " + strings.ToLower(b.in.Asked.Words["board"]) + " in its place", b.renewed(d)})
	case d.Small():
		says := text(d.Where) + quantity.Say(", {} ways, main switch {} A, ", float64(d.Ways), float64(d.Rating))
		says += quantity.Say("tails {} mm², {1} m, connector blocks {} A, earth {} mm²", float64(d.Tails), float64(d.Length), float64(d.Blocks), float64(d.Earth))
		pairs = append(pairs, [2]string{"Small board of the points", says})
	}
	if _, list := b.j.Design.Building.Mends(b.j.Survey.Board.Outbuilding); len(list) > 0 {
		pairs = append(pairs, [2]string{"Put right at the building", strings.Join(list, ", ")})
	}
	if list := b.j.Bonds(); len(list) > 0 {
		pairs = append(pairs, [2]string{"Main bonding with this work", strings.Join(list, ", ") + quantity.Say(", {} mm²", float64(b.j.Design.Bonds.Size))})
	}
	if mm := b.j.Design.Bonds.Conductor; mm > 0 {
		pairs = append(pairs, [2]string{"Earthing conductor", quantity.Say("{} mm² found, replaced by {} mm²", float64(b.j.Survey.Bonding.Conductor), float64(mm))})
	}
	b.add(Block{Heading: "Supply and earthing", Pairs: pairs})
}

// renewed is what takes the place of the board that was found.
func (b *builder) renewed(d *job.Beside) string {
	says := text(d.Where) + quantity.Say(", {} A, devices break {} kA, ", float64(d.Rating), d.BreakingKA)
	says += quantity.Say("of {} "+strings.ToLower(b.in.Asked.Words["space"])+"s {} are of circuits moved over", float64(d.Ways), float64(d.Taken))
	if d.Tails > 0 {
		says += quantity.Say(", tails {} mm², {1} m, earth {} mm²", float64(d.Tails), float64(d.Length), float64(d.Earth))
	}
	if d.Ahead.There() {
		says += quantity.Say(", residual device type "+string(d.Ahead)+", {} A, ahead of the points", float64(d.AheadRating))
	}
	if d.Tried == job.No {
		says += "; the circuits were not tested before the change"
	}
	for _, lacks := range []struct {
		said job.Answer
		what string
	}{{d.Surge, "surge protection"}, {d.Outside, "a disconnect outdoors"}} {
		if lacks.said == job.No {
			says += "; without " + lacks.what
		}
	}
	return says
}

// cableText is a cable with what serves as its protective conductor.
func cableText(c *job.Cable) string {
	earth := c.Earth.Said()
	if c.EarthSize != "" {
		earth = c.EarthSize
	}
	return strings.Join(nonEmpty(c.Size, sizing.FamilyName(c.Family)), " ") + ", earth: " + text(earth)
}

func (b *builder) point(p job.Point) {
	c := p.Circuit
	unit := []string{c.Charger.Type, "serial " + text(commission.SerialOf(b.j, &c))}
	if c.Charges() {
		unit = append(unit, quantity.Recorded(float64(c.Charger.Rating), "A rated"))
	}
	pairs := [][2]string{{"Position", text(p.Place.Name)}, {"By this work", c.Said()}, {"Charger", strings.Join(nonEmpty(unit...), ", ")}}
	switch {
	case c.EndsInBoard():
		pairs = append(pairs[:2], b.end(&c)...)
	case c.Charges():
		pairs = append(pairs, [2]string{"Set to", quantity.Recorded(float64(c.Setting), "A")})
	}
	pairs = append(pairs, given([][2]string{
		{"Fault", c.Mended.Fault}, {"Cause", c.Mended.Cause}, {"Mended", c.Mended.Part.Said()}, {"Other address", c.Charger.Moved}, {"Closes", c.Charger.Closes},
	})...)
	if c.Charges() || c.Breaker.Rating > 0 {
		pairs = append(pairs, [2]string{"Overcurrent device", strings.TrimSpace(string(c.Breaker.Curve) + quantity.Recorded(float64(c.Breaker.Rating), "A"))})
	}
	if c.RCD.Fitted == job.Yes {
		pairs = append(pairs, [2]string{"Residual current device", "type " + text(string(c.RCD.Type)) + ", " + quantity.Recorded(c.RCD.TripMA, "mA")})
	}
	if c.Charges() || c.Cable.Size != "" {
		pairs = append(pairs, [2]string{"Cable", cableText(&c.Cable)})
	}
	if p.Joined() {
		beyond := cableText(&c.Beyond.Cable) + ", " + b.length(p.Last().Place.Length())
		if c.Extended() {
			beyond += ", new"
		}
		pairs = append(pairs, [2]string{"Cable beyond a joint box", beyond})
	}
	if c.Charges() || len(p.Place.Route) > 0 {
		pairs = append(pairs, [2]string{"Route", b.length(p.Place.Length())})
	}
	if c.Side != "" {
		pairs = append(pairs, [2]string{"Beside the second source", c.Side.Said()})
	}
	if c.Earthing.OpenPEN != "" {
		pairs = append(pairs, [2]string{"Open-PEN protection", c.Earthing.OpenPEN.Said()})
	}
	if c.SPD != "" {
		pairs = append(pairs, [2]string{"Surge protection", strings.Join(nonEmpty(c.SPD.Said(), c.SPDReason), ": ")})
	}
	for _, e := range b.j.Log {
		if e.Kind == job.SettingMade && e.Point == p.ID {
			pairs = append(pairs, [2]string{b.setting(e.Subject), quantity.Entered(e.Value, e.Unit) + ", " + b.said(e)})
		}
	}
	for _, why := range nonEmpty(p.Place.Why, c.Why) {
		pairs = append(pairs, [2]string{"Reason", why})
	}
	b.add(Block{Heading: "Circuit and devices, point " + p.ID, Pairs: pairs, Diagram: p.ID})
	b.route(p)
}

// end is the board that a sub-main ends in.
func (b *builder) end(c *job.Circuit) [][2]string {
	e := &c.End
	says := nonEmpty(quantity.Recorded(float64(e.Ways), "ways"), quantity.Recorded(float64(e.Rating), "A"), quantity.Recorded(e.BreakingKA, "kA"), e.IP, string(e.Enclosure))
	drawn := quantity.Recorded(float64(c.Setting), "A")
	if e.Other != nil {
		drawn += quantity.Say(", of which {} A are no charging", float64(*e.Other))
	}
	pairs := [][2]string{{"Board at the end", strings.Join(says, ", ")}, {"Drawn over the sub-main", drawn}}
	for _, x := range []struct {
		what string
		is   job.Answer
	}{{"Metal comes in there", e.Metal}, {"Disconnect at the building", e.Disconnect}, {"Electrode at the building", e.Electrode}, {"Neutral apart from ground", e.Neutral}} {
		if x.is != job.Unasked {
			pairs = append(pairs, [2]string{x.what, string(x.is)})
		}
	}
	return pairs
}

// route prints a point's route as it was built, from the board on.
func (b *builder) route(p job.Point) {
	t := &Table{Columns: []Column{{"", 0.06, false}, {"How it runs", 0.36, false}, {"Length", 0.14, true}, {"Where", 0.44, false}}}
	for i, s := range p.Place.Route {
		where := s.Note
		if i+1 == p.Circuit.Beyond.From {
			where = strings.Join(nonEmpty("from the joint box on", where), "; ")
		}
		t.Rows = append(t.Rows, []string{strconv.Itoa(i + 1), text(b.method(s.Method)), b.length(s.Run()), where})
	}
	if len(t.Rows) > 0 {
		b.add(Block{Heading: "Route as built, point " + p.ID, Table: t})
	}
}

// method is what the country calls a way of installing; its own word where it has none.
func (b *builder) method(m job.Method) string {
	for _, term := range b.in.Asked.Methods {
		if term.Value == string(m) {
			return term.Text
		}
	}
	return string(m)
}

func (b *builder) findings() {
	t := &Table{Columns: []Column{{"Finding", 0.28, false}, {"Clause", 0.20, false}, {"Working", 0.52, false}}}
	for _, f := range b.r.Findings {
		title := f.Title
		if f.Point != "" {
			title += ", " + f.Point
		}
		working := f.Working
		if f.Verdict == verdict.Open {
			working = "not judged, missing: " + f.Missing
		}
		if f.Remedy != "" {
			working += ". " + f.Remedy
		}
		t.Rows = append(t.Rows, []string{title, f.Clause, working})
		t.Verdicts = append(t.Verdicts, f.Verdict)
	}
	b.add(Block{Heading: "Findings", Table: t})
}

func (b *builder) overrides() {
	block := Block{Heading: "Stops accepted by a qualified person", Caution: true}
	for _, f := range b.r.Findings {
		if f.By != "" {
			block.Text = append(block.Text, f.Title+" ("+f.Clause+"): accepted by "+f.By+". Reason: "+f.Reason)
		}
	}
	if len(block.Text) > 0 {
		b.add(block)
	}
}

func (b *builder) signatures() {
	var pairs [][2]string
	parts := map[string][]string{}
	for _, role := range job.Roles {
		title := job.RoleSaid(role)
		e, ok := b.j.Latest(job.SignedOff, "", role)
		switch {
		case ok:
			pairs = append(pairs, [2]string{title, strings.Join(nonEmpty(e.By, b.r.Contractor.Name, b.moment(e.At)), ", ")})
			parts[e.By] = append(parts[e.By], strings.ToLower(title))
		case role == "testing" && !b.j.Removes(): // of older records, whose tests were signed by the seal
			pairs = append(pairs, [2]string{title, b.sealed()})
		}
	}
	pairs = append(pairs, [2]string{"Sealed by", b.sealed()}, [2]string{"Worked to", b.r.Edition})
	for _, by := range slices.Sorted(maps.Keys(parts)) {
		if list := parts[by]; len(list) > 1 {
			pairs = append(pairs, [2]string{"One person in several parts", by + ": " + strings.Join(list, ", ")})
		}
	}
	b.add(Block{Heading: "Signatures", Pairs: pairs})
}
