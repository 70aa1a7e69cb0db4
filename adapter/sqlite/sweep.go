package sqlite

import (
	"context"

	"amberseal/app/sweep"
)

// Sweep forgets what is older than it need be.
func (d *DB) Sweep(ctx context.Context, b sweep.Before) error {
	return d.do(ctx, func(tx txn) error {
		for query, before := range map[string]int64{
			"DELETE FROM session WHERE expires < ?":                       micros(b.Sessions),
			"DELETE FROM upload WHERE submission IS NULL AND created < ?": micros(b.Uploads),
			"DELETE FROM draft WHERE updated < ?":                         micros(b.Drafts),
			"DELETE FROM recipient WHERE sent < ?":                        micros(b.Recipients),
		} {
			if _, err := tx.Exec(query, before); err != nil {
				return err
			}
		}
		return nil
	})
}
