package httpapi

import (
	"bytes"
	"encoding/json"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"dogbolt/internal/app"
)

// TestFeedNeedsItsAddress: a calendar is served to whoever knows its address,
// and to nobody else.
func TestFeedNeedsItsAddress(t *testing.T) {
	s := newSite(t, Options{})
	_, body := s.as(app.Office).do("GET", "/api/feeds", "")
	var feeds struct{ Path string }
	if err := json.Unmarshal([]byte(body), &feeds); err != nil || !strings.HasPrefix(feeds.Path, "/feeds/") {
		t.Fatalf("%s %v", body, err)
	}
	res := s.visitor().send("GET", feeds.Path+"deadlines.ics", "")
	if res.StatusCode != http.StatusOK || !strings.HasPrefix(res.Header.Get("Content-Type"), "text/calendar") {
		t.Errorf("%d %s", res.StatusCode, res.Header.Get("Content-Type"))
	}
	for _, path := range []string{"/feeds/wrong/deadlines.ics", feeds.Path + "crew-west.ics", feeds.Path + "%2e%2e%2fsecret.ics"} {
		if status, _ := s.visitor().do("GET", path, ""); status != http.StatusNotFound {
			t.Errorf("%s: %d", path, status)
		}
	}
}

// TestFeedAddressIsNotLogged: the address is the secret, and logs are read.
func TestFeedAddressIsNotLogged(t *testing.T) {
	var lines bytes.Buffer
	s := &server{log: slog.New(slog.NewTextHandler(&lines, nil))}
	h := s.logRequests(http.NotFoundHandler())
	for _, path := range []string{"/feeds/SECRETSECRET/deadlines.ics", "/api/stock"} {
		h.ServeHTTP(httptest.NewRecorder(), httptest.NewRequest("GET", path, nil))
	}
	if got := lines.String(); strings.Contains(got, "SECRET") || !strings.Contains(got, "/feeds/…") || !strings.Contains(got, "/api/stock") {
		t.Error(got)
	}
}

// TestRefusedDayNamesReasons: through the API too, a day is refused with every
// reason, and nothing is booked.
func TestRefusedDayNamesReasons(t *testing.T) {
	s := newSite(t, Options{})
	id := s.imported("uk-fail.json")
	status, body := s.as(app.Office).do("PUT", "/api/jobs/"+id+"/booking", `{"team":"north","day":"2099-03-09","anyway":"because I want it so"}`)
	var problem struct {
		Detail string
		Errors []struct{ Location, Message, Value string }
	}
	if err := json.Unmarshal([]byte(body), &problem); err != nil || status != http.StatusConflict || len(problem.Errors) < 2 {
		t.Fatalf("%d %s %v", status, body, err)
	}
	kinds := map[string]string{}
	for _, e := range problem.Errors {
		kinds[e.Location] = e.Value
	}
	if kinds["booking.papers"] != "never" || kinds["booking.crew"] != "never" {
		t.Errorf("%+v", problem.Errors)
	}
	_, body = s.as(app.Office).do("GET", "/api/jobs/"+id, "")
	if strings.Contains(body, "2099-03-09") {
		t.Error("the day was written")
	}
}

// TestFilesOut: tables and forms come with the right type and name.
func TestFilesOut(t *testing.T) {
	s := newSite(t, Options{})
	c := s.as(app.Office)
	for path, want := range map[string]string{"/api/stock/export/csv": "text/csv", "/api/stock/export/xlsx": "application/vnd.openxml", "/api/orders/export/csv": "text/csv"} {
		res := c.send("GET", path, "")
		if res.StatusCode != 200 || !strings.HasPrefix(res.Header.Get("Content-Type"), want) || !strings.HasPrefix(res.Header.Get("Content-Disposition"), "attachment") {
			t.Errorf("%s: %d %v", path, res.StatusCode, res.Header)
		}
	}
	if status, body := c.do("POST", "/api/stock/import", "id,name\n", "Content-Type", "application/octet-stream"); status != 422 || !strings.Contains(body, "row 1") {
		t.Errorf("%d %s", status, body)
	}
}

// TestSamplesMatchTheSchema: the form definitions that ship are what the
// published schema says.
func TestSamplesMatchTheSchema(t *testing.T) {
	schema, err := jsonschema.UnmarshalJSON(bytes.NewReader(PaperSchema()))
	if err != nil {
		t.Fatal(err)
	}
	c := jsonschema.NewCompiler()
	if err := c.AddResource("paper.json", schema); err != nil {
		t.Fatal(err)
	}
	compiled, err := c.Compile("paper.json")
	if err != nil {
		t.Fatal(err)
	}
	files, err := filepath.Glob("../../core/clearance/papers/*.json")
	if err != nil || len(files) != 3 {
		t.Fatal(files, err)
	}
	for _, f := range files {
		b, err := os.ReadFile(f)
		if err != nil {
			t.Fatal(err)
		}
		doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(b))
		if err == nil {
			err = compiled.Validate(doc)
		}
		if err != nil {
			t.Errorf("%s: %v", f, err)
		}
		doc.(map[string]any)["format"] = "another"
		if compiled.Validate(doc) == nil {
			t.Errorf("%s: any format is taken", f)
		}
	}
}
