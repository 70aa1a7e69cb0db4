package main

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/foreign/match"
	"amberseal/core/foreign/word"
	"amberseal/core/intake"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
	"amberseal/demo"
)

// wordFiles judges word-processor files that are filled, annotated and made to begin with, by a reader that carries the schemas of
// ISO/IEC 29500 (Apache POI with ooxml-full): each is valid, or as valid as the file that was brought, and says the answers.
func wordFiles(work string) error {
	lib := work + "/lib"
	if err := fetch("mvn", "-q", "-B", "-f", "judges/poi/pom.xml", "dependency:copy-dependencies", "-DoutputDirectory="+lib); err != nil {
		return err
	}
	asked := []string{"-cp", lib + "/*", "judges/poi/Judge.java"}
	says := map[string]string{} // what a file has to say
	put := func(name string, data []byte, words string) error {
		file := filepath.Join(work, name+".docx")
		asked, says[file] = append(asked, file), words
		return os.WriteFile(file, data, 0o600)
	}
	if err := filledFiles(put); err != nil {
		return err
	}
	if err := begunFiles(put); err != nil {
		return err
	}
	out, err := tool("java", asked...)
	if err != nil {
		return fmt.Errorf("%w\n%s", err, tail(out))
	}
	judged, faulty := 0, 0
	for line := range strings.Lines(out) {
		parts := strings.Split(strings.TrimSuffix(line, "\n"), "\t")
		want, ours := says[parts[0]]
		if !ours || len(parts) != 4 {
			continue
		}
		judged++
		if parts[1] != "0" || !strings.Contains(parts[3], want) {
			faulty++
			said := strings.Contains(parts[3], want)
			fmt.Printf("%s: %s faults (%s), “%s” in it: %v\n", filepath.Base(parts[0]), parts[1], parts[2], want, said)
		}
	}
	fmt.Printf("%d of %d word-processor files are valid and say the answers\n", judged-faulty, len(says))
	if faulty > 0 || judged != len(says) {
		return fmt.Errorf("%d files are not as they should be, %d were not judged", faulty, len(says)-judged)
	}
	return nil
}

type putter func(name string, data []byte, words string) error

// agreement is the demo's own, with the facts of answers of several kinds.
func agreement() (d intake.Design, each map[string]phrase.Facts, err error) {
	var h house.House
	var raw form.Raw
	for file, into := range map[string]any{"demo/intakes/hire-agreement.json": &d, "demo/house.json": &h,
		"demo/answers/hire-agreement.json": &raw} {
		if err := read(file, into); err != nil {
			return d, nil, err
		}
	}
	each = map[string]phrase.Facts{}
	for name, a := range map[string]form.Answers{
		"given": form.Check(d.Form, raw, h.Circumstances(at)).Answers, "made-up": form.Sample(d.Form, form.MadeUp),
		"empty": form.Sample(d.Form, form.Emptest), "long": form.Sample(d.Form, form.Longest), "scripts": scripts(d.Form),
	} {
		each[name] = phrase.Facts{House: h, Intake: d.Name, Form: d.Form, Answers: a, Number: "HA-1", Received: at, Made: at}
	}
	return d, each, nil
}

// filledFiles are the demo’s own agreement with answers of several kinds, and a copy with comments.
func filledFiles(put putter) error {
	d, each, err := agreement()
	if err != nil {
		return err
	}
	for name, f := range each {
		data, err := produce.Word(d, "typed", f, demo.Pictures)
		if err != nil {
			return err
		}
		if err := put("filled-"+name, data, "HA-1"); err != nil {
			return err
		}
	}
	brought, err := os.ReadFile("e2e/files/agreement.docx")
	if err != nil {
		return err
	}
	copied, n, err := word.Annotate(brought, match.For(d.Form, nil), d.Form)
	if err != nil || n == 0 {
		return fmt.Errorf("the copy has %d comments: %w", n, err)
	}
	return put("notes", copied, "")
}

// begunFiles are files to begin with: of the whole form and of each document.
func begunFiles(put putter) error {
	files, err := filepath.Glob("demo/intakes/*.json")
	if err != nil {
		return err
	}
	for _, file := range files {
		var d intake.Design
		if err := read(file, &d); err != nil {
			return err
		}
		keys := []string{""}
		for _, x := range d.Documents {
			if !x.Brought() {
				keys = append(keys, x.Key)
			}
		}
		for _, key := range keys {
			data, _, err := produce.Begin(d, key, house.New())
			if err != nil {
				return err
			}
			if err := put(strings.Join([]string{"begin", d.Slug, key}, "-"), data, ""); err != nil {
				return err
			}
		}
	}
	return nil
}
