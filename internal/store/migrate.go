package store

import (
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"strings"

	"github.com/go-gormigrate/gormigrate/v2"
	"gorm.io/gorm"
)

// migrations are the steps from an empty database to this version, in plain SQL. A
// step that has shipped is never changed: the next version gets its own.
//
//go:embed migrations/*.sql
var migrations embed.FS

// filled is what SQL cannot work out, after a step.
var filled = map[string]func(*gorm.DB) error{"0010-chain": linkAll, "0017-list": nameAll}

// migrate brings the database to this version.
func migrate(db *gorm.DB) error {
	files, err := fs.Glob(migrations, "migrations/*.sql") // sorted by their numbers
	if err != nil {
		return err
	}
	return migrateBy(db, files)
}

// migrateBy brings the database as far as some steps do.
func migrateBy(db *gorm.DB, files []string) error {
	steps := make([]*gormigrate.Migration, len(files))
	for i, name := range files {
		text, err := migrations.ReadFile(name)
		if err != nil {
			return err
		}
		id := strings.TrimSuffix(path.Base(name), ".sql")
		steps[i] = &gormigrate.Migration{ID: id, Migrate: func(tx *gorm.DB) error {
			if err := run(tx, id, string(text)); err != nil || filled[id] == nil {
				return err
			}
			return filled[id](tx)
		}}
	}
	if err := known(db); err != nil && !errors.Is(err, errNotOurs) {
		return err
	}
	return gormigrate.New(db, gormigrate.DefaultOptions, steps).Migrate()
}

// keepBefore copies a database of an older version beside itself, looked through, before it
// is changed. Pictures are not changed, and not copied.
func keepBefore(db *gorm.DB, file string) error {
	if isOurs := known(db) == nil; !isOurs {
		return nil // it is new; or migrate says what is wrong
	}
	gone, err := stepsOf(db)
	if err != nil {
		return err
	}
	steps, err := fs.Glob(migrations, "migrations/*.sql")
	if err != nil || len(gone) >= len(steps) {
		return err
	}
	before := file + ".before-" + strings.TrimSuffix(path.Base(steps[len(gone)]), ".sql")
	part := before + ".part"
	if err := dropCopy(part); err != nil {
		return err
	}
	if err := db.Exec("VACUUM INTO ?", part).Error; err != nil {
		return errors.Join(err, dropCopy(part))
	}
	if err := wholeFile(part); err != nil {
		return errors.Join(err, dropCopy(part))
	}
	return os.Rename(part, before)
}

// stepsOf lists the steps that a database has gone.
func stepsOf(db *gorm.DB) (gone []string, err error) {
	o := gormigrate.DefaultOptions
	return gone, db.Table(o.TableName).Order(o.IDColumnName).Pluck(o.IDColumnName, &gone).Error
}

// errNotOurs says that a database has no steps of this program.
var errNotOurs = errors.New("it is no database of this program")

// known reports whether every step that a database has gone is one of this version's.
func known(db *gorm.DB) error {
	gone, err := stepsOf(db)
	if err != nil || len(gone) == 0 {
		return errNotOurs
	}
	for _, id := range gone {
		if _, err := migrations.Open("migrations/" + id + ".sql"); err != nil {
			return fmt.Errorf("%w (step %s)", ErrNewer, id)
		}
	}
	return nil
}

// run executes statements that stand between blank lines.
func run(tx *gorm.DB, id, text string) error {
	for i, statement := range strings.Split(strings.TrimSpace(text), "\n\n") {
		if strings.HasPrefix(statement, "--") {
			continue
		}
		if err := tx.Exec(statement).Error; err != nil {
			return fmt.Errorf("%s, statement %d: %w", id, i, err)
		}
	}
	return nil
}
