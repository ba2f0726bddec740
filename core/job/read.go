package job

import (
	"encoding/json"
	"fmt"
	"strconv"
	"strings"
	"time"

	"dogbolt/core/schema"
)

// FieldError names a field of the job document and what is wrong with it.
type FieldError = schema.FieldError

// MaxFile is the greatest size of a job file, bytes.
const MaxFile = 8 << 20

// Read reads a job file and checks its values: a file of this version against the
// published schema in full; one of an older version leniently, with what is refused
// today set aside under Refused. Then it checks what fields say of each other.
// Every error names the field or the line.
func Read(data []byte) (Job, error) {
	var j Job
	if len(data) > MaxFile {
		return j, fmt.Errorf("the file has %d MB; a job file has at most %d MB", len(data)>>20, MaxFile>>20)
	}
	var head struct {
		Format json.RawMessage `json:"format"`
	}
	if err := json.Unmarshal(data, &head); err != nil {
		head.Format = nil // said with its line by the reader
	}
	old, err := checkFormat(strings.Trim(string(head.Format), `"`))
	if err != nil && json.Valid(data) {
		return j, err
	}
	var errs schema.Errors
	if old {
		var refused []schema.Refused
		refused, errs = schema.Of[Job]().ReadOld("", oldFormat(data), &j)
		j.Refused = append(j.Refused, refused...)
	} else {
		errs = schema.Of[Job]().Read("", data, &j)
	}
	if len(errs) == 0 {
		errs = j.Validate()
	}
	if len(errs) > 0 {
		return Job{}, fmt.Errorf("job file: %w", errs)
	}
	return j, nil
}

// oldFormat names this version in a file of an older one.
func oldFormat(data []byte) []byte {
	var doc map[string]json.RawMessage
	if json.Unmarshal(data, &doc) != nil {
		return data
	}
	doc["format"] = json.RawMessage(`"` + Format + `"`)
	out, err := json.Marshal(doc)
	if err != nil {
		return data
	}
	return out
}

// Check returns what is wrong with a job that was put together by the program: by
// its definition first, then by what fields say of each other.
func (j *Job) Check() schema.Errors {
	definition := schema.Of[Job]()
	if definition.Holds(j) {
		return j.Validate()
	}
	data, err := json.Marshal(j)
	if err != nil {
		return schema.Errors{{Field: "job", Message: err.Error()}}
	}
	if errs := definition.Read("", data, &Job{}); len(errs) > 0 {
		return errs
	}
	return j.Validate()
}

// checkFormat accepts this version and older ones, and explains the others.
func checkFormat(f string) (old bool, err error) {
	name, version, _ := strings.Cut(Format, "/")
	gotName, gotVersion, ok := strings.Cut(f, "/")
	switch {
	case f == Format:
		return false, nil
	case f == "":
		return false, FieldError{Field: "format", Message: "missing; a job file starts with \"format\": \"" + Format + "\""}
	case !ok || gotName != name:
		return false, FieldError{Field: "format", Message: fmt.Sprintf("%q is not a job file", f)}
	}
	have, _ := strconv.Atoi(version)
	got, err := strconv.Atoi(gotVersion)
	switch {
	case err == nil && got > have:
		return false, FieldError{Field: "format", Message: fmt.Sprintf("version %d is newer than this program reads (%d): update the program", got, have)}
	case err == nil && got > 0 && strconv.Itoa(got) == gotVersion:
		return true, nil
	}
	return false, FieldError{Field: "format", Message: fmt.Sprintf("version %q is not known", gotVersion)}
}

// checker gathers field errors.
type checker struct{ errs schema.Errors }

func (c *checker) fail(field, message string) {
	c.errs = append(c.errs, FieldError{Field: field, Message: message})
}

// once refuses an id that was used before in the same list.
func (c *checker) once(seen map[string]bool, field, id string) {
	if seen[id] {
		c.fail(field, fmt.Sprintf("%q is used twice", id))
	}
	seen[id] = true
}

// item names an entry of a list.
func item(list string, i int) string { return fmt.Sprintf("%s[%d]", list, i) }

// Validate returns what fields of the document say against each other: ids used
// twice, a bay that the plan does not have, a night price above the day's. That
// each value is within its own limits is the schema's business. Missing values are
// not errors: rules report them as open.
func (j *Job) Validate() schema.Errors {
	var c checker
	if _, err := time.LoadLocation(j.Site.Zone); err != nil {
		c.fail("site.zone", fmt.Sprintf("%q is not a time zone such as Europe/London", j.Site.Zone))
	}
	j.Survey.check(&c)
	j.Design.check(&c)
	if d := &j.Design; j.Removes() {
		for _, x := range []struct {
			field   string
			entered bool
		}{{"beside", d.Beside != Beside{}}, {"bonds", d.Bonds != Bonds{}}, {"building", d.Building != Building{}}} {
			if x.entered {
				c.fail("design."+x.field, "is no part of taking chargers away")
			}
		}
	}
	j.Clearances.check(&c)
	j.Plan.check(&c)
	ids := map[string]bool{}
	for i, e := range j.Log {
		c.once(ids, item("log", i)+".id", e.ID)
	}
	return c.errs
}

func (s *Survey) check(c *checker) {
	s.Board.check(c)
	s.SitePlan.check(c)
	s.Supply.check(c)
	s.Supply.Second.check(c)
	bays := map[string]bool{"": true}
	for _, b := range s.SitePlan.Bays {
		bays[b.ID] = true
	}
	positions := map[string]bool{"": true}
	for _, p := range s.SitePlan.Positions {
		positions[p.ID] = true
	}
	if n := len(s.Supply.Profile); n != 0 && n != 24 && n != 48 && n != 96 {
		c.fail("survey.supply.profile", "has 24, 48 or 96 values: a day in equal steps")
	}
	photos := map[string]bool{}
	for i, f := range s.Photos {
		c.once(photos, item("survey.photos", i)+".digest", f.Digest)
	}
	for i, v := range s.Vehicles {
		if !bays[v.Bay] {
			c.fail(item("survey.vehicles", i)+".bay", fmt.Sprintf("the site plan has no bay %q", v.Bay))
		}
	}
	points := map[string]bool{}
	for i, pl := range s.Places {
		f := item("survey.places", i)
		c.once(points, f+".point", pl.Point)
		if !positions[pl.Position] {
			c.fail(f+".position", fmt.Sprintf("the site plan has no position %q", pl.Position))
		}
		for k, g := range pl.Route {
			g.check(c, item(f+".route", k))
		}
	}
}

func (g Segment) check(c *checker, f string) {
	if g.Method == ThroughWall && g.Wall == 0 && g.Length == 0 {
		c.fail(f+".wall", "how thick is the wall? Measure to the same datum on both sides")
	}
	if g.Insulated > g.Run() {
		c.fail(f+".insulated", "is longer than the segment")
	}
}

func (d *Design) check(c *checker) {
	if m := &d.Money; m.Day > 0 && m.Night >= m.Day {
		c.fail("design.money.night", "is not below the day price")
	}
	points := map[string]bool{}
	for i := range d.Circuits {
		k, f := &d.Circuits[i], item("design.circuits", i)
		c.once(points, f+".point", k.Point)
		if n := len(k.Earthing.Loads); n != 0 && n != 3 {
			c.fail(f+".earthing.loads", "has three currents, one for each phase")
		}
		k.checkFates(c, f)
	}
}
