package people

import (
	"sync"
	"testing"

	"dogbolt/internal/testkit/resident"
)

// TestTenSignIns: ten people who sign in at once take the memory of one: 64 MiB by RFC 9106's
// second choice.
func TestTenSignIns(t *testing.T) {
	hash, err := hashOf("seven bolts and a lid")
	if err != nil {
		t.Fatal(err)
	}
	took, _ := resident.Took(t, "", func(string) {
		var all sync.WaitGroup
		for range 10 {
			all.Go(func() { matches("another one", hash) })
		}
		all.Wait()
	})
	if took > 150 {
		t.Errorf("%d MB", took)
	}
	t.Logf("%d MB", took)
}
