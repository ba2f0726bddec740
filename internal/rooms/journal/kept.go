package journal

import (
	"context"
	"crypto/rand"
	"fmt"
	"time"

	"dogbolt/core/assess"
	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/internal/contact"
	"dogbolt/internal/rooms/people"
	"dogbolt/internal/store"
)

// Kept is what a device knows of the time of entries that it kept: they were made after
// the contact and after what it kept before, and by its clock this is now.
type Kept struct {
	Contact string    `json:"contact" maxLength:"120" doc:"Mark of the device's last contact before them, from the header Dogbolt-Contact of an answer."`
	Before  string    `json:"before" maxLength:"120" doc:"Link that the device kept before them, or the mark where they are the first since."`
	Link    string    `json:"link" pattern:"^[0-9a-f]{64}$" doc:"SHA-256 of before and the entries: docs/formats/job.md."`
	Sent    time.Time `json:"sent" doc:"When they are sent, by the clock that they were stamped with."`
}

// near is how far times may lie apart that ought to be one: what a slow network and a
// clock that is set by hand make of it. Common practice, no source.
const near = 2 * time.Minute

// span is what is known of the times of entries that came together.
type span struct {
	from    time.Time // they were made after it; zero where nothing shows it
	arrived time.Time
	unsure  bool         // nobody can tell where in between
	own     bool         // they have an instrument's own times
	links   []store.Link // what the device's chain has to know from now on
}

const keyContact = "contact-secret"

// marks returns the marks of this database, with a secret that is made once.
func (svc *Service) marks(ctx context.Context) (*contact.Marks, error) {
	svc.contact.Lock()
	defer svc.contact.Unlock()
	if svc.contact.marks != nil {
		return svc.contact.marks, nil
	}
	var secret []byte
	if err := svc.settings.Get(ctx, keyContact, &secret); err != nil {
		return nil, err
	}
	if len(secret) == 0 {
		secret = make([]byte, contact.SecretSize)
		rand.Read(secret) // never fails
		if err := svc.settings.Set(ctx, "the program", keyContact, "make the secret that contacts are marked with", secret); err != nil {
			return nil, err
		}
	}
	svc.contact.marks = contact.New(secret)
	return svc.contact.marks, nil
}

// Contact returns a mark of this contact with a person's device, for what it keeps from
// now on.
func (svc *Service) Contact(ctx context.Context, by people.Person) (string, error) {
	m, err := svc.marks(ctx)
	if err != nil {
		return "", err
	}
	return m.Mark(by.ID, svc.now()), nil
}

// spanOf works out between which times entries were made, and the link that they come with.
func (svc *Service) spanOf(ctx context.Context, marks *contact.Marks, by people.Person, entries []job.Entry, kept *Kept, now time.Time) (span, error) {
	s := span{arrived: now, unsure: true}
	if kept == nil {
		return s, nil
	}
	if contact.Link(kept.Before, entries) != kept.Link {
		return s, schema.Invalid("kept.link", "does not follow from these entries")
	}
	from, ok := marks.When(by.ID, kept.Contact)
	if !ok {
		return s, nil // of another server, or of before the database was restored: nothing shows when
	}
	s.from, s.unsure = from, kept.Sent.Sub(now).Abs() > near
	if kept.Before != kept.Contact {
		at, found, err := svc.store.LinkAt(ctx, kept.Before, by.ID)
		if err != nil {
			return s, err
		}
		if found && at.After(s.from) {
			s.from = at
		}
	}
	s.links = []store.Link{{Link: kept.Link, PersonID: by.ID, At: entries[len(entries)-1].At, Received: now}}
	return s, nil
}

// check is how an entry is checked.
type check = func(*job.Job, *assess.WorkPolicy, assess.Writer, time.Time, job.Entry, string) []job.FieldError

// judge returns how an entry is checked, marks one that comes late, and refuses one whose
// time cannot be. A clock that is a little slow sets nothing back before what the device
// knew then: such an entry is held against the log as of that.
func (s span) judge(e *job.Entry, field string) (check, error) {
	e.Arrived = time.Time{}
	if s.own {
		return assess.Check, nil
	}
	how := assess.Check
	if s.arrived.Sub(e.At) > near {
		e.Arrived = s.arrived
		if s.from.Sub(e.At) > near {
			const clock = "15:04 on 2 January"
			return nil, schema.Invalid(field+".at", "says %s, but the device was in contact at %s, before it was made: enter it anew",
				fmt.Sprint(e.At.Format(clock), " UTC"), fmt.Sprint(s.from.Format(clock), " UTC"))
		}
		if s.unsure {
			how = assess.CheckUnsure
		}
	}
	return func(j *job.Job, h *assess.WorkPolicy, by assess.Writer, now time.Time, e job.Entry, field string) []job.FieldError {
		if e.At.Before(s.from) {
			e.At = s.from
		}
		return how(j, h, by, now, e, field)
	}, nil
}
