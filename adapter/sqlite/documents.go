package sqlite

import (
	"context"
	"database/sql"

	"amberseal/app/register"
)

// Document gives a document of the submission's present revision with its bytes.
func (d *DB) Document(ctx context.Context, submission int64, key string) (register.Document, error) {
	return d.DocumentRevision(ctx, submission, key, 0)
}

// DocumentRevision gives a document of a revision; 0 is the present one.
func (d *DB) DocumentRevision(ctx context.Context, submission int64, key string, revision int) (register.Document, error) {
	r, err := d.prepared(
		ctx,
		"SELECT key, revision, name, file_name, pages, size, made, pdf.bytes, docx.bytes FROM document JOIN pdf ON pdf.document = id "+
			"LEFT JOIN docx ON docx.document = id WHERE submission = ?1 AND key = ?2 AND revision = CASE ?3 WHEN 0 THEN (SELECT "+
			"revision FROM submission WHERE id = ?1) ELSE ?3 END",
		submission, key, revision,
	)
	x, err := one(r, err, func(r *sql.Rows) (register.Document, error) {
		var x register.Document
		var made int64
		err := r.Scan(&x.Key, &x.Revision, &x.Name, &x.FileName, &x.Pages, &x.Size, &made, &x.PDF, &x.Word)
		x.Made = moment(made)
		return x, err
	})
	return x, found(err)
}

// Documents lists a submission's documents without their bytes.
func (d *DB) Documents(ctx context.Context, submission int64) ([]register.Document, error) {
	r, err := d.read.QueryContext(
		ctx,
		"SELECT key, revision, name, file_name, coalesce(code, ''), pages, size, made, EXISTS (SELECT 1 FROM docx WHERE document = "+
			"document.id) FROM document WHERE submission = ? ORDER BY revision DESC, made, key",
		submission,
	)
	return rows(r, err, func(r *sql.Rows) (register.Document, error) {
		var x register.Document
		var made int64
		err := r.Scan(&x.Key, &x.Revision, &x.Name, &x.FileName, &x.Code, &x.Pages, &x.Size, &made, &x.HasWord)
		x.Made = moment(made)
		return x, err
	})
}

// Genuine finds a document by its code, or by the SHA-256 of its bytes in hexadecimal where no code is given.
func (d *DB) Genuine(ctx context.Context, code, sum string) (register.Genuine, error) {
	by, of := "d.code = ?", code
	if code == "" {
		by, of = "d.sha256 = ?", sum
	}
	var g register.Genuine
	var made int64
	err := d.read.QueryRowContext(ctx, `SELECT d.key, d.revision, d.name, d.file_name, d.pages, d.size, d.made, coalesce(d.code, ''), `+
		`d.sha256, s.number, s.revision, i.name
	  FROM document d JOIN submission s ON s.id = d.submission JOIN intake i ON i.id = s.intake WHERE `+by, of).
		Scan(&g.Key, &g.Revision, &g.Name, &g.FileName, &g.Pages, &g.Size, &made, &g.Code, &g.SHA256, &g.Number, &g.Latest, &g.Intake)
	g.Made = moment(made)
	return g, found(err)
}
