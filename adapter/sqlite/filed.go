package sqlite

import (
	"context"
	"database/sql"
	"math"
	"strings"

	"amberseal/app/access"
	"amberseal/app/register"
)

const filedColumns = "SELECT f.id, f.submission, s.number, i.name, f.destination, f.title, f.path, f.link, f.sha256, f.size, f.at " +
	"FROM filed f JOIN submission s ON s.id = f.submission JOIN intake i ON i.id = s.intake WHERE "

func scanFiled(r *sql.Rows) (x register.Filed, err error) {
	var at int64
	err = r.Scan(&x.ID, &x.SubmissionID, &x.Number, &x.Intake, &x.Destination, &x.Title, &x.Path, &x.Link, &x.SHA256, &x.Size, &at)
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
