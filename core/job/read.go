package job

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"
	"time"
)

// FieldError names a field of the job document and what is wrong with it.
type FieldError struct {
	Field   string
	Message string
}

// Error returns the field and the message.
func (e FieldError) Error() string { return e.Field + ": " + e.Message }

// MaxFile is the greatest size of a job file, bytes.
const MaxFile = 8 << 20

// Read reads a job file and checks its values. Every error names the field or
// the place in the file.
func Read(data []byte) (Job, error) {
	var j Job
	if len(data) > MaxFile {
		return j, fmt.Errorf("the file has %d MB; a job file has at most %d MB", len(data)>>20, MaxFile>>20)
	}
	var head struct {
		Format string `json:"format"`
	}
	if err := json.Unmarshal(data, &head); err != nil {
		return j, fmt.Errorf("not a job file: %w", place(data, err))
	}
	if err := checkFormat(head.Format); err != nil {
		return j, err
	}
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&j); err != nil {
		return j, fmt.Errorf("job file: %w", place(data, err))
	}
	if errs := j.Validate(); len(errs) > 0 {
		return j, errors.Join(asErrors(errs)...)
	}
	return j, nil
}

func asErrors(list []FieldError) []error {
	out := make([]error, len(list))
	for i, e := range list {
		out[i] = e
	}
	return out
}

// checkFormat accepts this version and explains the others.
func checkFormat(f string) error {
	name, version, _ := strings.Cut(Format, "/")
	gotName, gotVersion, ok := strings.Cut(f, "/")
	switch {
	case f == Format:
		return nil
	case f == "":
		return FieldError{"format", "missing; a job file starts with \"format\": \"" + Format + "\""}
	case !ok || gotName != name:
		return FieldError{"format", fmt.Sprintf("%q is not a job file", f)}
	}
	have, _ := strconv.Atoi(version)
	if got, err := strconv.Atoi(gotVersion); err == nil && got > have {
		return FieldError{"format", fmt.Sprintf("version %d is newer than this program reads (%d): update the program", got, have)}
	}
	return FieldError{"format", fmt.Sprintf("version %q is not known", gotVersion)}
}

// place adds the line to a JSON error where it has an offset.
func place(data []byte, err error) error {
	var offset int64
	var syntax *json.SyntaxError
	var kind *json.UnmarshalTypeError
	switch {
	case errors.As(err, &syntax):
		offset = syntax.Offset
	case errors.As(err, &kind):
		return fmt.Errorf("line %d: %s: wants %s, has %s", lineAt(data, kind.Offset), kind.Field, kind.Type, kind.Value)
	default:
		return err
	}
	return fmt.Errorf("line %d: %w", lineAt(data, offset), err)
}

func lineAt(data []byte, offset int64) int {
	return 1 + bytes.Count(data[:min(int(offset), len(data))], []byte("\n"))
}

// checker gathers field errors under a path.
type checker struct{ errs []FieldError }

func (c *checker) fail(field, message string) {
	c.errs = append(c.errs, FieldError{field, message})
}

// number checks 0 ≤ v ≤ most.
func (c *checker) number(field string, v, most float64, unit string) {
	switch {
	case math.IsNaN(v) || math.IsInf(v, 0):
		c.fail(field, "is not a number")
	case v < 0:
		c.fail(field, fmt.Sprintf("%g %s: cannot be negative", v, unit))
	case v > most:
		c.fail(field, fmt.Sprintf("%g %s: more than %g %s is not believed; check the figure and its unit", v, unit, most, unit))
	}
}

// positive checks 0 < v ≤ most: a measure that has to be there.
func (c *checker) positive(field string, v, most float64, unit string) {
	if v == 0 {
		c.fail(field, "is 0 "+unit+": measure it")
		return
	}
	c.number(field, v, most, unit)
}

func (c *checker) word(field, v string, allowed ...string) {
	if v == "" {
		return
	}
	for _, a := range allowed {
		if v == a {
			return
		}
	}
	c.fail(field, fmt.Sprintf("%q is not one of %s", v, strings.Join(allowed, ", ")))
}

// clock checks a time of day such as 07:30; empty is not known yet.
func (c *checker) clock(field, v string) {
	if _, err := time.Parse("15:04", v); v != "" && (err != nil || len(v) != 5) {
		c.fail(field, fmt.Sprintf("%q is not a time of day such as 07:30", v))
	}
}

// date checks a day such as 2027-03-28; empty is not known yet.
func (c *checker) date(field, v string) {
	if _, err := time.Parse(time.DateOnly, v); v != "" && err != nil {
		c.fail(field, fmt.Sprintf("%q is not a day such as 2027-03-28", v))
	}
}

// item names an entry of a list.
func item(list string, i int) string { return fmt.Sprintf("%s[%d]", list, i) }

func (c *checker) answer(field string, a Answer) { c.word(field, string(a), "yes", "no") }

// Validate returns every value of the document that cannot be: negative
// lengths, absurd amps, unknown words, ids used twice. Missing values are not
// errors: rules report them as open.
func (j *Job) Validate() []FieldError {
	var c checker
	if strings.TrimSpace(j.Number) == "" {
		c.fail("number", "missing")
	}
	if strings.TrimSpace(j.Rulebook) == "" {
		c.fail("rulebook", "missing")
	}
	if len(j.Site.Zone) > 40 {
		c.fail("site.zone", "is the name of a time zone such as Europe/London")
	}
	j.Survey.check(&c)
	j.Design.check(&c)
	j.Clearances.check(&c)
	j.Plan.check(&c)
	return append(c.errs, checkLog(j.Log)...)
}

func checkLog(log []Entry) []FieldError {
	var c checker
	ids := map[string]bool{}
	for i, e := range log {
		f := fmt.Sprintf("log[%d]", i)
		if len(e.ID) < 8 || len(e.ID) > 64 {
			c.fail(f+".id", "has 8 to 64 characters")
		}
		if ids[e.ID] {
			c.fail(f+".id", fmt.Sprintf("%q is used twice", e.ID))
		}
		ids[e.ID] = true
		c.word(f+".kind", string(e.Kind), "step", "reading", "torque", "setting", "override", "signoff", "variation", "photo", "note")
		if e.Kind == "" {
			c.fail(f+".kind", "missing")
		}
		if e.At.IsZero() {
			c.fail(f+".at", "missing")
		}
	}
	return c.errs
}

func (s *SurveySheet) check(c *checker) {
	p := &s.Supply
	c.word("survey.supply.system", string(p.System), "tn-c-s", "tn-s", "tt", "split-120240", "wye-208120")
	if p.Phases != 0 && p.Phases != 1 && p.Phases != 3 {
		c.fail("survey.supply.phases", "is 1 or 3")
	}
	c.number("survey.supply.rating", float64(p.Rating), 1200, "A")
	c.number("survey.supply.declaredZe", float64(p.DeclaredZe), 500, "Ω")
	c.number("survey.supply.electrodeRa", float64(p.ElectrodeRA), 5000, "Ω")
	c.number("survey.supply.faultCurrent", p.FaultCurrent, 200, "kA")
	c.number("survey.supply.earthFault", p.EarthFault, 200, "kA")
	c.number("survey.supply.peakDemand", float64(p.PeakDemand), 1200, "A")
	c.number("survey.supply.peakDays", float64(p.PeakDays), 3660, "days")
	c.answer("survey.supply.ratingSeen", p.RatingSeen)
	c.answer("survey.supply.otherSource", p.OtherSource)
	c.number("survey.board.rating", float64(s.Board.Rating), 1200, "A")
	c.number("survey.board.ways", float64(s.Board.Ways), 120, "ways")
	if s.Board.WaysFree != nil {
		c.number("survey.board.waysFree", float64(*s.Board.WaysFree), 120, "ways")
	}
	c.answer("survey.board.freePair", s.Board.FreePair)
	c.number("survey.board.circuitsMax", float64(s.Board.CircuitsMax), 240, "circuits")
	c.number("survey.board.circuitsFitted", float64(s.Board.CircuitsFitted), 240, "circuits")
	c.number("survey.board.breakingKa", s.Board.BreakingKA, 200, "kA")
	c.word("survey.board.upstreamRcdType", s.Board.UpstreamRCDType, "none", "AC", "A", "F", "B")
	s.Board.check(c)
	s.SitePlan.check(c)
	bays := map[string]bool{"": true}
	for _, b := range s.SitePlan.Bays {
		bays[b.ID] = true
	}
	positions := map[string]bool{"": true}
	for _, p := range s.SitePlan.Positions {
		positions[p.ID] = true
	}
	for i, a := range p.Monthly {
		c.number(fmt.Sprintf("survey.supply.monthly[%d]", i), a, 1200, "A")
	}
	for i, n := 0, len(p.Profile); i < n; i++ {
		c.number(fmt.Sprintf("survey.supply.profile[%d]", i), p.Profile[i], 1200, "A")
	}
	if n := len(p.Profile); n != 0 && n != 24 && n != 48 && n != 96 {
		c.fail("survey.supply.profile", "has 24, 48 or 96 values: a day in equal steps")
	}
	photos := map[string]bool{}
	for i, f := range s.Photos {
		g := fmt.Sprintf("survey.photos[%d]", i)
		if photos[f.Digest] {
			c.fail(g+".digest", "is listed twice")
		}
		photos[f.Digest] = true
		c.word(g+".kind", f.Kind, PhotoKinds...)
	}
	c.number("survey.dwelling.floorArea", s.Dwelling.FloorArea, 5000, "m²")
	for i, l := range s.Loads {
		f := fmt.Sprintf("survey.loads[%d]", i)
		if l.Kind == "" {
			c.fail(f+".kind", "missing")
		}
		c.number(f+".power", float64(l.Power), 60000, "W")
		c.number(f+".amps", float64(l.Amps), 400, "A")
	}
	for i, v := range s.Vehicles {
		f := fmt.Sprintf("survey.vehicles[%d]", i)
		c.number(f+".onBoard", float64(v.OnBoard), 43000, "W")
		c.number(f+".battery", v.Battery, 600, "kWh")
		c.number(f+".energy", v.Energy, 600, "kWh")
		c.clock(f+".arrival", v.Arrival)
		c.clock(f+".departure", v.Departure)
		c.number(f+".length", float64(v.Length), 12, "m")
		c.number(f+".width", float64(v.Width), 4, "m")
		c.number(f+".inletHeight", float64(v.InletHeight), 3, "m")
		if !bays[v.Bay] {
			c.fail(f+".bay", fmt.Sprintf("the site plan has no bay %q", v.Bay))
		}
	}
	ids := map[string]bool{}
	for i, pl := range s.Places {
		f := fmt.Sprintf("survey.places[%d]", i)
		if pl.Point == "" {
			c.fail(f+".point", "missing")
		}
		if ids[pl.Point] {
			c.fail(f+".point", fmt.Sprintf("%q is used twice", pl.Point))
		}
		ids[pl.Point] = true
		c.answer(f+".outdoors", pl.Outdoors)
		c.number(f+".holderHeight", float64(pl.HolderHeight), 5, "m")
		c.number(f+".loop", float64(pl.Loop), 20, "m")
		if !positions[pl.Position] {
			c.fail(f+".position", fmt.Sprintf("the site plan has no position %q", pl.Position))
		}
		for k, g := range pl.Route {
			g.check(c, fmt.Sprintf("%s.route[%d]", f, k))
		}
	}
}

func (g Segment) check(c *checker, f string) {
	c.word(f+".method", string(g.Method), "surface", "stud-wall", "ceiling-thin", "ceiling-thick", "in-insulation", "conduit-in-wall", "conduit", "trunking", "through-wall", "catenary", "free-air", "buried")
	c.number(f+".length", float64(g.Length), 1000, "m")
	if g.Ambient != nil && (*g.Ambient < -40 || *g.Ambient > 80) {
		c.fail(f+".ambient", fmt.Sprintf("%g °C is outside −40 °C to 80 °C", float64(*g.Ambient)))
	}
	c.number(f+".grouped", float64(g.Grouped), 20, "circuits")
	c.number(f+".insulated", float64(g.Insulated), 1000, "m")
	c.number(f+".soil", g.Soil, 5, "K·m/W")
	c.number(f+".drop", float64(g.Drop), 60, "m")
	c.number(f+".wall", float64(g.Wall), 3, "m")
	c.number(f+".bends", g.Bends, 2000, "°")
	c.number(f+".cover", float64(g.Cover), 3, "m")
	c.number(f+".others", g.Others, 20000, "mm²")
	if g.Method == ThroughWall && g.Wall == 0 && g.Length == 0 {
		c.fail(f+".wall", "how thick is the wall? Measure to the same datum on both sides")
	}
	if g.Insulated > g.Run() {
		c.fail(f+".insulated", "is longer than the segment")
	}
	c.number(f+".wires", float64(g.Wires), 60, "wires")
	c.answer(f+".wet", g.Wet)
}

func (m *Money) check(c *checker) {
	const f = "design.money"
	c.number(f+".flat", m.Flat, 5, "a kWh")
	c.number(f+".day", m.Day, 5, "a kWh")
	c.number(f+".night", m.Night, 5, "a kWh")
	if m.Day > 0 && m.Night >= m.Day {
		c.fail(f+".night", "is not below the day price")
	}
	c.clock(f+".nightFrom", m.NightFrom)
	c.clock(f+".nightTo", m.NightTo)
	c.number(f+".house", m.House, 200000, "kWh")
	c.number(f+".houseNight", m.HouseNight, 1, "of the use")
	c.number(f+".distance", m.Distance, 200000, "km")
	c.number(f+".kmPerKwh", m.KmPerKWh, 20, "km/kWh")
	c.number(f+".fuel", m.Fuel, 10, "a litre")
	c.number(f+".kmPerLitre", m.KmPerLitre, 60, "km/l")
}

func (d *DesignSheet) check(c *checker) {
	c.word("design.demandMethod", d.DemandMethod, "diversity", "220.82", "220.83", "220.87")
	c.answer("design.evInBucket", d.EVInBucket)
	c.word("design.sharing", d.Sharing, "separate", "shared-limit", "load-sharing")
	c.number("design.sharedTo", float64(d.SharedTo), 1200, "A")
	d.Money.check(c)
	ids := map[string]bool{}
	for i := range d.Circuits {
		k := &d.Circuits[i]
		f := fmt.Sprintf("design.circuits[%d]", i)
		if k.Point == "" {
			c.fail(f+".point", "missing")
		}
		if ids[k.Point] {
			c.fail(f+".point", fmt.Sprintf("%q is used twice", k.Point))
		}
		ids[k.Point] = true
		c.number(f+".setting", float64(k.Setting), 200, "A")
		c.number(f+".managedTo", float64(k.ManagedTo), 1200, "A")
		c.number(f+".charger.rating", float64(k.Charger.Rating), 200, "A")
		c.number(f+".charger.cordLength", float64(k.Charger.CordLength), 30, "m")
		c.number(f+".breaker.rating", float64(k.Breaker.Rating), 400, "A")
		if k.Breaker.Class < 0 || k.Breaker.Class > 3 {
			c.fail(f+".breaker.energyClass", "is 1, 2 or 3, as printed on the device")
		}
		c.word(f+".breaker.curve", k.Breaker.Curve, "B", "C", "D")
		c.number(f+".breaker.breakingKa", k.Breaker.BreakingKA, 200, "kA")
		c.word(f+".rcd.type", k.RCD.Type, "AC", "A", "F", "B")
		c.number(f+".rcd.tripMa", k.RCD.TripMA, 1000, "mA")
		c.word(f+".cable.family", string(k.Cable.Family), "twin-earth", "multicore", "singles", "armoured-70", "armoured-90", "nm-b", "mc", "thwn-emt", "thwn-pvc")
		c.word(f+".cable.earth", k.Cable.Earth, "core", "armour")
		if l := k.Cable.Loaded; l != 0 && l != 2 && l != 3 {
			c.fail(f+".cable.loaded", "is 2 or 3")
		}
		c.word(f+".earthing.openPen", k.Earthing.OpenPEN, "imbalance", "electrode", "device-touch", "device-voltage", "device-other", "device-live-only", "tt", "none")
		for n, i := range k.Earthing.Loads {
			c.number(fmt.Sprintf("%s.earthing.loads[%d]", f, n), float64(i), 400, "A")
		}
		if n := len(k.Earthing.Loads); n != 0 && n != 3 {
			c.fail(f+".earthing.loads", "has three currents, one for each phase")
		}
		c.answer(f+".faultByRcd", k.FaultByRCD)
		c.number(f+".earthing.ra", float64(k.Earthing.RA), 5000, "Ω")
		c.number(f+".receptacle.rating", float64(k.Receptacle.Rating), 100, "A")
		c.word(f+".connection", k.Connection, "hard-wired", "receptacle")
	}
}
