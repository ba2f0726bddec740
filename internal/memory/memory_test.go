package memory

import (
	"context"
	"errors"
	"testing"
	"testing/synctest"
)

// TestTake: one file of an account at a time, so much for all; who waits stops with the request.
func TestTake(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		ctx := t.Context()
		got := make(chan string, 10)
		begin := func(ctx context.Context, account string, need int64) (end func()) {
			stop := make(chan struct{})
			go func() {
				give, err := Take(ctx, account, need)
				if err != nil {
					got <- account + ": " + err.Error()
					return
				}
				got <- account
				<-stop
				give()
			}()
			synctest.Wait()
			return func() { close(stop); synctest.Wait() }
		}
		is := func(want ...string) {
			t.Helper()
			for _, w := range want {
				select {
				case g := <-got:
					if g != w {
						t.Errorf("%q, want %q", g, w)
					}
				default:
					t.Errorf("nothing, want %q", w)
				}
			}
			select {
			case g := <-got:
				t.Errorf("%q too", g)
			default:
			}
		}
		first := begin(ctx, "ada", 10<<20)
		is("ada")
		second := begin(ctx, "ada", 10<<20) // waits for the first
		is()
		other := begin(ctx, "bea", 100<<20)
		is("bea")
		gone, cancel := context.WithCancel(ctx)
		begin(gone, "ada", 1)
		cancel()
		synctest.Wait()
		is("ada: " + context.Canceled.Error())
		big := begin(ctx, "cy", budget) // there is no room beside bea's
		is()
		first() // it is ada's turn again, but cy was here before
		is()
		other()
		is("cy")
		big()
		is("ada")
		second()
		is()
		if _, err := Take(ctx, "ada", budget+1); err == nil || errors.Is(err, context.Canceled) {
			t.Errorf("more than there is: %v", err)
		}
		if len(turns.of) != 0 {
			t.Errorf("%d turns are left", len(turns.of))
		}
	})
}
