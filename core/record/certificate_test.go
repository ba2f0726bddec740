package record_test

import (
	"slices"
	"strings"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/record"
	"dogbolt/core/rulebook"
)

// said are the lines and the first row of every table of a document, by heading and title.
func said(doc *record.Document) map[string]string {
	out := map[string]string{}
	for _, b := range doc.Blocks {
		for _, p := range b.Pairs {
			out[b.Heading+": "+p[0]] = p[1]
		}
		if b.Table == nil || len(b.Table.Rows) == 0 {
			continue
		}
		for k, c := range b.Table.Columns {
			out[b.Heading+": "+c.Title] = b.Table.Rows[0][k]
		}
	}
	return out
}

// TestCertificateSays: what a certificate says of the example job, and how that changes with the job. Zs: 230 V ×
// 0.95 ÷ (5 × 40 A) × 0.8 (BS 7671 table 41.3, appendix 3); 1667 Ω of table 41.5 at 30 mA; reference methods: table
// 4A2; ten years: GN3 table 3.2. All from memory.
func TestCertificateSays(t *testing.T) {
	circuit := func(f func(*job.Circuit)) func(*job.Job) { return func(j *job.Job) { f(&j.Design.Circuits[0]) } }
	routed := func(m ...job.Method) func(*job.Job) {
		return func(j *job.Job) {
			j.Survey.Places[0].Route = nil
			for _, way := range m {
				j.Survey.Places[0].Route = append(j.Survey.Places[0].Route, job.Segment{Method: way, Length: 2})
			}
		}
	}
	gone := func(kind job.EntryKind, subject string) func(*job.Job) {
		return func(j *job.Job) {
			j.Log = slices.DeleteFunc(j.Log, func(e job.Entry) bool { return e.Kind == kind && e.Subject == subject })
		}
	}
	answered := func(item, value, words string) func(*job.Job) {
		return func(j *job.Job) {
			i := slices.IndexFunc(j.Log, func(e job.Entry) bool { return e.Kind == job.Inspected && e.Subject == item })
			j.Log[i].Value, j.Log[i].Reason = value, words
		}
	}
	none := func(*job.Job) {}
	for _, c := range []struct {
		example string
		change  func(*job.Job)
		line    string
		want    string
	}{
		{"uk", none, "Supply: Nominal voltage U0 / U, frequency", "230 V, 50 Hz"},
		{"uk", func(j *job.Job) { j.Survey.Supply.Phases = 3 }, "Supply: Nominal voltage U0 / U, frequency", "230 V / 400 V, 50 Hz"},
		{"uk", none, "Supply: Prospective fault current", "0.86 kA, by measurement"},
		{"uk", gone(job.ReadingMade, "pfc"), "Supply: Prospective fault current", "1.8 kA, by enquiry"},
		{"uk", none, "Supply: External loop impedance Ze", "0.27 Ω, by measurement"},
		{"uk", gone(job.ReadingMade, "ze"), "Supply: External loop impedance Ze", "0.35 Ω, by enquiry"},
		{"uk", none, "Supply: Supply device", "BS 88-3, 100 A"},
		{"uk", none, "Supply: Other sources", "none"},
		{"uk", func(j *job.Job) {
			j.Survey.Supply.OtherSource = job.Yes
			answered("sources", "limited", "not reached")(j)
		}, "Supply: Other sources", "yes; isolation, notice and interlock limited"},
		{"uk", func(j *job.Job) { j.Survey.Supply.OtherSource = "" }, "Supply: Other sources", "not recorded"},
		{"uk", none, "Earthing and bonding: Earthing conductor", "16 mm², copper; continuity 0.03 Ω"},
		{"uk", none, "Earthing and bonding: Main bonding conductors", "10 mm², copper; continuity 0.03 Ω"},
		{"uk", none, "Earthing and bonding: Bonded", "water enters in plastic, gas yes, oil none, structural steel none, other none"},
		{"uk", none, "What is certified: Next inspection not later than", "4 May 2036 (10 years; dwelling lived in by its owner; sooner at a change of occupier)"},
		{"uk", none, "Circuit details: Reference method", "C"},
		{"uk", routed(job.Surface, job.Buried, job.Trunking, job.ThroughWall, job.ConduitInWall), "Circuit details: Reference method", "C, D, B, C, A"},
		{"uk", routed(job.StudWall, job.CeilingThin, job.CeilingThick, job.InInsulation, job.Catenary), "Circuit details: Reference method", "102, 100, 101, 103, E"},
		{"uk", none, "Circuit details: Zs at most, cold", "0.87 Ω"},
		{"uk", circuit(func(c *job.Circuit) { c.FaultByRCD = job.Yes }), "Circuit details: Zs at most, cold", "1666.667 Ω, by the residual device"},
		{"uk", none, "Circuit details: Breaks", "6 kA"},
		{"uk", circuit(func(c *job.Circuit) { c.Breaker.BreakingKA = 0 }), "Circuit details: Breaks", "6 kA"},
		{"uk", none, "Circuit details: Protective", "6.0 mm²"},
		{"uk", circuit(func(c *job.Circuit) { c.RCD.Delayed = job.Yes }), "Circuit details: Residual: type", "A, S"},
		{"uk", none, "Test results: Insulation at", "500 V"},
		{"uk", answered("insulation-voltage", "250 V: what is vulnerable could not be disconnected", ""), "Test results: Insulation at", "250 V"},
		{"uk", answered("unit-button", "limited", "freezers on it"), "Test results: Test button", "not pressed: freezers on it"},
		{"uk", answered("unit-button", "not-right", "nothing happens"), "Test results: Test button", "not recorded"},
		{"us", none, "Circuit details: Conductors", "6 AWG copper, THWN-2 in EMT"},
		{"us", none, "Circuit details: Ground", "10 AWG"},
		{"us", circuit(func(c *job.Circuit) { c.Cable.EarthSize = "" }), "Circuit details: Ground", "not recorded"},
		{"us", circuit(func(c *job.Circuit) { c.Cable.EarthSize, c.Cable.Family = "", job.NMB }), "Circuit details: Ground", "in the cable"},
		{"us", none, "Circuit details: Breaker", "60 A, 2 poles"},
		{"us", none, "Service and panel: Calculated load", "124.1 A with charging, by 220.83(A)"},
	} {
		r := sample(t, c.example+"-pass.json")
		c.change(&r.Job)
		doc := record.Certificate(&r)
		if got, ok := said(&doc)[c.line]; got != c.want {
			t.Errorf("%s, %s: %q (%t), want %q", c.example, c.line, got, ok, c.want)
		}
	}
}

// TestPapersOfAnyJob: every paper of every edition is made of a job that is hardly begun, and says of what is
// not known that it is not.
func TestPapersOfAnyJob(t *testing.T) {
	mapped := job.Board{Ways: 12, Slots: []job.Slot{{At: 1, Circuit: "main switch", Fixed: job.Yes}}}
	for _, book := range rulebook.All() {
		for name, survey := range map[string]job.Survey{
			"empty": {}, "a board": {Board: mapped}, "a place": {Board: mapped, Places: []job.Place{{Point: "A"}}},
			"a full board": {Board: job.Board{Ways: 1, Slots: mapped.Slots}, Places: []job.Place{{Point: "A"}, {Point: "B"}}},
		} {
			r := record.Record{Job: job.Job{Rulebook: book.ID, Survey: survey}, Edition: book.Name, Contractor: record.Contractor{Phone: "0100 555 0142"}}
			for _, doc := range []record.Document{record.Certificate(&r), record.Package(&r), record.Inspection(&r), record.Pack(&r)} {
				for _, b := range doc.Blocks {
					if b.Heading == "" || len(b.Text)+len(b.Pairs) == 0 && b.Table == nil && !b.Plan {
						t.Errorf("%s, %s, %s: an empty part %q", book.ID, name, doc.Title, b.Heading)
					}
				}
				for line, value := range said(&doc) {
					if strings.TrimSpace(value) == "" && !strings.Contains(line, ": A") && !strings.Contains(line, "By, when") && !strings.Contains(line, "Before") {
						t.Errorf("%s, %s, %s: %s says nothing", book.ID, name, doc.Title, line)
					}
				}
			}
			if book.In.Labels != nil {
				if list := book.In.Labels(rulebook.FactsOf(book.In, &r.Job, book.Demand(&r.Job))); len(list) > 0 {
					t.Errorf("%s, %s: labels %+v", book.ID, name, list)
				}
			}
		}
	}
}

// TestBoardAfter: the board's schedule has the new breaker where it goes, each point with its own rating, and what
// moved for it, with its rating.
func TestBoardAfter(t *testing.T) {
	r := sample(t, "us-pass.json")
	j := &r.Job
	j.Survey.Board.Ways, j.Survey.Board.Layout = 8, job.Columns
	j.Survey.Board.Slots = []job.Slot{{At: 1, Poles: 2, Circuit: "range", Rating: 50}, {At: 2, Circuit: "lights", Rating: 15}, {At: 6, Circuit: "outlets", Rating: 20}}
	p, c := j.Survey.Places[0], j.Design.Circuits[0]
	p.Point, c.Point, c.Breaker.Rating = "B", "B", 40
	j.Survey.Places, j.Design.Circuits = append(j.Survey.Places, p), append(j.Design.Circuits, c)
	doc := record.Package(&r)
	i := slices.IndexFunc(doc.Blocks, func(b record.Block) bool { return b.Heading == "Board before and after" })
	var after []string
	for _, row := range doc.Blocks[i].Table.Rows {
		after = append(after, row[0]+" "+row[3]+" "+row[4])
	}
	text := strings.Join(after, ", ")
	for _, want := range []string{"1 range 50", "3 range 50", "charging point A 60", "charging point B 40", "lights 15", "outlets 20"} {
		if !strings.Contains(text, want) {
			t.Errorf("no %q: %s", want, text)
		}
	}
	if strings.Count(text, "charging point A") != 2 || strings.Count(text, "charging point B") != 2 {
		t.Errorf("breakers of two poles: %s", text)
	}
}

// TestMinorWorks: where no circuit is new the British certificate is that of minor works, with fewer lines; one new circuit beside
// it asks for the whole one. The Americans have one paper for both.
func TestMinorWorks(t *testing.T) {
	for _, c := range []struct {
		file     string
		existing []job.Answer
		title    string
	}{
		{"uk-pass.json", []job.Answer{job.No}, "Electrical installation certificate"},
		{"uk-pass.json", []job.Answer{job.Yes}, "Minor electrical installation works certificate"},
		{"uk-pass.json", []job.Answer{job.Yes, job.Unasked}, "Electrical installation certificate"},
		{"us-pass.json", []job.Answer{job.Yes}, "Inspection checklist and torque log"},
	} {
		r := sample(t, c.file)
		first := r.Job.Design.Circuits[0]
		r.Job.Design.Circuits = nil
		for i, a := range c.existing {
			next := first
			next.Existing, next.Point = a, string(rune('A'+i))
			r.Job.Design.Circuits = append(r.Job.Design.Circuits, next)
		}
		doc := record.Certificate(&r)
		supply := slices.ContainsFunc(doc.Blocks, func(b record.Block) bool { return b.Heading == "Supply" })
		if doc.Title != c.title || supply == strings.HasPrefix(c.title, "Minor") && c.file == "uk-pass.json" {
			t.Errorf("%s, kept %q: %q, supply %v", c.file, c.existing, doc.Title, supply)
		}
	}
}
