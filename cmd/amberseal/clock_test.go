package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"path/filepath"
	"slices"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"amberseal/app/access"
	"amberseal/app/register"
	"amberseal/demo"
	"amberseal/standin/mailbox"
)

// A clock that is set back an hour while a house is full of work loses nothing, doubles nothing, leaves no gap in the numbers, and
// lets nothing wait for the hour to come again, not even a letter whose server was out when the clock fell.
func TestClockSetBackUnderLoad(t *testing.T) {
	var back atomic.Int64
	now := func() time.Time { return time.Now().Round(0).Add(-time.Duration(back.Load())) }
	box, err := mailbox.Open("127.0.0.1:0", t.TempDir())
	if err == nil {
		err = box.Switch(true)
	}
	if err != nil {
		t.Fatal(err)
	}
	p, err := wireBy(t.Context(), now, filepath.Join(t.TempDir(), "data"), "", "smtp+plain://"+box.Address(), slog.New(slog.DiscardHandler))
	if err == nil {
		err = demo.Furnish(t.Context(), p.server.Office, p.server.People, "http://127.0.0.1")
	}
	if err != nil {
		t.Fatal(err)
	}
	slug := lanesIntake(t, p, "Hours")
	ctx, stop := context.WithCancel(t.Context())
	ended := make(chan error, 1)
	go func() { ended <- p.crew.Run(ctx) }()

	const senders, each = 8, 40
	var all sync.WaitGroup
	var taken atomic.Int64
	numbers := make(chan string, senders*each)
	for n := range senders {
		all.Go(func() {
			for i := range each {
				r, err := p.server.Counter.Submit(t.Context(), slug, guest(n*1000+i))
				if err != nil {
					t.Error(err)
					return
				}
				numbers <- r.Number
				switch taken.Add(1) {
				case senders * each / 4:
					if err := box.Switch(false); err != nil {
						t.Error(err)
					}
				case senders * each / 2:
					back.Store(int64(time.Hour))
				case senders * each * 3 / 4:
					if err := box.Switch(true); err != nil {
						t.Error(err)
					}
				}
			}
		})
	}
	all.Wait()
	soon(t, 90*time.Second, "everything is done", func() bool {
		counts, err := p.db.Count(t.Context(), access.Everywhere)
		return err == nil && counts.Unfinished == 0 && counts.All == senders*each
	})
	stop()
	close(numbers)
	given := slices.Sorted(func(yield func(string) bool) {
		for n := range numbers {
			if !yield(n) {
				return
			}
		}
	})
	for i, n := range given {
		if want := fmt.Sprintf("-%05d", i+1); n[len(n)-6:] != want {
			t.Fatalf("number %d is %s, want …%s", i, n, want)
		}
	}
	entries, err := p.db.Entries(t.Context(), register.Query{Scope: access.Everywhere, State: "failed", Limit: 9})
	if err != nil || len(entries) > 0 {
		t.Errorf("%d failed: %v", len(entries), err)
	}
	sent := map[string]int{}
	for _, m := range box.Messages() {
		sent[m.To[0]]++
	}
	for n := range senders {
		for i := range each {
			if to := fmt.Sprintf("guest%d@many.example", n*1000+i); sent[to] != 1 {
				t.Errorf("%s got %d letters", to, sent[to])
			}
		}
	}
	if err := errors.Join(err, <-ended, p.close(), box.Switch(false)); err != nil {
		t.Fatal(err)
	}
}
