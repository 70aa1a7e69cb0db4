package form

import (
	"slices"
	"time"
)

// SampleKind is which answers a proof shows when it has none of a respondent's.
type SampleKind string

// The kinds of made-up answers.
const (
	MadeUp  SampleKind = "made-up" // ordinary ones
	Emptest SampleKind = "emptest" // only what is required, as short as can be
	Longest SampleKind = "longest" // as long as anybody may type
)

var sampleNames = []string{"Łucja Brzęk", "Anselm Whitcombe-Reyes", "Ελένη Μαυρίδη", "Bao Tran", "Mireille Ashdown"}

var (
	nameWords       = re(`names?`)
	addressWords    = re(`address|street`)
	instrumentWords = re(`instruments?`)
)

// SampleFile is the id of files in made-up answers; there is nothing behind it.
const SampleFile = "sample"

const longSentence = "The bow was dropped on the stairs and the tip plate came away; please look at the hair as well, and at the crack " +
	"that runs from the lower edge towards the sound hole. "

// Sample makes answers up, settled as real ones are: what does not show is left out and what is
// calculated is calculated. The same form gives the same answers.
func Sample(f Form, kind SampleKind) Answers {
	c := Circumstances{Now: time.Date(2026, time.November, 24, 9, 41, 0, 0, time.UTC)}
	return newSheet(f, c, sampleOf(f.Fields, kind, 0), false).answers()
}

func sampleOf(fields []Field, kind SampleKind, row int) Answers {
	a := Answers{}
	for i, x := range fields {
		if !x.Kind.Asks() || x.Calculated() || kind == Emptest && !x.Required && x.Kind != Rows {
			continue
		}
		if v := sampleValue(x, i+3*row, kind); !v.Empty() {
			a[x.Key] = v
		}
	}
	return a
}

func sampleValue(x Field, i int, kind SampleKind) Value {
	return sampleBound(x, sampleUsual(x, i, kind), kind == Longest)
}

// sampleUsual is an answer whose limits are not looked at.
func sampleUsual(x Field, i int, kind SampleKind) Value {
	if sample := x.Kind.nature().sample; sample != nil {
		return sample(x, i, kind)
	}
	return Value{}
}

// sampleBound keeps a made-up number or day within the field's own limits, and on its steps.
func sampleBound(x Field, v Value, long bool) Value {
	c := Circumstances{Now: time.Date(2026, time.November, 24, 9, 41, 0, 0, time.UTC)}
	least, most := c.bound(x, x.Min, 0), c.bound(x, x.Max, 0)
	least.Kind, most.Kind = x.Kind, x.Kind
	switch {
	case long && !most.Empty():
		return most
	case !least.Empty() && (x.Step != "" || order(v, least) < 0):
		return least
	case !most.Empty() && order(v, most) > 0:
		if !least.Empty() {
			return least
		}
		return most
	}
	return v
}

func cut(s string, longest int) string {
	if r := []rune(s); longest > 0 && len(r) > longest {
		return string(r[:longest])
	}
	return s
}

func sampleParts(of map[string]string) func(x Field, i int, kind SampleKind) Value {
	return func(x Field, _ int, kind SampleKind) Value {
		p := map[string]string{}
		for _, part := range x.AskedParts() {
			p[part] = of[part]
			if kind == Longest && (part == "family" || part == "street") {
				p[part] = "Konstantynopolitańczykowianeczka von der Hohenlohe-Langenburg"
			}
		}
		return parts(x.Kind, p)
	}
}

// sampleStrokes is a made-up signature.
var sampleStrokes = [][]float64{
	{18, 70, 30, 24, 38, 18, 40, 30, 34, 66, 46, 74, 60, 58},
	{64, 56, 70, 72, 80, 54, 86, 72, 98, 50, 106, 70, 120, 52, 132, 68, 150, 46, 176, 62, 214, 40, 262, 58},
}

func sampleRows(x Field, _ int, kind SampleKind) Value {
	n := map[SampleKind]int{MadeUp: 3, Emptest: 0, Longest: 12}[kind]
	n = min(max(n, x.Least), x.MostRows())
	if kind == Emptest && x.Required {
		n = max(n, 1)
	}
	if n == 0 {
		return Value{}
	}
	// A faulty design may hold rows in rows in rows, whose answers would be without end.
	inner := slices.DeleteFunc(slices.Clone(x.Fields), func(f Field) bool { return !f.Kind.InRows() })
	rows := make([]Answers, n)
	for i := range rows {
		rows[i] = sampleOf(inner, kind, i)
	}
	return rowsOf(rows)
}

func sampleText(label string, i int, kind SampleKind) string {
	switch {
	case kind == Emptest:
		return "A"
	case kind == Longest:
		return "Maria Aleksandra Konstantynopolitańczykowianeczka von der Hohenlohe-Langenburg y Villanueva de la Serena"
	case nameWords.MatchString(label):
		return sampleNames[i%len(sampleNames)]
	case addressWords.MatchString(label):
		return "4 Weir Lane, Tarn Hollow"
	case instrumentWords.MatchString(label):
		return "Viola, about 1890"
	default:
		return "An answer to “" + label + "”"
	}
}

func sampleChoice(x Field, _ int, kind SampleKind) Value {
	if len(x.Choices) == 0 {
		return Value{}
	}
	best := x.Choices[0]
	for _, c := range x.Choices {
		if kind == Longest && len(c.Label) > len(best.Label) {
			best = c
		}
	}
	return text(x.Kind, best.Value)
}

func sampleSeveral(x Field, _ int, kind SampleKind) Value {
	var values []string
	for i, c := range x.Choices {
		if kind == Longest || i == 0 || kind != Emptest && i == 1 {
			values = append(values, c.Value)
		}
	}
	if values == nil {
		return Value{}
	}
	return several(x.Kind, values)
}
