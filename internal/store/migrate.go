package store

import (
	"embed"
	"fmt"
	"io/fs"
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
var filled = map[string]func(*gorm.DB) error{"0010-chain": linkAll}

// migrate brings the database to this version.
func migrate(db *gorm.DB) error {
	files, err := fs.Glob(migrations, "migrations/*.sql") // sorted by their numbers
	if err != nil {
		return err
	}
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
	return gormigrate.New(db, gormigrate.DefaultOptions, steps).Migrate()
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
