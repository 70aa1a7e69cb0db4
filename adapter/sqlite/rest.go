package sqlite

import (
	"context"
	"database/sql"
	"time"

	"amberseal/app/access"
	"amberseal/app/register"
	"amberseal/core/plan"
)

// Resting is since when the house rests, the zero time where it does not.
func (d *DB) Resting(ctx context.Context) (time.Time, error) {
	r, err := d.prepared(ctx, "SELECT since FROM rest")
	at, err := one(r, err, func(r *sql.Rows) (at int64, err error) { return at, r.Scan(&at) })
	return moment(at), ignoreNone(err)
}

// Rest lets the house do nothing outside until it is woken.
func (d *DB) Rest(ctx context.Context, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec(
			"INSERT INTO rest (house, since) VALUES ('all', ?) ON CONFLICT (house) DO UPDATE SET since = excluded.since",
			micros(now),
		)
		return err
	})
}

// Wake ends that, and passes over so many numbers of each series.
func (d *DB) Wake(ctx context.Context, by access.Who, skip int64, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		done, err := tx.Exec("DELETE FROM rest")
		if err == nil {
			err = some(done)
		}
		if err == nil {
			_, err = tx.Exec("UPDATE counter SET n = n + ?", skip)
		}
		if err != nil {
			return err
		}
		return tx.tell(plan.Subject{About: plan.House}, register.Fact{Kind: register.Woken, Body: register.FactBody{By: by.Person}}, now)
	})
}
