package job

import (
	"strings"

	"dogbolt/core/schema"
)

// Inspected is an entry of the log about a thing that was looked at, or a statement for the
// certificate: Subject is the item's id in the country's schedule, Value an Inspection or an answer
// of the statement, Reason its words.
const Inspected EntryKind = "inspection"

// Inspection is what was seen of a thing.
type Inspection string

// What is seen of a thing.
const (
	AsItShould Inspection = "as-it-should-be"
	NotThere   Inspection = "not-there" // not part of this work
	Limited    Inspection = "limited"   // not, or not wholly, looked at
	NotRight   Inspection = "not-right" // to be mended, and looked at again
)

// Values lists what is seen of a thing.
func (Inspection) Values() []string { return schema.Words(AsItShould, NotThere, Limited, NotRight) }

// Statement is the answer of a statement in words.
type Statement string

// A statement in words says something, or that there is nothing.
const (
	NothingToSay Statement = "none"
	SaidSo       Statement = "said"
)

var inspections = []Word{
	{string(AsItShould), "as it should be"}, {string(NotThere), "not applicable"}, {string(Limited), "limited"}, {string(NotRight), "not right"},
	{string(SaidSo), "in words"}, // of a statement
}

// Said is what was seen of a thing, in words.
func (v Inspection) Said() string { return said(inspections, string(v)) }

// Roles are the parts of the work that somebody signs for.
var Roles = []string{"design", "construction", "testing"}

// RoleSaid is a part of the work that somebody signs for, in words.
func RoleSaid(role string) string {
	switch role {
	case "testing":
		return "Inspection and testing"
	case "":
		return ""
	}
	return strings.ToUpper(role[:1]) + role[1:]
}

// TestingDigest returns a short digest of what a signature for inspection and testing covers:
// every reading and every inspection that stands.
func (j *Job) TestingDigest() string {
	seen := make([][5]string, 0, 64)
	for _, e := range j.Of(ReadingMade, Inspected) {
		seen = append(seen, [5]string{string(e.Kind), e.Point, e.Subject, e.Value, e.Reason})
	}
	return wide + digest2(seen)
}

// SignsTesting reports whether a signature for inspection and testing is of what was read and seen as it
// stands.
func (j *Job) SignsTesting(e *Entry) bool { return e.Value == j.TestingDigest() }
