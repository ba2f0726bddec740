package store

import (
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"time"

	"dogbolt/core/chain"
)

// Photo is a picture of a job. Its bytes are a file beside the database, named
// by their digest, so that the same picture is kept once.
type Photo struct {
	JobID  string `gorm:"primaryKey"`
	Digest string `gorm:"primaryKey"`
	Width  int
	Height int
	Bytes  int
	By     string
	At     time.Time
	Source string `gorm:"not null;default:''"` // SHA-256 of the file as the device took it
	Job    *Job   `gorm:"constraint:OnDelete:RESTRICT"`
}

// Endings of the files beside a database: pictures, and what came as a file.
const (
	picture = ".jpg"
	asCame  = ".file"
)

// kept returns where a file is, beside a database.
func kept(database, digest, ending string) string {
	return FileOf(database, digest+ending)
}

// FileOf returns where a picture or file is beside a database, by its digest with its ending.
func FileOf(database, name string) string {
	return filepath.Join(photoFolder(database), name[:2], name)
}

// FilesOf lists the pictures and files beside a database, by their digests with their endings.
func FilesOf(database string) ([]string, error) {
	files, err := filepath.Glob(filepath.Join(photoFolder(database), "??", strings.Repeat("?", 2*sha256.Size)+".*"))
	for i := range files {
		files[i] = filepath.Base(files[i])
	}
	return files, err
}

func photoFolder(database string) string { return database + ".photos" }

// PutPhoto writes the file of a picture, whole or not at all.
func (s *Store) PutPhoto(digest string, data []byte) error { return s.put(digest, picture, data) }

// PutFile writes a file as it came, whole or not at all.
func (s *Store) PutFile(digest string, data []byte) error { return s.put(digest, asCame, data) }

func (s *Store) put(digest, ending string, data []byte) error {
	path := kept(s.path, digest, ending)
	if _, err := s.take(digest, ending); err == nil {
		return nil // the same bytes are there already
	}
	if err := os.MkdirAll(filepath.Dir(path), 0o700); err != nil {
		return err
	}
	f, err := os.CreateTemp(filepath.Dir(path), "incoming-*")
	if err != nil {
		return err
	}
	defer os.Remove(f.Name()) // gone already where all went well
	_, err = f.Write(data)
	if err = errors.Join(err, f.Sync(), f.Close()); err != nil {
		return fmt.Errorf("write the picture: %w", err)
	}
	if err := os.Rename(f.Name(), path); err != nil {
		return err
	}
	if s.OnFile != nil {
		s.OnFile(digest + ending)
	}
	return nil
}

// partsKept is how long pieces of a picture wait for the rest. Common practice, no source.
const partsKept = 30 * 24 * time.Hour

// part is where the pieces of a picture wait for the rest. Each person's are their own.
func (s *Store) part(jobID, personID, digest string) string {
	return filepath.Join(photoFolder(s.path), "parts", url.PathEscape(jobID+" "+personID)+" "+digest)
}

// PartSize is how much of a picture waits for the rest, bytes.
func (s *Store) PartSize(jobID, personID, digest string) (int64, error) {
	info, err := os.Stat(s.part(jobID, personID, digest))
	if errors.Is(err, fs.ErrNotExist) {
		return 0, nil
	}
	if err != nil {
		return 0, err
	}
	return info.Size(), nil
}

// AddPart adds a piece that begins at from, and returns how much there is then, bytes. A
// piece that another request was quicker to add is not added again.
func (s *Store) AddPart(jobID, personID, digest string, from int64, piece []byte) (int64, error) {
	s.parts.Lock()
	defer s.parts.Unlock()
	have, err := s.PartSize(jobID, personID, digest)
	if err != nil || have != from {
		return have, err
	}
	path := s.part(jobID, personID, digest)
	if err := os.MkdirAll(filepath.Dir(path), 0o700); err != nil {
		return 0, err
	}
	f, err := os.OpenFile(path, os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o600)
	if err != nil {
		return 0, err
	}
	_, err = f.Write(piece)
	if err = errors.Join(err, f.Sync(), f.Close()); err != nil {
		return 0, fmt.Errorf("write a piece of a picture: %w", err)
	}
	return from + int64(len(piece)), nil
}

// Part returns what the pieces make that have come.
func (s *Store) Part(jobID, personID, digest string) ([]byte, error) {
	b, err := os.ReadFile(s.part(jobID, personID, digest))
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	return b, err
}

// DropPart forgets the pieces of a picture.
func (s *Store) DropPart(jobID, personID, digest string) error {
	err := os.Remove(s.part(jobID, personID, digest))
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	return err
}

// DropParts forgets pieces whose rest did not come in a month.
func (s *Store) DropParts(now time.Time) error {
	folder := filepath.Join(photoFolder(s.path), "parts")
	list, err := os.ReadDir(folder)
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	for _, e := range list {
		if info, e2 := e.Info(); e2 == nil && now.Sub(info.ModTime()) > partsKept {
			err = errors.Join(err, os.Remove(filepath.Join(folder, e.Name())))
		}
	}
	return err
}

// HasPhoto reports whether a job has a picture, by its digest or by that of the file as
// the device took it.
func (s *Store) HasPhoto(ctx context.Context, jobID, digest string) (bool, error) {
	var n int64
	err := s.read.WithContext(ctx).Model(&Photo{}).Where("job_id = ? AND (digest = ? OR source = ?)", jobID, digest, digest).Count(&n).Error
	return n > 0, err
}

// AddPhoto notes that a picture belongs to a job; doing it again is nothing.
func (t *Tx) AddPhoto(p Photo) error {
	source := p.Source
	if err := t.db.Where(Photo{JobID: p.JobID, Digest: p.Digest}).FirstOrCreate(&p).Error; err != nil || p.Source == source {
		return err
	}
	return t.db.Model(&p).Update("source", source).Error
}

// Photo returns the bytes of a job's picture, by its digest or by that of the file
// as the device took it. ErrNotFound where the job has none of that digest.
func (s *Store) Photo(ctx context.Context, jobID, digest string) ([]byte, error) {
	var p Photo
	if err := s.read.WithContext(ctx).Take(&p, "job_id = ? AND (digest = ? OR source = ?)", jobID, digest, digest).Error; err != nil {
		return nil, notFound(err)
	}
	return s.take(p.Digest, picture)
}

func (s *Store) take(digest, ending string) ([]byte, error) {
	b, err := os.ReadFile(kept(s.path, digest, ending))
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return nil, fmt.Errorf("the file %s is gone: %w", digest[:8], ErrNotFound)
	case err == nil && chain.Content(b) != digest:
		return nil, fmt.Errorf("%w: the file %s", ErrReplaced, digest[:8])
	}
	return b, err
}

// Missing lists those of the digests that are no pictures of the job.
func (t *Tx) Missing(jobID string, digests []string) ([]string, error) {
	var have []Photo
	if err := t.db.Where("job_id = ? AND (digest IN ? OR source IN ?)", jobID, digests, digests).Find(&have).Error; err != nil {
		return nil, err
	}
	there := map[string]bool{}
	for _, p := range have {
		there[p.Digest], there[p.Source] = true, true
	}
	var out []string
	for _, d := range digests {
		if !there[d] {
			out = append(out, d)
		}
	}
	return out, nil
}

// copyPhotos copies the pictures of one database to stand beside another.
func copyPhotos(from, to string) error {
	source := photoFolder(from)
	if _, err := os.Stat(source); errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	return os.CopyFS(photoFolder(to), os.DirFS(source))
}
