package main

import (
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"amberseal/app/produce"
	"amberseal/app/receive"
	"amberseal/core/ask/form"
	"amberseal/core/ask/schema"
	"amberseal/core/foreign/fill"
	"amberseal/core/intake"
	"amberseal/core/words/house"
	"amberseal/core/words/locale"
)

// needed refuses a command whose flags were left out.
func needed(command string, flags map[string]string) error {
	for name, v := range flags {
		if v == "" {
			return usageError{fmt.Sprintf("--%s is missing; see amberseal %s --help", name, command)}
		}
	}
	return nil
}

// checked is what amberseal check prints.
type checked struct {
	Visible    []string                `json:"visible"`
	Required   []string                `json:"required"`
	Hidden     map[string]*form.Hiding `json:"hidden"`
	Calculated map[string]form.Value   `json:"calculated"`
	Answers    form.Answers            `json:"answers"`
	Findings   []pathFinding           `json:"findings"`
}

type pathFinding struct {
	Path    string `json:"path"`
	Message string `json:"message"`
}

// check prints what became of answers, as JSON. Findings are its output, not its failure.
func check(args []string, stdout, stderr io.Writer) error {
	flags := flag.NewFlagSet("amberseal check", flag.ContinueOnError)
	intakeFile := flags.String("intake", "", "the intake's design `FILE` (JSON)")
	answersFile := flags.String("answers", "", "the answers' `FILE` (JSON object by field key)")
	houseFile := flags.String("house", "", "the house's `FILE` (JSON); a plain house when left out")
	at := flags.String("at", "", "the `TIME` of answering (RFC 3339); now when left out")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	if err := needed("check", map[string]string{"intake": *intakeFile, "answers": *answersFile}); err != nil {
		return err
	}
	a, err := readAsked(*intakeFile, *answersFile, *houseFile, *at)
	if err != nil {
		return err
	}
	r := a.check()
	out := checked{
		Visible: append([]string{}, r.Visible...), Required: append([]string{}, r.Required...), Hidden: r.Hidden,
		Calculated: r.Calculated(a.design.Form), Answers: r.Answers, Findings: []pathFinding{},
	}
	for _, f := range r.Findings {
		out.Findings = append(out.Findings, pathFinding{f.Place, strings.TrimSpace(f.Message + " " + f.Mend)})
	}
	enc := json.NewEncoder(stdout)
	enc.SetIndent("", "  ")
	enc.SetEscapeHTML(false)
	return enc.Encode(out)
}

// writeSchema prints the form as a JSON Schema.
func writeSchema(args []string, stdout, stderr io.Writer) error {
	flags := flag.NewFlagSet("amberseal schema", flag.ContinueOnError)
	intakeFile := flags.String("intake", "", "the intake's design `FILE` (JSON)")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	if err := needed("schema", map[string]string{"intake": *intakeFile}); err != nil {
		return err
	}
	a, err := readAsked(*intakeFile, "", "", "")
	if err != nil {
		return err
	}
	text, err := schema.Write(a.design.Name, a.design.Form)
	if err != nil {
		return err
	}
	_, err = fmt.Fprintf(stdout, "%s\n", text)
	return err
}

// writeBlank makes the empty form as a PDF.
func writeBlank(args []string, stderr io.Writer) error {
	flags := flag.NewFlagSet("amberseal blank", flag.ContinueOnError)
	intakeFile := flags.String("intake", "", "the intake's design `FILE` (JSON)")
	houseFile := flags.String("house", "", "the house's `FILE` (JSON); a plain house when left out")
	fillable := flags.Bool("fillable", false, "with fields to fill on screen")
	out := flags.String("out", "", "where to write the PDF `FILE`")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	if err := needed("blank", map[string]string{"intake": *intakeFile, "out": *out}); err != nil {
		return err
	}
	a, err := readAsked(*intakeFile, "", *houseFile, "")
	if err != nil {
		return err
	}
	data, err := produce.Blank(a.design, a.house, *fillable, a.pictures)
	if err != nil {
		return err
	}
	if err := os.WriteFile(*out, data, 0o644); err != nil {
		return fmt.Errorf("the blank copy could not be written: %w", err)
	}
	return nil
}

// takesFile is the one command that takes a file's name without a flag.
const takesFile = "amberseal read"

// readFilled prints the answers of a filled copy, as JSON that check and compose read.
func readFilled(args []string, stdout, stderr io.Writer) error {
	flags := flag.NewFlagSet(takesFile, flag.ContinueOnError)
	intakeFile := flags.String("intake", "", "the intake's design `FILE` (JSON); the filled copy's PDF or FDF file comes last")
	houseFile := flags.String("house", "", "the house's `FILE` (JSON), whose language says how dates are written")
	unchecked := flags.Bool("unchecked", false, "do not look for faults in the intake")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	if err := needed("read", map[string]string{"intake": *intakeFile}); err != nil {
		return err
	}
	if flags.NArg() != 1 {
		return usageError{"the filled copy is missing: amberseal read --intake FILE FILE.pdf"}
	}
	a, err := readAsked(*intakeFile, "", *houseFile, "")
	if err != nil && !(*unchecked && a.design.Slug != "") {
		return err
	}
	if os.Getenv(limited) != "" {
		if err := limit(); err != nil {
			return err
		}
	}
	data, err := os.ReadFile(flags.Arg(0))
	if err != nil {
		return err
	}
	read := fill.Values
	if fill.IsFDF(data) {
		read = fill.FDF
	}
	values, err := read(data)
	if err != nil {
		return fmt.Errorf("%s: %w", flags.Arg(0), err)
	}
	enc := json.NewEncoder(stdout)
	enc.SetIndent("", "  ")
	enc.SetEscapeHTML(false)
	return enc.Encode(fill.Answers(a.design.Form, values, locale.For(a.house.Language), a.house.Currency))
}

// readCopy reads a filled copy in a child of this program, so that a hostile file ends the child alone.
func readCopy(ctx context.Context, d intake.Design, h house.House, data []byte) (form.Raw, error) {
	dir, err := os.MkdirTemp("", "amberseal-copy-")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	design, err := json.Marshal(d)
	if err != nil {
		return nil, err
	}
	home, err := json.Marshal(h)
	if err != nil {
		return nil, err
	}
	files := map[string][]byte{"intake.json": design, "house.json": home, "copy.pdf": data}
	for name, content := range files {
		if err := os.WriteFile(filepath.Join(dir, name), content, 0o600); err != nil {
			return nil, err
		}
	}
	e, err := child(
		ctx, "read", "--unchecked", "--intake", filepath.Join(dir, "intake.json"), "--house", filepath.Join(dir, "house.json"),
		filepath.Join(dir, "copy.pdf"),
	)
	if err != nil {
		if _, after, ok := strings.Cut(e.said, "copy.pdf: "); ok {
			return nil, receive.UnreadableCopy{Reason: after}
		}
		return nil, receive.UnreadableCopy{Reason: "the PDF could not be read within its limits"}
	}
	var raw form.Raw
	return raw, json.Unmarshal(e.out, &raw)
}
