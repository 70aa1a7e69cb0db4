package main

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"amberseal/app/produce"
	"amberseal/core/foreign/match"
	"amberseal/core/foreign/word"
	"amberseal/demo"
)

// asked is what the readers in Python are asked: pairs of a filled word-processor file and the PDF of it, and PDF forms with the values
// that have to be in their fields.
type asked struct {
	Pairs [][2]string `json:"pairs"`
	Forms []filled    `json:"forms"`
	Noted []noted     `json:"noted"`
}

// noted is a copy with comments.
type noted struct {
	File     string `json:"file"`
	Comments int    `json:"comments"`
}

type filled struct {
	File  string   `json:"file"`
	Has   []string `json:"has"`
	Count int      `json:"count"` // of fields
}

// readers judges filled files by python-docx, whose words are those of the PDF and which finds the comments, and by pikepdf, which finds
// the answers in fields.
func readers(work string) error {
	bin, err := python(work)
	if err != nil {
		return err
	}
	d, each, err := agreement()
	if err != nil {
		return err
	}
	var ask asked
	for name, f := range each {
		docx, err := produce.Word(d, "typed", f, demo.Pictures)
		if err != nil {
			return err
		}
		c, err := produce.Compose(d, "typed", f, demo.Pictures, produce.Apart{})
		if err != nil {
			return err
		}
		pair := [2]string{filepath.Join(work, name+".docx"), filepath.Join(work, name+".pdf")}
		for i, data := range [][]byte{docx, c.PDF} {
			if err := os.WriteFile(pair[i], data, 0o600); err != nil {
				return err
			}
		}
		ask.Pairs = append(ask.Pairs, pair)
	}
	for i := range d.Documents {
		d.Documents[i].Fillable = d.Documents[i].Key == "insurance-notice"
	}
	c, err := produce.Compose(d, "insurance-notice", each["given"], demo.Pictures, produce.Apart{})
	if err != nil {
		return err
	}
	notice := filepath.Join(work, "notice.pdf")
	if err := os.WriteFile(notice, c.PDF, 0o600); err != nil {
		return err
	}
	seen, err := produce.LookInto(d, "insurance-notice", demo.Pictures)
	if err != nil {
		return err
	}
	ask.Forms = append(ask.Forms, filled{File: notice, Count: len(seen.Placeholders), Has: []string{"HA-1", "Bao Tran"}})
	brought, err := os.ReadFile("e2e/files/agreement.docx")
	if err != nil {
		return err
	}
	copied, comments, err := word.Annotate(brought, match.For(d.Form, nil), d.Form)
	if err != nil {
		return err
	}
	file := filepath.Join(work, "noted.docx")
	if err := os.WriteFile(file, copied, 0o600); err != nil {
		return err
	}
	ask.Noted = append(ask.Noted, noted{file, comments})
	data, err := json.Marshal(ask)
	if err != nil {
		return err
	}
	list := filepath.Join(work, "asked.json")
	if err := os.WriteFile(list, data, 0o600); err != nil {
		return err
	}
	out, err := tool(bin+"python", "judges/readers/read.py", list)
	fmt.Print(out)
	if err != nil {
		return fmt.Errorf("a reader found fault: %w", err)
	}
	if !strings.Contains(out, "7 of 7") {
		return fmt.Errorf("the readers did not read all files")
	}
	return nil
}
