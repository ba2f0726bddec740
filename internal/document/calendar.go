package document

import (
	"fmt"
	"time"

	ics "github.com/arran4/golang-ical"
)

// Event is one line of a calendar: a whole day, or from one moment to another.
type Event struct {
	ID       string
	Day      string // a whole day; empty where it has moments
	From, To time.Time
	Title    string
	Note     string
	Place    string
}

// Calendar writes events as an iCalendar file (RFC 5545). Whole days are dates
// without a clock; moments are in UTC, so that no program has to know the zones.
func Calendar(name string, events []Event, at time.Time) ([]byte, error) {
	c := ics.NewCalendarFor("Dogbolt")
	c.SetMethod(ics.MethodPublish)
	c.SetName(name)
	c.SetXWRCalName(name)
	for _, e := range events {
		v := c.AddEvent(e.ID)
		v.SetDtStampTime(at)
		v.SetSummary(e.Title)
		if e.Note != "" {
			v.SetDescription(e.Note)
		}
		if e.Place != "" {
			v.SetLocation(e.Place)
		}
		if e.Day == "" {
			v.SetStartAt(e.From.UTC())
			v.SetEndAt(e.To.UTC())
			continue
		}
		d, err := time.Parse(time.DateOnly, e.Day)
		if err != nil {
			return nil, fmt.Errorf("calendar: %s: %w", e.Title, err)
		}
		v.SetAllDayStartAt(d)
		v.SetAllDayEndAt(d.AddDate(0, 0, 1))
	}
	return []byte(c.Serialize(ics.WithNewLineWindows)), nil
}
