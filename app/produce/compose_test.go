package produce_test

import (
	"bytes"
	"encoding/json"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/print/paper"
	"amberseal/core/print/paper/code"
	"amberseal/core/print/seal"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
	tarnhollow "amberseal/demo"
)

const demo = "../../demo/"

func pictures(name string) ([]byte, error) { return tarnhollow.Pictures(name) }

func load(t testing.TB, file string, into any) {
	t.Helper()
	data, err := os.ReadFile(file)
	if err == nil {
		err = json.Unmarshal(data, into)
	}
	if err != nil {
		t.Fatal(err)
	}
}

// slugs are the intakes of the demo.
func slugs(t testing.TB) []string {
	t.Helper()
	files, err := filepath.Glob(demo + "intakes/*.json")
	if err != nil || len(files) != 6 {
		t.Fatal(files, err)
	}
	for i, file := range files {
		files[i] = strings.TrimSuffix(filepath.Base(file), ".json")
	}
	return files
}

// facts are an intake of the demo with answers.
func facts(t testing.TB, slug string, answers form.Answers) (intake.Design, phrase.Facts) {
	var d intake.Design
	var h house.House
	load(t, demo+"intakes/"+slug+".json", &d)
	load(t, demo+"house.json", &h)
	if answers == nil {
		var raw form.Raw
		load(t, demo+"answers/"+slug+".json", &raw)
		r := form.Check(d.Form, raw, h.Circumstances(time.Date(2026, 11, 24, 9, 41, 0, 0, time.UTC)))
		if answers = r.Answers; len(r.Findings) > 0 {
			t.Fatal(r.Findings)
		}
	}
	at := time.Date(2026, 11, 24, 9, 41, 0, 0, time.UTC)
	return d, phrase.Facts{House: h, Intake: d.Name, Form: d.Form, Answers: answers, Number: d.Number.Number(212, at), Received: at,
		Made:  at,
		Check: produce.CheckAddress(h, seal.Code(link.Secret("demo"), slug, slug, 1))}
}

func compose(t testing.TB, d intake.Design, key string, f phrase.Facts) produce.Composed {
	t.Helper()
	c, err := produce.Compose(d, key, f, pictures, produce.Apart{})
	if err != nil || c.Findings.Faults() > 0 {
		t.Fatalf("%s/%s: %v %v", d.Slug, key, err, c.Findings)
	}
	return c
}

// tool runs one of Debian's programs on the file and fails the test when it finds fault.
func tool(t *testing.T, name string, args ...string) string {
	t.Helper()
	out, err := exec.Command(name, args...).CombinedOutput()
	if err != nil {
		t.Fatalf("%s %v: %v\n%s", name, args, err, out)
	}
	return string(out)
}

func write(t *testing.T, c produce.Composed) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "d.pdf")
	if err := os.WriteFile(file, c.PDF, 0o600); err != nil {
		t.Fatal(err)
	}
	return file
}

// faultless holds a file against three independent readers: qpdf (exit code 0 means neither
// errors nor warnings), MuPDF and poppler, which must be silent while drawing every page.
func faultless(t *testing.T, file string) {
	t.Helper()
	tool(t, "qpdf", "--check", file)
	// Debian's MuPDF is built without colour profiles and says so each time; ours is the sRGB it assumes.
	out := strings.TrimPrefix(tool(t, "mutool", "draw", "-q", "-F", "text", "-o", os.DevNull, file),
		"warning: ICC support is not available\n")
	if out != "" {
		t.Errorf("mutool: %s", out)
	}
	cmd := exec.Command("pdftoppm", "-r", "20", file)
	var complaints bytes.Buffer
	cmd.Stderr = &complaints
	if err := cmd.Run(); err != nil || complaints.Len() > 0 {
		t.Errorf("pdftoppm: %v %s", err, complaints.String())
	}
}

func TestEveryDemoDocumentIsFaultless(t *testing.T) {
	for _, slug := range slugs(t) {
		d, f := facts(t, slug, nil)
		samples := []form.Answers{f.Answers}
		for _, kind := range []form.SampleKind{form.MadeUp, form.Emptest, form.Longest} {
			samples = append(samples, form.Sample(d.Form, kind))
		}
		for _, doc := range d.Documents {
			for i, answers := range samples {
				f.Answers = answers
				c := compose(t, d, doc.Key, f)
				file := write(t, c)
				faultless(t, file)
				if i > 0 {
					continue
				}
				if len(c.Findings) > 0 {
					t.Errorf("%s/%s: %v", slug, doc.Key, c.Findings)
				}
				info := tool(t, "pdfinfo", file)
				tagged := "Tagged:          yes"
				if doc.OnPages() {
					tagged = "Tagged:          no" // as the file was brought
				}
				for _, want := range []string{tagged, "Title:           " + c.Title,
					"Author:          Tarn Hollow Instrument Works"} {
					if !strings.Contains(info, want) {
						t.Errorf("%s/%s: pdfinfo does not say %q:\n%s", slug, doc.Key, want, info)
					}
				}
				if !bytes.Contains(c.PDF, []byte("%PDF-1.7")) {
					t.Error("not PDF 1.7")
				}
			}
		}
	}
}

// Every document in every look, with ordinary, longest and emptest answers, is faultless and loses no block.
func TestEveryLook(t *testing.T) {
	for _, slug := range slugs(t) {
		d, f := facts(t, slug, nil)
		for i := range d.Documents {
			for _, look := range paper.Looks() {
				if d.Documents[i].Brought() && look != paper.Looks()[0] {
					continue // a look dresses blocks
				}
				d.Documents[i].Look = look
				if l := d.Documents[i].Check(d.Form, func(string) bool { return true }); l.Faults() > 0 {
					t.Errorf("%s %s: %v", slug, look, l)
				}
				for _, answers := range []form.Answers{f.Answers, form.Sample(d.Form, form.Longest), form.Sample(d.Form, form.Emptest)} {
					g := f
					g.Answers = answers
					faultless(t, write(t, compose(t, d, d.Documents[i].Key, g)))
				}
			}
		}
	}
}

// zbarimg, an independent reader, reads every code from the page drawn at 150 dots an inch. It knows no Data Matrix,
// which is held against its library's own decoder's size table only.
func TestCodesAreRead(t *testing.T) {
	for _, c := range []struct {
		kind  code.Kind
		words string
	}{{code.QR, "https://tarnhollow.example/f/gift?x=1&y=2"}, {code.Code128, "TH-2026-00212"}, {code.EAN13, "4006381333931"}} {
		d, f := facts(t, "practice-room", nil)
		d.Documents[0].Page = paper.Page{}
		d.Documents[0].Blocks = []paper.Block{
			{ID: "code", Kind: paper.Code, Settings: paper.Settings{Symbology: c.kind, Text: phrase.Phrase{{Text: c.words}}}},
		}
		file := write(t, compose(t, d, d.Documents[0].Key, f))
		page := strings.TrimSuffix(file, ".pdf")
		tool(t, "pdftoppm", "-r", "150", "-png", "-singlefile", file, page)
		out, err := exec.Command("zbarimg", "--raw", "-q", page+".png").Output()
		if err != nil || strings.TrimSpace(string(out)) != c.words {
			t.Errorf("%s: %q is read as %q (%v)", c.kind, c.words, out, err)
		}
	}
	for kind, words := range map[code.Kind]string{code.EAN13: "4006381333932", code.Code128: "żółć", code.QR: strings.Repeat("x", 5000)} {
		if _, err := code.Make(kind, words, 1); err == nil {
			t.Errorf("%s took %.20s", kind, words)
		}
	}
	d, f := facts(t, "parts-order", nil)
	pay := paper.Block{
		ID:   "pay",
		Kind: paper.Code,
		Settings: paper.Settings{
			Symbology: code.Payment,
			Payee:     &paper.Payee{IBAN: "BE72 0000 0000 1616"},
			Field:     "due",
			Text:      phrase.Phrase{{Field: "@number"}},
		},
	}
	d.Documents[0].Blocks = []paper.Block{pay}
	file := write(t, compose(t, d, "invoice", f))
	faultless(t, file)
	page := strings.TrimSuffix(file, ".pdf")
	tool(t, "pdftoppm", "-r", "150", "-png", "-singlefile", file, page)
	beside := strings.Join(strings.Fields(tool(t, "pdftotext", "-raw", file, "-")), " ")
	if want := "Reference Tarn Hollow Instrument Works BE72 0000 0000 1616 " + f.Number; !strings.Contains(beside, want) &&
		!strings.Contains(beside, "IBAN BE72 0000 0000 1616 Reference "+f.Number) {
		t.Errorf("what the code says does not stand beside it: %s", beside)
	}
	want := "BCD\n002\n1\nSCT\n\nTarn Hollow Instrument Works\nBE72000000001616\nEUR" + f.Answers["due"].Number.Text('f') + "\n\n\n" +
		f.Number
	if out, err := exec.Command("zbarimg", "--raw", "-q", page+".png").Output(); err != nil ||
		strings.TrimSuffix(string(out), "\n") != want {
		t.Errorf("the payment is read as %q, not %q (%v)", out, want, err)
	}
	d.Documents[0].Blocks = append(d.Documents[0].Blocks, paper.Block{ID: "rule", Kind: paper.Rule})
	f.House.Currency = "PLN"
	if c, err := produce.Compose(d, "invoice", f, pictures, produce.Apart{}); err != nil || c.Findings.Faults() != 1 {
		t.Error("a payment in another currency is not found", c.Findings, err)
	}
	d.Documents[0].Blocks[0].Payee.IBAN = "BE72 0000 0000 1617"
	if l := d.Documents[0].Check(d.Form, func(string) bool { return true }); l.Faults() != 1 ||
		!strings.Contains(l.Err().Error(), "is no IBAN") {
		t.Error("a wrong IBAN is not found:", l)
	}
	if s, err := code.Make(code.DataMatrix, "TH-2026-00212", 1); err != nil || s.Width != 16+4 && s.Width != 18+4 {
		t.Errorf("the Data Matrix has %v modules (%v)", s.Width, err)
	}
}

// reddish counts the pixels of a page in the colour of a trial's mark.
func reddish(t *testing.T, file string) int {
	page := strings.TrimSuffix(file, ".pdf")
	tool(t, "pdftoppm", "-r", "60", "-png", "-singlefile", file, page)
	data, err := os.Open(page + ".png")
	if err != nil {
		t.Fatal(err)
	}
	defer data.Close()
	img, err := png.Decode(data)
	if err != nil {
		t.Fatal(err)
	}
	n := 0
	for y := range img.Bounds().Dy() {
		for x := range img.Bounds().Dx() {
			if r, g, b, _ := img.At(x, y).RGBA(); r>>8 > 230 && g>>8 < 225 && b>>8 < 225 {
				n++
			}
		}
	}
	return n
}

func TestTrialsAreMarked(t *testing.T) {
	d, f := facts(t, "parts-order", nil)
	f.Trial = true
	file := write(t, compose(t, d, "invoice", f))
	faultless(t, file)
	f.Trial = false
	if marked, plain := reddish(t, file), reddish(t, write(t, compose(t, d, "invoice", f))); marked < 10_000 || plain > 0 {
		t.Errorf("the mark has %d pixels, a document that counts has %d", marked, plain)
	}
	if tree := tool(t, "pdfinfo", "-struct-text", file); strings.Contains(tree, "TRIAL") {
		t.Error("the mark is part of what is read aloud")
	}
}

// Whoever holds two papers of one submission sees which one holds, on every page and in the file's name.
func TestCorrectionsSayWhatTheyReplace(t *testing.T) {
	for _, name := range []string{"parts-order", "gift"} {
		d, f := facts(t, name, nil)
		key := d.Documents[0].Key
		first := compose(t, d, key, f)
		f.Revision = 3
		third := compose(t, d, key, f)
		text := tool(t, "pdftotext", write(t, third), "-")
		if n := strings.Count(text, "Revision 3, replaces revision 2"); n != third.Pages ||
			strings.Contains(tool(t, "pdftotext", write(t, first), "-"), "evision") {
			t.Errorf("%s: %d of %d pages say it", name, n, third.Pages)
		}
		if first.FileName == third.FileName || !strings.HasSuffix(third.FileName, " – revision 3.pdf") {
			t.Errorf("%s: the files are called %q and %q", name, first.FileName, third.FileName)
		}
	}
}

// qpdf, which has an implementation of its own, opens it with the password only, and says what it may.
func TestPasswordAndPermissions(t *testing.T) {
	d, f := facts(t, "repair-drop-off", nil)
	for _, password := range []string{"Mühle 12", strings.Repeat("long ", 40), ""} {
		d.Documents[0].Protect = &paper.Protect{Password: phrase.Phrase{{Text: password}}, NoCopy: true, NoChange: true}
		file := write(t, compose(t, d, "receipt", f))
		said := tool(t, "qpdf", "--password="+password, "--show-encryption", file)
		for _, want := range []string{"R = 6", "print high resolution: allowed", "extract for any purpose: not allowed",
			"modify annotations: not allowed", "extract for accessibility: allowed", "stream encryption method: AESv3"} {
			if !strings.Contains(said, want) {
				t.Errorf("qpdf does not say %q: %s", want, said)
			}
		}
		tool(t, "qpdf", "--password="+password, "--check", file)
		if len(password) > 32 {
			continue // pdftotext's own limit on its command line
		}
		if text := tool(t, "pdftotext", "-upw", password, file, "-"); !strings.Contains(text, "Łucja Brzęk") {
			t.Errorf("poppler reads %.100s", text)
		}
		if password != "" && exec.Command("qpdf", "--password=guess", "--check", file).Run() == nil {
			t.Error("a wrong password opened it")
		}
	}
}

// Reading order is the order of the page: the words of a receipt's blocks come one after the other.
func TestLineTablesAndTotals(t *testing.T) {
	d, f := facts(t, "repair-drop-off", nil)
	text := strings.Join(strings.Fields(tool(t, "pdftotext", "-raw", write(t, compose(t, d, "receipt", f)), "-")), " ")
	at := 0
	for _, want := range []string{"Work agreed", "Set up", "€48.00", "New bridge", "Keep the old one", "€72.00", "Rehair the bow", "Net",
		"€216.00", "Tax at 10%", "€21.60", "Total", "€237.60", "What happens next"} {
		i := strings.Index(text[at:], want)
		if i < 0 {
			t.Fatalf("%q does not come after what stands before it: %s", want, text[at:])
		}
		at += i
	}
}

// Every answer must come back from the page as it was given, in order, whatever its script.
func TestAnswersAreReadBack(t *testing.T) {
	for name, answer := range map[string]string{
		"diacritics": "Łucja Brzęk, Þórður Ñandú, Çağrı Őze, Đặng Thị Hoà",
		"greek":      "Ελένη Μαυρίδη Ωμέγα ΐΰ",
		"cyrillic":   "Олександр Гриценко щёкать Љубица",
		"ligatures":  "office affluent fjord first waffle",
		"signs":      "€ 12,50 – “quoted” ‹x› № 5 ½ × ÷ ± § © ™ … %",
		"markup":     "<script>alert(1) & \\ ( ) [ ] { } $x^2",
		"emoji":      "fiddle 🎻 smile 😀 done ✔",
		"hebrew":     "דנה לוי",
		"thai":       "สวัสดี ภาษาไทย น้ำ กำลัง",
		"persian":    "پژوهشگاه چندزبانه گفتگو",
		"arabic":     "شركة الخشب المحدودة يتيم سلام لا الإله",
		"pointed":    "שָׁלוֹם עֲלֵיכֶם",
		"devanagari": "नमस्ते ऋषियों को क्षत्रिय स्त्रियाँ",
	} {
		form1 := form.Form{Fields: []form.Field{{Key: "a", Kind: form.ShortText, Label: "Asked"},
			{Key: "b", Kind: form.LongText, Label: "Long"}}}
		d := intake.New("Readback", form1.Fields)
		raw, err := json.Marshal(map[string]string{"a": answer, "b": answer + "\n" + answer})
		if err != nil {
			t.Fatal(err)
		}
		var in form.Raw
		if err := json.Unmarshal(raw, &in); err != nil {
			t.Fatal(err)
		}
		answers := form.Check(d.Form, in, form.Circumstances{}).Answers
		f := phrase.Facts{
			House:    house.New(),
			Intake:   d.Name,
			Form:     d.Form,
			Answers:  answers,
			Number:   "R-1",
			Received: time.Unix(1e9, 0),
			Made:     time.Unix(1e9, 0),
		}
		file := write(t, compose(t, d, "receipt", f))
		faultless(t, file)
		text := strings.Map(func(r rune) rune {
			// pdftotext brackets text that runs to the left with direction marks of its own.
			if r >= 0x202A && r <= 0x202E || r == 0x200E || r == 0x200F {
				return -1
			}
			return r
		}, tool(t, "pdftotext", "-enc", "UTF-8", file, "-"))
		// Poppler turns the marks of a letter around in text that runs to the left, and MuPDF gives all of it as it stands.
		left := name == "hebrew" || name == "arabic" || name == "persian"
		for reader, c := range map[string]struct {
			text  string
			exact bool
		}{
			"pdftotext": {text, name != "pointed"},
			"mutool":    {tool(t, "mutool", "draw", "-q", "-F", "txt", file), !left && name != "pointed"},
		} {
			n := strings.Count(strings.Join(strings.Fields(c.text), " "), answer)
			if !c.exact {
				n = leftward(c.text, answer)
			}
			if n != 3 {
				t.Errorf("%s: %s reads %q %d times, want 3, in:\n%s", name, reader, answer, n, c.text)
			}
		}
	}
}

// leftward is how often the words of an answer that runs to the left stand in a text, each with its characters in any order.
func leftward(text, answer string) int {
	words := func(s string) map[string]int {
		out := map[string]int{}
		for _, w := range strings.FieldsFunc(s, func(r rune) bool { return r < 0x590 || r > 0x6FF }) {
			letters := []rune(w)
			slices.Sort(letters)
			out[string(letters)]++
		}
		return out
	}
	there, least := words(text), len(text)
	for w := range words(answer) {
		least = min(least, there[w])
	}
	return least
}
