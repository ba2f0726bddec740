package worklog

// NearMissSubject is the subject of a note about a near miss or a hazard.
const NearMissSubject = "near-miss"

// NearMiss is a kind of near miss that is written down with one press. The kinds
// are the field guide's cautions.
type NearMiss struct {
	ID    string `json:"id"`
	Title string `json:"title"`
}

// NearMisses lists the kinds.
var NearMisses = []NearMiss{
	{"live", "Something was live that was taken for dead"},
	{"arc", "A tool came out marked"},
	{"second-source", "A second source kept something live"},
	{"drilled", "Drilled into a cable, a pipe or metal"},
	{"ladder", "A slip or a fall, or nearly"},
	{"weight", "Too heavy for one: reel, board, ladder"},
	{"alone", "Alone where two were needed"},
	{"public", "Children or public at the work"},
}
