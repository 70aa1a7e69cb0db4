package notice

import (
	"html"
	"slices"
	"strings"
	"time"

	"amberseal/core/ask/form"
	"amberseal/core/words/finding"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// Collect gathers what several submissions would be told of into one message. Only what goes to the same addresses is gathered into one.
type Collect struct {
	Every  Period `json:"every"`
	At     string `json:"at,omitempty"`     // time on the house's clock, of a day or a week, such as 17:00
	Day    string `json:"day,omitempty"`    // of a week: monday to sunday
	Count  int    `json:"count,omitempty"`  // of a count: how many submissions
	Joined bool   `json:"joined,omitempty"` // documents go as one PDF
}

// Period is when what was gathered goes.
type Period string

// The periods.
const (
	Daily   Period = "day"
	Weekly  Period = "week"
	Counted Period = "count"
)

// MostCollected is how many submissions one message tells of; what is more goes in another.
const MostCollected = 200

// weekdays as a design names them, by time.Weekday.
var weekdays = []string{"sunday", "monday", "tuesday", "wednesday", "thursday", "friday", "saturday"}

// ofMany are the placeholders that say the same whichever submission they are asked of.
var ofMany = []string{"@house", "@house_email", "@house_phone", "@house_website", "@house_address", "@intake", "@today", "@answers"}

// checkCollect finds what is wrong with how it is collected: its words are about many submissions, and cannot speak of one.
func (n Notice) checkCollect(place string) finding.List {
	var l finding.List
	c := n.Collect
	if c == nil {
		return l
	}
	at := place + "/collect"
	if n.Delay != nil {
		l.Fault(at, "notice.delayed-and-collected")
	}
	if _, err := time.Parse("15:04", c.At); c.Every != Counted && err != nil {
		l.Fault(at, "notice.no-hour", "at", c.At)
	}
	switch {
	case !slices.Contains([]Period{Daily, Weekly, Counted}, c.Every):
		l.Fault(at, "notice.collected-never")
	case c.Every == Weekly && !slices.Contains(weekdays, c.Day):
		l.Fault(at, "notice.no-weekday", "day", c.Day)
	case c.Every == Counted && (c.Count < 2 || c.Count > MostCollected):
		l.Fault(at, "notice.collected-count")
	}
	return append(l, n.checkWordsOfMany(place)...)
}

// checkWordsOfMany finds words that speak of one submission where a message tells of many.
func (n Notice) checkWordsOfMany(place string) finding.List {
	var l finding.List
	if n.Collect == nil {
		return l
	}
	speaks := func(part string, p phrase.Phrase) {
		for _, s := range p {
			of := s.Field
			if of == "" && slices.Contains(phrase.Links, s.Link) {
				of = s.Link
			}
			if of != "" && !slices.Contains(ofMany, of) {
				l.Fault(place+"/"+part+"/placeholder "+of, "notice.collected-speaks-of-one", "field", of)
			}
			if s.When != "" {
				l.Fault(place+"/"+part, "notice.collected-has-conditions")
			}
		}
	}
	speaks("subject", n.Subject)
	speaks("senderName", n.SenderName)
	speaks("replyTo", n.ReplyTo)
	for _, p := range n.Message {
		speaks("message", p.Spans)
	}
	return l
}

// Next is when what is gathered now goes, in UTC; the zero time where a count says so.
func (c Collect) Next(now time.Time, zone *time.Location) time.Time {
	at, err := time.Parse("15:04", c.At)
	if err != nil || c.Every == Counted {
		return time.Time{}
	}
	today := now.In(zone)
	for days := range 8 {
		wall := time.Date(today.Year(), today.Month(), today.Day()+days, at.Hour(), at.Minute(), 0, 0, time.UTC)
		due := OnClock(wall, zone).UTC()
		if due.After(now) && (c.Every != Weekly || weekdays[wall.Weekday()] == c.Day) {
			return due
		}
	}
	return time.Time{}
}

// Whom are the addresses to which what one submission says goes, besides people of the house: what goes to the same is gathered. A
// problem says why there are none.
func (n Notice) Whom(facts phrase.Facts) (whom []string, problem string) {
	var m Message
	n.address(&m, facts, nil)
	if m.Problem != "" && (len(m.To) > 0 || len(n.Roles)+len(n.People) == 0) {
		return nil, m.Problem
	}
	return slices.Concat(m.To, []string{""}, m.Copy, []string{""}, m.BlindCopy), ""
}

// Gathered is one submission of many that a message tells of.
type Gathered struct {
	Facts   phrase.Facts
	Address string // where people of the house read it
}

// OfMany writes the notice for several submissions of an intake, at least one, which all go to the same addresses.
func (n Notice) OfMany(all []Gathered, w With) Message {
	all = slices.Clone(all)
	last := all[len(all)-1].Facts
	if slices.ContainsFunc(all, func(g Gathered) bool { return g.Facts.Language != last.Language }) {
		last.Language = "" // who reads of many languages reads the house's
	}
	for i := range all {
		all[i].Facts.Language, all[i].Facts.House = last.Language, last.House
		_, all[i].Facts = n.spoken(all[i].Facts)
	}
	n, last = n.spoken(last)
	common := phrase.Facts{House: last.House, Intake: last.Intake, Form: last.Form, Answers: form.Answers{}, Made: last.Made}
	m := Message{Subject: n.Subject.Plain(common), SenderName: n.SenderName.Plain(common)}
	n.address(&m, last, w.House)
	if len(n.ReplyTo) == 0 {
		m.ReplyTo = nil // they came from many
	}
	entries := entriesOf(all, n.Answers, last)
	var body []bound
	told := false
	for _, p := range n.Message {
		if slices.ContainsFunc(p.Spans, func(s phrase.Span) bool { return s.Field == "@answers" }) {
			body, told = append(body, bound{entries: entries}), true
			continue
		}
		body = append(body, bind(phrase.Body{p}, common, nil)...)
	}
	if !told {
		body = append(body, bound{entries: entries})
	}
	body = append(n.adorned(body, w.Pictures), linked(w.Links, common)...)
	m.Text, m.HTML = plainText(body), sheet(body, common)
	return m
}

// entry is a submission in the table of many.
type entry struct {
	head, address string
	lines         []line
}

// entriesOf are the submissions with their answers, each by the form that it was asked by.
func entriesOf(all []Gathered, chosen []string, last phrase.Facts) []entry {
	var out []entry
	zone, l := last.House.Location(), last.Locale()
	for _, g := range all {
		at := g.Facts.Received.In(zone)
		e := entry{head: g.Facts.Number + " · " + l.DateLong(at) + ", " + l.Time(at), address: g.Address}
		if g.Facts.Revision > 1 {
			e.head += " · " + l.Revision(g.Facts.Revision)
		}
		for _, x := range answers(g.Facts, chosen) {
			if !x.heading {
				e.lines = append(e.lines, x)
			}
		}
		out = append(out, e)
	}
	return out
}

func plainEntries(all []entry) string {
	var out []string
	for _, e := range all {
		head := e.head
		if e.address != "" {
			head += " <" + e.address + ">"
		}
		out = append(out, strings.TrimSuffix(head+"\n  "+strings.ReplaceAll(plainTable(e.lines), "\n", "\n  "), "\n  "))
	}
	return strings.Join(out, "\n\n")
}

// listed are the submissions as a page shows them: each a head that opens it, over the table of its answers.
func listed(all []entry, c house.Colours) string {
	var out strings.Builder
	for _, e := range all {
		head := html.EscapeString(e.head)
		if e.address != "" {
			head = `<a href="` + html.EscapeString(e.address) + `" style="color:` + c.Words + `">` + head + `</a>`
		}
		out.WriteString(`<h2 style="font:bold 15px/1.4 Helvetica,Arial,sans-serif;margin:20px 0 4px">` + head + `</h2>`)
		if len(e.lines) > 0 {
			out.WriteString(table(e.lines))
		}
	}
	return out.String()
}
