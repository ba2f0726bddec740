package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
	sqlite3 "modernc.org/sqlite/lib"

	"dogbolt/core/planning"
	"dogbolt/core/stock"
)

// StockItem is one line of the stock. What is held of it never exceeds what is
// there: triggers of the database see to it.
type StockItem struct {
	ID       string `gorm:"primaryKey"`
	Name     string `gorm:"index;not null"`
	Unit     string
	Place    string
	State    string  `gorm:"not null"`
	Reel     bool    `gorm:"not null;default:false"`
	Quantity float64 `gorm:"not null"`
	Supplier string
	Expected string
}

// StockHold is a quantity of an item held for a part of a job.
type StockHold struct {
	JobID    string     `gorm:"primaryKey"`
	ItemID   string     `gorm:"primaryKey;index"`
	Part     string     `gorm:"primaryKey"`
	Quantity float64    `gorm:"not null"`
	Job      *Job       `gorm:"constraint:OnDelete:RESTRICT"`
	Item     *StockItem `gorm:"constraint:OnDelete:RESTRICT"`
}

// Booking is the day of a job, kept beside its plan so that a planner finds all
// of them without opening every job.
type Booking struct {
	JobID  string `gorm:"primaryKey"`
	Number string
	Team   string
	People []byte // JSON
	Day    string `gorm:"index"`
	Start  string
	Hours  float64
	Town   string
	Job    *Job `gorm:"constraint:OnDelete:RESTRICT"`
}

// Deadline is a day on which something about a paper of a job is due.
type Deadline struct {
	JobID string `gorm:"primaryKey"`
	Paper string `gorm:"primaryKey"`
	What  string `gorm:"primaryKey"`
	Title string
	Day   string `gorm:"index"`
	Job   *Job   `gorm:"constraint:OnDelete:RESTRICT"`
}

const itemsWithHolds = `SELECT i.*, COALESCE((SELECT SUM(h.quantity) FROM stock_holds h WHERE h.item_id = i.id AND h.job_id <> ?), 0) AS held FROM stock_items i ORDER BY i.name, i.place, i.id`

func stockItems(db *gorm.DB, but string) ([]stock.Ware, error) {
	var rows []struct {
		StockItem
		Held float64
	}
	if err := db.Raw(itemsWithHolds, but).Scan(&rows).Error; err != nil {
		return nil, fmt.Errorf("list the stock: %w", err)
	}
	out := make([]stock.Ware, len(rows))
	for i, r := range rows {
		out[i] = stock.Ware{
			ID:       r.ID,
			Name:     r.Name,
			Unit:     r.Unit,
			Place:    r.Place,
			State:    stock.State(r.State),
			Reel:     r.Reel,
			Quantity: r.Quantity,
			Held:     r.Held,
			Supplier: r.Supplier,
			Expected: r.Expected,
		}
	}
	return out, nil
}

// Stock lists the stock with what is held of it by all jobs but one ("" for by
// all).
func (s *Store) Stock(ctx context.Context, but string) ([]stock.Ware, error) {
	return stockItems(s.read.WithContext(ctx), but)
}

// Stock lists the stock as the transaction sees it.
func (t *Tx) Stock(but string) ([]stock.Ware, error) { return stockItems(t.db, but) }

// PutStock adds items, or changes those of the same id. ErrTaken where less
// would be left than is held.
func (t *Tx) PutStock(items []stock.Ware) error {
	for _, i := range items {
		row := StockItem{
			ID:       i.ID,
			Name:     i.Name,
			Unit:     i.Unit,
			Place:    i.Place,
			State:    string(i.State),
			Reel:     i.Reel,
			Quantity: i.Quantity,
			Supplier: i.Supplier,
			Expected: i.Expected,
		}
		if err := t.db.Clauses(clause.OnConflict{UpdateAll: true}).Create(&row).Error; err != nil {
			if code(err) == sqlite3.SQLITE_CONSTRAINT_TRIGGER {
				return fmt.Errorf("%s: %w", i.ID, ErrTaken)
			}
			return fmt.Errorf("stock item %s: %w", i.ID, err)
		}
	}
	return nil
}

// DropStock removes an item. ErrTaken where some of it is held.
func (t *Tx) DropStock(id string) error {
	var n int64
	if err := t.db.Model(&StockHold{}).Where("item_id = ?", id).Count(&n).Error; err != nil {
		return err
	}
	if n > 0 {
		return ErrTaken
	}
	res := t.db.Delete(&StockItem{}, "id = ?", id)
	if res.Error == nil && res.RowsAffected == 0 {
		return ErrNotFound
	}
	return res.Error
}

// Free frees everything that is held for a job.
func (t *Tx) Free(jobID string) error { return t.db.Delete(&StockHold{}, "job_id = ?", jobID).Error }

// Hold holds quantities for a job. ErrTaken where something is held already.
func (t *Tx) Hold(jobID string, holds []stock.Hold) error {
	for _, h := range holds {
		err := t.db.Create(&StockHold{JobID: jobID, ItemID: h.Item, Part: h.Part, Quantity: h.Quantity}).Error
		if err != nil {
			if code(err) == sqlite3.SQLITE_CONSTRAINT_TRIGGER {
				return fmt.Errorf("%s for %s: %w", h.Item, h.Part, ErrTaken)
			}
			return fmt.Errorf("hold %s: %w", h.Item, err)
		}
	}
	return nil
}

// Use takes what is held for a job out of the stock: it was built in.
func (t *Tx) Use(jobID string) error {
	var holds []StockHold
	if err := t.db.Find(&holds, "job_id = ?", jobID).Error; err != nil {
		return err
	}
	if err := t.Free(jobID); err != nil {
		return err
	}
	for _, h := range holds {
		if err := t.db.Exec("UPDATE stock_items SET quantity = MAX(0, quantity - ?) WHERE id = ?", h.Quantity, h.ItemID).Error; err != nil {
			return fmt.Errorf("use %s: %w", h.ItemID, err)
		}
	}
	return nil
}

// SetBooking writes the booking of a job, or removes it where it has no day.
func (t *Tx) SetBooking(b planning.Booking) error {
	if b.Day == "" {
		return t.db.Delete(&Booking{}, "job_id = ?", b.Job).Error
	}
	people, err := json.Marshal(b.People)
	if err != nil {
		return err
	}
	row := Booking{JobID: b.Job, Number: b.Number, Team: b.Team, People: people, Day: b.Day, Start: b.Start, Hours: b.Hours, Town: b.Town}
	return t.db.Clauses(clause.OnConflict{UpdateAll: true}).Create(&row).Error
}

func bookings(db *gorm.DB, from, to string) ([]planning.Booking, error) {
	var rows []Booking
	if err := db.Order("day, start, number").Find(&rows, "day >= ? AND day <= ?", from, to).Error; err != nil {
		return nil, fmt.Errorf("list bookings: %w", err)
	}
	out := make([]planning.Booking, len(rows))
	for i, r := range rows {
		out[i] = planning.Booking{Job: r.JobID, Number: r.Number, Team: r.Team, Day: r.Day, Start: r.Start, Hours: r.Hours, Town: r.Town, People: []string{}}
		if err := json.Unmarshal(r.People, &out[i].People); err != nil {
			return nil, fmt.Errorf("booking of %s: %w", r.Number, err)
		}
	}
	return out, nil
}

// Bookings lists the bookings from one day to another, both included.
func (s *Store) Bookings(ctx context.Context, from, to string) ([]planning.Booking, error) {
	return bookings(s.read.WithContext(ctx), from, to)
}

// Bookings lists the bookings as the transaction sees them.
func (t *Tx) Bookings(from, to string) ([]planning.Booking, error) { return bookings(t.db, from, to) }

// SetDeadlines writes the deadlines of a job anew.
func (t *Tx) SetDeadlines(jobID string, list []Deadline) error {
	if err := t.db.Delete(&Deadline{}, "job_id = ?", jobID).Error; err != nil || len(list) == 0 {
		return err
	}
	return t.db.Create(&list).Error
}

// DeadlineRow is a deadline with the job that it belongs to.
type DeadlineRow struct {
	Deadline
	Number   string
	Customer string
	Rulebook string
	Zone     string // that the site names; "" where it names none
}

// Deadlines lists the deadlines of jobs up to a day. A sealed job has those of what comes after the work.
func (s *Store) Deadlines(ctx context.Context, until string) ([]DeadlineRow, error) {
	var rows []DeadlineRow
	err := s.read.WithContext(ctx).Table("deadlines").Select("deadlines.*, jobs.number, jobs.customer, jobs.rulebook, "+
		"(SELECT COALESCE(json_extract(body, '$.zone'), '') FROM sections WHERE sections.job_id = jobs.id AND sections.name = 'site') AS zone").
		Joins("JOIN jobs ON jobs.id = deadlines.job_id").Where("deadlines.day <= ?", until).
		Order("deadlines.day, jobs.number").Scan(&rows).Error
	return rows, err
}

// File is a file of a job other than a photo, by the digest of its bytes.
type File struct {
	JobID  string `gorm:"primaryKey"`
	Digest string `gorm:"primaryKey"`
	Name   string
	Type   string
	Width  int
	Height int
	Pages  int
	Bytes  int
	Fault  string
	By     string
	At     time.Time
	Job    *Job `gorm:"constraint:OnDelete:RESTRICT"`
}

// AddFile notes a file of a job.
func (t *Tx) AddFile(f File) error {
	return t.db.Where(File{JobID: f.JobID, Digest: f.Digest}).FirstOrCreate(&f).Error
}

// Files lists the files and the photos of a job as one list.
func (s *Store) Files(ctx context.Context, jobID string) ([]File, error) {
	var files []File
	if err := s.read.WithContext(ctx).Find(&files, "job_id = ?", jobID).Error; err != nil {
		return nil, err
	}
	var photos []Photo
	if err := s.read.WithContext(ctx).Find(&photos, "job_id = ?", jobID).Error; err != nil {
		return nil, err
	}
	for _, p := range photos {
		files = append(files, File{JobID: p.JobID, Digest: p.Digest, Type: "image/jpeg", Width: p.Width, Height: p.Height, Bytes: p.Bytes})
	}
	return files, nil
}

// Mail is a paper that was sent, with how often its answer was asked for.
type Mail struct {
	ID      string `gorm:"primaryKey"`
	JobID   string `gorm:"index"`
	Paper   string
	Form    string
	To      string
	Day     string
	Asked   int
	Settled bool
	Job     *Job `gorm:"constraint:OnDelete:RESTRICT"`
}

// PutMail adds a mail or changes it.
func (t *Tx) PutMail(m Mail) error {
	return t.db.Clauses(clause.OnConflict{UpdateAll: true}).Create(&m).Error
}

// OpenMails lists the mails whose answer has not come.
func (s *Store) OpenMails(ctx context.Context) ([]Mail, error) {
	var list []Mail
	return list, s.read.WithContext(ctx).Order("day, id").Find(&list, "settled = 0").Error
}

// MailsOf lists the mails of a job, oldest first.
func (s *Store) MailsOf(ctx context.Context, jobID string) ([]Mail, error) {
	var list []Mail
	return list, s.read.WithContext(ctx).Order("day, id").Find(&list, "job_id = ?", jobID).Error
}

// Mail returns a mail as the transaction sees it.
func (t *Tx) Mail(id string) (Mail, error) {
	var m Mail
	return m, notFound(t.db.Take(&m, "id = ?", id).Error)
}

// MostWaiting bounds the jobs without a day that a page shows, a week plans and an
// order list looks through.
const MostWaiting = 60

// Waiting lists the jobs that are neither sealed nor booked and have come to
// their plan: those that want a day.
func (s *Store) Waiting(ctx context.Context, limit int) ([]Job, error) {
	var list []Job
	err := s.read.WithContext(ctx).Where("sealed = 0 AND stage IN ('clearances', 'plan', 'design') AND id NOT IN (SELECT job_id FROM bookings)").
		Order("next_date, number").Limit(limit).Find(&list).Error
	return list, err
}

// FileData reads the bytes of a file of a job.
func (s *Store) FileData(ctx context.Context, jobID, digest string) (File, []byte, error) {
	var f File
	err := s.read.WithContext(ctx).Take(&f, "job_id = ? AND digest = ?", jobID, digest).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		b, err := s.Photo(ctx, jobID, digest)
		return File{JobID: jobID, Digest: digest, Type: "image/jpeg", Name: digest[:8] + ".jpg"}, b, err
	}
	if err != nil {
		return f, nil, err
	}
	b, err := s.take(digest, asCame)
	return f, b, err
}
