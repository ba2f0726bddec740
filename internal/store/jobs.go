package store

import (
	"context"
	"database/sql"
	"dogbolt/core/chain"
	"errors"
	"fmt"
	"strconv"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Whole is a job with its sections and its log: of each entry its id and its body.
type Whole struct {
	Job      Job
	Sections []Section
	Entries  []Entry
}

// Job returns a job's row.
func (s *Store) Job(ctx context.Context, id string) (Job, error) {
	var j Job
	// Field by field, which is quicker: it is read with every request about a job.
	err := s.read.WithContext(ctx).Raw(`SELECT id, number, rulebook, customer, address, town, stage, next_date, next_what, stops, watches, opens,
		blocker, sealed, amends, reason, created, updated, words, revision FROM jobs WHERE id = ?`, id).Row().Scan(
		&j.ID, &j.Number, &j.Rulebook, &j.Customer, &j.Address, &j.Town, &j.Stage, &j.NextDate, &j.NextWhat, &j.Stops, &j.Watches, &j.Opens,
		&j.Blocker, &j.Sealed, &j.Amends, &j.Reason, &j.Created, &j.Updated, &j.Words, &j.Revision)
	if err != nil { // it is not there, or an older program left some of it empty
		err = notFound(s.read.WithContext(ctx).Take(&j, "id = ?", id).Error)
	}
	return j, err
}

// Whole returns a job as one consistent reading.
func (s *Store) Whole(ctx context.Context, id string) (Whole, error) {
	var w Whole
	err := s.read.WithContext(ctx).Transaction(func(db *gorm.DB) error {
		var err error
		w, err = whole(db, id)
		return err
	})
	return w, err
}

// Whole returns a job as this transaction sees it.
func (t *Tx) Whole(id string) (Whole, error) { return whole(t.db, id) }

func whole(db *gorm.DB, id string) (Whole, error) {
	var w Whole
	if err := db.Take(&w.Job, "id = ?", id).Error; err != nil {
		return w, notFound(err)
	}
	if err := db.Find(&w.Sections, "job_id = ?", id).Error; err != nil {
		return w, err
	}
	return w, db.Select("id", "body").Order("at, seq").Find(&w.Entries, "job_id = ?", id).Error
}

// CreateJob adds a job. A number that is in use is ErrTaken.
func (t *Tx) CreateJob(j Job) error {
	if err := t.db.Create(&j).Error; err != nil {
		if unique(err) {
			return ErrTaken
		}
		return fmt.Errorf("create job: %w", err)
	}
	return nil
}

// SaveJob writes the job's row.
func (t *Tx) SaveJob(j Job) error { return t.db.Save(&j).Error }

// Revision returns the revision of a job as this transaction sees it.
func (t *Tx) Revision(id string) (int64, error) {
	var r int64
	err := t.db.Raw("SELECT revision FROM jobs WHERE id = ?", id).Row().Scan(&r)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	return r, err
}

// SaveSummary writes what is summed up of a job, and returns the job's revision. What lists
// sort and filter by is written where it changed: their indexes are costly.
func (t *Tx) SaveSummary(was, is Job) (revision int64, err error) {
	set := "UPDATE jobs SET updated = ?, next_what = ?, watches = ?, blocker = ?"
	args := []any{is.Updated, is.NextWhat, is.Watches, is.Blocker}
	if was.Stage != is.Stage || was.NextDate != is.NextDate || was.Stops != is.Stops || was.Opens != is.Opens {
		set += ", stage = ?, next_date = ?, stops = ?, opens = ?"
		args = append(args, is.Stage, is.NextDate, is.Stops, is.Opens)
	}
	return revision, t.db.Raw(set+" WHERE id = ? RETURNING revision", append(args, is.ID)...).Row().Scan(&revision)
}

// SaveSection writes a section whose last revision the writer has seen; a new
// section has been seen at 0. ErrConflict says that someone else was first.
func (t *Tx) SaveSection(sec Section, seen int) (int, error) {
	sec.Revision = seen + 1
	if seen == 0 {
		res := t.db.Clauses(clause.OnConflict{DoNothing: true}).Create(&sec)
		if res.Error == nil && res.RowsAffected == 0 {
			return 0, ErrConflict
		}
		return sec.Revision, res.Error
	}
	res := t.db.Model(&Section{}).Where("job_id = ? AND name = ? AND revision = ?", sec.JobID, sec.Name, seen).
		Updates(map[string]any{"revision": sec.Revision, "body": sec.Body, "updated": sec.Updated, "by": sec.By})
	if res.Error == nil && res.RowsAffected == 0 {
		return 0, ErrConflict
	}
	return sec.Revision, res.Error
}

// AddEntry appends an entry. The same id for the same job is taken once and
// added is false; the same id for another job is ErrTaken.
func (t *Tx) AddEntry(e Entry) (added bool, err error) {
	res := t.db.Exec("INSERT INTO entries (id, job_id, at, body, received) VALUES (?, ?, ?, ?, ?) ON CONFLICT DO NOTHING",
		e.ID, e.JobID, e.At, e.Body, e.Received)
	if res.Error != nil {
		return false, res.Error
	}
	if res.RowsAffected == 1 {
		return true, link(t.db, e.JobID, chain.Entry, e.ID, e.Body, e.Received)
	}
	var other Entry
	if err := t.db.Take(&other, "id = ?", e.ID).Error; err != nil {
		return false, err
	}
	if other.JobID != e.JobID {
		return false, ErrTaken
	}
	return false, nil
}

// LinkAt returns the time of a link that a person's device brought before; false where
// it brought none such.
func (s *Store) LinkAt(ctx context.Context, link, person string) (time.Time, bool, error) {
	var l []Link
	err := s.read.WithContext(ctx).Limit(1).Find(&l, "link = ? AND person_id = ?", link, person).Error
	if err != nil || len(l) == 0 {
		return time.Time{}, false, err
	}
	return l[0].At, true, nil
}

// AddLink notes a link; the same one twice is one.
func (t *Tx) AddLink(l Link) error {
	return t.db.Clauses(clause.OnConflict{DoNothing: true}).Create(&l).Error
}

// AddRecord stores a sealed issue.
func (t *Tx) AddRecord(r Record) error {
	if err := t.db.Create(&r).Error; err != nil {
		return err
	}
	return link(t.db, r.JobID, chain.Record, strconv.Itoa(r.Issue), recordContent(&r), r.SealedAt)
}

// Records lists the sealed issues of a job, newest first, without the files.
func (s *Store) Records(ctx context.Context, jobID string) ([]Record, error) {
	var list []Record
	err := s.read.WithContext(ctx).Omit("file", "inspection", "certificate", "handover").Order("issue DESC").Find(&list, "job_id = ?", jobID).Error
	return list, err
}

// IssuesWith lists the issues of the job that has one with a digest, newest first, without their
// files; none where no job has.
func (s *Store) IssuesWith(ctx context.Context, digest string) ([]Record, error) {
	var list []Record
	err := s.read.WithContext(ctx).Omit("file", "inspection", "certificate", "handover").Order("issue DESC").
		Find(&list, "job_id = (SELECT job_id FROM records WHERE digest = ?)", digest).Error
	return list, err
}

// Record returns one sealed issue with its files; ErrReplaced where they are not as they were
// sealed.
func (s *Store) Record(ctx context.Context, jobID string, issue int) (Record, error) {
	var r Record
	if err := s.read.WithContext(ctx).Take(&r, "job_id = ? AND issue = ?", jobID, issue).Error; err != nil {
		return r, notFound(err)
	}
	var links []Linked
	err := s.read.WithContext(ctx).Find(&links, "job_id = ? AND kind = ? AND ref = ?", jobID, chain.Record, strconv.Itoa(issue)).Error
	if err == nil && (len(links) != 1 || links[0].Content != chain.Content(recordContent(&r))) {
		err = fmt.Errorf("%w: issue %d", ErrReplaced, issue)
	}
	return r, err
}

// lastIssueOf returns the number of the newest sealed issue, 0 for none.
func lastIssueOf(db *gorm.DB, jobID string) (int, error) {
	var n int
	err := db.Model(&Record{}).Where("job_id = ?", jobID).Select("COALESCE(MAX(issue), 0)").Scan(&n).Error
	return n, err
}

// Note adds a line to the audit.
func (t *Tx) Note(at time.Time, who, action, jobID, detail string) error {
	return t.db.Exec("INSERT INTO audits (at, who, action, job_id, detail) VALUES (?, ?, ?, ?, ?)", at, who, action, jobID, detail).Error
}

// AuditOf lists the audit of a job, newest first.
func (s *Store) AuditOf(ctx context.Context, jobID string, limit int) ([]Audit, error) {
	var list []Audit
	err := s.read.WithContext(ctx).Order("id DESC").Limit(limit).Find(&list, "job_id = ?", jobID).Error
	return list, err
}

// FirmAudit lists the audit of the firm with all its jobs, newest first, from the line
// before one on; 0 for the newest.
func (s *Store) FirmAudit(ctx context.Context, before int64, limit int) ([]Audit, error) {
	q := s.read.WithContext(ctx).Order("id DESC").Limit(limit)
	if before > 0 {
		q = q.Where("id < ?", before)
	}
	var list []Audit
	return list, q.Find(&list).Error
}

// NextNumber returns a job number that is not in use: the prefix and the count
// of jobs plus one, or the next that is free.
func (t *Tx) NextNumber(prefix string) (string, error) {
	var n int64
	if err := t.db.Model(&Job{}).Count(&n).Error; err != nil {
		return "", err
	}
	for i := n + 1; ; i++ {
		number := fmt.Sprintf("%s%04d", prefix, i)
		err := t.db.Take(&Job{}, "number = ?", number).Error
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return number, nil
		}
		if err != nil {
			return "", err
		}
	}
}

// nearMiss is the condition of entries about near misses, as their index has it.
const nearMiss = `json_extract(CAST(body AS TEXT), '$.subject') = 'near-miss'`

// NearMissRow is an entry about a near miss, with where it happened.
type NearMissRow struct {
	Body   []byte
	Number string
	Town   string
}

// NearMisses lists the newest entries about near misses over all jobs that no later one
// corrects or takes back.
func (s *Store) NearMisses(ctx context.Context, limit int) ([]NearMissRow, error) {
	var rows []NearMissRow
	err := s.read.WithContext(ctx).
		Raw(`SELECT e.body, jobs.number, jobs.town FROM (SELECT id, body, job_id, at FROM entries WHERE `+nearMiss+` ORDER BY at DESC LIMIT ?) e
		JOIN jobs ON jobs.id = e.job_id
		WHERE NOT EXISTS (SELECT 1 FROM entries t WHERE t.job_id = e.job_id AND json_extract(CAST(t.body AS TEXT), '$.replaces') = e.id)
		ORDER BY e.at DESC`, limit).
		Scan(&rows).
		Error
	return rows, err
}
