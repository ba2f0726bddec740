//go:build e2e

package e2e

import (
	"encoding/json"
	"fmt"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// press keys at the element that has the focus.
func (p *page) keys(keys string) {
	p.t.Helper()
	p.do(chromedp.KeyEvent(keys))
}

func (p *page) focus(selector string) {
	p.t.Helper()
	p.is(`document.querySelector('` + selector + `')`)
	p.do(chromedp.Evaluate[chromedp.Void](`document.querySelector('` + selector + `').focus()`))
}

// TestSurveyOnPhone: on a page of 390 px a surveyor sees what is open, most
// costly first, answers a section until its ring closes, and takes a photo.
func TestSurveyOnPhone(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	id := jobID(t, signedIn(t, srv.base, "office"), "DB-0421")
	p := open(t, srv.base, 390, 844)
	p.signIn("surveyor")
	p.visit("/jobs/" + id + "/survey")
	p.is(`document.querySelectorAll('[data-section]').length === 10`) // nine, and the one page
	p.is(`document.querySelector('.leave li')?.dataset.cost === '3' && document.querySelector('.leave .more').innerText.includes('all')`)
	// The first open thing leads to its field.
	p.click(`.leave li .link`)
	p.is(`document.activeElement?.closest('[data-field]')?.dataset.field === 'survey.supply.declaredZe'`)
	p.fillAll([]pair{{"survey.supply.declaredZe", "0.33"}, {"survey.supply.faultCurrent", "1.6"}, {"survey.supply.ratingSeen", "yes"}, {"survey.supply.condition", "sound"}, {"survey.supply.otherSource", "no"}, {"survey.supply.mainSwitchAt", "at the board"}})
	p.saved()
	p.is(`document.querySelector('[data-section="supply"][data-complete="true"]')`)
	p.fillAll([]pair{{"survey.network.kind", "wifi"}, {"survey.network.signal", "weak"}, {"survey.network.passwordWith", "the customer"}, {"survey.network.setUpWithout", "yes"},
		{"survey.consent.asked", "yes"}, {"survey.consent.landlord", "no"}, {"survey.consent.ownBay", "yes"}})
	p.saved()
	p.is(`document.querySelector('[data-section="connectivity"][data-complete="true"]') && document.querySelector('[data-section="consents"][data-complete="true"]')`)
	// A field that does not fit its page would push it wider than the phone.
	for _, section := range []string{"supply", "board", "loads", "vehicles", "positions", "route", "photos"} {
		p.click(`[data-section="` + section + `"]`)
		p.is(`document.documentElement.scrollWidth <= 390`)
	}
	p.upload(`[data-kind="label"] input`, "label.jpg", grey(t, 2400, 1200))
	// Made smaller on the device, kept, and shown again from the server.
	p.is(`document.querySelector('[data-kind="label"] img')?.naturalWidth === 1600`)
	p.saved()
	p.visit("/jobs/" + id + "/survey?field=survey.photos")
	p.is(`document.querySelector('[data-kind="label"] img')?.naturalWidth === 1600`)
}

// TestSitePlan: a position is chosen, a thing is walked 5 cm with the keyboard
// and taken back, a position inside a wall is explained at its field, and the
// plan comes out as SVG with a scale bar.
func TestSitePlan(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "surveyor")
	id := jobID(t, api, "DB-0425")
	p := open(t, srv.base, 1280, 800)
	p.signIn("surveyor")
	p.visit("/jobs/" + id + "/survey?field=survey.sitePlan")
	p.is(`document.querySelectorAll('[data-row]').length === 3 && document.querySelector('[data-row="A"]').classList.contains('chosen')`)
	p.is(`document.querySelector('[data-row="C"] + .notes').innerText.includes('gas meter 0.11 m not kept, BS 6891')`)
	p.click(`[data-choose="C"]`)
	p.saved()
	p.is(`document.querySelector('[data-row="C"]').classList.contains('chosen') && document.querySelector('[data-rule="position"][data-verdict="stop"]')`)
	p.click(`[data-choose="A"]`)
	p.saved()
	p.is(`!document.querySelector('[data-rule="position"][data-verdict="stop"]')`)

	x := `document.querySelector('[data-field="survey.sitePlan.positions.0.at"] input').value`
	p.focus(`[data-thing="positions.0"]`)
	p.is(x + ` === '9.15'`)
	p.focus(`[data-thing="positions.0"]`)
	p.keys(kb.ArrowRight)
	p.is(x + ` === '9.2'`)
	p.press("Undo")
	p.is(x + ` === '9.15'`)
	p.press("Redo")
	p.is(x + ` === '9.2'`)
	p.press("Undo")
	p.saved()
	p.fill("survey.sitePlan.positions.0.at", "9")
	p.is(`document.querySelector('[data-field="survey.sitePlan.positions.0.at"] .error')?.innerText.includes('inside wall 3')`)
	p.fill("survey.sitePlan.positions.0.at", "9.15")
	p.saved()
	status, svg := api.do("GET", "/api/jobs/"+id+"/site-plan.svg", "", "")
	if status != 200 || !strings.Contains(string(svg), ">1 m<") || !strings.Contains(string(svg), "hatchback") {
		t.Errorf("site plan: %d %.200s", status, svg)
	}
	// By hand: the planter is dragged, snaps to 5 cm, and one step takes it back.
	before := p.text(`[data-thing="obstacles.0"]`)
	box, err := chromedp.Run(p.ctx, chromedp.Evaluate[[]float64](`(r => [r.x + r.width / 2, r.y + r.height / 2])((e => (e.scrollIntoView({block: 'center'}), e.getBoundingClientRect()))(document.querySelector('[data-thing="obstacles.0"]')))`))
	if err != nil {
		t.Fatal(err)
	}
	points := `document.querySelector('[data-thing="obstacles.0"]').getAttribute('points')`
	was, err := chromedp.Run(p.ctx, chromedp.Evaluate[string](points))
	if err != nil {
		t.Fatal(err, before)
	}
	p.do(chromedp.MouseEvent("mousePressed", box[0], box[1], chromedp.ButtonLeft), chromedp.MouseEvent("mouseMoved", box[0]+3, box[1]+61, chromedp.ButtonLeft), chromedp.MouseEvent("mouseReleased", box[0]+3, box[1]+61, chromedp.ButtonLeft))
	p.is(points + ` !== '` + was + `'`)
	p.is(`(v => Math.abs(v * 20 - Math.round(v * 20)) < 1e-6)(Number(document.querySelector('[data-field="survey.sitePlan.obstacles.0.at.y"] input').value))`)
	p.press("Undo")
	p.is(points + ` === '` + was + `'`)

	// A wall is pulled: pressed where it begins, let go where it ends. What is only pressed has its usual length.
	p.is(`document.querySelector('[data-origin]')`)
	walls := `document.querySelectorAll('[data-thing^="walls."]').length`
	n, err := chromedp.Run(p.ctx, chromedp.Evaluate[int](walls))
	if err != nil {
		t.Fatal(err)
	}
	pull := func(kind string, dx float64) {
		p.click(`[data-add="` + kind + `"]`)
		p.is(`document.querySelector('svg.plan.adding')`)
		at, err := chromedp.Run(p.ctx, chromedp.Evaluate[[]float64](`(r => [r.x + r.width / 2, r.y + r.height * 0.86])((e => (e.scrollIntoView({block: 'center'}), e.getBoundingClientRect()))(document.querySelector('svg.plan')))`))
		if err != nil {
			t.Fatal(err)
		}
		p.do(chromedp.MouseEvent("mousePressed", at[0], at[1], chromedp.ButtonLeft), chromedp.MouseEvent("mouseMoved", at[0]+dx, at[1], chromedp.ButtonLeft), chromedp.MouseEvent("mouseReleased", at[0]+dx, at[1], chromedp.ButtonLeft))
		p.is(`!document.querySelector('svg.plan.adding')`)
	}
	long := func(i int, fits string) {
		end := func(which string) string {
			return fmt.Sprintf(`Number(document.querySelector('[data-field="survey.sitePlan.walls.%d.%s"] input').value)`, i, which)
		}
		p.is(`(m => ` + fits + `)(` + end("to") + ` - ` + end("from") + `)`)
	}
	pull("walls", 150)
	p.is(fmt.Sprintf(`%s === %d`, walls, n+1))
	long(n, `m > 0.5 && m < 6 && Math.abs(m - 2) > 0.01 && Math.abs(m * 20 - Math.round(m * 20)) < 1e-6`)
	p.shot("pulled")
	pull("walls", 0)
	long(n+1, `Math.abs(m - 2) < 1e-6`)
	p.click(`[data-add="walls"]`)
	p.keys(kb.Escape)
	p.is(`!document.querySelector('svg.plan.adding')`)
	p.saved()
}

// TestBoardMap: the map says which circuits make way; a space that is emptied
// takes fewer moves; arrow keys walk over the board.
func TestBoardMap(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	p := open(t, srv.base, 1280, 800)
	p.signIn("surveyor")
	p.visit("/jobs/" + jobID(t, signedIn(t, srv.base, "office"), "DB-0426") + "/survey?field=survey.board.map")
	p.is(`document.querySelector('[data-fits="true"][data-moves="2"]')`)
	p.focus(`[data-space="1"]`)
	p.keys(kb.ArrowDown) // over the two-pole
	p.is(`document.activeElement.dataset.space === '5'`)
	p.click(`[data-space="10"]`)
	p.is(`document.querySelector('[data-field="survey.board.slot.circuit"] input').value === 'laundry'`)
	p.press("Empty the space")
	p.saved()
	p.is(`document.querySelector('[data-fits="true"][data-moves="1"]')`)
	p.click(`[data-space="10"]`)
	p.fill("survey.board.slot.fixed", "yes")
	p.saved()
	p.is(`document.querySelector('[data-rule="spaces"]')`)
	// A person's own arrangement is judged instead.
	p.fill("survey.board.rearrangement.at", "10")
	says := `document.querySelector('[data-fits="false"]')?.innerText`
	p.is(says + `?.includes('the circuit in 10 stands where the new breaker goes; bath stands where')`)
	p.fill("survey.board.rearrangement.from", "12")
	p.fill("survey.board.rearrangement.to", "18")
	p.press("Add the move")
	p.saved()
	p.is(says + `?.includes('the circuit in 10 stands where') && !` + says + `.includes('bath')`)
}

// TestInsulationChangesTheCable: a segment that goes into insulation asks for a
// larger conductor, and the page says which segment rules.
func TestInsulationChangesTheCable(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	id := jobID(t, signedIn(t, srv.base, "office"), "DB-0404")
	p := open(t, srv.base, 1280, 800)
	p.signIn("verifier")
	best := `document.querySelector('.options tbody tr b')?.innerText`
	p.visit("/jobs/" + id + "/design")
	p.unfold()
	// Where the cable changes at a joint box the box and the cable beyond it are asked.
	p.fill("design.circuits.0.beyond.from", "2")
	p.saved()
	p.is(`document.querySelector('[data-rule="joint"][data-verdict="open"]') && document.querySelector('[data-field="design.circuits.0.beyond.cable.size"]')`)
	p.fill("design.circuits.0.beyond.from", "")
	p.saved()
	p.is(`!document.querySelector('[data-rule="joint"]') && !document.querySelector('[data-field="design.circuits.0.beyond.cable.size"]')`)
	p.is(best + ` === '6 mm² twin and earth'`)
	p.is(`document.querySelector('.side')?.innerText.includes('£')`)
	p.visit("/jobs/" + id + "/survey?field=survey.places.0.route")
	p.fill("survey.places.0.route.1.method", "in-insulation")
	p.saved()
	p.is(`document.querySelector('[data-route] tr.on td:nth-child(2)')?.innerText === 'surrounded by insulation' || document.querySelector('[data-route]').innerText.includes('no figure')`)
	p.visit("/jobs/" + id + "/design")
	p.is(best + ` !== '6 mm² twin and earth' && ` + best + ` !== undefined`)
	p.is(`[...document.querySelectorAll('.options tbody tr')].some(r => r.innerText.includes('armoured') && r.innerText.includes('segment 2'))`)
	// The ground-fault and other arrangements can be chosen where they are judged.
	p.click(`[data-decision="fault"] [data-answer="by the overcurrent device"]`)
	p.saved()
	p.is(`document.querySelector('[data-decision="fault"] .now')?.innerText.includes('overcurrent')`)
}

// TestMonthlyPeaks: twelve monthly peaks from the bills are a year's measured
// demand, counted at 125 % (NEC 220.87, from memory): 9.6 kW at 240 V are 40 A.
func TestMonthlyPeaks(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	p := open(t, srv.base, 1280, 800)
	p.signIn("surveyor")
	p.visit("/jobs/" + jobID(t, signedIn(t, srv.base, "office"), "DB-0413") + "/survey?field=survey.supply")
	p.click(".monthly summary")
	for i := range 12 {
		p.fill(fmt.Sprintf("survey.supply.monthly.%d", i), map[bool]string{true: "9.6", false: "7.2"}[i == 6])
	}
	p.saved()
	p.openSection("survey.loads")
	p.is(`document.querySelector('.sum summary')?.innerText.includes('220.87: 50.0 A')`)
}

// TestPrices: the office reads in a price list; a broken one takes nothing.
func TestPrices(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	p := open(t, srv.base, 1280, 800)
	p.signIn("office")
	p.visit("/firm")
	p.is(`document.querySelector('a[href*="prices.csv"]')`)
	upload := func(content string) { p.upload(`input[accept=".csv,text/csv"]`, "prices.csv", []byte(content)) }
	upload("item,size,unit,price,currency\nrope,6 mm²,m,1,£\n")
	p.is(`document.body.innerText.includes('line 2: item: "rope"')`)
	upload("item,size,unit,price,currency\ntwin-earth,6 mm²,m,2.5,£\n")
	p.is(`document.body.innerText.includes('1 prices in £')`)
	p.fill("policy.costs.uk.wait.high", "20")
	p.press("Save the policy")
	p.is(`document.body.innerText.includes('The policy is saved.')`)
}

// terns makes a British job of one point that knows its address and nothing else.
func terns(t *testing.T, c *client, number string) string {
	t.Helper()
	status, body := c.do("POST", "/api/jobs", "application/json", fmt.Sprintf(
		`{"number":%q,"rulebook":"bs7671:2018+A2:2022","points":1,"site":{"customer":"P. Wren","street":"3 Tern Row","town":"Saltbeck","zone":"Europe/London"}}`, number))
	if status != 200 {
		t.Fatal(status, string(body))
	}
	return jobID(t, c, number)
}

// TestHabits: what the firm settles as its own usual answer is what a survey offers, and a new job
// begins with its charger; what is asked every time is not offered.
func TestHabits(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	p := open(t, srv.base, 1280, 800)
	p.signIn("office")
	p.visit("/firm")
	p.is(`document.querySelector('[data-field="policy.habits.uk.charger"] option:nth-child(2)')`)
	charger := p.text(`[data-field="policy.habits.uk.charger"] option:nth-child(2)`)
	p.choose(`[data-field="policy.habits.uk.charger"] select`, charger)
	p.choose(`[data-field="policy.habits.uk.answers.survey.places.0.holderHeight"] select`, "figure")
	p.fill("policy.habits.uk.answers.survey.places.0.holderHeight.figure", "0.9")
	p.choose(`[data-field="policy.habits.uk.answers.survey.vehicles.0.energy"] select`, "asks")
	p.press("Save the policy")
	p.is(`document.body.innerText.includes('The policy is saved.')`)
	p.visit("/firm")
	p.is(`document.querySelector('[data-field="policy.habits.uk.answers.survey.places.0.holderHeight.figure"] input')?.value === '0.9'`)
	p.eval(`document.querySelector('[data-field="policy.habits.uk.charger"]').closest("section").scrollIntoView()`)
	p.shot("habits")
	api := signedIn(t, srv.base, "office")
	id := terns(t, api, "DB-0501")
	p.visit("/jobs/" + id + "/survey")
	p.is(`document.querySelector('[aria-labelledby="usual"]')?.innerText.includes('holder 0.9 m above ground')`)
	p.is(`!document.querySelector('[aria-labelledby="usual"]').innerText.includes('kWh')`)
	p.visit("/jobs/" + id + "/design")
	p.is(`document.body.innerText.includes(` + strconv.Quote(charger) + `)`)
}

// TestKeptInPart: a field that cannot be kept is marked where it stands and holds back no other;
// it is there after a reload, on the page of what waits, and saved when it is mended.
func TestKeptInPart(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "office")
	id := jobID(t, api, "DB-0421")
	supply := func() (s struct {
		Rating        float64
		MainsSwitchAt string `json:"mainSwitchAt"`
		Condition     string
	}) {
		var view struct {
			Job struct{ Survey struct{ Supply any } }
		}
		view.Job.Survey.Supply = &s
		api.get("/api/jobs/"+id, &view)
		return s
	}
	was := supply().Rating
	p := open(t, srv.base, 390, 844)
	p.signIn("surveyor")
	at := "/jobs/" + id + "/survey?field=survey.supply.rating"
	p.visit(at)
	p.fill("survey.supply.rating", "-5")
	p.fill("survey.supply.mainSwitchAt", "in the porch")
	p.is(`document.querySelector('[data-state="partly"]')?.innerText.includes('Rating of the cutout fuse')`)
	const marked = `document.querySelector('[data-field="survey.supply.rating"] .error')?.innerText.includes('negative')`
	p.is(marked)
	if s := supply(); s.Rating != was || s.MainsSwitchAt != "in the porch" {
		t.Errorf("saved %+v", s)
	}
	p.visit(at)
	p.is(marked)
	p.is(`document.querySelector('[data-field="survey.supply.rating"] input').value === '-5'`)
	p.shot("survey-partly")
	p.visit("/kept")
	p.is(`document.querySelector('[data-waiting="section"]')?.innerText.includes('not saved with the rest')`)
	p.visit(at)
	p.fill("survey.supply.rating", "63")
	p.saved()
	if s := supply(); s.Rating != 63 || s.MainsSwitchAt != "in the porch" {
		t.Errorf("saved %+v", s)
	}
}

// TestUndo: the last changes of a sheet are taken back one by one, by button and by key, and leave
// what was saved by others.
func TestUndo(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "office")
	id := jobID(t, api, "DB-0421")
	p := open(t, srv.base, 1280, 800)
	p.signIn("surveyor")
	p.visit("/jobs/" + id + "/survey?field=survey.supply.rating")
	value := func(field, want string) {
		t.Helper()
		p.is(fmt.Sprintf(`document.querySelector('[data-field="survey.supply.%s"]').querySelector('input, select').value === %q`, field, want))
	}
	for _, v := range []string{"40", "50", "63"} {
		p.fill("survey.supply.rating", v)
		p.saved()
	}
	p.fill("survey.supply.mainSwitchAt", "in the porch")
	p.saved()
	p.do(chromedp.Evaluate[chromedp.Void](`document.activeElement.blur()`))
	p.do(chromedp.KeyEvent("z", chromedp.KeyModifiers(chromedp.ModifierCtrl)))
	p.is(`document.querySelector('[data-field="survey.supply.mainSwitchAt"] input').value !== 'in the porch'`)
	value("rating", "63")
	p.saved()
	// What the office changes meanwhile stays.
	var view struct {
		Revisions map[string]int
		Job       struct{ Survey map[string]any }
	}
	api.get("/api/jobs/"+id, &view)
	view.Job.Survey["supply"].(map[string]any)["condition"] = "doubtful"
	body, err := json.Marshal(map[string]any{"revision": view.Revisions["survey"], "section": view.Job.Survey})
	if err != nil {
		t.Fatal(err)
	}
	if status, answer := api.do("PUT", "/api/jobs/"+id+"/survey", "application/json", string(body)); status != 200 {
		t.Fatal(status, string(answer))
	}
	p.is(`document.querySelector('[data-field="survey.supply.condition"] [data-value="doubtful"]').ariaPressed === 'true' || (window.dispatchEvent(new Event('visibilitychange')), false)`)
	p.click(`[data-undo]`)
	value("rating", "50")
	p.click(`[data-undo]`)
	value("rating", "40")
	p.is(`document.querySelector('[data-field="survey.supply.condition"] [data-value="doubtful"]').ariaPressed === 'true'`)
	p.saved()
	p.shot("survey-undo")
	var after struct {
		Job struct {
			Survey struct {
				Supply struct {
					Rating    float64
					Condition string
				}
			}
		}
	}
	api.get("/api/jobs/"+id, &after)
	if s := after.Job.Survey.Supply; s.Rating != 40 || s.Condition != "doubtful" {
		t.Errorf("saved %+v", s)
	}
}

// hand counts what a person does: a press, a field that is filled in, a photo that is taken.
type hand struct {
	*page
	n int
}

func (h *hand) does(field, value string) {
	h.t.Helper()
	h.n++
	h.fillHere(field, value)
}

func (h *hand) takes(kind string) {
	h.t.Helper()
	h.n++
	h.upload(`[data-photo-of="`+kind+`"] input`, kind+".png", grey(h.t, 320+h.n, 240))
	h.is(`document.querySelector('[data-photo-of="` + kind + `"]').innerText.includes('taken')`)
}

// mostOfAnEasySurvey is how many interactions an easy survey takes at most: the issue's own
// figure; on the nine sections it took 61.
const mostOfAnEasySurvey = 30

// TestDoorstep: an easy survey on a phone (one car, one place, cable on the surface, a sound
// supply) is complete on one page, with every question of safety answered one by one, and ends
// in a yes with a price.
func TestDoorstep(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "office")
	id := terns(t, api, "DB-0500")
	p := &hand{page: open(t, srv.base, 390, 844)}
	p.signIn("surveyor")
	p.visit("/jobs/" + id + "/survey")
	p.is(`document.querySelector('[data-photo-of="meter"]')`)
	p.shot("doorstep-empty")
	p.takes("meter")
	for _, f := range []pair{
		{"survey.supply.system", "tn-c-s"}, {"survey.supply.rating", "100"}, {"survey.supply.ratingSeen", "yes"}, {"survey.supply.condition", "sound"},
		{"survey.supply.otherSource", "no"}, {"survey.supply.voltage", "238"}, {"survey.supply.declaredZe", "0.35"}, {"survey.supply.faultCurrent", "1.2"},
		{"survey.bonding.conductor", "16"}, {"survey.bonding.size", "10"}, {"survey.bonding.gas", "bonded"}, {"survey.bonding.water", "plastic"},
		{"survey.bonding.oil", "none"}, {"survey.bonding.steel", "none"}, {"survey.bonding.other", "none"},
	} {
		p.does(f[0], f[1])
	}
	p.takes("board-closed")
	p.takes("label")
	p.takes("board-open")
	for _, f := range []pair{{"survey.board.waysFree", "3"}, {"survey.board.upstreamRcdType", "none"}} {
		p.does(f[0], f[1])
	}
	p.takes("parking")
	p.does("survey.vehicles.0.inlet", "rear-left")
	p.takes("position")
	p.takes("route")
	p.does("survey.network.signal", "good")
	p.does("survey.sitePlan.positions.0.gasClear", "yes") // first, and kept before the lengths are known
	p.saved()
	p.is(`document.querySelector('[data-told="A"]')`)
	p.does("survey.sitePlan.positions.0.run", "12")
	p.does("survey.sitePlan.positions.0.cord", "3")
	p.n++
	p.click("[data-usual]")
	p.is(`document.querySelector('[data-told="A"][data-verdict="watch"]')`)
	p.saved()
	p.shot("doorstep-done")
	told := p.text(`[data-told="A"]`)
	if !strings.Contains(told, "yes, up to 32 A") || !strings.Contains(told, "£") {
		t.Errorf("told %q", told)
	}
	var visit struct {
		Leave []struct{ Field, What string }
	}
	api.get("/api/jobs/"+id+"/visit", &visit)
	if len(visit.Leave) > 0 {
		t.Errorf("still open: %+v", visit.Leave)
	}
	t.Logf("%d interactions", p.n)
	if p.n > mostOfAnEasySurvey {
		t.Errorf("%d interactions, want at most %d", p.n, mostOfAnEasySurvey)
	}
	// The sections have what was answered: nothing is asked twice.
	p.openSection("survey.places.0.route")
	p.is(`document.querySelector('[data-field="survey.places.0.route.0.length"] input')?.value === '12'`)
}
