package work_test

import (
	"context"
	"log/slog"
	"path/filepath"
	"sync/atomic"
	"testing"
	"time"

	"amberseal/adapter/sqlite"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/app/workshop"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/plan"
)

// BenchmarkEngine is the engine alone: 2,000 submissions with a document of 45 kB, two letters and a filing each, by hands that do
// nothing. docs/decisions.md has the same work done by another engine beside it.
func BenchmarkEngine(b *testing.B) {
	const submissions = 2_000
	for range b.N {
		db, err := sqlite.Open(b.Context(), filepath.Join(b.TempDir(), "amberseal.db"))
		if err != nil {
			b.Fatal(err)
		}
		workshop := &workshop.Workshop{Store: db, Now: time.Now}
		made, err := workshop.Add(
			b.Context(),
			intake.New("Guest book", []form.Field{{Key: "who", Kind: form.ShortText, Label: "Who"},
				{Key: "mail", Kind: form.Email, Label: "Mail"}}),
		)
		if err == nil {
			_, err = workshop.Open(b.Context(), made.ID)
		}
		if err != nil {
			b.Fatal(err)
		}
		counter := &receive.Counter{Store: db, Now: time.Now, Arrived: func() {}}
		begun := time.Now()
		b.SetParallelism(32)
		var next atomic.Int32
		done := make(chan error, 64)
		for range cap(done) {
			go func() {
				var err error
				for err == nil && next.Add(1) <= submissions {
					_, err = counter.Submit(
						b.Context(), made.Design.Slug,
						receive.Sending{Answers: form.Raw{"who": []byte(`"Łucja"`), "mail": []byte(`"a@b.example"`)}},
					)
				}
				done <- err
			}()
		}
		for range cap(done) {
			if err := <-done; err != nil {
				b.Fatal(err)
			}
		}
		b.ReportMetric(submissions/time.Since(begun).Seconds(), "accepted/s")

		var left atomic.Int32
		left.Store(submissions * 3)
		ctx, stop := context.WithCancel(b.Context())
		pdf := make([]byte, 45_000)
		ended := func(r register.Record) (work.Outcome, error) {
			if left.Add(-1) == 0 {
				stop()
			}
			return work.Outcome{Records: []register.Record{r}}, nil
		}
		crew := &work.Crew{
			Store: db, Now: time.Now, Changed: func() {}, Log: slog.New(slog.DiscardHandler),
			Slots: map[string]int{plan.Press: 3, plan.Mail: 4, plan.Cabinet: 4},
			Hands: map[plan.Kind]work.Hand{
				plan.Document: {Longest: time.Minute, Do: func(_ context.Context, j work.Job) (work.Outcome, error) {
					made := &register.Document{Key: j.Key, Made: time.Now(), PDF: pdf}
					made.Code = j.Key + time.Now().String()
					return work.Outcome{Records: []register.Record{made}, Signals: []plan.Signal{plan.Made(j.Key)}}, nil
				}},
				plan.Notice: {Longest: time.Minute, Do: func(context.Context, work.Job) (work.Outcome, error) {
					return ended(&register.Message{Sent: time.Now()})
				}},
				plan.Filing: {Longest: time.Minute, Do: func(_ context.Context, j work.Job) (work.Outcome, error) {
					return ended(&register.Filed{Path: j.Key, At: time.Now()})
				}},
			},
		}
		begun = time.Now()
		if err := crew.Run(ctx); err != nil {
			b.Fatal(err)
		}
		b.ReportMetric(submissions/time.Since(begun).Seconds(), "delivered/s")
		if err := db.Close(); err != nil {
			b.Fatal(err)
		}
	}
}
