package quantity

import "strings"

// Entered is what was entered, with its unit once. What was typed in another unit is told in the
// one that is asked for, and as it was typed.
func Entered(entered, unit string) string {
	entered = strings.TrimSpace(entered)
	r, err := ParseReading(entered, unit)
	own := strings.TrimSpace(strings.TrimLeft(entered, "<>≤≥+-.0123456789 "))
	switch {
	case entered == "":
		return "not recorded"
	case own == "": // as the instrument showed it, trailing zeros included
		return strings.TrimSpace(entered + " " + unit)
	case unit == "" || own == unit || err != nil || r.Bound == Beyond: // what it is in, or words
		return entered
	}
	sign := map[Bound]string{Above: ">", Below: "<"}[r.Bound]
	return sign + Say("{} ", r.Value) + unit + " (entered as " + entered + ")"
}
