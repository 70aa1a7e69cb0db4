package form

import (
	"strings"
	"time"

	"github.com/cockroachdb/apd/v3"
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

const longSentence = "The bow was dropped on the stairs and the tip plate came away; please look at the hair as well, and at the crack that runs from the lower edge towards the sound hole. "

// Sample makes answers up. The same form gives the same answers.
func Sample(f Form, kind SampleKind) Answers {
	a := Answers{}
	for i, x := range f.Fields {
		if !x.Kind.Asks() || kind == Emptest && !x.Required {
			continue
		}
		a[x.Key] = sampleValue(x, i, kind)
	}
	return a
}

func sampleValue(x Field, i int, kind SampleKind) Value {
	long := kind == Longest
	switch x.Kind {
	case Email:
		if long {
			return text(Email, "aleksandra.wolska-bartholomew.of.the.long.row@correspondence.tarnhollow.example")
		}
		return text(Email, "lucja@brzek.example")
	case Phone:
		return text(Phone, "+44 20 7946 0"+string(rune('1'+i%9))+"18")
	case Date:
		return date(time.Date(2026, time.November, 3+i%25, 0, 0, 0, 0, time.UTC))
	case WholeNumber:
		if long {
			return number(x.Kind, apd.New(1234567890, 0))
		}
		return number(x.Kind, apd.New(int64(i%9+1), 0))
	case Decimal:
		return number(x.Kind, apd.New(int64(75+25*(i%5)), -2))
	case Money:
		if long {
			return number(x.Kind, apd.New(123456789012, -2))
		}
		return number(x.Kind, apd.New(int64(4800+590*(i%7)), -2))
	case YesNo:
		return yesNo(true)
	case OneOf:
		return text(OneOf, pick(x.Choices, long))
	case SeveralOf:
		return sampleSeveral(x.Choices, long, kind == Emptest)
	case LongText:
		if addressWords.MatchString(x.Label) && !long {
			return text(LongText, "4 Weir Lane\nTarn Hollow")
		}
		if long {
			return text(LongText, strings.TrimSpace(strings.Repeat(longSentence, 12)))
		}
		return text(LongText, strings.TrimSpace(longSentence))
	default:
		return text(x.Kind, sampleText(x.Label, i, kind))
	}
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

func pick(choices []Choice, long bool) string {
	if len(choices) == 0 {
		return ""
	}
	best := choices[0]
	for _, c := range choices {
		if long && len(c.Label) > len(best.Label) {
			best = c
		}
	}
	return best.Value
}

func sampleSeveral(choices []Choice, all, one bool) Value {
	var values []string
	for i, c := range choices {
		if all || i == 0 || !one && i == 1 {
			values = append(values, c.Value)
		}
	}
	if values == nil {
		return Value{}
	}
	return several(values)
}
