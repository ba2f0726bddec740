package jurisdiction

// Label is a label or plaque that the work asks for, to be printed and cut out.
type Label struct {
	Where  string   `json:"where" doc:"Where it goes."`
	Clause string   `json:"clause"`
	Warns  bool     `json:"warns,omitempty"`
	Lines  []string `json:"lines" doc:"What it says, the first line large."`
	Code   string   `json:"code,omitempty" doc:"An address, drawn as a code for a phone."`
}
