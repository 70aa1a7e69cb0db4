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
		return sweepBrought(tx, b)
	})
}

// spoken reports whether a draft or a version speaks of a file. The end of its name, which comes from its bytes, stands in designs as
// it is.
const spoken = "(EXISTS (SELECT 1 FROM intake WHERE instr(design, substr(brought.name, -21)) > 0) OR " +
	"EXISTS (SELECT 1 FROM version WHERE instr(design, substr(brought.name, -21)) > 0))"

func sweepBrought(tx txn, b sweep.Before) error {
	if _, err := tx.Exec("UPDATE brought SET unused = CASE WHEN "+spoken+" THEN NULL ELSE coalesce(unused, ?) END",
		micros(b.At)); err != nil {
		return err
	}
	_, err := tx.Exec("DELETE FROM brought WHERE unused < ?", micros(b.Files))
	return err
}
