package typeset

import (
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset/hyphen"
)

// leastOfAll is the sum of demerits of the best of all ways to break, found by trying each.
func leastOfAll(places []opportunity, width float64, justified bool, space float64) float64 {
	var try func(from int) float64
	try = func(from int) float64 { // from is the place after which the line begins, -1 for the beginning
		if from == len(places)-1 {
			return 0
		}
		best := math.Inf(1)
		for j := from + 1; j < len(places); j++ {
			if d, fits := lineDemerits(places, from, j, width, justified, space); fits {
				best = min(best, d+try(j))
			}
		}
		return best
	}
	return try(-1)
}

// lineDemerits is what a line from one place to another costs, worked out anew from the rule.
func lineDemerits(places []opportunity, i, j int, width float64, justified bool, space float64) (float64, bool) {
	begins, before := 0.0, 0
	if i >= 0 {
		begins, before = places[i].begins, spacesAt(places, i)
	}
	stretch := float64(max(places[j].spaces-before, 0)) * space
	free := width - (places[j].width - begins)
	if free < -0.01 && !(justified && free >= -shrinkable*stretch) {
		return 0, false
	}
	d := demerits(free, width, stretch, justified, j == len(places)-1)
	if places[j].hyphen {
		d += hyphenDemerits
		if i >= 0 && places[i].hyphen {
			d += doubleHyphen
		}
	}
	return d, true
}

// The chosen breaks are the best there are: no other way has fewer demerits. Paragraphs are made up by a generator with a
// set seed.
func TestNoOtherBreaksAreBetter(t *testing.T) {
	rnd := rand.New(rand.NewPCG(3, 9))
	broken := 0
	for range 400 {
		const space = 3.0
		var places []opportunity
		x := 0.0
		n := 3 + rnd.IntN(9)
		for i := range n {
			word := 10 + rnd.Float64()*40
			if rnd.IntN(4) == 0 {
				at := x + word*0.5
				places = append(places, opportunity{at: 10*i + 5, end: 10*i + 5, width: at + 3, begins: at, spaces: i, hyphen: true})
			}
			x += word
			places = append(places, opportunity{at: 10*i + 10, end: 10*i + 9, width: x, begins: x + space, spaces: i})
			x += space
		}
		width, justified := 60+rnd.Float64()*60, rnd.IntN(2) == 0
		got := fewestDemerits(places, width, justified, space)
		want := leastOfAll(places, width, justified, space)
		if got == nil {
			if !math.IsInf(want, 1) {
				t.Fatalf("no breaks were found, there are some of %.1f", want)
			}
			continue
		}
		broken++
		sum, from := 0.0, -1
		for _, o := range got {
			j := from + 1
			for places[j] != o {
				j++
			}
			d, fits := lineDemerits(places, from, j, width, justified, space)
			if !fits {
				t.Fatal("a line is too wide")
			}
			sum, from = sum+d, j
		}
		if math.Abs(sum-want) > 1e-6*want {
			t.Errorf("the breaks have %.3f demerits, the best %.3f", sum, want)
		}
	}
	if broken < 200 {
		t.Errorf("only %d paragraphs could be broken", broken)
	}
}

func testSetter(language string) *setter {
	s := setters.Get().(*setter)
	s.hyphens, s.cut, s.own = hyphen.For(language), "", nil
	return s
}

const prose = "The accommodation of extraordinarily long words, such as internationalisation or responsibilities, is what hyphenation " +
	"is for; a paragraph is broken as a whole, so that no line is much looser than its neighbours, and the last line stays as it is."

func wordsOf(l line) string {
	var b strings.Builder
	for _, p := range l.pieces {
		for _, g := range p.glyphs.Glyphs {
			b.WriteString(string(p.glyphs.Text[g.Start : g.Start+g.Count]))
		}
	}
	return b.String()
}

func TestJustifiedLinesFillTheWidth(t *testing.T) {
	s := testSetter("en-GB")
	for width := 170.0; width < 400; width += 17 {
		p := &Paragraph{Size: 10, Leading: 1.4, Align: Justify, Hyphens: true,
			Runs: []Run{{Text: prose[:100]}, {Text: prose[100:], Size: 9}}}
		lines := s.lines(p, width)
		text := ""
		for i, l := range lines {
			right := 0.0
			for _, piece := range l.pieces {
				x := piece.x
				for _, g := range piece.glyphs.Glyphs {
					x += float64(g.Advance)
					if g.Advance != 0 {
						right = max(right, x)
					}
				}
			}
			if last := i == len(lines)-1; !last && math.Abs(right-width) > 0.05 || right > width+0.05 {
				t.Errorf("width %.0f, line %d %q ends at %.2f", width, i+1, wordsOf(l), right)
			}
			text += wordsOf(l)
		}
		if got := strings.ReplaceAll(text, string(softHyphen), ""); got != prose {
			t.Errorf("width %.0f: the text became %q", width, got)
		}
		// The last line is as wide as its words are alone.
		last := lines[len(lines)-1]
		alone := s.lines(&Paragraph{Size: 9, Leading: 1.4, Runs: []Run{{Text: wordsOf(last)}}}, 1000)[0]
		if len(lines) > 2 && last.width > alone.width+0.1 {
			t.Errorf("width %.0f: the last line is stretched from %.2f to %.2f", width, alone.width, last.width)
		}
	}
}

func TestHyphensStandWhereThePatternsAllow(t *testing.T) {
	s := testSetter("de-DE")
	p := &Paragraph{
		Size:    10,
		Leading: 1.4,
		Hyphens: true,
		Runs: []Run{
			{Text: "Die Donaudampfschifffahrt und die Geschwindigkeitsbegrenzung betreffen " +
				"a@grundstuecksverkehrsgenehmigung.example nicht."},
		},
	}
	found := 0
	for _, l := range s.lines(p, 90) {
		words := wordsOf(l)
		before, ok := strings.CutSuffix(words, string(softHyphen))
		if !ok {
			continue
		}
		found++
		if !strings.HasSuffix(before, "Donau") && !strings.HasSuffix(before, "dampf") && !strings.HasSuffix(before, "schiff") &&
			!strings.HasSuffix(before, "fahrt") && !strings.HasSuffix(before, "Ge") && !strings.HasSuffix(before, "schwin") &&
			!strings.HasSuffix(before, "dig") && !strings.HasSuffix(before, "keits") && !strings.HasSuffix(before, "be") &&
			!strings.HasSuffix(before, "gren") &&
			!strings.HasSuffix(before, "tref") &&
			!strings.HasSuffix(before, "Do") {
			t.Errorf("a hyphen stands after %q", before)
		}
		last := l.pieces[len(l.pieces)-1].glyphs
		if g := last.Glyphs[len(last.Glyphs)-1]; g.Advance <= 0 {
			t.Error("the hyphen takes no room")
		}
	}
	if found == 0 {
		t.Error("no word was parted")
	}
}

func TestTabsStandAtStops(t *testing.T) {
	s := testSetter("en-GB")
	l := s.lines(&Paragraph{Size: 10, Leading: 1.4, Tab: 50, Runs: []Run{{Text: "a\tlonger word\tb\t\tc"}}}, 600)
	if len(l) != 1 {
		t.Fatal(len(l), "lines")
	}
	var starts []float64
	for _, piece := range l[0].pieces {
		x := piece.x
		for _, g := range piece.glyphs.Glyphs {
			if c := piece.glyphs.Text[g.Start]; c == 'b' || c == 'c' || c == 'l' {
				starts = append(starts, x)
			}
			x += float64(g.Advance)
		}
	}
	for i, want := range []float64{50, 150, 250} {
		if math.Abs(starts[i]-want) > 0.05 {
			t.Errorf("what follows tab %d stands at %.2f, not %.0f", i+1, starts[i], want)
		}
	}
}

// Literata has small capitals of its own, DejaVu's like has none: there capitals are made smaller. Either way the text stays what it is.
func TestSmallCapitalsKeepTheirText(t *testing.T) {
	s := testSetter("en-GB")
	for family, sizes := range map[string]int{"Literata": 1, "Liberation Sans": 2} {
		set := func(text string, small bool) line {
			return s.lines(&Paragraph{Family: family, Size: 10, Leading: 1.4, Runs: []Run{{Text: text, SmallCaps: small}}}, 600)[0]
		}
		l, capitals, usual := set("Straße Łódź", true), set("STRASSE ŁÓDŹ", false), set("Straße Łódź", false)
		if got := wordsOf(l); got != "Straße Łódź" {
			t.Errorf("%s: the text became %q", family, got)
		}
		found := map[float64]bool{}
		for _, p := range l.pieces {
			found[p.glyphs.Size] = true
		}
		if len(found) != sizes || l.width >= capitals.width || l.width <= usual.width {
			t.Errorf("%s: sizes %v, %.1f wide beside %.1f of capitals and %.1f of small letters", family, found, l.width, capitals.width,
				usual.width)
		}
	}
}

// Figures of running text are not those of columns, and common fractions are one figure over another; dates and numbers of houses are left
// alone.
func TestFiguresOfRunningText(t *testing.T) {
	s := testSetter("en-GB")
	glyphs := func(text string, change func(p *Paragraph)) (out []uint16) {
		p := &Paragraph{Size: 10, Leading: 1.4, Runs: []Run{{Text: text}}}
		change(p)
		for _, piece := range s.lines(p, 600)[0].pieces {
			for _, g := range piece.glyphs.Glyphs {
				out = append(out, g.ID)
			}
		}
		return out
	}
	running, tabular := func(p *Paragraph) { p.Running = true }, func(p *Paragraph) { p.Tabular = true }
	if a, b := glyphs("1890", running), glyphs("1890", tabular); slices.Equal(a, b) {
		t.Error("figures of text and of columns are the same")
	}
	for text, want := range map[string]int{
		"a 3/4 violin": 1, "1/2, (1/3) and 7/8.": 3, "on 3/4/2026": 0, "open 24/7": 0, "3/4.5": 0, "4/3": 0, "5/7": 0, "13/4": 0,
	} {
		if got := len(fractions([]rune(text))); got != want {
			t.Errorf("%q has %d fractions, not %d", text, got, want)
		}
	}
	if a, b := glyphs("3/4", running), glyphs("3/4", func(*Paragraph) {}); slices.Equal(a, b) {
		t.Error("a fraction is set as a number, a stroke and a number")
	}
}

func TestWideWordsArePartedBeforeTheyAreBroken(t *testing.T) {
	s := testSetter("en-GB")
	at := func(text string, width float64) string {
		s.cut = ""
		for _, l := range s.lines(&Paragraph{Size: 10, Leading: 1.4, Runs: []Run{{Text: text}}}, width) {
			if l.width > width+0.1 {
				t.Errorf("%q leaves its room", wordsOf(l))
			}
		}
		return s.cut
	}
	for _, text := range []string{"internationalisation of responsibilities", "mireille.ashdown@correspondence.tarnhollow.example",
		"https://tarnhollow.example/repairs?number=TH-2026-00212&page=4"} {
		if cut := at(text, 90); cut != "" {
			t.Errorf("%q was broken between letters", cut)
		}
	}
	if cut := at(strings.Repeat("w", 40), 90); cut == "" {
		t.Error("a word that cannot be parted was not noted")
	}
}

// An address is parted after its signs and never gets a hyphen, which would be taken for a part of it.
func TestAddressesGetNoHyphens(t *testing.T) {
	s := testSetter("en-GB")
	for _, text := range []string{"tarnhollow.example", "mireille.ashdown@correspondence.tarnhollow.example",
		"see https://tarnhollow.example/repairs/international"} {
		for width := 30.0; width < 220; width += 5 {
			for _, l := range s.lines(&Paragraph{Size: 10, Leading: 1.4, Hyphens: true, Runs: []Run{{Text: text}}}, width) {
				if strings.ContainsRune(wordsOf(l), softHyphen) {
					t.Errorf("at %.0f points %q has a hyphen", width, wordsOf(l))
				}
			}
		}
	}
}

// Figures in columns are equally wide, in every family that ships.
func TestFiguresInColumnsAreEquallyWide(t *testing.T) {
	s := testSetter("en-GB")
	for _, family := range typeface.Families() {
		for _, style := range []typeface.Style{{}, {Bold: true}, {Italic: true}} {
			wide := func(text string) float64 {
				return s.lines(&Paragraph{Family: family, Size: 10, Leading: 1.4, Tabular: true, Runs: []Run{{Text: text, Style: style}}},
					600)[0].width
			}
			for _, digit := range "023456789" {
				if got, want := wide(strings.Repeat(string(digit), 8)), wide("11111111"); math.Abs(got-want) > 0.01 {
					t.Errorf("%s %+v: eight times %c is %.2f wide, eight times 1 %.2f", family, style, digit, got, want)
				}
			}
		}
	}
}

// In the narrowest columns figures are set smaller and never parted, a soft hyphen that ends a line is seen, and words that hold
// together are parted between each other only where they do not fit.
func TestWhatHoldsTogether(t *testing.T) {
	s := testSetter("en-GB")
	said := func(p Paragraph, width float64) []string {
		p.Size, p.Leading = 10, 1.4
		var out []string
		for _, l := range s.lines(&p, width) {
			out = append(out, strings.TrimSpace(wordsOf(l)))
		}
		return out
	}
	for width := 45.0; width < 90; width += 5 {
		if got := said(Paragraph{Tabular: true, Align: End, Runs: []Run{{Text: "€99,999,990.00"}}}, width); len(got) != 1 {
			t.Errorf("in %.0f points the amount stands as %q", width, got)
		}
	}
	if got := said(Paragraph{Runs: []Run{{Text: "Supercalifragilisticexpi\u00ADalidocious"}}}, 130); len(got) != 2 ||
		!strings.HasSuffix(got[0], "expi\u00AD") {
		t.Errorf("the soft hyphen is shown as %q", got)
	}
	for width := 60.0; width < 200; width++ {
		got := said(Paragraph{Runs: []Run{{Text: "from 1\u00A0December\u00A02026 on"}}}, width)
		if all := strings.Join(got, "|"); !strings.Contains(all, "1 December 2026") && width > 85 || strings.Contains(all, "Dec|") {
			t.Errorf("in %.0f points the day stands as %q", width, got)
		}
	}
}
