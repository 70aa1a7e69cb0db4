package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"hash/crc32"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
)

func pixels(t *testing.T, encode func(*bytes.Buffer, image.Image) error) []byte {
	t.Helper()
	img := image.NewRGBA(image.Rect(0, 0, 40, 20))
	for x := range 40 {
		img.Set(x, x/2, color.RGBA{200, uint8(x), 10, 255})
	}
	var b bytes.Buffer
	if err := encode(&b, img); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// vast is a PNG that claims 20,000 × 20,000 pixels, with a sound header checksum (PNG, ISO/IEC 15948 section 11.2.2).
func vast(png []byte) []byte {
	b := slices.Clone(png)
	copy(b[16:24], []byte{0, 0, 0x4E, 0x20, 0, 0, 0x4E, 0x20})
	sum := crc32.ChecksumIEEE(b[12:29])
	copy(b[29:33], []byte{byte(sum >> 24), byte(sum >> 16), byte(sum >> 8), byte(sum)})
	return b
}

func TestUploadsThatLieOrAreTooMuch(t *testing.T) {
	h := startProgram(t)
	jpg := pixels(t, func(b *bytes.Buffer, i image.Image) error { return jpeg.Encode(b, i, nil) })
	pic := pixels(t, func(b *bytes.Buffer, i image.Image) error { return png.Encode(b, i) })
	const photo = "/api/public/intakes/repair-drop-off/uploads/arrival?name="
	octets := []string{"Content-Type", "application/octet-stream"}
	for name, c := range map[string]struct {
		path   string
		data   []byte
		status int
	}{
		"a photo":              {photo + "a.jpg", jpg, 201},
		"a PNG called JPEG":    {photo + "a.jpg", pic, 201},
		"a script as photo":    {photo + "a.jpg", []byte("<script>alert(1)</script>"), 422},
		"SVG with a script":    {photo + "a.png", []byte(`<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>`), 422},
		"20,000 × 20,000":      {photo + "a.png", vast(pic), 422},
		"a cut picture":        {photo + "a.jpg", jpg[:len(jpg)/2], 422},
		"nothing":              {photo + "a.jpg", nil, 422},
		"30 MB":                {photo + "a.jpg", bytes.Repeat([]byte("x"), 30<<20), 422},
		"to a field of words":  {"/api/public/intakes/repair-drop-off/uploads/name?name=a.jpg", jpg, 422},
		"to no field":          {"/api/public/intakes/repair-drop-off/uploads/nothing?name=a.jpg", jpg, 404},
		"to no form":           {"/api/public/intakes/nowhere/uploads/arrival?name=a.jpg", jpg, 404},
		"a signature's script": {"/api/public/intakes/repair-drop-off/uploads/signature?name=a.png", []byte("MZ\x90\x00"), 422},
	} {
		status, answer := h.try("POST", c.path, c.data, octets...)
		var p problem
		if status != c.status || status != 201 && (json.Unmarshal(answer, &p) != nil || p.Message == "") {
			t.Errorf("%s: %d %s, want %d", name, status, answer, c.status)
		}
	}
	var file struct{ ID, Name, Type string }
	_, answer := h.try("POST", photo+"..%5C..%2Fetc%2Fpasswd.jpg", jpg, octets...)
	if err := json.Unmarshal(answer, &file); err != nil || file.Name != "passwd.jpg" || file.Type != "image/jpeg" {
		t.Errorf("%s %v", answer, err)
	}
	// Files of one form, or of a submission, are nobody else's.
	send := func(slug string, extra map[string]any) int {
		a := map[string]any{"name": "A", "email": "a@files.example", "instrument": "viola", "fault": "x", "agree": true}
		for k, v := range extra {
			a[k] = v
		}
		return h.call("POST", "/api/public/intakes/"+slug+"/submissions", map[string]any{"answers": a}, nil)
	}
	if status := send("repair-drop-off", map[string]any{"arrival": []string{"made-up"}}); status != 422 {
		t.Errorf("a file that is not there was taken: %d", status)
	}
	if status := send("repair-drop-off", map[string]any{"arrival": []string{file.ID}}); status != 201 {
		t.Errorf("a kept file was refused: %d", status)
	}
	if status := send("repair-drop-off", map[string]any{"arrival": []string{file.ID}}); status != 422 {
		t.Errorf("a file was taken twice: %d", status)
	}
	if status, _ := h.try("GET", "/api/uploads/"+file.ID, nil); status != 401 {
		t.Errorf("a stranger may read a file: %d", status)
	}
}

// Wrong answers of every kind by HTTP, without the page: a finding at each place, and the server lives.
func TestWrongAnswersInEveryKind(t *testing.T) {
	h := startProgram(t)
	for _, wrong := range []string{`null`, `[]`, `{}`, `[[]]`, `{"a":{"b":[1]}}`, `1e999`, `-0`, `"\u0000"`, `true`, `[{"hours":"NaN"}]`,
		`"` + strings.Repeat("9", 5000) + `"`} {
		for _, slug := range []string{"repair-drop-off", "hire-agreement", "condition-report", "parts-order"} {
			var form struct {
				Form struct{ Fields []struct{ Key, Kind string } }
			}
			h.call("GET", "/api/public/intakes/"+slug, nil, &form)
			var members []string
			for _, f := range form.Form.Fields {
				if f.Kind != "section" && f.Kind != "page" {
					members = append(members, fmt.Sprintf("%q:%s", f.Key, wrong))
				}
			}
			var p problem
			status := h.call("POST", "/api/public/intakes/"+slug+"/submissions", `{"answers":{`+strings.Join(members, ",")+`}}`, &p)
			if status != 422 && status != 400 || p.Message == "" {
				t.Errorf("%s answered with %.40s everywhere: %d %+v", slug, wrong, status, p)
			}
			if status := h.call("POST", "/api/public/intakes/"+slug+"/check", `{"answers":{`+strings.Join(members, ",")+`}}`,
				nil); status != 200 &&
				status != 400 {
				t.Errorf("check of %s answered with %.40s everywhere: %d", slug, wrong, status)
			}
		}
	}
}

func TestRobotsAreHeldOff(t *testing.T) {
	h := startProgram(t)
	page := func(began int, trap string) map[string]any {
		b := booking("robot@one.example")
		b["page"] = map[string]any{"began": began, "trap": trap}
		return b
	}
	for name, c := range map[string]struct {
		body   map[string]any
		status int
	}{
		"a person":           {page(9000, ""), 201},
		"a filled trap":      {page(9000, "https://spam.example"), 422},
		"sent in no time":    {page(3, ""), 422},
		"a program, no page": {booking("program@one.example"), 201},
	} {
		if status := h.call("POST", submissions, c.body, nil); status != c.status {
			t.Errorf("%s: %d, want %d", name, status, c.status)
		}
	}
	// However slow the machine is, and so however many are allowed anew meanwhile.
	sent, busy := 0, 0
	for ; busy < 5 && sent < 700; sent++ {
		if h.call("POST", submissions, booking("many@one.example"), nil, "X-Forwarded-For", "203.0.113.9") == 429 {
			busy++
		}
	}
	if busy < 5 || sent-busy < 50 {
		t.Errorf("of %d submissions from one address at once %d were refused", sent, busy)
	}
}

func TestRespondentsLanguages(t *testing.T) {
	h := startProgram(t)
	for language, want := range map[string]string{"de": "Bitte beantworten Sie diese Frage.", "fr": "Veuillez répondre à cette question.",
		"es": "Responda a esta pregunta, por favor.", "pl": "Proszę odpowiedzieć na to pytanie.", "pt": "Please answer this question."} {
		var got struct {
			Findings []struct{ Path, Message string }
		}
		h.call("POST", "/api/public/intakes/gift/check", map[string]any{"answers": map[string]any{}, "language": language}, &got)
		if !slices.ContainsFunc(got.Findings, func(f struct{ Path, Message string }) bool {
			return f.Path == "name" &&
				f.Message == want
		}) {
			t.Errorf("%s: %v", language, got.Findings)
		}
	}
}

func TestFormCommands(t *testing.T) {
	run := func(args ...string) (string, error) {
		out, err := exec.Command(binary, args...).Output()
		return string(out), err
	}
	const in, ans = "../../demo/intakes/repair-drop-off.json", "../../demo/answers/repair-drop-off.json"
	text, err := run("check", "--intake", in, "--answers", ans, "--house", "../../demo/house.json")
	if err != nil {
		t.Fatal(err)
	}
	var got struct {
		Visible, Required []string
		Calculated        map[string]string
		Findings          []struct{ Path, Message string }
	}
	if err := json.Unmarshal([]byte(text), &got); err != nil {
		t.Fatal(err)
	}
	if got.Calculated["total"] != "237.60" || got.Calculated["lines/1/amount"] != "72.00" || len(got.Findings) > 0 ||
		!slices.Contains(got.Required, "lines/0/hours") {
		t.Errorf("check says %s", text)
	}
	wrong := filepath.Join(t.TempDir(), "wrong.json")
	if err := os.WriteFile(wrong, []byte(`{"name":"A","lines":[{"work":"polish","hours":"0.3","rate":"48"}],"shoe":1}`),
		0o600); err != nil {
		t.Fatal(err)
	}
	if text, err = run("check", "--intake", in, "--answers", wrong); err != nil || !strings.Contains(text, `"path": "lines/0/hours"`) ||
		!strings.Contains(text, `"path": "shoe"`) ||
		!strings.Contains(text, `"path": "agree"`) {
		t.Errorf("check of wrong answers: %v %s", err, text)
	}
	out := filepath.Join(t.TempDir(), "blank.pdf")
	for _, fillable := range [][]string{nil, {"--fillable"}} {
		if _, err := run(append([]string{"blank", "--intake", in, "--out", out}, fillable...)...); err != nil {
			t.Fatal(err)
		}
		if said, err := exec.Command("qpdf", "--check", out).CombinedOutput(); err != nil {
			t.Errorf("qpdf: %s", said)
		}
		info, err := exec.Command("pdfinfo", out).Output()
		if err != nil || strings.Contains(string(info), "AcroForm") != (fillable != nil) ||
			!strings.Contains(string(info), "Tagged:          yes") {
			t.Errorf("%v %s", err, info)
		}
	}
	if text, err := run("read", "--intake", in, out); err != nil || !strings.Contains(text, `"agree": false`) {
		t.Errorf("an empty copy is read as %s %v", text, err)
	}
	places := filepath.Join(t.TempDir(), "places.json")
	for _, look := range []string{"ledger", "letter", "ticket"} {
		if _, err := run("compose", "--intake", in, "--document", "receipt", "--answers", ans, "--house", "../../demo/house.json",
			"--look", look, "--trial", "--placements", places, "--out", out); err != nil {
			t.Error(look, err)
		}
		data, err := os.ReadFile(places)
		var placed []struct {
			Block string
			Page  int
			W, H  float64
		}
		if err != nil || json.Unmarshal(data, &placed) != nil || len(placed) < 8 || placed[0].Block != "letterhead" ||
			placed[0].Page != 1 ||
			placed[0].W < 50 {
			t.Errorf("%s: the placements are %s %v", look, data, err)
		}
	}
	if text, err := exec.Command("pdftotext", out, "-").Output(); err != nil || !strings.Contains(string(text), "Receipt TRIAL") {
		t.Errorf("a trial has a number of its own: %s %v", text, err)
	}
	for _, more := range [][]string{{"--look", "poster"}, {"--archival", "a-9"}, {"--archival", "a-1b", "--password", "together"}} {
		if _, err := run(append([]string{"compose", "--intake", in, "--document", "receipt", "--answers", ans, "--out", out},
			more...)...); err == nil {
			t.Error(more, "was taken")
		}
	}
	for _, args := range [][]string{{"check", "--intake", in}, {"check", "--intake", "nothing.json", "--answers", ans}, {"schema"},
		{"blank", "--intake", in}, {"read", "--intake", in}, {"read", "--intake", in, ans}, {"read", "--intake", in, "nothing.pdf"}} {
		if text, err := run(args...); err == nil {
			t.Errorf("%v succeeded with %s", args, text)
		}
	}
}

// The page of a form shows the house's logo without the rim that is seen through; the workshop has it as it was given.
func TestALogoOnAFormHasNoRim(t *testing.T) {
	t.Parallel()
	h := startProgram(t, "--empty")
	h.signIn()
	given := image.NewNRGBA(image.Rect(0, 0, 60, 40))
	draw.Draw(given, image.Rect(20, 10, 50, 30), image.NewUniform(color.NRGBA{R: 200, A: 255}), image.Point{}, draw.Src)
	var file bytes.Buffer
	if err := png.Encode(&file, given); err != nil {
		t.Fatal(err)
	}
	var added struct{ Name string }
	h.call("POST", "/api/pictures", file.String(), &added)
	var house map[string]any
	h.call("GET", "/api/house", nil, &house)
	house["logo"] = added.Name
	h.call("PUT", "/api/house", house, nil)
	for at, want := range map[string]image.Point{"/p/": {X: 30, Y: 20}, "/api/pictures/": {X: 60, Y: 40}} {
		_, data := h.try("GET", at+added.Name, nil)
		if img, err := png.Decode(bytes.NewReader(data)); err != nil || img.Bounds().Size() != want {
			t.Errorf("%s gives %v, want %v: %v", at, img, want, err)
		}
	}
}
