//go:build e2e

package e2e

import "testing"

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
	p.input(`input[data-setting="amps"]`, "20")
	p.click(`form:has(input[data-setting="amps"]) .btn`)
	p.is(`document.querySelector('form:has(input[data-setting="amps"])')?.innerText.includes('now 20 A') || (document.querySelector('li[data-step="settings"] .title').click(), false)`)
	p.is(`!document.querySelector('[data-signal]')`)
	p.shot("setting-after-done")
	by := logged(t, api, id, "amps")
	if last := by[len(by)-1]; last.Value != "20" {
		t.Errorf("%+v", by)
	}
}
