//go:build e2e

package e2e

import (
	"os"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
)

func TestTmp(t *testing.T) {
	srv := start(t, "demo", t.TempDir())
	api := signedIn(t, srv.base, "verifier")
	desk := open(t, srv.base, 1280, 800)
	desk.signIn("office")
	phone := open(t, srv.base, 390, 844)
	phone.signIn("verifier")
	for _, line := range strings.Split(os.Getenv("LOOK"), ";") {
		f := strings.Fields(line)
		p := desk
		if f[1] == "phone" {
			p = phone
		}
		if f[2] == "-" {
			p.visit(f[3])
		} else {
			p.visit("/jobs/" + jobID(t, api, f[2]) + "/" + f[3])
		}
		time.Sleep(1200 * time.Millisecond)
		if len(f) > 4 {
			p.do(chromedp.Evaluate[chromedp.Void]("document.querySelector('" + f[4] + "')?.scrollIntoView({block: 'start'})"))
		}
		p.shot(f[0])
	}
}
