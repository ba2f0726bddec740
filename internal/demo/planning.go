package demo

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image/color"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"dogbolt/core/books/uk"
	"dogbolt/core/books/us"
	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/planning"
	"dogbolt/core/stock"
	"dogbolt/internal/document"
	"dogbolt/internal/rooms"
	"dogbolt/internal/rooms/days"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/standin"
)

// Outside connects the demo to its stand-ins: the sample forecast from today on,
// written beside the data, a mail drop and the desk that answers it.
func Outside(folder string, now time.Time) (rooms.Outside, error) {
	data, err := standin.Shifted(standin.SampleForecast, now)
	if err != nil {
		return rooms.Outside{}, err
	}
	if err := os.WriteFile(filepath.Join(folder, "forecast.csv"), data, 0o600); err != nil {
		return rooms.Outside{}, err
	}
	f, err := standin.ReadForecast(bytes.NewReader(data))
	if err != nil {
		return rooms.Outside{}, err
	}
	authority, err := standin.NewTimeAuthority(time.Now)
	if err != nil {
		return rooms.Outside{}, err
	}
	drop := standin.MailDrop{Folder: filepath.Join(folder, "mail")}
	return rooms.Outside{Forecast: f, Mail: drop, Desk: standin.SchemeDesk{Drop: drop}, Time: authority}, nil
}

// Schemes in whose registers the made-up firm stands, as the sample forms name
// them.
const (
	registerUK = "Register of charge point installers"
	registerUS = "State electrical contractors"
)

// resources is what the made-up firm works with. One tester comes out of calibration
// within two weeks.
func resources(now time.Time) firm.Resources {
	return firm.Resources{
		Crews: []planning.Crew{
			{ID: "harbour", Name: "Harbour van", Van: "van 1", People: []string{"K. Osei", "T. Brandt"}, Books: []string{"bs7671"}, Base: "Quillmouth", Off: []string{workday(now, 6)}},
			{ID: "moor", Name: "Moor van", Van: "van 2", People: []string{"S. Halloran"}, Books: []string{"bs7671"}, Base: "Aldermoor", Off: []string{}},
			{ID: "mesa", Name: "Mesa van", Van: "van 3", People: []string{"R. Delacroix", "J. Whitlock"}, Books: []string{"nec"}, Base: "Copper Flats", Off: []string{}},
		},
		Instruments: []planning.Instrument{
			{ID: "tester 7F-2208", What: "installation tester", Crew: "harbour", Until: day(now, 210)}, {ID: "tester 12", What: "installation tester", Crew: "moor", Until: day(now, 12)},
			{ID: "tester 31", What: "installation tester", Crew: "mesa", Until: day(now, 160)}, {ID: "torque driver 4", What: "torque driver", Crew: "harbour", Until: day(now, 90)},
			{ID: "torque driver 6", What: "torque driver", Crew: "moor", Until: day(now, 300)}, {ID: "torque driver 9", What: "torque driver", Crew: "mesa", Until: day(now, 120)},
		},
		Registrations: []clearance.Registered{
			{Scheme: registerUK, Number: "CPI 0417", From: day(now, -200), Until: day(now, 165)}, {Scheme: registerUS, Number: "EC-20418", From: day(now, -90), Until: day(now, 640)},
		},
		Travel: []planning.Travel{{From: "Quillmouth", To: "Aldermoor", Minutes: 35}, {From: "Quillmouth", To: "Saltbeck", Minutes: 50}, {From: "Aldermoor", To: "Saltbeck", Minutes: 30},
			{From: "Copper Flats", To: "Lake Orrin", Minutes: 55}},
		Hours: planning.UsualHours, ReelMargin: 2, Zones: map[string]string{uk.Practice.ID: "Europe/London", us.Practice.ID: "America/Phoenix"},
	}
}

// workday is the nth working day after a day.
func workday(t time.Time, n int) string {
	for n > 0 {
		t = t.AddDate(0, 0, 1)
		if w := t.Weekday(); w != time.Saturday && w != time.Sunday {
			n--
		}
	}
	return t.Format(time.DateOnly)
}

// ready is a job that waits for its day: papers answered, parts listed, tools in
// the van, the customer told.
func ready(b *builder) *builder {
	b.papers()
	b.Plan = job.Plan{Notice: job.Yes, Home: job.Yes, Parts: b.parts()}
	for i := range b.Plan.Parts {
		if b.Plan.Parts[i].Tool == job.Yes {
			b.Plan.Parts[i].InHand = job.Yes
		}
	}
	b.Survey.Network = job.Network{Kind: "wifi", Signal: "good", Password: "the customer", Without: job.No}
	return b
}

// longRun needs 10 mm² over 31 m: longer than any reel of it.
func longRun(b *builder) *builder {
	b.Design.Circuits[0].Cable.Size = "10 mm²"
	b.Survey.Places[0].Route = []job.Segment{{Method: job.Surface, Length: 20, Drop: 2, Note: "barn wall"}, {Method: job.ThroughWall, Wall: 0.3, Note: "gable"}, {Method: job.Buried, Length: 6, Cover: 0.6, Under: "garden", Taped: job.Yes, Note: "beside the path"}}
	b.conditions()
	b.Survey.Places[0].Name = "post beside the car port"
	ready(b)
	b.Plan.Parts = append(b.Plan.Parts, job.Part{Name: mountingPost, Quantity: 1, Why: "the place: a post beside the car port"})
	return b
}

// mountingPost is listed by a supplier, and nowhere in hand.
const mountingPost = "mounting post, galvanised, 1.2 m"

// grant is an application that nothing is missing from but one thing: the bill
// is in another spelling of the name.
func grant(b *builder) *builder {
	ready(b)
	b.Site.Bill = job.Bill{Name: "I. Thackray", Street: b.Site.Street, Postcode: b.Site.Postcode, Account: "2200042424242"}
	p := b.Paper("grant")
	*p = job.Paper{ID: p.ID, Title: "Coastal Counties home charging grant", Who: "Coastal Counties grant office", Before: job.BeforeOrder, Needed: job.Yes, Reason: "the customer claims it", WaitLow: 42, WaitHigh: 84,
		Form: "coastal-home-charging", Answers: map[string]string{"vehicle-ordered": day(b.clock, -70), "quote": "1080", "quote-day": day(b.clock, -9)}, SignedBy: b.Site.Customer, SignedOn: day(b.clock, -2)}
	return b
}

// permit is a permit application that still lacks a few things.
func permit(b *builder) *builder {
	ready(b)
	p := b.Paper("permit")
	*p = job.Paper{ID: p.ID, Title: "Lake Orrin electrical permit", Who: "Lake Orrin building department", Before: job.BeforeInstalling, Needed: job.Yes, Reason: "a new branch circuit", WaitLow: 2, WaitHigh: 12,
		Form: "lake-orrin-electrical-permit", Answers: map[string]string{"parcel": "12-0440-17", "valuation": "1640", "holder": "R. Delacroix"}}
	return b
}

// inLine are the jobs that want a day.
func inLine(now time.Time) []*builder {
	return []*builder{
		ready(ukJob("DB-0431", site("J. Corrigan", "12 Ferry Steps", "Quillmouth", "QM1 2AA"), now)),
		ready(ukJob("DB-0432", site("P. Achterberg", "4 Heath Rise", "Aldermoor", "AM1 7WX"), now)),
		ready(ukJob("DB-0433", site("D. Silverlock", "31 Saltern Way", "Saltbeck", "SB2 5QD"), now)),
		ready(ukJob("DB-0434", site("N. Okafor", "Pilot's House, Quay Street", "Quillmouth", "QM1 8RS"), now)),
		ready(usJob("DB-0435", site("C. Brightwater", "18 Ocotillo Way", "Copper Flats", "00045"), now)),
		ready(usJob("DB-0436", site("A. Stensrud", "902 Lakeshore Loop", "Lake Orrin", "00057"), now)),
	}
}

// special are the job that no reel is long enough for, the one whose grant bounces,
// and the one whose permit lacks things.
func special(now time.Time) (long, claim, apply *builder) {
	return longRun(ukJob("DB-0428", site("V. Penhallow", "The Old Granary", "Saltbeck", "SB1 9LT"), now)),
		grant(ukJob("DB-0427", site("Imogen Thackray", "9 Beacon Rise", "Quillmouth", "QM2 3PF"), now)),
		permit(usJob("DB-0430", site("L. Yellowhorse", "44 Piñon Court", "Lake Orrin", "00058"), now))
}

// fillStock counts a stock that covers the jobs that want a day, but for one
// long run: reels, boxes of small parts, and what suppliers list.
func fillStock(ctx context.Context, a *rooms.Rooms, office people.Person, jobs []*builder, now time.Time) error {
	var items []stock.Ware
	n := 0
	add := func(i stock.Ware) {
		n++
		if i.ID == "" {
			i.ID = fmt.Sprintf("S-%03d", n)
		}
		items = append(items, i)
	}
	seen := map[string]bool{}
	for _, b := range jobs {
		for _, p := range b.Plan.Parts {
			name := p.InStock()
			if p.Tool == job.Yes || seen[name] {
				continue
			}
			seen[name] = true
			supplier := "Harbour Electrical Counter"
			if name == mountingPost {
				supplier = "Aldermoor Fixings"
			}
			if b.in.ID == us.Practice.ID {
				supplier = "Mesa Supply House"
			}
			add(stock.Ware{Name: name, Unit: p.Unit, Place: supplier, State: stock.Listed, Quantity: 500, Supplier: supplier})
			switch {
			case name == mountingPost:
			case strings.HasPrefix(name, "10 mm²"):
				add(stock.Ware{ID: "R-11", Name: name, Unit: "m", Place: "store", State: stock.InHand, Reel: true, Quantity: 28.4})
				add(stock.Ware{ID: "R-12", Name: name, Unit: "m", Place: "store", State: stock.Ordered, Reel: true, Quantity: 100, Supplier: supplier, Expected: workday(now, 5)})
			case strings.HasPrefix(name, "6 mm²"):
				add(stock.Ware{ID: "R-07", Name: name, Unit: "m", Place: "van 1", State: stock.InHand, Reel: true, Quantity: 41})
				add(stock.Ware{ID: "R-08", Name: name, Unit: "m", Place: "van 2", State: stock.InHand, Reel: true, Quantity: 22.6})
				add(stock.Ware{ID: "R-09", Name: name, Unit: "m", Place: "store", State: stock.InHand, Reel: true, Quantity: 100})
			case p.Unit == "ft" && strings.Contains(name, "THWN"):
				add(stock.Ware{ID: "W-" + fmt.Sprint(20+n), Name: name, Unit: "ft", Place: "van 3", State: stock.InHand, Reel: true, Quantity: 480})
			case p.Unit != "":
				add(stock.Ware{Name: name, Unit: p.Unit, Place: "store", State: stock.InHand, Quantity: 200})
			default:
				add(stock.Ware{Name: name, Place: "store", State: stock.InHand, Quantity: max(6, 8*p.Quantity)})
			}
		}
	}
	rows, err := document.CSV(stock.Rows(items))
	if err != nil {
		return err
	}
	_, err = a.Stock.ImportStock(ctx, office, rows)
	return err
}

// fillPlanning makes what issue papers and planning show: a grant that bounced
// and was repaired, a permit that is not complete, a job for which every reel is
// too short, jobs that want a day, and two that are booked.
func fillPlanning(ctx context.Context, a *rooms.Rooms, office, verifier people.Person, now time.Time) error {
	morning := time.Date(now.Year(), now.Month(), now.Day(), 8, 0, 0, 0, time.UTC)
	line := inLine(morning)
	long, claim, apply := special(morning)
	if err := fillStock(ctx, a, office, append(slices.Clone(line), long), morning); err != nil {
		return err
	}
	views := map[string]jobs.View{}
	for _, b := range append(slices.Clone(line), long, claim, apply) {
		v, err := a.Jobs.Put(ctx, verifier, b.Job)
		if err != nil {
			return err
		}
		views[b.Number] = v
	}
	for n, d := range map[string]days.DayAsk{"DB-0431": {Team: "moor", Day: workday(morning, 9)}, "DB-0435": {Team: "mesa", Day: workday(morning, 2)}} {
		d.Anyway = "booked for the demo before the forecast was read"
		if _, err := a.Days.Book(ctx, office, views[n].Summary.ID, d); err != nil {
			return fmt.Errorf("%s: %w", n, err)
		}
	}
	if err := attach(ctx, a, office, views["DB-0430"], "permit", map[string][]byte{"board-open": board(640, 480)}); err != nil {
		return err
	}
	return bounce(ctx, a, office, views["DB-0427"])
}

// bounce sends the grant with its fault, lets it bounce, mends it and sends it
// again: the desk has acknowledged it and will decide when it is asked.
func bounce(ctx context.Context, a *rooms.Rooms, office people.Person, v jobs.View) error {
	id := v.Summary.ID
	quote, err := quotation()
	if err != nil {
		return err
	}
	if err := attach(ctx, a, office, v, "grant", map[string][]byte{"bill": board(1100, 1400), "parking": board(1600, 1200), "position": board(1600, 1200), "quote": quote}); err != nil {
		return err
	}
	if _, err := a.Papers.SendPaper(ctx, office, id, "grant", "the customer is sure that the desk knows both spellings"); err != nil {
		return err
	}
	for range 2 { // acknowledged, then sent back
		if _, err := a.Papers.FetchAnswers(ctx, office); err != nil {
			return err
		}
	}
	if v, err = a.Jobs.Open(ctx, office, id); err != nil {
		return err
	}
	site := v.Job.Site
	site.Bill.Name = site.Customer
	body, err := json.Marshal(site)
	if err != nil {
		return err
	}
	if _, err := a.Jobs.SaveSection(ctx, office, id, "site", jobs.Edit{Seen: v.Revisions["site"], Body: body}); err != nil {
		return err
	}
	if _, err := a.Papers.SendPaper(ctx, office, id, "grant", ""); err != nil {
		return err
	}
	_, err = a.Papers.FetchAnswers(ctx, office)
	return err
}

// attach puts files to a paper of a job, in the order of their kinds.
func attach(ctx context.Context, a *rooms.Rooms, by people.Person, v jobs.View, paper string, files map[string][]byte) error {
	p := v.Job.Paper(paper)
	kinds := make([]string, 0, len(files))
	for k := range files {
		kinds = append(kinds, k)
	}
	slices.Sort(kinds)
	for _, kind := range kinds {
		name := kind + ".jpg"
		if bytes.HasPrefix(files[kind], []byte("%PDF")) {
			name = kind + ".pdf"
		}
		f, err := a.Papers.AddFile(ctx, by, v.Summary.ID, name, files[kind])
		if err != nil {
			return err
		}
		p.Attached = append(p.Attached, job.Attachment{Kind: kind, Digest: f.Digest, Name: name})
	}
	body, err := json.Marshal(v.Job.Clearances)
	if err != nil {
		return err
	}
	_, err = a.Jobs.SaveSection(ctx, by, v.Summary.ID, "clearances", jobs.Edit{Seen: v.Revisions["clearances"], Body: body})
	return err
}

// quotation is a made-up quotation as PDF.
func quotation() ([]byte, error) {
	s := clearance.Submission{Title: "Quotation", Job: "DB-0427", To: "customer", Fields: []clearance.Filled{{Label: "Charge point, installed", Value: "£1 080"}, {Label: "By", Value: Firm.Name}}}
	return document.Form(&s, nil, jurisdiction.A4.Name, time.Date(2026, 1, 5, 9, 0, 0, 0, time.UTC))
}

// board is a drawn picture of a size.
func board(w, h int) []byte {
	return sketch(w, h, func(fill painter) {
		fill(color.RGBA{214, 208, 196, 255}, 0, 0, w, h)
		fill(color.RGBA{245, 243, 238, 255}, w/6, h/6, 2*w/3, 2*h/3)
		for i := range 9 {
			fill(color.RGBA{70, 76, 82, 255}, w/5, h/5+i*h/15, w/2-i*w/40, h/60)
		}
	})
}
