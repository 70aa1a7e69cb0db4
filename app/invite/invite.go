// Package invite asks people by email to answer a form, each by a link of their own that works once.
package invite

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"log/slog"
	"regexp"
	"strings"
	"time"

	"amberseal/app/notify"
	"amberseal/app/work"
	"amberseal/core/form"
	"amberseal/core/house"
	"amberseal/core/link"
	"amberseal/core/notice"
	"amberseal/core/phrase"
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
	Email        string
	Words        string // of the one who invites, in the letter
	State        State
	Attempts     int
	Since        time.Time // from when on it could be sent
	Reason       string
	Sent         time.Time
	SubmissionID int64 // 0 until it is answered
	Number       string
}

// Store keeps invitations.
type Store interface {
	House(ctx context.Context) (house.House, error)
	AddInvitations(ctx context.Context, all []Invitation, now time.Time) (int, error)
	DueInvitations(ctx context.Context, now time.Time, limit int) ([]Invitation, error)
	NextInvitation(ctx context.Context) (due time.Time, any bool, err error)
	SetInvitation(ctx context.Context, x Invitation, due time.Time) error
}

// Names tells what an intake is called, and under which address it is published.
type Names func(ctx context.Context, intake int64) (name, slug string, err error)

// Desk sends invitations.
type Desk struct {
	Store  Store
	Secret link.Secret
	Post   notify.Post
	Names  Names
	Now    func() time.Time
	Log    *slog.Logger

	wake chan struct{}
}

// NewDesk makes a desk; Run sends what waits there.
func NewDesk(store Store, secret link.Secret, post notify.Post, names Names, now func() time.Time, log *slog.Logger) *Desk {
	return &Desk{Store: store, Secret: secret, Post: post, Names: names, Now: now, Log: log, wake: make(chan struct{}, 1)}
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
func (d *Desk) Invite(ctx context.Context, intakeID int64, words, pasted string) (Invited, error) {
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
	added, err := d.Store.AddInvitations(ctx, all, d.Now())
	d.Wake()
	return Invited{added, len(good) - added, bad}, err
}

// Wake makes the desk look for invitations now.
func (d *Desk) Wake() {
	select {
	case d.wake <- struct{}{}:
	default:
	}
}

const (
	atOnce       = 50
	idle         = 20 * time.Second // longest sleep; the desk is woken when there is work
	longestPause = 30 * time.Minute
	longestTrial = 5 * 24 * time.Hour
	outagePause  = 10 * time.Second
)

// Run sends what waits until the context ends. A letter keeps its Message-ID when it is tried again.
func (d *Desk) Run(ctx context.Context) {
	for ctx.Err() == nil {
		due, err := d.Store.DueInvitations(ctx, d.Now(), atOnce)
		if err != nil && ctx.Err() == nil {
			d.Log.Error("invitations could not be read", "error", err)
		}
		out := false
		for _, x := range due {
			if ctx.Err() != nil {
				return
			}
			if out = d.send(ctx, x); out {
				break // the others would meet the same
			}
		}
		if len(due) == atOnce && !out {
			continue
		}
		select {
		case <-ctx.Done():
		case <-d.wake:
		case <-time.After(d.rest(ctx, out)):
		}
	}
}

// rest is how long there is nothing to send.
func (d *Desk) rest(ctx context.Context, out bool) time.Duration {
	if out {
		return outagePause
	}
	due, waits, err := d.Store.NextInvitation(ctx)
	switch {
	case err != nil:
		return time.Second
	case !waits:
		return idle
	}
	return min(max(due.Sub(d.Now()), 10*time.Millisecond), idle)
}

// send tries one invitation and reports whether the mail server is out. An outage costs no attempt.
func (d *Desk) send(ctx context.Context, x Invitation) (outage bool) {
	err := d.post(ctx, x)
	now := d.Now()
	due := now
	var giveUp work.GiveUp
	var again work.Again
	errors.As(err, &again)
	switch {
	case err == nil:
		x.State, x.Reason, x.Sent = Sent, "", now
	case ctx.Err() != nil:
		return true
	case again.Outage:
		x.Reason, x.Since, due = err.Error(), now, now.Add(outagePause)
	case errors.As(err, &giveUp) || now.Sub(x.Since) >= longestTrial:
		x.State, x.Reason = Failed, err.Error()
	default:
		x.Reason = err.Error()
		x.Attempts++
		due = now.Add(min(time.Second<<min(x.Attempts, 12), longestPause))
		if again.Unsure {
			due = now.Add(longestPause)
		}
	}
	if err := d.Store.SetInvitation(context.WithoutCancel(ctx), x, due); err != nil {
		d.Log.Error("an invitation could not be recorded", "error", err)
	}
	return again.Outage
}

func (d *Desk) post(ctx context.Context, x Invitation) error {
	h, err := d.Store.House(ctx)
	if err != nil {
		return err
	}
	name, slug, err := d.Names(ctx, x.IntakeID)
	if err != nil {
		return err
	}
	if h.Email == "" {
		return work.GiveUp{Reason: "The house has no email address to send from. Write it on the House page."}
	}
	at := h.Link("/f/" + slug + "?invitation=" + d.Secret.Token(link.Invite, x.Ref, x.Links))
	if at == "" {
		return work.GiveUp{Reason: ErrNoSite.Error()}
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
	return d.Post.Send(ctx, notify.Letter{
		ID: d.Secret.MessageID("invitation", x.Ref), FromName: h.Name, From: h.Email, To: []string{x.Email}, Subject: name, Date: d.Now().UTC(),
		Text: text, HTML: page,
	})
}
