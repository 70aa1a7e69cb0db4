// Package handing gives files by links instead of with a message: each opens one file of one submission, for a time and a number of
// openings, and can be withdrawn. Looking at a link uses nothing up, since programs that look after mail follow every link there is; only
// who asks for the file gets it, and that is on record.
package handing

import (
	"context"
	"encoding/base64"
	"errors"
	"strconv"
	"time"

	"amberseal/app/dossier"
	"amberseal/app/register"
	"amberseal/core/enclosure"
	"amberseal/core/link"
)

// Handed is a file that is given by a link.
type Handed struct {
	ID           int64
	Ref          string // what its token says it is about
	SubmissionID int64
	Run          int // the submission's revision when it was given
	Links        int // the counter of the submission's links then
	What         What
	Made         time.Time
	Expires      time.Time // zero for never
	Most         int       // openings, 0 for any number
	Opened       int
	Last         time.Time // of the openings
	Withdrawn    bool
}

// What is the file: as a notice carries it, of files that were sent which one, and what it is called.
type What struct {
	Enclosure enclosure.Enclosure `json:"enclosure"`
	File      string              `json:"file,omitempty"` // ID of an upload
	Title     string              `json:"title"`
	Name      string              `json:"name"`
	Size      int                 `json:"size"`
	Notice    string              `json:"notice"` // the name of the notice that gave it
}

// Store keeps what was given. Look-ups of nothing give register.NotFound.
//
// AddHanded keeps those whose refs it does not have. TakeHanded counts an opening, unless the file may not be opened any more: then it says
// so and counts nothing; both are one step. The opening is a fact of the submission.
type Store interface {
	AddHanded(ctx context.Context, all []Handed) error
	Handed(ctx context.Context, ref string) (Handed, error)
	TakeHanded(ctx context.Context, ref string, now time.Time) (taken bool, err error)
}

// Hatch gives files by links.
type Hatch struct {
	Store    Store
	Dossiers *dossier.Opener
	Secret   link.Secret
	Now      func() time.Time
}

// Over is the error of a link that opens nothing any more, with the reason for who has it.
type Over struct{ Why Reason }

func (o Over) Error() string { return "the link opens nothing any more: " + string(o.Why) }

// Reason is why a link opens nothing any more.
type Reason string

// The reasons.
const (
	Expired   Reason = "expired"
	UsedUp    Reason = "used up"
	Withdrawn Reason = "withdrawn"
	Replaced  Reason = "replaced" // the answers that it gives are others by now
)

// Ref names a file of a message: the same each time the message is tried.
func Ref(s link.Secret, submission string, job int64, n int) string {
	return base64.RawURLEncoding.EncodeToString(s.Sum("handed", submission, strconv.FormatInt(job, 10), strconv.Itoa(n))[:9])
}

// Path is where a file is asked for.
func Path(s link.Secret, h Handed) string { return "/o/" + s.Token(link.Hand, h.Ref, h.Links) }

// Look gives what a token is about, or Over. It changes nothing.
func (h *Hatch) Look(ctx context.Context, token string) (Handed, *dossier.Dossier, error) {
	ref, ok := link.Ref(token)
	if !ok {
		return Handed{}, nil, register.NotFound
	}
	x, err := h.Store.Handed(ctx, ref)
	if err != nil {
		return x, nil, err
	}
	if !h.Secret.Proves(token, link.Hand, ref, x.Links) {
		return Handed{}, nil, register.NotFound
	}
	d, err := h.Dossiers.Of(ctx, x.SubmissionID, x.Run)
	if err != nil {
		return x, d, err
	}
	switch {
	case x.Withdrawn || d.Submission.Links != x.Links:
		err = Over{Withdrawn}
	case !x.Expires.IsZero() && !h.Now().Before(x.Expires):
		err = Over{Expired}
	case x.Most > 0 && x.Opened >= x.Most:
		err = Over{UsedUp}
	}
	return x, d, err
}

// Take gives the file of a token, and counts that.
func (h *Hatch) Take(ctx context.Context, token string) (dossier.Piece, error) {
	x, d, err := h.Look(ctx, token)
	if err != nil {
		return dossier.Piece{}, err
	}
	p, err := d.Piece(ctx, x.What.Enclosure, x.What.File)
	if errors.Is(err, dossier.ErrOtherRun) {
		err = Over{Replaced}
	}
	if err != nil {
		return p, err
	}
	p.Name = x.What.Name
	taken, err := h.Store.TakeHanded(ctx, x.Ref, h.Now())
	if err == nil && !taken { // somebody else was quicker
		err = Over{UsedUp}
	}
	return p, err
}
