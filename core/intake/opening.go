package intake

import (
	"net/url"
	"slices"
	"strings"
	"time"

	"amberseal/core/ask/form"
	"amberseal/core/notice"
	"amberseal/core/print/paper"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// Opening is when and how respondents can answer, and what they meet afterwards.
type Opening struct {
	From      string      `json:"from,omitempty"`      // the house's clock, as 2026-12-01T09:00; at once when empty
	Until     string      `json:"until,omitempty"`     // for ever when empty
	Limit     int         `json:"limit,omitempty"`     // of submissions; none when 0
	OnePer    string      `json:"onePer,omitempty"`    // key of a field: one submission for each of its answers
	Sites     []string    `json:"sites,omitempty"`     // origins whose pages may show the form inside them
	Paused    phrase.Body `json:"paused,omitempty"`    // read by who comes while it is paused
	Thanks    phrase.Body `json:"thanks,omitempty"`    // read after sending
	Onward    string      `json:"onward,omitempty"`    // where to go after sending
	Cover     string      `json:"cover,omitempty"`     // name of a picture over the form
	Shown     string      `json:"shown,omitempty"`     // key of the document that is shown before sending
	Correct   bool        `json:"correct,omitempty"`   // who sent it may correct it by a personal link
	Anew      bool        `json:"anew,omitempty"`      // a correction works out today() by its own day, not by the first arrival
	Reminders bool        `json:"reminders,omitempty"` // who keeps answers can ask to be reminded of them
	Invited   bool        `json:"invited,omitempty"`   // only who has an invitation can answer
	Guard     string      `json:"guard,omitempty"`     // "strict" also asks every browser for a proof of work
}

const clockLayout = "2006-01-02T15:04"

// IsZero leaves an opening without settings out of the file.
func (o Opening) IsZero() bool {
	return o.From == "" && o.Until == "" && o.Limit == 0 && o.OnePer == "" && len(o.Sites) == 0 && len(o.Thanks) == 0 &&
		len(o.Paused) == 0 &&
		o.Onward == "" &&
		o.Shown == "" &&
		o.Cover == "" &&
		o.Guard == "" &&
		!o.Invited &&
		!o.Reminders &&
		!o.Correct &&
		!o.Anew
}

// At says whether an open intake takes answers at a time in the house's zone: nothing, "early" or "late". It opens and closes once, also at
// an hour that the clock shows twice: at the first.
func (o Opening) At(now time.Time) string {
	on := func(clock string) (time.Time, bool) {
		wall, err := time.Parse(clockLayout, clock)
		return notice.OnClock(wall, now.Location()), clock != "" && err == nil
	}
	if from, ok := on(o.From); ok && now.Before(from) {
		return "early"
	}
	if until, ok := on(o.Until); ok && !now.Before(until) {
		return "late"
	}
	return ""
}

func (o Opening) check(d Design, exists func(picture string) bool) finding.List {
	var l finding.List
	if o.Cover != "" && !exists(o.Cover) {
		l.Fault("opening/cover", "intake.cover-is-gone", "picture", o.Cover)
	}
	for _, t := range []struct{ place, value string }{{"opening/from", o.From}, {"opening/until", o.Until}} {
		if _, err := time.Parse(clockLayout, t.value); t.value != "" && err != nil {
			l.Fault(t.place, "intake.moment-unusable", "value", t.value)
		}
	}
	if o.From != "" && o.Until != "" && o.From >= o.Until {
		l.Fault("opening/until", "intake.closes-before-opens")
	}
	if o.Limit < 0 {
		l.Fault("opening/limit", "intake.limit-unusable")
	}
	if x, ok := d.Form.Field(o.OnePer); o.OnePer != "" && (!ok || !x.Kind.Asks() || x.Kind == form.Rows) {
		l.Fault("opening/onePer", "intake.one-per-unusable", "field", o.OnePer)
	}
	for _, s := range o.Sites {
		u, err := url.Parse(s)
		if err != nil || u.Scheme != "https" && u.Scheme != "http" || u.Host == "" || u.Path != "" || strings.ContainsAny(s, " ;,'\"*") {
			l.Fault("opening/sites", "intake.site-unusable", "name", s)
		}
	}
	if u, err := url.Parse(o.Onward); o.Onward != "" && (err != nil || u.Scheme != "https" && u.Scheme != "http" || u.Host == "") {
		l.Fault("opening/onward", "intake.onward-unusable")
	}
	if !slices.ContainsFunc(d.Documents, func(x paper.Document) bool { return x.Key == o.Shown }) && o.Shown != "" {
		l.Fault("opening/shown", "intake.shown-is-gone", "shown", o.Shown)
	}
	if o.Guard != "" && o.Guard != "strict" {
		l.Fault("opening/guard", "intake.guard-unknown", "guard", o.Guard)
	}
	if o.Correct && !d.mailsCorrectLink() {
		l.Notice("opening/correct", "intake.link-in-no-message")
	}
	if o.Anew && !o.Correct {
		l.Notice("opening/anew", "intake.anew-without-corrections")
	}
	l = append(l, o.Paused.Check("opening/paused", phrase.Scope{})...)
	return append(l, o.Thanks.Check("opening/thanks", phrase.Scope{Form: d.Form})...)
}

// mailsCorrectLink reports whether a message to the respondent carries the link to correct what was sent.
func (d Design) mailsCorrectLink() bool {
	for _, n := range d.Notices {
		if !n.ToRespondent(d.Form) {
			continue
		}
		for _, p := range n.Message {
			if slices.ContainsFunc(p.Spans, func(s phrase.Span) bool { return s.Field == "@correct" }) {
				return true
			}
		}
	}
	return false
}

// ReadPath is the path of the page on which a submission can be read again, by the token for that.
func (d Design) ReadPath(token string) string { return "/f/" + d.Slug + "?sent=" + token }

// CorrectPath is the path of the page on which a submission can be corrected, by the token for that.
func (d Design) CorrectPath(token string) string { return "/f/" + d.Slug + "?correct=" + token }
