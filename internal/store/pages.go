package store

import (
	"context"
	"time"
)

// CustomerPage is the page of a job that needs no account. Whoever has its token may read; a job has one
// at most.
type CustomerPage struct {
	Token string    `gorm:"primaryKey"`
	JobID string    `gorm:"uniqueIndex;not null"`
	At    time.Time `gorm:"not null"`
	By    string    `gorm:"not null"`
	// Address is where it is reached, with its token; empty of pages that were opened before papers printed it.
	Address string `gorm:"not null;default:''"`
	Job     *Job   `gorm:"constraint:OnDelete:RESTRICT"`
}

// OpenPage gives a job a page, in place of one that it had.
func (t *Tx) OpenPage(p CustomerPage) error {
	if err := t.ClosePage(p.JobID); err != nil {
		return err
	}
	return t.db.Create(&p).Error
}

// ClosePage takes a job's page away: its token leads nowhere.
func (t *Tx) ClosePage(jobID string) error {
	return t.db.Delete(&CustomerPage{}, "job_id = ?", jobID).Error
}

// PageOf returns the page of a job; ErrNotFound where it has none.
func (s *Store) PageOf(ctx context.Context, jobID string) (CustomerPage, error) {
	var p CustomerPage
	return p, notFound(s.read.WithContext(ctx).Take(&p, "job_id = ?", jobID).Error)
}

// PageWith returns the page with a token; ErrNotFound where there is none, or is none any more.
func (s *Store) PageWith(ctx context.Context, token string) (CustomerPage, error) {
	var p CustomerPage
	return p, notFound(s.read.WithContext(ctx).Take(&p, "token = ?", token).Error)
}
