// Package sheets writes submissions as lines of spreadsheets: the export of an intake, and the running registers that lie at destinations.
package sheets

import (
	"cmp"
	"maps"
	"slices"
	"time"

	"github.com/cockroachdb/apd/v3"

	"amberseal/app/register"
	"amberseal/core/ask/form"
	"amberseal/core/filing"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// Cell is one answer; of Number, At and Text the first that is there says what it is.
type Cell struct {
	Number   *apd.Decimal
	Currency string    // of Number, where it is an amount (ISO 4217)
	Decimals int       // that its currency has
	At       time.Time // by the clock of the house, or as it was answered
	As       Moment    // what of At counts
	Text     string
	Link     bool // Text is an address
}

// Moment is what of a time counts.
type Moment int

// The moments: one that happened, with its zone; a day with a time, a day, and a time as somebody answered them.
const (
	Happened Moment = iota
	DayAndTime
	DayAlone
	TimeAlone
)

// written are the moments as other programs read them (ISO 8601, RFC 3339).
var written = map[Moment]string{Happened: time.RFC3339, DayAndTime: "2006-01-02T15:04", DayAlone: time.DateOnly, TimeAlone: "15:04"}

// Words are the cell as CSV has it.
func (c Cell) Words() string {
	switch {
	case c.Number != nil:
		return c.Number.Text('f')
	case !c.At.IsZero() || c.As == TimeAlone:
		return c.At.Format(written[c.As])
	}
	return c.Text
}

// Table makes lines of the submissions of one intake.
type Table struct {
	House   house.House
	Forms   map[int]form.Form // of all versions
	Columns []filing.Column
}

// Whole is a table with number, arrival and a column for each question of any version, the last form's first.
func Whole(h house.House, forms map[int]form.Form) Table {
	t := Table{House: h, Forms: forms}
	t.Columns = filing.Register{Columns: []filing.Column{{Of: filing.ByNumber}, {Of: filing.ByArrival}}}.Heads(form.Form{})
	for _, version := range slices.Backward(slices.Sorted(maps.Keys(forms))) {
		for _, x := range forms[version].Fields {
			known := slices.ContainsFunc(t.Columns, func(c filing.Column) bool { return c.Of == x.Key })
			if x.Answered() && !known {
				t.Columns = append(t.Columns, filing.Column{Of: x.Key, Name: x.Label})
			}
		}
	}
	return t
}

// Head are the names of the columns.
func (t Table) Head() []string {
	head := make([]string, len(t.Columns))
	for i, c := range t.Columns {
		head[i] = c.Name
	}
	return head
}

// facts are those of a submission.
func (t Table) facts(s register.Submission) phrase.Facts {
	f := t.Forms[s.Version]
	return phrase.Facts{
		House: t.House, Intake: s.IntakeName, Form: f, Answers: form.Load(f, s.Answers), Received: s.Received, Made: s.Received,
		Number: s.Number, Revision: s.Revision,
	}
}

// Line is a submission; filed is where what was filed of it is opened.
func (t Table) Line(s register.Submission, filed string) []Cell { return t.OfFacts(t.facts(s), filed) }

// OfFacts is the line of facts.
func (t Table) OfFacts(facts phrase.Facts, filed string) []Cell {
	line := make([]Cell, len(t.Columns))
	for i, c := range t.Columns {
		switch c.Of {
		case filing.ByNumber:
			line[i].Text = facts.Number
		case filing.ByArrival:
			line[i].At = facts.Received.In(t.House.Location())
		case filing.ByRevision:
			line[i].Number = apd.New(int64(facts.Revision), 0)
		case filing.ByFiled:
			line[i].Text, line[i].Link = filed, true
		default:
			if x, ok := facts.Form.Field(c.Of); ok {
				line[i] = answer(facts, x)
			}
		}
	}
	return line
}

func answer(facts phrase.Facts, x form.Field) Cell {
	switch v := facts.Answers[x.Key]; {
	case v.Empty():
		return Cell{Text: facts.Text(x)} // what stands for nothing
	case v.Number != nil && x.Kind == form.Money:
		currency := cmp.Or(x.Currency, facts.House.Currency)
		return Cell{Number: v.Number, Currency: currency, Decimals: facts.Locale().Digits(currency)}
	case v.Number != nil:
		return Cell{Number: v.Number}
	case x.Kind == form.Date:
		return Cell{At: v.Date, As: DayAlone}
	case x.Kind == form.DateTime:
		return Cell{At: v.Date, As: DayAndTime}
	case x.Kind == form.Time:
		return Cell{At: time.Time{}.Add(v.Clock), As: TimeAlone}
	}
	return Cell{Text: facts.Text(x), Link: x.Kind == form.WebAddress}
}
