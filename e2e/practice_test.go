//go:build e2e

package e2e

import "testing"

// TestPractice: a case is solved on the bench, another failed, and both stand in
// the results.
func TestPractice(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	p := open(t, srv.base, 390, 844)
	p.signIn("mate")
	p.visit("/practice")
	p.is(`document.querySelectorAll('[data-case]').length >= 12`)
	p.click(`[data-case="uk-1"]`)
	p.click(`[data-measure="r1r2"]`)
	p.is(`document.querySelector('[data-taken="r1r2"] .sound')`)
	p.click(`[data-measure="insulation"]`)
	p.is(`document.querySelector('[data-taken="insulation"] .stop') && document.querySelector('[data-taken="insulation"]').innerText.includes('0.42 MΩ')`)
	p.fill("practice.fault", "damp-insulation")
	p.fill("practice.remedy", "damp-insulation")
	p.press("Answer")
	p.is(`document.querySelector('[data-marks] h2').innerText.startsWith('100 of 100')`)
	p.is(`document.documentElement.scrollWidth <= 390`)
	p.shot("practice-solved")
	p.press("All cases")
	p.is(`document.querySelector('[data-case="uk-1"]').innerText.includes('best 100')`)
	// Live over a failed dead test, and a guess.
	p.click(`[data-case="us-8"]`)
	for _, test := range []string{"ground-continuity", "insulation", "hot-hot"} {
		p.click(`[data-measure="` + test + `"]`)
		p.is(`document.querySelector('[data-taken="` + test + `"]')`)
	}
	p.fill("practice.fault", "loose-neutral")
	p.fill("practice.remedy", "loose-neutral")
	p.press("Answer")
	p.is(`document.querySelector('[data-marks]').innerText.includes('nothing is switched on over that')`)
	p.press("All cases")
	p.is(`document.querySelector('[data-result="T. Brandt"]').innerText.includes('2 of')`)
}
