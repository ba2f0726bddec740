//go:build e2e

package e2e

import (
	"fmt"
	"os"
	"slices"
	"testing"
	"time"

	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// TestDates: a day is shown and taken as the country of the site writes it; what is none is
// said at the field, in words, and stays as it was typed.
func TestDates(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "verifier")
	p := open(t, srv.base, 1280, 800)
	p.signIn("verifier")
	const field = `[data-field="plan.day"]`
	for _, c := range []struct{ job, typed, shown string }{
		{"DB-0428", "09/11/2027", "9 Nov 2027"},
		{"DB-0428", "9.11.27", "9 Nov 2027"},
		{"DB-0428", "2027-11-09", "9 Nov 2027"},
		{"DB-0428", "9 november 2027", "9 Nov 2027"},
		{"DB-0428", "31/02/2027", ""},
		{"DB-0428", "11/30/2027", ""},
		{"DB-0413", "11/09/2027", "Nov 9, 2027"},
		{"DB-0413", "11/30/27", "Nov 30, 2027"},
		{"DB-0413", "Nov 9, 2027", "Nov 9, 2027"},
		{"DB-0413", "30/11/2027", ""},
	} {
		p.visit("/jobs/" + jobID(t, api, c.job) + "/plan")
		p.input(field+" input", c.typed+"\t")
		if c.shown == "" {
			p.is(fmt.Sprintf(`document.querySelector('%s .error')?.innerText.includes('is not a day') && document.querySelector('%s input').value === %q`, field, field, c.typed))
			continue
		}
		p.is(fmt.Sprintf(`document.querySelector('%s input').value === %q && !document.querySelector('%s .error')`, field, c.shown, field))
	}
}

// TestTabsByKeys: the points of a job are walked with the arrow keys, one stop of Tab for all.
func TestTabsByKeys(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	p := open(t, srv.base, 1280, 800)
	p.signIn("verifier")
	p.visit("/kit")
	const on = `document.querySelector('[role="tablist"] [aria-selected="true"]')`
	p.is(on)
	p.eval(on + `.focus()`)
	for _, c := range []struct{ key, point string }{{kb.ArrowRight, "B"}, {kb.End, "C"}, {kb.ArrowRight, "A"}, {kb.ArrowLeft, "C"}, {kb.Home, "A"}} {
		p.do(chromedp.KeyEvent(c.key))
		p.is(fmt.Sprintf(`%s.innerText === %q && document.activeElement === %s`, on, c.point, on))
	}
	p.is(`document.querySelectorAll('[aria-label="light"] [role="tab"][tabindex="0"]').length === 1`)
}

// TestReflow: at 320 px (1,280 px enlarged four times), at 640 px (twice) and on a phone that lies
// on its side no page has to be moved sideways (WCAG 2.2, 1.4.10 and 1.4.4); what is wide, such
// as a plan, moves in its own frame. Every third page in `make test`; DOGBOLT_AXE=all looks at
// all of them.
func TestReflow(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	list := views(t, signedIn(t, srv.base, "verifier"))
	p := open(t, srv.base, 320, 640)
	p.signIn("verifier")
	p.is(`document.querySelector('tr.job')`)
	for n, v := range list {
		if n%3 != 0 && os.Getenv("DOGBOLT_AXE") != "all" {
			continue
		}
		for i, size := range [][2]int64{{320, 640}, {640, 400}, {844, 390}} {
			p.do(chromedp.EmulateViewport(size[0], size[1]))
			if i == 0 { // opened once, then turned and widened as a phone is
				p.eval(`sessionStorage.clear()`)
				p.visit(v.path)
				p.is(v.ready)
				for _, words := range v.press {
					p.press(words)
				}
			}
			p.eval(`window.settledAt = 0`)
			p.settled()
			if wide, err := chromedp.Run(p.ctx, chromedp.Evaluate[string](sticksOut)); err != nil || wide != "" {
				t.Errorf("%s at %d px: %s %v", v.name, size[0], wide, err)
			}
		}
	}
}

// sticksOut names what of a page reaches over its right edge and does not move in a frame of its own.
const sticksOut = `(() => {
	const edge = document.documentElement.clientWidth + 1
	if (document.documentElement.scrollWidth <= edge) return ''
	const out = [...document.body.querySelectorAll('*')].filter(e => {
		if (e.getBoundingClientRect().right <= edge) return false
		for (let p = e.parentElement; p; p = p.parentElement) if (getComputedStyle(p).overflowX !== 'visible') return false
		return true
	})
	return out.slice(0, 4).map(e => e.tagName + '.' + String(e.className.baseVal ?? e.className) + ' ' + Math.round(e.getBoundingClientRect().right)).join('; ') || 'page ' + document.documentElement.scrollWidth
})()`

// TestHands: on a phone everything to press on the crew's pages is 48 px high or more, in gloves,
// and nothing that is pressed lies on another. A word within a sentence is as high as its line.
func TestHands(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	p := open(t, srv.base, 390, 844)
	p.signIn("verifier")
	p.is(`document.querySelector('tr.job')`)
	for _, v := range views(t, signedIn(t, srv.base, "verifier")) {
		if !slices.Contains([]string{"my day", "survey", "survey on one page", "install", "note", "commission", "handover", "kept"}, v.name) {
			continue
		}
		p.eval(`sessionStorage.clear()`)
		p.visit(v.path)
		p.is(v.ready)
		for _, words := range v.press {
			p.press(words)
			time.Sleep(400 * time.Millisecond) // it grows as it comes
		}
		p.settled()
		small, err := chromedp.Run(p.ctx, chromedp.Evaluate[string](`[...document.querySelectorAll('button, select, input:not([type=file]), a.btn, label.btn')].filter(e => {
			const pressed = e.type === 'checkbox' ? e.closest('.v-selection-control') : e // its words are pressed too
			const { width, height } = pressed.getBoundingClientRect()
			return width > 0 && height < 47.5 && !e.matches('p > .link, p > span > .link')
		}).slice(0, 8).map(e => (e.className || e.tagName) + ' “' + (e.innerText || e.getAttribute('aria-label') || '').slice(0, 30) + '” ' + Math.round(e.getBoundingClientRect().height)).join('; ')`))
		if err != nil || small != "" {
			t.Errorf("%s: %s %v", v.name, small, err)
		}
	}
}

// TestStill: who asked for less motion sees none.
func TestStill(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	p := open(t, srv.base, 390, 844)
	if _, err := chromedp.Call(p.ctx, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Features: []*emulation.MediaFeature{{Name: "prefers-reduced-motion", Value: "reduce"}}}); err != nil {
		t.Fatal(err)
	}
	p.signIn("verifier")
	for _, path := range []string{"/jobs", "/kit", "/days"} {
		p.visit(path)
		p.is(`document.querySelector('h1')`)
		p.settled()
		p.is(`[...document.querySelectorAll('*')].every(e => { const s = getComputedStyle(e); return s.animationName === 'none' && s.transitionDuration.split(', ').every(d => parseFloat(d) === 0) })`)
	}
}

// TestSorted: a long table is sorted by a press or Enter on a column's head, and says by which;
// only the rows in sight are drawn.
func TestSorted(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	p := open(t, srv.base, 1280, 800)
	p.signIn("verifier")
	p.visit("/stock")
	head := func(title string) string {
		return fmt.Sprintf(`[...document.querySelectorAll('.long th')].find(e => e.innerText.trim() === %q)`, title)
	}
	const drawn = `[...document.querySelectorAll('[data-item]')]`
	p.is(head("What") + `?.ariaSort === 'ascending' && ` + drawn + `.length > 10 && ` + drawn + `.length < 46`)
	p.eval(head("Number") + `.click()`)
	p.is(head("Number") + `.ariaSort === 'ascending' && ` + drawn + `.every((e, i, all) => !i || all[i - 1].dataset.item <= e.dataset.item)`)
	p.eval(head("Number") + `.focus()`)
	p.do(chromedp.KeyEvent(kb.Enter))
	p.is(head("Number") + `.ariaSort === 'descending' && ` + drawn + `.every((e, i, all) => !i || all[i - 1].dataset.item >= e.dataset.item)`)
}

// TestLimitsClash: a breaker that is to be larger than its conductors allow says so at its field.
func TestLimitsClash(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	id := jobID(t, signedIn(t, srv.base, "verifier"), "DB-0415")
	p := open(t, srv.base, 1280, 800)
	p.signIn("surveyor")
	p.visit("/jobs/" + id + "/design")
	p.fill("design.circuits.0.cable.size", "1.5 mm²")
	p.is(`document.querySelector('[data-field="design.circuits.0.breaker.rating"] [data-limits]')?.innerText.includes('one must give way')`)
	p.shot("clash")
}

// TestAwake: a phone's screen stays on at install, and is let go when the page is left; a desk's is
// not asked for.
func TestAwake(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	id := jobID(t, signedIn(t, srv.base, "office"), "DB-0412")
	for _, c := range []struct {
		width int64
		asked string
	}{{390, "1"}, {1280, "0"}} {
		p := open(t, srv.base, c.width, 844)
		p.before(`window.asked = window.freed = 0
			const lock = t => Object.assign(new EventTarget(), { type: t, release: async () => { window.freed++ } })
			Object.defineProperty(navigator, 'wakeLock', { value: { request: async t => (window.asked++, lock(t)) } })`)
		p.signIn("installer")
		p.visit("/jobs/" + id + "/install")
		p.is(`document.querySelectorAll('[data-step]').length > 8 && window.asked === ` + c.asked)
		p.eval(`document.querySelector('a[href$="/clearances"]').click()`)
		p.is(`location.pathname.endsWith('/clearances') && window.freed === ` + c.asked)
	}
}
