package file

import (
	"context"
	"errors"
	"fmt"
	"mime"
	"path"
	"slices"
	"strings"
	"time"

	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/filing"
)

// Standing is how a file lies where it was filed.
type Standing string

// The standings.
const (
	Same    Standing = "same"    // byte for byte
	Changed Standing = "changed" // other bytes have its name
	Lost    Standing = "lost"    // nothing has its name
	Unknown Standing = "unknown" // nobody can say, with a reason
	Unread  Standing = "unread"  // it could not be looked at in a night in which others of its destination could
)

// Entries is what the inventory needs of the store. Look-ups of nothing give register.NotFound.
type Entries interface {
	FiledFile(ctx context.Context, submission, id int64) (register.Filed, error)
	Original(ctx context.Context, submission int64, sum string) ([]byte, error)
	Uncompared(ctx context.Context, since time.Time, but []string, limit int) ([]register.Filed, error)
	KeepStanding(ctx context.Context, x register.Filed, standing, words string, now time.Time) error
}

// Inventory looks whether what was filed still lies there, and puts back what does not.
type Inventory struct {
	Store  Entries
	Places Places
	Now    func() time.Time
}

// mostShown is how many bytes are read of what lies in the place of a file, for somebody to look at.
const mostShown = 64 << 20

// Read gives a file as it lies at its destination, and no more than 64 MB of another one; Gone where nothing does.
func (v *Inventory) Read(ctx context.Context, submission, id int64) (register.Filed, []byte, error) {
	return v.read(ctx, submission, id, mostShown)
}

// read gives as many bytes as were filed at least.
func (v *Inventory) read(ctx context.Context, submission, id int64, least int) (register.Filed, []byte, error) {
	x, err := v.Store.FiledFile(ctx, submission, id)
	if err != nil {
		return x, nil, err
	}
	p, err := v.Places.Place(ctx, x.Destination)
	if err != nil {
		return x, nil, err
	}
	data, err := p.Read(ctx, x.Path, max(x.Size, least))
	return x, data, err
}

// Check says how a file lies. The reason is that of Unknown.
func (v *Inventory) Check(ctx context.Context, submission, id int64) (s Standing, reason string, err error) {
	x, data, err := v.read(ctx, submission, id, 0)
	if x.ID == 0 {
		return "", "", err
	}
	if s, reason, err = compared(x, data, err); err != nil || s == Unknown {
		return s, reason, err
	}
	kept := string(s)
	if s == Same {
		kept = ""
	}
	words := map[Standing]string{
		Changed: "“" + x.Path + "” is not as it was filed: other bytes have its name",
		Lost:    "“" + x.Path + "” is not where it was filed any more",
	}[s]
	return s, reason, v.Store.KeepStanding(ctx, x, kept, words, v.Now())
}

// compared says how a file lies there, of its bytes or of why they could not be read.
func compared(x register.Filed, data []byte, err error) (Standing, string, error) {
	var again work.Again
	var giveUp work.GiveUp
	switch {
	case errors.Is(err, Gone):
		return Lost, "", nil
	case errors.Is(err, register.NotFound):
		return Unknown, "The house has no such destination any more.", nil
	case errors.As(err, &again):
		return Unknown, again.Reason, nil
	case errors.As(err, &giveUp):
		return Unknown, giveUp.Reason, nil
	case err != nil:
		return "", "", err
	case x.SHA256 == "":
		return Unknown, "It was filed before sums of files were kept.", nil
	case register.Sum(data) == x.SHA256:
		return Same, "", nil
	}
	return Changed, "", nil
}

// mostCompared is how many files a night's comparison reads: the next night goes on with others.
const (
	mostCompared   = 5_000
	comparedAtOnce = 100
	longestNight   = 3 * time.Hour
	anew           = 20 * time.Hour // what was compared since is not compared again
	mostUnread     = 3              // files of a destination one after the other that cannot be looked at: then it is passed over
)

// Hand compares what was filed, the longest uncompared first. A destination of which three files in a row cannot be looked at is passed
// over; one file that cannot, among others that can, is told, and hides no other.
func (v *Inventory) Hand() work.Hand {
	return work.Hand{Longest: longestNight, Do: func(ctx context.Context, j work.Job) (work.Outcome, error) {
		since := v.Now().Add(-anew)
		if j.Every == 0 { // somebody asked
			since = j.Since
		}
		night := night{Inventory: v, unread: map[string][]unreadFile{}, worked: map[string]bool{}}
		for night.compared < mostCompared {
			all, err := v.Store.Uncompared(ctx, since, night.out, comparedAtOnce)
			if err != nil || len(all) == 0 {
				return work.Outcome{Result: night.result()}, errors.Join(err, night.end(ctx))
			}
			for _, x := range all {
				if slices.Contains(night.out, x.Destination) {
					continue
				}
				if err := night.look(ctx, x); err != nil {
					return work.Outcome{}, err
				}
			}
		}
		err := night.end(ctx)
		return work.Outcome{Result: night.result()}, err
	}}
}

// night is one night's comparison.
type night struct {
	*Inventory
	compared, amiss, left int
	out                   []string                // destinations that are passed over
	unread                map[string][]unreadFile // by destination, since the last that could be looked at
	worked                map[string]bool         // destinations of which something could be
}

type unreadFile struct {
	register.Filed
	reason string
}

func (n *night) look(ctx context.Context, x register.Filed) error {
	s, reason, err := n.Check(ctx, x.SubmissionID, x.ID)
	if err != nil {
		return err
	}
	if s != Unknown {
		if s != Same {
			n.amiss++
		}
		n.compared++
		n.worked[x.Destination] = true
		return n.tell(ctx, x.Destination)
	}
	n.unread[x.Destination] = append(n.unread[x.Destination], unreadFile{x, reason})
	if len(n.unread[x.Destination]) == mostUnread {
		n.out = append(n.out, x.Destination)
		delete(n.unread, x.Destination)
	}
	return n.Store.KeepStanding(ctx, x, x.Standing, "", n.Now()) // the next night begins with another
}

// tell keeps of a destination that answers which of its files could not be looked at.
func (n *night) tell(ctx context.Context, destination string) error {
	for _, x := range n.unread[destination] {
		words := "“" + x.Path + "” could not be looked at: " + x.reason
		if err := n.Store.KeepStanding(ctx, x.Filed, string(Unread), words, n.Now()); err != nil {
			return err
		}
		n.left++
	}
	delete(n.unread, destination)
	return nil
}

// begunBefore is how long a file may be under way before it is known that nobody writes it any more.
const begunBefore = 24 * time.Hour

// tidy takes away at the places that answered what broken lines and kills left there. What cannot be taken away is tried the next night.
func (n *night) tidy(ctx context.Context) {
	for key := range n.worked {
		p, err := n.Places.Place(ctx, key)
		if err != nil {
			continue
		}
		if t, is := p.(Tidied); is {
			t.Tidy(ctx, n.Now().Add(-begunBefore))
		}
	}
}

// end tells of the last ones, where their destination answered before.
func (n *night) end(ctx context.Context) error {
	n.tidy(ctx)
	for destination := range n.unread {
		if n.worked[destination] {
			if err := n.tell(ctx, destination); err != nil {
				return err
			}
		}
	}
	return nil
}

func (n *night) result() string {
	s := fmt.Sprintf("%d files compared, %d not as they were filed", n.compared, n.amiss)
	for _, all := range n.unread {
		n.left += len(all)
	}
	if n.left > 0 {
		s += fmt.Sprintf(", %d could not be looked at", n.left)
	}
	if len(n.out) > 0 {
		s += "; passed over: " + strings.Join(n.out, ", ")
	}
	return s
}

// ErrNoOriginal is the error of a file of which the house has no copy.
var ErrNoOriginal = errors.New("the house has no copy of these bytes, so that it cannot put them back")

// PutBack files a file anew as it was. What lies under its name is kept beside it.
func (v *Inventory) PutBack(ctx context.Context, submission, id int64) error {
	x, err := v.Store.FiledFile(ctx, submission, id)
	if err != nil {
		return err
	}
	data, err := v.Store.Original(ctx, submission, x.SHA256)
	if errors.Is(err, register.NotFound) {
		return ErrNoOriginal
	}
	if err != nil {
		return err
	}
	p, err := v.Places.Place(ctx, x.Destination)
	if err != nil {
		return err
	}
	f := File{Data: data, Type: mime.TypeByExtension(path.Ext(x.Path)), About: map[string]string{"number": x.Number, "title": x.Title}}
	_, err = Put(ctx, p, x.Path, f, filing.Version)
	return err
}
