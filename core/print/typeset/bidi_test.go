package typeset_test

import (
	"bufio"
	"os"
	"slices"
	"strconv"
	"strings"
	"testing"

	"amberseal/core/print/typeset"
)

// shownOrder is the order in which a line's characters stand from left to right; characters of one glyph count as the
// first of them.
func shownOrder(t *testing.T, text []rune) []int {
	pages, err := typeset.Set(
		&typeset.Document{Language: "en", Page: typeset.Page{Width: 1e4, Height: 500}, Body: []typeset.Node{paragraph(string(text))}},
	)
	if err != nil {
		t.Fatal(err)
	}
	var order []int
	for _, item := range pages.Pages[0].Items {
		for _, g := range item.(*typeset.Glyphs).Glyphs {
			if g.Count > 0 {
				order = append(order, int(g.Start))
			}
		}
	}
	return order
}

// The cases are Unicode's BidiCharacterTest.txt (UAX #9), which Debian's package unicode-data has: those whose direction is
// that of the first strong character, as in documents; most begin with the letter a or the letter alef. The file gives the visual
// order; characters that are removed by the algorithm (explicit formatting) and those that share a glyph are compared by the rest.
func TestBidirectionalTextAgainstUnicode(t *testing.T) {
	file, err := os.Open("/usr/share/unicode/BidiCharacterTest.txt")
	if err != nil {
		t.Fatal("make tools installs unicode-data: ", err)
	}
	defer file.Close()
	number, cases, wrong := 0, 0, 0
	for scan := bufio.NewScanner(file); scan.Scan(); {
		fields := strings.Split(scan.Text(), ";")
		if len(fields) != 5 || !strings.HasPrefix(fields[0], "0061 ") && !strings.HasPrefix(fields[0], "05D0 ") && fields[1] != "2" ||
			strings.HasPrefix(fields[0], "05D0 ") && fields[1] == "0" ||
			strings.HasPrefix(fields[0], "0061 ") && fields[1] == "1" {
			continue
		}
		if number++; number%7 != 0 {
			continue // a seventh of the file, for time's sake
		}
		var text []rune
		for _, hex := range strings.Fields(fields[0]) {
			v, err := strconv.ParseUint(hex, 16, 32)
			if err != nil {
				t.Fatal(err)
			}
			text = append(text, rune(v))
		}
		if slices.ContainsFunc(text, func(r rune) bool {
			return r == 0x2029 || r == '\n' || r == '\r' || r == '\t' || r == 0x1C ||
				r == 0x85
		}) {
			continue // several lines
		}
		got := shownOrder(t, text)
		var want []int
		for _, s := range strings.Fields(fields[4]) {
			i, err := strconv.Atoi(s)
			if err != nil {
				t.Fatal(err)
			}
			if slices.Contains(got, i) {
				want = append(want, i)
			}
		}
		got = slices.DeleteFunc(got, func(i int) bool { return !slices.Contains(want, i) })
		cases++
		if !slices.Equal(got, want) {
			if wrong++; wrong < 5 {
				t.Logf("%s (%s): stands %v, want %v", fields[0], fields[3], got, want)
			}
		}
	}
	if cases < 2000 || wrong > 0 {
		t.Errorf("%d of %d cases stand otherwise", wrong, cases)
	}
}
