package svg_test

import (
	"fmt"
	"image"
	_ "image/png" // what both write
	"maps"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"amberseal/core/print/pdf"
	"amberseal/core/print/svg"
	"amberseal/core/print/typeset"
)

// drawings are made up in the ways in which programs write them: layers with names of their own, styles beside attributes, parts used again,
// clips around everything, words with places of their own, gradients that take from each other.
var drawings = map[string]string{
	"layers": `<svg xmlns="http://www.w3.org/2000/svg" xmlns:p="http://p" width="60mm" height="40mm" viewBox="0 0 60 40"><p:view id="v"/>` +
		`<g p:label="Layer 1" id="layer1" transform="translate(4,-2)"><path style="fill:#1f4f4a;stroke:#d08c1f;stroke-width:1.5;stroke-linejoin:round" ` +
		`d="m 6,34 c 0,-14 10,-26 22,-26 12,0 20,12 20,26 z"/></g></svg>`,
	"classes": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80"><defs><style>.cls-1{fill:#23395b;}.cls-2,.cls-3{fill:none;` +
		`stroke:#b5443b;stroke-miterlimit:10}.cls-3{stroke-width:6px;stroke-linecap:round}</style></defs><g id="Layer_2" data-name="Layer 2">` +
		`<circle class="cls-1" cx="40" cy="40" r="26.5"/><polyline class="cls-3" points="70 15 100 40 70 65"/><path class="cls-2" ` +
		`d="M10,70.5H110"/></g></svg>`,
	"used": `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 120 80"><defs><path id="leaf" ` +
		`d="M0 0C8-12 8-22 0-34-8-22-8-12 0 0z"/></defs><g transform="translate(60 40)"><use xlink:href="#leaf" fill="#3a7d44"/><use href="#leaf" ` +
		`transform="rotate(72)" fill="#c0603b"/><use href="#leaf" transform="rotate(144)"/><use href="#leaf" transform="rotate(216)" fill="#5b6abf"/>` +
		`<use href="#leaf" transform="rotate(288)" fill="#d2a437"/></g></svg>`,
	"symbols": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80"><symbol id="s" viewBox="0 0 10 10"><rect width="10" height="10" rx="2" ` +
		`fill="#e7efe9"/><path d="M2 5l2 3 4-6" fill="none" stroke="#1f4f4a"/></symbol><use href="#s" x="5" y="10" width="40" height="60"/>` +
		`<use href="#s" x="60" y="20" width="50" height="40"/></svg>`,
	"clipped": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80"><clipPath id="a"><circle cx="45" cy="40" r="30"/></clipPath>` +
		`<clipPath id="b" clip-path="url(#a)"><rect x="20" y="20" width="90" height="40"/></clipPath><g clip-path="url(#b)"><rect width="120" ` +
		`height="80" fill="#b5443b"/><circle cx="60" cy="40" r="18" fill="#fff"/></g><path clip-path="url(#a)" d="M0 75H120" stroke="#222" ` +
		`stroke-width="12"/></svg>`,
	"page clip": `<svg xmlns="http://www.w3.org/2000/svg" width="120" height="80" fill="none" viewBox="0 0 120 80"><g clip-path="url(#clip0)">` +
		`<path fill="#1F4F4A" fill-rule="evenodd" d="M60 8a32 32 0 100 64 32 32 0 000-64zm-14 32a14 14 0 1128 0 14 14 0 01-28 0z" ` +
		`clip-rule="evenodd"/></g><defs><clipPath id="clip0"><path fill="#fff" d="M0 0h120v80H0z"/></clipPath></defs></svg>`,
	"opacity": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80"><rect x="10" y="10" width="60" height="60" fill="#23395b"/>` +
		`<rect x="40" y="25" width="70" height="30" fill="#d2a437" opacity=".6"/><circle cx="90" cy="55" r="20" fill="rgb(181 68 59 / 40%)" ` +
		`stroke="#000" stroke-opacity=".25" stroke-width="5"/></svg>`,
	"words": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80"><text x="10" y="30" font-family="Literata" font-size="18" ` +
		`font-weight="700" fill="#1f4f4a">Tarn Hollow</text><text transform="translate(10 52)" style="font-family:'IBM Plex Sans';font-size:11px">` +
		`Instrument <tspan font-weight="bold" fill="#b5443b">Works</tspan></text><text x="110" y="72" text-anchor="end" font-family="Literata" ` +
		`font-size="9" font-style="italic">since 1924</text></svg>`,
	"placed words": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80"><text font-family="IBM Plex Sans" font-size="14"><tspan x="60" ` +
		`y="25" text-anchor="middle">first line</tspan><tspan x="60" dy="1.3em" text-anchor="middle">the second</tspan></text><text x="12" y="70" ` +
		`font-family="Literata" font-size="12" letter-spacing="2">SPACED</text></svg>`,
	"line gradient": `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 120 80"><defs><linearGradient ` +
		`id="base"><stop offset="0" style="stop-color:#1f4f4a"/><stop offset=".6" stop-color="#8fb8a5"/><stop offset="100%" stop-color="#fff3d6"/>` +
		`</linearGradient><linearGradient id="g" xlink:href="#base" gradientUnits="userSpaceOnUse" x1="10" y1="10" x2="110" y2="70"/>` +
		`</defs><rect x="10" y="10" width="100" height="60" rx="12" fill="url(#g)"/></svg>`,
	"round gradient": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80"><radialGradient id="g" cx=".5" cy=".5" r=".5" fx=".3" fy=".3">` +
		`<stop offset="0" stop-color="#fff"/><stop offset="1" stop-color="#b5443b"/></radialGradient><radialGradient id="h" ` +
		`gradientUnits="userSpaceOnUse" cx="90" cy="40" r="25" gradientTransform="translate(0 20) scale(1 .5)"><stop stop-color="#23395b"/>` +
		`<stop offset="1" stop-color="#bcd"/></radialGradient><circle cx="35" cy="40" r="28" fill="url(#g)"/><rect x="66" y="12" width="48" ` +
		`height="56" fill="url(#h)"/></svg>`,
	"arcs": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80"><path d="M10 40a25 15 -30 1 1 50 0 25,15-30 01-50 0zM70 40a20 20 0 0140 0` +
		`M70 50A20 9 0 00110 50" fill="#e3c9a8" stroke="#333" stroke-width="2"/></svg>`,
	"curves": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80"><path d="M8 60C20 10 40 10 50 60S90 110 112 30" fill="none" ` +
		`stroke="#23395b" stroke-width="4"/><path d="M8 20Q30 0 50 20T92 20t20-8" fill="none" stroke="#b5443b" stroke-width="3" ` +
		`stroke-linecap="round"/></svg>`,
	"dashes": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80"><path d="M10 20H110" stroke="#000" stroke-width="4" ` +
		`stroke-dasharray="12 6"/><path d="M10 40H110" stroke="#1f4f4a" stroke-width="6" stroke-dasharray="0.1 10" stroke-linecap="round"/>` +
		`<rect x="14" y="54" width="92" height="18" fill="none" stroke="#b5443b" stroke-width="2" stroke-dasharray="8 3 2" ` +
		`stroke-dashoffset="5"/></svg>`,
	"joins": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80"><g fill="none" stroke="#23395b" stroke-width="8"><path d="M12 60L24 20 36 60"/>` +
		`<path d="M50 60L62 20 74 60" stroke-linejoin="round"/><path d="M88 60l12-40 12 40" stroke-linejoin="bevel" stroke-linecap="square"/>` +
		`</g></svg>`,
	"skewed": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80"><g transform="translate(20,15) skewX(-20) scale(1.2,.8)"><rect x="20" ` +
		`width="50" height="50" fill="#d2a437"/></g><rect x="70" y="30" width="30" height="30" transform="rotate(30,85,45)" fill="#5b6abf"/>` +
		`<rect width="10" height="10" transform="matrix(1 .3 -.3 1 30 60)"/></svg>`,
	"nested": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80"><svg x="10" y="10" width="40" height="60" viewBox="0 0 100 100" ` +
		`preserveAspectRatio="xMinYMax meet"><rect width="100" height="100" fill="#e7efe9"/><circle cx="50" cy="50" r="70" fill="#1f4f4a"/></svg>` +
		`<svg x="60" y="10" width="50" height="60" viewBox="0 0 10 10" preserveAspectRatio="none"><ellipse cx="50%" cy="50%" rx="4" ry="3" ` +
		`fill="#b5443b"/></svg></svg>`,
	"current": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80" color="#3a7d44" fill="currentColor"><path d="M20 10h30v60H20z"/><g ` +
		`color="hsl(210 50% 40%)"><path d="M60 10h20v60H60z"/><path d="M90 10h20v60H90z" fill="inherit" visibility="hidden"/></g></svg>`,
	"hidden": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80"><g display="none"><rect width="120" height="80"/></g><style>.x7>g,` +
		`.off7{display:none}</style><rect class="off7" width="60" height="80"/><switch><rect x="30" y="20" width="60" height="40" fill="teal"/>` +
		`<rect width="9" height="9"/></switch></svg>`,
	"rules": `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 80"><path d="M30 10L45 65 5 30H55L15 65z" fill="slateblue"/><path ` +
		`d="M90 10l15 55-40-35h50L75 65z" fill="slateblue" fill-rule="evenodd"/></svg>`,
}

// Chromium's painting of drawings as drawing programs write them, beside ours: printed, and drawn again by poppler. Edges are softened in
// another way by both, and half a pixel may lie between them.
func TestDrawingsAgainstChromium(t *testing.T) {
	const w, h, across = 240, 160, 4
	dir := t.TempDir()
	fonts, err := filepath.Abs("../typeface/files")
	if err != nil {
		t.Fatal(err)
	}
	page := "<!DOCTYPE html><meta charset=utf-8><style>body{margin:0;position:relative}svg.top{position:absolute}"
	for _, f := range []string{"Literata", "IBMPlexSans"} {
		family := strings.Replace(f, "IBMPlexSans", "IBM Plex Sans", 1)
		for style, css := range map[string]string{"Regular": "", "Bold": "font-weight:700", "Regular_Italic": "font-style:italic"} {
			page += fmt.Sprintf("@font-face{font-family:'%s';src:url('file://%s/%s-%s.ttf');%s}", family, fonts, f, style, css)
		}
	}
	page += "</style>"
	doc := &typeset.Document{Title: "Drawings", Language: "en", Page: typeset.Page{Width: w * across * 0.75, Height: h * 5 * 0.75}}
	names := slices.Sorted(maps.Keys(drawings))
	for i, name := range names {
		x, y := float64(i%across*w), float64(i/across*h)
		d, err := svg.Read([]byte(drawings[name]), nil)
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		doc.Backdrop = append(doc.Backdrop, typeset.Backdrop{Drawing: d, X: x * 0.75, Y: y * 0.75, Width: w * 0.75, Height: h * 0.75})
		page += fmt.Sprintf(`<div style="position:absolute;left:%gpx;top:%gpx;width:%dpx;height:%dpx;overflow:hidden">%s</div>`, x, y, w, h,
			strings.Replace(alone.ReplaceAllString(drawings[name], fmt.Sprintf("${1}d%d-", i)), "<svg ", fmt.Sprintf(`<svg style="width:%dpx;height:%dpx;display:block" `, w, h), 1))
	}
	pages, err := typeset.Set(doc)
	if err != nil {
		t.Fatal(err)
	}
	data, err := pdf.Write(pages, pdf.Properties{Made: time.Unix(0, 0)})
	if err != nil {
		t.Fatal(err)
	}
	file := filepath.Join(dir, "ours.pdf")
	for name, content := range map[string][]byte{file: data, filepath.Join(dir, "page.html"): []byte(page)} {
		if err := os.WriteFile(name, content, 0o600); err != nil {
			t.Fatal(err)
		}
	}
	if out, err := exec.Command("pdftoppm", "-r", "96", "-png", "-singlefile", file, filepath.Join(dir, "ours")).CombinedOutput(); err != nil {
		t.Fatalf("%v %s", err, out)
	}
	if out, err := exec.Command("chromium", "--headless", "--no-sandbox", "--disable-gpu", "--hide-scrollbars", "--allow-file-access-from-files",
		"--force-color-profile=srgb", "--user-data-dir="+filepath.Join(dir, "profile"), fmt.Sprintf("--window-size=%d,%d", w*across, h*5),
		"--virtual-time-budget=5000", "--screenshot="+filepath.Join(dir, "theirs.png"), "file://"+dir+"/page.html").CombinedOutput(); err != nil {
		t.Fatalf("make packages installs chromium: %v %s", err, out)
	}
	ours, theirs := picture(t, filepath.Join(dir, "ours.png")), picture(t, filepath.Join(dir, "theirs.png"))
	for i, name := range names {
		x, y := i%across*w, i/across*h
		if off := difference(ours, theirs, image.Rect(x+2, y+2, x+w-2, y+h-2)); off > mostOff {
			t.Errorf("%s differs by %.2f of 255", name, off)
		}
	}
	if keep := os.Getenv("AMBERSEAL_KEEP"); keep != "" {
		for _, n := range []string{"ours.png", "theirs.png"} {
			b, _ := os.ReadFile(filepath.Join(dir, n))
			if err := os.WriteFile(filepath.Join(keep, n), b, 0o600); err != nil {
				t.Fatal(err)
			}
		}
	}
}

// alone finds names of parts, which are those of one page for Chromium.
var alone = regexp.MustCompile(`( id="|href="#|url\(#)`)

// mostOff is the mean difference, of 255, that may lie between two paintings of the same drawing, where each place is held against the nearest
// of nine.
const mostOff = 1.5

func picture(t *testing.T, name string) image.Image {
	t.Helper()
	in, err := os.Open(name)
	if err != nil {
		t.Fatal(err)
	}
	defer in.Close()
	img, _, err := image.Decode(in)
	if err != nil {
		t.Fatal(err)
	}
	return img
}

// difference is the mean one of the places of a part of two pictures; each is held against the likest of those around it.
func difference(a, b image.Image, part image.Rectangle) float64 {
	sum := 0.0
	for y := part.Min.Y; y < part.Max.Y; y++ {
		for x := part.Min.X; x < part.Max.X; x++ {
			best := math.Inf(1)
			r, g, bl, _ := a.At(x, y).RGBA()
			for dy := -1; dy <= 1; dy++ {
				for dx := -1; dx <= 1; dx++ {
					r2, g2, b2, _ := b.At(x+dx, y+dy).RGBA()
					best = min(best, (math.Abs(float64(r)-float64(r2))+math.Abs(float64(g)-float64(g2))+math.Abs(float64(bl)-float64(b2)))/3/257)
				}
			}
			sum += best
		}
	}
	return sum / float64(part.Dx()*part.Dy())
}
