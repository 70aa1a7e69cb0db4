package notice

import (
	"fmt"
	"net/mail"
	"slices"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// Route chooses an address by an answer.
type Route struct {
	Field string            `json:"field"`          // name of a field for one of several or several of several
	To    map[string]string `json:"to"`             // value of a choice to addresses, parted by commas
	Else  string            `json:"else,omitempty"` // addresses for every other answer
}

// mostRecipients is how many addresses a notice may name: servers take a hundred at least (RFC 5321 section 4.5.3.1.8), and whoever is to
// write to more has a list for that.
const mostRecipients = 100

// ToRespondent reports whether the notice goes to an address that who answers the form names.
func (n Notice) ToRespondent(f form.Form) bool {
	return slices.ContainsFunc(slices.Concat(n.To, n.Copy, n.BlindCopy), func(s phrase.Span) bool {
		x, ok := f.Field(s.Field)
		return ok && x.Answered()
	})
}

// checkRecipients finds what is wrong with whom it goes to.
func (n Notice) checkRecipients(place string, f form.Form) finding.List {
	var l finding.List
	if len(n.To) == 0 && n.Route == nil && len(n.Roles)+len(n.People) == 0 {
		l.Fault(place+"/to", "notice.no-address")
	}
	l = append(l, checkAddresses(place+"/to", n.To, f, n.Route == nil && len(n.Roles)+len(n.People) == 0)...)
	l = append(l, checkAddresses(place+"/copy", n.Copy, f, false)...)
	l = append(l, checkAddresses(place+"/blindCopy", n.BlindCopy, f, false)...)
	l = append(l, checkAddresses(place+"/replyTo", n.ReplyTo, f, false)...)
	l = append(l, n.SenderName.Check(place+"/senderName", phrase.Scope{Form: f})...)
	for _, address := range n.People {
		if _, problem := addresses(address); problem != "" {
			l.Fault(place+"/people", "notice.not-an-address", "reason", strings.TrimSuffix(problem, "."))
		}
	}
	if r := n.Route; r != nil {
		l = append(l, r.check(place+"/route", f)...)
	}
	return l
}

func (r Route) check(place string, f form.Form) finding.List {
	var l finding.List
	x, ok := f.Field(r.Field)
	if !ok || x.Kind != form.OneOf && x.Kind != form.OnePictured && x.Kind != form.SeveralOf {
		l.Fault(place, "notice.route-without-choices")
		return l
	}
	for value, to := range r.To {
		if !slices.ContainsFunc(x.Choices, func(c form.Choice) bool { return c.Value == value }) {
			l.Fault(place, "notice.choice-is-gone", "choice", value, "label", x.Label)
		}
		if _, problem := addresses(to); problem != "" {
			l.Fault(place, "notice.not-an-address", "reason", strings.TrimSuffix(problem, "."))
		}
	}
	if _, problem := addresses(r.Else); problem != "" {
		l.Fault(place, "notice.not-an-address", "reason", strings.TrimSuffix(problem, "."))
	}
	for _, c := range x.Choices {
		if r.To[c.Value] == "" && r.Else == "" {
			l.Notice(place, "notice.choice-without-address", "choice", c.Label)
		}
	}
	l.Sort()
	return l
}

// chosen are the addresses that the answers choose.
func (r Route) chosen(answers form.Answers) []string {
	v := answers[r.Field]
	values := v.List
	if v.Text != "" {
		values = []string{v.Text}
	}
	var out []string
	for _, value := range values {
		to := r.To[value]
		if to == "" {
			to = r.Else
		}
		some, _ := addresses(to)
		out = append(out, some...)
	}
	if len(values) == 0 {
		out, _ = addresses(r.Else)
	}
	return out
}

// checkAddresses finds what is wrong with a phrase that is to be addresses. alone says that nothing else gives the notice one.
func checkAddresses(place string, p phrase.Phrase, f form.Form, alone bool) finding.List {
	l := p.Check(place, phrase.Scope{Form: f})
	for _, s := range p {
		x, ok := f.Field(s.Field)
		switch {
		case s.Field == "":
			if _, problem := addresses(s.Text); problem != "" {
				l.Fault(place, "notice.not-an-address", "reason", strings.TrimSuffix(problem, "."))
			}
		case ok && x.Kind != form.Email:
			l.Fault(place+"/placeholder "+s.Field, "notice.field-without-address", "label", x.Label)
		case ok && !x.Required && alone:
			l.Notice(place+"/placeholder "+s.Field, "notice.address-may-be-empty", "label", x.Label)
		}
	}
	return l
}

// address finds whom a message goes to. Nobody gets it twice.
func (n Notice) address(m *Message, facts phrase.Facts, house []string) {
	seen := map[string]bool{}
	read := func(s string) []string {
		all, problem := addresses(s)
		if problem != "" && m.Problem == "" {
			m.Problem = problem
		}
		return all
	}
	once := func(all []string) []string {
		return slices.DeleteFunc(all, func(a string) bool {
			known := seen[mailbox(a)]
			seen[mailbox(a)] = true
			return known
		})
	}
	to := read(n.To.Plain(facts))
	if n.Route != nil {
		to = append(to, n.Route.chosen(facts.Answers)...)
	}
	m.To = once(append(to, house...))
	m.Copy, m.BlindCopy = once(read(n.Copy.Plain(facts))), once(read(n.BlindCopy.Plain(facts)))
	m.ReplyTo = read(n.ReplyTo.Plain(facts))
	if len(n.ReplyTo) == 0 && !n.ToRespondent(facts.Form) {
		m.ReplyTo = respondent(facts)
	}
	switch many := len(m.To) + len(m.Copy) + len(m.BlindCopy); {
	case m.Problem != "":
	case len(m.To) == 0:
		m.Problem = n.noAddress(facts)
	case many > mostRecipients:
		m.Problem = fmt.Sprintf("It goes to %d addresses; %d are the most. Write to a list instead.", many, mostRecipients)
	}
}

// respondent is the address of who answered, where the form asks for one: whoever of the house answers a notice answers them.
func respondent(facts phrase.Facts) []string {
	x, ok := facts.Form.First(form.Email)
	if !ok {
		return nil
	}
	all, _ := addresses(facts.Answers[x.Key].Text)
	return all
}

func (n Notice) noAddress(facts phrase.Facts) string {
	for _, s := range n.To {
		if s.Field == "@house_email" {
			return NoHouse
		}
		if x, ok := facts.Form.Field(s.Field); ok {
			return "No address in “" + x.Label + "”."
		}
	}
	if n.Route != nil {
		if x, ok := facts.Form.Field(n.Route.Field); ok {
			return "The answer to “" + x.Label + "” chooses no address."
		}
	}
	if len(n.Roles)+len(n.People) > 0 {
		return "Nobody of the house it goes to works there any more. Choose somebody else; send it again then."
	}
	return "The notice has no address."
}

// addresses splits a list of addresses. RFC 5322 section 3.4 allows commas between them;
// people also write semicolons.
func addresses(s string) ([]string, string) {
	var out []string
	for _, part := range parted(s) {
		if part = strings.TrimSpace(part); part == "" {
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

// parted splits at commas and semicolons that stand in no quotes.
func parted(s string) (out []string) {
	quoted, at := false, 0
	for i, r := range s {
		switch {
		case r == '"' && (i == 0 || s[i-1] != '\\'):
			quoted = !quoted
		case (r == ',' || r == ';') && !quoted:
			out, at = append(out, s[at:i]), i+1
		}
	}
	return append(out, s[at:])
}

// NoHouse is the Problem of a message that goes to a house without an address. It ends when the house says one.
const NoHouse = "The house has no email address. Write it on the House page."
