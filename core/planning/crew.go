// Package planning says what makes a day bookable, how long a job takes, and
// which day and crew suit it.
package planning

import (
	"fmt"
	"slices"
	"strings"
	"time"
)

// Crew is a van and the people in it.
type Crew struct {
	ID     string   `json:"id" minLength:"1" maxLength:"40"`
	Name   string   `json:"name" minLength:"1" maxLength:"60" doc:"What it is called."`
	Van    string   `json:"van,omitempty" maxLength:"60" doc:"Place of its stock."`
	People []string `json:"people" minItems:"1" maxItems:"8" doc:"Lead first, by the names of their accounts."`
	Books  []string `json:"books" minItems:"1" maxItems:"8" doc:"Rulebooks that its lead is qualified for, by the beginning of their ids: bs7671, nec."`
	Base   string   `json:"base,omitempty" maxLength:"80" doc:"Town where it starts."`
	Off    []string `json:"off,omitempty" maxItems:"200" doc:"Days on which it does not work, besides Saturday and Sunday."`
}

// Qualified reports whether the crew may work by a rulebook.
func (c Crew) Qualified(rulebook string) bool {
	return slices.ContainsFunc(c.Books, func(b string) bool { return rulebook == b || strings.HasPrefix(rulebook, b+":") })
}

// Works reports whether the crew works on a day, and why not.
func (c Crew) Works(day string) (bool, string) {
	t, err := time.Parse(time.DateOnly, day)
	switch {
	case err != nil:
		return false, fmt.Sprintf("%q is not a day", day)
	case t.Weekday() == time.Saturday || t.Weekday() == time.Sunday:
		return false, "is a " + t.Weekday().String()
	case slices.Contains(c.Off, day):
		return false, "is a day off of " + c.Name
	}
	return true, ""
}

// Instrument is a test instrument or a torque tool with its calibration.
type Instrument struct {
	ID    string `json:"id" minLength:"1" maxLength:"60" doc:"Serial or house number, as readings name it."`
	What  string `json:"what" minLength:"1" maxLength:"60" doc:"Installation tester, torque driver."`
	Crew  string `json:"crew,omitempty" maxLength:"40" doc:"Id of the crew that carries it."`
	Until string `json:"until" format:"date" doc:"Last day of its calibration."`
}

// Travel is the way between two towns.
type Travel struct {
	From    string `json:"from" minLength:"1" maxLength:"80"`
	To      string `json:"to" minLength:"1" maxLength:"80"`
	Minutes int    `json:"minutes" minimum:"0" maximum:"600"`
}

// Ways of travel where nothing is entered, minutes. Common practice, no source.
const (
	WithinTown = 15
	BetweenTwo = 45
)

// Minutes returns the way between two towns by the table, either way round.
func Minutes(table []Travel, from, to string) int {
	if from == "" || to == "" || strings.EqualFold(from, to) {
		return WithinTown
	}
	for _, t := range table {
		if strings.EqualFold(t.From, from) && strings.EqualFold(t.To, to) || strings.EqualFold(t.From, to) && strings.EqualFold(t.To, from) {
			return t.Minutes
		}
	}
	return BetweenTwo
}

// Workday holds the hours of a working day. Common practice, no source.
type Workday struct {
	From string `json:"from" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"The crew leaves."`
	To   string `json:"to" pattern:"^([01][0-9]|2[0-3]):[0-5][0-9]$" doc:"The crew is back."`
}

// UsualHours are 08:00 to 17:00.
var UsualHours = Workday{"08:00", "17:00"}

// Clock turns a time of day into minutes after midnight; -1 where it is none.
func Clock(s string) int {
	t, err := time.Parse("15:04", s)
	if err != nil {
		return -1
	}
	return t.Hour()*60 + t.Minute()
}

// At turns minutes after midnight into a time of day.
func At(minutes int) string { return fmt.Sprintf("%02d:%02d", minutes/60, minutes%60) }

// Booking is a job on a day.
type Booking struct {
	Job    string   `json:"job" doc:"Id of the job."`
	Number string   `json:"number"`
	Team   string   `json:"team" doc:"Id of the crew."`
	People []string `json:"people"`
	Day    string   `json:"day" format:"date"`
	Start  string   `json:"start"`
	Hours  float64  `json:"hours"`
	Town   string   `json:"town"`
}

// End is when the work ends, minutes after midnight.
func (b Booking) End() int { return Clock(b.Start) + int(b.Hours*60+0.5) }

// Moments returns when a booking begins and ends, by the clock of its site. A
// change of the clock during the night moves neither the one nor the other: a
// job at 08:00 is at 08:00 on both sides of it.
func (b Booking) Moments(zone *time.Location) (from, to time.Time, err error) {
	from, err = time.ParseInLocation("2006-01-02 15:04", b.Day+" "+b.Start, zone)
	return from, from.Add(time.Duration(b.Hours * float64(time.Hour)).Round(time.Minute)), err
}

// Clash returns the booking among others that stands in the way of b, and why:
// one of its people is elsewhere at the time, or on the way.
func Clash(b Booking, others []Booking, travel []Travel) (Booking, string) {
	for _, o := range others {
		if o.Job == b.Job || o.Day != b.Day {
			continue
		}
		i := slices.IndexFunc(b.People, func(p string) bool { return slices.Contains(o.People, p) })
		if i < 0 && (o.Team != b.Team || b.Team == "") {
			continue
		}
		way := Minutes(travel, o.Town, b.Town)
		if Clock(b.Start) >= o.End()+way || Clock(o.Start) >= b.End()+way {
			continue
		}
		who := "the crew"
		if i >= 0 {
			who = b.People[i]
		}
		return o, fmt.Sprintf("%s is at %s in %s from %s to %s, and %d min are needed for the way", who, o.Number, o.Town, o.Start, At(o.End()), way)
	}
	return Booking{}, ""
}
