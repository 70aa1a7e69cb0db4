package sqlite

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
)

// Copy writes the database as it is at one moment into a file of its own that is not there yet, while the house goes on writing.
func Copy(ctx context.Context, file, to string) error {
	db, err := sql.Open("sqlite", dsn(file, []string{"busy_timeout(30000)", "mode=ro"}))
	if err != nil {
		return err
	}
	_, err = db.ExecContext(ctx, "VACUUM INTO ?", to)
	return errors.Join(err, db.Close())
}

// Check reads a whole database file and says what is wrong with it.
func Check(ctx context.Context, file string) error {
	db, err := sql.Open("sqlite", dsn(file, []string{"busy_timeout(30000)", "mode=ro"}))
	if err != nil {
		return err
	}
	defer db.Close()
	var said string
	if err := db.QueryRowContext(ctx, "PRAGMA integrity_check").Scan(&said); err != nil {
		return fmt.Errorf("the database cannot be read: %w", err)
	}
	if said != "ok" {
		return fmt.Errorf("the database is damaged: %s", said)
	}
	if err := checkFacts(ctx, db); err != nil {
		return err
	}
	r, err := db.QueryContext(ctx, "PRAGMA foreign_key_check")
	if err != nil {
		return err
	}
	defer r.Close()
	if r.Next() {
		return errors.New("the database is damaged: something in it refers to what is not there")
	}
	return r.Err()
}
