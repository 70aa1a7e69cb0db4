package house

import "fmt"

// Colours are those of the house, made from the one that it chose. Each is #RRGGBB.
type Colours struct {
	Accent string // as it was chosen: edges and rules
	Band   string // the accent under words: as it was chosen, or darker where neither white nor ink is read on it
	Words  string // the accent for words on white: as it was chosen, or darker until it is read
	Tint   string // a ground under words
	Dark   string // the accent for strong rules and large words
	On     string // words on the band: white, or ink where it is pale
	Label  string // small words beside others
}

// readable is the least contrast of words (WCAG 2.2, section 1.4.3).
const readable = 4.5

const (
	paperWhite = "#FFFFFF"
	inkColour  = "#16262B"
	slate      = "#6B7175"
)

// Colours derives them. The shares are ours; the contrasts are measured: words, labels and what stands on the band are readable, labels
// on the tint too.
func (h House) Colours() Colours {
	accent := h.Accent
	if !colour.MatchString(accent) {
		accent = inkColour
	}
	c := Colours{
		Accent: accent, Words: accent, Tint: h.Tint, Dark: mixed(accent, "#000000", 0.64), On: paperWhite,
		Label: mixed(accent, slate, 0.25),
	}
	if !colour.MatchString(c.Tint) {
		c.Tint = mixed(accent, paperWhite, 0.1)
	}
	c.Words = darkened(c.Words, paperWhite)
	switch c.Band = c.Words; {
	case c.Words == accent:
	case Contrast(accent, inkColour) >= readable:
		c.Band, c.On = accent, inkColour
	}
	c.Dark = darkened(c.Dark, paperWhite)
	c.Label = darkened(c.Label, c.Tint)
	return c
}

// darkened is a colour made darker until its words are read on a ground.
func darkened(c, ground string) string {
	for range 60 {
		if Contrast(c, ground) >= readable && Contrast(c, paperWhite) >= readable {
			break
		}
		c = mixed(c, "#000000", 0.95)
	}
	return c
}

// mixed is a share of a colour in another.
func mixed(c, with string, share float64) string {
	var a, b [3]int
	fmt.Sscanf(c, "#%02x%02x%02x", &a[0], &a[1], &a[2])
	fmt.Sscanf(with, "#%02x%02x%02x", &b[0], &b[1], &b[2])
	var out [3]int
	for i := range out {
		out[i] = int(float64(a[i])*share + float64(b[i])*(1-share) + 0.5)
	}
	return fmt.Sprintf("#%02X%02X%02X", out[0], out[1], out[2])
}
