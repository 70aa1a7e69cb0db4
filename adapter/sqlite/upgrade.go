package sqlite

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"os"
	"path/filepath"

	"github.com/pressly/goose/v3"
)

// ErrNewer is the error of a file that a newer program has brought up to date.
var ErrNewer = errors.New("this house was last used by a newer program; start that one, or restore the backup from before it")

func migrate(ctx context.Context, db *sql.DB, file string, upgrading func(from, to int64)) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectSQLite3, db, files, goose.WithSlog(slog.New(slog.DiscardHandler)))
	if err != nil {
		return err
	}
	from, to, err := p.GetVersions(ctx)
	if err != nil {
		return err
	}
	if from > to {
		return fmt.Errorf("%w (its tables are of version %d, this program knows %d)", ErrNewer, from, to)
	}
	if from > 0 && from < to {
		upgrading(from, to)
		if err := copyBefore(ctx, db, file, to); err != nil {
			return fmt.Errorf("no copy of the database could be made before it is brought up to date; make room for one: %w", err)
		}
	}
	_, err = p.Up(ctx)
	return err
}

// copyBefore keeps the database as it was before its tables were changed: there is no other way back to the program before. One copy is
// kept, that of the last change; it is whole, or is not there.
func copyBefore(ctx context.Context, db *sql.DB, file string, to int64) error {
	name := fmt.Sprintf("%s.before-%d", file, to)
	if _, err := os.Stat(name); err == nil {
		return nil // the change began before, and did not end
	}
	part := name + ".part"
	if err := os.Remove(part); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	if _, err := db.ExecContext(ctx, "VACUUM INTO ?", part); err != nil {
		return err
	}
	if err := errors.Join(os.Chmod(part, 0o600), os.Rename(part, name)); err != nil {
		return err
	}
	older, err := filepath.Glob(file + ".before-*")
	for _, x := range older {
		if x != name {
			err = errors.Join(err, os.Remove(x))
		}
	}
	return err
}
