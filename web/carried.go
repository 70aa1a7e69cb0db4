package web

import (
	"path"
	"strings"

	"amberseal/app/produce"
	"amberseal/app/register"
	"amberseal/core/enclosure"
	"amberseal/core/intake"
	"amberseal/core/notice"
	"amberseal/core/words/phrase"
)

// attached names the files that would go along with a notice.
func attached(x intake.Design, n notice.Notice, facts phrase.Facts) []string {
	out := []string{}
	for _, p := range carried(x, n.Attach, facts) {
		if p.link == nil {
			out = append(out, p.name)
		}
	}
	return out
}

// linkedOf are the files that would come by links.
func (d *handlers) linkedOf(x intake.Design, n notice.Notice, facts phrase.Facts) []notice.Linked {
	var out []notice.Linked
	for _, p := range carried(x, n.Attach, facts) {
		if p.link == nil {
			continue
		}
		l := notice.Linked{Name: p.name, Address: facts.House.Link("/o/TOKEN"), Times: p.link.Openings}
		if p.link.Days > 0 {
			l.Until = d.Now().AddDate(0, 0, p.link.Days)
		}
		out = append(out, l)
	}
	return out
}

// piece is a file that would be carried.
type piece struct {
	title, name string
	link        *enclosure.Link
}

// carried are the files that enclosures would be, were they made now.
func carried(x intake.Design, list []enclosure.Enclosure, facts phrase.Facts) (out []piece) {
	for _, e := range list {
		switch {
		case e.Document != "":
			doc, ok := x.Document(e.Document)
			if !ok || !facts.Condition(doc.When) {
				continue
			}
			made := register.Document{FileName: produce.FileName(doc, facts)}
			p := piece{doc.Name, made.FileName, e.Link}
			if e.Form() == enclosure.DOCX {
				p.name = made.WordName()
			}
			out = append(out, p)
		case e.Files != "":
			for _, f := range enclosure.Sent(x.Form, facts.Answers, e.Files) {
				out = append(out, piece{strings.TrimSuffix(f.Name, path.Ext(f.Name)), f.Name, e.Link})
			}
		case e.House != "":
			out = append(out, piece{strings.TrimSuffix(e.House, path.Ext(e.House)), e.House, e.Link})
		case e.Answers:
			out = append(out, piece{"answers", "answers.json", e.Link})
		}
	}
	return out
}
