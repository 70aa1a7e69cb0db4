package bounces

import (
	"context"
	"errors"
	"slices"
	"time"

	"amberseal/app/register"
	"amberseal/app/work"
)

// Place is how far a mailbox was read (RFC 9051 section 2.3.1.1): up to a number that means something within a validity.
type Place struct {
	Validity uint32
	Last     uint32
}

// Inbox is a mailbox into which reports come. Read gives what came since a place, the oldest first; what take takes is marked as read,
// all else is left as it is. Its errors say in words why it cannot be read.
type Inbox interface {
	Read(ctx context.Context, since Place, take func(raw []byte) (taken bool, err error)) (Place, error)
}

// Reading is the mailbox of a mail account.
type Reading struct {
	Key   string // of the account
	Inbox Inbox
	Err   error // why it cannot be opened
}

// Book knows the mailboxes of the house's accounts.
type Book interface {
	Inboxes(ctx context.Context) ([]Reading, error)
}

// Look is how the last reading of an account's mailbox went.
type Look struct {
	Place
	At     time.Time
	Reason string // why it could not be read, or empty
}

// Looks keeps them. A look of nothing gives register.NotFound.
type Looks interface {
	Look(ctx context.Context, account string) (Look, error)
	KeepLook(ctx context.Context, account string, l Look) error
}

const longestLook = 30 * time.Minute

// Hand reads the mailboxes of all accounts. One that cannot be read keeps no other from being read; why stands with the account.
func (t *Taker) Hand(book Book, looks Looks) work.Hand {
	return work.Hand{Longest: longestLook, Do: func(ctx context.Context, _ work.Job) (work.Outcome, error) {
		all, err := book.Inboxes(ctx)
		for _, r := range all {
			if err == nil {
				_, err = t.Look(ctx, r, looks)
			}
		}
		return work.Outcome{}, err
	}}
}

// errEarly ends a look before a report that came before its message was written down: both are seconds old.
var errEarly = work.Again{Reason: "A report came before its message was on record; it is read again."}

const earliest = 10 * time.Minute

// early reports whether a report that is about nothing known is about a message of ours that may not be on record yet.
func (t *Taker) early(raw []byte) bool {
	r, err := Read(raw)
	if err != nil || t.Now().Sub(r.Date).Abs() > earliest {
		return false
	}
	return slices.ContainsFunc(r.To, func(to string) bool { _, ours := t.Secret.Returned(to); return ours })
}

// Look reads one mailbox and keeps how that went: the reason why it could not be read, or empty.
func (t *Taker) Look(ctx context.Context, r Reading, looks Looks) (reason string, err error) {
	l, err := looks.Look(ctx, r.Key)
	if err != nil && !errors.Is(err, register.NotFound) {
		return "", err
	}
	failed := r.Err
	if failed == nil {
		l.Place, failed = r.Inbox.Read(ctx, l.Place, func(raw []byte) (bool, error) {
			_, err := t.Take(ctx, raw)
			if errors.Is(err, register.NotFound) && t.early(raw) {
				return false, errEarly
			}
			if errors.Is(err, ErrNoReport) || errors.Is(err, ErrOthers) || errors.Is(err, register.NotFound) {
				return false, nil // somebody else's
			}
			return err == nil, err
		})
	}
	if ctx.Err() != nil {
		return "", ctx.Err()
	}
	l.At, l.Reason = t.Now().UTC(), ""
	if failed != nil && !errors.Is(failed, errEarly) { // it can be read; the next look goes on where this one ended
		l.Reason = failed.Error()
	}
	return l.Reason, looks.KeepLook(ctx, r.Key, l)
}
