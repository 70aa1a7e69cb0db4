package sheets

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"sync"
	"time"

	"amberseal/app/file"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/app/workshop"
	"amberseal/core/ask/form"
	"amberseal/core/filing"
	"amberseal/core/intake"
	"amberseal/core/plan"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// File is a file of a running register as it was written last: the lines of some submissions of an intake.
type File struct {
	Intake      int64
	Register    string // its key
	N           int    // counted from 1
	Destination string // its key
	Begun       string // the path that it was begun under, by which a design that moved it is told
	Path        string
	Link        string
	SHA256      string // of its bytes as they were written
	Pending     string // of those that were to be written, where nobody knows whether they were
	First, Last int64  // the submissions whose lines it holds are among these
	Lines       int
	Full        bool  // later submissions are in the next one
	UpTo        int64 // the last fact that it knows of
	At          time.Time
	Left        string // the path of one that somebody changed, which was left and for which this one was begun
}

// Records is what registers are written from, and where it is kept how far they are. Look-ups of nothing give register.NotFound.
type Records interface {
	House(ctx context.Context) (house.House, error)
	IntakeOf(ctx context.Context, submission int64) (int64, error)
	Versions(ctx context.Context, intake int64) ([]workshop.Version, error)
	Answered(ctx context.Context, intake, after int64, limit int) ([]register.Submission, error)
	FiledLinks(ctx context.Context, intake, after, last int64) (map[int64]string, error)
	LastFact(ctx context.Context, submission int64) (int64, error)                           // that changes a line of it; of all for 0
	Touched(ctx context.Context, intake, first, last, after int64) (touched bool, err error) // by such a fact
	SheetFiles(ctx context.Context, intake int64, register string) ([]File, error)
	KeepSheetFile(ctx context.Context, f File) error
	PendSheetFile(ctx context.Context, f File) error // keeps that Pending is to be written over SHA256; what else is known stays
	DropSheetFiles(ctx context.Context, intake int64, register string) error
}

// Keeper keeps running registers. It is safe for many goroutines; one file is written by one of them.
type Keeper struct {
	Records Records
	Places  file.Places
	Now     func() time.Time
	Most    int // lines in one file; 50,000 when 0

	mu    sync.Mutex
	works map[string]*sync.Mutex
}

const (
	pause   = time.Minute
	longest = 10 * time.Minute
	page    = 500
)

// Hand writes a submission's line. A register is written whole, at most once a minute; who finds their line written already is done.
func (k *Keeper) Hand(filings work.Hand) work.Hand {
	return work.Hand{Longest: longest, Do: func(ctx context.Context, j work.Job) (work.Outcome, error) {
		var c plan.Carries
		if len(j.Body) == 0 {
			return filings.Do(ctx, j)
		}
		if err := json.Unmarshal(j.Body, &c); err != nil {
			return work.Outcome{}, work.GiveUp{Reason: "What is to be filed cannot be read: " + err.Error() + "."}
		}
		if c.Register == "" {
			return filings.Do(ctx, j)
		}
		result, err := k.line(ctx, j.Subject.ID, c.Register)
		return work.Outcome{Result: result}, err
	}}
}

// lock gives the mutex of a register.
func (k *Keeper) lock(id int64, key string) *sync.Mutex {
	k.mu.Lock()
	defer k.mu.Unlock()
	name := fmt.Sprintf("%d %s", id, key)
	if k.works == nil {
		k.works = map[string]*sync.Mutex{}
	}
	if k.works[name] == nil {
		k.works[name] = &sync.Mutex{}
	}
	return k.works[name]
}

func (k *Keeper) line(ctx context.Context, submission int64, key string) (string, error) {
	id, err := k.Records.IntakeOf(ctx, submission)
	if errors.Is(err, register.NotFound) {
		return "", work.GiveUp{Reason: "The submission is not there any more."}
	}
	if err != nil {
		return "", err
	}
	one := k.lock(id, key)
	one.Lock()
	defer one.Unlock()
	fact, err := k.Records.LastFact(ctx, submission)
	if err != nil {
		return "", err
	}
	files, err := k.Records.SheetFiles(ctx, id, key)
	if err != nil {
		return "", err
	}
	last := time.Time{}
	for _, f := range files {
		if f.First <= submission && submission <= f.Last && f.UpTo >= fact {
			return f.Path, nil
		}
		if f.At.After(last) {
			last = f.At
		}
	}
	if now := k.Now(); now.Sub(last) < pause && !last.After(now) {
		return "", work.Held{Until: last.Add(pause)}
	}
	run, err := k.open(ctx, id, key, files)
	if err == nil {
		err = run.write(ctx)
	}
	if err != nil {
		return "", err
	}
	for _, f := range run.files {
		if f.First <= submission && submission <= f.Last {
			return f.Path, nil
		}
	}
	return "it has no line", nil // by its condition
}

// run is one writing of a register.
type run struct {
	*Keeper
	id     int64
	rule   filing.Register
	design intake.Design
	table  Table
	place  file.Place
	facts  phrase.Facts // of the house and the intake
	files  []File
}

func (k *Keeper) open(ctx context.Context, id int64, key string, files []File) (*run, error) {
	versions, err := k.Records.Versions(ctx, id)
	if err != nil {
		return nil, err
	}
	r := &run{Keeper: k, id: id, files: files}
	forms := map[int]form.Form{}
	for i, v := range versions {
		forms[v.Number] = v.Design.Form
		if i == 0 { // the newest
			r.design = v.Design
		}
	}
	found := false
	for _, x := range r.design.Registers {
		if x.Key == key {
			r.rule, found = x, true
		}
	}
	if !found {
		return nil, work.GiveUp{Reason: "The design keeps no register “" + key + "” any more."}
	}
	h, err := k.Records.House(ctx)
	if err != nil {
		return nil, err
	}
	r.table = Table{House: h, Forms: forms, Columns: r.rule.Heads(r.design.Form)}
	r.facts = phrase.Facts{House: h, Intake: r.design.Name, Form: r.design.Form, Answers: form.Answers{}, Made: k.Now()}
	to := r.rule.Destination()
	if r.place, err = k.Places.Place(ctx, to); err != nil {
		if errors.Is(err, register.NotFound) {
			return nil, work.GiveUp{Reason: "The house has no destination “" + to + "” any more. Set it up again on the House page, and " +
				"try again."}
		}
		return nil, err
	}
	if len(r.files) > 0 && (r.files[0].Destination != to || r.files[0].Begun != r.rule.FilePath(r.facts, 1)) {
		// It goes elsewhere now; what lies where it was stays.
		r.files = nil
		err = k.Records.DropSheetFiles(ctx, id, key)
	}
	return r, err
}

// write writes every file that lacks something: the last one, those that are full and have a line that changed, and new ones.
func (r *run) write(ctx context.Context) error {
	upTo, err := r.Records.LastFact(ctx, 0)
	if err != nil {
		return err
	}
	after := int64(0)
	for n := 1; ; n++ {
		f := File{Intake: r.id, Register: r.rule.Key, N: n, Destination: r.rule.Destination(), First: after + 1}
		f.Begun = r.rule.FilePath(r.facts, n)
		f.Path = f.Begun
		if n <= len(r.files) {
			f = r.files[n-1]
			if f.Full {
				touched, err := r.Records.Touched(ctx, r.id, f.First, f.Last, f.UpTo)
				if err != nil {
					return err
				}
				if !touched {
					after = f.Last
					continue
				}
			}
		}
		data, next, err := r.contents(ctx, f)
		if err != nil {
			return err
		}
		if next.Last < next.First { // nothing is left for another file
			return nil
		}
		next.UpTo = upTo
		if next, err = r.put(ctx, next, data); err != nil {
			return err
		}
		next.At = r.Now().UTC()
		if err := r.Records.KeepSheetFile(ctx, next); err != nil {
			return err
		}
		r.files = append(r.files[:n-1], append([]File{next}, r.files[min(n, len(r.files)):]...)...)
		if !next.Full {
			return nil
		}
		after = next.Last
	}
}

// contents are the bytes of a file, with what it holds.
func (r *run) contents(ctx context.Context, f File) ([]byte, File, error) {
	var b bytes.Buffer
	sheet := r.begin(&b)
	last := f.Last
	f.Lines, f.Last = 0, f.First-1
	for after := f.First - 1; ; {
		all, err := r.Records.Answered(ctx, r.id, after, page)
		if err != nil {
			return nil, f, err
		}
		if len(all) == 0 {
			break
		}
		links := map[int64]string{}
		if r.rule.Says(filing.ByFiled) {
			if links, err = r.Records.FiledLinks(ctx, r.id, after, all[len(all)-1].ID); err != nil {
				return nil, f, err
			}
		}
		for _, s := range all {
			if f.Full && s.ID > last {
				return closed(&b, sheet, f)
			}
			if f.Lines == cmp.Or(r.Most, 50_000) {
				f.Full = true
				return closed(&b, sheet, f)
			}
			facts := r.table.facts(s)
			f.Last = s.ID
			if !facts.Condition(r.rule.When) {
				continue
			}
			f.Lines++
			if err := sheet.Add(r.table.OfFacts(facts, links[s.ID])); err != nil {
				return nil, f, err
			}
		}
		after = f.Last
	}
	return closed(&b, sheet, f)
}

func closed(b *bytes.Buffer, sheet writer, f File) ([]byte, File, error) {
	err := sheet.Close()
	return b.Bytes(), f, err
}

type writer interface {
	Add(line []Cell) error
	Close() error
}

func (r *run) begin(b *bytes.Buffer) writer {
	if r.rule.Form() == filing.XLSX {
		return NewXLSX(b, r.table.Head())
	}
	return NewCSV(b, r.table.Head())
}

// put writes a file in the place of the one before. One that somebody changed is left, and another is begun.
func (r *run) put(ctx context.Context, f File, data []byte) (File, error) {
	x := file.File{Data: data, Type: types[r.rule.Form()], About: map[string]string{"intake": r.design.Slug, "title": r.rule.Name}}
	if f.Pending != "" { // whether the bytes of before were taken is settled first: theirs would be forgotten for these
		have, err := r.place.Read(ctx, f.Path, file.Swapped(len(data)))
		switch {
		case err == nil && register.Sum(have) == f.Pending:
			f.SHA256 = f.Pending
		case err != nil && !errors.Is(err, file.Gone):
			return f, err
		}
	}
	known := []string{f.SHA256}
	f.Pending = register.Sum(data)
	if err := r.Records.PendSheetFile(ctx, f); err != nil {
		return f, err
	}
	err := file.Swap(ctx, r.place, f.Path, known, x)
	if errors.Is(err, file.Other) && known[0] != "" {
		f.Left = f.Path
	}
	if errors.Is(err, file.Other) || errors.Is(err, file.Gone) {
		f.Path, err = file.Put(ctx, r.place, f.Begun, x, filing.Number)
	}
	if err != nil {
		return f, err
	}
	f.SHA256, f.Pending, f.Link = f.Pending, "", r.place.Link(f.Path)
	return f, nil
}

var types = map[filing.Sheet]string{
	filing.CSV:  "text/csv; charset=utf-8",
	filing.XLSX: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
}
