package people

import (
	"sync"
	"testing"

	"dogbolt/internal/testkit/resident"
)

// TestTenSignIns: ten people who sign in at once take the memory of one: 64 MiB by RFC 9106's
// second choice.
func TestTenSignIns(t *testing.T) {
	took, _ := resident.Of(t, func(string) {
		var all sync.WaitGroup
		for range 10 {
			all.Go(func() {
				if _, err := hashOf("seven bolts and a lid"); err != nil {
					t.Error(err)
				}
			})
		}
		all.Wait()
	}).Took("")
	if took > 200 {
		t.Errorf("%d MB", took)
	}
	t.Logf("%d MB", took)
}
