// Package verdict holds the four words that a judgement ends in, and which of them
// counts where several are said of one thing.
package verdict

import "dogbolt/core/schema"

// Verdict is the outcome of a rule.
type Verdict string

// The verdicts. Open is what a rule says when it cannot judge: nothing unknown
// is ever sound.
const (
	Sound Verdict = "sound" // meets
	Watch Verdict = "watch" // meets, but with advice or a thin margin
	Open  Verdict = "open"  // cannot be judged: something is missing
	Stop  Verdict = "stop"  // does not meet
)

var list = []Verdict{Sound, Watch, Open, Stop} // the gravest last

// Values lists the verdicts, the gravest last.
func (Verdict) Values() []string { return schema.Words(list...) }

// Worse returns the verdict that counts of two: a stop, then what is open, then a
// watch.
func Worse(a, b Verdict) Verdict {
	if b.Graver(a) {
		return b
	}
	return a
}

// Graver reports whether a verdict counts before another. The empty one counts least.
func (v Verdict) Graver(than Verdict) bool { return v.rank() > than.rank() }

func (v Verdict) rank() int {
	for i, w := range list {
		if w == v {
			return i + 1
		}
	}
	return 0
}
