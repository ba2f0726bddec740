package app

import (
	_ "embed" // the sample charger types
	"encoding/json"

	"dogbolt/core/job"
)

//go:embed chargers.json
var chargersJSON []byte

// ChargerType is a made-up type of charger that fills the design's fields. The
// contractor's own figures always win: they come from the maker's label.
type ChargerType struct {
	job.Charger
	OpenPEN string `json:"openPen" doc:"Way of open-PEN protection that is built in, if any."`
	School  string `json:"school" enum:"uk,us"`
}

// ChargerTypes lists the sample types.
func ChargerTypes() ([]ChargerType, error) {
	var list []ChargerType
	return list, json.Unmarshal(chargersJSON, &list)
}
