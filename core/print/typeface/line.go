package typeface

import "encoding/binary"

// Line is how high a line of a face is, in ems.
type Line struct{ Up, Down, Gap float64 }

// useTypographic is the bit of fsSelection by which a face asks for its typographic measures (OpenType 1.9, table OS/2).
const useTypographic = 1 << 7

// Line is how far a line reaches above and below its baseline, and what is left free under it, as word processors take it: the measures for
// Windows, and what the face asks for beyond them (OpenType 1.9, “Recommendations for OpenType fonts”, baseline to baseline distances).
func (f *Face) Line() Line {
	f.once.Do(func() {
		f.line = Line{Up: 0.8, Down: 0.2, Gap: 0.2}
		tables, err := tablesOf(f.Data)
		if err != nil {
			return
		}
		f.line = lineOf(tables["hhea"], tables["OS/2"], float64(f.Upem))
	})
	return f.line
}

func lineOf(hhea, os2 []byte, upem float64) (l Line) {
	signed := func(b []byte, at int) float64 { return float64(int16(binary.BigEndian.Uint16(b[at:]))) / upem }
	unsigned := func(b []byte, at int) float64 { return float64(binary.BigEndian.Uint16(b[at:])) / upem }
	if len(hhea) >= 10 {
		l = Line{Up: signed(hhea, 4), Down: -signed(hhea, 6), Gap: max(signed(hhea, 8), 0)}
	}
	switch {
	case len(os2) < 78:
	case binary.BigEndian.Uint16(os2[62:])&useTypographic != 0:
		l = Line{Up: signed(os2, 68), Down: -signed(os2, 70), Gap: max(signed(os2, 72), 0)}
	case unsigned(os2, 74)+unsigned(os2, 76) > 0:
		windows := Line{Up: unsigned(os2, 74), Down: unsigned(os2, 76)}
		windows.Gap = max(l.Gap-(windows.Up+windows.Down-l.Up-l.Down), 0)
		l = windows
	}
	return l
}
