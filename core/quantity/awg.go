package quantity

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// AWG is an American Wire Gauge number. 1/0 is 0, 2/0 is −1, 3/0 is −2 and
// 4/0 is −3, so a smaller number is always a larger conductor.
type AWG int

// Area returns the cross-section of a solid conductor of the gauge by its
// definition (ASTM B258): diameter 0.127 mm × 92^((36−n)/39).
func (g AWG) Area() SquareMillimetre {
	d := 0.127 * math.Pow(92, float64(36-int(g))/39)
	return SquareMillimetre(math.Pi / 4 * d * d)
}

// CircularMils returns the area in circular mils by the same definition: the
// square of the diameter in thousandths of an inch.
func (g AWG) CircularMils() float64 {
	d := 5 * math.Pow(92, float64(36-int(g))/39)
	return d * d
}

// String returns the gauge as the trade writes it: "6 AWG", "1/0 AWG".
func (g AWG) String() string {
	if g <= 0 {
		return strconv.Itoa(1-int(g)) + "/0 AWG"
	}
	return strconv.Itoa(int(g)) + " AWG"
}

// ParseAWG reads "6", "6 AWG", "1/0" or "2/0 AWG". Gauges from 4/0 to 40 exist.
func ParseAWG(s string) (AWG, error) {
	t := strings.TrimSpace(strings.TrimSuffix(strings.TrimSpace(s), "AWG"))
	if head, zero := strings.CutSuffix(t, "/0"); zero {
		n, err := strconv.Atoi(head)
		if err != nil || n < 1 || n > 4 {
			return 0, fmt.Errorf("%q is not a wire gauge: 1/0 to 4/0 exist", s)
		}
		return AWG(1 - n), nil
	}
	n, err := strconv.Atoi(t)
	if err != nil || n < 1 || n > 40 {
		return 0, fmt.Errorf("%q is not a wire gauge: use 40 to 1, or 1/0 to 4/0", s)
	}
	return AWG(n), nil
}
