package sheets_test

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"testing"
	"time"

	"amberseal/adapter/folder"
	"amberseal/app/file"
	"amberseal/app/register"
	"amberseal/app/sheets"
	"amberseal/app/work"
	"amberseal/app/workshop"
	"amberseal/core/ask/form"
	"amberseal/core/filing"
	"amberseal/core/intake"
	"amberseal/core/plan"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// books are the records of one intake; facts are numbered as they happen.
type books struct {
	design intake.Design
	all    []register.Submission
	facts  map[int64]int64 // the last of each submission
	last   int64
	files  []sheets.File
	broken bool // it ends before a file that was written is on record
	many   int  // besides, so many that are made when they are read, as those of a database are
}

func (b *books) happens(id int64) { b.last++; b.facts[id] = b.last }

func (b *books) submit(name string) int64 {
	id := int64(len(b.all) + 1)
	b.all = append(b.all, submission(id, name))
	b.happens(id)
	return id
}

func submission(id int64, name string) register.Submission {
	text, _ := json.Marshal(name) // a string always can be
	return register.Submission{
		ID: id, IntakeID: 1, Number: fmt.Sprintf("A-%05d", id), Version: 1, Revision: 1, Received: time.Unix(1.7e9+id, 0).UTC(),
		Answers: form.Raw{"name": text, "price": json.RawMessage(fmt.Sprintf(`"%d.50"`, 1000+id)), "day": json.RawMessage(`"2026-12-24"`)},
	}
}

func (b *books) House(context.Context) (house.House, error)     { return house.New(), nil }
func (b *books) IntakeOf(context.Context, int64) (int64, error) { return 1, nil }
func (b *books) LastFact(_ context.Context, id int64) (int64, error) {
	if id == 0 {
		return b.last, nil
	}
	return b.facts[id], nil
}

func (b *books) Versions(context.Context, int64) ([]workshop.Version, error) {
	return []workshop.Version{{Number: 1, Design: b.design}}, nil
}

func (b *books) Answered(_ context.Context, _, after int64, limit int) ([]register.Submission, error) {
	if b.many > 0 {
		var out []register.Submission
		for id := after + 1; id <= int64(b.many) && len(out) < limit; id++ {
			out = append(out, submission(id, "Łucja Brzęk-Wiśniewska"))
		}
		return out, nil
	}
	from := min(int(after), len(b.all))
	return b.all[from:min(from+limit, len(b.all))], nil
}

func (b *books) FiledLinks(_ context.Context, _, after, last int64) (map[int64]string, error) {
	out := map[int64]string{}
	for id := after + 1; id <= last; id++ {
		out[id] = fmt.Sprintf("https://files.example/A-%05d.pdf", id)
	}
	return out, nil
}

func (b *books) Touched(_ context.Context, _, first, last, after int64) (bool, error) {
	for id := first; id <= last; id++ {
		if b.facts[id] > after {
			return true, nil
		}
	}
	return false, nil
}

func (b *books) SheetFiles(context.Context, int64, string) ([]sheets.File, error) {
	return slices.Clone(b.files), nil
}

func (b *books) KeepSheetFile(_ context.Context, f sheets.File) error {
	if b.broken {
		return errors.New("the program ended")
	}
	if f.N > len(b.files) {
		b.files = append(b.files, f)
	}
	b.files[f.N-1] = f
	return nil
}

func (b *books) PendSheetFile(_ context.Context, f sheets.File) error {
	if f.N > len(b.files) {
		f = sheets.File{N: f.N, Destination: f.Destination, Begun: f.Begun, Path: f.Path, First: f.First, Last: f.First - 1,
			Pending: f.Pending, SHA256: f.SHA256}
		b.files = append(b.files, f)
	}
	b.files[f.N-1].Pending, b.files[f.N-1].SHA256 = f.Pending, f.SHA256
	return nil
}

func (b *books) DropSheetFiles(context.Context, int64, string) error { b.files = nil; return nil }

type onlyPlace struct{ only file.Place }

func (p onlyPlace) Place(context.Context, string) (file.Place, error) { return p.only, nil }

// shelf is a folder with a register of three columns and more.
type shelf struct {
	*sheets.Keeper
	*books
	t    testing.TB
	dir  string
	now  time.Time
	hand work.Hand
}

func newShelf(t testing.TB, as filing.Sheet) *shelf {
	dir := t.TempDir()
	place, err := folder.Open(dir, "mark", false)
	if err != nil {
		t.Fatal(err)
	}
	s := &shelf{t: t, dir: dir, now: time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC), books: &books{facts: map[int64]int64{}}}
	s.design = intake.Design{Name: "Hire", Form: form.Form{Fields: []form.Field{
		{Key: "name", Kind: form.ShortText, Label: "Name"}, {Key: "price", Kind: form.Money, Label: "Price"},
		{Key: "day", Kind: form.Date, Label: "Day"},
	}}, Registers: []filing.Register{{
		Key: "all", Name: "All", As: as, Path: phrase.Parse("{{@intake}}/Register"),
		Columns: []filing.Column{{Of: "@number"}, {Of: "name", Name: "Who"}, {Of: "price"}, {Of: "day"}, {Of: "@received"}, {Of: "@filed"}},
	}}}
	s.Keeper = &sheets.Keeper{Records: s.books, Places: onlyPlace{place}, Now: func() time.Time { return s.now }}
	s.hand = s.Hand(work.Hand{})
	return s
}

func (s *shelf) line(id int64) (string, error) {
	o, err := s.hand.Do(context.Background(), work.Job{Job: register.Job{
		Subject: plan.Subject{About: plan.Submission, ID: id, Run: 1}, Body: []byte(`{"documents":[],"register":"all"}`),
	}})
	return o.Result, err
}

func (s *shelf) must(id int64) string {
	s.t.Helper()
	path, err := s.line(id)
	if err != nil {
		s.t.Fatal(err)
	}
	return path
}

func (s *shelf) read(name string) string {
	s.t.Helper()
	data, err := os.ReadFile(filepath.Join(s.dir, name))
	if err != nil {
		s.t.Fatal(err)
	}
	return string(data)
}

func (s *shelf) there() (names []string) {
	err := fs.WalkDir(os.DirFS(s.dir), "Hire", func(path string, d fs.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			names = append(names, path)
		}
		return err
	})
	if err != nil {
		s.t.Fatal(err)
	}
	return names
}

// A register has a line for each submission and is written once a minute at most, however many come; a correction changes its line; a
// full file is followed by another, and written again only where a line of it changed.
func TestARegisterRuns(t *testing.T) {
	s := newShelf(t, filing.CSV)
	s.Most = 4
	first := s.submit("Ada")
	if path := s.must(first); path != "Hire/Register.csv" {
		t.Errorf("it lies under %q", path)
	}
	for _, name := range []string{"=1+1", "Cem", "Dora", "Emil"} {
		s.submit(name)
	}
	var held work.Held
	for id := int64(2); id <= 5; id++ {
		if _, err := s.line(id); !errors.As(err, &held) || !held.Until.Equal(s.now.Add(time.Minute)) {
			t.Fatalf("a line within the minute: %v", err)
		}
	}
	if n := strings.Count(s.read("Hire/Register.csv"), "\r\n"); n != 2 {
		t.Errorf("it has %d lines within the minute", n)
	}
	s.now = held.Until
	if path := s.must(5); path != "Hire/Register 2.csv" {
		t.Errorf("the fifth is in %q", path)
	}
	before := s.files[1].At
	s.now = s.now.Add(time.Second)
	for id := int64(1); id <= 4; id++ {
		if path := s.must(id); path != "Hire/Register.csv" || !s.files[1].At.Equal(before) {
			t.Errorf("number %d is in %q, or the file was written for it alone", id, path)
		}
	}
	text := s.read("Hire/Register.csv")
	if !strings.Contains(text, `"Who","Price"`) || !strings.Contains(text, `"'=1+1"`) ||
		!strings.Contains(text, "https://files.example/A-00004.pdf") {
		t.Errorf("it says %s", text)
	}
	s.all[0].Answers["name"] = json.RawMessage(`"Adele"`)
	s.happens(1)
	s.now = s.now.Add(time.Minute)
	s.must(1)
	if text = s.read("Hire/Register.csv"); !strings.Contains(text, "Adele") || strings.Contains(text, `"Ada"`) {
		t.Errorf("corrected it says %s", text)
	}
	if names := s.there(); len(names) != 2 {
		t.Errorf("there are %q", names)
	}
}

// A file that somebody changed is left and another begun with every line; one that is gone is written again; one of somebody else's is
// not touched; and a program that ends between writing and noting it begins no second file.
func TestARegisterLeavesWhatIsNotItsOwn(t *testing.T) {
	s := newShelf(t, filing.CSV)
	if err := os.MkdirAll(filepath.Join(s.dir, "Hire"), 0o700); err != nil {
		t.Fatal(err)
	}
	write := func(name, text string) {
		if err := os.WriteFile(filepath.Join(s.dir, name), []byte(text), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	write("Hire/Register.csv", "mine")
	next := func(name string) string {
		s.now = s.now.Add(time.Minute)
		return s.must(s.submit(name))
	}
	if path := next("Ada"); path != "Hire/Register (2).csv" || s.read("Hire/Register.csv") != "mine" {
		t.Fatalf("it went to %q", path)
	}
	s.broken = true
	s.now = s.now.Add(time.Minute)
	if _, err := s.line(s.submit("Ben")); err == nil {
		t.Fatal("the program did not end")
	}
	s.broken = false
	if path := next("Cem"); path != "Hire/Register (2).csv" {
		t.Fatalf("after a sudden end it went to %q", path)
	}
	write("Hire/Register (2).csv", "changed by hand")
	path := next("Dora")
	text := s.read(path)
	if path != "Hire/Register (3).csv" || s.read("Hire/Register (2).csv") != "changed by hand" ||
		s.files[0].Left != "Hire/Register (2).csv" {
		t.Errorf("what somebody changed: %q, %+v", path, s.files[0])
	}
	for _, name := range []string{"Ada", "Ben", "Cem", "Dora"} {
		if strings.Count(text, name) != 1 {
			t.Errorf("the new one has %s %d times", name, strings.Count(text, name))
		}
	}
	if err := os.Remove(filepath.Join(s.dir, path)); err != nil {
		t.Fatal(err)
	}
	if path := next("Emil"); strings.Count(s.read(path), "\r\n") != 6 {
		t.Errorf("what was gone is %q", s.read(path))
	}
}

// forgetful is a place that takes what replaces a file and breaks off before it says so, or is away.
type forgetful struct {
	file.Place
	breaks, away bool
}

var errAway = work.Again{Reason: "It is away.", Outage: true}

func (p *forgetful) Read(ctx context.Context, path string, most int) ([]byte, error) {
	if p.away {
		return nil, errAway
	}
	return p.Place.Read(ctx, path, most)
}

func (p *forgetful) Replace(ctx context.Context, path string, f file.File) error {
	if p.away {
		return errAway
	}
	if err := p.Place.Replace(ctx, path, f); err != nil || !p.breaks {
		return err
	}
	return errAway
}

// However often answers are lost and tries are in vain in between, what the house itself wrote is known as its own.
func TestALostAnswerIsNobodysChange(t *testing.T) {
	s := newShelf(t, filing.CSV)
	place, err := s.Places.Place(t.Context(), "")
	if err != nil {
		t.Fatal(err)
	}
	far := &forgetful{Place: place}
	s.Places = onlyPlace{far}
	s.must(s.submit("Ada"))
	for i, times := range []string{"breaks", "breaks, away", "breaks, breaks", "breaks, away, away, breaks, away", "away, breaks, breaks"} {
		for _, how := range strings.Split(times, ", ") {
			s.now = s.now.Add(time.Minute)
			far.breaks, far.away = how == "breaks", how == "away"
			if _, err := s.line(s.submit(fmt.Sprint("One ", i))); err == nil {
				t.Fatalf("%s: it is told as written", times)
			}
		}
		far.breaks, far.away = false, false
		s.now = s.now.Add(time.Minute)
		if path := s.must(s.submit("Last")); path != "Hire/Register.csv" || s.files[0].Left != "" {
			t.Fatalf("%s: it went to %q, %+v", times, path, s.files[0])
		}
		if got, want := strings.Count(s.read("Hire/Register.csv"), "\r\n"), len(s.all)+1; got != want {
			t.Errorf("%s: it has %d lines, want %d", times, got, want)
		}
	}
	if names := s.there(); len(names) != 1 {
		t.Errorf("there are %q", names)
	}
}

// openpyxl, an independent library, reads numbers, days, moments and texts as such, and nothing that a spreadsheet would run but links.
func TestAWorkbookHasTypes(t *testing.T) {
	s := newShelf(t, filing.XLSX)
	path := s.must(s.submit("=1+1"))
	cmd := exec.Command("/usr/bin/python3", "-c", `
import openpyxl, sys
for row in openpyxl.load_workbook(sys.argv[1]).active.iter_rows():
    print("|".join(f"{c.data_type}:{c.value}" for c in row))`, filepath.Join(s.dir, path))
	out, err := cmd.CombinedOutput()
	want := `s:Number|s:Who|s:Price|s:Day|s:Received|s:Filed
s:A-00001|s:=1+1|n:1001.5|d:2026-12-24 00:00:00|d:2023-11-14 22:13:21|f:=HYPERLINK("https://files.example/A-00001.pdf")
`
	if err != nil || string(out) != want {
		t.Errorf("%v\n%s", err, out)
	}
}

// BenchmarkRegister writes 50,000 lines anew, which is to take less than three seconds and 60 MB.
func BenchmarkRegister(b *testing.B) {
	for _, as := range []filing.Sheet{filing.CSV, filing.XLSX} {
		b.Run(string(as), func(b *testing.B) {
			s := newShelf(b, as)
			s.many = 50_000
			runtime.GC()
			var before, now runtime.MemStats
			runtime.ReadMemStats(&before)
			done, peak := make(chan struct{}), make(chan uint64)
			go func() {
				most := uint64(0)
				for {
					select {
					case <-done:
						peak <- most
						return
					case <-time.After(20 * time.Millisecond):
						runtime.ReadMemStats(&now)
						most = max(most, now.HeapAlloc)
					}
				}
			}()
			for b.Loop() {
				s.now = s.now.Add(time.Minute)
				s.happens(1)
				s.must(1)
			}
			close(done)
			b.ReportMetric(float64(<-peak-before.HeapAlloc)/1e6, "peak_MB")
		})
	}
}
