// Package code makes the modules of printed codes: QR (ISO/IEC 18004), Data Matrix (ISO/IEC
// 16022), Code 128 (ISO/IEC 15417) and EAN-13 (ISO/IEC 15420). Words go in, dark rectangles come
// out; drawing them is somebody else's.
package code

import (
	"errors"
	"fmt"
	"strings"

	"github.com/boombuler/barcode"
	"github.com/boombuler/barcode/code128"
	"github.com/boombuler/barcode/datamatrix"
	"github.com/boombuler/barcode/ean"
	"rsc.io/qr"
	"rsc.io/qr/coding"
)

// Kind is a symbology.
type Kind string

// The kinds of code.
const (
	QR         Kind = "qr"
	DataMatrix Kind = "datamatrix"
	Code128    Kind = "code128"
	EAN13      Kind = "ean13"
	Payment    Kind = "payment" // a QR code of a Transfer's words
)

// Kinds lists them in the order in which they are offered.
func Kinds() []Kind { return []Kind{QR, DataMatrix, Code128, EAN13, Payment} }

// Flat reports whether the code is a row of bars rather than a square.
func (k Kind) Flat() bool { return k == Code128 || k == EAN13 }

// Symbol is a code in modules, with the empty rim that its standard asks for.
type Symbol struct {
	Width, Height float64      // modules, rim and all; flat codes are as high as they are asked to be
	Boxes         [][4]float64 // x, y, width, height of dark runs
}

// Make encodes words. height is how many modules high bars are. The error says in plain words why the words do not fit
// the kind.
func Make(k Kind, words string, height float64) (Symbol, error) {
	if words == "" {
		return Symbol{}, fmt.Errorf("there is nothing to encode")
	}
	switch k {
	case QR, Payment:
		c, err := quick(words, k == QR)
		if err != nil {
			return Symbol{}, fmt.Errorf("%d characters are too many for a QR code", len([]rune(words)))
		}
		return square(c.Size, 4, c.Black), nil
	case DataMatrix:
		c, err := datamatrix.Encode(words)
		if err != nil {
			return Symbol{}, fmt.Errorf("these words do not fit a Data Matrix code")
		}
		return square(c.Bounds().Dx(), 2, dark(c)), nil
	case Code128:
		c, err := code128.Encode(words)
		if err != nil {
			return Symbol{}, fmt.Errorf("a Code 128 holds plain Latin letters, digits and signs, at most 80")
		}
		return bars(c, 10, height), nil
	case EAN13:
		c, err := ean.Encode(words)
		if err != nil || len(words) < 12 {
			return Symbol{}, fmt.Errorf("an EAN-13 has 13 digits whose last one checks the others")
		}
		return bars(c, 11, height), nil
	}
	return Symbol{}, fmt.Errorf("there is no code called “%s”", k)
}

// quick makes a QR code. Words that are not ASCII say that they are UTF-8, or readers guess (ISO/IEC 18004, 7.4.3); payment codes
// say so in their own words, and their guideline has no such header.
func quick(words string, announced bool) (*qr.Code, error) {
	if !announced || strings.IndexFunc(words, func(r rune) bool { return r > 0x7F }) < 0 {
		return qr.Encode(words, qr.M)
	}
	e := utf8Words(words)
	for v := coding.Version(coding.MinVersion); v <= coding.MaxVersion; v++ {
		if e.Bits(v) > v.DataBytes(coding.M)*8 {
			continue
		}
		plan, err := coding.NewPlan(v, coding.M, 0)
		if err != nil {
			return nil, err
		}
		c, err := plan.Encode(e)
		if err != nil {
			return nil, err
		}
		return &qr.Code{Bitmap: c.Bitmap, Size: c.Size, Stride: c.Stride, Scale: 8}, nil
	}
	return nil, errors.New("too long")
}

// utf8Words are bytes behind the header that names their character set: mode 0111 and assignment 26 (ISO/IEC 18004, table 2;
// AIM's ECI assignments).
type utf8Words string

func (s utf8Words) Check() error              { return nil }
func (s utf8Words) Bits(v coding.Version) int { return 12 + coding.String(s).Bits(v) }
func (s utf8Words) Encode(b *coding.Bits, v coding.Version) {
	b.Write(0b0111, 4)
	b.Write(26, 8)
	coding.String(s).Encode(b, v)
}

func dark(c barcode.Barcode) func(x, y int) bool {
	return func(x, y int) bool {
		r, _, _, _ := c.At(x, y).RGBA()
		return r < 0x8000
	}
}

func square(size, rim int, black func(x, y int) bool) Symbol {
	s := Symbol{Width: float64(size + 2*rim), Height: float64(size + 2*rim)}
	for y := range size {
		for x := 0; x < size; x++ {
			run := x
			for run < size && black(run, y) {
				run++
			}
			if run > x {
				s.Boxes = append(s.Boxes, [4]float64{float64(x + rim), float64(y + rim), float64(run - x), 1})
				x = run
			}
		}
	}
	return s
}

func bars(c barcode.Barcode, rim int, height float64) Symbol {
	width := c.Bounds().Dx()
	black := dark(c)
	s := Symbol{Width: float64(width + 2*rim), Height: height}
	for x := 0; x < width; x++ {
		run := x
		for run < width && black(run, 0) {
			run++
		}
		if run > x {
			s.Boxes = append(s.Boxes, [4]float64{float64(x + rim), 0, float64(run - x), height})
			x = run
		}
	}
	return s
}
