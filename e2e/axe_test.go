//go:build e2e

package e2e

import (
	"encoding/json"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
)

// view is a page as it is looked at: where it is, what has to be there, and what is pressed first.
type view struct {
	name, path, ready string
	press             []string
}

// views are the pages of the program, with their dialogs.
func views(t *testing.T, api *client) []view {
	t.Helper()
	job := func(number, stage string) string { return "/jobs/" + jobID(t, api, number) + "/" + stage }
	stage := `document.querySelector('.stage h1') && document.querySelector('.tally')`
	var page struct{ Token string }
	_, body := api.do("POST", "/api/jobs/"+jobID(t, api, "DB-0401")+"/page", "application/json", `{"at":"https://firm.example"}`)
	if err := json.Unmarshal(body, &page); err != nil {
		t.Fatal(err)
	}
	return []view{
		{"inspections", job("DB-0437", "commission"), stage + ` && document.querySelector('[data-confirm-known]') && document.querySelectorAll('[data-item]').length > 40`, nil},
		{"sealed", job("DB-0401", "handover"), stage + ` && document.querySelector('[data-customer-page] img')`, nil},
		{"customer's page", "/open/" + page.Token, `document.querySelector('[data-standing]')`, nil},
		{"jobs", "/jobs", `document.querySelector('tr.job')`, nil},
		{"my day", "/today", `document.querySelector('[data-mine]')`, nil},
		{"new job", "/jobs/new", `document.querySelector('form')`, nil},
		{"survey", job("DB-0412", "survey"), stage, nil},
		{"survey on one page", job("DB-0421", "survey"), stage + ` && document.querySelector('[data-usual]')`, nil},
		{"survey with a plan", job("DB-0425", "survey?field=survey.sitePlan"), stage + ` && document.querySelector('.cord polyline')`, nil},
		{"survey with a board", job("DB-0426", "survey?field=survey.board.map"), stage + ` && document.querySelector('[data-fits]')`, nil},
		{"design", job("DB-0415", "design"), stage + ` && document.querySelector('svg.drawing')`, nil},
		{"design, a night", job("DB-0415", "design"), stage + ` && document.querySelector('svg.drawing')`, []string{"A cold night", "Arrangements", "Conductors tried", "Time and money", "Demand"}},
		{"clearances", job("DB-0427", "clearances"), stage + ` && document.querySelector('[data-paper-card]')`, nil},
		{"plan", job("DB-0428", "plan"), stage, nil},
		{"install", job("DB-0412", "install"), stage + ` && document.querySelector('[data-step]')`, nil},
		{"note", job("DB-0412", "install"), stage + ` && document.querySelector('[data-step]')`, []string{"Note or near miss"}},
		{"commission", job("DB-0409", "commission"), stage + ` && document.querySelectorAll('[data-test]').length > 8`, nil},
		{"handover", job("DB-0409", "handover"), stage, nil},
		{"who changed what", job("DB-0409", "handover"), stage, []string{"Who changed what"}},
		{"day sheet", job("DB-0412", "day-sheet"), `document.querySelector('h1')`, nil},
		{"days", "/days", `document.querySelector('h1')`, nil},
		{"due", "/due", `document.querySelector('h1')`, nil},
		{"stock", "/stock", `document.querySelector('table')`, nil},
		{"practice", "/practice", `document.querySelector('h1')`, nil},
		{"kept", "/kept", `document.querySelector('h1')`, nil},
		{"verify", "/verify", `document.querySelector('h1')`, nil},
		{"firm", "/firm", `document.querySelector('h1')`, nil},
		{"account", "/account", `document.querySelector('h1')`, nil},
		{"kit", "/kit", `document.querySelectorAll('.states').length === 3`, nil},
		{"audit", "/audit", `document.querySelector('h1')`, nil},
	}
}

// breach is a rule of axe that a page breaks, and where.
type breach struct {
	ID, Impact, Help string
	Nodes            []struct{ HTML, FailureSummary string }
}

// TestAxe runs axe-core (its rules for WCAG 2.2 A and AA, and its best practices) on every page:
// nothing serious, nothing moderate. Every second page in one scheme on a phone in `make test`; DOGBOLT_AXE=all looks
// at all, in three schemes and two widths.
func TestAxe(t *testing.T) {
	axe, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	if err != nil {
		t.Fatal(err)
	}
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "verifier")
	list := views(t, api)
	schemes, sizes := []string{"light"}, [][2]int64{{390, 844}}
	if os.Getenv("DOGBOLT_AXE") == "all" {
		schemes, sizes = []string{"light", "dark", "sun"}, [][2]int64{{390, 844}, {1280, 800}}
	}
	for _, size := range sizes {
		p := open(t, srv.base, size[0], size[1])
		p.signIn("verifier")
		p.is(`document.querySelector('tr.job')`)
		for _, scheme := range schemes {
			p.eval(fmt.Sprintf(`localStorage.setItem('scheme', %q)`, scheme))
			for i, v := range list {
				if i%2 == 1 && len(schemes) == 1 {
					continue
				}
				p.eval(`sessionStorage.clear()`) // nothing is open from the view before
				p.visit(v.path)
				p.is(v.ready)
				for _, words := range v.press {
					p.press(words)
					time.Sleep(400 * time.Millisecond) // it is shown by and by
				}
				p.settled()
				for _, f := range p.axe(string(axe)) {
					t.Errorf("%s, %s, %d px: %s %s: %s", v.name, scheme, size[0], f.Impact, f.ID, f.Help)
					for _, n := range f.Nodes[:min(3, len(f.Nodes))] {
						t.Logf("  %.200s\n  %s", n.HTML, strings.ReplaceAll(n.FailureSummary, "\n", " "))
					}
				}
			}
		}
	}
}

// settled waits until a page draws nothing more.
func (p *page) settled() {
	p.t.Helper()
	p.is(`(() => { const now = document.body.innerHTML.length, same = now === window.settledAt; window.settledAt = now; return same })()`)
}

// axe returns what of the page is serious or moderate.
func (p *page) axe(source string) []breach {
	p.t.Helper()
	p.do(chromedp.Evaluate[chromedp.Void](source))
	b, err := chromedp.Run(p.ctx, chromedp.Evaluate[string](`axe.run({resultTypes: ['violations']}).then(r => JSON.stringify(r.violations.map(v =>
		({ID: v.id, Impact: v.impact, Help: v.help, Nodes: v.nodes.map(n => ({HTML: n.html, FailureSummary: n.failureSummary}))}))))`, chromedp.EvalAwaitPromise))
	if err != nil {
		p.t.Fatal(err)
	}
	var faults []breach
	if err := json.Unmarshal([]byte(b), &faults); err != nil {
		p.t.Fatal(err)
	}
	return slices.DeleteFunc(faults, func(f breach) bool { return f.Impact == "minor" })
}
