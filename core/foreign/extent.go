package foreign

import (
	"errors"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// Extent is what is seen of a page.
type Extent struct {
	Box  [4]float64 // in the page's own units, the lower left corner first
	Turn int        // clockwise, as it is seen: 0, 90, 180 or 270
	Unit float64    // points
}

// Size is how large the page is seen, in points.
func (e Extent) Size() (w, h float64) {
	w, h = (e.Box[2]-e.Box[0])*e.Unit, (e.Box[3]-e.Box[1])*e.Unit
	if e.Turn%180 != 0 {
		w, h = h, w
	}
	return w, h
}

// Pages are from a pica high and wide up to some seven metres.
const smallestPage, largestPage = 10, 20_000

// Extent is that of a page whose entries, with those that it takes from the nodes above it, are given (ISO 32000-1, 7.7.3.3). A page that
// no printer and hardly a screen could show is an error.
func (r Objects) Extent(page types.Dict) (Extent, error) {
	e := Extent{Box: [4]float64{0, 0, 612, 792}, Unit: 1}
	if media, ok := r.Box(page["MediaBox"]); ok {
		e.Box = media
	}
	if crop, ok := r.Box(page["CropBox"]); ok {
		m := e.Box
		e.Box = [4]float64{max(m[0], crop[0]), max(m[1], crop[1]), min(m[2], crop[2]), min(m[3], crop[3])}
	}
	if u := r.Number(page["UserUnit"]); u > 0 {
		e.Unit = u
	}
	e.Turn = ((int(r.Number(page["Rotate"]))%360 + 360) % 360) / 90 * 90
	if w, h := e.Size(); !(w >= smallestPage && h >= smallestPage && w <= largestPage && h <= largestPage) {
		return e, errors.New("it has no size that can be printed")
	}
	return e, nil
}
