//go:build e2e

package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
)

// TestEndedSession: a session that has ended shuts no page on site. What is entered waits,
// the page says so, and it is sent in its author's name once they sign in again.
func TestEndedSession(t *testing.T) {
	p, _, api, id := onSite(t, "DB-0409", "commission")
	p.carried()
	p.eval(`window.out = false; fetch('/api/session', {method: 'DELETE'}).then(r => window.out = r.ok)`)
	p.is(`window.out`)
	p.visit("/jobs/" + id + "/commission")
	p.is(`document.querySelector('[data-entry="dc-trip"]')`)
	p.is(`document.querySelector('[data-signal]')?.innerText.includes('sign in to send')`)
	p.rules()
	p.read([]entered{{"dc-trip", "0.7"}})
	p.is(`document.querySelector('[data-test="dc-trip"] .unsent')`)
	p.is(`document.querySelector('[data-signal]')?.innerText.includes('1 kept')`)
	if n := len(logged(t, api, id, "dc-trip")); n != 0 {
		t.Errorf("%d readings without a session", n)
	}
	p.signIn("installer")
	until(t, "it is sent", func() bool { return len(logged(t, api, id, "dc-trip")) == 1 })
	if by := logged(t, api, id, "dc-trip")[0].By; by != "K. Osei" {
		t.Errorf("in the name of %s", by)
	}
	p.is(`!document.querySelector('[data-signal]')`)
}

// TestClosedAccount: an account that the office closes shuts its pages on every device as
// soon as that hears of it, and they stay shut without signal.
func TestClosedAccount(t *testing.T) {
	p, _, api, id := onSite(t, "DB-0409", "commission")
	p.carried()
	var users []struct{ ID, Username string }
	api.get("/api/users", &users)
	for _, u := range users {
		if u.Username == "installer" {
			if status, body := api.do("PUT", "/api/users/"+u.ID+"/disabled", "application/json", `{"disabled":true}`); status >= 300 {
				t.Fatalf("%d %s", status, body)
			}
		}
	}
	p.visit("/jobs/" + id + "/commission")
	p.is(`location.pathname === '/sign-in'`)
	p.offline(true)
	p.visit("/jobs/" + id + "/commission")
	p.is(`location.pathname === '/sign-in' || document.body.innerText.includes('server does not answer')`)
	p.is(`!document.querySelector('[data-entry]')`)
}

// TestNewVersion: a version that was put on the server is named, and taken between two
// pages; what waits stays on the device and is sent.
func TestNewVersion(t *testing.T) {
	p, net, _, _ := onSite(t, "DB-0409", "commission")
	p.carried()
	net.newer.Store(true)
	p.eval(`window.before = true; navigator.serviceWorker.getRegistration().then(r => r.update())`)
	p.is(`document.querySelector('[data-signal]')?.innerText.includes('new version')`)
	p.visit("/kept")
	p.is(`document.querySelector('[data-version]')`)
	p.eval(`window.before = true`)
	p.click(`a[href="/jobs"]`)
	p.is(`location.pathname === '/jobs' && !window.before && document.querySelector('tr.job, .job')`)
	p.is(`!document.querySelector('[data-signal]')`)
}

// TestNarrow: at 320 px, as on a small phone or at 200 % zoom of a larger one, the pages
// of the work lose nothing to the right.
func TestNarrow(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "office")
	p := open(t, srv.base, 320, 640)
	p.signIn("installer")
	for _, at := range []struct{ number, stage, ready string }{
		{"DB-0412", "install", "[data-step]"}, {"DB-0409", "commission", "[data-entry]"}, {"DB-0437", "commission", "[data-entry]"}, {"DB-0426", "install", "[data-step]"},
	} {
		p.visit("/jobs/" + jobID(t, api, at.number) + "/" + at.stage)
		p.is(fmt.Sprintf(`document.querySelector(%q)`, at.ready))
		// Every step opened once, so that its fields are looked at too.
		p.eval(`window.wide = []; window.looked = false; (async () => {
			const look = () => { for (const e of document.querySelectorAll('main *')) {
				const b = e.getBoundingClientRect(), s = getComputedStyle(e)
				if (b.width && b.right > innerWidth + 1 && s.visibility !== 'hidden' && !e.closest('svg') && !e.closest('.unseen')) window.wide.push(e.tagName + '.' + e.className + ' ' + e.innerText?.slice(0, 30) + ' ' + Math.round(b.right))
			} if (document.documentElement.scrollWidth > innerWidth) window.wide.push('the page scrolls sideways: ' + document.documentElement.scrollWidth) }
			look()
			for (const b of document.querySelectorAll('[data-step] .title')) { b.click(); await new Promise(r => setTimeout(r, 30)); look() }
			window.looked = true
		})()`)
		p.is(`window.looked`)
		wide, err := chromedp.Run(p.ctx, chromedp.Evaluate[[]string](`[...new Set(window.wide)]`))
		if err != nil {
			t.Fatal(err)
		}
		p.shot("narrow-" + at.stage)
		if len(wide) > 0 {
			t.Errorf("%s of %s: %q", at.stage, at.number, wide)
		}
	}
}

// TestClockIsSet: a clock that is set while there is no signal is named at once, and what
// is entered goes on by the time of before.
func TestClockIsSet(t *testing.T) {
	p, _, _ := underground(t, func(p *page) { settable(t, p) })
	for _, c := range []struct {
		hours float64
		says  string
	}{{-3, "clock 3 h 0 min slow"}, {2, "clock 2 h 0 min fast"}} {
		p.eval(fmt.Sprintf(`setClock(%g * 3600e3)`, c.hours))
		p.is(fmt.Sprintf(`document.querySelector('[data-signal]')?.innerText.includes(%q)`, c.says))
	}
	p.read([]entered{{"rcd-time", "25"}})
	p.is(`document.querySelector('[data-test="rcd-time"] .unsent')`)
	p.eval(`setClock(0)`)
	p.is(`!document.querySelector('[data-signal]').innerText.includes('clock')`)
}

// settable gives a page a clock that the test sets: setClock, by so many ms.
func settable(t *testing.T, p *page) {
	t.Helper()
	const script = `{ const real = Date; let by = 0; globalThis.setClock = ms => { by = ms }
		globalThis.Date = class extends real { constructor(...a) { if (a.length) super(...a); else super(real.now() + by) } static now() { return real.now() + by } } }`
	p.before(script)
}
