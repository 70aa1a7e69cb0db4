package notice_test

import (
	"testing"
	"time"

	"amberseal/core/notice"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// What is gathered goes at the next hour that comes: what comes at that very minute waits for the one after, each day and week has one hour
// though the clock changes, and a count has none. The days are those of zoneinfo.
func TestWhenWhatIsGatheredGoes(t *testing.T) {
	berlin, err := time.LoadLocation("Europe/Berlin")
	if err != nil {
		t.Fatal(err)
	}
	daily := func(at string) notice.Collect { return notice.Collect{Every: notice.Daily, At: at} }
	friday := notice.Collect{Every: notice.Weekly, Day: "friday", At: "17:00"}
	for _, c := range []struct {
		of        notice.Collect
		now, want string
	}{
		{daily("17:00"), "2026-12-01T15:59:59Z", "2026-12-01T16:00:00Z"},
		{daily("17:00"), "2026-12-01T16:00:00Z", "2026-12-02T16:00:00Z"},
		{daily("17:00"), "2026-12-01T16:00:01Z", "2026-12-02T16:00:00Z"},
		{daily("00:30"), "2026-12-31T23:00:00Z", "2026-12-31T23:30:00Z"},
		{daily("02:30"), "2026-03-28T12:00:00Z", "2026-03-29T01:30:00Z"}, // there is no 02:30: it is 03:30
		{daily("02:30"), "2026-03-29T01:30:00Z", "2026-03-30T00:30:00Z"},
		{daily("02:30"), "2026-10-24T12:00:00Z", "2026-10-25T00:30:00Z"}, // of two the first
		{daily("02:30"), "2026-10-25T00:30:00Z", "2026-10-26T01:30:00Z"},
		{friday, "2026-12-01T00:00:00Z", "2026-12-04T16:00:00Z"},
		{friday, "2026-12-04T16:00:00Z", "2026-12-11T16:00:00Z"},
		{friday, "2026-12-04T15:59:59Z", "2026-12-04T16:00:00Z"},
	} {
		now, err := time.Parse(time.RFC3339, c.now)
		if err != nil {
			t.Fatal(err)
		}
		if got := c.of.Next(now, berlin).Format(time.RFC3339); got != c.want {
			t.Errorf("%+v at %s goes at %s, not %s", c.of, c.now, got, c.want)
		}
	}
	if got := (notice.Collect{Every: notice.Counted, Count: 3, At: "17:00"}).Next(time.Now(), berlin); !got.IsZero() {
		t.Errorf("a count goes at %s", got)
	}
}

// Minutes later are minutes that pass, whatever the clock shows; a day later is the same hour of the next day.
func TestMinutesThatPass(t *testing.T) {
	for _, name := range []string{"Europe/Berlin", "America/New_York", "Australia/Lord_Howe", "America/St_Johns"} {
		h := house.New()
		h.Zone = name
		for _, begin := range []string{"2026-10-24T22:00:00Z", "2026-10-31T22:00:00Z", "2026-11-01T04:00:00Z", "2026-04-04T12:00:00Z",
			"2026-03-29T00:00:00Z"} {
			from, err := time.Parse(time.RFC3339, begin)
			if err != nil {
				t.Fatal(err)
			}
			for minutes := range 300 {
				at := from.Add(time.Duration(minutes) * time.Minute)
				n := notice.Notice{Delay: &notice.Delay{Minutes: 30}}
				if due := n.Due(phrase.Facts{House: h, Received: at}); due.Sub(at) != 30*time.Minute {
					t.Fatalf("%s, %s: half an hour later is %s", name, at, due)
				}
				n.Delay = &notice.Delay{Days: 1}
				due := n.Due(phrase.Facts{House: h, Received: at}).In(h.Location())
				if pass := due.Sub(at); pass < 23*time.Hour || pass > 25*time.Hour {
					t.Fatalf("%s, %s: a day later is %s", name, at, due)
				}
			}
		}
	}
}
