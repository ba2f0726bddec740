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
)

// TestPresses measures how long after a press the page is painted anew, on a processor four times
// slower: the browser's own Event Timing, to the next frame (in steps of 8 ms). It runs for
// `make presses`; docs/benchmarks.md has the figures.
func TestPresses(t *testing.T) {
	if os.Getenv("DOGBOLT_PRESSES") == "" {
		t.Skip("make presses sets DOGBOLT_PRESSES")
	}
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "verifier")
	p := open(t, srv.base, 390, 844)
	p.before(`window.presses = []; new PerformanceObserver(l => l.getEntries().forEach(e => e.interactionId && window.presses.push(e.duration))).observe({type: 'event', durationThreshold: 16, buffered: true})`)
	p.signIn("verifier")
	job := func(number, stage string) string { return "/jobs/" + jobID(t, api, number) + "/" + stage }
	for _, page := range []struct {
		name, path, ready string
		presses           []string
	}{
		{"survey, on one page", job("DB-0421", "survey"), `document.querySelector('[data-usual]')`, []string{
			`[data-field="survey.supply.condition"] [data-value="sound"]`, `[data-field="survey.supply.otherSource"] [data-value="no"]`,
			`[data-field="survey.supply.rating"] input`, `[data-section="supply"]`, `[data-section="board"]`, `[data-section="vehicles"]`}},
		{"install", job("DB-0412", "install"), `document.querySelectorAll('[data-step]').length > 8`, []string{
			`li[data-step="protect"] .title`, `li[data-step="backplate"] .title`, `li[data-step="backplate"] .btn.main`, `li[data-step="prove-dead"] .title`, `[data-undo-entry]`}},
		{"commission", job("DB-0409", "commission"), `document.querySelectorAll('[data-test]').length > 8`, []string{
			`[data-entry="rcd-time"]`, `[data-key="⌫"]`, `[data-key="5"]`, `[data-key="0"]`, `[data-key="enter"]`, `[data-entry="polarity-dead"] [data-value="wrong"]`}},
	} {
		var all []float64
		for range 3 {
			p.visit(page.path)
			p.is(page.ready)
			p.settled()
			time.Sleep(time.Second) // what comes later has come
			if _, err := chromedp.Call(p.ctx, emulation.SetCPUThrottlingRate, emulation.SetCPUThrottlingRateParams{Rate: slower}); err != nil {
				t.Fatal(err)
			}
			for _, sel := range page.presses {
				// Nobody presses while the page still moves: painting what was scrolled to is not the press's.
				p.is(fmt.Sprintf(`(e => e && (e.scrollIntoView({block: 'center'}), true))(document.querySelector(%q))`, sel))
				time.Sleep(400 * time.Millisecond)
				p.eval(`window.presses = []`)
				p.click(sel)
				time.Sleep(400 * time.Millisecond)
				ms, err := chromedp.Run(p.ctx, chromedp.Evaluate[[]float64](`window.presses.splice(0)`))
				if err != nil {
					t.Fatal(err)
				}
				if len(ms) > 0 {
					all = append(all, slices.Max(ms)) // pressed, released and clicked are one press
					t.Logf("%s %s: %.0f ms", page.name, sel, slices.Max(ms))
				}
			}
			if _, err := chromedp.Call(p.ctx, emulation.SetCPUThrottlingRate, emulation.SetCPUThrottlingRateParams{Rate: 1}); err != nil {
				t.Fatal(err)
			}
		}
		slices.Sort(all)
		if len(all) == 0 {
			t.Fatalf("%s: nothing was measured", page.name)
		}
		fmt.Printf("| %s | %d | %.0f ms | %.0f ms |\n", page.name, len(all), all[len(all)/2], all[len(all)-1])
	}
}
