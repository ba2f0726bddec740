package job

import "testing"

func TestDescribe(t *testing.T) {
	for field, want := range map[string]string{
		"supply.rating":            "Rating of the cutout fuse or service disconnect, A",
		"places.A.route.1.length":  "Length as measured, m",
		"sitePlan.positions.B.run": "Cable run from the board to here, m, drops included",
	} {
		t.Run(field, func(t *testing.T) {
			if got := Describe(&Survey{}, field); got != want {
				t.Errorf("%s: %q", field, got)
			}
		})
	}
}

// TestNamed: a path is said in words.
func TestNamed(t *testing.T) {
	for path, want := range map[string]string{
		"survey.supply.rating":              "Rating of the cutout fuse or service disconnect, A (survey, supply)",
		"survey.places[0].route[1].length":  "Length as measured, m (survey, place 1, route 2)",
		"design.circuits[2].breaker.rating": "Rated current, A (design, circuit 3, breaker)",
		"entries[4].value":                  "What was read or done, as entered: 0.52, >999, correct, lock 3 (entry 5)",
		"number":                            "The contractor's job number",
		"rulebook":                          "Edition that the job is judged by, such as bs7671:2018+A2:2022 or nec:2023",
		"firm.email":                        "firm, email",
		"costs.uk.sensor":                   "costs, uk, sensor",
		"sleepHours":                        "sleep hours",
		"survey.nothing":                    "survey, nothing",
		"booking[0].crewLead":               "booking 1, crew lead",
		"":                                  "",
	} {
		if got := Named(path); got != want {
			t.Errorf("%s is said to be %q, should be %q", path, got, want)
		}
	}
}
