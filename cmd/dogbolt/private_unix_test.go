//go:build unix

package main

import (
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"syscall"
	"testing"
)

// TestDataIsPrivate: whoever made the folder and whatever the umask is, nobody else on
// the machine reads the database, its journal, a copy or what was restored.
func TestDataIsPrivate(t *testing.T) {
	before := syscall.Umask(0)
	t.Cleanup(func() { syscall.Umask(before) })
	data, copied, back := t.TempDir(), filepath.Join(t.TempDir(), "copy.db"), filepath.Join(t.TempDir(), "back")
	for _, folder := range []string{data, back} {
		if err := errors.Join(os.MkdirAll(folder, 0o777), os.Chmod(folder, 0o777)); err != nil {
			t.Fatal(err)
		}
	}
	if err := os.WriteFile(databasePath(data), nil, 0o666); err != nil {
		t.Fatal(err)
	}
	s, err := openData(data)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	if out, code := run(t, backupCommand(), "--data", data, copied); code != 0 {
		t.Fatal(out)
	}
	if out, code := run(t, restoreCommand(), "--data", back, copied); code != 0 {
		t.Fatal(out)
	}
	looked := 0
	for _, folder := range []string{data, filepath.Dir(copied), back} {
		err := filepath.WalkDir(folder, func(path string, d fs.DirEntry, err error) error {
			if err != nil || path == filepath.Dir(copied) {
				return err // the copy's folder is its owner's business
			}
			info, err := d.Info()
			if err != nil {
				return err
			}
			if looked++; info.Mode().Perm()&0o077 != 0 {
				t.Errorf("%s is open to others: %s", d.Name(), info.Mode())
			}
			return nil
		})
		if err != nil {
			t.Fatal(err)
		}
	}
	if looked < 7 {
		t.Errorf("%d files and folders looked at", looked)
	}
}
