package vault_test

import (
	"path/filepath"
	"testing"

	"amberseal/adapter/vault"
	"amberseal/app/file/filetest"
	"amberseal/core/destination"
	"amberseal/standin/depot/depottest"
	standin "amberseal/standin/vault"
)

// opened is a place on a stand-in that stands on a folder.
func opened(t *testing.T, dir string) (*vault.Vault, *standin.Vault) {
	t.Helper()
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
	return p, s
}

func TestPlace(t *testing.T) {
	filetest.TestPlace(t, func(t *testing.T) filetest.Place {
		p, s := opened(t, filepath.Join(t.TempDir(), "stock"))
		return depottest.Place(p, s.Depot)
	})
}

// What a killed run left while it was written is taken away once it is a day old, and nothing else.
func TestWhatWasNeverFinished(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "stock")
	p, _ := opened(t, dir)
	filetest.TestTidied(t, dir, p)
}
