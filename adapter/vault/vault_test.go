package vault_test

import (
	"os"
	"path/filepath"
	"testing"
	"time"

	"amberseal/adapter/vault"
	"amberseal/app/file/filetest"
	"amberseal/core/destination"
	"amberseal/standin/depot/depottest"
	standin "amberseal/standin/vault"
)

func TestPlace(t *testing.T) {
	filetest.TestPlace(t, func(t *testing.T) filetest.Place {
		s, err := standin.Open("127.0.0.1:0", filepath.Join(t.TempDir(), "stock"))
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(s.Close)
		p, err := vault.Open(destination.Destination{Kind: destination.Vault, Address: s.Address(), User: standin.User},
			standin.Password, func(string) error { return nil })
		if err != nil {
			t.Fatal(err)
		}
		return depottest.Place(p, s.Depot)
	})
}

// What a killed run left while it was written is taken away once it is a day old, and nothing else.
func TestWhatWasNeverFinished(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "stock")
	s, err := standin.Open("127.0.0.1:0", dir)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	p, err := vault.Open(destination.Destination{Kind: destination.Vault, Address: s.Address(), User: standin.User},
		standin.Password, func(string) error { return nil })
	if err != nil {
		t.Fatal(err)
	}
	if err := p.Tidy(t.Context(), time.Now()); err != nil { // there is no folder of ours yet
		t.Error(err)
	}
	for name, age := range map[string]time.Duration{".amberseal/part-old": 48 * time.Hour, ".amberseal/part-new": time.Minute,
		".amberseal/mark": 48 * time.Hour, "part-of-the-house.pdf": 48 * time.Hour} {
		at := filepath.Join(dir, name)
		err := os.MkdirAll(filepath.Dir(at), 0o700)
		if err == nil {
			err = os.WriteFile(at, []byte("x"), 0o600)
		}
		if err == nil {
			err = os.Chtimes(at, time.Now().Add(-age), time.Now().Add(-age))
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	if err := p.Tidy(t.Context(), time.Now().Add(-24*time.Hour)); err != nil {
		t.Fatal(err)
	}
	for name, stays := range map[string]bool{".amberseal/part-old": false, ".amberseal/part-new": true, ".amberseal/mark": true,
		"part-of-the-house.pdf": true} {
		if _, err := os.Stat(filepath.Join(dir, name)); (err == nil) != stays {
			t.Errorf("%s: %v", name, err)
		}
	}
}
