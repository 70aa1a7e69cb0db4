package dossier

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"

	"github.com/gabriel-vasile/mimetype"

	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/ask/form"
	"amberseal/core/enclosure"
)

// Piece is a file that a message or a filing carries.
type Piece struct {
	Title string
	Name  string // with its ending
	Type  string // media type
	Data  []byte

	Of   enclosure.Enclosure // as which it is carried
	File string              // of files that were sent which one
}

// Ext is the ending of its name, without the point.
func (p Piece) Ext() string { return strings.TrimPrefix(path.Ext(p.Name), ".") }

// Media types of what is made here.
const (
	pdfType  = "application/pdf"
	wordType = "application/vnd.openxmlformats-officedocument.wordprocessingml.document"
)

// ErrOtherRun is the error of answers that were corrected since.
var ErrOtherRun = errors.New("the answers were corrected since")

// Pieces are the files of enclosures, in their order: of documents those that were planned to be made. It gives work.GiveUp where one
// cannot be had.
func (d *Dossier) Pieces(ctx context.Context, list []enclosure.Enclosure, planned []string) ([]Piece, error) {
	var out []Piece
	for _, e := range list {
		ids := []string{""}
		switch {
		case e.Document != "" && !slices.Contains(planned, e.Document):
			continue
		case e.Files != "":
			ids = nil
			for _, f := range enclosure.Sent(d.Design.Form, form.Load(d.Design.Form, d.Submission.Answers), e.Files) {
				ids = append(ids, f.ID)
			}
		}
		for _, id := range ids {
			p, err := d.Piece(ctx, e, id)
			if err != nil {
				return nil, err
			}
			out = append(out, p)
		}
	}
	return out, nil
}

// Piece is one file of an enclosure: of files that were sent that of an ID.
func (d *Dossier) Piece(ctx context.Context, e enclosure.Enclosure, id string) (p Piece, err error) {
	switch {
	case e.Document != "":
		p, err = d.document(ctx, e)
	case e.Files != "":
		f, data, err := d.store.Upload(ctx, id)
		if err != nil {
			return p, fmt.Errorf("a file that was sent could not be read: %w", err)
		}
		p = Piece{Title: strings.TrimSuffix(f.Name, path.Ext(f.Name)), Name: f.Name, Type: f.Type, Data: data}
	case e.House != "":
		if p, err = d.fixed(ctx, e.House); err != nil {
			return p, err
		}
	case e.Answers:
		if d.run != d.Submission.Revision {
			return p, ErrOtherRun
		}
		p = Piece{Title: "answers", Name: "answers.json", Type: "application/json"}
		if p.Data, err = d.answers(); err != nil {
			return p, work.GiveUp{Reason: "The answers could not be written: " + err.Error() + "."}
		}
	}
	p.Of, p.File = e, id
	return p, err
}

func (d *Dossier) document(ctx context.Context, e enclosure.Enclosure) (Piece, error) {
	x, err := d.Document(ctx, e.Document)
	if err != nil {
		return Piece{}, fmt.Errorf("the document “%s” could not be read: %w", e.Document, err)
	}
	p := Piece{Title: x.Name, Name: x.FileName, Type: pdfType, Data: x.PDF}
	if e.Form() == enclosure.DOCX {
		p = Piece{Title: x.Name, Name: x.WordName(), Type: wordType, Data: x.Word}
	}
	if len(p.Data) == 0 {
		return Piece{}, work.GiveUp{Reason: "“" + p.Name + "” was not made."}
	}
	return p, nil
}

// fixed is a file of the house, as it is now.
func (d *Dossier) fixed(ctx context.Context, name string) (Piece, error) {
	gone := work.GiveUp{Reason: "The house has no file “" + name + "” any more. Add it on the House page, or take it out of " +
		"the design; then try again."}
	f, ok := d.House.Fixed(name)
	if !ok {
		return Piece{}, gone
	}
	data, err := d.store.FixedFile(ctx, f.File)
	if errors.Is(err, register.NotFound) {
		return Piece{}, gone
	}
	kind, _, _ := strings.Cut(mimetype.Detect(data).String(), ";")
	return Piece{Title: strings.TrimSuffix(name, path.Ext(name)), Name: name, Type: kind, Data: data}, err
}

// answers are those of the submission as JSON: the same bytes each time.
func (d *Dossier) answers() ([]byte, error) {
	data, err := json.MarshalIndent(struct {
		Intake   string   `json:"intake"`
		Number   string   `json:"number"`
		Received string   `json:"received"`
		Revision int      `json:"revision"`
		Answers  form.Raw `json:"answers"`
	}{d.Design.Slug, d.Submission.Number, d.Submission.Received.UTC().Format("2006-01-02T15:04:05Z"), d.Submission.Revision,
		d.Submission.Answers}, "", "  ")
	return append(data, '\n'), err
}

// FiledLink is where the first file of the submission at a destination is opened, or empty.
func (d *Dossier) FiledLink(ctx context.Context, destination string) (string, error) {
	return d.store.FiledLink(ctx, d.Submission.ID, destination)
}
