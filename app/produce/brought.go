package produce

import (
	"fmt"
	"path"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"amberseal/core/filing"
	"amberseal/core/foreign/match"
	"amberseal/core/foreign/word"
	"amberseal/core/intake"
	"amberseal/core/notice"
	"amberseal/core/print/fromword"
	"amberseal/core/print/paper"
	"amberseal/core/print/pdf"
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// opened are the files of documents that were read already.
var opened word.Kept

// openBrought reads the file of a document.
func openBrought(x paper.Document, pictures paper.Pictures) (*word.File, error) {
	data, err := pictures(paper.BroughtFile(x.File))
	if err != nil {
		return nil, fmt.Errorf("the file “%s” is not there: %w", x.File, err)
	}
	f, err := opened.Open(data)
	if err != nil {
		return nil, fmt.Errorf("“%s” cannot be read: %w", x.File, err)
	}
	return f, nil
}

// CheckBrought finds what is wrong in the files of a design's documents. Places are documents/KEY/file and where in the file.
func CheckBrought(d intake.Design, pictures paper.Pictures) finding.List {
	var l finding.List
	for _, x := range d.Documents {
		if !x.Brought() {
			continue
		}
		place := "documents/" + x.Key + "/file"
		f, err := openBrought(x, pictures)
		if err != nil {
			l.Fault(place, "produce.file-unreadable", "reason", err.Error())
			continue
		}
		for _, found := range f.Inspect(match.For(d.Form, x.Matches), d.Form).Findings {
			found.Place = place + "/" + found.Place
			l = append(l, found)
		}
	}
	return l
}

// fill fills a document's file.
func fill(x paper.Document, facts phrase.Facts, pictures paper.Pictures) (*word.Filled, error) {
	f, err := openBrought(x, pictures)
	if err != nil {
		return nil, err
	}
	author := x.Author.Plain(facts)
	if author == "" {
		author = facts.House.Name
	}
	return f.Fill(word.Filling{
		Names: match.For(facts.Form, x.Matches), Facts: facts, Picture: pictures, Title: x.Title.Plain(facts), Author: author,
		Subject: x.Subject.Plain(facts), Keywords: x.Keywords.Plain(facts),
	}), nil
}

// Word makes the filled file of a document that is one.
func Word(d intake.Design, key string, facts phrase.Facts, pictures paper.Pictures) ([]byte, error) {
	x, ok := d.Document(key)
	if !ok {
		return nil, NoDocument{key}
	}
	if !x.Brought() {
		return nil, fmt.Errorf("the document “%s” is designed here; it has no word-processor file", x.Name)
	}
	filled, err := fill(x, facts, pictures)
	if err != nil {
		return nil, err
	}
	return filled.Bytes()
}

// bind makes what is set of a document: of its blocks, or of its filled file.
func bind(x paper.Document, facts phrase.Facts, pictures paper.Pictures) (*typeset.Document, finding.List, error) {
	if !x.Brought() {
		return paper.Bind(x, facts, pictures)
	}
	filled, err := fill(x, facts, pictures)
	if err != nil {
		return nil, nil, err
	}
	families, unread := paper.OwnFamilies(facts.House, pictures)
	doc, findings := fromword.Bind(filled, families, facts.House.Language)
	for i := range findings {
		findings[i].Place = x.PlaceOf(findings[i].Place)
	}
	if title := x.Title.Plain(facts); title != "" {
		doc.Title = title
	}
	if doc.Title == "" {
		doc.Title = x.Name
	}
	paper.MarkTrial(doc, facts)
	return doc, append(findings, unread...), nil
}

// Typeset sets a word-processor file as it is.
func Typeset(data []byte, name string, made time.Time) ([]byte, finding.List, error) {
	f, err := word.Open(data)
	if err != nil {
		return nil, nil, err
	}
	doc, findings := fromword.Bind(f.Unfilled(), nil, "en")
	if doc.Title == "" {
		doc.Title = name
	}
	pages, err := typeset.Set(doc)
	if err != nil {
		return nil, findings, err
	}
	out, err := pdf.Write(pages, pdf.Properties{Made: made, Archival: pdf.Archival(paper.A2b)})
	return out, findings, err
}

// LookInto finds what is to be filled in the file of a document, and what is wrong with it. Places are those of the file.
func LookInto(d intake.Design, key string, pictures paper.Pictures) (word.Inspection, error) {
	x, ok := d.Document(key)
	if !ok || !x.Brought() {
		return word.Inspection{}, NoDocument{key}
	}
	f, err := openBrought(x, pictures)
	if err != nil {
		return word.Inspection{}, err
	}
	return f.Inspect(match.For(d.Form, x.Matches), d.Form), nil
}

// Annotate gives a copy of a document's file with a comment at each fault.
func Annotate(d intake.Design, key string, pictures paper.Pictures) ([]byte, error) {
	x, ok := d.Document(key)
	if !ok || !x.Brought() {
		return nil, NoDocument{key}
	}
	data, err := pictures(paper.BroughtFile(x.File))
	if err != nil {
		return nil, err
	}
	out, _, err := word.Annotate(data, match.For(d.Form, x.Matches), d.Form)
	return out, err
}

// IntakeOf makes an intake of a word-processor file: what it asks to be filled are its questions, and it is the intake's document. name is
// the file's own, file the one by which the design speaks of it.
func IntakeOf(data []byte, name, file string) (intake.Design, error) {
	f, err := word.Open(data)
	if err != nil {
		return intake.Design{}, err
	}
	asked := f.Questions()
	name = strings.TrimSpace(strings.Map(func(r rune) rune {
		if r == '-' || r == '_' {
			return ' '
		}
		return r
	}, strings.TrimSuffix(path.Base(name), path.Ext(name))))
	if name == "" {
		name = "Intake"
	}
	first, size := utf8.DecodeRuneInString(name)
	name = string(unicode.ToUpper(first)) + name[size:]
	d := intake.New(name, asked.Fields)
	title := phrase.Parse(name + " {{@number}}")
	d.Documents = []paper.Document{{
		Key: "document", Name: name, Title: title, FileName: title, File: file, Matches: asked.Matches, Footer: phrase.Phrase{},
	}}
	d.Notices, d.Filings = notice.Usual(d.Form, "document"), filing.Usual("document")
	d.Whole()
	return d, nil
}
