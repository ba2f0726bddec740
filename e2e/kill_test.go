//go:build e2e

package e2e

import (
	"fmt"
	"net/http"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"
)

// TestKilledWhileCrewsLog: twenty crews log at once, the server is killed without
// warning in the middle and started again on the same data; every crew sends
// again what was not answered, and a little of what was. Nothing is lost, nothing
// is doubled.
func TestKilledWhileCrewsLog(t *testing.T) {
	const crews, batches, each = 20, 30, 5
	data := t.TempDir()
	srv := start(t, "demo", data)
	office := signedIn(t, srv.base, "office")
	ids := make([]string, crews)
	for k := range ids {
		ids[k] = emptyJob(t, office)
	}
	began := time.Now().UTC()
	body := func(k, n int) string {
		var entries []string
		for i := range each {
			at := began.Add(time.Duration(n*each+i) * time.Millisecond).Format(time.RFC3339Nano)
			entries = append(entries, fmt.Sprintf(`{"id":"crew-%02d-%03d-%d","kind":"note","reason":"batch %d","at":%q}`, k, n, i, n, at))
		}
		return `{"entries":[` + strings.Join(entries, ",") + `]}`
	}
	// post is client.do without a test's end where the server is gone.
	post := func(c *client, k, n int) bool {
		req, err := http.NewRequest("POST", c.base+"/api/jobs/"+ids[k]+"/entries", strings.NewReader(body(k, n)))
		if err != nil {
			return false
		}
		req.Header.Set("Content-Type", "application/json")
		res, err := c.http.Do(req)
		if err != nil {
			return false
		}
		defer res.Body.Close()
		return res.StatusCode == 200
	}
	crew := signedIn(t, srv.base, "installer")
	var answered [crews][batches]bool
	var sent atomic.Int64
	var wait sync.WaitGroup
	for k := range crews {
		wait.Go(func() {
			for n := range batches {
				if answered[k][n] = post(crew, k, n); !answered[k][n] {
					return // the server is gone
				}
				sent.Add(1)
			}
		})
	}
	for end := time.Now().Add(time.Minute); sent.Load() < crews*batches/3; time.Sleep(2 * time.Millisecond) {
		if time.Now().After(end) {
			t.Fatalf("only %d batches were taken", sent.Load())
		}
	}
	if err := srv.cmd.Process.Signal(syscall.SIGKILL); err != nil {
		t.Fatal(err)
	}
	wait.Wait()
	srv.cmd.Wait()
	if n := sent.Load(); n >= crews*batches {
		t.Fatalf("all %d batches were through before the server was killed", n)
	}

	again := start(t, "serve", data)
	crew = signedIn(t, again.base, "installer")
	for k := range crews {
		wait.Go(func() {
			for n := range batches {
				if answered[k][n] && n%4 != 0 {
					continue
				}
				if !post(crew, k, n) {
					t.Errorf("crew %d, batch %d is refused", k, n)
				}
			}
		})
	}
	wait.Wait()
	office = signedIn(t, again.base, "office")
	for k, id := range ids {
		var v struct {
			Job struct{ Log []struct{ ID string } }
		}
		office.get("/api/jobs/"+id, &v)
		seen := map[string]bool{}
		for _, e := range v.Job.Log {
			if seen[e.ID] {
				t.Errorf("%s is there twice", e.ID)
			}
			seen[e.ID] = true
		}
		if len(v.Job.Log) != batches*each {
			t.Errorf("crew %d: %d entries, %d sent", k, len(v.Job.Log), batches*each)
		}
	}
}
