package sqlite_test

import (
	"path/filepath"
	"testing"

	"amberseal/adapter/sqlite"
	"amberseal/app/work"
	"amberseal/app/work/worktest"
)

func TestJobs(t *testing.T) {
	worktest.TestStore(t, func(t *testing.T) (work.Store, func() work.Store) {
		file := filepath.Join(t.TempDir(), "amberseal.db")
		db, err := sqlite.Open(t.Context(), file)
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(func() { db.Close() })
		return db, func() work.Store {
			if err = db.Close(); err == nil {
				db, err = sqlite.Open(t.Context(), file)
			}
			if err != nil {
				t.Fatal(err)
			}
			return db
		}
	})
}
