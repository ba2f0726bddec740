//go:build e2e

package e2e

import (
	"bytes"
	"cmp"
	"fmt"
	"image"
	"image/jpeg"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
)

// journey is one job on its way from new to sealed, with what is typed on the
// way.
type journey struct {
	byKeys           bool // without a pointer
	rulebook, number string
	site             map[string]string
	survey           []pair // in order: some fields appear when others are filled
	segments         [][]pair
	design           []pair
	option           string // conductor chosen from the table
	after            []pair // design fields filled after the conductor
	stopRule         string // finding that must stand in the way before `mend`
	mend             []pair
	crew             []string // accounts that work on site
	names            []string // their names, lead first
	team             string   // id of their crew
	source           string
	pairs            []string
	terminals        []string
	torque           string
	amps             string
	remark           string
	route            []pair            // steps along the route, with what they record
	fittings         []string          // steps between cable and board
	dead, live       []entered         // in the order of the page
	points           string            // how many, "" for one
	kind             string            // of work, "" for a new circuit
	instead          []pair            // steps in place of running a cable, where the circuit was there
	stays            bool              // the charger does too
	shut             bool              // nothing is opened: a setting or its software is mended
	outlet           bool              // an outlet is made, and no charger comes
	laid             bool              // a sub-main or feeder is run to a board, and no charger comes
	plugged          bool              // the unit is hung beside an outlet that was there
	carried          bool              // the circuit is carried on from a box
	from             string            // sealed job at the same site that it follows
	full             bool              // the board is
	takes            string            // of what is offered then
	boards           []pair            // steps of that
	tails            string            // what the pairs at the tails are called; "" for tails
	afterLive        []pair            // steps that wait for the live tests
	backed           bool              // a battery carries the point when the grid is out
	earlier          bool              // its demand has the operator asked before
	reset            string            // how a charger that moved here is
	says             map[string]string // what steps with torques record besides
	walked           int               // most presses for the schedule of inspections
	electrical       []string          // tests whose taps on the phone are counted
	stated           map[string]string // statements in words, by their items
	afterDead        []pair            // steps that wait for the dead tests
	pdfWords         []string
	certified        []string // words of the certificate
}

type pair [2]string

// entered is a test, its reading, and why it is read again.
type entered [3]string

// create makes the job as the surveyor and returns its id.
func (j *journey) create(p *page) string {
	if j.from != "" {
		p.visit("/jobs/" + jobID(p.t, signedIn(p.t, p.base, "surveyor"), j.from) + "/handover")
		p.click(`[data-next]`)
		p.is(`document.querySelector('[data-before]')`)
	} else {
		p.visit("/jobs/new")
		p.is(fmt.Sprintf(`document.querySelector('option[value="%s"]')`, j.rulebook))
		p.fill("rulebook", j.rulebook)
	}
	p.fill("number", j.number)
	if j.kind != "" {
		p.fill("kind", j.kind)
	}
	if j.points != "" {
		p.fill("points", j.points)
	}
	for f, v := range j.site {
		p.fill("site."+f, v)
	}
	p.press("Make the job")
	p.is(`location.pathname.endsWith('/survey') && !location.pathname.includes('/new')`)
	path, err := chromedp.Run(p.ctx, chromedp.Evaluate[string](`location.pathname.split('/')[2]`))
	if err != nil {
		p.t.Fatal(err)
	}
	return path
}

func (p *page) fillAll(list []pair) {
	p.t.Helper()
	for _, f := range list {
		if f[0] == "press" {
			if section, ok := map[string]string{"Add a load": "survey.loads", "Add a vehicle": "survey.vehicles"}[f[1]]; ok {
				p.openSection(section)
			}
			p.press(f[1])
			continue
		}
		p.fill(f[0], f[1])
	}
}

func (j *journey) doSurvey(p *page) {
	p.fillAll(j.survey)
	for i, seg := range j.segments {
		p.openSection("survey.places.0.route")
		p.press("Add a segment")
		for _, f := range seg {
			p.fill(fmt.Sprintf("survey.places.0.route.%d.%s", i, f[0]), f[1])
		}
	}
	p.saved()
	if j.full {
		p.press(j.takes)
		p.is(`!document.querySelector('[data-rule="board"][data-verdict="stop"]')`)
		return
	}
	p.is(`document.querySelector('.tally').innerText.includes('nothing in the way')`)
}

// doDesign types the design, chooses a conductor, sees a stop and mends it.
func (j *journey) doDesign(p *page, id string) {
	p.visit("/jobs/" + id + "/design")
	p.unfold()
	p.fillAll(j.design)
	p.saved()
	if j.option != "" {
		p.is(fmt.Sprintf(`document.querySelector('[data-option=%q]')`, j.option))
		p.click(fmt.Sprintf(`[data-option=%q]`, j.option))
		p.saved()
		p.is(`document.querySelector('tr.chosen .is')`)
	}
	p.fillAll(j.after)
	p.saved()
	p.is(fmt.Sprintf(`document.querySelector('[data-rule=%q][data-verdict="stop"]')`, j.stopRule))
	p.fillAll(j.mend)
	p.saved()
	p.is(fmt.Sprintf(`!document.querySelector('[data-rule=%q][data-verdict="stop"]')`, j.stopRule))
	p.is(`document.querySelector('.tally').innerText.includes('nothing in the way')`)
}

// doPapers answers every paper: those that must come first are granted.
func (j *journey) doPapers(p *page, id string) {
	p.visit("/jobs/" + id + "/clearances")
	p.is(`document.querySelectorAll('[data-paper-card]').length > 1`)
	if j.earlier {
		p.press("Take over") // a paper must come before it was planned to
		p.is(`document.body.innerText.includes('Taken over') && !document.body.innerText.includes('must come earlier')`)
		p.saved() // else what is filled in meets it
	}
	p.eval(`document.querySelectorAll('[data-fold][aria-expanded="false"]').forEach(b => b.click())`)
	n, err := chromedp.Run(p.ctx, chromedp.Evaluate[int](`document.querySelectorAll('[data-paper-card]').length`))
	if err != nil {
		p.t.Fatal(err)
	}
	for i := range n {
		f := fmt.Sprintf("clearances.papers.%d.", i)
		p.fill(f+"needed", "yes")
		after, err := chromedp.Run(p.ctx, chromedp.Evaluate[bool](fmt.Sprintf(`document.querySelector('[data-field="%sbefore"] select')?.value === 'after'`, f)))
		if err != nil {
			p.t.Fatal(err)
		}
		if after {
			continue // its answer comes after the work
		}
		p.fill(f+"sent", "2026-03-02")
		p.fill(f+"granted", "2026-03-20")
		p.fill(f+"reference", fmt.Sprintf("ref %d", i))
	}
	p.saved()
	p.is(`document.querySelector('.tally').innerText.includes('nothing in the way')`)
}

func (j *journey) doPlan(p *page, id string) {
	p.visit("/jobs/" + id + "/plan")
	p.fill("plan.notice", "yes")
	p.fill("plan.home", "yes")
	p.press("Take the parts from the design")
	p.is(`document.querySelectorAll('.tick').length > 3`)
	p.saved()
	p.is(`document.querySelector('[data-rule="parts-in-hand"][data-verdict="open"]')`)
	for p.byKeys {
		p.click(`.tick[aria-checked="false"]`)
		p.settled()
		if more, _ := chromedp.Run(p.ctx, chromedp.Evaluate[bool](`!!document.querySelector('.tick[aria-checked="false"]')`)); !more {
			break
		}
	}
	p.eval(`document.querySelectorAll('.tick[aria-checked="false"]').forEach(t => t.click())`)
	p.saved()
	p.fill("plan.team", j.team)
	p.fill("plan.day", workday(25))
	p.is(`document.querySelector('[data-field="plan.booking"] .btn.main')`) // nothing speaks against it
	p.press("Book this day")
	p.is(`document.querySelector('[data-booked]')?.innerText.includes(` + fmt.Sprintf("%q", j.names[0]) + `)`)
	p.is(`document.querySelector('.tally').innerText.includes('nothing in the way')`)
}

// workday is a day of the coming weeks that is no Saturday or Sunday.
func workday(inDays int) string {
	d := time.Now().AddDate(0, 0, inDays)
	for d.Weekday() == time.Saturday || d.Weekday() == time.Sunday {
		d = d.AddDate(0, 0, 1)
	}
	return d.Format(time.DateOnly)
}

// li is the selector of a step, of the point that the page is about where it is about one.
func (p *page) li(step string) string {
	if p.point == "" {
		return fmt.Sprintf(`li[data-step=%q]`, step)
	}
	return fmt.Sprintf(`li[data-step=%q][data-point=%q]`, step, p.point)
}

// step logs the step that is open, which must be the one named.
func (p *page) step(id, value string) {
	p.t.Helper()
	sel := p.li(id)
	p.show(sel)
	if value != "" {
		p.is(fmt.Sprintf(`document.querySelector('%s .finish :is(input, select)')`, sel))
		if tag, _ := chromedp.Run(p.ctx, chromedp.Evaluate[string](fmt.Sprintf(`document.querySelector('%s .finish :is(input, select)').tagName`, sel))); tag == "SELECT" {
			p.choose(sel+" .finish select", value)
		} else {
			p.input(sel+" .finish input", value)
		}
	}
	p.click(sel + " .finish .btn.main")
	p.is(fmt.Sprintf(`document.querySelector('%s').classList.contains('tight')`, sel))
}

// choose picks an option of a select that a selector finds.
func (p *page) choose(selector, value string) {
	p.t.Helper()
	if p.byKeys {
		p.pick(selector, value)
		return
	}
	p.is(fmt.Sprintf(`(e => { if (!e) return false; e.value = %q; e.dispatchEvent(new Event('change', {bubbles: true})); return e.value === %q })(document.querySelector(%q))`, value, value, selector))
}

// show opens a step.
func (p *page) show(sel string) {
	p.t.Helper()
	if p.byKeys {
		p.is(`document.querySelector('` + sel + ` .title')`)
		if open, _ := chromedp.Run(p.ctx, chromedp.Evaluate[bool](`!!document.querySelector('`+sel+` .inside')`)); !open {
			p.enter(sel + " .title")
		}
	}
	p.is(fmt.Sprintf(`document.querySelector('%s .inside') || (document.querySelector('%s .title')?.click(), false)`, sel, sel))
}

func (p *page) openStep(id string) string {
	p.t.Helper()
	sel := p.li(id)
	p.show(sel)
	return sel
}

// proveDead reads a known source, every pair, and the source again, with the
// big button for 0 V.
func (j *journey) proveDead(p *page) {
	sel := p.openStep("prove-dead")
	source := func() {
		p.input(sel+" form input", j.source)
		p.click(sel + " form .row .btn")
	}
	p.is(`document.querySelectorAll('.tile').length > 3`)
	source()
	p.is(`document.querySelectorAll('.tile.read').length === 1`)
	for i, pr := range j.pairs {
		p.is(fmt.Sprintf(`document.querySelector('.big')?.innerText === %q`, pr+" reads 0 V"))
		p.click(".big")
		p.is(fmt.Sprintf(`document.querySelectorAll('.tile.read').length === %d`, i+2))
	}
	source()
	p.is(`document.querySelector('[data-field="install.isolation"]').innerText.includes('Dead proved')`)
}

// doInstall logs the installation on a phone, up to the dead tests. The signal goes
// after the proof of dead, and the browser starts cold without it; both come back
// at the end.
func (j *journey) doInstall(p *page, id string) {
	here := "/jobs/" + id + "/install"
	p.visit(here)
	p.carried()
	p.press("Start the clock")
	p.is(`document.querySelector('[data-clock]').innerText.includes('at work since')`)
	if j.shut {
		p.is(`!document.querySelector('li[data-step="prove-dead"], li[data-step="board"], [data-field="install.isolation"]')`)
		p.step("charger", j.says["charger"])
		j.set(p)
		return
	}
	p.step("protect", "")
	p.step("announce", "the customer")
	// Inside work is shut before dead is proved.
	p.is(`document.querySelector('li[data-step="board"]').innerText.includes('waits for')`)
	if j.backed {
		p.step("sources-off", "K. Osei, lock 8")
	}
	p.step("main-off", "lock 7, key with the lead")
	pairs := j.pairs
	if j.full {
		p.step("tails-open", "K. Osei, lock 8")
		for _, pr := range pairs {
			j.pairs = append(slices.Clip(j.pairs), cmp.Or(j.tails, "tails")+" "+pr)
		}
	}
	p.step("cover-off", "")
	j.proveDead(p)
	p.sent()

	p.offline(true)
	p.step("barrier", "fitted")
	p.is(`document.querySelector('li[data-step="barrier"]').innerText.includes('kept here, not sent')`)
	p.is(`document.querySelector('[data-signal]').innerText.includes('no signal')`)
	if !j.stays {
		p.step("backplate", "")
		p.visit(here) // started anew, from what is on the device
		p.is(`document.querySelector('li[data-step="backplate"]')?.classList.contains('tight')`)
		p.is(`document.querySelector('[data-signal]').innerText.includes('2 kept')`)
	}
	if j.full {
		for _, s := range j.boards {
			p.step(s[0], s[1])
		}
	}
	for _, s := range j.route {
		p.step(s[0], s[1])
	}
	if j.laid {
		p.step("end-fixed", "")
	}
	if j.kind != "" && !j.outlet && !j.carried && !j.laid {
		p.is(`!document.querySelector('li[data-step="cable"]') && !document.querySelector('li[data-step="drill"]')`)
		for _, s := range j.instead {
			p.step(s[0], s[1])
		}
	} else {
		p.photo("cable")
		run := "15 m"
		if j.carried {
			run = "6 m" // beyond the box
		}
		p.step("cable", run)
	}
	if j.remark != "" {
		p.step("remark", j.remark)
	}
	for _, s := range j.fittings {
		p.step(s, j.says[s])
	}
	// What waits is refused here too, by the same rules.
	p.is(`document.querySelector('li[data-step="energise"]').innerText.includes('waits for')`)
	ends := []struct{ step, terminals string }{{"board", "board"}, {"charger", "charger"}}
	if j.outlet || j.plugged {
		ends[1].step = "receptacle"
	}
	if j.laid {
		ends[1].step = "end-fed"
	}
	for _, e := range ends {
		end := e.step
		if !slices.ContainsFunc(j.terminals, func(t string) bool { return strings.HasPrefix(t, e.terminals) }) {
			p.is(fmt.Sprintf(`!document.querySelector('li[data-step=%q]')`, end)) // it stays shut
			continue
		}
		j.tighten(p, end, e.terminals)
		p.step(end, j.says[end])
	}
	if j.plugged {
		p.step("charger", "")
	}
	if j.reset != "" {
		p.step("reset", j.reset)
	}
	if j.outlet || j.laid {
		p.is(`!document.querySelector('li[data-step="settings"], li[data-step="charger"], li[data-step="backplate"]')`)
	} else {
		j.set(p)
	}
	p.step("lids", "")
	p.step("labels", "space 12, EV charger, point A")

	p.visit("/jobs/" + id + "/commission")
	j.setInstrument(p)
	p.read(j.dead)
	p.is(`document.querySelector('[data-test="insulation"]').innerText.includes('kept here, not sent')`)
	p.is(`document.querySelector('[data-test="insulation"] .mark.sound')`) // judged on the device
	p.offline(false)
	p.visit("/kept")
	p.sent()
	p.is(`document.querySelector('[data-kept]').innerText.includes('everything is sent')`)
	p.visit(here)
	p.is(`document.querySelector('li[data-step="labels"]')?.classList.contains('tight')`)
	p.is(`!document.querySelector('.unsent')`)
	for _, s := range j.afterDead {
		p.step(s[0], s[1])
	}
}

// tighten logs the torque of the terminals of a step.
func (j *journey) tighten(p *page, step, terminals string) {
	sel := p.openStep(step)
	p.input(sel+" [data-driver] input", "torque driver 4")
	for _, t := range j.terminals {
		if !strings.HasPrefix(t, terminals) {
			continue
		}
		form := fmt.Sprintf(`%s form[data-terminal=%q]`, sel, t)
		p.input(form+" [data-label] input", j.torque)
		p.input(form+" [data-got] input", j.torque)
		p.click(form + " .btn")
		p.is(fmt.Sprintf(`!document.querySelector('%s input')`, form))
		p.openStep(step)
	}
}

// set sets the charger by its maker's sheet and locks it.
func (j *journey) set(p *page) {
	p.openStep("settings")
	p.is(`document.querySelectorAll('[data-maker] [data-switch$=" on"]').length >= 2`) // as the maker's table has it
	p.eval(`document.querySelector('[data-maker]').scrollIntoView({block: 'center'})`)
	p.shot("maker")
	p.input(`[data-setting="amps"] input`, j.amps)
	p.click(`form:has([data-setting="amps"]) .btn`)
	p.is(fmt.Sprintf(`document.querySelector('form:has([data-setting="amps"])')?.innerText.includes('now %s A') || (document.querySelector('%s .title').click(), false)`, j.amps, p.li("settings")))
	p.choose(`select[data-setting="locked"]`, "cover sealed, installer's code")
	p.click(`form:has(select[data-setting="locked"]) .btn`)
	p.is(fmt.Sprintf(`document.querySelector('form:has(select[data-setting="locked"])')?.innerText.includes('now: cover sealed') || (document.querySelector('%s .title').click(), false)`, p.li("settings")))
	p.step("settings", "")
}

// photo takes a picture of a step.
func (p *page) photo(step string) {
	p.t.Helper()
	sel := p.openStep(step)
	var b bytes.Buffer
	if err := jpeg.Encode(&b, image.NewGray(image.Rect(0, 0, 64, 48)), nil); err != nil {
		p.t.Fatal(err)
	}
	p.upload(sel+" [data-photo] input", "cable.jpg", b.Bytes())
	p.is(fmt.Sprintf(`document.querySelector('%s img')?.complete && document.querySelector('%s img').naturalWidth === 64`, sel, sel))
}

// read types readings as a tester's user does: a value, Enter, the next field.
func (p *page) read(tests []entered) {
	p.t.Helper()
	for _, r := range tests {
		sel := fmt.Sprintf(`[data-entry=%q]`, r[0])
		p.is(fmt.Sprintf(`document.querySelector('%s')`, sel))
		tag, _ := chromedp.Run(p.ctx, chromedp.Evaluate[string](fmt.Sprintf(`document.querySelector('%s').tagName`, sel)))
		shown := fmt.Sprintf(`(e => e.value === %q && !e.classList.contains('changed') && !e.readOnly && !e.disabled)(document.querySelector('%s'))`, r[1], sel)
		switch {
		case tag == "SPAN":
			p.fillHere("commission."+r[0], r[1])
			shown = fmt.Sprintf(`document.querySelector('%s [aria-pressed="true"]:not(:disabled)')?.dataset.value === %q`, sel, r[1])
			p.tap(r[0])
		case r[2] == "" && p.tapped(sel, r):
		default:
			if p.byKeys {
				p.reach(sel)
			}
			p.do(chromedp.ScrollIntoView(chromedp.CSS(sel)), chromedp.Focus(chromedp.CSS(sel)))
			p.do(chromedp.Evaluate[chromedp.Void](fmt.Sprintf(`document.querySelector('%s').select()`, sel)))
			if r[2] != "" {
				p.do(chromedp.KeyEvent(r[1]))
				p.input(fmt.Sprintf(`[data-test=%q] .note input`, r[0]), r[2])
				p.do(chromedp.KeyEvent("\r"))
			} else {
				p.do(chromedp.KeyEvent(r[1] + "\r"))
			}
		}
		p.is(shown) // committed, and takes the next one
	}
}

// tap counts a tap for a test.
func (p *page) tap(test string) {
	if p.taps == nil {
		p.taps = map[string]int{}
	}
	p.taps[test]++
}

// tapped enters a reading by the key pad of a phone, a tap a key, and counts the taps; false
// where it is typed: on a desk, where a test is made again, and where the pad lacks a sign.
func (p *page) tapped(sel string, r entered) bool {
	p.t.Helper()
	is := func(expression string) bool {
		ok, err := chromedp.Run(p.ctx, chromedp.Evaluate[bool](expression))
		return err == nil && ok
	}
	field := fmt.Sprintf(`document.querySelector('%s')`, sel)
	if strings.Trim(r[1], "0123456789.>") != "" || p.taps[r[0]] > 0 || !is(`window.innerWidth < 720 && `+field+`.value === ''`) {
		return false
	}
	if !is(`document.activeElement === ` + field) { // the next row comes by itself
		p.click(sel)
		p.tap(r[0])
	}
	p.is(`document.activeElement === ` + field + ` && document.querySelector('.pad')`)
	keys := strings.Split(r[1], "")
	if strings.HasPrefix(r[1], "0.") {
		keys = keys[1:] // the point brings its nought
	} else if is(fmt.Sprintf(`document.querySelector('[data-key="past"]').innerText === %q`, r[1])) {
		keys = []string{"past"}
	}
	for _, k := range append(keys, "enter") {
		p.click(fmt.Sprintf(`[data-key=%q]`, k))
		p.tap(r[0])
	}
	return true
}

// inspect walks past the schedule of inspections: what the job knows is confirmed at once, the rest is
// as it should be, one press each, or is said in words. It returns the presses.
func (p *page) inspect(words map[string]string) int {
	p.t.Helper()
	p.click(`[data-confirm-known]`)
	p.is(`!document.querySelector('[data-confirm-known]')`)
	for presses := 1; ; presses++ {
		id, err := chromedp.Run(p.ctx, chromedp.Evaluate[string](`document.querySelector('[data-item][data-open]')?.dataset.item ?? ''`))
		if err != nil {
			p.t.Fatal(err)
		}
		if id == "" {
			p.is(`(([done, all]) => done === all)(document.querySelector('[data-inspected]').innerText.split(' of '))`)
			return presses
		}
		sel := fmt.Sprintf(`[data-item=%q]`, id)
		if said := words[id]; said != "" {
			p.click(sel + ` [data-value="said"]`)
			p.input(sel+" form input", said)
			p.click(sel + ` form [type="submit"]`)
			p.is(`document.querySelector('` + sel + `:not([data-open])')`)
			continue
		}
		if list, _ := chromedp.Run(p.ctx, chromedp.Evaluate[string](`document.querySelector('`+sel+` select')?.options[1].value ?? ''`)); list != "" {
			p.choose(sel+" select", list)
		} else {
			p.click(sel + " .bars button")
		}
		p.is(`document.querySelector('` + sel + `:not([data-open])')`)
	}
}

func (j *journey) setInstrument(p *page) {
	p.is(`document.querySelector('.instrument input')`)
	p.input(".instrument input", "tester 7F-2208")
}

// run carries the job from new to sealed and returns the folder with its
// downloaded papers.
func (j *journey) run(t *testing.T, srv *program) map[string]string {
	width := int64(390)
	if j.byKeys {
		width = 1280
	}
	seated := func(width, height int64) *page {
		p := open(t, srv.base, width, height)
		p.byKeys = j.byKeys
		return p
	}
	office := seated(1280, 800)
	office.signIn("surveyor")
	id := j.create(office)
	j.doSurvey(office)
	j.doDesign(office, id)
	j.doPapers(office, id)
	j.doPlan(office, id)
	office.visit("/jobs/" + id + "/handover")
	office.is(`document.body.innerText.includes('Only a verifier seals')`)
	office.click(`[data-sign="design"]`)
	office.is(`!document.querySelector('[data-sign="design"]')`)

	phone := seated(width, 844)
	phone.signIn(j.crew[0])
	j.doInstall(phone, id)
	phone.openStep("energise")
	phone.is(`document.querySelector('.roll .btn.main').disabled`)
	phone.click(fmt.Sprintf(`[data-answer=%q]`, j.names[0]))
	phone.is(fmt.Sprintf(`document.querySelector('[data-answered=%q]')?.innerText.includes('own phone')`, j.names[0]))
	if len(j.crew) > 1 {
		mate := seated(width, 844)
		mate.signIn(j.crew[1])
		mate.visit("/jobs/" + id + "/install")
		mate.openStep("energise")
		mate.click(fmt.Sprintf(`[data-answer=%q]`, j.names[1]))
		mate.is(fmt.Sprintf(`document.querySelector('[data-answered=%q]')`, j.names[1]))
		phone.visit("/jobs/" + id + "/install")
		phone.openStep("energise")
	} else {
		phone.click(fmt.Sprintf(`[data-answer=%q]`, j.names[1]))
	}
	phone.is(fmt.Sprintf(`document.querySelector('[data-answered=%q]')`, j.names[1]))
	phone.click(".roll .btn.main")
	if j.shut {
		phone.is(`document.querySelector('li[data-step="energise"].tight')`)
	} else {
		phone.is(`document.querySelector('[data-field="install.isolation"]').innerText.includes('Energised')`)
	}
	phone.visit("/jobs/" + id + "/commission")
	j.setInstrument(phone)
	phone.read(j.live)
	if len(j.afterLive) > 0 {
		phone.visit("/jobs/" + id + "/install")
		for _, s := range j.afterLive {
			phone.step(s[0], s[1])
		}
		phone.visit("/jobs/" + id + "/commission")
	}
	presses := phone.inspect(j.stated)
	t.Logf("%d presses for the schedule of inspections", presses)
	if presses > j.walked {
		t.Errorf("%d presses for the schedule of inspections, %d wanted", presses, j.walked)
	}
	taps := 0
	for _, test := range j.electrical {
		if phone.taps[test] == 0 {
			t.Errorf("%s was not counted", test)
		}
		taps += phone.taps[test]
	}
	if len(j.electrical) > 0 {
		t.Logf("%d taps for %d electrical rows: %v", taps, len(j.electrical), phone.taps)
	}
	if taps > 30 {
		t.Errorf("%d taps for %d electrical rows, 30 wanted", taps, len(j.electrical))
	}
	phone.visit("/jobs/" + id + "/handover")
	if j.outlet || j.laid {
		phone.is(`document.querySelector('[data-sign="construction"]') && !document.querySelector('[data-field="handover.scheduler"]')`)
	} else {
		phone.click(`[data-field="handover.scheduler"] [data-value="charger"]`)
		phone.is(`document.querySelector('[data-field="handover.scheduler"] [data-value="charger"]').getAttribute('aria-pressed') === 'true'`)
	}
	phone.click(`[data-sign="construction"]`)
	phone.is(`!document.querySelector('[data-sign="construction"]')`)
	phone.click(`[data-sign="testing"]`)
	phone.is(`!document.querySelector('[data-sign="testing"]')`)
	phone.is(`!document.querySelector('[data-action="seal"]')`)

	seated(1280, 800).seal(id)

	api := signedIn(t, srv.base, "verifier")
	dir := t.TempDir()
	files := map[string]string{}
	for _, kind := range []string{"inspection", "certificate", "handover", "record"} {
		status, b := api.do("GET", "/api/jobs/"+id+"/records/1/"+kind, "", "")
		if status != 200 {
			t.Fatalf("%s: %d", kind, status)
		}
		files[kind] = filepath.Join(dir, kind)
		if err := os.WriteFile(files[kind], b, 0o600); err != nil {
			t.Fatal(err)
		}
		if out, err := exec.Command(binary, "verify", "--any-key", files[kind]).CombinedOutput(); err != nil || !strings.Contains(string(out), "intact") {
			t.Errorf("verify %s: %v %s", kind, err, out)
		}
	}
	out, err := exec.Command("pdftotext", "-layout", files["inspection"], "-").Output()
	if err != nil {
		t.Fatal(err)
	}
	for _, w := range append(j.pdfWords, j.number, "Inspection record", "A. Nakagawa", "M. Farrant", j.names[0]) {
		if !strings.Contains(string(out), w) {
			t.Errorf("the inspection record does not print %q", w)
		}
	}
	if out, err = exec.Command("pdftotext", "-layout", files["certificate"], "-").Output(); err != nil {
		t.Fatal(err)
	}
	for _, w := range append(j.certified, j.number, "Circuit details", "Test results", "Torque log", "Inspection and testing", j.names[0]) {
		if !strings.Contains(string(out), w) {
			t.Errorf("the certificate does not print %q", w)
		}
	}
	// A job exported from the program checks from the command line as well.
	status, b := api.do("GET", "/api/jobs/"+id+"/export", "", "")
	if status != 200 {
		t.Fatal(status)
	}
	file := filepath.Join(dir, "job.json")
	os.WriteFile(file, b, 0o600)
	if out, err := exec.Command(binary, "check", file).CombinedOutput(); err != nil || !strings.Contains(string(out), "0 stop, 0 open") {
		t.Errorf("check: %v\n%s", err, out)
	}
	return files
}

// seal seals a job as the verifier, of which nothing is missing and whose page has the words.
func (p *page) seal(id string, words ...string) {
	p.t.Helper()
	p.signIn("verifier")
	p.visit("/jobs/" + id + "/handover")
	for _, w := range append(words, "Nothing is missing for the seal") {
		p.is(fmt.Sprintf(`document.body.innerText.includes(%q)`, w))
	}
	p.click(`[data-action="seal"]`)
	p.is(`document.querySelectorAll('[data-paper]').length === 4`)
}

// ukJourney is a British job.
func ukJourney() *journey {
	return &journey{
		rulebook: "bs7671:2018+A2:2022", number: "E2E-UK-1", walked: 26,
		site: map[string]string{"customer": "F. Ashdown", "street": "12 Ropewalk", "town": "Quillmouth", "postcode": "QM4 2AB"},
		survey: []pair{
			{"survey.supply.system", "tn-c-s"}, {"survey.supply.phases", "1"}, {"survey.supply.rating", "100"}, {"survey.supply.ratingSeen", "yes"}, {"survey.supply.condition", "sound"},
			{"survey.supply.voltage", "239"}, {"survey.supply.declaredZe", "0.35"}, {"survey.supply.faultCurrent", "1.4"}, {"survey.supply.peakDemand", "22"}, {"survey.supply.peakDays", "30"},
			{"survey.supply.otherSource", "no"}, {"survey.supply.mainSwitchAt", "at the board"}, {"survey.bonding.conductor", "16"}, {"survey.bonding.size", "10"}, {"survey.bonding.gas", "bonded"}, {"survey.bonding.water", "plastic"},
			{"survey.bonding.oil", "none"}, {"survey.bonding.steel", "none"}, {"survey.bonding.other", "none"}, {"survey.board.rating", "100"}, {"survey.board.ways", "12"}, {"survey.board.waysFree", "2"}, {"survey.board.breakingKa", "6"},
			{"survey.board.terminals", "70"}, {"survey.board.upstreamRcdType", "none"},
			{"press", "Add a vehicle"}, {"survey.vehicles.0.name", "hatchback"}, {"survey.vehicles.0.onBoard", "7.4"}, {"survey.vehicles.0.phases", "1"}, {"survey.vehicles.0.inlet", "rear-right"},
			{"survey.consent.landlord", "no"}, {"survey.places.0.name", "corner by the drive"}, {"survey.places.0.outdoors", "yes"}, {"survey.places.0.holderHeight", "1.1"},
		},
		segments: [][]pair{{{"method", "surface"}, {"ambient", "30"}, {"length", "9"}}, {{"method", "surface"}, {"length", "6"}, {"ambient", "35"}}},
		design: []pair{
			{"design.circuits.0.setting", "32"}, {"design.circuits.0.breaker.rating", "40"}, {"design.circuits.0.breaker.poles", "2"}, {"design.circuits.0.breaker.curve", "B"}, {"design.circuits.0.dedicated", "yes"}, {"design.circuits.0.connection", "hard-wired"},
			{"design.circuits.0.charger.fill", "wall unit 32 A, tethered, plain"}, {"design.circuits.0.charger.serial", "WU-7001"},
		},
		option: "6 mm² armoured, 70 °C, core as earth",
		after: []pair{
			{"design.circuits.0.rcd.fitted", "yes"}, {"design.circuits.0.rcd.type", "A"}, {"design.circuits.0.rcd.tripMa", "30"}, {"design.circuits.0.rcd.allPoles", "yes"},
			{"design.circuits.0.earthing.openPen", "none"}, {"design.circuits.0.spd", "fitted"}, {"design.circuits.0.isolator", "yes"},
		},
		stopRule: "open-pen", mend: []pair{{"design.circuits.0.earthing.openPen", "device-voltage"}},
		crew: []string{"installer", "mate"}, names: []string{"K. Osei", "T. Brandt"}, team: "harbour", source: "238",
		route: []pair{{"drill", ""}}, fittings: []string{"isolator", "spd"},
		pairs:     []string{"L–N", "L–E", "N–E"},
		terminals: []string{"board-line", "board-neutral", "board-earth", "charger-line", "charger-neutral", "charger-earth"}, torque: "2.5", amps: "32",
		dead:       []entered{{"bonding", "0.03"}, {"r1r2", "0.09"}, {"insulation", ">999"}, {"insulation-live", ">999"}, {"polarity-dead", "correct"}, {"polarity-origin", "correct"}, {"ze", "0.28"}, {"pfc", "0.86"}},
		electrical: []string{"r1r2", "insulation", "insulation-live", "polarity-dead", "polarity-origin", "ze", "pfc", "zs", "rcd-time"},
		afterDead:  []pair{{"rejoin", "K. Osei"}},
		live: []entered{{"voltage", "240"}, {"polarity-live", "correct"}, {"zs", "0.37"},
			{"rcd-time", "342"}, {"rcd-time", "26", "slow device replaced by a new one"}, {"dc-trip", "0.8"}, {"pilot", "53.3"}, {"functions", "correct"},
			{"open-neutral", "opens within 5 s"}, {"schedule", "on, away from peak hours"}, {"start-delay", "600"}, {"network", "joined"}, {"firmware", "2.4.1"}, {"meter", "0.2 kWh"}},
		pdfWords:  []string{"F. Ashdown", "12 Ropewalk, Quillmouth", "TN-C-S (PME)", "B40 A", "342 ms", "26 ms", "replaced: failed", "tested", "slow device", "remedy:", ">999 MΩ", "≤ 300 ms", "≤ 0.87 Ω", "tester 7F-2208", "lock 7", "breaker, line", "answered", "6 mm² armoured", "BS 7671:2018+A2:2022"},
		certified: []string{"Electrical installation certificate", "0.86 kA, by measurement", "0.28 Ω, by measurement", "BS 88-3, 100 A", "16 mm², copper", "Next inspection", "BS EN 61009-1", "Zs at most", "Charging equipment and its location"},
	}
}

// TestUKJob carries a British job from new to sealed.
func TestUKJob(t *testing.T) {
	files := ukJourney().run(t, start(t, "demo", t.TempDir()))
	// The failed reading stays in the record with its retest.
	b, _ := os.ReadFile(files["record"])
	if strings.Count(string(b), `"subject":"rcd-time"`) != 2 {
		t.Error("the record does not hold both the failed reading and its retest")
	}
}

// usJourney is an American job.
func usJourney() *journey {
	return &journey{
		rulebook: "nec:2023", number: "E2E-US-1", walked: 11,
		site: map[string]string{"customer": "T. Reyes", "street": "310 Mesa Street", "town": "Copper Flats", "postcode": "00043"},
		survey: []pair{
			{"survey.supply.system", "split-120240"}, {"survey.supply.phases", "1"}, {"survey.supply.rating", "200"}, {"survey.supply.ratingSeen", "yes"}, {"survey.supply.condition", "sound"},
			{"survey.supply.voltage", "242"}, {"survey.supply.otherSource", "no"}, {"survey.board.label", "panel in the garage"}, {"survey.board.rating", "200"}, {"survey.board.breakingKa", "10"}, {"survey.board.ways", "40"}, {"survey.board.waysFree", "6"}, {"survey.board.freePair", "yes"}, {"survey.board.workingSpace", "yes"}, {"survey.board.handleHeight", "66"},
			{"survey.board.circuitsMax", "42"}, {"survey.board.circuitsFitted", "32"}, {"survey.board.terminals", "75"},
			{"survey.dwelling.floorArea", "1800"}, {"press", "Add a load"}, {"survey.loads.0.kind", "cooker"}, {"survey.loads.0.power", "10"},
			{"press", "Add a vehicle"}, {"survey.vehicles.0.name", "sedan"}, {"survey.vehicles.0.onBoard", "11.5"}, {"survey.vehicles.0.phases", "1"}, {"survey.vehicles.0.inlet", "rear-left"},
			{"survey.places.0.name", "garage wall"}, {"survey.places.0.outdoors", "no"}, {"survey.places.0.detached", "no"}, {"survey.places.0.holderHeight", "48"},
		},
		segments: [][]pair{{{"method", "conduit"}, {"length", "38"}, {"ambient", "38"}, {"wet", "no"}}},
		design: []pair{
			{"design.circuits.0.setting", "48"}, {"design.circuits.0.breaker.rating", "60"}, {"design.circuits.0.breaker.poles", "2"}, {"design.circuits.0.dedicated", "yes"}, {"design.circuits.0.connection", "hard-wired"},
			{"design.circuits.0.charger.fill", "wall unit 48 A, hard-wired"}, {"design.circuits.0.charger.serial", "HW-7002"}, {"design.circuits.0.cable.whiteIsHot", "no"},
		},
		option: "8 AWG THWN-2 in EMT", stopRule: "terminal-ampacity",
		mend: []pair{{"design.circuits.0.cable.size", "6 AWG"}},
		crew: []string{"crew-us"}, names: []string{"R. Delacroix", "J. Whitlock"}, team: "mesa", source: "121",
		route:     []pair{{"way:conduit", ""}},
		pairs:     []string{"L1–L2", "L1–N", "L2–N", "L1–G", "L2–G", "N–G"},
		terminals: []string{"board-l1", "board-l2", "board-ground", "charger-l1", "charger-l2", "charger-ground"}, torque: "36", amps: "48", remark: "none",
		dead: []entered{{"ground-continuity", "0.06"}, {"insulation", ">999"}},
		live: []entered{{"hot-hot", "242"}, {"hot-ground-l1", "121"}, {"hot-ground-l2", "121"}, {"pilot", "80"}, {"gf-self-test", "passed"}, {"vehicle-states", "correct"},
			{"network", "joined"}, {"firmware", "3.1.0"}, {"meter", "0.2 kWh"}},
		pdfWords:  []string{"T. Reyes", "310 Mesa Street, Copper Flats", "120/240 V split phase", "60 A", "38 ft", "Torque, breaker, L1", "36 in·lb", "space 12, EV charger", "625.41", "NEC 2023"},
		certified: []string{"Inspection checklist and torque log", "panel in the garage", "Rough-in, before anything is covered", "60 A, 2 poles", "36 in·lb", "110.14(D)"},
	}
}

// TestUSJob carries an American job from new to sealed.
func TestUSJob(t *testing.T) { usJourney().run(t, start(t, "demo", t.TempDir())) }
