// Package notice is the messages an intake sends: their design, their checks, and how
// they read once the facts of a submission stand in them. It sends nothing.
package notice

import (
	"slices"
	"time"

	"amberseal/core/ask/form"
	"amberseal/core/enclosure"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// Notice is one message of an intake.
type Notice struct {
	Key     string        `json:"key"`
	Name    string        `json:"name"`
	When    string        `json:"when,omitempty"` // formula; sent always when empty
	To      phrase.Phrase `json:"to"`             // addresses parted by commas, or placeholders for them
	Subject phrase.Phrase `json:"subject"`
	Message phrase.Body   `json:"message"`

	Attach []enclosure.Enclosure `json:"attach"`

	Pictures []Picture `json:"pictures,omitempty"`

	Answers []string `json:"answers,omitempty"` // names of the fields that the table of answers shows; all when empty

	Route  *Route   `json:"route,omitempty"`  // besides To: an address that an answer chooses
	Roles  []string `json:"roles,omitempty"`  // besides To: all who have one of these roles in the house
	People []string `json:"people,omitempty"` // besides To: people of the house, by their addresses, as long as they work there

	Copy       phrase.Phrase `json:"copy,omitempty"`      // addresses, as To
	BlindCopy  phrase.Phrase `json:"blindCopy,omitempty"` // and those nobody else sees
	ReplyTo    phrase.Phrase `json:"replyTo,omitempty"`
	SenderName phrase.Phrase `json:"senderName,omitempty"`
	Language   string        `json:"language,omitempty"` // BCP 47, for everybody; the house's, or that of a translation, when empty

	Translations map[string]Wording `json:"translations,omitempty"` // by language: de, fr, …; for who chose it for the form

	After   string   `json:"after,omitempty"` // a signal that it waits for, such as signed, approved or paid
	Delay   *Delay   `json:"delay,omitempty"`
	Collect *Collect `json:"collect,omitempty"`
}

// Message is a notice for one submission.
type Message struct {
	To      []string
	Subject string
	Text    string
	HTML    string
	Problem string

	Copy, BlindCopy, ReplyTo []string
	SenderName               string
}

// Usual are the two notices every intake begins with: one to the respondent, when the
// form asks for an address, and one to the house.
func Usual(f form.Form, document string) []Notice {
	var out []Notice
	if email, ok := f.First(form.Email); ok {
		hello := phrase.Parse("Good day,")
		for _, x := range f.Fields {
			if form.IsName(x) {
				hello = phrase.Phrase{{Text: "Dear "}, {Field: x.Key, Empty: "reader"}, {Text: ","}}
				break
			}
		}
		out = append(out, Notice{
			Key: "respondent", Name: "To the respondent",
			To:      phrase.Phrase{{Field: email.Key}},
			Subject: phrase.Parse("{{@intake}} {{@number}}"),
			Message: phrase.Body{
				{Spans: hello},
				{
					Spans: phrase.Parse(
						"thank you. We have received what you sent us on {{@received}} and gave it the number {{@number}}. Your copy is " +
							"attached.",
					),
				},
				{Spans: phrase.Parse("{{@house}}")},
			},
			Attach: enclosure.Of(document),
		})
	}
	return append(out, Notice{
		Key: "staff", Name: "To the house",
		To:      phrase.Parse("{{@house_email}}"),
		Subject: phrase.Parse("New: {{@intake}} {{@number}}"),
		Message: phrase.ParseBody("{{@intake}} {{@number}} came in on {{@received}} at {{@received|time}}. The document is attached."),
		Attach:  enclosure.Of(document),
	})
}

// Check finds what is wrong with the notice. Places begin with notices/KEY. documents
// are the keys of the intake's documents; exists says whether the house has a picture of a name.
func (n Notice) Check(f form.Form, documents []string, exists func(picture string) bool) finding.List {
	var l finding.List
	place := "notices/" + n.Key
	if n.Name == "" {
		l.Fault(place, "notice.no-name")
	}
	l = append(l, phrase.CheckCondition(place, n.When, phrase.Scope{Form: f})...)
	l = append(l, n.checkRecipients(place, f)...)
	l = append(l, n.checkTime(place, f)...)
	l = append(l, n.checkCollect(place)...)
	if len(n.Subject) == 0 {
		l.Fault(place+"/subject", "notice.no-subject")
	}
	scope := phrase.Scope{Form: f, Correctable: n.ToRespondent(f), Message: true}
	l = append(l, n.Subject.Check(place+"/subject", phrase.Scope{Form: f, Message: true})...)
	l = append(l, n.Message.Check(place+"/message", scope)...)
	l = append(l, n.checkPictures(place, exists)...)
	l = append(l, n.checkTranslations(place, f, scope)...)
	for _, name := range n.Answers {
		if x, ok := f.Field(name); !ok || !x.Answered() {
			l.Fault(place+"/answers", "notice.answer-is-gone", "field", name)
		}
	}
	l = append(l, enclosure.Check(place+"/attach", n.Attach, enclosure.Scope{Form: f, Documents: documents})...)
	return l
}

// Documents lists the keys of the documents that it carries.
func (n Notice) Documents() []string { return enclosure.Documents(n.Attach) }

// Says reports whether a placeholder stands somewhere in the notice, in whichever language.
func (n Notice) Says(placeholder string) bool {
	says := func(p phrase.Phrase) bool {
		return slices.ContainsFunc(p, func(s phrase.Span) bool { return s.Field == placeholder })
	}
	in := func(subject phrase.Phrase, message phrase.Body) bool {
		return says(subject) || slices.ContainsFunc(message, func(p phrase.Paragraph) bool { return says(p.Spans) })
	}
	for _, w := range n.Translations {
		if in(w.Subject, w.Message) {
			return true
		}
	}
	return in(n.Subject, n.Message)
}

// With is what a notice is written with besides the facts.
type With struct {
	House []string // the addresses of those people of the house to whom it goes
	Links []Linked // files that come by links

	Pictures map[string]int // how wide the pictures are that come with it, in pixels of CSS, by their names
}

// Linked is a file that comes by a link.
type Linked struct {
	Name    string
	Address string
	Until   time.Time // zero for ever
	Times   int       // 0 for any number
}

// For writes the notice for one submission. When an address is missing or wrong the
// message's Problem says so.
func (n Notice) For(facts phrase.Facts, w With) Message {
	n, facts = n.spoken(facts)
	m := Message{Subject: n.Subject.Plain(facts), SenderName: n.SenderName.Plain(facts)}
	message := n.Message
	if facts.Corrects(n) {
		m.Subject += " – " + facts.Locale().Revision(facts.Revision)
		message = append(phrase.Body{{Spans: phrase.Phrase{{Text: facts.Locale().Replaces(facts.Revision) + "."}}}}, message...)
	}
	words := append(n.adorned(bind(message, facts, n.Answers), w.Pictures), linked(w.Links, facts)...)
	m.Text, m.HTML = plainText(words), sheet(words, facts)
	n.address(&m, facts, w.House)
	return m
}
