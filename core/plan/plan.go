// Package plan says what is to be done: what begins when a submission or an invitation arrives, and what follows what
// happens to it later. It knows no clock and no store: a plan is a list of steps, which package work keeps as jobs.
package plan

import (
	"encoding/json"
	"slices"
	"strconv"
	"strings"
	"time"

	"amberseal/core/destination"
	"amberseal/core/filing"
	"amberseal/core/intake"
	"amberseal/core/notice"
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
	Reminder   Kind = "reminder"  // of answers that were kept and not sent
	Welcoming  Kind = "welcome"   // the letter to somebody who is to work in the house
	Sweep      Kind = "sweep"     // forgets what is past its time
	Inventory  Kind = "inventory" // compares what was filed with what lies there
	Returns    Kind = "returns"   // reads the mailboxes into which reports of what came back come
)

// Outward reports whether steps of a kind reach somebody or something outside of the house.
func Outward(k Kind) bool {
	switch k {
	case Document, Sweep, Inventory:
		return false
	}
	return true
}

// About is the kind of thing that a step is about.
type About string

// What steps can be about.
const (
	Submission About = "submission"
	Invited    About = "invitation"
	Draft      About = "draft"
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
	Stock   = "stock"   // what was filed, all of it
	Inboxes = "inboxes" // the mailboxes of the house's mail accounts
)

// At is the target of a destination.
func At(key string) string {
	if key == destination.Cabinet {
		return Cabinet
	}
	return "destination:" + key
}

// MailBy is the target of a mail account that an intake names.
func MailBy(key string) string {
	if key == "" {
		return Mail
	}
	return "mail:" + key
}

// destinationOf is the key of the destination that a target is.
func destinationOf(target string) string {
	if key, ok := strings.CutPrefix(target, "destination:"); ok {
		return key
	}
	return destination.Cabinet
}

// FiledAs is the signal that a filing's step, by its key, is done.
func FiledAs(step string) Signal { return Signal("filed:" + step) }

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

// Carries is the body of a notice's step and of a filing's: the keys of the documents that go with it, which rule or notice it is where the
// step's key does not say so, and where to; of a notice, where what it speaks of was filed.
type Carries struct {
	Documents []string `json:"documents"`
	Rule      string   `json:"rule,omitempty"`
	To        string   `json:"to,omitempty"`

	// Of a notice. Whom are the addresses that a person of the house named in the place of its own; Only are those of whom it goes to
	// which it goes to now. Nothing but a person's act widens whom a message reaches.
	Whom []string `json:"whom,omitempty"`
	Only []string `json:"only,omitempty"`

	Register   string `json:"register,omitempty"`   // of a filing: the key of a running register, into which a line is written
	Collection int64  `json:"collection,omitempty"` // of a notice: the number of what it tells of, which was gathered from many submissions
}

// Start plans a submission. A document whose condition does not hold is not made, and what
// would carry it goes without it; a filing of which nothing is left falls away.
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
	filings := filed(d, facts, when)
	opened := linkable(filings)
	for _, x := range d.Notices {
		if !facts.Condition(x.When) {
			continue
		}
		s := Step{Kind: Notice, Key: x.Key, Name: x.Name, Target: MailBy(d.Account), NotBefore: x.Due(facts)}
		if x.Late(facts) { // it is on record that it did not go
			s.NotBefore, s.Expires = facts.Made.Add(time.Hour), facts.Made
		}
		if x.Collect != nil {
			s.Target = Chores // it goes among those that wait; the message is a step of its own
		}
		c := Carries{}
		for _, key := range x.Documents() {
			if when(key) {
				s.Needs = append(s.Needs, Made(key))
				c.Documents = append(c.Documents, key)
			}
		}
		if x.Says("@filed") && len(filings) > 0 {
			s.Needs = append(s.Needs, FiledAs(opened.Key))
			c.To = destinationOf(opened.Target)
		}
		s.Body = encoded(c)
		steps = append(steps, s)
	}
	steps = append(steps, filings...)
	for _, x := range d.Registers {
		if !facts.Condition(x.When) {
			continue
		}
		s := line(x, "")
		if x.Says(filing.ByFiled) && len(filings) > 0 {
			s.Needs = []Signal{FiledAs(opened.Key)}
		}
		steps = append(steps, s)
	}
	return steps
}

// line is the step that writes a submission's line of a register.
func line(x filing.Register, mark string) Step {
	return Step{
		Kind: Filing, Key: registerMark + x.Key + mark, Name: x.Name, Target: At(x.Destination()),
		Body: encoded(Carries{Documents: []string{}, Register: x.Key}),
	}
}

// linkable is the first filing that people may open by a link: the house's own folder gives none, where there is another.
func linkable(filings []Step) Step {
	for _, s := range filings {
		if destinationOf(s.Target) != destination.Cabinet {
			return s
		}
	}
	if len(filings) == 0 {
		return Step{}
	}
	return filings[0]
}

// Linked are the steps by which registers that say where something was filed write a submission's line again: a filing, by its step's key,
// has brought a link, and the line may have been written without.
func Linked(d intake.Design, facts phrase.Facts, step string) []Step {
	var steps []Step
	for _, x := range d.Registers {
		if x.Says(filing.ByFiled) && facts.Condition(x.When) {
			steps = append(steps, line(x, " "+step))
		}
	}
	return steps
}

// registerMark begins the key of a step that writes a line of a register: no rule's key has a space.
const registerMark = "register "

// collectedMark parts the key of a collection's step from its number. Corrections leave what has it: it tells of others too.
const collectedMark = " collected "

// Collected is the step of the first submission of a collection by which it goes: when it is due, or when Full is given where no day says
// so. The key of no other step is like it.
func Collected(account, key, name string, collection int64, due time.Time) Step {
	s := Step{
		Kind: Notice, Key: key + collectedMark + strconv.FormatInt(collection, 10), Name: name, Target: MailBy(account), NotBefore: due,
		Body: encoded(Carries{Documents: []string{}, Rule: key, Collection: collection}),
	}
	if due.IsZero() {
		s.Needs = []Signal{Full}
	}
	return s
}

// Full is what the step of a collection waits for that goes when so many have come.
const Full Signal = "collection:full"

// WithOthers reports whether a step, by its key, is that of a collection.
func WithOthers(key string) bool { return strings.Contains(key, collectedMark) }

// Left are the steps by which a notice goes to those whom a server refused among others, one for each.
func Left(d intake.Design, n notice.Notice, c Carries, addresses []string) []Step {
	var steps []Step
	for _, a := range addresses {
		c.Only = []string{a}
		steps = append(steps, once(d, n, c, "left "+a))
	}
	return steps
}

// Again is the step by which a notice goes once more, to addresses that a person of the house named.
func Again(d intake.Design, n notice.Notice, c Carries, to []string, now time.Time) []Step {
	c.Whom, c.Only = to, nil
	return []Step{once(d, n, c, "again "+now.UTC().Format("2006-01-02T15:04:05.000Z"))}
}

// once is a step by which a notice goes besides its own.
func once(d intake.Design, n notice.Notice, c Carries, mark string) Step {
	c.Rule = n.Key
	return Step{Kind: Notice, Key: n.Key + " " + mark, Name: n.Name, Target: MailBy(d.Account), Body: encoded(c)}
}

// filed are the steps of filings: one for each destination of a rule, so that one which is out holds up no other.
func filed(d intake.Design, facts phrase.Facts, when func(string) bool) []Step {
	var steps []Step
	for _, x := range d.Filings {
		if !facts.Condition(x.When) {
			continue
		}
		c := Carries{Rule: x.Key}
		var needs []Signal
		filled := false
		for _, e := range x.What {
			if !e.Filled(d.Form, facts.Answers, when) {
				continue
			}
			filled = true
			if need := Made(e.Document); e.Document != "" && !slices.Contains(needs, need) {
				needs, c.Documents = append(needs, need), append(c.Documents, e.Document)
			}
		}
		if !filled {
			continue
		}
		for _, to := range x.Destinations() {
			key, name := x.Key, x.Name
			if len(x.To) > 0 {
				key += "/" + to
			}
			if len(x.To) > 1 {
				name += " · " + to
			}
			c.To = to
			steps = append(steps, Step{Kind: Filing, Key: key, Name: name, Target: At(to), Needs: needs, Body: encoded(c)})
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

// Change is what follows a correction: why every step of earlier runs that is not done is void, and the steps of the next run.
type Change struct {
	Void  string
	Steps []Step
}

// Correct says what follows when the answers are others now. A notice that goes at a time of its own belongs to the submission: one that
// went is not sent again, unless the day by which it goes is another one now and still to come.
func Correct(d intake.Design, before, facts phrase.Facts, went func(notice string) bool) Change {
	steps := slices.DeleteFunc(Start(d, facts), func(s Step) bool {
		if s.Kind != Notice || !went(s.Key) {
			return false
		}
		i := slices.IndexFunc(d.Notices, func(x notice.Notice) bool { return x.Key == s.Key })
		if i < 0 || d.Notices[i].Delay == nil {
			return false
		}
		due := d.Notices[i].Due(facts)
		return due.Equal(d.Notices[i].Due(before)) || !due.After(facts.Made)
	})
	return Change{Void: "The answers were corrected.", Steps: steps}
}

// Letter plans the letter of an invitation. One of many goes behind what somebody waits for.
func Letter(many bool) []Step {
	s := Step{Kind: Invitation, Key: "letter", Name: "Invitation", Target: Mail}
	if many {
		s.Lane = Bulk
	}
	return []Step{s}
}

// Remind plans the letter that reminds of kept answers, by a mail account; it lapses with them.
func Remind(account string, due, lapses time.Time) []Step {
	return []Step{{Kind: Reminder, Key: "letter", Name: "Reminder", Target: MailBy(account), NotBefore: due, Expires: lapses}}
}

// Welcome plans the letter to somebody who is to work in the house. Its link lapses, and with it the letter.
func Welcome(lapses time.Time) []Step {
	return []Step{{Kind: Welcoming, Key: "letter", Name: "Letter", Target: Mail, Expires: lapses}}
}

// Housekeeping plans what a house does by itself. Night is when nobody minds that much is read.
func Housekeeping(night time.Time) []Step {
	return []Step{
		{
			Kind: Inventory, Key: "inventory", Name: "Comparing what was filed", Target: Stock, Every: 24 * time.Hour, NotBefore: night,
		},
		{Kind: Sweep, Key: "sweep", Name: "Sweeping", Target: Chores, Every: time.Hour},
		{Kind: Returns, Key: "returns", Name: "Reading what came back", Target: Inboxes, Every: 2 * time.Minute},
	}
}

// ReadReturns plans a look into the mailboxes besides the usual ones, when a message that just went is on record.
func ReadReturns(now time.Time) []Step {
	key := "told " + now.UTC().Format("2006-01-02T15:04:05.000000Z")
	return []Step{{Kind: Returns, Key: key, Name: "Reading what came back", Target: Inboxes, NotBefore: now.Add(2 * time.Second)}}
}

// Compare plans that what was filed is compared now.
func Compare(now time.Time) []Step {
	key := "asked " + now.UTC().Format("2006-01-02T15:04:05.000Z")
	return []Step{{Kind: Inventory, Key: key, Name: "Comparing what was filed", Target: Stock}}
}

// Night is the next three o'clock in the morning on a clock.
func Night(now time.Time, zone *time.Location) time.Time {
	today := now.In(zone)
	for day := 0; ; day++ {
		at := notice.OnClock(time.Date(today.Year(), today.Month(), today.Day()+day, 3, 0, 0, 0, time.UTC), zone)
		if at.After(now) {
			return at.UTC()
		}
	}
}

// Next is when a step that recurs is due after a time: so many whole periods after it was due, however long it took.
func Next(due time.Time, every time.Duration, now time.Time) time.Time {
	if every <= 0 || due.After(now) {
		return due
	}
	return due.Add((now.Sub(due)/every + 1) * every)
}
