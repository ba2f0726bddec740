package job

// Building is what is put right with the work at a building of its own that a panel on a feeder stands in: the survey keeps what was
// found.
type Building struct {
	Disconnect Answer `json:"disconnect,omitempty" doc:"Is a disconnect fitted where the feeder comes in (US)?"`
	Electrode  Answer `json:"electrode,omitempty" doc:"Is a grounding electrode driven and joined (US)?"`
	Neutral    Answer `json:"neutralApart,omitempty" doc:"Is the neutral parted from the ground in the panel (US)?"`
}

// Mends returns the answers of a building after the work, and what of them the work puts right.
func (b *Building) Mends(found Outbuilding) (after Outbuilding, with []string) {
	after = found
	for _, x := range []struct {
		is   *Answer
		by   Answer
		what string
	}{
		{&after.Disconnect, b.Disconnect, "disconnect"}, {&after.Electrode, b.Electrode, "grounding electrode"},
		{&after.Neutral, b.Neutral, "neutral apart from ground"},
	} {
		if found.Apart == Yes && *x.is == No && x.by == Yes {
			*x.is, with = Yes, append(with, x.what)
		}
	}
	return after, with
}

// Idle reports whether something is put right that was not found to be wrong.
func (b *Building) Idle(found Outbuilding) bool {
	_, with := b.Mends(found)
	planned := 0
	for _, a := range []Answer{b.Disconnect, b.Electrode, b.Neutral} {
		if a == Yes {
			planned++
		}
	}
	return planned > len(with)
}
