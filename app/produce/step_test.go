package produce_test

import (
	"bytes"
	"context"
	"errors"
	"image"
	"image/jpeg"
	"strings"
	"testing"
	"time"

	"amberseal/app/dossier"
	"amberseal/app/produce"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/plan"
	"amberseal/core/print/paper"
	"amberseal/core/words/house"
)

// faulty is a shelf on which something lies that cannot be read, or not now.
type faulty struct {
	files map[string][]byte
	err   error
	stop  func()
}

func (s *faulty) read(name string) ([]byte, error) {
	if s.stop != nil {
		s.stop()
	}
	if s.err != nil {
		return nil, s.err
	}
	if data, ok := s.files[name]; ok {
		return data, nil
	}
	return nil, register.NotFound
}

func (s *faulty) Picture(_ context.Context, name string) ([]byte, error) { return s.read(name) }
func (s *faulty) Font(_ context.Context, name string) ([]byte, error)    { return s.read(name) }
func (s *faulty) Brought(_ context.Context, name string) ([]byte, error) { return s.read(name) }
func (s *faulty) Ground(_ context.Context, name string) ([]byte, error)  { return s.read(name) }
func (s *faulty) Upload(_ context.Context, id string) (form.File, []byte, error) {
	data, err := s.read(id)
	return form.File{}, data, err
}

// A document is made whole or not at all: what cannot be read now is tried again, what is not there any more is given up, and a stop in the
// middle leaves nothing behind.
func TestADocumentIsWholeOrNotMade(t *testing.T) {
	var photo bytes.Buffer
	if err := jpeg.Encode(&photo, image.NewGray(image.Rect(0, 0, 300, 200)), nil); err != nil {
		t.Fatal(err)
	}
	d := intake.New("Repair", []form.Field{{Key: "photo", Kind: form.Photo, Label: "Photo"}})
	block := paper.Block{ID: "p", Kind: paper.Picture, Settings: paper.Settings{Field: "photo"}}
	d.Documents = []paper.Document{{Key: "receipt", Name: "Receipt", Blocks: []paper.Block{block}}}
	made := func(shelf *faulty) (*register.Document, error) {
		ctx, cancel := context.WithCancel(t.Context())
		defer cancel()
		if shelf.stop != nil {
			shelf.stop = cancel
		}
		aside := func(context.Context) produce.Apart { return produce.Apart{} }
		hand := produce.Hand(&dossier.Opener{}, shelf, time.Now, func() bool { return false }, aside)
		file := &dossier.Dossier{
			Design: d,
			House:  house.New(),
			Secret: link.Secret(strings.Repeat("s", 32)),
			Submission: register.Submission{
				ID: 1, Ref: "r", Number: "R-1", Received: time.Unix(1e9, 0), Revision: 1,
				Answers: form.Raw{"photo": []byte(`[{"id":"a","name":"crack.jpg","type":"image/jpeg","size":9}]`)},
			},
		}
		j := register.Job{
			Kind:    plan.Document,
			Key:     "receipt",
			Name:    "Receipt",
			Subject: plan.Subject{About: plan.Submission, ID: 1, Run: 1},
		}
		out, err := hand.Do(ctx, work.Job{Job: j, Carried: file})
		if len(out.Records) == 0 {
			return nil, err
		}
		return out.Records[0].(*register.Document), err
	}
	whole, err := made(&faulty{files: map[string][]byte{"a": photo.Bytes()}})
	if err != nil || !bytes.Contains(whole.PDF, []byte("/DCTDecode")) {
		t.Fatalf("all is there: %v", err)
	}
	var again work.Again
	if x, err := made(&faulty{err: errors.New("database is locked")}); x != nil || !errors.As(err, &again) {
		t.Errorf("it cannot be read now: %v, %v", x, err)
	}
	var giveUp work.GiveUp
	if x, err := made(&faulty{}); x != nil || !errors.As(err, &giveUp) || !strings.Contains(giveUp.Reason, "crack.jpg") {
		t.Errorf("it is not there any more: %v, %v", x, err)
	}
	stopped := &faulty{err: context.Canceled, stop: func() {}}
	if x, err := made(stopped); x != nil || !errors.Is(err, context.Canceled) {
		t.Errorf("the program stops: %v, %v", x, err)
	}
	// The same for pages of files that were sent.
	d.Form.Fields[0].Kind, d.Documents[0].Append = form.Upload, []string{"photo"}
	for what, c := range map[string]struct {
		err  error
		want any
	}{
		"they cannot be read now": {errors.New("disk I/O error"), new(work.Again)},
		"they are not there":      {nil, new(work.GiveUp)},
		"the program stops at it": {context.Canceled, new(work.Again)},
	} {
		if x, err := made(&faulty{err: c.err}); x != nil || !errors.As(err, c.want) {
			t.Errorf("pages, %s: %v, %v", what, x, err)
		}
	}
}
