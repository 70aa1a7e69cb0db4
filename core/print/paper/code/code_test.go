package code_test

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"amberseal/core/print/paper/code"
)

func ExampleMake() {
	s, err := code.Make(code.QR, "https://tarnhollow.example", 1)
	fmt.Println(s.Width == s.Height, len(s.Boxes) > 100, err)
	_, err = code.Make(code.EAN13, "4006381333932", 10)
	fmt.Println(err != nil)
	// Output:
	// true true <nil>
	// true
}

// A general reader of codes gives back the words, whatever their script: it is told that they are UTF-8 (zbarimg).
func TestWordsOfAllScriptsAreRead(t *testing.T) {
	for _, words := range []string{"é", "https://a.example/x?y=ä", "jR/9äb", "Łucja Żółć", "שלום", "王小明", "plain", "12345",
		"€ 12,50 — ≤ 3"} {
		s, err := code.Make(code.QR, words, 0)
		if err != nil {
			t.Fatal(err)
		}
		if got := strings.TrimSpace(string(scanned(t, s))); got != words {
			t.Errorf("“%s” is read as “%s”", words, got)
		}
	}
}

func scanned(t *testing.T, s code.Symbol) []byte {
	const scale = 4
	w, h := int(s.Width)*scale, int(s.Height)*scale
	pixels := bytes.Repeat([]byte{255}, w*h)
	for _, b := range s.Boxes {
		for y := int(b[1]) * scale; y < int(b[1]+b[3])*scale; y++ {
			for x := int(b[0]) * scale; x < int(b[0]+b[2])*scale; x++ {
				pixels[y*w+x] = 0
			}
		}
	}
	file := filepath.Join(t.TempDir(), "code.pgm")
	if err := os.WriteFile(file, append(fmt.Appendf(nil, "P5 %d %d 255\n", w, h), pixels...), 0o600); err != nil {
		t.Fatal(err)
	}
	out, err := exec.Command("zbarimg", "-q", "--raw", file).Output()
	if err != nil {
		t.Fatalf("zbarimg is needed for this check: %v", err)
	}
	return out
}
