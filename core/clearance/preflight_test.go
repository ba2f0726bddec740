package clearance

import (
	"encoding/json"
	"maps"
	"slices"
	"strings"
	"testing"

	"dogbolt/core/job"
)

func digest(n byte) string { return strings.Repeat(string('0'+n), 64) }

func sample(t *testing.T, id string) Definition {
	t.Helper()
	for _, d := range Samples() {
		if d.ID == id {
			return d
		}
	}
	t.Fatalf("no sample %q", id)
	return Definition{}
}

// complete is a grant application that nothing is missing from.
func complete() (*job.Paper, *Facts) {
	j := &job.Job{Number: "DB-1"}
	j.Site = job.Site{Customer: "Anne Dunmore", Street: "8 Orchard Close", Town: "Aldermoor", Postcode: "AM1 3QP", Phone: "0100 555 0188",
		Bill: job.Bill{Name: "ANNE DUNMORE", Street: "8, Orchard Close", Postcode: "AM1 3QP", Account: "2200042424242"}}
	j.Survey.Vehicles = []job.Vehicle{{Name: "hatchback"}}
	j.Survey.Photos = []job.Photo{{Digest: digest(1), Kind: "parking"}, {Digest: digest(2), Kind: "position"}}
	j.Design.Circuits = []job.Circuit{{Point: "A", Charger: job.Charger{Type: "wall unit 32 A", Serial: "WU-1"}}}
	j.Plan.Day = "2027-06-01"
	p := &job.Paper{ID: "grant", Needed: job.Yes, Answers: map[string]string{"vehicle-ordered": "2027-01-20", "quote": "940.00", "quote-day": "2027-02-01"},
		Attached: []job.Attachment{{Kind: "bill", Digest: digest(3)}, {Kind: "quote", Digest: digest(4)}}, SignedBy: "Anne Dunmore", SignedOn: "2027-02-03"}
	picture := File{Type: "image/jpeg", Width: 1600, Height: 1200, Bytes: 300000}
	return p, &Facts{Job: j, Firm: Firm{Name: "Quill and Beacon Electrical"}, Today: "2027-02-03",
		Registrations: []Registered{{Scheme: "Register of charge point installers", Number: "R 77", From: "2026-04-01", Until: "2027-03-31"}},
		Files:         map[string]File{digest(1): picture, digest(2): picture, digest(3): picture, digest(4): {Type: "application/pdf", Pages: 2, Bytes: 90000}}}
}

func TestNothingBounces(t *testing.T) {
	d := sample(t, "coastal-home-charging")
	p, f := complete()
	c := Preflight(&d, p, f)
	if len(c.Lacks) != 0 {
		t.Errorf("%+v", c.Lacks)
	}
	var kinds []string
	for _, e := range c.Enclosed {
		kinds = append(kinds, e.Kind)
	}
	if want := []string{"bill", "parking", "position", "quote", "keeper"}; !slices.Equal(kinds, want) {
		t.Errorf("enclosed in the order %v, the form asks for %v", kinds, want)
	}
	if !c.Enclosed[1].Photo || c.Enclosed[0].Photo || c.Signer != "Anne Dunmore" {
		t.Errorf("%+v", c)
	}
}

// TestEveryTrifle: each thing that forms bounce for (field guide, stage 3) is
// named, alone.
func TestEveryTrifle(t *testing.T) {
	for _, c := range []struct {
		name   string
		change func(*job.Paper, *Facts)
		field  string
		words  string
	}{
		{"entered field", func(p *job.Paper, _ *Facts) { delete(p.Answers, "quote") }, "answers.quote", "Quoted price"},
		{"name not the bill's", func(_ *job.Paper, f *Facts) { f.Job.Site.Bill.Name = "A. Dunmore" }, "site.customer", `name on the energy bill is "A. Dunmore"`},
		{"street not the bill's", func(_ *job.Paper, f *Facts) { f.Job.Site.Bill.Street = "6 Orchard Close" }, "site.street", "6 Orchard Close"},
		{"postcode of another shape", func(_ *job.Paper, f *Facts) { f.Job.Site.Postcode, f.Job.Site.Bill.Postcode = "AM13QP", "AM13QP" }, "site.postcode", "shape"},
		{"supply number too short", func(_ *job.Paper, f *Facts) { f.Job.Site.Bill.Account = "22000424242" }, "bill.account", "shape"},
		{"price in words", func(p *job.Paper, _ *Facts) { p.Answers["quote"] = "about 900" }, "answers.quote", "not a number"},
		{"day that is none", func(p *job.Paper, _ *Facts) { p.Answers["quote-day"] = "1 Feb" }, "answers.quote-day", "not a day"},
		{"photo missing", func(_ *job.Paper, f *Facts) { f.Job.Survey.Photos = f.Job.Survey.Photos[1:] }, "attached.parking", "is missing"},
		{"photo not legible", func(_ *job.Paper, f *Facts) {
			f.Files[digest(2)] = File{Type: "image/jpeg", Width: 1600, Height: 480, Bytes: 9}
		}, "attached.position", "1600 × 480"},
		{"file cannot be read", func(_ *job.Paper, f *Facts) {
			f.Files[digest(4)] = File{Type: "application/pdf", Fault: "ends in the middle"}
		}, "attached.quote", "ends in the middle"},
		{"file of another kind", func(_ *job.Paper, f *Facts) {
			f.Files[digest(4)] = File{Type: "image/png", Width: 2000, Height: 2000}
		}, "attached.quote", "image/png"},
		{"file too large", func(_ *job.Paper, f *Facts) {
			f.Files[digest(3)] = File{Type: "image/jpeg", Width: 4000, Height: 3000, Bytes: 7100200}
		}, "attached.bill", "7101 kB"},
		{"file gone", func(_ *job.Paper, f *Facts) { delete(f.Files, digest(3)) }, "attached.bill", "not kept"},
		{"dates: quotation after the signature", func(p *job.Paper, _ *Facts) { p.Answers["quote-day"] = "2027-02-04" }, "answers.quote-day", "out of order"},
		{"dates: day before the application", func(_ *job.Paper, f *Facts) { f.Job.Plan.Day = "2027-01-28" }, "answers.today", "before the day of the work"},
		{"signature", func(p *job.Paper, _ *Facts) { p.SignedBy = "" }, "signedBy", "signature is missing"},
		{"signature of somebody else", func(p *job.Paper, _ *Facts) { p.SignedBy = "M. Farrant" }, "signedBy", "names"},
		{"signature to come", func(p *job.Paper, _ *Facts) { p.SignedOn = "2027-02-09" }, "signedOn", "still to come"},
		{"registration ended", func(_ *job.Paper, f *Facts) { f.Today = "2027-04-01" }, "registration", "2027-03-31"},
		{"registration with another register", func(_ *job.Paper, f *Facts) { f.Registrations[0].Scheme = "Plumbers" }, "registration", "no registration"},
	} {
		t.Run(c.name, func(t *testing.T) {
			d := sample(t, "coastal-home-charging")
			p, f := complete()
			c.change(p, f)
			got := Preflight(&d, p, f).Lacks
			if len(got) != 1 || got[0].Field != c.field || !strings.Contains(got[0].What, c.words) || got[0].Remedy == "" {
				t.Errorf("%s: %+v, want one at %s with %q", c.name, got, c.field, c.words)
			}
		})
	}
}

// TestEmptyPaper: of an empty job every demand of every sample is named at once.
func TestEmptyPaper(t *testing.T) {
	for _, d := range Samples() {
		c := Preflight(&d, &job.Paper{}, &Facts{Job: &job.Job{}, Today: "2027-02-03"})
		want := 1 // the signature
		if d.Register.Scheme != "" {
			want++
		}
		for _, f := range d.Fields {
			if !f.Optional && f.From != "points" && f.From != "registered" {
				want++
			}
		}
		for _, a := range d.Attachments {
			if !a.Optional {
				want++
			}
		}
		if len(c.Lacks) != want {
			t.Errorf("%s: %d lacks, want %d: %+v", d.ID, len(c.Lacks), want, c.Lacks)
		}
	}
}

// TestSerials: a claim after the work names the serial number of every charger.
func TestSerials(t *testing.T) {
	d := sample(t, "valley-charging-rebate")
	_, f := complete()
	lacks := func() bool {
		return slices.ContainsFunc(Preflight(&d, &job.Paper{}, f).Lacks, func(l Trifle) bool { return l.Field == "charger.serial" })
	}
	if lacks() {
		t.Error("the serial number is there")
	}
	f.Job.Design.Circuits = append(f.Job.Design.Circuits, job.Circuit{Point: "B", Charger: job.Charger{Type: "wall unit 32 A"}})
	if !lacks() {
		t.Error("the second charger has none")
	}
}

func TestNewestAttachmentCounts(t *testing.T) {
	d := sample(t, "coastal-home-charging")
	p, f := complete()
	f.Files[digest(5)] = File{Type: "application/pdf", Fault: "empty"}
	p.Attached = append(p.Attached, job.Attachment{Kind: "quote", Digest: digest(5)})
	if got := Preflight(&d, p, f).Lacks; len(got) != 1 || got[0].Field != "attached.quote" {
		t.Error(got)
	}
	slices.Reverse(p.Attached)
	if got := Preflight(&d, p, f).Lacks; len(got) != 0 {
		t.Error(got)
	}
}

// TestOwnRegister: a form prints the number in its own register, not in another
// that lasts longer.
func TestOwnRegister(t *testing.T) {
	d := sample(t, "coastal-home-charging")
	p, f := complete()
	f.Registrations = append(f.Registrations, Registered{Scheme: "State electrical contractors", Number: "E-9", From: "2026-01-01", Until: "2029-01-01"})
	c := Preflight(&d, p, f)
	i := slices.IndexFunc(c.Fields, func(x Filled) bool { return x.ID == "registration" })
	if c.Fields[i].Value != "R 77" || len(c.Lacks) != 0 {
		t.Errorf("%+v %+v", c.Fields[i], c.Lacks)
	}
}

func TestRegistrationOnTheDay(t *testing.T) {
	d := sample(t, "lake-orrin-electrical-permit")
	f := &Facts{Job: &job.Job{}, Today: "2027-02-03", Registrations: []Registered{{Scheme: "State electrical contractors", Number: "E-1", From: "2026-01-01", Until: "2027-02-28"}}}
	has := func() bool {
		return slices.ContainsFunc(Preflight(&d, &job.Paper{}, f).Lacks, func(l Trifle) bool { return l.Field == "registration" })
	}
	if has() {
		t.Error("valid today, and no day is booked")
	}
	f.Job.Plan.Day = "2027-03-01"
	if !has() {
		t.Error("ended the day before the work")
	}
	f.Registrations = append(f.Registrations, Registered{Scheme: "State electrical contractors", Number: "E-2", From: "2027-03-01", Until: "2028-02-28"})
	if has() {
		t.Error("renewed on the day of the work")
	}
}

func TestParse(t *testing.T) {
	d := sample(t, "coastal-home-charging")
	for _, c := range []struct {
		name   string
		change func(*Definition)
		words  string
	}{
		{"format", func(d *Definition) { d.Format = "dogbolt.paper/9" }, "this program reads"},
		{"no address", func(d *Definition) { d.To = " " }, "to: has 1 characters"},
		{"before", func(d *Definition) { d.Before = "lunch" }, "lunch"},
		{"waits", func(d *Definition) { d.WaitHigh = 3 }, "waitHigh"},
		{"field twice", func(d *Definition) { d.Fields = append(d.Fields, d.Fields[0]) }, "id of its own"},
		{"source", func(d *Definition) { d.Fields[0].From = "site.shoe-size" }, "not a source"},
		{"pattern", func(d *Definition) { d.Fields[0].Pattern = "(" }, "pattern"},
		{"same", func(d *Definition) { d.Fields[0].Same = "nobody" }, "not a field"},
		{"order", func(d *Definition) { d.Order[0].First = "phone" }, "neither a date field"},
		{"signature", func(d *Definition) { d.Signature.Field = "nobody" }, "signature.field"},
	} {
		t.Run(c.name, func(t *testing.T) {
			broken := d
			broken.Fields, broken.Order = slices.Clone(d.Fields), slices.Clone(d.Order)
			c.change(&broken)
			b, err := json.Marshal(broken)
			if err != nil {
				t.Fatal(err)
			}
			if _, err := Parse(b); err == nil || !strings.Contains(err.Error(), c.words) {
				t.Errorf("%s: %v, want %q", c.name, err, c.words)
			}
		})
	}
	if _, err := Parse([]byte(`{"format":"dogbolt.paper/1","colour":"red"}`)); err == nil || !strings.Contains(err.Error(), "colour") {
		t.Errorf("unknown member: %v", err)
	}
}

func TestSamples(t *testing.T) {
	papers := map[string]int{}
	for _, d := range Samples() {
		if !strings.Contains(d.Source, "made up") || !strings.HasSuffix(d.To, ".example") {
			t.Errorf("%s: source %q, to %q", d.ID, d.Source, d.To)
		}
		if uk, us := d.For("bs7671:2018+A2:2022"), d.For("nec:2023"); uk == us && d.Paper != "owner" { // an owner is asked alike
			t.Errorf("%s is for %v", d.ID, d.Rulebooks)
		}
		papers[d.Paper]++
	}
	// Operator: notice, application and notice of removal; building control: registered or not.
	if want := map[string]int{"grant": 2, "permit": 1, "operator": 3, "building-control": 2, "owner": 1}; !maps.Equal(papers, want) {
		t.Errorf("samples of papers: %v, want %v", papers, want)
	}
	if !slices.IsSorted(Sources()) || len(Sources()) < 20 {
		t.Errorf("sources: %v", Sources())
	}
}
