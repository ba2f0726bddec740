package store

import (
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"dogbolt/core/planning"
)

// TestListAgainstReading: whichever way a page is found, it is what reading all jobs finds, in
// order, page after page, and counted.
func TestListAgainstReading(t *testing.T) {
	s := open(t)
	const n = 2500
	r := rand.New(rand.NewPCG(15, 1))
	towns := []string{"Quillmouth", "Aldermoor", "Saltbeck", "Łódź-on-Sea", "Ærø Strand", "Señor’s Ford"}
	customers := []string{"E. Marlowe", "Zoë Ångström", "ÉCOLE O'Hara", "石川", "Rowntree-Vale & Sons"}
	stages := []string{"survey", "design", "install"}
	all := make([]Job, n)
	write(t, s, func(tx *Tx) error {
		for i := range all {
			all[i] = Job{ID: fmt.Sprint(i), Number: fmt.Sprintf("DB-%04d", i*7919%n), Rulebook: "x", Customer: fmt.Sprintf("%s %d", customers[r.IntN(len(customers))], i%40),
				Address: fmt.Sprintf("%d Mill Lane", i%700), Town: towns[i%100%len(towns)], Stage: stages[r.IntN(3)], Stops: r.IntN(2), Opens: r.IntN(2),
				NextDate: fmt.Sprintf("2026-%02d-%02d", 1+r.IntN(12), 1+r.IntN(28))}
			if i%1000 == 3 {
				all[i].Town = "Rarely"
			}
			if err := tx.CreateJob(all[i]); err != nil {
				return err
			}
			if i%10 == 0 {
				if err := tx.SetBooking(planning.Booking{Job: all[i].ID, Day: "2026-05-04", People: []string{"K. Osei", fmt.Sprint("P", i%3)}}); err != nil {
					return err
				}
			}
		}
		return nil
	})
	slices.SortFunc(all, func(a, b Job) int { return strings.Compare(a.NextDate+a.Number, b.NextDate+b.Number) })
	way := map[InWay]func(j *Job) bool{
		"": func(*Job) bool { return true }, Stops: func(j *Job) bool { return j.Stops > 0 },
		Opens: func(j *Job) bool { return j.Stops == 0 && j.Opens > 0 }, Nothing: func(j *Job) bool { return j.Stops+j.Opens == 0 },
	}
	for _, typed := range []string{"", "mill", "MILL lane", "quill", "sea", "łódź", "aero", "ærø", "angstrom", "ångs", "zoe", "ecole", "o'hara", "o'h", "sons 17",
		"rarely", "rare mill", "nobody", "db-00", "DB-0017", "石川", "e. m", "7", "vale-sons", "mill 12 marl", "--", "señor's f"} {
		for _, f := range []Filter{{}, {Stage: "design"}, {InWay: Nothing}, {Stage: "install", InWay: Stops}, {Only: "k. osei"}, {Only: "P1", InWay: Opens}} {
			f.Search, f.Limit = typed, 20
			var want []string
			for i := range all {
				j := &all[i]
				id := atoi(j.ID)
				booked := f.Only == "" || id%10 == 0 && (f.Only == "k. osei" || id%3 == 1)
				if booked && way[f.InWay](j) && (f.Stage == "" || j.Stage == f.Stage) && has(j, typed) {
					want = append(want, j.Number)
				}
			}
			var got []string
			for first := true; ; first = false {
				p, err := s.Jobs(ctx, f)
				if err != nil {
					t.Fatal(err)
				}
				for _, j := range p.Jobs {
					got = append(got, j.Number)
				}
				if int(p.Total) > len(want) || !p.More && int(p.Total) != len(want) || first && p.More && len(want) <= int(p.Total) {
					t.Errorf("%+v: counted %d, more %t; there are %d", f, p.Total, p.More, len(want))
				}
				if f.After = ParsePlace(p.Next.String()); p.Next == (Place{}) {
					break
				}
			}
			if !slices.Equal(got, want) {
				t.Errorf("%+v: %d found, want %d: %.200v, want %.200v", f, len(got), len(want), got, want)
			}
		}
	}
}

func atoi(s string) (n int) {
	fmt.Sscan(s, &n)
	return n
}

// has says whether every word that was typed is in one field of a job, as it begins.
func has(j *Job, typed string) bool {
	sensible := strings.TrimSpace(typed) == ""
	for _, w := range strings.Fields(typed) {
		parts := folded(w)
		if len(parts) == 0 {
			continue
		}
		sensible = true
		found := false
		for _, field := range []string{j.Number, j.Customer, j.Address, j.Town} {
			in := folded(field)
			for i := 0; i+len(parts) <= len(in); i++ {
				k := len(parts) - 1
				found = found || slices.Equal(in[i:i+k], parts[:k]) && strings.HasPrefix(in[i+k], parts[k])
			}
		}
		if !found {
			return false
		}
	}
	return sensible
}

// TestFolded: words as people type them, whatever their accents and case.
func TestFolded(t *testing.T) {
	for in, want := range map[string]string{
		"Sailmaker's Row": "sailmaker s row", "ÉCOLE": "ecole", "Ångström": "angstrom", "STRASSE 12b": "strasse 12b", "Straße": "strasse",
		"e\u0301cole": "ecole", "DB-0401": "db 0401", "--": "", "ﬁne ½": "fine 1 2", "石川": "石川",
	} {
		if got := strings.Join(folded(in), " "); got != want {
			t.Errorf("%q: %q, want %q", in, got, want)
		}
	}
}

// TestCountsAreKept: however jobs come, change and go, what is counted is what is there, and
// who is booked for what too.
func TestCountsAreKept(t *testing.T) {
	s := open(t)
	r := rand.New(rand.NewPCG(15, 2))
	here := map[string]bool{}
	for i := range 600 {
		id := fmt.Sprint(r.IntN(60))
		write(t, s, func(tx *Tx) error {
			j := Job{ID: id, Number: "N-" + id, Rulebook: "x", Stage: []string{"", "survey", "design"}[r.IntN(3)], Stops: r.IntN(2), Opens: r.IntN(2)}
			switch {
			case !here[id]:
				here[id] = true
				return tx.CreateJob(j)
			case i%7 == 0:
				delete(here, id)
				return tx.DropJob(id)
			case i%7 < 4:
				return tx.SetBooking(planning.Booking{Job: id, Day: "2026-05-04", People: []string{"A", "B", "b"}[:r.IntN(4)]})
			case i%7 == 4:
				return tx.SetBooking(planning.Booking{Job: id})
			}
			return tx.SaveJob(j)
		})
	}
	var wrong int64
	err := s.read.Raw(`SELECT COUNT(*) FROM (SELECT stage, in_way, n FROM job_counts WHERE n <> 0 EXCEPT SELECT COALESCE(stage, ''),
		CASE WHEN stops > 0 THEN 'stop' WHEN opens > 0 THEN 'open' ELSE 'nothing' END, COUNT(*) FROM jobs GROUP BY 1, 2)`).Scan(&wrong).Error
	if err != nil || wrong != 0 {
		t.Errorf("%d counts are wrong: %v", wrong, err)
	}
	if list, err := s.Jobs(ctx, Filter{Limit: 100}); err != nil || int(list.Total) != len(here) {
		t.Errorf("%d jobs are counted, %d are there: %v", list.Total, len(here), err)
	}
	var rows []Booking
	if err := s.read.Find(&rows).Error; err != nil {
		t.Fatal(err)
	}
	booked := map[string]bool{}
	for _, b := range rows {
		var people []string
		if err := json.Unmarshal(b.People, &people); err != nil {
			t.Fatal(err)
		}
		for _, name := range people {
			booked[strings.ToLower(name)+" "+b.JobID] = true
		}
	}
	for id := range 60 {
		for _, name := range []string{"A", "b", "C"} {
			got, err := s.BookedFor(ctx, fmt.Sprint(id), name)
			if want := booked[strings.ToLower(name)+" "+fmt.Sprint(id)]; err != nil || got != want {
				t.Errorf("%s is booked for %d: %t, want %t: %v", name, id, got, want, err)
			}
		}
	}
}

// TestRowsFieldByField: a job and an account that are read field by field are what GORM reads,
// in every field that there is.
func TestRowsFieldByField(t *testing.T) {
	s := open(t)
	at := time.Date(2026, 5, 4, 9, 0, 0, 123_000_000, time.UTC)
	j := Job{ID: "a", Number: "N-a", Rulebook: "r", Customer: "c", Address: "ad", Town: "t", Stage: "survey", NextDate: "2026-05-04", NextWhat: "w", Stops: 1,
		Watches: 2, Opens: 3, Blocker: "b", Sealed: true, Amends: "am", Reason: "re", Created: at, Updated: at}
	u := User{ID: "u", Username: "un", Name: "n", Roles: "office", Mail: "m", Feed: "f", TOTP: "to", TOTPStep: 7, Recovery: "rc", Hash: "h", Disabled: true, Created: at}
	write(t, s, func(tx *Tx) error { return errors.Join(tx.CreateJob(j), tx.db.Create(&u).Error) })
	write(t, s, func(tx *Tx) error { _, err := tx.AddEntry(entry("a", "device-row")); return err })
	var wantJob Job
	var wantUser User
	if err := errors.Join(s.read.Take(&wantJob, "id = 'a'").Error, s.read.Take(&wantUser, "id = 'u'").Error); err != nil {
		t.Fatal(err)
	}
	gotJob, err := s.Job(ctx, "a")
	if err != nil || !reflect.DeepEqual(gotJob, wantJob) || gotJob.Revision == 0 {
		t.Errorf("%+v, want %+v, %v", gotJob, wantJob, err)
	}
	gotUser, err := s.User(ctx, "u")
	if err != nil || !reflect.DeepEqual(gotUser, wantUser) {
		t.Errorf("%+v, want %+v, %v", gotUser, wantUser, err)
	}
	for _, v := range []any{gotJob, gotUser} {
		for i := range reflect.TypeOf(v).NumField() {
			if reflect.ValueOf(v).Field(i).IsZero() {
				t.Errorf("%T.%s is not read", v, reflect.TypeOf(v).Field(i).Name)
			}
		}
	}
	if err := change(s.path, "UPDATE jobs SET customer = NULL WHERE id = 'a'"); err != nil {
		t.Fatal(err)
	}
	if j, err := s.Job(ctx, "a"); err != nil || j.Town != "t" {
		t.Errorf("with an empty field: %+v %v", j, err)
	}
	for _, err := range []error{lastOf(s.Job(ctx, "none")), lastOf(s.User(ctx, "none"))} {
		if !errors.Is(err, ErrNotFound) {
			t.Errorf("not there: %v", err)
		}
	}
}

func lastOf[T any](_ T, err error) error { return err }
