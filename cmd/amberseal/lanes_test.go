package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"path/filepath"
	"slices"
	"sync"
	"testing"
	"time"

	"amberseal/adapter/sqlite"
	"amberseal/app/access"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/plan"
	"amberseal/core/words/phrase"
	"amberseal/demo"
	"amberseal/standin/mailbox"
)

// inBulk puts the steps of what it takes in into the lane of very many.
type inBulk struct{ *sqlite.DB }

func (b inBulk) Accept(ctx context.Context, a receive.Arrival) (receive.Kept, error) {
	for i := range a.Steps {
		a.Steps[i].Lane = plan.Bulk
	}
	return b.DB.Accept(ctx, a)
}

// BenchmarkLanes asks how much later ten fresh receipts a second are sent beside a bulk run of 5,000 documents with their letters
// than without it, in the same run: the middle and the 95th percentile, from acceptance to the mail server, in seconds.
func BenchmarkLanes(b *testing.B) {
	for range b.N {
		box, err := mailbox.Open("127.0.0.1:0", b.TempDir())
		if err == nil {
			err = box.Switch(true)
		}
		if err != nil {
			b.Fatal(err)
		}
		p, err := wire(b.Context(), filepath.Join(b.TempDir(), "data"), "", "smtp+plain://"+box.Address(), slog.New(slog.DiscardHandler))
		if err != nil {
			b.Fatal(err)
		}
		if err := demo.Furnish(b.Context(), p.server.Office, p.server.People, "http://127.0.0.1"); err != nil {
			b.Fatal(err)
		}
		slugs := []string{lanesIntake(b, p, "Fresh"), lanesIntake(b, p, "Other"), lanesIntake(b, p, "Many")}
		ctx, stop := context.WithCancel(b.Context())
		ended := make(chan error, 1)
		go func() { ended <- p.crew.Run(ctx) }()

		alone := fresh(b, p, slugs[:2], 30*time.Second)
		bulk := &receive.Counter{Store: inBulk{p.db}, Secret: p.secret, Now: time.Now, Arrived: p.crew.Wake}
		var all sync.WaitGroup
		for n := range 20 {
			all.Go(func() {
				for i := range 250 {
					if _, err := bulk.Submit(b.Context(), slugs[2], guest(n*1000+i)); err != nil {
						b.Error(err)
						return
					}
				}
			})
		}
		all.Wait()
		beside := fresh(b, p, slugs[:2], 30*time.Second)
		counts, err := p.db.Count(b.Context(), access.Everywhere)
		if err != nil || counts.Unfinished < 100 {
			b.Errorf("the bulk run had ended before: %+v, %v", counts, err)
		}
		b.ReportMetric(alone[0], "alone_p50_s")
		b.ReportMetric(alone[1], "alone_p95_s")
		b.ReportMetric(beside[0], "beside_p50_s")
		b.ReportMetric(beside[1], "beside_p95_s")
		b.ReportMetric(float64(5000-counts.Unfinished)/30, "bulk/s")
		stop()
		if err := errors.Join(<-ended, p.close(), box.Switch(false)); err != nil {
			b.Fatal(err)
		}
	}
}

// lanesIntake is an open intake with a receipt that is mailed to the respondent.
func lanesIntake(b testing.TB, p *program, name string) string {
	d := intake.New(name, []form.Field{{Key: "name", Kind: form.ShortText, Label: "Name"}, {Key: "mail", Kind: form.Email, Label: "Mail"}})
	d.Notices[0].To = phrase.Parse("{{mail}}")
	made, err := p.server.Workshop.Add(b.Context(), d)
	if err == nil {
		_, err = p.server.Workshop.Open(b.Context(), made.ID)
	}
	if err != nil {
		b.Fatal(err)
	}
	return made.Design.Slug
}

func guest(n int) receive.Sending {
	return receive.Sending{
		Own:     true,
		Answers: form.Raw{"name": fmt.Appendf(nil, `"Guest %d"`, n), "mail": fmt.Appendf(nil, `"guest%d@many.example"`, n)},
	}
}

// fresh takes in ten submissions a second for a time and gives the middle and the 95th percentile of when their last letter went out.
func fresh(b *testing.B, p *program, slugs []string, lasts time.Duration) [2]float64 {
	begun := time.Now()
	var numbers []string
	for n := 0; time.Since(begun) < lasts; n++ {
		r, err := p.server.Counter.Submit(b.Context(), slugs[n%len(slugs)], guest(n))
		if err != nil {
			b.Fatal(err)
		}
		numbers = append(numbers, r.Number)
		time.Sleep(time.Until(begun.Add(time.Duration(n+1) * 100 * time.Millisecond)))
	}
	time.Sleep(5 * time.Second)
	all, err := p.db.Entries(b.Context(), register.Query{Scope: access.Everywhere, Limit: 20_000})
	if err != nil {
		b.Fatal(err)
	}
	var took []float64
	for _, e := range all {
		if !slices.Contains(numbers, e.Number) || e.Received.Before(begun.Add(-time.Second)) {
			continue
		}
		last := e.Received
		for _, j := range e.Jobs {
			if j.State != register.Done {
				b.Fatalf("%s of %s is %s: %s", j.Name, e.Number, j.State, j.Reason)
			}
			if j.Kind == plan.Notice && j.Updated.After(last) {
				last = j.Updated
			}
		}
		took = append(took, last.Sub(e.Received).Seconds())
	}
	if len(took) != len(numbers) {
		b.Fatalf("%d of %d were found", len(took), len(numbers))
	}
	slices.Sort(took)
	return [2]float64{took[len(took)/2], took[len(took)*95/100]}
}
