package main

import (
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"time"

	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/foreign/match"
	"amberseal/core/foreign/word"
	"amberseal/core/intake"
	"amberseal/core/words/finding"
)

// placeholder is how inspect tells one.
type placeholder struct {
	Name  string    `json:"name"`
	Place string    `json:"place"`
	Kind  word.Kind `json:"kind"`
	Match string    `json:"match"`
	How   match.How `json:"how"`
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
		text, err := os.ReadFile(*intakeFile)
		if err != nil {
			return fmt.Errorf("the intake could not be read: %w", err)
		}
		d, err := intake.Read(text)
		if err != nil {
			return fmt.Errorf("%s: %w", *intakeFile, err)
		}
		asked, chosen = d.Form, d.MatchesOf(*file)
	}
	out := struct {
		Kind         string        `json:"kind"`
		Placeholders []placeholder `json:"placeholders"`
		Unprinted    []string      `json:"unprinted"`
		Findings     finding.List  `json:"findings"`
	}{"docx", []placeholder{}, []string{}, finding.List{}}
	f, err := word.Open(data)
	if err != nil {
		return fmt.Errorf("%s: %w", *file, err)
	}
	found := f.Inspect(match.For(asked, chosen), asked)
	for _, p := range found.Placeholders {
		out.Placeholders = append(out.Placeholders, placeholder{p.Name, p.Place, p.Kind, p.Match.String(), p.How})
	}
	out.Unprinted = append(out.Unprinted, found.Unprinted...)
	for _, x := range found.Findings {
		if *intakeFile != "" || x.Code != "word.no-match" && x.Code != "word.stays" { // without an intake nothing can be matched
			out.Findings = append(out.Findings, x)
		}
	}
	text, err := json.MarshalIndent(out, "", "  ")
	if err != nil {
		return err
	}
	_, err = fmt.Fprintf(stdout, "%s\n", text)
	return err
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
	text, err := json.MarshalIndent(append(finding.List{}, found...), "", "  ")
	if err != nil {
		return err
	}
	return os.WriteFile(*findings, append(text, '\n'), 0o644)
}
