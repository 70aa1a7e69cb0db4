package file_test

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"amberseal/app/file"
	"amberseal/app/register"
	"amberseal/app/work"
)

// shelves are destinations whose files lie, or cannot be looked at, as a table says.
type shelves map[string]map[string]any

func (s shelves) Place(_ context.Context, key string) (file.Place, error) {
	return shelf{files: s[key]}, nil
}

type shelf struct {
	file.Place
	files map[string]any
}

func (s shelf) Read(_ context.Context, path string, _ int) ([]byte, error) {
	switch x := s.files[path].(type) {
	case string:
		return []byte(x), nil
	case error:
		return nil, x
	}
	return nil, file.Gone
}

// ledger is what was filed, and what is told of it.
type ledger struct {
	files []register.Filed
	at    map[int64]time.Time
	told  []string
}

func (l *ledger) FiledFile(_ context.Context, _, id int64) (register.Filed, error) {
	return l.files[id-1], nil
}

func (l *ledger) Original(context.Context, int64, string) ([]byte, error) {
	return nil, register.NotFound
}

func (l *ledger) Uncompared(_ context.Context, since time.Time, but []string, limit int) ([]register.Filed, error) {
	var out []register.Filed
	for _, x := range l.files {
		if l.at[x.ID].Before(since) && !slices.Contains(but, x.Destination) {
			out = append(out, x)
		}
	}
	slices.SortStableFunc(out, func(a, b register.Filed) int { return l.at[a.ID].Compare(l.at[b.ID]) })
	return out[:min(len(out), limit)], nil
}

func (l *ledger) KeepStanding(_ context.Context, x register.Filed, standing, words string, now time.Time) error {
	before := &l.files[x.ID-1]
	if standing != "" && standing != before.Standing {
		l.told = append(l.told, words)
	}
	before.Standing, l.at[x.ID] = standing, now
	return nil
}

// One file that cannot be looked at hides no other, however it refuses; a destination that is out is passed over, and each night begins
// with what the one before did not come to.
func TestANightComparesWhatCanBe(t *testing.T) {
	const kept = "as it was"
	out := work.Again{Reason: "The bucket does not answer.", Outage: true}
	places := shelves{
		"a": {"1": errors.New("replaced below"), "3": "forged", "4": kept, "5": kept},
		"b": {},
	}
	for i := range 8 {
		places["b"][fmt.Sprint(i)] = out
	}
	for _, refusal := range []error{out, work.Again{Reason: "It lies in cold storage."}, work.GiveUp{Reason: "Access is denied."}} {
		places["a"]["1"] = refusal
		l := &ledger{at: map[int64]time.Time{}}
		add := func(destination, path string) {
			l.files = append(l.files, register.Filed{ID: int64(len(l.files) + 1), SubmissionID: 1, Destination: destination, Path: path,
				SHA256: register.Sum([]byte(kept))})
		}
		for _, path := range []string{"1", "2", "3", "4", "5"} {
			add("a", path)
		}
		for i := range 8 {
			add("b", fmt.Sprint(i))
		}
		now := time.Date(2026, 12, 1, 2, 0, 0, 0, time.UTC)
		v := &file.Inventory{Store: l, Places: places, Now: func() time.Time { now = now.Add(time.Second); return now }}
		for night := range 4 {
			result, err := v.Hand().Do(t.Context(), work.Job{Job: register.Job{Every: 24 * time.Hour}})
			if want := "4 files compared, 2 not as they were filed, 1 could not be looked at; passed over: b"; err != nil ||
				result.Result != want {
				t.Errorf("night %d, where one says %v: %q, want %q: %v", night, refusal, result.Result, want, err)
			}
			now = now.Add(24 * time.Hour)
		}
		slices.Sort(l.told)
		if len(l.told) != 3 || !strings.Contains(l.told[0], "“1” could not be looked at: "+refusal.Error()) {
			t.Errorf("told is %q", l.told)
		}
		for _, x := range l.files[5:] {
			if l.at[x.ID].IsZero() || x.Standing != "" {
				t.Errorf("%s of the destination that is out was looked at %v, and is %q", x.Path, l.at[x.ID], x.Standing)
			}
		}
	}
}
