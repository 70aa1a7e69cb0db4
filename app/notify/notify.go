// Package notify sends the notices of submissions.
package notify

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"amberseal/app/dossier"
	"amberseal/app/handing"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/ask/form"
	"amberseal/core/notice"
	"amberseal/core/plan"
)

// Letter is a message ready for the post.
type Letter struct {
	ID       string // the part of the Message-ID before the @; the same each time it is tried
	FromName string
	From     string
	Return   string // where it comes back to, as the envelope says; From when empty
	To       []string
	Copy     []string
	Blind    []string // whom nobody else sees
	ReplyTo  []string
	Subject  string
	Text     string
	HTML     string
	Date     time.Time
	Attached []Attachment
	Inline   []Attachment // pictures that the page speaks of, each by its name
}

// Attachment is a file that goes along.
type Attachment struct {
	Name string
	Type string // media type
	Data []byte
}

// As is a message on record as a letter again: its files are named, and their bytes are not there.
func As(m register.Message) Letter {
	_, ending, _ := strings.Cut(m.From, "@")
	if ending == "" {
		ending = "unknown.invalid"
	}
	l := Letter{
		ID: m.MID, FromName: m.FromName, From: m.From, To: m.To, Copy: m.Copy, ReplyTo: m.ReplyTo, Subject: m.Subject, Text: m.Text,
		HTML: m.HTML, Date: m.Sent,
	}
	if l.From == "" {
		l.From = "house@" + ending
	}
	for _, name := range m.Attached {
		l.Attached = append(l.Attached, Attachment{Name: name, Type: "application/octet-stream", Data: []byte("left out here")})
	}
	return l
}

// Everybody is all whom the letter goes to.
func (l Letter) Everybody() []string { return slices.Concat(l.To, l.Copy, l.Blind) }

// Partly is the error of a letter that was taken, but not for everybody.
type Partly struct{ Left []string }

func (p Partly) Error() string { return "it was not taken for " + strings.Join(p.Left, ", ") }

// Post delivers letters. Its errors are work.Again and work.GiveUp, and Partly where a server refuses some of many.
type Post interface {
	Send(ctx context.Context, l Letter) error
}

// Sender is from whom messages of an account come, and where they come back to; the house's address and the sender's where they are empty.
// PerReader is how many an address that respondents name gets in an hour; the usual number when 0.
type Sender struct {
	From, Returns string
	PerReader     int
}

// Posts opens the house's mail accounts: the post of a key, or that which is the rule for none.
type Posts interface {
	Post(ctx context.Context, key string) (post Post, by Sender, err error)
}

// Staff knows who works in the house: the addresses of those who have one of some roles, and of those who are named.
type Staff interface {
	StaffAddresses(ctx context.Context, roles, people []string) ([]string, error)
}

// Past knows who was written to.
type Past interface {
	SentTo(ctx context.Context, address string, since time.Time) (int, error)
}

// Store is what the hand that sends notices knows and keeps.
type Store interface {
	Past
	Staff
	Pictures
	AddHanded(ctx context.Context, all []handing.Handed) error
	Held(ctx context.Context, intake int64) (since time.Time, err error)
	Collection(ctx context.Context, id int64) ([]register.Member, error) // closes it: what comes later is gathered in another
}

// mostAnHour is, as a rule, how many messages an address that respondents name gets in an hour; more wait. Anybody can name anybody.
const mostAnHour = 20

// Spare lets a message wait whose reader has had many.
func Spare(ctx context.Context, past Past, by Sender, to []string, now time.Time) error {
	most := cmp.Or(by.PerReader, mostAnHour)
	for _, address := range to {
		n, err := past.SentTo(ctx, address, now.Add(-time.Hour))
		if err != nil {
			return err
		}
		if n >= most {
			return work.Again{Reason: fmt.Sprintf("%s has had %d messages within an hour; this one goes out later.", address, n)}
		}
	}
	return nil
}

// answered are those of some addresses that stand in the answers: the house's own are nobody's target.
func answered(f form.Form, answers form.Answers, addresses []string) []string {
	named := map[string]bool{}
	for _, x := range f.Fields {
		if x.Kind == form.Email {
			named[strings.ToLower(answers[x.Key].Text)] = true
		}
	}
	return slices.DeleteFunc(slices.Clone(addresses), func(a string) bool { return !named[strings.ToLower(a)] })
}

// LongestSending is how long handing a letter over may take: a server may let ten minutes pass before it answers to its end.
const LongestSending = 20 * time.Minute

// Hand sends the notices of submissions.
func Hand(dossiers *dossier.Opener, posts Posts, store Store, now func() time.Time) work.Hand {
	o := &office{dossiers, posts, store, now}
	return work.Hand{Longest: LongestSending, Do: func(ctx context.Context, j work.Job) (work.Outcome, error) {
		carries := plan.Carries{Rule: j.Key}
		if err := json.Unmarshal(j.Body, &carries); err != nil {
			return work.Outcome{}, work.GiveUp{Reason: "What the message carries cannot be read: " + err.Error() + "."}
		}
		if carries.Collection != 0 {
			return o.collected(ctx, j, carries)
		}
		d, err := dossiers.Open(ctx, j)
		if err != nil {
			return work.Outcome{}, err
		}
		n, ok := find(d.Design.Notices, carries.Rule)
		if !ok {
			return work.Outcome{}, noNotice(carries.Rule)
		}
		if n.Collect != nil && len(carries.Whom)+len(carries.Only) == 0 {
			return o.gather(d, n, carries)
		}
		return o.one(ctx, d, n, j, carries)
	}}
}

// office is what the hand works with.
type office struct {
	dossiers *dossier.Opener
	posts    Posts
	store    Store
	now      func() time.Time
}

func noNotice(key string) error {
	return work.GiveUp{Reason: "The design has no notice “" + key + "” any more."}
}

// unheld reports an intake whose messages are held.
func (o *office) unheld(ctx context.Context, d *dossier.Dossier) error {
	since, err := o.store.Held(ctx, d.Submission.IntakeID)
	if err == nil && !since.IsZero() {
		err = work.Held{Reason: "Messages are held since " + d.Facts(o.now()).Locale().DateLong(since.In(d.House.Location())) + "."}
	}
	return err
}

// staff are the addresses of the people of the house to whom a notice goes.
func (o *office) staff(ctx context.Context, n notice.Notice) ([]string, error) {
	if len(n.Roles)+len(n.People) == 0 {
		return nil, nil
	}
	return o.store.StaffAddresses(ctx, n.Roles, n.People)
}

// one sends a notice for one submission.
func (o *office) one(ctx context.Context, d *dossier.Dossier, n notice.Notice, j work.Job, carries plan.Carries) (work.Outcome, error) {
	if err := o.unheld(ctx, d); err != nil {
		return work.Outcome{}, err
	}
	at := o.now().UTC()
	facts := d.Facts(at)
	respondents := n.ToRespondent(d.Design.Form)
	if respondents {
		facts.Correct = d.CorrectLink()
	}
	house, err := o.staff(ctx, n)
	if err != nil {
		return work.Outcome{}, err
	}
	if n.Says("@filed") {
		if facts.Filed, err = d.FiledLink(ctx, carries.To); err != nil {
			return work.Outcome{}, err
		}
	}
	pieces, err := d.Pieces(ctx, n.Attach, carries.Documents)
	if err != nil {
		return work.Outcome{}, err
	}
	attached, given, err := parted(n, j, carry(d, pieces), at)
	if err != nil {
		return work.Outcome{}, err
	}
	inline, widths, err := Adorn(ctx, o.store, n)
	if err != nil {
		return work.Outcome{}, err
	}
	m := n.For(facts, notice.With{House: house, Links: linked(d, given), Pictures: widths})
	address(&m, carries)
	if m.Problem == "" {
		m.Problem = n.Waits(facts)
	}
	limited := func(l Letter, by Sender) error {
		if !respondents || d.Submission.Own {
			return nil
		}
		return Spare(ctx, o.store, by, answered(d.Design.Form, facts.Answers, l.Everybody()), at)
	}
	return o.deliver(ctx, d, n, j, carries, outgoing{m, attached, inline, given, at, limited, nil})
}

// outgoing is a message with what it carries, ready to go.
type outgoing struct {
	notice.Message
	attached []Attachment
	inline   []Attachment
	given    []handing.Handed
	at       time.Time
	limited  func(Letter, Sender) error
	of       []register.Member // of a collection: the submissions that it tells of
}

// deliver hands a message over and says what became of it.
func (o *office) deliver(ctx context.Context, d *dossier.Dossier, n notice.Notice, j work.Job, carries plan.Carries, m outgoing) (
	work.Outcome, error,
) {
	if m.Problem != "" {
		return work.Outcome{}, unsendable(m.Problem)
	}
	post, by, err := o.posts.Post(ctx, d.Design.Account)
	if err != nil {
		return work.Outcome{}, err
	}
	if by.From == "" {
		by.From = d.House.Email
	}
	if by.From == "" {
		return work.Outcome{}, work.Held{Reason: NoSender}
	}
	l := Letter{
		ID: d.Secret.MessageID("notice", d.Submission.Ref, strconv.FormatInt(j.ID, 10)), FromName: d.House.Name, From: by.From,
		To: m.To, Copy: m.Copy, Blind: m.BlindCopy, ReplyTo: m.ReplyTo, Subject: m.Subject, Text: m.Text, HTML: m.HTML, Date: m.at,
		Attached: m.attached, Inline: m.inline,
	}
	if m.SenderName != "" {
		l.FromName = m.SenderName
	}
	if by.Returns != "" {
		l.Return = d.Secret.Return(by.Returns, j.ID)
	}
	if err := m.limited(l, by); err != nil {
		return work.Outcome{}, err
	}
	record := &register.Message{
		Job: j.ID, MID: l.ID,
		Name: n.Name, To: m.To, Copy: m.Copy, Blind: m.BlindCopy, ReplyTo: m.ReplyTo, Subject: m.Subject, Text: m.Text, HTML: m.HTML,
		Sent: m.at, Of: m.of, FromName: l.FromName, From: l.From,
	}
	for _, a := range l.Attached {
		record.Attached = append(record.Attached, a.Name)
	}
	if len(m.given) > 0 { // the links work before anybody has them
		if err := o.store.AddHanded(ctx, m.given); err != nil {
			return work.Outcome{}, err
		}
	}
	err = post.Send(ctx, l)
	var partly Partly
	var then []plan.Step
	if errors.As(err, &partly) {
		// Who was refused gets a job of their own, which ends as that address does, and can be mended alone.
		err, then = nil, plan.Left(d.Design, n, carries, partly.Left)
		taken := func(all []string) []string {
			return slices.DeleteFunc(slices.Clone(all), func(a string) bool { return slices.Contains(partly.Left, a) })
		}
		record.To, record.Copy, record.Blind = taken(m.To), taken(m.Copy), taken(m.BlindCopy)
	}
	if err != nil {
		return work.Outcome{}, err
	}
	return work.Outcome{Then: then, Result: strings.Join(record.Everybody(), ", "), Records: []register.Record{record}}, nil
}

// address makes a message go to whom a person of the house named, where one did, and to no more than the step is for.
func address(m *notice.Message, c plan.Carries) {
	if len(c.Whom) > 0 {
		m.To, m.Copy, m.BlindCopy, m.Problem = c.Whom, nil, nil, ""
	}
	if len(c.Only) == 0 || m.Problem != "" {
		return
	}
	if m.Only(c.Only); len(m.To)+len(m.Copy)+len(m.BlindCopy) == 0 {
		m.Problem = "The message does not go to " + strings.Join(c.Only, ", ") + " any more. Whom it should reach can be named in Post."
	}
}

// unsendable is the error of a message that goes to nobody: it waits where the house is yet to say its address.
func unsendable(problem string) error {
	if problem == notice.NoHouse {
		return work.Held{Reason: problem}
	}
	return work.GiveUp{Reason: problem}
}

// NoSender is why a house without an address sends nothing: what is to go waits for it.
const NoSender = "The house has no email address to send from. Write it on the House page."

func find(all []notice.Notice, key string) (notice.Notice, bool) {
	for _, n := range all {
		if n.Key == key {
			return n, true
		}
	}
	return notice.Notice{}, false
}
