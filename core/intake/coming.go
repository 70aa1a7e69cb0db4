package intake

import (
	"amberseal/core/enclosure"
	"amberseal/core/words/finding"
)

// coming finds words of the format that stand in it already and that this program cannot do yet: a design that has them must not run as
// if they were done.
func (d Design) coming(exists func(file string) bool) finding.List {
	var l finding.List
	say := func(used bool, place, code string, values ...any) {
		if used {
			l.Fault(place, code, values...)
		}
	}
	for _, x := range d.Documents {
		at := "documents/" + x.Key
		say(len(x.Signers) > 0, at+"/signers", "coming.signers")
	}
	for _, x := range d.Notices {
		at := "notices/" + x.Key
		say(x.After != "", at+"/after", "coming.after", "after", x.After)
		for _, e := range x.Attach {
			say(e.House != "" && !exists(enclosure.FixedFile(e.House)), at+"/attach", "intake.no-fixed-file", "name", e.House)
			say(e.Form() == enclosure.DOCX && !d.hasWord(e.Document), at+"/attach", "intake.no-word-file", "document", d.called(e.Document))
		}
	}
	for _, x := range d.Filings {
		at := "filings/" + x.Key
		for _, e := range x.What {
			say(e.House != "" && !exists(enclosure.FixedFile(e.House)), at+"/what", "intake.no-fixed-file", "name", e.House)
			say(e.Form() == enclosure.DOCX && !d.hasWord(e.Document), at+"/what", "intake.no-word-file", "document", d.called(e.Document))
		}
	}
	say(d.Retention != nil, "retention", "coming.retention")
	say(d.Stage == Trial, "stage", "coming.trial")
	return l
}

// hasWord reports whether a document is a word-processor file.
func (d Design) hasWord(key string) bool {
	x, ok := d.Document(key)
	return ok && x.Brought() && !x.OnPages()
}

// called is the name of a document.
func (d Design) called(key string) string {
	x, _ := d.Document(key)
	return x.Name
}

// SendsWord reports whether a notice or a filing takes a document’s word-processor file.
func (d Design) SendsWord(key string) bool {
	takes := func(list []enclosure.Enclosure) bool {
		for _, e := range list {
			if e.Document == key && e.Form() == enclosure.DOCX {
				return true
			}
		}
		return false
	}
	for _, x := range d.Notices {
		if takes(x.Attach) {
			return true
		}
	}
	for _, x := range d.Filings {
		if takes(x.What) {
			return true
		}
	}
	return false
}
