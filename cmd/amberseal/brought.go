package main

import (
	"bytes"
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/foreign/ground"
	"amberseal/core/foreign/match"
	"amberseal/core/foreign/word"
	"amberseal/core/intake"
	"amberseal/core/words/finding"
	"amberseal/core/words/house"
)

// placeholder is how inspect tells one.
type placeholder struct {
	Name  string     `json:"name"`
	Place string     `json:"place"`
	Kind  match.Kind `json:"kind"`
	Match string     `json:"match"`
	How   match.How  `json:"how"`
}

// told is how the commands tell a finding.
type told struct {
	Place    string        `json:"place"`
	Message  string        `json:"message"`
	Mend     string        `json:"mend"`
	Severity finding.Level `json:"severity"`
	Code     string        `json:"code"`
}

func tell(l finding.List) []told {
	out := make([]told, len(l))
	for i, f := range l {
		out[i] = told{f.Place, f.Message, f.Mend, f.Level, f.Code}
	}
	return out
}

// inspect lists what is to be filled in a file, and what is wrong with it.
func inspect(args []string, stdout, stderr io.Writer) error {
	flags := flag.NewFlagSet("amberseal inspect", flag.ContinueOnError)
	file := flags.String("file", "", "the `FILE` to look into")
	intakeFile := flags.String("intake", "", "the intake's design `FILE` (JSON) whose fields are to be matched; may be left out")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	if err := needed("inspect", map[string]string{"file": *file}); err != nil {
		return err
	}
	data, err := os.ReadFile(*file)
	if err != nil {
		return fmt.Errorf("the file could not be read: %w", err)
	}
	var asked form.Form
	var chosen map[string]match.Match
	if *intakeFile != "" {
		d, err := readDesign(*intakeFile)
		if err != nil {
			return err
		}
		asked, chosen = d.Form, d.MatchesOf(*file)
	}
	out := struct {
		Kind         string        `json:"kind"`
		Placeholders []placeholder `json:"placeholders"`
		Unprinted    []string      `json:"unprinted"`
		Findings     []told        `json:"findings"`
	}{"docx", []placeholder{}, []string{}, nil}
	found, kind, err := lookInto(data, match.For(asked, chosen), asked)
	if err != nil {
		return fmt.Errorf("%s: %w", *file, err)
	}
	out.Kind = kind
	for _, p := range found.Placeholders {
		out.Placeholders = append(out.Placeholders, placeholder{p.Name, p.Place, p.Kind, p.Match.String(), p.How})
	}
	out.Unprinted = append(out.Unprinted, found.Unprinted...)
	var findings finding.List
	for _, x := range found.Findings {
		unasked := slices.Contains([]string{"word.no-match", "word.stays", "ground.no-match"}, x.Code)
		if *intakeFile != "" || !unasked { // without an intake nothing can be matched
			findings = append(findings, x)
		}
	}
	out.Findings = tell(findings)
	text, err := json.MarshalIndent(out, "", "  ")
	if err != nil {
		return err
	}
	_, err = fmt.Fprintf(stdout, "%s\n", text)
	return err
}

// lookInto finds what is to be filled in a file, and of which kind it is.
func lookInto(data []byte, names *match.Names, asked form.Form) (found match.Inspection, kind string, err error) {
	if !bytes.HasPrefix(data, []byte("%PDF-")) {
		f, err := word.Open(data)
		if err != nil {
			return found, "", err
		}
		return f.Inspect(names, asked).Inspection, "docx", nil
	}
	kept, err := take(context.Background(), data)
	if err != nil {
		return found, "", err
	}
	g, err := ground.Decode(kept)
	if err != nil {
		return found, "", err
	}
	kind = "pdf"
	if g.Fillable() {
		kind = "pdf-form"
	}
	return g.Inspect(names, asked), kind, nil
}

func readDesign(file string) (intake.Design, error) {
	text, err := os.ReadFile(file)
	if err != nil {
		return intake.Design{}, fmt.Errorf("the intake could not be read: %w", err)
	}
	d, err := intake.Read(text)
	if err != nil {
		return d, fmt.Errorf("%s: %w", file, err)
	}
	return d, nil
}

// writeNotes writes a copy of a file with a comment at each fault.
func writeNotes(args []string, stdout, stderr io.Writer) error {
	flags := flag.NewFlagSet("amberseal notes", flag.ContinueOnError)
	file := flags.String("file", "", "the .docx `FILE`")
	intakeFile := flags.String("intake", "", "the intake's design `FILE` (JSON)")
	out := flags.String("out", "", "where to write the copy `FILE`")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	if err := needed("notes", map[string]string{"file": *file, "intake": *intakeFile, "out": *out}); err != nil {
		return err
	}
	data, err := os.ReadFile(*file)
	if err != nil {
		return fmt.Errorf("the file could not be read: %w", err)
	}
	d, err := readDesign(*intakeFile)
	if err != nil {
		return err
	}
	copied, n, err := word.Annotate(data, match.For(d.Form, d.MatchesOf(*file)), d.Form)
	if err != nil {
		return fmt.Errorf("%s: %w", *file, err)
	}
	fmt.Fprintf(stdout, "%d notes\n", n)
	return os.WriteFile(*out, copied, 0o644)
}

// writeStart writes a file to begin with.
func writeStart(args []string, stderr io.Writer) error {
	flags := flag.NewFlagSet("amberseal start", flag.ContinueOnError)
	intakeFile := flags.String("intake", "", "the intake's design `FILE` (JSON)")
	key := flags.String("document", "", "the `KEY` of a document designed here; the whole form when left out")
	houseFile := flags.String("house", "", "the house's `FILE` (JSON); a plain house when left out")
	out := flags.String("out", "", "where to write the .docx `FILE`")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	if err := needed("start", map[string]string{"intake": *intakeFile, "out": *out}); err != nil {
		return err
	}
	d, err := readDesign(*intakeFile)
	if err != nil {
		return err
	}
	h := house.New()
	if *houseFile != "" {
		if err := readJSON(*houseFile, &h); err != nil {
			return err
		}
		h = h.WithDefaults()
	}
	data, left, err := produce.Begin(d, *key, h)
	if err != nil {
		return fmt.Errorf("%s: %w", *intakeFile, err)
	}
	for _, x := range left {
		fmt.Fprintf(stderr, "left out, since such a file cannot hold it: %s\n", x)
	}
	return os.WriteFile(*out, data, 0o644)
}

// writeQuestions makes an intake of a file: its first document is that file, already matched, and a copy of it lies in “files” beside.
func writeQuestions(args []string, stderr io.Writer) error {
	flags := flag.NewFlagSet("amberseal questions", flag.ContinueOnError)
	file := flags.String("file", "", "the `FILE`, a .docx or a PDF form")
	out := flags.String("out", "", "where to write the intake `FILE` (JSON)")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	if err := needed("questions", map[string]string{"file": *file, "out": *out}); err != nil {
		return err
	}
	data, err := os.ReadFile(*file)
	if err != nil {
		return fmt.Errorf("the file could not be read: %w", err)
	}
	d, err := produce.IntakeOf(data, filepath.Base(*file), filepath.Base(*file), func(string) ([]byte, error) {
		return take(context.Background(), data)
	})
	if err != nil {
		return fmt.Errorf("%s: %w", *file, err)
	}
	text, err := json.MarshalIndent(d, "", "  ")
	if err != nil {
		return err
	}
	beside := filepath.Join(filepath.Dir(*out), "files")
	if err := os.MkdirAll(beside, 0o755); err != nil {
		return err
	}
	if err := os.WriteFile(filepath.Join(beside, filepath.Base(*file)), data, 0o644); err != nil {
		return err
	}
	return os.WriteFile(*out, append(text, '\n'), 0o644)
}

// setFile sets a word-processor file as it is.
func setFile(args []string, stderr io.Writer) error {
	flags := flag.NewFlagSet("amberseal typeset", flag.ContinueOnError)
	file := flags.String("file", "", "the .docx `FILE`")
	out := flags.String("out", "", "where to write the PDF `FILE`")
	findings := flags.String("findings", "", "where to write what could not be set, as JSON `FILE`")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	if err := needed("typeset", map[string]string{"file": *file, "out": *out}); err != nil {
		return err
	}
	data, err := os.ReadFile(*file)
	if err != nil {
		return fmt.Errorf("the file could not be read: %w", err)
	}
	name := strings.TrimSuffix(filepath.Base(*file), filepath.Ext(*file))
	set, found, err := produce.Typeset(data, name, time.Now().UTC())
	if err != nil {
		return fmt.Errorf("%s: %w", *file, err)
	}
	if err := os.WriteFile(*out, set, 0o644); err != nil {
		return fmt.Errorf("the document could not be written: %w", err)
	}
	if *findings == "" {
		for _, f := range found {
			fmt.Fprintln(stderr, f)
		}
		return nil
	}
	text, err := json.MarshalIndent(tell(found), "", "  ")
	if err != nil {
		return err
	}
	return os.WriteFile(*findings, append(text, '\n'), 0o644)
}
