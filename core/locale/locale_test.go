package locale_test

import (
	"encoding/json"
	"fmt"
	"os/exec"
	"testing"
	"time"

	"github.com/cockroachdb/apd/v3"

	"amberseal/core/locale"
)

// Node's Intl carries its own copy of the Unicode Common Locale Data Repository: an
// implementation that shares no code with ours.
const intl = `
const out = {}
for (const tag of ['de-DE', 'en-GB', 'en-US', 'fr-FR', 'pl-PL', 'ja-JP']) {
  const money = (v, currency) => new Intl.NumberFormat(tag, { style: 'currency', currency }).format(v)
  out[tag] = {
    money: ['0', '1234.5', '-9876543.21', '1000000'].flatMap((v) => [money(v, 'EUR'), money(v, 'GBP'), money(v, 'USD')]),
    yen: money('12345', 'JPY'),
    number: ['0.5', '1234567.25', '-42', '1000'].map((v) => new Intl.NumberFormat(tag, { maximumFractionDigits: 20 }).format(v)),
    dates: ['2026-11-24', '2024-02-29', '2026-01-01', '2025-05-03', '2026-08-31'].map((d) => new Intl.DateTimeFormat(tag, { dateStyle: 'long', timeZone: 'UTC' }).format(new Date(d))),
    short: ['2026-11-24', '2026-03-05'].map((d) => new Intl.DateTimeFormat(tag, { dateStyle: 'medium', timeZone: 'UTC' }).format(new Date(d))),
  }
}
console.log(JSON.stringify(out))`

func TestAgainstNodeIntl(t *testing.T) {
	out, err := exec.Command("node", "-e", intl).Output()
	if err != nil {
		t.Fatalf("node is needed for this check: %v", err)
	}
	var want map[string]struct {
		Money, Number, Dates, Short []string
		Yen                         string
	}
	if err := json.Unmarshal(out, &want); err != nil {
		t.Fatal(err)
	}
	if len(want) != 6 {
		t.Fatalf("%d languages", len(want))
	}
	for tag, w := range want {
		l := locale.For(tag)
		i := 0
		for _, v := range []string{"0", "1234.5", "-9876543.21", "1000000"} {
			for _, c := range []string{"EUR", "GBP", "USD"} {
				same(t, tag, "money", l.Money(decimal(t, v), c), w.Money[i])
				i++
			}
		}
		same(t, tag, "yen", l.Money(decimal(t, "12345"), "JPY"), w.Yen)
		for i, v := range []string{"0.5", "1234567.25", "-42", "1000"} {
			same(t, tag, "number", l.Number(decimal(t, v)), w.Number[i])
		}
		for i, d := range []string{"2026-11-24", "2024-02-29", "2026-01-01", "2025-05-03", "2026-08-31"} {
			same(t, tag, "long date", l.DateLong(day(t, d)), w.Dates[i])
		}
		for i, d := range []string{"2026-11-24", "2026-03-05"} {
			same(t, tag, "short date", l.DateShort(day(t, d)), w.Short[i])
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
	fmt.Println(locale.For("en-GB").List([]string{"piano", "stands", "chairs"}), "/", locale.For("de-AT").List([]string{"Klavier", "Stühle"}))
	// Output: piano, stands and chairs / Klavier und Stühle
}
