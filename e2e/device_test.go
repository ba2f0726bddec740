//go:build e2e

package e2e

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
)

// tab opens another tab of the same browser: one device, one session.
func (p *page) tab() *page {
	p.t.Helper()
	ctx, cancel := chromedp.NewContext(p.ctx)
	p.t.Cleanup(cancel)
	q := &page{t: p.t, ctx: ctx, base: p.base}
	if err := chromedp.Do(ctx, chromedp.EmulateViewport(390, 844)); err != nil {
		p.t.Fatal(err)
	}
	return q
}

// slow gives every request a delay, ms.
func (p *page) slow(ms float64) {
	p.t.Helper()
	rule := network.Conditions{Latency: ms, DownloadThroughput: -1, UploadThroughput: -1}
	if _, err := chromedp.Call(p.ctx, network.EmulateNetworkConditionsByRule, network.EmulateNetworkConditionsByRuleParams{MatchedNetworkConditions: []*network.Conditions{&rule}}); err != nil {
		p.t.Fatal(err)
	}
}

// underground signs in on a phone, opens the commission page of a job, loses signal and
// enters a reading there: it is kept. before is what the page does first.
func underground(t *testing.T, before func(*page)) (p *page, api *client, id string) {
	t.Helper()
	srv := start(t, "demo", t.TempDir())
	api = signedIn(t, srv.base, "office")
	id = jobID(t, api, "DB-0409")
	p = open(t, srv.base, 390, 844)
	if before != nil {
		before(p)
	}
	p.signIn("installer")
	p.visit("/jobs/" + id + "/commission")
	p.carried()
	p.is(`document.querySelector('[data-entry="dc-trip"]')`)
	p.offline(true)
	p.read([]entered{{"dc-trip", "0.7"}})
	return p, api, id
}

// installing opens the install page of a job under way on a phone.
func installing(t *testing.T) (p *page, api *client, id string) {
	t.Helper()
	srv := start(t, "demo", t.TempDir())
	api = signedIn(t, srv.base, "office")
	id = jobID(t, api, "DB-0412")
	p = open(t, srv.base, 390, 844)
	p.signIn("installer")
	p.visit("/jobs/" + id + "/install")
	return p, api, id
}

// line is an entry of a job's log.
type line struct {
	Kind, Subject, By, Value, Reason string
	At                               time.Time
}

// logged is what the server's log has about a subject.
func logged(t *testing.T, api *client, id, subject string) (found []line) {
	t.Helper()
	var view struct{ Job struct{ Log []line } }
	api.get("/api/jobs/"+id, &view)
	for _, e := range view.Job.Log {
		if e.Subject == subject {
			found = append(found, e)
		}
	}
	return found
}

// TestTwoPeopleOneDevice: what one person entered without signal is not sent in the
// name of another who signed in since on another tab; the first one's page says so and
// stops, and it is sent in its author's name when they sign in again.
func TestTwoPeopleOneDevice(t *testing.T) {
	first, api, id := underground(t, nil)
	// Another session on the same device, of which the first page is not told.
	second := first.tab()
	second.visit("/healthz")
	second.eval(`window.in = false; fetch('/api/session', {method: 'POST', headers: {'Content-Type': 'application/json'},
		body: JSON.stringify({username: 'verifier', password: 'dogbolt-demo'})}).then(r => window.in = r.ok)`)
	second.is(`window.in`)
	first.offline(false)
	first.is(`document.querySelector('[data-displaced]')?.innerText.includes('K. Osei')`)
	first.shot("displaced")
	second.visit("/kept")
	second.is(`document.querySelector('[data-kept]')`)
	if by := logged(t, api, id, "dc-trip"); len(by) != 0 {
		t.Errorf("sent meanwhile, by %v", by)
	}
	second.signIn("installer")
	first.is(`!document.querySelector('[data-displaced]')`) // theirs again
	second.visit("/kept")
	second.is(`document.querySelector('[data-kept]').innerText.includes('everything is sent')`)
	if by := logged(t, api, id, "dc-trip"); len(by) != 1 || by[0].By != "K. Osei" {
		t.Errorf("sent in the name of %v", by)
	}
	// A sign-in on a page is told to the other pages at once.
	second.signIn("verifier")
	first.is(`document.querySelector('[data-displaced]')`)
}

// TestOneEnterOneReading: leaving the field while a reading is on its way is no second
// reading.
func TestOneEnterOneReading(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "office")
	id := jobID(t, api, "DB-0409")
	p := open(t, srv.base, 390, 844)
	p.signIn("installer")
	p.visit("/jobs/" + id + "/commission")
	p.is(`document.querySelector('[data-entry="dc-trip"]')`)
	p.slow(700)
	p.input(`[data-entry="dc-trip"]`, "0.7")
	p.eval(`const e = document.querySelector('[data-entry="dc-trip"]')
		e.dispatchEvent(new KeyboardEvent('keydown', {key: 'Enter', bubbles: true, cancelable: true}))
		document.querySelector('[data-entry="rcd-time"], [data-entry="zs"]').focus()`)
	p.is(`(e => !e.readOnly && !e.classList.contains('changed'))(document.querySelector('[data-entry="dc-trip"]'))`)
	p.slow(0)
	p.sent()
	if by := logged(t, api, id, "dc-trip"); len(by) != 1 {
		t.Errorf("%d readings of one press", len(by))
	}
}

// TestTwoTabsOneSection: two fields of one section, changed on two tabs without
// signal, are both kept and both sent.
func TestTwoTabsOneSection(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "office")
	id := jobID(t, api, "DB-0421")
	first := open(t, srv.base, 390, 844)
	first.signIn("surveyor")
	at := "/jobs/" + id + "/survey?field=survey.supply.rating"
	first.visit(at)
	first.carried()
	second := first.tab()
	second.visit(at)
	second.is(`document.querySelector('[data-field="survey.supply.mainSwitchAt"]')`)
	first.offline(true)
	second.offline(true)
	first.fill("survey.supply.rating", "63")
	first.is(`document.querySelector('[data-state="kept"]')`)
	second.fill("survey.supply.mainSwitchAt", "in the porch")
	second.is(`document.querySelector('[data-state="kept"]')`)
	// The second tab shows what the first one kept.
	second.is(`document.querySelector('[data-field="survey.supply.rating"] input').value === '63'`)
	first.offline(false)
	second.offline(false)
	second.sent()
	var view struct {
		Job struct {
			Survey struct {
				Supply struct {
					Rating        float64
					MainsSwitchAt string `json:"mainSwitchAt"`
				}
			}
		}
	}
	api.get("/api/jobs/"+id, &view)
	if s := view.Job.Survey.Supply; s.Rating != 63 || s.MainsSwitchAt != "in the porch" {
		t.Errorf("%+v", s)
	}
}

// TestPhotoOfAStepLeft: a photo that was chosen on a step is in the log though another
// step was opened while it was made smaller.
func TestPhotoOfAStepLeft(t *testing.T) {
	p, api, id := installing(t)
	sel := p.openStep("backplate")
	p.slow(500)
	p.upload(sel+" [data-photo] input", "plate.png", grey(t, 1200, 900))
	p.eval(fmt.Sprintf(`[...document.querySelectorAll('[data-step] .title')].find(h => !h.closest(%q)).click()`, sel))
	p.slow(0)
	p.is(`!document.querySelector('[data-signal]')`)
	for range 100 {
		if len(logged(t, api, id, "backplate")) > 0 {
			break
		}
		p.do(chromedp.Sleep(50e6))
	}
	if by := logged(t, api, id, "backplate"); len(by) == 0 {
		t.Error("the photo is not in the log")
	}
}

// TestSignOutWithUnsent: who signs out with things that were not sent is asked, by name.
// Without signal the pages are shut all the same, and stay shut; the next person sees
// that another's things wait, and sends none of them.
func TestSignOutWithUnsent(t *testing.T) {
	p, api, id := underground(t, nil)
	p.eval(`window.confirm = said => { window.asked = said; return true }`)
	p.press("K. Osei")
	p.press("Sign out")
	p.is(`window.asked?.includes('One thing of K. Osei is not sent') && location.pathname === '/sign-in'`)
	p.offline(false)
	p.visit("/jobs/" + id + "/commission")
	p.is(`location.pathname === '/sign-in'`) // the session ended as soon as the server could be told
	p.signIn("verifier")
	p.visit("/kept")
	p.is(`document.querySelector('[data-others]')?.innerText.includes('1 thing of K. Osei') && document.querySelector('[data-kept]').innerText.includes('everything is sent')`)
	p.shot("others-wait")
	if by := logged(t, api, id, "dc-trip"); len(by) != 0 {
		t.Errorf("sent in the name of %v", by)
	}
}

// TestSlowClock: a device whose clock is three hours slow says so, and stamps what is
// logged with the server's time: it does not log into a board that was still open then.
func TestSlowClock(t *testing.T) {
	const slow = `const real = Date, by = 3 * 3600e3
		globalThis.Date = class extends real { constructor(...a) { if (a.length) super(...a); else super(real.now() - by) } static now() { return real.now() - by } }`
	p, api, id := underground(t, func(p *page) { p.before(slow) })
	p.is(`document.querySelector('[data-signal]')?.innerText.includes('clock 3 h 0 min slow')`)
	p.offline(false)
	p.is(`!document.querySelector('[data-signal]').innerText.includes('kept')`)
	p.shot("clock")
	said := logged(t, api, id, "dc-trip")
	if len(said) != 1 {
		t.Fatalf("the reading is in the log %d times", len(said))
	}
	if ago := time.Since(said[0].At); ago < 0 || ago > 2*time.Minute {
		t.Errorf("stamped %v ago", ago)
	}
}

// TestReceiptAtTheDoor: on a phone without signal, whoever takes the pack signs with a finger; it is sent later, the
// page shows the strokes, and the receipt is printed. The job is sealed already.
func TestReceiptAtTheDoor(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "verifier")
	id := jobID(t, api, "DB-0401")
	p := open(t, srv.base, 390, 844)
	p.signIn("installer")
	p.visit("/jobs/" + id + "/handover")
	p.carried()
	p.is(`document.querySelector('[data-pad]')?.width > 200`)
	p.offline(true)
	p.is(`document.querySelector('[data-receipt]').disabled`)
	p.eval(`document.querySelector('[data-pad]').scrollIntoView({block: 'center'})`)
	const box = `document.querySelector('[data-pad]').getBoundingClientRect()`
	x, y := p.number(box+".x"), p.number(box+".y")
	for _, stroke := range [][][2]float64{{{20, 60}, {60, 20}, {100, 70}, {150, 30}}, {{180, 60}, {220, 40}}} {
		for i, q := range stroke {
			what := input.DispatchTouchEventTypeTouchMove
			if i == 0 {
				what = input.DispatchTouchEventTypeTouchStart
			}
			p.touch(what, &input.TouchPoint{X: x + q[0], Y: y + q[1]})
		}
		p.touch(input.DispatchTouchEventTypeTouchEnd)
	}
	p.is(`!document.querySelector('[data-receipt]').disabled`)
	p.shot("receipt-pad")
	p.click(`[data-receipt]`)
	p.is(`document.querySelector('[data-received]')?.innerText.includes('shown by K. Osei')`)
	p.shot("receipt-kept")
	if list := logged(t, api, id, ""); hasReceipt(list) {
		t.Error("sent without signal")
	}
	p.offline(false)
	p.sent()
	if list := logged(t, api, id, ""); !hasReceipt(list) {
		t.Errorf("not sent: %+v", list)
	}
	status, file := api.do("GET", "/api/jobs/"+id+"/receipt.pdf", "", "")
	if status != 200 || !strings.HasPrefix(string(file), "%PDF-") {
		t.Errorf("receipt: %d %.80s", status, file)
	}
}

func hasReceipt(list []line) bool {
	return slices.ContainsFunc(list, func(l line) bool { return l.Kind == "receipt" && l.By == "K. Osei" })
}

// number is what an expression comes to on the page.
func (p *page) number(expression string) float64 {
	p.t.Helper()
	v, err := chromedp.Run(p.ctx, chromedp.Evaluate[float64](expression))
	if err != nil {
		p.t.Fatal(err)
	}
	return v
}

// touch puts fingers on the page, moves them or takes them off.
func (p *page) touch(what input.DispatchTouchEventType, at ...*input.TouchPoint) {
	p.t.Helper()
	if _, err := chromedp.Call(p.ctx, input.DispatchTouchEvent, input.DispatchTouchEventParams{Type: what, TouchPoints: append([]*input.TouchPoint{}, at...)}); err != nil {
		p.t.Fatal(err)
	}
}
