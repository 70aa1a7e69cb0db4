package schema_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os/exec"
	"regexp"
	"regexp/syntax"
	"strings"
	"testing"
	"unicode"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"amberseal/core/ask/form"
	"amberseal/core/ask/schema"
)

func ExampleRead() {
	title, fields, err := schema.Read(
		[]byte(
			`{"title": "Booking", "type": "object", "required": ["day"], "properties": {"day": {"type": "string", "format": "date", ` +
				`"title": "Which day?"}}}`,
		),
	)
	fmt.Println(title, fields[0].Kind, fields[0].Label, fields[0].Required, err)
	// Output: Booking date Which day? true <nil>
}

// A form's schema takes what the form takes and refuses what it refuses, by a general-purpose validator; read back, it gives
// the same kinds.
func TestTheSchemaIsTheForm(t *testing.T) {
	f := form.Form{Fields: []form.Field{
		{
			Key:      "name",
			Kind:     form.ShortText,
			Label:    "Name",
			Required: true,
			Settings: form.Settings{Longest: 5},
		}, {Key: "day", Kind: form.Date, Label: "Day"},
		{Key: "many", Kind: form.WholeNumber, Label: "How many", Settings: form.Settings{Min: "1", Max: "9"}},
		{
			Key:      "which",
			Kind:     form.OneOf,
			Label:    "Which",
			Settings: form.Settings{Choices: []form.Choice{{Value: "a", Label: "A"}, {Value: "b", Label: "B"}}},
		},
		{
			Key:      "rows",
			Kind:     form.Rows,
			Label:    "Rows",
			Settings: form.Settings{Most: 2, Fields: []form.Field{{Key: "what", Kind: form.ShortText, Label: "What"}}},
		},
	}}
	data, err := schema.Write("Test", f)
	if err != nil {
		t.Fatal(err)
	}
	described, err := jsonschema.UnmarshalJSON(bytes.NewReader(data))
	if err != nil {
		t.Fatal(err)
	}
	c := jsonschema.NewCompiler()
	if err := c.AddResource("form.json", described); err != nil {
		t.Fatal(err)
	}
	s, err := c.Compile("form.json")
	if err != nil {
		t.Fatal(err)
	}
	for answers, fine := range map[string]bool{
		`{"name":"Ada","day":"2026-11-24","which":"a","rows":[{"what":"x"}]}`: true, `{"name":"Ada"}`: true,
		`{}`: false, `{"name":"Adamantine"}`: false, `{"name":"Ada","which":"c"}`: false, `{"name":"Ada","rows":[{},{},{}]}`: false,
		`{"name":"Ada","day":7}`: false,
	} {
		v, err := jsonschema.UnmarshalJSON(bytes.NewReader([]byte(answers)))
		if err != nil {
			t.Fatal(err)
		}
		if err := s.Validate(v); (err == nil) != fine {
			t.Errorf("%s: %v", answers, err)
		}
	}
	_, back, err := schema.Read(data)
	if err != nil || len(back) != len(f.Fields) {
		t.Fatal(back, err)
	}
	for i, x := range back {
		if x.Kind != f.Fields[i].Kind || x.Label != f.Fields[i].Label || x.Required != f.Fields[i].Required {
			t.Errorf("%s came back as %+v", f.Fields[i].Key, x)
		}
	}
}

// A pattern means the same to ECMA-262, which readers of a schema use with its u flag, as to the form: Node's engine against Go's
// on texts of chance.
func TestPatternsMeanTheSameInECMA(t *testing.T) {
	patterns := []string{
		`(?i)ab+`, `[a-z]{2,4}`, `\d{3}-\d{2}`, `[A-Z]\d+|x\.y`, `(?i:straße)x?`, `[[:alpha:]]+`, `\p{Greek}+`, `\pL\d`, `[^\d\s]+`,
		`a\-b`, `(?P<n>ab|c)+?b`, `\Qa.b\E`, `.\S*`, `[\]\-^]x`, `a/b`, `😀?`, `(a|b|)c`, `\x41\x{42}`, `x{2}`, `x{2,}`,
	}
	letters := []rune("abcABCxyzS-/.]^[1230 ßſKαωΔ😀é_")
	r := rand.New(rand.NewPCG(3, 9))
	var cases []map[string]any
	for i, p := range patterns {
		f := form.Form{Fields: []form.Field{{Key: "x", Kind: form.ShortText, Label: "X", Settings: form.Settings{Pattern: p}}}}
		data, err := schema.Write("T", f)
		if err != nil {
			t.Fatal(err)
		}
		var written struct {
			Properties struct{ X struct{ Pattern string } }
		}
		if err := json.Unmarshal(data, &written); err != nil || written.Properties.X.Pattern == "" {
			t.Fatalf("%s is written as %q (%v)", p, written.Properties.X.Pattern, err)
		}
		_, back, err := schema.Read(data)
		if err != nil || back[0].Pattern != p {
			t.Errorf("%s comes back as %s (%v)", p, back[0].Pattern, err)
		}
		re := regexp.MustCompile("^(?:" + p + ")$")
		tree, _ := syntax.Parse(p, syntax.Perl)
		for n := range 200 {
			text := []rune{}
			for range r.IntN(6) {
				text = append(text, letters[r.IntN(len(letters))])
			}
			if n < 100 {
				text = []rune(chance(r, tree))
			}
			cases = append(
				cases,
				map[string]any{"i": i, "pattern": written.Properties.X.Pattern, "text": string(text), "fits": re.MatchString(string(text))},
			)
		}
	}
	given, err := json.Marshal(cases)
	if err != nil {
		t.Fatal(err)
	}
	cmd := exec.Command("node", "-e", `const c = JSON.parse(require('fs').readFileSync(0, 'utf8'));
for (const x of c) if (new RegExp(x.pattern, 'u').test(x.text) !== x.fits) console.log(x.i, x.pattern, JSON.stringify(x.text), x.fits)`)
	cmd.Stdin = bytes.NewReader(given)
	out, err := cmd.CombinedOutput()
	if err != nil || len(out) > 0 {
		t.Errorf("%v\n%s", err, out)
	}
}

// chance writes a text that fits a pattern.
func chance(r *rand.Rand, n *syntax.Regexp) string {
	var b strings.Builder
	times := func(least, most int) {
		for range least + r.IntN(most-least+1) {
			b.WriteString(chance(r, n.Sub[0]))
		}
	}
	switch n.Op {
	case syntax.OpLiteral:
		for _, c := range n.Rune {
			if n.Flags&syntax.FoldCase != 0 && r.IntN(2) == 0 {
				c = unicode.SimpleFold(c)
			}
			b.WriteRune(c)
		}
	case syntax.OpCharClass:
		i := r.IntN(len(n.Rune)/2) * 2
		b.WriteRune(n.Rune[i] + r.Int32N(n.Rune[i+1]-n.Rune[i]+1))
	case syntax.OpAnyCharNotNL, syntax.OpAnyChar:
		b.WriteRune('q')
	case syntax.OpCapture:
		return chance(r, n.Sub[0])
	case syntax.OpConcat:
		for _, s := range n.Sub {
			b.WriteString(chance(r, s))
		}
	case syntax.OpAlternate:
		return chance(r, n.Sub[r.IntN(len(n.Sub))])
	case syntax.OpStar:
		times(0, 2)
	case syntax.OpPlus:
		times(1, 2)
	case syntax.OpQuest:
		times(0, 1)
	case syntax.OpRepeat:
		times(n.Min, max(n.Max, n.Min))
	}
	return b.String()
}

// What a schema has no words for survives the way there and back.
func TestSettingsComeBack(t *testing.T) {
	fields := []form.Field{
		{
			Key:      "plate",
			Kind:     form.ShortText,
			Label:    "Plate",
			Settings: form.Settings{Mask: "AA-###"},
		}, {Key: "price", Kind: form.Money, Label: "Price", Settings: form.Settings{Currency: "CHF", Min: "1", Step: "0.05"}},
		{
			Key:      "note",
			Kind:     form.ShortText,
			Label:    "Note",
			Settings: form.Settings{Shortest: 1},
		}, {Key: "lines", Kind: form.Rows, Label: "Lines", Required: true,
			Settings: form.Settings{Fields: []form.Field{{Key: "n", Kind: form.WholeNumber, Label: "N"}}}},
		{Key: "papers", Kind: form.Upload, Label: "Papers", Required: true, Settings: form.Settings{Least: 2}},
	}
	data, err := schema.Write("T", form.Form{Fields: fields})
	if err != nil {
		t.Fatal(err)
	}
	_, back, err := schema.Read(data)
	if err != nil {
		t.Fatal(err)
	}
	for i, x := range fields {
		b := back[i]
		if b.Mask != x.Mask || b.Currency != x.Currency || b.Step != x.Step || b.Shortest != x.Shortest || b.Least != x.Least ||
			b.Required != x.Required {
			t.Errorf("%+v came back as %+v", x, b)
		}
	}
}
