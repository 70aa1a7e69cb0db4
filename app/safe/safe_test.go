package safe_test

import (
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"amberseal/adapter/sqlite"
	"amberseal/app/register"
	"amberseal/app/safe"
)

// A secret is opened with its key under its name alone, and stands nowhere in the data folder.
func TestSecretsAreSealed(t *testing.T) {
	dir, ctx := t.TempDir(), t.Context()
	db, err := sqlite.Open(ctx, filepath.Join(dir, "amberseal.db"))
	if err != nil {
		t.Fatal(err)
	}
	key, other := safe.NewKey(), safe.NewKey()
	read, err := safe.ReadKey(key.Text())
	if err != nil || read != key {
		t.Fatalf("a key is not read back: %v", err)
	}
	with := func(k *safe.Key) *safe.Safe {
		return &safe.Safe{Store: db, Key: k, Now: func() time.Time { return time.Unix(1e9, 0) }}
	}
	const words, door = "hunter2-zażółć-a-password-nobody-else-has", "smtp mail.example:25"
	if err := with(&key).Put(ctx, "mail/house", door, words); err != nil {
		t.Fatal(err)
	}
	if got, err := with(&key).Get(ctx, "mail/house", door); err != nil || got != words {
		t.Errorf("%q %v", got, err)
	}
	if _, err := with(&key).Get(ctx, "mail/other", door); !errors.Is(err, register.NotFound) {
		t.Errorf("a secret that is not there: %v", err)
	}
	if _, err := with(nil).Get(ctx, "mail/house", door); !errors.Is(err, safe.ErrNoKey) {
		t.Errorf("without a key: %v", err)
	}
	if _, err := with(&other).Get(ctx, "mail/house", door); !errors.As(err, new(safe.Lost)) {
		t.Errorf("with another key: %v", err)
	}
	if lost, err := with(&other).Lost(ctx); err != nil || len(lost) != 1 || lost[0] != "mail/house" {
		t.Errorf("lost are %v %v", lost, err)
	}
	if lost, err := with(&key).Lost(ctx); err != nil || len(lost) != 0 {
		t.Errorf("with the key lost are %v %v", lost, err)
	}
	for asked, opens := range map[string]bool{"": false, "smtp other.example:25": false, "imap mail.example:25": false,
		door + safe.InTheClear: false, door: true} {
		if _, err := with(&key).Get(ctx, "mail/house", asked); (err == nil) != opens || err != nil && !errors.As(err, new(safe.Elsewhere)) {
			t.Errorf("for %q: %v", asked, err)
		}
	}
	if err := with(&key).Put(ctx, "clear", door+safe.InTheClear, words); err != nil {
		t.Fatal(err)
	}
	if _, err := with(&key).Get(ctx, "clear", door); err != nil {
		t.Errorf("the same server, protected by now: %v", err)
	}
	if err := errors.Join(with(&key).Put(ctx, "old", "", words), with(&key).Bind(ctx, "old", door)); err != nil {
		t.Fatal(err)
	}
	if _, err := with(&key).Get(ctx, "old", ""); !errors.As(err, new(safe.Elsewhere)) {
		t.Errorf("bound to a server, it opens for none: %v", err)
	}
	// One put in the place of another does not open, nor does a changed one.
	kept, err := db.Secret(ctx, "mail/house")
	if err != nil {
		t.Fatal(err)
	}
	moved := kept
	moved.Name = "sign/house"
	changed := kept
	changed.Name, changed.Bytes = "mail/changed", append([]byte{}, kept.Bytes...)
	changed.Bytes[len(changed.Bytes)-1] ^= 1
	elsewhere := kept
	elsewhere.Door = "smtp other.example:25"
	for _, s := range []safe.Sealed{moved, changed, elsewhere} {
		if err := db.SetSecret(ctx, s); err != nil {
			t.Fatal(err)
		}
		if _, err := with(&key).Get(ctx, s.Name, s.Door); !errors.As(err, new(safe.Lost)) {
			t.Errorf("%s opens: %v", s.Name, err)
		}
	}
	if err := with(&key).Put(ctx, "Not A Name", door, words); err == nil {
		t.Error("a name with spaces is taken")
	}
	if err := db.Close(); err != nil {
		t.Fatal(err)
	}
	files, err := filepath.Glob(filepath.Join(dir, "*"))
	if err != nil || len(files) == 0 {
		t.Fatal(files, err)
	}
	for _, f := range files {
		data, err := os.ReadFile(f)
		if err != nil {
			t.Fatal(err)
		}
		if strings.Contains(string(data), words) || strings.Contains(string(data), strings.TrimSpace(key.Text())) ||
			strings.Contains(string(data), string(key[:])) {
			t.Errorf("%s tells the secret or its key", f)
		}
	}
}
