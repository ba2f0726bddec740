package people

import (
	"errors"
	"fmt"
	"maps"
	"slices"

	_ "dogbolt/core/books" // the countries register themselves
	"dogbolt/core/job"
	"dogbolt/core/schema"
)

// Role is what a person may do.
type Role string

// The roles.
const (
	Office    Role = "office"
	Surveyor  Role = "surveyor"
	Installer Role = "installer"
	Verifier  Role = "verifier"
)

// Roles lists the roles.
var Roles = []Role{Office, Surveyor, Installer, Verifier}

// Values lists the roles.
func (Role) Values() []string { return schema.Words(Roles...) }

// Person is who asks.
type Person struct {
	ID, Name string
	Role     Role
}

// Action is one permission.
type Action string

// The actions that have a permission of their own.
const (
	ViewJobs    Action = "view jobs"
	CreateJobs  Action = "create jobs"
	SaveSite    Action = "save the site"
	SaveSurvey  Action = "save the survey"
	SaveDesign  Action = "save the design"
	TakePhotos  Action = "take photos"
	SavePapers  Action = "save the clearances"
	SavePlan    Action = "save the plan"
	BookDays    Action = "book a day"
	KeepStock   Action = "change the stock"
	WriteLog    Action = "write the log"
	SignDesign  Action = "sign for the design"
	SignWork    Action = "sign for construction"
	Override    Action = "accept a stop"
	SealJobs    Action = "seal a record"
	ManageUsers Action = "manage people"
	ManageFirm  Action = "change the firm's data"
	ViewFirm    Action = "view the firm's data"
)

// allowed lists who may do what. A crew member cannot seal; only a verifier can.
var allowed = map[Action][]Role{
	ViewJobs:    {Office, Surveyor, Installer, Verifier},
	ViewFirm:    {Office, Surveyor, Installer, Verifier},
	CreateJobs:  {Office, Surveyor, Verifier},
	SaveSite:    {Office, Surveyor, Verifier},
	SaveSurvey:  {Office, Surveyor, Verifier},
	SaveDesign:  {Office, Surveyor, Verifier},
	TakePhotos:  {Office, Surveyor, Installer, Verifier},
	SavePapers:  {Office, Surveyor, Verifier},
	SavePlan:    {Office, Surveyor, Installer, Verifier},
	BookDays:    {Office, Surveyor, Verifier},
	KeepStock:   {Office, Surveyor, Installer, Verifier},
	WriteLog:    {Installer, Verifier},
	SignDesign:  {Office, Surveyor, Verifier},
	SignWork:    {Installer, Verifier},
	Override:    {Verifier},
	SealJobs:    {Verifier},
	ManageUsers: {Office},
	ManageFirm:  {Office},
}

// May reports whether the role has the permission.
func (r Role) May(a Action) bool { return slices.Contains(allowed[a], r) }

// Errors that callers tell apart. ErrNotFound, ErrConflict and ErrTaken of the
// store come through too.
var (
	ErrForbidden = errors.New("not allowed")
	ErrSignIn    = errors.New("name or password is wrong")
	ErrSealed    = errors.New("the job is sealed")
	ErrBlocked   = errors.New("not yet")
)

// Actions lists the permissions in a fixed order.
func Actions() []Action {
	list := slices.Collect(maps.Keys(allowed))
	slices.Sort(list)
	return list
}

// ActionOf returns the permission that an entry of the log needs.
func ActionOf(e job.Entry) Action {
	switch {
	case e.Kind == job.Overridden:
		return Override
	case e.Kind == job.SignedOff && e.Subject == "design":
		return SignDesign
	case e.Kind == job.SignedOff:
		return SignWork
	case e.Kind == job.Noted:
		return ViewJobs
	case e.Kind == job.PhotoTaken:
		return TakePhotos
	}
	return WriteLog
}

// May reports why a person may not do something, or nil.
func May(p Person, act Action) error {
	if !p.Role.May(act) {
		return fmt.Errorf("%w: role %s may not %s", ErrForbidden, p.Role, act)
	}
	return nil
}
