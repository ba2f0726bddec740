//go:build e2e

package e2e

import (
	"fmt"
	"testing"

	"github.com/chromedp/chromedp"
)

// TestDesignHeight: a design with nothing open is about one screen (the numbers of the user's
// wish: 1,600 px on the desk, 3,500 on the phone; it had been 5,112 and 11,356), a part opens by
// a press and stays as it was left, and a finding opens the part that holds its field, as an element of the one-line diagram does.
func TestDesignHeight(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "office")
	for _, size := range []struct{ w, h, most int64 }{{1280, 800, 1600}, {390, 844, 3500}} {
		p := open(t, srv.base, size.w, size.h)
		p.signIn("verifier")
		for _, number := range []string{"DB-0415", "DB-0426", "DB-0437"} {
			p.visit("/jobs/" + jobID(t, api, number) + "/design")
			p.is(`document.querySelectorAll('[data-unfold]').length > 6 && document.querySelector('svg.drawing')`)
			height, err := chromedp.Run(p.ctx, chromedp.Evaluate[int64](`document.documentElement.scrollHeight`))
			if err != nil || height > size.most {
				t.Errorf("%s is %d px high at %d, %d wanted: %v", number, height, size.w, size.most, err)
			}
			t.Logf("%s at %d: %d px", number, size.w, height)
		}
	}
	p := open(t, srv.base, 1280, 800)
	p.signIn("verifier")
	id := jobID(t, api, "DB-0415")
	p.visit("/jobs/" + id + "/design")
	part := func(id string) string { return fmt.Sprintf(`document.querySelector('[data-panel=%q]')`, id) }
	p.click(`[data-panel="night"] [data-unfold]`)
	p.is(part("night") + `.querySelector('.night')`)
	p.visit("/jobs/" + id + "/design")
	p.is(part("night") + `?.querySelector('.night') && ` + part("money") + `.querySelector('[data-unfold]')`)
	p.click(`[data-panel="night"] .fold`)
	p.is(part("night") + `.querySelector('[data-unfold]')`)
	// An element of the one-line diagram has its verdict, and leads to its fields, here or in the survey.
	p.is(`document.querySelector('[data-part="cable"] .stop') && document.querySelector('[data-part="breaker"] .sound')`)
	p.is(`document.querySelector('[data-part="cable"]').getAttribute('aria-label').includes('23.5 A')`)
	p.click(`[data-part="charger"]`)
	p.is(part("charger") + `.querySelector('[data-field="design.circuits.0.charger.type"]') && document.activeElement?.closest('[data-field="design.circuits.0.charger.type"]')`)
	p.click(`[data-part="service"]`)
	p.is(`location.pathname.endsWith('/survey') && document.activeElement?.closest('[data-field="survey.supply.rating"]')`)
	p.visit("/jobs/" + id + "/design?field=design.circuits.0.rcd.type")
	p.is(part("protection") + `?.querySelector('[data-field="design.circuits.0.rcd.type"]') && document.activeElement?.closest('[data-field="design.circuits.0.rcd.type"]')`)
}
