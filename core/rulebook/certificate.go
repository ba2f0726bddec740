package rulebook

import (
	"strings"

	"dogbolt/core/commission"
	"dogbolt/core/demand"
	"dogbolt/core/inspect"
	"dogbolt/core/job"
	"dogbolt/core/jurisdiction"
	"dogbolt/core/quantity"
)

// FactsOf are what a certificate takes its words from, of a job as built.
func FactsOf(in *jurisdiction.Jurisdiction, j *job.Job, d demand.Result) *jurisdiction.Facts {
	f := &jurisdiction.Facts{Job: j, Length: in.Units.Length.Say, Read: func(string) string { return "" }}
	if len(d.Missing) == 0 && d.Total > 0 {
		f.Demand = quantity.Say("{1} A with ", float64(d.Total)) + with(j) + ", by " + d.Clause
	}
	f.Stated = func(item string) string {
		e, _ := j.Latest(job.Inspected, "", item)
		return e.Value
	}
	f.Words = func(item string) string {
		e, _ := j.Latest(job.Inspected, "", item)
		return e.Reason
	}
	f.Row = func(p job.Point) *jurisdiction.Facts {
		row := *f
		row.Point = p
		row.Point.Circuit.Point = p.ID
		row.Read = func(test string) string { return read(in, j, &row.Point, test) }
		return &row
	}
	return f
}

// read is the last reading of a test on a point: "" where the sequence asks for one and there is none.
func read(in *jurisdiction.Jurisdiction, j *job.Job, p *job.Point, test string) string {
	has, optional := in.Tests.In(&p.Circuit, test)
	e, ok := j.Latest(job.ReadingMade, p.ID, test)
	switch t, _ := in.Tests.Find(test); {
	case ok && e.Instrument == commission.Calculated:
		return quantity.Entered(e.Value, t.Unit) + ", calculated"
	case ok:
		return quantity.Entered(e.Value, t.Unit)
	case !has || optional:
		return jurisdiction.NotApplicable
	}
	return ""
}

// checkCertificate asks that nothing is missing of the country's certificate.
func checkCertificate(s *Subject) Finding {
	c := s.Book.In.CertificateOf(s.Job)
	if c.Title == "" {
		return Finding{}
	}
	facts := FactsOf(s.Book.In, s.Job, s.Demand)
	lacking := c.Lacking(facts)
	if !c.Removal {
		lacking = append(lacking, jurisdiction.Removal.Lacking(facts)...)
	}
	if len(lacking) > 0 {
		return Missing(strings.Join(lacking, "; "))
	}
	if e, ok := s.Job.Latest(job.Inspected, "", inspect.Next); ok {
		return Meets("nothing is missing; next inspection in " + e.Value)
	}
	return Meets("nothing is missing")
}
