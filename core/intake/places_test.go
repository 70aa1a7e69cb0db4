package intake_test

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"reflect"
	"slices"
	"strings"
	"sync"
	"testing"

	"amberseal/core/ask/form"
	"amberseal/core/intake"
)

func demo(t *testing.T, slug string) intake.Design {
	t.Helper()
	return read(t, "../../demo/intakes/"+slug+".json")
}

// sampler is an intake whose document has every kind of block.
const sampler = "../../app/produce/testdata/sampler.json"

func read(t *testing.T, file string) intake.Design {
	t.Helper()
	data, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	d, err := intake.Read(data)
	if err != nil {
		t.Fatal(err)
	}
	return d
}

func there(string) bool { return true }

func text(t *testing.T, d intake.Design) string {
	t.Helper()
	out, err := json.Marshal(d)
	if err != nil {
		t.Fatal(err)
	}
	return string(out)
}

// Every field of every demo intake is renamed, and the design is as sound as before; renamed back, it is the same.
func TestRenamingBreaksNothing(t *testing.T) {
	files, err := filepath.Glob("../../demo/intakes/*.json")
	if err != nil || len(files) != 6 {
		t.Fatal(files, err)
	}
	for _, file := range append(files, sampler) {
		d := read(t, file)
		if l := d.Check(there); l.Faults() > 0 {
			t.Fatalf("%s: %v", file, l)
		}
		for _, w := range d.Whereabouts() {
			if _, constant := d.Form.Constant(w.Name); constant {
				continue
			}
			to := w.Name + "_anew"
			renamed, err := d.Rename(w.Name, to)
			if err != nil {
				t.Fatal(err)
			}
			if l := renamed.Check(there); l.Faults() > 0 {
				t.Errorf("%s: %s renamed: %v", d.Slug, w.Name, l)
			}
			back, err := renamed.Rename(to, w.Name)
			if err != nil || text(t, back) != text(t, d) {
				t.Errorf("%s: %s renamed there and back is another design (%v)", d.Slug, w.Name, err)
			}
		}
	}
}

// Each field of the sampler is taken away without a word of how to mend its places: what is left has no fault that comes from
// a name without a field.
func TestRemovingLeavesNoHole(t *testing.T) {
	d := read(t, sampler)
	for _, w := range d.Whereabouts() {
		out, err := d.Remove(w.Name, nil)
		if err != nil {
			t.Fatal(err)
		}
		if rows, _ := d.Form.Column(w.Name); strings.Contains(text(t, out), w.Name+`"`) && rows != "" {
			t.Errorf("%s is gone and still named in %s", w.Name, text(t, out))
		}
		for _, f := range out.Check(there) {
			if strings.Contains(f.Message, "“"+w.Name+"”") ||
				strings.Contains(f.Message, "has no field.") && !strings.Contains(f.Message, "signature") {
				t.Errorf("%s is gone: %v", w.Name, f)
			}
		}
	}
}

func TestTranslationsFollowTheirField(t *testing.T) {
	d := demo(t, "repair-drop-off")
	d.Form.Translations = map[string]form.Texts{
		"de": {"name/label": "Ihr Name", "lines.rate/label": "Satz", "lines/label": "Arbeiten", "intro": "Hallo"},
	}
	renamed, err := d.Rename("lines", "jobs")
	if err != nil {
		t.Fatal(err)
	}
	if got := renamed.Form.In("de-AT"); got.Intro != "Hallo" || got.Fields[1].Label != "Ihr Name" {
		t.Errorf("the form in German is %+v", got.Fields[:2])
	}
	if x, _ := renamed.Form.In("de").Field("jobs.rate"); x.Label != "Satz" {
		t.Errorf("the rate is called %s", x.Label)
	}
	removed, err := renamed.Remove("jobs", nil)
	if texts := removed.Form.Translations["de"]; err != nil || len(texts) != 2 {
		t.Errorf("left are %v %v", texts, err)
	}
}

func TestMovingIntoRowsAndOut(t *testing.T) {
	d := demo(t, "repair-drop-off")
	in, err := d.Rename("deposit", "lines.deposit")
	if err != nil {
		t.Fatal(err)
	}
	if x, ok := in.Form.Field("lines.deposit"); !ok || x.Label != "Deposit paid" {
		t.Error("the deposit is not in the rows")
	}
	out, err := in.Rename("lines.deposit", "deposit")
	if err != nil || out.Check(there).Faults() > 0 {
		t.Errorf("out of the rows again: %v %v", err, out.Check(there))
	}
	moved, err := d.Rename("lines.rate", "rate")
	if err != nil {
		t.Fatal(err)
	}
	if x, _ := moved.Form.Field("lines.amount"); x.Formula != "round(hours * rate, 2)" {
		t.Errorf("the amount is %s", x.Formula)
	}
	if l := moved.Check(there); l.Faults() > 0 {
		t.Errorf("a rate for all rows: %v", l)
	}
	if _, err := d.Rename("deposit", "phone"); err == nil {
		t.Error("a taken key was given away")
	}
}

func TestRemovingMendsEachPlace(t *testing.T) {
	d := demo(t, "repair-drop-off")
	uses := d.Uses("name")
	var paths []string
	for _, p := range uses {
		paths = append(paths, p.Path)
	}
	for _, want := range []string{"documents/receipt/blocks/thanks", "documents/bench-sheet/blocks/who", "notices/respondent/message",
		"notices/staff/subject", "filings/cabinet/path"} {
		if !slices.Contains(paths, want) {
			t.Errorf("the uses of name are %v without %s", paths, want)
		}
	}
	out, err := d.Remove(
		"name",
		[]intake.Mend{
			{Path: "notices/respondent/message", Do: "text", With: "friend"},
			{Path: "documents/receipt/blocks/thanks", Do: "field", With: "email"},
		},
	)
	if err != nil {
		t.Fatal(err)
	}
	if l := out.Check(there); l.Faults() > 0 {
		t.Errorf("what is left has faults: %v", l)
	}
	if s := text(t, out); !strings.Contains(s, `"Dear "},{"text":"friend"}`) || !strings.Contains(s, `"Thank you, "},{"field":"email"}`) {
		t.Error("the places were not mended as said")
	}
	out, err = d.Remove("lines.rate", []intake.Mend{{Path: "form/fields/lines.amount/formula", Do: "text", With: "48"}})
	if x, _ := out.Form.Field("lines.amount"); err != nil || x.Formula != "round(hours * (48), 2)" || out.Check(there).Faults() > 0 {
		t.Errorf("the amount is %q: %v", x.Formula, out.Check(there))
	}
	if w := d.Whereabouts(); w[0].Fault {
		t.Errorf("a sound design has a fault at %+v", w[0])
	}
	d.Documents[0].Title = append(d.Documents[0].Title, d.Documents[0].Title[0])
	d.Documents[0].Title[0].Field = "nobody"
	if w := d.Whereabouts(); !w[0].Fault || w[0].Name != "nobody" || !w[0].Places[0].Fault {
		t.Errorf("a placeholder without a field is not first: %+v", w[0])
	}
}

func TestComparing(t *testing.T) {
	before, after := demo(t, "repair-drop-off"), demo(t, "repair-drop-off")
	if said := intake.Compare(before, after); said != nil {
		t.Errorf("nothing changed: %v", said)
	}
	f := after.Form.Fields
	for i := range f {
		switch f[i].Key {
		case "phone":
			f[i].Required = true
		case "instrument":
			f[i].Choices = f[i].Choices[1:]
			f[i].Label = "Which instrument"
		case "lines":
			f[i].Fields = slices.Delete(slices.Clone(f[i].Fields), 1, 2)
		case "serial":
			f[i].Key = "number_inside"
		case "tax":
			f[i].Formula = "net * 8%"
		}
	}
	after.Form.Constants[0].Value = "12%"
	after.Filings = after.Filings[:1]
	said := strings.Join(intake.Compare(before, after), "\n")
	for _, want := range []string{"“Telephone” became required.", "“Instrument” is now called “Which instrument”.",
		"“Which instrument” cannot be answered with “Violin” any more.", "“Note” in “Work lines” is gone.",
		"“Serial number or label” is new.", "“Serial number or label” is gone.", "“Tax” is calculated as net * 8%.",
		"“Tax rate” is 12%, before 10%.", "The filing “Bench folder” is gone."} {
		if !strings.Contains(said, want) {
			t.Errorf("it does not say %q:\n%s", want, said)
		}
	}
}

func ExampleCompare() {
	before := intake.New("Booking", []form.Field{{Key: "name", Kind: form.ShortText, Label: "Name"}})
	after := before
	after.Name = "Room booking"
	for _, change := range intake.Compare(before, after) {
		fmt.Println(change)
	}
	// Output: The intake is called “Room booking”, before “Booking”.
}

// Looking at a design changes nothing in it, however many look at once.
func TestReadingNeverWrites(t *testing.T) {
	for _, slug := range []string{"repair-drop-off", "parts-order", "hire-agreement"} {
		d, whole := demo(t, slug), demo(t, slug)
		var all sync.WaitGroup
		for range 8 {
			all.Go(func() {
				d.Whereabouts()
				d.Form.Each(func(name string, _ form.Field) { d.Uses(name) })
				d.Check(func(string) bool { return true })
				if _, err := d.Rename(d.Form.Fields[1].Key, "another_name"); err != nil {
					t.Error(err)
				}
			})
		}
		all.Wait()
		if !reflect.DeepEqual(d, whole) {
			t.Errorf("%s is another after it was looked at", slug)
		}
	}
}
