//go:build e2e

package e2e

import (
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"
)

// TestDisaster: twenty crews log while a replica is kept; at some moment the machine is gone
// with its folder. What was acknowledged more than two seconds before is in the replica, the
// restored server goes on, and its doctor finds nothing.
func TestDisaster(t *testing.T) {
	const crews = 20
	data, replica := t.TempDir(), filepath.Join(t.TempDir(), "replica")
	srv := start(t, "demo", data, "--replica", replica)
	office := signedIn(t, srv.base, "office")
	ids := make([]string, crews)
	for k := range ids {
		ids[k] = emptyJob(t, office)
	}
	crew := signedIn(t, srv.base, "installer")
	crew.http.Transport = &http.Transport{MaxIdleConnsPerHost: crews}
	var mu sync.Mutex
	acknowledged := map[string]time.Time{}
	var wait sync.WaitGroup
	for k, id := range ids {
		wait.Go(func() {
			for n := 0; ; n++ {
				entry := fmt.Sprintf("crew-%02d-%06d", k, n)
				body := fmt.Sprintf(`{"entries":[{"id":%q,"kind":"note","reason":"on site","at":%q}]}`, entry, time.Now().UTC().Format(time.RFC3339Nano))
				res, err := crew.http.Post(srv.base+"/api/jobs/"+id+"/log", "application/json", strings.NewReader(body))
				if err != nil {
					return // the machine is gone
				}
				_, err = io.Copy(io.Discard, res.Body)
				res.Body.Close()
				if err != nil || res.StatusCode != 200 {
					return
				}
				mu.Lock()
				acknowledged[entry] = time.Now()
				mu.Unlock()
			}
		})
	}
	time.Sleep(4*time.Second + rand.N(2*time.Second))
	gone := time.Now()
	if err := srv.cmd.Process.Signal(syscall.SIGKILL); err != nil {
		t.Fatal(err)
	}
	wait.Wait()
	srv.cmd.Wait()
	if err := os.RemoveAll(data); err != nil {
		t.Fatal(err)
	}

	elsewhere := filepath.Join(t.TempDir(), "data")
	if said, err := exec.Command(binary, "restore", "--replica", replica, "--data", elsewhere).CombinedOutput(); err != nil {
		t.Fatalf("%v\n%s", err, said)
	}
	again := start(t, "serve", elsewhere, "--replica", filepath.Join(t.TempDir(), "next"))
	office = signedIn(t, again.base, "office")
	there := map[string]bool{}
	for _, id := range ids {
		var v struct {
			Job struct{ Log []struct{ ID string } }
		}
		office.get("/api/jobs/"+id, &v)
		for _, e := range v.Job.Log {
			there[e.ID] = true
		}
	}
	must, missing, last := 0, 0, time.Duration(0)
	for id, at := range acknowledged {
		old := gone.Sub(at)
		if old > 2*time.Second {
			must++
		}
		switch {
		case there[id]:
		case old > 2*time.Second:
			t.Errorf("%s, acknowledged %s before, is missing", id, old)
		default:
			missing, last = missing+1, max(last, old)
		}
	}
	if must < 50 { // there was a load; how large is the machine's matter
		t.Errorf("only %d entries were acknowledged more than two seconds before", must)
	}
	t.Logf("%d acknowledged, %d of them in the last two seconds; %d of those are missing, the oldest %s before the end", len(acknowledged), len(acknowledged)-must, missing, last)
	for began := time.Now(); ; time.Sleep(100 * time.Millisecond) {
		res, err := http.Get(again.base + "/healthz")
		if err != nil {
			t.Fatal(err)
		}
		b, _ := io.ReadAll(res.Body)
		res.Body.Close()
		if said := string(b); strings.Contains(said, ": 0 faults") && strings.Contains(said, "replica: 0 s behind, 0 pictures") {
			break
		} else if time.Since(began) > 30*time.Second {
			t.Fatalf("%d %s", res.StatusCode, said)
		}
	}
}
