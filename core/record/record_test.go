package record_test

import (
	"crypto/ecdsa"
	"crypto/sha256"
	"encoding/base64"
	"encoding/json"
	"fmt"
	"math/big"
	"os"
	"slices"
	"strings"
	"testing"
	"time"

	_ "dogbolt/core/books" // the countries register themselves
	"dogbolt/core/job"
	"dogbolt/core/record"
	"dogbolt/core/rulebook"
	"dogbolt/internal/keyring"
	"dogbolt/internal/testkit/ruletest"
)

func sample(t testing.TB, name string) record.Record {
	t.Helper()
	j := ruletest.Example(t, "../../docs/formats/examples/"+name)
	findings, err := rulebook.Check(&j)
	if err != nil {
		t.Fatal(err)
	}
	return record.Record{
		Format: record.Format, Issue: 1, Contractor: record.Contractor{Name: "Quill and Beacon Electrical", Phone: "0100 555 0142"},
		Edition: "BS 7671:2018+A2:2022", Program: "test", SealedAt: time.Date(2026, 5, 4, 15, 30, 0, 0, time.UTC), SealedBy: "A. Nakagawa",
		Job: j, Findings: rulebook.Lines(findings),
	}
}

func TestSealAndOpen(t *testing.T) {
	r := sample(t, "uk-pass.json")
	file, seal, err := record.Sign(r, ruletest.Key(t))
	if err != nil {
		t.Fatal(err)
	}
	_, again, err := record.Sign(r, ruletest.Key(t))
	if err != nil || again.Digest != seal.Digest {
		t.Error("the same record has another digest")
	}
	s, err := record.Open(file)
	if err != nil {
		t.Fatal(err)
	}
	if s.Seal != seal || s.Record.Job.Number != r.Job.Number || len(s.Record.Findings) != len(r.Findings) {
		t.Errorf("opened as %+v", s.Seal)
	}
}

// TestEveryByteCounts flips bytes all over a sealed file, and each of the
// seal's: none goes unseen.
func TestEveryByteCounts(t *testing.T) {
	file, _, err := record.Sign(sample(t, "us-fail.json"), ruletest.Key(t))
	if err != nil {
		t.Fatal(err)
	}
	for i := range file {
		if i%13 != 0 && i < len(file)-300 {
			continue
		}
		old := file[i]
		file[i] ^= 0x01
		if _, err := record.Open(file); err == nil {
			t.Fatalf("byte %d, %q made %q, is not seen", i, old, file[i])
		}
		file[i] = old
	}
	if _, err := record.Open(append(file, ' ')); err == nil {
		t.Error("a space at the end is not seen")
	}
	if bent := strings.Replace(string(file), `"jws":"`, `"jws":"\n`, 1); bent == string(file) {
		t.Error("the file has no signature")
	} else if _, err := record.Open([]byte(bent)); err == nil {
		t.Error("a line end inside the signature is not seen")
	}
	if _, err := record.Open(file[:len(file)-1]); err == nil {
		t.Error("a missing byte is not seen")
	}
}

// TestOlderSeal: what was sealed before there were certificates is checked as it was then, byte
// for byte.
func TestOlderSeal(t *testing.T) {
	file, err := os.ReadFile("testdata/older-seal.json")
	if err != nil {
		t.Fatal(err)
	}
	if s, err := record.Open(file); err != nil || s.Seal.JWS != "" || s.Record.SealedBy != "A. Nakagawa" {
		t.Fatalf("%+v %v", s.Seal, err)
	}
	for i := len(file) - 250; i < len(file); i++ {
		file[i] ^= 0x01
		if _, err := record.Open(file); err == nil {
			t.Fatalf("byte %d is not seen", i)
		}
		file[i] ^= 0x01
	}
}

// TestSealIsJWS: the seal is what the library of another standard's own takes: a detached JWS
// over the canonical record with the certificate's key (RFC 7515, appendix F). It is checked
// by hand here: ES256 is ECDSA over SHA-256 of header.payload, r and s of 32 bytes each
// (RFC 7518, 3.4).
func TestSealIsJWS(t *testing.T) {
	r := sample(t, "uk-pass.json")
	_, seal, err := record.Sign(r, ruletest.Key(t))
	if err != nil {
		t.Fatal(err)
	}
	body, err := record.Canonical(r)
	if err != nil {
		t.Fatal(err)
	}
	parts := strings.Split(seal.JWS, ".")
	if len(parts) != 3 || parts[1] != "" {
		t.Fatalf("not detached: %s", seal.JWS)
	}
	sig, err := base64.RawURLEncoding.DecodeString(parts[2])
	if err != nil || len(sig) != 64 {
		t.Fatal(len(sig), err)
	}
	digest := sha256.Sum256([]byte(parts[0] + "." + base64.RawURLEncoding.EncodeToString(body)))
	public := ruletest.Key(t).Certificate.PublicKey.(*ecdsa.PublicKey)
	if !ecdsa.Verify(public, digest[:], new(big.Int).SetBytes(sig[:32]), new(big.Int).SetBytes(sig[32:])) {
		t.Error("the signature is not of the record")
	}
}

// TestCertificateCounts: the certificate of a seal is the one that it was signed with.
func TestCertificateCounts(t *testing.T) {
	r := sample(t, "uk-pass.json")
	body, err := record.Canonical(r)
	if err != nil {
		t.Fatal(err)
	}
	seal, err := ruletest.Key(t).SealBytes(body)
	if err != nil {
		t.Fatal(err)
	}
	other, err := keyring.New("Somebody else", time.Now())
	if err != nil {
		t.Fatal(err)
	}
	strange, err := other.SealBytes(body)
	if err != nil {
		t.Fatal(err)
	}
	for name, change := range map[string]func(*record.Seal){
		"certificate of another": func(s *record.Seal) { s.Certificate = strange.Certificate },
		"key of another":         func(s *record.Seal) { s.Key = strange.Key },
		"both of another":        func(s *record.Seal) { s.Key, s.Certificate = strange.Key, strange.Certificate },
		"signature of another":   func(s *record.Seal) { s.JWS = strange.JWS },
		"an older signature too": func(s *record.Seal) { s.Signature = "AAAA" },
		"no JWS":                 func(s *record.Seal) { s.JWS = "" },
	} {
		s := seal
		change(&s)
		if s.Check(body) == nil {
			t.Errorf("%s is not seen", name)
		}
	}
	if err := strange.Check(body); err != nil {
		t.Errorf("a stranger's whole seal: %v", err)
	}
}

func TestOpenSaysWhy(t *testing.T) {
	file, _, _ := record.Sign(sample(t, "uk-pass.json"), ruletest.Key(t))
	spaced := strings.Replace(string(file), `{"record"`, `{ "record"`, 1)
	for name, c := range map[string]struct{ file, want string }{
		"nothing":      {"", "not a sealed record"},
		"other JSON":   {`{"a":1}`, "no record or no seal"},
		"saved again":  {spaced, "not in the form"},
		"value":        {strings.Replace(string(file), `"setting":32`, `"setting":16`, 1), "digest does not agree"},
		"other digest": {strings.Replace(string(file), `"digest":"`, `"digest":"0`, 1), "digest does not agree"},
	} {
		t.Run(name, func(t *testing.T) {
			if _, err := record.Open([]byte(c.file)); err == nil || !strings.Contains(err.Error(), c.want) {
				t.Errorf("%s: %v, want %q", name, err, c.want)
			}
		})
	}
}

// TestCanonical: the published example of RFC 8785, section 3.2.4.
func TestCanonical(t *testing.T) {
	var v any
	if err := json.Unmarshal([]byte(`{"numbers":[333333333.33333329,1E30,4.50,2e-3,0.000000000000000000000000001],"string":"\u20ac$\u000F\u000aA'\u0042\u0022\u005c\\\"\/","literals":[null,true,false]}`), &v); err != nil {
		t.Fatal(err)
	}
	got, err := record.Canonical(v)
	if err != nil {
		t.Fatal(err)
	}
	want := `{"literals":[null,true,false],"numbers":[333333333.3333333,1e+30,4.5,0.002,1e-27],"string":"€$\u000f\nA'B\"\\\\\"/"}`
	if string(got) != want {
		t.Errorf("%s\nwant %s", got, want)
	}
}

func TestBlocking(t *testing.T) {
	list := record.Blocking([]rulebook.Finding{{Verdict: rulebook.Sound}, {Verdict: rulebook.Watch}, {Verdict: rulebook.Open}, {Verdict: rulebook.Stop}, {Verdict: rulebook.Stop, OverriddenBy: "x"}})
	if len(list) != 2 {
		t.Errorf("%d block", len(list))
	}
}

func TestCodes(t *testing.T) {
	if got := record.Code("8b63fe951194ae83ffff"); got != "8b63 fe95 1194 ae83" {
		t.Errorf("%q", got)
	}
	if got := record.Code("abc"); got != "abc" {
		t.Errorf("%q", got)
	}
	if got := record.Fingerprint("not base64"); got != "unreadable key" {
		t.Errorf("%q", got)
	}
}

// all returns everything that a document says.
func all(d record.Document) string {
	var b strings.Builder
	for _, blk := range d.Blocks {
		b.WriteString(blk.Heading + "\n" + strings.Join(blk.Text, "\n") + "\n")
		for _, p := range blk.Pairs {
			b.WriteString(p[0] + ": " + p[1] + "\n")
		}
		if blk.Table != nil {
			for _, r := range blk.Table.Rows {
				b.WriteString(strings.Join(r, " | ") + "\n")
			}
		}
	}
	return b.String()
}

// TestInspectionSaysAll: what an inspector looks for is in the record.
func TestInspectionSaysAll(t *testing.T) {
	r := sample(t, "uk-pass.json")
	// A failed reading, its cause, and the retest.
	j := &r.Job
	for i := range j.Log {
		if j.Log[i].Subject == "rcd-time" {
			j.Log[i].Value = "342"
			again := j.Log[i]
			again.ID, again.Value, again.Replaces, again.Reason = "retest-0001", "24", j.Log[i].ID, "device replaced"
			j.Log = append(j.Log, again)
			break
		}
	}
	j.Log = append(j.Log, job.Entry{ID: "override-01", Kind: job.Overridden, Point: "A", Subject: "spd", By: "A. Nakagawa", Reason: "owner declares the loss tolerable"})
	r.Findings = append(r.Findings, rulebook.Line{Title: "Surge protection decided", Clause: "443.4.1", Verdict: "stop", By: "A. Nakagawa", Reason: "owner declares the loss tolerable"})
	// A step that was taken back, and done anew.
	k := slices.IndexFunc(j.Log, func(e job.Entry) bool { return e.Kind == job.StepDone && e.Subject == "backplate" })
	anew := j.Log[k]
	anew.ID = "plate-0002"
	j.Log = append(j.Log, job.Entry{ID: "back-0001", Kind: job.TakenBack, Subject: "backplate", Point: "A", Replaces: j.Log[k].ID, By: "K. Osei", Reason: "the plate is on the wrong wall"}, anew)
	for i, was := range []job.Entry{
		{ID: "gone-0001", Kind: job.ReadingMade, Subject: "dead:L-N", Value: "0"}, {ID: "gone-0002", Kind: job.ReadingMade, Point: "A", Subject: "zs", Value: "0.4"},
		{ID: "gone-0003", Kind: job.Varied, Point: "A", Subject: "route.length", Value: "90"}, {ID: "gone-0004", Kind: job.Overridden, Point: "A", Subject: "in-iz"},
		{ID: "gone-0005", Kind: job.SignedOff, Subject: "design"},
	} {
		j.Log = append(j.Log, was, job.Entry{ID: fmt.Sprintf("back-%04d", 10+i), Kind: job.TakenBack, Subject: was.Subject, Point: was.Point, Replaces: was.ID, By: "K. Osei"})
	}
	text := all(record.Inspection(&r))
	for _, want := range []string{
		"Taken back: Prove dead, L-N", "Taken back: Earth loop at the charger, Zs", "Taken back: variation, ", "Taken back: override, Cable carries", "Taken back: signature, design",
		"taken back by K. Osei", "Taken back: Back plate fixed", "the plate is on the wrong wall",
		"E. Marlowe", "3 Sailmaker's Row, Quillmouth", "TN-C-S (PME)", "100 A", "0.35 Ω", "B40 A", "type A, 30 mA", "6 mm²", "16 m",
		"wall unit 32 A", "WU-0001", "32 A", "R1 + R2, line to earth", "0.10 Ω", ">999 MΩ", "≤ 300 ms", "tester 7F-2208",
		"342 ms", "replaced", "24 ms", "device replaced", "lock 3", "Prove dead, L-N", "Torque, breaker, line", "2.5 N·m, label 2.5",
		"433.1.1(ii)", "A. Nakagawa. Reason: owner declares", "Design: M. Farrant", "Construction: K. Osei", "Inspection and testing: K. Osei", "Sealed by: A. Nakagawa",
		"A later edition or amendment may be in force",
	} {
		if !strings.Contains(text, want) {
			t.Errorf("the inspection record does not say %q", want)
		}
	}
	if strings.Contains(strings.ToLower(text), "safe") {
		t.Error("the inspection record says safe")
	}
}

// TestSerialOffThePlate: a serial number that was read on site is printed where the design has none.
func TestSerialOffThePlate(t *testing.T) {
	r := sample(t, "uk-pass.json")
	r.Job.Design.Circuits[0].Charger.Serial = ""
	r.Job.Log = append(r.Job.Log, job.Entry{ID: "plate-serial", Kind: job.ReadingMade, Point: "A", Subject: "serial", Value: "WU-4711"})
	for name, d := range map[string]record.Document{"inspection": record.Inspection(&r), "pack": record.Pack(&r)} {
		if !strings.Contains(all(d), "serial WU-4711") {
			t.Errorf("the %s does not say it", name)
		}
	}
}

func TestPackSaysAll(t *testing.T) {
	for name, wants := range map[string][]string{
		"uk-pass.json": {"32 A, on a breaker of 40 A", "The charger decides: leave the timer of the other one off", "every six months", "up to 600 s late", "residual device trips", "still to be sent by 1 Jun 2026", "beside the charger", "No extension leads", "Network operator", "0100 555 0142", "cover sealed"},
		"us-pass.json": {"48 A, on a breaker of 60 A", "at the board: panel on the garage wall", "Electrical permit", "answered Apr 25, 2026", "the customer owns the house"},
	} {
		t.Run(name, func(t *testing.T) {
			r := sample(t, name)
			text := all(record.Pack(&r))
			for _, want := range wants {
				if !strings.Contains(text, want) {
					t.Errorf("%s: the pack does not say %q", name, want)
				}
			}
			if strings.Contains(strings.ToLower(text), "safe") {
				t.Errorf("%s: the pack says safe", name)
			}
		})
	}
}

// TestFirstPage: what a qualified person accepted and what was built otherwise stand before all
// else of the record.
func TestFirstPage(t *testing.T) {
	r := sample(t, "uk-pass.json")
	r.Job.Log = append(r.Job.Log, job.Entry{ID: "varied-001", Kind: job.Varied, Point: "A", Subject: "place.name", Value: "gable", Reason: "the wall is damp", By: "K. Osei"})
	r.Findings = append(r.Findings, rulebook.Line{Title: "Surge protection decided", Clause: "443.4.1", Verdict: "stop", By: "A. Nakagawa", Reason: "owner declares the loss tolerable"})
	r.Job.Index()
	var headings []string
	for _, b := range record.Inspection(&r).Blocks {
		headings = append(headings, b.Heading)
	}
	if want := []string{"Installation", "Stops accepted by a qualified person", "Built otherwise than designed", "Supply and earthing"}; !slices.Equal(headings[:4], want) {
		t.Errorf("%q", headings)
	}
}

// TestPackIsOfTheJob: the pack speaks of what the job has, and of nothing else.
func TestPackIsOfTheJob(t *testing.T) {
	for _, c := range []struct {
		name   string
		change func(*job.Job)
		says   string
		want   bool // it says so
	}{
		{"us-pass.json", func(j *job.Job) { j.Design.Circuits[0].RCD = job.RCD{} }, "residual", false},
		{"us-pass.json", func(*job.Job) {}, "beside the charger", false},
		{"us-pass.json", func(*job.Job) {}, "Test button", false},
		{"us-pass.json", func(j *job.Job) {
			j.Design.Circuits[0].Connection, j.Design.Circuits[0].Receptacle.GFCI = job.PluggedIn, job.Yes
		}, "ground-fault protection every month", true},
		{"uk-pass.json", func(j *job.Job) { j.Design.Circuits[0].RCD.Fitted = job.No }, "six months", false},
		{"uk-pass.json", func(*job.Job) {}, "he whole supply", false},
		{"uk-pass.json", func(*job.Job) {}, "a year of house", false},
		{"uk-pass.json", func(j *job.Job) { j.Design.Circuits[0].ManagedTo = 60 }, "he whole supply is kept to 60 A a phase", true},
		{"uk-pass.json", func(j *job.Job) { j.Design.Circuits[0].Charger.Outlet = job.Socket }, "Plug your cord into the charger first", true},
		{"uk-pass.json", func(j *job.Job) {
			j.Design.Money = job.Money{Flat: 0.30, Day: 0.35, Night: 0.10, NightFrom: "00:30", NightTo: "05:30", House: 3000, HouseNight: 0.1, Distance: 12000, KmPerKWh: 6, Fuel: 1.4, KmPerLitre: 15}
		}, "a year of house and car £", true},
		{"uk-pass.json", func(j *job.Job) {
			j.Design.Money = job.Money{Flat: 0.30, Day: 0.35, Night: 0.10, NightFrom: "00:30", NightTo: "05:30", Distance: 12000, KmPerKWh: 6}
		}, "a year of the car alone £", true},
		{"us-pass.json", func(*job.Job) {}, "still to be passed by Jun 1, 2026", true},
		{"uk-pass.json", func(j *job.Job) { j.Paper("operator").Needed = job.Unasked }, "not decided yet", true},
		{"uk-pass.json", func(j *job.Job) {
			j.Log = append(j.Log, job.Entry{ID: "paper-001", Kind: job.PaperMoved, Subject: "operator", Value: "sent", Day: "2026-05-12", Reason: "N-7"})
		}, "sent 12 May 2026, N-7", true},
	} {
		r := sample(t, c.name)
		c.change(&r.Job)
		r.Job.Index()
		if says := strings.Contains(all(record.Pack(&r)), c.says); says != c.want {
			t.Errorf("%s: says %q: %v", c.name, c.says, says)
		}
	}
}

// TestCorrectionsInTheRecord: what inspectors asked for is printed with its day, by whom it was put right and how, and the
// answers of papers are words.
func TestCorrectionsInTheRecord(t *testing.T) {
	r := sample(t, "us-pass.json")
	at := r.Job.Log[len(r.Job.Log)-1].At
	r.Job.Log = append(r.Job.Log,
		job.Entry{ID: "asked-001", Kind: job.CorrectionAsked, At: at, By: "R. Delacroix", Subject: "final", Value: "panel-work", Day: "2026-05-04", Reason: "two grounds under one screw"},
		job.Entry{ID: "asked-002", Kind: job.CorrectionAsked, At: at, By: "R. Delacroix", Subject: "final", Value: job.OtherThing, Day: "2026-05-04", Reason: "address sign by the drive"},
		job.Entry{ID: "right-001", Kind: job.PutRight, At: at, By: "J. Whitlock", Subject: "asked-001", Reason: "each on its own screw"})
	r.Job.Index()
	text := all(record.Inspection(&r))
	for _, says := range []string{
		"Asked by inspectors", "Final inspection, May 4, 2026", "two grounds under one screw (noted by R. Delacroix)",
		"each on its own screw, J. Whitlock, ", "address sign by the drive (noted by R. Delacroix)", "not yet",
		"May 4, 2026 sent back, two grounds under one screw; address sign by the drive",
	} {
		if !strings.Contains(text, says) {
			t.Errorf("the record does not say %q", says)
		}
	}
	if strings.Contains(text, "bounced") {
		t.Error("the record prints a code")
	}
}

// TestTablesFit: the columns of every table of every paper fit on its page, and a row has as many cells as there are columns.
func TestTablesFit(t *testing.T) {
	for _, name := range []string{"uk-pass.json", "us-pass.json", "uk-fail.json", "us-fail.json"} {
		r := sample(t, name)
		r.Job.Index()
		for _, d := range []record.Document{record.Certificate(&r), record.Inspection(&r), record.Pack(&r), record.Package(&r)} {
			for _, blk := range d.Blocks {
				if blk.Table == nil {
					continue
				}
				sum := 0.0
				for _, c := range blk.Table.Columns {
					sum += c.Share
				}
				if sum > 1.0001 {
					t.Errorf("%s, %s, %s: %g of the width", name, d.Title, blk.Heading, sum)
				}
				for _, row := range blk.Table.Rows {
					if len(row) != len(blk.Table.Columns) {
						t.Errorf("%s, %s, %s: %d cells in %d columns", name, d.Title, blk.Heading, len(row), len(blk.Table.Columns))
					}
				}
			}
		}
	}
}

// TestUSUnits: lengths follow the rulebook.
func TestUSUnits(t *testing.T) {
	r := sample(t, "us-pass.json")
	if text := all(record.Inspection(&r)); !strings.Contains(text, "Route: 40.0 ft") || strings.Contains(text, "Ze declared") {
		t.Error("the American record is not in feet, or asks for Ze")
	}
}

// TestAmendmentNamesTheOld: a second issue says what it replaces, and why.
func TestAmendmentNamesTheOld(t *testing.T) {
	r := sample(t, "uk-pass.json")
	r.Issue, r.Replaces, r.Reason = 2, "8b63fe951194ae83ffff", "serial number corrected"
	if text := all(record.Inspection(&r)); !strings.Contains(text, "Replaces issue: 8b63 fe95 1194 ae83, serial number corrected") {
		t.Error("the amendment does not name the old issue")
	}
}

// TestKeptIsMarked: what a device kept before it reached the server is marked so, in
// every table where it stands.
func TestKeptIsMarked(t *testing.T) {
	r := sample(t, "uk-pass.json")
	marked := map[job.EntryKind]bool{job.StepDone: true, job.ReadingMade: true, job.TorqueMade: true, job.SettingMade: true}
	n := 0
	for i := range r.Job.Log {
		if e := &r.Job.Log[i]; marked[e.Kind] {
			e.Arrived = time.Date(2026, 5, 4, 17, 45, 0, 0, time.UTC)
			n++
		}
	}
	got := strings.Count(all(record.Inspection(&r)), "kept on the device, arrived 4 May 2026 17:45")
	if got != n {
		t.Errorf("%d of %d entries are marked", got, n)
	}
}
