package produce_test

import (
	"fmt"
	"image"
	"os"
	"os/exec"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/foreign/ground"
	"amberseal/core/print/paper"
	"amberseal/core/words/phrase"
)

const millimetre = 72 / 25.4

// drawnAt is a page drawn at 100 dots an inch.
func drawnAt(t *testing.T, file, page string) image.Image {
	t.Helper()
	out := strings.TrimSuffix(file, ".pdf") + "-" + page
	tool(t, "pdftoppm", "-r", "100", "-png", "-f", page, "-l", page, "-singlefile", file, out)
	in, err := os.Open(out + ".png")
	if err != nil {
		t.Fatal(err)
	}
	defer in.Close()
	img, _, err := image.Decode(in)
	if err != nil {
		t.Fatal(err)
	}
	return img
}

// lightness of a place of a page in millimetres, from 0 to 255; the darkest within half a millimetre up and down.
func lightness(img image.Image, x, y float64) uint32 {
	darkest := uint32(255)
	for dy := -2; dy <= 2; dy++ {
		r, g, b, _ := img.At(int(x/25.4*100), int(y/25.4*100)+dy).RGBA()
		darkest = min(darkest, (r+g+b)/3>>8)
	}
	return darkest
}

// A letter folds into an envelope and its address is seen in the window, as it was placed. DIN 5008, form B (values from memory): address
// from 62.7 to 90 mm and 25 to 105 mm, information right of 125 mm, text from 98.46 mm, folds at 105 and 210 mm, a hole at 148.5 mm. A
// No. 10 envelope shows 63.5 to 80.4 mm of a sheet folded in three wherever that slips to (common practice). Long addresses fit too.
func TestLettersFitTheirWindows(t *testing.T) {
	d, f := facts(t, "gift", nil)
	long := form.Sample(d.Form, form.Longest)
	for _, c := range []struct {
		paper                     string
		top, foot, left, right    float64
		text                      float64
		folds, clear              []float64
		answers                   form.Answers
		information, informationY float64
	}{
		{"A4", 62.7, 90, 25, 105, 98.46, []float64{105, 210, 148.5}, []float64{100, 205}, f.Answers, 125, 50},
		{"A4", 62.7, 90, 25, 105, 98.46, []float64{105, 210, 148.5}, []float64{100, 205}, long, 125, 50},
		{"Letter", 63.5, 80.5, 22.2, 111, 93.1, []float64{93.1, 186.3}, []float64{100}, f.Answers, 125, 48},
		{"Letter", 63.5, 80.5, 22.2, 111, 93.1, []float64{93.1, 186.3}, []float64{100}, long, 125, 48},
	} {
		d.Documents[0].Page.Paper = c.paper
		f.Answers = c.answers
		composed := compose(t, d, "letter", f)
		address, information := false, false
		for _, p := range composed.Placements {
			x, y, right, foot := p.X/millimetre, p.Y/millimetre, (p.X+p.W)/millimetre, (p.Y+p.H)/millimetre
			switch {
			case p.Page > 1:
			case p.Block == "heading" && y < c.text:
				t.Errorf("%s: the subject stands at %.1f mm", c.paper, y)
			case p.Block != "letterhead":
			case y > c.top-0.1 && y < c.foot && x < 100:
				address = true
				if x < c.left-0.1 || right > c.right+0.1 || foot > c.foot+0.1 {
					t.Errorf("%s: the address stands from %.1f to %.1f mm and %.1f to %.1f mm", c.paper, x, right, y, foot)
				}
			case near(x, c.information) && near(y, c.informationY):
				information = true
			}
		}
		if !address || !information {
			t.Errorf("%s: address %v, information %v: %v", c.paper, address, information, composed.Placements)
		}
		file := write(t, composed)
		page := drawnAt(t, file, "1")
		for _, y := range []float64{c.foot + 0.7, c.foot + 2} { // nothing of it reaches out of the window
			for x := c.left; x < c.right-5; x += 0.25 {
				if lightness(page, x, y) < 200 {
					t.Fatalf("%s: something stands below the window, at %.1f mm", c.paper, y)
				}
			}
		}
		for _, y := range c.folds {
			if got := lightness(page, 3, y); got > 200 {
				t.Errorf("%s: no mark at %.1f mm (%d)", c.paper, y, got)
			}
		}
		for _, y := range c.clear {
			if got := lightness(page, 3, y); got < 255 {
				t.Errorf("%s: a mark at %.1f mm", c.paper, y)
			}
		}
		words := tool(t, "pdftotext", "-f", "1", "-l", "1", file, "-")
		if strings.Count(words, "\f") != 1 || !strings.Contains(words, f.House.Name) {
			t.Error("the sender is not told")
		}
	}
}

func near(a, b float64) bool { return a-b < 0.5 && b-a < 0.5 }

// A ticket fills its page from edge to edge on A5 and A6, which lie across by themselves, and is a strip on a sheet; what the answers are
// like makes no second ticket, and the code on its stub is read.
func TestTickets(t *testing.T) {
	d, f := facts(t, "practice-room", nil)
	given := f.Answers
	for _, size := range []string{"A6", "A5", "A4", "Letter"} {
		for name, answers := range map[string]form.Answers{
			"given": given, "empty": form.Sample(d.Form, form.Emptest), "long": form.Sample(d.Form, form.Longest),
		} {
			d.Documents[0].Page.Paper, f.Answers = size, answers
			c := compose(t, d, "confirmation", f)
			file := write(t, c)
			page := drawnAt(t, file, "1")
			across := c.Sheets[0].Width > c.Sheets[0].Height
			if across != (size[1] >= '5' && size[0] == 'A') || name != "long" && c.Pages != 1 {
				t.Errorf("%s, %s: %d pages, across %v", size, name, c.Pages, across)
			}
			high := c.Sheets[0].Height / millimetre
			if size == "A4" || size == "Letter" {
				high = 95
			}
			if size == "A6" && name == "long" {
				high = 2 // its tiles go on over the page
			}
			for _, y := range []float64{0.3, high - 1} {
				if r, g, b, _ := page.At(1, int(y/25.4*100)).RGBA(); r>>8 != 0x1F || g>>8 != 0x4F || b>>8 != 0x4A {
					t.Errorf("%s, %s: the band does not reach the edge at %.1f mm: %x %x %x", size, name, y, r>>8, g>>8, b>>8)
				}
			}
			if out, err := exec.Command("zbarimg", "--raw", "-q", strings.TrimSuffix(file, ".pdf")+"-1.png").Output(); err != nil ||
				strings.TrimSpace(string(out)) != f.Number {
				t.Errorf("%s, %s: the code is read as %q (%v)", size, name, out, err)
			}
		}
	}
}

// A correction says on its first page what it replaces, in every look and also where that has no footer.
func TestFirstPagesSayWhatTheyReplace(t *testing.T) {
	d, f := facts(t, "practice-room", nil)
	f.Revision = 2
	for _, look := range paper.Looks() {
		for _, size := range []string{"A6", "A5", "A4"} {
			d.Documents[0].Look, d.Documents[0].Page.Paper = look, size
			file := write(t, compose(t, d, "confirmation", f))
			words := strings.Join(strings.Fields(tool(t, "pdftotext", "-l", "1", file, "-")), " ")
			if !strings.Contains(words, "replaces revision 1") {
				t.Errorf("%s, %s: the first page says %q", look, size, words)
			}
		}
	}
}

// withPapers gives PDFs by name, as they were taken apart: those of documents of the demo, and of others.
func withPapers(t *testing.T, own map[string]string) paper.Pictures {
	brought := grounds(t)
	return func(name string) ([]byte, error) {
		file, ok := paper.GroundName(name)
		if !ok {
			return pictures(name)
		}
		if own[file] == "" {
			return brought(name)
		}
		data, err := os.ReadFile(own[file])
		if err != nil {
			return nil, err
		}
		return ground.Keep(data)
	}
}

// Letter paper lies behind the first page and the rest: its words come before those of the document, its file is a good one, protected or
// not, and the second of two files keeps what it speaks of. A file whose fonts are not in it is refused and said; so is one that is gone.
func TestLetterPaper(t *testing.T) {
	own := map[string]string{}
	for _, x := range [][2]string{{"gift", "letter"}, {"hire-agreement", "care-sheet"}} {
		d, f := facts(t, x[0], nil)
		own[x[1]+".pdf"] = write(t, compose(t, d, x[1], f))
	}
	d, f := facts(t, "repair-drop-off", nil)
	doc := &d.Documents[0]
	doc.Look = paper.Plain
	set := func(first, rest string, protect *paper.Protect) (produce.Composed, string) {
		doc.Page.Printed, doc.Protect = &paper.Printed{First: first, Rest: rest, Top: 60, Bottom: 40}, protect
		c, err := produce.Compose(d, doc.Key, f, withPapers(t, own), produce.Apart{})
		if err != nil {
			t.Fatal(err)
		}
		file := write(t, c)
		faultless(t, file)
		return c, file
	}
	for _, protect := range []*paper.Protect{nil, {NoChange: true}} {
		c, file := set("letter.pdf", "care-sheet.pdf", protect)
		if c.Pages < 2 || c.Findings.Faults() > 0 {
			t.Fatal(c.Pages, c.Findings)
		}
		for page, of := range map[string]string{"1": "letter.pdf", "2": "care-sheet.pdf"} {
			own := strings.Fields(tool(t, "pdftotext", "-raw", "-f", "1", "-l", "1", own[of], "-"))
			got := strings.Fields(tool(t, "pdftotext", "-raw", "-f", page, "-l", page, file, "-"))
			for _, word := range own {
				if len(word) > 4 && !slices.Contains(got, word) {
					t.Errorf("page %s lacks %q of %s", page, word, of)
					break
				}
			}
		}
		for _, p := range c.Placements {
			if p.Page == 1 && p.Block != "footer" && (p.Y < 60*millimetre-1 || p.Y+p.H > c.Sheets[0].Height-40*millimetre+1) {
				t.Errorf("%s stands where the letter paper is printed: %.0f to %.0f mm", p.Block, p.Y/millimetre, (p.Y+p.H)/millimetre)
			}
		}
	}
	if c, _ := set("hand.pdf", "", nil); !strings.Contains(fmt.Sprint(c.Findings), "does not hold its fonts") {
		t.Error(c.Findings)
	}
	if c, _ := set("gone.pdf", "", nil); c.Findings.Faults() != 1 {
		t.Error(c.Findings)
	}
	if l := doc.Check(d.Form, func(name string) bool { return !strings.Contains(name, "gone") }); l.Faults() != 1 {
		t.Error(l)
	}
}

// hole is what words look like that an answer is missing from.
var hole = regexp.MustCompile(`  | [,.;:!?)]|\(\s*\)|“\s*”|[;·]\s*$|^\s*[,;:·.]|,\s*,|·\s*·|[,:]\s*\.`)

// No document of the demo has a hole or half a sentence where nothing was answered that need not be.
func TestNoHolesWhereAnswersAreMissing(t *testing.T) {
	for _, slug := range slugs(t) {
		d, f := facts(t, slug, nil)
		f.Answers = form.Sample(d.Form, form.Emptest)
		for i := range d.Documents {
			doc := &d.Documents[i]
			look := func(at string, p phrase.Phrase) {
				if words := p.Plain(f); words != "" && hole.MatchString(words) {
					t.Errorf("%s/%s %s: %q", slug, doc.Key, at, words)
				}
			}
			look("title", doc.Title)
			look("file name", doc.FileName)
			doc.Walk(func(b *paper.Block, rows string) bool {
				if !f.Condition(b.When) || rows != "" {
					return true
				}
				look(b.ID, b.Text)
				look(b.ID, b.Caption)
				for _, p := range slices.Concat(b.Body, b.To) {
					look(b.ID, p.Spans)
				}
				for _, x := range b.Tiles {
					look(b.ID+", "+x.Label, x.Text)
				}
				return true
			})
		}
	}
}

// A long table says on each further page what goes on there.
func TestWhatGoesOnIsSaid(t *testing.T) {
	d, f := facts(t, "repair-drop-off", nil)
	rows := f.Answers["lines"]
	for len(rows.Rows) < 90 {
		rows.Rows = append(rows.Rows, rows.Rows[0])
	}
	f.Answers["lines"] = rows
	c := compose(t, d, "receipt", f)
	pages := strings.Split(tool(t, "pdftotext", write(t, c), "-"), "\f")
	said := 0
	for _, p := range pages {
		if strings.HasPrefix(strings.ToLower(strings.TrimSpace(p)), "work agreed, continued") {
			said++
		}
	}
	if said < 2 {
		t.Errorf("%d of %d pages say what goes on", said, len(pages)-1)
	}
}

// The table of contents names the page on which each heading stands, as poppler reads them, and leads there; a cover stands before it
// alone.
func TestContentsNameTheirPages(t *testing.T) {
	d, f := facts(t, "gift", nil)
	doc := &d.Documents[0]
	for _, look := range paper.Looks() {
		doc.Look = look
		doc.Blocks = []paper.Block{
			{ID: "cover", Kind: paper.Cover, Settings: paper.Settings{
				Text: phrase.Parse("A year of gifts"), Caption: phrase.Parse("{{@received}}"),
			}},
			{ID: "contents", Kind: paper.Contents, Settings: paper.Settings{Level: 2, Text: phrase.Parse("What is inside")}},
		}
		for i := range 30 {
			doc.Blocks = append(doc.Blocks,
				paper.Block{ID: fmt.Sprint("h", i), Kind: paper.Heading, Settings: paper.Settings{
					Level: 1 + i%3, Text: phrase.Parse(fmt.Sprintf("Part %d%c", i+10, 'A'+i%26)),
				}},
				paper.Block{ID: fmt.Sprint("t", i), Kind: paper.Text, Settings: paper.Settings{
					Body: phrase.ParseBody(strings.Repeat("Words of a long report. ", 20+i*7)),
				}},
			)
		}
		c := compose(t, d, "letter", f)
		file := write(t, c)
		faultless(t, file)
		pages := strings.Split(tool(t, "pdftotext", "-layout", file, "-"), "\f")
		if !strings.Contains(pages[0], "A year of gifts") || strings.Contains(pages[0], "Part") {
			t.Errorf("%s: the cover says %q", look, pages[0])
		}
		listed := regexp.MustCompile(`(Part \w+) +(\d+)`).FindAllStringSubmatch(pages[1], -1)
		if len(listed) != 20 {
			t.Errorf("%s: %d headings are listed", look, len(listed))
		}
		for _, l := range listed {
			page, _ := strconv.Atoi(l[2])
			if page < 2 || page >= len(pages) || !strings.Contains(strings.ReplaceAll(pages[page-1], l[0], ""), l[1]) {
				t.Errorf("%s: %s does not stand on page %s", look, l[1], l[2])
			}
		}
		if links := strings.Count(tool(t, "mutool", "show", file, "grep"), "/Subtype/Link"); links < 40 {
			t.Errorf("%s: %d links", look, links)
		}
	}
}
