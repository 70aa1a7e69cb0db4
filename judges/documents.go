package main

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"time"

	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/print/paper"
	"amberseal/core/print/seal"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
	"amberseal/demo"
)

var at = time.Date(2026, 11, 24, 9, 41, 0, 0, time.UTC)

func read(file string, into any) error {
	data, err := os.ReadFile(file)
	if err != nil {
		return err
	}
	if err := json.Unmarshal(data, into); err != nil {
		return fmt.Errorf("%s: %w", file, err)
	}
	return nil
}

// documents judges every document of the demo in every look, with answers as given, empty and long, the empty forms, a document of
// every block and of many scripts, files of word processors, and drawings. Each must be what it says it is, and those of the demo must
// say PDF/UA-1.
func documents(work string) error {
	lib := work + "/lib"
	if err := fetch("mvn", "-q", "-B", "-f", "judges/verapdf/pom.xml", "dependency:copy-dependencies",
		"-DoutputDirectory="+lib); err != nil {
		return err
	}
	files, err := filepath.Glob("demo/intakes/*.json")
	if err != nil || len(files) == 0 {
		return fmt.Errorf("there are no intakes of the demo: %w", err)
	}
	asked := []string{"-cp", lib + "/*", "judges/verapdf/Judge.java"}
	put := func(name string, data []byte, mustSay bool) error {
		file := work + "/" + name + ".pdf"
		says := levels(data)
		if mustSay && !strings.Contains(strings.Join(says, " "), "ua1") {
			return fmt.Errorf("%s does not say that it is PDF/UA-1", name)
		}
		for _, level := range says {
			asked = append(asked, level, file)
		}
		return os.WriteFile(file, data, 0o600)
	}
	for _, file := range append(files, "app/produce/testdata/sampler.json") {
		if err := ofIntake(file, put); err != nil {
			return err
		}
	}
	if err := ofWord(put); err != nil {
		return err
	}
	if err := ofDrawings(put); err != nil {
		return err
	}
	out, err := tool("java", asked...)
	fmt.Print(out)
	if err != nil {
		return fmt.Errorf("veraPDF found fault: %w", err)
	}
	return nil
}

// ofWord sets the word-processor files of several writers as they are: lists, tables, notes, columns, boxes and shapes of all kinds.
func ofWord(put func(name string, data []byte, mustSay bool) error) error {
	files, err := filepath.Glob("core/print/fromword/testdata/*.docx")
	if err != nil || len(files) == 0 {
		return fmt.Errorf("there are no word-processor files: %w", err)
	}
	for _, file := range files {
		data, err := os.ReadFile(file)
		if err != nil {
			return err
		}
		name := strings.TrimSuffix(filepath.Base(file), ".docx")
		set, _, err := produce.Typeset(data, name, at)
		if err != nil {
			return fmt.Errorf("%s: %w", file, err)
		}
		if err := put("word-"+name, set, false); err != nil {
			return err
		}
	}
	return nil
}

// ofIntake makes the documents of one intake.
func ofIntake(file string, put func(name string, data []byte, mustSay bool) error) error {
	var d intake.Design
	var h house.House
	if err := read(file, &d); err != nil {
		return err
	}
	if err := read("demo/house.json", &h); err != nil {
		return err
	}
	var raw form.Raw
	given := "demo/answers/" + d.Slug + ".json"
	ours := true // its words for pictures are ours
	if _, err := os.Stat(given); err != nil {
		given, ours = "app/produce/testdata/sampler-answers.json", false
	}
	if err := read(given, &raw); err != nil {
		return err
	}
	answers := map[string]form.Answers{
		"given": form.Check(
			d.Form, raw, h.Circumstances(at),
		).Answers, "empty": form.Sample(d.Form, form.Emptest), "long": form.Sample(d.Form, form.Longest),
		"scripts": scripts(d.Form),
	}
	for name, a := range answers {
		for _, look := range paper.Looks() {
			for i := range d.Documents {
				x := &d.Documents[i]
				if x.OnPages() || x.Brought() && look != paper.Looks()[0] {
					continue // nothing is claimed of what others made, and a look dresses blocks
				}
				x.Look, x.Page.Printed = look, nil
				f := phrase.Facts{House: h, Intake: d.Name, Form: d.Form, Answers: a, Number: d.Number.Number(212, at), Received: at,
					Made:  at,
					Check: produce.CheckAddress(h, seal.Code(link.Secret("judged"), d.Slug, x.Key, 1))}
				c, err := produce.Compose(d, x.Key, f, demo.Pictures, produce.Apart{})
				if err != nil {
					return fmt.Errorf("%s %s %s: %w", d.Slug, x.Key, name, err)
				}
				if err := put(strings.Join([]string{d.Slug, x.Key, string(look), name}, "-"), c.PDF, ours && x.Protect == nil); err != nil {
					return err
				}
			}
		}
	}
	for name, fillable := range map[string]bool{"blank": false, "fillable": true} {
		data, err := produce.Blank(d, h, fillable, demo.Pictures)
		if err != nil {
			return err
		}
		if err := put(d.Slug+"-"+name, data, ours); err != nil {
			return err
		}
	}
	return nil
}

// scripts answers what is asked for in words in many scripts.
func scripts(f form.Form) form.Answers {
	words, err := json.Marshal("王小明 한국어 Հայերեն ქართული বাংলা தமிழ் አማርኛ हिन्दी ไทย שָׁלוֹם שלום 123 العربية پژوهش ∈ 🎻 ﬁ responsibilities")
	if err != nil {
		return nil
	}
	raw := form.Raw{}
	for _, x := range f.Fields {
		if x.Kind == form.ShortText || x.Kind == form.LongText {
			raw[x.Key] = words
		}
	}
	return form.Load(f, raw)
}

var level = regexp.MustCompile(`<pdfaid:part>(\d)</pdfaid:part><pdfaid:conformance>(\w)<`)

// levels are what a file says it is: of PDF/A and PDF/UA.
func levels(data []byte) []string {
	var out []string
	if m := level.FindSubmatch(data); m != nil {
		out = append(out, string(m[1])+strings.ToLower(string(m[2])))
	}
	if strings.Contains(string(data), "<pdfuaid:part>1<") {
		out = append(out, "ua1")
	}
	return out
}
