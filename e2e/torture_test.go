//go:build e2e

package e2e

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image"
	"image/jpeg"
	"math/rand/v2"
	"net/http"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"

	"dogbolt/core/job"
	"dogbolt/core/rulebook"
	"dogbolt/core/worklog"
)

// histories is how many random histories a test plays, and torture for how long it goes
// on instead, where DOGBOLT_TORTURE says so.
const histories = 9

// people of the demo who write logs, by their user names.
var crew = map[string]person{"installer": {"K. Osei", false}, "verifier": {"A. Nakagawa", true}}

type person struct {
	name     string
	verifier bool
}

// TestHistories plays random histories of devices with the real queue and the real
// program: entries, restarts, clocks that are set, people who take turns at a device,
// seals, changes of others, and every fault of a network. At the end everything that was
// entered is in the log, on its device, or put away, once, under its author; nobody
// worked inside a board that was not proved dead by the true time; and devices judge as
// the server does.
func TestHistories(t *testing.T) {
	w := newWorld(t)
	began := time.Now()
	limit, _ := time.ParseDuration(os.Getenv("DOGBOLT_TORTURE"))
	seed := uint64(1)
	if limit > 0 {
		seed = uint64(began.Unix())
	}
	n := 0
	for ; n < histories || time.Since(began) < limit; n++ {
		w.play(seed + uint64(n))
		if t.Failed() {
			t.Logf("seed %d", seed+uint64(n))
			break
		}
	}
	faulty := map[fault]int{}
	for _, d := range w.devices {
		for what := range d.net.counts {
			if what != passes {
				faulty[what] += d.net.count(what)
			}
		}
	}
	t.Logf("%d histories from seed %d in %v: %v, faults %v", n, seed, time.Since(began).Round(time.Second), w.counts, faulty)
}

// world is the program with some devices.
type world struct {
	t       *testing.T
	apis    map[string]*client
	devices []*handheld
	counts  map[string]int
	ids     map[string]string // of the crew's accounts
}

// handheld is a device: tabs of one origin, behind a network of its own.
type handheld struct {
	w    *world
	net  *faults
	tabs []context.Context
	old  map[context.Context]bool // tabs to be loaded anew before they are used
	user string                   // who is signed in, as far as it knows
	// Whether somebody else signed in meanwhile, of whom it has not heard.
	unheard bool
}

// tab returns a tab, loaded anew where it has to be.
func (d *handheld) tab(i int) context.Context {
	if d.old[d.tabs[i]] {
		d.restart(d.tabs[i])
	}
	return d.tabs[i]
}

// aside marks all tabs but the first: they are loaded anew when they are used next.
func (d *handheld) aside() {
	for _, tab := range d.tabs[1:] {
		d.old[tab] = true
	}
}

func newWorld(t *testing.T) *world {
	t.Helper()
	srv := start(t, "demo", t.TempDir())
	w := &world{t: t, apis: map[string]*client{}, counts: map[string]int{}, ids: map[string]string{}}
	for _, user := range []string{"office", "installer", "verifier"} {
		w.apis[user] = signedIn(t, srv.base, user)
		var me struct{ ID string }
		w.apis[user].get("/api/session", &me)
		w.ids[user] = me.ID
	}
	p := open(t, "about:blank", 390, 844)
	// The rules lie beside the assets' folder, as they do where the program is under a folder.
	rules := http.FileServer(http.Dir("../web/public"))
	own := http.FileServer(http.Dir("../web/harness/dist"))
	files := http.StripPrefix("/harness", http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if strings.HasPrefix(r.URL.Path, "/judge.") {
			rules.ServeHTTP(w, r)
			return
		}
		own.ServeHTTP(w, r)
	}))
	// Each device has a host of its own: its cookies and what it keeps are its own.
	for i, tabs := range []int{2, 1, 1} {
		d := &handheld{w: w, net: behindFaultsAt(t, srv.base, fmt.Sprintf("127.0.0.%d:0", i+2)), user: "installer", old: map[context.Context]bool{}}
		d.net.harness = files
		for range tabs {
			ctx, cancel := chromedp.NewContext(p.ctx)
			t.Cleanup(cancel)
			d.tabs = append(d.tabs, ctx)
			d.restart(ctx)
		}
		call[string](d, d.tabs[0], `device.signIn("installer")`)
		d.aside()
		w.devices = append(w.devices, d)
	}
	return w
}

// call runs an expression on a tab and waits for what comes of it.
func call[T any](d *handheld, tab context.Context, expression string) T {
	d.w.t.Helper()
	v, err := try[T](tab, expression)
	if err != nil {
		d.w.t.Fatalf("%s: %v", expression, err)
	}
	return v
}

func try[T any](tab context.Context, expression string) (v T, err error) {
	ctx, cancel := context.WithTimeout(tab, 40*time.Second)
	defer cancel()
	text, err := chromedp.Run(ctx, chromedp.Evaluate[string](`(async () => JSON.stringify(await (`+expression+`)) ?? 'null')()`, chromedp.EvalAwaitPromise))
	if err != nil {
		return v, err
	}
	return v, json.Unmarshal([]byte(text), &v)
}

// restart loads the page of a tab anew, whatever it was doing.
func (d *handheld) restart(tab context.Context) {
	d.w.t.Helper()
	if err := chromedp.Do(tab, chromedp.Navigate(d.net.base+"/harness/")); err != nil {
		d.w.t.Fatal(err)
	}
	p := crew[d.user]
	delete(d.old, tab)
	for end := time.Now().Add(20 * time.Second); ; time.Sleep(20 * time.Millisecond) {
		if _, err := try[any](tab, fmt.Sprintf(`device.resume(%q, %t)`, p.name, p.verifier)); err == nil {
			return
		} else if time.Now().After(end) {
			d.w.t.Fatalf("the page does not start: %v", err)
		}
	}
}

// made is something that was entered.
type made struct {
	tag  string
	user string
	at   time.Time // the true time
	sure bool      // the page said that it was kept
	away bool      // its author put it away
}

// history is one run on a job of its own.
type history struct {
	w    *world
	r    *rand.Rand
	seed uint64
	id   string
	made map[string]*made
	n    int
}

// jobFile is a job whose log ends before the first entry of a kind, gap ago; or one that
// is finished, to be sealed, where no entry is.
func jobFile(t testing.TB, number string, gap time.Duration, next func(job.Entry) bool) []byte {
	t.Helper()
	b, err := os.ReadFile("../docs/formats/examples/uk-pass.json")
	if err != nil {
		t.Fatal(err)
	}
	var j job.Job
	if err := json.Unmarshal(b, &j); err != nil {
		t.Fatal(err)
	}
	j.Number, j.Plan.Day, j.Plan.Team, j.Plan.Start = number, "", "", ""
	if i := slices.IndexFunc(j.Log, next); i >= 0 {
		j.Log = j.Log[:i]
	}
	by := time.Since(j.Log[len(j.Log)-1].At) - gap
	for i := range j.Log {
		e := &j.Log[i]
		e.ID, e.At = number+"-"+e.ID, e.At.Add(by).UTC().Truncate(time.Millisecond)
		if e.Replaces != "" {
			e.Replaces = number + "-" + e.Replaces
		}
	}
	if b, err = json.Marshal(&j); err != nil {
		t.Fatal(err)
	}
	return b
}

// proveDead has a board proved dead now: what a file says of it opens nothing.
func proveDead(t testing.TB, c *client, id, tag string) {
	t.Helper()
	var list []job.Entry
	for i, r := range [][2]string{{worklog.SourceBefore, "238"}, {"dead:L-N", "0"}, {"dead:L-E", "0"}, {"dead:N-E", "0"}, {worklog.SourceAfter, "238"}} {
		list = append(list, job.Entry{ID: fmt.Sprintf("%s-dead-%d", tag, i), Kind: job.ReadingMade, Subject: r[0], Value: r[1], Unit: "V", At: time.Now().UTC()})
	}
	body, err := json.Marshal(map[string]any{"entries": list})
	if err != nil {
		t.Fatal(err)
	}
	if status, said := c.do("POST", "/api/jobs/"+id+"/entries", "application/json", string(body)); status != 200 {
		t.Fatalf("%d %s", status, said)
	}
}

func (w *world) play(seed uint64) {
	w.t.Helper()
	h := &history{w: w, r: rand.New(rand.NewPCG(seed, 13)), seed: seed, made: map[string]*made{}}
	gap := []time.Duration{10 * time.Minute, 5 * time.Hour}[h.r.IntN(2)]
	// The board is proved dead and about to be worked in, or the file alone says so, or all is done.
	finished := h.r.IntN(4) == 0
	next := func(e job.Entry) bool { return !finished && e.Kind == job.TorqueMade }
	status, body := w.apis["verifier"].do("POST", "/api/jobs/import", "application/octet-stream", string(jobFile(w.t, fmt.Sprintf("H-%d", seed), gap, next)))
	if status != 200 {
		w.t.Fatalf("%d %s", status, body)
	}
	var view struct{ Row struct{ ID string } }
	if err := json.Unmarshal(body, &view); err != nil {
		w.t.Fatal(err)
	}
	h.id = view.Row.ID
	if gap == 10*time.Minute && !finished {
		proveDead(w.t, w.apis["verifier"], h.id, fmt.Sprintf("H-%d", seed))
	}
	for _, d := range w.devices {
		call[any](d, d.tabs[0], fmt.Sprintf(`device.judged(%q)`, h.id)) // the job is on the device
	}
	for range 7 + h.r.IntN(5) {
		h.step()
		if w.t.Failed() {
			return
		}
	}
	h.end()
	w.counts["histories"]++
}

// step does one thing at random.
func (h *history) step() {
	d := h.w.devices[h.r.IntN(len(h.w.devices))]
	tab := d.tab(h.r.IntN(len(d.tabs)))
	count := func(what string) { h.w.counts[what]++ }
	switch what := h.r.IntN(100); {
	case what < 18:
		h.press(d, tab, note)
	case what < 24:
		h.backdate(d, tab)
	case what < 30:
		h.unheard(d, tab)
	case what < 44:
		h.press(d, tab, h.torque())
	case what < 52:
		h.press(d, tab, func(tag string) (list []job.Entry) {
			for _, r := range [][2]string{{worklog.SourceBefore, "238"}, {"dead:L-N", "0"}, {"dead:L-E", "0"}, {"dead:N-E", "0"}, {worklog.SourceAfter, "238"}} {
				list = append(list, job.Entry{Kind: job.ReadingMade, Subject: r[0], Value: r[1], Unit: "V", Instrument: tag})
			}
			return list
		})
	case what < 60:
		h.n++
		value := fmt.Sprintf("field %d", h.n)
		if _, err := try[any](tab, fmt.Sprintf(`device.site(%q, %q, %q)`, h.id, []string{"customer", "town", "address"}[h.r.IntN(3)], value)); err == nil {
			count("changes")
		}
	case what < 64:
		if _, err := try[any](tab, fmt.Sprintf(`device.photo(%q, %s)`, h.id, numbers(picture(h.seed, h.n)))); err == nil {
			count("photos")
		}
		h.n++
	case what < 76:
		bad := []fault{passes, passes, delays, refuses, loses, cutsBody, stalls, busyNow, tooMany, timedOut, wrongPage}
		now := bad[h.r.IntN(len(bad))]
		sometimes := h.r.IntN(2) == 0
		r := rand.New(rand.NewPCG(h.seed, uint64(h.n)))
		d.net.set(func(req *http.Request) fault {
			d.net.mu.Lock()
			defer d.net.mu.Unlock()
			if !strings.HasPrefix(req.URL.Path, "/api/") || sometimes && r.IntN(2) == 0 {
				return passes
			}
			return now
		})
	case what < 80:
		by := []time.Duration{0, -4*time.Hour - 30*time.Minute, -3 * time.Hour, 2 * time.Hour, -5 * time.Minute}[h.r.IntN(5)]
		for _, tab := range d.tabs {
			try[any](tab, fmt.Sprintf(`shift(%d)`, by.Milliseconds()))
		}
		count("clocks set")
	case what < 85:
		d.restart(tab)
		count("restarts")
	case what < 89:
		h.swap(d)
	case what < 92:
		h.office()
	case what < 94:
		if status, _ := h.w.apis["verifier"].do("POST", "/api/jobs/"+h.id+"/seal", "application/json", "{}"); status == 200 {
			count("seals")
		} else if status, _ := h.w.apis["verifier"].do("POST", "/api/jobs/"+h.id+"/amend", "application/json", `{"reason":"a history goes on"}`); status == 200 {
			count("amendments")
		}
	case what < 97:
		h.mend(d, tab)
	default:
		try[any](tab, `(void device.send(), 0)`)
	}
}

// note is what anybody may write at any time.
func note(tag string) []job.Entry { return []job.Entry{{Kind: job.Noted, Reason: "seen: " + tag}} }

// torque is work inside the board.
func (h *history) torque() func(tag string) []job.Entry {
	terminal := []string{"board-line", "board-neutral", "board-earth"}[h.r.IntN(3)]
	return func(tag string) []job.Entry {
		return []job.Entry{{Kind: job.TorqueMade, Point: "A", Subject: terminal, Value: "2.5", Target: "2.5", Unit: "N·m", Instrument: tag}}
	}
}

// backdate works inside the board by a clock that was set back while nobody answers: to
// when the board was still open, on a job that a silence has shut.
func (h *history) backdate(d *handheld, tab context.Context) {
	d.net.set(func(*http.Request) fault { return refuses })
	try[any](tab, fmt.Sprintf(`shift(%d)`, (-4*time.Hour-30*time.Minute).Milliseconds()))
	h.press(d, tab, h.torque())
	h.w.counts["clocks set"]++
	d.net.set(nil)
}

// unheard keeps something, and then somebody else signs in on the device, of whom no tab
// hears.
func (h *history) unheard(d *handheld, tab context.Context) {
	d.net.set(func(r *http.Request) fault {
		if r.URL.Path == "/api/session" {
			return passes
		}
		return refuses
	})
	h.press(d, tab, note)
	try[any](tab, `fetch('/api/session', {method: 'POST', headers: {'Content-Type': 'application/json'}, body: JSON.stringify({username: 'mate', password: 'dogbolt-demo'})}).then(r => r.ok)`)
	d.unheard = true
	h.w.counts["sign-ins unheard of"]++
	d.net.set(nil)
}

// press enters something that carries a tag.
func (h *history) press(d *handheld, tab context.Context, what func(tag string) []job.Entry) {
	h.n++
	m := &made{tag: fmt.Sprintf("tag-%d-%d", h.seed, h.n), user: d.user, at: time.Now()}
	list := what(m.tag)
	said := make([]map[string]any, len(list))
	for k, e := range list {
		b, _ := json.Marshal(e)
		json.Unmarshal(b, &said[k])
		delete(said[k], "id")
		delete(said[k], "at")
	}
	b, _ := json.Marshal(said)
	expression := fmt.Sprintf(`device.press(%q, %s)`, h.id, b)
	h.w.counts["presses"]++
	if h.r.IntN(6) == 0 { // the page goes while it is being kept
		try[any](tab, `(void `+expression+`.catch(() => 0), 0)`)
		h.made[m.tag] = m
		d.restart(tab)
		h.w.counts["restarts"]++
		return
	}
	_, err := try[any](tab, expression)
	if err != nil {
		h.w.counts["refused on the device"]++
		return // it said so, and kept nothing
	}
	m.sure = true
	h.made[m.tag] = m
}

// swap signs the other person in on a device, where its network lets it.
func (h *history) swap(d *handheld) {
	other := map[string]string{"installer": "verifier", "verifier": "installer"}[d.user]
	ctx, cancel := context.WithTimeout(d.tabs[0], 2*time.Second)
	defer cancel()
	if _, err := try[string](ctx, fmt.Sprintf(`device.signIn(%q)`, other)); err != nil {
		// The page gives up; the server may have begun the session all the same.
		d.unheard = true
		d.restart(d.tabs[0])
		if call[string](d, d.tabs[0], `device.person()`) != h.w.ids[other] {
			return
		}
	}
	d.user, d.unheard = other, false
	h.w.counts["sign-ins"]++
	d.aside()
	if _, err := try[any](d.tabs[0], fmt.Sprintf(`device.resume(%q, %t)`, crew[other].name, crew[other].verifier)); err != nil {
		d.w.t.Fatal(err)
	}
	try[any](d.tabs[0], fmt.Sprintf(`device.judged(%q)`, h.id))
}

// office changes the design, and a field that devices change too.
func (h *history) office() {
	var v struct {
		Job       struct{ Site map[string]any }
		Revisions map[string]int
	}
	api := h.w.apis["office"]
	api.get("/api/jobs/"+h.id, &v)
	h.n++
	v.Job.Site["town"] = fmt.Sprintf("office %d", h.n)
	b, _ := json.Marshal(map[string]any{"revision": v.Revisions["site"], "section": v.Job.Site})
	if status, _ := api.do("PUT", "/api/jobs/"+h.id+"/site", "application/json", string(b)); status == 200 {
		h.w.counts["changes of others"]++
	}
}

// waits is a thing that is kept on a device.
type waits struct {
	Seq     int
	Person  string
	Kind    string
	Entries []job.Entry
	Refused *struct {
		Status  int
		Message string
	}
}

// mend does something about what was refused.
func (h *history) mend(d *handheld, tab context.Context) {
	me := call[string](d, tab, `device.person()`)
	for _, i := range call[[]waits](d, tab, `device.kept()`) {
		if i.Refused == nil || i.Person != me || i.Kind != "entries" {
			continue
		}
		m := h.made[tagOf(i.Entries[0])]
		if m == nil {
			continue
		}
		switch h.r.IntN(3) {
		case 0:
			call[any](d, tab, fmt.Sprintf(`device.drop(%d)`, i.Seq))
			m.away = true
			h.w.counts["put away"]++
		case 1:
			at := time.Now()
			if _, err := try[any](tab, fmt.Sprintf(`device.anew(%d, %q)`, i.Seq, h.id)); err == nil {
				m.at = at
				h.w.counts["entered anew"]++
			}
		default:
			try[any](tab, fmt.Sprintf(`(void device.tryAgain(%d), 0)`, i.Seq))
		}
		return
	}
}

// tagOf is what an entry of a history carries.
func tagOf(e job.Entry) string {
	if e.Kind == job.Noted {
		return strings.TrimPrefix(e.Reason, "seen: ")
	}
	return e.Instrument
}

// end lets every network heal and every clock be right, has everybody sign in where
// something of theirs waits, and looks at what came of it all.
func (h *history) end() {
	t := h.w.t
	t.Helper()
	var kept []waits
	for _, d := range h.w.devices {
		d.net.set(nil)
		d.net.release()
		for _, tab := range d.tabs {
			try[any](tab, `shift(0)`)
		}
		d.aside()
		if d.unheard { // whoever's session it is by now, it is not the page's
			call[string](d, d.tabs[0], fmt.Sprintf(`device.signIn(%q)`, d.user))
			d.unheard = false
			d.restart(d.tabs[0])
		}
		h.drain(d)
		waiting := call[[]waits](d, d.tabs[0], `device.kept()`)
		if slices.ContainsFunc(waiting, func(i waits) bool { return i.Person != h.w.ids[d.user] && i.Refused == nil }) {
			h.swapForSure(d)
			h.drain(d)
		}
		judged := call[struct{ Server, Device json.RawMessage }](d, d.tabs[0], fmt.Sprintf(`device.judged(%q)`, h.id))
		if !bytes.Equal(judged.Server, judged.Device) {
			t.Errorf("the device judges otherwise:\n%s\n%s", judged.Device, judged.Server)
		}
		for _, i := range call[[]waits](d, d.tabs[0], `device.kept()`) {
			kept = append(kept, i)
			h.w.counts["kept: "+fmt.Sprint(i.Refused.Status)]++
		}
	}
	var view struct{ Job job.Job }
	h.w.apis["office"].get("/api/jobs/"+h.id, &view)
	j := view.Job
	where := map[string][]string{}
	for k := range j.Log {
		e := &j.Log[k]
		m := h.made[tagOf(*e)]
		if m == nil {
			continue
		}
		where[m.tag] = append(where[m.tag], "log")
		if e.By != crew[m.user].name {
			t.Errorf("%s of %s stands in the name of %s", m.tag, m.user, e.By)
		}
		h.w.counts["entries"]++
		e.At = m.at
	}
	for _, i := range kept {
		for _, e := range i.Entries {
			m := h.made[tagOf(e)]
			if m == nil {
				continue
			}
			where[m.tag] = append(where[m.tag], "kept")
			if i.Person != h.w.ids[m.user] {
				t.Errorf("%s of %s is kept for another", m.tag, m.user)
			}
		}
	}
	for tag, m := range h.made {
		found := where[tag]
		each := map[string]int{"log": 0, "kept": 0}
		for _, f := range found {
			each[f]++
		}
		one := each["log"] == 0 || each["kept"] == 0
		whole := len(found) == 1 || len(found) == 5
		switch {
		case m.away && len(found) == 0, !m.sure && len(found) == 0, one && whole:
		default:
			t.Errorf("%s, kept %t, put away %t, is in %v", tag, m.sure, m.away, found)
		}
	}
	// By the true time, nobody worked inside a board that was not proved dead.
	slices.SortStableFunc(j.Log, func(a, b job.Entry) int { return a.At.Compare(b.At) })
	book, err := rulebook.For(&j)
	if err != nil {
		t.Fatal(err)
	}
	work := &book.In.Install
	if e, bad := worklog.InsideWhileLive(&j, work.Plan(&j), work.Pairs(&j.Survey.Supply), work.Tails(&j), 0); bad {
		t.Errorf("work inside a board that was not proved dead: %+v", e)
	}
	for _, d := range h.w.devices {
		call[any](d, d.tabs[0], `device.clear()`)
	}
}

// swapForSure signs the other person in.
func (h *history) swapForSure(d *handheld) {
	d.w.t.Helper()
	before := d.user
	for range 20 {
		if h.swap(d); d.user != before {
			return
		}
	}
	d.w.t.Fatal("nobody can sign in")
}

// drain waits until everything of who is signed in was sent or refused.
func (h *history) drain(d *handheld) {
	d.w.t.Helper()
	me := call[string](d, d.tabs[0], `device.person()`)
	for end := time.Now().Add(30 * time.Second); ; {
		call[any](d, d.tabs[0], `device.send()`)
		list := call[[]waits](d, d.tabs[0], `device.kept()`)
		i := slices.IndexFunc(list, func(i waits) bool { return i.Person == me && i.Refused == nil })
		if i < 0 {
			return
		}
		if time.Now().After(end) {
			d.w.t.Fatalf("never sent: %+v", list[i])
		}
	}
}

// picture is a small photo, another one each time.
func picture(seed uint64, n int) []byte {
	m := image.NewGray(image.Rect(0, 0, 48, 48))
	r := rand.New(rand.NewPCG(seed, uint64(n)))
	for i := range m.Pix {
		m.Pix[i] = byte(r.Uint32())
	}
	var b bytes.Buffer
	if err := jpeg.Encode(&b, m, nil); err != nil {
		panic(err) // into memory
	}
	return b.Bytes()
}

// numbers writes bytes as a list in JavaScript.
func numbers(b []byte) string {
	return strings.ReplaceAll(fmt.Sprint(b), " ", ",")
}
