// Package quantity holds the units the trade works in, the conversions between
// them, and readings as test instruments show them.
//
// Inside the core every value is in SI: metres, square millimetres, ohms,
// amperes, volts, watts, degrees Celsius. Feet, inches, AWG and pound-inches
// exist only at the edges and are converted here.
package quantity

import "math"

// Units of the core. Each is a plain float64 in the unit its name says.
type (
	Ampere           float64 // current, A
	Volt             float64 // potential difference, V
	Ohm              float64 // resistance or impedance, Ω
	Watt             float64 // active power, W
	Metre            float64 // length, m
	SquareMillimetre float64 // conductor cross-section, mm²
	Celsius          float64 // temperature, °C
	NewtonMetre      float64 // torque, N·m
)

// Exact conversion factors. The foot and the inch are defined as 0.3048 m and
// 25.4 mm (international yard and pound agreement, 1959); the pound-force inch
// follows from 0.45359237 kg × 9.80665 m/s² × 0.0254 m.
const (
	metresPerFoot      = 0.3048
	metresPerInch      = 0.0254
	newtonMetresPerInL = 0.45359237 * 9.80665 * metresPerInch
)

// Feet returns the length of n feet.
func Feet(n float64) Metre { return Metre(n * metresPerFoot) }

// Inches returns the length of n inches.
func Inches(n float64) Metre { return Metre(n * metresPerInch) }

// Feet returns the length in feet.
func (m Metre) Feet() float64 { return float64(m) / metresPerFoot }

// Inches returns the length in inches.
func (m Metre) Inches() float64 { return float64(m) / metresPerInch }

// OhmsPerKft converts a resistance per thousand feet to ohms per metre.
func OhmsPerKft(r float64) float64 { return r / (1000 * metresPerFoot) }

// Round returns v rounded half away from zero to the given number of decimals.
func Round(v float64, decimals int) float64 {
	p := math.Pow(10, float64(decimals))
	return math.Round(v*p) / p
}

// Unit returns A.
func (Ampere) Unit() string { return "A" }

// Unit returns V.
func (Volt) Unit() string { return "V" }

// Unit returns Ω.
func (Ohm) Unit() string { return "Ω" }

// Unit returns W.
func (Watt) Unit() string { return "W" }

// Unit returns m.
func (Metre) Unit() string { return "m" }

// Unit returns mm².
func (SquareMillimetre) Unit() string { return "mm²" }

// Unit returns °C.
func (Celsius) Unit() string { return "°C" }
