package web

import (
	"testing"

	"amberseal/app/administer"
	"amberseal/app/upload"
	"amberseal/app/workshop"
	"amberseal/core/foreign/fill"
	"amberseal/core/print/typeface"
)

// An operation takes as much as what reads it does: more would be read for nothing, less would refuse what is allowed.
func TestOperationsTakeWhatTheirReadersDo(t *testing.T) {
	for at, want := range map[[2]string]int64{
		{"POST", "/api/public/intakes/:slug/uploads/:field"}: upload.MostBytes,
		{"POST", "/api/intakes/:id/copies"}:                  fill.MaxBytes,
		{"POST", "/api/questions/table"}:                     workshop.MaxTable,
		{"POST", "/api/fonts"}:                               typeface.Largest,
		{"POST", "/api/house/files"}:                         administer.LargestFile,
		{"PUT", "/api/intakes/:id/design"}:                   workshop.MaxDesign,
		{"POST", "/api/intakes"}:                             workshop.MaxDesign,
		{"PUT", "/api/house"}:                                64 << 10,
		{"GET", "/"}:                                         64 << 10,
	} {
		if got := mostOf(at[0], at[1]); got != want {
			t.Errorf("%s takes %d bytes, its reader %d", at, got, want)
		}
	}
}
