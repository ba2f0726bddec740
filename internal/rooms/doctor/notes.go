package doctor

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"time"

	"dogbolt/core/chain"
	"dogbolt/core/clearance"
	"dogbolt/core/record"
)

// noteEvery is how often the heads of the chains are noted, where there are new ones. Common
// practice, no source: what was forged within it, before its head was noted, is not found by
// the notes.
const noteEvery = 10 * time.Minute

// notesFormat names the format of a note and its version.
const notesFormat = "dogbolt.heads/1"

// Keys are the firm's: the one that it seals with, and whether another is or was its own.
type Keys interface {
	PublicKey(ctx context.Context) (key, fingerprint string, err error)
	SealingKey(ctx context.Context) (record.Key, error)
	Known(ctx context.Context, public string) (bool, error)
}

// heads is one note: the heads that are new since the note before, which it names.
type heads struct {
	Format string                `json:"format"`
	N      int                   `json:"n"`
	At     time.Time             `json:"at"`
	Prev   string                `json:"prev"` // SHA-256 of the note before
	Jobs   map[string]chain.Head `json:"jobs"`
}

// note is a note as it stands in its file, in canonical form.
type note struct {
	Heads heads       `json:"heads"`
	Seal  record.Seal `json:"seal"`
}

// read returns the notes in order, and what is wrong with them.
func (svc *Service) read(ctx context.Context) (last heads, digest string, all map[string]chain.Head, faults []string, err error) {
	all, keys := map[string]chain.Head{}, map[string]bool{}
	files, err := filepath.Glob(filepath.Join(svc.Notes, "heads-*.json"))
	if err != nil {
		return last, "", nil, nil, err
	}
	slices.Sort(files)
	for _, file := range files {
		b, err := os.ReadFile(file)
		if err != nil {
			return last, "", nil, nil, err
		}
		name := filepath.Base(file)
		var h note
		if err := json.Unmarshal(b, &h); err != nil {
			faults = append(faults, name+" cannot be read: "+err.Error())
			continue
		}
		body, err := record.Canonical(h.Heads)
		if err != nil {
			return last, "", nil, nil, err
		}
		ours, asked := keys[h.Seal.Key]
		if !asked {
			if ours, err = svc.keys.Known(ctx, h.Seal.Key); err != nil {
				return last, "", nil, nil, err
			}
			keys[h.Seal.Key] = ours
		}
		switch {
		case h.Seal.Check(body) != nil:
			faults = append(faults, name+" is not as it was signed")
		case !ours:
			faults = append(faults, name+" is signed with a key that is not the firm's")
		case h.Heads.Prev != digest || h.Heads.N != last.N+1:
			faults = append(faults, name+" does not follow from the note before it: one is gone")
		}
		for id, head := range h.Heads.Jobs {
			all[id] = head
		}
		last, digest = h.Heads, chain.Content(b)
	}
	return last, digest, all, faults, nil
}

// Note writes the heads that are new since the last note; nothing where there is none.
func (svc *Service) Note(ctx context.Context) error {
	if svc.Notes == "" {
		return nil
	}
	if public, _, err := svc.keys.PublicKey(ctx); err != nil || public == "" {
		return err // no name, no key, nothing to sign with yet
	}
	svc.noting.Lock()
	defer svc.noting.Unlock()
	if svc.known == nil { // read once: from then on what was noted is known
		last, digest, known, _, err := svc.read(ctx)
		if err != nil {
			return err
		}
		svc.lastN, svc.lastDigest, svc.known = last.N, digest, known
	}
	list, err := svc.store.Heads(ctx)
	if err != nil {
		return err
	}
	n := note{Heads: heads{Format: notesFormat, N: svc.lastN + 1, At: svc.now(), Prev: svc.lastDigest, Jobs: map[string]chain.Head{}}}
	for id, h := range list {
		if was, ok := svc.known[id]; !ok || was.N < h.N {
			n.Heads.Jobs[id] = h
		}
	}
	if len(n.Heads.Jobs) == 0 {
		return nil
	}
	signed, err := record.Canonical(n.Heads)
	if err != nil {
		return err
	}
	key, err := svc.keys.SealingKey(ctx)
	if err != nil {
		return err
	}
	if n.Seal, err = key.SealBytes(signed); err != nil {
		return err
	}
	b, err := record.Canonical(n)
	if err != nil {
		return err
	}
	if err := os.MkdirAll(svc.Notes, 0o700); err != nil {
		return err
	}
	name := fmt.Sprintf("heads-%06d.json", n.Heads.N)
	if err := writeNew(filepath.Join(svc.Notes, name), b); err != nil {
		svc.known = nil // somebody else noted too: read what is there
		return err
	}
	svc.lastN, svc.lastDigest = n.Heads.N, chain.Content(b)
	for id, h := range n.Heads.Jobs {
		svc.known[id] = h
	}
	if svc.Mail == nil || svc.MailTo == "" {
		return nil
	}
	const body = "The heads of all logs as they are now, signed. Keep the file: gathered in one folder, the doctor compares them with the\n" +
		"database (dogbolt doctor --heads FOLDER), and finds logs that were made anew.\n"
	return svc.Mail.Send(clearance.Message{
		ID: strings.TrimSuffix(name, ".json"), From: "dogbolt@localhost", To: svc.MailTo, Subject: "Heads of the logs, " + strconv.Itoa(n.Heads.N),
		Date: n.Heads.At, Body: body, Files: []clearance.Attached{{Name: name, Type: "application/json", Data: b}},
	})
}

// writeNew writes a file that is not there yet, whole or not at all.
func writeNew(path string, b []byte) error {
	if _, err := os.Stat(path); !errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("%s is there already", filepath.Base(path))
	}
	if err := os.WriteFile(path+".part", b, 0o600); err != nil {
		return err
	}
	return os.Rename(path+".part", path)
}

// noted says what stands in the notes and not in the database.
func (svc *Service) noted(ctx context.Context, names map[string]string) ([]Damage, error) {
	if svc.Notes == "" {
		return nil, nil
	}
	if public, _, err := svc.keys.PublicKey(ctx); err != nil || public == "" {
		if there, _ := filepath.Glob(filepath.Join(svc.Notes, "heads-*.json")); err == nil && len(there) > 0 {
			return []Damage{{What: "the sealing key is gone: the notes of the heads cannot be checked"}}, nil
		}
		return nil, err
	}
	_, _, all, said, err := svc.read(ctx)
	if err != nil {
		return nil, err
	}
	var faults []Damage
	for _, s := range said {
		faults = append(faults, Damage{What: "notes of the heads: " + s})
	}
	for id, head := range all {
		digest, err := svc.store.LinkedTo(ctx, id, head.N)
		switch {
		case err != nil:
			return nil, err
		case digest == "":
			faults = append(faults, Damage{id, names[id], fmt.Sprintf("its chain had %d links when it was noted, and has fewer now", head.N)})
		case digest != head.Digest:
			faults = append(faults, Damage{id, names[id], fmt.Sprintf("link %d of its chain is not the one that was noted: the chain was made anew", head.N)})
		}
	}
	return faults, nil
}
