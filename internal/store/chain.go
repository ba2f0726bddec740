package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"strconv"
	"time"

	"gorm.io/gorm"

	"dogbolt/core/chain"
)

// Linked is one link of a job's chain.
type Linked struct {
	JobID    string `gorm:"primaryKey"`
	N        int64  `gorm:"primaryKey"`
	Prev     string
	Kind     string
	Ref      string
	Content  string
	Received time.Time
	Digest   string
}

// TableName is the table of links.
func (Linked) TableName() string { return "chain" }

func (l Linked) held() chain.Held {
	return chain.Held{Digest: l.Digest, Link: chain.Link{
		Job: l.JobID, N: l.N, Prev: l.Prev, Kind: chain.Kind(l.Kind), Ref: l.Ref, Content: l.Content, Received: l.Received.UTC(),
	}}
}

// Head returns the head of a job's chain, as this transaction sees it.
func (t *Tx) Head(jobID string) (chain.Head, error) { return headOf(t.db, jobID) }

// Head returns the head of a job's chain, and the number of its newest sealed issue, 0 for none.
func (s *Store) Head(ctx context.Context, jobID string) (head chain.Head, lastIssue int, err error) {
	db := s.read.WithContext(ctx)
	if head, err = headOf(db, jobID); err == nil {
		lastIssue, err = lastIssueOf(db, jobID)
	}
	return head, lastIssue, err
}

func headOf(db *gorm.DB, jobID string) (chain.Head, error) {
	var h chain.Head
	err := db.Raw("SELECT n, digest FROM chain WHERE job_id = ? ORDER BY n DESC LIMIT 1", jobID).Row().Scan(&h.N, &h.Digest)
	if errors.Is(err, sql.ErrNoRows) {
		err = nil
	}
	return h, err
}

// link adds to a job's chain.
func link(db *gorm.DB, jobID string, kind chain.Kind, ref string, content []byte, received time.Time) error {
	head, err := headOf(db, jobID)
	if err != nil {
		return err
	}
	l := Linked{
		JobID: jobID, N: head.N + 1, Prev: head.Digest, Kind: string(kind), Ref: ref, Content: chain.Content(content),
		Received: received.UTC().Truncate(time.Millisecond),
	}
	if l.Digest, err = l.held().Link.Digest(); err != nil {
		return err
	}
	return db.Exec("INSERT INTO chain (job_id, n, prev, kind, ref, content, received, digest) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
		l.JobID, l.N, l.Prev, l.Kind, l.Ref, l.Content, l.Received, l.Digest).Error
}

// recordContent is what of a record its link holds: the sealed file, which names the rest by
// its digest, and the papers that were printed from it.
func recordContent(r *Record) []byte {
	content := chain.Content(r.File) + chain.Content(r.Inspection) + chain.Content(r.Handover)
	if r.Certified { // older issues have none
		content += chain.Content(r.Certificate)
	}
	return []byte(content)
}

// linkAll makes the chains of what was there before there were chains.
func linkAll(db *gorm.DB) error {
	const atOnce = 500
	for after := int64(0); ; {
		var entries []Entry
		if err := db.Order("seq").Limit(atOnce).Find(&entries, "seq > ?", after).Error; err != nil {
			return err
		}
		for _, e := range entries {
			if err := link(db, e.JobID, chain.Entry, e.ID, e.Body, e.Received); err != nil {
				return err
			}
			after = e.Seq
		}
		if len(entries) < atOnce {
			break
		}
	}
	// Records have their papers with them: one at a time.
	var list []Record
	if err := db.Select("job_id", "issue").Order("sealed_at, issue").Find(&list).Error; err != nil {
		return err
	}
	for _, l := range list {
		var r Record
		if err := db.Take(&r, "job_id = ? AND issue = ?", l.JobID, l.Issue).Error; err != nil {
			return err
		}
		if err := link(db, r.JobID, chain.Record, strconv.Itoa(r.Issue), recordContent(&r), r.SealedAt); err != nil {
			return err
		}
	}
	return nil
}

// Heads returns the heads of all jobs, by their ids.
func (s *Store) Heads(ctx context.Context) (map[string]chain.Head, error) {
	var list []Linked
	err := s.read.WithContext(ctx).Raw(`SELECT c.job_id, c.n, c.digest FROM chain c JOIN (SELECT job_id, MAX(n) AS n FROM chain GROUP BY job_id) m
		ON m.job_id = c.job_id AND m.n = c.n`).Scan(&list).Error
	heads := make(map[string]chain.Head, len(list))
	for _, l := range list {
		heads[l.JobID] = chain.Head{N: l.N, Digest: l.Digest}
	}
	return heads, err
}

// LinkedTo returns the digest of a link of a job's chain; "" where there is none.
func (s *Store) LinkedTo(ctx context.Context, jobID string, n int64) (string, error) {
	var list []Linked
	err := s.read.WithContext(ctx).Select("digest").Find(&list, "job_id = ? AND n = ?", jobID, n).Error
	if err != nil || len(list) == 0 {
		return "", err
	}
	return list[0].Digest, nil
}

// CheckChain says what is wrong with the chain of a job.
func (s *Store) CheckChain(ctx context.Context, jobID string) ([]string, error) {
	var faults []string
	err := s.read.WithContext(ctx).Transaction(func(db *gorm.DB) error {
		var rows []Linked
		if err := db.Order("n").Find(&rows, "job_id = ?", jobID).Error; err != nil {
			return err
		}
		links := make([]chain.Held, len(rows))
		received := map[string]time.Time{}
		for i, r := range rows {
			links[i] = r.held()
			received[r.Ref] = r.Received.UTC()
		}
		there := map[chain.Name]string{}
		var entries []Entry
		if err := db.Find(&entries, "job_id = ?", jobID).Error; err != nil {
			return err
		}
		for _, e := range entries {
			there[chain.Name{Kind: chain.Entry, Ref: e.ID}] = chain.Content(e.Body)
			if at, ok := received[e.ID]; ok && !at.Equal(e.Received.UTC().Truncate(time.Millisecond)) {
				faults = append(faults, fmt.Sprintf("entry %s came at %s by the chain, and at %s by the log",
					e.ID, at.Format(time.RFC3339), e.Received.UTC().Format(time.RFC3339)))
			}
		}
		var records []Record
		if err := db.Find(&records, "job_id = ?", jobID).Error; err != nil {
			return err
		}
		for i := range records {
			there[chain.Name{Kind: chain.Record, Ref: strconv.Itoa(records[i].Issue)}] = chain.Content(recordContent(&records[i]))
		}
		faults = append(faults, chain.Check(links, there)...)
		return nil
	})
	return faults, err
}

// JobNames lists the ids of all jobs with their numbers.
func (s *Store) JobNames(ctx context.Context) (map[string]string, error) {
	var rows []Job
	if err := s.read.WithContext(ctx).Select("id", "number").Find(&rows).Error; err != nil {
		return nil, err
	}
	names := make(map[string]string, len(rows))
	for _, r := range rows {
		names[r.ID] = r.Number
	}
	return names, nil
}

// Unlinked lists the jobs of which something is in the chain, in the log or sealed, and that
// are not there themselves.
func (s *Store) Unlinked(ctx context.Context) ([]string, error) {
	var ids []string
	err := s.read.WithContext(ctx).Raw(`SELECT DISTINCT job_id FROM chain WHERE job_id NOT IN (SELECT id FROM jobs)`).Scan(&ids).Error
	return ids, err
}

// Integrity says what SQLite itself finds wrong with the file.
func (s *Store) Integrity(ctx context.Context) ([]string, error) {
	var said []string
	if err := s.read.WithContext(ctx).Raw("PRAGMA quick_check(20)").Scan(&said).Error; err != nil {
		return nil, err
	}
	if len(said) == 1 && said[0] == "ok" {
		return nil, nil
	}
	return said, nil
}

// FileFaults says which files of a job are gone or not as they were kept.
func (s *Store) FileFaults(ctx context.Context, jobID string) ([]string, error) {
	var faults []string
	var photos []Photo
	if err := s.read.WithContext(ctx).Find(&photos, "job_id = ?", jobID).Error; err != nil {
		return nil, err
	}
	for _, p := range photos {
		if _, err := s.take(p.Digest, picture); err != nil {
			faults = append(faults, "picture "+p.Digest[:8]+": "+err.Error())
		}
	}
	var files []File
	if err := s.read.WithContext(ctx).Find(&files, "job_id = ?", jobID).Error; err != nil {
		return nil, err
	}
	for _, f := range files {
		if _, err := s.take(f.Digest, asCame); err != nil {
			faults = append(faults, "file "+f.Name+": "+err.Error())
		}
	}
	return faults, nil
}
