// Package sqlite keeps everything in one SQLite file.
//
// All writes go through one connection and are committed in groups: many callers wait
// for the same COMMIT, each in a savepoint of its own, and none is answered before it.
// Reads have connections of their own. Times are kept as microseconds since 1970, UTC.
package sqlite

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net/url"
	"sync"
	"time"

	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the driver

	"amberseal/app/register"
)

//go:embed migrations/*.sql
var migrations embed.FS

// DB is the database. It is safe for many goroutines.
type DB struct {
	write *sql.DB
	read  *sql.DB
	jobs  chan job
	done  chan struct{}

	versions sync.Map // versionKey to intake.Design
}

type job struct {
	do    func(tx *sql.Tx) error
	reply chan error
}

// Open opens or makes the file and brings its tables up to date.
func Open(ctx context.Context, file string) (*DB, error) {
	pragmas := []string{"journal_mode(WAL)", "synchronous(FULL)", "foreign_keys(1)", "busy_timeout(10000)", "cache_size(-32000)"}
	write, err := sql.Open("sqlite", dsn(file, append(pragmas, "_txlock=immediate")))
	if err != nil {
		return nil, err
	}
	write.SetMaxOpenConns(1)
	if err := migrate(ctx, write); err != nil {
		write.Close()
		return nil, fmt.Errorf("the database %s could not be opened: %w", file, err)
	}
	read, err := sql.Open("sqlite", dsn(file, append(pragmas, "mode=ro")))
	if err != nil {
		write.Close()
		return nil, err
	}
	read.SetMaxOpenConns(4)
	d := &DB{write: write, read: read, jobs: make(chan job, 256), done: make(chan struct{})}
	go d.commitGroups()
	return d, nil
}

func dsn(file string, settings []string) string {
	q := url.Values{}
	for _, s := range settings {
		switch s {
		case "mode=ro":
			q.Set("mode", "ro")
		case "_txlock=immediate":
			q.Set("_txlock", "immediate")
		default:
			q.Add("_pragma", s)
		}
	}
	return (&url.URL{Scheme: "file", OmitHost: true, Path: file, RawQuery: q.Encode()}).String()
}

func migrate(ctx context.Context, db *sql.DB) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectSQLite3, db, files, goose.WithSlog(slog.New(slog.DiscardHandler)))
	if err != nil {
		return err
	}
	_, err = p.Up(ctx)
	return err
}

// Close ends the writer after what is under way and closes the file.
func (d *DB) Close() error {
	close(d.jobs)
	<-d.done
	return errors.Join(d.read.Close(), d.write.Close())
}

// do runs a function in the next group and returns after its COMMIT. An error undoes only
// what the function did.
func (d *DB) do(ctx context.Context, f func(tx *sql.Tx) error) error {
	j := job{f, make(chan error, 1)}
	select {
	case d.jobs <- j:
	case <-ctx.Done():
		return ctx.Err()
	}
	return <-j.reply // the group is under way: its outcome must be known
}

const mostInGroup = 128

func (d *DB) commitGroups() {
	defer close(d.done)
	for first := range d.jobs {
		group := []job{first}
	fill:
		for len(group) < mostInGroup {
			select {
			case j, ok := <-d.jobs:
				if !ok {
					break fill
				}
				group = append(group, j)
			default:
				break fill
			}
		}
		d.commit(group)
	}
}

func (d *DB) commit(group []job) {
	tx, err := d.write.Begin()
	if err != nil {
		for _, j := range group {
			j.reply <- err
		}
		return
	}
	results := make([]error, len(group))
	for i, j := range group {
		results[i] = inSavepoint(tx, j.do)
	}
	err = tx.Commit()
	if err != nil {
		tx.Rollback() // the commit's error is the one to report
	}
	for i, j := range group {
		if err != nil {
			results[i] = err
		}
		j.reply <- results[i]
	}
}

func inSavepoint(tx *sql.Tx, f func(*sql.Tx) error) error {
	if _, err := tx.Exec("SAVEPOINT one"); err != nil {
		return err
	}
	err := f(tx)
	if err != nil {
		if _, undo := tx.Exec("ROLLBACK TO one"); undo != nil {
			return errors.Join(err, undo)
		}
	}
	_, release := tx.Exec("RELEASE one")
	return errors.Join(err, release)
}

func micros(t time.Time) int64 { return t.UnixMicro() }

func moment(v int64) time.Time {
	if v == 0 {
		return time.Time{}
	}
	return time.UnixMicro(v).UTC()
}

// found turns the driver's “no rows” into the register's error.
func found(err error) error {
	if errors.Is(err, sql.ErrNoRows) {
		return register.NotFound
	}
	return err
}

// rows reads every row with a function.
func rows[T any](r *sql.Rows, err error, scan func(*sql.Rows) (T, error)) ([]T, error) {
	if err != nil {
		return nil, err
	}
	defer r.Close()
	var out []T
	for r.Next() {
		x, err := scan(r)
		if err != nil {
			return nil, err
		}
		out = append(out, x)
	}
	return out, r.Err()
}
