// Package invite asks people by email to answer a form, each by a link of their own that works once.
package invite

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"time"

	"amberseal/app/notify"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/ask/form"
	"amberseal/core/link"
	"amberseal/core/notice"
	"amberseal/core/plan"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// State says where an invitation stands.
type State string

// The states.
const (
	Waits     State = "waits"
	Sent      State = "sent"
	Failed    State = "failed"
	Withdrawn State = "withdrawn"
)

// Invitation is one link for one address.
type Invitation struct {
	ID           int64
	IntakeID     int64
	Ref          string // what its link is about; see package link
	Links        int    // the counter of its link
	Run          int    // which letter is the last one: 1, and one more each time it is sent anew
	Email        string
	Words        string // of the one who invites, in the letter
	State        State
	Reason       string // why it is not sent, in plain words
	Sent         time.Time
	SubmissionID int64 // 0 until it is answered
	Number       string
}

// Store keeps invitations. AddInvitations keeps each with the steps of its letter, in one commit, and tells how many were new.
type Store interface {
	House(ctx context.Context) (house.House, error)
	AddInvitations(ctx context.Context, all []Invitation, letter []plan.Step, now time.Time) (int, error)
	Invitation(ctx context.Context, id int64) (Invitation, error)
}

// Names tells what an intake is called, and under which address it is published.
type Names func(ctx context.Context, intake int64) (name, slug string, err error)

// Inviter invites.
type Inviter struct {
	Store Store
	Now   func() time.Time
	Wake  func() // called when there are letters to be sent
}

// MostAtOnce is how many addresses can be pasted at once.
const MostAtOnce = 5_000

// ErrTooMany is the error of more addresses than that.
var ErrTooMany = fmt.Errorf("at most %d addresses can be invited at once", MostAtOnce)

var addressLike = regexp.MustCompile(`[^\s,;<>"'()\[\]]+@[^\s,;<>"'()\[\]]+`)

// Addresses finds the addresses in pasted lines or a CSV file, each once, and what looks like one and is none: in a plain list,
// parted by commas, semicolons or lines, that is every entry without an address.
func Addresses(pasted string) (good, bad []string) {
	asked := form.Form{Fields: []form.Field{{Key: "e", Kind: form.Email, Label: "e"}}}
	seen := map[string]bool{}
	for _, a := range addressLike.FindAllString(pasted, -1) {
		a = strings.TrimRight(a, ".")
		if key := strings.ToLower(a); seen[key] {
			continue
		} else {
			seen[key] = true
		}
		raw := form.Raw{"e": []byte(fmt.Sprintf("%q", a))}
		if r := form.Check(asked, raw, form.Circumstances{}); len(r.Findings) == 0 && r.Answers["e"].Text == a {
			good = append(good, a)
		} else {
			bad = append(bad, a)
		}
	}
	if len(good)+len(bad) > 0 {
		return good, append(bad, strays(pasted)...)
	}
	return good, bad
}

// strays are the entries of a plain list in which no address stands. Tables, and lists with names beside the addresses, are none.
func strays(pasted string) []string {
	var out []string
	columns := 0
	for line := range strings.Lines(strings.TrimSpace(pasted)) {
		switch n := strings.Count(line, ",") + strings.Count(line, ";") + strings.Count(line, "\t") + 1; {
		case columns == 0:
			columns = n
		case columns > 1 && n == columns:
			return nil
		}
	}
	for entry := range strings.FieldsFuncSeq(pasted, func(r rune) bool { return strings.ContainsRune(",;\n\r\t", r) }) {
		entry = strings.TrimSpace(entry)
		switch {
		case entry == "":
		case strings.Contains(entry, "@"):
			if strings.ContainsAny(entry, "<\"") || strings.ContainsRune(entry, ' ') {
				return nil
			}
		case strings.ContainsAny(entry, " \"<>"):
			return nil
		default:
			out = append(out, entry)
		}
	}
	return out
}

// ErrNoSite is the error of inviting from a house that does not say where its pages are.
var ErrNoSite = errors.New("the house does not say where its pages are reached; write its address on the House page first")

// mostWords is how long the words of an invitation may be, in bytes.
const mostWords = 4_000

// ErrWords is the error of words that are longer.
var ErrWords = fmt.Errorf("the words of an invitation have at most %d letters", mostWords)

// Invited is what became of pasted addresses.
type Invited struct {
	Added   int
	Already int      // that were invited before
	Bad     []string // that look like addresses and are none
}

// Invite keeps an invitation for each address that has none yet; they go out at once, with words before the link.
func (d *Inviter) Invite(ctx context.Context, intakeID int64, words, pasted string) (Invited, error) {
	h, err := d.Store.House(ctx)
	if err != nil {
		return Invited{}, err
	}
	good, bad := Addresses(pasted)
	switch {
	case h.Site == "":
		return Invited{}, ErrNoSite
	case len(good) > MostAtOnce:
		return Invited{Bad: bad}, ErrTooMany
	case len(words) > mostWords:
		return Invited{Bad: bad}, ErrWords
	}
	all := make([]Invitation, len(good))
	for i, email := range good {
		all[i] = Invitation{IntakeID: intakeID, Ref: link.NewRef(rand.Reader), Email: email, Words: strings.TrimSpace(words)}
	}
	added, err := d.Store.AddInvitations(ctx, all, plan.Letter(len(all) > mostFresh), d.Now())
	d.Wake()
	return Invited{added, len(good) - added, bad}, err
}

// mostFresh is how many letters at once go before what is sent in bulk.
const mostFresh = 20

// Hand sends the letters of invitations. A letter keeps its Message-ID when it is tried again.
func Hand(store Store, secret link.Secret, post notify.Post, names Names, now func() time.Time) work.Hand {
	return work.Hand{Longest: notify.LongestSending, Do: func(ctx context.Context, j work.Job) (work.Outcome, error) {
		x, err := store.Invitation(ctx, j.Subject.ID)
		if err != nil {
			return work.Outcome{}, err
		}
		l, err := letter(ctx, store, secret, names, x, j.Subject.Run)
		if err != nil {
			return work.Outcome{}, err
		}
		l.Date = now().UTC()
		if err := post.Send(ctx, l); err != nil {
			return work.Outcome{}, err
		}
		return work.Outcome{Result: x.Email, Records: []register.Record{&register.InvitationSent{Email: x.Email, At: l.Date}}}, nil
	}}
}

// letter is that of a run of an invitation.
func letter(ctx context.Context, store Store, secret link.Secret, names Names, x Invitation, run int) (notify.Letter, error) {
	h, err := store.House(ctx)
	if err != nil {
		return notify.Letter{}, err
	}
	name, slug, err := names(ctx, x.IntakeID)
	if err != nil {
		return notify.Letter{}, err
	}
	at := h.Link("/f/" + slug + "?invitation=" + secret.Token(link.Invite, x.Ref, x.Links))
	switch {
	case h.Email == "":
		return notify.Letter{}, work.Held{Reason: notify.NoSender}
	case at == "":
		return notify.Letter{}, work.Held{Reason: ErrNoSite.Error()}
	}
	facts := phrase.Facts{House: h}
	var body phrase.Body
	say := func(words string) { body = append(body, phrase.Paragraph{Spans: phrase.Phrase{{Text: words}}}) }
	if x.Words != "" {
		say(x.Words)
	} else {
		facts.House.Language = "en-GB" // that our words are in
		say("Good day,")
		say(fmt.Sprintf("%s asks you to fill in “%s”.", h.Name, name))
	}
	say("This link is yours and works once:")
	body = append(body, phrase.Paragraph{Spans: phrase.Phrase{{Text: at, Style: phrase.Style{Link: at}}}})
	say(h.Name)
	text, page := notice.Letter(body, facts)
	about := []string{"invitation", x.Ref}
	if run > 1 {
		about = append(about, strconv.Itoa(run))
	}
	return notify.Letter{
		ID: secret.MessageID(about...), FromName: h.Name, From: h.Email, To: []string{x.Email}, Subject: name, Text: text, HTML: page,
	}, nil
}
