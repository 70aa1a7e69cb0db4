package bucket_test

import (
	"path/filepath"
	"testing"

	"amberseal/adapter/bucket"
	"amberseal/app/file/filetest"
	"amberseal/core/destination"
	standin "amberseal/standin/bucket"
	"amberseal/standin/depot/depottest"
)

func TestPlace(t *testing.T) {
	filetest.TestPlace(t, func(t *testing.T) filetest.Place {
		s, err := standin.Open("127.0.0.1:0", filepath.Join(t.TempDir(), "stock"))
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(s.Close)
		p, err := bucket.Open(destination.Destination{Kind: destination.Bucket, Address: "http://" + s.Address(), Bucket: standin.Name,
			Region: "eu-central-1", User: standin.User}, standin.Secret)
		if err != nil {
			t.Fatal(err)
		}
		return depottest.Place(p, s.Depot)
	})
}
