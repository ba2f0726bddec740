package rooms

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"dogbolt/core/job"
	"dogbolt/core/rulebook"
	"dogbolt/core/schema"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/store"
	"dogbolt/internal/testkit/schematest"
)

// ofVersion1 is an example as version 1 of the format wrote it, with one text
// replaced.
func ofVersion1(t *testing.T, old, new string) []byte {
	t.Helper()
	s := strings.Replace(string(exampleFile(t, "uk-pass.json")), job.Format, "dogbolt.job/1", 1)
	if !strings.Contains(s, old) {
		t.Fatalf("the example has no %s", old)
	}
	return []byte(strings.Replace(s, old, new, 1))
}

// TestOldFiles: what version 1 took and version 2 refuses is set aside, named as open
// and never lost; a file of version 2 is refused for the same.
func TestOldFiles(t *testing.T) {
	for _, c := range []struct{ name, old, new, field, value string }{
		{"a word that there is not", `"inlet": "rear-right"`, `"inlet": "roof"`, "survey.vehicles[0].inlet", `"roof"`},
		{"a bound", `"ways": 12`, `"ways": -12`, "survey.board.ways", "-12"},
		{"no number of poles", `"poles": 2`, `"poles": 9`, "design.circuits[0].breaker.poles", "9"},
		{"a long text", `"town": "`, `"town": "` + strings.Repeat("x", 90), "site.town", `"xxx`},
		{"a thing that needs what is refused", `"kind": "cooker"`, `"kind": "toaster"`, "survey.loads[0]", `"kind":"toaster"`},
		{"a member that is null", `"town": "`, `"note": null, "town": "`, "", ""},
		{"an integer with a point", `"phases": 1`, `"phases": 1.0`, "", ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			a := newApp(t)
			file := ofVersion1(t, c.old, c.new)
			v, err := a.Jobs.Import(ctx, verifier, file)
			if err != nil {
				t.Fatal(err)
			}
			if c.field == "" {
				if len(v.Job.Refused) > 0 {
					t.Errorf("%+v", v.Job.Refused)
				}
				return
			}
			if len(v.Job.Refused) != 1 || v.Job.Refused[0].Field != c.field || !strings.Contains(v.Job.Refused[0].Value, c.value) {
				t.Fatalf("%+v", v.Job.Refused)
			}
			if f := openAbout(v, c.field); f == nil || !strings.Contains(f.Missing, v.Job.Refused[0].Why) {
				t.Errorf("not named as open: %+v", f)
			}
			if _, err := a.Jobs.Import(ctx, verifier, bytes.Replace(file, []byte("dogbolt.job/1"), []byte(job.Format), 1)); err == nil || !strings.Contains(err.Error(), c.field) {
				t.Errorf("the same in a file of today: %v", err)
			}
			// Exported and read again, it is still there.
			exported, err := json.Marshal(v.Job)
			if err != nil {
				t.Fatal(err)
			}
			if again, err := job.Read(exported); err != nil || len(again.Refused) != 1 || again.Refused[0] != v.Job.Refused[0] {
				t.Errorf("exported: %v %+v", err, again.Refused)
			}
		})
	}
}

func openAbout(v jobs.View, field string) *rulebook.Finding {
	for i, f := range v.Findings {
		if f.Rule == "refused-value" && f.Fields[0] == field && f.Verdict == rulebook.Open {
			return &v.Findings[i]
		}
	}
	return nil
}

// TestOldDatabases: a section and an entry that an older program wrote, with values
// that are refused today, open; what is refused stays when the section is saved, and
// goes when a person settles it, with what it was in the audit.
func TestOldDatabases(t *testing.T) {
	a := newApp(t)
	v := imported(t, a, "uk-pass.json")
	id := v.Summary.ID
	old := bytes.Replace(marshal(t, v.Job.Survey), []byte(`"inlet":"rear-right"`), []byte(`"inlet":"roof"`), 1)
	err := a.store.Write(ctx, func(tx *store.Tx) error {
		if _, err := tx.SaveSection(store.Section{JobID: id, Name: "survey", Body: old, By: "old"}, v.Revisions["survey"]); err != nil {
			return err
		}
		_, err := tx.AddEntry(store.Entry{ID: "old", JobID: id, Body: []byte(`{"id":"old","kind":"step","at":"2026-05-04T09:00:00Z"}`)})
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	const inlet = "survey.vehicles[0].inlet"
	v, err = a.Jobs.Open(ctx, verifier, id)
	if err != nil || len(v.Job.Refused) != 2 || openAbout(v, inlet) == nil || v.Job.Survey.Vehicles[0].Inlet != "" {
		t.Fatalf("%v %+v", err, v.Job.Refused)
	}
	entry := v.Job.Refused[1].Field
	if v.Job.Refused[0].Field != inlet {
		entry = v.Job.Refused[0].Field
	}
	v = saved(t, a, v, job.SurveySection, v.Job.Survey)
	if len(v.Job.Refused) != 2 {
		t.Fatalf("after saving: %+v", v.Job.Refused)
	}
	for _, field := range []string{inlet, entry} {
		if _, err := a.Jobs.SettleRefused(ctx, installer, id, field); err == nil {
			t.Error("an installer settles what the survey said")
		}
		if v, err = a.Jobs.SettleRefused(ctx, surveyor, id, field); err != nil {
			t.Fatal(err)
		}
	}
	if v, err = a.Jobs.Open(ctx, verifier, id); err != nil || len(v.Job.Refused) != 0 || openAbout(v, inlet) != nil {
		t.Errorf("settled: %v %+v", err, v.Job.Refused)
	}
	if _, err := a.Jobs.SettleRefused(ctx, surveyor, id, inlet); err == nil {
		t.Error("settled twice")
	}
	list, err := a.Jobs.Audit(ctx, surveyor, id)
	if err != nil || !strings.Contains(fmt.Sprint(list), `was "roof"`) {
		t.Errorf("the audit does not say what it was: %v", err)
	}
}

func marshal(t testing.TB, v any) []byte {
	t.Helper()
	b, err := json.Marshal(v)
	if err != nil {
		t.Fatal(err)
	}
	return b
}

// TestImportSaveExport: what import takes, at each limit of the schema, is saved
// section by section and exported unchanged, and the export is valid. A slice of the
// limits; -v tries all.
func TestImportSaveExport(t *testing.T) {
	a := newApp(t)
	published := schema.Of[job.Job]().Publish("urn:test", "test")
	judge := schematest.Judge(t, published)
	every := 25
	if testing.Verbose() {
		every = 1
	}
	tried := 0
	var whole any
	if err := json.Unmarshal(exampleFile(t, "us-pass.json"), &whole); err != nil {
		t.Fatal(err)
	}
	for i, c := range schematest.CasesOf(t, published, whole) {
		if !c.Valid || i%every != 0 || len(c.Doc) > 1<<20 {
			continue
		}
		j, err := job.Read(c.Doc)
		if err != nil {
			continue // fields that say something against each other
		}
		j.Number, j.Rulebook, j.Plan = fmt.Sprintf("T-%d", i), "nec:2023", job.Plan{}
		j.Log = j.Log[:min(len(j.Log), 3)] // they are tried whole elsewhere
		for k := range j.Log {
			j.Log[k].ID = fmt.Sprintf("entry-%d-%d", i, k)
		}
		v, err := a.Jobs.Import(ctx, verifier, marshal(t, j))
		if err != nil {
			continue // a plan or place that cannot be on any site
		}
		tried++
		for _, part := range job.Sections {
			if v.Job.Survey.Photos != nil && part.Name == job.SurveySection {
				continue // its pictures did not come along
			}
			v = saved(t, a, v, part.Name, part.Part(&v.Job))
		}
		out, err := a.Jobs.Export(ctx, verifier, v.Summary.ID)
		if err != nil {
			t.Fatal(err)
		}
		got := marshal(t, out)
		if err := schematest.Takes(judge, got); err != nil {
			t.Errorf("%s: the export is not valid: %v", c.Name, err)
		}
		if want := marshal(t, v.Job); !bytes.Equal(got, want) {
			t.Errorf("%s: exported\n%s\nwas\n%s", c.Name, got, want)
		}
	}
	if tried == 0 {
		t.Error("no case was taken")
	}
	t.Logf("%d documents", tried)
}

// TestKeptFiles: job files as programs of every earlier format wrote them are read in, open,
// and lose nothing.
func TestKeptFiles(t *testing.T) {
	files, err := filepath.Glob("testdata/job-*.json")
	if err != nil || len(files) < 4 {
		t.Fatal(files, err)
	}
	for _, name := range files {
		data, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		a := newApp(t)
		v, err := a.Jobs.Import(ctx, verifier, data)
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		opened, err := a.Jobs.Open(ctx, verifier, v.Summary.ID)
		if err != nil || len(opened.Findings) == 0 || opened.Job.Format != job.Format {
			t.Errorf("%s: %v, %d findings, %s", name, err, len(opened.Findings), opened.Job.Format)
		}
		var was struct{ Log []struct{ ID string } }
		if err := json.Unmarshal(data, &was); err != nil {
			t.Fatal(err)
		}
		if len(opened.Job.Log) != len(was.Log) || len(opened.Job.Refused) > 0 {
			t.Errorf("%s: %d entries of %d, set aside: %v", name, len(opened.Job.Log), len(was.Log), opened.Job.Refused)
		}
	}
}
