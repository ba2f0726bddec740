package job

import "slices"

// CorrectionAsked is an entry of what an inspector of the authority wants put right: Subject is the
// id of the paper that the inspection is on the job, Value the item of the country's schedule that
// it is about or OtherThing, Day the day of the inspection, Reason the inspector's words.
const CorrectionAsked EntryKind = "correction"

// PutRight is an entry by who put right what an inspector asked for: Subject is the id of the entry
// that asked, Reason what was done.
const PutRight EntryKind = "put-right"

// OtherThing is what a correction is about that no item of the schedule has.
const OtherThing = "other"

// Correction is what an inspector wants put right, and by which entry it was.
type Correction struct {
	Asked *Entry
	Done  *Entry // nil while it was not put right
}

// Corrections lists what inspectors wanted put right on the inspection that a paper is, or on all of
// them where it is "", in the order of the log.
func (j *Job) Corrections(paper string) []Correction {
	var out []Correction
	for _, e := range j.Of(CorrectionAsked, PutRight) {
		switch {
		case e.Kind == CorrectionAsked && (paper == "" || e.Subject == paper):
			out = append(out, Correction{Asked: e})
		case e.Kind == PutRight:
			if k := slices.IndexFunc(out, func(c Correction) bool { return c.Asked.ID == e.Subject }); k >= 0 {
				out[k].Done = e
			}
		}
	}
	return out
}

// corrected is the paper with the answers of who inspected and was not content. It is passed by a later
// day alone, and while one of them waits to be put right by none.
func (p *Paper) corrected(asked []Correction) {
	for _, c := range asked {
		p.sentBack(c.Asked.Day, c.Asked.Reason)
	}
	if slices.ContainsFunc(asked, func(c Correction) bool { return c.Done == nil }) {
		p.Sent, p.Granted = "", ""
	}
}

// sentBack takes over an answer of a day that is no grant.
func (p *Paper) sentBack(day, words string) {
	p.Needed = Yes
	if p.Sent <= day {
		p.Sent = ""
	}
	p.Granted = since(p.Granted, day)
	if n := len(p.Replies); n > 0 && p.Replies[n-1].Outcome == Bounced && p.Replies[n-1].On == day {
		p.Replies = slices.Clone(p.Replies)
		p.Replies[n-1].Reasons = append(slices.Clip(p.Replies[n-1].Reasons), words)
		return
	}
	p.reply(Reply{On: day, Outcome: Bounced, Reasons: []string{words}})
}
