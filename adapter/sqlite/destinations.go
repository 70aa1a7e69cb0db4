package sqlite

import (
	"context"
	"database/sql"
	"encoding/json"
	"time"

	"amberseal/core/destination"
)

// Destinations lists the house's own by name.
func (d *DB) Destinations(ctx context.Context) ([]destination.Destination, error) {
	r, err := d.read.QueryContext(ctx, "SELECT body FROM destination ORDER BY body ->> 'name', key")
	return rows(r, err, scanDestination)
}

// Destination gives one.
func (d *DB) Destination(ctx context.Context, key string) (destination.Destination, error) {
	r, err := d.prepared(ctx, "SELECT body FROM destination WHERE key = ?", key)
	x, err := one(r, err, scanDestination)
	return x, found(err)
}

func scanDestination(r *sql.Rows) (x destination.Destination, err error) {
	var body string
	if err = r.Scan(&body); err == nil {
		err = json.Unmarshal([]byte(body), &x)
	}
	return x, err
}

// SetDestination keeps one in place of that of its key.
func (d *DB) SetDestination(ctx context.Context, x destination.Destination, now time.Time) error {
	body, err := json.Marshal(x)
	if err != nil {
		return err
	}
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("INSERT OR REPLACE INTO destination (key, body, changed) VALUES (?, ?, ?)", x.Key, body, micros(now))
		return err
	})
}

// RemoveDestination forgets one, with its outage.
func (d *DB) RemoveDestination(ctx context.Context, key, target string) error {
	return d.do(ctx, func(tx txn) error {
		done, err := tx.Exec("DELETE FROM destination WHERE key = ?", key)
		if err != nil {
			return err
		}
		if _, err := tx.Exec("DELETE FROM outage WHERE target = ?", target); err != nil {
			return err
		}
		return some(done)
	})
}

// WaitingAt counts the jobs before a target that are not done, and says what keeps it.
func (d *DB) WaitingAt(ctx context.Context, target string) (waiting int, reason string, err error) {
	// Each count by a partial index, which is taken where its own words are said.
	err = d.read.QueryRowContext(ctx, "SELECT (SELECT count(*) FROM job WHERE target = ?1 AND state = 'ready') + "+
		"(SELECT count(*) FROM job WHERE target = ?1 AND state = 'working' AND state NOT IN ('done', 'void')), "+
		"coalesce((SELECT reason FROM outage WHERE target = ?1), '')", target).Scan(&waiting, &reason)
	return waiting, reason, err
}
