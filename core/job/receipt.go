package job

// HandedOver is an entry by which whoever was given the pack signed for it, at the door or later: Value is who
// signed, Strokes what they drew. It may come after the seal, beside the issue, which stays as it is.
const HandedOver EntryKind = "receipt"

// SignatureWidth and SignatureHeight are the box that the strokes of a signature are drawn in.
const (
	SignatureWidth  = 600
	SignatureHeight = 200
)

// Receipt is the last signature for the pack; false where nobody signed.
func (j *Job) Receipt() (Entry, bool) { return j.Latest(HandedOver, "", "") }
