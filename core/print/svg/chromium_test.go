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

// drawings are made up in the ways in which programs write them: layers with names of their own, styles beside attributes, parts used
// again, clips around everything, words with places of their own, gradients that take from each other.
func drawings(t testing.TB) map[string]string {
	files, err := filepath.Glob("testdata/*.svg")
	if err != nil || len(files) < 20 {
		t.Fatal(files, err)
	}
	out := map[string]string{}
	for _, f := range files {
		data, err := os.ReadFile(f)
		if err != nil {
			t.Fatal(err)
		}
		out[strings.TrimSuffix(filepath.Base(f), ".svg")] = string(data)
	}
	return out
}

// Chromium's painting of drawings as drawing programs write them, beside ours: printed, and drawn again by poppler. Edges are softened in
// another way by both, and half a pixel may lie between them.
func TestDrawingsAgainstChromium(t *testing.T) {
	const w, h, across = 240, 160, 4
	all := drawings(t)
	down := (len(all) + across - 1) / across * h
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
	doc := &typeset.Document{Title: "Drawings", Language: "en", Page: typeset.Page{Width: w * across * 0.75, Height: float64(down) * 0.75}}
	names := slices.Sorted(maps.Keys(all))
	for i, name := range names {
		x, y := float64(i%across*w), float64(i/across*h)
		d, err := svg.Read([]byte(all[name]), nil)
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		doc.Backdrop = append(doc.Backdrop, typeset.Backdrop{Drawing: d, X: x * 0.75, Y: y * 0.75, Width: w * 0.75, Height: h * 0.75})
		page += fmt.Sprintf(`<div style="position:absolute;left:%gpx;top:%gpx;width:%dpx;height:%dpx;overflow:hidden">%s</div>`, x, y, w, h,
			strings.Replace(alone.ReplaceAllString(all[name], fmt.Sprintf("${1}d%d-", i)), "<svg ",
				fmt.Sprintf(`<svg style="width:%dpx;height:%dpx;display:block" `, w, h), 1))
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
	draw := exec.Command("pdftoppm", "-r", "96", "-png", "-singlefile", file, filepath.Join(dir, "ours"))
	if out, err := draw.CombinedOutput(); err != nil {
		t.Fatalf("%v %s", err, out)
	}
	paint := exec.Command("chromium", "--headless", "--no-sandbox", "--disable-gpu", "--hide-scrollbars", "--allow-file-access-from-files",
		"--force-color-profile=srgb", "--user-data-dir="+filepath.Join(dir, "profile"), fmt.Sprintf("--window-size=%d,%d", w*across, down),
		"--virtual-time-budget=5000", "--screenshot="+filepath.Join(dir, "theirs.png"), "file://"+dir+"/page.html")
	if out, err := paint.CombinedOutput(); err != nil {
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

// mostOff is the mean difference, of 255, that may lie between two paintings of the same drawing, where each place is held against the
// nearest of nine.
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
					off := math.Abs(float64(r)-float64(r2)) + math.Abs(float64(g)-float64(g2)) + math.Abs(float64(bl)-float64(b2))
					best = min(best, off/3/257)
				}
			}
			sum += best
		}
	}
	return sum / float64(part.Dx()*part.Dy())
}
