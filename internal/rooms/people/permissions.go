package people

import (
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"

	_ "dogbolt/core/books" // the countries register themselves
	"dogbolt/core/job"
	"dogbolt/core/schema"
	"dogbolt/internal/store"
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

// AllRoles lists the roles.
var AllRoles = Roles{Office, Surveyor, Installer, Verifier}

// Values lists the roles.
func (Role) Values() []string { return schema.Words(AllRoles...) }

// Roles are what one person is in the firm: in a small one, several.
type Roles []Role

// Has reports whether the person has a role.
func (r Roles) Has(role Role) bool { return slices.Contains(r, role) }

// May reports whether one of the roles has the permission.
func (r Roles) May(a Action) bool {
	return slices.ContainsFunc(r, func(role Role) bool { return slices.Contains(allowed[a], role) })
}

func (r Roles) String() string { return strings.Join(schema.Words(r...), ", ") }

// RolesOf are the roles of an account, which has them as String writes them.
func RolesOf(u store.User) Roles {
	var r Roles
	for _, w := range strings.Split(u.Roles, ", ") {
		r = append(r, Role(w))
	}
	return r
}

// check refuses roles that are none, unknown, or given twice.
func (r Roles) check() schema.Errors {
	for i, role := range r {
		if !AllRoles.Has(role) {
			return schema.Invalid(fmt.Sprintf("roles[%d]", i), "%q is not office, surveyor, installer or verifier", role)
		}
		if r[:i].Has(role) {
			return schema.Invalid(fmt.Sprintf("roles[%d]", i), "%s is there twice", role)
		}
	}
	if len(r) == 0 {
		return schema.Invalid("roles", "choose one or more: what the person does in the firm")
	}
	return nil
}

// Person is who asks.
type Person struct {
	ID, Username, Name string
	Roles              Roles
	Factor             bool // has a second factor
	Passkey            bool // signed in with a passkey, which is two factors
	Lacks              bool // is no verifier now: the firm asks for a second factor, and there is none
}

// Action is one permission.
type Action string

// The actions that have a permission of their own.
const (
	ViewJobs    Action = "view jobs"
	ViewAll     Action = "view every job" // others see those that they are booked for
	CreateJobs  Action = "create jobs"
	SaveSite    Action = "save the site"
	SaveSurvey  Action = "save the survey"
	SaveDesign  Action = "save the design"
	TakePhotos  Action = "take photos"
	SavePapers  Action = "save the clearances"
	SavePlan    Action = "save the plan"
	BookDays    Action = "book a day"
	KeepStock   Action = "change the stock"
	DropStock   Action = "remove from the stock"
	WriteLog    Action = "write the log"
	SignDesign  Action = "sign for the design"
	SignWork    Action = "sign for construction"
	Override    Action = "accept a stop"
	SealJobs    Action = "seal a record"
	ManageUsers Action = "manage people"
	ManageFirm  Action = "change the firm's data"
	ViewFirm    Action = "view the firm's data"
	ViewAudit   Action = "view the audit"
	ChangeKey   Action = "change the sealing key"
	Personal    Action = "handle customers' data" // save them, take them out, delete an empty job
)

// allowed lists who may do what. A crew member cannot seal; only a verifier can.
var allowed = map[Action][]Role{
	ViewJobs:    {Office, Surveyor, Installer, Verifier},
	ViewAll:     {Office, Surveyor, Verifier},
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
	DropStock:   {Office, Surveyor, Verifier},
	WriteLog:    {Installer, Verifier},
	SignDesign:  {Office, Surveyor, Verifier},
	SignWork:    {Installer, Verifier},
	Override:    {Verifier},
	SealJobs:    {Verifier},
	ManageUsers: {Office},
	ManageFirm:  {Office},
	ViewAudit:   {Office, Verifier},
	ChangeKey:   {Office, Verifier},
	Personal:    {Office},
}

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
	case e.Kind == job.Noted, e.Kind == job.TakenBack: // what is taken back asks for more, where it is known
		return ViewJobs
	case e.Kind == job.PhotoTaken:
		return TakePhotos
	case e.Kind == job.Withdrawn:
		return SealJobs
	case e.Kind == job.PaperMoved:
		return SavePapers
	}
	return WriteLog
}

// May reports why a person may not do something, or nil.
func May(p Person, act Action) error {
	if !p.Roles.May(act) {
		return fmt.Errorf("%w: %s may not %s", ErrForbidden, p.Roles, act)
	}
	return nil
}
