package workshop_test

import (
	"context"
	"errors"
	"fmt"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"amberseal/adapter/sqlite"
	"amberseal/app/access"
	"amberseal/app/register"
	"amberseal/app/workshop"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
)

func newWorkshop(t *testing.T) *workshop.Workshop {
	t.Helper()
	db, err := sqlite.Open(t.Context(), filepath.Join(t.TempDir(), "amberseal.db"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { db.Close() })
	now := time.Date(2026, 11, 25, 12, 0, 0, 0, time.UTC)
	return &workshop.Workshop{Store: db, Now: func() time.Time { now = now.Add(time.Minute); return now }}
}

// What respondents see is what was published last; every version is kept, told in sentences, and can be had again.
func TestVersions(t *testing.T) {
	w := newWorkshop(t)
	i, err := w.New(t.Context(), "  Lake  ", "Your name\nYour email\n")
	if err != nil || i.Design.Name != "Lake" || i.State != workshop.Draft {
		t.Fatalf("%+v %v", i, err)
	}
	if i, err = w.Open(t.Context(), i.ID); err != nil || i.Version != 1 || i.State != workshop.Open {
		t.Fatalf("%+v %v", i, err)
	}
	for n, change := range []func(d *intake.Design){
		func(d *intake.Design) { d.Form.Fields[0].Label = "Who are you" },
		func(d *intake.Design) { d.Documents[0].Look = paper.Ticket },
		func(d *intake.Design) {
			d.Form.Fields = append(d.Form.Fields, form.Field{Key: "boat", Kind: form.YesNo, Label: "A boat"})
		},
	} {
		d := i.Design
		d.Form.Fields, d.Documents = slices.Clone(d.Form.Fields), slices.Clone(d.Documents)
		change(&d)
		if i, err = w.Change(t.Context(), i.ID, i.Revision, d); err != nil || i.Version != n+1 {
			t.Fatalf("change %d: %+v %v", n, i, err)
		}
		history, err := w.History(t.Context(), i.ID)
		if err != nil || len(history) != n+2 || history[0].Number != 0 || len(history[0].Changes) != 1 {
			t.Fatalf("with a draft the history is %+v: %v", history, err)
		}
		if i, err = w.Open(t.Context(), i.ID); err != nil || i.Version != n+2 {
			t.Fatalf("published: %+v %v", i, err)
		}
	}
	if again, err := w.Open(t.Context(), i.ID); err != nil || again.Version != 4 {
		t.Errorf("publishing nothing new makes version %d: %v", again.Version, err)
	}
	history, err := w.History(t.Context(), i.ID)
	if err != nil || len(history) != 4 {
		t.Fatalf("%d versions: %v", len(history), err)
	}
	for n, want := range []string{"A boat", "Receipt", "Who are you"} {
		if c := history[n]; c.Number != 4-n || len(c.Changes) != 1 || !strings.Contains(c.Changes[0], want) || c.Published.IsZero() {
			t.Errorf("version %d says %q", c.Number, c.Changes)
		}
	}
	all, err := w.Compare(t.Context(), i.ID, 1, 0)
	if err != nil || len(all) != 3 {
		t.Errorf("from the first to the draft: %q %v", all, err)
	}
	first, err := w.Version(t.Context(), i.ID, 1)
	if err != nil || first.Form.Fields[0].Label != "Your name" {
		t.Errorf("the first is %+v: %v", first.Form.Fields, err)
	}
	if i, err = w.Change(t.Context(), i.ID, i.Revision, first); err != nil {
		t.Fatal(err)
	}
	if back, err := w.Compare(t.Context(), i.ID, 1, 0); err != nil || len(back) != 0 {
		t.Errorf("taken back it differs by %q: %v", back, err)
	}
	for _, none := range []int{-1, 5, 99} {
		if _, err := w.Version(t.Context(), i.ID, none); !errors.Is(err, register.NotFound) {
			t.Errorf("version %d: %v", none, err)
		}
	}
	if _, err := w.History(t.Context(), 99); !errors.Is(err, register.NotFound) {
		t.Error(err)
	}
}

// A design with faults is kept as it is and cannot be opened; the faults tell their places. What it was before stays open.
func TestFaultsAreKeptAndNotOpened(t *testing.T) {
	w := newWorkshop(t)
	i, err := w.New(t.Context(), "Lake", "Your name\n")
	if err != nil {
		t.Fatal(err)
	}
	if i, err = w.Open(t.Context(), i.ID); err != nil {
		t.Fatal(err)
	}
	d := i.Design
	d.Documents = slices.Clone(d.Documents)
	d.Documents[0].Blocks = append(
		slices.Clone(d.Documents[0].Blocks),
		paper.Block{ID: "logo", Kind: paper.Picture, Settings: paper.Settings{Picture: "gone.png"}},
	)
	d.Documents[0].When = "nobody = 1"
	if i, err = w.Change(t.Context(), i.ID, i.Revision, d); err != nil {
		t.Fatal(err)
	}
	var faulty workshop.Faulty
	if _, err := w.Open(t.Context(), i.ID); !errors.As(err, &faulty) {
		t.Fatalf("it was opened: %v", err)
	}
	places := fmt.Sprint(faulty.Findings)
	for _, want := range []string{"documents/receipt/blocks/logo", "documents/receipt/when"} {
		if !strings.Contains(places, want) {
			t.Errorf("the faults are %s, none is at %s", places, want)
		}
	}
	kept, err := w.Store.Intake(t.Context(), i.ID)
	if err != nil || kept.Version != 1 || kept.State != workshop.Open || kept.Design.Documents[0].When != "nobody = 1" {
		t.Errorf("%+v %v", kept, err)
	}
}

// Of many who change the same revision at once one is heard and the others are told; equal addresses get a count.
// A font that the house has not is found at its place before a document is set in another.
func TestAFontThatNobodyHas(t *testing.T) {
	w := newWorkshop(t)
	i, err := w.New(t.Context(), "Fonts", "Your name")
	if err != nil {
		t.Fatal(err)
	}
	for family, faults := range map[string]int{"": 0, "Literata": 0, "IBM Plex Sans": 0, "My own font": 1} {
		d := i.Design
		d.Documents[0].Page.Type = &paper.Type{Family: family}
		l := w.Check(t.Context(), d)
		if l.Faults() != faults || faults > 0 && (l[0].Place != "documents/receipt/page/type/family" ||
			!strings.Contains(l[0].Message, "no font called “My own font”")) {
			t.Errorf("%q: %v", family, l)
		}
	}
}

func TestManyDesigners(t *testing.T) {
	w := newWorkshop(t)
	w.Now = time.Now
	var all sync.WaitGroup
	for range 12 {
		all.Go(func() {
			if _, err := w.New(context.Background(), "Lake", "Your name\n"); err != nil {
				t.Error(err)
			}
		})
	}
	all.Wait()
	list, err := w.Store.Intakes(t.Context(), access.Everywhere, workshop.Position{}, 99)
	if err != nil || len(list) != 12 {
		t.Fatal(len(list), err)
	}
	slugs := map[string]bool{}
	for _, i := range list {
		slugs[i.Slug] = true
	}
	for n := range 12 {
		want := fmt.Sprintf("lake-%d", n+1)
		if n == 0 {
			want = "lake"
		}
		if !slugs[want] {
			t.Errorf("there is no %s among %v", want, slugs)
		}
	}
	i, err := w.Store.Intake(t.Context(), list[0].ID)
	if err != nil {
		t.Fatal(err)
	}
	var heard, told atomic.Int32
	for n := range 20 {
		all.Go(func() {
			d := i.Design
			d.Name = fmt.Sprint("Lake ", n)
			switch _, err := w.Change(context.Background(), i.ID, i.Revision, d); {
			case err == nil:
				heard.Add(1)
			case errors.Is(err, workshop.ErrStale):
				told.Add(1)
			default:
				t.Error(err)
			}
		})
	}
	all.Wait()
	if heard.Load() != 1 || told.Load() != 19 {
		t.Errorf("%d were heard, %d told", heard.Load(), told.Load())
	}
	c, err := w.Copy(t.Context(), i.ID)
	if err != nil || c.State != workshop.Draft || c.Version != 0 || !strings.HasSuffix(c.Design.Name, "(copy)") || slugs[c.Design.Slug] {
		t.Errorf("the copy is %+v: %v", c, err)
	}
	data, err := workshop.Encode(c.Design)
	if err != nil {
		t.Fatal(err)
	}
	if again, err := intake.Read(data); err != nil || len(intake.Compare(c.Design, again)) > 0 {
		t.Errorf("written and read it differs: %v %v", intake.Compare(c.Design, again), err)
	}
}
