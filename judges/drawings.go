package main

import (
	"fmt"
	"os"
	"path/filepath"

	"amberseal/core/print/pdf"
	"amberseal/core/print/svg"
	"amberseal/core/print/typeset"
)

// ofDrawings sets each drawing as drawing programs write them on a page of its own: gradients, clips, and what is seen through, which the
// oldest level forbids.
func ofDrawings(put func(name string, data []byte, mustSay bool) error) error {
	files, err := filepath.Glob("core/print/svg/testdata/*.svg")
	if err != nil || len(files) == 0 {
		return fmt.Errorf("there are no drawings: %w", err)
	}
	const side = 400 // points
	for _, level := range []pdf.Archival{pdf.A1b, pdf.A2b} {
		doc := &typeset.Document{Title: "Drawings", Language: "en", Page: typeset.Page{Width: side, Height: side}}
		for i, name := range files {
			data, err := os.ReadFile(name)
			if err != nil {
				return err
			}
			d, err := svg.Read(data, nil)
			if err != nil {
				return fmt.Errorf("%s: %w", name, err)
			}
			if i > 0 {
				doc.Body = append(doc.Body, &typeset.Break{})
			}
			doc.Body = append(doc.Body, &typeset.Picture{Drawing: d, Width: side, Alt: filepath.Base(name)})
		}
		pages, err := typeset.Set(doc)
		if err != nil {
			return err
		}
		data, err := pdf.Write(pages, pdf.Properties{Made: at, Archival: level})
		if err != nil {
			return err
		}
		if err := put("drawings-"+string(level), data, false); err != nil {
			return err
		}
	}
	return nil
}
