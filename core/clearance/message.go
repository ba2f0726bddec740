package clearance

import "time"

// Message is a mail with files.
type Message struct {
	ID       string // becomes the file's name
	From, To string
	Subject  string
	Body     string
	Date     time.Time
	Files    []Attached
}

// Attached is a file of a message.
type Attached struct {
	Name, Type string
	Data       []byte
}
