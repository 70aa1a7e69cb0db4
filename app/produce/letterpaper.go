package produce

import (
	"math"

	"amberseal/core/foreign/ground"
	"amberseal/core/print/paper"
	"amberseal/core/print/pdf"
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
)

// letterPaper is what lies behind a document's pages. A file whose fonts are not in it is refused: nobody knows what it would look like.
func letterPaper(x paper.Document, pages *typeset.Pages, pictures paper.Pictures) (*pdf.Behind, finding.List) {
	var l finding.List
	place := "documents/" + x.Key + "/page"
	open := func(file string) *ground.Ground {
		if file == "" {
			return nil
		}
		g, err := openGround(paper.Document{File: file}, pictures)
		if err != nil {
			l.Fault(place, "produce.letter-paper-unread", "file", file, "reason", err.Error())
			return nil
		}
		if left := fontsLeft(g); left != nil {
			l.Fault(place, "produce.letter-paper-fonts", "file", file, "names", left.Values["names"])
			return nil
		}
		if size := g.Base.Pages[0]; len(pages.Pages) > 0 && !alike(size, pages.Pages[0]) {
			l.Notice(place, "produce.letter-paper-size", "file", file)
		}
		return g
	}
	first, rest := open(x.Page.Printed.First), open(x.Page.Printed.Rest)
	if first == nil && rest == nil {
		return nil, l
	}
	out := &pdf.Behind{}
	if first != nil {
		out.First = pdf.Behindmost{Base: &first.Base}
		if rest == nil && len(first.Base.Pages) > 1 {
			out.Rest = pdf.Behindmost{Base: &first.Base, Page: 1}
		}
	}
	if rest != nil {
		out.Rest = pdf.Behindmost{Base: &rest.Base}
	}
	return out, l
}

// fontsLeft is the finding of fonts that are not in a PDF, nil where all are.
func fontsLeft(g *ground.Ground) *finding.Finding {
	for i := range g.Findings {
		if g.Findings[i].Code == "ground.fonts-left" {
			return &g.Findings[i]
		}
	}
	return nil
}

// alike reports whether a page of letter paper is as large as a page of the document, but for two points.
func alike(p pdf.BasePage, s typeset.Sheet) bool {
	return math.Abs(p.Width-s.Width) <= 2 && math.Abs(p.Height-s.Height) <= 2
}
