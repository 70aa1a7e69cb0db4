package form

import (
	"strings"
	"time"

	"github.com/cockroachdb/apd/v3"
)

// Groups of settings that several kinds have.
var (
	ofTexts   = []string{"placeholder", "prefix", "suffix", "mask", "pattern", "shortest", "longest"}
	ofNumbers = []string{"placeholder", "prefix", "suffix", "min", "max", "step"}
	ofTimes   = []string{"min", "max"}
	ofFiles   = []string{"accept", "largest", "least", "most"}
)

func with(names []string, more ...string) []string {
	return append(append([]string{}, names...), more...)
}

var (
	ofWords = []string{"upper", "lower", "title", "first"}
	digits  = `^[+-]?(?:[0-9]+\.?[0-9]*|\.[0-9]+)$`
	narrow  = Room{Width: 150}
)

// table holds every kind in the order in which they are offered. A new kind is a line here; what answers of its shape are read, printed,
// described and asked with on paper is there already.
func table() []nature {
	return []nature{
		{kind: ShortText, shape: Words, settings: with(ofTexts, "about"), sample: sampleShort, calculable: true, formats: ofWords,
			share: 3},
		{
			kind: LongText, shape: Words, settings: ofTexts, sample: sampleLong, calculable: true, formats: ofWords, share: 4,
			room: Room{Height: 84, Several: true},
		},
		{
			kind: Name, shape: Parts, settings: []string{"parts", "about"}, share: 3,
			formats: []string{"given", "family", "upper", "lower", "title"},
			sample:  sampleParts(map[string]string{"title": "Dr", "given": "Łucja", "middle": "Maria", "family": "Brzęk", "suffix": "MA"}),
		},
		{
			kind: Email, shape: Words, settings: with(ofTexts, "about"), read: readEmail, formats: ofWords, share: 3,
			described: Described{Pattern: `^[^\s@]+@[^\s@]+\.[^\s@]+$`},
			sample: sampleWords("lucja@brzek.example",
				"aleksandra.wolska-bartholomew.of.the.long.row@correspondence.tarnhollow.example"),
		},
		{
			kind:     Phone,
			shape:    Words,
			settings: with(ofTexts, "country", "about"),
			read:     Circumstances.readPhone,
			sample:   samplePhone,
			formats:  ofWords,
		},
		{
			kind: Address, shape: Parts, settings: []string{"parts", "country", "about"}, share: 4,
			formats: with([]string{"line", "upper", "lower"}, AddressParts...),
			sample: sampleParts(map[string]string{
				"street": "4 Weir Lane", "extra": "Second floor", "postcode": "TH4 7QX", "city": "Tarn Hollow", "region": "Fellshire",
				"country": "United Kingdom",
			}),
		},
		{
			kind: WholeNumber, shape: Figure, settings: ofNumbers, read: Circumstances.readNumber, sample: sampleWhole, calculable: true,
			room: narrow, formats: []string{"ungrouped"},
			share: 1.2, described: Described{Pattern: `^[+-]?[0-9]+$`},
		},
		{
			kind: Decimal, shape: Figure, settings: ofNumbers, read: Circumstances.readNumber, calculable: true, room: narrow,
			formats:   []string{"hundredths", "ungrouped"},
			described: Described{Pattern: digits},
			sample:    func(x Field, i int, _ SampleKind) Value { return number(x.Kind, apd.New(int64(75+25*(i%5)), -2)) },
		},
		{
			kind: Money, shape: Figure, settings: with(ofNumbers, "currency"), read: Circumstances.readNumber, sample: sampleMoney,
			calculable: true,
			room:       narrow, formats: []string{"plain"}, described: Described{Pattern: digits},
		},
		{
			kind: Date, shape: Day, settings: with(ofTimes, "about"), read: readDay, sample: sampleDay, calculable: true,
			formats: with([]string{"full", "short", "iso"}, DayFormats...),
			room:    Room{Width: 150, Hint: "date"}, described: Described{Format: "date"},
		},
		{
			kind: Time, shape: Hour, settings: ofTimes, read: readTime, calculable: true, share: 1.2,
			room: Room{Width: 150, Hint: "time"}, described: Described{Pattern: `^([01][0-9]|2[0-3]):[0-5][0-9]$`},
			sample: func(_ Field, i int, _ SampleKind) Value {
				return clock(time.Duration(9+i%9)*time.Hour + 30*time.Minute)
			},
		},
		{
			kind: DateTime, shape: Moment, settings: ofTimes, read: readDateTime, sample: sampleDay, calculable: true,
			formats:   with([]string{"full", "short", "iso", "time"}, DayFormats...),
			room:      Room{Width: 150, Hint: "date time"},
			described: Described{Pattern: `^[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])T([01][0-9]|2[0-3]):[0-5][0-9]$`},
		},
		{
			kind: OneOf, shape: One, settings: []string{"choices"}, read: readChoice, sample: sampleChoice, check: (*designCheck).choices,
			formats: ofWords, please: "Please choose.",
		},
		{
			kind: SeveralOf, shape: Several, settings: []string{"choices"}, sample: sampleSeveral, check: (*designCheck).choices,
			formats: []string{"commas", "lines", "upper", "lower"}, please: "Please choose.",
		},
		{
			kind: OnePictured, shape: One, settings: []string{"choices"}, read: readChoice, sample: sampleChoice,
			check:   (*designCheck).pictured,
			formats: ofWords, please: "Please choose.",
		},
		{kind: YesNo, shape: Truth, sample: sampleYes, calculable: true, share: 1.2, please: "Please choose."},
		{kind: Consent, shape: Truth, sample: sampleYes, share: 1.2, please: "Please agree to this to go on."},
		{
			kind: Rating, shape: Figure, settings: []string{"scale"}, read: Circumstances.readNumber, share: 1.2, please: "Please choose.",
			described: Described{Pattern: `^[+-]?[0-9]+$`},
			sample: func(x Field, i int, _ SampleKind) Value {
				return number(x.Kind, apd.New(int64(1+(i+2)%x.HighestRating()), 0))
			},
		},
		{
			kind: WebAddress, shape: Words, settings: ofTexts, read: readWebAddress, formats: ofWords, share: 3,
			described: Described{Pattern: `^\S+\.\S+$`},
			sample:    sampleWords("https://tarnhollow.example/instruments", "https://tarnhollow.example/instruments"),
		},
		{
			kind: Upload, shape: Files, settings: ofFiles, share: 3, room: Room{Height: 40}, please: "Please add a file.",
			sample: sampleFile(File{ID: SampleFile, Name: "Insurance note.pdf", Type: "application/pdf", Size: 48_210}),
		},
		{
			kind: Photo, shape: Files, settings: ofFiles, room: Room{Height: 40}, please: "Please add a photo.",
			sample: sampleFile(File{ID: SampleFile, Name: "Photo.jpg", Type: "image/jpeg", Size: 214_000}),
		},
		{
			kind: Signature, shape: Drawn, room: Room{Width: 260, Height: 62}, please: "Please sign.",
			sample: func(Field, int, SampleKind) Value {
				return signed(&Mark{Strokes: sampleStrokes, Width: 300, Height: 100})
			},
		},
		{kind: Hidden, shape: Words, settings: ofTexts, sample: sampleShort, calculable: true, formats: ofWords},
		{
			kind:     Rows,
			shape:    Repeated,
			settings: []string{"fields", "least", "most"},
			sample:   sampleRows,
			check:    (*designCheck).rowsField,
			outside:  true,
		},
		{kind: Section}, {kind: Page}, {kind: Text},
		{kind: Picture, settings: []string{"picture"}, check: func(c *designCheck, x Field, place string) { c.picture(x.Picture, place) }},
	}
}

// readChoice takes a choice's value.
func readChoice(c Circumstances, x Field, s string) (Value, string) {
	for _, choice := range x.Choices {
		if choice.Value == s {
			return text(x.Kind, s), ""
		}
	}
	return Value{}, c.say("This is not one of the choices.")
}

// sampleWords are made-up words: ordinary ones and long ones.
func sampleWords(usual, long string) func(x Field, i int, kind SampleKind) Value {
	return func(x Field, _ int, kind SampleKind) Value {
		if kind == Longest {
			return text(x.Kind, long)
		}
		return text(x.Kind, usual)
	}
}

func samplePhone(x Field, i int, _ SampleKind) Value {
	return text(x.Kind, "+442079460"+string(rune('1'+i%9))+"18")
}

func sampleDay(x Field, i int, _ SampleKind) Value {
	at := time.Date(2026, time.November, 3+i%25, 0, 0, 0, 0, time.UTC)
	if x.Kind.Shape() == Moment {
		at = at.Add(14*time.Hour + 30*time.Minute)
	}
	return date(x.Kind, at)
}

func sampleWhole(x Field, i int, kind SampleKind) Value {
	if kind == Longest {
		return number(x.Kind, apd.New(1234567890, 0))
	}
	return number(x.Kind, apd.New(int64(i%9+1), 0))
}

func sampleMoney(x Field, i int, kind SampleKind) Value {
	amount := int64(4800 + 590*(i%7))
	if kind == Longest {
		amount = 123456789012
	}
	if x.digits() == 0 {
		return number(x.Kind, apd.New(amount/100, 0))
	}
	return number(x.Kind, apd.New(amount, -2))
}

func sampleYes(x Field, _ int, _ SampleKind) Value { return yesNo(x.Kind, true) }

func sampleFile(f File) func(x Field, i int, kind SampleKind) Value {
	return func(x Field, _ int, _ SampleKind) Value { return files(x.Kind, []File{f}) }
}

func sampleLong(x Field, _ int, kind SampleKind) Value {
	switch {
	case kind == Longest:
		return text(x.Kind, cut(strings.TrimSpace(strings.Repeat(longSentence, 12)), x.Longest))
	case addressWords.MatchString(x.Label):
		return text(x.Kind, "4 Weir Lane\nTarn Hollow")
	}
	return text(x.Kind, cut(strings.TrimSpace(longSentence), x.Longest))
}

func sampleShort(x Field, i int, kind SampleKind) Value {
	if x.Mask != "" {
		return text(x.Kind, strings.NewReplacer("#", "4", "A", "K", "*", "7").Replace(x.Mask))
	}
	return text(x.Kind, cut(sampleText(x.Label, i, kind), x.Longest))
}
