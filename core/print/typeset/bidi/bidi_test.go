package bidi_test

import (
	"bufio"
	"os"
	"strconv"
	"strings"
	"testing"

	"amberseal/core/print/typeset/bidi"
)

// Every case of Unicode's BidiCharacterTest.txt (UAX #9), which Debian's package unicode-data has: levels and order.
func TestAgainstUnicode(t *testing.T) {
	file, err := os.Open("/usr/share/unicode/BidiCharacterTest.txt")
	if err != nil {
		t.Fatal("make test installs unicode-data: ", err)
	}
	defer file.Close()
	cases, wrong := 0, 0
	for scan := bufio.NewScanner(file); scan.Scan(); {
		fields := strings.Split(scan.Text(), ";")
		if len(fields) != 5 || strings.HasPrefix(fields[0], "#") {
			continue
		}
		var text []rune
		for _, hex := range strings.Fields(fields[0]) {
			v, err := strconv.ParseUint(hex, 16, 32)
			if err != nil {
				t.Fatal(err)
			}
			text = append(text, rune(v))
		}
		base := bidi.Base(text)
		if fields[1] == "0" || fields[1] == "1" {
			base = bidi.Level(fields[1][0] - '0')
		}
		cases++
		levels := bidi.Levels(text, base)
		ok := strconv.Itoa(int(base)) == fields[2]
		var places []int
		for i, want := range strings.Fields(fields[3]) {
			if want == "x" {
				continue
			}
			places = append(places, i)
			ok = ok && strconv.Itoa(int(levels[i])) == want
		}
		bidi.Order(places, func(i int) bidi.Level { return levels[i] })
		var order []string
		for _, i := range places {
			order = append(order, strconv.Itoa(i))
		}
		if !ok || strings.Join(order, " ") != strings.TrimSpace(fields[4]) {
			if wrong++; wrong < 10 {
				t.Errorf("%s in %s: levels %v, want %s; order %v, want %s", fields[0], fields[1], levels, fields[3], order, fields[4])
			}
		}
	}
	if cases < 90_000 || wrong > 0 {
		t.Errorf("%d of %d cases are wrong", wrong, cases)
	}
}
