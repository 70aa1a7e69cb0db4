package form

import (
	"encoding/json"
	"fmt"
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
		c.l.Fault("form/fields", "The form has more than 20,000 fields.", "Split it into several intakes.")
		return c.l
	}
	c.names = f.Names()
	for i, k := range f.Constants {
		c.key("form/constants", k.Key, i)
		if strings.TrimSpace(k.Value) == "" {
			c.l.Fault("form/constants/"+k.Key, "The constant has no value.", "Write a number such as 0.10 or 10%.")
		}
	}
	for i, x := range f.Fields {
		c.field(x, x.Key, "", i)
	}
	if c.asked == 0 {
		c.l.Fault("form/fields", "The form asks nothing yet.", "Type a question.")
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
		c.l.Fault(
			place, "The key “"+key+"” cannot be used.",
			"A key begins with a letter a to z and has only small letters, digits and underscores, at most 63; one point may part it.",
		)
	case slices.Contains(notKeys, key):
		c.l.Fault(place, "The key “"+key+"” is a word of formulas.", "Choose another key.")
	case c.seen[key]:
		c.l.Fault(place, "Two fields have the key “"+key+"”.", "Give one of them another key.")
	}
	c.seen[key] = true
	return place
}

func (c *designCheck) field(x Field, name, rows string, i int) {
	place := c.key("form/fields", name, i)
	if !slices.Contains(Kinds(), x.Kind) {
		c.l.Fault(place, "There is no kind of field called “"+string(x.Kind)+"”.", "Choose one of the kinds.")
		return
	}
	if x.Label == "" && x.Kind != Page && x.Kind != Hidden {
		c.l.Fault(place, "The field has no label.", "Write the question as people should read it.")
	}
	if x.Kind.Asks() && !x.Calculated() {
		c.asked++
	}
	if rows != "" && !x.Kind.InRows() {
		c.l.Fault(place, "Rows cannot hold this kind of line.", "Move it out of the rows.")
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
		c.l.Fault(place, "The rows ask nothing yet.", "Add a field to them.")
	}
	if x.Most > MaxRows || x.Most > 0 && x.Least > x.Most || x.Least < 0 {
		c.l.Fault(
			place, fmt.Sprintf("From %d to %d rows cannot be.", x.Least, x.MostRows()), fmt.Sprintf("Write a least and a most up to %d.", MaxRows),
		)
	}
	for i, column := range x.Fields {
		c.field(column, x.Key+"."+column.Key, x.Key, i)
	}
}

// settings checks what the field's kind can have.
func (c *designCheck) settings(x Field, place string) {
	least, most := c.limit(x, place, x.Min, "least"), c.limit(x, place, x.Max, "greatest")
	if !least.Empty() && !most.Empty() && order(least, most) > 0 {
		c.l.Fault(place, "The least value is more than the greatest.", "Change one of them.")
	}
	if x.Step != "" {
		if d, _, err := apd.NewFromString(x.Step); err != nil || d.Sign() <= 0 {
			c.l.Fault(place, "The step “"+x.Step+"” is no number above 0.", "Write one such as 0.25.")
		}
	}
	if x.Shortest < 0 || x.Longest < 0 || x.Longest > 0 && x.Shortest > x.Longest {
		c.l.Fault(place, "The shortest length is more than the longest.", "Change one of them.")
	}
	if x.Pattern != "" {
		if _, err := pattern(x.Pattern); err != nil {
			c.l.Fault(place+"/pattern", "The pattern cannot be read: "+patternFault(err)+".", "Write a regular expression such as [A-Z]{2}[0-9]{4}.")
		}
	}
	if x.About != "" && x.About != AboutSelf && x.About != AboutOther {
		c.l.Fault(place, "A question cannot be about “"+x.About+"”.", "Write self or other, or leave it out.")
	}
	if x.Mask != "" && !strings.ContainsAny(x.Mask, "#A*") {
		c.l.Fault(place, "The mask asks for nothing.", "Write # for a digit and A for a letter, such as AA-####.")
	}
	c.defaultValue(x, place)
	if x.Currency != "" && !regexp.MustCompile(`^[A-Z]{3}$`).MatchString(x.Currency) {
		c.l.Fault(place, "A currency has three capital letters.", "Write a code such as EUR.")
	}
	for _, e := range x.Accept {
		if !slices.Contains(Endings(), e) {
			c.l.Fault(place, "Files that end in “"+e+"” are not known.", "Choose among "+strings.Join(Endings(), ", ")+".")
		}
	}
	if x.Kind.Filed() && (x.Most > MaxFiles || x.Least > x.MostFiles() || x.Largest > MaxLargest || x.Largest < 0) {
		c.l.Fault(place, "So many or so large files cannot be taken.", fmt.Sprintf("At most %d files of %d MB fit.", MaxFiles, MaxLargest))
	}
	known := AddressParts
	if x.Kind == Name {
		known = NameParts
	}
	for _, p := range x.Parts {
		if !slices.Contains(known, p) {
			c.l.Fault(place, "There is no part “"+p+"”.", "The parts are "+strings.Join(known, ", ")+".")
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
		c.l.Fault(
			place, "The "+which+" value “"+s+"” is not one this field can have.",
			"Write it as an answer is kept, such as 10, 2026-11-24 or @today.",
		)
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
		c.l.Fault(place, "An answer cannot begin with “"+string(d.From)+"”.", "Write today, now, person or link.")
	case d.From == FromLink && d.Name == "":
		c.l.Fault(place, "The answer begins with a parameter of the link that has no name.", "Write its name, such as source.")
	case d.From != "":
	case x.DefaultRaw() == nil:
		c.l.Fault(place, "The default “"+d.Value+"” is not an answer to this field.", "Write it as an answer is kept.")
	default:
		if _, problem := (Circumstances{}).read(x, x.DefaultRaw()); problem != "" {
			c.l.Fault(place, "The default is not an answer to this field: "+problem, "Change it or leave it out.")
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
			l.Fault("form/fields/"+name, "On a fillable copy it would share a box with a part of “"+other+"”.", "Give it another key.")
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
			message := "The value depends on itself: " + strings.Join(circle, " → ") + "."
			if len(circle) == 2 {
				message = "“" + name + "” depends on itself."
			}
			l.Fault("form/fields/"+name, message, "Take one of the references out.")
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
		c.l.Fault(place, "No picture is chosen.", "Choose one or remove the line.")
	case c.exist != nil && !c.exist(name):
		c.l.Fault(place, "The picture “"+name+"” is not there.", "Choose another.")
	}
}

func (c *designCheck) choices(x Field, place string) {
	if len(x.Choices) == 0 {
		c.l.Fault(place, "There is nothing to choose from.", "Write at least one choice.")
	}
	seen := make(map[string]bool, len(x.Choices))
	for _, choice := range x.Choices {
		if choice.Value == "" || choice.Label == "" {
			c.l.Fault(place, "A choice is empty.", "Write it or remove it.")
		} else if seen[choice.Value] {
			c.l.Fault(place, "The choice “"+choice.Label+"” stands twice.", "Remove one of them.")
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
			c.l.Notice(place, "The choice “"+choice.Label+"” has no picture.", "Choose one; until then its words stand alone.")
		case c.exist != nil && !c.exist(choice.Picture):
			c.l.Fault(place, "The picture of “"+choice.Label+"” is not there.", "Choose another.")
		}
	}
}
