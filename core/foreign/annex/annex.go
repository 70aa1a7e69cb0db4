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
	"strconv"
	"strings"

	"github.com/pdfcpu/pdfcpu/pkg/api"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/model"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"amberseal/core/foreign"
)

// MaxPages is how many pages of one PDF are added.
const MaxPages = 200

// Refused is a PDF whose pages cannot be added: which one, counted from 1, and why, as the end of a sentence.
type Refused struct {
	N      int
	Reason string
}

func (r Refused) Error() string { return fmt.Sprintf("PDF %d: %s", r.N, r.Reason) }

// ReadRefused reads a Refused from its words, as they come out of another process.
func ReadRefused(words string) (Refused, bool) {
	number, reason, _ := strings.Cut(strings.TrimPrefix(words, "PDF "), ": ")
	n, err := strconv.Atoi(number)
	return Refused{n, reason}, err == nil && reason != "" && strings.HasPrefix(words, "PDF ")
}

// errDamaged stands for whatever the reading library has to say, which are not words for people.
var errDamaged = errors.New("it is damaged, or written in a way that is not read")

// Join adds the pages of the others in their order, and says how many those are. One that cannot be added is a Refused.
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
			return nil, 0, Refused{i + 1, err.Error()}
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
			return nil, Refused{i + 1, err.Error()}
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
		return nil, 0, errors.New("it is protected")
	}
	if err := ctx.EnsurePageCount(); err != nil {
		return nil, 0, errDamaged
	}
	if ctx.PageCount > MaxPages {
		return nil, 0, fmt.Errorf("it has %d pages; at most %d are added", ctx.PageCount, MaxPages)
	}
	root, err := ctx.Catalog()
	if err != nil {
		return nil, 0, errDamaged
	}
	strip(root, "Type", "Pages", "Version")
	all := &painted{foreign.Objects{Context: ctx}, map[int]bool{}}
	for n := 1; n <= ctx.PageCount; n++ {
		page, _, above, err := ctx.PageDict(n, false)
		if err != nil || page == nil {
			return nil, 0, errDamaged
		}
		inherit(page, above)
		if err := all.page(page); err != nil {
			return nil, 0, fmt.Errorf("page %d: %w", n, err)
		}
		strip(page, "Type", "Parent", "MediaBox", "CropBox", "Rotate", "UserUnit", "Resources", "Contents", "Group")
	}
	// What paints nothing is gone by now: a fault in it hinders no page.
	if err := errors.Join(api.ValidateContext(ctx), api.OptimizeContext(ctx)); err != nil {
		return nil, 0, errDamaged
	}
	var out bytes.Buffer
	if err := api.WriteContext(ctx, &out); err != nil {
		return nil, 0, errDamaged
	}
	return out.Bytes(), ctx.PageCount, nil
}

// inherit gives a page what it takes from the nodes above it (ISO 32000-1, 7.7.3.4).
func inherit(page types.Dict, above *model.InheritedPageAttrs) {
	if above == nil {
		return
	}
	for key, box := range map[string]*types.Rectangle{"MediaBox": above.MediaBox, "CropBox": above.CropBox} {
		if page[key] == nil && box != nil {
			page[key] = box.Array()
		}
	}
	if page["Rotate"] == nil && above.Rotate != 0 {
		page["Rotate"] = types.Integer(above.Rotate)
	}
	if page["Resources"] == nil && len(above.Resources) > 0 {
		page["Resources"] = above.Resources
	}
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
