package uk

import (
	"strings"

	"dogbolt/core/commission"
	"dogbolt/core/job"
)

// Conditions under which a test is part of a sequence.
func penDevice(c *job.Circuit) bool { return strings.HasPrefix(string(c.Earthing.OpenPEN), "device-") }
func detectsDC(c *job.Circuit) bool {
	return c.RCD.Type != job.TypeB || c.Charger.DCDetection == job.Yes
}
func ownElectrode(c *job.Circuit) bool {
	return c.Earthing.OpenPEN == job.PENTT || c.Earthing.OpenPEN == job.PENElectrode
}
func aheadReplaced(c *job.Circuit) bool { return c.Ahead.Type != "" }
func hasResidual(c *job.Circuit) bool   { return c.RCD.Fitted != job.No }

// What is tested again behind what was replaced: the board itself, a device upstream, the feed of a board that was there, or both.
func behindBoard(c *job.Circuit) bool  { return c.Renewed }
func behindDevice(c *job.Circuit) bool { return !c.Renewed && aheadReplaced(c) && !c.EndWasThere() }
func behindFeed(c *job.Circuit) bool   { return !c.Renewed && c.EndWasThere() && !aheadReplaced(c) }
func behindBoth(c *job.Circuit) bool   { return !c.Renewed && c.EndWasThere() && aheadReplaced(c) }

const fedAnewHint = "continuity, insulation and polarity of each circuit, its loop with the new feed; what is not sound stays off"

// ofItsOwn reports whether a residual device is timed: a charger's circuit has one, a sub-main may have none.
func ofItsOwn(c *job.Circuit) bool { return !c.EndsInBoard() || hasResidual(c) }

// Where the loop is read: at the charger, or at the board that a sub-main ends in.
func atCharger(c *job.Circuit) bool      { return !c.EndsInBoard() }
func atBoard(c *job.Circuit) bool        { return c.EndsInBoard() }
func atChargerThree(c *job.Circuit) bool { return atCharger(c) && commission.ThreePhase(c) }
func atBoardThree(c *job.Circuit) bool   { return atBoard(c) && commission.ThreePhase(c) }

// tests are the sequence of GN3 and part 6, with what the charger and the
// smart-charging regulations add.
var tests = []commission.Test{
	{ID: commission.Bonding, Title: "Earthing conductor and main bonding, end to end", Group: commission.Dead, Unit: "Ω", Hint: "first of all: one end parted where there is a parallel path; the highest of them"},
	{ID: commission.R1R2, Title: "R1 + R2, line to earth", Group: commission.Dead, Unit: "Ω", Hint: "leads nulled; L1 where there are three phases"},
	{ID: commission.R1R2L2, Title: "R1 + R2, L2 to earth", Group: commission.Dead, Unit: "Ω", When: commission.ThreePhase},
	{ID: commission.R1R2L3, Title: "R1 + R2, L3 to earth", Group: commission.Dead, Unit: "Ω", When: commission.ThreePhase},
	{ID: commission.Ambient, Title: "Temperature of the conductors", Group: commission.Dead, Unit: "°C", Optional: true, Hint: "where it is far from 20 °C: R1 + R2 is corrected to 20 °C"},
	{ID: commission.Insulation, Title: "Insulation, live conductors to earth", Group: commission.Dead, Unit: "MΩ", Hint: "500 V d.c., charger, surge device and electronic residual device disconnected; 250 V with line and neutral together where they cannot be"},
	{ID: commission.InsulationLive, Title: "Insulation, every pair of live conductors", Group: commission.Dead, Unit: "MΩ", Hint: "500 V d.c. before the charger is connected, surge and electronic residual devices disconnected; the lowest of the pairs", When: commission.ThreePhase},
	{ID: commission.InsulationLive, Title: "Insulation, line to neutral", Group: commission.Dead, Unit: "MΩ", Hint: "500 V d.c. before the charger is connected, surge and electronic residual devices disconnected", When: commission.OnePhase},
	{ID: commission.PolarityDead, Title: "Polarity, dead", Group: commission.Dead, Choice: []string{"correct", "wrong"}},
	{ID: commission.ElectrodeRA, Title: "Earth electrode of the point", Group: commission.Origin, Unit: "Ω", Hint: "by an electrode tester, or as a loop with everything else parted from it", When: ownElectrode},
	{ID: commission.PolarityOrigin, Title: "Polarity of the supply", Group: commission.Origin, Choice: []string{"correct", "wrong"}, Hint: "at the supply side of the main switch, which is off"},
	{ID: commission.Ze, Title: "Earth loop at the origin, Ze", Group: commission.Origin, Unit: "Ω", Hint: "main switch off and locked, earthing conductor disconnected for the reading: it is joined again as a step of its own"},
	{ID: commission.LoopLN, Title: "Loop at the origin, line to neutral", Group: commission.Origin, Unit: "Ω", Optional: true, Hint: "where the fault current is calculated on TN-S or TT"},
	{ID: commission.FaultCurrent, Title: "Prospective fault current", Group: commission.Origin, Unit: "kA", Hint: "the largest of line to neutral and line to earth; three phases: 2 × line to neutral, or √3 × it exactly"},
	{ID: commission.VoltageLN, Title: "Voltage, line to neutral", Group: commission.Live, Unit: "V", Hint: "at the board; L1 where there are three phases"},
	{ID: commission.VoltageL2N, Title: "Voltage, L2 to neutral", Group: commission.Live, Unit: "V", When: commission.ThreePhase},
	{ID: commission.VoltageL3N, Title: "Voltage, L3 to neutral", Group: commission.Live, Unit: "V", When: commission.ThreePhase},
	{ID: commission.VoltageL1L2, Title: "Voltage, L1 to L2", Group: commission.Live, Unit: "V", When: commission.ThreePhase},
	{ID: commission.VoltageL2L3, Title: "Voltage, L2 to L3", Group: commission.Live, Unit: "V", When: commission.ThreePhase},
	{ID: commission.VoltageL1L3, Title: "Voltage, L1 to L3", Group: commission.Live, Unit: "V", When: commission.ThreePhase},
	{ID: commission.PhaseSequence, Title: "Phase sequence at the charger", Group: commission.Live, Choice: []string{"L1 L2 L3", "L1 L3 L2"}, When: atChargerThree},
	{ID: commission.PhaseSequence, Title: "Phase sequence at the board at the end", Group: commission.Live, Choice: []string{"L1 L2 L3", "L1 L3 L2"}, When: atBoardThree},
	{ID: commission.PolarityLive, Title: "Polarity, live", Group: commission.Live, Choice: []string{"correct", "wrong"}},
	{ID: commission.Zs, Title: "Earth loop at the charger, Zs", Group: commission.Live, Unit: "Ω", Hint: "conductors at ambient; L1 where there are three phases", When: atCharger},
	{ID: commission.Zs, Title: "Earth loop at the board at the end, Zs", Group: commission.Live, Unit: "Ω", Hint: "conductors at ambient; L1 where there are three phases", When: atBoard},
	{ID: commission.ZsL2, Title: "Earth loop at the charger, Zs of L2", Group: commission.Live, Unit: "Ω", When: atChargerThree},
	{ID: commission.ZsL2, Title: "Earth loop at the board at the end, Zs of L2", Group: commission.Live, Unit: "Ω", When: atBoardThree},
	{ID: commission.ZsL3, Title: "Earth loop at the charger, Zs of L3", Group: commission.Live, Unit: "Ω", When: atChargerThree},
	{ID: commission.ZsL3, Title: "Earth loop at the board at the end, Zs of L3", Group: commission.Live, Unit: "Ω", When: atBoardThree},
	{ID: commission.EndFault, Title: "Prospective fault current at the board at the end", Group: commission.Live, Unit: "kA", Hint: "as at the origin: the largest of line to neutral and line to earth; three phases: 2 × line to neutral", When: atBoard},
	{ID: commission.AheadTime, Title: "Residual device upstream, 1 × IΔn a.c.", Group: commission.Live, Unit: "ms", Hint: "the one that was replaced; what it feeds goes off", When: aheadReplaced},
	{ID: commission.Behind, Title: "Circuits moved over, tested again", Group: commission.Live, Choice: commission.FedAnew,
		Hint: "each: continuity, insulation, polarity, loop and residual device, on a schedule of test results of its own; what is not sound stays off",
		When: behindBoard},
	{ID: commission.Behind, Title: "What else it feeds, tested again", Group: commission.Live, Choice: commission.FedAnew,
		Hint: "insulation and polarity of each circuit, before and after; what is not sound stays off", When: behindDevice},
	{ID: commission.Behind, Title: "What the board at the end feeds, tested again", Group: commission.Live, Choice: commission.FedAnew,
		Hint: fedAnewHint, When: behindFeed},
	{ID: commission.Behind, Title: "What the device upstream and the board at the end feed, tested again", Group: commission.Live, Choice: commission.FedAnew,
		Hint: fedAnewHint, When: behindBoth},
	{ID: commission.RCDHalf, Title: "Residual current, ½ × IΔn", Group: commission.Live, Optional: true, Choice: []string{"holds", "trips"}, Hint: "good practice: nothing else on the circuit", When: hasResidual},
	{ID: commission.RCDTime, Title: "Residual current, 1 × IΔn a.c.", Group: commission.Live, Unit: "ms", Hint: "the lights go out: warn the house", When: ofItsOwn},
	{ID: commission.RCDFive, Title: "Residual current, 5 × IΔn a.c.", Group: commission.Live, Unit: "ms", Optional: true, Hint: "good practice", When: hasResidual},
	{ID: commission.RCDRamp, Title: "Residual current, ramp", Group: commission.Live, Unit: "mA", Optional: true, Hint: "good practice: where it trips", When: hasResidual},
	{ID: commission.GridOut, Title: "With the grid out: residual device opens, the source carries the point", Group: commission.Live, Choice: []string{"both", "not both"}, Hint: "by the source's maker: changed over, by its test button and under load", When: commission.Backed},
	{ID: commission.DCTrip, Title: "Residual direct current, 6 mA", Group: commission.Charger, Unit: "s", Hint: "by the maker's method", When: detectsDC},
	{ID: commission.Pilot, Title: "Current offered, control pilot", Group: commission.Charger, Unit: "%", Hint: "simulated vehicle, duty cycle"},
	{ID: commission.PilotLow, Title: "Duty at the lowest setting, 6 A", Group: commission.Charger, Unit: "%", Optional: true, Hint: "turned down, and up again after", When: commission.AboveFloor},
	{ID: commission.PilotMid, Title: "Duty at half of the setting", Group: commission.Charger, Unit: "%", Optional: true, Hint: "turned down, and up again after", When: commission.FarAbove},
	{ID: commission.Functions, Title: "States A, B, C and stop on earth loss", Group: commission.Charger, Choice: []string{"correct", "wrong"}, Hint: "simulated vehicle"},
	{ID: commission.PilotFault, Title: "States D, E and F", Group: commission.Charger, Optional: true, Choice: []string{"correct", "wrong"}, Hint: "D: by its sheet; E, pilot to earth: stops; F, fault of the charger: does not close"},
	{ID: commission.OpenNeutral, Title: "Stop on an open neutral", Group: commission.Charger, Choice: []string{"opens within 5 s", "stays on"}, Hint: "by the maker's method, or with a simulated voltage", When: penDevice},
	{ID: commission.Schedule, Title: "Default schedule", Group: commission.Charger, Choice: []string{"on, away from peak hours", "off"}, Hint: "not 08:00 to 11:00 and 16:00 to 22:00 on weekdays"},
	{ID: commission.StartDelay, Title: "Random start delay, as set", Group: commission.Charger, Unit: "s", Hint: "up to 600 s by default, to 1800 s"},
	{ID: commission.Network, Title: "The owner's network", Group: commission.Charger, Choice: []string{"joined", "not joined"}},
	{ID: commission.Serial, Title: "Serial number", Group: commission.Charger, Words: true, Hint: "off its plate", When: commission.NoSerial},
	{ID: commission.Firmware, Title: "Firmware", Group: commission.Charger, Words: true, Hint: "as the charger or its app shows it"},
	{ID: commission.Meter, Title: "Meter of the charger", Group: commission.Charger, Words: true, Hint: "with its unit"},
}
