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
	"image/jpeg"
	"image/png"
	"path"
	"strings"
	"sync"
	"time"
	"unicode"
	"unicode/utf8"

	"github.com/gabriel-vasile/mimetype"

	"amberseal/core/ask/form"
	"amberseal/core/filing"
	"amberseal/core/foreign/picture"
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

	// Unpack decodes a picture and packs it anew, as Clean does, and tells what that cost of a processor's time; Here where it is nil. It
	// is given what Look has found fit alone.
	Unpack func(ctx context.Context, data []byte, media string) (clean []byte, cost time.Duration, err error)

	mu    sync.Mutex
	taken map[string]budget // of each client
	queue queue
}

// budget is what a client has sent lately, and what that cost.
type budget struct {
	bytes int64
	cost  time.Duration
	since time.Time
}

// ErrBusy is the error of a picture for which there is no turn soon.
var ErrBusy = errors.New("many pictures are being looked at; please try again in a moment")

// ErrCostly is the error of a picture of somebody whose pictures have cost much lately.
var ErrCostly = Refused{"Your pictures have taken very long to look at. Please try again in an hour, or send smaller ones."}

// ErrFull is the error of a file for which there is no room.
var ErrFull = Refused{"So many files are waiting for their answers that there is no room for another. Please try again in an hour."}

// Refused is the error of a file that cannot be taken, in words for its sender.
type Refused struct{ Reason string }

func (r Refused) Error() string { return r.Reason }

// Limits.
const (
	MostBytes    = form.MaxLargest << 20
	LongSide     = 2400                // pixels of a kept picture: 200 a centimetre across a page's text
	KeptFor      = 30 * 24 * time.Hour // files of drafts are kept as long as these
	clientBytes  = 300 << 20           // that one client may send in clientFor
	clientFor    = time.Hour
	clientTime   = 2 * time.Minute // of a processor, for pictures, that one client may cost in clientFor
	waitingBytes = 4 << 30         // of all files that wait for their answers
)

// afford counts a file against its client's budget.
func (d *Taker) afford(client string, size int64) bool {
	return d.spend(client, size, 0)
}

// payable reports whether a client's pictures may still be looked at.
func (d *Taker) payable(client string) bool { return d.spend(client, 0, 0) }

// pay counts what a picture has cost.
func (d *Taker) pay(client string, cost time.Duration) { d.spend(client, 0, cost) }

// spend counts bytes or a cost against a client's budget, or neither, and reports whether it was not spent before. Bytes that go beyond it
// are not counted; they are not taken.
func (d *Taker) spend(client string, size int64, cost time.Duration) bool {
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
	if b.bytes+size > clientBytes || size+int64(cost) == 0 && b.cost > clientTime {
		return false
	}
	b.bytes, b.cost = b.bytes+size, b.cost+cost
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
		clean, err := d.Upright(ctx, client, data, f.Type)
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

// Upright has a picture of a client's decoded, turned and packed anew, so that nothing but its pixels is left, and no more of them than
// LongSide. The error is Refused, ErrBusy, ErrCostly or the context's.
func (d *Taker) Upright(ctx context.Context, client string, data []byte, media string) ([]byte, error) {
	if _, _, err := picture.Look(data); err != nil {
		return nil, Refused{upper(err.Error()) + "."}
	}
	if !d.payable(client) {
		return nil, ErrCostly
	}
	leave, err := d.queue.enter(ctx, client)
	if err != nil {
		return nil, err
	}
	defer leave()
	unpack := d.Unpack
	if unpack == nil {
		unpack = Here
	}
	clean, cost, err := unpack(ctx, data, media)
	d.pay(client, cost)
	return clean, err
}

// Here unpacks a picture in this program.
func Here(_ context.Context, data []byte, media string) (clean []byte, cost time.Duration, err error) {
	clean, err = Clean(data, media)
	return clean, 0, err
}

// Clean decodes, turns and packs a picture anew. The error is Refused.
func Clean(data []byte, media string) ([]byte, error) {
	img, err := picture.Upright(data, LongSide)
	if err != nil {
		return nil, Refused{upper(err.Error()) + "."}
	}
	var out bytes.Buffer
	if media == "image/png" {
		err = png.Encode(&out, img)
	} else {
		err = jpeg.Encode(&out, img, &jpeg.Options{Quality: 88})
	}
	return out.Bytes(), err
}

func upper(s string) string {
	r, n := utf8.DecodeRuneInString(s)
	return string(unicode.ToUpper(r)) + s[n:]
}
