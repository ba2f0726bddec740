//go:build e2e

// Package e2e drives the real binary and the real pages in headless Chromium.
package e2e

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"github.com/chromedp/cdproto/network"
	cdppage "github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"
)

// binary is the program under test, as `make build` leaves it.
var binary = func() string {
	p, err := filepath.Abs("../bin/dogbolt")
	if err != nil {
		panic(err)
	}
	return p
}()

// program is a running server.
type program struct {
	base string
	cmd  *exec.Cmd
	data string
	out  chan string // lines of its standard output
}

// filled is a folder with the demo's data, made once: filling it anew for every
// test took longer than many of them.
var filled = sync.OnceValues(func() (string, error) {
	folder, err := os.MkdirTemp("", "dogbolt-demo-")
	if err != nil {
		return "", err
	}
	toRemove = folder
	cmd := exec.Command(binary, "demo", "--addr", "127.0.0.1:0", "--data", folder)
	stdout, err := cmd.StdoutPipe()
	if err != nil {
		return folder, err
	}
	if err := cmd.Start(); err != nil {
		return folder, fmt.Errorf("%w; run `make build` first", err)
	}
	// Its first line comes when everything is there.
	if _, err := bufio.NewReader(stdout).ReadString('\n'); err != nil {
		return folder, fmt.Errorf("the demo does not start: %w", err)
	}
	cmd.Process.Signal(syscall.SIGTERM)
	io.Copy(io.Discard, stdout)
	return folder, cmd.Wait()
})

// toRemove is the folder that filled made, if it did.
var toRemove string

func TestMain(m *testing.M) {
	code := m.Run()
	if toRemove != "" {
		os.RemoveAll(toRemove)
	}
	os.Exit(code)
}

// beside are the tests that have begun to run beside others.
var beside sync.Map

// start runs the program on a free port and waits until it says its address.
//
// Tests that run a program of their own go on beside each other: most of their
// time is spent waiting for pages.
func start(t testing.TB, command, data string, more ...string) *program {
	t.Helper()
	if x, ok := t.(*testing.T); ok {
		if _, again := beside.LoadOrStore(t.Name(), true); !again {
			x.Parallel()
		}
	}
	if entries, err := os.ReadDir(data); command == "demo" && err == nil && len(entries) == 0 {
		folder, err := filled()
		if err == nil {
			err = os.CopyFS(data, os.DirFS(folder))
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	cmd := exec.Command(binary, append([]string{command, "--addr", "127.0.0.1:0", "--data", data, "--sign-ins", "10000"}, more...)...)
	stdout, err := cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	logFile, err := os.Create(filepath.Join(t.TempDir(), "server.log"))
	if err != nil {
		t.Fatal(err)
	}
	cmd.Stderr = logFile
	if err := cmd.Start(); err != nil {
		t.Fatalf("start %s: %v; run `make build` first", binary, err)
	}
	p := &program{cmd: cmd, data: data, out: make(chan string, 100)}
	t.Cleanup(func() {
		p.stop()
		if t.Failed() {
			b, _ := os.ReadFile(logFile.Name())
			t.Logf("server log, end:\n%s", b[max(0, len(b)-2000):])
		}
	})
	go func() {
		s := bufio.NewScanner(stdout)
		for s.Scan() {
			p.out <- s.Text()
		}
		close(p.out)
	}()
	address := regexp.MustCompile(`http://127\.0\.0\.1:\d+`)
	for {
		select {
		case line, ok := <-p.out:
			if !ok {
				b, _ := os.ReadFile(logFile.Name())
				t.Fatalf("the program ended: %s", b)
			}
			if m := address.FindString(line); m != "" {
				p.base = m
				return p
			}
		case <-time.After(30 * time.Second):
			t.Fatal("the program does not say its address")
		}
	}
}

func (p *program) stop() {
	p.cmd.Process.Signal(syscall.SIGTERM)
	p.cmd.Wait()
}

// client is a signed-in caller of the operations, without a browser.
type client struct {
	t    testing.TB
	base string
	http *http.Client
}

func signedIn(t testing.TB, base, user string) *client {
	t.Helper()
	jar, _ := cookiejar.New(nil)
	c := &client{t, base, &http.Client{Jar: jar}}
	status, body := c.do("POST", "/api/session", "application/json", fmt.Sprintf(`{"username":%q,"password":"dogbolt-demo"}`, user))
	if status != 200 {
		t.Fatalf("sign in as %s: %d %s", user, status, body)
	}
	return c
}

func (c *client) do(method, path, kind, body string) (int, []byte) {
	c.t.Helper()
	req, err := http.NewRequest(method, c.base+path, strings.NewReader(body))
	if err != nil {
		c.t.Fatal(err)
	}
	if kind != "" {
		req.Header.Set("Content-Type", kind)
	}
	res, err := c.http.Do(req)
	if err != nil {
		c.t.Fatal(err)
	}
	defer res.Body.Close()
	b, err := io.ReadAll(res.Body)
	if err != nil {
		c.t.Fatal(err)
	}
	return res.StatusCode, b
}

// get decodes the answer of an operation that must succeed.
func (c *client) get(path string, into any) {
	c.t.Helper()
	status, body := c.do("GET", path, "", "")
	if status != 200 {
		c.t.Fatalf("GET %s: %d %s", path, status, body)
	}
	if err := json.Unmarshal(body, into); err != nil {
		c.t.Fatal(err)
	}
}

// page is a tab of the browser.
type page struct {
	t    testing.TB
	ctx  context.Context
	base string
	taps map[string]int // on a phone, by the test that is read

	byKeys bool   // everything is done by keyboard
	point  string // whose steps are meant, "" where there is one point
}

var flags = []chromedp.ExecAllocatorOption{
	chromedp.Headless, chromedp.NoSandbox, chromedp.DisableGPU, chromedp.NoFirstRun, chromedp.NoDefaultBrowserCheck,
	chromedp.Flag("disable-quic", true), chromedp.Flag("disable-background-networking", true),
	chromedp.Flag("disable-component-update", true), chromedp.Flag("disable-sync", true), chromedp.Flag("hide-scrollbars", true),
}

// open starts a browser with one tab of the given size.
func open(t testing.TB, base string, width, height int64) *page {
	t.Helper()
	alloc, cancelAlloc := chromedp.NewExecAllocator(context.Background(), flags...)
	t.Cleanup(cancelAlloc)
	ctx, cancel := chromedp.NewContext(alloc)
	t.Cleanup(cancel)
	p := &page{t: t, ctx: ctx, base: base}
	if err := chromedp.Do(ctx, chromedp.EmulateViewport(width, height)); err != nil {
		t.Fatalf("start Chromium: %v", err)
	}
	return p
}

// offline turns the browser's own switch: the page, its workers and what they know
// of the network.
func (p *page) offline(off bool) {
	p.t.Helper()
	rule := network.Conditions{Offline: off, DownloadThroughput: -1, UploadThroughput: -1}
	if _, err := chromedp.Call(p.ctx, network.EmulateNetworkConditionsByRule, network.EmulateNetworkConditionsByRuleParams{EmulateOfflineServiceWorker: &off, MatchedNetworkConditions: []*network.Conditions{&rule}}); err != nil {
		p.t.Fatal(err)
	}
	if _, err := chromedp.Call(p.ctx, network.OverrideNetworkState, network.OverrideNetworkStateParams{Offline: off, DownloadThroughput: -1, UploadThroughput: -1}); err != nil {
		p.t.Fatal(err)
	}
}

// carried waits until the pages and the rules are on the device.
func (p *page) carried() {
	p.t.Helper()
	p.eval(`window.carried = false; (async () => { await navigator.serviceWorker.ready; for (;;) {
		if (navigator.serviceWorker.controller && await caches.match('judge.wasm.gz', {ignoreSearch: true})) { window.carried = true; return }
		await new Promise(r => setTimeout(r, 100)) } })()`)
	p.is(`window.carried`)
}

// rules waits until the rules are loaded: what is entered is judged before it is kept.
func (p *page) rules() {
	p.t.Helper()
	p.is(`performance.getEntriesByName('rules').length`)
}

// sent waits until nothing is kept that was not sent.
func (p *page) sent() {
	p.t.Helper()
	p.is(`!document.querySelector('[data-signal]')`)
}

// do runs steps within a limit.
func (p *page) do(steps ...chromedp.Action[chromedp.Void]) {
	p.t.Helper()
	ctx, cancel := context.WithTimeout(p.ctx, 20*time.Second)
	defer cancel()
	if err := chromedp.Do(ctx, steps...); err != nil {
		p.shot("failed")
		p.t.Fatalf("%v\nthe page says: %.600s", err, p.text("body"))
	}
}

// is waits until a JavaScript expression is true.
func (p *page) is(expression string) {
	p.t.Helper()
	var last error
	for end := time.Now().Add(15 * time.Second); time.Now().Before(end); time.Sleep(40 * time.Millisecond) {
		ok, err := chromedp.Run(p.ctx, chromedp.Evaluate[bool]("!!("+expression+")"))
		if ok {
			return
		}
		last = err
	}
	p.shot("failed")
	p.t.Fatalf("never true: %s (%v)\nthe page says: %.900s", expression, last, p.text("body"))
}

// eval runs statements in the page.
func (p *page) eval(script string) {
	p.t.Helper()
	if _, err := chromedp.Run(p.ctx, chromedp.Evaluate[bool](`(() => { `+script+`; return true })()`)); err != nil {
		p.t.Fatal(err)
	}
}

// text returns the text of an element, "" where there is none.
func (p *page) text(selector string) string {
	s, _ := chromedp.Run(p.ctx, chromedp.Evaluate[string](fmt.Sprintf(`document.querySelector(%q)?.innerText ?? ''`, selector)))
	return s
}

// before runs a script in each document before its own.
func (p *page) before(script string) {
	p.t.Helper()
	if _, err := chromedp.Call(p.ctx, cdppage.AddScriptToEvaluateOnNewDocument, cdppage.AddScriptToEvaluateOnNewDocumentParams{Source: script}); err != nil {
		p.t.Fatal(err)
	}
}

func (p *page) visit(path string) {
	p.t.Helper()
	p.do(chromedp.Navigate(p.base + path))
}

// click clicks the first element that the selector finds, scrolled into view.
func (p *page) click(selector string) {
	p.t.Helper()
	p.is(fmt.Sprintf(`(e => e && !e.disabled && !e.closest('fieldset:disabled'))(document.querySelector(%q))`, selector))
	if p.byKeys {
		p.enter(selector)
		return
	}
	// What still moves, because something above it comes, would be missed; what came between all the same is pressed again.
	for range 5 {
		p.is(fmt.Sprintf(`(e => {
			e.scrollIntoView({block: 'center'})
			const { x, y } = e.getBoundingClientRect(), at = x + ' ' + y, still = e === window.pressed?.e && at === window.pressed.at
			window.pressed = { e, at }
			if (still) e.addEventListener('click', () => (window.pressed = undefined), { once: true, capture: true })
			return still
		})(document.querySelector(%q))`, selector))
		p.do(chromedp.Click(chromedp.CSS(selector)))
		if missed, err := chromedp.Run(p.ctx, chromedp.Evaluate[bool](`!!window.pressed`)); err != nil || !missed {
			return // the press may have led to another page
		}
	}
	p.t.Fatalf("no press arrived at %s", selector)
}

// press clicks the button or link with the words.
func (p *page) press(words string) {
	p.t.Helper()
	find := fmt.Sprintf(`[...document.querySelectorAll('button, a, label.btn')].find(e => e.innerText.trim().startsWith(%q) && !e.disabled)`, words)
	p.is(find)
	if p.byKeys {
		p.enterFound(find)
		return
	}
	if _, err := chromedp.Run(p.ctx, chromedp.Evaluate[bool](`(`+find+`.click(), true)`)); err != nil {
		p.t.Fatal(err)
	}
}

// fill puts a value into the field of the job document with the name.
func (p *page) fill(name, value string) {
	p.t.Helper()
	p.openSection(name)
	p.fillHere(name, value)
}

// fillHere fills in a field of the page as it is.
func (p *page) fillHere(name, value string) {
	p.t.Helper()
	sel := fmt.Sprintf(`[data-field="%s"]`, name)
	p.is(fmt.Sprintf(`document.querySelector('%s input, %s select, %s button')`, sel, sel, sel))
	// The options of a choice may still be on their way.
	p.is(fmt.Sprintf(`(s => !s || [...s.options].some(o => o.value === %q))(document.querySelector('%s select'))`, value, sel))
	if p.byKeys {
		p.fillByKeys(name, value)
		return
	}
	script := fmt.Sprintf(`(() => {
		const frame = document.querySelector('%s'), v = %q
		const button = [...frame.querySelectorAll('.bars button')]
		if (button.length) {
			const b = button.find(x => x.dataset.value === v)
			if (b.getAttribute('aria-pressed') !== 'true') b.click() // pressing again takes the answer back
			return true
		}
		const e = frame.querySelector('input, select')
		e.focus(); e.value = v
		e.dispatchEvent(new Event('input', {bubbles: true})); e.dispatchEvent(new Event('change', {bubbles: true}))
		return e.value === v || !!e.closest('.day') // a day is shown as the country writes it
	})()`, sel, value)
	ok, err := chromedp.Run(p.ctx, chromedp.Evaluate[bool](script))
	if err != nil || !ok {
		p.t.Fatalf("fill %s with %q: %t %v", name, value, ok, err)
	}
}

// sections of the survey by the beginning of their fields' names.
var sections = []struct{ prefix, id string }{
	{"survey.supply", "supply"}, {"survey.board", "board"}, {"survey.loads", "loads"}, {"survey.dwelling", "loads"}, {"survey.vehicles", "vehicles"},
	{"survey.sitePlan", "positions"}, {"survey.places.0.route", "route"}, {"survey.places.1.route", "route"}, {"survey.places.0.loop", "route"}, {"survey.places", "positions"},
	{"survey.bonding", "supply"}, {"survey.network", "connectivity"}, {"survey.consent", "consents"}, {"survey.photos", "photos"},
}

// unfold opens every part of the design.
func (p *page) unfold() {
	p.t.Helper()
	if p.byKeys {
		p.is(`document.querySelector('[data-panel]')`)
		for more := true; more; {
			p.enter(`[data-unfold]`)
			p.settled()
			more, _ = chromedp.Run(p.ctx, chromedp.Evaluate[bool](`!!document.querySelector('[data-unfold]')`))
		}
		return
	}
	p.is(`document.querySelector('[data-panel]') && (document.querySelectorAll('[data-unfold]').forEach(b => b.click()), true) && !document.querySelector('[data-unfold]')`)
}

// openSection opens the section of the survey that a field stands in.
func (p *page) openSection(name string) {
	if strings.HasPrefix(name, "design.") {
		p.is(`document.querySelector('[data-panel], [data-repair]')`) // what a repair mends stands on the survey too
		if p.byKeys {
			return // they were unfolded
		}
		p.eval(fmt.Sprintf(`for (const e of document.querySelectorAll('[data-holds]'))
			if (e.dataset.holds.split(' ').some(f => f && %q.startsWith(f))) e.querySelector('[data-unfold]')?.click()`, name))
		return
	}
	for _, s := range sections {
		if strings.HasPrefix(name, s.prefix) {
			if p.byKeys {
				tab := fmt.Sprintf(`[data-section="%s"]`, s.id)
				p.is(`document.querySelector('` + tab + `')`)
				if open, _ := chromedp.Run(p.ctx, chromedp.Evaluate[bool](`!!document.querySelector('`+tab+`').getAttribute('aria-current')`)); !open {
					p.enter(tab)
				}
				return
			}
			p.is(fmt.Sprintf(`(b => b && (b.getAttribute('aria-current') || b.click(), b.getAttribute('aria-current')))(document.querySelector('[data-section="%s"]'))`, s.id))
			return
		}
	}
}

// input types into an input that a selector finds, as a keyboard would.
func (p *page) input(selector, keys string) {
	p.t.Helper()
	p.is(fmt.Sprintf(`(e => e && !e.disabled && !e.readOnly)(document.querySelector(%q))`, selector))
	if p.byKeys {
		p.overtype(selector, keys)
		return
	}
	p.do(chromedp.Evaluate[chromedp.Void](fmt.Sprintf(`(e => { e.focus(); e.select() })(document.querySelector(%q))`, selector)), chromedp.SendKeys(chromedp.CSS(selector), keys))
}

// upload gives a file with the content to the input that a selector finds.
func (p *page) upload(selector, name string, content []byte) {
	p.t.Helper()
	path := filepath.Join(p.t.TempDir(), name)
	if err := os.WriteFile(path, content, 0o600); err != nil {
		p.t.Fatal(err)
	}
	p.is(fmt.Sprintf(`document.querySelector(%q)`, selector))
	p.do(chromedp.SetUploadFiles(chromedp.CSS(selector), []string{path}))
}

// saved waits until the section says that everything is saved.
func (p *page) saved() {
	p.t.Helper()
	// The form marks itself as waiting first, before the page is drawn again.
	p.eval(`window.drawn = false; requestAnimationFrame(() => requestAnimationFrame(() => { window.drawn = true }))`)
	p.is(`window.drawn`)
	// A page may have two forms.
	p.is(`(forms => forms.length > 0 && forms.every(f => f.dataset.state === 'saved'))([...document.querySelectorAll('[data-state]')])`)
}

func (p *page) signIn(user string) {
	p.t.Helper()
	p.visit("/sign-in")
	p.fill("username", user)
	p.fill("password", "dogbolt-demo")
	p.press("Sign in")
	p.is(`/\/(jobs|today)$/.test(location.pathname)`)
}

// shot writes a picture of the tab to the folder in DOGBOLT_SHOTS, if set.
func (p *page) shot(name string) {
	dir := os.Getenv("DOGBOLT_SHOTS")
	if dir == "" {
		return
	}
	time.Sleep(350 * time.Millisecond) // menus and fonts settle
	png, err := chromedp.Run(p.ctx, chromedp.CaptureScreenshot())
	if err == nil {
		err = os.WriteFile(filepath.Join(dir, name+".png"), png, 0o644)
	}
	if err != nil {
		p.t.Logf("picture %s: %v", name, err)
	}
}

// jobID returns the id of a demo job by its number.
func jobID(t testing.TB, c *client, number string) string {
	t.Helper()
	var list struct {
		Jobs []struct{ ID, Number string }
	}
	c.get("/api/jobs?search="+number, &list)
	for _, j := range list.Jobs {
		if j.Number == number {
			return j.ID
		}
	}
	t.Fatalf("no job %s", number)
	return ""
}
