// Package locale writes dates, numbers and money as people of a language write them.
//
// In goes an exact value and a language tag, out comes text. The patterns are the
// Unicode Common Locale Data Repository's, by way of two libraries: money and numbers
// by bojanz/currency, dates by go-playground/locales. A test holds both against
// Node's Intl. The package reads no clock and knows no time zone: times come in
// already at the door's zone.
package locale

import (
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

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
	"github.com/nyaruka/phonenumbers"
)

// Locale is one language and region. It is safe for use by many goroutines.
type Locale struct {
	tag   string
	dates locales.Translator
	words words
}

// words are the few words a document says by itself.
type words struct {
	yes, no, and, question, answer, of, signed string
}

var known = map[string]Locale{
	"en-GB": {"en-GB", en_GB.New(), words{"Yes", "No", "and", "Question", "Answer", "of", "Signed"}},
	"en-US": {"en-US", en_US.New(), words{"Yes", "No", "and", "Question", "Answer", "of", "Signed"}},
	"de-DE": {"de-DE", de_DE.New(), words{"Ja", "Nein", "und", "Frage", "Antwort", "von", "Unterschrieben"}},
	"fr-FR": {"fr-FR", fr_FR.New(), words{"Oui", "Non", "et", "Question", "Réponse", "sur", "Signé"}},
	"es-ES": {"es-ES", es_ES.New(), words{"Sí", "No", "y", "Pregunta", "Respuesta", "de", "Firmado"}},
	"pl-PL": {"pl-PL", pl_PL.New(), words{"Tak", "Nie", "i", "Pytanie", "Odpowiedź", "z", "Podpisano"}},
	"ja-JP": {"ja-JP", ja_JP.New(), words{"はい", "いいえ", "、", "質問", "回答", "/", "署名済み"}},
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

// Of writes a rating: 3 of 5.
func (l Locale) Of(n, most int) string {
	return strconv.Itoa(n) + " " + l.words.of + " " + strconv.Itoa(most)
}

// Signed is the word for a signature that is there.
func (l Locale) Signed() string { return l.words.signed }

// Region is the tag's ISO 3166 country.
func (l Locale) Region() string { return l.tag[len(l.tag)-2:] }

// Phone writes a number kept in E.164 as people of an ISO 3166 country do: without the country's code for numbers of their own. Without a
// country all have one. The patterns are libphonenumber's.
func Phone(e164, country string) string {
	n, err := phonenumbers.Parse(e164, "ZZ")
	if err != nil {
		return e164
	}
	how := phonenumbers.INTERNATIONAL
	if country != "" && int(n.GetCountryCode()) == phonenumbers.GetCountryCodeForRegion(country) {
		how = phonenumbers.NATIONAL
	}
	return phonenumbers.Format(n, how)
}

// DateLong writes 24 November 2026.
func (l Locale) DateLong(t time.Time) string { return l.dates.FmtDateLong(t) }

// DateFull writes the day of the week too: Tuesday, 24 November 2026.
func (l Locale) DateFull(t time.Time) string { return l.dates.FmtDateFull(t) }

// DateShort writes the day, month and year as medium text: 24 Nov 2026.
func (l Locale) DateShort(t time.Time) string {
	s := l.dates.FmtDateMedium(t)
	switch { // as CLDR 48 writes September; the library's data are older
	case l.tag == "en-GB" && t.Month() == time.September:
		s = strings.Replace(s, "Sep ", "Sept ", 1)
	case l.tag == "es-ES":
		s = strings.Replace(s, ".", "", 1)
	}
	return s
}

// Time writes the hour and minute.
func (l Locale) Time(t time.Time) string {
	if l.tag == "en-US" {
		return t.Format("3:04\u00a0PM") // CLDR 48
	}
	return l.dates.FmtTimeShort(t)
}

// Number writes a decimal with the language's grouping and all its digits.
func (l Locale) Number(d *apd.Decimal) string { return l.Fixed(d, places(d)) }

// Digits is how many decimals the amounts of a currency (ISO 4217) have.
func (l Locale) Digits(code string) int {
	digits, _ := currency.GetDigits(code)
	return int(digits)
}

// Rounded is an amount with as many decimals as its currency has, halves up.
func (l Locale) Rounded(d *apd.Decimal, code string) *apd.Decimal {
	digits := l.Digits(code)
	if places(d) <= digits {
		return d
	}
	c := apd.BaseContext.WithPrecision(40)
	c.Rounding = apd.RoundHalfUp
	out := new(apd.Decimal)
	if _, err := c.Quantize(out, d, int32(-digits)); err != nil {
		return d
	}
	if out.IsZero() {
		out.Negative = false
	}
	return out
}

// Ungrouped writes a decimal with all its digits and nothing between its thousands, as years and numbers of things are written.
func (l Locale) Ungrouped(d *apd.Decimal) string { return l.figures(d, places(d), true) }

// Fixed writes a decimal with the language's grouping and a set number of decimals, or more where it has more.
func (l Locale) Fixed(d *apd.Decimal, decimals int) string { return l.figures(d, decimals, false) }

func (l Locale) figures(d *apd.Decimal, decimals int, ungrouped bool) string {
	if decimals == 0 && places(d) == 0 && !d.Negative && d.NumDigits()+int64(d.Exponent) <= 3 {
		return d.Text('f') // nothing to group, and most numbers are such
	}
	f := currency.NewFormatter(currency.NewLocale(l.tag))
	f.CurrencyDisplay, f.NoGrouping = currency.DisplayNone, ungrouped
	f.MinDigits, f.MaxDigits = uint8(decimals), uint8(max(decimals, places(d)))
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
		switch {
		case l.tag == "en-US" && n > 2:
			last = "," + last
		case l.tag == "es-ES" && soundsLikeI(items[n-1]):
			last = " e "
		}
		if l.words.and == "、" {
			last = "、"
			return strings.Join(items, last)
		}
		return strings.Join(items[:n-1], ", ") + last + items[n-1]
	}
}

// soundsLikeI reports whether “y” before a Spanish word is written “e”: before i and hi, but not before a diphthong such as hielo.
func soundsLikeI(word string) bool {
	w := strings.TrimPrefix(strings.ToLower(word), "h")
	rest, ok := strings.CutPrefix(w, "i")
	if !ok {
		rest, ok = strings.CutPrefix(w, "í")
	}
	return ok && !strings.HasPrefix(rest, "a") && !strings.HasPrefix(rest, "e") && !strings.HasPrefix(rest, "o")
}

// foreign are currencies that CLDR writes by their code in a language, where the library has a
// sign for them.
var foreign = map[string]map[string]string{
	"de-DE": codes(
		"PHP",
	), "ja-JP": codes("PHP"), "fr-FR": codes("CNY HKD JPY PHP TWD"),
	"es-ES": codes("AUD BRL CAD CNY GBP HKD ILS INR JPY KRW MXN NZD PHP TWD XAF XOF"),
	"pl-PL": codes("AUD CAD CNY GBP HKD ILS INR JPY KRW MXN NZD PHP TWD USD VND"),
}

func codes(of string) map[string]string {
	out := map[string]string{}
	for _, code := range strings.Fields(of) {
		out[code] = code
	}
	return out
}

var thousand = apd.New(10_000, 0) // Spanish and Polish group from five digits

func places(d *apd.Decimal) int {
	if d.Exponent >= 0 {
		return 0
	}
	return int(min(-d.Exponent, 20))
}

// DatePattern shows how a date is written with figures: DD.MM.YYYY.
func (l Locale) DatePattern() string {
	switch l.tag {
	case "en-US":
		return "MM/DD/YYYY"
	case "de-DE", "pl-PL":
		return "DD.MM.YYYY"
	case "ja-JP":
		return "YYYY/MM/DD"
	}
	return "DD/MM/YYYY"
}

// DateHint is DatePattern with the first letters of the language's own words, for who is to write a day: TT.MM.JJJJ.
func (l Locale) DateHint() string {
	letters, ok := map[string]string{"de": "TMJ", "fr": "JMA", "es": "DMA", "pl": "DMR"}[l.tag[:2]]
	if !ok {
		return l.DatePattern()
	}
	return strings.NewReplacer("D", letters[:1], "M", letters[1:2], "Y", letters[2:]).Replace(l.DatePattern())
}

// partWords name the parts of names and addresses, by language.
var partWords = map[string]map[string]string{
	"en": {
		"title":    "Title",
		"given":    "Given name",
		"middle":   "Middle name",
		"family":   "Family name",
		"suffix":   "Suffix",
		"street":   "Street and number",
		"extra":    "Flat, floor",
		"postcode": "Postcode",
		"city":     "Town",
		"region":   "Region",
		"country":  "Country",
	},
	"de": {
		"title":    "Anrede, Titel",
		"given":    "Vorname",
		"middle":   "Zweiter Vorname",
		"family":   "Nachname",
		"suffix":   "Zusatz",
		"street":   "Straße und Hausnummer",
		"extra":    "Adresszusatz",
		"postcode": "Postleitzahl",
		"city":     "Ort",
		"region":   "Region",
		"country":  "Land",
	},
	"fr": {
		"title":    "Civilité",
		"given":    "Prénom",
		"middle":   "Deuxième prénom",
		"family":   "Nom de famille",
		"suffix":   "Suffixe",
		"street":   "Rue et numéro",
		"extra":    "Étage, appartement",
		"postcode": "Code postal",
		"city":     "Ville",
		"region":   "Région",
		"country":  "Pays",
	},
	"es": {
		"title":    "Tratamiento",
		"given":    "Nombre",
		"middle":   "Segundo nombre",
		"family":   "Apellidos",
		"suffix":   "Sufijo",
		"street":   "Calle y número",
		"extra":    "Piso, puerta",
		"postcode": "Código postal",
		"city":     "Localidad",
		"region":   "Provincia",
		"country":  "País",
	},
	"pl": {
		"title":    "Tytuł",
		"given":    "Imię",
		"middle":   "Drugie imię",
		"family":   "Nazwisko",
		"suffix":   "Przyrostek",
		"street":   "Ulica i numer",
		"extra":    "Mieszkanie, piętro",
		"postcode": "Kod pocztowy",
		"city":     "Miejscowość",
		"region":   "Region",
		"country":  "Kraj",
	},
}

// Part is the word for a part of a name or address.
func (l Locale) Part(part string) string {
	if w := partWords[l.tag[:2]][part]; w != "" {
		return w
	}
	return partWords["en"][part]
}

// DecimalSign is what parts decimals from the whole number.
func (l Locale) DecimalSign() string {
	d := apd.New(15, -1)
	return strings.Trim(l.Number(d), "15")
}

// say picks a word by language; the English one where there is none.
func (l Locale) say(english string, others map[string]string) string {
	if w := others[l.tag[:2]]; w != "" {
		return w
	}
	return english
}

// Counted is the word that goes with a number, of those for each form: one and others, or in Polish one, few, many, and what goes with
// parts of one; where that is missing it is the second of three, as most words have it (godzina, godziny, godzin: 1,5 godziny). Where other
// words are missing the last one stands for them.
func (l Locale) Counted(n *apd.Decimal, words []string) string {
	at := 1
	switch form := l.PluralForm(n); {
	case form == locales.PluralRuleOne || l.tag[:2] == "ja": // which has one form
		at = 0
	case l.tag[:2] == "pl" && form == locales.PluralRuleOther && len(words) > 3:
		at = 3
	case l.tag[:2] == "pl" && form == locales.PluralRuleMany:
		at = 2
	}
	return strings.TrimSpace(words[min(at, len(words)-1)])
}

// PluralForm is the form that words take beside a number (CLDR's plural rules).
func (l Locale) PluralForm(n *apd.Decimal) locales.PluralRule {
	text := strings.TrimPrefix(n.Text('f'), "-")
	whole, part, _ := strings.Cut(text, ".")
	if len(whole) > 9 { // rules look at the last digits alone
		whole = "1" + whole[len(whole)-8:]
	}
	value, err := strconv.ParseFloat(whole+"."+part, 64)
	if err != nil {
		return locales.PluralRuleOther
	}
	return l.dates.CardinalPluralRule(value, uint64(len(part)))
}

// Trial is the mark across a document that does not count.
func (l Locale) Trial() string {
	return l.say("TRIAL", map[string]string{"de": "PROBE", "fr": "ESSAI", "es": "PRUEBA", "pl": "PRÓBA"})
}

// Revision names the state of something that was corrected.
func (l Locale) Revision(n int) string {
	return l.say(
		"revision",
		map[string]string{"de": "Fassung", "fr": "révision", "es": "revisión", "pl": "wersja", "ja": "改訂"},
	) + " " + strconv.Itoa(
		n,
	)
}

// Replaces says that a correction takes the place of what came before it.
func (l Locale) Replaces(n int) string {
	before := strconv.Itoa(n - 1)
	now := l.Revision(n)
	_, first := utf8.DecodeRuneInString(now)
	return strings.ToUpper(now[:first]) + now[first:] + ", " + l.say("replaces revision "+before, map[string]string{
		"de": "ersetzt Fassung " + before, "fr": "remplace la révision " + before, "es": "sustituye a la revisión " + before,
		"pl": "zastępuje wersję " + before, "ja": "改訂 " + before + " に代わる",
	})
}

// Until says how long something works: up to a day, with it.
func (l Locale) Until(day time.Time) string {
	d := l.DateLong(day)
	return l.say("works until "+d, map[string]string{
		"de": "gilt bis " + d, "fr": "valable jusqu’au " + d, "es": "válido hasta el " + d, "pl": "ważne do " + d, "ja": d + "まで有効",
	})
}

// Times says how often something works.
func (l Locale) Times(n int) string {
	if n == 1 {
		return l.say("once", map[string]string{"de": "einmal", "fr": "une fois", "es": "una vez", "pl": "jeden raz", "ja": "一回"})
	}
	s := strconv.Itoa(n)
	return l.say(s+" times", map[string]string{"de": s + "-mal", "fr": s + " fois", "es": s + " veces", "pl": s + " razy", "ja": s + "回"})
}

// Continued heads what goes on on a further page.
func (l Locale) Continued(heading string) string {
	return heading + ", " + l.say("continued", map[string]string{
		"de": "Fortsetzung", "fr": "suite", "es": "continuación", "pl": "ciąg dalszy", "ja": "続き",
	})
}

// CodeOf describes a printed code for those who cannot see it.
func (l Locale) CodeOf(words string) string {
	return l.say("Code", map[string]string{"es": "Código", "pl": "Kod"}) + ": " + words
}

// Payable heads what is said beside the code of a payment, and names its payee and its words.
func (l Locale) Payable() (how, name, reference string) {
	return l.say("Pay by scanning, or to", map[string]string{
			"de": "Zum Bezahlen scannen, oder an", "fr": "Payer en scannant, ou à", "es": "Pague escaneando, o a",
			"pl": "Zapłać, skanując, lub przelej", "ja": "スキャンして支払う、または振込先",
		}),
		l.say("Name", map[string]string{"fr": "Nom", "es": "Nombre", "pl": "Odbiorca", "ja": "名義"}),
		l.say("Reference", map[string]string{
			"de": "Verwendungszweck", "fr": "Référence", "es": "Referencia", "pl": "Tytuł", "ja": "参照番号",
		})
}

// ChartOf describes a chart for those who cannot see it.
func (l Locale) ChartOf(words string) string {
	return l.say("Chart", map[string]string{"de": "Diagramm", "fr": "Graphique", "es": "Gráfico", "pl": "Wykres"}) + ". " + words
}

// Others names what a chart draws as one, since it is too much to be told apart.
func (l Locale) Others(n int) string {
	if l.tag[:2] == "pl" {
		return "pozostałe (" + strconv.Itoa(n) + ")"
	}
	return strconv.Itoa(n) + " " + l.say("others", map[string]string{"de": "weitere", "fr": "autres", "es": "más"})
}

// Subtotal names the sum of rows that have something in common.
func (l Locale) Subtotal(of string) string {
	return l.say("Subtotal", map[string]string{"de": "Zwischensumme", "fr": "Sous-total", "es": "Subtotal", "pl": "Suma częściowa"}) +
		" " + of
}
