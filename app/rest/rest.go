// Package rest keeps a house that was made of a backup from acting until somebody lets it: what it would send and file may have gone since,
// and numbers that it would give may have been given. Its pages can be looked at meanwhile, and documents are made; its forms take nothing.
package rest

import (
	"context"
	"sync/atomic"
	"time"

	"amberseal/app/access"
)

// Store keeps since when a house rests. Wake ends that and passes over so many numbers of each series.
type Store interface {
	Resting(ctx context.Context) (since time.Time, err error) // the zero time where it does not
	Wake(ctx context.Context, by access.Who, skip int64, now time.Time) error
}

// Rest is that of a house. It is safe for many goroutines.
type Rest struct {
	Store Store
	Now   func() time.Time
	Woken func() // called when it has ended

	since atomic.Int64 // microseconds since 1970, 0 where it does not rest
}

// Load reads whether the house rests, when the program starts.
func (r *Rest) Load(ctx context.Context) error {
	since, err := r.Store.Resting(ctx)
	if err == nil && !since.IsZero() {
		r.since.Store(since.UnixMicro())
	}
	return err
}

// Resting reports whether the house rests.
func (r *Rest) Resting() bool { return r.since.Load() != 0 }

// Since is when it was made of a backup, the zero time where it does not rest.
func (r *Rest) Since() time.Time {
	if at := r.since.Load(); at != 0 {
		return time.UnixMicro(at).UTC()
	}
	return time.Time{}
}

// Wake lets the house act. skip is how many numbers of each series may have been given since the backup; they are given to nobody here.
func (r *Rest) Wake(ctx context.Context, by access.Who, skip int64) error {
	if err := r.Store.Wake(ctx, by, skip, r.Now()); err != nil {
		return err
	}
	r.since.Store(0)
	r.Woken()
	return nil
}
