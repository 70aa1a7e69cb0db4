package annex_test

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"amberseal/core/foreign/annex"
)

// sheet is a PDF of one page with such entries, and with more objects from number 4 on.
func sheet(page string, more ...string) []byte {
	var b bytes.Buffer
	b.WriteString("%PDF-1.7\n")
	objects := append([]string{"<</Type /Catalog /Pages 2 0 R>>", "<</Type /Pages /Count 1 /Kids [3 0 R]>>",
		"<</Type /Page /Parent 2 0 R " + page + ">>"}, more...)
	at := make([]int, len(objects))
	for i, o := range objects {
		at[i] = b.Len()
		fmt.Fprintf(&b, "%d 0 obj\n%s\nendobj\n", i+1, o)
	}
	start := b.Len()
	fmt.Fprintf(&b, "xref\n0 %d\n0000000000 65535 f \n", len(at)+1)
	for _, x := range at {
		fmt.Fprintf(&b, "%010d 00000 n \n", x)
	}
	fmt.Fprintf(&b, "trailer <</Size %d /Root 1 0 R>>\nstartxref\n%d\n%%%%EOF\n", len(at)+1, start)
	return b.Bytes()
}

func stream(entries, data string) string {
	return fmt.Sprintf("<<%s /Length %d>>\nstream\n%s\nendstream", entries, len(data), data)
}

const a4 = "/MediaBox [0 0 595 842] "

// plain is what a file holds, unpacked by qpdf, which finds no fault in it.
func plain(t *testing.T, data []byte) string {
	t.Helper()
	name := filepath.Join(t.TempDir(), "out.pdf")
	if err := os.WriteFile(name, data, 0o600); err != nil {
		t.Fatal(err)
	}
	if out, err := exec.Command("qpdf", "--check", name).CombinedOutput(); err != nil {
		t.Errorf("qpdf: %s", out)
	}
	out, err := exec.Command("qpdf", "--qdf", "--object-streams=disable", name, "-").Output()
	if err != nil {
		t.Fatal(err)
	}
	return string(out)
}

// Only what pages paint comes along: names that anybody gave stay, files, actions and remarks do not, wherever they hang.
func TestWhatComesAlong(t *testing.T) {
	sent := sheet(a4+"/Resources <</XObject <</AF 4 0 R /Metadata 5 0 R>> /Font <</F1 9 0 R>> /Properties <</MC0 7 0 R>> /AF [7 0 R]>> "+
		"/Contents 6 0 R /AF [7 0 R] /Metadata 8 0 R /Annots [<</Type /Annot /Subtype /Link /Rect [0 0 9 9] "+
		"/A <</S /URI /URI (https://evil.example)>>>>]",
		stream("/Type /XObject /Subtype /Form /BBox [0 0 9 9] /AF [7 0 R] /Metadata 8 0 R /PieceInfo <</X <</Private (PRIVATE-WORDS)>>>> "+
			"/Ref <</F (elsewhere.pdf) /Page 0>> /StructParents 3 /Resources <</Properties <</MC1 7 0 R>>>>", "/AF-PAINTS 1 pop"),
		stream("/Type /XObject /Subtype /Image /Width 1 /Height 1 /ColorSpace /DeviceGray /BitsPerComponent 8 /Alternates [<<>>]", "x"),
		stream("", "/OC /MC0 BDC q /AF Do /Metadata Do Q EMC BT /F1 12 Tf (PAINTED-WORDS) Tj ET"),
		"<</Type /Filespec /F (invoice.exe) /EF <</F 10 0 R>>>>",
		stream("/Type /Metadata /Subtype /XML", "<x>METADATA-WORDS</x>"),
		"<</Type /Font /Subtype /Type1 /BaseFont /Helvetica>>",
		stream("/Type /EmbeddedFile", "MZ-EVIL"),
	)
	own := sheet(a4+"/Resources <<>> /Contents 4 0 R", stream("", "% OUR-PAGE\n"))
	joined, added, err := annex.Join(own, [][]byte{sent})
	if err != nil || added != 1 {
		t.Fatal(added, err)
	}
	bundled, err := annex.Bundle([][]byte{own, sent})
	if err != nil {
		t.Fatal(err)
	}
	for what, data := range map[string][]byte{"joined": joined, "bundled": bundled} {
		text := plain(t, data)
		for _, kept := range []string{"OUR-PAGE", "PAINTED-WORDS", "AF-PAINTS", "/AF Do", "/Metadata Do"} {
			if !strings.Contains(text, kept) {
				t.Errorf("%s, it lost %q", what, kept)
			}
		}
		for _, gone := range []string{"invoice.exe", "MZ-EVIL", "METADATA-WORDS", "PRIVATE-WORDS", "elsewhere.pdf", "evil.example",
			"/Filespec", "/Alternates", "/StructParents"} {
			if strings.Contains(text, gone) {
				t.Errorf("%s, it holds %q", what, gone)
			}
		}
	}
}

// What cannot be printed, lies elsewhere or is larger than anything is refused, which one and why; the words come back out of another
// process.
func TestWhatIsNotAdded(t *testing.T) {
	own := sheet(a4)
	words := "/Contents 4 0 R"
	empty := stream("", "")
	image := func(w, h int) []byte {
		return sheet(a4+"/Resources <</XObject <</I 4 0 R>>>>", stream(fmt.Sprintf(
			"/Type /XObject /Subtype /Image /Width %d /Height %d /ColorSpace /DeviceGray /BitsPerComponent 8", w, h), "x"))
	}
	for what, x := range map[string]struct {
		data []byte
		says string
	}{
		"a huge page":        {sheet("/MediaBox [0 0 1000000000 1000000000]"+words, empty), "page 1: it has no size that can be printed"},
		"a large unit":       {sheet(a4+"/UserUnit 1000000"+words, empty), "no size that can be printed"},
		"nothing to be seen": {sheet(a4+"/CropBox [900 900 950 950]"+words, empty), "no size that can be printed"},
		"another file":       {sheet(a4+words, stream("/F (/etc/passwd)", "")), "lies in another file"},
		"a huge picture":     {image(60_000, 60_000), "60000 × 60000 points"},
		"no PDF":             {[]byte("no PDF"), "cannot be read"},
	} {
		good := image(2, 2)
		_, _, err := annex.Join(own, [][]byte{good, x.data})
		var r annex.Refused
		if !errors.As(err, &r) || r.N != 2 || !strings.Contains(r.Reason, x.says) || strings.Contains(r.Reason, "dict=") {
			t.Errorf("%s: %v", what, err)
			continue
		}
		if again, ok := annex.ReadRefused(err.Error()); !ok || again != r {
			t.Errorf("%s is read as %+v", what, again)
		}
	}
	for _, words := range []string{"", "PDF", "PDF x: y", "2: y", "a PDF 2: y", "PDF 2: "} {
		if r, ok := annex.ReadRefused(words); ok {
			t.Errorf("%q is read as %+v", words, r)
		}
	}
}
