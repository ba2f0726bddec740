package papers

import (
	"dogbolt/core/clearance"
	"dogbolt/core/job"
)

// Mailer sends mails.
type Mailer interface {
	Send(clearance.Message) error
}

// SchemeDesk answers papers that were sent: asked is how often it was asked before.
type SchemeDesk interface {
	Answer(mail string, form clearance.Definition, asked int, today string) (job.Reply, error)
}
