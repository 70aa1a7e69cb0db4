// Package depottest holds a place against its suite before the stand-in that it files to.
package depottest

import (
	"errors"

	"amberseal/app/file"
	"amberseal/app/file/filetest"
	"amberseal/standin/depot"
)

var errGone = errors.New("it is not there")

// Place is a place with what its stand-in holds, and all ways in which that can fail.
func Place(p file.Place, d *depot.Depot) filetest.Place {
	return filetest.Place{
		Place: p,
		Read: func(path string) ([]byte, error) {
			data, ok := d.Stock.Read(path)
			if !ok {
				return nil, errGone
			}
			return data, nil
		},
		All:     func() ([]string, error) { return depot.Paths(d.Stock) },
		Out:     d.Ills(depot.Off)["off"],
		Sent:    d.Sent,
		Endless: d.Ills(depot.Endless)["endless"],
		Ill:     d.Ills(depot.Full, depot.Forbidden, depot.Closing, depot.Lying),
	}
}
