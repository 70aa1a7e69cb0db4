// Package annex adds the pages of PDFs that people sent to the end of a finished document.
//
// In go the document's bytes and those of the others, out come bytes. What the others hold besides their pages, such as
// scripts, actions, links, forms and structure, is left behind. The result is a rewritten file: its structure, outline and
// properties are the document's, and it is no longer archival.
package annex

import (
	"bytes"
	"errors"
	"fmt"
	"io"

	"github.com/pdfcpu/pdfcpu/pkg/api"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"amberseal/core/foreign"
)

// MaxPages is how many pages of one PDF are added.
const MaxPages = 200

// Join adds the pages of the others in their order, and says how many those are. The error says which one (counted from 1) cannot be
// added, and why.
func Join(document []byte, others [][]byte) (joined []byte, added int, err error) {
	defer func() {
		if p := recover(); p != nil {
			joined, added, err = nil, 0, fmt.Errorf("a PDF is damaged: %v", p)
		}
	}()
	parts := []io.ReadSeeker{bytes.NewReader(document)}
	for i, data := range others {
		clean, pages, err := pagesOnly(data)
		if err != nil {
			return nil, 0, fmt.Errorf("PDF %d: %w", i+1, err)
		}
		parts = append(parts, bytes.NewReader(clean))
		added += pages
	}
	var out bytes.Buffer
	if err := api.MergeRaw(parts, &out, false, foreign.Configuration()); err != nil {
		return nil, 0, err
	}
	return out.Bytes(), added, nil
}

// Bundle makes one file of the pages of PDFs, each with nothing but what they paint: what one of them says of itself is not true of all.
func Bundle(pdfs [][]byte) (out []byte, err error) {
	defer func() {
		if p := recover(); p != nil {
			out, err = nil, fmt.Errorf("a PDF is damaged: %v", p)
		}
	}()
	var parts []io.ReadSeeker
	for i, data := range pdfs {
		clean, _, err := pagesOnly(data)
		if err != nil {
			return nil, fmt.Errorf("PDF %d: %w", i+1, err)
		}
		parts = append(parts, bytes.NewReader(clean))
	}
	var all bytes.Buffer
	if err := api.MergeRaw(parts, &all, false, foreign.Configuration()); err != nil {
		return nil, err
	}
	return all.Bytes(), nil
}

// pagesOnly rewrites a PDF with nothing but what its pages paint.
func pagesOnly(data []byte) (clean []byte, pages int, err error) {
	ctx, err := foreign.Open(data)
	if err != nil {
		return nil, 0, err
	}
	if ctx.Encrypt != nil {
		return nil, 0, errors.New("the PDF is protected")
	}
	if err := api.ValidateContext(ctx); err != nil {
		return nil, 0, err
	}
	if err := ctx.EnsurePageCount(); err != nil {
		return nil, 0, err
	}
	if ctx.PageCount > MaxPages {
		return nil, 0, fmt.Errorf("the PDF has %d pages; at most %d are added", ctx.PageCount, MaxPages)
	}
	root, err := ctx.Catalog()
	if err != nil {
		return nil, 0, err
	}
	strip(root, "Type", "Pages", "Version")
	for n := 1; n <= ctx.PageCount; n++ {
		page, _, _, err := ctx.PageDict(n, false)
		if err != nil {
			return nil, 0, err
		}
		strip(page, "Type", "Parent", "MediaBox", "CropBox", "Rotate", "UserUnit", "Resources", "Contents", "Group")
	}
	if err := api.OptimizeContext(ctx); err != nil {
		return nil, 0, err
	}
	var out bytes.Buffer
	if err := api.WriteContext(ctx, &out); err != nil {
		return nil, 0, err
	}
	return out.Bytes(), ctx.PageCount, nil
}

// strip leaves a dictionary only the entries of a list.
func strip(d types.Dict, keep ...string) {
	for key := range d {
		kept := false
		for _, k := range keep {
			kept = kept || k == key
		}
		if !kept {
			d.Delete(key)
		}
	}
}
