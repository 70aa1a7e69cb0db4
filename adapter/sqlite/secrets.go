package sqlite

import (
	"context"
	"database/sql"

	"amberseal/app/safe"
)

const secretColumns = "SELECT name, key, door, bytes, at FROM secret"

func scanSecret(r scanner) (safe.Sealed, error) {
	var s safe.Sealed
	var at int64
	err := r.Scan(&s.Name, &s.Key, &s.Door, &s.Bytes, &at)
	s.At = moment(at)
	return s, found(err)
}

// Secret gives one as it is sealed.
func (d *DB) Secret(ctx context.Context, name string) (safe.Sealed, error) {
	return scanSecret(d.read.QueryRowContext(ctx, secretColumns+" WHERE name = ?", name))
}

// Secrets lists all by name.
func (d *DB) Secrets(ctx context.Context) ([]safe.Sealed, error) {
	r, err := d.read.QueryContext(ctx, secretColumns+" ORDER BY name")
	return rows(r, err, func(r *sql.Rows) (safe.Sealed, error) { return scanSecret(r) })
}

// SetSecret keeps one in place of that of its name.
func (d *DB) SetSecret(ctx context.Context, s safe.Sealed) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("INSERT OR REPLACE INTO secret (name, key, door, bytes, at) VALUES (?, ?, ?, ?, ?)", s.Name, s.Key, s.Door,
			s.Bytes, micros(s.At))
		return err
	})
}

// RemoveSecret forgets one.
func (d *DB) RemoveSecret(ctx context.Context, name string) error {
	return d.do(ctx, func(tx txn) error {
		done, err := tx.Exec("DELETE FROM secret WHERE name = ?", name)
		if err != nil {
			return err
		}
		return some(done)
	})
}
