package record

import (
	"fmt"
	"strconv"
	"strings"
	"time"

	"dogbolt/core/charging"
	"dogbolt/core/clearance"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/worklog"
)

// Pack returns the handover pack for the customer, made from the job: what is not there has no
// word in it.
func Pack(r *Record) Document { return pack(r, nil) }

// pack tells heard, where it is given, each text that it says.
func pack(r *Record, heard func(string)) Document {
	b := build(r, "")
	b.heard = heard
	b.speak(r.Job.Site.Language)
	b.doc.Title = b.say("Your charging point")
	switch {
	case b.j.Lays():
		b.doc.Title = b.say("Your new board")
	case !b.j.Units() && !b.j.Removes():
		b.doc.Title = b.say("Your charging outlet")
	}
	if b.j.Removes() {
		b.doc.Title = b.say("Your charging point was taken away")
	}
	b.head()
	var points []job.Point
	for _, p := range b.j.Points() {
		switch {
		case p.Circuit.Unit():
			points = append(points, p)
		case p.Circuit.EndsInBoard():
			b.newBoard(p)
		case p.Circuit.Charges():
			b.outlet(p)
		default:
			b.gone(p)
		}
	}
	for _, p := range points {
		b.fitted(p)
	}
	for _, p := range points {
		b.use(p, len(points) > 1)
	}
	if len(points) > 0 {
		b.cautions(points)
		b.whatWhen(points)
	}
	b.add(Block{Heading: b.say("What was told to whom"), Pairs: b.papers()})
	c := r.Contractor
	b.add(Block{Heading: b.say("Contacts"), Pairs: given([][2]string{
		{"Installed by", strings.Join(nonEmpty(c.Name, c.Address), ", ")}, {"Telephone", c.Phone}, {"Mail", c.Email}, {"Registration or licence", c.Scheme},
	})})
	b.online()
	b.add(Block{Heading: b.say("Editions and limits"), Text: b.editions()})
	return b.told()
}

// given are the pairs that say something.
func given(pairs [][2]string) [][2]string {
	var out [][2]string
	for _, p := range pairs {
		if p[1] != "" {
			out = append(out, p)
		}
	}
	return out
}

// recorded is the latest value of a setting or of a test that is a choice; "" where there is none.
func (b *builder) recorded(kind job.EntryKind, point, subject string) string {
	e, _ := b.j.Latest(kind, point, subject)
	return e.Value
}

func (b *builder) fitted(p job.Point) {
	c := p.Circuit
	board := b.phrases.Say(text(b.j.Board().Label))
	isolator := b.say("at the board: %s", board)
	if c.Isolator == job.Yes || c.Disconnect == job.Yes {
		isolator = b.say("beside the charger, and at the board: %s", board)
	}
	b.add(Block{Heading: b.say("What was fitted, point %s", p.ID), Pairs: given([][2]string{
		{"Charger", strings.Join(nonEmpty(c.Charger.Type, b.say("serial %s", b.phrases.Say(text(commission.SerialOf(b.j, &c))))), ", ")},
		{"Firmware when handed over", b.recorded(job.ReadingMade, p.ID, commission.Firmware)},
		{"Meter when handed over", inUnitOr(b.recorded(job.ReadingMade, p.ID, commission.Meter), "kWh")},
		{"Where", p.Place.Name},
		{"Set to", b.say("%s, on a breaker of %s", b.amps(c.Setting), b.amps(c.Breaker.Rating))},
		{"Setting locked by", b.say(b.recorded(job.SettingMade, p.ID, worklog.LockedSet))},
		{"Where to switch it off", isolator},
		{"Maker's warranty", b.warranty(&c.Charger)},
		{"Maker's manual", c.Charger.Manual},
	})})
}

// outlet says what an outlet without a charger is for.
func (b *builder) outlet(p job.Point) {
	c := &p.Circuit
	b.add(Block{Heading: b.say("What was fitted, point %s", p.ID), Pairs: given([][2]string{
		{"Outlet", b.amps(c.Receptacle.Rating)},
		{"Breaker", b.amps(c.Breaker.Rating)},
		{"Where", p.Place.Name},
		{"Test button", b.button(c)},
		{"What it is for", b.say("A charging unit that is made for this outlet and set to no more than %s. No adapters, no extension leads, no welder or stove.", b.amps(c.Setting))},
		{"Before a unit hangs on it", b.say("Call us: the unit's setting is held against the breaker and the supply, and the network operator may have to be told.")},
	})})
}

// newBoard says what the board at the end of a sub-main is for, and where it is switched off.
func (b *builder) newBoard(p job.Point) {
	c := &p.Circuit
	b.add(Block{Heading: b.say("What was fitted, point %s", p.ID), Pairs: given([][2]string{
		{"Board", b.say("%s ways, %s", strconv.Itoa(c.End.Ways), b.amps(c.End.Rating))},
		{"Breaker", b.amps(c.Breaker.Rating)},
		{"Where", p.Place.Name},
		{"Where to switch it off", b.say("at its own main switch; for work on it, at the board that feeds it: %s", b.phrases.Say(text(b.j.Board().Label)))},
		{"Test button", b.button(c)},
		{"What it is for", b.say("A charging point and what else is connected by a qualified person, no more than %s in all. Nothing is connected to it by anyone else.", b.amps(c.Setting))},
		{"Before a charger hangs on it", b.say("Call us: it is held against the sub-main and the supply, and the network operator may have to be told.")},
	})})
}

// gone says what was taken away, how it was left, and what stays.
func (b *builder) gone(p job.Point) {
	c := &p.Circuit
	breaker, cable := "The breaker was taken out.", "The cable was taken out."
	if f := c.Fates(); f.Breaker != job.FateTakenOut {
		breaker = "The breaker stays: it is held off and marked. Nobody switches it on before a qualified person has looked at the cable's end."
	}
	if c.Fates().Cable != job.FateTakenOut {
		cable = "The cable stays. Its end is closed in a box and counts as live: do not open it."
	}
	b.add(Block{Heading: b.say("What was taken away, point %s", p.ID), Pairs: given([][2]string{
		{"Charger", strings.Join(nonEmpty(c.Charger.Type, b.say("serial %s", b.phrases.Say(text(commission.SerialOf(b.j, c))))), ", ")},
		{"Last reading of its meter", inUnitOr(b.recorded(job.ReadingMade, p.ID, commission.Meter), "kWh")},
		{"Condition", b.say(b.recorded(job.StepDone, p.ID, worklog.TakeDown))},
		{"Its settings and account", b.say(b.recorded(job.StepDone, p.ID, worklog.Release))},
		{"Where it was", p.Place.Name},
		{"Breaker", b.say(breaker)},
		{"Cable", b.say(cable)},
		{"Box of the cable's end", b.recorded(job.StepDone, p.ID, worklog.PointEnd)},
		{"At the next address", b.say("It is set afresh there, for that supply: what was set here does not go with it. The operator there is told.")},
	})})
}

// warranty is how long the maker of a charger answers for it, by the maker's sheet, and the day that it was switched on: from
// when the years count the maker says.
func (b *builder) warranty(c *job.Charger) string {
	on, ok := b.j.Latest(job.StepDone, "", job.SwitchedOn)
	if c.Warranty == 0 || !ok {
		return ""
	}
	return b.say("%s years by the maker's sheet; switched on %s; keep this record for it",
		strconv.Itoa(c.Warranty), b.day(on.At.In(b.zone).Format(time.DateOnly)))
}

// amps is a current, in the document's language where none was recorded.
func (b *builder) amps(a quantity.Ampere) string {
	return b.phrases.Say(quantity.Recorded(float64(a), "A"))
}

// inUnitOr is a value with its unit, "" where there is none.
func inUnitOr(entered, unit string) string {
	if entered == "" {
		return ""
	}
	return quantity.Entered(entered, unit)
}

// use says how a point is used, a subject a pair.
func (b *builder) use(p job.Point, several bool) {
	heading := b.say("How to use it")
	if several {
		heading = b.say("How to use it, point %s", p.ID)
	}
	b.add(Block{Heading: heading, Pairs: given([][2]string{
		{"To start", b.say(start(&p.Circuit))},
		{"To stop", b.say("Unlock the vehicle, which ends the charging; then press the button on the connector, or release it from inside, and pull it out straight.")},
		{"When it charges", b.charging(p)},
		{"Who may start it", b.agreed(p, job.Access)},
		{"Account of its app", b.agreed(p, job.Account)},
		{"Why it may charge more slowly", b.managed(p)},
		{"What it costs", b.saves(p)},
		{"What you may change", b.say("Its timer and its tariff, in the charger or in the vehicle: one of them, not both.")},
		{"What you may not change", b.fixed(p)},
		{"Test button", b.button(&p.Circuit)},
	})})
}

func start(c *job.Circuit) string {
	if c.Charger.Outlet == job.Socket {
		return "Plug your cord into the charger first, then into the vehicle, until it latches."
	}
	return "Plug the connector into the vehicle until it latches."
}

// charging says who decides when it charges, and what was set.
func (b *builder) charging(p job.Point) string {
	var says []string
	if who := b.recorded(job.SettingMade, p.ID, job.Scheduler); who != "" {
		says = append(says, b.say("the "+who+" decides: leave the timer of the other one off, or they fight"))
	}
	if set := b.recorded(job.ReadingMade, p.ID, commission.Schedule); set != "" {
		says = append(says, b.say("the charger's own schedule was set: %s", set))
	}
	if delay := b.recorded(job.ReadingMade, p.ID, commission.StartDelay); delay != "" {
		says = append(says, b.say("it begins at random up to %s late, which is meant so", quantity.Entered(delay, "s")))
	}
	return sentence(says)
}

// agreed is what was agreed with the customer, in words.
func (b *builder) agreed(p job.Point, subject string) string {
	value := b.recorded(job.SettingMade, p.ID, subject)
	for _, w := range job.AgreedWords(subject) {
		if w.Value == value {
			return b.say(w.Text)
		}
	}
	return ""
}

// managed says why the power falls, where it is managed.
func (b *builder) managed(p job.Point) string {
	var says []string
	if to := p.Circuit.ManagedTo; to > 0 {
		says = append(says, b.say("the whole supply is kept to %s a phase: while the house uses more the charger takes less, or pauses, and goes on by itself",
			b.amps(to)))
	}
	if limit, shares := b.j.SharedLimit(); shares && p.Circuit.Shares {
		says = append(says, b.say("the points share %s a phase", b.amps(limit)))
	}
	return sentence(says)
}

// saves tells what charging costs by the customer's own figures, where they gave them.
func (b *builder) saves(p job.Point) string {
	c := charging.Compare(b.j, p, b.in.Systems)
	if len(c.Missing) > 0 || c.Car == 0 {
		return ""
	}
	money := func(v float64) string { return b.in.Money.Symbol + fmt.Sprintf("%.0f", v) }
	of := "By the figures that you gave: a year of house and car %s on one price, %s on two, all charging at night; %s kWh of it for the car."
	if b.j.Design.Money.House == 0 { // nobody said what the house uses
		of = "By the figures that you gave: a year of the car alone %s on one price, %s on two, all charging at night; %s kWh of it for the car."
	}
	return b.say(of, money(c.FlatYear), money(c.NightYear), quantity.Say("{}", float64(int(c.Car+0.5))))
}

// fixed says what the customer may not change, and why.
func (b *builder) fixed(p job.Point) string {
	set := b.amps(p.Circuit.Setting)
	if lock := b.recorded(job.SettingMade, p.ID, worklog.LockedSet); lock != "" && lock != worklog.NotLocked {
		return b.say("The amps: the cable and the breaker were chosen for %s. Only a qualified person changes them: they are locked by %s.", set, b.say(lock))
	}
	return b.say("The amps: the cable and the breaker were chosen for %s. Only a qualified person changes them.", set)
}

// button is the country's words about test buttons; "" where nothing of the circuit has one.
func (b *builder) button(c *job.Circuit) string {
	if b.in.Button == nil {
		return ""
	}
	return b.say(b.in.Button(c))
}

// sentence joins clauses: "The one decides; the other was set."
func sentence(says []string) string {
	if len(says) == 0 {
		return ""
	}
	s := strings.Join(says, "; ")
	return strings.ToUpper(s[:1]) + s[1:] + "."
}

func (b *builder) cautions(points []job.Point) {
	cord := "No extension leads and no adapters. Keep the cord off paths, and put it away when it is not in use."
	for _, p := range points {
		if p.Circuit.Charger.Outlet == job.Tethered {
			cord = "No extension leads and no adapters. Keep the cord off paths, and hang it up when it is not in use."
		}
	}
	b.add(Block{Heading: b.say("Cautions"), Caution: true, Text: []string{
		b.say(cord),
		b.say("Do not open the charger or the board. A damaged cord or cover: stop using it and call us."),
	}})
}

func (b *builder) whatWhen(points []job.Point) {
	trips, off := "The breaker trips", "Switch off at the board, do not touch the connector, call us. Fire: leave, and call the emergency number."
	for _, p := range points {
		if word := b.in.Asked.Words["residual"]; word != "" && (p.Circuit.RCD.Fitted == job.Yes || b.button(&p.Circuit) != "") {
			trips = "The breaker or " + word + " trips"
		}
		if p.Circuit.Isolator == job.Yes || p.Circuit.Disconnect == job.Yes {
			off = "Switch off beside it or at the board, do not touch the connector, call us. Fire: leave, and call the emergency number."
		}
	}
	b.add(Block{Heading: b.say("What to do when"), Pairs: [][2]string{
		{"It does not start", b.say("Is the timer of the vehicle or of the charger on? Is the breaker up? Press the reset that the maker's manual names.")},
		{trips, b.say("Unplug, switch it on once. If it trips again, leave it off and call us.")},
		{"Smell, heat or noise", b.say(off)},
		{"You change the vehicle", b.say("Call us when it takes more than one phase, or asks for another cord; the setting stays as it is.")},
		{"You move house", b.say("Call us before it is taken down: the old settings must not go with it, and the operator is told.")},
	}})
}

// papers tells how the papers of the job stand.
func (b *builder) papers() [][2]string {
	law := clearance.Law{Days: b.in.After, Zone: b.zone}
	var pairs [][2]string
	for _, p := range b.j.PapersNow() {
		state := "still to be sent"
		aside, put := b.j.PutAside(p.ID)
		s, last := law.By(b.j, &p)
		if s.Asked {
			state = "still to be passed"
		}
		switch {
		case put && !p.Done():
			state = b.say("put aside by %s: %s", aside.By, aside.Reason)
		case p.Needed == job.No:
			state = b.say("not needed: %s", p.Reason)
		case p.Granted != "":
			state = b.say("answered %s", b.day(p.Granted))
		case p.SentBack():
			state = b.say("sent back %s, to be mended", b.day(p.Replies[len(p.Replies)-1].On))
		case p.Sent != "":
			state = b.say("sent %s", b.day(p.Sent))
		case p.Needed == job.Unasked:
			state = b.say("not decided yet whether it is needed")
		case last != "":
			state = b.say(state+" by %s", b.day(last))
		default:
			state = b.say(state)
		}
		pairs = append(pairs, [2]string{b.say(p.Title), strings.Join(nonEmpty(state, p.Reference), ", ")})
	}
	if len(pairs) == 0 {
		pairs = [][2]string{{"Papers", b.say("none")}}
	}
	return pairs
}
