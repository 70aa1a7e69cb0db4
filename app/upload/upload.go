// Package upload takes in the files that respondents add to their answers. A file is looked at before
// it is kept: its kind comes from its bytes, not its name, and pictures are turned upright and lose what a
// camera wrote into them, such as where they were taken.
package upload

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/base64"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"path"
	"strings"
	"sync"
	"time"
	"unicode/utf8"

	"github.com/disintegration/imaging"
	"github.com/gabriel-vasile/mimetype"

	"amberseal/core/ask/form"
	"amberseal/core/filing"
)

// Store keeps files.
type Store interface {
	Unclaimed(ctx context.Context) (bytes int64, err error)
	AddUpload(ctx context.Context, intake int64, f form.File, data []byte, now time.Time) error
}

// Taker takes files that are handed in.
type Taker struct {
	Store Store
	Now   func() time.Time

	mu    sync.Mutex
	taken map[string]budget // of each client
}

// budget is what a client has sent lately.
type budget struct {
	bytes int64
	since time.Time
}

// ErrBusy is the error of a picture for which there is no turn soon.
var ErrBusy = errors.New("many pictures are being looked at; please try again in a moment")

// ErrFull is the error of a file for which there is no room.
var ErrFull = Refused{"So many files are waiting for their answers that there is no room for another. Please try again in an hour."}

// Refused is the error of a file that cannot be taken, in words for its sender.
type Refused struct{ Reason string }

func (r Refused) Error() string { return r.Reason }

// Limits.
const (
	MostBytes    = form.MaxLargest << 20
	mostPixels   = 50_000_000
	mostUnpacked = 200 << 20           // bytes of a picture
	LongSide     = 2400                // pixels of a kept picture: 200 a centimetre across a page's text
	KeptFor      = 30 * 24 * time.Hour // files of drafts are kept as long as these
	clientBytes  = 300 << 20           // that one client may send in clientFor
	clientFor    = time.Hour
	waitingBytes = 4 << 30 // of all files that wait for their answers
	mostWaiting  = 4       // pictures that wait for their turn
	longestTurn  = 20 * time.Second
)

// decoding holds pictures of up to 200 MB unpacked; one at a time keeps the house small. waiting are those in the queue for it.
var (
	decoding = make(chan struct{}, 1)
	waiting  = make(chan struct{}, mostWaiting)
)

// afford counts a file against its client's budget.
func (d *Taker) afford(client string, size int64) bool {
	d.mu.Lock()
	defer d.mu.Unlock()
	now := d.Now()
	if d.taken == nil || len(d.taken) > 50_000 {
		d.taken = map[string]budget{}
	}
	b := d.taken[client]
	if now.Sub(b.since) > clientFor {
		b = budget{since: now}
	}
	if b.bytes += size; b.bytes > clientBytes {
		return false
	}
	d.taken[client] = b
	return true
}

// Take looks at a file of a client's for a field of an intake and keeps it. The error is Refused, ErrBusy or the store's.
func (d *Taker) Take(ctx context.Context, intake int64, field form.Field, name, client string, data []byte) (form.File, error) {
	if !field.Kind.Filed() && field.Kind != form.Signature {
		return form.File{}, Refused{"This question takes no files."}
	}
	if len(data) == 0 {
		return form.File{}, Refused{"The file is empty."}
	}
	there, err := d.Store.Unclaimed(ctx)
	if err != nil {
		return form.File{}, err
	}
	if there+int64(len(data)) > waitingBytes || !d.afford(client, int64(len(data))) {
		return form.File{}, ErrFull
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
		clean, err := Upright(ctx, data, f.Type)
		if err != nil {
			return form.File{}, err
		}
		data, f.Size = clean, int64(len(clean))
	}
	id := make([]byte, 18)
	rand.Read(id) // never fails
	f.ID = base64.RawURLEncoding.EncodeToString(id)
	now := d.Now()
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

// Upright decodes, turns and packs a picture anew, so that nothing but its pixels is left, and no more of them than LongSide.
// The error is Refused, ErrBusy or the context's.
func Upright(ctx context.Context, data []byte, media string) ([]byte, error) {
	c, _, err := image.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return nil, Refused{"The picture is damaged."}
	}
	if c.Width < 1 || c.Height < 1 || c.Width > mostPixels/c.Height || c.Width > mostUnpacked/(c.Height*depth(c.ColorModel)) {
		return nil, Refused{fmt.Sprintf("The picture has %d × %d pixels; at most 50 million fit, and less with many colours.", c.Width,
			c.Height)}
	}
	select {
	case waiting <- struct{}{}:
		defer func() { <-waiting }()
	default:
		return nil, ErrBusy
	}
	turn := time.NewTimer(longestTurn)
	defer turn.Stop()
	select {
	case decoding <- struct{}{}:
		defer func() { <-decoding }()
	case <-turn.C:
		return nil, ErrBusy
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	img, err := imaging.Decode(bytes.NewReader(data), imaging.AutoOrientation(true))
	if err != nil {
		return nil, Refused{"The picture is damaged."}
	}
	if b := img.Bounds(); b.Dx() > LongSide || b.Dy() > LongSide {
		img = imaging.Fit(img, LongSide, LongSide, imaging.Box)
	}
	var out bytes.Buffer
	if media == "image/png" {
		err = png.Encode(&out, img)
	} else {
		err = jpeg.Encode(&out, img, &jpeg.Options{Quality: 88})
	}
	return out.Bytes(), err
}

// depth is how many bytes a pixel takes unpacked.
func depth(m color.Model) int {
	switch m {
	case color.RGBA64Model, color.NRGBA64Model:
		return 8
	case color.GrayModel:
		return 1
	case color.Gray16Model:
		return 2
	}
	return 4
}
