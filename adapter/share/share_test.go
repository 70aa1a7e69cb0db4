package share_test

import (
	"path/filepath"
	"testing"

	"amberseal/adapter/share"
	"amberseal/app/file/filetest"
	"amberseal/core/destination"
	"amberseal/standin/depot/depottest"
	standin "amberseal/standin/share"
)

// opened is a place on a stand-in that stands on a folder.
func opened(t *testing.T, dir string) (*share.Share, *standin.Share) {
	t.Helper()
	s, err := standin.Open("127.0.0.1:0", dir)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	p, err := share.Open(destination.Destination{Kind: destination.Share, Address: "http://" + s.Address(), User: standin.User},
		standin.Password)
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
