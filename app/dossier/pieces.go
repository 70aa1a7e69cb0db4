package dossier

import (
	"context"
	"encoding/json"
	"fmt"
	"path"
	"slices"
	"strings"

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
}

// Ext is the ending of its name, without the point.
func (p Piece) Ext() string { return strings.TrimPrefix(path.Ext(p.Name), ".") }

// Media types of what is made here.
const (
	pdfType  = "application/pdf"
	wordType = "application/vnd.openxmlformats-officedocument.wordprocessingml.document"
)

// Pieces are the files of enclosures, in their order: of documents those that were planned to be made. It gives work.GiveUp where one
// cannot be had.
func (d *Dossier) Pieces(ctx context.Context, list []enclosure.Enclosure, planned []string) ([]Piece, error) {
	var out []Piece
	for _, e := range list {
		switch {
		case e.Document != "":
			if !slices.Contains(planned, e.Document) {
				continue
			}
			p, err := d.document(ctx, e)
			if err != nil {
				return nil, err
			}
			out = append(out, p)
		case e.Files != "":
			for _, f := range enclosure.Sent(d.Design.Form, form.Load(d.Design.Form, d.Submission.Answers), e.Files) {
				_, data, err := d.store.Upload(ctx, f.ID)
				if err != nil {
					return nil, fmt.Errorf("the file “%s” that was sent could not be read: %w", f.Name, err)
				}
				out = append(out, Piece{strings.TrimSuffix(f.Name, path.Ext(f.Name)), f.Name, f.Type, data})
			}
		case e.Answers:
			data, err := d.answers()
			if err != nil {
				return nil, work.GiveUp{Reason: "The answers could not be written: " + err.Error() + "."}
			}
			out = append(out, Piece{"answers", "answers.json", "application/json", data})
		}
	}
	return out, nil
}

func (d *Dossier) document(ctx context.Context, e enclosure.Enclosure) (Piece, error) {
	x, err := d.Document(ctx, e.Document)
	if err != nil {
		return Piece{}, fmt.Errorf("the document “%s” could not be read: %w", e.Document, err)
	}
	p := Piece{x.Name, x.FileName, pdfType, x.PDF}
	if e.Form() == enclosure.DOCX {
		p = Piece{x.Name, x.WordName(), wordType, x.Word}
	}
	if len(p.Data) == 0 {
		return Piece{}, work.GiveUp{Reason: "“" + p.Name + "” was not made."}
	}
	return p, nil
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

// FiledLink is where the first filed document of the submission is opened, or empty.
func (d *Dossier) FiledLink(ctx context.Context) (string, error) {
	return d.store.FiledLink(ctx, d.Submission.ID)
}
