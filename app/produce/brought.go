package produce

import (
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"amberseal/core/filing"
	"amberseal/core/foreign"
	"amberseal/core/foreign/ground"
	"amberseal/core/foreign/match"
	"amberseal/core/foreign/word"
	"amberseal/core/intake"
	"amberseal/core/notice"
	"amberseal/core/print/fromword"
	"amberseal/core/print/onpage"
	"amberseal/core/print/paper"
	"amberseal/core/print/pdf"
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// Files of documents that were read already: in memory a word-processor file is some thirty times as large as in its package.
var (
	opened  = foreign.Kept[*word.File]{Open: word.Open, Most: 4 << 20}
	grounds = foreign.Kept[*ground.Ground]{Open: ground.Decode, Most: 32 << 20}
)

// openGround reads the PDF of a document as it was taken apart.
func openGround(x paper.Document, pictures paper.Pictures) (*ground.Ground, error) {
	kept, err := pictures(paper.GroundFile(x.File))
	if err != nil {
		return nil, fmt.Errorf("“%s” cannot be read: %w", x.File, err)
	}
	return grounds.Get(kept)
}

// inspect finds what is to be filled in a document’s file.
func inspect(d intake.Design, x paper.Document, pictures paper.Pictures) (match.Inspection, error) {
	names := match.For(d.Form, x.Matches)
	if x.OnPages() {
		g, err := openGround(x, pictures)
		if err != nil {
			return match.Inspection{}, err
		}
		found := g.Inspect(names, d.Form)
		for _, m := range x.Marks {
			if m.Page > len(g.Base.Pages) {
				found.Findings.Fault("mark "+m.ID, "paper.mark-off-pages", "page", m.Page, "pages", len(g.Base.Pages))
			}
		}
		found.Unprinted = slices.DeleteFunc(found.Unprinted, x.Puts)
		return found, nil
	}
	f, err := openBrought(x, pictures)
	if err != nil {
		return match.Inspection{}, err
	}
	return f.Inspect(names, d.Form).Inspection, nil
}

// openBrought reads the file of a document.
func openBrought(x paper.Document, pictures paper.Pictures) (*word.File, error) {
	data, err := pictures(paper.BroughtFile(x.File))
	if err != nil {
		return nil, fmt.Errorf("the file “%s” is not there: %w", x.File, err)
	}
	f, err := opened.Get(data)
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
			if x.Page.Printed != nil {
				_, found := letterPaper(x, &typeset.Pages{}, pictures)
				l = append(l, found...)
			}
			continue
		}
		found, err := inspect(d, x, pictures)
		if err != nil {
			l.Fault("documents/"+x.Key+"/file", "produce.file-unreadable", "reason", err.Error())
			continue
		}
		for _, f := range found.Findings {
			f.Place = x.PlaceOf(f.Place)
			l = append(l, f)
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
	if !x.Brought() || x.OnPages() {
		return nil, fmt.Errorf("the document “%s” is no word-processor file", x.Name)
	}
	filled, err := fill(x, facts, pictures)
	if err != nil {
		return nil, err
	}
	return filled.Bytes()
}

// made is a document that is set and can be written.
type made struct {
	*typeset.Pages
	over   *pdf.Over   // of one that is printed on pages which are there already
	behind *pdf.Behind // letter paper
}

func (m made) write(p pdf.Properties) ([]byte, error) {
	if m.over != nil {
		return pdf.WriteOver(m.Pages, p, *m.over)
	}
	if p.Behind = m.behind; p.Behind != nil {
		p.Extended = true // nothing is known of what the paper shows
	}
	return pdf.Write(m.Pages, p)
}

// set sets a document: of its blocks, of its filled file, or on the pages of its PDF.
func set(x paper.Document, facts phrase.Facts, pictures paper.Pictures, apart Apart) (m made, l finding.List, err error) {
	switch {
	case x.OnPages():
		g, err := openGround(x, pictures)
		if err != nil {
			return made{}, nil, err
		}
		return setOnPages(g, x, facts, pictures)
	case x.Setter != "" && apart.Setter != nil:
		return setByOther(x, facts, pictures, apart.Setter)
	case x.Brought():
		var doc *typeset.Document
		if doc, l, err = bindFile(x, facts, pictures); err == nil {
			m.Pages, err = setWhile(doc, apart.Done)
		}
		if x.Setter != "" {
			l.Notice(x.PlaceOf(""), "produce.setter-not-here")
		}
		return m, l, err
	}
	doc, l, err := paper.Bind(x, facts, pictures)
	if err == nil {
		m.Pages, err = setWhile(doc, apart.Done)
	}
	if err == nil && x.Page.Printed != nil {
		var unread finding.List
		m.behind, unread = letterPaper(x, m.Pages, pictures)
		l = append(l, unread...)
	}
	return m, l, err
}

// setWhile sets a document as long as somebody waits for it.
func setWhile(doc *typeset.Document, done <-chan struct{}) (*typeset.Pages, error) {
	doc.Done = done
	pages, err := typeset.Set(doc)
	if errors.Is(err, typeset.ErrStopped) {
		err = Passing{err}
	}
	return pages, err
}

// setByOther has another program set the filled file, and goes on with its pages as with those of a PDF.
func setByOther(x paper.Document, facts phrase.Facts, pictures paper.Pictures, other Setter) (made, finding.List, error) {
	filled, err := fill(x, facts, pictures)
	if err != nil {
		return made{}, nil, err
	}
	docx, err := filled.Bytes()
	if err != nil {
		return made{}, nil, err
	}
	kept, err := other(docx)
	if err != nil {
		return made{}, nil, err
	}
	g, err := ground.Decode(kept)
	if err != nil {
		return made{}, nil, err
	}
	x.Matches, x.Fillable = nil, false
	m, l, err := setOnPages(g, x, facts, pictures)
	if left := fontsLeft(g); left != nil {
		f := *left
		f.Place = x.PlaceOf("")
		l = append(l, f)
	}
	return m, l, err
}

func setOnPages(g *ground.Ground, x paper.Document, facts phrase.Facts, pictures paper.Pictures) (made, finding.List, error) {
	families, unread := paper.OwnFamilies(facts.House, pictures)
	bound, l := onpage.Bind(g, x, facts, pictures, families)
	doc := &bound.Document
	if doc.Title == "" {
		doc.Title = x.Name
	}
	doc.Page = bound.Pages[0]
	paper.MarkTrial(doc, facts)
	pages, err := typeset.SetPlaces(doc, bound.Pages, bound.Places)
	return made{Pages: pages, over: &bound.Over}, append(l, unread...), err
}

// bindFile makes what is set of a document’s filled file.
func bindFile(x paper.Document, facts phrase.Facts, pictures paper.Pictures) (*typeset.Document, finding.List, error) {
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
func LookInto(d intake.Design, key string, pictures paper.Pictures) (match.Inspection, error) {
	x, ok := d.Document(key)
	if !ok || !x.Brought() {
		return match.Inspection{}, NoDocument{key}
	}
	return inspect(d, x, pictures)
}

// Rules are the lines and boxes on each page of a document’s PDF, in millimetres.
func Rules(d intake.Design, key string, pictures paper.Pictures) ([][]ground.Box, error) {
	x, ok := d.Document(key)
	if !ok || !x.OnPages() {
		return nil, NoDocument{key}
	}
	g, err := openGround(x, pictures)
	if err != nil {
		return nil, err
	}
	out := make([][]ground.Box, len(g.Rules))
	const points = 72 / 25.4 // in a millimetre
	for i, page := range g.Rules {
		for _, b := range page {
			out[i] = append(out[i], ground.Box{X: b.X / points, Y: b.Y / points, W: b.W / points, H: b.H / points})
		}
	}
	return out, nil
}

// Annotate gives a copy of a document's file with a comment at each fault.
func Annotate(d intake.Design, key string, pictures paper.Pictures) ([]byte, error) {
	x, ok := d.Document(key)
	if !ok || !x.Brought() || x.OnPages() {
		return nil, NoDocument{key}
	}
	data, err := pictures(paper.BroughtFile(x.File))
	if err != nil {
		return nil, err
	}
	out, _, err := word.Annotate(data, match.For(d.Form, x.Matches), d.Form)
	return out, err
}

// errNothingAsked is the error of a PDF without fields: nothing in it says what to ask.
var errNothingAsked = errors.New("the PDF has no fields, and so says nothing of what to ask; " +
	"begin with an intake and bring the PDF as its document")

// IntakeOf makes an intake of a file: what it asks to be filled are its questions, and it is the intake's document. name is the file's own,
// file the one by which the design speaks of it. A PDF is read as it was taken apart.
func IntakeOf(data []byte, name, file string, pictures paper.Pictures) (intake.Design, error) {
	asked, err := questions(data, file, pictures)
	if err != nil {
		return intake.Design{}, err
	}
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

func questions(data []byte, file string, pictures paper.Pictures) (match.Asked, error) {
	if x := (paper.Document{File: file}); x.OnPages() {
		g, err := openGround(x, pictures)
		if err == nil && !g.Fillable() {
			err = errNothingAsked
		}
		if err != nil {
			return match.Asked{}, err
		}
		return g.Questions(), nil
	}
	f, err := word.Open(data)
	if err != nil {
		return match.Asked{}, err
	}
	return f.Questions(), nil
}
