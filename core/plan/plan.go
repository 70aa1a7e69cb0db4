// Package plan says what is to be done: what begins when a submission or an invitation arrives, and what follows what
// happens to it later. It knows no clock and no store: a plan is a list of steps, which package work keeps as jobs.
package plan

import (
	"encoding/json"
	"strings"
	"time"

	"amberseal/core/intake"
	"amberseal/core/words/phrase"
)

// Kind is what sort of step it is; a hand does each kind.
type Kind string

// The kinds of step. Notices and filings wait for the documents they carry.
const (
	Document   Kind = "document"
	Notice     Kind = "notice"
	Filing     Kind = "filing"
	Invitation Kind = "invitation"
	Welcoming  Kind = "welcome" // the letter to somebody who is to work in the house
	Sweep      Kind = "sweep"   // forgets what is past its time
)

// About is the kind of thing that a step is about.
type About string

// What steps can be about.
const (
	Submission About = "submission"
	Invited    About = "invitation"
	Person     About = "person"
	House      About = "house"
)

// Subject is the thing itself: its kind, its number, and which run through its steps this is. A submission's run is its
// revision. Signals are about a run, so that what an earlier one did releases nothing in a later one.
type Subject struct {
	About About `json:"about"`
	ID    int64 `json:"id"`
	Run   int   `json:"run"`
}

// Lane is how a step is ranked among others for the same target: the lower goes first. No lane is left waiting for ever.
type Lane int

// The lanes.
const (
	Fresh Lane = iota // somebody waits for it
	Bulk              // one of very many, for which nobody sits and waits
)

// Signal is something that steps wait for: that a document is made, that the second has signed, that somebody approved. It is given
// about the subject that waits, or about the house where its name begins with “house:”.
type Signal string

// House reports whether the signal is given about the house.
func (s Signal) House() bool { return strings.HasPrefix(string(s), "house:") }

// Made is the signal that a document is made.
func Made(document string) Signal { return Signal("document:" + document) }

// Targets are what steps knock at: one that is out holds up its own steps and no others.
const (
	Press   = "press"   // our own processor
	Mail    = "mail"    // the house's mail account
	Cabinet = "cabinet" // the house's cabinet
	Chores  = "chores"  // the house's own database
)

// Step is one thing to do.
type Step struct {
	Kind      Kind
	Key       string // unlike that of other steps of its kind about the same subject and run
	Name      string // for people
	Needs     []Signal
	Target    string
	Lane      Lane
	NotBefore time.Time     // zero for at once
	Expires   time.Time     // then it is void; zero for never
	Every     time.Duration // it begins again so long after it began, for ever; 0 for once
	Body      []byte        // JSON for its hand
}

// Carries is the body of a notice's step: the keys of the documents that go with it.
type Carries struct {
	Documents []string `json:"documents"`
}

// Start plans a submission. A document whose condition does not hold is not made, and what
// would carry it goes without it; a filing of it falls away.
func Start(d intake.Design, facts phrase.Facts) []Step {
	var steps []Step
	when := func(document string) bool {
		x, ok := d.Document(document)
		return ok && facts.Condition(x.When)
	}
	for _, x := range d.Documents {
		if facts.Condition(x.When) {
			steps = append(steps, Step{Kind: Document, Key: x.Key, Name: x.Name, Target: Press})
		}
	}
	for _, x := range d.Notices {
		if !facts.Condition(x.When) {
			continue
		}
		s := Step{Kind: Notice, Key: x.Key, Name: x.Name, Target: Mail}
		var c Carries
		for _, key := range x.Documents() {
			if when(key) {
				s.Needs = append(s.Needs, Made(key))
				c.Documents = append(c.Documents, key)
			}
		}
		s.Body = encoded(c)
		steps = append(steps, s)
	}
	for _, x := range d.Filings {
		if facts.Condition(x.When) && when(x.Document()) {
			steps = append(steps, Step{Kind: Filing, Key: x.Key, Name: x.Name, Target: Cabinet, Needs: []Signal{Made(x.Document())}})
		}
	}
	return steps
}

// encoded is a body. Only what is no JSON fails, and no body is that.
func encoded(v any) []byte {
	data, err := json.Marshal(v)
	if err != nil {
		panic("plan: a body is no JSON: " + err.Error())
	}
	return data
}

// Event is what happens to a submission after it was planned.
type Event string

// The events.
const (
	Corrected Event = "corrected" // its answers are others now
)

// Change is what follows: why every step of earlier runs that is not done is void, or "" where they stay, and the steps
// of the next run.
type Change struct {
	Void  string
	Steps []Step
}

// After says what follows an event. facts are those after it.
func After(d intake.Design, facts phrase.Facts, e Event) Change {
	if e == Corrected {
		return Change{Void: "The answers were corrected.", Steps: Start(d, facts)}
	}
	return Change{}
}

// Letter plans the letter of an invitation. One of many goes behind what somebody waits for.
func Letter(many bool) []Step {
	s := Step{Kind: Invitation, Key: "letter", Name: "Invitation", Target: Mail}
	if many {
		s.Lane = Bulk
	}
	return []Step{s}
}

// Welcome plans the letter to somebody who is to work in the house. Its link lapses, and with it the letter.
func Welcome(lapses time.Time) []Step {
	return []Step{{Kind: Welcoming, Key: "letter", Name: "Letter", Target: Mail, Expires: lapses}}
}

// Housekeeping plans what a house does by itself.
func Housekeeping() []Step {
	return []Step{{Kind: Sweep, Key: "sweep", Name: "Sweeping", Target: Chores, Every: time.Hour}}
}

// Next is when a step that recurs is due after a time: so many whole periods after it was due, however long it took.
func Next(due time.Time, every time.Duration, now time.Time) time.Time {
	if every <= 0 || due.After(now) {
		return due
	}
	return due.Add((now.Sub(due)/every + 1) * every)
}
