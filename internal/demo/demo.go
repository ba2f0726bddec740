package demo

import (
	"context"
	"encoding/json"
	"os"
	"path/filepath"
	"slices"
	"time"

	"dogbolt/core/charger"
	"dogbolt/core/commission"
	"dogbolt/core/job"
	"dogbolt/core/quantity"
	"dogbolt/core/record"
	"dogbolt/core/worklog"
	"dogbolt/internal/rooms"
	"dogbolt/internal/rooms/people"
)

// Password is the password of every demo account. It exists in the demo alone.
const Password = "dogbolt-demo"

// People are the demo accounts.
var People = []people.NewUser{
	{Username: "office", Name: "P. Lindqvist", Roles: people.Roles{people.Office}},
	{Username: "surveyor", Name: "M. Farrant", Roles: people.Roles{people.Surveyor}},
	{Username: "installer", Name: "K. Osei", Roles: people.Roles{people.Installer}},
	{Username: "mate", Name: "T. Brandt", Roles: people.Roles{people.Installer}},
	{Username: "moor", Name: "S. Halloran", Roles: people.Roles{people.Installer}},
	{Username: "mate-us", Name: "J. Whitlock", Roles: people.Roles{people.Installer}},
	{Username: "crew-us", Name: "R. Delacroix", Roles: people.Roles{people.Installer}},
	{Username: "verifier", Name: "A. Nakagawa", Roles: people.Roles{people.Verifier}},
}

// Firm is the made-up contractor.
var Firm = record.Contractor{
	Name: "Quill and Beacon Electrical", Address: "2 Ropewalk Yard, Quillmouth; 118 Mesa Street, Copper Flats", Phone: "0100 555 0142",
	Email: "office@quillbeacon.example", Scheme: "registration 0417 (made up)",
}

// Fill makes the accounts, the firm and the jobs, unless there are accounts
// already. Dates lie around now.
func Fill(ctx context.Context, a *rooms.Rooms, now time.Time) error {
	token, err := a.People.SetUpToken(ctx)
	if err != nil || token == "" {
		return err
	}
	var office, verifier people.Person
	for i, u := range People {
		u.Password = Password
		var p people.Person
		if i == 0 {
			p, err = a.People.SetUp(ctx, token, u)
			office = p
		} else {
			p, _, err = a.People.AddUser(ctx, office, u)
		}
		if err != nil {
			return err
		}
		if u.Roles.Has(people.Verifier) {
			verifier = p
		}
	}
	if err := a.Firm.SetContractor(ctx, office, Firm); err != nil {
		return err
	}
	if err := fillHouse(ctx, a, office); err != nil {
		return err
	}
	if err := a.Firm.SetResources(ctx, office, resources(now)); err != nil {
		return err
	}
	for _, d := range demoJobs(now) {
		v, err := a.Jobs.Put(ctx, verifier, d.Job)
		if err != nil {
			return err
		}
		if d.photos {
			if err := addPhotos(ctx, a, verifier, v); err != nil {
				return err
			}
		}
		if slices.ContainsFunc(d.Log, func(e job.Entry) bool { return e.Kind == job.PhotoTaken }) {
			if _, err := a.Jobs.AddPhoto(ctx, verifier, v.Summary.ID, stepPhoto()); err != nil {
				return err
			}
		}
		if d.seal {
			if _, err := a.Records.Seal(ctx, verifier, v.Summary.ID); err != nil {
				return err
			}
		}
	}
	return fillPlanning(ctx, a, office, verifier, now)
}

// demoJob is a job of the demo, whether it is sealed, and whether it has photos.
type demoJob struct {
	job.Job
	seal, photos bool
}

func site(customer, street, town, postcode string) job.Site {
	return job.Site{Customer: customer, Street: street, Town: town, Postcode: postcode, Phone: "0100 555 0188"}
}

// longest is what the demo logs on one day takes.
const longest = 6 * time.Hour

// demoJobs are the demo jobs: every stage, and the stops that a reader learns from.
func demoJobs(now time.Time) []demoJob {
	morning := time.Date(now.Year(), now.Month(), now.Day(), 8, 0, 0, 0, time.UTC)
	if now.Before(morning.Add(longest)) {
		morning = morning.AddDate(0, 0, -1) // nothing is logged that is still to come
	}
	ago := func(days int) time.Time { return morning.AddDate(0, 0, -days) }
	var list []demoJob
	add := func(b *builder) { list = append(list, demoJob{Job: b.Job}) }
	whole := func(b *builder) { list = append(list, demoJob{Job: b.Job, photos: true}) }
	sealed := func(b *builder) { list = append(list, demoJob{Job: b.Job, seal: true}) }

	sealed(ukJob("DB-0401", site("E. Marlowe", "3 Sailmaker's Row", "Quillmouth", "QM1 4TD"), ago(12)).papers().plan(0, true).install().finish(nil).sign())
	sealed(usJob("DB-0402", site("G. Ferreira", "41 Juniper Bend", "Copper Flats", "00041"), ago(9)).papers().plan(0, true).install().finish(nil).sign())
	add(ukJob("DB-0404", site("L. Whitcombe", "Tidewatch Cottage", "Aldermoor", "AM2 8JR"), ago(3)).papers().due("building-control", ago(1)).due("operator", ago(-4)).plan(0, true).install().finish(nil).sign())
	add(nmbOnSixty(usJob("DB-0406", site("H. Castellano", "9 Prospect Loop", "Copper Flats", "00042"), ago(2))))
	add(slowRCD(ukJob("DB-0409", site("R. Ellery", "17 Chandlers Hill", "Quillmouth", "QM2 6BN"), ago(1)).papers().due("building-control", ago(-6)).plan(0, true)))
	add(smallService(usJob("DB-0410", site("D. Okonedo", "220 Quarry Road", "Lake Orrin", "00057"), ago(2))))
	add(ukJob("DB-0412", site("S. Pemberley", "Old Forge, Mill Lane", "Saltbeck", "SB1 1AA"), morning).papers().plan(0, true).isolate())
	add(usJob("DB-0413", site("M. Trujillo", "6 Cottonwood Court", "Lake Orrin", "00058"), morning).papers().plan(6, false))
	add(inInsulation(ukJob("DB-0415", site("A. Dunmore", "8 Orchard Close", "Aldermoor", "AM1 3QP"), ago(1))))
	add(noOpenPEN(ukJob("DB-0418", site("C. Hathersage", "52 Beacon Street", "Quillmouth", "QM1 9LW"), ago(1))))
	add(newSurvey(ukJob("DB-0421", site("N. Rowntree-Vale", "1 Lighthouse Terrace", "Saltbeck", "SB3 2DX"), morning)))
	add(twoPoints(ukJob("DB-0423", site("Harbour House residents", "Harbour House", "Quillmouth", "QM1 1HH"), ago(1))))
	whole(wholeUK(ukJob("DB-0425", site("W. Ashgrove", "Tidewatch Cottage, Pier Road", "Aldermoor", "AM2 8JS"), morning)))
	whole(wholeUS(usJob("DB-0426", site("T. Vasquez-Holm", "305 Mesquite Trail", "Lake Orrin", "00059"), morning)))
	add(usJob("DB-0424", site("B. Lindgren", "77 Saddle Ridge", "Copper Flats", "00044"), ago(1)).papers().plan(1, true).install())
	add(threePhase(ukJob("DB-0437", site("Brackwater Sailing Club", "The Slipway", "Saltbeck", "SB2 7GE"), morning)))
	add(pluggedIn(usJob("DB-0438", site("K. Abernethy", "1180 Canyon Rim", "Lake Orrin", "00060"), ago(3))))
	add(replaced(ukJob("DB-0439", site("J. Penhallow", "5 Capstan Court", "Saltbeck", "SB1 6PL"), ago(2))))
	sealed(takenAway(ukJob("DB-0440", site("P. Tarrant-Moss", "6 Cordage Lane", "Aldermoor", "AM1 5RW"), ago(5)), "DB-0441"))
	add(moved(ukJob("DB-0441", site("P. Tarrant-Moss", "The Drying Shed, Weir Lane", "Quillmouth", "QM3 2WL"), ago(1)), "DB-0440"))
	add(raised(usJob("DB-0442", site("V. Ocasio-Reed", "88 Palo Verde Way", "Copper Flats", "00045"), ago(2))))
	add(mended(ukJob("DB-0443", site("I. Copperthwaite", "19 Net Loft Steps", "Quillmouth", "QM1 7NL"), ago(2)), welded, "7310 kWh"))
	add(mended(ukJob("DB-0454", site("N. Applegarth-Roe", "4 Mainbrace Terrace", "Saltbeck", "SB1 3FD"), ago(1)), forgets, "3905 kWh"))
	add(outletOnly(usJob("DB-0444", site("R. Winterbourne-Diaz", "12 Cholla Court", "Lake Orrin", "00061"), ago(2))))
	add(extended(ukJob("DB-0445", site("O. Thistlewood", "2 Windlass Way", "Aldermoor", "AM3 9KT"), ago(2))))
	add(exchanged(ukJob("DB-0446", site("Y. Garrowby", "33 Fathom Street", "Quillmouth", "QM2 5CE"), ago(2))))
	add(addition(ukJob("DB-0447", site("E. Marlowe", "3 Sailmaker's Row", "Quillmouth", "QM1 4TD"), ago(1)), "DB-0401"))
	add(besideFull(ukJob("DB-0448", site("F. Holloway-Byrne", "10 Spindrift Way", "Quillmouth", "QM4 8TS"), ago(2))))
	add(boardReplaced(ukJob("DB-0455", site("B. Ostrander", "11 Ropery Street", "Aldermoor", "AM1 7HT"), ago(2))))
	add(panelReplaced(usJob("DB-0456", site("S. Delacroix-Reyes", "509 Greasewood Drive", "Lake Orrin", "00062"), ago(2))))
	add(backedUp(ukJob("DB-0449", site("T. Marchbanks", "Beacon Lea, Top Road", "Saltbeck", "SB3 4HN"), ago(2))))
	barn := toGarage(ukJob("DB-0450", site("H. Brackenbury", "Longacre, Fell Lane", "Aldermoor", "AM4 1DP"), ago(6)))
	sealed(barn)
	add(inGarage(ukJob("DB-0451", barn.Site, ago(1)), barn))
	add(offGrid(ukJob("DB-0453", site("L. Skelwith-Amory", "Whin Barn, High Moor", "Aldermoor", "AM5 7QN"), ago(2))))
	add(toWorkshop(usJob("DB-0452", site("C. Arrowood", "2140 Saltbush Road", "Copper Flats", "00046"), ago(2))))
	return list
}

// toGarage: a sub-main of 50 A to a board in a garage across the yard; the charger comes with a job of its own.
func toGarage(b *builder) *builder {
	other := quantity.Ampere(8)
	b.Survey.Vehicles = nil
	b.Survey.Places[0] = job.Place{Point: "A", Name: "garage, left of the door", Outdoors: job.No, Detached: job.Yes, OtherSupply: job.No,
		Route: []job.Segment{{Method: job.Surface, Length: 6, Note: "hall and utility room"}, {Method: job.ThroughWall, Wall: 0.3},
			{Method: job.Buried, Length: 18, Drop: 1.4, Cover: 0.6, Under: "garden", Taped: job.Yes, Note: "across the yard, tape above"}}}
	b.Design.Circuits[0] = job.Circuit{Point: "A", Setting: 40, Connection: job.IntoBoard, Charger: job.Charger{Fate: job.FateNone, Phases: 1, Terminals: 70},
		Breaker: job.Breaker{Rating: 50, Curve: "B", Poles: 2, BreakingKA: 6}, RCD: job.RCD{Fitted: job.No},
		Cable: job.Cable{Family: job.Armoured90, Size: "10 mm²", Material: job.Copper, Earth: "core"}, SPD: job.SPDFitted,
		End: job.End{Ways: 6, Rating: 63, BreakingKA: 6, Other: &other, Space: job.Yes, Metal: job.No}, Why: "32 A charging, and light and sockets of the garage"}
	b.conditions()
	b.propose()
	return b.papers().plan(0, true).until(worklog.EndFed).finish(map[string]string{commission.R1R2: "0.09", commission.Zs: "0.37"}).signed()
}

// offGrid: a barn on an inverter that was never joined to the network: the inverter is its supply, and the residual device protects
// against faults.
func offGrid(b *builder) *builder {
	p, c := &b.Survey.Supply, &b.Design.Circuits[0]
	p.System, p.Rating, p.DeclaredZe, p.ElectrodeRA, p.Earthed, p.FaultCurrent, p.PeakDemand = job.Island, 45, 0.6, 60, job.Yes, 0.5, 8
	p.MainsSwitchAt = "on the inverter's board in the barn"
	c.FaultByRCD, c.Earthing.OpenPEN = job.Yes, ""
	b.propose()
	b.papers().plan(0, true).install()
	return b.finish(map[string]string{commission.Ze: "0.50", commission.FaultCurrent: "0.42", commission.Zs: "0.61"}).sign()
}

// inGarage: the charger on that board, judged by the loop that was read there and by what the sub-main drops before it.
func inGarage(b, before *builder) *builder {
	p := before.Points()[0]
	b.Site.Follows = before.Number
	b.Survey.Board = p.Left(0.37, 2.10)
	b.Survey.Board.UpstreamRCDType, b.Survey.Board.WaysFree = job.NoUpstream, count(6)
	b.Survey.Supply.PeakDemand = 31 // measured again, with the garage on
	b.Survey.Loads = append(b.Survey.Loads, job.Load{Kind: job.OtherFixed, Name: "what is no charging on the sub-main of job " + before.Number, Amps: *b.Survey.Board.OtherDemand})
	b.Survey.Places[0] = job.Place{Point: "A", Name: "garage gable by the yard", Outdoors: job.Yes, HolderHeight: 1.1, Why: "the car stands in the yard",
		Route: []job.Segment{{Method: job.Surface, Length: 5, Note: "garage wall"}, {Method: job.ThroughWall, Wall: 0.25}}}
	b.conditions()
	b.propose()
	return b.papers().plan(0, true).install().finish(map[string]string{commission.R1R2: "0.03", commission.Zs: "0.40"}).sign()
}

// toWorkshop: a feeder of 80 A to a panel in a workshop behind the house, with a disconnect and an electrode of its own.
func toWorkshop(b *builder) *builder {
	other := quantity.Ampere(12)
	b.Survey.Vehicles = nil
	b.Survey.Places[0] = job.Place{Point: "A", Name: "workshop, inside the door", Outdoors: job.No, Detached: job.Yes, OtherSupply: job.No,
		Route: []job.Segment{{Method: job.Conduit, Length: quantity.Feet(12), Wet: job.Yes, Roof: job.No, Size: "1¼", Schedule: 80, Note: "garage wall, down"},
			{Method: job.Buried, Length: quantity.Feet(60), Cover: quantity.Inches(20), Under: "garden", Taped: job.Yes, Wet: job.Yes, Riser: job.Yes, Slack: job.Yes, Size: "1¼", Schedule: 40, Note: "behind the house"}}}
	b.Design.Circuits[0] = job.Circuit{Point: "A", Setting: 60, Connection: job.IntoBoard, Charger: job.Charger{Fate: job.FateNone, Phases: 1, Terminals: 75},
		Breaker: job.Breaker{Rating: 80, Poles: 2, BreakingKA: 10},
		Cable:   job.Cable{Family: job.ThwnPVC, Size: "4 AWG", Material: job.Copper, EarthSize: "8 AWG", WhiteIsHot: job.No},
		End:     job.End{Ways: 12, Rating: 125, BreakingKA: 10, Other: &other, Space: job.Yes, Handle: quantity.Inches(60), Disconnect: job.Yes, Electrode: job.Yes, Neutral: job.Yes},
		Why:     "48 A charging, and light and tools of the workshop"}
	b.conditions()
	b.propose()
	return b.papers().plan(0, true).until(worklog.EndFed).finish(nil).signed()
}

// besideFull: the old board has no way free, and the point has a small board of its own on the service's tails.
func besideFull(b *builder) *builder {
	b.Survey.Board.WaysFree = count(0)
	b.Design.Beside = job.Beside{Fitted: job.Yes, Where: "outside, below the meter box", Outdoors: job.Yes, IP: "IP65", Ways: 4, Rating: 63, BreakingKA: 6, ConditionalKA: 16,
		Tails: 25, Length: 0.8, Blocks: 100, Earth: 16, Opens: job.OpensIsolator}
	b.propose()
	return b.papers().plan(0, true).install().finish(nil).sign()
}

// boardReplaced: the old board is full and its shared residual device of type AC; another takes its place, and nine circuits move over.
func boardReplaced(b *builder) *builder {
	b.Survey.Board.WaysFree, b.Survey.Board.FedFrom, b.Survey.Board.UpstreamRCDType = count(0), job.FromService, "AC"
	b.Design.Beside = job.Beside{Fitted: job.Yes, Instead: job.Yes, Where: "under the stairs", Outdoors: job.No, Made: job.OfSteel, Ways: 16,
		Taken: 9, Rating: 100, BreakingKA: 6, ConditionalKA: 16, Tails: 25, Length: 1.2, Earth: 16, Opens: job.OpensOperator, Ahead: job.NoUpstream, Protected: job.Yes, Tried: job.Yes}
	b.propose()
	return b.papers().plan(0, true).install().finish(nil).sign()
}

// panelReplaced: the panel in the garage hangs on a feeder of 100 A and is full; a larger one takes its place, and the feeder stays.
func panelReplaced(b *builder) *builder {
	other := quantity.Ampere(24)
	bd := &b.Survey.Board
	bd.FreePair, bd.CircuitsFitted, bd.WaysFree, bd.FedFrom, bd.OtherDemand = job.No, bd.CircuitsMax, count(0), job.FromSubMain, &other
	bd.Links, bd.Outbuilding.Apart = []job.Link{{Kind: job.FeederDevice, Rating: 100}}, job.No
	b.Design.Beside = job.Beside{Fitted: job.Yes, Instead: job.Yes, Where: "garage, beside the door", Outdoors: job.No,
		Ways: 30, Taken: 18, Rating: 125, BreakingKA: 10, Terminals: 75, Space: job.Yes, Handle: quantity.Inches(68), Grounded: job.Yes, Opens: job.OpensIsolator}
	b.propose()
	return b.papers().plan(0, true).install().finish(nil).sign()
}

// backedUp: behind the changeover of a battery the charger goes on when the grid is out, within what the battery gives.
func backedUp(b *builder) *builder {
	b.Survey.Supply.OtherSource = job.Yes
	b.Survey.Supply.Second = job.Second{Kind: job.BacksUp, Isolator: "battery cabinet in the garage", Rating: 43, Other: 10, Earthed: job.Yes}
	b.Design.Circuits[0].Side = job.BackedSide
	b.propose()
	return b.papers().plan(0, true).install().finish(map[string]string{commission.GridOut: "both"}).sign()
}

// extended: the circuit of a shower that is gone is carried on, from a box in the utility room, to the wall by the drive.
func extended(b *builder) *builder {
	c := &b.Design.Circuits[0]
	c.Existing, c.SPD, c.Why = job.Yes, job.SPDPresent, "the shower is gone, its circuit feeds nothing else"
	c.Beyond = job.Beyond{From: 2, Cable: c.Cable, Accessible: job.Yes, Suited: job.Yes}
	c.Beyond.Cable.Fate = job.FateNew
	c.Cable = job.Cable{Family: job.TwinEarth, Size: "10 mm²", Material: "copper", Earth: "core"}
	// The gas had no bonding: it is run with this work.
	b.Survey.Bonding.Gas, b.Survey.Bonding.Size = job.NotBonded, 0
	b.Design.Bonds = job.Bonds{Run: job.BondMissing, Size: 10, Length: 7}
	b.propose()
	return b.papers().plan(0, true).install().finish(nil).sign()
}

// exchanged: a residual device that opened too late was replaced in its own ways; its charger stays.
func exchanged(b *builder) *builder {
	c := &b.Design.Circuits[0]
	c.Existing, c.Charger.Fate, c.RCD.Fate, c.SPD = job.Yes, job.FateKept, job.FateReplaced, job.SPDPresent
	b.propose()
	return b.papers().plan(0, true).install().finish(map[string]string{commission.Meter: "2114 kWh"}).sign()
}

// addition: a second charger at a site where an earlier job put one up, which counts as a load now.
func addition(b *builder, after string) *builder {
	b.Site.Follows = after
	b.Survey.Supply.PeakDemand = 46
	b.Survey.Loads = append(b.Survey.Loads, job.Load{Kind: job.ExistingEV, Name: "charging point A of job " + after, Amps: 32})
	b.Survey.Places[0].Name = "gable by the second bay"
	b.propose()
	return b.papers().plan(0, true).install().finish(nil).sign()
}

// outletOnly: an outlet for a car to come, with everything that an outlet is asked and no charger.
func outletOnly(b *builder) *builder {
	c := &b.Design.Circuits[0]
	c.Connection, c.Setting, c.Charger = job.PluggedIn, 40, job.Charger{Fate: job.FateNone, Phases: 1, Terminals: 75}
	c.Breaker.Rating, c.Cable.EarthSize = 50, "8 AWG"
	c.Receptacle = job.Receptacle{Rating: 50, GFCI: job.Yes, Neutral: job.No, Box: "4.69-2.125", Gangs: 2, Clamps: job.No}
	b.propose()
	return b.papers().plan(0, true).until(worklog.Outlet).finish(nil).signed()
}

// takenAway: a charger was taken down for the move to another address, its cable off the breaker and closed off.
func takenAway(b *builder, to string) *builder {
	old := b.Design.Circuits[0]
	b.Design.Circuits[0] = job.Circuit{Point: "A", Existing: job.Yes, Connection: old.Connection,
		Charger: job.Charger{Fate: job.FateTakenOut, Type: old.Charger.Type, Serial: "WU-0344", Moved: to},
		Breaker: job.Breaker{Fate: job.FateTakenOut}, Cable: job.Cable{Fate: job.FateKept, Family: old.Cable.Family, Size: old.Cable.Size}}
	b.propose()
	b.papers().plan(0, true).until(worklog.Restore)
	b.test(commission.Charger, map[string]string{commission.Meter: "4821 kWh"})
	e := job.Entry{Kind: job.SignedOff, Subject: "construction"}
	b.Sign(&e)
	return b.add(e)
}

// moved: that charger at its new address, on a new circuit, set afresh.
func moved(b *builder, from string) *builder {
	b.Design.Circuits[0].Charger.Serial, b.Design.Circuits[0].Charger.Moved = "WU-0344", from
	return b.papers().plan(0, true).install().finish(map[string]string{commission.Meter: "4821 kWh"}).sign()
}

// raised: a circuit of 40 A for an outlet whose conductors carry 60 A got a breaker of 60 A in the old one's own spaces, and a
// charger wired in; the outlet is gone.
func raised(b *builder) *builder {
	c := &b.Design.Circuits[0]
	c.Existing, c.Charger.Fate, c.Breaker.Fate, c.Receptacle.Fate = job.Yes, job.FateNew, job.FateReplaced, job.FateTakenOut
	b.Survey.Board.WaysFree, b.Survey.Board.FreePair = count(0), job.No
	return b.papers().plan(0, true).install().finish(nil).sign()
}

// mended: a charger stays, and something of it was put right: what that touched was tested again.
func mended(b *builder, what job.Mended, meter string) *builder {
	c := &b.Design.Circuits[0]
	c.Existing, c.Charger.Fate, c.SPD = job.Yes, job.FateKept, job.SPDPresent
	b.propose()
	c.Mended = what
	return b.papers().plan(0, true).install().finish(map[string]string{commission.Meter: meter}).sign()
}

// What was put right: a contactor, and software that is set without anything being opened.
var (
	welded  = job.Mended{Fault: "stops after a minute, relay fault shown", Cause: "contactor welded", Part: job.MendedContactor}
	forgets = job.Mended{
		Fault: "charges in the evening peak, whatever is set", Cause: "schedule lost after a power cut, by its software", Part: job.MendedSoftware,
	}
)

// replaced: an old charger gave place to a new one on its circuit, which was inspected and kept.
func replaced(b *builder) *builder {
	b.Design.Circuits[0].Existing = job.Yes
	return b.papers().plan(0, true).install().finish(nil).sign()
}

// typed puts a charger of a type that ships into a circuit, and what is built in.
func typed(c *job.Circuit, id string) {
	for _, t := range charger.Types() {
		if t.ID == id {
			serial := c.Charger.Serial
			c.Charger, c.Earthing.OpenPEN = t.Charger, t.OpenPEN
			c.Charger.Serial = serial
		}
	}
}

// threePhase: a club with solar on its roof, a charger of three phases behind a
// lawn, its residual device slow at first.
func threePhase(b *builder) *builder {
	s, c := &b.Survey, &b.Design.Circuits[0]
	s.Supply.Phases, s.Supply.OtherSource, s.Supply.PeakDemand = 3, job.Yes, 21
	s.Supply.Second = job.Second{Kind: job.FeedsIn, Isolator: "beside the board"}
	s.Board.Label, s.Board.Ways, s.Board.WaysFree = "three-phase board in the boat store", 18, count(6)
	s.Vehicles[0].OnBoard, s.Vehicles[0].Phases, s.Vehicles[0].Name = 22000, 3, "club van"
	s.Places[0] = job.Place{Point: "A", Name: "post at the slipway", Outdoors: job.Yes, HolderHeight: 1.0, Why: "the only hard standing",
		Route: []job.Segment{{Method: job.Surface, Length: 4, Note: "boat store"}, {Method: job.ThroughWall, Wall: 0.3}, {Method: job.Buried, Length: 9, Drop: 1.2, Cover: 0.6, Under: "garden", Taped: job.Yes, Note: "under the lawn"}}}
	b.conditions()
	typed(c, "trio-32")
	c.Setting, c.ManagedTo = 32, 80
	c.Breaker = job.Breaker{Rating: 40, Curve: "B", Poles: 4, BreakingKA: 6}
	c.Cable = job.Cable{Family: job.Armoured90, Size: "10 mm²", Material: "copper", Earth: "core", Loaded: 3}
	b.crew = []string{"S. Halloran"}
	b.papers().plan(0, true)
	b.Plan.Team = "moor"
	b.install().test(commission.Dead, map[string]string{commission.R1R2: "0.05", commission.R1R2L2: "0.05", commission.R1R2L3: "0.05"}).test(commission.Origin, map[string]string{commission.FaultCurrent: "1.72"}).until(worklog.Restore)
	b.test(commission.Live, map[string]string{commission.RCDTime: "312", commission.Zs: "0.32", commission.ZsL2: "0.32", commission.ZsL3: "0.33"})
	failed, _ := b.Latest(job.ReadingMade, "A", commission.RCDTime)
	return b.add(job.Entry{Kind: job.ReadingMade, Subject: commission.RCDTime, Point: "A", Value: "27", Unit: "ms", Instrument: "tester 12", Replaces: failed.ID,
		Reason: "the device was from another job's box and slow; replaced by a new one of the same type"})
}

// pluggedIn: a unit on an outlet that was there, its circuit inspected and finished.
func pluggedIn(b *builder) *builder {
	c := &b.Design.Circuits[0]
	typed(c, "plug-40")
	c.Connection, c.Existing, c.Setting, c.Breaker.Rating = "receptacle", job.Yes, 40, 50
	c.Receptacle = job.Receptacle{Rating: 50, GFCI: job.Yes, Neutral: job.Yes, Box: "4.69-2.125", Gangs: 2, Clear: job.Yes, Clamps: job.No}
	c.Cable.Size, c.Cable.EarthSize = "6 AWG", "8 AWG"
	return b.papers().plan(0, true).install().finish(map[string]string{commission.Stray: "0.3"})
}

// inInsulation: 6 mm² twin and earth is fine in the table when clipped, but
// not through the loft insulation.
func inInsulation(b *builder) *builder {
	c := &b.Design.Circuits[0]
	c.Cable = job.Cable{Family: job.TwinEarth, Size: "6 mm²", Material: "copper", Earth: "core"}
	b.Survey.Places[0].Route = []job.Segment{{Method: job.Surface, Length: 6, Note: "hall"}, {Method: job.InInsulation, Length: 5, Note: "loft, under the quilt"}, {Method: job.Surface, Length: 4, Note: "gable"}}
	b.conditions()
	return b
}

// nmbOnSixty: 6 AWG NM-B on a 60 A breaker for 48 A continuous.
func nmbOnSixty(b *builder) *builder {
	c := &b.Design.Circuits[0]
	c.Cable = job.Cable{Family: job.NMB, Size: "6 AWG", Material: "copper", EarthSize: "10 AWG", WhiteIsHot: job.No}
	for i := range b.Survey.Places[0].Route {
		b.Survey.Places[0].Route[i].Method = job.Surface
	}
	return b
}

// noOpenPEN: outdoors on PME with a charger that has no open-PEN device.
func noOpenPEN(b *builder) *builder {
	c := &b.Design.Circuits[0]
	c.Charger.Type, c.Earthing.OpenPEN = "wall unit 32 A, tethered, plain", "none"
	return b
}

// smallService: a 100 A service that cannot spare 48 A.
func smallService(b *builder) *builder {
	b.Survey.Supply.Rating, b.Survey.Board.Rating = 100, 100
	b.Survey.Loads = append(b.Survey.Loads, job.Load{Kind: job.Motor, Name: "pool pump", Power: 2200})
	return b
}

// slowRCD: everything passes but the residual current device, 342 ms at 30 mA.
func slowRCD(b *builder) *builder {
	return b.install().finish(map[string]string{commission.RCDTime: "342", commission.DCTrip: "", commission.Pilot: "", commission.Functions: "", commission.Ze: "0.31"})
}

// newSurvey: the visit has begun, most is still open.
func newSurvey(b *builder) *builder {
	b.Survey.Supply = job.Supply{System: job.TNCS, Phases: 1, Rating: 80, RatingSeen: job.No, Voltage: "241"}
	b.Survey.Board = job.Board{Label: "board under the stairs", Ways: 8, WaysFree: count(1)}
	b.Survey.Loads = []job.Load{{Kind: job.Shower, Name: "shower", Power: 9500}}
	b.Survey.Vehicles = []job.Vehicle{{Name: "van", OnBoard: 11000, Phases: 3}}
	b.Survey.Places[0] = job.Place{Point: "A", Name: "beside the garage door"}
	b.Design.Circuits = []job.Circuit{{Point: "A"}}
	return b
}

// twoPoints: two chargers on one supply, which the operator must be asked about.
func twoPoints(b *builder) *builder {
	place, circuit := b.Survey.Places[0], b.Design.Circuits[0]
	place.Point, place.Name, place.HolderHeight = "B", "bay 2, bin store wall", 1.3
	place.Route = []job.Segment{{Method: job.Surface, Length: 14}, {Method: job.Buried, Length: 9, Under: "garden", Cover: 0.6, Taped: job.Yes, Note: "beside the path, tape above"}}
	circuit.Point, circuit.Charger.Serial = "B", "WU-0423B"
	circuit.Cable.Size = "10 mm²"
	b.Survey.Places = append(b.Survey.Places, place)
	b.conditions()
	b.Design.Circuits = append(b.Design.Circuits, circuit)
	b.Design.Sharing = "separate"
	b.Survey.Vehicles = append(b.Survey.Vehicles, job.Vehicle{Name: "estate", OnBoard: 7400, Phases: 1, Battery: 64, Energy: 35, Arrival: "20:30", Departure: "07:30", Inlet: "front-right", Attitude: "nose-in"})
	for i := range b.Clearances.Papers {
		if p := &b.Clearances.Papers[i]; p.ID == "operator" {
			p.Needed, p.Sent, p.Due = job.Yes, day(b.clock, -5), day(b.clock, 20)
		}
	}
	return b
}

// exampleTime is when the example files were made up.
var exampleTime = time.Date(2026, 5, 4, 8, 0, 0, 0, time.UTC)

// Examples are the example job files by name.
func Examples() map[string]job.Job {
	uk := ukJob("EX-UK-0001", site("E. Marlowe", "3 Sailmaker's Row", "Quillmouth", "QM1 4TD"), exampleTime).papers().plan(0, true).install().finish(nil).sign()
	us := usJob("EX-US-0001", site("G. Ferreira", "41 Juniper Bend", "Copper Flats", "00041"), exampleTime).papers().plan(0, true).install().finish(nil).sign()
	ukFail := noOpenPEN(inInsulation(ukJob("EX-UK-0002", site("A. Dunmore", "8 Orchard Close", "Aldermoor", "AM1 3QP"), exampleTime)))
	usFail := nmbOnSixty(usJob("EX-US-0002", site("H. Castellano", "9 Prospect Loop", "Copper Flats", "00042"), exampleTime))
	usFail.Design.Circuits[0].Setting = 48
	usFail.Survey.Places[0].HolderHeight = quantity.Inches(12)
	return map[string]job.Job{"uk-pass.json": uk.Job, "uk-fail.json": ukFail.Job, "us-pass.json": us.Job, "us-fail.json": usFail.Job}
}

// WriteExamples writes the example files into a folder.
func WriteExamples(folder string) error {
	for name, j := range Examples() {
		b, err := json.MarshalIndent(j, "", "  ")
		if err != nil {
			return err
		}
		if err := os.WriteFile(filepath.Join(folder, name), append(b, '\n'), 0o644); err != nil {
			return err
		}
	}
	return nil
}
