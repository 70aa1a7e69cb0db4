// Package administer is the house's own business: who we are, our pictures and fonts.
package administer

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"time"

	"amberseal/app/produce"
	"amberseal/app/upload"
	"amberseal/core/print/svg"
	"amberseal/core/print/typeface"
	"amberseal/core/print/typeset"
	"amberseal/core/words/finding"
	"amberseal/core/words/house"
)

// Store is where the house is kept. Look-ups of nothing give register.NotFound.
type Store interface {
	House(ctx context.Context) (house.House, error)
	SetHouse(ctx context.Context, h house.House) error
	Picture(ctx context.Context, name string) ([]byte, error)
	AddPicture(ctx context.Context, name string, data []byte, now time.Time) error
	AddFont(ctx context.Context, name string, data []byte, now time.Time) error
	Font(ctx context.Context, name string) ([]byte, error)
	AddFixedFile(ctx context.Context, file string, data []byte, now time.Time) error
	FixedFile(ctx context.Context, file string) ([]byte, error)
	MailDue(ctx context.Context, now time.Time) error // lets letters be tried at once that wait for their time to be tried again
}

// Office does the house's business.
type Office struct {
	Store    Store
	Pictures Pictures
	Now      func() time.Time
	Wake     func() // has the crew look for work; nil where there is none
}

// Pictures unpack what was sent, turned and without anything but its pixels; upload.Taker does.
type Pictures interface {
	Upright(ctx context.Context, client string, data []byte, media string) ([]byte, error)
}

// SetHouse keeps what was said about the house, or gives the findings that stand against it.
func (o *Office) SetHouse(ctx context.Context, h house.House) (finding.List, error) {
	h = h.WithDefaults()
	if l := h.Check(); l.Faults() > 0 {
		return l, nil
	}
	if h.Logo != "" {
		if _, err := o.Store.Picture(ctx, h.Logo); err != nil {
			var l finding.List
			l.Fault("house/logo", "administer.logo-is-gone", "logo", h.Logo)
			return l, nil
		}
	}
	for _, f := range h.Files {
		if _, err := o.Store.FixedFile(ctx, f.File); err != nil {
			var l finding.List
			l.Fault("house/files", "house.file-name", "name", f.Name)
			return l, nil
		}
	}
	before, err := o.Store.House(ctx)
	if err != nil {
		return nil, err
	}
	if err := o.Store.SetHouse(ctx, h); err != nil {
		return nil, err
	}
	if before.Email == "" && h.Email != "" || before.Site == "" && h.Site != "" { // what waits for that goes now
		if err := o.Store.MailDue(ctx, o.Now()); err != nil {
			return nil, err
		}
		if o.Wake != nil {
			o.Wake()
		}
	}
	return nil, nil
}

// theHouse is the client whose pictures are looked at here.
const theHouse = "the house"

// LargestFile is how many bytes a fixed file may have: what is larger would never go along with a message.
const LargestFile = 10 << 20

// AddFile keeps a fixed file of the house and gives the name under which its bytes are kept.
func (o *Office) AddFile(ctx context.Context, data []byte) (string, error) {
	if len(data) == 0 {
		return "", errors.New("the file is empty")
	}
	name := named(data, "file")
	return name, o.Store.AddFixedFile(ctx, name, data, o.Now())
}

// AddPicture keeps a picture under a name made of its content, so that equal files are
// kept once. The error says what is wrong with the file.
func (o *Office) AddPicture(ctx context.Context, data []byte) (string, error) {
	kind := "svg"
	if svg.Is(data) {
		var err error
		if data, err = svg.Plain(data); err == nil {
			_, err = svg.Read(data, nil)
		}
		if err != nil {
			return "", err
		}
	} else {
		img, err := typeset.ReadImage(data)
		if err != nil {
			return "", err
		}
		clean, err := o.Pictures.Upright(ctx, theHouse, data, "image/"+img.Format)
		if errors.Is(err, upload.ErrBusy) || ctx.Err() != nil {
			return "", err
		}
		if err != nil {
			return "", errors.New("the picture is damaged: it breaks off, or its colours cannot be read")
		}
		kind = map[string]string{"png": "png", "jpeg": "jpg"}[img.Format]
		if max(img.Width, img.Height) > upload.LongSide || bytes.Contains(data, []byte("Exif\x00\x00")) {
			data = clean
		}
	}
	name := named(data, kind)
	return name, o.Store.AddPicture(ctx, name, data, o.Now())
}

// named is a name that comes from the bytes.
func named(data []byte, kind string) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:16]) + "." + kind
}

// AddFont keeps a TrueType or OpenType font for documents and gives its name and its family's. The error says why it cannot
// be taken, such as a licence that forbids it.
func (o *Office) AddFont(ctx context.Context, data []byte) (name, family string, err error) {
	face, err := typeface.Read(data)
	if err != nil {
		return "", "", err
	}
	kind := "ttf"
	if face.Outlines != nil {
		kind = "otf"
	}
	if err := produce.TryFont(data); err != nil {
		return "", "", err
	}
	name = named(data, kind)
	return name, face.Family, o.Store.AddFont(ctx, name, data, o.Now())
}
