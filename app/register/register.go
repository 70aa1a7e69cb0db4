// Package register is the records of what came in and what became of it: submissions,
// jobs, documents, messages, filings and history. It is plain data that the use
// cases and the database share; the rules are elsewhere.
package register

import (
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"slices"
	"strings"
	"time"

	"amberseal/app/access"
	"amberseal/core/ask/form"
	"amberseal/core/plan"
)

// ErrUnwritable is the error of a store that can write nothing down, as on a full disk: what was to be written is not lost by that, and can
// be written when there is room again.
var ErrUnwritable = errors.New("nothing can be written down at present")

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
	Revision   int    // 1, and one more with each correction
	Language   string // that it was filled in in, as BCP 47; empty for the house's
	Own        bool   // the house handed it in itself: its messages are not limited
}

// State is where a job stands.
type State string

// The states of a job.
const (
	Waits   State = "waits"   // for signals
	Ready   State = "ready"   // to be done now, or at Due
	Working State = "working" // somebody holds its lease
	Done    State = "done"
	Failed  State = "failed" // needs a hand
	Void    State = "void"   // not to be done any more
)

// Job is a step as it is kept: what is to be done, and how far it is.
type Job struct {
	ID        int64
	Subject   plan.Subject
	Share     int64 // whose turn it takes among those in its lane: the intake, 0 for the house
	Kind      plan.Kind
	Key       string
	Name      string
	Target    string
	Lane      plan.Lane
	Body      []byte
	State     State
	Attempts  int
	Lost      int       // how often the program ended while it was being done
	Unsure    int       // how often it may have succeeded
	Since     time.Time // from when on it could be done
	NotBefore time.Time
	Expires   time.Time
	Every     time.Duration
	Due       time.Time
	Reason    string // why it is not done, in plain words
	Result    string // what came out: a file name, an address, a path
	Updated   time.Time
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
	Told     string // what its maker found, in words, or empty
	PDF      []byte // filled only where the bytes are asked for
	Word     []byte // the filled word-processor file, where one goes out
	HasWord  bool   // there is one
}

// WordName is the name of the word-processor file.
func (d *Document) WordName() string { return strings.TrimSuffix(d.FileName, ".pdf") + ".docx" }

// Fact says that the document was made.
func (d *Document) Fact() Fact {
	return Fact{Kind: Made, Body: FactBody{Key: d.Key, Pages: d.Pages}, Words: d.Told}
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
	Copy         []string
	Blind        []string // whom nobody else sees
	ReplyTo      []string
	Subject      string
	Text         string
	HTML         string
	Attached     []string // file names
	Sent         time.Time
	Job          int64    // by which it went
	MID          string   // its Message-ID without the domain
	Of           []Member // where it tells of several submissions: all of them
	Returned     []Returned

	FromName, From string // empty for messages of a time before they were kept
}

// Member is a submission of a collection, of which a message tells with others, as it was then.
type Member struct {
	Submission int64
	Run        int
	Documents  []string // the keys of those that go with it
}

// Gathered is what a submission is told of together with others: by a notice of an intake, to the same addresses.
type Gathered struct {
	Intake    int64
	Account   string // by which mail account it goes
	Notice    string // its key
	Name      string
	Whom      string
	Due       time.Time // zero for when there are so many
	Most      int
	Documents []string
}

// Fact says that it was gathered.
func (*Gathered) Fact() Fact { return Fact{Kind: Collected} }

// Returned is from whom a message came back, and why.
type Returned struct {
	Address string `json:"address"`
	Reason  string `json:"reason"`
}

// Everybody is all whom the message went to.
func (m *Message) Everybody() []string { return slices.Concat(m.To, m.Copy, m.Blind) }

// Fact says that the message went out.
func (m *Message) Fact() Fact { return Fact{Kind: Sent} }

// Filed is a file at a destination.
type Filed struct {
	ID           int64
	SubmissionID int64
	Number       string
	Intake       string
	Destination  string // its key
	Title        string // of the document, or of the file that was sent
	Path         string
	Link         string // where people open it, or empty
	SHA256       string // of its bytes, in hexadecimal; empty for what was filed before sums were kept
	Size         int
	At           time.Time
	Standing     string // how it lay there when it was compared last: "changed", "lost", "unread", or empty
}

// Sum is the SHA-256 of bytes in hexadecimal.
func Sum(data []byte) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:])
}

// Fact says that the document was filed.
func (f *Filed) Fact() Fact { return Fact{Kind: Stored} }

// InvitationSent is an invitation to answer a form, or to work in the house, that went out.
type InvitationSent struct {
	Email string
	At    time.Time
}

// Fact says that the invitation went out.
func (*InvitationSent) Fact() Fact { return Fact{Kind: Sent} }

// ReminderSent is a reminder of kept answers that went out, or that could not: then it went to nobody.
type ReminderSent struct {
	To []string
	At time.Time
}

// Fact says that the reminder went out.
func (*ReminderSent) Fact() Fact { return Fact{Kind: Sent} }

// Record is something that a job left behind. It says what is to stand in the history of it.
type Record interface{ Fact() Fact }

// Trial is how a mail account or a destination was tried last; the zero one was not.
type Trial struct {
	At     time.Time
	Part   string // that failed, empty where all went well
	Reason string
}

// Entry is a submission with where the jobs of its present revision stand: a line of the register.
type Entry struct {
	Submission
	Jobs []Job
}

// Planned reports whether a job is to be done later and was not touched yet: it leaves nothing unfinished.
func (j Job) Planned() bool {
	return j.State == Ready && !j.NotBefore.IsZero() && j.Attempts == 0 && j.Reason == "" ||
		j.State == Waits && plan.WithOthers(j.Key)
}

// State is that of the whole submission: the worst of its jobs.
func (e Entry) State() State {
	state := Done
	for _, j := range e.Jobs {
		switch {
		case j.State == Failed:
			return Failed
		case j.State == Done || j.State == Void || j.Planned():
		case j.Reason != "":
			state = Ready
		case state == Done:
			state = Working
		}
	}
	return state
}

// Query is what the register is asked for. Before is the last ID of the page before, 0 for the
// first page.
type Query struct {
	Scope  access.Scope // of which intakes
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

// FiledQuery is what the cabinet is asked for.
type FiledQuery struct {
	Destination string // its key; all when empty
	Folder      string // of the destination, with slashes between its names; all when empty
	Here        bool   // only what lies in the folder itself by now, and nothing below it
	Submission  int64  // all when 0
	Words       string // in the path or the number
	Amiss       bool   // only what is not as it was filed
	Before      int64
	Limit       int
}

// FolderQuery asks which folders are in a folder.
type FolderQuery struct {
	Destination string // its key; destinations are asked for when empty
	Folder      string // with slashes between its names; that of the destination itself when empty
	After       string // the last name of the page before
	Limit       int
}

// MostCounted is how far what lies in a folder is counted; one more says that there are more.
const MostCounted = 300

// FiledFolder is a folder of a destination, or a destination, with what lies in it and below.
type FiledFolder struct {
	Name  string // of a destination its key
	Files int
	Amiss int // of them, not as they were filed
}

// WaitingMessage is a notice that is not done.
type WaitingMessage struct {
	Job
	Number  string
	Intake  string
	Members int // of how many submissions it tells, where it is collected; else 0
}

// MessageQuery is what the post is asked for.
type MessageQuery struct {
	Submission int64  // all when 0
	Intake     int64  // all when 0
	ID         int64  // all when 0
	Words      string // in the subject or an address
	Before     int64
	Limit      int
}
