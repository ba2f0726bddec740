// Package store keeps jobs, people and records in SQLite. All SQL of the
// program is here.
package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"path/filepath"
	"sync"
	"time"

	"gorm.io/driver/sqlite"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"
	driver "modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

// Errors that callers tell apart.
var (
	ErrNotFound = errors.New("not found")
	ErrConflict = errors.New("someone else saved first")
	ErrTaken    = errors.New("already taken")
	ErrReplaced = errors.New("is not as it was kept")
)

// Store is an open database. Reads use several connections; writes go through
// one, so that writers wait in line instead of failing.
type Store struct {
	read  *gorm.DB
	write *gorm.DB // over the pen
	pen   *pen
	path  string

	// OnFile is told the name of each picture and file that came, its digest with its ending;
	// nil where nobody asks. It is set before the first request.
	OnFile func(name string)

	settled settled
	line    line       // of writers
	ended   sync.Map   // tokens of sessions that have ended, to when
	parts   sync.Mutex // held while a piece of a picture is added

	probing sync.Mutex // held while it is tried whether writing works
	probed  time.Time  // when that was last
}

// pragmas of every connection: write-ahead log, foreign keys, and a wait for
// the other side's lock. What is deleted is overwritten.
const pragmas = "?_pragma=journal_mode(WAL)&_pragma=foreign_keys(1)&_pragma=busy_timeout(10000)" +
	"&_pragma=secure_delete(1)&_time_format=sqlite"

// readers is how many connections read at once. Each keeps pages of its own in memory, which
// are of more use where entries are judged. Common practice, no source.
const readers = 4

// onDisk makes the connection that writes wait for the disk at every commit: what was
// acknowledged outlasts a power cut. Writers that wait together share one wait.
const onDisk = "&_pragma=synchronous(FULL)"

// Open opens or creates the database file and brings it to this version.
func Open(path string) (*Store, error) {
	setUp, pool, err := connect(path, "&_txlock=immediate"+onDisk, 1)
	if err != nil {
		return nil, err
	}
	if err := keepBefore(setUp, path); err != nil {
		return nil, errors.Join(fmt.Errorf("copy %s before it is brought to this version: %w", filepath.Base(path), err), pool.Close())
	}
	if err := migrate(setUp); err != nil {
		return nil, errors.Join(fmt.Errorf("bring %s to this version: %w", filepath.Base(path), err), pool.Close())
	}
	s := &Store{path: path}
	if s.pen, err = newPen(pool); err != nil {
		return nil, errors.Join(err, pool.Close())
	}
	if s.write, err = gorm.Open(&sqlite.Dialector{Conn: s.pen}, config(false)); err != nil {
		return nil, errors.Join(err, s.pen.close())
	}
	if s.read, _, err = connect(path, "&_pragma=query_only(1)", readers); err != nil {
		return nil, errors.Join(err, s.pen.close())
	}
	return s, nil
}

// config is how GORM is used; with prepare it keeps statements prepared itself.
func config(prepare bool) *gorm.Config {
	return &gorm.Config{
		Logger: logger.Discard, SkipDefaultTransaction: true, PrepareStmt: prepare,
		NowFunc: func() time.Time { return time.Now().UTC() },
	}
}

func connect(path, extra string, conns int) (*gorm.DB, *sql.DB, error) {
	db, err := gorm.Open(&sqlite.Dialector{DriverName: "sqlite", DSN: path + pragmas + extra}, config(true))
	if err != nil {
		return nil, nil, fmt.Errorf("open %s: %w", filepath.Base(path), err)
	}
	pool, err := db.DB()
	if err != nil {
		return nil, nil, err
	}
	pool.SetMaxOpenConns(conns)
	pool.SetMaxIdleConns(conns)
	return db, pool, nil
}

// Close closes the database.
func (s *Store) Close() error {
	read, err := s.read.DB()
	if err == nil {
		err = read.Close()
	}
	return errors.Join(err, s.pen.close())
}

// Path returns where the database is.
func (s *Store) Path() string { return s.path }

// LeaveCheckpoints leaves it to another to move what was written from the log into the
// database: to who keeps a replica, which reads the log.
func (s *Store) LeaveCheckpoints(ctx context.Context) error {
	return s.Write(ctx, func(tx *Tx) error { return tx.db.Exec("PRAGMA wal_autocheckpoint = 0").Error })
}

// Ping reports whether the database answers.
func (s *Store) Ping(ctx context.Context) error {
	return s.read.WithContext(ctx).Exec("SELECT 1").Error
}

// probe is the setting that is written to see whether writing works.
const probe = "last-probe"

// Probe reports why nothing can be written, nil where something can: a full disk, a file
// system that became read-only. It writes at most once a minute.
func (s *Store) Probe(ctx context.Context, now time.Time) error {
	s.probing.Lock()
	defer s.probing.Unlock()
	if now.Sub(s.probed) < time.Minute {
		return nil
	}
	err := s.Write(ctx, func(tx *Tx) error { return tx.Settings().Set(probe, []byte(now.UTC().Format(time.RFC3339))) })
	if err == nil {
		s.probed = now
	}
	return err
}

// Tx is a write transaction.
type Tx struct {
	db    *gorm.DB
	ended *sync.Map // of the store
	path  string
}

// code is the extended result code of a database error; 0 of another one.
func code(err error) int {
	var e *driver.Error
	if errors.As(err, &e) {
		return e.Code()
	}
	return 0
}

// unique reports whether an error says that a value is in use.
func unique(err error) bool {
	c := code(err)
	return c == sqlite3.SQLITE_CONSTRAINT_UNIQUE || c == sqlite3.SQLITE_CONSTRAINT_PRIMARYKEY
}

func notFound(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return ErrNotFound
	}
	return err
}
