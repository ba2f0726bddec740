package people

import (
	"fmt"
	"sync"
	"time"
)

// Guarding of sign-in: after so many failures a wait, twice as long with each one more.
// Common practice, no source for the figures (OWASP ASVS 4.0.3, 2.2.1 asks for at most 100
// failures an hour on one account: 5 free and waits up to 15 min leave 17 in the first hour).
const (
	freeOfAccount = 5
	freeOfAddress = 20 // several people share one
	firstWait     = time.Second
	longestWait   = 15 * time.Minute
	forgiven      = 24 * time.Hour // after the last failure
	mostCounted   = 10_000         // names that are made up fill no memory
)

// WaitError says that too many sign-ins failed, and how long the next waits.
type WaitError struct{ For time.Duration }

func (e WaitError) Error() string {
	return fmt.Sprintf("too many sign-ins failed; wait %s and try again, or have the office send a new link", e.For.Round(time.Second))
}

// guard counts failures by account and by address. It forgets when the program ends: whoever
// can restart it needs no password.
type guard struct {
	mu    sync.Mutex
	tries map[string]*tries
}

type tries struct {
	failed int
	last   time.Time
	until  time.Time
}

// wait returns how long none of the keys may try, 0 for now.
func (g *guard) wait(now time.Time, keys ...string) time.Duration {
	g.mu.Lock()
	defer g.mu.Unlock()
	var longest time.Duration
	for _, k := range keys {
		if t := g.tries[k]; t != nil {
			longest = max(longest, t.until.Sub(now))
		}
	}
	return longest
}

// failed counts a failure, of which so many are free.
func (g *guard) failed(now time.Time, key string, free int) {
	g.mu.Lock()
	defer g.mu.Unlock()
	if g.tries == nil {
		g.tries = map[string]*tries{}
	}
	for k, t := range g.tries {
		if now.Sub(t.last) > forgiven || len(g.tries) > mostCounted && now.After(t.until) {
			delete(g.tries, k)
		}
	}
	t := g.tries[key]
	if t == nil {
		t = &tries{}
		g.tries[key] = t
	}
	t.failed++
	t.last = now
	if over := t.failed - free; over >= 0 {
		t.until = now.Add(min(longestWait, firstWait<<min(over, 20)))
	}
}

// succeeded forgets the failures of an account.
func (g *guard) succeeded(key string) {
	g.mu.Lock()
	defer g.mu.Unlock()
	delete(g.tries, key)
}
