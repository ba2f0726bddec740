package jobs

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"dogbolt/core/assess"
	"dogbolt/core/clearance"
	"dogbolt/core/job"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/store"
)

// Bounds of the jobs in use, which stay put together in memory. Common practice, no source.
const (
	mostInUse    = 256
	bytesInUse   = 24 << 20
	entryInUse   = 1200 // bytes that an entry takes with its place in the index, about
	sectionInUse = 3    // times the bytes of its sections that a job takes put together, about
)

// inUse is a job that somebody works on, put together. It is good as long as the database's
// revision is the same.
type inUse struct {
	sync.Mutex
	whole store.Whole // the row and the sections, without their bodies
	size  int         // of the sections' bodies
	job   job.Job     // with its index, which no other goroutine may have
	bytes atomic.Int64
	last  *Judged // as it was judged last
}

// Judged is what followed from a job, and from what. Nobody changes it.
type Judged struct {
	State      string
	Assessment assess.Assessment
	findings   []rulebook.Finding
	book       *rulebook.Book
}

// desk is where the jobs in use lie.
type desk struct {
	taking sync.Mutex
	jobs   *lru.Cache[string, *inUse]
	bytes  atomic.Int64
	doubt  func(error)
}

func newDesk() *desk {
	d := &desk{}
	d.jobs, _ = lru.NewWithEvict(mostInUse, func(_ string, u *inUse) { d.bytes.Add(-u.bytes.Load()) }) // never fails for a size above 0
	return d
}

// Doubt compares every job in use with the database's whenever it is taken up, and tells
// where they differ: somebody changed what does not belong to them. It is for tests.
func (svc *Service) Doubt(tell func(error)) { svc.desk.doubt = tell }

// take returns the job in use with an id: one for all who ask.
func (d *desk) take(id string) *inUse {
	d.taking.Lock()
	defer d.taking.Unlock()
	u, ok := d.jobs.Get(id)
	if !ok {
		u = &inUse{}
		d.jobs.Add(id, u)
	}
	return u
}

// drop takes a job off the desk.
func (d *desk) drop(id string) {
	d.taking.Lock()
	defer d.taking.Unlock()
	d.jobs.Remove(id)
}

// put notes how large a job is, and takes away what has lain there longest where the desk is
// full.
func (d *desk) put(id string, u *inUse) {
	d.taking.Lock()
	defer d.taking.Unlock()
	if there, ok := d.jobs.Peek(id); !ok || there != u {
		return // it was taken away meanwhile
	}
	now := int64(entryInUse*len(u.job.Log) + sectionInUse*u.size)
	d.bytes.Add(now - u.bytes.Swap(now))
	for d.bytes.Load() > bytesInUse && d.jobs.Len() > 1 {
		d.jobs.RemoveOldest()
	}
}

// use runs f on a job that is put together as the database has it now. What f hands out is no
// part of it that anybody changes.
func (svc *Service) use(ctx context.Context, id string, f func(*inUse) error) error {
	u := svc.desk.take(id)
	u.Lock()
	defer u.Unlock()
	row, err := svc.store.Job(ctx, id)
	if err != nil {
		svc.desk.drop(id)
		return err
	}
	if u.whole.Job.ID != "" && row.Revision == u.whole.Job.Revision {
		u.whole.Job = row
		svc.desk.check(ctx, svc.store, u)
	} else {
		w, err := svc.store.Whole(ctx, id)
		if err != nil {
			return err
		}
		if u.job, err = Assemble(w); err != nil {
			return err
		}
		u.size = 0
		for i := range w.Sections {
			u.size += len(w.Sections[i].Body)
			w.Sections[i].Body = nil
		}
		w.Entries, u.last = nil, nil
		u.whole = w
	}
	u.job.Index()
	err = f(u)
	svc.desk.put(id, u)
	return err
}

// check compares a job in use with the database's, where that was asked for.
func (d *desk) check(ctx context.Context, s Store, u *inUse) {
	if d.doubt == nil {
		return
	}
	w, err := s.Whole(ctx, u.whole.Job.ID)
	if err != nil || w.Job.Revision != u.whole.Job.Revision {
		return // somebody writes just now
	}
	fresh, err := Assemble(w)
	held := u.job.Unindexed()
	if err == nil && !schema.Same(&held, &fresh) {
		d.doubt(fmt.Errorf("job %s in use is another than the database's at revision %d", w.Job.Number, w.Job.Revision))
	}
}

// checkJudged compares how a job in use was judged with a judgement of now, where that was
// asked for.
func (d *desk) checkJudged(u *inUse, v *View, now time.Time) {
	if d.doubt == nil {
		return
	}
	fresh, err := Judge(u.whole, u.job, v.Policy, now)
	if err != nil {
		d.doubt(err)
	} else if !schema.Same(&v.Assessment, &fresh.Assessment) || !schema.Same(v.Findings, fresh.Findings) {
		d.doubt(fmt.Errorf("job %s in use is judged otherwise at revision %d", u.whole.Job.Number, u.whole.Job.Revision))
	}
}

// judge judges a job in use, where it was not judged as it is.
func (u *inUse) judge(policy firm.Work, now time.Time) (View, error) {
	v, known, err := u.judged(policy, now)
	if err != nil {
		return v, err
	}
	if !known {
		if v, err = Judge(u.whole, u.job, policy.WorkPolicy, now); err != nil {
			return v, err
		}
		if v.State, err = stateOf(&u.whole.Job, policy.Mark, &v); err != nil {
			return v, err
		}
		u.last = &Judged{v.State, v.Assessment, v.Findings, v.Book}
	}
	v.Job = v.Job.Unindexed()
	v.Job.Log = slices.Clip(v.Job.Log) // what is added to it is not added to ours
	return v, nil
}

// judged is the job as it was judged last, and whether that holds.
func (u *inUse) judged(policy firm.Work, now time.Time) (v View, holds bool, err error) {
	if u.last == nil {
		return v, false, nil
	}
	v.Policy = policy.WorkPolicy
	v.of(u.whole, u.job)
	if v.Isolation, err = assess.IsolationOf(&u.job, &v.Policy, now); err != nil {
		return v, false, err
	}
	if v.State, err = stateOf(&u.whole.Job, policy.Mark, &v); err != nil {
		return v, false, err
	}
	v.Assessment, v.Findings, v.Book = u.last.Assessment, u.last.findings, u.last.book
	return v, v.State == u.last.State, nil
}

// stateOf is a mark of what a job's assessment follows from: its revision, what the firm has
// settled, and what the time does to the board. Two assessments with one mark are the same.
func stateOf(row *store.Job, policy string, v *View) (string, error) {
	b, err := json.Marshal([]any{row.ID, row.Revision, row.Rulebook, policy, v.Isolation})
	sum := sha256.Sum256(b)
	return hex.EncodeToString(sum[:12]), err
}

// Added is an entry that a log grows by, and where it stands in what was sent.
type Added struct {
	job.Entry
	Field string
}

// Growth is what a log grows by.
type Growth struct {
	Entries []Added
	Links   []store.Link
}

// errMoved says that a job was changed while an entry was judged.
var errMoved = errors.New("the job was changed meanwhile")

// mostTries is how often entries are judged anew because the job was changed meanwhile.
// Common practice, no source.
const mostTries = 8

// Grow adds to a job's log. grow checks what comes, with the job as it is, and appends it to
// the job's log; then all of it is judged and written, if the job is still that.
func (svc *Service) Grow(ctx context.Context, id, who string, grow func(*store.Whole, *job.Job) (Growth, error)) (View, error) {
	policy, err := svc.firm.OnSite(ctx)
	if err != nil {
		return View{}, err
	}
	var v View
	for range mostTries {
		err = svc.use(ctx, id, func(u *inUse) error {
			v, err = svc.grow(ctx, u, who, policy, grow)
			return err
		})
		if !errors.Is(err, errMoved) {
			break
		}
	}
	if errors.Is(err, errMoved) {
		err = fmt.Errorf("%w: %w", store.ErrConflict, err)
	}
	return v, err
}

func (svc *Service) grow(ctx context.Context, u *inUse, who string, policy firm.Work, grow func(*store.Whole, *job.Job) (Growth, error)) (View, error) {
	now := svc.now()
	prior := u.last
	if prior == nil {
		if _, err := u.judge(policy, now); err != nil {
			return View{}, err
		}
		prior = u.last
	}
	law := policy.Law(&u.job)
	before := clearance.Deadlines(&u.job, law)
	next := &inUse{whole: u.whole, job: u.job}
	g, err := grow(&next.whole, &next.job)
	if err != nil {
		return View{}, err
	}
	log := next.job.Log
	if !slices.IsSortedFunc(log[max(len(u.job.Log)-1, 0):], func(a, b job.Entry) int { return a.At.Compare(b.At) }) {
		next.job.Log = slices.Clone(log)
		assess.Sort(next.job.Log)
	}
	next.job.Index()
	v, err := next.judge(policy, now)
	if err != nil {
		return View{}, err
	}
	v.Prior = prior
	for _, e := range g.Entries {
		v.Added = append(v.Added, e.Entry)
	}
	if len(g.Entries)+len(g.Links) == 0 {
		return v, nil
	}
	row := summed(u.whole.Job, &v, &next.job, law, now)
	v.Summary = summary(row)
	deadlines := clearance.Deadlines(&next.job, law)
	dated := !slices.Equal(deadlines, before)
	err = svc.store.Write(ctx, func(tx *store.Tx) error {
		return svc.keepGrowth(tx, u.whole.Job, &row, who, g, deadlines, dated)
	})
	if err != nil {
		return View{}, err
	}
	next.whole.Job = row
	if v.State, err = stateOf(&row, policy.Mark, &v); err != nil {
		return View{}, err
	}
	u.whole, u.job, u.last = next.whole, next.job, &Judged{v.State, v.Assessment, v.Findings, v.Book}
	return v, nil
}

// keepGrowth writes what a log grows by, if the job is still what it was judged with, and
// notes the job's new revision.
func (svc *Service) keepGrowth(tx *store.Tx, was store.Job, row *store.Job, who string, g Growth, deadlines []clearance.Deadline, dated bool) error {
	if now, err := tx.Revision(was.ID); err != nil {
		return err
	} else if now != was.Revision {
		return errMoved
	}
	for _, l := range g.Links {
		if err := tx.AddLink(l); err != nil {
			return err
		}
	}
	for _, e := range g.Entries {
		if err := svc.AddEntry(tx, was.ID, e.Entry); err != nil {
			if errors.Is(err, store.ErrTaken) {
				return schema.Invalid(e.Field+".id", "%q belongs to another job", e.ID)
			}
			return err
		}
		if err := tx.Note(row.Updated, who, "log "+string(e.Kind), was.ID, strings.TrimSpace(e.Subject+" "+e.Point+" "+e.Value)); err != nil {
			return err
		}
	}
	if dated {
		if err := setDeadlines(tx, was.ID, deadlines); err != nil {
			return err
		}
	}
	var err error
	row.Revision, err = tx.SaveSummary(was, *row)
	return err
}
