package job

import (
	"cmp"

	"dogbolt/core/quantity"
	"dogbolt/core/schema"
)

// Bonds is earthing and main bonding that comes with the work: the survey keeps what was found.
type Bonds struct {
	Run       BondRun                   `json:"run,omitempty" doc:"Which main bonding is run with this work (UK). Left out: none, what was found stays."`
	Size      quantity.SquareMillimetre `json:"size,omitempty" minimum:"0" maximum:"300" doc:"Its size, mm²."`
	Length    quantity.Metre            `json:"length,omitempty" minimum:"0" maximum:"200" doc:"Its length in all, m."`
	Conductor quantity.SquareMillimetre `json:"conductor,omitempty" minimum:"0" maximum:"300" doc:"Earthing conductor in place of the one that was found, mm² (UK). Left out: that one stays."`
}

// BondRun is which main bonding is run.
type BondRun string

// What is run.
const (
	BondMissing BondRun = "missing" // to what was found without
	BondAll     BondRun = "all"     // to all, in place of what was found
)

// Values lists which bonding can be run.
func (BondRun) Values() []string { return schema.Words(BondMissing, BondAll) }

// bondWords are what pages call it.
var bondWords = []Word{{string(BondMissing), "to what has none"}, {string(BondAll), "to all, in place of the old"}}

// Service is a thing that is bonded, and what is known of it.
type Service struct {
	Name string
	Is   *Bonded
}

// Services lists what a building may have to bond.
func (b *Bonding) Services() []Service {
	return []Service{{"gas", &b.Gas}, {"water", &b.Water}, {"oil", &b.Oil}, {"structural steel", &b.Steel}, {"anything else metal", &b.Other}}
}

// Bonded returns the earthing and bonding as it is after the work.
func (j *Job) Bonded() Bonding {
	b, with := j.Survey.Bonding, &j.Design.Bonds
	b.Conductor = cmp.Or(with.Conductor, b.Conductor)
	if with.Run == "" {
		return b
	}
	old := false
	for _, s := range b.Services() {
		old = old || *s.Is == IsBonded
		if *s.Is == NotBonded {
			*s.Is = IsBonded
		}
	}
	switch {
	case with.Run == BondAll || !old:
		b.Size = with.Size
	case b.Size > 0: // the smallest of old and new counts
		b.Size = min(b.Size, with.Size)
	}
	return b
}

// Bonds lists what the work bonds.
func (j *Job) Bonds() []string {
	found, list := j.Survey.Bonding, []string{}
	for _, s := range found.Services() {
		if *s.Is == NotBonded && j.Design.Bonds.Run != "" || *s.Is == IsBonded && j.Design.Bonds.Run == BondAll {
			list = append(list, s.Name)
		}
	}
	return list
}
