package main

import (
	"errors"
	"fmt"
	"io/fs"
	"os"

	"dogbolt/internal/store"
)

// openData opens the database of a folder, which is made where it is not there. Both are
// the program's own from then on: nobody else on the machine reads them, whoever made
// them and whatever they were open for.
func openData(data string) (*store.Store, error) {
	if err := ownFolder(data); err != nil {
		return nil, err
	}
	s, err := store.Open(databasePath(data))
	if err != nil {
		return nil, err
	}
	for _, of := range []string{"", "-wal", "-shm"} {
		if err := os.Chmod(databasePath(data)+of, 0o600); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return nil, errors.Join(err, s.Close())
		}
	}
	return s, nil
}

// ownFolder makes a folder the program's own, and what is made from now on too.
func ownFolder(folder string) error {
	onlyOwner()
	err := os.MkdirAll(folder, 0o700)
	if err == nil {
		err = os.Chmod(folder, 0o700)
	}
	if err != nil {
		return fmt.Errorf("the data folder must belong to who runs the program: %w", err)
	}
	return nil
}
