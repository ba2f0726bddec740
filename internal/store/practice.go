package store

import (
	"context"
	"time"

	"gorm.io/gorm/clause"
)

// PracticeRun is one try of a person at a practice case.
type PracticeRun struct {
	ID       string `gorm:"primaryKey"`
	PersonID string `gorm:"index;not null"`
	Name     string
	Case     string `gorm:"not null"`
	Seed     uint64
	Tests    []byte // JSON: readings in order
	Result   []byte // JSON; empty until it is answered
	Total    int
	Started  time.Time
	Finished *time.Time
}

// PracticeRun returns a run of a person; ErrNotFound where it is another's.
func (t *Tx) PracticeRun(id, person string) (PracticeRun, error) {
	var r PracticeRun
	return r, notFound(t.db.Take(&r, "id = ? AND person_id = ?", id, person).Error)
}

// PutPracticeRun adds a run or changes it.
func (t *Tx) PutPracticeRun(r PracticeRun) error {
	return t.db.Clauses(clause.OnConflict{UpdateAll: true}).Create(&r).Error
}

// PracticeRuns lists the runs that were answered, newest first.
func (s *Store) PracticeRuns(ctx context.Context) ([]PracticeRun, error) {
	var list []PracticeRun
	return list, s.read.WithContext(ctx).Order("finished DESC").Limit(500).Find(&list, "finished IS NOT NULL").Error
}
