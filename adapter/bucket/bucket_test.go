package bucket_test

import (
	"errors"
	"path/filepath"
	"testing"

	"amberseal/adapter/bucket"
	"amberseal/app/file/filetest"
	"amberseal/core/destination"
	standin "amberseal/standin/bucket"
	"amberseal/standin/depot"
)

var errGone = errors.New("it is not there")

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
		return filetest.Place{
			Place: p,
			Read: func(path string) ([]byte, error) {
				data, ok := s.Stock.Read(path)
				if !ok {
					return nil, errGone
				}
				return data, nil
			},
			All: func() ([]string, error) { return depot.Paths(s.Stock) },
			Out: s.Ills(depot.Off)["off"],
			Ill: s.Ills(depot.Full, depot.Forbidden, depot.Closing, depot.Lying),
		}
	})
}
