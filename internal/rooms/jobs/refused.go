package jobs

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"slices"

	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// refusedRow is how the store keeps what an older program took and this one
// refuses. What is settled stays: rows of an old database may hold it still.
type refusedRow struct {
	Open    []schema.Refused `json:"open"`
	Settled []schema.Refused `json:"settled"`
}

func refusedOf(w *store.Whole) (row refusedRow, body []byte, err error) {
	i := slices.IndexFunc(w.Sections, func(s store.Section) bool { return s.Name == string(job.RefusedSection) })
	if i < 0 {
		return row, nil, nil
	}
	return row, w.Sections[i].Body, json.Unmarshal(w.Sections[i].Body, &row)
}

// keepRefused writes the values of an older program that are set aside, where the
// store does not have them as they are. settled is one that is no longer open.
func (svc *Service) keepRefused(tx *store.Tx, w *store.Whole, by people.Person, open, settled []schema.Refused) error {
	row, before, err := refusedOf(w)
	if err != nil || before == nil && len(open)+len(settled) == 0 {
		return err
	}
	row.Open, row.Settled = open, append(row.Settled, settled...)
	body, err := json.Marshal(row)
	if err != nil || bytes.Equal(before, body) {
		return err
	}
	return svc.PutSection(tx, w, by, job.RefusedSection, -1, body)
}

// SettleRefused takes a value of an older program off the list of those that are
// refused, once a person has entered it anew or found that it is not needed. The
// audit keeps what it was.
func (svc *Service) SettleRefused(ctx context.Context, by people.Person, id, field string) (View, error) {
	if err := people.May(by, people.SaveSurvey); err != nil {
		return View{}, err
	}
	return svc.Change(ctx, id, func(tx *store.Tx, w *store.Whole, j *job.Job) error {
		if w.Job.Sealed {
			return people.ErrSealed
		}
		i := slices.IndexFunc(j.Refused, func(r schema.Refused) bool { return r.Field == field })
		if i < 0 {
			return fmt.Errorf("refused value %q: %w", field, store.ErrNotFound)
		}
		was := j.Refused[i]
		j.Refused = slices.Delete(slices.Clone(j.Refused), i, i+1)
		if err := tx.Note(svc.now(), by.Name, "settle refused value", id, was.Field+" was "+was.Value+": "+was.Why); err != nil {
			return err
		}
		return svc.keepRefused(tx, w, by, j.Refused, []schema.Refused{was})
	})
}

// forgetRefused drops the values of an older program that are set aside, settled or not.
func (svc *Service) forgetRefused(tx *store.Tx, w *store.Whole, by people.Person) error {
	if _, before, err := refusedOf(w); err != nil || before == nil {
		return err
	}
	body, err := json.Marshal(refusedRow{})
	if err != nil {
		return err
	}
	return svc.PutSection(tx, w, by, job.RefusedSection, -1, body)
}
