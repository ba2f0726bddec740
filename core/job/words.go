package job

import (
	"slices"

	"dogbolt/core/schema"
)

// Each type below is a field that is answered by one of a few words. The words are
// declared here once: the schema, the reader and the pages take them from Values.

// Values lists the stages in the order of work.
func (Stage) Values() []string { return schema.Words(Stages...) }

// Values lists the answers.
func (Answer) Values() []string { return schema.Words(Yes, No) }

// Values lists the kinds of entry.
func (EntryKind) Values() []string {
	return schema.Words(StepDone, ReadingMade, TorqueMade, SettingMade, Overridden, SignedOff, Varied, PhotoTaken, Noted, TakenBack,
		PaperMoved, Inspected, CorrectionAsked, PutRight, Withdrawn, HandedOver)
}

// Values lists what papers come before, in the order of work.
func (Before) Values() []string { return schema.Words(Befores...) }

// Values lists what a reply can say.
func (Outcome) Values() []string { return schema.Words(Received, Accepted, Bounced) }

var outcomes = []Word{{string(Received), "acknowledged"}, {string(Accepted), "accepted"}, {string(Bounced), "sent back"}}

// Said is what a reply says, in words.
func (o Outcome) Said() string { return said(outcomes, string(o)) }

// Values lists how far a part that is not in hand can have come.
func (PartState) Values() []string { return schema.Words(Listed, Ordered) }

// Values lists the families of cables and conductors.
func (Family) Values() []string { return schema.Words(Families...) }

// Values lists the earthing and supply systems.
func (EarthingSystem) Values() []string {
	return schema.Words(TNCS, TNS, TT, Split240, Wye208, Island, IslandSplit)
}

// Values lists the classes of load.
func (LoadKind) Values() []string {
	return schema.Words(Lighting, Heating, Cooling, HeatPump, Cooker, Shower, TanklessHW, StoredHW,
		StorageHeat, Sockets, Dryer, Motor, OtherFixed, ExistingEV)
}

// Values lists the methods of installation.
func (Method) Values() []string {
	return schema.Words(Surface, StudWall, CeilingThin, CeilingThick, InInsulation, ConduitInWall,
		Conduit, Trunking, ThroughWall, Catenary, FreeAir, Buried)
}

// DemandMethod is how the demand of a supply is judged.
type DemandMethod string

// Demand methods. Which of them a country has, its book says.
const (
	ByDiversity      DemandMethod = "diversity" // the on-site guide's table of diversity
	By22082          DemandMethod = "220.82"    // NEC, optional calculation of a dwelling
	By22083          DemandMethod = "220.83"    // NEC, existing dwelling with a load added
	ByMeasuredDemand DemandMethod = "220.87"    // highest demand on record
)

// Values lists the demand methods.
func (DemandMethod) Values() []string {
	return schema.Words(ByDiversity, By22082, By22083, ByMeasuredDemand)
}

// Sharing is how two or more points share what the supply has.
type Sharing string

// Ways of sharing.
const (
	Separate    Sharing = "separate"     // each at its setting
	SharedLimit Sharing = "shared-limit" // all under one limit
	LoadSharing Sharing = "load-sharing" // the limit is shared out between them
)

// Values lists the ways of sharing.
func (Sharing) Values() []string { return schema.Words(Separate, SharedLimit, LoadSharing) }

// Connection is how a charger is connected to its circuit, or that the circuit ends in a board.
type Connection string

// Ways of connecting.
const (
	HardWired Connection = "hard-wired"
	PluggedIn Connection = "receptacle"
	IntoBoard Connection = "board" // a sub-main or feeder: no charger hangs on it, a board does
)

// Values lists the ways of connecting.
func (Connection) Values() []string { return schema.Words(HardWired, PluggedIn, IntoBoard) }

// SPD is what became of surge protection.
type SPD string

// Surge protection: fitted with this work, there before, there before and replaced, or declined by the owner.
const (
	SPDFitted   SPD = "fitted"
	SPDPresent  SPD = "present"
	SPDReplaced SPD = "replaced"
	SPDDeclined SPD = "declined"
)

// Values lists what can become of surge protection.
func (SPD) Values() []string { return schema.Words(SPDFitted, SPDPresent, SPDReplaced, SPDDeclined) }

// Comes reports whether surge protection is brought.
func (v SPD) Comes() bool { return v == SPDFitted || v == SPDReplaced }

// There reports whether there is surge protection after the work.
func (v SPD) There() bool { return v.Comes() || v == SPDPresent }

// Outlet is what a charger has for the vehicle.
type Outlet string

// Outlets of chargers.
const (
	Tethered Outlet = "tethered" // a fixed cord
	Socket   Outlet = "socket"   // a socket for the driver's cord
)

// Values lists the outlets of chargers.
func (Outlet) Values() []string { return schema.Words(Tethered, Socket) }

// Curve is the instantaneous trip type of a circuit-breaker (IEC 60898-1).
type Curve string

// Trip types.
const (
	CurveB Curve = "B" // 3 to 5 times the rating
	CurveC Curve = "C" // 5 to 10
	CurveD Curve = "D" // 10 to 20
)

// Curves lists the trip types.
var Curves = []Curve{CurveB, CurveC, CurveD}

// Values lists the trip types.
func (Curve) Values() []string { return schema.Words(Curves...) }

// RCDType is the type of a residual current device by the currents that it detects
// (IEC 61008-1, IEC 62423).
type RCDType string

// Types of residual current device.
const (
	TypeAC RCDType = "AC"
	TypeA  RCDType = "A"
	TypeF  RCDType = "F"
	TypeB  RCDType = "B"
)

// Values lists the types of residual current device.
func (RCDType) Values() []string { return schema.Words(TypeAC, TypeA, TypeF, TypeB) }

// Upstream is the type of a residual current device upstream of a circuit, or none.
type Upstream string

// NoUpstream says that one was looked for and there is none.
const NoUpstream Upstream = "none"

// There reports whether a device is known to be there.
func (u Upstream) There() bool { return u != "" && u != NoUpstream }

// Values lists none and the types of residual current device.
func (Upstream) Values() []string {
	return append([]string{string(NoUpstream)}, RCDType("").Values()...)
}

// Material is the metal of conductors.
type Material string

// Metals.
const (
	Copper    Material = "copper"
	Aluminium Material = "aluminium"
)

// Values lists the metals.
func (Material) Values() []string { return schema.Words(Copper, Aluminium) }

// EarthBy is what serves as protective conductor.
type EarthBy string

// Protective conductors.
const (
	EarthCore   EarthBy = "core"
	EarthArmour EarthBy = "armour"
)

// Values lists the protective conductors.
func (EarthBy) Values() []string { return schema.Words(EarthCore, EarthArmour) }

// OpenPEN is the way by which a point is guarded against a broken neutral of the
// supply, as 722.411.4.1 of BS 7671 lists them, or that it was made TT.
type OpenPEN string

// Ways of guarding a point.
const (
	PENImbalance OpenPEN = "imbalance"
	PENElectrode OpenPEN = "electrode"
	PENTouch     OpenPEN = "device-touch"
	PENVoltage   OpenPEN = "device-voltage"
	PENOther     OpenPEN = "device-other"
	PENLiveOnly  OpenPEN = "device-live-only"
	PENTT        OpenPEN = "tt"
	PENNone      OpenPEN = "none"
)

// Values lists the ways of guarding a point.
func (OpenPEN) Values() []string {
	return schema.Words(PENImbalance, PENElectrode, PENTouch, PENVoltage, PENOther, PENLiveOnly, PENTT, PENNone)
}

// Box is a square outlet box by side and depth, in.
type Box string

// Values lists the boxes of NEC table 314.16(A) that a receptacle of a charger fits.
func (Box) Values() []string {
	return []string{"4-1.5", "4-2.125", "4.69-1.5", "4.69-2.125"}
}

// Condition is what the service equipment looks like.
type Condition string

// Conditions.
const (
	Sound    Condition = "sound"
	Doubtful Condition = "doubtful"
)

// Values lists the conditions.
func (Condition) Values() []string { return schema.Words(Sound, Doubtful) }

// Layout is how the ways of a board are numbered.
type Layout string

// Layouts.
const (
	Rows    Layout = "rows"    // along each row
	Columns Layout = "columns" // odd numbers left, even ones right
)

// Values lists the layouts.
func (Layout) Values() []string { return schema.Words(Rows, Columns) }

// Inlet is where on a vehicle its inlet is: the end or side, then where on it.
type Inlet string

// Values lists the places of inlets.
func (Inlet) Values() []string {
	return []string{"front-left", "front-centre", "front-right", "left-front", "right-front",
		"rear-left", "rear-centre", "rear-right"}
}

// Attitude is how a vehicle is parked.
type Attitude string

// Attitudes.
const (
	NoseIn Attitude = "nose-in"
	TailIn Attitude = "tail-in"
)

// Values lists the attitudes.
func (Attitude) Values() []string { return schema.Words(NoseIn, TailIn) }

// Under is what lies above a buried cable.
type Under string

// What can lie above a buried cable.
const (
	Garden Under = "garden"
	Drive  Under = "drive"
	Street Under = "street"
)

// Values lists what can lie above a buried cable.
func (Under) Values() []string { return schema.Words(Garden, Drive, Street) }

// Cover is the weather cover of a position.
type Cover string

// Weather covers.
const (
	InOpen  Cover = "open"
	Porch   Cover = "porch"
	Indoors Cover = "indoors"
)

// Values lists the weather covers.
func (Cover) Values() []string { return schema.Words(InOpen, Porch, Indoors) }

// Fixing is what a charger is fixed to.
type Fixing string

// DoubtfulFixing is a wall or post that may not hold.
const DoubtfulFixing Fixing = "doubtful"

// Values lists what chargers are fixed to.
func (Fixing) Values() []string {
	return []string{"brick", "stud", "concrete", "timber", "post", string(DoubtfulFixing)}
}

// Signal is the network at a place, as tried there.
type Signal string

// Signals.
const (
	SignalGood Signal = "good"
	SignalWeak Signal = "weak"
	SignalNone Signal = "none"
)

// Values lists the signals.
func (Signal) Values() []string { return schema.Words(SignalGood, SignalWeak, SignalNone) }

// Reach is the network at a position: a signal, or a wire.
type Reach string

// Values lists the signals and the wire.
func (Reach) Values() []string { return append(Signal("").Values(), "wired") }

// Joining is how a charger joins the network.
type Joining string

// Ways of joining.
const (
	ByWiFi    Joining = "wifi"
	ByWire    Joining = "wired"
	ByMobile  Joining = "mobile"
	NotJoined Joining = "none"
)

// Values lists the ways of joining.
func (Joining) Values() []string { return schema.Words(ByWiFi, ByWire, ByMobile, NotJoined) }

// PhotoKind is what a photo of the survey shows.
type PhotoKind string

// PhotoKinds lists what a photo can show.
var PhotoKinds = []PhotoKind{"label", "board-open", "board-closed", "meter", "position", "route", "parking", "other"}

// Values lists what a photo can show.
func (PhotoKind) Values() []string { return schema.Words(PhotoKinds...) }

// GasKind is a part of a gas installation.
type GasKind string

// Parts of a gas installation.
const (
	GasPipe  GasKind = "pipe"
	GasMeter GasKind = "meter"
)

// Values lists the parts of a gas installation.
func (GasKind) Values() []string { return schema.Words(GasPipe, GasMeter) }

// Take says whose value a clash is settled by.
type Take string

// Whose value is taken.
const (
	TakeMine   Take = "mine"
	TakeTheirs Take = "theirs"
)

// Values lists whose value can be taken.
func (Take) Values() []string { return schema.Words(TakeMine, TakeTheirs) }

// Values lists what feeds a board.
func (FedFrom) Values() []string { return schema.Words(FromService, FromSubMain) }

// Values lists the kinds of link.
func (LinkKind) Values() []string {
	return schema.Words(Tails, MainSwitch, Busbar, ResidualLink, FeederDevice, FeederCable)
}

// Enclosure is the type of an enclosure by its marking, NEC table 110.28.
type Enclosure string

// Types of enclosure.
var (
	enclosuresOutside = []Enclosure{"3", "3R", "3S", "3X", "3RX", "3SX", "4", "4X", "6", "6P"}
	enclosuresInside  = []Enclosure{"1", "2", "5", "12", "12K", "13"}
)

// Values lists the types of enclosure.
func (Enclosure) Values() []string {
	return append(schema.Words(enclosuresInside...), schema.Words(enclosuresOutside...)...)
}

// Outdoors reports whether table 110.28 lists the type for outdoor use (from memory).
func (e Enclosure) Outdoors() bool { return slices.Contains(enclosuresOutside, e) }

// Values lists what can be found of bonding.
func (Bonded) Values() []string { return schema.Words(IsBonded, NotBonded, Plastic, NotPresent) }

// Language is the language of what a customer is given, as BCP 47 has it.
type Language string

// Languages of the handover pack.
const (
	English Language = "en"
	Spanish Language = "es"
)

// Values lists the languages.
func (Language) Values() []string { return schema.Words(English, Spanish) }
