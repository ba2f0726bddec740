package quantity

// Unit is a unit in which a quantity is shown and entered. The core's value is SI:
// shown = SI ÷ Size + Zero.
type Unit struct {
	Symbol   string  `json:"symbol"`
	Size     float64 `json:"size" doc:"One of the unit, in SI."`
	Zero     float64 `json:"zero,omitempty" doc:"What the unit shows at zero SI: 32 for °F."`
	Decimals int     `json:"decimals" doc:"With how many decimals it is usually told."`
	Exact    int     `json:"exact" doc:"With how many where a record tells it; −1 as many as there are, up to three."`
}

// Of returns a value in SI in the unit.
func (u Unit) Of(si float64) float64 { return si/u.Size + u.Zero }

// SI returns what a value in the unit is in SI.
func (u Unit) SI(v float64) float64 { return (v - u.Zero) * u.Size }

// Say writes a value in SI in the unit, with its usual decimals: "12.5 m".
func (u Unit) Say(si float64) string { return u.SayTo(si, u.Decimals) }

// SayTo writes a value in SI in the unit with so many decimals.
func (u Unit) SayTo(si float64, decimals int) string {
	var room [48]byte
	b := AppendNumber(room[:0], u.Of(si), decimals)
	return string(append(append(b, ' '), u.Symbol...))
}

// The units of the edges. Their sizes are exact (see the factors above).
var (
	InMetres      = Unit{Symbol: "m", Size: 1, Decimals: 1, Exact: -1}
	InFeet        = Unit{Symbol: "ft", Size: metresPerFoot, Decimals: 0, Exact: 1}
	InMillimetres = Unit{Symbol: "mm", Size: 0.001, Decimals: 0}
	InInches      = Unit{Symbol: "in", Size: metresPerInch, Decimals: 0}
	InSquareMM    = Unit{Symbol: "mm²", Size: 1, Decimals: 0}
	InSquareInch  = Unit{Symbol: "in²", Size: 25.4 * 25.4, Decimals: 3}
	InSquareMetre = Unit{Symbol: "m²", Size: 1, Decimals: 0}
	InSquareFeet  = Unit{Symbol: "ft²", Size: metresPerFoot * metresPerFoot, Decimals: 0}
	InCelsius     = Unit{Symbol: "°C", Size: 1, Decimals: 1}
	InFahrenheit  = Unit{Symbol: "°F", Size: 5.0 / 9, Zero: 32, Decimals: 0}
	InNewtonMetre = Unit{Symbol: "N·m", Size: 1, Decimals: 1}
	InInchPounds  = Unit{Symbol: "in·lb", Size: newtonMetresPerInL, Decimals: 0}
)

// Units are what a country measures in.
type Units struct {
	Length      Unit    `json:"length" doc:"Of routes and cords."`
	Height      Unit    `json:"height" doc:"Of holders above ground."`
	Size        Unit    `json:"size" doc:"Of depths and thicknesses."`
	Section     Unit    `json:"section" doc:"Of cables in a raceway; SI is mm²."`
	Floor       Unit    `json:"floor" doc:"Of floors; SI is m²."`
	Spacing     Unit    `json:"spacing" doc:"Of clips and supports."`
	Temperature Unit    `json:"temperature"`
	Bar         float64 `json:"bar" doc:"Scale bar of a plan, in the unit of length."`
	Torque      Unit    `json:"torque"`
}
