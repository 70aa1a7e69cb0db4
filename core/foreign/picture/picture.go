// Package picture looks at pictures that anybody sent before they are unpacked: what unpacking would cost is known from the file alone.
package picture

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/color"
	_ "image/jpeg" // the formats that are known
	_ "image/png"
)

// Limits. A progressive JPEG may go over its pixels as often as it likes (ITU-T T.81, annex G): each scan takes a few bytes and a whole
// pass, so that their product is what counts. Cameras and editors make some ten.
const (
	MostPixels   = 50_000_000
	mostUnpacked = 200 << 20 // bytes
	mostScans    = 100
	mostPassed   = 1_000_000_000 // pixels of all scans
)

// ErrDamaged is the error of what is no PNG and no JPEG, or breaks off in its head.
var ErrDamaged = errors.New("the picture is damaged")

// TooMuch is the error of a picture that would cost too much to unpack, in words for who sent it.
type TooMuch struct{ Reason string }

func (e TooMuch) Error() string { return e.Reason }

// Look reads the head of a PNG or JPEG file and counts the scans of a JPEG. The error is ErrDamaged or TooMuch.
func Look(data []byte) (c image.Config, format string, err error) {
	c, format, err = image.DecodeConfig(bytes.NewReader(data))
	if err != nil || format != "png" && format != "jpeg" {
		return c, format, ErrDamaged
	}
	if c.Width < 1 || c.Height < 1 || c.Width > MostPixels/c.Height || c.Width > mostUnpacked/(c.Height*depth(c.ColorModel)) {
		return c, format, TooMuch{fmt.Sprintf("the picture has %d × %d pixels; at most 50 million fit, and less with many colours",
			c.Width, c.Height)}
	}
	if format == "jpeg" {
		if n := scans(data); n > mostScans || n*c.Width*c.Height > mostPassed && n > 1 {
			return c, format, TooMuch{fmt.Sprintf("the picture goes over its %d × %d pixels %d times; save it anew, as an ordinary JPEG",
				c.Width, c.Height, n)}
		}
	}
	return c, format, nil
}

// scans counts the markers that begin one (T.81, B.1.1.3): 0xFF 0xDA. In the data of a scan each byte 0xFF is followed by a zero or a
// restart, so that a marker is one wherever it stands between segments; one inside of a segment counts too, which errs to the safe side.
func scans(data []byte) int { return bytes.Count(data, []byte{0xFF, 0xDA}) }

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
