package job

import (
	"slices"

	"dogbolt/core/quantity"
)

// Survey is what the surveyor saw.
type Survey struct {
	Supply   Supply    `json:"supply,omitempty" doc:"The incoming supply and its earthing."`
	Bonding  Bonding   `json:"bonding,omitempty,omitzero" doc:"Earthing conductor and main protective bonding, as found (UK)."`
	Board    Board     `json:"board,omitempty" doc:"The consumer unit or panel that feeds the points."`
	Dwelling Dwelling  `json:"dwelling,omitempty" doc:"What the demand methods ask of the building."`
	Loads    []Load    `json:"loads,omitempty" maxItems:"60" doc:"Appliances that share the supply."`
	Vehicles []Vehicle `json:"vehicles,omitempty" maxItems:"12" doc:"Vehicles to be charged."`
	Places   []Place   `json:"places,omitempty" maxItems:"12" doc:"One place per charging point: position and cable route."`
	SitePlan SitePlan  `json:"sitePlan,omitempty,omitzero" doc:"Parking and candidate positions, drawn from measures."`
	Network  Network   `json:"network,omitempty,omitzero" doc:"How the charger will be reached."`
	Consent  Consent   `json:"consent,omitempty,omitzero" doc:"What the customer refuses and who must agree."`
	Photos   []Photo   `json:"photos,omitempty" maxItems:"80" doc:"Pictures taken on the visit."`
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
	// A source of its own that was never joined to the network: inverter or generator.
	Island      EarthingSystem = "island"        // 230 V to earth
	IslandSplit EarthingSystem = "island-120240" // 120/240 V
)

// Supply is the service as found, up to and including the service disconnect
// or the cutout. Its rating is the service's own, not the board's.
type Supply struct {
	System       EarthingSystem  `json:"system,omitempty" doc:"Earthing or supply system."`
	Phases       int             `json:"phases,omitempty" enum:"1,3" doc:"Number of phases of the supply."`
	Rating       quantity.Ampere `json:"rating,omitempty" minimum:"0" maximum:"1200" doc:"Rating of the cutout fuse or service disconnect, A."`
	RatingSeen   Answer          `json:"ratingSeen,omitempty" doc:"Was the rating read off the fuse or service label itself?"`
	Voltage      string          `json:"voltage,omitempty" maxLength:"20" doc:"Measured voltage, line to neutral (UK) or hot to hot (US), V, as the meter shows it."`
	DeclaredZe   quantity.Ohm    `json:"declaredZe,omitempty" minimum:"0" maximum:"500" doc:"External earth fault loop impedance declared or typical, Ω."`
	ElectrodeRA  quantity.Ohm    `json:"electrodeRa,omitempty" minimum:"0" maximum:"5000" doc:"Resistance of the installation's own earth electrode, Ω."`
	FaultCurrent float64         `json:"faultCurrent,omitempty" minimum:"0" maximum:"200" doc:"Prospective fault current declared at the origin, kA."`
	EarthFault   float64         `json:"earthFault,omitempty" minimum:"0" maximum:"200" doc:"Earth fault current measured at the board, kA; left out: computed from Ze (UK)."`
	PeakDemand   quantity.Ampere `json:"peakDemand,omitempty" minimum:"0" maximum:"1200" doc:"Highest measured 15-minute demand, A."`
	PeakDays     int             `json:"peakDays,omitempty" minimum:"0" maximum:"3660" doc:"Length of the record behind the measured demand, days."`
	PeakMinutes  int             `json:"peakMinutes,omitempty" enum:"15,30,60" doc:"Length of the intervals of that record, min (US)."`
	PeakSeason   Answer          `json:"peakSeason,omitempty" doc:"Did the larger of heating and cooling run during a record of less than a year (US)?"`
	Transformer  float64         `json:"transformerKva,omitempty" minimum:"0" maximum:"5000" doc:"Rating of the utility's transformer, kVA (US)."`
	Impedance    float64         `json:"transformerZ,omitempty" minimum:"0" maximum:"20" doc:"Its impedance by the nameplate, % (US)."`
	Condition    Condition       `json:"condition,omitempty" doc:"Condition of cutout, service cable and earthing terminal, as seen."`
	OtherSource  Answer          `json:"otherSource,omitempty" doc:"Solar, battery, generator or another service on site: a second source when isolating."`
	Earthed      Answer          `json:"sourceEarthed,omitempty" doc:"Of a source of its own, never joined to the network: is its neutral joined to earth, at an electrode of its own?"`
	Second       Second          `json:"second,omitempty,omitzero" doc:"The second source, where there is one."`
	Monthly      []float64       `json:"monthly,omitempty" minimum:"0" maximum:"1200" maxItems:"12" doc:"Highest 15-minute demand of each of twelve months, A; they give the measured demand where it is left out."`
	// Profile is the building's own night, read from interval data.
	Profile       []float64 `json:"profile,omitempty" minimum:"0" maximum:"1200" maxItems:"96" doc:"Demand of the day with the highest peak, A, from midnight in equal steps of 15, 30 or 60 minutes."`
	MainsSwitchAt string    `json:"mainSwitchAt,omitempty" maxLength:"80" doc:"Where the main switch is."`
}

// Bonded is what was found of the bonding of a service or structure.
type Bonded string

// What was found.
const (
	IsBonded   Bonded = "bonded"
	NotBonded  Bonded = "not-bonded"
	Plastic    Bonded = "plastic" // it enters in plastic: no extraneous-conductive-part
	NotPresent Bonded = "none"
)

// Bonding is the earthing conductor and the main protective bonding of a building.
type Bonding struct {
	Conductor quantity.SquareMillimetre `json:"conductor,omitempty" minimum:"0" maximum:"300" doc:"Earthing conductor, mm²."`
	Size      quantity.SquareMillimetre `json:"size,omitempty" minimum:"0" maximum:"300" doc:"Smallest main bonding conductor, mm²."`
	Gas       Bonded                    `json:"gas,omitempty" doc:"Gas service."`
	Water     Bonded                    `json:"water,omitempty" doc:"Water service."`
	Oil       Bonded                    `json:"oil,omitempty" doc:"Oil service."`
	Steel     Bonded                    `json:"steel,omitempty" doc:"Structural steel."`
	Other     Bonded                    `json:"other,omitempty" doc:"Any other extraneous-conductive-part."`
}

// Peak returns the measured demand and the length of the record behind it, days:
// as entered, or the highest of twelve monthly peaks, which are a year's. A month
// that is still 0 is not known, and then there is no year.
func (s *Supply) Peak() (quantity.Ampere, int) {
	if s.PeakDemand > 0 || len(s.Monthly) != 12 || slices.Min(s.Monthly) <= 0 {
		return s.PeakDemand, s.PeakDays
	}
	return quantity.Ampere(slices.Max(s.Monthly)), 365
}

// Board is the consumer unit or panel that the circuit leaves from.
type Board struct {
	Label           string           `json:"label,omitempty" maxLength:"120" doc:"What the board's label says, or where it stands."`
	Rating          quantity.Ampere  `json:"rating,omitempty" minimum:"0" maximum:"1200" doc:"Main switch or busbar rating, A."`
	Ways            int              `json:"ways,omitempty" minimum:"0" maximum:"120" doc:"Ways or spaces in all."`
	WaysFree        *int             `json:"waysFree,omitempty" minimum:"0" maximum:"120" doc:"Ways or spaces free."`
	FreePair        Answer           `json:"freePair,omitempty" doc:"Is there a free pair of spaces on both legs for a two-pole breaker?"`
	CircuitsMax     int              `json:"circuitsMax,omitempty" minimum:"0" maximum:"240" doc:"Circuits that the label allows."`
	CircuitsFitted  int              `json:"circuitsFitted,omitempty" minimum:"0" maximum:"240" doc:"Circuits fitted now; a two-pole breaker counts as two."`
	WorkingSpace    Answer           `json:"workingSpace,omitempty" doc:"Is the working space in front of it as large as the rules ask, and nothing kept there (US)?"`
	HandleHeight    quantity.Metre   `json:"handleHeight,omitempty" minimum:"0" maximum:"6" doc:"Height of its highest breaker handle above the floor, m (US)."`
	BreakingKA      float64          `json:"breakingKa,omitempty" minimum:"0" maximum:"200" doc:"Breaking capacity of the board's devices, kA."`
	Terminals       quantity.Celsius `json:"terminals,omitempty" enum:"60,70,75,90" doc:"Temperature that the breaker's terminals are marked for, °C."`
	UpstreamRCDType Upstream         `json:"upstreamRcdType,omitempty" doc:"Type of a residual current device upstream of the circuit."`
	Layout          Layout           `json:"layout,omitempty" doc:"Ways in rows, or spaces in two columns with odd numbers on the left."`
	Rows            int              `json:"rows,omitempty" minimum:"0" maximum:"6" doc:"Rows of a board in rows; 1 where left out."`
	DoublesAt       []int            `json:"doublesAt,omitempty" minimum:"1" maximum:"120" maxItems:"120" doc:"Spaces in which the label allows half-width doubles."`
	Slots           []Slot           `json:"slots,omitempty" maxItems:"120" doc:"What is fitted, device by device."`
	Rearrangement   Rearrangement    `json:"rearrangement,omitempty,omitzero" doc:"A person's own arrangement that makes room; left out: the program looks for one."`
	ConditionalKA   float64          `json:"conditionalKa,omitempty" minimum:"0" maximum:"200" doc:"Conditional short-circuit rating that the board's label declares behind the service's fuse, kA (UK)."`
	FedFrom         FedFrom          `json:"fedFrom,omitempty" doc:"Is it fed from the service itself, or over a sub-main? Left out: the whole demand is counted on it."`
	OtherDemand     *quantity.Ampere `json:"otherDemand,omitempty" minimum:"0" maximum:"1200" doc:"Demand of a board on a sub-main without charging, A."`
	Loop            quantity.Ohm     `json:"loop,omitempty" minimum:"0" maximum:"500" doc:"Earth fault loop impedance measured at a board on a sub-main, Ω (UK)."`
	Drop            float64          `json:"drop,omitempty" minimum:"0" maximum:"20" doc:"Voltage drop of its sub-main at its full load, % (UK)."`
	Outbuilding     Outbuilding      `json:"outbuilding,omitempty,omitzero" doc:"A board on a sub-main in a building apart from the service's (US)."`
	Links           []Link           `json:"links,omitempty" maxItems:"12" doc:"What the current passes between the service and this board, beside its own main switch or busbar."`
}

// Outbuilding is what a board in a building of its own has for itself (US).
type Outbuilding struct {
	Apart      Answer `json:"apart,omitempty" doc:"Is the board in a building or structure apart from the service's?"`
	Disconnect Answer `json:"disconnect,omitempty" doc:"Has that building a disconnect of its own where the supply comes in?"`
	Electrode  Answer `json:"electrode,omitempty" doc:"Has it a grounding electrode of its own?"`
	Neutral    Answer `json:"neutralApart,omitempty" doc:"Is the neutral kept apart from the ground there?"`
}

// FedFrom is what feeds a board.
type FedFrom string

// What feeds a board.
const (
	FromService FedFrom = "service"
	FromSubMain FedFrom = "sub-main"
)

// LinkKind is what a link between the service and a board is.
type LinkKind string

// Kinds of link.
const (
	Tails        LinkKind = "tails"
	MainSwitch   LinkKind = "main-switch"
	Busbar       LinkKind = "busbar"
	ResidualLink LinkKind = "residual-device"
	FeederDevice LinkKind = "feeder-device" // overcurrent device of a sub-main
	FeederCable  LinkKind = "feeder-cable"
)

// Link is something between the service and a board that carries its current.
type Link struct {
	Kind   LinkKind        `json:"kind" doc:"What it is."`
	Rating quantity.Ampere `json:"rating,omitempty" minimum:"0" maximum:"1200" doc:"What it carries, A."`
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
	HeatPump    LoadKind = "heat-pump"    // its compressor; supplementary resistance heat is a load of its own, heating
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
	Kind  LoadKind        `json:"kind" doc:"Class of the load."`
	Name  string          `json:"name,omitempty" maxLength:"80" doc:"What it is, as the customer calls it."`
	Power quantity.Watt   `json:"power,omitempty" minimum:"0" maximum:"60000" doc:"Rated power, W."`
	Amps  quantity.Ampere `json:"amps,omitempty" minimum:"0" maximum:"400" doc:"Rated current, A, where power is not known (socket circuits: the device's rating)."`
	// WithSocket matters to one line of the UK diversity table.
	WithSocket Answer `json:"withSocket,omitempty" doc:"Cooker control unit with a socket-outlet."`
}

// BayOf is the bay that a vehicle stands in: the one that was said, or the only bay of the only
// vehicle; "" where nobody knows.
func (s *Survey) BayOf(vehicle int) string {
	if said := s.Vehicles[vehicle].Bay; said != "" || len(s.Vehicles) != 1 || len(s.SitePlan.Bays) != 1 {
		return said
	}
	return s.SitePlan.Bays[0].ID
}

// Vehicle is a car or van to be charged.
type Vehicle struct {
	Name      string          `json:"name,omitempty" maxLength:"60" doc:"What it is, without make: hatchback, van."`
	OnBoard   quantity.Watt   `json:"onBoard,omitempty" minimum:"0" maximum:"43000" doc:"On-board charger, W."`
	Phases    int             `json:"phases,omitempty" enum:"1,3" doc:"Phases of the on-board charger."`
	OnePhase  quantity.Ampere `json:"onePhase,omitempty" minimum:"0" maximum:"80" doc:"Most that a vehicle of three phases takes on one, A. Left out: a third of its on-board charger."`
	Battery   float64         `json:"battery,omitempty" minimum:"0" maximum:"600" doc:"Usable battery, kWh."`
	Energy    float64         `json:"energy,omitempty" minimum:"0" maximum:"600" doc:"Energy needed in a usual night, kWh into the battery."`
	Arrival   string          `json:"arrival,omitempty" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"Usual time of plugging in, 22:00."`
	Departure string          `json:"departure,omitempty" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"Usual time of leaving, 07:00."`
	Inlet     Inlet           `json:"inlet,omitempty" doc:"Where on the vehicle the inlet is."`
	Attitude  Attitude        `json:"attitude,omitempty" doc:"How it is parked."`
	Bay       string          `json:"bay,omitempty" maxLength:"8" doc:"Bay of the site plan that it stands in."`
	// Size matters to the cord's way round it.
	Length      quantity.Metre `json:"length,omitempty" minimum:"0" maximum:"12" doc:"Length, m. Left out: 4.5 m."`
	Width       quantity.Metre `json:"width,omitempty" minimum:"0" maximum:"4" doc:"Width, m. Left out: 1.9 m."`
	InletHeight quantity.Metre `json:"inletHeight,omitempty" minimum:"0" maximum:"3" doc:"Height of the inlet above ground, m. Left out: 0.8 m."`
}

// Place is where a charging point goes and how its cable gets there.
type Place struct {
	Point        string         `json:"point" minLength:"1" maxLength:"8" doc:"Id of the charging point: A, B."`
	Name         string         `json:"name,omitempty" maxLength:"80" doc:"Position in words: corner by the drive."`
	Outdoors     Answer         `json:"outdoors,omitempty" doc:"Outdoors, or a garage from which a car outside may be charged."`
	HolderHeight quantity.Metre `json:"holderHeight,omitempty" minimum:"0" maximum:"5" doc:"Height of the socket or connector holder above ground, m."`
	Detached     Answer         `json:"detached,omitempty" doc:"Is the point at a building or structure apart from the board's (US)?"`
	OtherSupply  Answer         `json:"otherSupply,omitempty" doc:"Has that building a circuit or a feeder already (US)?"`
	Position     string         `json:"position,omitempty" maxLength:"8" doc:"Candidate position of the site plan that was chosen."`
	Why          string         `json:"why,omitempty" maxLength:"1000" doc:"Why this position and not another."`
	Loop         quantity.Metre `json:"loop,omitempty" minimum:"0" maximum:"20" doc:"Cable left as a service loop at the ends, m."`
	Route        []Segment      `json:"route,omitempty" maxItems:"40" doc:"The cable route, from the board to the point."`
	// First is how many segments lie before the route's first one: where the place is a
	// leg of a longer route. Filled in by Legs.
	First int `json:"-"`
}

// Length is the length of the cable along the route: of every segment its
// measure, its vertical drops, and the wall or floor that it goes through.
func (p Place) Length() quantity.Metre {
	var l quantity.Metre
	for _, s := range p.Route {
		l += s.Run()
	}
	return l
}

// Surveyed reports whether the route has segments and each has a length and a method.
func (p Place) Surveyed() bool {
	for _, s := range p.Route {
		if s.Run() <= 0 || s.Method == "" {
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
	Trunking      Method = "trunking"        // in trunking (B)
	ThroughWall   Method = "through-wall"    // through masonry, at its thickness (C)
	Catenary      Method = "catenary"        // hung from a wire (E)
)

// Reference returns the method whose column of the tables holds for this one:
// trunking as conduit (B), masonry as clipped (C), catenary as free air (E), by
// table 4A2 of BS 7671 (from memory).
func (m Method) Reference() Method {
	switch m {
	case Trunking:
		return Conduit
	case ThroughWall:
		return Surface
	case Catenary:
		return FreeAir
	}
	return m
}

// Enclosed reports whether the method is a raceway with a fill.
func (m Method) Enclosed() bool {
	return m == Conduit || m == Trunking || m == ConduitInWall
}

// Segment is one stretch of the route with the same conditions along it.
type Segment struct {
	Method   Method            `json:"method,omitempty" doc:"How the cable is installed here."`
	Length   quantity.Metre    `json:"length,omitempty" minimum:"0" maximum:"1000" doc:"Length as measured, m."`
	Drop     quantity.Metre    `json:"drop,omitempty" minimum:"0" maximum:"60" doc:"Vertical drops and rises that the measure leaves out, m."`
	Wall     quantity.Metre    `json:"wall,omitempty" minimum:"0" maximum:"3" doc:"Thickness of a wall or floor between the two sides of the datum, m."`
	Bends    float64           `json:"bends,omitempty" minimum:"0" maximum:"2000" doc:"Sum of the bends, degrees."`
	Pull     Answer            `json:"pull,omitempty" doc:"Does the segment end at a pull point (box, fitting with a cover)?"`
	Cover    quantity.Metre    `json:"cover,omitempty" minimum:"0" maximum:"3" doc:"Depth from the surface to the top of the cable or raceway, m (buried)."`
	Under    Under             `json:"under,omitempty" doc:"What lies above a buried cable."`
	Taped    Answer            `json:"taped,omitempty" doc:"Marking tape or tiles above a buried cable?"`
	Size     string            `json:"size,omitempty" maxLength:"12" doc:"Size of the conduit or trunking: 25 mm, 50x50, ¾ in."`
	Schedule int               `json:"schedule,omitempty" enum:"40,80" doc:"Schedule of PVC conduit (US): 80 where it is exposed to damage. Left out: 80, the narrower."`
	Others   float64           `json:"others,omitempty" minimum:"0" maximum:"20000" doc:"Area of other cables in the same raceway, mm²."`
	Ambient  *quantity.Celsius `json:"ambient,omitempty" minimum:"-40" maximum:"80" doc:"Hottest expected ambient (air, or ground where buried), °C. Left out is not known."`
	Grouped  int               `json:"grouped,omitempty" minimum:"0" maximum:"20" doc:"Loaded circuits running together, this one included (UK); 1 where it runs alone. Left out is not known."`
	// Insulated and Soil are factors of BS 7671 that apply to few segments.
	Insulated quantity.Metre `json:"insulated,omitempty" minimum:"0" maximum:"1000" doc:"Longest stretch of this segment that thermal insulation surrounds on all sides, m (UK, clipped cable only)."`
	Soil      float64        `json:"soil,omitempty" minimum:"0" maximum:"5" doc:"Thermal resistivity of the soil, K·m/W (UK, buried cable only). 0: the table's own, 2.5."`
	Ducted    Answer         `json:"ducted,omitempty" doc:"Does the buried cable lie in a duct (UK)? Left out: the worse of both."`
	OneLayer  Answer         `json:"oneLayer,omitempty" doc:"Are the grouped cables clipped side by side in one layer (UK)? Left out: bunched."`
	Wires     int            `json:"wires,omitempty" minimum:"0" maximum:"60" doc:"Current-carrying conductors in the same raceway or bundle, this circuit's included (US). Left out is not known."`
	Wet       Answer         `json:"wet,omitempty" doc:"Wet location, outdoor raceways included."`
	Roof      Answer         `json:"roof,omitempty" doc:"In sunlight, less than 23 mm (7/8 in) above a roof (US, wet places)?"`
	Edges     Answer         `json:"edges,omitempty" doc:"Is cable in framing 32 mm (1 1/4 in) from every edge, or behind a steel plate (US)?"`
	Riser     Answer         `json:"riser,omitempty" doc:"Where a buried stretch leaves the ground: in a raceway that guards it to 2.5 m (8 ft) above, or into an enclosure (US)?"`
	Slack     Answer         `json:"slack,omitempty" doc:"Can the ground settle or frost lift it without harm to a buried stretch: slack, or an expansion fitting (US)?"`
	Note      string         `json:"note,omitempty" maxLength:"200" doc:"Where it runs."`
}

// Run is the cable that a segment takes: its measure, drops and wall.
func (s Segment) Run() quantity.Metre { return s.Length + s.Drop + s.Wall }
