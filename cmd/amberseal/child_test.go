package main

import (
	"bytes"
	"compress/zlib"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"
)

// The child adds pages within its limits and says in one line why it cannot; a file that would take all memory ends the child
// alone.
func TestTheChildAddsPages(t *testing.T) {
	dir := t.TempDir()
	document, copy := filepath.Join(dir, "document.pdf"), filepath.Join(dir, "copy.pdf")
	for file, args := range map[string][]string{
		document: {"compose", "--intake", "../../demo/intakes/gift.json", "--answers", "../../demo/answers/gift.json", "--house",
			"../../demo/house.json", "--document", "letter", "--archival", "none", "--out", document},
		copy: {"blank", "--intake", "../../demo/intakes/gift.json", "--fillable", "--out", copy},
	} {
		if out, err := exec.Command(binary, args...).CombinedOutput(); err != nil {
			t.Fatalf("%s: %s", file, out)
		}
	}
	join := func(files ...string) ([]byte, string) {
		cmd := exec.Command(binary, append([]string{"join"}, files...)...)
		cmd.Env = append(os.Environ(), limited+"=1")
		var said bytes.Buffer
		cmd.Stderr = &said
		out, err := cmd.Output()
		if (err == nil) != (said.Len() == 0) {
			t.Errorf("%v: %v, but it says %q", files, err, said.String())
		}
		return out, said.String()
	}
	out, said := join(document, copy, copy)
	count, file, ok := bytes.Cut(out, []byte("\n"))
	if !ok || !bytes.HasPrefix(file, []byte("%PDF-")) || said != "" || string(count) == "0" {
		t.Fatalf("%s added: %.20s %s", count, file, said)
	}
	for name, content := range map[string]string{
		"text": "no PDF", "number": "%PDF-1.7\n2147483647 0 obj<<>>endobj\nxref\n0 2147483647\ntrailer<</Size 2147483647/Root 1 0 " +
			"R>>\nstartxref\n9\n%%EOF", "empty": "",
	} {
		bad := filepath.Join(dir, name+".pdf")
		if err := os.WriteFile(bad, []byte(content), 0o600); err != nil {
			t.Fatal(err)
		}
		if out, said := join(document, copy, bad); len(out) > 0 || !strings.HasPrefix(said, "amberseal: PDF 2: ") ||
			strings.Count(said, "\n") != 1 {
			t.Errorf("%s: %d bytes, says %q", name, len(out), said)
		}
	}
}

// pdfOf writes objects, the first of which is the catalog, as a PDF with a cross-reference table.
func pdfOf(trailer string, objects ...string) []byte {
	var b, table bytes.Buffer
	b.WriteString("%PDF-1.7\n")
	fmt.Fprintf(&table, "xref\n0 %d\n0000000000 65535 f \n", len(objects)+1)
	for i, o := range objects {
		fmt.Fprintf(&table, "%010d 00000 n \n", b.Len())
		fmt.Fprintf(&b, "%d 0 obj\n%s\nendobj\n", i+1, o)
	}
	start := b.Len()
	b.Write(table.Bytes())
	fmt.Fprintf(&b, "trailer\n<</Size %d /Root 1 0 R %s>>\nstartxref\n%d\n%%%%EOF\n", len(objects)+1, trailer, start)
	return b.Bytes()
}

// PDFs that are twisted on purpose, and copies that were damaged by chance, are read or refused with one line of words, within the
// child's limits; whatever happens there, its parent goes on.
func TestTwistedPDFs(t *testing.T) {
	dir := t.TempDir()
	good := filepath.Join(dir, "good.pdf")
	if out, err := exec.Command(binary, "blank", "--intake", "../../demo/intakes/gift.json", "--fillable", "--out",
		good).CombinedOutput(); err != nil {
		t.Fatalf("%s", out)
	}
	whole, err := os.ReadFile(good)
	if err != nil {
		t.Fatal(err)
	}
	const page = "<</Type /Page /Parent 2 0 R /MediaBox [0 0 200 200]>>"
	stream := func(entries, data string) string {
		return fmt.Sprintf("<<%s /Length %d>>\nstream\n%s\nendstream", entries, len(data), data)
	}
	deepArray := strings.Repeat("[", 100_000) + strings.Repeat("]", 100_000)
	cases := map[string][]byte{
		"one page":              pdfOf("", "<</Type /Catalog /Pages 2 0 R>>", "<</Type /Pages /Kids [3 0 R] /Count 1>>", page),
		"pages in a circle":     pdfOf("", "<</Type /Catalog /Pages 2 0 R>>", "<</Type /Pages /Kids [2 0 R] /Count 1 /Parent 2 0 R>>"),
		"a lie about the count": pdfOf("", "<</Type /Catalog /Pages 2 0 R>>", "<</Type /Pages /Kids [3 0 R] /Count 2000000000>>", page),
		"a negative count":      pdfOf("", "<</Type /Catalog /Pages 2 0 R>>", "<</Type /Pages /Kids [3 0 R] /Count -5>>", page),
		"contents in a circle": pdfOf(
			"", "<</Type /Catalog /Pages 2 0 R>>", "<</Type /Pages /Kids [3 0 R] /Count 1>>",
			"<</Type /Page /Parent 2 0 R /MediaBox [0 0 20 20] /Contents 4 0 R>>", "[4 0 R 4 0 R]",
		),
		"resources in a circle": pdfOf(
			"", "<</Type /Catalog /Pages 2 0 R>>", "<</Type /Pages /Kids [3 0 R] /Count 1>>",
			"<</Type /Page /Parent 2 0 R /MediaBox [0 0 20 20] /Resources 4 0 R>>", "<</XObject <</A 5 0 R>>>>",
			stream("/Type /XObject /Subtype /Form /BBox [0 0 9 9] /Resources 4 0 R", "/A Do"),
		),
		"no catalog":           pdfOf("", "<<>>", page),
		"a catalog of numbers": pdfOf("", "[1 2 3]", page),
		"nested a hundred thousand deep": pdfOf(
			"", "<</Type /Catalog /Pages 2 0 R>>", "<</Type /Pages /Kids [3 0 R] /Count 1>>",
			"<</Type /Page /Parent 2 0 R /MediaBox "+deepArray+">>",
		),
		"a bomb": pdfOf(
			"", "<</Type /Catalog /Pages 2 0 R>>", "<</Type /Pages /Kids [3 0 R] /Count 1>>",
			"<</Type /Page /Parent 2 0 R /MediaBox [0 0 20 20] /Contents 4 0 R>>", stream("/Filter [/FlateDecode /FlateDecode]", bomb(t)),
		),
		"locked": pdfOf(
			"/Encrypt <</Filter /Standard /V 5 /R 6 /O () /U () /OE () /UE () /P -1 /Perms ()>> /ID [<00> <00>]",
			"<</Type /Catalog /Pages 2 0 R>>", "<</Type /Pages /Kids [3 0 R] /Count 1>>", page,
		),
		"its own ancestor": append(
			pdfOf("", "<</Type /Catalog /Pages 2 0 R>>", "<</Type /Pages /Kids [3 0 R] /Count 1>>", page),
			"\nxref\n0 0\ntrailer\n<</Prev 9>>\nstartxref\n9\n%%EOF\n"...),
		"fields in a circle": pdfOf(
			"", "<</Type /Catalog /Pages 2 0 R /AcroForm <</Fields [4 0 R]>>>>", "<</Type /Pages /Kids [3 0 R] /Count 1>>", page,
			"<</T (a) /Kids [4 0 R 4 0 R]>>",
		),
	}
	chance := rand.New(rand.NewPCG(1, 2))
	for n := range 16 {
		damaged := bytes.Clone(whole)
		for range 1 + chance.IntN(12) {
			switch at := chance.IntN(len(damaged) - 64); chance.IntN(4) {
			case 0:
				damaged[at] ^= byte(1 << chance.IntN(8))
			case 1:
				copy(damaged[at:], damaged[chance.IntN(len(damaged)-64):][:64])
			case 2:
				damaged = append(damaged[:at], damaged[at+1+chance.IntN(32):]...)
			default:
				damaged = slices.Insert(damaged, at, []byte("9 0 R ")...)
			}
		}
		cases[fmt.Sprint("damaged ", n)] = damaged
	}
	read, readable := 0, map[string]bool{}
	for name, data := range cases {
		file := filepath.Join(dir, "case.pdf")
		if err := os.WriteFile(file, data, 0o600); err != nil {
			t.Fatal(err)
		}
		for _, command := range [][]string{{"join", good, file}, {"read", "--intake", "../../demo/intakes/gift.json", file}} {
			cmd := exec.Command(binary, command...)
			cmd.Env = append(os.Environ(), limited+"=1")
			var said bytes.Buffer
			cmd.Stderr = &said
			out, err := cmd.Output()
			if err == nil {
				read++
				readable[name] = true
				continue
			}
			words, _, _ := strings.Cut(said.String(), "\n")
			if len(out) > 0 ||
				!strings.HasPrefix(words, "amberseal: ") && !strings.HasPrefix(words, "runtime: ") &&
					!strings.HasPrefix(words, "runtime/cgo: ") &&
					!strings.HasPrefix(words, "fatal error: ") {
				t.Errorf("%s, %s: %v, %d bytes, says %.200s", name, command[0], err, len(out), said.String())
			}
		}
	}
	if readable["locked"] {
		t.Error("a locked file was added as if it were open")
	}
	if read < 4 {
		t.Errorf("only %d were read", read)
	}
}

// bomb is 200 MB of zeros, deflated twice.
func bomb(t *testing.T) string {
	t.Helper()
	var once, twice bytes.Buffer
	w, outer := zlib.NewWriter(&once), zlib.NewWriter(&twice)
	zeros := make([]byte, 1<<20)
	for range 200 {
		if _, err := w.Write(zeros); err != nil {
			t.Fatal(err)
		}
	}
	w.Close()
	if _, err := outer.Write(once.Bytes()); err != nil {
		t.Fatal(err)
	}
	outer.Close()
	return twice.String()
}

// What a killed run left of children's work is taken away at the next start; what may still be worked in, and what is not ours, stays.
func TestWhatAKillLeftIsTakenAway(t *testing.T) {
	dir, now := t.TempDir(), time.Now()
	for name, age := range map[string]time.Duration{
		"amberseal-join-1": 2 * time.Hour, "amberseal-take-2": 25 * time.Hour, "amberseal-unpack-3": time.Minute,
		"amberseal-demo-4": 48 * time.Hour, "somebody-else": 48 * time.Hour, "amberseal-libreoffice-5": 3 * time.Hour,
	} {
		at := filepath.Join(dir, name)
		if err := os.MkdirAll(filepath.Join(at, "in"), 0o700); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(filepath.Join(at, "in", "001.pdf"), []byte("x"), 0o600); err != nil {
			t.Fatal(err)
		}
		if err := os.Chtimes(at, now.Add(-age), now.Add(-age)); err != nil {
			t.Fatal(err)
		}
	}
	if err := os.WriteFile(filepath.Join(dir, "amberseal-join-file"), nil, 0o600); err != nil {
		t.Fatal(err)
	}
	if err := tidy(dir, now); err != nil {
		t.Fatal(err)
	}
	left, err := filepath.Glob(filepath.Join(dir, "*"))
	for i := range left {
		left[i] = filepath.Base(left[i])
	}
	if want := []string{"amberseal-demo-4", "amberseal-join-file", "amberseal-unpack-3", "somebody-else"}; err != nil ||
		!slices.Equal(left, want) {
		t.Errorf("%q stay, not %q: %v", left, want, err)
	}
}
