package clearance

import (
	"embed"
	"fmt"
)

//go:embed papers/*.json
var papers embed.FS

// Samples returns the definitions that ship with the program, all made up: two grants, a permit,
// notice, application and notice of removal to a network operator, the two ways of building control, and a request to an owner.
func Samples() []Definition {
	entries, err := papers.ReadDir("papers")
	if err != nil {
		panic(err) // embedded
	}
	out := make([]Definition, 0, len(entries))
	for _, e := range entries {
		data, err := papers.ReadFile("papers/" + e.Name())
		if err == nil {
			var d Definition
			d, err = Parse(data)
			out = append(out, d)
		}
		if err != nil {
			panic(fmt.Sprintf("%s: %v", e.Name(), err)) // embedded, and tested
		}
	}
	return out
}
