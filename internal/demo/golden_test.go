package demo

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"flag"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/loadmgmt"
	"dogbolt/core/planning"
	"dogbolt/core/record"
	"dogbolt/core/route"
	"dogbolt/core/rulebook"
	"dogbolt/core/sizing"
)

var update = flag.Bool("update", false, "write the golden files anew")

// part is one list of a golden file, a line for each of its things.
type part struct {
	name  string
	lines []any
}

func list[T any](name string, things []T) part {
	p := part{name: name}
	for _, t := range things {
		p.lines = append(p.lines, t)
	}
	return p
}

// digest stands for what is too long to keep: it shows that something changed,
// not what.
func digest(name string, v any) part {
	b, err := json.Marshal(v)
	if err != nil {
		panic(err)
	}
	sum := sha256.Sum256(b)
	if dir := os.Getenv("DOGBOLT_GOLDEN_DUMP"); dir != "" {
		os.WriteFile(filepath.Join(dir, name+"-"+hex.EncodeToString(sum[:4])+".json"), b, 0o644)
	}
	return part{name, []any{hex.EncodeToString(sum[:8])}}
}

// goldenOf is everything that the core says of a job, in a form that shows on
// one line what changed.
func goldenOf(t *testing.T, j *job.Job) []byte {
	t.Helper()
	book, err := rulebook.For(j)
	if err != nil {
		t.Fatal(err)
	}
	findings, err := rulebook.Check(j)
	if err != nil {
		t.Fatal(err)
	}
	in := book.In
	parts := []part{
		list("findings", rulebook.Lines(findings)),
		list("steps", in.Install.Plan(j)),
		list("pairs", in.Install.PairsOf(j)),
		list("papers", book.Proposals(j, book.Demand(j))),
		list("parts", in.Laying.TakeOff(j, route.Default)),
		digest("demand", book.Demand(j)),
		digest("visit", in.Survey.Of(&j.Survey, in.Photos)),
		digest("sheet", planning.SheetOf(j, &in.Install)),
	}
	for _, p := range j.Points() {
		p.Circuit.Point = p.ID
		parts = append(parts,
			list("tests "+p.ID, in.Tests.Sequence(p.Circuit)),
			list("terminals "+p.ID, in.Install.Terminals(p)),
			digest("route "+p.ID, in.Laying.Of(&p.Circuit, &p.Place, &j.Survey.Board, 0, route.Default)))
		arrangements, err := rulebook.Arrange(j, p.ID)
		if err != nil {
			t.Fatal(err)
		}
		parts = append(parts, digest("arrangements "+p.ID, arrangements))
		if p.Place.Surveyed() && p.Circuit.Setting > 0 {
			ask := sizing.Ask{Circuit: p.Circuit, Place: &p.Place, Supply: &j.Survey.Supply, Board: &j.Survey.Board}
			ask.Volts = in.Systems.Voltage(&j.Survey.Supply, max(p.Circuit.Charger.Phases, 1))
			parts = append(parts, digest("options "+p.ID, in.Sizing.Solve(ask)))
		}
	}
	if n, missing := loadmgmt.Of(j, 7, in.Systems); missing == "" {
		parts = append(parts, digest("ways", loadmgmt.Ways(n, in.Night.Services, in.Night.Usual)))
	}
	r := &record.Record{Format: record.Format, Issue: 1, Contractor: Firm, Edition: book.Name, Program: "test", SealedAt: time.Date(2026, 5, 5, 12, 0, 0, 0, time.UTC), SealedBy: "A. Nakagawa", Job: *j, Findings: rulebook.Lines(findings)}
	parts = append(parts, digest("inspection", record.Inspection(r)), digest("pack", record.Pack(r)))

	var out bytes.Buffer
	out.WriteString("{")
	for i, p := range parts {
		if i > 0 {
			out.WriteString(",")
		}
		out.WriteString("\n\"" + p.name + "\": [")
		for k, l := range p.lines {
			if k > 0 {
				out.WriteString(",")
			}
			var line bytes.Buffer
			enc := json.NewEncoder(&line)
			enc.SetEscapeHTML(false)
			if err := enc.Encode(l); err != nil {
				t.Fatal(err)
			}
			out.WriteString("\n " + strings.TrimSuffix(line.String(), "\n"))
		}
		out.WriteString("\n]")
	}
	out.WriteString("\n}\n")
	return out.Bytes()
}

// TestGolden compares all that the core says of every demo job and example with
// what it said before. An intended difference is written with -update, in a commit
// of its own.
func TestGolden(t *testing.T) {
	all := map[string]job.Job{}
	for _, d := range demoJobs(noon.Add(3 * time.Hour)) {
		all[d.Number+".json"] = d.Job
	}
	long, claim, apply := special(noon)
	for _, b := range append(inLine(noon), long, claim, apply) {
		all[b.Number+".json"] = b.Job
	}
	for _, c := range jurisdiction.Cases() {
		j, _ := c.Circuit()
		all["practice-"+c.Country+".json"] = j
	}
	for name, j := range Examples() {
		all["example-"+name] = j
	}
	folder := filepath.Join("testdata", "golden")
	for name, j := range all {
		t.Run(name, func(t *testing.T) {
			got := goldenOf(t, &j)
			file := filepath.Join(folder, name)
			if *update {
				if err := os.MkdirAll(folder, 0o755); err != nil {
					t.Fatal(err)
				}
				if err := os.WriteFile(file, got, 0o644); err != nil {
					t.Fatal(err)
				}
				return
			}
			want, err := os.ReadFile(file)
			if err != nil {
				t.Fatal(err)
			}
			old, now := strings.Split(string(want), "\n"), strings.Split(string(got), "\n")
			said := 0
			for i := 0; i < max(len(old), len(now)) && said < 5; i++ {
				var a, b string
				if i < len(old) {
					a = old[i]
				}
				if i < len(now) {
					b = now[i]
				}
				if a != b {
					said++
					t.Errorf("line %d\n was %s\n is  %s", i+1, a, b)
				}
			}
		})
	}
	kept, err := os.ReadDir(folder)
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range kept {
		if _, ok := all[f.Name()]; !ok {
			t.Errorf("%s is of no job any more: delete it", f.Name())
		}
	}
}
