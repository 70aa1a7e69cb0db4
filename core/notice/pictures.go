package notice

import (
	"html"
	"path"
	"strconv"
	"strings"

	"amberseal/core/words/finding"
)

// Picture is a picture of the house over the words of a message, or below them.
type Picture struct {
	Picture string `json:"picture"`       // its name
	Alt     string `json:"alt,omitempty"` // what it shows, for who does not see it; it only adorns when empty
	Below   bool   `json:"below,omitempty"`
}

// pictureDomain ends the names by which a message speaks of the pictures that come with it (RFC 2392).
const pictureDomain = "@pictures.amberseal"

// ContentID is the name by which a message speaks of a picture that comes with it, without brackets.
func ContentID(picture string) string { return picture + pictureDomain }

// widest is how wide a picture is at most, in pixels of CSS: as the words are.
const widest = 544

func (n Notice) checkPictures(place string, exists func(picture string) bool) finding.List {
	var l finding.List
	for _, p := range n.Pictures {
		switch at := place + "/pictures"; {
		case !exists(p.Picture):
			l.Fault(at, "notice.picture-is-gone", "picture", p.Picture)
		case strings.EqualFold(path.Ext(p.Picture), ".svg"):
			l.Fault(at, "notice.picture-is-drawn", "picture", p.Picture)
		}
	}
	return l
}

// adorned puts a notice's pictures around its words, as far as they are there.
func (n Notice) adorned(words []bound, widths map[string]int) []bound {
	if len(n.Pictures) == 0 {
		return words
	}
	var above, below []bound
	for _, p := range n.Pictures {
		width, there := widths[p.Picture]
		if !there {
			continue
		}
		b := bound{picture: &shown{p, min(width, widest)}}
		if p.Below {
			below = append(below, b)
		} else {
			above = append(above, b)
		}
	}
	return append(append(above, words...), below...)
}

// shown is a picture with its width in pixels of CSS.
type shown struct {
	Picture
	width int
}

// img has its width beside its looks: some readers know nothing else.
func (s *shown) img() string {
	return `<p style="margin:4px 0 16px"><img src="cid:` + html.EscapeString(ContentID(s.Picture.Picture)) + `" alt="` +
		html.EscapeString(s.Alt) + `" width="` + strconv.Itoa(s.width) + `" style="display:block;max-width:100%;height:auto;border:0"></p>`
}
