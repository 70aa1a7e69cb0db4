package locale_test

import (
	"encoding/json"
	"fmt"
	"os/exec"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/cockroachdb/apd/v3"

	"amberseal/core/words/locale"
)

// Node's Intl carries its own copy of the Unicode Common Locale Data Repository: an
// implementation that shares no code with ours.
const intl = `
const [tags, currencies, amounts, numbers, days, times, lists, counted] = JSON.parse(process.argv[1])
const out = {}
for (const tag of tags) {
  const date = (style) => new Intl.DateTimeFormat(tag, { timeZone: 'UTC', ...style })
  out[tag] = {
    money: currencies.flatMap((currency) => amounts.map((v) => new Intl.NumberFormat(tag, { style: 'currency', currency }).format(v))),
    number: numbers.map((v) => new Intl.NumberFormat(tag, { maximumFractionDigits: 20 }).format(v)),
    full: days.map((d) => date({ dateStyle: 'full' }).format(new Date(d))),
    long: days.map((d) => date({ dateStyle: 'long' }).format(new Date(d))),
    short: days.map((d) => date({ dateStyle: 'medium' }).format(new Date(d))),
    times: times.map((t) => date({ timeStyle: 'short' }).format(new Date('2026-01-01T' + t + ':00Z')).replace(' ', '\u00a0')),
    lists: lists.map((l) => new Intl.ListFormat(tag).format(l)),
    plurals: numbers.concat(counted).map((v) => {
      const digits = (v.split('.')[1] ?? '').length
      return new Intl.PluralRules(tag, { minimumFractionDigits: digits }).select(v)
    }),
  }
}
console.log(JSON.stringify(out))`

func TestAgainstNodeIntl(t *testing.T) {
	tags := locale.Tags()
	currencies := strings.Fields("EUR GBP USD JPY CHF AUD BRL CAD CNY CZK DKK HKD ILS INR KRW MXN NOK NZD PHP PLN SEK TWD VND XAF XOF")
	amounts, numbers := []string{"0", "1234", "-9876543", "1000000"}, []string{"0.5", "1234567.25", "-42", "1000", "12345.678"}
	var days []string
	for m := 1; m <= 12; m++ {
		days = append(days, fmt.Sprintf("2026-%02d-01", m), fmt.Sprintf("2024-%02d-29", m))
	}
	times := []string{"00:00", "09:05", "12:00", "14:30", "23:59"}
	lists := [][]string{
		{"piano"},
		{"piano", "stands"},
		{"piano", "stands", "chairs"},
		{"padre", "hijo"},
		{"agua", "hielo"},
		{"a", "b", "iglesia"},
	}
	counted := strings.Fields("1.0 1.5 0.1 10.25 1000000 2000000 1000001")
	for n := range 230 {
		counted = append(counted, strconv.Itoa(n))
	}
	given, err := json.Marshal([]any{tags, currencies, amounts, numbers, days, times, lists, counted})
	if err != nil {
		t.Fatal(err)
	}
	out, err := exec.Command("node", "-e", intl, string(given)).Output()
	if err != nil {
		t.Fatalf("node is needed for this check: %v", err)
	}
	var want map[string]struct{ Money, Number, Full, Long, Short, Times, Lists, Plurals []string }
	if err := json.Unmarshal(out, &want); err != nil {
		t.Fatal(err)
	}
	for _, tag := range tags {
		l, w := locale.For(tag), want[tag]
		i := 0
		for _, c := range currencies {
			for _, v := range amounts {
				same(t, tag, "money in "+c, l.Money(decimal(t, v), c), w.Money[i])
				i++
			}
		}
		for i, v := range numbers {
			same(t, tag, "number", l.Number(decimal(t, v)), w.Number[i])
		}
		for i, d := range days {
			same(t, tag, "full date", l.DateFull(day(t, d)), w.Full[i])
			same(t, tag, "long date", l.DateLong(day(t, d)), w.Long[i])
			same(t, tag, "short date", l.DateShort(day(t, d)), w.Short[i])
		}
		for i, v := range times {
			at, err := time.Parse("15:04", v)
			if err != nil {
				t.Fatal(err)
			}
			same(t, tag, "time", l.Time(at), w.Times[i])
		}
		for i, v := range append(numbers, counted...) {
			form := strings.ToLower(strings.TrimPrefix(l.PluralForm(decimal(t, v)).String(), "PluralRule"))
			if w.Plurals[i] == "many" && tag[:2] != "pl" { // of millions, in French and Spanish: written as others
				w.Plurals[i] = "other"
			}
			same(t, tag, "plural of "+v, form, w.Plurals[i])
			words, want := []string{"one", "other"}, w.Plurals[i]
			switch tag[:2] {
			case "pl":
				words = []string{"one", "few", "many", "other"}
				if three := l.Counted(decimal(t, v), words[:3]); three != strings.Replace(want, "other", "few", 1) {
					t.Errorf("of three Polish words %s takes %q", v, three)
				}
			case "ja":
				want = "one" // the first, and the only one there is
			}
			same(t, tag, "word beside "+v, l.Counted(decimal(t, v), words), want)
		}
		for i, v := range lists {
			same(t, tag, "list", l.List(v), w.Lists[i])
		}
	}
}

func same(t *testing.T, tag, what, got, want string) {
	t.Helper()
	if got != want {
		t.Errorf("%s %s: %q, Node writes %q", tag, what, got, want)
	}
}

func decimal(t *testing.T, s string) *apd.Decimal {
	d, _, err := apd.NewFromString(s)
	if err != nil {
		t.Fatal(err)
	}
	return d
}

func day(t *testing.T, s string) time.Time {
	d, err := time.Parse(time.DateOnly, s)
	if err != nil {
		t.Fatal(err)
	}
	return d
}

func ExampleLocale_List() {
	fmt.Println(locale.For("en-GB").List([]string{"piano", "stands", "chairs"}), "/",
		locale.For("de-AT").List([]string{"Klavier", "Stühle"}))
	// Output: piano, stands and chairs / Klavier und Stühle
}
