// Package intake is the design of a whole intake: its form, documents, notices and
// filings in one plain, versioned JSON format, which is the file for export and import,
// the body of the API and the source of the demo (docs/design-format.md).
package intake

import (
	"fmt"
	"path"
	"regexp"
	"slices"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/enclosure"
	"amberseal/core/filing"
	"amberseal/core/foreign/match"
	"amberseal/core/notice"
	"amberseal/core/print/paper"
	"amberseal/core/words/finding"
	"amberseal/core/words/numbering"
)

// Version is that of the format this program reads and writes.
const Version = 2

// Design is an intake.
type Design struct {
	Version   int               `json:"amberseal"`
	Name      string            `json:"name"`
	Slug      string            `json:"slug"`   // the last part of the form's address
	Number    numbering.Pattern `json:"number"` // of submissions
	Form      form.Form         `json:"form"`
	Documents []paper.Document  `json:"documents"`
	Notices   []notice.Notice   `json:"notices"`
	Filings   []filing.Filing   `json:"filings"`
	Registers []filing.Register `json:"registers,omitempty"`
	Opening   Opening           `json:"opening,omitzero"`
	Account   string            `json:"account,omitempty"` // key of the mail account by which its notices go; the house's rule when empty
	Retention *Retention        `json:"retention,omitempty"`
	Stage     Stage             `json:"stage,omitempty"`
}

// Retention is how long what was sent is kept.
type Retention struct {
	Days  int      `json:"days"`            // after the arrival
	Field string   `json:"field,omitempty"` // name of a field for a day, instead of the arrival
	Of    []string `json:"of,omitempty"`    // answers, files, documents; all when empty
}

// Stage is whether an intake is tried or in use; in use when empty.
type Stage string

// The stages.
const (
	Trial Stage = "trial"
	Live  Stage = "live"
)

// New makes a whole intake of a name and fields: with a receipt, a notice to the
// respondent, one to the house, and a filing rule.
func New(name string, fields []form.Field) Design {
	f := form.Form{Fields: fields}
	return Design{
		Version: Version, Name: name, Slug: SlugFor(name), Number: numbering.Usual(name), Form: f,
		Documents: []paper.Document{paper.Usual("receipt", "Receipt", f)},
		Notices:   notice.Usual(f, "receipt"),
		Filings:   filing.Usual("receipt"),
	}
}

// SlugFor makes the last part of an address of a name.
func SlugFor(name string) string {
	s := strings.ReplaceAll(form.KeyFor(name, nil), "_", "-")
	if s == "field" {
		return "intake"
	}
	return s
}

// Document finds a document by its key.
func (d Design) Document(key string) (paper.Document, bool) {
	i := slices.IndexFunc(d.Documents, func(x paper.Document) bool { return x.Key == key })
	if i < 0 {
		return paper.Document{}, false
	}
	return d.Documents[i], true
}

// ForRespondent reports whether a document is for who answered, too: as it says itself, else when a notice to the respondent
// attaches it or it is shown before sending. All else is for staff alone.
func (d Design) ForRespondent(key string) bool {
	x, ok := d.Document(key)
	if !ok {
		return false
	}
	if len(x.Audience) > 0 {
		return slices.Contains(x.Audience, paper.Respondent)
	}
	return d.handsOver(key)
}

// handsOver reports whether the design gives a document to the respondent.
func (d Design) handsOver(key string) bool {
	return d.Opening.Shown == key ||
		slices.ContainsFunc(d.Notices, func(n notice.Notice) bool { return n.ToRespondent(d.Form) && slices.Contains(n.Documents(), key) })
}

// audiences finds documents that are handed to somebody they are not for.
func (d Design) audiences() finding.List {
	var l finding.List
	for _, x := range d.Documents {
		if len(x.Audience) == 0 || slices.Contains(x.Audience, paper.Respondent) {
			continue
		}
		for _, n := range d.Notices {
			if n.ToRespondent(d.Form) && slices.Contains(n.Documents(), x.Key) {
				l.Fault("notices/"+n.Key+"/attach", "intake.sent-is-for-staff", "name", x.Name)
			}
		}
		if d.Opening.Shown == x.Key {
			l.Fault("opening/shown", "intake.shown-is-for-staff", "name", x.Name)
		}
	}
	return l
}

var slug = regexp.MustCompile(`^[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?$`)

// Check finds everything that is wrong with the design, faults first. exists says
// whether a picture of a name is there.
func (d Design) Check(exists func(picture string) bool) finding.List {
	var l finding.List
	if strings.TrimSpace(d.Name) == "" {
		l.Fault("name", "intake.no-name")
	}
	if !slug.MatchString(d.Slug) {
		l.Fault("slug", "intake.slug-unusable", "slug", d.Slug)
	}
	if p := d.Number.Problem(); p != "" {
		l.Fault("number", p, "count", "{n}", "parts", "{n}, {n:5}, {year}", "example", "R-{year}-{n:5}")
	}
	l = append(l, d.Form.CheckDesign(exists)...)
	var documents, notices, filings, registers []string
	for _, x := range d.Documents {
		l = append(l, x.Check(d.Form, exists)...)
		documents = append(documents, x.Key)
	}
	for _, x := range d.Notices {
		l = append(l, x.Check(d.Form, documents, exists)...)
		notices = append(notices, x.Key)
	}
	for _, x := range d.Filings {
		l = append(l, x.Check(d.Form, documents)...)
		filings = append(filings, x.Key)
	}
	for _, x := range d.Registers {
		l = append(l, x.Check(d.Form)...)
		registers = append(registers, x.Key)
	}
	unique(&l, "registers", "register", registers)
	unique(&l, "documents", "document", documents)
	unique(&l, "notices", "notice", notices)
	unique(&l, "filings", "filing", filings)
	l = append(l, d.Opening.check(d, exists)...)
	l = append(l, d.audiences()...)
	l = append(l, d.coming(exists)...)
	l = append(l, d.unprinted()...)
	for _, key := range documents {
		if !d.uses(key) {
			l.Notice("documents/"+key, "intake.document-for-nobody")
		}
	}
	l.Sort()
	return l
}

// unprinted finds fields that no document, notice or name shows.
func (d Design) unprinted() finding.List {
	var l finding.List
	if len(d.Documents) == 0 {
		return l
	}
	for _, w := range d.Whereabouts() {
		x, ok := d.Form.Field(w.Name)
		if _, column := d.Form.Column(w.Name); !ok || column || w.Fault {
			continue
		}
		if !slices.ContainsFunc(w.Places, func(p Place) bool { return p.Use == Prints || p.Use == Mails || p.Use == Names }) {
			l.Notice("form/fields/"+w.Name, "intake.printed-nowhere", "label", x.Label)
		}
	}
	return l
}

func (d Design) uses(document string) bool {
	return slices.ContainsFunc(d.Notices, func(n notice.Notice) bool { return slices.Contains(n.Documents(), document) }) ||
		slices.ContainsFunc(d.Filings, func(x filing.Filing) bool { return slices.Contains(enclosure.Documents(x.What), document) })
}

func unique(l *finding.List, place, what string, keys []string) {
	seen := map[string]bool{}
	for i, key := range keys {
		if key == "" || strings.ContainsAny(key, "/ ") || seen[key] {
			l.Fault(fmt.Sprintf("%s/#%d", place, i+1), "intake.key-unusable", "what", what)
		}
		seen[key] = true
	}
}

// WithoutFiles is the design without the documents that are files of a house, what carries them, letter paper and pictures of messages.
func (d Design) WithoutFiles() Design {
	out := d.clone()
	gone := map[string]bool{}
	for _, x := range d.Documents {
		gone[x.Key] = x.Brought()
	}
	carried := func(e enclosure.Enclosure) bool { return gone[e.Document] }
	out.Documents = slices.DeleteFunc(out.Documents, paper.Document.Brought)
	for i := range out.Documents {
		out.Documents[i].Page.Printed = nil
	}
	for i := range out.Notices {
		out.Notices[i].Attach = slices.DeleteFunc(out.Notices[i].Attach, carried)
		out.Notices[i].Pictures = nil
	}
	out.Filings = slices.DeleteFunc(out.Filings, func(x filing.Filing) bool { return slices.ContainsFunc(x.What, carried) })
	return out
}

// MatchesOf is what was chosen for the placeholders of a file, by its name without folders.
func (d Design) MatchesOf(file string) map[string]match.Match {
	i := slices.IndexFunc(d.Documents, func(x paper.Document) bool { return x.Brought() && path.Base(x.File) == path.Base(file) })
	if i < 0 {
		return nil
	}
	return d.Documents[i].Matches
}
