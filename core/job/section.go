package job

import (
	"encoding/json"
	"slices"

	"dogbolt/core/schema"
)

// SectionName names a part of the document that is saved on its own.
type SectionName string

// The sections.
const (
	SiteSection       SectionName = "site"
	SurveySection     SectionName = "survey"
	DesignSection     SectionName = "design"
	ClearancesSection SectionName = "clearances"
	PlanSection       SectionName = "plan"
	RefusedSection    SectionName = "refused" // a list of schema.Refused; a person settles it, nobody edits it
)

// Section is a part of the document that is saved on its own, with its revision.
type Section struct {
	Name SectionName
	// Part returns a pointer to the section in a job.
	Part func(*Job) any
	// Read puts a section's JSON into a job, if it is valid; paths of errors begin
	// with the section's name.
	Read func(*Job, []byte) schema.Errors
	// ReadOld does so with what an older program has kept: what is refused today is
	// set aside.
	ReadOld func(*Job, []byte) ([]schema.Refused, schema.Errors)
}

func section[T any](name SectionName, part func(*Job) *T) Section {
	definition := schema.Of[T]()
	return Section{
		Name: name,
		Part: func(j *Job) any { return part(j) },
		Read: func(j *Job, data []byte) schema.Errors {
			var v T
			errs := definition.Read(string(name), data, &v)
			if len(errs) == 0 {
				*part(j) = v
			}
			return errs
		},
		ReadOld: func(j *Job, data []byte) ([]schema.Refused, schema.Errors) {
			var v T
			refused, errs := definition.ReadOld(string(name), data, &v)
			if len(errs) == 0 {
				*part(j) = v
			}
			return refused, errs
		},
	}
}

// Sections lists the sections that people save, in the order of the document.
var Sections = []Section{
	section(SiteSection, func(j *Job) *Site { return &j.Site }),
	section(SurveySection, func(j *Job) *Survey { return &j.Survey }),
	section(DesignSection, func(j *Job) *Design { return &j.Design }),
	section(ClearancesSection, func(j *Job) *Clearances { return &j.Clearances }),
	section(PlanSection, func(j *Job) *Plan { return &j.Plan }),
}

// FindSection returns the section with the name, and whether there is one that
// people save.
func FindSection(name SectionName) (Section, bool) {
	i := slices.IndexFunc(Sections, func(s Section) bool { return s.Name == name })
	if i < 0 {
		return Section{}, false
	}
	return Sections[i], true
}

// Write returns a section of a job as JSON.
func (s Section) Write(j *Job) ([]byte, error) { return json.Marshal(s.Part(j)) }
