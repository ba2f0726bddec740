//go:build e2e

package e2e

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/jpeg"
	"math/rand/v2"
	"net/http"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/chromedp/chromedp"

	"dogbolt/core/job"
)

// onSite opens a page of a demo job on a phone behind a bad network, with the rules
// loaded.
func onSite(t *testing.T, number, stage string) (p *page, net *faults, api *client, id string) {
	t.Helper()
	srv := start(t, "demo", t.TempDir())
	api = signedIn(t, srv.base, "office")
	id = jobID(t, api, number)
	net = behindFaults(t, srv.base)
	p = open(t, net.base, 390, 844)
	p.signIn("installer")
	p.visit("/jobs/" + id + "/" + stage)
	p.rules()
	return p, net, api, id
}

// until waits for something that a test looks at outside the page.
func until(t *testing.T, what string, ok func() bool) {
	t.Helper()
	for end := time.Now().Add(30 * time.Second); !ok(); time.Sleep(50 * time.Millisecond) {
		if time.Now().After(end) {
			t.Fatalf("never: %s", what)
		}
	}
}

// officeNotes writes a note in a job from elsewhere.
func officeNotes(t *testing.T, base, id string, at time.Time, words string) {
	t.Helper()
	note := fmt.Sprintf(`{"entries":[{"id":"from-the-office","kind":"note","at":%q,"reason":%q}]}`, at.UTC().Format(time.RFC3339), words)
	if status, body := signedIn(t, base, "verifier").do("POST", "/api/jobs/"+id+"/entries", "application/json", note); status != 200 {
		t.Fatalf("%d %s", status, body)
	}
}

// TestNobodyWaitsForAServer: with a server that takes every call and answers none, a
// reading is judged, kept and shown, the next one can be entered, and nothing is
// disabled; it is sent when the server answers again.
func TestNobodyWaitsForAServer(t *testing.T) {
	p, net, api, id := onSite(t, "DB-0409", "commission")
	p.is(`document.querySelector('[data-entry="dc-trip"]')`)
	net.set(func(r *http.Request) fault {
		if strings.HasPrefix(r.URL.Path, "/api/") {
			return stalls
		}
		return passes
	})
	p.read([]entered{{"dc-trip", "0.7"}})
	p.is(`document.querySelector('[data-test="dc-trip"] .unsent')`)
	p.is(`document.querySelector('[data-test="dc-trip"] .mark.sound') && !document.querySelector('[data-entry="dc-trip"]').readOnly`)
	p.read([]entered{{"rcd-time", "25"}})
	p.is(`document.querySelector('[data-test="rcd-time"] .unsent')`)
	if n := len(logged(t, api, id, "dc-trip")); n != 0 {
		t.Errorf("%d readings through a network that answers nothing", n)
	}
	// The call that was under way has still to end; then it is tried again. What is being
	// typed stays when the answer comes.
	p.input(`[data-entry="dc-trip"]`, "0.85")
	officeNotes(t, api.base, id, time.Now().Add(-time.Minute), "before the readings")
	net.set(nil)
	until(t, "both are sent", func() bool {
		return len(logged(t, api, id, "dc-trip")) == 1 && len(logged(t, api, id, "rcd-time")) > 0
	})
	p.is(`!document.querySelector('.unsent')`)
	p.is(`document.querySelector('[data-entry="dc-trip"]').value === '0.85'`)
}

// TestEveryFaultIsTriedAgain: whatever a network does with what is sent, it is sent
// again, arrives once, and is never called refused.
func TestEveryFaultIsTriedAgain(t *testing.T) {
	p, net, api, id := onSite(t, "DB-0412", "install")
	bad := []fault{refuses, loses, cutsBody, busyNow, tooMany, timedOut, wrongPage}
	var next atomic.Int32
	net.set(func(r *http.Request) fault {
		if !writes(r) || int(next.Load()) == len(bad) {
			return passes
		}
		return bad[next.Add(1)-1]
	})
	// The waits between tries are for people; a test does not take them.
	p.eval(`window.hurry = setInterval(() => window.dispatchEvent(new Event('online')), 300)`)
	p.press("Note or near miss")
	p.is(`document.querySelector('[data-near-miss]')`)
	p.eval(`document.querySelector('[data-near-miss]').click()`)
	until(t, "the note is in the log", func() bool { return int(next.Load()) == len(bad) && len(logged(t, api, id, "near-miss")) > 0 })
	p.is(`!document.querySelector('[data-signal]')`)
	p.do(chromedp.Sleep(time.Second))
	if n := len(logged(t, api, id, "near-miss")); n != 1 {
		t.Errorf("%d notes of one press", n)
	}
	for _, f := range bad {
		if net.count(f) != 1 {
			t.Errorf("%s: %d times", f, net.count(f))
		}
	}
}

// TestLateAnswer: an answer that was overtaken by a reading takes nothing off the page,
// neither when it comes nor without signal afterwards.
func TestLateAnswer(t *testing.T) {
	p, net, api, id := onSite(t, "DB-0409", "commission")
	p.is(`document.querySelector('[data-entry="dc-trip"]')`)
	// What is not asked for adds as many rows as its button says, drawn gradually or not.
	p.is(`(window.rows = document.querySelectorAll('[data-test]').length) && (window.added = parseInt(document.querySelector('[data-more]').innerText.replace(/\D+/, '')))`)
	p.do(chromedp.Sleep(500 * time.Millisecond))
	p.is(`(window.rows = document.querySelectorAll('[data-test]').length)`)
	p.click(`[data-more]`)
	p.is(`document.querySelectorAll('[data-test]').length === window.rows + window.added`)
	net.set(func(r *http.Request) fault {
		if r.Method == http.MethodGet && r.URL.Path == "/api/jobs/"+id {
			return lags
		}
		return passes
	})
	p.eval(`document.dispatchEvent(new Event('visibilitychange', {bubbles: true}))`) // the page asks again
	until(t, "the page asks", func() bool { return net.count(lags) == 1 })
	p.read([]entered{{"dc-trip", "0.7"}})
	until(t, "the reading is in the log", func() bool { return len(logged(t, api, id, "dc-trip")) == 1 })
	p.is(`!document.querySelector('.unsent')`)
	net.release()
	p.do(chromedp.Sleep(time.Second))
	p.is(`document.querySelector('[data-entry="dc-trip"]').value === '0.7'`)
	p.offline(true)
	p.visit("/jobs/" + id + "/commission")
	p.is(`document.querySelector('[data-entry="dc-trip"]')?.value === '0.7'`)
}

// TestSheetFillsNoFieldInUse: the figure of the charger's sheet comes into empty fields, and
// not into one that somebody is in: what is typed there would be written behind it.
func TestSheetFillsNoFieldInUse(t *testing.T) {
	p, net, api, _ := onSite(t, "DB-0412", "install")
	file := jobFile(t, "S-1", time.Minute, func(e job.Entry) bool { return e.Subject == "charger-line" })
	var view struct{ Row struct{ ID string } }
	verifier := signedIn(t, api.base, "verifier")
	status, body := verifier.do("POST", "/api/jobs/import", "application/octet-stream", string(file))
	if err := json.Unmarshal(body, &view); err != nil || status != 200 {
		t.Fatalf("%d %v %s", status, err, body)
	}
	id := view.Row.ID
	proveDead(t, verifier, id, "S-1")
	p.before(`window.Worker = class extends EventTarget { postMessage() {} }`) // the rules come late too
	hold := make(chan struct{})
	net.set(func(r *http.Request) fault {
		if strings.HasSuffix(r.URL.Path, "/setting") {
			net.hold(hold)
		}
		return passes
	})
	p.visit("/jobs/" + id + "/install")
	sel := p.openStep("charger") + " form[data-terminal] [data-label] input"
	p.is(fmt.Sprintf(`document.querySelector(%q)`, sel))
	p.click(sel)
	p.is(fmt.Sprintf(`document.querySelector(%q).value === ''`, sel))
	close(hold)
	p.is(fmt.Sprintf(`[...document.querySelectorAll(%q)].some(e => e.value)`, sel)) // the others have it
	p.do(chromedp.KeyEvent("1.9"))
	p.is(fmt.Sprintf(`document.querySelector(%q).value === '1.9'`, sel))
}

// TestJobFromTheDevice: a job that is on the device opens though the server does not
// answer, and shows what the server has as soon as it does.
func TestJobFromTheDevice(t *testing.T) {
	p, net, api, id := onSite(t, "DB-0412", "install")
	p.carried()
	p.is(`document.querySelector('[data-step]')`)
	slow := make(chan struct{})
	net.set(func(r *http.Request) fault {
		if strings.HasPrefix(r.URL.Path, "/api/") {
			net.hold(slow)
		}
		return passes
	})
	p.visit("/jobs/" + id + "/install")
	p.is(`document.querySelector('[data-step]')`)
	officeNotes(t, api.base, id, time.Now(), "the gate code is 12")
	close(slow)
	p.is(`document.body.innerText.includes('the gate code is 12')`)
}

// TestPhotoOverABadLine: a photo goes in pieces that are taken up where they were cut,
// and what is logged meanwhile does not wait for it.
func TestPhotoOverABadLine(t *testing.T) {
	p, net, api, id := onSite(t, "DB-0412", "install")
	var pieces, cut atomic.Int32
	hold := make(chan struct{})
	net.set(func(r *http.Request) fault {
		if r.Method != http.MethodPut || !strings.HasSuffix(r.URL.Path, "/upload") {
			return passes
		}
		switch pieces.Add(1) {
		case 1:
			return passes
		case 2:
			cut.Add(1)
			return loses
		case 3:
			cut.Add(1)
			return refuses
		}
		net.hold(hold)
		return passes
	})
	sel := p.openStep("backplate")
	p.upload(sel+" [data-photo] input", "plate.png", noise(t, 600, 450))
	// The entry that names the photo is there before the photo is.
	until(t, "the entry is in the log", func() bool { return len(logged(t, api, id, "backplate")) == 1 })
	p.eval(`setInterval(() => window.dispatchEvent(new Event('online')), 300)`)
	until(t, "the upload is cut", func() bool { return cut.Load() == 2 })
	p.press("Note or near miss")
	p.is(`document.querySelector('[data-near-miss]')`)
	p.eval(`document.querySelector('[data-near-miss]').click()`)
	until(t, "a note passes the photo", func() bool { return len(logged(t, api, id, "near-miss")) > 0 })
	close(hold)
	p.visit("/kept")
	p.is(`document.querySelector('[data-kept]').innerText.includes('everything is sent')`)
	var view struct {
		Job struct {
			Log []struct{ Kind, Value string }
		}
	}
	api.get("/api/jobs/"+id, &view)
	for _, e := range view.Job.Log {
		if status, _ := api.do("GET", "/api/jobs/"+id+"/photos/"+e.Value, "", ""); e.Kind == "photo" && status != 200 {
			t.Errorf("the photo %s: %d", e.Value, status)
		}
	}
}

// TestRefusedIsMended: what the server refuses stands at its step with the reason, and
// can be entered anew as of now.
func TestRefusedIsMended(t *testing.T) {
	p, net, api, id := onSite(t, "DB-0409", "commission")
	p.is(`document.querySelector('[data-entry="dc-trip"]')`)
	var sent atomic.Bool
	net.set(func(r *http.Request) fault {
		if writes(r) && !sent.Swap(true) {
			return refusesForGood
		}
		return passes
	})
	p.read([]entered{{"dc-trip", "0.7"}})
	p.is(`document.querySelector('[data-test="dc-trip"] [data-refused]')?.innerText.includes('says 08:00')`)
	p.shot("refused")
	if n := len(logged(t, api, id, "dc-trip")); n != 0 {
		t.Errorf("%d readings", n)
	}
	p.click(`[data-test="dc-trip"] [data-anew]`)
	until(t, "it is in the log", func() bool { return len(logged(t, api, id, "dc-trip")) == 1 })
	p.is(`!document.querySelector('[data-refused]') && !document.querySelector('[data-signal]')`)
}

// noise is a picture that does not get small.
func noise(t *testing.T, w, h int) []byte {
	t.Helper()
	m := image.NewGray(image.Rect(0, 0, w, h))
	r := rand.New(rand.NewPCG(1, 2))
	for i := range m.Pix {
		m.Pix[i] = byte(r.Uint32())
	}
	var b bytes.Buffer
	if err := jpeg.Encode(&b, m, nil); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}
