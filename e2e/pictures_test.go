//go:build e2e

package e2e

import (
	"encoding/base64"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"sync/atomic"
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
	office := open(t, srv.base, 1280, 800)
	look := func(p *page, name, number, stage, ready string) {
		p.visit("/jobs/" + jobID(t, api, number) + "/" + stage)
		p.is(ready)
		p.shot(name)
	}
	office.signIn("verifier")
	office.is(`document.querySelectorAll('tr.job').length > 10`)
	office.shot("jobs")
	look(office, "positions", "DB-0425", "survey?field=survey.sitePlan", `document.querySelectorAll('[data-row]').length === 3 && document.querySelector('.cord polyline')`)
	look(office, "board", "DB-0426", "survey?field=survey.board.map", `document.querySelector('[data-fits="true"]')`)
	look(office, "design-uk", "DB-0415", "design", `document.querySelector('[data-unfold]') && document.querySelector('svg.drawing')`)
	office.visit("/jobs/" + jobID(t, api, "DB-0426") + "/design")
	office.unfold()
	office.is(`document.querySelectorAll('.options tbody tr').length > 3 && document.querySelector('[data-decision] .answer')`)
	office.do(chromedp.Evaluate[chromedp.Void](`document.querySelector('.options').scrollIntoView()`))
	office.shot("design-us")
	office.visit("/jobs/" + jobID(t, api, "DB-0427") + "/clearances")
	office.is(`document.querySelector('[data-paper-card="grant"] [data-form]')`)
	office.eval(`document.querySelector('[data-paper-card="grant"] [data-form]').scrollIntoView({block: 'center'})`)
	office.shot("clearances")
	office.visit("/jobs/" + jobID(t, api, "DB-0428") + "/plan")
	office.fill("plan.team", "harbour")
	office.fill("plan.day", workday(2))
	office.press("Find the first day")
	office.is(`document.querySelector('[data-passed="weather"]') && document.querySelector('[data-reason="parts"]')`)
	office.shot("plan")
	office.visit("/days")
	office.press("Propose days")
	office.is(`document.querySelectorAll('[data-placed]').length >= 3`)
	office.press("Book these")
	office.is(`[...document.querySelectorAll('[data-placed] td:last-child')].every(e => e.innerText === 'booked')`)
	office.press("Close")
	time.Sleep(500 * time.Millisecond)
	office.shot("days")
	look(office, "install", "DB-0412", "install", `document.querySelectorAll('.step').length > 8`)
	look(office, "commission", "DB-0409", "commission", `document.querySelectorAll('.test').length > 8`)
	office.visit("/jobs/" + jobID(t, api, "DB-0404") + "/handover")
	office.click(`[data-preview="certificate"]`)
	office.is(`document.querySelector('.sheet')?.innerText.includes('Circuit details')`)
	office.eval(`window.scrollTo(0, 0)`)
	office.shot("handover")
	office.visit("/jobs/" + jobID(t, api, "DB-0401") + "/handover")
	office.click(`[data-open-page]`)
	office.is(`document.querySelector('[data-customer-page] img')?.naturalWidth > 100`)
	address := strings.TrimPrefix(office.text(`[data-address]`), srv.base)
	kit := open(t, srv.base, 1280, 2300) // every part in every state, in three schemes
	kit.signIn("verifier")
	kit.visit("/kit")
	kit.is(`document.querySelectorAll('.states').length === 3`)
	kit.shot("kit")

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
	phone.visit("/jobs/" + jobID(t, api, "DB-0437") + "/commission")
	phone.click(`[data-confirm-known]`)
	phone.is(`!document.querySelector('[data-confirm-known]')`)
	phone.eval(`document.querySelector('#inspections').scrollIntoView()`)
	phone.shot("phone-inspection")
	phone.visit(address)
	phone.is(`document.querySelector('[data-standing]')`)
	phone.shot("phone-customer")
	phone.visit("/today")
	phone.is(`document.querySelectorAll('[data-mine]').length > 1`)
	phone.shot("phone-day")
	keptPicture(t, srv.base, jobID(t, api, "DB-0409"))
	phone.signIn("surveyor")
	look(phone, "phone-survey", "DB-0421", "survey", `document.querySelector('[data-usual]')`)
}

// keptPicture makes the picture of what a device has not sent: kept, refused, another
// person's, and a clock that is wrong.
func keptPicture(t *testing.T, base, id string) {
	net := behindFaults(t, base)
	p := open(t, net.base, 390, 1000)
	settable(t, p)
	enter := func(user string, list ...entered) {
		p.signIn(user)
		p.visit("/jobs/" + id + "/commission")
		p.is(`document.querySelector('[data-entry="dc-trip"]')`)
		p.carried()
		p.rules()
		for _, e := range list {
			p.read([]entered{e})
			p.is(`document.querySelector('[data-test="` + e[0] + `"]').querySelector('.unsent, [data-refused]')`)
		}
	}
	var forGood atomic.Bool
	net.set(func(r *http.Request) fault {
		switch {
		case !writes(r):
			return passes
		case forGood.Load():
			return refusesForGood
		}
		return refuses
	})
	enter("mate", entered{"dc-trip", "0.7"})
	forGood.Store(true)
	enter("installer", entered{"rcd-time", "25"})
	p.is(`document.querySelector('[data-test="rcd-time"] [data-refused]')`)
	forGood.Store(false)
	enter("installer", entered{"dc-trip", "0.9"})
	p.eval(`setClock(-2 * 3600e3)`)
	p.is(`document.querySelector('[data-signal]')?.innerText.includes('clock')`)
	p.click(`[data-signal]`)
	p.is(`document.querySelector('[data-others]') && document.querySelector('[data-clock]')`)
	p.shot("phone-kept")
}

// TestIcons makes the icons of the installed pages from mark.svg. It runs only for
// `make icons`, which names the folder. The maskable one fills its square to the edge,
// with the mark in the inner four fifths.
func TestIcons(t *testing.T) {
	dir := os.Getenv("DOGBOLT_ICONS")
	if dir == "" {
		t.Skip("make icons sets DOGBOLT_ICONS")
	}
	svg, err := os.ReadFile(filepath.Join(dir, "mark.svg"))
	if err != nil {
		t.Fatal(err)
	}
	t.Setenv("DOGBOLT_SHOTS", dir)
	for _, i := range []struct {
		name   string
		size   int64
		corner string
	}{{"icon-192", 192, "5"}, {"icon-512", 512, "5"}, {"icon-maskable", 512, "0"}} {
		p := open(t, "", i.size, i.size)
		mark := strings.Replace(string(svg), `rx="5"`, `rx="`+i.corner+`"`, 1)
		p.do(chromedp.Navigate("data:text/html;base64," + base64.StdEncoding.EncodeToString([]byte(`<body style="margin:0">`+mark))))
		p.shot(i.name)
	}
}
