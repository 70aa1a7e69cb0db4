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

func TestPlace(t *testing.T) {
	filetest.TestPlace(t, func(t *testing.T) filetest.Place {
		s, err := standin.Open("127.0.0.1:0", filepath.Join(t.TempDir(), "stock"))
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(s.Close)
		p, err := share.Open(destination.Destination{Kind: destination.Share, Address: "http://" + s.Address(), User: standin.User},
			standin.Password)
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
	p, err := share.Open(destination.Destination{Kind: destination.Share, Address: "http://" + s.Address(), User: standin.User},
		standin.Password)
	if err != nil {
		t.Fatal(err)
	}
	filetest.TestTidied(t, dir, p)
}
