package job

// Touched is how much of a circuit the work on its point touches: that is what is tested again.
type Touched int

// How much is touched, most first: what nobody has said is all of it.
const (
	TouchedAll     Touched = iota // wiring, a device, a terminal, or anything at the board
	TouchedInside                 // the charger is opened, and its circuit stays in its terminals
	TouchedSetting                // nothing is opened
)

// touches is how much the repair of a part touches.
var touches = map[MendedPart]Touched{
	MendedCord: TouchedInside, MendedContactor: TouchedInside, MendedBoard: TouchedInside, MendedSetting: TouchedSetting,
	MendedSoftware: TouchedSetting,
}

// Touched returns how much of the circuit this work touches: all of it but in a repair of the charger alone.
func (c *Circuit) Touched() Touched {
	f := c.Fates()
	comes := f.Breaker.Comes() || f.RCD.Comes() || f.Receptacle.Comes() || f.Isolator.Comes() || c.SPD.Comes() || c.Ahead.Type != ""
	if c.Kind() != Repair || comes || c.OtherWork {
		return TouchedAll
	}
	return touches[c.Mended.Part]
}

// Touched returns how much the work touches at most, on any point.
func (j *Job) Touched() Touched {
	if !j.Mends() {
		return TouchedAll
	}
	most := TouchedSetting
	for _, p := range j.Points() {
		most = min(most, p.Circuit.Touched())
	}
	return most
}
