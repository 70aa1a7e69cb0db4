package sqlite

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/alexedwards/scs/v2"

	"amberseal/app/access"
	"amberseal/core/words/house"
)

// House is who we are, or a new house before anybody said.
// Callers must not change what they get.
func (d *DB) House(ctx context.Context) (house.House, error) {
	return d.house.get(struct{}{}, func() (house.House, error) { return d.readHouse(ctx) })
}

func (d *DB) readHouse(ctx context.Context) (house.House, error) {
	var body string
	err := d.read.QueryRowContext(ctx, "SELECT body FROM house WHERE id = 1").Scan(&body)
	if errors.Is(err, sql.ErrNoRows) {
		return house.New(), nil
	}
	if err != nil {
		return house.House{}, err
	}
	var h house.House
	if err := json.Unmarshal([]byte(body), &h); err != nil {
		return h, fmt.Errorf("the house's record is damaged: %w", err)
	}
	return h, nil
}

// SetHouse keeps it.
func (d *DB) SetHouse(ctx context.Context, h house.House) error {
	body, err := json.Marshal(h)
	if err != nil {
		return err
	}
	defer d.house.forget()
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("INSERT INTO house (id, body) VALUES (1, ?) ON CONFLICT (id) DO UPDATE SET body = excluded.body", body)
		return err
	})
}

// Picture gives a picture's file.
func (d *DB) Picture(ctx context.Context, name string) ([]byte, error) {
	var data []byte
	err := d.read.QueryRowContext(ctx, "SELECT data FROM picture WHERE name = ?", name).Scan(&data)
	return data, found(err)
}

// HasPicture reports whether there is one of the name.
func (d *DB) HasPicture(ctx context.Context, name string) (bool, error) {
	var one int
	err := d.read.QueryRowContext(ctx, "SELECT 1 FROM picture WHERE name = ?", name).Scan(&one)
	return err == nil, ignoreNone(err)
}

// AddPicture keeps a picture's file.
func (d *DB) AddPicture(ctx context.Context, name string, data []byte, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("INSERT INTO picture (name, data, created) VALUES (?, ?, ?) ON CONFLICT (name) DO NOTHING", name, data,
			micros(now))
		return err
	})
}

// Font gives an uploaded font's file.
func (d *DB) Font(ctx context.Context, name string) ([]byte, error) {
	var data []byte
	err := d.read.QueryRowContext(ctx, "SELECT data FROM font WHERE name = ?", name).Scan(&data)
	return data, found(err)
}

// AddFont keeps a font's file. A name comes from the bytes, so that the same file is kept once.
func (d *DB) AddFont(ctx context.Context, name string, data []byte, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("INSERT INTO font (name, data, created) VALUES (?, ?, ?) ON CONFLICT (name) DO NOTHING", name, data, micros(now))
		return err
	})
}

// FixedFile gives a fixed file of the house.
func (d *DB) FixedFile(ctx context.Context, file string) ([]byte, error) {
	var data []byte
	err := d.read.QueryRowContext(ctx, "SELECT data FROM fixed WHERE name = ?", file).Scan(&data)
	return data, found(err)
}

// AddFixedFile keeps one. A name comes from the bytes, so that the same file is kept once.
func (d *DB) AddFixedFile(ctx context.Context, file string, data []byte, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("INSERT INTO fixed (name, data, created) VALUES (?, ?, ?) ON CONFLICT (name) DO NOTHING", file, data, micros(now))
		return err
	})
}

// Brought gives a file that a document is made of.
func (d *DB) Brought(ctx context.Context, name string) ([]byte, error) {
	var data []byte
	err := d.read.QueryRowContext(ctx, "SELECT data FROM brought WHERE name = ?", name).Scan(&data)
	return data, found(err)
}

// Kept gives what a PDF was taken apart into, nothing where it was not yet.
func (d *DB) Kept(ctx context.Context, name string) ([]byte, error) {
	var data []byte
	err := d.read.QueryRowContext(ctx, "SELECT ground FROM brought WHERE name = ?", name).Scan(&data)
	return data, found(err)
}

// Keep keeps what a PDF was taken apart into.
func (d *DB) Keep(ctx context.Context, name string, ground []byte) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("UPDATE brought SET ground = ? WHERE name = ?", ground, name)
		return err
	})
}

// AddBrought keeps a file that a document is made of, of a PDF also what it was taken apart into. A name comes from the bytes, so that the
// same file is kept once.
func (d *DB) AddBrought(ctx context.Context, name string, data, ground []byte, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("INSERT INTO brought (name, data, ground, created) VALUES (?, ?, ?, ?) ON CONFLICT (name) DO UPDATE SET "+
			"unused = NULL", name, data, ground, micros(now))
		return err
	})
}

// Sessions keeps sign-ins under the hashes of their tokens; its methods are those that scs asks of a store.
type Sessions struct{ DB *DB }

// hashed is what is kept of a token that opens something.
func hashed(token string) string { return sum(token) }

// Find gives a session that has not expired.
func (s Sessions) Find(token string) ([]byte, bool, error) {
	var data []byte
	err := s.DB.read.QueryRow("SELECT data FROM session WHERE hash = ? AND expires > ?", hashed(token), micros(time.Now())).Scan(&data)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, false, nil
	}
	return data, err == nil, err
}

// Commit keeps a session, beside whose it is.
func (s Sessions) Commit(token string, data []byte, expires time.Time) error {
	_, values, err := scs.GobCodec{}.Decode(data)
	if err != nil {
		return err
	}
	person, _ := values[access.InSession].(int64)
	return s.DB.do(context.Background(), func(tx txn) error {
		_, err := tx.Exec(
			"INSERT INTO session (hash, data, expires, person) VALUES (?, ?, ?, ?) ON CONFLICT (hash) DO UPDATE SET data = excluded.data, "+
				"expires = excluded.expires, person = excluded.person",
			hashed(token), data, micros(expires), person,
		)
		return err
	})
}

// Delete ends a session.
func (s Sessions) Delete(token string) error {
	return s.DB.do(context.Background(), func(tx txn) error {
		_, err := tx.Exec("DELETE FROM session WHERE hash = ?", hashed(token))
		return err
	})
}
