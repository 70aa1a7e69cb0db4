package produce

import (
	"context"

	"amberseal/core/foreign/ground"
)

// Take takes a PDF apart that anybody may have made, where that can harm nobody. What it gives is a ground as it is kept.
type Take func(ctx context.Context, data []byte) ([]byte, error)

// Files are where files that documents are made of lie, and what PDFs were taken apart into.
type Files interface {
	Brought(ctx context.Context, name string) ([]byte, error)
	Kept(ctx context.Context, name string) ([]byte, error)
	Keep(ctx context.Context, name string, ground []byte) error
}

// Ground gives a PDF as it was taken apart. That is done again where another version of the program kept it in another way.
func Ground(ctx context.Context, files Files, take Take, name string) ([]byte, error) {
	kept, err := files.Kept(ctx, name)
	if err != nil || ground.Current(kept) {
		return kept, err
	}
	data, err := files.Brought(ctx, name)
	if err != nil {
		return nil, err
	}
	if kept, err = take(ctx, data); err != nil {
		return nil, err
	}
	return kept, files.Keep(ctx, name, kept)
}
