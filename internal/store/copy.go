package store

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"gorm.io/driver/sqlite"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
)

// copyFormat names the form of a copy's manifest, and its version.
const copyFormat = "dogbolt.copy/1"

// Manifest says what a copy of the database is whole with. It lies beside the copy.
type Manifest struct {
	Format  string   `json:"format"`
	Digest  string   `json:"digest"` // SHA-256 of the database's file, hex
	Jobs    int64    `json:"jobs"`
	Entries int64    `json:"entries"`
	Records int64    `json:"records"`
	Files   []string `json:"files"` // pictures and files, by their digests and endings
}

// manifestOf is where the manifest of a copy is.
func manifestOf(file string) string { return file + ".manifest.json" }

// ErrNewer says that a newer version of the program wrote a database.
var ErrNewer = errors.New("a newer version of the program wrote this database: use that version")

// Backup writes a copy of the database, its pictures and a manifest, while the program runs.
// What is there under the name is whole: it was looked through before it got it.
func (s *Store) Backup(ctx context.Context, file string) (err error) {
	part := file + ".part"
	if err := dropCopy(part); err != nil { // of one that was interrupted
		return fmt.Errorf("backup: %w", err)
	}
	defer func() {
		if err != nil {
			err = errors.Join(fmt.Errorf("backup: %w", err), dropCopy(part))
		}
	}()
	source, pool, err := connect(s.path, "", 1) // nobody waits for a copy
	if err != nil {
		return err
	}
	if err := errors.Join(source.WithContext(ctx).Exec("VACUUM INTO ?", part).Error, pool.Close()); err != nil {
		return err
	}
	if err := copyPhotos(s.path, part); err != nil {
		return err
	}
	m, err := examine(ctx, part)
	if err != nil {
		return err
	}
	b, err := json.MarshalIndent(m, "", " ")
	if err != nil {
		return err
	}
	if err := os.WriteFile(manifestOf(part), append(b, '\n'), 0o600); err != nil {
		return err
	}
	return place(part, file)
}

// Restore puts a copy in place of a database that is not there. The copy is only read; what
// is not whole, or not of this program, is refused, and nothing is left behind.
func Restore(ctx context.Context, copied, database string) (m Manifest, err error) {
	want, err := readManifest(copied)
	if err != nil {
		return m, fmt.Errorf("restore: %w", err)
	}
	part := database + ".part"
	if err := dropCopy(part); err != nil {
		return m, fmt.Errorf("restore: %w", err)
	}
	defer func() {
		if err != nil {
			err = errors.Join(fmt.Errorf("restore: %w", err), dropCopy(part))
		}
	}()
	if info, err := os.Stat(copied + "-wal"); err == nil && info.Size() > 0 {
		return m, errors.New("a program wrote to the copy and has not ended: the file beside it, -wal, holds what is not in it")
	}
	if err := CopyFile(copied, part); err != nil {
		return m, err
	}
	if err := copyPhotos(copied, part); err != nil {
		return m, err
	}
	if m, err = examine(ctx, part); err != nil {
		return m, err
	}
	if want != nil && (want.Digest != m.Digest || !slices.Equal(want.Files, m.Files)) {
		return m, errors.New("the copy is not the one that its manifest is of")
	}
	return m, place(part, database)
}

// Source is where a database and its pictures are got back from.
type Source interface {
	Database(ctx context.Context, file string) error
	Picture(ctx context.Context, name, file string) error
}

// RestoreFrom gets a database that is not there back, with every picture and file that its jobs
// have. What is not whole is refused, and nothing is left behind.
func RestoreFrom(ctx context.Context, from Source, database string) (m Manifest, err error) {
	part := database + ".part"
	if err := dropCopy(part); err != nil {
		return m, fmt.Errorf("restore: %w", err)
	}
	defer func() {
		if err != nil {
			err = errors.Join(fmt.Errorf("restore: %w", err), dropCopy(part))
		}
	}()
	if err := from.Database(ctx, part); err != nil {
		return m, err
	}
	s, end, err := look(ctx, part)
	if err != nil {
		return m, err
	}
	names, err := s.named()
	if err := errors.Join(err, end()); err != nil {
		return m, err
	}
	for _, n := range names {
		if err := from.Picture(ctx, n, FileOf(part, n)); err != nil {
			return m, fmt.Errorf("a picture or file of a job is missing: %w", err)
		}
	}
	if m, err = examine(ctx, part); err != nil {
		return m, err
	}
	return m, place(part, database)
}

// readManifest returns the manifest of a copy; nil where an older program made the copy.
func readManifest(copied string) (*Manifest, error) {
	b, err := os.ReadFile(manifestOf(copied))
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	var m Manifest
	if err := json.Unmarshal(b, &m); err != nil || m.Format != copyFormat {
		return nil, errors.New("the copy's manifest cannot be read")
	}
	return &m, nil
}

// examine looks a copy through without writing to it: is it whole, and ours? Each picture and
// file that its jobs have must be beside it, as it was kept.
func examine(ctx context.Context, file string) (Manifest, error) {
	m := Manifest{Format: copyFormat, Files: []string{}}
	s, end, err := look(ctx, file)
	if err != nil {
		return m, err
	}
	defer end()
	db := s.read
	if err := known(db); err != nil {
		return m, err
	}
	for table, n := range map[string]*int64{"jobs": &m.Jobs, "entries": &m.Entries, "records": &m.Records} {
		if err := db.Table(table).Count(n).Error; err != nil {
			return m, fmt.Errorf("%w: %w", errNotOurs, err)
		}
	}
	if err := s.files(&m); err != nil {
		return m, err
	}
	m.Digest, err = digestOf(file)
	return m, err
}

// look opens a copy without writing to it, or beside it, and has SQLite look it through.
func look(ctx context.Context, file string) (s *Store, end func() error, err error) {
	address := url.URL{Scheme: "file", Path: filepath.ToSlash(file), OmitHost: true}
	db, err := gorm.Open(&sqlite.Dialector{DriverName: "sqlite", DSN: address.String() + "?mode=ro&immutable=1"}, &gorm.Config{Logger: logger.Discard})
	if err != nil {
		return nil, nil, fmt.Errorf("the copy is no whole database: %w", err)
	}
	sql, err := db.DB()
	if err != nil {
		return nil, nil, err
	}
	s = &Store{read: db.WithContext(ctx), path: file}
	if said, err := s.Integrity(ctx); err != nil || len(said) > 0 {
		return nil, nil, errors.Join(fmt.Errorf("the copy is no whole database: %w %s", errors.Join(err, errDamaged), strings.Join(said, "; ")), sql.Close())
	}
	return s, sql.Close, nil
}

// wholeFile reports why a database is not whole, or nil.
func wholeFile(file string) error {
	_, end, err := look(context.Background(), file)
	if err != nil {
		return err
	}
	return end()
}

var errDamaged = errors.New("damaged, or cut off")

// named lists the pictures and files that the jobs have, by their digests with their endings.
func (s *Store) named() ([]string, error) {
	names := []string{}
	for table, ending := range map[string]string{"photos": picture, "files": asCame} {
		var digests []string
		if err := s.read.Table(table).Distinct("digest").Pluck("digest", &digests).Error; err != nil {
			return nil, err
		}
		for _, d := range digests {
			names = append(names, d+ending)
		}
	}
	slices.Sort(names)
	return names, nil
}

// files lists the pictures and files of all jobs; the error names one that is missing.
func (s *Store) files(m *Manifest) (err error) {
	if m.Files, err = s.named(); err != nil {
		return err
	}
	for _, n := range m.Files {
		ending := filepath.Ext(n)
		if _, err := s.take(strings.TrimSuffix(n, ending), ending); err != nil {
			return fmt.Errorf("a picture or file of a job is missing: %w", err)
		}
	}
	return nil
}

// place gives a copy its name, the database last: where that is, all is.
func place(part, file string) error {
	for _, of := range []func(string) string{photoFolder, manifestOf, func(f string) string { return f }} {
		if err := os.Rename(of(part), of(file)); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return err
		}
	}
	return nil
}

// dropCopy removes a copy that is not whole.
func dropCopy(part string) error {
	err := os.RemoveAll(photoFolder(part))
	for _, f := range []string{manifestOf(part), part} {
		if e := os.Remove(f); e != nil && !errors.Is(e, fs.ErrNotExist) {
			err = errors.Join(err, e)
		}
	}
	return err
}

// CopyFile copies a file to where none is, for its owner alone, onto the disk.
func CopyFile(from, to string) error {
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.OpenFile(to, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	_, err = io.Copy(out, in)
	return errors.Join(err, out.Sync(), out.Close())
}

func digestOf(file string) (string, error) {
	f, err := os.Open(file)
	if err != nil {
		return "", err
	}
	defer f.Close()
	h := sha256.New()
	_, err = io.Copy(h, f)
	return hex.EncodeToString(h.Sum(nil)), err
}
