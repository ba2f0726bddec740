// Command peer measures the program beside a general-purpose back end of Go and SQLite, in one
// run on one machine: both with the same jobs, the same wait for the disk, and the same
// requests in turns. It prints a table in Markdown, and draws how the program's own times grow.
//
// It is a module of its own: the program does not depend on what it is measured against.
package main

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"log"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"
)

const (
	writers  = 20 // crews, each on a job of its own
	password = "measured-by-itself"
)

func main() {
	log.SetFlags(0)
	if len(os.Args) == 4 && os.Args[1] == "serve" {
		if err := servePeer(os.Args[2], os.Args[3]); err != nil {
			log.Fatal(err)
		}
		return
	}
	binary := flag.String("dogbolt", "../../bin/dogbolt", "program that is measured")
	jobs := flag.Int("jobs", 50_000, "jobs in both")
	docs := flag.String("docs", "", "folder for the curves, SVG; without it none are drawn")
	flag.Parse()
	if err := measure(*binary, *jobs, *docs); err != nil {
		log.Fatal(err)
	}
}

func measure(binary string, jobs int, docs string) error {
	work, err := os.MkdirTemp("", "peer")
	if err != nil {
		return err
	}
	defer os.RemoveAll(work)
	ours, err := startOurs(binary, filepath.Join(work, "ours"), jobs)
	if err != nil {
		return err
	}
	defer ours.stop()
	theirs, err := startTheirs(filepath.Join(work, "theirs"), jobs)
	if err != nil {
		return err
	}
	defer theirs.stop()
	fmt.Printf("%d jobs in both, `synchronous=FULL` in both, requests in turns, one client for reading and %d for writing.\n\n", jobs, writers)
	fmt.Println("| what | this program, p50 / p95 | the other, p50 / p95 | ratio of p95 |")
	fmt.Println("|---|---|---|---|")
	for _, q := range questions {
		a, b := inTurns(400, func() error { return ours.get(q.ours) }, func() error { return theirs.get(q.theirs) })
		fmt.Printf("| %s | %s | %s | %.2f |\n", q.what, a, b, a.p95/b.p95)
	}
	open, err := ours.openOne()
	if err != nil {
		return err
	}
	a, _ := inTurns(400, open, func() error { return nil })
	fmt.Printf("| open one job with findings | %s | | |\n", a)
	if err := writeInTurns(ours, theirs); err != nil {
		return err
	}
	if err := mixed(ours, 10_000); err != nil {
		return err
	}
	fmt.Printf("| resident memory after 10,000 mixed requests more | %.0f MB | | |\n", ours.resident())
	if docs == "" {
		return nil
	}
	if err := appendCurve(ours, filepath.Join(docs, "append-curve.svg")); err != nil {
		return err
	}
	return listCurve(binary, work, filepath.Join(docs, "list-curve.svg"))
}

// questions are what is asked of both.
var questions = []struct{ what, ours, theirs string }{
	{"first page of the list, counted", "/api/jobs?limit=50", list("", false)},
	{"the same, the other without a count", "/api/jobs?limit=50", list("", true)},
	{"one stage, counted", "/api/jobs?limit=50&stage=design", list(`stage="design"`, false)},
	{"two words that a fifth has", "/api/jobs?limit=50&search=quill+mill", list(words("quill", "mill"), true)},
	{"two words that one in a thousand has", "/api/jobs?limit=50&search=customer+411", list(words("customer", "411"), true)},
	{"a number", "/api/jobs?limit=50&search=L-004711", list(words("L-004711"), true)},
}

func list(filter string, uncounted bool) string {
	q := url.Values{"perPage": {"50"}, "sort": {"next_date,number"}}
	if filter != "" {
		q.Set("filter", filter)
	}
	if uncounted {
		q.Set("skipTotal", "1")
	}
	return "/api/collections/jobs/records?" + q.Encode()
}

func words(typed ...string) string {
	var all []string
	for _, w := range typed {
		all = append(all, fmt.Sprintf("(number~%q||customer~%q||address~%q||town~%q)", w, w, w, w))
	}
	return strings.Join(all, "&&")
}

// spread is what times came to, ms.
type spread struct{ p50, p95 float64 }

func (s spread) String() string { return fmt.Sprintf("%.1f / %.1f ms", s.p50, s.p95) }

func spreadOf(took []time.Duration) spread {
	slices.Sort(took)
	at := func(share int) float64 { return float64(took[len(took)*share/100].Microseconds()) / 1000 }
	return spread{at(50), at(95)}
}

// inTurns asks one and the other, n times each.
func inTurns(n int, one, other func() error) (spread, spread) {
	took := [2][]time.Duration{}
	for i := range n + n/10 {
		for k, f := range []func() error{one, other} {
			began := time.Now()
			if err := f(); err != nil {
				log.Fatal(err)
			}
			if i >= n/10 { // the first ones fill the caches of both
				took[k] = append(took[k], time.Since(began))
			}
		}
	}
	return spreadOf(took[0]), spreadOf(took[1])
}

// site is a running server, with who asks it.
type site struct {
	base   string
	http   *http.Client
	header http.Header
	cmd    *exec.Cmd
}

func start(cmd *exec.Cmd, addr, ready string) (*site, error) {
	cmd.Stderr = nil
	if err := cmd.Start(); err != nil {
		return nil, err
	}
	jar, err := cookiejar.New(nil)
	s := &site{"http://" + addr, &http.Client{Jar: jar, Transport: &http.Transport{MaxIdleConnsPerHost: writers}}, http.Header{}, cmd}
	for range 600 {
		if res, err := s.http.Get(s.base + ready); err == nil {
			res.Body.Close()
			return s, nil
		}
		time.Sleep(50 * time.Millisecond)
	}
	s.stop()
	return nil, fmt.Errorf("%s does not answer: %w", cmd.Path, err)
}

func (s *site) stop() {
	s.cmd.Process.Signal(os.Interrupt)
	s.cmd.Wait()
}

// resident is the memory that the server holds, MB.
func (s *site) resident() float64 {
	b, _ := os.ReadFile(fmt.Sprintf("/proc/%d/status", s.cmd.Process.Pid))
	for line := range strings.Lines(string(b)) {
		var kB float64
		if n, _ := fmt.Sscanf(line, "VmRSS: %f kB", &kB); n == 1 {
			return kB / 1024
		}
	}
	return 0
}

func (s *site) do(method, path string, body, into any) error {
	var b bytes.Buffer
	if body != nil {
		if err := json.NewEncoder(&b).Encode(body); err != nil {
			return err
		}
	}
	req, err := http.NewRequest(method, s.base+path, &b)
	if err != nil {
		return err
	}
	req.Header = s.header.Clone()
	if body != nil {
		req.Header.Set("Content-Type", "application/json")
	}
	res, err := s.http.Do(req)
	if err != nil {
		return err
	}
	defer res.Body.Close()
	answer, err := io.ReadAll(res.Body)
	if err != nil {
		return err
	}
	if res.StatusCode != http.StatusOK {
		return fmt.Errorf("%s %s: %d %.300s", method, path, res.StatusCode, answer)
	}
	if into == nil {
		return nil
	}
	return json.Unmarshal(answer, into)
}

func (s *site) get(path string) error { return s.do("GET", path, nil, nil) }

func freeAddress() (string, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", err
	}
	defer l.Close()
	return l.Addr().String(), nil
}

// writeInTurns lets the crews write one entry a request, to one and to the other, three times.
func writeInTurns(ours, theirs *site) error {
	const each = 150
	jobs := make([]string, writers)
	for i := range jobs {
		var err error
		if jobs[i], err = ours.newJob(); err != nil {
			return err
		}
	}
	var rates [2][]float64
	for round := range 3 {
		for k, write := range []func(crew, n int) error{
			func(crew, n int) error { return ours.log(jobs[crew], fmt.Sprintf("peer-%d-%02d-%05d", round, crew, n)) },
			func(crew, n int) error {
				return theirs.do("POST", "/api/collections/entries/records", map[string]any{
					"entry": fmt.Sprintf("peer-%d-%02d-%05d", round, crew, n), "job": fmt.Sprint("job", crew),
					"kind": "note", "reason": "a note from site", "at": time.Now().UTC(),
				}, nil)
			},
		} {
			began := time.Now()
			if err := atOnce(each, write); err != nil {
				return err
			}
			rates[k] = append(rates[k], float64(writers*each)/time.Since(began).Seconds())
		}
	}
	for _, r := range rates {
		slices.Sort(r)
	}
	fmt.Printf("| %d crews, one entry a request: entries a second, middle of three | %.0f | %.0f | %.2f |\n",
		writers, rates[0][1], rates[1][1], rates[0][1]/rates[1][1])
	return nil
}

func atOnce(each int, write func(crew, n int) error) error {
	var all sync.WaitGroup
	errs := make([]error, writers)
	for crew := range writers {
		all.Go(func() {
			for n := 0; n < each && errs[crew] == nil; n++ {
				errs[crew] = write(crew, n)
			}
		})
	}
	all.Wait()
	for _, err := range errs {
		if err != nil {
			return err
		}
	}
	return nil
}
