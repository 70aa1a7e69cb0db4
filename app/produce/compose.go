// Package produce makes the documents of submissions.
package produce

import (
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"amberseal/core/ask/schema"
	"amberseal/core/blank"
	"amberseal/core/filing"
	"amberseal/core/foreign/annex"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
	"amberseal/core/print/pdf"
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// Sheet is the size of a page.
type Sheet struct {
	Width  float64 `json:"width"` // points
	Height float64 `json:"height"`
}

// Composed is a finished document.
type Composed struct {
	PDF        []byte
	Title      string
	FileName   string
	Pages      int
	Sheets     []Sheet // the sizes of those that are set; pages of files that are added follow
	Placements []typeset.Placement
	Findings   finding.List // what could not be printed as designed
}

// ErrBusy is the error of a document for which others’ PDFs are to be read while too many are.
var ErrBusy = errors.New("many PDFs are being read; please try again in a moment")

// Passing is the error of what failed for a reason that lies in none of the files, and may succeed later.
type Passing struct{ Err error }

func (e Passing) Error() string { return e.Err.Error() }

func (e Passing) Unwrap() error { return e.Err }

// Join adds the pages of PDFs that were sent to the end of a document. It reads what anybody may have sent, and so does its
// work where that can harm nobody. added is how many pages came to it. The error is ErrBusy, Passing, or of the files.
type Join func(document []byte, sent [][]byte) (joined []byte, added int, err error)

// Setter sets a filled word-processor file by another program. What it gives is a ground as it is kept.
type Setter func(docx []byte) ([]byte, error)

// Apart is what is done apart from the program, where it can harm nobody. What is nil is not done, and a finding says so.
type Apart struct {
	Join   Join
	Setter Setter
	Done   <-chan struct{} // ends the setting here when it closes: nobody waits for the document any more
}

// Compose makes one document of a design for the facts of one submission. It needs
// neither a server nor a database and may run on many goroutines. A document that would be too long is an error, and a
// finding that says where.
func Compose(d intake.Design, key string, facts phrase.Facts, pictures paper.Pictures, apart Apart) (c Composed, err error) {
	defer func() {
		if r := recover(); r != nil { // fonts are uploads, and whoever reads them may trip over what they hold
			c, err = Composed{}, fmt.Errorf("the document could not be set, perhaps for a damaged font: %v", r)
		}
	}()
	design, ok := d.Document(key)
	if !ok {
		return Composed{}, NoDocument{key}
	}
	pages, findings, err := set(design, facts, pictures, apart)
	if errors.Is(err, ErrBusy) || errors.As(err, new(Passing)) {
		return Composed{}, err
	}
	if err != nil {
		block := ""
		if e, ok := errors.AsType[paper.TooMuch](err); ok {
			block = e.Block
		} else if e, ok := errors.AsType[typeset.TooLong](err); ok {
			block = e.Block
		}
		said := []rune(err.Error())
		findings.Fault(design.PlaceOf(block), "produce.past-limit", "limit", strings.ToUpper(string(said[:1]))+string(said[1:]))
		return Composed{Findings: findings}, findings.Err()
	}
	title := pages.Title
	findings = append(findings, paper.Overflows(design, facts, pages.Overflows)...)
	properties := pdf.Properties{
		Author:   design.Author.Plain(facts),
		Subject:  design.Subject.Plain(facts),
		Keywords: design.Keywords.Plain(facts),
		Made:     facts.Made,
	}
	if properties.Author == "" {
		properties.Author = facts.House.Name
	}
	if properties.Subject == "" {
		properties.Subject = d.Name
	}
	files, unread, err := carried(design, facts, pictures)
	if err != nil {
		return Composed{}, err
	}
	properties.Files = files
	findings = append(findings, unread...)
	if p := design.Protect; p != nil {
		properties.Protect = &pdf.Protection{
			Password: p.Password.Plain(facts),
			NoPrint:  p.NoPrint,
			NoCopy:   p.NoCopy,
			NoChange: p.NoChange,
			Random:   rand.Reader,
		}
	}
	annexes, unread := annexed(design, facts, pictures, apart.Join)
	findings = append(findings, unread...)
	if level := design.ArchivalLevel(); level != paper.NotArchival && len(annexes) == 0 && pages.over == nil {
		properties.Archival = pdf.Archival(level)
	}
	properties.Extended = len(annexes) > 0
	data, err := pages.write(properties)
	if err != nil {
		return Composed{}, err
	}
	data, added, unread, err := joined(key, data, annexes, apart.Join)
	if err != nil {
		return Composed{}, err
	}
	findings = append(findings, unread...)
	sheets := make([]Sheet, len(pages.Pages.Pages))
	for i, s := range pages.Pages.Pages {
		sheets[i] = Sheet{s.Width, s.Height}
	}
	return Composed{
		PDF: data, Title: title, FileName: FileName(design, facts), Pages: len(sheets) + added, Sheets: sheets,
		Placements: pages.Placements, Findings: findings,
	}, nil
}

// carried are the files that the document carries: the answers with their schema, and what respondents sent.
func carried(d paper.Document, facts phrase.Facts, pictures paper.Pictures) (files []pdf.File, findings finding.List, err error) {
	if d.Data {
		answers, err := json.MarshalIndent(facts.Answers, "", "  ")
		if err != nil {
			return nil, nil, err
		}
		described, err := schema.Write(facts.Intake, facts.Form)
		if err != nil {
			return nil, nil, err
		}
		files = append(
			files,
			pdf.File{Name: "answers.json", Type: "application/json", Says: "The answers", Data: answers, Relation: pdf.RelatedData},
			pdf.File{
				Name:     "answers.schema.json",
				Type:     "application/schema+json",
				Says:     "The schema of the answers",
				Data:     described,
				Relation: pdf.Supplement,
			},
		)
	}
	for _, f := range d.Attachments(facts) {
		data, err := pictures(paper.File(f.ID))
		if err != nil {
			findings.Fault("documents/"+d.Key, "produce.file-not-attached", "name", f.Name, "reason", err.Error())
			continue
		}
		files = append(files, pdf.File{Name: f.Name, Type: f.Type, Says: f.Name, Data: data, Relation: pdf.Supplement})
	}
	return files, findings, nil
}

// joined adds the pages of PDFs to a document, of all that can be added.
func joined(key string, document []byte, annexes []attached, join Join) (out []byte, added int, findings finding.List, err error) {
	for len(annexes) > 0 {
		sent := make([][]byte, len(annexes))
		for i, x := range annexes {
			sent[i] = x.data
		}
		out, added, err = join(document, sent)
		var one annex.Refused
		switch {
		case err == nil:
			return out, added, findings, nil
		case errors.Is(err, ErrBusy) || errors.As(err, new(Passing)):
			return nil, 0, nil, err
		case errors.As(err, &one) && one.N >= 1 && one.N <= len(annexes):
			findings.Fault("documents/"+key, "produce.file-not-added", "name", annexes[one.N-1].name, "reason", one.Reason)
			annexes = slices.Delete(annexes, one.N-1, one.N)
		default:
			findings.Fault("documents/"+key, "produce.pages-not-added", "reason", err.Error())
			return document, 0, findings, nil
		}
	}
	return document, 0, findings, nil
}

// attached is a PDF that was sent.
type attached struct {
	name string
	data []byte
}

// annexed are the PDFs whose pages are added to the document. Foreign pages take the archival level from it, and cannot be
// added to a protected one.
func annexed(d paper.Document, facts phrase.Facts, pictures paper.Pictures, join Join) (all []attached, findings finding.List) {
	for _, f := range d.Annexes(facts) {
		read, err := pictures(paper.File(f.ID))
		switch {
		case err != nil:
		case join == nil:
			err = errors.New("this program runs without the part that does so")
		case d.Protect != nil:
			err = errors.New("the document is protected")
		}
		if err != nil {
			findings.Notice("documents/"+d.Key, "produce.file-not-added", "name", f.Name, "reason", err.Error())
			continue
		}
		all = append(all, attached{f.Name, read})
	}
	return all, findings
}

// Letter makes a letter of the house in a look, to see how it presents itself.
func Letter(h house.House, look paper.Look, now time.Time, pictures paper.Pictures) (Composed, error) {
	letter := intake.Design{Documents: []paper.Document{paper.Specimen(h, look)}}
	return Compose(
		letter, paper.SpecimenKey, phrase.Facts{House: h, Intake: "Letter", Number: "L-2026-0001", Received: now, Made: now}, pictures,
		Apart{},
	)
}

// TryFont sets words in a font, so that one that cannot be printed is found before anybody uses it.
func TryFont(data []byte) error {
	h := house.New()
	h.Font, h.Fonts = "Tried", []house.Font{{Family: "Tried", Regular: "tried"}}
	c, err := Letter(h, paper.Letter, time.Unix(0, 0), func(string) ([]byte, error) { return data, nil })
	if err != nil {
		return err
	}
	return c.Findings.Err()
}

// Blank makes the empty form as a PDF, to print or to fill on screen. The same form gives the same bytes.
func Blank(d intake.Design, h house.House, fillable bool, pictures paper.Pictures) ([]byte, error) {
	pages, err := typeset.Set(blank.Form(d.Name, d.Form, h, pictures))
	if err != nil {
		return nil, err
	}
	return pdf.Write(pages, pdf.Properties{Author: h.Name, Subject: d.Name, Made: time.Unix(0, 0), Fillable: fillable})
}

// FileName is the safe name of a document's file, with .pdf.
func FileName(d paper.Document, facts phrase.Facts) string {
	name := filing.Safe(d.FileName.Plain(facts))
	if name == "" {
		name = filing.Safe(d.Name + " " + facts.Number)
	}
	if facts.Corrects(d) {
		name = filing.Safe(name + " – " + facts.Locale().Revision(facts.Revision))
	}
	return name + ".pdf"
}

// NoDocument is the error of asking for a document the design does not have.
type NoDocument struct{ Key string }

func (e NoDocument) Error() string { return "the intake has no document “" + e.Key + "”" }
