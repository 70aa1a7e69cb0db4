package produce_test

import (
	"fmt"
	"os"
	"path/filepath"
	"regexp"
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

// charted composes a document of one chart of amounts.
func charted(t *testing.T, kind paper.ChartKind, amounts ...string) (produce.Composed, string) {
	t.Helper()
	d := intake.New("Chart", []form.Field{{Key: "rows", Kind: form.Rows, Label: "Rows", Settings: form.Settings{Fields: []form.Field{
		{Key: "what", Kind: form.ShortText, Label: "What"}, {Key: "cost", Kind: form.Money, Label: "Cost"},
	}}}})
	d.Documents = []paper.Document{{Key: "x", Name: "X", Look: paper.Plain, Blocks: []paper.Block{{ID: "c", Kind: paper.Graph,
		Settings: paper.Settings{Rows: "rows", Caption: phrase.Parse("The caption"),
			Series: &paper.Series{Kind: kind, Label: "what", Value: "cost"}}}}}}
	var rows []string
	for i, a := range amounts {
		rows = append(rows, fmt.Sprintf(`{"what":"M%d","cost":"%s"}`, i+1, a))
	}
	h := house.New()
	h.Language, h.Currency = "en-GB", "EUR"
	f := phrase.Facts{House: h, Form: d.Form, Received: time.Unix(1.8e9, 0), Made: time.Unix(1.8e9, 0),
		Answers: form.Load(d.Form, form.Raw{"rows": []byte("[" + strings.Join(rows, ",") + "]")})}
	c, err := produce.Compose(d, "x", f, pictures, produce.Apart{})
	if err != nil {
		t.Fatal(err)
	}
	return c, write(t, c)
}

// The line of a chart goes straight from number to number, as poppler draws it: a curve through them would show money that nobody had.
func TestALineIsItsNumbers(t *testing.T) {
	_, file := charted(t, paper.Line, "0", "0", "0", "90", "0", "0", "0", "0", "5", "100", "100", "100")
	to := filepath.Join(t.TempDir(), "chart.svg")
	tool(t, "pdftocairo", "-svg", file, to)
	svg, err := os.ReadFile(to)
	if err != nil {
		t.Fatal(err)
	}
	lines := 0
	for _, m := range regexp.MustCompile(`<path style="fill:none[^>]*? d="([^"]*)"`).FindAllStringSubmatch(string(svg), -1) {
		if strings.Contains(m[1], "C") {
			t.Errorf("a curve is drawn: %s", m[1])
		}
		if strings.Count(m[1], "L") >= 6 { // poppler leaves out points between two others on one line
			lines++
		}
	}
	if lines != 1 {
		t.Errorf("%d lines are drawn through the points", lines)
	}
}

// A pie that cannot be one is drawn as bars, with its numbers and its caption, and says so.
func TestAPieThatCannotBe(t *testing.T) {
	for code, amounts := range map[string][]string{
		"paper.pie-below-nothing": {"200", "-50", "100"}, "paper.pie-of-nothing": {"0", "0"}, "": {"7", "7", "7"},
	} {
		c, file := charted(t, paper.Pie, amounts...)
		told := ""
		for _, x := range c.Findings {
			told = x.Code
		}
		text := tool(t, "pdftotext", file, "-")
		if told != code || !strings.Contains(text, "The caption") || strings.Count(text, "€") != len(amounts) {
			t.Errorf("%v: it tells %q, and prints %q", amounts, told, text)
		}
	}
	_, file := charted(t, paper.Pie, strings.Fields(strings.Repeat("7 ", 9))...)
	if text := tool(t, "pdftotext", file, "-"); strings.Count(text, "€7.00") != 7 || !strings.Contains(text, "2 others") {
		t.Errorf("of nine equal slices are told %q", text)
	}
}
