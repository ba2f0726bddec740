package main

import (
	"bufio"
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/coder/websocket"
	"github.com/spf13/cobra"

	"dogbolt/core/books/uk"
	"dogbolt/core/commission"
	"dogbolt/core/rulebook"
	"dogbolt/internal/demo"
	"dogbolt/internal/httpapi"
	"dogbolt/internal/rooms"
	"dogbolt/internal/rooms/firm"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/rooms/records"
	"dogbolt/internal/standin"
	"dogbolt/internal/store"
	"dogbolt/internal/testkit/ruletest"
	"dogbolt/internal/testkit/schematest"
)

const examples = "../../docs/formats/examples/"

// run executes a command as the terminal would and returns what it printed and
// the code that it would exit with.
func run(t *testing.T, c *cobra.Command, args ...string) (string, int) {
	t.Helper()
	var out bytes.Buffer
	c.SetOut(&out)
	c.SetErr(io.Discard)
	c.SetArgs(args)
	c.SilenceErrors, c.SilenceUsage = true, true
	err := c.ExecuteContext(context.Background())
	var code exitCode
	switch {
	case err == nil:
		return out.String(), 0
	case errors.As(err, &code):
		return out.String(), int(code)
	}
	return out.String() + err.Error(), 2
}

func TestCheckExitCodes(t *testing.T) {
	broken := filepath.Join(t.TempDir(), "broken.json")
	newer := filepath.Join(t.TempDir(), "newer.json")
	os.WriteFile(broken, []byte("{"), 0o600)
	os.WriteFile(newer, []byte(`{"format":"dogbolt.job/7"}`), 0o600)
	for _, c := range []struct {
		args []string
		code int
		want string
	}{
		{[]string{examples + "uk-pass.json"}, 0, "0 stop, 0 open"},
		{[]string{examples + "us-pass.json"}, 0, "0 stop, 0 open"},
		{[]string{examples + "uk-fail.json"}, 1, "Iz = It 23.5 A"},
		{[]string{examples + "us-fail.json"}, 1, "NM-B is held to 60 °C"},
		{[]string{"no-such-file.json"}, 2, "no such file"},
		{[]string{broken}, 2, "line 1"},
		{[]string{newer}, 2, "version 7 is newer"},
		{[]string{examples + "uk-pass.json", "--format", "poem"}, 2, "not text or json"},
		{nil, 2, "arg"},
	} {
		out, code := run(t, checkCommand(), c.args...)
		if code != c.code || !strings.Contains(out, c.want) {
			t.Errorf("check %v: exit %d, %.300s; want %d, %q", c.args, code, out, c.code, c.want)
		}
	}
}

// TestCheckRefuses breaks each limit of the published schema in a job file: check
// exits with 2 and names the field.
func TestCheckRefuses(t *testing.T) {
	file := filepath.Join(t.TempDir(), "job.json")
	for _, c := range schematest.Cases(t, httpapi.JobSchema()) {
		if c.Valid {
			continue
		}
		if err := os.WriteFile(file, c.Doc, 0o600); err != nil {
			t.Fatal(err)
		}
		if out, code := run(t, checkCommand(), file); code != 2 || !strings.Contains(out, c.Field) {
			t.Errorf("%s: exit %d, %.300s", c.Name, code, out)
		}
	}
}

func TestCheckJSON(t *testing.T) {
	out, code := run(t, checkCommand(), examples+"uk-fail.json", "--format", "json")
	var report struct {
		Job, Edition, Notice string
		Findings             []struct{ Rule, Clause, Verdict, Value, Limit, Margin, Working string }
	}
	if err := json.Unmarshal([]byte(out), &report); err != nil || code != 1 {
		t.Fatal(err, code)
	}
	if report.Edition != "BS 7671:2018+A2:2022" || !strings.Contains(report.Notice, "later edition") {
		t.Errorf("%q %q", report.Edition, report.Notice)
	}
	for _, f := range report.Findings {
		if f.Rule == "in-iz" {
			if f.Verdict != "stop" || f.Value != "23.5 A" || f.Limit != "≥ 40 A" || f.Margin != "-41 %" || f.Clause == "" || f.Working == "" {
				t.Errorf("%+v", f)
			}
			return
		}
	}
	t.Error("no finding about the cable")
}

// TestNoSafe: nothing that is printed says safe.
func TestNoSafe(t *testing.T) {
	for _, name := range []string{"uk-pass.json", "us-fail.json"} {
		if out, _ := run(t, checkCommand(), examples+name); strings.Contains(strings.ToLower(out), "safe") {
			t.Errorf("%s: the report says safe", name)
		}
	}
}

// sealedFiles makes the demo in a folder and returns the sealed papers of one
// job there.
func sealedFiles(t *testing.T, data string) map[string]string {
	t.Helper()
	s, err := store.Open(databasePath(data))
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	ctx := context.Background()
	a := rooms.New(s, slog.New(slog.NewTextHandler(io.Discard, nil)), standin.Instruments{})
	outside, err := demo.Outside(data, time.Now())
	if err != nil {
		t.Fatal(err)
	}
	a.Connect(outside)
	if err := demo.Fill(ctx, a, time.Now()); err != nil {
		t.Fatal(err)
	}
	who := people.Person{Roles: people.Roles{people.Verifier}}
	found, err := a.Jobs.Jobs(ctx, who, store.Filter{Search: "DB-0401", Limit: 1})
	list := found.Jobs
	if err != nil || len(list) != 1 {
		t.Fatal(err, list)
	}
	files := map[string]string{}
	for _, kind := range []records.SealedKind{"inspection", "handover", "record"} {
		p, err := a.Records.Paper(ctx, who, list[0].ID, 1, kind)
		if err != nil {
			t.Fatal(err)
		}
		files[string(kind)] = filepath.Join(t.TempDir(), p.Name)
		if err := os.WriteFile(files[string(kind)], p.Data, 0o600); err != nil {
			t.Fatal(err)
		}
	}
	return files
}

func TestVerifyBackupRestore(t *testing.T) {
	data := t.TempDir()
	files := sealedFiles(t, data)
	var key string
	for kind, path := range files {
		if out, code := run(t, verifyCommand(), path); code != 1 || !strings.Contains(out, "anybody can make a key") {
			t.Errorf("%s, by whatever key: %d %s", path, code, out)
		}
		out, code := run(t, verifyCommand(), path, "--any-key")
		if code != 0 || !strings.Contains(out, "intact") || !strings.Contains(out, "DB-0401, issue 1") || !strings.Contains(out, "Quill and Beacon") || !strings.Contains(out, "since   not known from a file") {
			t.Errorf("%s: exit %d, %s", kind, code, out)
		}
		_, after, _ := strings.Cut(out, "key     ")
		key, _, _ = strings.Cut(after, "\n")
		b, _ := os.ReadFile(path)
		b[len(b)/3] ^= 1
		bent := filepath.Join(t.TempDir(), "bent")
		os.WriteFile(bent, b, 0o600)
		if out, code := run(t, verifyCommand(), bent); code != 1 || !strings.Contains(out, "NOT INTACT") {
			t.Errorf("%s with a changed byte: exit %d, %s", kind, code, out)
		}
	}
	if out, code := run(t, verifyCommand(), files["record"], "--key", key); code != 0 || !strings.Contains(out, "is the one given") {
		t.Errorf("with the firm's key: %d %s", code, out)
	}
	if out, code := run(t, verifyCommand(), files["record"], "--key", "0000 0000 0000 0000"); code != 1 || !strings.Contains(out, "NOT THE CONTRACTOR'S") {
		t.Errorf("with another key: %d %s", code, out)
	}
	if _, code := run(t, verifyCommand(), "no-such-file"); code != 2 {
		t.Errorf("no file: %d", code)
	}

	copyPath := filepath.Join(t.TempDir(), "copy.db")
	if out, code := run(t, backupCommand(), copyPath, "--data", data); code != 0 {
		t.Fatalf("backup: %s", out)
	}
	if out, code := run(t, backupCommand(), copyPath, "--data", data); code != 2 || !strings.Contains(out, "already there") {
		t.Errorf("backup over a file: %d %s", code, out)
	}
	if _, code := run(t, backupCommand(), filepath.Join(t.TempDir(), "x.db"), "--data", t.TempDir()); code != 2 {
		t.Errorf("backup of nothing: %d", code)
	}
	fresh := filepath.Join(t.TempDir(), "fresh")
	if out, code := run(t, restoreCommand(), copyPath, "--data", fresh); code != 0 {
		t.Fatalf("restore: %s", out)
	}
	if out, code := run(t, restoreCommand(), copyPath, "--data", fresh); code != 2 || !strings.Contains(out, "has a database already") {
		t.Errorf("restore over a database: %d %s", code, out)
	}
	s, err := store.Open(databasePath(fresh))
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	if list, err := s.Jobs(context.Background(), store.Filter{Limit: 50}); err != nil || list.Total != 44 || len(list.Jobs) != 44 {
		t.Errorf("restored %d jobs: %v", list.Total, err)
	}
}

// TestKeyAndDoctor: the key is left out of a copy unless it is asked for; a new one is made
// with a reason; the doctor says what is not as it was written, and ends with 1.
func TestKeyAndDoctor(t *testing.T) {
	data := t.TempDir()
	sealedFiles(t, data)
	plain, whole := filepath.Join(t.TempDir(), "plain.db"), filepath.Join(t.TempDir(), "whole.db")
	for _, c := range []struct {
		args []string
		key  bool
	}{{[]string{plain, "--data", data}, false}, {[]string{whole, "--data", data, "--with-key"}, true}} {
		if out, code := run(t, backupCommand(), c.args...); code != 0 {
			t.Fatal(out)
		}
		fresh := filepath.Join(t.TempDir(), "fresh")
		if out, code := run(t, restoreCommand(), c.args[0], "--data", fresh); code != 0 {
			t.Fatal(out)
		}
		b, err := os.ReadFile(filepath.Join(fresh, firm.KeyFile))
		old, _ := os.ReadFile(filepath.Join(data, firm.KeyFile))
		if there := err == nil && bytes.Equal(b, old); there != c.key || len(old) == 0 {
			t.Errorf("%v: the key is there: %t", c.args, there)
		}
		if out, code := run(t, doctorCommand(), "--data", fresh); code != 0 || !strings.Contains(out, "44 jobs looked at") || !strings.Contains(out, " 0 faults") {
			t.Errorf("%d %s", code, out)
		}
	}
	if out, code := run(t, keyCommand(), "new", "--data", data); code != 2 || !strings.Contains(out, "reason") {
		t.Errorf("without a reason: %d %s", code, out)
	}
	if out, code := run(t, keyCommand(), "new", "--data", data, "--why", "the office was broken into"); code != 0 {
		t.Errorf("%d %s", code, out)
	}
	if out, code := run(t, keyCommand(), "show", "--data", data); code != 0 || strings.Count(out, "since") != 2 || !strings.Contains(out, "the office was broken into") {
		t.Errorf("%d %s", code, out)
	}
	db, err := sql.Open("sqlite", databasePath(data))
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	for _, statement := range []string{"DROP TRIGGER entries_no_delete", "DELETE FROM entries WHERE seq = 1"} {
		if _, err := db.Exec(statement); err != nil {
			t.Fatal(err)
		}
	}
	if out, code := run(t, doctorCommand(), "--data", data); code != 1 || !strings.Contains(out, "is gone") {
		t.Errorf("%d %s", code, out)
	}
}

func TestUserAdd(t *testing.T) {
	data := t.TempDir()
	t.Setenv("DOGBOLT_PASSWORD", "a long password")
	if out, code := run(t, userCommand(), "add", "mate", "--data", data, "--name", "T. Brandt"); code != 0 || !strings.Contains(out, "T. Brandt as installer") {
		t.Errorf("%d %s", code, out)
	}
	t.Setenv("DOGBOLT_PASSWORD", "short")
	if out, code := run(t, userCommand(), "add", "two", "--data", data, "--name", "Two"); code != 2 || !strings.Contains(out, "password") {
		t.Errorf("%d %s", code, out)
	}
}

// TestDemoStages: the demo has a job in every stage, and the stops that a
// reader learns from.
func TestDemoStages(t *testing.T) {
	data := t.TempDir()
	sealedFiles(t, data)
	s, err := store.Open(databasePath(data))
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	list, err := s.Jobs(context.Background(), store.Filter{Limit: 100})
	if err != nil {
		t.Fatal(err)
	}
	stages, blockers, sealed := map[string]int{}, map[string]bool{}, 0
	for _, j := range list.Jobs {
		stages[j.Stage]++
		if j.Stops > 0 {
			blockers[j.Blocker] = true
		}
		if j.Sealed {
			sealed++
		}
	}
	for _, st := range []string{"survey", "design", "clearances", "plan", "install", "commission", "handover"} {
		if stages[st] == 0 {
			t.Errorf("no demo job in %s", st)
		}
	}
	for _, b := range []string{"Cable carries the breaker's rating", "Conductor at the terminals, 125 %", "Residual device trips in time", "Open-PEN protection", "Service load"} {
		if !blockers[b] {
			t.Errorf("no demo job is stopped by %q: %v", b, blockers)
		}
	}
	if sealed != 4 {
		t.Errorf("%d sealed demo jobs", sealed)
	}
}

// TestSimulateTester: the readings file of the stand-in is one that the program
// reads in, the same for the same seed, and shows the hidden fault.
func TestSimulateTester(t *testing.T) {
	example := "../../docs/formats/examples/uk-pass.json"
	slow, code := run(t, simulateCommand(), "tester", example, "--fault", "slow-rcd", "--seed", "7")
	if code != 0 || !strings.Contains(slow, "A,rcd-time,342,ms,stand-in 7,") || !strings.HasPrefix(slow, strings.Join(commission.FileColumns, ",")) {
		t.Fatalf("%d %s", code, slow)
	}
	if again, _ := run(t, simulateCommand(), "tester", example, "--fault", "slow-rcd", "--seed", "7"); again != slow {
		t.Error("the same seed shows something else")
	}
	s, err := store.Open(databasePath(t.TempDir()))
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	a := rooms.New(s, slog.New(slog.NewTextHandler(io.Discard, nil)), standin.Instruments{})
	j := ruletest.Example(t, example)
	noon := time.Date(2026, 5, 5, 11, 0, 0, 0, time.UTC)
	// A minute a reading from eleven: those before switching on come first.
	before := 0
	for _, x := range uk.Practice.Tests.Sequence(j.Design.Circuits[0]) {
		if x.Group.BeforeLive() {
			before++
		}
	}
	ruletest.SwitchedOn(&j, noon.Add(-10*time.Minute), noon.Add(time.Duration(before)*time.Minute-30*time.Second))
	verifier := people.Person{Name: "A. Nakagawa", Roles: people.Roles{people.Verifier}}
	v, err := a.Jobs.Put(context.Background(), verifier, j)
	if err != nil {
		t.Fatal(err)
	}
	v, err = a.Journal.ImportReadings(context.Background(), verifier, v.Summary.ID, []byte(strings.ReplaceAll(slow, "2026-05-04T1", "2026-05-05T1")))
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range v.Findings {
		if f.Rule == "rcd-time" && f.Verdict != rulebook.Stop {
			t.Errorf("342 ms is %s", f.Verdict)
		}
	}
	for _, bad := range [][]string{{"--fault", "gremlins"}, {"--point", "Z"}, {"--at", "noon"}} {
		if out, code := run(t, simulateCommand(), append([]string{"tester", example}, bad...)...); code == 0 {
			t.Errorf("%v: %s", bad, out)
		}
	}
}

// TestSimulateStreams: the stand-ins answer by themselves over a WebSocket.
func TestSimulateStreams(t *testing.T) {
	for kind, say := range map[string]struct{ order, want string }{
		"tester":  {`{"test":"ze"}`, `"unit":"Ω"`},
		"charger": {`{"state":"B"}`, `"state":"B"`},
	} {
		ctx, cancel := context.WithTimeout(context.Background(), 20*time.Second)
		defer cancel()
		out, in := io.Pipe()
		root := simulateCommand()
		root.SetOut(in)
		root.SetArgs([]string{kind, "../../docs/formats/examples/uk-pass.json", "--listen", "127.0.0.1:0"})
		ended := make(chan error, 1)
		go func() { ended <- root.ExecuteContext(ctx) }()
		address, err := bufio.NewReader(out).ReadString('\n')
		if err != nil {
			t.Fatal(err)
		}
		c, _, err := websocket.Dial(ctx, strings.TrimSpace(address), nil)
		if err != nil {
			t.Fatal(err)
		}
		if err := c.Write(ctx, websocket.MessageText, []byte(say.order)); err != nil {
			t.Fatal(err)
		}
		for {
			_, data, err := c.Read(ctx)
			if err != nil {
				t.Fatalf("%s: %v", kind, err)
			}
			if strings.Contains(string(data), say.want) {
				break
			}
		}
		c.CloseNow()
		cancel()
		if err := <-ended; err != nil {
			t.Errorf("%s: %v", kind, err)
		}
	}
}

// TestInTheOpen: a server that a network reaches without TLS says what that means.
func TestInTheOpen(t *testing.T) {
	for _, c := range []struct {
		ip     string
		tls    bool
		public string
		says   bool
	}{
		{"127.0.0.1", false, "", false},
		{"::1", false, "", false},
		{"0.0.0.0", false, "", true},
		{"::", false, "", true},
		{"192.0.2.7", false, "", true},
		{"192.0.2.7", true, "", false},
		{"192.0.2.7", false, "http://bolts.example", true},
		{"192.0.2.7", false, "https://bolts.example", false},
	} {
		said := inTheOpen(&net.TCPAddr{IP: net.ParseIP(c.ip), Port: 80}, c.tls, c.public)
		if (said != "") != c.says || c.says && !strings.Contains(said, "without TLS") {
			t.Errorf("%+v: %q", c, said)
		}
	}
}

// TestServingFlags: what is no folder of a host and no proxy is refused by its flag's name, and
// a server that browsers reach by TLS marks its cookies so.
func TestServingFlags(t *testing.T) {
	for _, c := range []struct {
		f    serving
		says string
	}{
		{serving{basePath: "/dogbolt/"}, ""},
		{serving{basePath: "dogbolt"}, "--base-path"},
		{serving{basePath: `/a"b`}, "--base-path"},
		{serving{trusted: []string{"127.0.0.1", "10.0.0.0/8", "::1"}}, ""},
		{serving{trusted: []string{"the proxy"}}, "--trusted-proxy"},
	} {
		o, err := c.f.options()
		if c.says == "" && err != nil || c.says != "" && (err == nil || !strings.Contains(err.Error(), c.says)) {
			t.Errorf("%+v: %v", c.f, err)
		}
		if err == nil && len(o.TrustedProxies) != len(c.f.trusted) {
			t.Errorf("%+v: %v", c.f, o.TrustedProxies)
		}
	}
	if o, err := (&serving{publicURL: "https://bolts.example"}).options(); err != nil || !o.TLS {
		t.Errorf("behind a proxy with TLS: %+v %v", o, err)
	}
}

// TestReachable: the address that is printed can be opened from another machine.
func TestReachable(t *testing.T) {
	for _, ip := range []string{"0.0.0.0", "::"} {
		host, port, err := net.SplitHostPort(reachable(&net.TCPAddr{IP: net.ParseIP(ip), Port: 8417}))
		if err != nil || port != "8417" || host == ip || host == "" {
			t.Errorf("%s: %s %s %v", ip, host, port, err)
		}
	}
	if got := reachable(&net.TCPAddr{IP: net.ParseIP("192.0.2.7"), Port: 80}); got != "192.0.2.7:80" {
		t.Error(got)
	}
}

// TestSentToTLS: who comes without TLS is sent to the same page with it.
func TestSentToTLS(t *testing.T) {
	if _, err := sendToTLS("127.0.0.1:0", &net.TCPAddr{Port: 443}, false); err == nil {
		t.Error("without a certificate")
	}
	for port, want := range map[int]string{443: "https://127.0.0.1/jobs?x=1", 8443: "https://127.0.0.1:8443/jobs?x=1"} {
		l, err := net.Listen("tcp", "127.0.0.1:0")
		if err != nil {
			t.Fatal(err)
		}
		from := l.Addr().String()
		l.Close()
		end, err := sendToTLS(from, &net.TCPAddr{IP: net.IPv4(127, 0, 0, 1), Port: port}, true)
		if err != nil {
			t.Fatal(err)
		}
		defer end()
		c := http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
		res, err := c.Get("http://" + from + "/jobs?x=1")
		if err != nil {
			t.Fatal(err)
		}
		res.Body.Close()
		if res.StatusCode != http.StatusPermanentRedirect || res.Header.Get("Location") != want {
			t.Errorf("%d to %s, want %s", res.StatusCode, res.Header.Get("Location"), want)
		}
	}
}
