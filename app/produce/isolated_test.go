package produce_test

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

var box = regexp.MustCompile(`<word xMin="([0-9.]+)" yMin="([0-9.]+)"[^>]*>([^<]*)</word>`)

// Names that are written from right to left leave the words, amounts and days around them where the design has them: poppler finds them
// in that order from the left, and the paragraph at its left.
func TestAnswersOrderNoWordsAroundThem(t *testing.T) {
	const arabic, hebrew = "محمد", "רחל"
	d := intake.New("Paid", []form.Field{
		{Key: "n", Kind: form.ShortText, Label: "Name"}, {Key: "he", Kind: form.ShortText, Label: "Other"},
		{Key: "m", Kind: form.Money, Label: "Money"}, {Key: "q", Kind: form.WholeNumber, Label: "Number"},
		{Key: "s", Kind: form.Signature, Label: "Signature"},
	})
	para := func(id, text string) paper.Block {
		return paper.Block{ID: id, Kind: paper.Text, Settings: paper.Settings{Body: phrase.ParseBody(text)}}
	}
	d.Documents = []paper.Document{{Key: "x", Name: "X", Look: paper.Plain, Blocks: []paper.Block{
		para("a", "{{n}} {{m}} paid"), para("b", "{{n}} / {{he}} agree"), para("c", "{{q}} {{n}} 2nd"),
		{ID: "h", Kind: paper.Heading, Settings: paper.Settings{Level: 2, Text: phrase.Parse("{{n}} {{@number}}")}},
		{ID: "s", Kind: paper.Signature, Settings: paper.Settings{Field: "s", Text: phrase.Parse("{{n}}")}},
		para("z", "{{n}}"),
	}}}
	h := house.New()
	h.Language, h.Currency = "en-GB", "EUR"
	f := phrase.Facts{
		House:    h,
		Form:     d.Form,
		Number:   "N-7",
		Received: time.Date(2026, 11, 27, 9, 0, 0, 0, time.UTC),
		Made:     time.Unix(1.8e9, 0),
		Answers: form.Load(d.Form, form.Raw{"n": []byte(`"` + arabic + `"`), "he": []byte(`"` + hebrew + `"`), "m": []byte(`"50"`),
			"q": []byte("4"), "s": []byte(`{"strokes":[[1,1,40,20]],"width":100,"height":40}`)}),
	}
	c, err := produce.Compose(d, "x", f, pictures, produce.Apart{})
	if err != nil || len(c.Findings) > 0 {
		t.Fatal(err, c.Findings)
	}
	file := write(t, c)
	faultless(t, file)
	type word struct {
		x, y float64
		text string
	}
	var lines [][]word
	for _, m := range box.FindAllStringSubmatch(tool(t, "pdftotext", "-bbox", file, "-"), -1) {
		x, _ := strconv.ParseFloat(m[1], 64)
		y, _ := strconv.ParseFloat(m[2], 64)
		at := slices.IndexFunc(lines, func(l []word) bool { return y > l[0].y-6 && y < l[0].y+6 })
		if at < 0 {
			at, lines = len(lines), append(lines, nil)
		}
		lines[at] = append(lines[at], word{x, y, m[3]})
	}
	var got []string
	for _, line := range lines {
		slices.SortFunc(line, func(a, b word) int { return int(a.x - b.x) })
		var all []string
		for _, w := range line {
			for _, name := range []string{arabic, hebrew} { // in whichever order of letters
				r := []rune(name)
				slices.Reverse(r)
				w.text = strings.NewReplacer(string(r), name).Replace(w.text)
			}
			all = append(all, w.text)
		}
		got = append(got, strings.Join(all, " "))
		if left := line[0].x; left > 120 && all[0] != arabic {
			t.Errorf("“%s” begins at %v points", strings.Join(all, " "), left)
		}
	}
	for _, want := range []string{
		arabic + " €50.00 paid", arabic + " / " + hebrew + " agree", "4 " + arabic + " 2nd", arabic + " N-7", arabic + ", 27 November 2026",
	} {
		if !slices.Contains(got, want) {
			t.Errorf("no line reads “%s” from the left: %q", want, got)
		}
	}
}
