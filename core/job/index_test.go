package job_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"dogbolt/core/job"
)

// TestIndex: with an index a log answers as without one, however it grew: entries in the same
// array or a new one, replaced before and after, by themselves, twice under one id, taken back before and after, imported.
func TestIndex(t *testing.T) {
	kinds := []job.EntryKind{job.StepDone, job.ReadingMade, job.SignedOff, job.Overridden, job.TakenBack}
	for seed := range uint64(200) {
		r := rand.New(rand.NewPCG(seed, 1))
		var j job.Job
		for range r.IntN(60) {
			e := job.Entry{ID: fmt.Sprint("e", r.IntN(40)), Kind: kinds[r.IntN(5)], Point: string(rune('A' + r.IntN(2))), Subject: fmt.Sprint(r.IntN(3))}
			if r.IntN(8) == 0 {
				e.Kind, e.Subject = job.StepDone, job.SwitchedOn
			}
			if r.IntN(3) == 0 {
				e.Replaces = fmt.Sprint("e", r.IntN(40))
			}
			if r.IntN(4) == 0 {
				e.Imported = &job.Import{}
			}
			switch r.IntN(5) {
			case 0: // in the middle: another array
				at := r.IntN(len(j.Log) + 1)
				j.Log = slices.Insert(slices.Clone(j.Log), at, e)
			default:
				j.Log = append(j.Log, e)
			}
			if r.IntN(2) == 0 {
				j.Index()
			}
			plain := j.Unindexed()
			indexed := j
			indexed.Index()
			for _, k := range kinds {
				for _, p := range []string{"A", "B", ""} {
					for s := range 4 {
						a, okA := plain.Latest(k, p, fmt.Sprint(s))
						b, okB := indexed.Latest(k, p, fmt.Sprint(s))
						if okA != okB || a.ID != b.ID || a.Replaces != b.Replaces || a.Imported != b.Imported {
							t.Fatalf("seed %d, %d entries, %s %s %d: %+v %t, with an index %+v %t", seed, len(j.Log), k, p, s, a, okA, b, okB)
						}
					}
				}
			}
			for i := range 41 {
				id := fmt.Sprint("e", i)
				if a, b := plain.Place(id), indexed.Place(id); a != b {
					t.Fatalf("seed %d, %s at %d, with an index at %d", seed, id, a, b)
				}
			}
			for range 4 {
				some := slices.Clone(kinds)
				r.Shuffle(len(some), func(a, b int) { some[a], some[b] = some[b], some[a] })
				some = some[:r.IntN(len(some)+1)]
				var want []int32
				for i, e := range j.Log {
					gone := e.MayGo() && slices.ContainsFunc(j.Log, func(o job.Entry) bool { return o.Kind == job.TakenBack && o.Replaces == e.ID })
					if plain.Gone(&e) != gone || indexed.Gone(&e) != gone {
						t.Fatalf("seed %d, entry %d: taken back %t, with an index %t, should be %t", seed, i, plain.Gone(&e), indexed.Gone(&e), gone)
					}
					if slices.Contains(some, e.Kind) && !gone {
						want = append(want, int32(i))
					}
				}
				if a, b := plain.Places(some...), indexed.Places(some...); !slices.Equal(a, want) || !slices.Equal(b, want) {
					t.Fatalf("seed %d, %v at %v, with an index at %v, should be %v", seed, some, a, b, want)
				}
				n := 0
				for i, e := range indexed.Of(some...) {
					if i != int(want[n]) || e != &j.Log[i] {
						t.Fatalf("seed %d, %v: entry %d at %d, should be at %d", seed, some, n, i, want[n])
					}
					if n++; n == 3 {
						break
					}
				}
				if len(some) == 1 && indexed.Has(some[0]) != (len(want) > 0) {
					t.Fatalf("seed %d: has %v", seed, some)
				}
			}
			// A part of the log, and a part with more behind it, are other logs.
			if n := len(j.Log); n > 1 {
				part := indexed
				part.Log = part.Log[:n-1]
				bare := part.Unindexed()
				a, okA := bare.Latest(kinds[0], "A", "1")
				if b, okB := part.Latest(kinds[0], "A", "1"); okA != okB || a.ID != b.ID {
					t.Fatalf("seed %d: a part of the log answers by the whole", seed)
				}
			}
		}
	}
}
