package store

import (
	"context"
	"fmt"
	"sync"
	"time"

	"gorm.io/gorm"
)

// together is how long a transaction takes in what waits, before what it did is committed:
// nobody's answer waits longer for the work of others. Common practice, no source.
const together = 5 * time.Millisecond

// line is where writers wait. What waits together is committed together: one wait for the
// disk serves all of it, and each still happens as a whole or not at all.
type line struct {
	sync.Mutex
	waiting []*asked
	running bool
}

// asked is what one writer wants done.
type asked struct {
	ctx  context.Context
	do   func(*Tx) error
	err  error
	lost any // what it panicked with
	done chan struct{}
}

// Write runs f in a write transaction: all of it happens, or none. It has happened, on the
// disk, when Write returns nil.
func (s *Store) Write(ctx context.Context, f func(*Tx) error) error {
	a := &asked{ctx: ctx, do: f, done: make(chan struct{})}
	s.line.Lock()
	s.line.waiting = append(s.line.waiting, a)
	first := !s.line.running
	s.line.running = true
	s.line.Unlock()
	if first {
		go s.work()
	}
	<-a.done
	if a.lost != nil {
		panic(a.lost)
	}
	return a.err
}

// next takes the first that waits, nil where nobody does; with idle it is noted that nobody
// works then.
func (s *Store) next(idle bool) *asked {
	s.line.Lock()
	defer s.line.Unlock()
	if len(s.line.waiting) == 0 {
		s.line.running = s.line.running && !idle
		return nil
	}
	a := s.line.waiting[0]
	s.line.waiting = s.line.waiting[1:]
	return a
}

// work does what waits until nothing does.
func (s *Store) work() {
	for first := s.next(true); first != nil; first = s.next(true) {
		var all []*asked
		// Who went away does not end what the others do.
		err := transaction(s.write.WithContext(context.WithoutCancel(first.ctx)), func(db *gorm.DB) error {
			tx, until := &Tx{db, &s.ended, s.path}, time.Now().Add(together)
			for a := first; a != nil; a = s.next(false) {
				all = append(all, a)
				if err := a.run(tx); err != nil {
					return err
				}
				if time.Now().After(until) {
					break
				}
			}
			return nil
		})
		for _, a := range all {
			if a.err == nil && a.lost == nil {
				a.err = err
			}
			close(a.done)
		}
		if len(all) == 0 { // it did not even begin
			first.err = err
			close(first.done)
		}
	}
}

// transaction runs f between the begin and the end of a transaction.
func transaction(db *gorm.DB, f func(*gorm.DB) error) error {
	if err := db.Exec("BEGIN IMMEDIATE").Error; err != nil {
		return err
	}
	err := f(db)
	if err == nil {
		err = db.Exec("COMMIT").Error
	}
	if err != nil {
		db.Exec("ROLLBACK") // where the database did not do so itself
	}
	return err
}

// run does what one writer wants, or undoes it. It returns an error where what the others
// did before it cannot be kept either.
func (a *asked) run(tx *Tx) error {
	select {
	case <-a.ctx.Done(): // who waited has gone: that is theirs, not the others'
		a.err = a.ctx.Err()
		return nil
	default:
	}
	const mine = "mine"
	if err := tx.db.SavePoint(mine).Error; err != nil {
		return err
	}
	func() {
		defer func() { a.lost = recover() }()
		a.err = a.do(tx)
	}()
	if a.err == nil && a.lost == nil {
		return nil
	}
	if err := tx.db.RollbackTo(mine).Error; err != nil {
		return fmt.Errorf("undo what failed: %w", err)
	}
	return nil
}
