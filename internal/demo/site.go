package demo

import (
	"bytes"
	"context"
	_ "embed" // the made-up price lists
	"encoding/json"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"

	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/internal/rooms"
	"dogbolt/internal/rooms/jobs"
	"dogbolt/internal/rooms/people"
)

// The made-up price lists of the demo: round figures, nobody's.
var (
	//go:embed prices-uk.csv
	pricesUK []byte
	//go:embed prices-us.csv
	pricesUS []byte
)

func xy(x, y float64) job.XY { return job.XY{X: quantity.Metre(x), Y: quantity.Metre(y)} }

// wholeUK is a British job whose survey and design show everything: two vehicles
// on a drive, three positions, a full board, a route into loft insulation's
// reach, and a cutout of 80 A with a shower.
func wholeUK(b *builder) *builder {
	s := &b.Survey
	s.Supply.Rating, s.Supply.PeakDemand, s.Supply.PeakDays = 80, 52, 30
	s.Loads = append(s.Loads, job.Load{Kind: job.Shower, Name: "shower", Power: 9500})
	s.Board = job.Board{Label: "consumer unit in the hall cupboard, 10 ways in one row", Rating: 100, Ways: 10, BreakingKA: 6, Terminals: 70, UpstreamRCDType: "none", Layout: "rows", Rows: 1,
		Slots: []job.Slot{{At: 1, Poles: 2, Circuit: "main switch", Rating: 100, Fixed: job.Yes}, {At: 3, Circuit: "shower", Rating: 45, Poles: 1}, {At: 4, Circuit: "cooker", Rating: 32, Poles: 1},
			{At: 5, Circuit: "ring, ground floor", Rating: 32, Poles: 1}, {At: 6, Circuit: "ring, first floor", Rating: 32, Poles: 1}, {At: 8, Circuit: "lights, ground floor", Rating: 6, Poles: 1},
			{At: 9, Circuit: "lights, first floor", Rating: 6, Poles: 1}}}
	s.Board.WaysFree = count(2)
	s.Vehicles = []job.Vehicle{
		{Name: "hatchback", OnBoard: 7400, Phases: 1, Battery: 58, Energy: 30, Arrival: "19:00", Departure: "07:00", Inlet: "rear-left", Attitude: "nose-in", Bay: "1", Length: 4.2, Width: 1.8, InletHeight: 0.8},
		{Name: "van", OnBoard: 11000, Phases: 3, Battery: 75, Energy: 20, Arrival: "18:00", Departure: "06:30", Inlet: "front-left", Attitude: "tail-in", Bay: "2", Length: 5.0, Width: 2.0, InletHeight: 0.7},
	}
	board, meter := xy(0.8, 6.2), xy(0.4, 6.2)
	s.SitePlan = job.SitePlan{
		Walls:     []job.Wall{{From: xy(0, 6.5), To: xy(9, 6.5), Thick: 0.3}, {From: xy(0, 0.5), To: xy(0, 6.5), Thick: 0.3}, {From: xy(9, 3.5), To: xy(9, 6.5), Thick: 0.3}},
		Doors:     []job.Opening{{From: xy(6.4, 6.5), To: xy(7.3, 6.5), Name: "front door"}},
		Paths:     []job.Walkway{{From: xy(-1.2, 6.5), To: xy(-1.2, 0.5), Width: 1, Name: "side path"}},
		Bays:      []job.Bay{{ID: "1", Centre: xy(11, 3.6), Length: 5, Width: 2.6, Heading: 90}, {ID: "2", Centre: xy(14, 3.4), Length: 5.4, Width: 2.6, Heading: 90}},
		Obstacles: []job.Obstacle{{At: xy(9.2, 1.6), Width: 0.4, Height: 1.2, Name: "planter"}},
		Gas:       []job.Gas{{Kind: "meter", From: xy(5.25, 6.75)}},
		Board:     &board, Meter: &meter,
		Positions: []job.Position{
			{ID: "A", Name: "corner by the drive", At: new(xy(9.15, 4.9)), Height: 1.1, Run: 14.2, Walls: 2, Cover: "open", Road: job.Yes, Fixing: "brick", Drill: job.Yes, Signal: "good"},
			{ID: "B", Name: "side wall", At: new(xy(-0.15, 3)), Height: 1.1, Run: 9.8, Walls: 1, Cover: "open", Road: job.No, Fixing: "brick", Drill: job.Yes, Signal: "weak"},
			{ID: "C", Name: "beside the front door", At: new(xy(5.2, 6.65)), Height: 1.1, Run: 8.1, Walls: 1, Cover: "porch", Road: job.Yes, Fixing: "brick", Drill: job.Yes, Signal: "good"},
		},
	}
	s.Places[0] = job.Place{Point: "A", Name: "corner by the drive", Outdoors: job.Yes, HolderHeight: 1.1, Position: "A", Loop: 0.5,
		Why: "Shortest cord for the car used daily, clear of door and gas meter. Costs 6 m more cable than C.",
		Route: []job.Segment{{Method: job.Surface, Length: 4.2, Drop: 2.1, Note: "hall cupboard, up and along"}, {Method: job.Surface, Length: 5.4, Grouped: 2, Note: "along the joists, beside the cooker's cable"},
			{Method: job.ThroughWall, Wall: 0.3, Note: "gable, sloping out"}, {Method: job.Surface, Length: 1, Drop: 1.2, Ambient: celsius(35), Note: "south wall, down to the unit"}}}
	b.conditions()
	s.Network = job.Network{Kind: "wifi", Signal: "good", Password: "the customer", Without: job.Yes}
	s.Consent = job.Consent{Asked: job.Yes, Refused: "no holes in the front hall, no trunking in sight", Landlord: job.No, OwnBay: job.Yes}
	c := &b.Design.Circuits[0]
	c.ManagedTo, c.Cable.Size = 78, "10 mm²"
	b.Design.Money = job.Money{Flat: 0.26, Day: 0.30, Night: 0.08, NightFrom: "00:30", NightTo: "05:30", House: 3100, HouseNight: 0.2, Distance: 14500, KmPerKWh: 6.1, Fuel: 1.39, KmPerLitre: 15.9}
	return b
}

// wholeUS is an American job that shows everything: a full panel that takes the
// breaker after two moves, two vehicles at a garage, and a service to be managed.
func wholeUS(b *builder) *builder {
	s := &b.Survey
	s.Supply.Rating, s.Board.Rating = 125, 125
	s.Board = job.Board{Label: "panel on the garage wall, 20 spaces, doubles in 17 to 20", Rating: 125, Ways: 20, WorkingSpace: job.Yes, HandleHeight: quantity.Inches(64), BreakingKA: 10, Terminals: 75, Layout: "columns", DoublesAt: []int{17, 18, 19, 20}, CircuitsMax: 24,
		Slots: []job.Slot{{At: 1, Poles: 2, Circuit: "range", Rating: 50}, {At: 2, Poles: 2, Circuit: "dryer", Rating: 30}, {At: 5, Poles: 2, Circuit: "air conditioner", Rating: 30}, {At: 6, Poles: 2, Circuit: "water heater", Rating: 30},
			{At: 9, Circuit: "kitchen 1", Rating: 20, Multiwire: job.Yes}, {At: 11, Circuit: "kitchen 2", Rating: 20, Multiwire: job.Yes}, {At: 10, Circuit: "laundry", Rating: 20}, {At: 12, Circuit: "bath", Rating: 20},
			{At: 13, Circuit: "bedrooms 1", Rating: 15}, {At: 14, Circuit: "bedrooms 2", Rating: 15}, {At: 15, Circuit: "living room", Rating: 15}, {At: 16, Circuit: "hall", Rating: 15},
			{At: 17, Circuit: "garage", Rating: 20}, {At: 18, Circuit: "outdoor", Rating: 20}, {At: 19, Circuit: "furnace", Rating: 15}, {At: 20, Circuit: "lights", Rating: 15}}}
	s.Board.WaysFree, s.Board.FreePair, s.Board.CircuitsFitted = count(0), job.No, 20
	s.Vehicles = []job.Vehicle{
		{Name: "sedan", OnBoard: 11500, Phases: 1, Battery: 75, Energy: 40, Arrival: "18:30", Departure: "07:00", Inlet: "rear-left", Attitude: "tail-in", Bay: "1", Length: 4.8, Width: 1.9},
		{Name: "pickup", OnBoard: 11500, Phases: 1, Battery: 98, Energy: 25, Arrival: "17:30", Departure: "06:00", Inlet: "left-front", Attitude: "nose-in", Bay: "2", Length: 5.8, Width: 2.0, InletHeight: 1.1},
	}
	ft := func(x, y float64) job.XY { return job.XY{X: quantity.Feet(x), Y: quantity.Feet(y)} }
	board := ft(2, 21)
	s.SitePlan = job.SitePlan{
		Walls: []job.Wall{{From: ft(0, 0), To: ft(0, 24), Thick: quantity.Inches(6)}, {From: ft(0, 24), To: ft(24, 24), Thick: quantity.Inches(6)}, {From: ft(24, 0), To: ft(24, 24), Thick: quantity.Inches(6)},
			{From: ft(0, 0), To: ft(3, 0), Thick: quantity.Inches(6)}, {From: ft(21, 0), To: ft(24, 0), Thick: quantity.Inches(6)}},
		Doors:     []job.Opening{{From: ft(3, 0), To: ft(21, 0), Name: "garage door"}, {From: ft(24, 17), To: ft(24, 20), Name: "house door"}},
		Bays:      []job.Bay{{ID: "1", Centre: ft(7.5, 11.5), Length: quantity.Feet(19), Width: quantity.Feet(8.5), Heading: 90}, {ID: "2", Centre: ft(17, 11.5), Length: quantity.Feet(20), Width: quantity.Feet(8.5), Heading: 90}},
		Obstacles: []job.Obstacle{{At: ft(10, 22.4), Width: quantity.Feet(6), Height: quantity.Feet(1.3), Name: "bench"}},
		Board:     &board,
		Positions: []job.Position{
			{ID: "A", Name: "left wall beside the panel", At: new(ft(0.25, 8)), Height: quantity.Inches(48), Run: quantity.Feet(26), Cover: "indoors", Road: job.No, Fixing: "stud", Drill: job.Yes, Signal: "good"},
			{ID: "B", Name: "back wall, middle", At: new(ft(8, 23.75)), Height: quantity.Inches(48), Run: quantity.Feet(40), Cover: "indoors", Road: job.No, Fixing: "stud", Drill: job.Yes, Signal: "good"},
			{ID: "C", Name: "outside, left of the door", At: new(ft(1.5, -0.25)), Height: quantity.Inches(48), Run: quantity.Feet(52), Walls: 1, Cover: "open", Road: job.Yes, Fixing: "stud", Drill: job.Yes, Signal: "weak"},
		},
	}
	p := &s.Places[0]
	p.Position, p.Loop, p.Name, p.Why = "B", quantity.Feet(2), "back wall, middle", "reaches both inlets with the sedan backed in, and crosses no door; the left wall has the shorter run but leaves the pickup short"
	for i := range p.Route {
		p.Route[i].Bends, p.Route[i].Size = 90, "¾"
	}
	s.Network = job.Network{Kind: "wifi", Signal: "good", Password: "the customer", Without: job.Yes}
	s.Consent = job.Consent{Asked: job.Yes, Refused: "nothing across the driveway", Landlord: job.No, OwnBay: job.Yes}
	c := &b.Design.Circuits[0]
	c.ManagedTo, c.SPD, c.Disconnect = 100, "fitted", job.No
	b.Design.Money = job.Money{Flat: 0.16, Day: 0.19, Night: 0.09, NightFrom: "23:00", NightTo: "07:00", House: 9500, HouseNight: 0.3, Distance: 19000, KmPerKWh: 5.3, Fuel: 0.92, KmPerLitre: 11.9}
	return b
}

// fillHouse enters the made-up prices.
func fillHouse(ctx context.Context, a *rooms.Rooms, office people.Person) error {
	for _, file := range [][]byte{pricesUK, pricesUS} {
		if _, err := a.Firm.SetPrices(ctx, office, file); err != nil {
			return err
		}
	}
	// In the demo anybody may look around.
	policy, err := a.Firm.PolicyNow(ctx)
	if err != nil {
		return err
	}
	policy.OpenJobs = true
	return a.Firm.SetPolicy(ctx, office, policy)
}

// addPhotos puts a picture of each usual kind to a job. They are drawn, not
// taken: nobody's house is shown.
func addPhotos(ctx context.Context, a *rooms.Rooms, by people.Person, v jobs.View) error {
	s := v.Job.Survey
	for i, kind := range []string{"label", "board-closed", "board-open", "meter", "position", "route", "parking"} {
		p, err := a.Jobs.AddPhoto(ctx, by, v.Summary.ID, drawn(i))
		if err != nil {
			return err
		}
		s.Photos = append(s.Photos, job.Photo{Digest: p.Digest, Kind: job.PhotoKind(kind), Point: "A"})
	}
	body, err := json.Marshal(s)
	if err != nil {
		return err
	}
	_, err = a.Jobs.SaveSection(ctx, by, v.Summary.ID, "survey", jobs.Edit{Seen: v.Revisions["survey"], Body: body})
	return err
}

// drawn is a picture of boxes on a wall, a different one for each number.
func drawn(n int) []byte {
	return sketch(640, 480, func(fill painter) {
		fill(color.RGBA{203, 196, 182, 255}, 0, 0, 640, 480)
		fill(color.RGBA{150, 143, 130, 255}, 0, 400, 640, 80)
		fill(color.RGBA{240, 238, 232, 255}, 120+10*n, 80, 400-20*n, 280)
		fill(color.RGBA{60, 66, 72, 255}, 150+10*n, 150, 340-20*n, 90)
		for i := range 8 - n {
			fill(color.RGBA{225, 225, 222, 255}, 160+10*n+i*40, 160, 30, 70)
			fill(color.RGBA{40, 44, 48, 255}, 170+10*n+i*40, 180, 10, 24)
		}
	})
}

// stepPhoto is a drawn picture of a trench with its cable.
func stepPhoto() []byte {
	return sketch(640, 480, func(fill painter) {
		fill(color.RGBA{126, 148, 92, 255}, 0, 0, 640, 480)
		fill(color.RGBA{112, 84, 58, 255}, 220, 0, 200, 480)
		fill(color.RGBA{40, 42, 46, 255}, 306, 0, 26, 480)
		fill(color.RGBA{222, 190, 60, 255}, 240, 0, 18, 480)
	})
}

// painter fills a rectangle by its corner and size.
type painter func(c color.RGBA, x, y, w, h int)

// sketch paints rectangles into a JPEG picture of a size.
func sketch(w, h int, paint func(painter)) []byte {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	paint(func(c color.RGBA, x, y, dx, dy int) {
		draw.Draw(img, image.Rect(x, y, x+dx, y+dy), &image.Uniform{c}, image.Point{}, draw.Src)
	})
	var b bytes.Buffer
	if err := jpeg.Encode(&b, img, &jpeg.Options{Quality: 80}); err != nil {
		panic(err) // a picture in memory can always be written
	}
	return b.Bytes()
}
