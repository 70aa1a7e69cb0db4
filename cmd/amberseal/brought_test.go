package main

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"encoding/xml"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// command runs a command in this process and gives what it said.
func command(t *testing.T, args ...string) (said string, err error) {
	t.Helper()
	var out, told bytes.Buffer
	err = run(context.Background(), args, &out, &told)
	return out.String() + told.String(), err
}

func done(t *testing.T, args ...string) string {
	t.Helper()
	said, err := command(t, args...)
	if err != nil {
		t.Fatalf("%s: %v\n%s", strings.Join(args, " "), err, said)
	}
	return said
}

// words are those that poppler finds in a PDF.
func words(t *testing.T, file string) string {
	t.Helper()
	out, err := exec.Command("pdftotext", file, "-").Output()
	if err != nil {
		t.Fatal(err)
	}
	return strings.Join(strings.Fields(string(out)), " ")
}

// The commands for documents that a house brought, from the file that it has to the PDF with answers, each by what the next one reads.
func TestCommandsOfBroughtDocuments(t *testing.T) {
	dir := t.TempDir()
	at := func(name string) string { return filepath.Join(dir, name) }
	const agreement, hire = "../../e2e/files/agreement.docx", "../../demo/intakes/hire-agreement.json"

	var looked struct {
		Kind         string
		Placeholders []struct{ Name, Place, Match, How string }
		Findings     []map[string]string
	}
	if err := json.Unmarshal([]byte(done(t, "inspect", "--file", agreement, "--intake", hire)), &looked); err != nil {
		t.Fatal(err)
	}
	if looked.Kind != "docx" || len(looked.Placeholders) < 10 || len(looked.Findings) == 0 {
		t.Fatalf("inspect: %+v", looked)
	}
	matched := 0
	for _, p := range looked.Placeholders {
		if p.Name == "" || p.Place == "" {
			t.Errorf("inspect: a placeholder without a name or place: %+v", p)
		}
		if p.Match != "" && p.How != "" {
			matched++
		}
	}
	faults := 0
	for _, f := range looked.Findings {
		if f["place"] == "" || f["message"] == "" || f["severity"] != "fault" && f["severity"] != "notice" {
			t.Errorf("inspect: %v", f)
		}
		if f["severity"] == "fault" {
			faults++
		}
	}
	if matched == 0 || faults == 0 {
		t.Errorf("inspect: %d matched, %d faults", matched, faults)
	}

	done(t, "notes", "--file", agreement, "--intake", hire, "--out", at("noted.docx"))
	if n := comments(t, at("noted.docx")); n < faults {
		t.Errorf("notes: %d comments for %d faults", n, faults)
	}

	done(t, "start", "--intake", hire, "--out", at("begin.docx"))
	done(t, "questions", "--file", at("begin.docx"), "--out", at("begun/begin.json"))
	if _, err := os.Stat(at("begun/files/begin.docx")); err != nil {
		t.Error("questions: the file is not beside the intake")
	}
	var begun struct {
		Form      struct{ Fields []struct{ Key string } }
		Documents []struct{ Key string }
	}
	data, err := os.ReadFile(at("begun/begin.json"))
	if err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal(data, &begun); err != nil || len(begun.Form.Fields) < 8 || len(begun.Documents) == 0 {
		t.Fatalf("questions: %d fields, %d documents, %v", len(begun.Form.Fields), len(begun.Documents), err)
	}

	for _, name := range []string{"x.docx", "x.pdf"} {
		done(t, "compose", "--intake", hire, "--document", "typed", "--answers", "../../demo/answers/hire-agreement.json",
			"--number", "HA-7", "--out", at(name))
	}
	done(t, "typeset", "--file", at("x.docx"), "--out", at("again.pdf"), "--findings", at("found.json"))
	if ours, again := words(t, at("x.pdf")), words(t, at("again.pdf")); ours != again || !strings.Contains(ours, "HA-7") {
		t.Errorf("the PDF of the filled file says other things:\n%s\n%s", ours, again)
	}
	var found []map[string]string
	if data, err = os.ReadFile(at("found.json")); err != nil || json.Unmarshal(data, &found) != nil || found == nil {
		t.Errorf("typeset: the findings are %s, %v", data, err)
	}

	if said, err := command(t, "inspect", "--file", hire); err == nil || !strings.Contains(err.Error(), "hire-agreement.json") {
		t.Errorf("inspect takes what is no document: %s", said)
	}
}

// comments counts those of a file.
func comments(t *testing.T, file string) (n int) {
	t.Helper()
	z, err := zip.OpenReader(file)
	if err != nil {
		t.Fatal(err)
	}
	defer z.Close()
	part, err := z.Open("word/comments.xml")
	if err != nil {
		t.Fatal(err)
	}
	defer part.Close()
	for d := xml.NewDecoder(part); ; {
		token, err := d.Token()
		if err != nil {
			return n
		}
		if e, ok := token.(xml.StartElement); ok && e.Name.Local == "comment" {
			n++
		}
	}
}
