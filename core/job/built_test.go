package job

import (
	"math"
	"slices"
	"strings"
	"testing"
	"time"
)

func designed() *Job {
	return &Job{
		Survey: Survey{Places: []Place{{Point: "A", Name: "corner", HolderHeight: 1.1, Route: []Segment{{Method: Surface, Length: 10, Drop: 2}, {Method: ThroughWall, Wall: 0.3}, {Method: Buried, Length: 4, Insulated: 0}}}, {Point: "B"}}},
		Design: Design{Circuits: []Circuit{{Point: "A", Cable: Cable{Family: Armoured90, Size: "6 mm²"}, Breaker: Breaker{Rating: 40, Curve: "B"}}, {Point: "B"}}},
	}
}

func vary(j *Job, id, subject, value string) {
	j.Log = append(j.Log, Entry{ID: id, Kind: Varied, Point: "A", Subject: subject, Value: value, Reason: "a reason", At: time.Now()})
}

// TestBuilt: the design stays as it was signed, what was built is beside it, and
// the newest entry about a thing counts.
func TestBuilt(t *testing.T) {
	j := designed()
	if j.Built() != j {
		t.Error("without variations it is the job itself")
	}
	digest := j.DesignDigest()
	vary(j, "entry-0001", "cable.size", "4 mm²")
	vary(j, "entry-0002", "route.length", "24.6")
	vary(j, "entry-0003", "route.length", "32.6")
	vary(j, "entry-0004", "breaker.curve", "C")
	vary(j, "entry-0005", "breaker.rating", "32")
	vary(j, "entry-0006", "holder.height", "1.4")
	vary(j, "entry-0007", "place.name", "gable")
	vary(j, "entry-0008", "cable.family", "multicore")
	b := j.Built()
	p, _ := b.Point("A")
	if math.Abs(float64(p.Place.Length())-32.6) > 1e-9 || p.Place.Route[1].Wall != 0.3 || p.Circuit.Cable.Size != "4 mm²" || p.Circuit.Breaker != (Breaker{Rating: 32, Curve: "C"}) ||
		p.Place.HolderHeight != 1.4 || p.Place.Name != "gable" || p.Circuit.Cable.Family != Multicore {
		t.Errorf("%+v", p)
	}
	if was, _ := j.Point("A"); was.Place.Length() != 16.3 || was.Circuit.Cable.Size != "6 mm²" || j.DesignDigest() != digest {
		t.Error("the design was changed")
	}
	for _, v := range Variations {
		was, _ := j.Point("A")
		if now, _ := b.Point("A"); v.Value(was) == v.Value(now) {
			t.Errorf("%s: %q is as designed", v.ID, v.Value(now))
		}
	}
	// An entry that replaces a variation takes it back.
	j.Log = append(j.Log, Entry{ID: "entry-0009", Kind: Noted, Reason: "it was not", Replaces: "entry-0001"})
	if p, _ := j.Built().Point("A"); p.Circuit.Cable.Size != "6 mm²" {
		t.Errorf("taken back: %s", p.Circuit.Cable.Size)
	}
}

// TestOldSignature: what an older program signed holds for what it covered. Its digest
// is one that this program wrote before loads were covered too.
func TestOldSignature(t *testing.T) {
	j := designed()
	old := Entry{Kind: SignedOff, Subject: "design", Value: "fa41622403b6ed12"}
	j.Survey.Loads = []Load{{Kind: Shower, Power: 9500}}
	if !j.SignsDesign(&old) {
		t.Error("an old signature is refused")
	}
	now := old
	j.Sign(&now)
	j.Survey.Dwelling.FloorArea = 90
	if j.SignsDesign(&now) || !j.SignsDesign(&old) {
		t.Error("today's covers the dwelling, the old one does not")
	}
	j.Survey.Supply.Rating++
	if j.SignsDesign(&old) {
		t.Error("the supply was changed after it")
	}
}

// TestOldConstructionSignature: the digest is what this program wrote of the example
// while digests were of JSON.
func TestOldConstructionSignature(t *testing.T) {
	j, err := Read(example(t, "uk-pass.json"))
	if err != nil {
		t.Fatal(err)
	}
	i := slices.IndexFunc(j.Log, func(e Entry) bool { return e.Kind == StepDone && e.Subject == "cable" })
	j.Log[i].Value = "15.6 m" // as the example had it then, and without what the charger has since
	j.Design.Circuits[0].Charger.Warranty, j.Design.Circuits[0].Charger.Manual = 0, ""
	old := Entry{Kind: SignedOff, Subject: "construction", Value: "585fb09602138b19"}
	now := old
	j.Sign(&now)
	if !j.SignsConstruction(&old) || !j.SignsConstruction(&now) || now.Value == old.Value {
		t.Errorf("%q, %q", old.Value, now.Value)
	}
	right := j
	right.Log = append(slices.Clone(j.Log), Entry{ID: "right-001", Kind: PutRight, Subject: "asked-001", Reason: "each on its own screw"})
	if right.Index(); right.SignsConstruction(&now) {
		t.Error("what was put right for an inspector is signed for before it was")
	}
	j.Design.Circuits[0].Charger.Serial = "another"
	if j.SignsConstruction(&old) || j.SignsConstruction(&now) {
		t.Error("another charger is signed for")
	}
}

// TestDigests: what differs has another digest; what is only left out in another way has
// not.
func TestDigests(t *testing.T) {
	seen := map[string]int{}
	for i, v := range []any{
		[]Load{}, []Load{{Name: "ab"}}, []Load{{Name: "a"}, {Name: "b"}}, []Load{{Kind: "ab"}}, []Load{{Power: 1}}, []Load{{Amps: 1}}, []Load{{WithSocket: Yes}},
		Board{}, Board{Ways: 1}, Board{WaysFree: new(int)}, Board{Rows: 1}, Board{DoublesAt: []int{1}}, Board{DoublesAt: []int{1, 0}}, Board{Slots: []Slot{{At: 1}}},
	} {
		d := digest2(v)
		if k, twice := seen[d]; twice {
			t.Errorf("%d and %d have one digest", k, i)
		}
		seen[d] = i
	}
	if digest2([]Load(nil)) != digest2([]Load{}) || digest2(Circuit{Shares: true}) != digest2(Circuit{}) {
		t.Error("what no file has is in the digest")
	}
}

func TestVariationsThatCannotBe(t *testing.T) {
	j := designed()
	for _, c := range []struct{ point, subject, value, want string }{
		{"A", "mood", "good", "not something"}, {"Z", "cable.size", "6 mm²", "not a point"}, {"A", "cable.size", " ", "missing"}, {"A", "route.length", "long", "not a number"},
		{"A", "route.length", "-3", "not a number"}, {"A", "breaker.rating", "4000", "up to 400"}, {"A", "breaker.curve", "K", "not B, C or D"}, {"A", "cable.family", "rope", "not a family"},
		{"A", "holder.height", "9", "up to 5"}, {"B", "route.length", "12", "survey it first"},
	} {
		err := j.TryVariation(Entry{Kind: Varied, Point: c.point, Subject: c.subject, Value: c.value})
		if err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%v: %v", c, err)
		}
	}
	if err := j.TryVariation(Entry{Kind: Varied, Point: "A", Subject: "route.length", Value: "30"}); err != nil {
		t.Error(err)
	}
	if p, _ := j.Point("A"); p.Place.Length() != 16.3 {
		t.Error("trying changed the job")
	}
}
