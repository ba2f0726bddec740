//go:build unix

package main

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"syscall"
)

// alone holds a folder for one server: two would not know of each other's jobs in use. What
// holds it ends with the process, however that ends.
func alone(data string) (release func() error, err error) {
	f, err := os.OpenFile(filepath.Join(data, "server.lock"), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, err
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		return nil, errors.Join(fmt.Errorf("another server runs on %s: stop it first", data), f.Close())
	}
	return f.Close, nil
}
