package store

import "time"

// User is a person with an account.
type User struct {
	ID       string `gorm:"primaryKey"`
	Username string `gorm:"uniqueIndex;not null"`
	Name     string `gorm:"not null"`
	Roles    string `gorm:"column:role;not null"` // one or more, with ", " between them
	Mail     string `gorm:"not null"`
	Feed     string `gorm:"not null"`                  // secret part of the person's calendar addresses; "" before the first
	TOTP     string `gorm:"column:totp;not null"`      // secret of the second factor, base32; "" for none
	TOTPStep int64  `gorm:"column:totp_step;not null"` // of the last code that was used
	Recovery string `gorm:"not null"`                  // digests of recovery codes
	Hash     string `gorm:"not null"`                  // "" until its person chose a password
	Disabled bool   `gorm:"not null;default:false"`
	Created  time.Time
}

// Job is a job's row: what lists show and sort by. The summary columns are an
// index of the findings, written anew with every change.
type Job struct {
	ID       string `gorm:"primaryKey"`
	Number   string `gorm:"uniqueIndex;not null"`
	Rulebook string `gorm:"not null"`
	Customer string
	Address  string
	Town     string
	Stage    string
	NextDate string
	NextWhat string
	Stops    int
	Watches  int
	Opens    int
	Blocker  string // title of the first thing in the way
	Sealed   bool
	Amends   string // digest of the sealed issue that is being amended
	Reason   string // of the amendment
	Created  time.Time
	Updated  time.Time
	Words    string `gorm:"not null"` // that are searched: see words
	Revision int64  `gorm:"->"`       // rises with whatever is written about the job, by the database itself
}

// Section is one part of the job document, with its revision.
type Section struct {
	JobID    string `gorm:"primaryKey"`
	Name     string `gorm:"primaryKey"`
	Revision int    `gorm:"not null"`
	Body     []byte `gorm:"not null"`
	Updated  time.Time
	By       string
	Job      *Job `gorm:"constraint:OnDelete:RESTRICT"`
}

// Entry is one line of a job's append-only log.
type Entry struct {
	Seq      int64     `gorm:"primaryKey;autoIncrement"`
	ID       string    `gorm:"uniqueIndex;not null"`
	JobID    string    `gorm:"index:idx_entries_job;not null"`
	At       time.Time `gorm:"not null"`
	Body     []byte    `gorm:"not null"`
	Received time.Time `gorm:"not null"`
	Job      *Job      `gorm:"constraint:OnDelete:RESTRICT"`
}

// Link is one link of the chain in which a device keeps what it logs without signal.
type Link struct {
	Link     string    `gorm:"primaryKey"`
	PersonID string    `gorm:"not null"`
	At       time.Time `gorm:"not null"` // of its last entry, as that claims
	Received time.Time `gorm:"not null"`
}

// Record is a sealed issue: the canonical JSON and the papers printed from it.
type Record struct {
	JobID       string `gorm:"primaryKey"`
	Issue       int    `gorm:"primaryKey"`
	Digest      string `gorm:"uniqueIndex;not null"`
	Replaces    string
	SealedAt    time.Time
	SealedBy    string
	File        []byte
	Inspection  []byte
	Certificate []byte // none of issues that were sealed before there was one, and where the country has none
	Certified   bool   `gorm:"not null"` // it has the country's certificate
	Handover    []byte
	Job         *Job `gorm:"constraint:OnDelete:RESTRICT"`
}

// Audit is one line of who changed what.
type Audit struct {
	ID     int64     `gorm:"primaryKey;autoIncrement"`
	At     time.Time `gorm:"not null"`
	Who    string    `gorm:"not null"`
	Action string    `gorm:"not null"`
	JobID  string    `gorm:"index"`
	Detail string
}

// Session is a signed-in browser.
type Session struct {
	Token    string `gorm:"primaryKey"`
	Data     []byte
	Expiry   time.Time `gorm:"index"`
	PersonID string    `gorm:"index"`
	Began    time.Time
	Agent    string // what the browser calls itself
}

// Ticket is a one-time link, by which a person chooses a password.
type Ticket struct {
	Digest string    `gorm:"primaryKey"` // of its token
	UserID string    `gorm:"index;not null"`
	Expiry time.Time `gorm:"not null"`
}

// Setting is a value of the firm: its name, its key.
type Setting struct {
	Key   string `gorm:"primaryKey"`
	Value []byte
}
