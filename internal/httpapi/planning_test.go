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

	"dogbolt/core/clearance"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/standin"
)

// TestFeedNeedsItsAddress: a calendar is served to whoever knows its address,
// and to nobody else.
func TestFeedNeedsItsAddress(t *testing.T) {
	s := newSite(t, Options{})
	_, body := s.as(people.Office).do("GET", "/api/feeds", "")
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
	status, body := s.as(people.Office).do("PUT", "/api/jobs/"+id+"/booking", `{"team":"north","day":"2099-03-09","anyway":"because I want it so"}`)
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
	_, body = s.as(people.Office).do("GET", "/api/jobs/"+id, "")
	if strings.Contains(body, "2099-03-09") {
		t.Error("the day was written")
	}
}

// TestFilesOut: tables and forms come with the right type and name.
func TestFilesOut(t *testing.T) {
	s := newSite(t, Options{})
	c := s.as(people.Office)
	for path, want := range map[string]string{"/api/stock/export/csv": "text/csv", "/api/stock/export/xlsx": "application/vnd.openxml", "/api/orders/export/csv": "text/csv"} {
		t.Run(path, func(t *testing.T) {
			res := c.send("GET", path, "")
			if res.StatusCode != 200 || !strings.HasPrefix(res.Header.Get("Content-Type"), want) || !strings.HasPrefix(res.Header.Get("Content-Disposition"), "attachment") {
				t.Errorf("%s: %d %v", path, res.StatusCode, res.Header)
			}
		})
	}
	if status, body := c.do("POST", "/api/stock/import", "id,name\n", "Content-Type", "application/octet-stream"); status != 422 || !strings.Contains(body, "row 1") {
		t.Errorf("%d %s", status, body)
	}
}

// schemaFor compiles a published schema.
func schemaFor(t *testing.T, text []byte) *jsonschema.Schema {
	t.Helper()
	schema, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	if err != nil {
		t.Fatal(err)
	}
	c := jsonschema.NewCompiler()
	if err := c.AddResource("published.json", schema); err != nil {
		t.Fatal(err)
	}
	compiled, err := c.Compile("published.json")
	if err != nil {
		t.Fatal(err)
	}
	return compiled
}

// TestOpenFormats: the charger types that ship, and a readings file, are what the
// published schemas say.
func TestOpenFormats(t *testing.T) {
	types, readings := schemaFor(t, ChargerSchema()), schemaFor(t, ReadingsSchema())
	file, err := os.ReadFile("../../core/charger/types.json")
	if err != nil {
		t.Fatal(err)
	}
	list, err := jsonschema.UnmarshalJSON(bytes.NewReader(file))
	if err != nil {
		t.Fatal(err)
	}
	if err := types.Validate(list); err != nil {
		t.Error(err)
	}
	for _, doc := range list.([]any) {
		doc.(map[string]any)["school"] = "elsewhere"
		if types.Validate(list) == nil {
			t.Error("any member is taken")
		}
		delete(doc.(map[string]any), "school")
	}
	for text, good := range map[string]bool{
		`{"format":"dogbolt.readings/1","readings":[{"point":"A","test":"zs","value":"0.38","at":"2026-05-04T09:10:00Z"}]}`: true,
		`{"format":"dogbolt.readings/1","readings":[]}`:                                                                     false,
		`{"format":"dogbolt.readings/1","readings":[{"point":"A","test":"zs","at":"2026-05-04T09:10:00Z"}]}`:                false,
	} {
		t.Run(text, func(t *testing.T) {
			doc, err := jsonschema.UnmarshalJSON(strings.NewReader(text))
			if err != nil {
				t.Fatal(err)
			}
			if err := readings.Validate(doc); (err == nil) != good {
				t.Errorf("%s: %v", text, err)
			}
		})
	}
}

// TestStreams: the stand-ins answer the signed-in on a server that offers them, and
// nobody on one that does not.
func TestStreams(t *testing.T) {
	for _, offered := range []bool{true, false} {
		o := Options{}
		if offered {
			o.Instruments = standin.Instruments{}
		}
		s := newSite(t, o)
		id := s.imported("uk-fail.json")
		c := s.as("verifier")
		var me Me
		_, body := c.do("GET", "/api/session", "")
		if err := json.Unmarshal([]byte(body), &me); err != nil || me.StandIns != offered {
			t.Errorf("offered %t: %s %v", offered, body, err)
		}
		for path, want := range map[string]int{"/bench": 426, "/bench?fault=gremlins": 422, "/tester?fault=slow-rcd": 426, "/tester?fault=gremlins": 422} {
			if !offered {
				want = 404
			}
			// A plain request is told to upgrade once everything else is right.
			if status, body := c.do("GET", "/api/jobs/"+id+"/points/A"+path, ""); status != want {
				t.Errorf("offered %t, %s: %d %s", offered, path, status, body)
			}
		}
		if !offered {
			continue
		}
		if status, _ := s.visitor().do("GET", "/api/jobs/"+id+"/points/A/bench", ""); status != 401 {
			t.Errorf("nobody: %d", status)
		}
	}
}

// TestSamplesMatchTheSchema: the form definitions that ship are what the
// published schema says.
func TestSamplesMatchTheSchema(t *testing.T) {
	compiled := schemaFor(t, PaperSchema())
	files, err := filepath.Glob("../../core/clearance/papers/*.json")
	if err != nil || len(files) != len(clearance.Samples()) {
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
