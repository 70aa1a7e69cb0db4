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
	"amberseal/app/dossier"
	"amberseal/app/file"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/ask/form"
	"amberseal/core/enclosure"
	"amberseal/core/filing"
	"amberseal/core/intake"
	"amberseal/core/plan"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// places has one place.
type places struct{ only file.Place }

func (p places) Place(_ context.Context, key string) (file.Place, error) {
	if key != "cabinet" {
		return nil, register.NotFound
	}
	return p.only, nil
}

// halfway is a place that takes no second file.
type halfway struct {
	file.Place
	taken int
}

func (p *halfway) Create(ctx context.Context, path string, f file.File) error {
	if p.taken++; p.taken > 1 {
		return work.GiveUp{Reason: "It takes no more."}
	}
	return p.Place.Create(ctx, path, f)
}

// archive has one submission with one document, and says which was asked for.
type archive struct {
	submission register.Submission
	design     intake.Design
	pdf        []byte
	err        error
	last       string
}

func (a *archive) House(context.Context) (house.House, error) { return house.New(), nil }

func (a *archive) Submission(context.Context, int64) (register.Submission, intake.Design, error) {
	return a.submission, a.design, nil
}

func (a *archive) Upload(context.Context, string) (form.File, []byte, error) {
	return form.File{}, nil, register.NotFound
}

func (a *archive) FixedFile(context.Context, string) ([]byte, error) { return nil, register.NotFound }

func (a *archive) FiledLink(context.Context, int64, string) (string, error) { return "", nil }

func (a *archive) DocumentRevision(_ context.Context, _ int64, key string, _ int) (register.Document, error) {
	a.last = key
	return register.Document{Key: key, FileName: key + ".pdf", PDF: a.pdf, Size: len(a.pdf)}, a.err
}

// A document is filed under the rule's path in a real folder, once however often the step is done; another with that name gets a
// count; what cannot be done is told, and leaves nothing.
func TestDocumentsAreFiledByTheirRule(t *testing.T) {
	dir := t.TempDir()
	cabinet, err := folder.Open(dir, "mark", false)
	if err != nil {
		t.Fatal(err)
	}
	now := time.Date(2026, 11, 27, 12, 0, 0, 0, time.UTC)
	a := &archive{
		pdf: []byte("%PDF-1.7 first"), submission: register.Submission{ID: 7, Number: "B-7", Received: now, Revision: 1},
		design: intake.Design{
			Name: "Booking", Form: form.Form{},
			Filings: []filing.Filing{
				{Key: "cabinet", Name: "Cabinet", What: enclosure.Of("receipt"), Path: phrase.Parse("{{@intake}}/{{@year}}/{{@number}}")},
			},
		},
	}
	hand := file.Hand(&dossier.Opener{Store: a}, places{cabinet}, func() time.Time { return now })
	job := work.Job{Job: register.Job{Key: "cabinet", Subject: plan.Subject{About: plan.Submission, ID: 7, Run: 1}}}
	path := func(o work.Outcome) string { return o.Records[0].(*register.Filed).Path }
	for range 2 {
		out, err := hand.Do(t.Context(), job)
		if err != nil || path(out) != "Booking/2026/B-7.pdf" || out.Result != path(out) || a.last != "receipt" {
			t.Fatalf("%+v %v", out, err)
		}
	}
	a.pdf = []byte("%PDF-1.7 another")
	if out, err := hand.Do(t.Context(), job); err != nil || path(out) == "Booking/2026/B-7.pdf" {
		t.Errorf("another document with the same name went to %+v, %v", out, err)
	}
	if data, err := os.ReadFile(filepath.Join(dir, "Booking/2026/B-7.pdf")); err != nil || string(data) != "%PDF-1.7 first" {
		t.Errorf("the first holds %q, %v", data, err)
	}

	a.design.Filings = append(a.design.Filings, filing.Filing{
		Key: "two", Name: "Two", What: enclosure.Of("receipt", "report"), Path: phrase.Parse("Two/{{@number}}"),
	})
	two := file.Hand(&dossier.Opener{Store: a}, places{&halfway{Place: cabinet}}, func() time.Time { return now })
	job.Key, job.Body = "two", []byte(`{"documents":["receipt","report"]}`)
	if out, err := two.Do(t.Context(), job); !errors.As(err, new(work.GiveUp)) || len(out.Records) != 1 || path(out) != "Two/B-7.pdf" {
		t.Errorf("of two files of which one was taken there is %+v: %v", out, err)
	}
	job.Key, job.Body = "cabinet", nil
	a.err = errors.New("the disk is gone")
	if out, err := hand.Do(t.Context(), job); err == nil || !errors.Is(err, a.err) || len(out.Records) > 0 {
		t.Errorf("a document that cannot be read: %+v %v", out, err)
	}
	job.Key = "gone"
	if _, err := hand.Do(t.Context(), job); !errors.As(err, new(work.GiveUp)) || !strings.Contains(err.Error(), "gone") {
		t.Errorf("a rule that the design has no more: %v", err)
	}
	job.Key, job.Subject.Run = "cabinet", 2
	if _, err := hand.Do(t.Context(), job); !errors.As(err, new(work.GiveUp)) {
		t.Errorf("a job of another revision: %v", err)
	}
}
