// Package register is the records of what came in and what became of it: submissions,
// their steps, documents, messages, filings and history. It is plain data that the use
// cases and the database share; the rules are elsewhere.
package register

import (
	"errors"
	"time"

	"amberseal/core/form"
	"amberseal/core/plan"
)

// NotFound is the error of every look-up of something that is not there.
var NotFound = errors.New("there is no such entry")

// Submission is one answered form.
type Submission struct {
	ID         int64
	IntakeID   int64
	IntakeName string
	Slug       string
	Version    int // of the intake's published design
	Number     string
	Person     string // who, as far as the answers tell
	Ref        string // what personal links say they are about; see package link
	Links      int    // the counter of its personal links: one more withdraws all before
	Answers    form.Raw
	Received   time.Time
	Revision   int  // 1, and one more with each correction
	Own        bool // the house handed it in itself: its messages are not limited
}

// State is where a step stands.
type State string

// The states of a step.
const (
	Waits   State = "waits"   // for a document to be made
	Ready   State = "ready"   // to be done now, or again at Due
	Working State = "working" // somebody holds its lease
	Done    State = "done"
	Failed  State = "failed" // needs a hand
)

// Step is one thing to be done for a submission.
type Step struct {
	ID           int64
	SubmissionID int64
	Kind         plan.Kind
	Key          string
	Name         string
	Needs        []string
	State        State
	Attempts     int
	Since        time.Time // from when on it could be done
	Unsure       int       // how often it may have succeeded
	Due          time.Time
	Reason       string // why it is not done yet, in plain words
	Result       string // what came out: a file name, an address, a path
	Updated      time.Time
}

// Document is a finished document.
type Document struct {
	Key      string
	Revision int // of the submission when it was made
	Name     string
	FileName string // with .pdf
	Code     string // under which anybody can check it, see package seal
	Pages    int
	Size     int
	Made     time.Time
	PDF      []byte // filled only where the bytes are asked for
}

// Genuine is what may be said of a document to anybody who holds it.
type Genuine struct {
	Document // without its bytes
	Number   string
	Intake   string
	Latest   int    // the submission's present revision
	SHA256   string // of its bytes, in hexadecimal
}

// Message is a notice as it went out.
type Message struct {
	ID           int64
	SubmissionID int64
	Number       string
	Intake       string
	Name         string // the notice's
	To           []string
	Subject      string
	Text         string
	HTML         string
	Attached     []string // file names
	Sent         time.Time
}

// Filed is a document in the cabinet.
type Filed struct {
	ID           int64
	SubmissionID int64
	Number       string
	Intake       string
	Path         string
	Size         int
	At           time.Time
}

// Event is one line of a submission's history.
type Event struct {
	At   time.Time
	What string
}

// Entry is a submission with where its steps stand: a line of the register.
type Entry struct {
	Submission
	Steps []Step
}

// State is that of the whole submission: the worst of its steps.
func (e Entry) State() State {
	state := Done
	for _, s := range e.Steps {
		switch {
		case s.State == Failed:
			return Failed
		case s.State != Done && s.Reason != "":
			state = Ready
		case s.State != Done && state == Done:
			state = Working
		}
	}
	return state
}

// Query is what the register is asked for. Before is the last ID of the page before, 0 for the
// first page.
type Query struct {
	Intake int64
	State  string // "failed", "unfinished" or "" for all
	Words  string
	Before int64
	Limit  int
}

// Counts is how many submissions there are and how many want something.
type Counts struct {
	All, Failed, Unfinished int
	Intakes                 int
}
