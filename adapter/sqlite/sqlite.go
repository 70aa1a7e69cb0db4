// Package sqlite keeps everything in one SQLite file.
//
// All writes go through one connection and are committed in groups: many callers wait
// for the same COMMIT, each in a savepoint of its own, and none is answered before it.
// Reads have connections of their own. Times are kept as microseconds since 1970, UTC.
package sqlite

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"embed"
	"errors"
	"fmt"
	"net/url"
	"slices"
	"sync"
	"time"

	driversqlite "modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"

	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/core/words/house"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Statements may take the SHA-256 of bytes, in hexadecimal.
func init() {
	driversqlite.MustRegisterDeterministicScalarFunction(
		"sha256",
		1,
		func(_ *driversqlite.FunctionContext, args []driver.Value) (driver.Value, error) {
			data, ok := args[0].([]byte)
			if !ok {
				return nil, errors.New("sha256 is of bytes")
			}
			return register.Sum(data), nil
		},
	)
}

// DB is the database. It is safe for many goroutines. It is the only one that writes to its file, so that what it remembers
// is forgotten with each change.
type DB struct {
	write   *sql.DB
	read    *sql.DB
	jobs    chan job
	closing chan struct{}
	closed  sync.Once
	done    chan struct{}

	statements sync.Map // of reading, by their text
	turns      turns

	versions  remembered[versionKey, version]
	published remembered[string, receive.Published]
	house     remembered[struct{}, house.House]
}

type job struct {
	ctx   context.Context
	do    func(tx txn) error
	reply chan error
}

// errClosed is the error of writing after the end.
var errClosed = errors.New("the database is closed")

// Open opens or makes the file and brings its tables up to date.
func Open(ctx context.Context, file string) (*DB, error) {
	return OpenSaying(ctx, file, func(int64, int64) {})
}

// OpenSaying says before it brings tables of an earlier program up to date: that can take a while.
func OpenSaying(ctx context.Context, file string, upgrading func(from, to int64)) (*DB, error) {
	pragmas := []string{"journal_mode(WAL)", "synchronous(FULL)", "foreign_keys(1)", "busy_timeout(10000)"}
	// What is forgotten is written over: a draft or a file of somebody's would lie in the file for years.
	write, err := sql.Open("sqlite", dsn(file, append(slices.Clone(pragmas), "cache_size(-32000)", "wal_autocheckpoint(4000)",
		"secure_delete(1)")))
	if err != nil {
		return nil, err
	}
	write.SetMaxOpenConns(1)
	if err := migrate(ctx, write, file, upgrading); err != nil {
		write.Close()
		if errors.Is(err, ErrNewer) {
			return nil, err
		}
		return nil, fmt.Errorf("the database %s could not be opened: %w", file, err)
	}
	read, err := sql.Open("sqlite", dsn(file, append(pragmas, "cache_size(-8000)", "mode=ro")))
	if err != nil {
		write.Close()
		return nil, err
	}
	read.SetMaxOpenConns(4)
	conn, err := write.Conn(ctx)
	if err != nil {
		return nil, errors.Join(err, read.Close(), write.Close())
	}
	last, err := lastFact(read)
	if err != nil {
		return nil, errors.Join(err, conn.Close(), read.Close(), write.Close())
	}
	d := &DB{write: write, read: read, jobs: make(chan job, 256), closing: make(chan struct{}), done: make(chan struct{})}
	go d.commitGroups(txn{conn: conn, statements: map[string]*sql.Stmt{}, end: &groupEnd{last: last}})
	return d, nil
}

func dsn(file string, settings []string) string {
	q := url.Values{}
	for _, s := range settings {
		if s == "mode=ro" {
			q.Set("mode", "ro")
		} else {
			q.Add("_pragma", s)
		}
	}
	return (&url.URL{Scheme: "file", OmitHost: true, Path: file, RawQuery: q.Encode()}).String()
}

// Close ends the writer after what is under way and closes the file, which is whole by itself then: nothing stays in the log
// beside it. To close it once more does nothing.
func (d *DB) Close() (err error) {
	d.closed.Do(func() {
		close(d.closing)
		<-d.done
		err = d.read.Close()
		_, checkpoint := d.write.Exec("PRAGMA wal_checkpoint(TRUNCATE)")
		err = errors.Join(err, checkpoint, d.write.Close())
	})
	return err
}

// do runs a function in the next group and returns after its COMMIT. An error undoes only
// what the function did. Nothing is begun for somebody who has gone.
func (d *DB) do(ctx context.Context, f func(tx txn) error) error {
	j := job{ctx, f, make(chan error, 1)}
	select {
	case d.jobs <- j:
	case <-d.closing:
		return errClosed
	case <-ctx.Done():
		return ctx.Err()
	}
	select {
	case err := <-j.reply: // the group is under way: its outcome must be known
		return err
	case <-d.done:
		select {
		case err := <-j.reply:
			return err
		default:
			return errClosed
		}
	}
}

const mostInGroup = 128

func (d *DB) commitGroups(t txn) {
	defer close(d.done)
	defer t.conn.Close() // the file is closed next
	for {
		var group []job
		select {
		case first := <-d.jobs:
			group = append(group, first)
		case <-d.closing:
		}
	fill:
		for len(group) < mostInGroup {
			select {
			case j := <-d.jobs:
				group = append(group, j)
			default:
				break fill
			}
		}
		if len(group) == 0 {
			return
		}
		t.commit(group)
	}
}

// txn is the connection that writes, inside a transaction. Each statement is parsed once and
// kept; only the goroutine that commits groups uses it. What is under way is finished, so
// that nothing here can be cancelled.
type txn struct {
	conn       *sql.Conn
	statements map[string]*sql.Stmt
	end        *groupEnd
}

// groupEnd is what a group writes once, at its end: the words that submissions are found by, since their index writes itself out
// at each savepoint; what happened, in one chain; and how many submissions there are.
type groupEnd struct {
	words      []foundBy
	facts      []register.Fact
	counted    []int64 // the intake of each new submission
	last, next chain
}

// foundBy is what a submission is found by.
type foundBy struct {
	submission, intake int64
	words              string
}

// mark is how much a group has to write at its end.
type mark struct{ words, facts, counted int }

func (e *groupEnd) mark() mark { return mark{len(e.words), len(e.facts), len(e.counted)} }

// cut takes back what came after a mark.
func (e *groupEnd) cut(m mark) {
	e.words, e.facts, e.counted = e.words[:m.words], e.facts[:m.facts], e.counted[:m.counted]
}

// find adds what a submission is found by.
func (t txn) find(submission, intake int64, words string) {
	t.end.words = append(t.end.words, foundBy{submission, intake, words})
}

// writeEnd writes what the group has gathered.
func (t txn) writeEnd() error {
	for _, w := range t.end.words {
		_, err := t.Exec("INSERT INTO submission_words (rowid, words, intake) VALUES (?, ?, ?)", w.submission, w.words, w.intake)
		if err != nil {
			return err
		}
	}
	slices.Sort(t.end.counted)
	for n := 0; n < len(t.end.counted); {
		same := n
		for same < len(t.end.counted) && t.end.counted[same] == t.end.counted[n] {
			same++
		}
		if _, err := t.Exec("INSERT INTO tally (intake, submissions) VALUES (?1, ?2) ON CONFLICT (intake) DO UPDATE SET submissions = "+
			"submissions + ?2", t.end.counted[n], same-n); err != nil {
			return err
		}
		n = same
	}
	return t.writeFacts()
}

func (t txn) statement(query string) (*sql.Stmt, error) {
	if s, ok := t.statements[query]; ok {
		return s, nil
	}
	s, err := t.conn.PrepareContext(context.Background(), query)
	if err == nil {
		t.statements[query] = s
	}
	return s, err
}

// Exec runs a statement.
func (t txn) Exec(query string, args ...any) (sql.Result, error) {
	s, err := t.statement(query)
	if err != nil {
		return nil, err
	}
	return s.Exec(args...)
}

// Query runs a statement that gives rows.
func (t txn) Query(query string, args ...any) (*sql.Rows, error) {
	s, err := t.statement(query)
	if err != nil {
		return nil, err
	}
	return s.Query(args...)
}

// QueryRow runs a statement that gives one row.
func (t txn) QueryRow(query string, args ...any) scanner {
	s, err := t.statement(query)
	if err != nil {
		return failed{err}
	}
	return s.QueryRow(args...)
}

// failed is the row of a statement that could not be run.
type failed struct{ err error }

func (f failed) Scan(...any) error { return f.err }

func (t txn) commit(group []job) {
	results := make([]error, len(group))
	err := t.all(group, results)
	for i, j := range group {
		if err != nil {
			results[i] = err
		}
		j.reply <- unwritable(results[i])
	}
}

// unwritable marks an error of the file itself as what it is (SQLite, “Result and Error Codes”; an extended code ends with its own).
func unwritable(err error) error {
	var e *driversqlite.Error
	if !errors.As(err, &e) {
		return err
	}
	switch e.Code() & 0xff {
	case sqlite3.SQLITE_FULL, sqlite3.SQLITE_IOERR, sqlite3.SQLITE_READONLY, sqlite3.SQLITE_CANTOPEN, sqlite3.SQLITE_NOMEM:
		return fmt.Errorf("%w: %w", register.ErrUnwritable, err)
	}
	return err
}

// all does a group in one transaction. Its error is everybody's.
func (t txn) all(group []job, results []error) error {
	t.end.cut(mark{})
	if _, err := t.Exec("BEGIN IMMEDIATE"); err != nil {
		return err
	}
	for i, j := range group {
		if results[i] = j.ctx.Err(); results[i] != nil {
			continue
		}
		before := t.end.mark()
		var gone error
		if results[i], gone = t.inSavepoint(j.do); gone != nil {
			t.Exec("ROLLBACK") // SQLite has rolled back by itself, as on a full disk; what is left is nothing
			return gone
		}
		if results[i] != nil {
			t.end.cut(before)
		}
	}
	if err := t.writeEnd(); err != nil {
		t.Exec("ROLLBACK") // the insert's error is the one to report
		return err
	}
	if _, err := t.Exec("COMMIT"); err != nil {
		t.Exec("ROLLBACK") // the commit's error is the one to report
		return err
	}
	t.end.last = t.end.next
	return nil
}

// inSavepoint gives the function's error, and one that says that the whole transaction is gone.
func (t txn) inSavepoint(f func(txn) error) (err, gone error) {
	if _, err := t.Exec("SAVEPOINT one"); err != nil {
		return err, err
	}
	if err = f(t); err != nil {
		if _, undo := t.Exec("ROLLBACK TO one"); undo != nil {
			return err, errors.Join(err, undo)
		}
	}
	if _, release := t.Exec("RELEASE one"); release != nil {
		return err, errors.Join(err, release)
	}
	return err, nil
}

// Alive reports whether the database takes what is written.
func (d *DB) Alive(ctx context.Context) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("INSERT INTO pulse (id, at) VALUES (1, ?) ON CONFLICT (id) DO UPDATE SET at = excluded.at", micros(time.Now()))
		return err
	})
}

// micros are 0 for no time.
func micros(t time.Time) int64 {
	if t.IsZero() {
		return 0
	}
	return t.UnixMicro()
}

func moment(v int64) time.Time {
	if v == 0 {
		return time.Time{}
	}
	return time.UnixMicro(v).UTC()
}

// prepared reads with a statement that is parsed once and kept.
func (d *DB) prepared(ctx context.Context, query string, args ...any) (*sql.Rows, error) {
	if s, ok := d.statements.Load(query); ok {
		return s.(*sql.Stmt).QueryContext(ctx, args...)
	}
	s, err := d.read.PrepareContext(ctx, query)
	if err != nil {
		return nil, err
	}
	if before, had := d.statements.LoadOrStore(query, s); had {
		s.Close() // somebody else was faster
		s = before.(*sql.Stmt)
	}
	return s.QueryContext(ctx, args...)
}

// found turns the driver's “no rows” into the register's error.
func found(err error) error {
	if errors.Is(err, sql.ErrNoRows) {
		return register.NotFound
	}
	return err
}

// one reads the only row; where there is none the error is the driver's “no rows”.
func one[T any](r *sql.Rows, err error, scan func(*sql.Rows) (T, error)) (x T, _ error) {
	all, err := rows(r, err, scan)
	if err == nil && len(all) == 0 {
		err = sql.ErrNoRows
	}
	if err != nil {
		return x, err
	}
	return all[0], nil
}

// ignoreNone leaves out the driver's “no rows”.
func ignoreNone(err error) error {
	if errors.Is(err, sql.ErrNoRows) {
		return nil
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
