package ground

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"amberseal/core/foreign"
	"amberseal/core/foreign/match"
)

// Flags of fields (ISO 32000-1, 12.7.3.1 and 12.7.4).
const (
	flagLines   = 1 << 12
	flagRadio   = 1 << 15
	flagPush    = 1 << 16
	flagSeveral = 1 << 21
	flagComb    = 1 << 24
)

// widgetAt is a widget with what it was read from.
type widgetAt struct {
	dict   types.Dict
	number int
	field  int // in Ground.Fields
}

// fieldNode is what a node of the field tree takes from those above it.
type fieldNode struct {
	name  string
	label string
	given types.Dict // FT, Ff, V, DA, Q, MaxLen, Opt
}

// handedDown are entries that fields take from those above them.
var handedDown = []string{"FT", "Ff", "V", "DA", "Q", "MaxLen", "Opt"}

// form reads the fields, and withholds them from what stays without them.
func (t *taking) form(acro types.Dict) error {
	if acro == nil {
		return nil
	}
	fields := t.Array(acro["Fields"])
	if len(fields) == 0 && acro["XFA"] != nil {
		return ErrOtherForm
	}
	above := types.Dict{}
	for _, key := range []string{"DA", "Q"} {
		if acro[key] != nil {
			above[key] = acro[key]
		}
	}
	for _, o := range fields {
		if err := t.field(o, fieldNode{given: above}, acro, 0); err != nil {
			return err
		}
	}
	return nil
}

func (t *taking) field(o types.Object, up fieldNode, acro types.Dict, depth int) error {
	number, d := foreign.NumberOf(o), t.Dict(o)
	if d == nil || number == 0 || t.withheld[number] {
		return nil
	}
	if len(t.out.Fields) >= MaxFields || depth > maxDepth {
		return fmt.Errorf("the PDF has more than %d fields", MaxFields)
	}
	t.withheld[number] = true
	node := fieldNode{up.name, up.label, types.Dict{}}
	for _, key := range handedDown {
		if v := d[key]; v != nil {
			node.given[key] = v
		} else if v := up.given[key]; v != nil {
			node.given[key] = v
		}
	}
	if own := t.Text(d["T"]); own != "" {
		node.name = strings.TrimPrefix(up.name+"."+own, ".")
	}
	if label := t.Text(d["TU"]); label != "" {
		node.label = label
	}
	var widgets []types.Object
	if t.Name(d["Subtype"]) == "Widget" {
		widgets = append(widgets, o)
	}
	for _, k := range t.Array(d["Kids"]) {
		kid := t.Dict(k)
		if kid == nil {
			continue
		}
		if kid["T"] == nil && t.Name(kid["Subtype"]) == "Widget" && kid["Kids"] == nil {
			widgets = append(widgets, k)
			continue
		}
		if err := t.field(k, node, acro, depth+1); err != nil {
			return err
		}
	}
	if len(widgets) == 0 {
		return nil
	}
	return t.leaf(number, node, widgets, acro)
}

// leaf reads a field that stands on pages.
func (t *taking) leaf(number int, n fieldNode, widgets []types.Object, acro types.Dict) error {
	flags := int(t.Number(n.given["Ff"]))
	f := Field{
		Name: n.name, Label: n.label, Object: number, Lines: flags&flagLines != 0, Most: int(t.Number(n.given["MaxLen"])),
		Several: flags&flagSeveral != 0,
	}
	switch t.Name(n.given["FT"]) {
	case "Tx":
		f.Kind, f.Value = match.Text, t.Text(n.given["V"])
		if f.Comb = 0; flags&flagComb != 0 && f.Most > 0 {
			f.Comb = f.Most
		}
	case "Ch":
		f.Kind, f.Value = match.List, t.Text(n.given["V"])
	case "Sig":
		if f.Kind = match.Signature; n.given["V"] != nil {
			return ErrSigned
		}
	case "Btn":
		switch f.Value = t.Name(n.given["V"]); {
		case flags&flagPush != 0:
			f.Kind = match.Button
		case flags&flagRadio != 0:
			f.Kind = match.Radio
		default:
			f.Kind = match.Tick
		}
	default:
		return nil
	}
	options := t.Array(n.given["Opt"])
	for _, o := range options {
		x := Option{t.Text(o), t.Text(o)}
		if pair := t.Array(o); len(pair) == 2 {
			x = Option{t.Text(pair[0]), t.Text(pair[1])}
		}
		if f.Kind == match.List {
			f.Options = append(f.Options, x)
		}
	}
	for i, o := range widgets {
		w, ok := t.widget(o, n, acro, f.Kind)
		if !ok {
			continue
		}
		if f.Kind == match.Radio || f.Kind == match.Tick {
			words := w.State
			if at, err := strconv.Atoi(w.State); i < len(options) && (err != nil || at == i) {
				words = t.Text(options[i])
			}
			f.Options = append(f.Options, Option{w.State, words})
		}
		f.Widgets = append(f.Widgets, w)
		t.widgets = append(t.widgets, widgetAt{t.Dict(o), foreign.NumberOf(o), len(t.out.Fields)})
	}
	if len(f.Widgets) > 0 {
		t.out.Fields = append(t.out.Fields, f)
	}
	return nil
}

// widget reads where a field stands. It is nowhere where its page is not one of the file’s.
func (t *taking) widget(o types.Object, n fieldNode, acro types.Dict, kind match.Kind) (w Widget, ok bool) {
	number, d := foreign.NumberOf(o), t.Dict(o)
	if number == 0 {
		return w, false
	}
	t.withheld[number] = true
	at, ok := t.pageOfWidget(number, d)
	rect, square := t.Box(d["Rect"])
	if !ok || !square {
		return w, false
	}
	p := t.pages[at]
	w = Widget{Page: at, Box: p.seen(rect), Rect: rect, Align: int(t.Number(n.given["Q"]))}
	if flags := int(t.Number(d["F"])); flags&2 != 0 || flags&32 != 0 { // hidden, or never seen (12.5.3)
		w.Hidden = true
	}
	da := t.Text(n.given["DA"])
	if own := t.Text(d["DA"]); own != "" {
		da = own
	}
	t.appearance(&w, da, acro)
	looks := t.Dict(d["MK"])
	w.Fill, w.Border = t.colour(looks["BG"]), t.colour(looks["BC"])
	w.Turn = ((int(t.Number(looks["R"]))-p.Turn)%360 + 360) % 360
	if w.Border != nil {
		w.Rule = 1
		if bs := t.Dict(d["BS"]); bs["W"] != nil {
			w.Rule = t.Number(bs["W"])
		} else if b := t.Numbers(d["Border"]); len(b) >= 3 {
			w.Rule = b[2]
		}
	}
	if kind == match.Tick || kind == match.Radio {
		for _, state := range keys(t.Dict(t.Dict(d["AP"])["N"])) {
			if state != "Off" {
				w.State = state
			}
		}
		if w.State == "" {
			w.State = "Yes"
		}
	}
	return w, true
}

func (t *taking) pageOfWidget(number int, d types.Dict) (int, bool) {
	if at, ok := t.pageOf[foreign.NumberOf(d["P"])]; ok {
		return at, true
	}
	for i, p := range t.pages { // an entry P may be missing
		for _, o := range t.Array(p.dict["Annots"]) {
			if foreign.NumberOf(o) == number {
				return i, true
			}
		}
	}
	return 0, false
}

// appearance reads in which type a field is set (12.7.3.3).
func (t *taking) appearance(w *Widget, da string, acro types.Dict) {
	words := strings.Fields(da)
	number := func(i int) float64 {
		v, err := strconv.ParseFloat(words[i], 64)
		if i < 0 || err != nil || math.IsNaN(v) {
			return 0
		}
		return v
	}
	for i, op := range words {
		switch {
		case op == "Tf" && i >= 2:
			name := strings.TrimPrefix(words[i-2], "/")
			w.Size, w.Font = max(number(i-1), 0), name
			if font := t.Dict(t.Dict(t.Dict(acro["DR"])["Font"])[name]); font != nil {
				w.Font = t.Name(font["BaseFont"])
			}
		case op == "g" && i >= 1:
			v := level(number(i - 1))
			w.Ink = [3]uint8{v, v, v}
		case op == "rg" && i >= 3:
			w.Ink = [3]uint8{level(number(i - 3)), level(number(i - 2)), level(number(i - 1))}
		case op == "k" && i >= 4:
			w.Ink = mixed(number(i-4), number(i-3), number(i-2), number(i-1))
		}
	}
}

func level(v float64) uint8 { return uint8(math.Round(min(max(v, 0), 1) * 255)) }

// mixed is a colour of four inks, roughly (ISO 32000-1, 10.3.5).
func mixed(c, m, y, k float64) [3]uint8 {
	return [3]uint8{level(1 - min(1, c+k)), level(1 - min(1, m+k)), level(1 - min(1, y+k))}
}

func (t *taking) colour(o types.Object) *[3]uint8 {
	var c [3]uint8
	switch v := t.Numbers(o); len(v) {
	case 1:
		c = [3]uint8{level(v[0]), level(v[0]), level(v[0])}
	case 3:
		c = [3]uint8{level(v[0]), level(v[1]), level(v[2])}
	case 4:
		c = mixed(v[0], v[1], v[2], v[3])
	default:
		return nil
	}
	return &c
}

// looks keeps how fields look at present, and ticks where they are ticked: what nothing is filled into stays as it is.
func (t *taking) looks() {
	count := map[int]int{}
	for _, x := range t.widgets {
		f := &t.out.Fields[x.field]
		w := &f.Widgets[count[x.field]]
		count[x.field]++
		normal := t.Object(t.Dict(x.dict["AP"])["N"])
		if _, ok := normal.(types.StreamDict); ok {
			w.Look = t.look(t.Dict(x.dict["AP"])["N"], w.Rect)
			continue
		}
		states, _ := normal.(types.Dict)
		state := t.Name(x.dict["AS"])
		if states[state] != nil {
			w.Look = t.look(states[state], w.Rect)
		}
		if states["Off"] != nil {
			w.Off = t.look(states["Off"], w.Rect)
		}
		if states[w.State] != nil {
			w.On = t.look(states[w.State], w.Rect)
		}
	}
}

// look keeps an appearance; its box is brought to the widget’s (12.5.5, algorithm 8.1).
func (t *taking) look(o types.Object, rect [4]float64) Look {
	number, d := foreign.NumberOf(o), t.Dict(o)
	box, ok := t.Box(d["BBox"])
	if number == 0 || !ok || d == nil {
		return Look{}
	}
	m := [6]float64{1, 0, 0, 1, 0, 0}
	if v := t.Numbers(d["Matrix"]); len(v) == 6 {
		copy(m[:], v)
	}
	x0, y0, x1, y1 := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, c := range [4][2]float64{{box[0], box[1]}, {box[2], box[1]}, {box[0], box[3]}, {box[2], box[3]}} {
		x, y := m[0]*c[0]+m[2]*c[1]+m[4], m[1]*c[0]+m[3]*c[1]+m[5]
		x0, y0, x1, y1 = min(x0, x), min(y0, y), max(x1, x), max(y1, y)
	}
	if !(x1-x0 > 0 && y1-y0 > 0) || math.IsInf(x1-x0, 0) || math.IsInf(y1-y0, 0) {
		return Look{}
	}
	sx, sy := (rect[2]-rect[0])/(x1-x0), (rect[3]-rect[1])/(y1-y0)
	if d["Subtype"] == nil { // some writers leave it out, and readers need it where it is painted
		d["Subtype"] = types.Name("Form")
	}
	return Look{t.reserve(number), [6]float64{sx, 0, 0, sy, rect[0] - x0*sx, rect[1] - y0*sy}}
}

// fillable writes what a file holds besides that stays fillable.
func (t *taking) fillable(acro types.Dict) {
	if acro == nil {
		return
	}
	clear(t.withheld)
	base := &t.out.Base
	for _, o := range t.Array(acro["Fields"]) {
		if number := foreign.NumberOf(o); number != 0 && !t.nothing(number) {
			base.Fields = append(base.Fields, t.reserve(number))
		}
	}
	base.Form = string(t.entries(nil, acro, 0, "Fields", "XFA", "NeedAppearances", "SigFlags", "CO"))
	count := map[int]int{}
	for _, x := range t.widgets {
		f := &t.out.Fields[x.field]
		w := &f.Widgets[count[x.field]]
		if count[x.field] == 0 {
			number := f.Object
			f.Object = t.reserve(number)
			f.Entries = string(t.entries(nil, t.Dict(*types.NewIndirectRef(number, 0)), 0, "V", "AP", "AS", "AA", "A", "MaxLen", "I", "RV"))
			if f.Most > 0 {
				f.Entries += fmt.Sprintf(" /MaxLen %d", f.Most)
			}
		}
		count[x.field]++
		w.Object = t.reserve(x.number)
		w.Entries = string(t.entries(nil, x.dict, 0, "V", "AP", "AS", "AA", "A"))
		w.Looks = string(t.entries(nil, only(x.dict, "AP", "AS"), 0))
		w.States = string(t.entries(nil, only(x.dict, "AP"), 0))
		base.Pages[w.Page].Widgets = append(base.Pages[w.Page].Widgets, w.Object)
	}
	t.named()
}

func only(d types.Dict, names ...string) types.Dict {
	out := types.Dict{}
	for _, n := range names {
		if d[n] != nil {
			out[n] = d[n]
		}
	}
	return out
}
