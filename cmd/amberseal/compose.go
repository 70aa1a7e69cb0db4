package main

import (
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
	"amberseal/core/enclosure"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
	"amberseal/core/print/seal"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// compose makes one document from files, without a server or a database.
func compose(args []string, stderr io.Writer) error {
	flags := flag.NewFlagSet("amberseal compose", flag.ContinueOnError)
	intakeFile := flags.String("intake", "", "the intake's design `FILE` (JSON)")
	key := flags.String("document", "", "the `KEY` of the document in the design")
	answersFile := flags.String("answers", "", "the answers' `FILE` (JSON object by field key)")
	houseFile := flags.String("house", "", "the house's `FILE` (JSON); a plain house when left out")
	out := flags.String("out", "", "where to write the `FILE`: a PDF, or the filled .docx of a document that is one")
	number := flags.String("number", "", "the submission's `NUMBER`; the pattern's first when left out")
	look := flags.String("look", "", "dress it as ledger, letter or ticket; as designed when left out")
	trial := flags.Bool("trial", false, "a trial: a mark across each page, and no number of a submission")
	password := flags.String("password", "", "the `PASSWORD` that opens it; as designed when left out")
	archival := flags.String("archival", "", "the `LEVEL` of PDF/A: a-1b, a-2b, a-3b or none; as designed when left out")
	placements := flags.String("placements", "", "where to write which block landed where, as JSON `FILE`")
	at := flags.String("at", "", "the `TIME` of receipt (RFC 3339); now when left out")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	if err := needed("compose", map[string]string{"intake": *intakeFile, "document": *key, "answers": *answersFile,
		"out": *out}); err != nil {
		return err
	}
	a, err := readAsked(*intakeFile, *answersFile, *houseFile, *at)
	if err != nil {
		return err
	}
	checked := a.check()
	if err := checked.Findings.Err(); err != nil {
		return fmt.Errorf("%s:\n%w", *answersFile, err)
	}
	facts := phrase.Facts{
		House:    a.house,
		Intake:   a.design.Name,
		Form:     a.design.Form,
		Answers:  checked.Answers,
		Received: a.at,
		Made:     a.at,
		Number:   *number,
	}
	if facts.Trial = *trial; *trial {
		facts.Check = produce.CheckAddress(a.house, seal.Trial)
	}
	if *look != "" && !slices.Contains(paper.Looks(), paper.Look(*look)) {
		return usageError{fmt.Sprintf("there is no look called “%s”; choose ledger, letter or ticket", *look)}
	}
	if *archival != "" && !slices.Contains(paper.ArchivalLevels(), paper.Archival(*archival)) {
		return usageError{fmt.Sprintf("there is no archival level called “%s”; choose a-1b, a-2b, a-3b or none", *archival)}
	}
	dress(&a.design, *key, paper.Look(*look), paper.Archival(*archival), *password)
	if err := a.design.Check(a.has).Err(); err != nil {
		return fmt.Errorf("%s, as asked for:\n%w", *intakeFile, err)
	}
	switch {
	case facts.Number != "":
	case *trial:
		facts.Number = facts.Locale().Trial()
	default:
		facts.Number = a.design.Number.Number(1, a.at.In(a.house.Location()))
	}
	only := a.design // the files of the others are not asked for
	only.Documents = slices.DeleteFunc(slices.Clone(only.Documents), func(x paper.Document) bool { return x.Key != *key })
	if err := produce.CheckBrought(only, a.pictures).Err(); err != nil {
		return fmt.Errorf("%s:\n%w", *intakeFile, err)
	}
	if strings.EqualFold(filepath.Ext(*out), ".docx") {
		data, err := produce.Word(a.design, *key, facts, a.pictures)
		if err != nil {
			return err
		}
		return os.WriteFile(*out, data, 0o644)
	}
	profile, err := os.UserCacheDir()
	if err != nil {
		profile = os.TempDir()
	}
	aside := apart(filepath.Join(profile, "amberseal-libreoffice"))(context.Background())
	c, err := produce.Compose(a.design, *key, facts, a.pictures, aside)
	if err != nil {
		return fmt.Errorf("%s: %w", *intakeFile, err)
	}
	if err := c.Findings.Err(); err != nil {
		return err
	}
	for _, f := range c.Findings {
		fmt.Fprintln(os.Stderr, f)
	}
	if err := os.WriteFile(*out, c.PDF, 0o644); err != nil {
		return fmt.Errorf("the document could not be written: %w", err)
	}
	if *placements == "" {
		return nil
	}
	text, err := json.MarshalIndent(c.Placements, "", "  ")
	if err != nil {
		return err
	}
	return os.WriteFile(*placements, append(text, '\n'), 0o644)
}

// dress gives the document another look, archival level and password, where there are any.
func dress(d *intake.Design, key string, look paper.Look, archival paper.Archival, password string) {
	for i := range d.Documents {
		x := &d.Documents[i]
		if x.Key != key {
			continue
		}
		if look != "" {
			x.Look = look
		}
		if archival != "" {
			x.Archival = archival
		}
		if password != "" {
			protect := paper.Protect{}
			if x.Protect != nil {
				protect = *x.Protect
			}
			protect.Password = phrase.Phrase{{Text: password}}
			x.Protect = &protect
		}
	}
}

// asked is an intake with answers to it, read from files.
type asked struct {
	design   intake.Design
	house    house.House
	pictures func(string) ([]byte, error)
	raw      form.Raw
	at       time.Time
}

// readAsked reads an intake, a house and answers; the house's and answers' files may be left out. The intake must
// have no faults.
func readAsked(intakeFile, answersFile, houseFile, at string) (asked, error) {
	a := asked{house: house.New(), at: time.Now().UTC()}
	var err error
	if a.design, err = readDesign(intakeFile); err != nil {
		return a, err
	}
	if houseFile != "" {
		if err := readJSON(houseFile, &a.house); err != nil {
			return a, err
		}
		a.house = a.house.WithDefaults()
		if err := a.house.Check().Err(); err != nil {
			return a, fmt.Errorf("%s:\n%w", houseFile, err)
		}
	}
	a.pictures = picturesBeside(intakeFile, houseFile)
	if err := a.design.Check(a.has).Err(); err != nil {
		return a, fmt.Errorf("%s:\n%w", intakeFile, err)
	}
	if answersFile != "" {
		if err := readJSON(answersFile, &a.raw); err != nil {
			return a, err
		}
	}
	if at != "" {
		if a.at, err = time.Parse(time.RFC3339, at); err != nil {
			return a, usageError{"--at is not a time such as 2026-11-24T09:41:00Z"}
		}
	}
	return a, nil
}

func (a asked) has(picture string) bool {
	_, err := a.pictures(picture)
	return err == nil
}

func (a asked) check() form.Result {
	return form.Check(a.design.Form, a.raw, a.house.Circumstances(a.at))
}

func readJSON(file string, into any) error {
	data, err := os.ReadFile(file)
	if err != nil {
		return err
	}
	if err := json.Unmarshal(data, into); err != nil {
		return fmt.Errorf("%s: %w", file, err)
	}
	return nil
}

// picturesBeside finds pictures in a folder “pictures” beside the files or one level up, fonts in a folder “fonts”, and documents’ own
// files in a folder “files”.
func picturesBeside(files ...string) func(string) ([]byte, error) {
	taken := map[string][]byte{}
	var find func(name string) ([]byte, error)
	find = func(name string) ([]byte, error) {
		folder := "pictures"
		if _, ok := enclosure.FixedName(name); ok {
			return nil, nil // it is a house's, which a command does not see
		}
		if file, ok := paper.GroundName(name); ok {
			data, err := find(paper.BroughtFile(file))
			if err == nil && taken[file] == nil {
				taken[file], err = take(context.Background(), data)
			}
			return taken[file], err
		}
		if font, ok := paper.FontName(name); ok {
			folder, name = "fonts", font
		} else if file, ok := paper.BroughtName(name); ok {
			folder, name = "files", file
		}
		for _, f := range files {
			if f == "" {
				continue
			}
			for _, dir := range []string{filepath.Dir(f), filepath.Dir(filepath.Dir(filepath.Clean(f)))} {
				if data, err := os.ReadFile(filepath.Join(dir, folder, filepath.Base(name))); err == nil {
					return data, nil
				}
			}
		}
		return nil, fmt.Errorf("it lies in no folder “%s” beside the design", folder)
	}
	return find
}
