package produce_test

import (
	"bytes"
	"encoding/json"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"amberseal/app/produce"
	"amberseal/core/form"
	"amberseal/core/house"
	"amberseal/core/intake"
	"amberseal/core/phrase"
)

const demo = "../../demo/"

func pictures(name string) ([]byte, error) { return os.ReadFile(demo + "pictures/" + name) }

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
	return d, phrase.Facts{House: h, Intake: d.Name, Form: d.Form, Answers: answers, Number: d.Number.Number(212, at), Received: at, Made: at}
}

func compose(t testing.TB, d intake.Design, key string, f phrase.Facts) produce.Composed {
	t.Helper()
	c, err := produce.Compose(d, key, f, pictures)
	if err != nil || len(c.Findings) > 0 {
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
	// Debian's MuPDF is built without colour profiles and says so each time; our files have none.
	out := strings.TrimPrefix(tool(t, "mutool", "draw", "-q", "-F", "text", "-o", os.DevNull, file), "warning: ICC support is not available\n")
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
	intakes, err := filepath.Glob(demo + "intakes/*.json")
	if err != nil || len(intakes) != 6 {
		t.Fatal(intakes, err)
	}
	for _, file := range intakes {
		slug := strings.TrimSuffix(filepath.Base(file), ".json")
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
				info := tool(t, "pdfinfo", file)
				for _, want := range []string{"Tagged:          yes", "Title:           " + c.Title, "Author:          Tarn Hollow Instrument Works"} {
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

func TestStructureAndLanguage(t *testing.T) {
	d, f := facts(t, "repair-drop-off", nil)
	c := compose(t, d, "receipt", f)
	if c.Pages != 2 {
		t.Errorf("the demo's receipt has %d pages, the benchmark speaks of 2", c.Pages)
	}
	file := write(t, c)
	tree := tool(t, "pdfinfo", "-struct", file)
	for _, want := range []string{"Document", "H1", "H2", "Table", "TR", "TH", "TD", "L (block)", "LI", "Lbl", "LBody", "Figure"} {
		if !strings.Contains(tree, want) {
			t.Errorf("the structure has no %s:\n%s", want, tree)
		}
	}
	if js := tool(t, "qpdf", "--json", file); !strings.Contains(js, `"/Lang": "u:en-GB"`) || !strings.Contains(js, `"/Outlines"`) {
		t.Error("the catalog has no language or no outline")
	}
	blocks := map[string]bool{}
	for _, p := range c.Placements {
		blocks[p.Block] = true
		if p.X < 0 || p.Y < 0 || p.X+p.W > c.Width || p.Y+p.H > c.Height+0.01 {
			t.Errorf("block %s is placed outside its page: %+v", p.Block, p)
		}
	}
	for _, b := range d.Documents[0].Blocks {
		if !blocks[b.ID] {
			t.Errorf("block %s has no place", b.ID)
		}
	}
	if again := compose(t, d, "receipt", f); !bytes.Equal(again.PDF, c.PDF) {
		t.Error("the same answers made other bytes")
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
		"arabic":     "نور الحداد",
		"thai":       "สวัสดี",
	} {
		form1 := form.Form{Fields: []form.Field{{Key: "a", Kind: form.ShortText, Label: "Asked"}, {Key: "b", Kind: form.LongText, Label: "Long"}}}
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
		f := phrase.Facts{House: house.New(), Intake: d.Name, Form: d.Form, Answers: answers, Number: "R-1", Received: time.Unix(1e9, 0), Made: time.Unix(1e9, 0)}
		file := write(t, compose(t, d, "receipt", f))
		faultless(t, file)
		text := strings.Map(func(r rune) rune {
			// pdftotext brackets text that runs to the left with direction marks of its own.
			if r >= 0x202A && r <= 0x202E || r == 0x200E || r == 0x200F {
				return -1
			}
			return r
		}, tool(t, "pdftotext", "-enc", "UTF-8", file, "-"))
		flat := strings.Join(strings.Fields(text), " ")
		if n := strings.Count(flat, answer); n != 3 {
			t.Errorf("%s: %q stands %d times, want 3, in:\n%s", name, answer, n, text)
		}
	}
}

func TestHostileAnswers(t *testing.T) {
	d := intake.New("Hostile", []form.Field{{Key: "a", Kind: form.LongText, Label: strings.Repeat("Label ", 40)}, {Key: "b", Kind: form.ShortText, Label: "B"}})
	for _, answer := range []string{
		strings.Repeat("x", 5000), strings.Repeat("word ", 9000), strings.Repeat("\u200B", 300) + "x", "\u202Eevil\u202C",
		strings.Repeat("e\u0301\u0323\u0302", 200), "\uFFFD\uFFFE\U0010FFFF", strings.Repeat("👩‍👩‍👧‍👦", 100), "\u0600\u06DD\u2066x", "日本語のテキスト 한국어", strings.Repeat("\n", 400) + "end",
	} {
		raw, err := json.Marshal(answer)
		if err != nil {
			t.Fatal(err)
		}
		checked := form.Check(d.Form, form.Raw{"a": raw}, form.Circumstances{})
		if len(checked.Findings) > 0 {
			t.Fatal(checked.Findings)
		}
		answers := checked.Answers
		f := phrase.Facts{House: house.New(), Intake: d.Name, Form: d.Form, Answers: answers, Number: "H-1", Received: time.Unix(1e9, 0), Made: time.Unix(1e9, 0)}
		faultless(t, write(t, compose(t, d, "receipt", f)))
	}
}

func TestPicturesThatCannotBePrinted(t *testing.T) {
	d, f := facts(t, "condition-report", nil)
	for name, data := range map[string][]byte{"empty": {}, "text": []byte("not a picture"), "cut": func() []byte { b, _ := pictures("bench.jpg"); return b[:90] }()} {
		c, err := produce.Compose(d, "report", f, func(p string) ([]byte, error) {
			if p == "bench.jpg" {
				return data, nil
			}
			return pictures(p)
		})
		if err != nil || len(c.Findings) != 1 || c.Pages == 0 {
			t.Errorf("%s: %v %v", name, err, c.Findings)
			continue
		}
		faultless(t, write(t, c))
	}
}

func BenchmarkReceipt(b *testing.B) {
	d, f := facts(b, "repair-drop-off", nil)
	compose(b, d, "receipt", f)
	b.ReportAllocs()
	before := cpu(b)
	for b.Loop() {
		compose(b, d, "receipt", f)
	}
	b.ReportMetric(float64(cpu(b)-before)/float64(b.N), "cpu-ns/op")
}

// cpu is the processor time that the process has used, with its garbage collection.
func cpu(b *testing.B) int64 {
	var u syscall.Rusage
	if err := syscall.Getrusage(syscall.RUSAGE_SELF, &u); err != nil {
		b.Fatal(err)
	}
	return u.Utime.Nano() + u.Stime.Nano()
}

// tableOf is an intake whose receipt is one table of that many rows.
func tableOf(rows int) (intake.Design, phrase.Facts) {
	var fields []form.Field
	for i := range rows {
		fields = append(fields, form.Field{Key: "f" + strconv.Itoa(i), Kind: form.ShortText, Label: "Question " + strconv.Itoa(i)})
	}
	d := intake.New("Table", fields)
	for i := range d.Documents[0].Blocks {
		d.Documents[0].Blocks[i].Headed = true
	}
	at := time.Unix(1e9, 0).UTC()
	return d, phrase.Facts{House: house.New(), Intake: d.Name, Form: d.Form, Answers: form.Sample(d.Form, form.MadeUp), Number: "T-1", Received: at, Made: at}
}

func BenchmarkTable(b *testing.B) {
	for _, rows := range []int{100, 1000, 10_000} {
		b.Run(strconv.Itoa(rows), func(b *testing.B) {
			d, f := tableOf(rows)
			compose(b, d, "receipt", f)
			b.ReportAllocs()
			for b.Loop() {
				compose(b, d, "receipt", f)
			}
			b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/float64(rows), "ns/row")
		})
	}
}
