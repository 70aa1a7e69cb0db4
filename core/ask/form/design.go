package form

import (
	"encoding/json"
	"regexp"
	"regexp/syntax"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/cockroachdb/apd/v3"

	"amberseal/core/ask/formula"
	"amberseal/core/words/finding"
)

// MaxFields is how many lines a form may have, those of rows counted.
const MaxFields = 20_000

// keyPattern allows one point, so that the fields of two sections can have equal names: owner.name, guardian.name.
var keyPattern = regexp.MustCompile(`^[a-z][a-z0-9_]{0,62}(?:\.[a-z][a-z0-9_]{0,62})?$`)

// notKeys are words of the formula language.
var notKeys = []string{"and", "or", "not", "is", "empty", "contains", "true", "false"}

// designCheck gathers the findings of a form.
type designCheck struct {
	f     Form
	l     finding.List
	names []string
	seen  map[string]bool
	asked int
	exist func(picture string) bool
}

// CheckDesign finds what is wrong with the form itself, before anybody answers it.
// Places begin with form/fields/NAME, or form/fields/#N for a field without a usable key. exists says
// whether a picture of a name is there; nil takes every picture for there.
func (f Form) CheckDesign(exists func(picture string) bool) finding.List {
	c := &designCheck{f: f, seen: map[string]bool{}, exist: exists}
	count := 0
	f.Each(func(string, Field) { count++ })
	if count > MaxFields {
		c.l.Fault("form/fields", "form.too-many-fields")
		return c.l
	}
	c.names = f.Names()
	for i, k := range f.Constants {
		c.key("form/constants", k.Key, i)
		if strings.TrimSpace(k.Value) == "" {
			c.l.Fault("form/constants/"+k.Key, "form.constant-without-value")
		}
	}
	for i, x := range f.Fields {
		c.field(x, x.Key, "", i)
	}
	if c.asked == 0 {
		c.l.Fault("form/fields", "form.asks-nothing")
	}
	f.cycles(&c.l)
	f.copies(&c.l)
	return c.l
}

// key checks a key and gives the place of what has it.
func (c *designCheck) key(at, name string, i int) string {
	place := at + "/" + name
	key := name[strings.LastIndex(name, "/")+1:]
	switch {
	case !keyPattern.MatchString(key):
		place = at + "/#" + strconv.Itoa(i+1)
		c.l.Fault(place, "form.key-unusable", "key", key)
	case slices.Contains(notKeys, key):
		c.l.Fault(place, "form.key-reserved", "key", key)
	case c.seen[key]:
		c.l.Fault(place, "form.key-taken", "key", key)
	}
	c.seen[key] = true
	return place
}

func (c *designCheck) field(x Field, name, rows string, i int) {
	place := c.key("form/fields", name, i)
	if !slices.Contains(Kinds(), x.Kind) {
		c.l.Fault(place, "form.kind-unknown", "kind", x.Kind)
		return
	}
	if x.Label == "" && x.Kind != Page && x.Kind != Hidden {
		c.l.Fault(place, "form.no-label")
	}
	if x.Kind.Asks() && !x.Calculated() {
		c.asked++
	}
	if rows != "" && !x.Kind.InRows() {
		c.l.Fault(place, "form.rows-cannot-hold")
	}
	if check := x.Kind.nature().check; check != nil {
		check(c, x, place)
	}
	c.settings(x, place)
	c.condition(place+"/when", x.When, rows)
	c.condition(place+"/requiredWhen", x.RequiredWhen, rows)
	if x.Calculated() {
		c.formula(x, place, rows)
	}
}

func (c *designCheck) rowsField(x Field, place string) {
	if len(x.Fields) == 0 {
		c.l.Fault(place, "form.rows-ask-nothing-yet")
	}
	if x.Most > MaxRows || x.Most > 0 && x.Least > x.Most || x.Least < 0 {
		c.l.Fault(place, "form.rows-from-to", "least", x.Least, "most", x.MostRows(), "limit", MaxRows)
	}
	for i, column := range x.Fields {
		c.field(column, x.Key+"."+column.Key, x.Key, i)
	}
}

// settings checks what the field's kind can have.
func (c *designCheck) settings(x Field, place string) {
	least, most := c.limit(x, place, x.Min, "least"), c.limit(x, place, x.Max, "greatest")
	if !least.Empty() && !most.Empty() && order(least, most) > 0 {
		c.l.Fault(place, "form.least-over-greatest")
	}
	if x.Step != "" {
		if d, _, err := apd.NewFromString(x.Step); err != nil || d.Sign() <= 0 {
			c.l.Fault(place, "form.step-unusable", "step", x.Step)
		}
	}
	if x.Shortest < 0 || x.Longest < 0 || x.Longest > 0 && x.Shortest > x.Longest {
		c.l.Fault(place, "form.shortest-over-longest")
	}
	if x.Pattern != "" {
		if _, err := pattern(x.Pattern); err != nil {
			c.l.Fault(place+"/pattern", "form.pattern-unreadable", "reason", patternFault(err), "example", "[A-Z]{2}[0-9]{4}")
		}
	}
	if x.About != "" && x.About != AboutSelf && x.About != AboutOther {
		c.l.Fault(place, "form.about-unknown", "about", x.About)
	}
	if x.Mask != "" && !strings.ContainsAny(x.Mask, "#A*") {
		c.l.Fault(place, "form.mask-asks-nothing")
	}
	c.defaultValue(x, place)
	if x.Currency != "" && !regexp.MustCompile(`^[A-Z]{3}$`).MatchString(x.Currency) {
		c.l.Fault(place, "form.currency-unusable")
	}
	for _, e := range x.Accept {
		if !slices.Contains(Endings(), e) {
			c.l.Fault(place, "form.ending-unknown", "ending", e, "endings", strings.Join(Endings(), ", "))
		}
	}
	if x.Kind.Filed() && (x.Most > MaxFiles || x.Least > x.MostFiles() || x.Largest > MaxLargest || x.Largest < 0) {
		c.l.Fault(place, "form.files-too-many-or-large", "files", MaxFiles, "megabytes", MaxLargest)
	}
	known := AddressParts
	if x.Kind == Name {
		known = NameParts
	}
	for _, p := range x.Parts {
		if !slices.Contains(known, p) {
			c.l.Fault(place, "form.part-unknown", "part", p, "known", strings.Join(known, ", "))
		}
	}
}

// patternFault says what is wrong with a regular expression without the brackets we put around it.
func patternFault(err error) string {
	if e, ok := err.(*syntax.Error); ok {
		return e.Code.String()
	}
	return err.Error()
}

func (c *designCheck) limit(x Field, place, s, which string) Value {
	v := Circumstances{Now: time.Unix(0, 0).UTC()}.bound(x, s, 0)
	if s != "" && v.Empty() {
		c.l.Fault(place, "form.bound-not-a-value", "which", which, "name", s)
	}
	if strings.HasPrefix(s, "@") {
		return Value{} // moves with the days
	}
	return v
}

func (c *designCheck) defaultValue(x Field, place string) {
	d := x.Default
	switch {
	case d == Default{}:
	case d.From != "" && !slices.Contains([]DefaultFrom{FromToday, FromNow, FromPerson, FromLink}, d.From):
		c.l.Fault(place, "form.beginning-unknown", "from", d.From)
	case d.From == FromLink && d.Name == "":
		c.l.Fault(place, "form.parameter-without-name")
	case d.From != "":
	case x.DefaultRaw() == nil:
		c.l.Fault(place, "form.default-unusable", "value", d.Value)
	default:
		if _, problem := (Circumstances{}).read(x, x.DefaultRaw()); problem != "" {
			c.l.Fault(place, "form.default-refused", "problem", problem)
		}
	}
}

// DefaultRaw is a default value as an answer, or nil for none and for one that depends on who asks and when.
func (f Field) DefaultRaw() json.RawMessage {
	value := f.Default.Value
	if value == "" || f.Default.From != "" {
		return nil
	}
	var v any = value
	switch f.Kind.Shape() {
	case Truth:
		v = value == "true" || value == "yes"
	case Several:
		var list []string
		for part := range strings.SplitSeq(value, ",") {
			list = append(list, strings.TrimSpace(part))
		}
		v = list
	case Parts, Files, Drawn, Repeated:
		return nil
	}
	raw, err := json.Marshal(v)
	if err != nil {
		return nil
	}
	return raw
}

// condition checks a formula that decides.
func (c *designCheck) condition(place, src, rows string) {
	if src == "" {
		return
	}
	for _, p := range c.f.CheckFormula(src, rows) {
		p.Place = place
		c.l = append(c.l, p)
	}
}

// CheckFormula finds the faults of a formula used in the form, or in one of its rows: each with the column and a mend.
func (f Form) CheckFormula(src, rows string) finding.List {
	l, _ := f.typed(src, rows)
	return l
}

// unchosen is a condition that was begun and says nothing yet.
const unchosen = "?"

// copies finds questions that would share one box of a fillable copy, where the parts of an answer are named KEY.PART
// (ISO 32000-1, 12.7.3.2: one name is one field).
func (f Form) copies(l *finding.List) {
	boxes := map[string]string{}
	f.Each(func(name string, x Field) {
		var parts []string
		switch x.Kind.Shape() {
		case Parts:
			parts = slices.Clone(x.AskedParts())
		case Several:
			for _, c := range x.Choices {
				parts = append(parts, c.Value)
			}
		}
		for _, p := range parts {
			boxes[name+"."+p] = name
		}
	})
	f.Each(func(name string, _ Field) {
		if other := boxes[name]; other != "" {
			l.Fault("form/fields/"+name, "form.copy-shares-box", "other", other)
		}
	})
}

// cycles finds fields whose conditions and formulas refer to each other in a circle.
func (f Form) cycles(l *finding.List) {
	uses := f.Uses()
	const fresh, open, done = 0, 1, 2
	state := map[string]int{}
	var path []string
	var visit func(name string)
	visit = func(name string) {
		switch state[name] {
		case done:
			return
		case open:
			circle := append(slices.Clone(path[slices.Index(path, name):]), name)
			code := "form.value-depends-on-itself"
			if len(circle) == 2 {
				code = "form.field-depends-on-itself"
			}
			l.Fault("form/fields/"+name, code, "name", name, "circle", strings.Join(circle, " → "))
			return
		}
		state[name] = open
		path = append(path, name)
		for _, next := range uses[name] {
			visit(next)
		}
		path = path[:len(path)-1]
		state[name] = done
	}
	f.Each(func(name string, _ Field) { visit(name) })
}

// Uses lists, for every field, the fields that its value or showing depends on.
func (f Form) Uses() map[string][]string {
	out := map[string][]string{}
	add := func(name, src, rows string) {
		if src == "" {
			return
		}
		tree, err := formula.Parse(src)
		if err != nil {
			return
		}
		for _, r := range tree.References() {
			if full, ok := f.Resolve(r.Name, rows); ok {
				out[name] = append(out[name], full)
			}
		}
	}
	var page, section string
	for _, x := range f.Fields {
		switch x.Kind {
		case Page:
			page, section = x.Key, ""
		case Section:
			section = x.Key
			if page != "" {
				out[x.Key] = append(out[x.Key], page)
			}
		default:
			for _, heading := range []string{page, section} {
				if heading != "" {
					out[x.Key] = append(out[x.Key], heading)
				}
			}
		}
		add(x.Key, x.When, "")
		add(x.Key, x.Formula, "")
		for _, column := range x.Fields {
			name := x.Key + "." + column.Key
			out[name] = append(out[name], x.Key)
			add(name, column.When, x.Key)
			add(name, column.Formula, x.Key)
		}
	}
	return out
}

// ruleReferences lists the full names that conditions, rules of what is required and formulas read.
func (f Form) ruleReferences() []string {
	var out []string
	read := func(rows string, sources ...string) {
		for _, src := range sources {
			if src == "" {
				continue
			}
			tree, err := formula.Parse(src)
			if err != nil {
				continue
			}
			for _, r := range tree.References() {
				full, _ := f.Resolve(r.Name, rows)
				out = append(out, full)
			}
		}
	}
	for _, x := range f.Fields {
		read("", x.When, x.RequiredWhen, x.Formula)
		for _, column := range x.Fields {
			read(x.Key, column.When, column.RequiredWhen, column.Formula)
		}
	}
	return out
}

// Resolve gives the full name of what a formula in the form, or in its rows, refers to.
func (f Form) Resolve(name, rows string) (string, bool) {
	if rows != "" {
		if _, ok := f.Field(rows + "." + name); ok {
			return rows + "." + name, true
		}
	}
	_, ok := f.Field(name)
	return name, ok
}

func (c *designCheck) picture(name, place string) {
	switch {
	case name == "":
		c.l.Fault(place, "form.no-picture-chosen")
	case c.exist != nil && !c.exist(name):
		c.l.Fault(place, "form.picture-is-gone", "name", name)
	}
}

func (c *designCheck) choices(x Field, place string) {
	if len(x.Choices) == 0 {
		c.l.Fault(place, "form.no-choices")
	}
	seen := make(map[string]bool, len(x.Choices))
	for _, choice := range x.Choices {
		if choice.Value == "" || choice.Label == "" {
			c.l.Fault(place, "form.choice-empty")
		} else if seen[choice.Value] {
			c.l.Fault(place, "form.choice-stands-twice", "label", choice.Label)
		}
		seen[choice.Value] = true
	}
}

// pictured checks choices that are shown as pictures.
func (c *designCheck) pictured(x Field, place string) {
	c.choices(x, place)
	for _, choice := range x.Choices {
		switch {
		case choice.Picture == "":
			c.l.Notice(place, "form.choice-no-picture", "label", choice.Label)
		case c.exist != nil && !c.exist(choice.Picture):
			c.l.Fault(place, "form.choice-picture-is-gone", "label", choice.Label)
		}
	}
}
