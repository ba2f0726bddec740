package job

import "dogbolt/core/quantity"

// SurveySheet is what the surveyor saw.
type SurveySheet struct {
	Supply   Supply    `json:"supply,omitempty" doc:"The incoming supply and its earthing."`
	Board    Board     `json:"board,omitempty" doc:"The consumer unit or panel that feeds the points."`
	Dwelling Dwelling  `json:"dwelling,omitempty" doc:"What the demand methods ask of the building."`
	Loads    []Load    `json:"loads,omitempty" maxItems:"60" doc:"Appliances that share the supply."`
	Vehicles []Vehicle `json:"vehicles,omitempty" maxItems:"12" doc:"Vehicles to be charged."`
	Places   []Place   `json:"places,omitempty" maxItems:"12" doc:"One place per charging point: position and cable route."`
}

// EarthingSystem is how the supply is earthed or, in North America, its system.
type EarthingSystem string

// Supply systems.
const (
	TNCS     EarthingSystem = "tn-c-s"       // PME: neutral and earth combined in the supply
	TNS      EarthingSystem = "tn-s"         // separate earth from the supply
	TT       EarthingSystem = "tt"           // own earth electrode
	Split240 EarthingSystem = "split-120240" // 120/240 V single phase, three wire
	Wye208   EarthingSystem = "wye-208120"   // 208Y/120 V
)

// Supply is the service as found, up to and including the service disconnect
// or the cutout. Its rating is the service's own, not the board's.
type Supply struct {
	System        EarthingSystem  `json:"system,omitempty" enum:"tn-c-s,tn-s,tt,split-120240,wye-208120" doc:"Earthing or supply system."`
	Phases        int             `json:"phases,omitempty" enum:"1,3" doc:"Number of phases of the supply."`
	Rating        quantity.Ampere `json:"rating,omitempty" minimum:"0" maximum:"1200" doc:"Rating of the cutout fuse or service disconnect, A."`
	RatingSeen    Answer          `json:"ratingSeen,omitempty" enum:"yes,no" doc:"Was the rating read off the fuse or service label itself?"`
	Voltage       string          `json:"voltage,omitempty" maxLength:"20" doc:"Measured voltage, line to neutral (UK) or hot to hot (US), V, as the meter shows it."`
	DeclaredZe    quantity.Ohm    `json:"declaredZe,omitempty" minimum:"0" maximum:"500" doc:"External earth fault loop impedance declared or typical, Ω."`
	ElectrodeRA   quantity.Ohm    `json:"electrodeRa,omitempty" minimum:"0" maximum:"5000" doc:"Resistance of the installation's own earth electrode, Ω."`
	FaultCurrent  float64         `json:"faultCurrent,omitempty" minimum:"0" maximum:"200" doc:"Prospective fault current declared at the origin, kA."`
	PeakDemand    quantity.Ampere `json:"peakDemand,omitempty" minimum:"0" maximum:"1200" doc:"Highest measured 15-minute demand, A."`
	PeakDays      int             `json:"peakDays,omitempty" minimum:"0" maximum:"3660" doc:"Length of the record behind the measured demand, days."`
	OtherSource   Answer          `json:"otherSource,omitempty" enum:"yes,no" doc:"Solar, battery or generator on site: a second source when isolating."`
	MainsSwitchAt string          `json:"mainSwitchAt,omitempty" maxLength:"80" doc:"Where the main switch is."`
}

// Board is the consumer unit or panel that the circuit leaves from.
type Board struct {
	Label           string           `json:"label,omitempty" maxLength:"120" doc:"What the board's label says, or where it stands."`
	Rating          quantity.Ampere  `json:"rating,omitempty" minimum:"0" maximum:"1200" doc:"Main switch or busbar rating, A."`
	Ways            int              `json:"ways,omitempty" minimum:"0" maximum:"120" doc:"Ways or spaces in all."`
	WaysFree        *int             `json:"waysFree,omitempty" minimum:"0" maximum:"120" doc:"Ways or spaces free."`
	FreePair        Answer           `json:"freePair,omitempty" enum:"yes,no" doc:"Is there a free pair of spaces on both legs for a two-pole breaker?"`
	CircuitsMax     int              `json:"circuitsMax,omitempty" minimum:"0" maximum:"240" doc:"Circuits that the label allows."`
	CircuitsFitted  int              `json:"circuitsFitted,omitempty" minimum:"0" maximum:"240" doc:"Circuits fitted now; a two-pole breaker counts as two."`
	BreakingKA      float64          `json:"breakingKa,omitempty" minimum:"0" maximum:"200" doc:"Breaking capacity of the board's devices, kA."`
	Terminals       quantity.Celsius `json:"terminals,omitempty" enum:"60,70,75,90" doc:"Temperature that the breaker's terminals are marked for, °C."`
	UpstreamRCDType string           `json:"upstreamRcdType,omitempty" enum:"none,AC,A,F,B" doc:"Type of a residual current device upstream of the circuit."`
}

// Dwelling is what the demand methods ask of the building.
type Dwelling struct {
	FloorArea  float64 `json:"floorArea,omitempty" minimum:"0" maximum:"5000" doc:"Heated floor area, m²."`
	KitchenCct int     `json:"kitchenCircuits,omitempty" minimum:"0" maximum:"10" doc:"Small-appliance circuits (US)."`
	LaundryCct int     `json:"laundryCircuits,omitempty" minimum:"0" maximum:"10" doc:"Laundry circuits (US)."`
}

// LoadKind classes an appliance for the diversity and demand methods.
type LoadKind string

// Kinds of load. Which apply depends on the rulebook.
const (
	Lighting    LoadKind = "lighting"
	Heating     LoadKind = "heating"      // direct electric room heating
	Cooling     LoadKind = "cooling"      // air conditioning
	HeatPump    LoadKind = "heat-pump"    // without supplementary resistance heat
	Cooker      LoadKind = "cooker"       // range, oven, hob
	Shower      LoadKind = "shower"       // instantaneous electric shower
	TanklessHW  LoadKind = "tankless"     // instantaneous water heater
	StoredHW    LoadKind = "water-heater" // stored water heater
	StorageHeat LoadKind = "storage-heat" // storage or floor heating
	Sockets     LoadKind = "sockets"      // a socket-outlet circuit, at its device's rating
	Dryer       LoadKind = "dryer"
	Motor       LoadKind = "motor" // pool pump, well pump, workshop
	OtherFixed  LoadKind = "other" // other fastened appliance at nameplate
	ExistingEV  LoadKind = "ev"    // another charging point
)

// Load is one appliance or socket circuit that shares the supply.
type Load struct {
	Kind  LoadKind        `json:"kind" enum:"lighting,heating,cooling,heat-pump,cooker,shower,tankless,water-heater,storage-heat,sockets,dryer,motor,other,ev" doc:"Class of the load."`
	Name  string          `json:"name,omitempty" maxLength:"80" doc:"What it is, as the customer calls it."`
	Power quantity.Watt   `json:"power,omitempty" minimum:"0" maximum:"60000" doc:"Rated power, W."`
	Amps  quantity.Ampere `json:"amps,omitempty" minimum:"0" maximum:"400" doc:"Rated current, A, where power is not known (socket circuits: the device's rating)."`
	// WithSocket matters to one line of the UK diversity table.
	WithSocket Answer `json:"withSocket,omitempty" enum:"yes,no" doc:"Cooker control unit with a socket-outlet."`
}

// Vehicle is a car or van to be charged.
type Vehicle struct {
	Name      string        `json:"name,omitempty" maxLength:"60" doc:"What it is, without make: hatchback, van."`
	OnBoard   quantity.Watt `json:"onBoard,omitempty" minimum:"0" maximum:"43000" doc:"On-board charger, W."`
	Phases    int           `json:"phases,omitempty" enum:"1,3" doc:"Phases of the on-board charger."`
	Battery   float64       `json:"battery,omitempty" minimum:"0" maximum:"600" doc:"Usable battery, kWh."`
	Energy    float64       `json:"energy,omitempty" minimum:"0" maximum:"600" doc:"Energy needed in a usual night, kWh into the battery."`
	Arrival   string        `json:"arrival,omitempty" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"Usual time of plugging in, 22:00."`
	Departure string        `json:"departure,omitempty" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"Usual time of leaving, 07:00."`
	Inlet     string        `json:"inlet,omitempty" enum:"front-left,front-centre,front-right,left-front,right-front,rear-left,rear-centre,rear-right" doc:"Where on the vehicle the inlet is."`
	Attitude  string        `json:"attitude,omitempty" enum:"nose-in,tail-in" doc:"How it is parked."`
}

// Place is where a charging point goes and how its cable gets there.
type Place struct {
	Point        string         `json:"point" minLength:"1" maxLength:"8" doc:"Id of the charging point: A, B."`
	Name         string         `json:"name,omitempty" maxLength:"80" doc:"Position in words: corner by the drive."`
	Outdoors     Answer         `json:"outdoors,omitempty" enum:"yes,no" doc:"Outdoors, or a garage from which a car outside may be charged."`
	HolderHeight quantity.Metre `json:"holderHeight,omitempty" minimum:"0" maximum:"5" doc:"Height of the socket or connector holder above ground, m."`
	Why          string         `json:"why,omitempty" maxLength:"1000" doc:"Why this position and not another."`
	Route        []Segment      `json:"route,omitempty" maxItems:"40" doc:"The cable route, from the board to the point."`
}

// Length is the sum of the route's segments.
func (p Place) Length() quantity.Metre {
	var l quantity.Metre
	for _, s := range p.Route {
		l += s.Length
	}
	return l
}

// Surveyed reports whether the route has segments and each has a length and a method.
func (p Place) Surveyed() bool {
	for _, s := range p.Route {
		if s.Length <= 0 || s.Method == "" {
			return false
		}
	}
	return len(p.Route) > 0
}

// Method is how a stretch of cable is installed.
type Method string

// Installation methods, with the BS 7671 reference method in brackets.
const (
	Surface       Method = "surface"         // clipped direct (C)
	StudWall      Method = "stud-wall"       // in an insulated stud wall, touching the inner face (102)
	CeilingThin   Method = "ceiling-thin"    // above a ceiling, insulation up to 100 mm (100)
	CeilingThick  Method = "ceiling-thick"   // above a ceiling, insulation over 100 mm (101)
	InInsulation  Method = "in-insulation"   // surrounded by insulation (103)
	ConduitInWall Method = "conduit-in-wall" // in conduit in an insulated wall (A)
	Conduit       Method = "conduit"         // in conduit or trunking (B)
	FreeAir       Method = "free-air"        // on tray, ladder or catenary (E)
	Buried        Method = "buried"          // in the ground (D)
)

// Segment is one stretch of the route with the same conditions along it.
type Segment struct {
	Method  Method            `json:"method,omitempty" enum:"surface,stud-wall,ceiling-thin,ceiling-thick,in-insulation,conduit-in-wall,conduit,free-air,buried" doc:"How the cable is installed here."`
	Length  quantity.Metre    `json:"length,omitempty" minimum:"0" maximum:"1000" doc:"Length, m, drops included."`
	Ambient *quantity.Celsius `json:"ambient,omitempty" minimum:"-40" maximum:"80" doc:"Hottest expected ambient (air, or ground where buried), °C. Left out: the table's own."`
	Grouped int               `json:"grouped,omitempty" minimum:"0" maximum:"20" doc:"Loaded circuits running together, this one included (UK). 0 counts as 1."`
	// Insulated and Soil are factors of BS 7671 that apply to few segments.
	Insulated quantity.Metre `json:"insulated,omitempty" minimum:"0" maximum:"1000" doc:"Longest stretch of this segment that thermal insulation surrounds on all sides, m (UK, clipped cable only)."`
	Soil      float64        `json:"soil,omitempty" minimum:"0" maximum:"5" doc:"Thermal resistivity of the soil, K·m/W (UK, buried cable only). 0: the table's own, 2.5."`
	Wires     int            `json:"wires,omitempty" minimum:"0" maximum:"60" doc:"Current-carrying conductors in the same raceway or bundle, this circuit's included (US). 0 counts as this circuit's own."`
	Wet       Answer         `json:"wet,omitempty" enum:"yes,no" doc:"Wet location, outdoor raceways included."`
	Note      string         `json:"note,omitempty" maxLength:"200" doc:"Where it runs."`
}
