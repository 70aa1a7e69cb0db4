// Package workshop is the making of intakes: new ones, changes, opening and closing.
//
// A change is kept as a draft at once; respondents see only what was published. Every
// change names the revision it was made on, so that two people editing at once do not
// overwrite each other.
package workshop

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"amberseal/app/access"
	"amberseal/app/produce"
	"amberseal/app/register"
	"amberseal/core/ask/form"
	"amberseal/core/enclosure"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
	"amberseal/core/words/finding"
	"amberseal/core/words/house"
)

// State says whether respondents can answer.
type State string

// The states of an intake.
const (
	Draft  State = "draft" // never opened
	Open   State = "open"
	Paused State = "paused" // for a while: those who come read why
	Closed State = "closed"
)

// Position is a place in the list of intakes: when the intake before it was changed last, and which it is.
type Position struct {
	Updated time.Time
	ID      int64
}

// Standing is where an intake stands: all but its design, which can be large.
type Standing struct {
	ID          int64
	Name        string // of the draft
	Slug        string // of the draft
	Address     string // the last part of the address under which it was published last, empty before; lists leave it out
	Revision    int    // of the draft, counted up by each change
	Version     int    // published last, 0 for none
	Published   int    // the revision that was published
	State       State
	Opened      time.Time
	Updated     time.Time
	Submissions int
	Unfinished  int // submissions with a step that is not done
	Failed      int // submissions with a failed step
}

// Intake is a design with where it stands.
type Intake struct {
	Standing
	Design intake.Design
}

// Changed reports whether the draft differs from what respondents see.
func (i Standing) Changed() bool { return i.State != Draft && i.Revision != i.Published }

// ErrStale is the error of a change made on an older revision.
var ErrStale = errors.New("somebody else has changed this intake in the meantime")

// ErrSlugTaken is the error of an address another intake has.
var ErrSlugTaken = errors.New("another intake has this address")

// Faulty is the error of a design that cannot be opened yet.
type Faulty struct{ Findings finding.List }

func (f Faulty) Error() string { return f.Findings.Err().Error() }

// Store is where intakes are kept.
type Store interface {
	// Intakes gives at most so many, the last changed first, behind a position; the zero position is the beginning.
	Intakes(ctx context.Context, scope access.Scope, after Position, limit int) ([]Standing, error)
	Intake(ctx context.Context, id int64) (Intake, error)
	AddIntake(ctx context.Context, d intake.Design, now time.Time) (Intake, error)
	SetDesign(ctx context.Context, id int64, revision int, d intake.Design, now time.Time) (Intake, error)
	Publish(ctx context.Context, id int64, revision int, now time.Time) (Intake, error)
	SetState(ctx context.Context, id int64, s State, now time.Time) (Intake, error)
	Versions(ctx context.Context, id int64) ([]Version, error)
	House(ctx context.Context) (house.House, error)
	HasPicture(ctx context.Context, name string) (bool, error)
	produce.Files
	AddBrought(ctx context.Context, name string, data, ground []byte, now time.Time) error
}

// Workshop makes intakes.
type Workshop struct {
	Store Store
	Take  produce.Take // takes PDFs apart that documents are printed on
	Now   func() time.Time
}

// Version is a design as it was published; Number is 0 for the draft.
type Version struct {
	Number    int
	Published time.Time
	Design    intake.Design
}

// Change says what a version changed, in sentences.
type Change struct {
	Version
	Changes []string
}

// History lists what was published, the newest first, each with what it changed; first the draft where it differs from
// what respondents see.
func (w *Workshop) History(ctx context.Context, id int64) ([]Change, error) {
	i, err := w.Store.Intake(ctx, id)
	if err != nil {
		return nil, err
	}
	all, err := w.Store.Versions(ctx, id)
	if err != nil {
		return nil, err
	}
	if i.Version > 0 && i.Revision != i.Published {
		all = append([]Version{{Design: i.Design}}, all...)
	}
	out := make([]Change, len(all))
	for n, v := range all {
		out[n].Version = v
		if n+1 < len(all) {
			out[n].Changes = intake.Compare(all[n+1].Design, v.Design)
		}
	}
	return out, nil
}

// Version is the design as it was published; 0 is the draft. The error is register.NotFound where there is none.
func (w *Workshop) Version(ctx context.Context, id int64, number int) (intake.Design, error) {
	i, err := w.Store.Intake(ctx, id)
	if err != nil || number == 0 {
		return i.Design, err
	}
	all, err := w.Store.Versions(ctx, id)
	if err != nil {
		return intake.Design{}, err
	}
	at := slices.IndexFunc(all, func(v Version) bool { return v.Number == number })
	if at < 0 {
		return intake.Design{}, register.NotFound
	}
	return all[at].Design, nil
}

// Compare says in sentences what one version has that another had not; 0 is the draft.
func (w *Workshop) Compare(ctx context.Context, id int64, from, to int) ([]string, error) {
	before, err := w.Version(ctx, id, from)
	if err != nil {
		return nil, err
	}
	after, err := w.Version(ctx, id, to)
	if err != nil {
		return nil, err
	}
	return intake.Compare(before, after), nil
}

// Copy makes a new intake of another's draft.
func (w *Workshop) Copy(ctx context.Context, id int64) (Intake, error) {
	i, err := w.Store.Intake(ctx, id)
	if err != nil {
		return i, err
	}
	d := i.Design
	d.Name += " (copy)"
	d.Slug = intake.SlugFor(d.Name)
	return w.Add(ctx, d)
}

// New makes an intake of pasted questions.
func (w *Workshop) New(ctx context.Context, name, questions string) (Intake, error) {
	return w.NewOf(ctx, name, form.FromQuestions(questions))
}

// NewOf makes an intake of fields.
func (w *Workshop) NewOf(ctx context.Context, name string, fields []form.Field) (Intake, error) {
	if name = strings.TrimSpace(name); name == "" {
		name = "New intake"
	}
	return w.Add(ctx, intake.New(name, fields))
}

// AddFile keeps the design of a file as a new intake. The error is Unreadable where it is none, with line and column.
func (w *Workshop) AddFile(ctx context.Context, data []byte) (Intake, error) {
	d, err := intake.Read(data)
	if err != nil {
		return Intake{}, Unreadable{"The file cannot be read: " + err.Error() + "."}
	}
	return w.Add(ctx, d)
}

// Add keeps a design as a new intake; a taken address gets a count behind it.
func (w *Workshop) Add(ctx context.Context, d intake.Design) (Intake, error) {
	if err := workable(d); err != nil {
		return Intake{}, err
	}
	d.Whole()
	base := d.Slug
	for n := 2; ; n++ {
		made, err := w.Store.AddIntake(ctx, d, w.Now())
		if !errors.Is(err, ErrSlugTaken) || n > 99 {
			return made, err
		}
		d.Slug = fmt.Sprintf("%s-%d", base, n)
	}
}

// Check finds what is wrong with a design.
func (w *Workshop) Check(ctx context.Context, d intake.Design) finding.List {
	l := d.Check(func(picture string) bool {
		if file, ok := paper.BroughtName(picture); ok {
			_, err := w.Store.Brought(ctx, file)
			return !errors.Is(err, register.NotFound)
		}
		if name, ok := enclosure.FixedName(picture); ok {
			h, err := w.Store.House(ctx)
			_, there := h.Fixed(name)
			return there || err != nil
		}
		there, err := w.Store.HasPicture(ctx, picture)
		return there || err != nil // what cannot be asked is not said to be missing
	})
	if h, err := w.Store.House(ctx); err == nil {
		for _, x := range d.Documents {
			l = append(l, x.CheckFamily(h)...)
		}
	}
	l = append(l, produce.CheckBrought(d, func(name string) ([]byte, error) {
		if file, ok := paper.GroundName(name); ok {
			return produce.Ground(ctx, w.Store, w.Take, file)
		}
		file, _ := paper.BroughtName(name)
		return w.Store.Brought(ctx, file)
	})...)
	l.Sort()
	return l
}

// MaxDesign is how large a design may be, in bytes of JSON.
const MaxDesign = 4 << 20

// Change keeps a design as the draft, faults and all: nothing that was typed is lost.
func (w *Workshop) Change(ctx context.Context, id int64, revision int, d intake.Design) (Intake, error) {
	if err := workable(d); err != nil {
		return Intake{}, err
	}
	d.Whole()
	return w.Store.SetDesign(ctx, id, revision, d, w.Now())
}

// workable refuses a design with more fields than can be worked with.
func workable(d intake.Design) error {
	n := 0
	d.Form.Each(func(string, form.Field) { n++ })
	if n > MostFields {
		return Unreadable{fmt.Sprintf("The form has %d fields; at most %d can be kept. Make several intakes of it.", n, MostFields)}
	}
	return nil
}

// MostFields is how many fields a form has at most: what is looked at after each key grows with the square of them.
const MostFields = 1_000

// Open publishes the draft and lets respondents answer. The error is Faulty when the
// design has faults.
func (w *Workshop) Open(ctx context.Context, id int64) (Intake, error) {
	i, err := w.Store.Intake(ctx, id)
	if err != nil {
		return i, err
	}
	if l := w.Check(ctx, i.Design); l.Faults() > 0 {
		return i, Faulty{l}
	}
	if i.Version == 0 || i.Revision != i.Published {
		if _, err = w.Store.Publish(ctx, id, i.Revision, w.Now()); err != nil {
			return i, err
		}
	}
	return w.Store.SetState(ctx, id, Open, w.Now())
}

// Pause stops answers for a while; those who come read the words of the opening.
func (w *Workshop) Pause(ctx context.Context, id int64) (Intake, error) {
	return w.Store.SetState(ctx, id, Paused, w.Now())
}

// Close stops answers; what came in is kept and finished.
func (w *Workshop) Close(ctx context.Context, id int64) (Intake, error) {
	return w.Store.SetState(ctx, id, Closed, w.Now())
}

// Encode writes a design as its file.
func Encode(d intake.Design) ([]byte, error) { return json.MarshalIndent(d, "", "  ") }
