// Package notice is the messages an intake sends: their design, their checks, and how
// they read once the facts of a submission stand in them. It sends nothing.
package notice

import (
	"fmt"
	"net/mail"
	"slices"
	"strings"

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

	Copy       phrase.Phrase `json:"copy,omitempty"`      // addresses, as To
	BlindCopy  phrase.Phrase `json:"blindCopy,omitempty"` // and those nobody else sees
	ReplyTo    phrase.Phrase `json:"replyTo,omitempty"`
	SenderName phrase.Phrase `json:"senderName,omitempty"`
	Language   string        `json:"language,omitempty"` // BCP 47; the respondent's when empty
	After      string        `json:"after,omitempty"`    // a signal that it waits for, such as signed, approved or paid
	Delay      *Delay        `json:"delay,omitempty"`
	Collect    *Collect      `json:"collect,omitempty"`
}

// Delay is when a notice goes, if not at once: some time after the arrival, or before or after a day that an answer gives.
type Delay struct {
	Field   string `json:"field,omitempty"`   // name of a field for a day; the arrival when empty
	Days    int    `json:"days,omitempty"`    // later; before it when negative
	Minutes int    `json:"minutes,omitempty"` // later; before it when negative
	At      string `json:"at,omitempty"`      // time of that day on the house's clock, such as 09:00
}

// Collect gathers what several submissions would be told of into one message.
type Collect struct {
	Every Period `json:"every"`
	At    string `json:"at,omitempty"`    // time on the house's clock, of a day or a week
	Day   string `json:"day,omitempty"`   // of a week: monday to sunday
	Count int    `json:"count,omitempty"` // of a count: how many submissions
}

// Period is when what was gathered goes.
type Period string

// The periods.
const (
	Daily   Period = "day"
	Weekly  Period = "week"
	Counted Period = "count"
)

// Message is a notice for one submission.
type Message struct {
	To      []string `json:"to"`
	Subject string   `json:"subject"`
	Text    string   `json:"text"`
	HTML    string   `json:"html"`
	Attach  []string `json:"attach"` // keys of documents
	Problem string   `json:"problem,omitempty"`
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
// are the keys of the intake's documents.
func (n Notice) Check(f form.Form, documents []string) finding.List {
	var l finding.List
	place := "notices/" + n.Key
	if n.Name == "" {
		l.Fault(place, "notice.no-name")
	}
	l = append(l, phrase.CheckCondition(place, n.When, phrase.Scope{Form: f})...)
	l = append(l, n.checkTo(place+"/to", f)...)
	if len(n.Subject) == 0 {
		l.Fault(place+"/subject", "notice.no-subject")
	}
	scope := phrase.Scope{Form: f, Correctable: n.ToRespondent(f)}
	l = append(l, n.Subject.Check(place+"/subject", phrase.Scope{Form: f})...)
	l = append(l, n.Message.Check(place+"/message", scope)...)
	for _, key := range n.Documents() {
		if !slices.Contains(documents, key) {
			l.Fault(place+"/attach", "notice.document-is-gone", "key", key)
		}
	}
	return l
}

func (n Notice) checkTo(place string, f form.Form) finding.List {
	if len(n.To) == 0 {
		var l finding.List
		l.Fault(place, "notice.no-address")
		return l
	}
	l := n.To.Check(place, phrase.Scope{Form: f})
	for _, s := range n.To {
		x, ok := f.Field(s.Field)
		switch {
		case s.Field == "":
			if _, problem := addresses(s.Text); problem != "" {
				l.Fault(place, "notice.not-an-address", "reason", strings.TrimSuffix(problem, "."))
			}
		case ok && x.Kind != form.Email:
			l.Fault(place+"/placeholder "+s.Field, "notice.field-without-address", "label", x.Label)
		case ok && !x.Required:
			l.Notice(place+"/placeholder "+s.Field, "notice.address-may-be-empty", "label", x.Label)
		}
	}
	return l
}

// Documents lists the keys of the documents that it carries.
func (n Notice) Documents() []string { return enclosure.Documents(n.Attach) }

// ToRespondent reports whether the notice goes to an address that who answers the form names.
func (n Notice) ToRespondent(f form.Form) bool {
	return slices.ContainsFunc(slices.Concat(n.To, n.Copy, n.BlindCopy), func(s phrase.Span) bool {
		x, ok := f.Field(s.Field)
		return ok && x.Answered()
	})
}

// For writes the notice for one submission. When an address is missing or wrong the
// message's Problem says so.
func (n Notice) For(facts phrase.Facts) Message {
	m := Message{Subject: n.Subject.Plain(facts), Attach: n.Documents()}
	message := n.Message
	if facts.Corrects(n) {
		m.Subject += " – " + facts.Locale().Revision(facts.Revision)
		message = append(phrase.Body{{Spans: phrase.Phrase{{Text: facts.Locale().Replaces(facts.Revision) + "."}}}}, message...)
	}
	m.Text, m.HTML = Letter(message, facts)
	to := n.To.Plain(facts)
	m.To, m.Problem = addresses(to)
	if len(m.To) == 0 && m.Problem == "" {
		m.Problem = n.noAddress(facts)
	}
	return m
}

func (n Notice) noAddress(facts phrase.Facts) string {
	for _, s := range n.To {
		if s.Field == "@house_email" {
			return "The house has no email address. Write it on the House page."
		}
		if x, ok := facts.Form.Field(s.Field); ok {
			return "No address in “" + x.Label + "”."
		}
	}
	return "The notice has no address."
}

// addresses splits a list of addresses. RFC 5322 section 3.4 allows commas between them;
// people also write semicolons.
func addresses(s string) ([]string, string) {
	var out []string
	for part := range strings.FieldsFuncSeq(s, func(r rune) bool { return r == ',' || r == ';' }) {
		part = strings.TrimSpace(part)
		if part == "" {
			continue
		}
		a, err := mail.ParseAddress(part)
		if err != nil {
			return nil, fmt.Sprintf("“%s” is not an email address.", part)
		}
		out = append(out, a.Address)
	}
	return out, ""
}
