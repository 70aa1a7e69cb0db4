package sqlite

import (
	"context"
	"database/sql"

	"amberseal/app/sheets"
)

const sheetColumns = "intake, register, n, destination, begun, path, link, sha256, pending, first, last, lines, filled, upto, at, put_aside"

// SheetFiles gives the files of a running register in their order; of all registers of the intake where none is named.
func (d *DB) SheetFiles(ctx context.Context, intake int64, register string) ([]sheets.File, error) {
	r, err := d.prepared(ctx, "SELECT "+sheetColumns+" FROM sheet WHERE intake = ?1 AND (?2 = '' OR register = ?2) ORDER BY register, n",
		intake, register)
	return rows(r, err, func(r *sql.Rows) (f sheets.File, err error) {
		var at int64
		err = r.Scan(&f.Intake, &f.Register, &f.N, &f.Destination, &f.Begun, &f.Path, &f.Link, &f.SHA256, &f.Pending, &f.First, &f.Last,
			&f.Lines, &f.Full, &f.UpTo, &at, &f.Left)
		f.At = moment(at)
		return f, err
	})
}

// KeepSheetFile keeps how a file was written.
func (d *DB) KeepSheetFile(ctx context.Context, f sheets.File) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("INSERT OR REPLACE INTO sheet ("+sheetColumns+") VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
			f.Intake, f.Register, f.N, f.Destination, f.Begun, f.Path, f.Link, f.SHA256, f.Pending, f.First, f.Last, f.Lines, f.Full,
			f.UpTo, micros(f.At), f.Left)
		return err
	})
}

// PendSheetFile keeps which bytes are to be written, in a file that is known or a new one that holds nothing yet.
func (d *DB) PendSheetFile(ctx context.Context, f sheets.File) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("INSERT INTO sheet ("+sheetColumns+") VALUES (?1, ?2, ?3, ?4, ?5, ?6, '', ?9, ?7, ?8, ?8 - 1, 0, 0, 0, 0, '') "+
			"ON CONFLICT (intake, register, n) DO UPDATE SET pending = ?7, sha256 = ?9", f.Intake, f.Register, f.N, f.Destination, f.Begun,
			f.Path, f.Pending, f.First, f.SHA256)
		return err
	})
}

// DropSheetFiles forgets the files of a register, which lie where they are.
func (d *DB) DropSheetFiles(ctx context.Context, intake int64, register string) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec("DELETE FROM sheet WHERE intake = ? AND register = ?", intake, register)
		return err
	})
}

// LastFact is the last thing that happened to a submission and changes its line in a register; 0 asks for the last of all.
func (d *DB) LastFact(ctx context.Context, submission int64) (int64, error) {
	q, args := "SELECT coalesce(max(id), 0) FROM fact", []any{}
	if submission != 0 {
		q, args = q+" WHERE subject = ? AND about = 'submission' AND kind IN ("+changesLine+")", append(args, submission)
	}
	r, err := d.prepared(ctx, q, args...)
	return one(r, err, func(r *sql.Rows) (id int64, err error) { return id, r.Scan(&id) })
}

const changesLine = "'received', 'corrected', 'filed'"

// Touched reports whether such a thing happened, after a fact, to one of some submissions of an intake.
func (d *DB) Touched(ctx context.Context, intake, first, last, after int64) (bool, error) {
	r, err := d.prepared(ctx, "SELECT EXISTS (SELECT 1 FROM fact f JOIN submission s ON s.id = f.subject WHERE f.id > ? AND "+
		"f.about = 'submission' AND f.kind IN ("+changesLine+") AND f.subject BETWEEN ? AND ? AND s.intake = ?)",
		after, first, last, intake)
	return one(r, err, func(r *sql.Rows) (yes bool, err error) { return yes, r.Scan(&yes) })
}

// FiledLinks gives where the first file of the present revision of each submission of an intake is opened, of those with an ID above one
// and up to another.
func (d *DB) FiledLinks(ctx context.Context, intake, after, last int64) (map[int64]string, error) {
	r, err := d.prepared(ctx, "SELECT f.submission, f.link, min(f.id) FROM submission s JOIN fact x ON x.subject = s.id AND "+
		"x.about = 'submission' AND x.kind = 'filed' AND x.run = s.revision JOIN filed f ON f.id = x.body ->> 'record' WHERE "+
		"s.id > ? AND s.id <= ? AND s.intake = ? AND f.link <> '' GROUP BY f.submission", after, last, intake)
	links := map[int64]string{}
	_, err = rows(r, err, func(r *sql.Rows) (id int64, err error) {
		var link string
		var first int64
		err = r.Scan(&id, &link, &first)
		links[id] = link
		return id, err
	})
	return links, err
}
