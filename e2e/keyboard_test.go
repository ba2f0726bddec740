//go:build e2e

package e2e

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// reach walks with Tab to the first element that a selector finds, or into it; backwards where
// it stands before. What Tab does not stop at ends the test.
func (p *page) reach(selector string) {
	p.t.Helper()
	find := fmt.Sprintf(`document.querySelector(%q)`, selector)
	p.is(find)
	was, turns := "", 0
	for range 800 {
		at, err := chromedp.Run(p.ctx, chromedp.Evaluate[string](`(() => {
			const e = `+find+`, a = document.activeElement
			if (!e || a === e || e.contains(a)) return e ? 'here' : 'gone'
			if (!a || a === document.body) return 'on'
			return e.compareDocumentPosition(a) & Node.DOCUMENT_POSITION_FOLLOWING ? 'back' : 'on'
		})()`))
		switch {
		case err != nil || at == "gone":
			p.t.Fatalf("%s: %s %v", selector, at, err)
		case at == "here":
			return
		case was != "" && at != was:
			turns++
		}
		if turns > 3 {
			break
		}
		was = at
		if at == "back" {
			p.do(chromedp.KeyEvent(kb.Tab, chromedp.KeyModifiers(chromedp.ModifierShift)))
		} else {
			p.do(chromedp.KeyEvent(kb.Tab))
		}
	}
	p.shot("failed")
	p.t.Fatalf("%s is not reached with Tab", selector)
}

// enter presses what a selector finds, by keyboard.
func (p *page) enter(selector string) {
	p.t.Helper()
	p.reach(selector)
	p.do(chromedp.KeyEvent(kb.Enter))
}

// enterFound presses the element that an expression finds, by keyboard.
func (p *page) enterFound(expression string) {
	p.t.Helper()
	p.is(`(e => { document.querySelectorAll('[data-found]').forEach(o => o.removeAttribute('data-found')); e?.setAttribute('data-found', ''); return e })(` + expression + `)`)
	p.enter(`[data-found]`)
}

// pick walks a list to a value with the arrow keys.
func (p *page) pick(selector, value string) {
	p.t.Helper()
	p.reach(selector)
	steps, err := chromedp.Run(p.ctx, chromedp.Evaluate[int](fmt.Sprintf(`(e => [...e.options].findIndex(o => o.value === %q) - e.selectedIndex)(document.querySelector(%q))`, value, selector)))
	if err != nil {
		p.t.Fatal(err)
	}
	key := kb.ArrowDown
	if steps < 0 {
		key, steps = kb.ArrowUp, -steps
	}
	for range steps {
		p.do(chromedp.KeyEvent(key))
	}
	p.is(fmt.Sprintf(`document.querySelector(%q).value === %q`, selector, value))
}

// overtype replaces what stands in an input.
func (p *page) overtype(selector, value string) {
	p.t.Helper()
	p.reach(selector)
	p.do(chromedp.KeyEvent("a", chromedp.KeyModifiers(chromedp.ModifierCtrl)))
	p.do(chromedp.KeyEvent(value))
}

// fillByKeys fills in a field of the job document by keyboard alone.
func (p *page) fillByKeys(name, value string) {
	p.t.Helper()
	sel := fmt.Sprintf(`[data-field="%s"]`, name)
	kind, err := chromedp.Run(p.ctx, chromedp.Evaluate[string](fmt.Sprintf(`(e => e.querySelector('.bars') ? 'bars' : e.querySelector('select') ? 'list' : 'line')(document.querySelector('%s'))`, sel)))
	switch {
	case err != nil:
		p.t.Fatal(err)
	case kind == "bars":
		bar := fmt.Sprintf(`%s .bars [data-value=%q]`, sel, value)
		if pressed, _ := chromedp.Run(p.ctx, chromedp.Evaluate[bool](fmt.Sprintf(`document.querySelector(%q).getAttribute('aria-pressed') === 'true'`, bar))); !pressed {
			p.enter(bar)
		}
	case kind == "list":
		p.pick(sel+" select", value)
	default:
		p.overtype(sel+" input", value)
		if day, _ := chromedp.Run(p.ctx, chromedp.Evaluate[bool](`!!document.querySelector('`+sel+` .day')`)); day {
			p.do(chromedp.KeyEvent(kb.Tab)) // a day is read when it is left
		}
	}
}

// TestByKeyboard carries a job of each country from new to sealed by keyboard alone: every field,
// choice, list and button is walked to with Tab, and pressed or typed. Pictures are given by the
// browser, as a file dialog would. It runs in `make test-all`.
func TestByKeyboard(t *testing.T) {
	if os.Getenv("DOGBOLT_KEYS") == "" {
		t.Skip("make test-all sets DOGBOLT_KEYS")
	}
	for _, j := range []*journey{ukJourney(), usJourney()} {
		t.Run(strings.ToLower(j.number), func(t *testing.T) {
			srv := start(t, "demo", t.TempDir())
			j.byKeys, j.electrical = true, nil
			j.run(t, srv)
		})
	}
}
