package job

import "strconv"

// Withdrawn is an entry by which a verifier says that a sealed issue is wrong and no longer stands: Subject
// is the number of the issue, Reason why. The issue stays as it is, to be read. It is never taken back.
const Withdrawn EntryKind = "withdrawal"

// Withdrawal is the entry by which an issue was withdrawn; false where it was not.
func (j *Job) Withdrawal(issue int) (Entry, bool) {
	return j.Latest(Withdrawn, "", strconv.Itoa(issue))
}
