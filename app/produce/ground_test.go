package produce_test

import (
	"encoding/json"
	"image"
	"image/png"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/foreign/ground"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

const forms = "../../core/foreign/ground/testdata/"

// grounds finds forms as they are taken apart.
func grounds(t testing.TB) paper.Pictures {
	kept := map[string][]byte{}
	return func(name string) ([]byte, error) {
		file, ok := paper.GroundName(name)
		if !ok {
			file, _ = paper.BroughtName(name)
			return os.ReadFile(forms + file)
		}
		if kept[file] == nil {
			data, err := os.ReadFile(forms + file)
			if err != nil {
				return nil, err
			}
			if kept[file], err = ground.Keep(data); err != nil {
				return nil, err
			}
		}
		return kept[file], nil
	}
}

func notice(t testing.TB) (intake.Design, phrase.Facts) { return asked(t, "testdata/notice", "N-001") }

// printed are the words that the forms of three writers hold once they are filled; those with a number stand in a box of that name.
var printed = map[string]map[string]string{
	"reportlab": {
		"holder": "Łucja Brzęk", "born": "9 March 1988", "email": "lucja@brzek.example", "Telephone": "020 7946 0101",
		"address_street": "12 Mill Row", "address_postcode": "TH4 7QC", "address_city": "Tarn Hollow", "worth": "€4,200.00", "paid": "Yes",
	},
	"pdflib": {
		"holder": "Łucja Brzęk", "Email address": "lucja@brzek.example", "Date of birth": "9 March 1988", "serial number": "AP-417",
		"paid": "Yes",
	},
	"hand": {
		"holder.given": "Łucja", "holder.family": "Brzęk", "email": "lucja@brzek.example", "serial": "AP-417", "item_1": "Bow",
		"amount_1": "€120.00", "item_2": "Case", "amount_2": "€60.50", "place": "Weirbridge", "born": "0 9 0 3 1 9 8 8",
		"begins_yyyy": "2 0 2 6",
	},
}

// A filled form that became a part of its pages is held against poppler, which finds each answer inside of its field's box, and against
// two painters that agree on the page.
func TestFilledForms(t *testing.T) {
	d, f := notice(t)
	pictures := grounds(t)
	if l := produce.CheckBrought(d, pictures); l.Faults() > 0 {
		t.Fatal(l)
	}
	for key, want := range printed {
		t.Run(key, func(t *testing.T) {
			c, err := produce.Compose(d, key, f, pictures, produce.Apart{})
			if err != nil || c.Findings.Faults() > 0 {
				t.Fatal(err, c.Findings)
			}
			file := write(t, c)
			faultless(t, file)
			if strings.Contains(tool(t, "pdfinfo", file), "AcroForm") {
				t.Error("it can still be filled")
			}
			for name, words := range want {
				got := within(t, file, c, "field “"+name+"”")
				if got != words {
					t.Errorf("%s holds “%s”, want “%s”", name, got, words)
				}
			}
			if text := tool(t, "pdftotext", file, "-"); strings.Contains(text, "as it was") {
				t.Error("what stood in a field that was filled is still there")
			}
			alike(t, file)
		})
	}
}

// Rows for which the form has no fields are told, when it is designed and when they are given.
func TestRowsBeyondAForm(t *testing.T) {
	d, f := notice(t)
	told := func(l finding.List, code string) string {
		for _, x := range l {
			if x.Code == code {
				return x.Message
			}
		}
		return ""
	}
	if said := told(produce.CheckBrought(d, grounds(t)), "ground.rows-beyond"); !strings.Contains(said, "fields for 3 rows") {
		t.Errorf("the design is told %q", said)
	}
	rows := ""
	for name, v := range f.Answers {
		if len(v.Rows) > 0 {
			rows = name
			for len(v.Rows) < 5 {
				v.Rows = append(v.Rows, v.Rows[0])
			}
			f.Answers[name] = v
		}
	}
	c, err := produce.Compose(d, "hand", f, grounds(t), produce.Apart{})
	if err != nil || !strings.Contains(told(c.Findings, "ground.rows-left"), "no fields for 2 more rows") {
		t.Errorf("with five of %q: %v %v", rows, c.Findings, err)
	}
}

// within is the text that poppler finds in a placement.
func within(t *testing.T, file string, c produce.Composed, block string) string {
	t.Helper()
	for _, p := range c.Placements {
		if strings.HasSuffix(p.Block, block) {
			n := func(v float64) string { return strconv.Itoa(int(math.Round(v))) }
			text := tool(t, "pdftotext", "-f", strconv.Itoa(p.Page), "-l", strconv.Itoa(p.Page), "-x", n(p.X), "-y", n(p.Y),
				"-W", n(p.W), "-H", n(p.H), "-layout", file, "-")
			return strings.Join(strings.Fields(text), " ")
		}
	}
	t.Errorf("%s landed nowhere", block)
	return ""
}

// alike compares the first page as poppler and MuPDF paint it.
func alike(t *testing.T, file string) {
	t.Helper()
	dir := t.TempDir()
	tool(t, "pdftoppm", "-r", "40", "-png", "-f", "1", "-l", "1", "-singlefile", file, filepath.Join(dir, "a"))
	tool(t, "mutool", "draw", "-q", "-r", "40", "-o", filepath.Join(dir, "b.png"), file, "1")
	a, b := picture(t, filepath.Join(dir, "a.png")), picture(t, filepath.Join(dir, "b.png"))
	if dx := a.Bounds().Dx() - b.Bounds().Dx(); dx > 1 || dx < -1 {
		t.Fatal(a.Bounds(), b.Bounds())
	}
	// Both smooth in their own way: sums of squares of 8 by 8 points are compared.
	const side = 8
	for y := 0; y+side <= min(a.Bounds().Dy(), b.Bounds().Dy()); y += side {
		for x := 0; x+side <= min(a.Bounds().Dx(), b.Bounds().Dx()); x += side {
			if p, q := dark(a, x, y, side), dark(b, x, y, side); math.Abs(p-q) > 0.22 {
				t.Errorf("at %d, %d one painter has %.2f of ink, the other %.2f", x, y, p, q)
			}
		}
	}
}

func picture(t *testing.T, file string) image.Image {
	t.Helper()
	f, err := os.Open(file)
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	img, err := png.Decode(f)
	if err != nil {
		t.Fatal(err)
	}
	return img
}

func dark(img image.Image, x0, y0, side int) float64 {
	sum := 0.0
	for y := y0; y < y0+side; y++ {
		for x := x0; x < x0+side; x++ {
			r, g, b, _ := img.At(x, y).RGBA()
			sum += 1 - float64(r+g+b)/3/65535
		}
	}
	return sum / float64(side*side)
}

// What stays fillable is read back by qpdf and by a library of JavaScript.
func TestFormsThatStayFillable(t *testing.T) {
	d, f := notice(t)
	pictures := grounds(t)
	for key, more := range map[string]map[string]string{
		"reportlab": {"cover_theft": "true", "cover_damage": "false", "cover_travel": "true", "kind": "renewal"},
		"pdflib":    {"cover.theft": "true", "cover.damage": "false", "cover.travel": "true", "kind": "A renewal"},
		"hand":      {"consent": "true", "kind": "A renewal", "phone": "020 7946 0101", "item_3": "", "begins_dd": "01", "place": "wb"},
	} {
		t.Run(key, func(t *testing.T) {
			want := map[string]string{}
			for name, words := range printed[key] {
				want[name] = words
			}
			for name, words := range more {
				want[name] = words
			}
			for name, words := range want { // letters in boxes of their own are one word of the field
				if len(words) > 1 && strings.Count(words, " ")*2+1 == len(words) {
					want[name] = strings.ReplaceAll(words, " ", "")
				}
			}
			c, err := produce.Compose(d, key+"_open", f, pictures, produce.Apart{})
			if err != nil || c.Findings.Faults() > 0 {
				t.Fatal(err, c.Findings)
			}
			file := write(t, c)
			faultless(t, file)
			alike(t, file)
			var byLibrary map[string]string
			out, err := exec.Command("node", "testdata/read-form.mjs", file).Output()
			if err == nil {
				err = json.Unmarshal(out, &byLibrary)
			}
			if err != nil {
				t.Fatal(err)
			}
			byQPDF := qpdfFields(t, file)
			for name, words := range want {
				if got := byLibrary[name]; got != words {
					t.Errorf("the library reads %s as “%s”, want “%s”", name, got, words)
				}
				if got := byQPDF[name]; !strings.HasPrefix(got, "/") && got != words && words != "true" && words != "false" {
					t.Errorf("qpdf reads %s as “%s”, want “%s”", name, got, words)
				}
			}
		})
	}
}

func qpdfFields(t *testing.T, file string) map[string]string {
	t.Helper()
	var out struct {
		AcroForm struct {
			Fields []struct {
				FullName string `json:"fullname"`
				Value    any    `json:"value"`
			}
		} `json:"acroform"`
	}
	if err := json.Unmarshal([]byte(tool(t, "qpdf", "--json", "--json-key=acroform", file)), &out); err != nil {
		t.Fatal(err)
	}
	fields := map[string]string{}
	for _, x := range out.AcroForm.Fields {
		s, _ := x.Value.(string)
		fields[x.FullName] = strings.TrimPrefix(s, "u:")
	}
	return fields
}

// The fields of a tagged form keep their places in its structure once they are words: each is read where it was.
func TestTagsOfFilledForms(t *testing.T) {
	d, f := facts(t, "repair-drop-off", nil)
	blank, err := produce.Blank(d, f.House, true, pictures)
	if err != nil {
		t.Fatal(err)
	}
	kept, err := ground.Keep(blank)
	if err != nil {
		t.Fatal(err)
	}
	x := paper.Document{Key: "form", Name: "Form", File: "form.pdf"}
	d.Documents = []paper.Document{x}
	c, err := produce.Compose(d, "form", f, func(string) ([]byte, error) { return kept, nil }, produce.Apart{})
	if err != nil {
		t.Fatal(err)
	}
	file := write(t, c)
	tool(t, "qpdf", "--check", file)
	out, err := exec.Command("pdfinfo", "-struct-text", file).Output()
	if err != nil {
		t.Fatal(err)
	}
	lines := strings.Split(string(out), "\n")
	read := map[string]string{} // what stands in the form element after a question
	question := ""
	for i, l := range lines {
		l = strings.TrimSpace(l)
		if text := strings.Trim(l, `"`); text != l && i > 0 && !strings.Contains(lines[i-1], "Form") {
			question = text
		} else if text != l {
			read[question] += text
		}
	}
	for question, words := range map[string]string{"Your name *": "Łucja Brzęk", "Street and number": "12 Mill Row",
		"Serial number or label": "AP-417"} {
		if read[question] != words {
			t.Errorf("under “%s” is read “%s”, want “%s”", question, read[question], words)
		}
	}
	if n := strings.Count(string(out), "Form\n"); n < 40 {
		t.Errorf("%d of the form’s elements are left", n)
	}
}

// Marks stand where the design puts them, rows one below the other, and only where their condition holds.
func TestMarksOnPages(t *testing.T) {
	d, f := notice(t)
	pictures := grounds(t)
	c, err := produce.Compose(d, "flat", f, pictures, produce.Apart{})
	if err != nil || c.Findings.Faults() > 0 {
		t.Fatal(err, c.Findings)
	}
	file := write(t, c)
	faultless(t, file)
	alike(t, file)
	for block, words := range map[string]string{"mark name": "Łucja Brzęk", "mark day": "1 Dec 2026", "mark serial": "A P - 4 1 7"} {
		if got := within(t, file, c, block); got != words {
			t.Errorf("%s holds “%s”, want “%s”", block, got, words)
		}
	}
	var rows []float64
	for _, p := range c.Placements {
		if p.Block == "mark item" {
			rows = append(rows, p.Y)
		}
	}
	if len(rows) != 2 || math.Abs(rows[1]-rows[0]-10.6*72/25.4) > 0.01 {
		t.Error(rows)
	}
	if got, err := exec.Command("zbarimg", "-q", "--raw", painted(t, file)).Output(); err != nil ||
		strings.TrimSpace(string(got)) != "N-001" {
		t.Errorf("the code says %q, %v", got, err)
	}
	f.Answers["paid"] = form.Value{}
	if c, err = produce.Compose(d, "flat", f, pictures, produce.Apart{}); err != nil {
		t.Fatal(err)
	}
	if slices.ContainsFunc(landed(c), func(b string) bool { return b == "mark yes" || b == "mark no" }) {
		t.Error("a tick without its condition")
	}
}

func landed(c produce.Composed) (all []string) {
	for _, p := range c.Placements {
		all = append(all, p.Block)
	}
	return all
}

func painted(t *testing.T, file string) string {
	t.Helper()
	to := filepath.Join(t.TempDir(), "page")
	tool(t, "pdftoppm", "-r", "150", "-png", "-singlefile", file, to)
	return to + ".png"
}

// The mark of a trial lies across the page and hides nothing of it.
func TestTrialsOnPages(t *testing.T) {
	d, f := notice(t)
	f.Trial = true
	for _, key := range []string{"flat", "hand", "reportlab_open"} {
		c, err := produce.Compose(d, key, f, grounds(t), produce.Apart{})
		if err != nil {
			t.Fatal(err)
		}
		file := write(t, c)
		faultless(t, file)
		if reddish(t, file) == 0 {
			t.Error(key, "has no mark")
		}
		black := func(file string) (n int) {
			img := picture(t, painted(t, file))
			for y := range img.Bounds().Dy() {
				for x := range img.Bounds().Dx() {
					if r, g, b, _ := img.At(x, y).RGBA(); r < 0x4000 && g < 0x4000 && b < 0x4000 {
						n++
					}
				}
			}
			return n
		}
		g := f
		g.Trial = false
		plain, err := produce.Compose(d, key, g, grounds(t), produce.Apart{})
		if err != nil {
			t.Fatal(err)
		}
		if was, is := black(write(t, plain)), black(file); is < was*99/100 {
			t.Errorf("%s: of %d black points %d are left under the mark", key, was, is)
		}
	}
}

// A protected document hides all of its form, and opens with its password.
func TestProtectedForms(t *testing.T) {
	d, f := notice(t)
	for i := range d.Documents {
		d.Documents[i].Protect = &paper.Protect{Password: phrase.Parse("open me")}
	}
	c, err := produce.Compose(d, "reportlab", f, grounds(t), produce.Apart{})
	if err != nil {
		t.Fatal(err)
	}
	file := write(t, c)
	if text := tool(t, "pdftotext", "-upw", "open me", file, "-"); !strings.Contains(text, "Łucja Brzęk") || !strings.Contains(text,
		"Notice of") {
		t.Error(text)
	}
	tool(t, "qpdf", "--check", "--password=open me", file)
	if strings.Contains(string(c.PDF), "Notice") {
		t.Error("words stand open in the file")
	}
}
