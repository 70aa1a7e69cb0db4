package file_test

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"amberseal/adapter/folder"
	"amberseal/app/file"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/filing"
	"amberseal/core/form"
	"amberseal/core/house"
	"amberseal/core/intake"
	"amberseal/core/phrase"
)

// archive has one document, and says which was asked for.
type archive struct {
	pdf  []byte
	err  error
	last string
}

func (a *archive) Document(_ context.Context, _ int64, key string) (register.Document, error) {
	a.last = key
	return register.Document{Key: key, PDF: a.pdf, Size: len(a.pdf)}, a.err
}

// A document is filed under the rule's path in a real folder, once however often the step is done; another with that name gets a
// count; what cannot be done is told, and leaves nothing.
func TestDocumentsAreFiledByTheirRule(t *testing.T) {
	dir := t.TempDir()
	cabinet, err := folder.Open(dir, "mark", false)
	if err != nil {
		t.Fatal(err)
	}
	a := &archive{pdf: []byte("%PDF-1.7 first")}
	now := time.Date(2026, 11, 27, 12, 0, 0, 0, time.UTC)
	step := file.Step(cabinet, a, func() time.Time { return now })
	job := work.Job{
		House: house.New(), Step: register.Step{Key: "cabinet"}, Submission: register.Submission{ID: 7, Number: "B-7", Received: now},
		Design: intake.Design{
			Name: "Booking", Form: form.Form{},
			Filings: []filing.Filing{{Key: "cabinet", Name: "Cabinet", Document: "receipt", Path: phrase.Parse("{{@intake}}/{{@year}}/{{@number}}")}},
		},
	}
	for range 2 {
		out, err := step(t.Context(), job)
		if err != nil || out.Filed == nil || out.Filed.Path != "Booking/2026/B-7.pdf" || !strings.Contains(out.Happened, "Booking / 2026 / B-7.pdf") || a.last != "receipt" {
			t.Fatalf("%+v %v", out, err)
		}
	}
	a.pdf = []byte("%PDF-1.7 another")
	if out, err := step(t.Context(), job); err != nil || out.Filed.Path == "Booking/2026/B-7.pdf" {
		t.Errorf("another document with the same name went to %+v, %v", out.Filed, err)
	}
	if data, err := os.ReadFile(filepath.Join(dir, "Booking/2026/B-7.pdf")); err != nil || string(data) != "%PDF-1.7 first" {
		t.Errorf("the first holds %q, %v", data, err)
	}

	a.err = errors.New("the disk is gone")
	if out, err := step(t.Context(), job); err == nil || !errors.Is(err, a.err) || out.Filed != nil {
		t.Errorf("a document that cannot be read: %+v %v", out, err)
	}
	job.Step.Key = "gone"
	if _, err := step(t.Context(), job); !errors.As(err, new(work.GiveUp)) || !strings.Contains(err.Error(), "gone") {
		t.Errorf("a rule that the design has no more: %v", err)
	}
}
