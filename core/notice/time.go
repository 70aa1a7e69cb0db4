package notice

import (
	"slices"
	"time"

	"amberseal/core/ask/form"
	"amberseal/core/words/finding"
	"amberseal/core/words/phrase"
)

// Delay is when a notice goes, if not at once: some time after the arrival, or before or after a day that an answer gives.
type Delay struct {
	Field   string `json:"field,omitempty"`   // name of a field for a day; the arrival when empty
	Days    int    `json:"days,omitempty"`    // later; before it when negative
	Minutes int    `json:"minutes,omitempty"` // later; before it when negative
	At      string `json:"at,omitempty"`      // time of that day on the house's clock, such as 09:00
}

// furthest is how many days a delay may reach.
const furthest = 3660

// checkTime finds what is wrong with when it goes.
func (n Notice) checkTime(place string, f form.Form) finding.List {
	var l finding.List
	d := n.Delay
	if d == nil {
		return l
	}
	place += "/delay"
	if d.Field != "" {
		if x, ok := f.Field(d.Field); !ok {
			l.Fault(place, "notice.day-is-gone", "field", d.Field)
		} else if x.Kind != form.Date && x.Kind != form.DateTime {
			l.Fault(place, "notice.no-day", "label", x.Label)
		} else if !x.Required {
			l.Notice(place, "notice.day-may-be-empty", "label", x.Label)
		}
	}
	if _, err := time.Parse("15:04", d.At); d.At != "" && err != nil {
		l.Fault(place, "notice.no-hour", "at", d.At)
	}
	if max(d.Days, -d.Days) > furthest || max(d.Minutes, -d.Minutes) > furthest*24*60 {
		l.Fault(place, "notice.too-far")
	}
	return l
}

// Due is when the notice goes, in UTC; the zero time for at once. Days are those of the house's calendar, so that across a change to
// summer time a day more is the same hour; an hour that the clock jumps over is the one it jumps to.
func (n Notice) Due(facts phrase.Facts) time.Time {
	d := n.Delay
	if d == nil {
		return time.Time{}
	}
	zone := facts.House.Location()
	from := facts.Received.In(zone)
	if d.Field != "" {
		v := facts.Answers[d.Field]
		if v.Empty() {
			return time.Time{} // it goes into the hands of who says what is missing
		}
		from = OnClock(v.Date, zone)
	}
	if d.Days == 0 && d.At == "" { // minutes are those that pass, also in an hour that the clock shows twice
		return from.Add(time.Duration(d.Minutes) * time.Minute).UTC()
	}
	day := time.Date(from.Year(), from.Month(), from.Day()+d.Days, from.Hour(), from.Minute(), from.Second(), 0, time.UTC)
	if at, err := time.Parse("15:04", d.At); err == nil {
		day = time.Date(day.Year(), day.Month(), day.Day(), at.Hour(), at.Minute(), 0, 0, time.UTC)
	}
	return OnClock(day, zone).Add(time.Duration(d.Minutes) * time.Minute).UTC()
}

// Late reports whether a notice that goes before a day is planned when its own time has passed: it would say what is coming of what has
// come, and does not go.
func (n Notice) Late(facts phrase.Facts) bool {
	d := n.Delay
	if d == nil || d.Field == "" || d.Days >= 0 && d.Minutes >= 0 {
		return false
	}
	due := n.Due(facts)
	return !due.IsZero() && !due.After(facts.Made)
}

// Waits is why a notice cannot know when it goes, or empty.
func (n Notice) Waits(facts phrase.Facts) string {
	if n.Delay == nil || n.Delay.Field == "" || !facts.Answers[n.Delay.Field].Empty() {
		return ""
	}
	x, _ := facts.Form.Field(n.Delay.Field)
	return "No day in “" + x.Label + "”, by which it would go."
}

// OnClock is the moment at which the clocks of a zone show what a time in UTC shows. Of an hour that they show twice it is the first, and
// one that they never show is as much later as they jump.
func OnClock(wall time.Time, zone *time.Location) time.Time {
	at := func(offset int) time.Time { return wall.Add(-time.Duration(offset) * time.Second).In(zone) }
	_, before := wall.Add(-24 * time.Hour).In(zone).Zone()
	_, after := wall.Add(24 * time.Hour).In(zone).Zone()
	for _, offset := range []int{before, after} {
		if t := at(offset); slices.Equal([]int{t.Day(), t.Hour(), t.Minute()}, []int{wall.Day(), wall.Hour(), wall.Minute()}) {
			return t
		}
	}
	return at(before)
}
