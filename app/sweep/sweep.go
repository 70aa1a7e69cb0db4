// Package sweep forgets what a house need not keep: sessions that ended, files and drafts that nobody came back to, who was written to.
package sweep

import (
	"context"
	"time"

	"amberseal/app/receive"
	"amberseal/app/upload"
	"amberseal/app/work"
)

// Before is the time before which each thing is forgotten.
type Before struct {
	Sessions   time.Time // by when they expire
	Uploads    time.Time // that no submission took
	Drafts     time.Time // by when they were kept last
	Recipients time.Time // by when they were written to
	Files      time.Time // of which documents were made, by when the last design that speaks of them went
	At         time.Time // now
}

// Store forgets.
type Store interface {
	Sweep(ctx context.Context, b Before) error
}

// recipientsKept is how long it is known who was written to: package notify asks about an hour.
const recipientsKept = 24 * time.Hour

// filesKept is how long a file is kept of which no design speaks any more: who undoes a change, or takes an older design up again,
// finds it.
const filesKept = 60 * 24 * time.Hour

// Hand sweeps.
func Hand(store Store, now func() time.Time) work.Hand {
	return work.Hand{Longest: time.Minute, Do: func(ctx context.Context, _ work.Job) (work.Outcome, error) {
		at := now()
		return work.Outcome{}, store.Sweep(ctx, Before{
			Sessions: at, Uploads: at.Add(-upload.KeptFor), Drafts: at.Add(-receive.DraftsKept), Recipients: at.Add(-recipientsKept),
			Files: at.Add(-filesKept), At: at,
		})
	}}
}
