package intake_test

import (
	"testing"
	"time"

	"amberseal/core/intake"
)

// An intake opens once and closes once, whatever the clock does meanwhile: also at an hour that it shows twice, or never. The zones and
// their changes are those of zoneinfo.
func TestAnIntakeOpensAndClosesOnce(t *testing.T) {
	for _, c := range []struct{ zone, day string }{
		{"Europe/Berlin", "2026-10-25"}, {"Europe/Berlin", "2026-03-29"}, {"America/New_York", "2026-11-01"},
		{"America/St_Johns", "2026-03-08"}, {"Australia/Lord_Howe", "2026-04-05"}, {"Asia/Kolkata", "2026-06-01"},
	} {
		zone, err := time.LoadLocation(c.zone)
		if err != nil {
			t.Fatal(err)
		}
		begin, err := time.ParseInLocation("2006-01-02", c.day, zone)
		if err != nil {
			t.Fatal(err)
		}
		for minute := 0; minute < 5*60; minute += 10 {
			clock := begin.Format("2006-01-02T") + time.Time{}.Add(time.Duration(minute)*time.Minute).Format("15:04")
			for what, o := range map[string]intake.Opening{"early": {From: clock}, "late": {Until: clock}} {
				was, changes := o.At(begin.Add(-time.Hour)), 0
				for at := begin; at.Before(begin.Add(8 * time.Hour)); at = at.Add(10 * time.Minute) {
					is := o.At(at.In(zone))
					if is != was {
						changes++
						if shown := at.In(zone).Format("2006-01-02T15:04"); shown < clock { // a clock that jumps shows more
							t.Errorf("%s: what says %s changes at %s", c.zone, clock, shown)
						}
					}
					was = is
				}
				if changes != 1 || o.At(begin.Add(-time.Hour)) == was || what == "early" && was != "" {
					t.Errorf("%s on %s, %s %s: it changes %d times and ends %q", c.zone, c.day, what, clock, changes, was)
				}
			}
		}
	}
}
