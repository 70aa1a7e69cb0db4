package sqlite

import (
	"context"
	"time"
)

// Hurry ends the outage of a target and makes what waits before it due now, but for what was planned for later and what may have arrived.
func (d *DB) Hurry(ctx context.Context, target string, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		if _, err := tx.Exec("DELETE FROM outage WHERE target = ?", target); err != nil {
			return err
		}
		_, err := tx.Exec("UPDATE job SET due = max(?1, not_before) WHERE state = 'ready' AND target = ?2 AND unsure = 0 AND due > ?1",
			micros(now), target)
		return err
	})
}
