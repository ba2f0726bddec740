package store

import (
	"context"
	"database/sql"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// written returns a database of the last program that made its tables from live
// structs: its schema and one row of each kind.
func written(t *testing.T) string {
	t.Helper()
	text, err := os.ReadFile("testdata/before-numbered-sql.sql")
	if err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(t.TempDir(), "old.db")
	db, err := sql.Open("sqlite", file)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	for _, statement := range strings.Split(strings.TrimSpace(string(text)), "\n\n") {
		if _, err := db.Exec(statement); err != nil {
			t.Fatalf("%v: %.80s", err, statement)
		}
	}
	return file
}

// shape lists what a database consists of: columns of tables, indexes and triggers.
func shape(t *testing.T, s *Store) map[string]string {
	t.Helper()
	var things []struct{ Type, Name, SQL string }
	err := s.read.Raw(`SELECT type, name, COALESCE(sql, '') AS sql FROM sqlite_master WHERE name NOT LIKE 'sqlite_%'`).Scan(&things).Error
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]string{}
	for _, x := range things {
		out[x.Type+" "+x.Name] = ""
		if x.Type != "table" {
			out[x.Type+" "+x.Name] = strings.Join(strings.Fields(x.SQL), " ")
			continue
		}
		var columns []struct {
			Name, Type string
			Notnull    bool
			PK         int
		}
		if err := s.read.Raw(`SELECT name, type, "notnull", pk FROM pragma_table_info(?)`, x.Name).Scan(&columns).Error; err != nil {
			t.Fatal(err)
		}
		for _, c := range columns {
			key := "column " + x.Name + "." + c.Name
			out[key] = c.Type
			if c.Notnull || c.PK > 0 {
				out[key] += " required"
			}
		}
	}
	return out
}

// TestOldDatabase: a database of the program before migrations were plain SQL opens,
// has the shape of a new one, and keeps every row.
func TestOldDatabase(t *testing.T) {
	old, err := Open(written(t))
	if err != nil {
		t.Fatal(err)
	}
	defer old.Close()
	fresh, err := Open(filepath.Join(t.TempDir(), "new.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer fresh.Close()
	got, want := shape(t, old), shape(t, fresh)
	for k, v := range want {
		if g, ok := got[k]; !ok || g != v {
			t.Errorf("%s: the old database has %q, a new one %q", k, g, v)
		}
	}
	for k := range got {
		if _, ok := want[k]; !ok {
			t.Errorf("a new database has no %s", k)
		}
	}
	ctx := context.Background()
	list, err := old.Jobs(ctx, Filter{Search: "juniper", Limit: 10})
	if err != nil || list.Total != 1 || list.Jobs[0].Number != "DB-0001" {
		t.Errorf("search: %v %+v", err, list)
	}
	w, err := old.Whole(ctx, "j1")
	if err != nil || len(w.Sections) != 1 || !strings.Contains(string(w.Sections[0].Body), "roof") || len(w.Entries) != 1 {
		t.Errorf("%v %+v", err, w)
	}
	if items, err := old.Stock(ctx, ""); err != nil || len(items) != 1 || items[0].Held != 40 {
		t.Errorf("%v %+v", err, items)
	}
	if b, err := old.Bookings(ctx, "2026-01-01", "2026-12-31"); err != nil || len(b) != 1 || b[0].People[0] != "R. Delacroix" {
		t.Errorf("%v %+v", err, b)
	}
	if r, err := old.Record(ctx, "j1", 1); err != nil || string(r.File) != "f" {
		t.Errorf("%v %+v", err, r)
	}
	for key, want := range map[string]string{"policy": `{"sleepHours":3}`, "resources": `{"reelMargin":4}`} {
		t.Run(key, func(t *testing.T) {
			if b, err := old.Setting(ctx, key); err != nil || string(b) != want {
				t.Errorf("%s: %s, %v", key, b, err)
			}
		})
	}
	for _, table := range []string{"users", "audits", "photos", "deadlines", "files", "mails", "practice_runs"} {
		var n int64
		if err := old.read.Table(table).Count(&n).Error; err != nil || n != 1 {
			t.Errorf("%s: %d rows, %v", table, n, err)
		}
	}
}
