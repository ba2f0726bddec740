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
	desk.visit("/sign-in")
	desk.is(`document.querySelector('form')`)
	desk.shot("sign-in")
	desk.signIn("verifier")
	desk.is(`document.querySelectorAll('tr.job').length > 10`)
	desk.shot("jobs")
	look(desk, "survey", "DB-0421", "survey", `document.querySelector('[data-field="survey.supply.system"]')`)
	look(desk, "positions", "DB-0425", "survey?field=survey.sitePlan", `document.querySelectorAll('[data-row]').length === 3 && document.querySelector('.cord polyline')`)
	look(desk, "board", "DB-0426", "survey?field=survey.board.map", `document.querySelector('[data-fits="true"]')`)
	desk.visit("/jobs/" + jobID(t, api, "DB-0425") + "/survey?field=survey.places.0.route")
	desk.is(`document.querySelector('[data-route] tbody tr')`)
	time.Sleep(time.Second) // the way to the field comes first
	desk.do(chromedp.Evaluate[chromedp.Void](`document.querySelector('[data-route]').scrollIntoView({block: 'end'})`))
	desk.shot("route")
	look(desk, "design-uk", "DB-0415", "design", `document.querySelectorAll('.options tbody tr').length > 3 && document.querySelector('svg.drawing')`)
	desk.visit("/jobs/" + jobID(t, api, "DB-0426") + "/design")
	desk.is(`document.querySelectorAll('.options tbody tr').length > 3 && document.querySelector('[data-decision] .answer')`)
	desk.do(chromedp.Evaluate[chromedp.Void](`document.querySelector('.options').scrollIntoView()`))
	desk.shot("design-us")
	desk.visit("/jobs/" + jobID(t, api, "DB-0410") + "/design")
	desk.is(`document.querySelector('.night svg')`)
	desk.do(chromedp.Evaluate[chromedp.Void](`document.querySelector('.night').scrollIntoView()`))
	desk.shot("night")
	look(desk, "clearances", "DB-0423", "clearances", `document.querySelectorAll('.group').length > 2`)
	look(desk, "plan", "DB-0413", "plan", `document.querySelectorAll('.part').length > 3`)
	look(desk, "install", "DB-0412", "install", `document.querySelectorAll('.step').length > 8`)
	look(desk, "commission", "DB-0409", "commission", `document.querySelectorAll('.test').length > 8`)
	look(desk, "handover", "DB-0404", "handover", `document.querySelector('.sheet dl')`)
	look(desk, "sealed", "DB-0401", "handover", `document.querySelector('[data-paper]')`)
	desk.do(chromedp.Evaluate[chromedp.Void](`localStorage.setItem('scheme', 'dark')`))
	look(desk, "commission-dark", "DB-0409", "commission", `document.querySelectorAll('.test').length > 8`)
	desk.do(chromedp.Evaluate[chromedp.Void](`localStorage.setItem('scheme', 'light')`))

	phone := open(t, srv.base, 390, 844)
	phone.signIn("installer")
	look(phone, "phone-install", "DB-0424", "install", `document.querySelectorAll('.step').length > 8`)
	look(phone, "phone-commission", "DB-0409", "commission", `document.querySelectorAll('.test').length > 8`)
	phone.signIn("surveyor")
	look(phone, "phone-survey", "DB-0421", "survey", `document.querySelectorAll('[data-section]').length === 9`)
}
