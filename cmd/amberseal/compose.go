package main

import (
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"time"

	"amberseal/app/produce"
	"amberseal/core/form"
	"amberseal/core/house"
	"amberseal/core/intake"
	"amberseal/core/phrase"
)

// compose makes one document from files, without a server or a database.
func compose(args []string, stderr io.Writer) error {
	flags := flag.NewFlagSet("amberseal compose", flag.ContinueOnError)
	intakeFile := flags.String("intake", "", "the intake's design `FILE` (JSON)")
	key := flags.String("document", "", "the `KEY` of the document in the design")
	answersFile := flags.String("answers", "", "the answers' `FILE` (JSON object by field key)")
	houseFile := flags.String("house", "", "the house's `FILE` (JSON); a plain house when left out")
	out := flags.String("out", "", "where to write the PDF `FILE`")
	number := flags.String("number", "", "the submission's `NUMBER`; the pattern's first when left out")
	at := flags.String("at", "", "the `TIME` of receipt (RFC 3339); now when left out")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	for name, v := range map[string]string{"intake": *intakeFile, "document": *key, "answers": *answersFile, "out": *out} {
		if v == "" {
			return usageError{fmt.Sprintf("--%s is missing; see amberseal compose --help", name)}
		}
	}
	facts, design, pictures, err := readFacts(*intakeFile, *answersFile, *houseFile, *at)
	if err != nil {
		return err
	}
	facts.Number = *number
	if facts.Number == "" {
		facts.Number = design.Number.Number(1, facts.Received.In(facts.House.Location()))
	}
	c, err := produce.Compose(design, *key, facts, pictures)
	if err != nil {
		return fmt.Errorf("%s: %w", *intakeFile, err)
	}
	if err := c.Findings.Err(); err != nil {
		return err
	}
	if err := os.WriteFile(*out, c.PDF, 0o644); err != nil {
		return fmt.Errorf("the document could not be written: %w", err)
	}
	return nil
}

func readFacts(intakeFile, answersFile, houseFile, at string) (phrase.Facts, intake.Design, func(string) ([]byte, error), error) {
	fail := func(err error) (phrase.Facts, intake.Design, func(string) ([]byte, error), error) {
		return phrase.Facts{}, intake.Design{}, nil, err
	}
	data, err := os.ReadFile(intakeFile)
	if err != nil {
		return fail(fmt.Errorf("the intake could not be read: %w", err))
	}
	design, err := intake.Parse(data)
	if err != nil {
		return fail(fmt.Errorf("%s: %w", intakeFile, err))
	}
	h := house.New()
	if houseFile != "" {
		if err := readJSON(houseFile, &h); err != nil {
			return fail(err)
		}
		h = h.WithDefaults()
		if err := h.Check().Err(); err != nil {
			return fail(fmt.Errorf("%s:\n%w", houseFile, err))
		}
	}
	pictures := picturesBeside(intakeFile, houseFile)
	exists := func(name string) bool { _, err := pictures(name); return err == nil }
	if err := design.Check(exists).Err(); err != nil {
		return fail(fmt.Errorf("%s:\n%w", intakeFile, err))
	}
	var raw form.Raw
	if err := readJSON(answersFile, &raw); err != nil {
		return fail(err)
	}
	answers, findings := form.Check(design.Form, raw)
	if err := findings.Err(); err != nil {
		return fail(fmt.Errorf("%s:\n%w", answersFile, err))
	}
	received := time.Now().UTC()
	if at != "" {
		if received, err = time.Parse(time.RFC3339, at); err != nil {
			return fail(usageError{"--at is not a time such as 2026-11-24T09:41:00Z"})
		}
	}
	return phrase.Facts{House: h, Intake: design.Name, Form: design.Form, Answers: answers, Received: received, Made: received}, design, pictures, nil
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

// picturesBeside finds pictures in a folder “pictures” beside the files or one level up.
func picturesBeside(files ...string) func(string) ([]byte, error) {
	return func(name string) ([]byte, error) {
		for _, f := range files {
			if f == "" {
				continue
			}
			for _, dir := range []string{filepath.Dir(f), filepath.Dir(filepath.Dir(filepath.Clean(f)))} {
				if data, err := os.ReadFile(filepath.Join(dir, "pictures", filepath.Base(name))); err == nil {
					return data, nil
				}
			}
		}
		return nil, fmt.Errorf("it lies in no folder “pictures” beside the design")
	}
}
