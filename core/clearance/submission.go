package clearance

import (
	"fmt"

	"dogbolt/core/job"
)

// SubmissionFormat names the file format of a filled form and its version.
const SubmissionFormat = "dogbolt.form/1"

// Submission is a filled form as it is sent: what stands on it, what goes with
// it, and who signed.
type Submission struct {
	Format   string   `json:"format" enum:"dogbolt.form/1" doc:"Name and version of this file format."`
	Form     string   `json:"form" doc:"Id of the definition."`
	Title    string   `json:"title"`
	To       string   `json:"to"`
	Job      string   `json:"job" doc:"The contractor's job number."`
	Fields   []Filled `json:"fields"`
	Files    []Sent   `json:"files" doc:"In the order that the form asks for."`
	Declared string   `json:"declared,omitempty"`
	SignedBy string   `json:"signedBy,omitempty"`
	SignedOn string   `json:"signedOn,omitempty" format:"date"`
}

// Sent is a file that goes with a form.
type Sent struct {
	Kind   string `json:"kind"`
	Title  string `json:"title"`
	File   string `json:"file" doc:"Name in the package."`
	Digest string `json:"sha256"`
}

// Submit turns a form that was filled and judged into what is sent. ending gives
// the ending of a file's name by its digest.
func Submit(c *Check, p *job.Paper, number string, ending func(digest string) string) Submission {
	s := Submission{
		Format:   SubmissionFormat,
		Form:     c.Form,
		Title:    c.Title,
		To:       c.To,
		Job:      number,
		Fields:   c.Fields,
		Files:    []Sent{},
		Declared: c.Declared,
		SignedBy: p.SignedBy,
		SignedOn: p.SignedOn,
	}
	for _, e := range c.Enclosed {
		if e.Digest != "" {
			s.Files = append(s.Files, Sent{e.Kind, e.Title, fmt.Sprintf("%02d-%s%s", len(s.Files)+1, e.Kind, ending(e.Digest)), e.Digest})
		}
	}
	return s
}

// Rows are the filled form as rows of a table, with the heading.
func (s *Submission) Rows() [][]string {
	rows := [][]string{{"field", "label", "value"}}
	for _, f := range s.Fields {
		rows = append(rows, []string{f.ID, f.Label, f.Value})
	}
	return append(rows, []string{"signed-by", "Signed by", s.SignedBy}, []string{"signed-on", "Signed on", s.SignedOn})
}
