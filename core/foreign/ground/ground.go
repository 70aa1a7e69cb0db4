// Package ground takes a PDF of somebody else apart, once, so that documents can be printed over it: its fields filled, words and pictures
// put on its pages.
//
// Take reads what anybody may have sent and so belongs into a child process with limits of its own. What it gives is plain data, which
// Encode keeps and Decode reads back; both are quick and the second trusts what the first wrote. Scripts, actions, attachments and other
// forms of the form (XFA) are left behind. All lengths are points from the upper left corner of the page as it is seen.
package ground

import (
	"bytes"
	"encoding/gob"
	"errors"
	"fmt"

	"amberseal/core/foreign/match"
	"amberseal/core/print/pdf"
	"amberseal/core/words/finding"
)

// Limits of a PDF that is printed over.
const (
	MaxPages   = 500
	MaxFields  = 5_000
	maxObjects = 100_000
	maxDepth   = 64
	maxRules   = 2_000 // on one page
)

// The errors of files that nothing can be printed over.
var (
	ErrProtected = errors.New("the PDF is protected by a password; save it without one and bring that")
	ErrSigned    = errors.New("the PDF is signed, and filling it would break the signature; bring the file as it was before")
	ErrOtherForm = errors.New("the PDF holds only a form of another kind (XFA), which readers have given up; " +
		"print it into a new PDF, or ask its makers for one with plain fields")
)

// Ground is a PDF taken apart.
type Ground struct {
	Base     pdf.Base
	Title    string
	Fields   []Field
	Rules    [][]Box // of each page: lines and boxes that it draws, to which what is put there is laid
	Findings finding.List
}

// Box is a place on a page.
type Box struct{ X, Y, W, H float64 }

// Field is a field of a form (ISO 32000-1, 12.7).
type Field struct {
	Name    string // with those above it, parted by points
	Label   string // what readers say of it
	Kind    match.Kind
	Value   string // what stands in it
	Lines   bool   // of several lines
	Comb    int    // so many letters, each in a box of its own; 0 for none
	Most    int    // letters; 0 for no limit
	Options []Option
	Several bool // more than one of the options
	Widgets []Widget

	Object  int
	Entries string // besides its value
}

// Option is one of a list, or a radio button.
type Option struct{ Value, Words string }

// Widget is where a field stands on a page.
type Widget struct {
	Box
	Page   int // counted from 0
	Align  int // 0 left, 1 in the middle, 2 right
	Size   float64
	Font   string // the name of the one it asks for; empty for none
	Ink    [3]uint8
	Fill   *[3]uint8
	Border *[3]uint8
	Rule   float64 // how wide its border is
	State  string  // of a tick or radio button: what it is when it is on
	Hidden bool
	Turn   int // degrees against the clock

	Object  int
	Entries string     // besides its state and look
	Looks   string     // entries of its look and state as they are
	States  string     // entries of its looks alone
	Rect    [4]float64 // of the page
	Look    Look       // as it is
	On, Off Look       // of a tick or radio button
}

// Look is a form XObject, and the matrix that brings it to its place on the page.
type Look struct {
	Object int
	Place  [6]float64
}

// Field finds a field by its name.
func (g *Ground) Field(name string) (Field, bool) {
	for _, f := range g.Fields {
		if f.Name == name {
			return f, true
		}
	}
	return Field{}, false
}

// Fillable reports whether the file has fields to fill.
func (g *Ground) Fillable() bool { return len(g.Fields) > 0 }

// version changes with what is kept.
const version = 1

// ErrOld is the error of what was kept by another version of the program; the file has to be taken apart again.
var ErrOld = errors.New("the form was kept by another version of the program")

// Current reports whether what was kept can be read by this version of the program.
func Current(kept []byte) bool { return len(kept) > 0 && kept[0] == version }

// Encode writes a ground as it is kept.
func (g *Ground) Encode() ([]byte, error) {
	var b bytes.Buffer
	b.WriteByte(version)
	err := gob.NewEncoder(&b).Encode(g)
	return b.Bytes(), err
}

// Keep takes a PDF apart and writes it as it is kept.
func Keep(data []byte) ([]byte, error) {
	g, err := Take(data)
	if err != nil {
		return nil, err
	}
	return g.Encode()
}

// Decode reads what Encode wrote.
func Decode(kept []byte) (*Ground, error) {
	if !Current(kept) {
		return nil, ErrOld
	}
	g := &Ground{}
	if err := gob.NewDecoder(bytes.NewReader(kept[1:])).Decode(g); err != nil {
		return nil, fmt.Errorf("the kept form is damaged: %w", err)
	}
	return g, nil
}
