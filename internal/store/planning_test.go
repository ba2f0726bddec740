package store

import (
	"errors"
	"fmt"
	"math/rand/v2"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"github.com/go-gormigrate/gormigrate/v2"

	"dogbolt/core/chain"
	"dogbolt/core/planning"
	"dogbolt/core/stock"
)

func reels(t *testing.T, s *Store, items ...stock.Ware) {
	t.Helper()
	write(t, s, func(tx *Tx) error { return tx.PutStock(items) })
}

func reel(id string, metres float64) stock.Ware {
	return stock.Ware{ID: id, Name: "6 mm²", Unit: "m", State: stock.InHand, Reel: true, Quantity: metres}
}

// TestHolds: what is held is counted, freed and used up, and the job's own holds
// are left out where asked.
func TestHolds(t *testing.T) {
	s := open(t)
	addJob(t, s, "a")
	addJob(t, s, "b")
	reels(t, s, reel("R1", 50), stock.Ware{ID: "L1", Name: "6 mm²", Unit: "m", State: stock.Listed, Quantity: 500})
	hold := func(job, item string, q float64) error {
		return s.Write(ctx, func(tx *Tx) error { return tx.Hold(job, []stock.Hold{{Item: item, Part: "cable", Quantity: q}}) })
	}
	if err := errors.Join(hold("a", "R1", 20), hold("b", "R1", 30)); err != nil {
		t.Fatal(err)
	}
	held := func(but string) float64 {
		items, err := s.Stock(ctx, but)
		if err != nil || len(items) != 2 {
			t.Fatal(items, err)
		}
		for _, i := range items {
			if i.ID == "R1" {
				return i.Held
			}
		}
		return -1
	}
	if held("") != 50 || held("a") != 30 || held("b") != 20 {
		t.Errorf("held %g, but for a %g, but for b %g", held(""), held("a"), held("b"))
	}
	if err := s.write.Exec("UPDATE stock_holds SET quantity = 1").Error; err == nil || !strings.Contains(err.Error(), "made anew") {
		t.Errorf("a hold was changed in place: %v", err)
	}
	write(t, s, func(tx *Tx) error { return tx.Free("a") })
	if err := hold("a", "L1", 1); !errors.Is(err, ErrTaken) {
		t.Errorf("held of what a supplier lists: %v", err)
	}
	if err := hold("a", "gone", 1); err == nil {
		t.Error("held of nothing")
	}
	if err := hold("a", "R1", 20.1); !errors.Is(err, ErrTaken) {
		t.Errorf("held twice: %v", err)
	}
	// Less than is held cannot be counted, nor an item that is held removed.
	for name, f := range map[string]func(*Tx) error{
		"count":  func(tx *Tx) error { return tx.PutStock([]stock.Ware{reel("R1", 29)}) },
		"order":  func(tx *Tx) error { i := reel("R1", 50); i.State = stock.Ordered; return tx.PutStock([]stock.Ware{i}) },
		"remove": func(tx *Tx) error { return tx.DropStock("R1") },
	} {
		t.Run(name, func(t *testing.T) {
			if err := s.Write(ctx, f); !errors.Is(err, ErrTaken) {
				t.Errorf("%s: %v", name, err)
			}
		})
	}
	write(t, s, func(tx *Tx) error { return tx.Use("b") })
	items, _ := s.Stock(ctx, "")
	for _, i := range items {
		if i.ID == "R1" && (i.Quantity != 20 || i.Held != 0) {
			t.Errorf("30 m built in leave 20 m: %+v", i)
		}
	}
	write(t, s, func(tx *Tx) error { return tx.DropStock("R1") })
	if err := s.Write(ctx, func(tx *Tx) error { return tx.DropStock("R1") }); !errors.Is(err, ErrNotFound) {
		t.Errorf("removed twice: %v", err)
	}
}

// TestHoldsAtOnce: many planners take of one reel at once; never more than it
// has.
func TestHoldsAtOnce(t *testing.T) {
	s := open(t)
	const planners = 16
	for i := range planners {
		addJob(t, s, fmt.Sprint("job", i))
	}
	reels(t, s, reel("R1", 100))
	var wait sync.WaitGroup
	var mu sync.Mutex
	took := 0.0
	for i := range planners {
		wait.Go(func() {
			q := float64(5 + rand.IntN(15))
			err := s.Write(ctx, func(tx *Tx) error {
				return tx.Hold(fmt.Sprint("job", i), []stock.Hold{{Item: "R1", Part: "cable", Quantity: q}})
			})
			switch {
			case err == nil:
				mu.Lock()
				took += q
				mu.Unlock()
			case !errors.Is(err, ErrTaken):
				t.Error(err)
			}
		})
	}
	wait.Wait()
	items, err := s.Stock(ctx, "")
	if err != nil || items[0].Held != took || took > 100 || took < 80 {
		t.Errorf("held %g, taken %g %v", items[0].Held, took, err)
	}
}

func TestBookings(t *testing.T) {
	s := open(t)
	addJob(t, s, "a")
	addJob(t, s, "b")
	b := planning.Booking{Job: "a", Number: "DB-1", Team: "north", People: []string{"K. Osei", "T. Brandt"}, Day: "2027-03-09", Start: "09:00", Hours: 3.5, Town: "Saltbeck"}
	write(t, s, func(tx *Tx) error { return tx.SetBooking(b) })
	b.Day = "2027-03-10"
	other := planning.Booking{Job: "b", Number: "DB-2", People: []string{"X"}, Day: "2027-03-20"}
	write(t, s, func(tx *Tx) error { return errors.Join(tx.SetBooking(b), tx.SetBooking(other)) })
	list, err := s.Bookings(ctx, "2027-03-01", "2027-03-19")
	if err != nil || len(list) != 1 || fmt.Sprint(list[0]) != fmt.Sprint(b) {
		t.Errorf("%+v %v", list, err)
	}
	other.Day = ""
	write(t, s, func(tx *Tx) error { return tx.SetBooking(other) })
	if list, err := s.Bookings(ctx, "2027-03-01", "2027-12-31"); err != nil || len(list) != 1 {
		t.Errorf("freed: %+v %v", list, err)
	}
}

func TestDeadlines(t *testing.T) {
	s := open(t)
	addJob(t, s, "a")
	set := func(list ...Deadline) {
		t.Helper()
		write(t, s, func(tx *Tx) error { return tx.SetDeadlines("a", list) })
	}
	set(Deadline{JobID: "a", Paper: "grant", What: "due", Day: "2027-03-09"}, Deadline{JobID: "a", Paper: "grant", What: "send", Day: "2027-03-20"})
	set(Deadline{JobID: "a", Paper: "grant", Title: "Grant", What: "due", Day: "2027-03-10"})
	rows, err := s.Deadlines(ctx, "2027-12-31")
	if err != nil || len(rows) != 1 || rows[0].Day != "2027-03-10" || rows[0].Number == "" || rows[0].Title != "Grant" {
		t.Errorf("%+v %v", rows, err)
	}
	if rows, _ := s.Deadlines(ctx, "2027-03-09"); len(rows) != 0 {
		t.Errorf("not due yet: %+v", rows)
	}
	set()
	if rows, _ := s.Deadlines(ctx, "2027-12-31"); len(rows) != 0 {
		t.Errorf("%+v", rows)
	}
}

func TestFiles(t *testing.T) {
	s := open(t)
	addJob(t, s, "a")
	digest := chain.Content([]byte("%PDF"))
	if err := s.PutFile(digest, []byte("%PDF")); err != nil {
		t.Fatal(err)
	}
	write(t, s, func(tx *Tx) error {
		return tx.AddFile(File{JobID: "a", Digest: digest, Name: "quote.pdf", Type: "application/pdf", Pages: 1, Bytes: 4})
	})
	f, b, err := s.FileData(ctx, "a", digest)
	if err != nil || f.Name != "quote.pdf" || string(b) != "%PDF" {
		t.Errorf("%+v %q %v", f, b, err)
	}
	if _, _, err := s.FileData(ctx, "b", digest); !errors.Is(err, ErrNotFound) {
		t.Errorf("another job's file: %v", err)
	}
	if list, err := s.Files(ctx, "a"); err != nil || len(list) != 1 {
		t.Errorf("%+v %v", list, err)
	}
}

// TestOldDaysStayTaken: a day that was set before there were bookings is one
// afterwards.
func TestOldDaysStayTaken(t *testing.T) {
	path := filepath.Join(t.TempDir(), "old.db")
	s, err := Open(path)
	if err != nil {
		t.Fatal(err)
	}
	addJob(t, s, "a")
	addJob(t, s, "b")
	write(t, s, func(tx *Tx) error {
		_, err := tx.SaveSection(Section{JobID: "a", Name: "plan", Body: []byte(`{"day":"2027-03-09","crew":["K. Osei"]}`)}, 0)
		_, err2 := tx.SaveSection(Section{JobID: "b", Name: "plan", Body: []byte(`{"parts":[]}`)}, 0)
		return errors.Join(err, err2)
	})
	// As the database was before the migration.
	for _, table := range []string{"stock_holds", "stock_items", "bookings", "deadlines", "files", "mails"} {
		if err := s.write.Exec("DROP TABLE " + table).Error; err != nil {
			t.Fatal(err)
		}
	}
	if err := s.write.Exec("DELETE FROM "+gormigrate.DefaultOptions.TableName+" WHERE id = ?", "0003-planning").Error; err != nil {
		t.Fatal(err)
	}
	s.Close()
	if s, err = Open(path); err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	list, err := s.Bookings(ctx, "2027-01-01", "2027-12-31")
	if err != nil || len(list) != 1 || list[0].Job != "a" || len(list[0].People) != 1 || list[0].Hours != 8 {
		t.Errorf("%+v %v", list, err)
	}
}
