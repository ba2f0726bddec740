package store

import (
	"context"
	"testing"
	"time"
)

// TestInTheWay: a job that has a stop is listed under stops, not under what is open.
func TestInTheWay(t *testing.T) {
	s := open(t)
	for id, x := range map[string]struct{ stops, opens int }{"both": {1, 2}, "stop": {1, 0}, "open": {0, 2}, "none": {0, 0}} {
		write(t, s, func(tx *Tx) error {
			return tx.CreateJob(Job{ID: id, Number: id, Rulebook: "r", Stops: x.stops, Opens: x.opens})
		})
	}
	for filter, want := range map[InWay]int64{"stop": 2, "open": 1, "nothing": 1, "": 4} {
		if list, err := s.Jobs(context.Background(), Filter{InWay: filter, Limit: 10}); err != nil || list.Total != want {
			t.Errorf("%q: %d jobs, %v; want %d", filter, list.Total, err, want)
		}
	}
}

// TestLogByTime: a log is read in the order of the devices' clocks, not in that in
// which its entries came.
func TestLogByTime(t *testing.T) {
	s := open(t)
	addJob(t, s, "j")
	at := time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC)
	for i, id := range []string{"second", "first", "third"} {
		e := entry("j", id)
		e.At = at.Add([]time.Duration{time.Minute, 0, 2 * time.Minute}[i])
		write(t, s, func(tx *Tx) error {
			_, err := tx.AddEntry(e)
			return err
		})
	}
	w, err := s.Whole(context.Background(), "j")
	if err != nil || w.Entries[0].ID != "first" || w.Entries[1].ID != "second" || w.Entries[2].ID != "third" {
		t.Errorf("%v %+v", err, w.Entries)
	}
}

// TestDeadlinesOfSealedJobs: what comes after the work is due on a sealed job too.
func TestDeadlinesOfSealedJobs(t *testing.T) {
	s := open(t)
	for _, id := range []string{"running", "sealed"} {
		write(t, s, func(tx *Tx) error {
			if err := tx.CreateJob(Job{ID: id, Number: id, Rulebook: "r", Sealed: id == "sealed"}); err != nil {
				return err
			}
			return tx.SetDeadlines(id, []Deadline{{JobID: id, Paper: "final", What: "due", Day: "2026-06-01"}})
		})
	}
	rows, err := s.Deadlines(context.Background(), "2026-12-31")
	if err != nil || len(rows) != 2 {
		t.Errorf("%v %+v", err, rows)
	}
}
