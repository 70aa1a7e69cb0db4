// Package upload takes in the files that respondents add to their answers. A file is looked at before
// it is kept: its kind comes from its bytes, not its name, and pictures are turned upright and lose what a
// camera wrote into them, such as where they were taken.
package upload

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/base64"
	"fmt"
	"image"
	"image/jpeg"
	"image/png"
	"path"
	"strings"
	"time"
	"unicode/utf8"

	"github.com/disintegration/imaging"
	"github.com/gabriel-vasile/mimetype"

	"amberseal/core/filing"
	"amberseal/core/form"
)

// Store keeps files. DropUploads forgets those no submission took before a time.
type Store interface {
	AddUpload(ctx context.Context, intake int64, f form.File, data []byte, now time.Time) error
	DropUploads(ctx context.Context, before time.Time) error
}

// Desk is where files are handed in.
type Desk struct {
	Store Store
	Now   func() time.Time
}

// Refused is the error of a file that cannot be taken, in words for its sender.
type Refused struct{ Reason string }

func (r Refused) Error() string { return r.Reason }

// Limits.
const (
	MostBytes  = form.MaxLargest << 20
	mostPixels = 50_000_000
	longSide   = 2400                // pixels of a kept picture: 200 a centimetre across a page's text
	keptFor    = 30 * 24 * time.Hour // as long as drafts
)

// decoding holds pictures of up to 200 MB unpacked; one at a time keeps the house small.
var decoding = make(chan struct{}, 1)

// Take looks at a file for a field of an intake and keeps it. The error is Refused or the store's.
func (d *Desk) Take(ctx context.Context, intake int64, field form.Field, name string, data []byte) (form.File, error) {
	if !field.Kind.Filed() && field.Kind != form.Signature {
		return form.File{}, Refused{"This question takes no files."}
	}
	if len(data) == 0 {
		return form.File{}, Refused{"The file is empty."}
	}
	f := form.File{Name: fileName(name), Type: mimetype.Detect(data).String(), Size: int64(len(data))}
	checked := field
	if field.Kind == form.Signature {
		checked = form.Field{Kind: form.Photo}
	}
	if reason := (form.Circumstances{}).FitsFile(checked, f); reason != "" {
		return form.File{}, Refused{reason}
	}
	if f.Type == "image/jpeg" || f.Type == "image/png" && checked.Kind == form.Photo {
		clean, err := picture(ctx, data, f.Type)
		if err != nil {
			return form.File{}, err
		}
		data, f.Size = clean, int64(len(clean))
	}
	id := make([]byte, 18)
	rand.Read(id) // never fails
	f.ID = base64.RawURLEncoding.EncodeToString(id)
	now := d.Now()
	if err := d.Store.DropUploads(ctx, now.Add(-keptFor)); err != nil {
		return form.File{}, err
	}
	return f, d.Store.AddUpload(ctx, intake, f, data, now)
}

// fileName is the last part of a name, safe on common systems.
func fileName(name string) string {
	name = filing.Safe(path.Base(strings.ReplaceAll(name, "\\", "/")))
	if name == "" || !utf8.ValidString(name) {
		return "file"
	}
	return name
}

// picture decodes, turns and packs a picture anew, so that nothing but its pixels is left.
func picture(ctx context.Context, data []byte, media string) ([]byte, error) {
	c, _, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return nil, Refused{"The picture is damaged."}
	}
	if c.Width < 1 || c.Height < 1 || c.Width > mostPixels/c.Height {
		return nil, Refused{fmt.Sprintf("The picture has %d × %d pixels; at most 50 million fit.", c.Width, c.Height)}
	}
	select {
	case decoding <- struct{}{}:
		defer func() { <-decoding }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	img, err := imaging.Decode(bytes.NewReader(data), imaging.AutoOrientation(true))
	if err != nil {
		return nil, Refused{"The picture is damaged."}
	}
	if b := img.Bounds(); b.Dx() > longSide || b.Dy() > longSide {
		img = imaging.Fit(img, longSide, longSide, imaging.Box)
	}
	var out bytes.Buffer
	if media == "image/png" {
		err = png.Encode(&out, img)
	} else {
		err = jpeg.Encode(&out, img, &jpeg.Options{Quality: 88})
	}
	return out.Bytes(), err
}
