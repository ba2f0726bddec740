package rooms

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/gowebpki/jcs"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/record"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/core/worklog"
	"dogbolt/internal/document"
	"dogbolt/internal/rooms/days"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/records"
	"dogbolt/internal/standin"
	"dogbolt/internal/store"
	"dogbolt/internal/testkit/ruletest"
)

var ctx = context.Background()

// People of every role, who need no account for these tests.
var (
	office    = people.Person{ID: "1", Name: "P. Lindqvist", Roles: people.Roles{people.Office}}
	surveyor  = people.Person{ID: "2", Name: "M. Farrant", Roles: people.Roles{people.Surveyor}}
	installer = people.Person{ID: "3", Name: "K. Osei", Roles: people.Roles{people.Installer}}
	verifier  = people.Person{ID: "4", Name: "A. Nakagawa", Roles: people.Roles{people.Verifier}}
)

func newApp(t testing.TB) *Rooms {
	t.Helper()
	s, err := store.Open(filepath.Join(t.TempDir(), "test.db"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	a := New(s, slog.New(slog.NewTextHandler(io.Discard, nil)), standin.Instruments{})
	if _, measured := t.(*testing.B); !measured {
		a.Jobs.Doubt(func(err error) { t.Error(err) })
	}
	if err := a.Firm.SetContractor(ctx, office, record.Contractor{Name: "Quill and Beacon Electrical"}); err != nil {
		t.Fatal(err)
	}
	return a
}

func exampleFile(t testing.TB, name string) []byte {
	t.Helper()
	b, err := os.ReadFile("../../docs/formats/examples/" + name)
	if err != nil {
		t.Fatal(err)
	}
	return b
}

func imported(t testing.TB, a *Rooms, name string) jobs.View {
	t.Helper()
	return put(t, a, exampleFile(t, name))
}

// put makes a job of a file, with its log as if it had been written here.
func put(t testing.TB, a *Rooms, file []byte) jobs.View {
	t.Helper()
	j, err := job.Read(file)
	if err != nil {
		t.Fatal(err)
	}
	v, err := a.Jobs.Put(ctx, verifier, j)
	if err != nil {
		t.Fatal(err)
	}
	return v
}

// tested makes a job of an example whose board was proved dead at nine on 4 May 2026
// and switched on at a quarter past.
func tested(t testing.TB, a *Rooms, name string) jobs.View {
	t.Helper()
	j, err := job.Read(exampleFile(t, name))
	if err != nil {
		t.Fatal(err)
	}
	nine := time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC)
	ruletest.SwitchedOn(&j, nine, nine.Add(15*time.Minute))
	v, err := a.Jobs.Put(ctx, verifier, j)
	if err != nil {
		t.Fatal(err)
	}
	return v
}

// retested makes the charger's tests again, and signs what was built.
func retested(t testing.TB, a *Rooms, id string) {
	t.Helper()
	var list []job.Entry
	for i, r := range [][3]string{{"dc-trip", "0.9", "s"}, {"pilot", "53.3", "%"}, {"functions", "correct", ""}, {"open-neutral", "opens within 5 s", ""}} {
		e := entryAt(fmt.Sprintf("again-%04d", i), job.ReadingMade, r[0], "A", r[1])
		e.Unit, e.Instrument = r[2], "tester 7F-2208"
		list = append(list, e)
	}
	list = append(list, entryAt("built-0001", job.SignedOff, "construction", "", ""), entryAt("tested-0001", job.SignedOff, "testing", "", ""))
	if _, err := a.Journal.Append(ctx, verifier, id, list, nil); err != nil {
		t.Fatal(err)
	}
}

func saveDesign(a *Rooms, by people.Person, v jobs.View, change func(*job.Design)) (jobs.View, error) {
	change(&v.Job.Design)
	body, err := json.Marshal(v.Job.Design)
	if err != nil {
		return v, err
	}
	return a.Jobs.SaveSection(ctx, by, v.Summary.ID, "design", jobs.Edit{Seen: v.Revisions["design"], Body: body})
}

func entryAt(id string, kind job.EntryKind, subject, point, value string) job.Entry {
	return job.Entry{ID: id, Kind: kind, Subject: subject, Point: point, Value: value, At: time.Now().UTC()}
}

// TestImportAndExportAgree: a job exported from the program checks to the same
// findings as the file that it came from.
func TestImportAndExportAgree(t *testing.T) {
	a := newApp(t)
	for _, name := range []string{"uk-pass.json", "uk-fail.json", "us-pass.json", "us-fail.json"} {
		v := imported(t, a, name)
		j, err := a.Jobs.Export(ctx, surveyor, v.Summary.ID)
		if err != nil {
			t.Fatal(err)
		}
		exported, err := json.Marshal(j)
		if err != nil {
			t.Fatal(err)
		}
		back, err := job.Read(exported)
		if err != nil {
			t.Fatal(err)
		}
		original, err := job.Read(exampleFile(t, name))
		if err != nil {
			t.Fatal(err)
		}
		want, _ := rulebook.Check(&original)
		got, _ := rulebook.Check(&back)
		w, _ := json.Marshal(rulebook.Lines(want))
		g, _ := json.Marshal(rulebook.Lines(got))
		if string(w) != string(g) {
			t.Errorf("%s: the exported job checks to other findings", name)
		}
	}
}

func TestCreateJob(t *testing.T) {
	a := newApp(t)
	v, err := a.Jobs.CreateJob(ctx, surveyor, jobs.NewJob{Rulebook: "nec:2023", Points: 2, Site: job.Site{Customer: "G. Ferreira"}})
	if err != nil {
		t.Fatal(err)
	}
	if v.Summary.Number != "DB-0001" || len(v.Job.Survey.Places) != 2 || len(v.Job.Design.Circuits) != 2 || len(v.Job.Clearances.Papers) == 0 {
		t.Errorf("%+v", v.Summary)
	}
	if v.Summary.Stage != "survey" || v.Summary.Opens == 0 || v.Summary.Stops != 0 {
		t.Errorf("a new job: %+v", v.Summary)
	}
	for _, c := range []struct {
		n    jobs.NewJob
		want string
	}{
		{jobs.NewJob{Rulebook: "nec:1897", Points: 1}, "rulebook"},
		{jobs.NewJob{Rulebook: "nec:2023", Points: 0}, "points"},
		{jobs.NewJob{Rulebook: "nec:2023", Points: 99}, "points"},
		{jobs.NewJob{Rulebook: "nec:2023", Points: 1, Number: "DB-0001"}, "number"},
	} {
		_, err := a.Jobs.CreateJob(ctx, office, c.n)
		var fields schema.Errors
		if !errors.As(err, &fields) || fields[0].Field != c.want {
			t.Errorf("%+v: %v, want an error of %s", c.n, err, c.want)
		}
	}
}

func TestImportRefuses(t *testing.T) {
	a := newApp(t)
	good := string(exampleFile(t, "uk-pass.json"))
	for name, bad := range map[string]string{
		"newer":            strings.Replace(good, "dogbolt.job/2", "dogbolt.job/9", 1),
		"negative":         strings.Replace(good, `"length": 11`, `"length": -1`, 1),
		"unknown rulebook": strings.Replace(good, "bs7671:2018+A2:2022", "bs7671:1882", 1),
		"not JSON":         "voltage,230",
	} {
		t.Run(name, func(t *testing.T) {
			if _, err := a.Jobs.Import(ctx, verifier, []byte(bad)); err == nil {
				t.Errorf("%s is imported", name)
			}
		})
	}
	if list, _ := a.Jobs.Jobs(ctx, office, store.Filter{Limit: 10}); len(list.Jobs) != 0 {
		t.Errorf("%d jobs after refused imports", len(list.Jobs))
	}
	imported(t, a, "uk-pass.json")
	if _, err := a.Jobs.Import(ctx, verifier, []byte(good)); err == nil {
		t.Error("the same job is imported twice")
	}
}

// TestImportIsNoBackDoor: a log comes in only by a person who may write it.
func TestImportIsNoBackDoor(t *testing.T) {
	a := newApp(t)
	for _, p := range []people.Person{office, surveyor} {
		if _, err := a.Jobs.Import(ctx, p, exampleFile(t, "uk-pass.json")); !errors.Is(err, people.ErrForbidden) {
			t.Errorf("a whole log by %s: %v", p.Roles, err)
		}
	}
	if _, err := a.Jobs.Import(ctx, office, exampleFile(t, "us-fail.json")); err != nil {
		t.Errorf("a job without a log by the office: %v", err)
	}
}

// TestSaveSection: what cannot be is refused with its field, a stale page
// comes second, and nothing is half-written.
func TestSaveSection(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-pass.json")
	_, err := saveDesign(a, surveyor, v, func(d *job.Design) { d.Circuits[0].Setting = -5 })
	var fields schema.Errors
	if !errors.As(err, &fields) || fields[0].Field != "design.circuits[0].setting" {
		t.Fatalf("a negative setting: %v", err)
	}
	v, _ = a.Jobs.Open(ctx, surveyor, v.Summary.ID)
	if v.Revisions["design"] != 1 || v.Job.Design.Circuits[0].Setting != 32 {
		t.Error("a refused save was written")
	}
	stale := v
	stale.Job.Design.Circuits = slices.Clone(v.Job.Design.Circuits)
	if v, err = saveDesign(a, surveyor, v, func(d *job.Design) { d.Circuits[0].Setting = 16 }); err != nil || v.Revisions["design"] != 2 {
		t.Fatalf("%v, revision %d", err, v.Revisions["design"])
	}
	_, err = saveDesign(a, office, stale, func(d *job.Design) { d.Circuits[0].Setting = 20 })
	var conflict jobs.ConflictError
	if !errors.As(err, &conflict) || conflict.By != "M. Farrant" || conflict.Revision != 2 || !errors.Is(err, store.ErrConflict) {
		t.Errorf("a stale page: %v", err)
	}
	if v, _ = a.Jobs.Open(ctx, office, v.Summary.ID); v.Job.Design.Circuits[0].Setting != 16 {
		t.Errorf("the stale page wrote %g A", float64(v.Job.Design.Circuits[0].Setting))
	}
	if _, err := a.Jobs.SaveSection(ctx, office, v.Summary.ID, "attic", jobs.Edit{Seen: 0, Body: []byte("{}")}); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("an unknown section: %v", err)
	}
	if _, err := a.Jobs.SaveSection(ctx, office, v.Summary.ID, "plan", jobs.Edit{Seen: 1, Body: []byte("{broken")}); err == nil {
		t.Error("broken JSON is saved")
	}
	audit, err := a.Jobs.Audit(ctx, office, v.Summary.ID)
	if err != nil || len(audit) != 2 || audit[0].Who != "M. Farrant" || audit[0].Action != "save design" {
		t.Errorf("audit: %+v %v", audit, err)
	}
}

func TestSummaryFollowsFindings(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-fail.json")
	if v.Summary.Stage != "design" || v.Summary.Stops != 2 || v.Summary.Blocker != "Cable carries the breaker's rating" {
		t.Errorf("%+v", v.Summary)
	}
	v, err := saveDesign(a, surveyor, v, func(d *job.Design) {
		d.Circuits[0].Cable.Size, d.Circuits[0].Earthing.OpenPEN = "16 mm²", "device-voltage"
	})
	if err != nil || v.Summary.Stops != 0 || v.Summary.Stage != "clearances" {
		t.Errorf("after the change: %+v %v", v.Summary, err)
	}
	list, err := a.Jobs.Jobs(ctx, office, store.Filter{Stage: "clearances", Limit: 5})
	if err != nil || len(list.Jobs) != 1 {
		t.Errorf("the list does not follow: %+v %v", list, err)
	}
}

func TestNextDate(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-fail.json")
	if v.Summary.NextDate != "" {
		t.Errorf("a job without dates: %q", v.Summary.NextDate)
	}
	save := func(name job.SectionName, section any) {
		body, _ := json.Marshal(section)
		var err error
		if v, err = a.Jobs.SaveSection(ctx, office, v.Summary.ID, name, jobs.Edit{Seen: v.Revisions[string(name)], Body: body}); err != nil {
			t.Fatal(err)
		}
	}
	if err := a.Firm.SetResources(ctx, office, resources()); err != nil {
		t.Fatal(err)
	}
	a.now = clock("2026-06-01T09:00:00Z")
	v = cleared(t, a, v)
	v, err := a.Days.Book(ctx, office, v.Summary.ID, days.DayAsk{Team: "north", Day: "2026-06-12", Anyway: "the customer insists"})
	if err != nil {
		t.Fatal(err)
	}
	if v.Summary.NextDate != "2026-06-12" || v.Summary.NextWhat != "installation" {
		t.Errorf("%+v", v.Summary)
	}
	save("clearances", job.Clearances{Papers: []job.Paper{{ID: "operator", Title: "Operator", Needed: job.Yes, Due: "2026-06-02"}, {ID: "x", Title: "X", Needed: job.No, Due: "2026-01-01"}}})
	if v.Summary.NextDate != "2026-06-02" || v.Summary.NextWhat != "Operator" {
		t.Errorf("%+v", v.Summary)
	}
}

// TestAppend: entries come once, in their turn, by the person who sends them.
func TestAppend(t *testing.T) {
	a := newApp(t)
	v := cleared(t, a, imported(t, a, "uk-fail.json"))
	id := v.Summary.ID
	e := entryAt("device-0001", job.StepDone, "protect", "", "")
	e.By = "someone else"
	for range 3 {
		var err error
		if v, err = a.Journal.Append(ctx, installer, id, []job.Entry{e}, nil); err != nil {
			t.Fatal(err)
		}
	}
	if len(v.Job.Log) != 1 || v.Job.Log[0].By != "K. Osei" {
		t.Errorf("%+v", v.Job.Log)
	}
	for _, c := range []struct {
		name string
		by   people.Person
		e    job.Entry
		want string
	}{
		{"not its turn", installer, entryAt("device-0002", job.StepDone, "board", "A", ""), "waits for"},
		{"no such step", installer, entryAt("device-0003", job.StepDone, "dance", "", ""), "not a step"},
		{"prove dead is read off the log", installer, entryAt("device-0004", job.StepDone, "prove-dead", "", ""), "follows from the readings"},
		{"a step that asks", installer, entryAt("device-0005", job.StepDone, "announce", "", ""), "records who agreed"},
		{"pair before the cover is off", installer, entryAt("device-0006", job.ReadingMade, "dead:L-N", "", "0"), "waits for: cover off"},
		{"a reading of abc", installer, entryAt("device-0007", job.ReadingMade, "zs", "A", "abc"), "is not a reading"},
		{"no such test", installer, entryAt("device-0008", job.ReadingMade, "mood", "A", "1"), "not a test"},
		{"no such point", installer, entryAt("device-0009", job.ReadingMade, "zs", "Z", "0.5"), "not a point"},
		{"a word that is no answer", installer, entryAt("device-0010", job.ReadingMade, "polarity-dead", "A", "maybe"), "not one of"},
		{"torque in words", installer, job.Entry{ID: "device-0011", Kind: job.TorqueMade, Subject: "board-line", Point: "A", Value: "tight", Target: "2.5", Unit: "N·m", At: time.Now()}, "numbers"},
		{"torque in pounds", installer, job.Entry{ID: "device-0012", Kind: job.TorqueMade, Subject: "board-line", Point: "A", Value: "2", Target: "2", Unit: "lb", At: time.Now()}, "N·m or in·lb"},
		{"no such terminal", installer, job.Entry{ID: "device-0013", Kind: job.TorqueMade, Subject: "roof", Point: "A", Value: "2", Target: "2", Unit: "N·m", At: time.Now()}, "not a terminal"},
		{"setting without point", installer, entryAt("device-0014", job.SettingMade, "amps", "", "32"), "a point and a value"},
		{"amps in words", installer, entryAt("device-0015", job.SettingMade, "amps", "A", "lots"), "is not a reading"},
		{"short id", installer, entryAt("x", job.Noted, "", "", ""), "at least 8"},
		{"in the future", installer, job.Entry{ID: "device-0016", Kind: job.Noted, Reason: "x", At: time.Now().Add(time.Hour)}, "future"},
		{"no time", installer, job.Entry{ID: "device-0017", Kind: job.Noted, Reason: "x"}, "not a time"},
		{"a note of nothing", installer, entryAt("device-0018", job.Noted, "", "", ""), "words"},
		{"replaces nothing", installer, job.Entry{ID: "device-0019", Kind: job.ReadingMade, Subject: "zs", Point: "A", Value: "0.5", Replaces: "gone-0001", At: time.Now()}, "no entry"},
		{"unknown kind", verifier, entryAt("device-0020", "dance", "", "", ""), "not one of"},
		{"override of a fixed rule", verifier, job.Entry{ID: "device-0021", Kind: job.Overridden, Subject: "rcd", Point: "A", Reason: "because I say so", At: time.Now()}, "never be overridden"},
		{"override without reason", verifier, job.Entry{ID: "device-0022", Kind: job.Overridden, Subject: "in-iz", Point: "A", Reason: "ok", At: time.Now()}, "reason"},
		{"override of nothing", verifier, job.Entry{ID: "device-0023", Kind: job.Overridden, Subject: "mood", Point: "A", Reason: "a good reason", At: time.Now()}, "not a rule"},
		{"override by a crew member", installer, job.Entry{ID: "device-0024", Kind: job.Overridden, Subject: "in-iz", Point: "A", Reason: "a good reason", At: time.Now()}, "may not"},
		{"an account that is nobody's", installer, entryAt("device-0036", job.SettingMade, job.Account, "A", "somebody"), "no answer of it"},
		{"an item of no schedule", installer, entryAt("device-0026", job.Inspected, "mood", "", "as-it-should-be"), "not in the schedule"},
		{"an item of one point", installer, entryAt("device-0027", job.Inspected, "intake", "A", "as-it-should-be"), "of the whole work"},
		{"an item that is fine", installer, entryAt("device-0028", job.Inspected, "intake", "", "fine"), "not one of as-it-should-be"},
		{"an item of every job that is not there", installer, job.Entry{ID: "device-0035", Kind: job.Inspected, Subject: "intake", Value: "not-there", Reason: "there is no such thing", At: time.Now()}, "not one of as-it-should-be, limited, not-right"},
		{"limited without words", installer, entryAt("device-0029", job.Inspected, "intake", "", "limited"), "says it in words"},
		{"a statement without words", installer, entryAt("device-0032", job.Inspected, "extent", "", "said"), "says it in words"},
		{"none, and words", installer, job.Entry{ID: "device-0033", Kind: job.Inspected, Subject: "limits", Value: "none", Reason: "but the loft", At: time.Now()}, "which of both"},
		{"looked at by who reads along", people.Person{Name: "B", Roles: people.Roles{people.Surveyor}}, entryAt("device-0034", job.Inspected, "intake", "", "as-it-should-be"), "may not"},
		{"a role that signs nothing", verifier, entryAt("device-0025", job.SignedOff, "weather", "", ""), "design, construction, testing"},
	} {
		t.Run(c.name, func(t *testing.T) {
			if _, err := a.Journal.Append(ctx, c.by, id, []job.Entry{c.e}, nil); err == nil || !strings.Contains(err.Error(), c.want) {
				t.Errorf("%s: %v, want %q", c.name, err, c.want)
			}
		})
	}
	if _, err := a.Journal.Append(ctx, installer, id, nil, nil); err == nil {
		t.Error("no entries at all are taken")
	}
	// One bad entry of several: none is written.
	_, err := a.Journal.Append(ctx, installer, id, []job.Entry{entryAt("device-0030", job.StepDone, "drill", "A", ""), entryAt("device-0031", job.StepDone, "board", "A", "")}, nil)
	if err == nil {
		t.Error("a batch with a bad entry is taken")
	}
	if v, _ = a.Jobs.Open(ctx, installer, id); len(v.Job.Log) != 1 {
		t.Errorf("%d entries after a refused batch", len(v.Job.Log))
	}
}

// TestTakenBackByRole: who may not write an entry may not take it back either, and nobody who
// reads along may take back anything.
func TestTakenBackByRole(t *testing.T) {
	a := newApp(t)
	id := imported(t, a, "uk-fail.json").Summary.ID
	write := func(by people.Person, e job.Entry) error {
		e.At = time.Now()
		_, err := a.Journal.Append(ctx, by, id, []job.Entry{e}, nil)
		return err
	}
	accepted := job.Entry{ID: "override-01", Kind: job.Overridden, Subject: "in-iz", Point: "A", Reason: "judged on site with the maker"}
	if err := write(verifier, accepted); err != nil {
		t.Fatal(err)
	}
	back := job.Entry{ID: "back-00001", Kind: job.TakenBack, Subject: "in-iz", Point: "A", Replaces: accepted.ID, Reason: "not by me, it was not"}
	if err := write(installer, back); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("a crew member: %v", err)
	}
	note := job.Entry{ID: "note-00001", Kind: job.Noted, Reason: "the dog is loose"}
	if err := write(installer, note); err != nil {
		t.Fatal(err)
	}
	of := job.Entry{ID: "back-00002", Kind: job.TakenBack, Replaces: note.ID, Reason: "it was a neighbour's dog"}
	if err := write(surveyor, of); err == nil || !strings.Contains(err.Error(), "wrote this") {
		t.Errorf("another person's note: %v", err)
	}
	if err := write(verifier, back); err != nil {
		t.Error(err)
	}
	v, err := a.Jobs.Open(ctx, office, id)
	if err != nil || !slices.Equal(v.Gone, []string{accepted.ID}) {
		t.Errorf("gone: %v %v", v.Gone, err)
	}
}

// TestFileSignsNothing: what a job file claims is kept with who read it in and its digest,
// binds nobody it names, and is printed as what it is; nothing else may say so.
func TestFileSignsNothing(t *testing.T) {
	a := newApp(t)
	file := exampleFile(t, "uk-pass.json")
	v, err := a.Jobs.Import(ctx, verifier, file)
	if err != nil {
		t.Fatal(err)
	}
	var claimed struct{ Log []json.RawMessage }
	if err := json.Unmarshal(file, &claimed); err != nil {
		t.Fatal(err)
	}
	for i, e := range v.Job.Log {
		canonical, err := jcs.Transform(claimed.Log[i])
		if err != nil {
			t.Fatal(err)
		}
		if sum := sha256.Sum256(canonical); e.Imported == nil || e.Imported.By != verifier.Name || e.Imported.Digest != hex.EncodeToString(sum[:]) {
			t.Errorf("%s %s: read in by %+v", e.Kind, e.Subject, e.Imported)
		}
	}
	findings, err := json.Marshal(v.Findings)
	if err != nil {
		t.Fatal(err)
	}
	for _, want := range []string{"signature for design", "signature for construction"} {
		if !strings.Contains(string(findings), want) {
			t.Errorf("a file signs: no finding asks for a %s", want)
		}
	}
	if _, err := a.Records.Seal(ctx, verifier, v.Summary.ID); err == nil {
		t.Error("a job is sealed on signatures of a file")
	}
	doc, err := a.Records.Preview(ctx, verifier, v.Summary.ID, records.Inspection)
	if err != nil {
		t.Fatal(err)
	}
	words, _ := json.Marshal(doc)
	if !strings.Contains(string(words), "by a file that "+verifier.Name+" read in") {
		t.Error("the record does not say that a file claims it")
	}
	// Off to another firm and back: the claim is kept, and who read it in last.
	out, err := json.Marshal(v.Job)
	if err != nil {
		t.Fatal(err)
	}
	again, err := newApp(t).Jobs.Import(ctx, people.Person{Name: "P. Okafor", Roles: people.Roles{people.Verifier}}, out)
	if err != nil {
		t.Fatal(err)
	}
	if e := again.Job.Log[0]; e.Imported.By != "P. Okafor" || e.By != v.Job.Log[0].By {
		t.Errorf("the second reading: %+v", e)
	}
	forged := entryAt("device-0077", job.Noted, "", "", "")
	forged.Reason, forged.Imported = "seen", &job.Import{By: "K. Osei", At: forged.At, Digest: strings.Repeat("0", 64)}
	if _, err := a.Journal.Append(ctx, installer, v.Summary.ID, []job.Entry{forged}, nil); err == nil || !strings.Contains(err.Error(), "imported") {
		t.Errorf("a device says that its entry is a file's: %v", err)
	}
}

// TestFileAnswersNobody: an answer before switching on that a file claims is none.
func TestFileAnswersNobody(t *testing.T) {
	var j job.Job
	if err := json.Unmarshal(exampleFile(t, "uk-pass.json"), &j); err != nil {
		t.Fatal(err)
	}
	i := slices.IndexFunc(j.Log, func(e job.Entry) bool { return e.Subject == worklog.Energise })
	j.Log = append(j.Log[:i:i], job.Entry{ID: "device-0050", Kind: job.StepDone, Subject: worklog.Answer, By: "T. Brandt", At: j.Log[i].At})
	file, err := json.Marshal(j)
	if err != nil {
		t.Fatal(err)
	}
	answered := func(v jobs.View) bool {
		book, err := rulebook.For(&v.Job)
		if err != nil {
			t.Fatal(err)
		}
		roll := worklog.Roll(&v.Job, book.In.Install.Outline(&v.Job))
		return slices.ContainsFunc(roll, func(a worklog.Answered) bool { return a.Name == "T. Brandt" && a.How != "" })
	}
	if v := put(t, newApp(t), file); !answered(v) {
		t.Fatal("an answer of one's own does not count")
	}
	v, err := newApp(t).Jobs.Import(ctx, verifier, file)
	if err != nil {
		t.Fatal(err)
	}
	if answered(v) {
		t.Error("an answer that a file claims counts")
	}
}

// TestEnergiseAsksEveryone: nobody switches on before everyone has answered.
func TestEnergiseAsksEveryone(t *testing.T) {
	a := newApp(t)
	var j job.Job
	if err := json.Unmarshal(exampleFile(t, "uk-pass.json"), &j); err != nil {
		t.Fatal(err)
	}
	i := slices.IndexFunc(j.Log, func(e job.Entry) bool { return e.Subject == "energise" })
	j.Log = j.Log[:i]
	file, _ := json.Marshal(j)
	v, err := a.Jobs.Import(ctx, verifier, file)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := a.Journal.Append(ctx, installer, v.Summary.ID, []job.Entry{entryAt("device-0001", job.StepDone, "energise", "", "K. Osei")}, nil); err == nil || !strings.Contains(err.Error(), "T. Brandt") {
		t.Errorf("the mate was not asked: %v", err)
	}
	v, err = a.Journal.Append(ctx, installer, v.Summary.ID, []job.Entry{entryAt("device-0002", job.StepDone, "energise", "", "K. Osei, T. Brandt")}, nil)
	if err != nil || !v.Isolation.Energised || v.Isolation.Proved {
		t.Errorf("%v, %+v", err, v.Isolation)
	}
}

func TestConcurrentAppends(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-fail.json")
	var wg sync.WaitGroup
	for w := range 8 {
		wg.Go(func() {
			for i := range 10 {
				e := job.Entry{ID: fmt.Sprintf("device-%d-%02d", w, i), Kind: job.Noted, Reason: "note", At: time.Now()}
				if _, err := a.Journal.Append(ctx, installer, v.Summary.ID, []job.Entry{e}, nil); err != nil {
					t.Error(err)
				}
			}
		})
	}
	wg.Wait()
	if v, _ = a.Jobs.Open(ctx, installer, v.Summary.ID); len(v.Job.Log) != 80 {
		t.Errorf("%d notes, 80 written", len(v.Job.Log))
	}
}

// TestSealAndAmend: a stop or an open finding keeps a job from being sealed; a
// sealed job takes no change; an amendment is a new issue that names the old.
func TestSealAndAmend(t *testing.T) {
	a := newApp(t)
	bad := imported(t, a, "uk-fail.json")
	if _, err := a.Records.Seal(ctx, verifier, bad.Summary.ID); !errors.Is(err, people.ErrBlocked) || !strings.Contains(err.Error(), "Open-PEN") {
		t.Errorf("a failing job: %v", err)
	}
	v := imported(t, a, "uk-pass.json")
	for _, p := range []people.Person{office, surveyor, installer} {
		if _, err := a.Records.Seal(ctx, p, v.Summary.ID); !errors.Is(err, people.ErrForbidden) {
			t.Errorf("sealed by %s: %v", p.Roles, err)
		}
	}
	v, err := a.Records.Seal(ctx, verifier, v.Summary.ID)
	if err != nil || !v.Summary.Sealed || len(v.Records) != 1 {
		t.Fatalf("%v %+v", err, v.Records)
	}
	id := v.Summary.ID
	if _, err := a.Records.Seal(ctx, verifier, id); !errors.Is(err, people.ErrSealed) {
		t.Errorf("sealed twice: %v", err)
	}
	if _, err := saveDesign(a, surveyor, v, func(d *job.Design) { d.Circuits[0].Setting = 16 }); !errors.Is(err, people.ErrSealed) {
		t.Errorf("edited by a stale page after the seal: %v", err)
	}
	if _, err := a.Journal.Append(ctx, installer, id, []job.Entry{{ID: "device-0001", Kind: job.Noted, Reason: "late", At: time.Now()}}, nil); !errors.Is(err, people.ErrSealed) {
		t.Errorf("logged after the seal: %v", err)
	}
	if _, err := a.Jobs.SetRulebook(ctx, office, id, "nec:2023"); !errors.Is(err, people.ErrSealed) {
		t.Errorf("rulebook changed after the seal: %v", err)
	}
	if _, err := a.Records.Amend(ctx, verifier, id, "typo"); err == nil {
		t.Error("an amendment without a reason in words")
	}
	if _, err := a.Records.Amend(ctx, installer, id, "serial number was wrong"); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("amended by the crew: %v", err)
	}
	v, err = a.Records.Amend(ctx, verifier, id, "serial number was wrong")
	if err != nil || v.Summary.Sealed || v.Amending == "" {
		t.Fatalf("%v %+v", err, v.Summary)
	}
	if _, err = saveDesign(a, surveyor, v, func(d *job.Design) { d.Circuits[0].Charger.Serial = "WU-0099" }); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Records.Seal(ctx, verifier, id); !errors.Is(err, people.ErrBlocked) || !strings.Contains(err.Error(), "Design signed") {
		t.Errorf("sealed with a signature for another design: %v", err)
	}
	if _, err := a.Journal.Append(ctx, surveyor, id, []job.Entry{entryAt("resign-0001", job.SignedOff, "design", "", "forged")}, nil); err != nil {
		t.Fatal(err)
	}
	// Another charger hangs there now: its tests are made again, and who built it signs again.
	if _, err := a.Records.Seal(ctx, verifier, id); !errors.Is(err, people.ErrBlocked) || !strings.Contains(err.Error(), "tested again") || !strings.Contains(err.Error(), "Construction signed") {
		t.Errorf("sealed with the tests of another charger: %v", err)
	}
	file := fmt.Sprintf(`{"format":%q,"readings":[{"point":"A","test":"firmware","value":"1.2","unit":"","instrument":"7F","at":%q}]}`, commission.FileFormat, time.Now().UTC().Format(time.RFC3339))
	if w, err := a.Journal.ImportReadings(ctx, installer, id, []byte(file)); err != nil || len(w.Records) != 1 {
		t.Errorf("a file read in while an amendment is open: %v, %d issues", err, len(w.Records))
	}
	retested(t, a, id)
	if v, err = a.Records.Seal(ctx, verifier, id); err != nil || len(v.Records) != 2 {
		t.Fatalf("%v, %d issues", err, len(v.Records))
	}
	var digests []string
	for issue := 1; issue <= 2; issue++ {
		for _, kind := range []records.SealedKind{"inspection", "handover", "record"} {
			p, err := a.Records.Paper(ctx, surveyor, id, issue, kind)
			if err != nil {
				t.Fatal(err)
			}
			checked, err := document.Verify(p.Data)
			if err != nil {
				t.Fatalf("issue %d, %s: %v", issue, kind, err)
			}
			if kind == "record" {
				digests = append(digests, checked.Sealed.Seal.Digest)
				if issue == 2 && (checked.Sealed.Record.Replaces != digests[0] || checked.Sealed.Record.Reason != "serial number was wrong") {
					t.Errorf("issue 2 replaces %q", checked.Sealed.Record.Replaces)
				}
			}
		}
	}
	if _, err := a.Records.Paper(ctx, office, id, 3, "record"); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("an issue that is not: %v", err)
	}
	if _, err := a.Records.Paper(ctx, office, id, 1, "poem"); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a paper that is not: %v", err)
	}
}

// TestOverrideLetsSeal: a verifier's reason lets a stop be sealed, and the
// record prints it.
func TestOverrideLetsSeal(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-pass.json")
	v, err := saveDesign(a, surveyor, v, func(d *job.Design) { d.Circuits[0].Charger.IP = "IP34" })
	if err != nil {
		t.Fatal(err)
	}
	if _, err := a.Journal.Append(ctx, surveyor, v.Summary.ID, []job.Entry{entryAt("resign-0001", job.SignedOff, "design", "", "")}, nil); err != nil {
		t.Fatal(err)
	}
	retested(t, a, v.Summary.ID)
	if _, err := a.Records.Seal(ctx, verifier, v.Summary.ID); !errors.Is(err, people.ErrBlocked) {
		t.Fatal(err)
	}
	if _, err := a.Journal.Append(ctx, verifier, v.Summary.ID, []job.Entry{{ID: "device-0001", Kind: job.Overridden, Subject: "ip", Point: "A", Reason: "closed cabinet of IP55 around it", At: time.Now()}}, nil); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Records.Seal(ctx, verifier, v.Summary.ID); !errors.Is(err, people.ErrBlocked) {
		t.Fatal("sealed while the certificate says that there is no departure: ", err)
	}
	told := job.Entry{ID: "device-0002", Kind: job.Inspected, Subject: "departures", Value: "said", Reason: "enclosure of the charger in a cabinet", At: time.Now()}
	if _, err := a.Journal.Append(ctx, verifier, v.Summary.ID, []job.Entry{told, entryAt("tested-0002", job.SignedOff, "testing", "", "")}, nil); err != nil {
		t.Fatal(err)
	}
	if v, err = a.Records.Seal(ctx, verifier, v.Summary.ID); err != nil {
		t.Fatal(err)
	}
	p, _ := a.Records.Paper(ctx, office, v.Summary.ID, 1, "record")
	if !strings.Contains(string(p.Data), "closed cabinet of IP55 around it") {
		t.Error("the record does not print the override")
	}
}

func TestSealNeedsFirm(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-pass.json")
	if err := a.store.Write(ctx, func(tx *store.Tx) error { return tx.Settings().Drop("contractor") }); err != nil {
		t.Fatal(err)
	}
	if _, err := a.Records.Seal(ctx, verifier, v.Summary.ID); !errors.Is(err, people.ErrBlocked) {
		t.Errorf("sealed without a firm: %v", err)
	}
}

// TestReadings: a readings file is taken whole or not at all, and once.
func TestReadings(t *testing.T) {
	a := newApp(t)
	v := tested(t, a, "uk-fail.json")
	proof := len(v.Job.Log)
	head := strings.Join(commission.FileColumns, ",") + "\n"
	good := head + "A,r1r2,0.19,Ω,tester 12,2026-05-04T09:10:00Z\nA,insulation,>999,MΩ,tester 12,2026-05-04T09:12:00Z\nA,rcd-time,0.024,s,tester 12,2026-05-04T09:20:00Z\n"
	for name, c := range map[string]struct{ file, want string }{
		"empty":         {"", "no heading"},
		"other heading": {"a,b\n", "line 1: the heading"},
		"only heading":  {head, "no readings"},
		"broken line":   {good + "A,zs\n", "line 5: has 2 fields"},
		"open quote":    {good + "A,zs,\"0.5,Ω,t,2026-05-04T09:10:00Z\n", "line 5"},
		"only a quote":  {head + "\"", "line 2"},
		"abc":           {good + "A,zs,abc,Ω,t,2026-05-04T09:10:00Z\n", `line 5: Earth loop at the charger, Zs: "abc" is not a reading`},
		"unit":          {good + "A,zs,0.5,furlong,t,2026-05-04T09:10:00Z\n", "line 5"},
		"test":          {good + "A,mood,0.5,Ω,t,2026-05-04T09:10:00Z\n", `line 5: "mood" is not a test`},
		"point":         {good + "Q,zs,0.5,Ω,t,2026-05-04T09:10:00Z\n", `line 5: "Q" is not a point`},
		"time":          {good + "A,zs,0.5,Ω,t,yesterday\n", "line 5: at"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := a.Journal.ImportReadings(ctx, installer, v.Summary.ID, []byte(c.file))
			if err == nil || !strings.Contains(err.Error(), c.want) {
				t.Errorf("%s: %v, want %q", name, err, c.want)
			}
		})
	}
	if w, _ := a.Jobs.Open(ctx, office, v.Summary.ID); len(w.Job.Log) != proof {
		t.Fatalf("%d entries after refused files", len(w.Job.Log)-proof)
	}
	if _, err := a.Journal.ImportReadings(ctx, surveyor, v.Summary.ID, []byte(good)); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("imported by a surveyor: %v", err)
	}
	for range 2 {
		w, err := a.Journal.ImportReadings(ctx, installer, v.Summary.ID, []byte("\xef\xbb\xbf"+good))
		if err != nil || len(w.Job.Log) != proof+3 {
			t.Fatalf("%v, %d entries", err, len(w.Job.Log))
		}
		for _, f := range w.Findings {
			if f.Rule == "rcd-time" && f.Value.V != 24 {
				t.Errorf("0.024 s reads as %g ms", f.Value.V)
			}
		}
	}
}

func TestOptionsAndParts(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-fail.json")
	list, currency, err := a.Workings.Options(ctx, surveyor, v.Summary.ID, "A", 0, 0, 0)
	if err != nil || currency != "" || len(list) < 20 || list[0].Cable.Size != "16 mm²" {
		t.Errorf("%v, %d options", err, len(list))
	}
	if list, _, err = a.Workings.Options(ctx, surveyor, v.Summary.ID, "A", 16, 20, 0); err != nil || list[0].Cable.Size != "6 mm²" {
		t.Errorf("at 16 A on 20 A: %v, %s", err, list[0].Cable.Size)
	}
	if _, _, err := a.Workings.Options(ctx, surveyor, v.Summary.ID, "Z", 0, 0, 0); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("point Z: %v", err)
	}
	parts, err := a.Workings.ProposeParts(ctx, office, v.Summary.ID)
	if err != nil {
		t.Fatal(err)
	}
	// 15 m of route, half a metre at each end and 5 % are 16.8 m, in whole metres.
	if i := slices.IndexFunc(parts, func(p job.Part) bool { return strings.HasPrefix(p.Name, "6 mm² twin and earth") }); i < 0 || parts[i].Quantity != 17 || parts[i].Unit != "m" {
		t.Errorf("%+v", parts)
	}
	fresh, err := a.Jobs.CreateJob(ctx, office, jobs.NewJob{Rulebook: "nec:2023", Points: 1})
	if err != nil {
		t.Fatal(err)
	}
	if _, _, err := a.Workings.Options(ctx, office, fresh.Summary.ID, "A", 0, 0, 0); err == nil || !strings.Contains(err.Error(), "setting") {
		t.Errorf("no setting: %v", err)
	}
	if _, _, err := a.Workings.Options(ctx, office, fresh.Summary.ID, "A", 48, 0, 0); err == nil || !strings.Contains(err.Error(), "route") {
		t.Errorf("no route: %v", err)
	}
	if _, err := a.Workings.ProposeParts(ctx, office, fresh.Summary.ID); err == nil {
		t.Error("parts of nothing")
	}
	if svg, err := a.Workings.OneLine(ctx, office, fresh.Summary.ID, "A"); err != nil || !strings.Contains(svg.SVG(), "cable not chosen") {
		t.Errorf("%v %s", err, svg.SVG())
	}
}

func TestSetRulebookChecksAgain(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-pass.json")
	v, err := a.Jobs.SetRulebook(ctx, office, v.Summary.ID, "nec:2023")
	if err != nil || v.Book.ID != "nec:2023" || v.Summary.Stops == 0 {
		t.Errorf("%v %+v", err, v.Summary)
	}
	if audit, _ := a.Jobs.Audit(ctx, office, v.Summary.ID); audit[0].Action != "change rulebook" || !strings.Contains(audit[0].Detail, "bs7671") {
		t.Errorf("%+v", audit[0])
	}
	if _, err := a.Jobs.SetRulebook(ctx, office, v.Summary.ID, "nec:1897"); err == nil {
		t.Error("an unknown edition")
	}
}

func TestPeople(t *testing.T) {
	a := newApp(t)
	token, err := a.People.SetUpToken(ctx)
	if err != nil || token == "" {
		t.Fatal(err, token)
	}
	first := people.NewUser{Username: "Office", Name: "P. Lindqvist", Password: "a long password"}
	if _, err := a.People.SetUp(ctx, "wrong", first); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("a wrong token: %v", err)
	}
	boss, err := a.People.SetUp(ctx, token, first)
	if err != nil || !boss.Roles.Has(people.Office) {
		t.Fatal(err)
	}
	if _, err := a.People.SetUp(ctx, token, people.NewUser{Username: "two", Name: "Two", Password: "a long password"}); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("the token a second time: %v", err)
	}
	if again, _ := a.People.SetUpToken(ctx); again != "" {
		t.Error("a set-up link although there are accounts")
	}
	if p, err := a.People.SignIn(ctx, " OFFICE ", "a long password", "", "here"); err != nil || p.Name != "P. Lindqvist" {
		t.Errorf("%+v %v", p, err)
	}
	for _, c := range [][2]string{{"office", "a wrong password"}, {"nobody", "a long password"}, {"", ""}} {
		if _, err := a.People.SignIn(ctx, c[0], c[1], "", "here"); !errors.Is(err, people.ErrSignIn) {
			t.Errorf("%q: %v", c[0], err)
		}
	}
	for _, c := range []struct {
		n    people.NewUser
		want string
	}{
		{people.NewUser{Username: "x", Name: "X", Roles: people.Roles{people.Installer}, Password: "a long password"}, "username"},
		{people.NewUser{Username: "xx", Roles: people.Roles{people.Installer}, Password: "a long password"}, "name"},
		{people.NewUser{Username: "xx", Name: "X", Roles: people.Roles{"king"}, Password: "a long password"}, "roles[0]"},
		{people.NewUser{Username: "xx", Name: "X", Roles: people.Roles{people.Installer}, Password: "short"}, "password"},
		{people.NewUser{Username: "office", Name: "X", Roles: people.Roles{people.Installer}, Password: "a long password"}, "username"},
	} {
		var fields schema.Errors
		if _, _, err := a.People.AddUser(ctx, boss, c.n); !errors.As(err, &fields) || fields[0].Field != c.want {
			t.Errorf("%+v: %v", c.n, err)
		}
	}
	mate, _, err := a.People.AddUser(ctx, boss, people.NewUser{Username: "mate", Name: "T. Brandt", Roles: people.Roles{people.Installer}, Password: "a long password"})
	if err != nil {
		t.Fatal(err)
	}
	if err := a.People.SetDisabled(ctx, boss, boss.ID, true); err == nil {
		t.Error("the office closes its own account")
	}
	if err := a.People.SetDisabled(ctx, boss, mate.ID, true); err != nil {
		t.Fatal(err)
	}
	if _, err := a.People.SignIn(ctx, "mate", "a long password", "", "here"); !errors.Is(err, people.ErrSignIn) {
		t.Errorf("a closed account signs in: %v", err)
	}
	if _, err := a.People.Person(ctx, mate.ID, false); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a closed account keeps its session: %v", err)
	}
}

func TestSealingKeyStays(t *testing.T) {
	a := newApp(t)
	k1, f1, err := a.Firm.PublicKey(ctx)
	if err != nil {
		t.Fatal(err)
	}
	if k2, f2, _ := a.Firm.PublicKey(ctx); k1 != k2 || f1 != f2 {
		t.Error("the key changes")
	}
}

func TestChargerTypes(t *testing.T) {
	a := newApp(t)
	ctx := context.Background()
	list, err := a.Firm.ChargerTypes(ctx, office)
	if err != nil || len(list) < 4 {
		t.Fatal(len(list), err)
	}
	// The firm's own come in whole, and stand first.
	own := `[{"format":"dogbolt.charger/1","id":"ours","school":"uk","charger":{"type":"our own unit","rating":32},"setting":{"kind":"app","steps":[16,32]},"source":"the section in the van"}]`
	if _, err := a.Firm.ReadTypes(ctx, installer, []byte(own)); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("a crew member reads in types: %v", err)
	}
	if _, err := a.Firm.ReadTypes(ctx, office, []byte(strings.Replace(own, "[16,32]", "[16,40]", 1))); err == nil || !strings.Contains(err.Error(), "40 A is more than its rating") {
		t.Errorf("a current above the rating: %v", err)
	}
	if _, err := a.Firm.ReadTypes(ctx, office, []byte(own)); err != nil {
		t.Fatal(err)
	}
	if list, err = a.Firm.ChargerTypes(ctx, office); err != nil || list[0].Type != "our own unit" {
		t.Errorf("%+v %v", list[0], err)
	}
	for _, c := range list {
		if c.Type == "" || c.Rating == 0 || c.Country != "uk" && c.Country != "us" {
			t.Errorf("%+v", c)
		}
	}
}

func BenchmarkOpenJob(b *testing.B) {
	a := newApp(b)
	v := imported(b, a, "uk-pass.json")
	for b.Loop() {
		if _, err := a.Jobs.Open(ctx, office, v.Summary.ID); err != nil {
			b.Fatal(err)
		}
	}
}

// BenchmarkAppend adds one entry a time to a log that has so many already.
func BenchmarkAppend(b *testing.B) {
	for _, length := range []int{0, 2_000, 20_000} {
		b.Run(fmt.Sprint(length), func(b *testing.B) {
			a := newApp(b)
			v := imported(b, a, "uk-fail.json")
			n := 0
			add := func(count int) {
				entries := make([]job.Entry, count)
				for i := range entries {
					n++
					entries[i] = job.Entry{ID: fmt.Sprintf("device-%08d", n), Kind: job.Noted, Reason: "note", At: time.Now()}
				}
				if _, err := a.Journal.Append(ctx, installer, v.Summary.ID, entries, nil); err != nil {
					b.Fatal(err)
				}
			}
			for range length / 500 {
				add(500)
			}
			for b.Loop() {
				add(1)
			}
		})
	}
}

// TestNearMisses: listed for the firm without names; with names for the office.
func TestNearMisses(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-fail.json")
	for i, e := range []job.Entry{{Subject: "near-miss", Value: "arc", Reason: "a tool came out marked"}, {Subject: "other", Reason: "a plain note"}, {Subject: "near-miss", Reason: "the ladder slid"}} {
		e.ID, e.Kind, e.At = fmt.Sprintf("device-%04d", i), job.Noted, time.Now().Add(time.Duration(i)*time.Second)
		if _, err := a.Journal.Append(ctx, installer, v.Summary.ID, []job.Entry{e}, nil); err != nil {
			t.Fatal(err)
		}
	}
	l, err := a.Journal.NearMisses(ctx, surveyor, false)
	if err != nil || len(l.List) != 2 || l.List[0].Words != "the ladder slid" || l.List[1].Kind != "arc" || l.List[0].By != "" || l.List[0].Number != "" || l.List[0].Town == "" {
		t.Errorf("%+v %v", l.List, err)
	}
	if _, err := a.Journal.NearMisses(ctx, verifier, true); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("names for a verifier: %v", err)
	}
	if l, err := a.Journal.NearMisses(ctx, office, true); err != nil || l.List[0].By != "K. Osei" || l.List[0].Number == "" {
		t.Errorf("%+v %v", l.List, err)
	}
	back := job.Entry{ID: "device-0009", Kind: job.TakenBack, Subject: "near-miss", Replaces: "device-0002", Reason: "on another site", At: time.Now().Add(3 * time.Second)}
	if _, err := a.Journal.Append(ctx, installer, v.Summary.ID, []job.Entry{back}, nil); err != nil {
		t.Fatal(err)
	}
	if l, err := a.Journal.NearMisses(ctx, surveyor, false); err != nil || len(l.List) != 1 || l.List[0].Kind != "arc" {
		t.Errorf("after one was taken back: %+v %v", l.List, err)
	}
}

// TestVariationFlipsAVerdict: a longer route flips the voltage drop from sound
// to stop at once, the design's signature stays, and the record prints both.
func TestVariationFlipsAVerdict(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-pass.json")
	id := v.Summary.ID
	e := job.Entry{ID: "device-8001", Kind: job.Varied, Point: "A", Subject: "route.length", Value: "90", Reason: "round the new extension", At: time.Now()}
	bad := e
	bad.Reason = "so"
	if _, err := a.Journal.Append(ctx, installer, id, []job.Entry{bad}, nil); err == nil || !strings.Contains(err.Error(), "reason in words") {
		t.Errorf("without a reason: %v", err)
	}
	bad = e
	bad.Value = "far"
	if _, err := a.Journal.Append(ctx, installer, id, []job.Entry{bad}, nil); err == nil || !strings.Contains(err.Error(), "not a number") {
		t.Errorf("not a length: %v", err)
	}
	if _, err := a.Journal.Append(ctx, office, id, []job.Entry{e}, nil); !errors.Is(err, people.ErrForbidden) {
		t.Errorf("by the office: %v", err)
	}
	v, err := a.Journal.Append(ctx, installer, id, []job.Entry{e}, nil)
	if err != nil {
		t.Fatal(err)
	}
	b, err := a.Journal.AsBuilt(ctx, office, id)
	if err != nil || len(b.Rows) != 1 || b.Rows[0].Designed != "16" || b.Rows[0].Built != "90" || b.Rows[0].By != "K. Osei" {
		t.Fatalf("%+v %v", b.Rows, err)
	}
	i := slices.IndexFunc(b.Changes, func(c rulebook.Change) bool { return c.Rule == "drop" })
	if i < 0 || b.Changes[i].Before != rulebook.Sound || b.Changes[i].After == rulebook.Sound {
		t.Errorf("%+v", b.Changes)
	}
	for _, f := range v.Findings {
		if f.Rule == "signed-design" && f.Verdict != rulebook.Sound {
			t.Errorf("the design's signature is gone: %s %s", f.Working, f.Missing)
		}
	}
	r := record.Record{Job: v.Job}
	if doc, _ := json.Marshal(record.Inspection(&r)); !strings.Contains(string(doc), "Built otherwise than designed") || !strings.Contains(string(doc), "round the new extension") {
		t.Error("the record does not print the variation")
	}
}

// TestSettingGuide: the switches follow the maker's table, and what is above the
// design or the breaker is not taken.
func TestSettingGuide(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "us-pass.json")
	id := v.Summary.ID
	s, err := a.Workings.SettingSheet(ctx, installer, id, "A")
	if err != nil || !s.Known || s.Wanted != 48 || s.Limit != 48 || len(s.Positions) != 3 || !s.Positions[0].On || s.Positions[1].On || !s.Positions[2].On || s.Torque == 0 {
		t.Errorf("%+v %v", s, err)
	}
	for value, want := range map[string]string{"50": "breaker ÷ 1.25", "lots": "not a reading"} {
		t.Run(value, func(t *testing.T) {
			if _, err := a.Journal.Append(ctx, installer, id, []job.Entry{entryAt("device-70"+value, job.SettingMade, "amps", "A", value)}, nil); err == nil || !strings.Contains(err.Error(), want) {
				t.Errorf("%s A: %v", value, err)
			}
		})
	}
	v, err = saveDesign(a, office, v, func(d *job.Design) { d.Circuits[0].Setting = 44 })
	if err != nil {
		t.Fatal(err)
	}
	if s, _ := a.Workings.SettingSheet(ctx, installer, id, "A"); !strings.Contains(s.Problem, "next lower is 40 A") || len(s.Positions) != 0 {
		t.Errorf("%+v", s)
	}
	if _, err := a.Journal.Append(ctx, installer, id, []job.Entry{entryAt("device-7148", job.SettingMade, "amps", "A", "48")}, nil); err == nil || !strings.Contains(err.Error(), "were designed") {
		t.Errorf("above the design: %v", err)
	}
	if _, err := saveDesign(a, office, v, func(d *job.Design) { d.Circuits[0].Charger.Type = "our own words" }); err != nil {
		t.Fatal(err)
	}
	if s, err := a.Workings.SettingSheet(ctx, installer, id, "A"); err != nil || s.Known {
		t.Errorf("%+v %v", s, err)
	}
}

// TestJudgedAnew: an entry that was judged while somebody saved a part of the job is judged
// again, with that part, before it is kept.
func TestJudgedAnew(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-pass.json")
	times := 0
	grown, err := a.Jobs.Grow(ctx, v.Summary.ID, "K. Osei", func(_ *store.Whole, j *job.Job) (jobs.Growth, error) {
		if times++; times == 1 {
			edit := jobs.Edit{Seen: v.Revisions["site"], Body: []byte(`{"customer":"N. Other"}`)}
			if _, err := a.Jobs.SaveSection(ctx, surveyor, v.Summary.ID, job.SiteSection, edit); err != nil {
				t.Fatal(err)
			}
		}
		e := job.Entry{ID: "device-anew-0001", Kind: job.Noted, Reason: "note", At: time.Now()}
		j.Log = append(j.Log, e)
		return jobs.Growth{Entries: []jobs.Added{{Entry: e, Field: "entries[0]"}}}, nil
	})
	if err != nil || times != 2 || grown.Job.Site.Customer != "N. Other" {
		t.Errorf("judged %d times, for %s: %v", times, grown.Job.Site.Customer, err)
	}
	if now, err := a.Jobs.Open(ctx, office, v.Summary.ID); err != nil || len(now.Job.Log) != len(v.Job.Log)+1 || now.State != grown.State {
		t.Errorf("%d entries, %v", len(now.Job.Log), err)
	}
}
