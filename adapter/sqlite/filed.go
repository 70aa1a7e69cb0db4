package sqlite

import (
	"context"
	"database/sql"
	"encoding/json"
	"math"
	"strings"
	"time"

	"amberseal/app/access"
	"amberseal/app/register"
	"amberseal/core/plan"
)

const filedColumns = "SELECT f.id, f.submission, s.number, i.name, f.destination, f.title, f.path, f.link, f.sha256, f.size, f.at, " +
	"f.standing " +
	"FROM filed f JOIN submission s ON s.id = f.submission JOIN intake i ON i.id = s.intake WHERE "

func scanFiled(r *sql.Rows) (x register.Filed, err error) {
	var at int64
	err = r.Scan(&x.ID, &x.SubmissionID, &x.Number, &x.Intake, &x.Destination, &x.Title, &x.Path, &x.Link, &x.SHA256, &x.Size, &at,
		&x.Standing)
	x.At = moment(at)
	return x, err
}

// Filed gives a page of what was filed in a scope, the newest first: at one destination where one is named, and with some words in its path
// or the submission's number where some are given.
func (d *DB) Filed(ctx context.Context, scope access.Scope, q register.FiledQuery) ([]register.Filed, error) {
	where, args := among([]string{"f.id < ?"}, []any{fromTop(q.Before)}, "s.intake", scope)
	if q.Destination != "" {
		where, args = append(where, "f.destination = ?"), append(args, q.Destination)
	}
	if q.Amiss {
		where = append(where, "f.standing <> ''")
	}
	if q.Submission != 0 {
		where, args = append(where, "f.submission = ?"), append(args, q.Submission)
	}
	for _, word := range strings.Fields(q.Words) {
		where = append(where, "(f.path LIKE ? ESCAPE '\\' OR s.number LIKE ? ESCAPE '\\')")
		args = append(args, like(word), like(word))
	}
	r, err := d.read.QueryContext(ctx, filedColumns+strings.Join(where, " AND ")+" ORDER BY f.id DESC LIMIT ?", append(args, q.Limit)...)
	return rows(r, err, scanFiled)
}

// Uncompared gives files that were not compared since a time and lie not at some destinations, the longest uncompared first. A file
// whose name was given to another since is none of them.
func (d *DB) Uncompared(ctx context.Context, since time.Time, but []string, limit int) ([]register.Filed, error) {
	left, err := json.Marshal(append([]string{}, but...))
	if err != nil {
		return nil, err
	}
	r, err := d.read.QueryContext(ctx, filedColumns+"f.checked < ? AND f.sha256 <> '' AND "+
		"f.destination NOT IN (SELECT value FROM json_each(?)) AND NOT EXISTS (SELECT 1 FROM filed g WHERE "+
		"g.destination = f.destination AND g.path = f.path AND g.id <> f.id AND g.at > f.at) ORDER BY f.checked LIMIT ?", micros(since),
		left, limit)
	return rows(r, err, scanFiled)
}

// KeepStanding keeps how a file lay there. The history tells it where it is another than before and not as it should be.
func (d *DB) KeepStanding(ctx context.Context, x register.Filed, standing, words string, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		if _, err := tx.Exec("UPDATE filed SET standing = ?, checked = ? WHERE id = ?", standing, micros(now), x.ID); err != nil {
			return err
		}
		if standing == "" || standing == x.Standing {
			return nil
		}
		s := plan.Subject{About: plan.Submission, ID: x.SubmissionID}
		if err := tx.QueryRow("SELECT revision FROM submission WHERE id = ?", x.SubmissionID).Scan(&s.Run); err != nil {
			return err
		}
		return tx.tell(s, register.Fact{Kind: register.Amiss, Body: register.FactBody{Record: x.ID}, Words: words}, now)
	})
}

// AmissIn counts the files of a scope that are not as they were filed.
func (d *DB) AmissIn(ctx context.Context, scope access.Scope) (n int, err error) {
	where, args := among([]string{"f.standing <> ''"}, []any{}, "s.intake", scope)
	err = d.read.QueryRowContext(ctx, "SELECT count(*) FROM filed f JOIN submission s ON s.id = f.submission WHERE "+
		strings.Join(where, " AND "), args...).Scan(&n)
	return n, err
}

// Original gives the bytes that a file of a submission had when it was filed, by their sum: those of a document, of a file that was
// sent, or of a fixed file of the house.
func (d *DB) Original(ctx context.Context, submission int64, sum string) ([]byte, error) {
	r, err := d.read.QueryContext(ctx,
		"SELECT p.bytes FROM document d JOIN pdf p ON p.document = d.id WHERE d.submission = ?1 AND d.sha256 = ?2 "+
			"UNION ALL SELECT w.bytes FROM document d JOIN docx w ON w.document = d.id WHERE d.submission = ?1 AND sha256(w.bytes) = ?2 "+
			"UNION ALL SELECT u.data FROM upload u WHERE u.submission = ?1 AND sha256(u.data) = ?2 "+
			"UNION ALL SELECT x.data FROM fixed x WHERE sha256(x.data) = ?2 LIMIT 1", submission, sum)
	data, err := one(r, err, func(r *sql.Rows) (data []byte, err error) { return data, r.Scan(&data) })
	return data, found(err)
}

// FiledFile gives one file of a submission that was filed.
func (d *DB) FiledFile(ctx context.Context, submission, id int64) (register.Filed, error) {
	r, err := d.read.QueryContext(ctx, filedColumns+"f.id = ? AND f.submission = ?", id, submission)
	x, err := one(r, err, scanFiled)
	return x, found(err)
}

// FiledLink is where the first file of a submission at a destination is opened, or empty.
func (d *DB) FiledLink(ctx context.Context, submission int64, destination string) (string, error) {
	r, err := d.prepared(ctx, "SELECT link FROM filed WHERE submission = ? AND destination = ? ORDER BY id LIMIT 1", submission,
		destination)
	link, err := one(r, err, func(r *sql.Rows) (link string, err error) { return link, r.Scan(&link) })
	return link, ignoreNone(err)
}

// like is a word as LIKE finds it anywhere, whatever signs it has.
func like(word string) string {
	return "%" + strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(word) + "%"
}

// fromTop is the ID before which a page begins: 0 asks for the first page.
func fromTop(before int64) int64 {
	if before == 0 {
		return math.MaxInt64
	}
	return before
}
