package record

import (
	"strings"

	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/worklog"
)

// Pack returns the handover pack for the customer.
func Pack(r *Record) Document {
	b := build(r, "Your charging point")
	b.head()
	for _, p := range r.Job.Points() {
		b.packPoint(p)
	}
	b.add(Block{Heading: "How to use it", Text: []string{
		"Plug in at the vehicle until it latches. To unplug, unlock the vehicle first, then press the button on the connector or release it from inside.",
		"The lights are explained in the maker's manual, which was left with you. Press the test button of the residual current device as often as its label says.",
	}})
	b.add(Block{Heading: "Cautions", Caution: true, Text: []string{
		"No extension leads and no adapters. Keep the cord off paths, and hang it up when it is not in use.",
		"Do not open the charger or the board. A damaged cord or cover: stop using it and call us.",
		"Nobody may change the amps that were set: the cable and the breaker were chosen for them.",
	}})
	b.add(Block{Heading: "What to do when", Pairs: [][2]string{
		{"It does not start", "Is the vehicle's own timer on? Is the breaker up? Press the reset that the manual names."},
		{"A breaker or residual device trips", "Unplug, switch it on once. If it trips again, leave it off and call us."},
		{"Smell, heat or noise", "Switch off at the isolator or the board, do not touch the connector, call us."},
		{"You move house", "Call us before you take it down: the old settings must not go with it."},
	}})
	b.add(Block{Heading: "What was told to whom", Pairs: b.papers()})
	c := r.Contractor
	b.add(
		Block{
			Heading: "Contacts",
			Pairs:   [][2]string{{"Installed by", strings.Join(nonEmpty(c.Name, c.Address), ", ")}, {"Telephone", text(c.Phone)}, {"Mail", text(c.Email)}},
		},
	)
	b.add(Block{Heading: "Editions and limits", Text: b.editions()})
	return b.doc
}

func (b *builder) packPoint(p job.Point) {
	c := p.Circuit
	who := "not recorded"
	if e, ok := b.j.Latest(job.SettingMade, p.ID, "scheduler"); ok {
		who = "the " + e.Value + ". Leave the timer of the other one off, or they fight."
	}
	lock := "not recorded"
	if e, ok := b.j.Latest(job.SettingMade, p.ID, worklog.LockedSet); ok {
		lock = e.Value
	}
	isolator := "at the board: " + text(b.j.Survey.Board.Label)
	if c.Isolator == job.Yes || c.Disconnect == job.Yes {
		isolator = "beside the charger, and at the board: " + text(b.j.Survey.Board.Label)
	}
	b.add(Block{Heading: "What was fitted, point " + p.ID, Pairs: [][2]string{
		{"Charger", strings.Join(nonEmpty(c.Charger.Type, "serial "+text(commission.SerialOf(b.j, &c))), ", ")},
		{"Where", text(p.Place.Name)},
		{"Set to", quantity.Recorded(float64(c.Setting), "A") + ", on a " + quantity.Recorded(float64(c.Breaker.Rating), "A breaker")},
		{"Setting locked", lock},
		{"Who decides when it charges", who},
		{"Where to switch it off", isolator},
	}})
}

func (b *builder) papers() [][2]string {
	var pairs [][2]string
	for _, p := range b.j.PapersNow() {
		state := "not sent yet"
		aside, put := b.j.PutAside(p.ID)
		switch {
		case put && !p.Done():
			state = "put aside by " + aside.By + ": " + aside.Reason
		case p.Needed == job.No:
			state = "not needed: " + p.Reason
		case p.Granted != "":
			state = "answered " + b.day(p.Granted)
		case p.Sent != "":
			state = "sent " + b.day(p.Sent)
		}
		pairs = append(pairs, [2]string{p.Title, strings.Join(nonEmpty(state, p.Reference), ", ")})
	}
	if len(pairs) == 0 {
		pairs = [][2]string{{"Papers", "none"}}
	}
	return pairs
}
