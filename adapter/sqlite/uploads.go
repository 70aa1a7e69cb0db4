package sqlite

import (
	"context"
	"time"

	"amberseal/core/ask/form"
)

// AddUpload keeps a file that waits for its submission.
func (d *DB) AddUpload(ctx context.Context, intake int64, f form.File, data []byte, now time.Time) error {
	return d.do(ctx, func(tx txn) error {
		_, err := tx.Exec(
			"INSERT INTO upload (id, intake, name, type, size, data, created) VALUES (?, ?, ?, ?, ?, ?, ?)", f.ID, intake, f.Name, f.Type,
			f.Size,
			data, micros(now),
		)
		return err
	})
}

// Unclaimed is how many bytes of files wait for their submission.
func (d *DB) Unclaimed(ctx context.Context) (int64, error) {
	var n int64
	err := d.read.QueryRowContext(ctx, "SELECT coalesce(sum(size), 0) FROM upload WHERE submission IS NULL").Scan(&n)
	return n, err
}

// Upload gives a file with its bytes.
func (d *DB) Upload(ctx context.Context, id string) (form.File, []byte, error) {
	f := form.File{ID: id}
	var data []byte
	err := d.read.QueryRowContext(ctx, "SELECT name, type, size, data FROM upload WHERE id = ?", id).Scan(&f.Name, &f.Type, &f.Size, &data)
	return f, data, found(err)
}

// WaitingUpload describes a file of the intake that no submission has taken yet, but the one that is corrected (0 for none) or was sent
// with the same key.
func (d *DB) WaitingUpload(ctx context.Context, intake int64, id, once string, corrected int64) (form.File, error) {
	f := form.File{ID: id}
	err := d.read.QueryRowContext(ctx, "SELECT name, type, size FROM upload WHERE id = ?1 AND intake = ?2 AND (submission IS NULL OR "+
		"submission = ?4 OR submission IN (SELECT id FROM submission WHERE intake = ?2 AND once = ?3))", id, intake, once, corrected).
		Scan(&f.Name, &f.Type, &f.Size)
	return f, found(err)
}

// takeUploads gives files to their submission; each can be taken once.
func takeUploads(tx txn, submission int64, files []form.File) error {
	for _, f := range files {
		if _, err := tx.Exec("UPDATE upload SET submission = ? WHERE id = ? AND submission IS NULL", submission, f.ID); err != nil {
			return err
		}
	}
	return nil
}

// IntakeOfUpload tells for which intake a file was sent.
func (d *DB) IntakeOfUpload(ctx context.Context, id string) (intake int64, err error) {
	return intake, found(d.read.QueryRowContext(ctx, "SELECT intake FROM upload WHERE id = ?", id).Scan(&intake))
}
