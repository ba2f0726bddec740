//go:build e2e

package e2e

import (
	"os"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
)

// TestPictures makes the pictures of the main views from the demo data. It
// runs only for `make screenshots`, which names the folder.
func TestPictures(t *testing.T) {
	if os.Getenv("DOGBOLT_SHOTS") == "" {
		t.Skip("make screenshots sets DOGBOLT_SHOTS")
	}
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "verifier")
	desk := open(t, srv.base, 1280, 800)
	look := func(p *page, name, number, stage, ready string) {
		p.visit("/jobs/" + jobID(t, api, number) + "/" + stage)
		p.is(ready)
		p.shot(name)
	}
	desk.signIn("verifier")
	desk.is(`document.querySelectorAll('tr.job').length > 10`)
	desk.shot("jobs")
	look(desk, "positions", "DB-0425", "survey?field=survey.sitePlan", `document.querySelectorAll('[data-row]').length === 3 && document.querySelector('.cord polyline')`)
	look(desk, "board", "DB-0426", "survey?field=survey.board.map", `document.querySelector('[data-fits="true"]')`)
	look(desk, "design-uk", "DB-0415", "design", `document.querySelectorAll('.options tbody tr').length > 3 && document.querySelector('svg.drawing')`)
	desk.visit("/jobs/" + jobID(t, api, "DB-0426") + "/design")
	desk.is(`document.querySelectorAll('.options tbody tr').length > 3 && document.querySelector('[data-decision] .answer')`)
	desk.do(chromedp.Evaluate[chromedp.Void](`document.querySelector('.options').scrollIntoView()`))
	desk.shot("design-us")
	desk.visit("/jobs/" + jobID(t, api, "DB-0410") + "/design")
	desk.is(`document.querySelector('.night svg')`)
	desk.do(chromedp.Evaluate[chromedp.Void](`document.querySelector('.night').scrollIntoView()`))
	desk.shot("night")
	desk.visit("/jobs/" + jobID(t, api, "DB-0427") + "/clearances")
	desk.is(`document.querySelector('[data-paper-card="grant"] [data-form]')`)
	desk.eval(`document.querySelector('[data-paper-card="grant"] [data-form]').scrollIntoView({block: 'center'})`)
	desk.shot("clearances")
	desk.visit("/jobs/" + jobID(t, api, "DB-0428") + "/plan")
	desk.fill("plan.team", "harbour")
	desk.fill("plan.day", workday(2))
	desk.press("Find the first day")
	desk.is(`document.querySelector('[data-passed="weather"]') && document.querySelector('[data-reason="parts"]')`)
	desk.shot("plan")
	desk.visit("/days")
	desk.press("Propose days")
	desk.is(`document.querySelectorAll('[data-placed]').length >= 3`)
	desk.press("Book these")
	desk.is(`[...document.querySelectorAll('[data-placed] td:last-child')].every(e => e.innerText === 'booked')`)
	desk.press("Close")
	time.Sleep(500 * time.Millisecond)
	desk.shot("days")
	desk.visit("/stock")
	desk.is(`document.querySelectorAll('[data-item]').length > 10`)
	desk.shot("stock")
	desk.visit("/practice")
	desk.click(`[data-case="uk-9"]`)
	for _, x := range []string{"r1r2", "insulation", "polarity-dead", "ze", "zs"} {
		desk.click(`[data-measure="` + x + `"]`)
		desk.is(`document.querySelector('[data-taken="` + x + `"]')`)
	}
	desk.eval(`window.scrollTo(0, 0)`)
	desk.shot("practice")
	look(desk, "install", "DB-0412", "install", `document.querySelectorAll('.step').length > 8`)
	look(desk, "commission", "DB-0409", "commission", `document.querySelectorAll('.test').length > 8`)
	look(desk, "handover", "DB-0404", "handover", `document.querySelector('.sheet dl')`)
	desk.do(chromedp.Evaluate[chromedp.Void](`localStorage.setItem('scheme', 'dark')`))
	look(desk, "bench-dark", "DB-0437", "commission", `document.querySelectorAll('.test').length > 20`)
	desk.click("[data-bench-open]")
	desk.click(`[data-state-to="C"]`)
	desk.click(`[data-load="half"]`)
	time.Sleep(9 * time.Second) // the vehicle's ramp
	desk.click(`[data-load="big"]`)
	time.Sleep(9 * time.Second) // the management's answer
	desk.eval(`document.querySelector('[data-bench]').scrollIntoView({block: 'center'})`)
	desk.shot("bench-dark")
	desk.do(chromedp.Evaluate[chromedp.Void](`localStorage.setItem('scheme', 'light')`))

	phone := open(t, srv.base, 390, 844)
	phone.signIn("installer")
	phone.visit("/jobs/" + jobID(t, api, "DB-0412") + "/install")
	phone.carried()
	phone.openStep("backplate")
	phone.offline(true)
	phone.step("backplate", "")
	phone.openStep("drill")
	phone.shot("phone-install")
	phone.offline(false)
	look(phone, "phone-commission", "DB-0409", "commission", `document.querySelectorAll('.test').length > 8`)
	phone.is(`document.querySelector('[data-entry="rcd-time"]')`)
	phone.eval(`const e = document.querySelector('[data-entry="rcd-time"]'); e.scrollIntoView({block: 'start'}); e.focus()`)
	phone.is(`document.querySelector('.pad')`)
	phone.shot("phone-commission")
	phone.visit("/jobs/" + jobID(t, api, "DB-0431") + "/sheet")
	phone.is(`document.querySelectorAll('[data-pick]').length > 5`)
	phone.eval(`document.querySelector('.lists').scrollIntoView()`)
	phone.shot("phone-picklist")
	phone.signIn("surveyor")
	look(phone, "phone-survey", "DB-0421", "survey", `document.querySelectorAll('[data-section]').length === 9`)
}
