// Package invite asks people by email to answer a form, each by a link of their own that works once.
package invite

import (
	"context"
	"crypto/rand"
	"encoding/base64"
	"errors"
	"fmt"
	"html"
	"log/slog"
	"regexp"
	"strings"
	"time"

	"amberseal/app/notify"
	"amberseal/app/work"
	"amberseal/core/form"
	"amberseal/core/house"
	"amberseal/core/intake"
)

// State says where an invitation stands.
type State string

// The states.
const (
	Waits  State = "waits"
	Sent   State = "sent"
	Failed State = "failed"
)

// Invitation is one link for one address.
type Invitation struct {
	ID           int64
	IntakeID     int64
	Token        string
	Email        string
	Link         string
	State        State
	Attempts     int
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
	SetInvitation(ctx context.Context, x Invitation, due time.Time) error
}

// Names tells what an intake is called.
type Names func(ctx context.Context, intake int64) (intake.Design, error)

// Desk sends invitations.
type Desk struct {
	Store Store
	Post  notify.Post
	Names Names
	Now   func() time.Time
	Log   *slog.Logger

	wake chan struct{}
}

// NewDesk makes a desk; Run sends what waits there.
func NewDesk(store Store, post notify.Post, names Names, now func() time.Time, log *slog.Logger) *Desk {
	return &Desk{Store: store, Post: post, Names: names, Now: now, Log: log, wake: make(chan struct{}, 1)}
}

// MostAtOnce is how many addresses can be pasted at once.
const MostAtOnce = 5_000

// ErrTooMany is the error of more addresses than that.
var ErrTooMany = fmt.Errorf("at most %d addresses can be invited at once", MostAtOnce)

var addressLike = regexp.MustCompile(`[^\s,;<>"'()\[\]]+@[^\s,;<>"'()\[\]]+`)

// Addresses finds the addresses in pasted lines or a CSV file, each once, and what looks like one and is none.
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
	return good, bad
}

// Invite keeps an invitation for each address that has none yet; they go out at once. address is that of the form.
func (d *Desk) Invite(ctx context.Context, intakeID int64, address, pasted string) (added int, bad []string, err error) {
	good, bad := Addresses(pasted)
	if len(good) > MostAtOnce {
		return 0, bad, ErrTooMany
	}
	all := make([]Invitation, len(good))
	for i, email := range good {
		b := make([]byte, 18)
		rand.Read(b) // never fails
		token := base64.RawURLEncoding.EncodeToString(b)
		all[i] = Invitation{IntakeID: intakeID, Token: token, Email: email, Link: address + "?invitation=" + token}
	}
	added, err = d.Store.AddInvitations(ctx, all, d.Now())
	d.Wake()
	return added, bad, err
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
	idle         = 2 * time.Second
	mostAttempts = 12
	longestPause = 10 * time.Minute
)

// Run sends what waits until the context ends. A letter keeps its Message-ID when it is tried again.
func (d *Desk) Run(ctx context.Context) {
	for ctx.Err() == nil {
		due, err := d.Store.DueInvitations(ctx, d.Now(), atOnce)
		if err != nil && ctx.Err() == nil {
			d.Log.Error("invitations could not be read", "error", err)
		}
		for _, x := range due {
			if ctx.Err() != nil {
				return
			}
			d.send(ctx, x)
		}
		if len(due) == atOnce {
			continue
		}
		select {
		case <-ctx.Done():
		case <-d.wake:
		case <-time.After(idle):
		}
	}
}

func (d *Desk) send(ctx context.Context, x Invitation) {
	err := d.post(ctx, x)
	now := d.Now()
	due := now
	var giveUp work.GiveUp
	x.Attempts++
	switch {
	case err == nil:
		x.State, x.Reason, x.Sent = Sent, "", now
	case errors.As(err, &giveUp) || x.Attempts >= mostAttempts:
		x.State, x.Reason = Failed, err.Error()
	default:
		x.Reason = err.Error()
		due = now.Add(min(time.Second<<min(x.Attempts, 12), longestPause))
	}
	if err := d.Store.SetInvitation(context.WithoutCancel(ctx), x, due); err != nil {
		d.Log.Error("an invitation could not be recorded", "error", err)
	}
}

func (d *Desk) post(ctx context.Context, x Invitation) error {
	h, err := d.Store.House(ctx)
	if err != nil {
		return err
	}
	design, err := d.Names(ctx, x.IntakeID)
	if err != nil {
		return err
	}
	if h.Email == "" {
		return work.GiveUp{Reason: "The house has no email address to send from. Write it on the House page."}
	}
	lines := []string{
		"Good day,",
		fmt.Sprintf("%s asks you to fill in “%s”. This link is yours and works once:", h.Name, design.Name),
		x.Link,
		h.Name,
	}
	var page strings.Builder
	for _, l := range lines {
		words := html.EscapeString(l)
		if l == x.Link {
			words = `<a href="` + words + `">` + words + "</a>"
		}
		page.WriteString("<p>" + words + "</p>")
	}
	return d.Post.Send(ctx, notify.Letter{
		ID: "invitation." + strings.ToLower(x.Token), FromName: h.Name, From: h.Email, To: []string{x.Email}, Subject: design.Name, Date: d.Now().UTC(),
		Text: strings.Join(lines, "\n\n") + "\n",
		HTML: `<!doctype html><html lang="en"><head><meta charset="utf-8"></head><body style="font:16px/1.5 Georgia,serif">` + page.String() + "</body></html>",
	})
}
