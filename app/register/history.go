package register

import (
	"fmt"
	"strconv"
	"strings"
	"time"

	"amberseal/core/ask/form"
	"amberseal/core/plan"
)

// FactKind is what happened.
type FactKind string

// What can happen.
const (
	Received  FactKind = "received"
	Corrected FactKind = "corrected"
	Made      FactKind = "made"      // a document
	Sent      FactKind = "sent"      // a message
	Collected FactKind = "collected" // what a message tells of with others
	Stored    FactKind = "filed"     // a document
	Amiss     FactKind = "amiss"     // a file is not as it was filed, with how in words
	PutOff    FactKind = "waits"     // a job, with the reason in words
	GivenUp   FactKind = "failed"    // a job, with the reason in words
	Voided    FactKind = "voided"    // a job, with the reason in words
	Expired   FactKind = "expired"
	Retried   FactKind = "retried" // a job, or all that failed, by hand
	Resent    FactKind = "resent"  // a message is sent again by hand, with to whom in words
	Unlinked  FactKind = "links withdrawn"
	Bounced   FactKind = "bounced" // a message came back, with from whom and why in words
	Opened    FactKind = "opened"  // a file that came by a link, with its name in words
	Invited   FactKind = "invited"
	Withdrawn FactKind = "withdrawn" // an invitation
	Removed   FactKind = "removed"   // somebody who worked in the house
	Woken     FactKind = "woken"     // a house that was made of a backup is let act
	Told      FactKind = "told"      // words of a time before facts were kept
)

// Fact is one thing that happened to a subject. It names things by number: what was said of them, in words, and whom it was
// about stand in tables of their own, from which they can be taken.
type Fact struct {
	ID      int64
	At      time.Time
	Subject plan.Subject
	Kind    FactKind
	Body    FactBody
	Words   string // what Body.Said numbers: filled to be kept, and where facts are read
	Erased  bool   // its body was erased
}

// FactBody is what a fact says. As JSON, with a salt before it, it is what the chain of facts holds fast.
type FactBody struct {
	Job    int64    `json:"job,omitempty"`
	Key    string   `json:"key,omitempty"`    // of the document in the design
	Pages  int      `json:"pages,omitempty"`  // of the document
	Record int64    `json:"record,omitempty"` // the message, or the entry of the cabinet
	Fields []string `json:"fields,omitempty"` // the keys of answers that were corrected
	All    bool     `json:"all,omitempty"`    // with all others that failed
	By     int64    `json:"by,omitempty"`     // the person of the house who did it, 0 for nobody
	Said   int64    `json:"said,omitempty"`   // the words
}

// Line is a fact with what it needs to be told: as names stand now.
type Line struct {
	Fact
	Job  string   // the job's name
	To   []string // whom the message went to
	Path string   // under which it was filed
}

// Sentence tells the line to people. fields are those of the submission's form.
func (l Line) Sentence(f form.Form) string {
	switch {
	case l.Erased:
		return "Something happened that was erased since (" + string(l.Kind) + ")"
	case l.Kind == Received:
		return "Received"
	case l.Kind == Corrected:
		return "Corrected by who sent it: " + labels(f, l.Body.Fields)
	case l.Kind == Made:
		s := l.Job + " made, " + Pages(l.Body.Pages)
		if l.Words != "" {
			s += ". " + l.Words
		}
		return s
	case l.Kind == Sent:
		return l.Job + " sent to " + strings.Join(l.To, ", ")
	case l.Kind == Collected:
		return l.Job + " goes together with others"
	case l.Kind == Stored:
		return "Filed as " + strings.ReplaceAll(l.Path, "/", " / ")
	case l.Kind == Amiss:
		return l.Words
	case l.Kind == PutOff:
		return l.Job + " waits: " + l.Words
	case l.Kind == GivenUp:
		return l.Job + " failed: " + l.Words
	case l.Kind == Voided:
		return l.Job + " is not done any more: " + l.Words
	case l.Kind == Expired:
		return l.Job + " was not done in its time"
	case l.Kind == Retried && l.Body.All:
		return "Tried again by hand, with all that failed"
	case l.Kind == Retried:
		return "Tried again by hand"
	case l.Kind == Resent:
		return l.Job + " is sent again by hand, to " + l.Words
	case l.Kind == Bounced:
		return l.Job + " came back: " + l.Words
	case l.Kind == Opened:
		return "“" + l.Words + "” opened by its link"
	case l.Kind == Unlinked && l.Words != "":
		return "The link to “" + l.Words + "” withdrawn"
	case l.Kind == Unlinked:
		return "Personal links withdrawn"
	}
	return l.Words
}

// Pages counts pages in words.
func Pages(n int) string {
	if n == 1 {
		return "1 page"
	}
	return strconv.Itoa(n) + " pages"
}

// labels are the questions of some keys, the first ones of many.
func labels(f form.Form, keys []string) string {
	var out []string
	for _, key := range keys {
		label := key
		if x, ok := f.Field(key); ok {
			label = x.Label
		}
		out = append(out, "“"+label+"”")
	}
	if len(out) > 4 {
		out = append(out[:3], fmt.Sprintf("%d more", len(out)-3))
	}
	return strings.Join(out, ", ")
}
