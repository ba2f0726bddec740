// Package memory shares out what files from outside take while they are read: pictures that
// are decoded, PDFs that are unpacked.
package memory

import (
	"context"
	"fmt"
	"runtime/debug"
	"sync"

	"golang.org/x/sync/semaphore"
)

// budget is the memory that all files together may take while they are read, bytes: a phone's
// picture of 50 million points takes half of it, and a file that takes more is refused. A
// small machine has 512 MB for the whole program.
const budget = 150 << 20

// room is what is left of the budget: who finds none waits.
var room = semaphore.NewWeighted(budget)

// turns are the accounts whose files are read, and how many wait: each account has one read
// at a time, so that nobody holds up everybody.
var turns = struct {
	sync.Mutex
	of map[string]*turn
}{of: map[string]*turn{}}

type turn struct {
	free chan struct{} // holds one where nobody reads
	want int
}

// Take waits for an account's turn and for the memory that a file takes, and returns how to
// give both back. It stops waiting with the context.
func Take(ctx context.Context, account string, need int64) (give func(), err error) {
	if need > budget {
		return nil, fmt.Errorf("the file takes %d MB of memory to read, and %d are given to it: save it smaller", need>>20, budget>>20)
	}
	end, err := take(ctx, account)
	if err != nil {
		return nil, err
	}
	if err := room.Acquire(ctx, need); err != nil {
		end()
		return nil, err
	}
	return func() {
		if room.Release(need); need > budget/8 {
			debug.FreeOSMemory() // at once: the next file may be as large
		}
		end()
	}, nil
}

// take waits for an account's turn.
func take(ctx context.Context, account string) (end func(), err error) {
	turns.Lock()
	t := turns.of[account]
	if t == nil {
		t = &turn{free: make(chan struct{}, 1)}
		t.free <- struct{}{}
		turns.of[account] = t
	}
	t.want++
	turns.Unlock()
	leave := func() {
		turns.Lock()
		defer turns.Unlock()
		if t.want--; t.want == 0 {
			delete(turns.of, account)
		}
	}
	select {
	case <-t.free:
		return func() { t.free <- struct{}{}; leave() }, nil
	case <-ctx.Done():
		leave()
		return nil, ctx.Err()
	}
}
