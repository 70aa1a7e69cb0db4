// Package locale writes dates, numbers and money as people of a language write them.
//
// In goes an exact value and a language tag, out comes text. The patterns are the
// Unicode Common Locale Data Repository's, by way of two libraries: money and numbers
// by bojanz/currency, dates by go-playground/locales. A test holds both against
// Node's Intl. The package reads no clock and knows no time zone: times come in
// already at the door's zone.
package locale

import (
	"strings"
	"time"

	"github.com/bojanz/currency"
	"github.com/cockroachdb/apd/v3"
	"github.com/go-playground/locales"
	"github.com/go-playground/locales/de_DE"
	"github.com/go-playground/locales/en_GB"
	"github.com/go-playground/locales/en_US"
	"github.com/go-playground/locales/es_ES"
	"github.com/go-playground/locales/fr_FR"
	"github.com/go-playground/locales/ja_JP"
	"github.com/go-playground/locales/pl_PL"
)

// Locale is one language and region. It is safe for use by many goroutines.
type Locale struct {
	tag   string
	dates locales.Translator
	words words
}

// words are the few words a document says by itself.
type words struct {
	yes, no, and, question, answer string
}

var known = map[string]Locale{
	"en-GB": {"en-GB", en_GB.New(), words{"Yes", "No", "and", "Question", "Answer"}},
	"en-US": {"en-US", en_US.New(), words{"Yes", "No", "and", "Question", "Answer"}},
	"de-DE": {"de-DE", de_DE.New(), words{"Ja", "Nein", "und", "Frage", "Antwort"}},
	"fr-FR": {"fr-FR", fr_FR.New(), words{"Oui", "Non", "et", "Question", "Réponse"}},
	"es-ES": {"es-ES", es_ES.New(), words{"Sí", "No", "y", "Pregunta", "Respuesta"}},
	"pl-PL": {"pl-PL", pl_PL.New(), words{"Tak", "Nie", "i", "Pytanie", "Odpowiedź"}},
	"ja-JP": {"ja-JP", ja_JP.New(), words{"はい", "いいえ", "、", "質問", "回答"}},
}

// Tags lists the languages that are known, the default first.
func Tags() []string {
	return []string{"en-GB", "en-US", "de-DE", "fr-FR", "es-ES", "pl-PL", "ja-JP"}
}

// For finds the locale of a BCP 47 tag: the exact one, else one of the same
// language, else British English.
func For(tag string) Locale {
	if l, ok := known[tag]; ok {
		return l
	}
	lang, _, _ := strings.Cut(strings.ToLower(tag), "-")
	for _, t := range Tags() {
		if strings.HasPrefix(strings.ToLower(t), lang+"-") {
			return known[t]
		}
	}
	return known["en-GB"]
}

// Tag is the BCP 47 tag.
func (l Locale) Tag() string { return l.tag }

// Yes is the word for an agreed yes/no question, No for a refused one.
func (l Locale) Yes() string { return l.words.yes }

// No is the word for a refused yes/no question.
func (l Locale) No() string { return l.words.no }

// QuestionAnswer heads the columns of a table of answers.
func (l Locale) QuestionAnswer() (question, answer string) { return l.words.question, l.words.answer }

// DateLong writes 24 November 2026.
func (l Locale) DateLong(t time.Time) string { return l.dates.FmtDateLong(t) }

// DateShort writes the day, month and year as medium text: 24 Nov 2026.
func (l Locale) DateShort(t time.Time) string { return l.dates.FmtDateMedium(t) }

// Time writes the hour and minute.
func (l Locale) Time(t time.Time) string { return l.dates.FmtTimeShort(t) }

// Number writes a decimal with the language's grouping and all its digits.
func (l Locale) Number(d *apd.Decimal) string {
	f := currency.NewFormatter(currency.NewLocale(l.tag))
	f.CurrencyDisplay = currency.DisplayNone
	f.MinDigits, f.MaxDigits = uint8(places(d)), uint8(places(d))
	a, err := currency.NewAmount(d.Text('f'), "EUR")
	if err != nil {
		return d.Text('f')
	}
	return strings.TrimSpace(f.Format(a))
}

// Money writes an amount of the currency (ISO 4217), with its sign and the
// currency's usual number of decimals. A currency that is not known is written
// as its code before the number.
func (l Locale) Money(d *apd.Decimal, code string) string {
	a, err := currency.NewAmount(d.Text('f'), code)
	if err != nil {
		return code + " " + l.Number(d)
	}
	digits, _ := currency.GetDigits(code)
	f := currency.NewFormatter(currency.NewLocale(l.tag))
	f.MaxDigits = max(digits, uint8(min(places(d), 6)))
	f.SymbolMap = foreign[l.tag]
	return f.Format(a)
}

// List joins words as a sentence does: a, b and c.
func (l Locale) List(items []string) string {
	switch n := len(items); n {
	case 0:
		return ""
	case 1:
		return items[0]
	default:
		last := " " + l.words.and + " "
		if l.words.and == "、" {
			last = "、"
			return strings.Join(items, last)
		}
		return strings.Join(items[:n-1], ", ") + last + items[n-1]
	}
}

// foreign are currencies that CLDR writes by their code in a language, where the library has a
// sign for them.
var foreign = map[string]map[string]string{
	"fr-FR": {"JPY": "JPY"},
	"pl-PL": {"GBP": "GBP", "USD": "USD", "JPY": "JPY"},
}

func places(d *apd.Decimal) int {
	if d.Exponent >= 0 {
		return 0
	}
	return int(min(-d.Exponent, 20))
}
