package ruletest

import (
	"sync"
	"testing"
	"time"

	"dogbolt/core/record"
	"dogbolt/internal/keyring"
)

var key = sync.OnceValues(func() (record.Key, error) { return keyring.New("Quill and Beacon Electrical", time.Now()) })

// Key is a key to seal with, the same in all tests of a package.
func Key(t testing.TB) record.Key {
	t.Helper()
	k, err := key()
	if err != nil {
		t.Fatal(err)
	}
	return k
}
