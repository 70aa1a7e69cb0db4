package main

import (
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"strings"

	"amberseal/core/form"
	"amberseal/core/schema"
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
