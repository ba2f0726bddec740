package job

// ClearanceSheet lists the permissions of a job.
type ClearanceSheet struct {
	Papers []Paper `json:"papers,omitempty" maxItems:"30" doc:"Permissions, notices and inspections."`
}

// Paper is one permission, notice or inspection.
type Paper struct {
	ID        string `json:"id" minLength:"1" maxLength:"40" doc:"Id within the job."`
	Title     string `json:"title,omitempty" maxLength:"120" doc:"What it is."`
	Who       string `json:"who,omitempty" maxLength:"120" doc:"Who grants or receives it."`
	Before    string `json:"before,omitempty" enum:"installing,energising,sealing,after" doc:"What must wait for it."`
	Needed    Answer `json:"needed,omitempty" enum:"yes,no" doc:"Does this job need it?"`
	Reason    string `json:"reason,omitempty" maxLength:"500" doc:"Why it is or is not needed."`
	Sent      string `json:"sent,omitempty" format:"date" doc:"Day it was sent."`
	Granted   string `json:"granted,omitempty" format:"date" doc:"Day it was granted, answered or passed."`
	Due       string `json:"due,omitempty" format:"date" doc:"Day by which it must be done."`
	Reference string `json:"reference,omitempty" maxLength:"80" doc:"Reference on the answer."`
}

// Done reports whether nothing more is to be done about the paper.
func (p Paper) Done() bool {
	return p.Needed == No && p.Reason != "" || p.Needed == Yes && p.Granted != ""
}

// PlanSheet is parts, day and crew.
type PlanSheet struct {
	Parts  []Part   `json:"parts,omitempty" maxItems:"120" doc:"What the van must hold."`
	Day    string   `json:"day,omitempty" format:"date" doc:"Day of the installation."`
	Crew   []string `json:"crew,omitempty" maxItems:"8" doc:"Who goes, lead first."`
	Notice Answer   `json:"notice,omitempty" enum:"yes,no" doc:"Has the customer been told when the power is off?"`
}

// Part is one line of the parts list.
type Part struct {
	Name     string  `json:"name" minLength:"1" maxLength:"120" doc:"What it is."`
	Quantity float64 `json:"quantity,omitempty" minimum:"0" maximum:"10000" doc:"How many or how much."`
	Unit     string  `json:"unit,omitempty" maxLength:"8" doc:"Unit of the quantity."`
	Why      string  `json:"why,omitempty" maxLength:"200" doc:"What it follows from, with its rule where it has one."`
	InHand   Answer  `json:"inHand,omitempty" enum:"yes,no" doc:"In hand, not merely listed by a supplier?"`
}
