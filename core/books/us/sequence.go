package us

import (
	"dogbolt/core/commission"
	"dogbolt/core/job"
)

// Conditions under which a test is part of a sequence.
func pluggedIn(c *job.Circuit) bool  { return c.Connection == job.PluggedIn }
func threeWires(c *job.Circuit) bool { return c.Receptacle.Neutral == job.Yes || c.Neutral() }
func toPanel(c *job.Circuit) bool    { return c.EndsInBoard() }
func fedAnew(c *job.Circuit) bool    { return !c.Renewed && c.EndWasThere() }
func movedOver(c *job.Circuit) bool  { return c.Renewed }
func toCharger(c *job.Circuit) bool  { return !c.EndsInBoard() }

const fedAnewHint = "voltage, polarity and ground of each circuit; what is not sound stays off"

// tests are common practice beside 110.3(B) and 110.7.
var tests = []commission.Test{
	{ID: commission.Ground, Title: "Equipment ground, charger to panel", Group: commission.Dead, Unit: "Ω", Hint: "leads nulled", When: toCharger},
	{ID: commission.Ground, Title: "Equipment ground, new panel to the one that feeds it", Group: commission.Dead, Unit: "Ω", Hint: "leads nulled", When: toPanel},
	{ID: commission.Insulation, Title: "Insulation, hots to ground", Group: commission.Dead, Unit: "MΩ", Hint: "500 V DC, charger not connected"},
	{ID: commission.InsulationLive, Title: "Insulation, hot to hot", Group: commission.Dead, Unit: "MΩ", Optional: true, Hint: "500 V DC, charger not connected"},
	{ID: commission.HotHot, Title: "Hot to hot", Group: commission.Live, Unit: "V", Hint: "at the charger or receptacle", When: toCharger},
	{ID: commission.HotHot, Title: "Hot to hot", Group: commission.Live, Unit: "V", Hint: "at the new panel", When: toPanel},
	{ID: commission.HotGround1, Title: "L1 to ground", Group: commission.Live, Unit: "V"},
	{ID: commission.HotGround2, Title: "L2 to ground", Group: commission.Live, Unit: "V"},
	{ID: commission.Stray, Title: "Ground to neutral, or to the enclosure", Group: commission.Live, Unit: "V", Optional: true, When: threeWires},
	{ID: commission.GFCITrip, Title: "Receptacle ground-fault trip", Group: commission.Live, Unit: "mA", Hint: "class A", When: pluggedIn},
	{ID: commission.Behind, Title: "What the panel at the end feeds, tested again", Group: commission.Live, Choice: commission.FedAnew,
		Hint: fedAnewHint, When: fedAnew},
	{ID: commission.Behind, Title: "Circuits moved over, tested again", Group: commission.Live, Choice: commission.FedAnew,
		Hint: fedAnewHint, When: movedOver},
	{ID: commission.GridOut, Title: "With the grid out: residual device opens, the source carries the point", Group: commission.Live, Choice: []string{"both", "not both"}, Hint: "by the source's maker: transferred, by the test button and under load", When: commission.Backed},
	{ID: commission.Pilot, Title: "Current offered, control pilot", Group: commission.Charger, Unit: "%", Hint: "simulated vehicle, duty cycle"},
	{ID: commission.PilotLow, Title: "Duty at the lowest setting, 6 A", Group: commission.Charger, Unit: "%", Optional: true, Hint: "turned down, and up again after", When: commission.AboveFloor},
	{ID: commission.PilotMid, Title: "Duty at half of the setting", Group: commission.Charger, Unit: "%", Optional: true, Hint: "turned down, and up again after", When: commission.FarAbove},
	{ID: commission.SelfTest, Title: "Charger ground-fault self-test", Group: commission.Charger, Choice: []string{"passed", "failed"}},
	{ID: commission.VehicleTest, Title: "States A, B and C, contactor opens", Group: commission.Charger, Choice: []string{"correct", "wrong"}, Hint: "simulated vehicle"},
	{ID: commission.PilotFault, Title: "States D, E and F", Group: commission.Charger, Optional: true, Choice: []string{"correct", "wrong"}, Hint: "D: by its sheet; E, pilot to ground: stops; F, fault of the charger: does not close"},
	{ID: commission.Network, Title: "The owner's network", Group: commission.Charger, Choice: []string{"joined", "not joined"}},
	{ID: commission.Serial, Title: "Serial number", Group: commission.Charger, Words: true, Hint: "off its plate", When: commission.NoSerial},
	{ID: commission.Firmware, Title: "Firmware", Group: commission.Charger, Words: true, Hint: "as the charger or its app shows it"},
	{ID: commission.Meter, Title: "Meter of the charger", Group: commission.Charger, Words: true, Hint: "with its unit"},
}
