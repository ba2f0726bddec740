package quantity

import (
	"math"
	"strconv"
)

// Say writes numbers into a sentence. Each "{d}" takes the next value with d
// decimals; "{}" takes it with as few digits as show it to three significant
// decimals. It allocates once, which a full check of a job relies on.
//
//	Say("{} V ÷ {} A = {2} Ω", 218.5, 160, 1.365625) // 218.5 V ÷ 160 A = 1.37 Ω
func Say(format string, values ...float64) string {
	var room [256]byte
	b := room[:0]
	next := 0
	for i := 0; i < len(format); i++ {
		c := format[i]
		if c != '{' {
			b = append(b, c)
			continue
		}
		decimals := -1
		i++
		if format[i] != '}' {
			decimals = int(format[i] - '0')
			i++
		}
		b = AppendNumber(b, values[next], decimals)
		next++
	}
	return string(b)
}

// AppendNumber appends v to b with the given decimals, or, when decimals is
// negative, rounded to three decimals with trailing zeros dropped.
func AppendNumber(b []byte, v float64, decimals int) []byte {
	if math.IsInf(v, 1) {
		return append(b, "∞"...)
	}
	if decimals >= 0 {
		return strconv.AppendFloat(b, v, 'f', decimals, 64)
	}
	return strconv.AppendFloat(b, Round(v, 3), 'f', -1, 64)
}

// Recorded writes a value with its unit, or that it was not recorded where it is 0.
func Recorded(v float64, unit string) string {
	if v == 0 {
		return "not recorded"
	}
	return Say("{} ", v) + unit
}
