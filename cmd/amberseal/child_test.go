package main

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// The child adds pages within its limits and says in one line why it cannot; a file that would take all memory ends the child
// alone.
func TestTheChildAddsPages(t *testing.T) {
	dir := t.TempDir()
	document, copy := filepath.Join(dir, "document.pdf"), filepath.Join(dir, "copy.pdf")
	for file, args := range map[string][]string{
		document: {"compose", "--intake", "../../demo/intakes/gift.json", "--answers", "../../demo/answers/gift.json", "--house", "../../demo/house.json", "--document", "letter", "--archival", "none", "--out", document},
		copy:     {"blank", "--intake", "../../demo/intakes/gift.json", "--fillable", "--out", copy},
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
		"text": "no PDF", "number": "%PDF-1.7\n2147483647 0 obj<<>>endobj\nxref\n0 2147483647\ntrailer<</Size 2147483647/Root 1 0 R>>\nstartxref\n9\n%%EOF", "empty": "",
	} {
		bad := filepath.Join(dir, name+".pdf")
		if err := os.WriteFile(bad, []byte(content), 0o600); err != nil {
			t.Fatal(err)
		}
		if out, said := join(document, copy, bad); len(out) > 0 || !strings.HasPrefix(said, "amberseal: PDF 2: ") || strings.Count(said, "\n") != 1 {
			t.Errorf("%s: %d bytes, says %q", name, len(out), said)
		}
	}
}
