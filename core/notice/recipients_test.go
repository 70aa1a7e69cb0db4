package notice_test

import (
	"fmt"
	"math/rand/v2"
	"os/exec"
	"strings"
	"testing"
	"time"

	"amberseal/core/ask/form"
	"amberseal/core/notice"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

var booking = form.Form{Fields: []form.Field{
	{Key: "who", Kind: form.Section, Label: "Who"},
	{Key: "mail", Kind: form.Email, Label: "Your email"},
	{Key: "room", Kind: form.OneOf, Label: "Room", Settings: form.Settings{Choices: []form.Choice{{Value: "north", Label: "North"},
		{Value: "south", Label: "South"}}}},
	{Key: "day", Kind: form.Date, Label: "Day"},
	{Key: "none", Kind: form.Section, Label: "Nothing here"},
	{Key: "more", Kind: form.ShortText, Label: "More"},
	{Key: "band", Kind: form.Section, Label: "Band"},
	{Key: "players", Kind: form.Rows, Label: "Player", Settings: form.Settings{Fields: []form.Field{
		{Key: "name", Kind: form.ShortText, Label: "Name"}, {Key: "age", Kind: form.WholeNumber, Label: "Age"},
	}}},
}}

func booked(zone, answers string) phrase.Facts {
	h := house.New()
	h.Email, h.Zone = "desk@house.example", zone
	raw := form.Raw{}
	for _, pair := range strings.Split(answers, ";") {
		if key, value, ok := strings.Cut(pair, "="); ok {
			raw[key] = []byte(value)
		}
	}
	return phrase.Facts{House: h, Form: booking, Answers: form.Load(booking, raw), Received: time.Date(2026, 11, 28, 9, 30, 0, 0, time.UTC)}
}

// Everybody is written to once, whatever names them; staff's answers go to the respondent; quotes hold commas.
func TestRecipients(t *testing.T) {
	for _, c := range []struct {
		n       notice.Notice
		answers string
		want    string
	}{
		{notice.Notice{To: phrase.Parse("a@x.example"), Copy: phrase.Parse("A@X.example, b@x.example"),
			BlindCopy: phrase.Parse("b@x.example, c@x.example")},
			`mail="r@y.example"`, "to a@x.example copy b@x.example blind c@x.example reply r@y.example "},
		{notice.Notice{To: phrase.Parse("{{mail}}"), ReplyTo: phrase.Parse("desk@x.example")}, `mail="r@y.example"`,
			"to r@y.example copy  blind  reply desk@x.example "},
		{notice.Notice{To: phrase.Parse("{{mail}}")}, `mail="r@y.example"`, "to r@y.example copy  blind  reply  "},
		{notice.Notice{To: phrase.Parse(`"Quill, Ines; desk" <i@x.example>; two@x.example`)}, "",
			"to i@x.example two@x.example copy  blind  reply  "},
		{notice.Notice{Route: &notice.Route{Field: "room", To: map[string]string{"north": "n@x.example, m@x.example"},
			Else: "else@x.example"}},
			`room="north"`, "to n@x.example m@x.example copy  blind  reply  "},
		{notice.Notice{Route: &notice.Route{Field: "room", To: map[string]string{"north": "n@x.example"}, Else: "else@x.example"}},
			`room="south"`, "to else@x.example copy  blind  reply  "},
		{notice.Notice{Route: &notice.Route{Field: "room", To: map[string]string{"north": "n@x.example"}}}, `room="south"`,
			"to  copy  blind  reply  The answer to “Room” chooses no address."},
		{notice.Notice{Roles: []string{"staff"}}, "",
			"to  copy  blind  reply  Nobody of the house it goes to works there any more. Choose " +
				"somebody else; send it again then."},
		{notice.Notice{To: phrase.Parse("x@bücher.example")}, "", "to x@bücher.example copy  blind  reply  "},
	} {
		m := c.n.For(booked("UTC", c.answers), notice.With{})
		got := fmt.Sprintf("to %s copy %s blind %s reply %s %s", strings.Join(m.To, " "), strings.Join(m.Copy, " "),
			strings.Join(m.BlindCopy, " "), strings.Join(m.ReplyTo, " "), m.Problem)
		if got != c.want {
			t.Errorf("%+v: %q, want %q", c.n, got, c.want)
		}
	}
	var many []string
	for i := range 300 {
		many = append(many, fmt.Sprintf("a%d@x.example", i))
	}
	m := notice.Notice{To: phrase.Parse(strings.Join(many, ", "))}.For(booked("UTC", ""), notice.With{})
	if !strings.Contains(m.Problem, "300 addresses") {
		t.Errorf("300 recipients: %q", m.Problem)
	}
	if m := (notice.Notice{Roles: []string{"staff"}}).For(booked("UTC", ""), notice.With{House: []string{"i@h.example"}}); len(m.To) != 1 {
		t.Errorf("somebody of the house: %+v", m)
	}
}

// When a notice goes is held against Python's zoneinfo over days of chance in zones with all sorts of summer time: the day is counted on
// the house's calendar, and the hour is what its clocks show, at its first showing (fold=0, PEP 495).
func TestDueAgainstZoneinfo(t *testing.T) {
	zones := []string{"Europe/London", "America/New_York", "Australia/Lord_Howe", "America/St_Johns", "Asia/Kolkata",
		"Africa/Casablanca", "Europe/Warsaw"}
	random := rand.New(rand.NewPCG(12, 28))
	var asked, got []string
	for range 600 {
		zone := zones[random.IntN(len(zones))]
		day := time.Date(2024+random.IntN(6), time.Month(1+random.IntN(12)), 1+random.IntN(28), 0, 0, 0, 0, time.UTC)
		days, hour := random.IntN(40)-20, random.IntN(24)
		minute := random.IntN(60)
		if random.IntN(2) == 0 { // in the night of a change
			hour = 1 + random.IntN(2)
			day = time.Date(day.Year(), []time.Month{3, 4, 10, 11}[random.IntN(4)], 25+random.IntN(7), 0, 0, 0, 0, time.UTC)
		}
		n := notice.Notice{Delay: &notice.Delay{Field: "day", Days: days, At: fmt.Sprintf("%02d:%02d", hour, minute)}}
		asked = append(asked, fmt.Sprintf("%s %s %d %d %d", zone, day.Format("2006-01-02"), days, hour, minute))
		got = append(got, n.Due(booked(zone, `day="`+day.Format("2006-01-02")+`"`)).Format("2006-01-02T15:04"))
	}
	python := exec.Command("python3", "-c", `
import sys
from datetime import datetime, timedelta, timezone
from zoneinfo import ZoneInfo
for line in sys.stdin:
    zone, day, days, hour, minute = line.split()
    d = datetime.strptime(day, "%Y-%m-%d") + timedelta(days=int(days))
    local = d.replace(hour=int(hour), minute=int(minute), tzinfo=ZoneInfo(zone))
    print(local.astimezone(timezone.utc).strftime("%Y-%m-%dT%H:%M"))
`)
	python.Stdin = strings.NewReader(strings.Join(asked, "\n") + "\n")
	out, err := python.Output()
	if err != nil {
		t.Fatal(err)
	}
	want := strings.Fields(string(out))
	if len(want) != len(got) {
		t.Fatalf("zoneinfo answers %d of %d", len(want), len(got))
	}
	for i := range got {
		if got[i] != want[i] {
			t.Errorf("%s: %s, zoneinfo says %s", asked[i], got[i], want[i])
		}
	}
	n := notice.Notice{Delay: &notice.Delay{Minutes: 90}}
	if due := n.Due(booked("UTC", "")); !due.Equal(time.Date(2026, 11, 28, 11, 0, 0, 0, time.UTC)) {
		t.Errorf("an hour and a half after it came: %s", due)
	}
	n = notice.Notice{Delay: &notice.Delay{Field: "day", Days: -3}}
	if waits := n.Waits(booked("UTC", "")); !strings.Contains(waits, "“Day”") || !n.Due(booked("UTC", "")).IsZero() {
		t.Errorf("without a day: %q", waits)
	}
}

// The table of answers has what was answered, under the headings of which something was; a link on words of its own is a button, and one
// that leads nowhere is not there. Nothing that was answered is markup. The text says the same as the page.
func TestAnswersAndButtons(t *testing.T) {
	f := booked("UTC", `mail="r@y.example";room="north";players=[{"name":"A <b>","age":"7"},{"name":"Ł"}]`)
	f.Link = "https://house.example/s/abc"
	link := func(to, words string) phrase.Paragraph {
		return phrase.Paragraph{Spans: phrase.Phrase{{Text: words, Style: phrase.Style{Link: to}}}}
	}
	n := notice.Notice{Message: append(phrase.ParseBody("Came in:\n\n{{@answers}}"), link("@link", "Read it again"), link("@correct",
		"Correct it"))}
	m := n.For(f, notice.With{})
	const text = "Came in:\n\nWHO\nYour email: r@y.example\nRoom: North\n\nBAND\nPlayer: Name: A <b> · Age: 7\nPlayer: Name: Ł\n\n" +
		"Read it again <https://house.example/s/abc>\n"
	if m.Text != text {
		t.Errorf("the text is %q, want %q", m.Text, text)
	}
	for _, want := range []string{"Name: A &lt;b&gt; · Age: 7", `<a class="button" href="https://house.example/s/abc"`} {
		if !strings.Contains(m.HTML, want) {
			t.Errorf("the page has no %s", want)
		}
	}
	for _, no := range []string{"Correct it", "Nothing here", "<b>"} {
		if strings.Contains(m.HTML, no) {
			t.Errorf("the page has %s", no)
		}
	}
	n.Answers = []string{"room"}
	if m := n.For(f, notice.With{}); !strings.HasPrefix(m.Text, "Came in:\n\nRoom: North\n\nRead") {
		t.Errorf("chosen answers are %q", m.Text)
	}
}
