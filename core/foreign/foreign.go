// Package foreign opens PDFs that came from anybody.
//
// Before the reading library makes room for anything, the file's size and the object numbers it claims are looked at; a file
// of 3 kB could otherwise ask for 14 GB. Whoever reads what people sent does so in a child process with limits of its own;
// a panic of the library is an error here.
package foreign

import (
	"bytes"
	"errors"
	"fmt"
	"regexp"
	"strconv"

	"github.com/pdfcpu/pdfcpu/pkg/api"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/model"
)

// Limits of a PDF that is opened.
const (
	MaxBytes   = 20 << 20
	maxObjects = 100_000
	maxNumber  = 1_000_000 // the highest object number; tables are as long as it
)

// objectNumbers finds declared sizes before the reader makes room for them.
var objectNumbers = regexp.MustCompile(
	`/Size\s+(\d+)|(?:^|[\r\n])(\d{1,12})\s+\d{1,5}\s+obj|(?:^|[\r\n])(\d{1,12})\s+(\d{1,12})[\r\n ]+\d{10} \d{5} [nf]|/Index\s*\[\s*(\d+)`,
)

// widths finds the columns of a cross-reference stream (ISO 32000-1, 7.5.8.2): numbers of more than eight bytes are there only to
// make it unpack into gigabytes.
var widths = regexp.MustCompile(`/W\s*\[\s*(\d+)\s+(\d+)\s+(\d+)`)

// lockedInPlace finds the dictionary of a protection that stands in the trailer itself, which the library overlooks.
var lockedInPlace = regexp.MustCompile(`/Encrypt\s*<<`)

// Configuration is how the library is used: it asks nobody outside and forgives what readers forgive.
func Configuration() *model.Configuration {
	api.DisableConfigDir()
	conf := model.NewDefaultConfiguration()
	conf.Offline, conf.ValidationMode = true, model.ValidationRelaxed
	return conf
}

// Open reads a PDF within the limits. The error says in plain words why it cannot be read.
func Open(data []byte) (ctx *model.Context, err error) {
	if len(data) > MaxBytes {
		return nil, fmt.Errorf("the PDF has more than %d MB", MaxBytes>>20)
	}
	for _, m := range objectNumbers.FindAllSubmatch(data, -1) {
		for _, n := range m[1:] {
			if v, err := strconv.Atoi(string(n)); len(n) > 0 && (err != nil || v > maxNumber) {
				return nil, fmt.Errorf("the PDF claims object number %s; at most %d are read", n, maxNumber)
			}
		}
	}
	for _, m := range widths.FindAllSubmatch(data, -1) {
		for _, n := range m[1:] {
			if v, err := strconv.Atoi(string(n)); err != nil || v > 8 {
				return nil, errors.New("the PDF’s table of objects is damaged")
			}
		}
	}
	defer func() {
		if p := recover(); p != nil {
			ctx, err = nil, fmt.Errorf("the PDF is damaged: %v", p)
		}
	}()
	ctx, err = api.ReadContext(bytes.NewReader(data), Configuration())
	if err != nil {
		return nil, fmt.Errorf("the PDF cannot be read: %w", err)
	}
	if ctx.Encrypt == nil && lockedInPlace.Match(data) {
		return nil, errors.New("the PDF is protected in a way that is not read")
	}
	if len(ctx.Table) > maxObjects {
		return nil, fmt.Errorf("the PDF has more than %d objects", maxObjects)
	}
	return ctx, nil
}
