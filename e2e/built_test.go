//go:build e2e

package e2e

import (
	"strings"
	"testing"
)

// TestVariationFlips: on the phone a longer route is noted, the verdict of the
// voltage drop flips at once, and the office's list of near misses has no name.
func TestVariationFlips(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "verifier")
	p := open(t, srv.base, 390, 844)
	p.signIn("installer")
	p.visit("/jobs/" + jobID(t, api, "DB-0412") + "/install")
	p.press("Note a variation")
	p.fill("variation.subject", "route.length")
	p.fill("variation.value", "90")
	p.fill("variation.reason", "round the new extension, the wall may not be drilled")
	p.press("Judge it as built")
	p.is(`document.querySelector('[data-built]')?.innerText.includes('90 m')`)
	p.is(`document.querySelector('[data-change="drop"] .sound') && document.querySelector('[data-change="drop"] .stop')`)
	p.is(`document.documentElement.scrollWidth <= 390`)
	p.shot("variation")
	p.press("Note or near miss")
	p.is(`document.querySelector('[data-near-miss="arc"]')`) // the sheet is still sliding in
	p.eval(`document.querySelector('[data-near-miss="arc"]').click()`)
	p.is(`document.querySelector('.notes')?.innerText.includes('A tool came out marked')`)
	p.signIn("office")
	p.visit("/firm")
	p.is(`document.body.innerText.includes('A tool came out marked')`)
	p.is(`![...document.querySelectorAll('tr')].some(r => r.innerText.includes('A tool came out marked') && r.innerText.includes('Osei'))`)
	p.press("With names")
	p.is(`[...document.querySelectorAll('tr')].some(r => r.innerText.includes('A tool came out marked') && r.innerText.includes('Osei'))`)
}

// TestSettingAfterDone: what a charger was set to can be entered, and entered otherwise, after the
// step was said to be done: a slip of Done does not leave the record open for ever.
func TestSettingAfterDone(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "office")
	id := jobID(t, api, "DB-0409")
	p := open(t, srv.base, 390, 844)
	p.signIn("installer")
	p.visit("/jobs/" + id + "/install")
	p.openStep("settings")
	p.input(`[data-setting="amps"] input`, "20")
	p.click(`form:has([data-setting="amps"]) .btn`)
	p.is(`document.querySelector('form:has([data-setting="amps"])')?.innerText.includes('now 20 A') || (document.querySelector('li[data-step="settings"] .title').click(), false)`)
	p.is(`!document.querySelector('[data-signal]')`)
	p.shot("setting-after-done")
	by := logged(t, api, id, "amps")
	if last := by[len(by)-1]; last.Value != "20" {
		t.Errorf("%+v", by)
	}
}

// TestTakeBack: a slip is taken back by a press in the notice, a step of before with a reason;
// both stay on the record, and the step is to do again.
func TestTakeBack(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "office")
	id := jobID(t, api, "DB-0412")
	p := open(t, srv.base, 390, 844)
	p.signIn("installer")
	p.visit("/jobs/" + id + "/install")
	const done = `document.querySelector('li[data-step="backplate"].tight')`
	p.openStep("backplate")
	p.click(`li[data-step="backplate"] .btn.main`)
	p.is(done)
	p.is(`document.querySelector('[data-logged]')?.innerText.includes('Back plate fixed')`)
	p.shot("taken-back-notice")
	p.click(`[data-undo-entry]`)
	p.is(`!` + done + ` && !document.querySelector('[data-logged]')`)
	p.openStep("backplate")
	p.click(`li[data-step="backplate"] .btn.main`)
	p.is(done)
	p.photo("backplate") // of the wrong wall
	p.click(`li[data-step="backplate"] figure [data-take-back]`)
	p.input(`li[data-step="backplate"] figure [data-take-back-why] input`, "a picture of another job")
	p.click(`li[data-step="backplate"] figure [data-take-back-now]`)
	p.is(`!document.querySelector('li[data-step="backplate"] figure')`)
	p.click(`li[data-step="backplate"] .inside > [data-take-back]`)
	p.input(`[data-take-back-why] input`, "the plate is on the wrong wall")
	p.shot("taken-back-why")
	p.click(`[data-take-back-now]`)
	p.is(`!` + done)
	p.is(`!document.querySelector('[data-signal]')`) // all of it was sent
	by := logged(t, api, id, "backplate")
	var kinds, reasons []string
	for _, e := range by {
		kinds, reasons = append(kinds, e.Kind), append(reasons, e.Reason)
	}
	if got := strings.Join(kinds, " "); got != "step takeback step photo takeback takeback" || reasons[1] != "" || reasons[4] != "a picture of another job" || reasons[5] != "the plate is on the wrong wall" {
		t.Errorf("%s %q", got, reasons)
	}
}
