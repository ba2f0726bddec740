package job

import (
	"slices"
	"strings"

	"dogbolt/core/schema"
)

// PaperMoved is what became of a paper after the record was sealed: an entry beside the issue,
// which stays as it is. Subject is the paper's id, Value a PaperEvent, Day when it happened,
// Reason its reference or why.
const PaperMoved EntryKind = "paper"

// PaperEvent is what became of a paper.
type PaperEvent string

// What becomes of a paper.
const (
	PaperNeeded    PaperEvent = "needed"
	PaperNotNeeded PaperEvent = "not-needed"
	PaperSent      PaperEvent = "sent"
	PaperNoticed   PaperEvent = "acknowledged"
	PaperAnswered  PaperEvent = "answered"
	PaperBack      PaperEvent = "sent-back"
)

// Values lists what becomes of a paper.
func (PaperEvent) Values() []string {
	return schema.Words(PaperNeeded, PaperNotNeeded, PaperSent, PaperNoticed, PaperAnswered, PaperBack)
}

// PapersNow are the papers as they stand: as the clearances have them, with what inspectors asked for and what became of
// them after the record was sealed. Nobody changes what it returns.
func (j *Job) PapersNow() []Paper {
	if !j.Has(PaperMoved) && !j.Has(CorrectionAsked) {
		return j.Clearances.Papers
	}
	out := make([]Paper, len(j.Clearances.Papers))
	copy(out, j.Clearances.Papers)
	for i := range out {
		out[i].corrected(j.Corrections(out[i].ID))
	}
	for _, e := range j.Of(PaperMoved) {
		for i := range out {
			if out[i].ID == e.Subject {
				out[i].become(e)
			}
		}
	}
	return out
}

// PaperNow is the paper with the id as it stands; false where there is none.
func (j *Job) PaperNow(id string) (Paper, bool) {
	for _, p := range j.PapersNow() {
		if p.ID == id {
			return p, true
		}
	}
	return Paper{}, false
}

// become takes over what an entry says of the paper. What the clearances have of a later day,
// since an amendment was opened, stays.
func (p *Paper) become(e *Entry) {
	words := strings.TrimSpace(e.Reason)
	switch PaperEvent(e.Value) {
	case PaperNeeded:
		p.Needed = Yes
		if words != "" {
			p.Reason = words
		}
	case PaperNotNeeded:
		p.Needed, p.Reason = No, words
	case PaperSent:
		p.Needed, p.Sent = Yes, max(p.Sent, e.Day)
		p.Noticed, p.Granted = since(p.Noticed, e.Day), since(p.Granted, e.Day)
		p.refer(words)
	case PaperNoticed:
		p.Needed, p.Noticed = Yes, max(p.Noticed, e.Day)
		p.reply(Reply{On: e.Day, Outcome: Received, Reference: words})
		p.refer(words)
	case PaperAnswered:
		p.Needed, p.Granted = Yes, max(p.Granted, e.Day)
		p.reply(Reply{On: e.Day, Outcome: Accepted, Reference: words})
		p.refer(words)
	case PaperBack:
		p.sentBack(e.Day, words)
	}
}

// since is a day, where it is not before another.
func since(day, from string) string {
	if day < from {
		return ""
	}
	return day
}

func (p *Paper) refer(words string) {
	if words != "" {
		p.Reference = words
	}
}

// reply adds a reply; the clearances' own list stays.
func (p *Paper) reply(r Reply) { p.Replies = append(slices.Clip(p.Replies), r) }
