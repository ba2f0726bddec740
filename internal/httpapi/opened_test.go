package httpapi

import (
	"bytes"
	"io"
	"testing"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"dogbolt/core/record"
	"dogbolt/internal/rooms/people"
)

// TestOpenedIsWhatIsThere: whatever was done meanwhile, a job that is opened is as it would be
// encoded now, the first time and again; its tag stands as long as it is the same.
func TestOpenedIsWhatIsThere(t *testing.T) {
	s := newSite(t, Options{})
	office := people.Person{Roles: people.Roles{people.Office}}
	if err := s.rooms.Firm.SetContractor(ctx, office, record.Contractor{Name: "Quill and Beacon Electrical"}); err != nil {
		t.Fatal(err)
	}
	id := s.imported("uk-pass.json")
	path := "/api/jobs/" + id
	c, desk := s.as(people.Verifier), s.as(people.Office)
	_, policy := desk.do("GET", "/api/firm/policy", "")
	tags := map[string]string{}
	for _, step := range []struct {
		who          *client
		method, path string
		body         string
	}{
		{c, "GET", path, ""},
		{c, "POST", path + "/log", `{"entries":[{"id":"device-0001","kind":"note","at":"` + time.Now().UTC().Format(time.RFC3339) + `","reason":"a note"}]}`},
		{c, "POST", path + "/seal", ""},
		{c, "POST", path + "/amend", `{"reason":"a reason in words"}`},
		{desk, "PUT", "/api/firm/policy", `{"openJobs":true,` + policy[1:]},
		{desk, "PUT", "/api/firm/policy", `{"sleepHours":1,` + policy[1:]},
		{c, "POST", path + "/log", `{"entries":[{"id":"device-0002","kind":"note","at":"` + time.Now().UTC().Format(time.RFC3339) + `","reason":"what is amended"}]}`},
		{c, "POST", path + "/seal", ""},
	} {
		if status, body := step.who.do(step.method, step.path, step.body); status/100 != 2 {
			t.Fatalf("%s %s: %d %.300s", step.method, step.path, status, body)
		}
		var tag string
		for range 3 {
			v, err := viewOf(s.rooms.Jobs.Open(ctx, office, id))
			if err != nil {
				t.Fatal(err)
			}
			var want bytes.Buffer
			if err := huma.DefaultJSONFormat.Marshal(&want, v.Body); err != nil {
				t.Fatal(err)
			}
			res := c.send("GET", path, "")
			got, _ := io.ReadAll(res.Body)
			if !bytes.Equal(got, want.Bytes()) {
				t.Errorf("after %s %s it is opened as\n%.2000s\nand is\n%.2000s", step.method, step.path, got, want.Bytes())
			}
			tag = res.Header.Get("ETag")
			if of, ok := tags[tag]; ok && of != string(got) {
				t.Errorf("after %s %s the tag %s is another answer's", step.method, step.path, tag)
			}
			tags[tag] = string(got)
		}
	}
	if len(tags) != 7 { // whether everybody sees every job is no part of one
		t.Errorf("%d tags", len(tags))
	}
	if one, two := newOpened(), newOpened(); one.run == two.run {
		t.Error("two runs of the program have the same tags")
	}
}
