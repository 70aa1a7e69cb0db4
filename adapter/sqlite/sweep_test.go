package sqlite_test

import (
	"errors"
	"testing"
	"time"

	"amberseal/app/register"
	"amberseal/app/sweep"
	"amberseal/app/work"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
)

// A file that was brought is kept while a draft or a version speaks of it, and sixty days longer.
func TestFilesThatNoDesignSpeaksOfAreForgotten(t *testing.T) {
	h := furnished(t)
	ctx := t.Context()
	const used, other = "Hire & care-0123456789abcdef.docx", "slip-fedcba9876543210.pdf"
	for _, name := range []string{used, other} {
		if err := h.AddBrought(ctx, name, []byte("file"), nil, noon); err != nil {
			t.Fatal(err)
		}
	}
	d := intake.New("Own", nil)
	d.Documents = []paper.Document{{Key: "own", Name: "Own", File: used}}
	made, err := h.AddIntake(ctx, d, noon)
	if err != nil {
		t.Fatal(err)
	}
	after := func(days int) (kept int) {
		t.Helper()
		at := noon.Add(time.Duration(days) * 24 * time.Hour)
		if _, err := sweep.Hand(h.DB, func() time.Time { return at }).Do(ctx, work.Job{}); err != nil {
			t.Fatal(err)
		}
		for _, name := range []string{used, other} {
			if _, err := h.Brought(ctx, name); err == nil {
				kept++
			} else if !errors.Is(err, register.NotFound) {
				t.Fatal(err)
			}
		}
		return kept
	}
	if n := after(0); n != 2 {
		t.Errorf("%d are kept", n)
	}
	if n := after(59); n != 2 {
		t.Errorf("%d are kept after 59 days", n)
	}
	if n := after(61); n != 1 {
		t.Errorf("%d are kept after 61 days", n)
	}
	d.Documents = nil
	if _, err := h.SetDesign(ctx, made.ID, made.Revision, d, noon); err != nil {
		t.Fatal(err)
	}
	if n := after(62); n != 1 { // it is noticed now, and may still be undone
		t.Errorf("%d are kept once the last design went", n)
	}
	if n := after(130); n != 0 {
		t.Errorf("%d are kept after 130 days", n)
	}
}
