package job

import "dogbolt/core/quantity"

// Design is what was chosen.
type Design struct {
	DemandMethod DemandMethod    `json:"demandMethod,omitempty" doc:"How the demand is judged. Left out: the rulebook's default, or the measured one where a measurement is given."`
	EVInBucket   Answer          `json:"evInBucket,omitempty" doc:"US optional calculation: EV load inside the 40 % part (yes) or at 100 % (no, the default)."`
	Sharing      Sharing         `json:"sharing,omitempty" doc:"How two or more points share: each at its setting, all under one limit, or the limit shared out between them."`
	SharedTo     quantity.Ampere `json:"sharedTo,omitempty" minimum:"0" maximum:"1200" doc:"Limit of all points together, A per phase."`
	Money        Money           `json:"money,omitempty,omitzero" doc:"The customer's own figures of tariff and fuel."`
	Ahead        Ahead           `json:"ahead,omitempty,omitzero" doc:"A residual device ahead of the circuits that is replaced with this work."`
	Beside       Beside          `json:"beside,omitempty,omitzero" doc:"A new board, beside the old one or in its place."`
	Bonds        Bonds           `json:"bonds,omitempty,omitzero" doc:"Earthing and main bonding that comes with this work."`
	Building     Building        `json:"building,omitempty,omitzero" doc:"What is put right at a building of its own that the panel stands in."`
	Circuits     []Circuit       `json:"circuits,omitempty" maxItems:"12" doc:"One circuit per charging point."`
}

// Ahead is what takes the place of a residual device that was found ahead of the circuits: the survey keeps what was found.
type Ahead struct {
	Type    RCDType         `json:"type,omitempty" doc:"Type that takes its place. Left out: the one that was found stays."`
	Rating  quantity.Ampere `json:"rating,omitempty" minimum:"0" maximum:"125" doc:"Its rated current, A."`
	TripMA  float64         `json:"tripMa,omitempty" minimum:"4" maximum:"1000" doc:"Its rated residual operating current, mA."`
	Delayed Answer          `json:"delayed,omitempty" doc:"Is it time-delayed (S)?"`
	Feeds   string          `json:"feeds,omitempty" maxLength:"300" doc:"What else it feeds: that is tested again."`
}

// Money is what charging is compared with, by the customer's own figures, in
// the main unit of the local currency.
type Money struct {
	Flat       float64 `json:"flat,omitempty" minimum:"0" maximum:"5" doc:"Price of a flat tariff, per kWh."`
	Day        float64 `json:"day,omitempty" minimum:"0" maximum:"5" doc:"Day price of a two-rate tariff, per kWh."`
	Night      float64 `json:"night,omitempty" minimum:"0" maximum:"5" doc:"Night price of a two-rate tariff, per kWh."`
	NightFrom  string  `json:"nightFrom,omitempty" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"The night rate begins."`
	NightTo    string  `json:"nightTo,omitempty" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"The night rate ends."`
	House      float64 `json:"house,omitempty" minimum:"0" maximum:"200000" doc:"Other use of the house, kWh a year."`
	HouseNight float64 `json:"houseNight,omitempty" minimum:"0" maximum:"1" doc:"Share of the house's use that falls into the night rate."`
	Distance   float64 `json:"distance,omitempty" minimum:"0" maximum:"200000" doc:"Distance a year charged at home, km."`
	KmPerKWh   float64 `json:"kmPerKwh,omitempty" minimum:"0" maximum:"20" doc:"How far the vehicle goes on a kWh from its battery, km."`
	Fuel       float64 `json:"fuel,omitempty" minimum:"0" maximum:"10" doc:"Price of fuel, per litre."`
	KmPerLitre float64 `json:"kmPerLitre,omitempty" minimum:"0" maximum:"60" doc:"How far the fuel car goes on a litre, km."`
}

// Circuit is the final circuit of one charging point, from the board's device
// to the charger.
type Circuit struct {
	Point     string          `json:"point" minLength:"1" maxLength:"8" doc:"Id of the charging point."`
	Setting   quantity.Ampere `json:"setting,omitempty" minimum:"0" maximum:"200" doc:"Largest current that the charger is set to draw, A per phase. Over a sub-main: what its board draws at most."`
	Guarded   Answer          `json:"settingGuarded,omitempty" doc:"Is the adjusted setting behind restricted access, and on the charger's label (US, 625.42(B))? Where not, the nameplate counts."`
	Dedicated Answer          `json:"dedicated,omitempty" doc:"Does the circuit feed this point and nothing else?"`
	Side      Side            `json:"side,omitempty" doc:"Where there is a second source: which side of it the point hangs on."`
	// Ahead is filled in by Points: what takes the place of a residual device ahead.
	Ahead Ahead `json:"-"`
	// Renewed is filled in by Points: the board is replaced with this work.
	Renewed bool `json:"-"`
	// OtherWork is filled in by Points: the job works on earthing, bonding or the building besides its points.
	OtherWork bool `json:"-"`
	// Shares is filled in by Points where the points keep to a shared limit.
	Shares     bool            `json:"-"`
	ManagedTo  quantity.Ampere `json:"managedTo,omitempty" minimum:"0" maximum:"1200" doc:"Limit of the whole supply that the charger's load management keeps to, A; 0 where there is none."`
	Connection Connection      `json:"connection,omitempty" doc:"How the charger is connected; board: the circuit is a sub-main that ends in a board."`
	Existing   Answer          `json:"existing,omitempty,omitzero" doc:"Is the circuit there already, with its outlet where the charger is plugged in? It is inspected and kept then, not installed."`
	Mended     Mended          `json:"mended,omitempty,omitzero" doc:"Of a charger that is kept: what was wrong, and what is done about it."`
	Charger    Charger         `json:"charger,omitempty" doc:"The charging equipment."`
	Breaker    Breaker         `json:"breaker,omitempty" doc:"Overcurrent device of the circuit."`
	RCD        RCD             `json:"rcd,omitempty" doc:"Residual current device of the circuit."`
	FaultByRCD Answer          `json:"faultByRcd,omitempty" doc:"Does the residual current device give fault protection, and not the breaker (UK, 411.4.204)?"`
	Cable      Cable           `json:"cable,omitempty" doc:"Cable or conductors; where it changes at a joint box, those from the board to the box."`
	Beyond     Beyond          `json:"beyond,omitempty,omitzero" doc:"The cable from a joint box to the point, where it changes on the way."`
	Earthing   PointEarthing   `json:"earthing,omitempty" doc:"Earthing of a point on a shared neutral-earth supply."`
	Receptacle Receptacle      `json:"receptacle,omitempty" doc:"The outlet, where the charger is plugged in."`
	End        End             `json:"end,omitempty,omitzero" doc:"The board that a sub-main ends in."`
	SPD        SPD             `json:"spd,omitempty" doc:"Surge protection: fitted with this work, already present, there before and replaced, or declined by the owner."`
	SPDReason  string          `json:"spdReason,omitempty" maxLength:"500" doc:"Who declined surge protection, when and why."`
	Disconnect Answer          `json:"disconnect,omitempty" doc:"Readily accessible disconnect, lockable open."`
	Isolator   Answer          `json:"isolator,omitempty" doc:"Local isolator at the point."`
	// IsolatorFate is of either.
	IsolatorFate Fate   `json:"isolatorFate,omitempty" doc:"What becomes of the local isolator or disconnect, where the circuit was there. Left out: it is new, or stays where the charger does."`
	Why          string `json:"why,omitempty" maxLength:"1000" doc:"Why this design: oversize, position of the isolator, the customer's wish."`
}

// Charger is the charging equipment by what matters to the circuit.
type Charger struct {
	Fate         Fate             `json:"fate,omitempty" doc:"What becomes of it, where the circuit was there. Left out: it takes the place of an old one, or is new where it is plugged in."`
	Type         string           `json:"type,omitempty" maxLength:"80" doc:"Type in the contractor's own words."`
	Serial       string           `json:"serial,omitempty" maxLength:"60" doc:"Serial number."`
	Rating       quantity.Ampere  `json:"rating,omitempty" minimum:"0" maximum:"200" doc:"Rated current, A per phase."`
	Phases       int              `json:"phases,omitempty" enum:"1,3" doc:"Phases."`
	Outlet       Outlet           `json:"outlet,omitempty" doc:"Fixed cord, or a socket for the driver's cord."`
	CordLength   quantity.Metre   `json:"cordLength,omitempty" minimum:"0" maximum:"30" doc:"Length of a fixed cord, m."`
	CordManaged  Answer           `json:"cordManaged,omitempty" doc:"Cord management system that is part of the listed equipment."`
	SupplyCord   quantity.Metre   `json:"supplyCord,omitempty" minimum:"0" maximum:"10" doc:"Length of the cord to the plug of a unit that is plugged in, m (US)."`
	DCDetection  Answer           `json:"dcDetection,omitempty" doc:"6 mA residual direct current detection (RDC-DD) in the charger."`
	IP           string           `json:"ip,omitempty" pattern:"^IP[0-6X][0-9X][A-D]?$" doc:"Ingress protection, as IP54."`
	Enclosure    Enclosure        `json:"enclosure,omitempty" doc:"Type of the enclosure by its marking (US)."`
	Terminals    quantity.Celsius `json:"terminals,omitempty" enum:"60,70,75,90" doc:"Temperature that the charger's terminals are marked for, °C."`
	NeedsNeutral Answer           `json:"needsNeutral,omitempty" doc:"Does the charger need a neutral?"`
	Exports      Answer           `json:"exports,omitempty" doc:"Can it feed back into the circuit, from the vehicle's battery?"`
	Moved        string           `json:"moved,omitempty" maxLength:"40" doc:"Number of the job at the other address, of a charger that moves: by which it is taken away there, or is put up again."`
	Closes       string           `json:"closes,omitempty" maxLength:"40" doc:"Number of the job that put it up, of a charger that is taken away or replaced: this one closes its record."`
	Listing      string           `json:"listing,omitempty" maxLength:"80" doc:"Listing mark and standard, as the nameplate has them (US)."`
	Warranty     int              `json:"warrantyYears,omitempty" minimum:"0" maximum:"25" doc:"Warranty of the unit, years; by its maker."`
	EntryDepth   float64          `json:"entryDepth,omitempty" minimum:"0" maximum:"150" doc:"Depth that a cutter goes through at the cable's entry, mm; by the maker's sheet."`
	Manual       string           `json:"manual,omitempty" maxLength:"300" pattern:"^https?://[^ ]+$" doc:"Where the maker's manual for the user is."`
}

// Kept reports whether the circuit was there and is kept: it takes no space, no cable and no device, and what hung on it
// is taken down.
func (c *Circuit) Kept() bool { return c.Existing == Yes }

// Breaker is an overcurrent device.
type Breaker struct {
	Fate       Fate            `json:"fate,omitempty" doc:"What becomes of it, where the circuit was there. Left out: it is kept; where the charger is taken out, not known."`
	Rating     quantity.Ampere `json:"rating,omitempty" minimum:"0" maximum:"400" doc:"Rated current, A."`
	Curve      Curve           `json:"curve,omitempty" doc:"Instantaneous trip type (UK)."`
	Poles      int             `json:"poles,omitempty" enum:"1,2,3,4" doc:"Poles."`
	BreakingKA float64         `json:"breakingKa,omitempty" minimum:"0" maximum:"200" doc:"Rated breaking capacity, kA."`
	BothWays   Answer          `json:"bothWays,omitempty" doc:"Are the breaker and the residual device marked as made to be fed from either side?"`
	LetThrough float64         `json:"letThrough,omitempty" minimum:"0" maximum:"100000000" doc:"Energy that it lets through at the board's fault current, by its maker's table, A²s (UK)."`
	Class      int             `json:"energyClass,omitempty" enum:"1,2,3" doc:"Energy limiting class printed on the device (UK). Left out: no limit is counted on."`
}

// RCD is a residual current device, alone or in one housing with the breaker.
type RCD struct {
	Fate     Fate    `json:"fate,omitempty" doc:"What becomes of it, where the circuit was there. Left out: it is kept."`
	Fitted   Answer  `json:"fitted,omitempty" doc:"Is the circuit protected by a residual current device of its own?"`
	Type     RCDType `json:"type,omitempty" doc:"Type by the currents that it detects."`
	TripMA   float64 `json:"tripMa,omitempty" minimum:"4" maximum:"1000" doc:"Rated residual operating current, mA."`
	AllPoles Answer  `json:"allPoles,omitempty" doc:"Does it open every live conductor, neutral included?"`
	Delayed  Answer  `json:"delayed,omitempty" doc:"Time-delayed (S) type?"`
}

// Family is a family of cables or conductors with one table of ampacity.
type Family string

// Conductor families.
const (
	TwinEarth  Family = "twin-earth"  // flat twin and earth, PVC 70 °C
	Multicore  Family = "multicore"   // non-armoured PVC 70 °C, with a core as protective conductor
	Armoured70 Family = "armoured-70" // steel wire armoured, PVC 70 °C
	Armoured90 Family = "armoured-90" // steel wire armoured, XLPE 90 °C
	Singles    Family = "singles"     // single-core PVC 70 °C in conduit or trunking
	NMB        Family = "nm-b"        // nonmetallic-sheathed cable
	MC         Family = "mc"          // metal-clad cable with THHN conductors
	ThwnEMT    Family = "thwn-emt"    // THHN/THWN-2 in electrical metallic tubing
	ThwnPVC    Family = "thwn-pvc"    // THHN/THWN-2 in rigid PVC conduit
)

// Cable is the cable or the conductors of the circuit.
type Cable struct {
	Fate       Fate     `json:"fate,omitempty" doc:"What becomes of it, where the circuit was there. Left out: it is kept; where the charger is taken out, not known."`
	Family     Family   `json:"family,omitempty" doc:"Family."`
	Size       string   `json:"size,omitempty" maxLength:"12" doc:"Line conductor, as printed: 6 mm², 6 AWG, 1/0 AWG."`
	Material   Material `json:"material,omitempty" doc:"Metal of the conductors. Left out: copper."`
	Earth      EarthBy  `json:"earth,omitempty" doc:"What serves as protective conductor. Left out: a core or wire in the cable."`
	EarthSize  string   `json:"earthSize,omitempty" maxLength:"12" doc:"Protective or equipment grounding conductor, where it is a wire."`
	Loaded     int      `json:"loaded,omitempty" enum:"2,3" doc:"Loaded conductors. Left out: 2 for single phase, 3 for three phase."`
	AlMarked   Answer   `json:"alMarked,omitempty" doc:"Are the terminals at both ends marked for aluminium (US)?"`
	WetMarked  Answer   `json:"wetMarked,omitempty" doc:"Is metal-clad cable marked for wet places (US)?"`
	WhiteIsHot Answer   `json:"whiteIsHot,omitempty" doc:"Is a white or neutral-coloured conductor used as a line?"`
}

// Beyond is the second cable of a circuit, from a joint box on its route to the point.
type Beyond struct {
	From       int    `json:"from,omitempty" minimum:"2" maximum:"40" doc:"Segment of the route at whose beginning the joint box is, counted from 1."`
	Cable      Cable  `json:"cable,omitempty,omitzero" doc:"Cable or conductors beyond it."`
	Accessible Answer `json:"accessible,omitempty" doc:"Can the box be reached and opened without taking the building apart?"`
	Suited     Answer `json:"suited,omitempty" doc:"Is the box made for where it is (dust, water) and for the number and size of the conductors in it?"`
}

// PointEarthing says how an outdoor point on a PME supply is guarded against a
// broken neutral, and for a TT point how it stands apart.
type PointEarthing struct {
	OpenPEN    OpenPEN           `json:"openPen,omitempty" doc:"Way by which open-PEN protection is given, as listed in 722.411.4.1, or the point made TT."`
	RA         quantity.Ohm      `json:"ra,omitempty" minimum:"0" maximum:"5000" doc:"Resistance of the point's earth electrode, Ω."`
	Loads      []quantity.Ampere `json:"loads,omitempty" minimum:"0" maximum:"400" maxItems:"3" doc:"Normal load of each phase other than charging, A, for way (i)."`
	Separation quantity.Metre    `json:"separation,omitempty" minimum:"0" maximum:"100" doc:"Distance between the TT point and metalwork on the PME earth, m."`
	// ArmourApart is asked of a TT point whose cable is armoured.
	ArmourApart Answer `json:"armourApart,omitempty" doc:"Is the cable's armour, on the PME earth at the board, insulated at the TT point?"`
}

// Receptacle is the outlet of a plugged-in charger.
type Receptacle struct {
	Fate    Fate            `json:"fate,omitempty" doc:"What becomes of it, where the circuit was there. Left out: it is kept."`
	Rating  quantity.Ampere `json:"rating,omitempty" minimum:"0" maximum:"100" doc:"Rating of the receptacle, A."`
	GFCI    Answer          `json:"gfci,omitempty" doc:"Ground-fault protection for personnel on the outlet."`
	Neutral Answer          `json:"neutral,omitempty" doc:"Does the pattern have a neutral?"`
	Cover   Answer          `json:"inUseCover,omitempty" doc:"In a wet place: has the outlet a cover that keeps it weatherproof while plugged in (US)?"`
	Box     Box             `json:"box,omitempty" doc:"Square box: side and depth, in."`
	Gangs   int             `json:"gangs,omitempty" enum:"1,2" doc:"Gangs that the receptacle is wide."`
	Clear   Answer          `json:"cordClear,omitempty" doc:"Does the unit's cord hang clear of the floor when it is plugged in (US)?"`
	Clamps  Answer          `json:"clamps,omitempty" doc:"Clamps inside the box?"`
}
