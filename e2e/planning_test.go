//go:build e2e

package e2e

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/jpeg"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
)

// grey is a picture of a size.
func grey(t testing.TB, w, h int) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := jpeg.Encode(&b, image.NewGray(image.Rect(0, 0, w, h)), nil); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// TestBounceLoop: a permit application with faults is named as such, sent all
// the same, sent back with reasons, mended in the page, and accepted; until then
// no day can be booked, through the API neither.
func TestBounceLoop(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "verifier")
	id := jobID(t, api, "DB-0430")
	p := open(t, srv.base, 1280, 800)
	p.signIn("office")
	p.visit("/jobs/" + id + "/clearances")
	p.is(`document.querySelectorAll('[data-lacks] li').length === 5`) // shape, two files, a small photo, no signature
	for _, words := range []string{"has not the shape", "Load calculation is missing", "not legible: 640 × 480", "Cut sheet of the charger is missing", "signature is missing"} {
		p.is(fmt.Sprintf(`document.querySelector('[data-lacks]').innerText.includes(%q)`, words))
	}
	const form = "form.lake-orrin-electrical-permit."
	p.press("Send all the same")
	p.is(`document.querySelector('.said.failed')?.innerText.includes('would bounce for 5')`) // not without a reason
	p.fill(form+"anyway", "the counter says they look at it")
	p.press("Send all the same")
	p.is(`document.querySelector('[data-state-of="permit"]').innerText === 'sent, waiting'`)
	p.press("Fetch answers")
	p.is(`document.querySelector('[data-state-of="permit"]').innerText === 'sent back, mend it'`)
	p.is(`document.querySelector('[data-replies="permit"]').innerText.includes('“Cut sheet of the charger” was not enclosed')`)

	day := fmt.Sprintf(`{"team":"mesa","day":%q,"anyway":"the customer insists on it"}`, workday(20))
	if status, body := api.do("PUT", "/api/jobs/"+id+"/booking", "application/json", day); status != 409 || !strings.Contains(string(body), "came back") {
		t.Errorf("booked while the permit is back: %d %s", status, body)
	}

	p.fill(form+"parcel", "12-0440-017")
	pdf := signedPDF(t, api, jobID(t, api, "DB-0401"))
	p.click(`[data-made="load-calculation"]`) // the program has the numbers, and prints them
	p.is(`document.querySelector('[data-enclosed="load-calculation"] a')?.innerText.includes('permit-package.pdf')`)
	p.saved()
	p.upload(`[data-enclosed="cutsheet"] input[type=file]`, "cutsheet.pdf", pdf)
	p.is(`document.querySelector('[data-enclosed="cutsheet"] a')`)
	p.saved()
	p.upload(`[data-enclosed="board-open"] input[type=file]`, "panel.jpg", grey(t, 1400, 1100))
	p.saved()
	p.fill(form+"signedBy", "R. Delacroix")
	p.fill(form+"signedOn", workday(-2))
	p.saved()
	p.is(`document.querySelector('[data-form] h3').innerText === 'Nothing that it would bounce for'`)
	p.press("Send")
	p.is(`document.querySelector('[data-state-of="permit"]').innerText === 'sent, waiting'`)
	p.press("Fetch answers")
	p.is(`document.querySelector('[data-state-of="permit"]').innerText === 'answered'`)
	p.is(`document.querySelectorAll('[data-replies="permit"] > li').length === 2`)
	p.is(`document.querySelector('[data-held="installing"]').dataset.free === 'true'`)
	if status, body := api.do("PUT", "/api/jobs/"+id+"/booking", "application/json", day); status != 200 {
		t.Errorf("with the permit: %d %s", status, body)
	}
	// The package holds the form in three formats and the files in their order.
	if status, zip := api.do("GET", "/api/jobs/"+id+"/papers/permit/form/zip", "", ""); status != 200 || !bytes.Contains(zip, []byte("03-cutsheet.pdf")) {
		t.Errorf("package: %d", status)
	}
}

// signedPDF fetches a PDF of the demo.
func signedPDF(t *testing.T, c *client, id string) []byte {
	t.Helper()
	status, b := c.do("GET", "/api/jobs/"+id+"/records/1/handover", "", "")
	if status != 200 || !bytes.HasPrefix(b, []byte("%PDF")) {
		t.Fatalf("%d %.80s", status, b)
	}
	return b
}

// TestDayRefused: for the long run every reel is too short, and days are passed
// over for cold; booked all the same, the day sheet says so.
func TestDayRefused(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "verifier")
	p := open(t, srv.base, 1280, 800)
	p.signIn("office")
	id := jobID(t, api, "DB-0428")
	p.visit("/jobs/" + id + "/plan")
	p.is(`document.querySelector('[data-says]')?.textContent.includes('circuit chart at the board: Charging point A')`)
	p.press("Find the first day")
	p.is(`document.querySelector('[data-first]')?.innerText.startsWith('No day up to')`)
	p.is(`document.querySelector('[data-passed="parts"]').innerText.includes('R-11')`)
	p.is(`document.querySelector('[data-passed="weather"]').innerText.includes('the cable is not bent below 0 °C')`)
	p.fill("plan.team", "harbour")
	p.fill("plan.day", workday(10))
	p.is(`document.querySelector('[data-reason="parts"]')?.innerText.includes('too short')`)
	p.press("Book this day")
	p.is(`document.querySelector('#plan\\.booking .said')?.innerText.includes('not bookable')`)
	p.fill("plan.anyway", "a new reel comes by the counter that morning")
	p.press("Book this day")
	p.is(`document.querySelector('[data-booked]')?.innerText.includes('against advice')`)
	p.is(`document.querySelector('[data-rule="day-and-crew"][data-verdict="watch"]')`)

	phone := open(t, srv.base, 390, 844)
	phone.signIn("installer")
	phone.visit("/jobs/" + id + "/day-sheet")
	phone.is(`document.querySelectorAll('[data-pick]').length > 8`)
	phone.is(`document.body.innerText.includes('Booked against advice') && document.body.innerText.includes('a new reel comes')`)
	phone.is(`document.documentElement.scrollWidth <= 390`)
	phone.is(`document.body.innerText.includes('not in hand')`) // the cable
}

// TestDays: jobs are put on days by keyboard and by dragging, refused where the
// crew is elsewhere or a paper is missing, and proposed as a whole.
func TestDays(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	p := open(t, srv.base, 1280, 800)
	p.signIn("office")
	p.visit("/days")
	p.is(`document.querySelector('[data-in-line="DB-0432"]')`)
	p.is(`document.querySelectorAll('[data-cell]').length === 15`)
	p.eval(`window.week = document.querySelector('[data-cell]').dataset.cell`)
	p.press("Later")
	p.is(`document.querySelectorAll('[data-cell]').length === 15 && document.querySelector('[data-cell]').dataset.cell !== window.week`)
	first := `[...document.querySelectorAll('[data-cell^="moor "]')][1]`
	take := func(number string) {
		p.is(fmt.Sprintf(`document.querySelector('[data-in-line="%s"] button')`, number))
		p.eval(fmt.Sprintf(`document.querySelector('[data-in-line="%s"] button').focus()`, number))
		p.do(chromedp.KeyEvent("\r"))
		p.is(`document.querySelector('.land')`)
	}
	take("DB-0432")
	p.eval(first + `.querySelector('.land').focus()`)
	p.do(chromedp.KeyEvent("\r"))
	p.is(first + `.querySelector('[data-on-day="DB-0432"]')`)
	// A paper is missing: refused, with what is missing.
	take("DB-0427")
	p.eval(first + `.querySelector('.land').click()`)
	p.is(`document.querySelector('[data-refused]')?.innerText.includes('must come before order')`)
	p.do(chromedp.KeyEvent("\u001b"))
	p.is(`!document.querySelector('[data-refused]')`)
	// By dragging, to another day of the crew.
	second := `[...document.querySelectorAll('[data-cell^="moor "]')][2]`
	drag := func(what, where, kind string) {
		middle := func(e string, x float64) (at [2]float64) {
			xy, err := chromedp.Run(p.ctx, chromedp.Evaluate[[]float64](fmt.Sprintf(`(e => { const r = e.getBoundingClientRect(); return [r.left + r.width * %g, r.top + 20] })(%s)`, x, e)))
			if err != nil {
				t.Fatal(err)
			}
			return [2]float64{xy[0], xy[1]}
		}
		p.eval(what + `.scrollIntoView({block: 'center'})`)
		from, to := middle(what, 0.9), middle(where, 0.5) // the grip, for a finger
		way := [][2]float64{{from[0] + 10, from[1] + 4}, {(from[0] + to[0]) / 2, (from[1] + to[1]) / 2}, to}
		finger := func(what input.DispatchTouchEventType, at ...*input.TouchPoint) {
			t.Helper()
			if _, err := chromedp.Call(p.ctx, input.DispatchTouchEvent, input.DispatchTouchEventParams{Type: what, TouchPoints: append([]*input.TouchPoint{}, at...)}); err != nil {
				t.Fatal(err)
			}
		}
		mouse := func(what input.DispatchMouseEventType, at [2]float64) {
			t.Helper()
			left := input.MouseButtonLeft
			if _, err := chromedp.Call(p.ctx, input.DispatchMouseEvent, input.DispatchMouseEventParams{Type: what, X: at[0], Y: at[1], Button: left, ClickCount: 1}); err != nil {
				t.Fatal(err)
			}
		}
		if kind == "touch" {
			finger(input.DispatchTouchEventTypeTouchStart, &input.TouchPoint{X: from[0], Y: from[1]})
			for _, at := range way {
				finger(input.DispatchTouchEventTypeTouchMove, &input.TouchPoint{X: at[0], Y: at[1]})
			}
		} else {
			mouse(input.DispatchMouseEventTypeMousePressed, from)
			for _, at := range way {
				mouse(input.DispatchMouseEventTypeMouseMoved, at)
			}
		}
		p.is(`document.querySelector('.job.carried') && document.querySelector('.cell.over')`)
		if kind == "touch" {
			finger(input.DispatchTouchEventTypeTouchEnd)
		} else {
			mouse(input.DispatchMouseEventTypeMouseReleased, to)
		}
	}
	drag(`document.querySelector('[data-on-day="DB-0432"]')`, second, "mouse")
	p.is(second + `.querySelector('[data-on-day="DB-0432"]') && !` + first + `.querySelector('[data-on-day]')`)
	drag(`document.querySelector('[data-on-day="DB-0432"]')`, first, "touch")
	p.is(first + `.querySelector('[data-on-day="DB-0432"]') && !` + second + `.querySelector('[data-on-day]')`)
	// And back, with the mouse.
	drag(`document.querySelector('[data-on-day="DB-0432"]')`, second, "mouse")
	p.is(second + `.querySelector('[data-on-day="DB-0432"]')`)
	// All that want a day, at once.
	p.press("Propose days")
	p.is(`document.querySelectorAll('[data-placed]').length >= 3`)
	p.is(`document.querySelector('[data-left="DB-0428"]').innerText.includes('R-11')`)
	p.is(`document.querySelector('[data-left="DB-0427"]').innerText.includes('grant')`)
	p.press("Book these")
	p.is(`[...document.querySelectorAll('[data-placed] td:last-child')].every(e => e.innerText === 'booked')`)
}

// TestStockPage: a file with bad rows is refused whole, row by row; an item is
// changed in the page.
func TestStockPage(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	p := open(t, srv.base, 1280, 800)
	p.signIn("installer")
	p.visit("/stock")
	p.is(`document.querySelector('[data-item="R-11"]')`)
	p.is(`document.querySelector('[data-order="Aldermoor Fixings"]').innerText.includes('mounting post')`)
	p.upload(`main input[type=file]`, "stock.csv", []byte("id,name,unit,place,state,reel,quantity,supplier,expected\nR-11,10 mm²,m,store,in-hand,yes,99,,\nR-20,,m,store,in-hand,yes,1,,\nR-21,x,m,store,gone,yes,1,,\n"))
	p.is(`document.querySelector('.said')?.innerText.includes('row 3') && document.querySelector('.said').innerText.includes('row 4')`)
	p.is(`document.querySelector('[data-item="R-11"]').innerText.includes('28.4')`)
	p.eval(`document.querySelector('[data-item="R-11"] button').click()`)
	p.fill("item.quantity", "62")
	p.press("Save")
	p.is(`document.querySelector('[data-item="R-11"]').innerText.includes('62')`)
}

// TestMyDay: a crew begins on its day: the jobs in order, what the van lacks and what is not sent,
// and the next step one press away. The office begins on the list.
func TestMyDay(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	p := open(t, srv.base, 390, 844)
	// How many jobs there were when the first was seen: one that came later would push the next step away from under a finger.
	p.before(`new MutationObserver(() => { window.first ||= document.querySelectorAll('[data-mine]').length }).observe(document, {childList: true, subtree: true})`)
	p.signIn("installer")
	p.is(`location.pathname.endsWith('/today')`)
	p.is(`document.querySelector('[data-mine] [data-next]')`)
	p.shot("my-day")
	p.visit("/") // as from the phone's home page
	_, b := signedIn(t, srv.base, "installer").do("GET", "/api/mine", "", "")
	var mine []json.RawMessage
	if err := json.Unmarshal(b, &mine); err != nil || len(mine) < 2 {
		t.Fatalf("%d jobs: %v", len(mine), err)
	}
	p.is(fmt.Sprintf(`location.pathname.endsWith('/today') && document.querySelectorAll('[data-mine]').length === %d`, len(mine)))
	p.is(fmt.Sprintf(`window.first === %d`, len(mine)))
	title := p.text(`[data-mine] [data-next]`)
	p.click(`[data-mine] [data-next]`)
	p.is(fmt.Sprintf(`document.querySelector('[data-step] .inside')?.closest('[data-step]').innerText.includes(%q)`, title))
	q := open(t, srv.base, 1280, 800)
	q.signIn("office")
	q.is(`location.pathname.endsWith('/jobs')`)
}

// TestAfterTheSeal: a sealed job says what is still to come and by when, a notice is noted beside
// the record, and taken off the list of what is due; the record itself stays as it was.
func TestAfterTheSeal(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "office")
	id := jobID(t, api, "DB-0409")
	p := open(t, srv.base, 1280, 800)
	p.signIn("verifier")
	p.visit("/jobs/" + id + "/handover")
	p.is(`document.querySelector('[data-coming="operator"]')?.innerText.includes('28 days from switching on')`)
	p.is(`document.querySelector('[data-to-come]').innerText.includes('Sealing does not wait for these')`)

	id = jobID(t, api, "DB-0401")
	record := func() string {
		status, body := api.do("GET", "/api/jobs/"+id+"/records/1/record", "", "")
		if status != 200 {
			t.Fatal(status)
		}
		return string(body)
	}
	due := func() string {
		_, body := api.do("GET", "/api/papers/due?days=366", "", "")
		return string(body)
	}
	was := record()
	if !strings.Contains(due(), `"number":"DB-0401","customer":"E. Marlowe","paper":"operator"`) {
		t.Errorf("a sealed job's notice is not due: %s", due())
	}
	p.visit("/jobs/" + id + "/handover")
	p.click(`[data-note="operator"]`)
	p.click(`[data-field="after.operator.event"] [data-value="not-needed"]`)
	p.press("Note it")
	p.is(`document.querySelector('[data-field="after.operator.words"] .error')?.innerText.includes('say why')`)
	p.click(`[data-field="after.operator.event"] [data-value="sent"]`)
	p.fill("after.operator.words", "N-4711")
	p.shot("to-come")
	p.press("Note it")
	p.is(`document.querySelector('[data-coming="operator"] .quiet')?.innerText.startsWith('sent, waiting')`)
	if record() != was {
		t.Error("the record is another")
	}
	p.visit("/jobs/" + id + "/clearances")
	p.is(`document.querySelector('[data-state-of="operator"]')?.innerText === 'sent, waiting'`)
	p.click(`[data-note="operator"]`)
	p.click(`[data-field="after.operator.event"] [data-value="answered"]`)
	p.press("Note it")
	p.is(`!document.querySelector('[data-coming="operator"]') && document.querySelector('[data-state-of="operator"]')?.innerText === 'answered'`)
	p.is(`![...document.querySelectorAll('[data-paper-card]')].some(c => c.querySelector('[data-field$=".sent"]'))`) // nothing of the paper itself is edited
	p.shot("after-the-seal")
	if strings.Contains(due(), `"number":"DB-0401","customer":"E. Marlowe","paper":"operator"`) {
		t.Error("an answered notice is still due")
	}

	// A claim that comes after the work is sent from the sealed job, once.
	id = jobID(t, api, "DB-0404")
	var view struct {
		Revisions map[string]int
		Job       struct {
			Clearances struct{ Papers []map[string]any }
		}
	}
	api.get("/api/jobs/"+id, &view)
	for _, paper := range view.Job.Clearances.Papers {
		if paper["id"] == "grant" {
			paper["needed"], paper["before"], paper["form"] = "yes", "after", "coastal-home-charging"
		}
	}
	section, err := json.Marshal(map[string]any{"revision": view.Revisions["clearances"], "section": map[string]any{"papers": view.Job.Clearances.Papers}})
	if err != nil {
		t.Fatal(err)
	}
	if status, body := api.do("PUT", "/api/jobs/"+id+"/clearances", "application/json", string(section)); status != 200 {
		t.Fatal(status, string(body))
	}
	if status, body := signedIn(t, srv.base, "verifier").do("POST", "/api/jobs/"+id+"/seal", "application/json", ""); status != 200 {
		t.Fatal(status, string(body))
	}
	p.visit("/jobs/" + id + "/clearances")
	// The copy that was carried along may be shown first, with the card as it was before the seal: open.
	p.is(`[...document.querySelectorAll('header *')].some(e => e.innerText === 'sealed')`)
	p.is(`(b => b && (b.getAttribute('aria-expanded') === 'true' || (b.click(), false)))(document.querySelector('[data-fold="grant"]'))`)
	p.fill("form.coastal-home-charging.quote", "1080")
	p.saved()
	p.fill("form.coastal-home-charging.anyway", "the rest follows by post")
	p.press("Send all the same")
	p.is(`document.querySelector('[data-state-of="grant"]')?.innerText === 'sent, waiting' && document.querySelector('[data-form]').innerText.includes('to desk@')`)
	p.is(`![...document.querySelectorAll('[data-form] button')].some(b => b.innerText.startsWith('Send'))`)
	p.shot("claim")
}

// TestInspectorAsks: on a phone, what an inspector wants put right is noted with what it is about, sends the inspection
// back and stops the schedule of inspections; put right, what it is about is looked at once more.
func TestInspectorAsks(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	p := open(t, srv.base, 390, 844)
	p.signIn("crew-us")
	id := jobID(t, signedIn(t, srv.base, "office"), "DB-0426")
	p.visit("/jobs/" + id + "/clearances")
	p.carried()
	p.offline(true) // no signal where the panel is
	p.click(`[data-ask-correction]`)
	p.choose(`[name="correction.thing"], [data-field="correction.thing"] select`, "panel-work")
	p.fill("correction.words", "two grounds under one screw")
	p.press("Note it")
	p.is(`document.querySelector('[data-corrections]').innerText.includes('1 to be put right')`)
	p.press("That is all")
	p.offline(false)
	p.sent()
	p.is(`document.querySelector('[data-state-of="final"]').innerText === 'sent back, mend it'`)
	p.is(`document.documentElement.scrollWidth <= 390`)
	p.shot("corrections")
	p.visit("/jobs/" + jobID(t, signedIn(t, srv.base, "office"), "DB-0425") + "/clearances") // a notice after the work: nobody comes
	p.is(`document.querySelector('[data-paper-card="building-control"]') && !document.querySelector('[data-corrections]')`)
	p.visit("/jobs/" + id + "/clearances")
	p.click(`[data-mend]`)
	p.input(`[data-mended] input, input[data-mended]`, "each on its own screw")
	p.press("Keep")
	p.is(`document.querySelector('[data-corrections]').innerText.includes('Put right: each on its own screw')`)
	p.is(`document.querySelector('[data-corrections]').innerText.includes('0 to be put right')`)
}
