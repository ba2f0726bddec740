//go:build e2e

package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"dogbolt/internal/demo"
	"dogbolt/internal/rooms"
	"dogbolt/internal/standin"
	"dogbolt/internal/store"
)

// crowd makes a folder with the demo and n more jobs, for benchmarks.
func crowd(b *testing.B, n int) string {
	b.Helper()
	data := b.TempDir()
	s, err := store.Open(filepath.Join(data, "dogbolt.db"))
	if err != nil {
		b.Fatal(err)
	}
	defer s.Close()
	ctx := context.Background()
	outside, err := demo.Outside(data, time.Now())
	if err != nil {
		b.Fatal(err)
	}
	a := rooms.New(s, slog.New(slog.NewTextHandler(io.Discard, nil)), standin.Instruments{})
	a.Connect(outside)
	if err := demo.Fill(ctx, a, time.Now()); err != nil {
		b.Fatal(err)
	}
	towns := []string{"Quillmouth", "Aldermoor", "Saltbeck", "Copper Flats", "Lake Orrin"}
	stages := []string{"survey", "design", "clearances", "plan", "install", "commission", "handover"}
	first := time.Date(2026, 1, 1, 0, 0, 0, 0, time.UTC)
	err = s.Write(ctx, func(tx *store.Tx) error {
		for i := range n {
			j := store.Job{ID: fmt.Sprint(i), Number: fmt.Sprintf("L-%06d", i), Rulebook: "nec:2023", Customer: fmt.Sprintf("Customer %d", i%977), Address: fmt.Sprintf("%d Mill Lane", i%311),
				Town: towns[i%5], Stage: stages[i%7], Stops: i % 3, Opens: i % 11, NextDate: first.AddDate(0, 0, i%900).Format(time.DateOnly)}
			if err := tx.CreateJob(j); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		b.Fatal(err)
	}
	return data
}

// p95 runs f b.N times and reports the time that 95 of 100 stay under.
func p95(b *testing.B, f func()) {
	var took []time.Duration
	for b.Loop() {
		t := time.Now()
		f()
		took = append(took, time.Since(t))
	}
	slices.Sort(took)
	b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, "p95-ms")
}

func BenchmarkListOverHTTP(b *testing.B) {
	srv := start(b, "serve", crowd(b, 50_000))
	c := signedIn(b, srv.base, "office")
	p95(b, func() {
		if status, body := c.do("GET", "/api/jobs?search=quill+mill&stage=design&inWay=stop&limit=50", "", ""); status != 200 {
			b.Fatal(status, string(body))
		}
	})
}

func BenchmarkOpenOverHTTP(b *testing.B) {
	srv := start(b, "serve", crowd(b, 50_000))
	c := signedIn(b, srv.base, "office")
	id := jobID(b, c, "DB-0423") // two points
	p95(b, func() {
		if status, body := c.do("GET", "/api/jobs/"+id, "", ""); status != 200 {
			b.Fatal(status, string(body))
		}
	})
}

// BenchmarkStart measures from the start of the process to its first answer,
// with 50,000 jobs, and the memory that it then holds.
func BenchmarkStart(b *testing.B) {
	data := crowd(b, 50_000)
	for b.Loop() {
		srv := start(b, "serve", data)
		c := &client{b, srv.base, nil}
		c.http = signedIn(b, srv.base, "office").http
		if status, _ := c.do("GET", "/api/jobs?limit=50", "", ""); status != 200 {
			b.Fatal(status)
		}
		b.StopTimer()
		status, _ := os.ReadFile(fmt.Sprintf("/proc/%d/status", srv.cmd.Process.Pid))
		for line := range strings.Lines(string(status)) {
			var kB float64
			if n, _ := fmt.Sscanf(line, "VmRSS: %f kB", &kB); n == 1 {
				b.ReportMetric(kB/1024, "MB-resident")
			}
		}
		srv.stop()
		b.StartTimer()
	}
}

// BenchmarkCrews: twenty crews log at once, each on a job of its own: one entry a request, as a
// phone does with signal, and in batches of ten, as it does after a while without. One
// operation is one entry. No entry may be lost or doubled.
func BenchmarkCrews(b *testing.B) {
	for _, batch := range []int{1, 10} {
		b.Run(fmt.Sprintf("batch=%d", batch), func(b *testing.B) { crews(b, batch) })
	}
}

const crewsAtOnce = 20

func crews(b *testing.B, batch int) {
	srv := start(b, "demo", b.TempDir())
	office := signedIn(b, srv.base, "office")
	var ids []string
	for range crewsAtOnce {
		ids = append(ids, emptyJob(b, office))
	}
	crew := signedIn(b, srv.base, "installer")
	crew.http.Transport = &http.Transport{MaxIdleConnsPerHost: crewsAtOnce} // each phone keeps its line open
	each := max(b.N/crewsAtOnce/batch, 1)
	b.ResetTimer()
	began := time.Now()
	var wg sync.WaitGroup
	for k, id := range ids {
		wg.Go(func() {
			for i := range each {
				logNotes(b, crew, id, fmt.Sprintf("crew-%02d-%06d", k, i), batch)
			}
		})
	}
	wg.Wait()
	b.StopTimer()
	b.ReportMetric(float64(crewsAtOnce*each*batch)/time.Since(began).Seconds(), "entries/s")
	for _, id := range ids {
		if n := lengthOf(office, id); n != each*batch {
			b.Errorf("%d entries, %d sent", n, each*batch)
		}
	}
}

// emptyJob makes a job with one point.
func emptyJob(t testing.TB, office *client) string {
	t.Helper()
	status, body := office.do("POST", "/api/jobs", "application/json", `{"rulebook":"nec:2023","points":1,"site":{}}`)
	var v struct{ Row struct{ ID string } }
	if err := json.Unmarshal(body, &v); status != 200 || err != nil {
		t.Fatal(status, err)
	}
	return v.Row.ID
}

func logNotes(b *testing.B, crew *client, id, name string, batch int) {
	var entries []map[string]any
	for n := range batch {
		entries = append(entries, map[string]any{"id": fmt.Sprintf("%s-%d", name, n), "kind": "note", "reason": "a note from site", "at": time.Now().UTC()})
	}
	body, _ := json.Marshal(map[string]any{"entries": entries})
	if status, answer := crew.do("POST", "/api/jobs/"+id+"/log", "application/json", string(body)); status != 200 {
		b.Errorf("%d %.200s", status, answer)
	}
}

func lengthOf(office *client, id string) int {
	var v struct {
		Job struct{ Log []struct{ ID string } }
	}
	office.get("/api/jobs/"+id, &v)
	return len(v.Job.Log)
}

// BenchmarkAppend: one entry a request onto a log that has some already.
func BenchmarkAppend(b *testing.B) {
	for _, n := range []int{0, 500, 1000, 2000} {
		b.Run(fmt.Sprintf("log=%d", n), func(b *testing.B) {
			srv := start(b, "demo", b.TempDir())
			id := emptyJob(b, signedIn(b, srv.base, "office"))
			crew := signedIn(b, srv.base, "installer")
			for k := 0; k < n; k += 500 {
				logNotes(b, crew, id, fmt.Sprintf("before-%06d", k), 500)
			}
			i := 0
			p95(b, func() {
				i++
				logNotes(b, crew, id, fmt.Sprintf("more-%06d", i), 1)
			})
		})
	}
}
