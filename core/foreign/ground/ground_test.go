package ground_test

import (
	"bytes"
	"errors"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"amberseal/core/ask/form"
	"amberseal/core/foreign/ground"
	"amberseal/core/foreign/match"
)

func file(t testing.TB, name string) []byte {
	t.Helper()
	data, err := os.ReadFile(filepath.Join("testdata", name))
	if err != nil {
		t.Fatal(err)
	}
	return data
}

func take(t testing.TB, name string) *ground.Ground {
	t.Helper()
	g, err := ground.Take(file(t, name))
	if err != nil {
		t.Fatal(err)
	}
	return g
}

func TestWhatNothingCanBePrintedOver(t *testing.T) {
	for name, want := range map[string]error{"signed.pdf": ground.ErrSigned, "locked.pdf": ground.ErrProtected,
		"xfa.pdf": ground.ErrOtherForm} {
		if _, err := ground.Take(file(t, name)); !errors.Is(err, want) {
			t.Errorf("%s: %v", name, err)
		}
	}
	whole := file(t, "hand.pdf")
	for name, data := range map[string][]byte{
		"nothing": nil, "another": []byte("PK\x03\x04"), "cut": whole[:len(whole)/2],
		"vast": bytes.Replace(whole, []byte("/Size "), []byte("/Size 9999"), 1),
	} {
		if g, err := ground.Take(data); err == nil && len(g.Base.Pages) == 0 {
			t.Errorf("%s: nothing is said", name)
		}
	}
}

// What a form says of its fields is read through the tree of their names; a turned page is seen as readers show it.
func TestFieldsOfAForm(t *testing.T) {
	g := take(t, "hand.pdf")
	born, ok := g.Field("born")
	if !ok || born.Comb != 8 || born.Widgets[0].Fill == nil || born.Widgets[0].Size != 14 || born.Widgets[0].Rule != 0.5 {
		t.Errorf("%+v", born)
	}
	given, _ := g.Field("holder.given")
	if w := given.Widgets[0]; given.Kind != match.Text || w.Ink != [3]uint8{0, 0, 128} || w.Font != "Helvetica" {
		t.Errorf("%+v", given)
	}
	kind, _ := g.Field("kind")
	if fmt.Sprint(kind.Options) != "[{0 A new policy} {1 A renewal}]" {
		t.Error(kind.Options)
	}
	serial, _ := g.Field("serial")
	if len(serial.Widgets) != 2 || serial.Widgets[1].Page != 1 || serial.Widgets[1].Align != 2 {
		t.Fatalf("%+v", serial)
	}
	// Page 2 shows 50..545 by 40..802, turned: its left edge is at the top.
	if b := serial.Widgets[1].Box; b != (ground.Box{X: 60, Y: 50, W: 20, H: 120}) || serial.Widgets[1].Turn != 270 {
		t.Errorf("%+v, turned by %d", b, serial.Widgets[1].Turn)
	}
	if p := g.Base.Pages[1]; p.Width != 762 || p.Height != 495 {
		t.Error(p.Width, p.Height)
	}
	if sideways, _ := g.Field("sideways"); sideways.Widgets[0].Turn != 90 {
		t.Error(sideways.Widgets[0].Turn)
	}
	if phone, _ := g.Field("phone"); !phone.Widgets[0].Hidden {
		t.Error("a hidden field is shown")
	}
	var codes []string
	for _, f := range g.Findings {
		codes = append(codes, f.Code)
	}
	if !slices.Equal(codes, []string{"ground.actions-left", "ground.other-form-left", "ground.untagged", "ground.fonts-left"}) {
		t.Error(codes)
	}
	for _, o := range g.Base.Objects {
		if bytes.Contains(o.Body, []byte("JavaScript")) || bytes.Contains(o.Body, []byte("app.alert")) {
			t.Errorf("a script is left: %s", o.Body)
		}
	}
}

// What is kept gives the same form back, and what another version kept is refused.
func TestKeptForms(t *testing.T) {
	kept, err := take(t, "hand.pdf").Encode()
	if err != nil {
		t.Fatal(err)
	}
	g, err := ground.Decode(kept)
	if err != nil || len(g.Fields) != len(take(t, "hand.pdf").Fields) || !ground.Current(kept) {
		t.Fatal(err)
	}
	kept[0]++
	if _, err := ground.Decode(kept); !errors.Is(err, ground.ErrOld) || ground.Current(kept) {
		t.Error(err)
	}
}

// A name finds its field with a part of a day or of an address behind it, with the number of a row, and with a choice.
func TestMeanings(t *testing.T) {
	asked := form.Form{Fields: []form.Field{
		{Key: "holder", Kind: form.Name, Label: "Holder"}, {Key: "begins", Kind: form.Date, Label: "Begins"},
		{Key: "lines", Kind: form.Rows, Label: "Lines", Settings: form.Settings{Fields: []form.Field{{Key: "item", Kind: form.ShortText,
			Label: "Item"}}}},
		{Key: "consent", Kind: form.Consent, Label: "I agree"},
	}}
	g := take(t, "hand.pdf")
	got := map[string]string{}
	for i, m := range g.Meanings(match.For(asked, map[string]match.Match{"notes": match.Read("{{holder|family}}, so it is")}), asked) {
		if m.How != match.None {
			got[g.Fields[i].Name] = fmt.Sprintf("%s %d %s", m.Match.String(), m.Row, m.How)
		}
	}
	for name, want := range map[string]string{
		"holder.given": "{{holder|given}} 0 same key", "begins_dd": "{{begins|dd}} 0 same key", "begins_yyyy": "{{begins|yyyy}} 0 same key",
		"item_1": "lines.item 0 same key", "item_3": "lines.item 2 same key", "consent": "consent 0 same key",
		"notes": "{{holder|family}}, so it is 0 chosen",
	} {
		if got[name] != want {
			t.Errorf("%s is %q, want %q", name, got[name], want)
		}
	}
	if _, ok := got["photo"]; ok {
		t.Error("a field has a match that nothing gives")
	}
}

// A form's fields become questions, and each is matched with its own.
func TestQuestionsOfAForm(t *testing.T) {
	for name, want := range map[string]string{
		"hand.pdf": "holder name, born date, serial short_text, email email, phone phone, lines rows 2, begins date, kind one_of 2, " +
			"consent yes_no, notes long_text, place one_of 2, signature signature, photo photo, sideways short_text, remark long_text",
		"reportlab.pdf": "holder short_text, born date, email email, telephone phone, address address, worth money, notes long_text, " +
			"cover several_of 3, kind one_of 2, paid one_of 2",
	} {
		g := take(t, name)
		asked := g.Questions()
		var got []string
		for _, x := range asked.Fields {
			s := x.Key + " " + string(x.Kind)
			if n := len(x.Fields) + len(x.Choices); n > 0 {
				s += fmt.Sprintf(" %d", n)
			}
			got = append(got, s)
		}
		if all := strings.Join(got, ", "); all != want {
			t.Errorf("%s asks\n%s\nwant\n%s", name, all, want)
		}
		f := form.Form{Fields: asked.Fields}
		for i, m := range g.Meanings(match.For(f, asked.Matches), f) {
			chosen := name == "hand.pdf" || g.Fields[i].Kind != match.Tick || m.Choice != ""
			if m.How == match.None || !chosen {
				t.Errorf("%s: nothing is matched with %s", name, g.Fields[i].Name)
			}
		}
	}
}

// The rules and boxes of a page are those that its maker drew, in points from the upper left corner.
func TestRules(t *testing.T) {
	g := take(t, "flat.pdf")
	has := func(want ground.Box) bool {
		return slices.ContainsFunc(g.Rules[0], func(b ground.Box) bool {
			near := func(x, y float64) bool { return math.Abs(x-y) < 0.2 }
			return near(b.X, want.X) && near(b.Y, want.Y) && near(b.W, want.W) && near(b.H, want.H)
		})
	}
	const high = 841.89
	for _, want := range []ground.Box{{X: 140, Y: high - 727, W: 280}, {X: 140, Y: high - 629, W: 14, H: 14}, {X: 60, Y: high - 590,
		W: 400, H: 90},
		{X: 300, Y: high - 590, H: 90}} {
		if !has(want) {
			t.Errorf("%+v is not found in %+v", want, g.Rules[0])
		}
	}
}

// A form of 2,000 fields is taken apart, one of more than is taken refused.
func TestManyFields(t *testing.T) {
	for n, ok := range map[int]bool{2_000: true, ground.MaxFields + 1: false} {
		g, err := ground.Take(many(n))
		if ok != (err == nil) || ok && len(g.Fields) != n {
			t.Errorf("%d fields: %v", n, err)
		}
	}
}

// many is a form of so many fields, each of its own.
func many(n int) []byte {
	var b bytes.Buffer
	var at []int
	put := func(format string, args ...any) {
		at = append(at, b.Len())
		fmt.Fprintf(&b, "%d 0 obj\n"+format+"\nendobj\n", append([]any{len(at)}, args...)...)
	}
	b.WriteString("%PDF-1.7\n")
	refs := make([]string, n)
	for i := range refs {
		refs[i] = fmt.Sprintf("%d 0 R", 4+i)
	}
	all := strings.Join(refs, " ")
	put("<</Type /Catalog /Pages 2 0 R /AcroForm <</Fields [%s]>>>>", all)
	put("<</Type /Pages /Count 1 /Kids [3 0 R]>>")
	put("<</Type /Page /Parent 2 0 R /MediaBox [0 0 600 800] /Annots [%s]>>", all)
	for i := range n {
		put("<</Type /Annot /Subtype /Widget /FT /Tx /T (field %d) /P 3 0 R /Rect [%d %d %d %d]>>",
			i, i%50*10, i/50*10, i%50*10+9, i/50*10+9)
	}
	start := b.Len()
	fmt.Fprintf(&b, "xref\n0 %d\n0000000000 65535 f \n", len(at)+1)
	for _, x := range at {
		fmt.Fprintf(&b, "%010d 00000 n \n", x)
	}
	fmt.Fprintf(&b, "trailer <</Size %d /Root 1 0 R>>\nstartxref\n%d\n%%%%EOF\n", len(at)+1, start)
	return b.Bytes()
}

func FuzzTake(f *testing.F) {
	for _, name := range []string{"hand.pdf", "reportlab.pdf", "flat.pdf", "pdflib.pdf"} {
		f.Add(file(f, name))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		g, err := ground.Take(data)
		if err != nil {
			return
		}
		kept, err := g.Encode()
		if err != nil {
			t.Fatal(err)
		}
		if _, err := ground.Decode(kept); err != nil {
			t.Fatal(err)
		}
	})
}
