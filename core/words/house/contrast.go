package house

import (
	"math"
	"strconv"
	"strings"
)

// Contrast is that of two colours written as #RRGGBB, from 1 to 21 (WCAG 2.2, section 1.4.3 and its definition of relative
// luminance). What is no colour counts as black.
func Contrast(a, b string) float64 {
	x, y := luminance(a), luminance(b)
	return (max(x, y) + 0.05) / (min(x, y) + 0.05)
}

func luminance(hex string) float64 {
	v, err := strconv.ParseUint(strings.TrimPrefix(hex, "#"), 16, 24)
	if err != nil {
		return 0
	}
	part := func(shift uint) float64 {
		s := float64(v>>shift&0xFF) / 255
		if s <= 0.04045 {
			return s / 12.92
		}
		return math.Pow((s+0.055)/1.055, 2.4)
	}
	return 0.2126*part(16) + 0.7152*part(8) + 0.0722*part(0)
}
