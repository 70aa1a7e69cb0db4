package fromword

import (
	"math"
	"strings"

	"github.com/beevik/etree"
)

// outlinesOf are the lines of a shape of a size in points. known is false where a rectangle stands for a shape that is not drawn here.
func outlinesOf(pr *etree.Element, w, h float64) (out [][]float64, known bool) {
	if own := pr.SelectElement("a:custGeom"); own != nil {
		return ownOutlines(own, w, h)
	}
	kind := "rect"
	adjust := map[string]float64{}
	if e := pr.SelectElement("a:prstGeom"); e != nil {
		kind = e.SelectAttrValue("prst", "rect")
		for _, g := range e.FindElements("a:avLst/a:gd") {
			if s, ok := strings.CutPrefix(g.SelectAttrValue("fmla", ""), "val "); ok {
				if n, ok := figure(s); ok {
					adjust[g.SelectAttrValue("name", "")] = n / 100_000
				}
			}
		}
	}
	return preset(kind, w, h, adjust)
}

// preset is a shape that has a name (20.1.10.56), with the adjustments that it says. Points are parts of the box, walked with the clock.
func preset(kind string, w, h float64, adjust map[string]float64) ([][]float64, bool) {
	of := func(name string, usual float64) float64 {
		if v, ok := adjust[name]; ok {
			return v
		}
		return usual
	}
	poly := func(at ...float64) [][]float64 { // closed
		o := make([]float64, 0, len(at)+2)
		for i := 0; i+1 < len(at); i += 2 {
			o = append(o, at[i]*w, at[i+1]*h)
		}
		return [][]float64{append(o, o[0], o[1])}
	}
	short := min(w, h)
	switch kind {
	case "rect", "flowChartProcess", "textBox":
		return poly(0, 0, 1, 0, 1, 1, 0, 1), true
	case "line", "straightConnector1":
		return [][]float64{{0, 0, w, h}}, true
	case "bentConnector3":
		x := w * of("adj1", 0.5)
		return [][]float64{{0, 0, x, 0, x, h, w, h}}, true
	case "ellipse", "flowChartConnector":
		return [][]float64{arc(nil, w/2, h/2, w/2, h/2, 0, 2*math.Pi)}, true
	case "roundRect", "flowChartAlternateProcess":
		return [][]float64{rounded(w, h, short*min(of("adj", 0.16667), 0.5))}, true
	case "flowChartTerminator":
		return [][]float64{rounded(w, h, short/2)}, true
	case "triangle", "flowChartExtract":
		return poly(of("adj", 0.5), 0, 1, 1, 0, 1), true
	case "rtTriangle":
		return poly(0, 0, 1, 1, 0, 1), true
	case "diamond", "flowChartDecision":
		return poly(0.5, 0, 1, 0.5, 0.5, 1, 0, 0.5), true
	case "parallelogram", "flowChartInputOutput":
		x := of("adj", 0.25) * short / max(w, 0.01)
		return poly(x, 0, 1, 0, 1-x, 1, 0, 1), true
	case "trapezoid":
		x := of("adj", 0.25) * short / max(w, 0.01)
		return poly(x, 0, 1-x, 0, 1, 1, 0, 1), true
	case "homePlate", "pentagonArrow":
		x := 1 - of("adj", 0.5)*short/max(w, 0.01)
		return poly(0, 0, x, 0, 1, 0.5, x, 1, 0, 1), true
	case "chevron":
		x := of("adj", 0.5) * short / max(w, 0.01)
		return poly(0, 0, 1-x, 0, 1, 0.5, 1-x, 1, 0, 1, x, 0.5), true
	case "hexagon":
		x := of("adj", 0.25) * short / max(w, 0.01)
		return poly(x, 0, 1-x, 0, 1, 0.5, 1-x, 1, x, 1, 0, 0.5), true
	case "plus", "mathPlus":
		x, y := of("adj", 0.25)*short/max(w, 0.01), of("adj", 0.25)*short/max(h, 0.01)
		return poly(x, 0, 1-x, 0, 1-x, y, 1, y, 1, 1-y, 1-x, 1-y, 1-x, 1, x, 1, x, 1-y, 0, 1-y, 0, y, x, y), true
	case "rightArrow", "leftArrow":
		y, x := (1-of("adj1", 0.5))/2, 1-of("adj2", 0.5)*short/max(w, 0.01)
		if kind == "leftArrow" {
			return poly(1, y, 1-x, y, 1-x, 0, 0, 0.5, 1-x, 1, 1-x, 1-y, 1, 1-y), true
		}
		return poly(0, y, x, y, x, 0, 1, 0.5, x, 1, x, 1-y, 0, 1-y), true
	case "downArrow", "upArrow":
		x, y := (1-of("adj1", 0.5))/2, 1-of("adj2", 0.5)*short/max(h, 0.01)
		if kind == "upArrow" {
			return poly(x, 1, x, 1-y, 0, 1-y, 0.5, 0, 1, 1-y, 1-x, 1-y, 1-x, 1), true
		}
		return poly(x, 0, x, y, 0, y, 0.5, 1, 1, y, 1-x, y, 1-x, 0), true
	case "star5":
		return [][]float64{star(w, h, 5, 0.382)}, true
	case "leftBracket":
		return [][]float64{{w, 0, 0, 0, 0, h, w, h}}, true
	case "rightBracket":
		return [][]float64{{0, 0, w, 0, w, h, 0, h}}, true
	case "bracketPair":
		r := short * 0.16667
		return [][]float64{{r, 0, 0, 0, 0, h, r, h}, {w - r, 0, w, 0, w, h, w - r, h}}, true
	}
	return poly(0, 0, 1, 0, 1, 1, 0, 1), false
}

// star has corners in turn on two ellipses.
func star(w, h float64, corners int, inner float64) []float64 {
	var out []float64
	for i := range 2*corners + 1 {
		r := 1.0
		if i%2 == 1 {
			r = inner
		}
		sin, cos := math.Sincos(float64(i)*math.Pi/float64(corners) - math.Pi/2)
		out = append(out, w/2+cos*r*w/2, h/2+sin*r*h/2)
	}
	return out
}

func rounded(w, h, r float64) []float64 {
	var out []float64
	out = arc(out, w-r, r, r, r, -math.Pi/2, math.Pi/2)
	out = arc(out, w-r, h-r, r, r, 0, math.Pi/2)
	out = arc(out, r, h-r, r, r, math.Pi/2, math.Pi/2)
	out = arc(out, r, r, r, r, math.Pi, math.Pi/2)
	return append(out, out[0], out[1])
}

// arc adds the points of a part of an ellipse, by angles with the clock.
func arc(out []float64, x, y, rx, ry, from, by float64) []float64 {
	n := max(int(math.Ceil(math.Abs(by)/(math.Pi/24))), 1)
	for i := range n + 1 {
		sin, cos := math.Sincos(from + by*float64(i)/float64(n))
		out = append(out, x+cos*rx, y+sin*ry)
	}
	return out
}

// mostPoints bounds an outline of a file.
const mostPoints = 20_000

// ownOutlines are the paths of a shape that was drawn freely (20.1.9.8).
func ownOutlines(e *etree.Element, w, h float64) (out [][]float64, known bool) {
	known = true
	for _, path := range e.FindElements("a:pathLst/a:path") {
		pw, ph := number(path, "w"), number(path, "h")
		sx, sy := 1.0/emu, 1.0/emu
		if pw > 0 {
			sx = w / pw
		}
		if ph > 0 {
			sy = h / ph
		}
		points := func(step *etree.Element) (at []float64) {
			for _, p := range step.SelectElements("a:pt") {
				x, okX := guided(p.SelectAttrValue("x", ""), pw, ph)
				y, okY := guided(p.SelectAttrValue("y", ""), pw, ph)
				known = known && okX && okY
				at = append(at, x*sx, y*sy)
			}
			return at
		}
		var line []float64
		for _, step := range path.ChildElements() {
			at := points(step)
			n := len(line)
			switch {
			case n > mostPoints:
				return out, false
			case step.Tag == "moveTo" && len(at) == 2:
				if n > 2 {
					out = append(out, line)
				}
				line = at
			case n < 2:
				known = false
			case step.Tag == "lnTo" && len(at) == 2:
				line = append(line, at...)
			case step.Tag == "cubicBezTo" && len(at) == 6:
				line = curve(line, at)
			case step.Tag == "quadBezTo" && len(at) == 4:
				x, y := line[n-2], line[n-1]
				line = curve(line, []float64{
					x + (at[0]-x)*2/3, y + (at[1]-y)*2/3, at[2] + (at[0]-at[2])*2/3, at[3] + (at[1]-at[3])*2/3, at[2], at[3],
				})
			case step.Tag == "arcTo":
				rx, ry := number(step, "wR")*sx, number(step, "hR")*sy
				from, by := number(step, "stAng")/60_000*math.Pi/180, number(step, "swAng")/60_000*math.Pi/180
				sin, cos := math.Sincos(from)
				line = arc(line, line[n-2]-cos*rx, line[n-1]-sin*ry, rx, ry, from, by)
			case step.Tag == "close":
				line = append(line, line[0], line[1])
			}
		}
		if len(line) > 2 {
			out = append(out, line)
		}
	}
	return out, known && len(out) > 0
}

// guided is a number of a path, or one of the names that every shape has (20.1.9.11).
func guided(s string, w, h float64) (float64, bool) {
	switch s {
	case "l", "t":
		return 0, true
	case "r", "w":
		return w, true
	case "b", "h":
		return h, true
	case "hc":
		return w / 2, true
	case "vc":
		return h / 2, true
	}
	return figure(s)
}

func number(e *etree.Element, key string) float64 {
	n, _ := figure(e.SelectAttrValue(key, ""))
	return n
}

// curve adds the points of a cubic curve from where the line ends.
func curve(line, at []float64) []float64 {
	const steps = 12
	x, y := line[len(line)-2], line[len(line)-1]
	for i := 1; i <= steps; i++ {
		t := float64(i) / steps
		u := 1 - t
		line = append(line, u*u*u*x+3*u*u*t*at[0]+3*u*t*t*at[2]+t*t*t*at[4], u*u*u*y+3*u*u*t*at[1]+3*u*t*t*at[3]+t*t*t*at[5])
	}
	return line
}

// closed are the outlines that have an inside.
func closed(outlines [][]float64) (out [][]float64) {
	for _, o := range outlines {
		if len(o) >= 6 {
			out = append(out, o)
		}
	}
	return out
}

// turn mirrors and turns outlines about the middle of their box.
func turn(outlines [][]float64, x *etree.Element, w, h float64) {
	if x == nil {
		return
	}
	yes := func(key string) bool { v := x.SelectAttrValue(key, ""); return v == "1" || v == "true" }
	sin, cos := math.Sincos(number(x, "rot") / 60_000 * math.Pi / 180)
	for _, o := range outlines {
		for i := 0; i+1 < len(o); i += 2 {
			px, py := o[i]-w/2, o[i+1]-h/2
			if yes("flipH") {
				px = -px
			}
			if yes("flipV") {
				py = -py
			}
			o[i], o[i+1] = w/2+px*cos-py*sin, h/2+px*sin+py*cos
		}
	}
}
