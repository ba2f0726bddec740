// Package replica keeps a copy of the database and its pictures elsewhere, a second or so
// behind, and gets it back as it was at a time.
package replica

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"os"
	"path/filepath"
	"sync"
	"time"

	"github.com/benbjohnson/litestream"

	"dogbolt/internal/store"
)

// What a replica keeps, and how often it looks. Within minutes any second can be got back,
// then steps of half a minute, as long as the oldest daily copy is kept. Common practice, no source.
const (
	pause    = 200 * time.Millisecond // from the end of a pass, which sends what was written since the last, to the next
	seconds  = 10 * time.Minute       // how long every second is kept
	step     = 30 * time.Second       // after that
	daily    = 24 * time.Hour         // how often a whole copy is made
	Kept     = 7 * 24 * time.Hour     // how long whole copies are kept, where nobody says otherwise
	Late     = 10 * time.Second       // behind by more, a replica counts as failing
	lastSync = 10 * time.Second       // how long an end waits for what is still to be sent
)

// Replica keeps a copy of a database while it is open.
type Replica struct {
	path     string // of the database
	target   *Target
	db       *litestream.DB
	keeper   *litestream.Store
	problems *problems
	stop     func()
	done     sync.WaitGroup

	mu       sync.Mutex
	began    time.Time
	had      time.Time            // what was written before then is in the copy of the database; zero before a pass ended
	sent     map[string]bool      // pictures that are there; nil before it was looked
	waiting  map[string]time.Time // pictures that are not, since when
	pictures string               // what went wrong with pictures last, "" where it went well since
	wake     chan struct{}
}

// Start begins to keep a copy of a database. keep is how long whole copies are kept; 0 takes
// Kept. A target that has the copy of another database, or of this one before it was restored,
// is refused: the two would be mixed.
func Start(database string, t *Target, keep time.Duration) (*Replica, error) {
	if keep == 0 {
		keep = Kept
	}
	client, err := t.client()
	if err != nil {
		return nil, err
	}
	if t.folder != "" { // customers' data: for the server's user alone, whatever the umask and whoever made it
		if err := errors.Join(os.MkdirAll(t.folder, 0o700), os.Chmod(t.folder, 0o700)); err != nil {
			return nil, fmt.Errorf("replica: %w", err)
		}
	}
	r := &Replica{path: database, target: t, began: time.Now(), waiting: map[string]time.Time{}, wake: make(chan struct{}, 1)}
	r.problems = &problems{Handler: slog.Default().Handler(), mu: &sync.Mutex{}, last: new(string)}
	r.db = litestream.NewDB(database)
	r.db.Replica = litestream.NewReplicaWithClient(r.db, client)
	// The library's two clocks make a file each 200 ms, however long sending one takes: over a slow
	// line the files pile up. One pass after the other sends in one file all that was written meanwhile.
	r.db.MonitorInterval, r.db.Replica.MonitorEnabled = 0, false
	r.db.SetLogger(slog.New(r.problems))
	ctx := context.Background()
	if err := refuseOther(ctx, r.db, client); err != nil {
		return nil, err
	}
	r.keeper = litestream.NewStore([]*litestream.DB{r.db}, litestream.CompactionLevels{{Level: 0}, {Level: 1, Interval: step}})
	r.keeper.SnapshotInterval, r.keeper.SnapshotRetention = daily, keep
	r.keeper.SetL0Retention(seconds)
	r.keeper.SetShutdownSyncTimeout(lastSync)
	if err := r.keeper.Open(ctx); err != nil {
		return nil, fmt.Errorf("replica: %w", err)
	}
	ctx, r.stop = context.WithCancel(ctx)
	r.done.Go(func() { r.send(ctx) })
	r.done.Go(func() { r.sendPictures(ctx) })
	return r, nil
}

// refuseOther refuses a target that has something, where the database does not know of it.
func refuseOther(ctx context.Context, db *litestream.DB, client litestream.ReplicaClient) error {
	if _, err := os.Stat(db.MetaPath()); err == nil {
		return nil
	}
	if err := client.Init(ctx); err != nil {
		return fmt.Errorf("replica: %w", err)
	}
	for _, level := range []int{0, 1, litestream.SnapshotLevel} {
		there, err := client.LTXFiles(ctx, level, 0, false)
		if err != nil {
			return fmt.Errorf("replica: %w", err)
		}
		has := there.Next()
		if err := errors.Join(there.Err(), there.Close()); err != nil {
			return fmt.Errorf("replica: %w", err)
		}
		if has {
			return errors.New("replica: what lies there is of another folder, or of this one before it was restored: keep it, and name an empty place")
		}
	}
	return nil
}

// send makes one pass after the other.
func (r *Replica) send(ctx context.Context) {
	wait := pause
	for {
		began := time.Now()
		switch err := r.db.SyncAndWait(ctx); {
		case ctx.Err() != nil:
			return
		case err != nil:
			r.problems.note(err.Error())
			wait = min(2*wait, again)
		default:
			r.mu.Lock()
			r.had = began
			r.mu.Unlock()
			r.problems.forget()
			wait = pause
		}
		select {
		case <-ctx.Done():
			return
		case <-time.After(wait):
		}
	}
}

// Picture says that a picture or file came, by its digest with its ending.
func (r *Replica) Picture(name string) {
	r.mu.Lock()
	r.wait(name)
	r.mu.Unlock()
	select {
	case r.wake <- struct{}{}:
	default: // it is awake
	}
}

func (r *Replica) wait(name string) {
	if _, waits := r.waiting[name]; !waits && !r.sent[name] {
		r.waiting[name] = time.Now()
	}
}

// again is how long what could not be sent waits, at most. Common practice, no source.
const again = 5 * time.Second

func (r *Replica) sendPictures(ctx context.Context) {
	for {
		err := r.compare(ctx)
		if err == nil {
			err = r.sendWaiting(ctx)
		}
		wait := time.Hour // somebody wakes it sooner
		problem := ""
		if err != nil && ctx.Err() == nil {
			problem, wait = "pictures: "+err.Error(), again
		}
		r.mu.Lock()
		r.pictures = problem
		r.mu.Unlock()
		select {
		case <-ctx.Done():
			return
		case <-r.wake:
		case <-time.After(wait):
		}
	}
}

// compare looks once which pictures are not there yet.
func (r *Replica) compare(ctx context.Context) error {
	r.mu.Lock()
	looked := r.sent != nil
	r.mu.Unlock()
	if looked {
		return nil
	}
	there, err := r.target.pictures.list(ctx)
	if err != nil {
		return err
	}
	here, err := store.FilesOf(r.path)
	if err != nil {
		return err
	}
	r.mu.Lock()
	defer r.mu.Unlock()
	r.sent = there
	for _, name := range here {
		r.wait(name)
	}
	return nil
}

func (r *Replica) sendWaiting(ctx context.Context) error {
	for {
		name := ""
		r.mu.Lock()
		for name = range r.waiting {
			break
		}
		r.mu.Unlock()
		if name == "" {
			return nil
		}
		err := r.target.pictures.put(ctx, name, store.FileOf(r.path, name))
		if err != nil && !errors.Is(err, fs.ErrNotExist) { // one that was taken out meanwhile is not sent
			return err
		}
		r.mu.Lock()
		delete(r.waiting, name)
		r.sent[name] = true
		r.mu.Unlock()
	}
}

// State is how a replica stands.
type State struct {
	Behind  time.Duration // how long the copy has not had all, pictures and files too
	Waiting int           // pictures and files that are not there yet
	Problem string        // what went wrong last, "" where it went well since
}

// Failing reports whether a person has to look.
func (s State) Failing() bool { return s.Behind > Late }

// State returns how the replica stands.
func (r *Replica) State() State {
	r.mu.Lock()
	defer r.mu.Unlock()
	now := time.Now()
	s := State{Behind: now.Sub(r.began), Waiting: len(r.waiting), Problem: r.problems.text()}
	if s.Problem == "" {
		s.Problem = r.pictures
	}
	if r.had.IsZero() || r.sent == nil {
		return s // what nobody has looked at is not there
	}
	s.Behind = max(0, now.Sub(r.had)-2*pause)
	for _, since := range r.waiting {
		s.Behind = max(s.Behind, now.Sub(since))
	}
	return s
}

// Close sends what is still to be sent, and ends.
func (r *Replica) Close() error {
	ctx, cancel := context.WithTimeout(context.Background(), lastSync)
	defer cancel()
	r.stop()
	r.done.Wait()
	return errors.Join(r.sendWaiting(ctx), r.keeper.Close(ctx))
}

// Past is a target as it was at a time; the zero time for the last. It is a store.Source.
type Past struct {
	*Target
	At time.Time
}

// Database gets the database back, into a file that is not there.
func (p Past) Database(ctx context.Context, file string) error {
	client, err := p.client()
	if err != nil {
		return err
	}
	if err := client.Init(ctx); err != nil {
		return err
	}
	r := litestream.NewReplicaWithClient(nil, client)
	first, last, err := r.TimeBounds(ctx)
	if err != nil {
		return err
	}
	if first.IsZero() {
		return errors.New("there is no replica")
	}
	if !p.At.IsZero() && (p.At.Before(first) || p.At.After(last.Add(time.Second))) {
		return fmt.Errorf("the replica goes from %s to %s", first.UTC().Format(time.RFC3339), last.UTC().Format(time.RFC3339))
	}
	o := litestream.NewRestoreOptions()
	o.OutputPath, o.Timestamp = file, p.At
	return r.Restore(ctx, o)
}

// Picture gets a picture or file back, into a file.
func (p Past) Picture(ctx context.Context, name, to string) error {
	if err := os.MkdirAll(filepath.Dir(to), 0o700); err != nil {
		return err
	}
	return p.pictures.get(ctx, name, to)
}

// problems is a log that remembers what went wrong last.
type problems struct {
	slog.Handler
	mu   *sync.Mutex
	last *string
}

// Handle implements slog.Handler.
func (p *problems) Handle(ctx context.Context, rec slog.Record) error {
	if rec.Level >= slog.LevelError {
		text := rec.Message
		rec.Attrs(func(a slog.Attr) bool {
			if a.Key == "error" || a.Key == "err" {
				text += ": " + a.Value.String()
			}
			return true
		})
		p.note(text)
	}
	return p.Handler.Handle(ctx, rec)
}

// WithAttrs implements slog.Handler.
func (p *problems) WithAttrs(a []slog.Attr) slog.Handler {
	return &problems{p.Handler.WithAttrs(a), p.mu, p.last}
}

// WithGroup implements slog.Handler.
func (p *problems) WithGroup(name string) slog.Handler {
	return &problems{p.Handler.WithGroup(name), p.mu, p.last}
}

func (p *problems) note(text string) {
	p.mu.Lock()
	defer p.mu.Unlock()
	*p.last = text
}

func (p *problems) forget() { p.note("") }

func (p *problems) text() string {
	p.mu.Lock()
	defer p.mu.Unlock()
	return *p.last
}
