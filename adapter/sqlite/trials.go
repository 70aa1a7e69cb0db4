package sqlite

import (
	"context"
	"database/sql"
	"time"

	"amberseal/app/register"
)

// Trial is how what is behind a target was tried last, the zero one where it was not.
func (d *DB) Trial(ctx context.Context, target string) (register.Trial, error) {
	r, err := d.prepared(ctx, "SELECT at, part, reason FROM trial WHERE target = ?", target)
	t, err := one(r, err, func(r *sql.Rows) (t register.Trial, err error) {
		var at int64
		err = r.Scan(&at, &t.Part, &t.Reason)
		t.At = moment(at)
		return t, err
	})
	return t, ignoreNone(err)
}

// KeepTrial keeps it; the zero one forgets that there was one.
func (d *DB) KeepTrial(ctx context.Context, target string, t register.Trial) error {
	return d.do(ctx, func(tx txn) error {
		if t.At.Equal(time.Time{}) {
			_, err := tx.Exec("DELETE FROM trial WHERE target = ?", target)
			return err
		}
		_, err := tx.Exec("INSERT OR REPLACE INTO trial (target, at, part, reason) VALUES (?, ?, ?, ?)", target, micros(t.At), t.Part,
			t.Reason)
		return err
	})
}
