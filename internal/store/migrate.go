package store

import (
	"github.com/go-gormigrate/gormigrate/v2"
	"gorm.io/gorm"
)

// migrate brings the database to this version. A migration that has shipped is
// never changed: the next version gets its own.
func migrate(db *gorm.DB) error {
	return gormigrate.New(db, gormigrate.DefaultOptions, []*gormigrate.Migration{
		{ID: "0001-first", Migrate: func(tx *gorm.DB) error {
			if err := tx.AutoMigrate(&User{}, &Job{}, &Section{}, &Entry{}, &Record{}, &Audit{}, &Session{}, &Setting{}); err != nil {
				return err
			}
			return execAll(tx,
				// Lists are sorted and filtered within these alone.
				`CREATE INDEX jobs_list ON jobs(next_date, number, stage, stops, opens)`,
				`CREATE INDEX jobs_stage_list ON jobs(stage, next_date, number, stops, opens)`,
				// Search over number, customer and address.
				`CREATE VIRTUAL TABLE jobs_search USING fts5(number, customer, address, town, content='jobs', content_rowid='rowid', prefix='2 3')`,
				`CREATE TRIGGER jobs_search_new AFTER INSERT ON jobs BEGIN
					INSERT INTO jobs_search(rowid, number, customer, address, town) VALUES (new.rowid, new.number, new.customer, new.address, new.town); END`,
				`CREATE TRIGGER jobs_search_change AFTER UPDATE OF number, customer, address, town ON jobs BEGIN
					INSERT INTO jobs_search(jobs_search, rowid, number, customer, address, town) VALUES ('delete', old.rowid, old.number, old.customer, old.address, old.town);
					INSERT INTO jobs_search(rowid, number, customer, address, town) VALUES (new.rowid, new.number, new.customer, new.address, new.town); END`,
				// The log and the records only grow.
				`CREATE TRIGGER entries_no_update BEFORE UPDATE ON entries BEGIN SELECT RAISE(ABORT, 'the log is append-only'); END`,
				`CREATE TRIGGER entries_no_delete BEFORE DELETE ON entries BEGIN SELECT RAISE(ABORT, 'the log is append-only'); END`,
				`CREATE TRIGGER records_no_update BEFORE UPDATE ON records BEGIN SELECT RAISE(ABORT, 'a sealed record is never changed'); END`,
				`CREATE TRIGGER records_no_delete BEFORE DELETE ON records BEGIN SELECT RAISE(ABORT, 'a sealed record is never deleted'); END`,
				`CREATE TRIGGER audits_no_update BEFORE UPDATE ON audits BEGIN SELECT RAISE(ABORT, 'the audit is append-only'); END`,
				`CREATE TRIGGER audits_no_delete BEFORE DELETE ON audits BEGIN SELECT RAISE(ABORT, 'the audit is append-only'); END`,
			)
		}},
		{ID: "0002-photos", Migrate: func(tx *gorm.DB) error { return tx.AutoMigrate(&Photo{}) }},
		{ID: "0003-planning", Migrate: func(tx *gorm.DB) error {
			if err := tx.AutoMigrate(&StockItem{}, &StockHold{}, &Booking{}, &Deadline{}, &File{}, &Mail{}); err != nil {
				return err
			}
			// Days that were set before there were bookings: the whole day, until
			// the job is booked again.
			return execAll(tx, append(holdTriggers, `INSERT INTO bookings(job_id, number, team, people, day, start, hours, town)
				SELECT j.id, j.number, '', CAST(json_extract(CAST(s.body AS TEXT), '$.crew') AS BLOB), json_extract(CAST(s.body AS TEXT), '$.day'), '08:00', 8, j.town
				FROM sections s JOIN jobs j ON j.id = s.job_id WHERE s.name = 'plan' AND json_extract(CAST(s.body AS TEXT), '$.day') <> ''
				AND json_array_length(CAST(s.body AS TEXT), '$.crew') > 0`)...)
		}},
		{ID: "0004-practice", Migrate: func(tx *gorm.DB) error { return tx.AutoMigrate(&PracticeRun{}) }},
		{ID: "0005-near-misses", Migrate: func(tx *gorm.DB) error {
			return execAll(tx, `CREATE INDEX entries_near_misses ON entries(at) WHERE `+nearMiss)
		}},
		// Photos are named by the device that took them, before they are sent.
		{ID: "0006-photo-sources", Migrate: func(tx *gorm.DB) error { return tx.AutoMigrate(&Photo{}) }},
	}).Migrate()
}

func execAll(tx *gorm.DB, statements ...string) error {
	for _, s := range statements {
		if err := tx.Exec(s).Error; err != nil {
			return err
		}
	}
	return nil
}
