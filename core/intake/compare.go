package intake

import (
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"golang.org/x/text/language"
	"golang.org/x/text/language/display"

	"amberseal/core/ask/form"
	"amberseal/core/filing"
	"amberseal/core/notice"
	"amberseal/core/print/paper"
)

// Compare says in sentences what a later design has that an earlier one had not.
func Compare(before, after Design) []string {
	c := &comparison{}
	if before.Name != after.Name {
		c.say("The intake is called “%s”, before “%s”.", after.Name, before.Name)
	}
	if before.Slug != after.Slug {
		c.say("The form’s address ends with “%s”, before “%s”.", after.Slug, before.Slug)
	}
	if before.Number != after.Number {
		c.say("Submissions are numbered “%s”, before “%s”.", after.Number, before.Number)
	}
	if before.Form.Intro != after.Form.Intro {
		c.say("The words above the first question changed.")
	}
	c.constants(before.Form.Constants, after.Form.Constants)
	c.fields("", before.Form.Fields, after.Form.Fields)
	c.translations(before.Form.Translations, after.Form.Translations)
	c.opening(before.Opening, after.Opening)
	compareAll(c, "document", before.Documents, after.Documents, func(x paper.Document) (key, name string) { return x.Key, x.Name })
	compareAll(c, "notice", before.Notices, after.Notices, func(n notice.Notice) (key, name string) { return n.Key, n.Name })
	compareAll(c, "filing", before.Filings, after.Filings, func(x filing.Filing) (key, name string) { return x.Key, x.Name })
	compareAll(c, "register", before.Registers, after.Registers, func(x filing.Register) (key, name string) { return x.Key, x.Name })
	return c.out
}

type comparison struct{ out []string }

func (c *comparison) say(format string, args ...any) {
	c.out = append(c.out, fmt.Sprintf(format, args...))
}

func same(a, b any) bool { return reflect.DeepEqual(a, b) }

// compareAll compares lists of things that have a key and a name.
func compareAll[T any](c *comparison, what string, before, after []T, of func(T) (key, name string)) {
	find := func(list []T, key string) int {
		return slices.IndexFunc(list, func(x T) bool { k, _ := of(x); return k == key })
	}
	for _, x := range after {
		key, name := of(x)
		switch i := find(before, key); {
		case i < 0:
			c.say("The %s “%s” is new.", what, name)
		case !same(before[i], x):
			c.say("The %s “%s” changed: %s.", what, name, strings.Join(parts(reflect.ValueOf(before[i]), reflect.ValueOf(x)), ", "))
		}
	}
	for _, x := range before {
		if key, name := of(x); find(after, key) < 0 {
			c.say("The %s “%s” is gone.", what, name)
		}
	}
	order := func(list, other []T) (keys []string) {
		for _, x := range list {
			if key, _ := of(x); find(other, key) >= 0 {
				keys = append(keys, key)
			}
		}
		return keys
	}
	if !slices.Equal(order(before, after), order(after, before)) {
		c.say("The order of the %ss changed.", what)
	}
}

// parts names the members in which two things differ, as they are called in the format; the lines of a document by their place.
func parts(before, after reflect.Value) []string {
	var out []string
	for i := range after.NumField() {
		a, b := before.Field(i), after.Field(i)
		if same(a.Interface(), b.Interface()) {
			continue
		}
		if after.Type().Field(i).Anonymous {
			out = append(out, parts(a, b)...)
			continue
		}
		name, _, _ := strings.Cut(after.Type().Field(i).Tag.Get("json"), ",")
		if x, ok := b.Interface().([]paper.Block); ok {
			out = append(out, blocks(a.Interface().([]paper.Block), x)...)
			continue
		}
		out = append(out, spaced(name))
	}
	return out
}

// spaced writes a name of the format as words: fileName as “file name”.
func spaced(name string) string {
	var b strings.Builder
	for _, r := range name {
		if unicode.IsUpper(r) {
			b.WriteByte(' ')
		}
		b.WriteRune(unicode.ToLower(r))
	}
	return b.String()
}

// blocks says which lines of a document are others, new, gone, or elsewhere.
func blocks(before, after []paper.Block) []string {
	find := func(list []paper.Block, id string) int {
		return slices.IndexFunc(list, func(b paper.Block) bool { return b.ID == id })
	}
	var out, left, stayed []string
	for i, b := range after {
		switch at := find(before, b.ID); {
		case at < 0:
			out = append(out, fmt.Sprintf("line %d (%s) is new", i+1, plain(b.Kind)))
		case !same(before[at], b):
			out = append(out, fmt.Sprintf("line %d (%s) is another", i+1, plain(b.Kind)))
			fallthrough
		default:
			stayed = append(stayed, b.ID)
		}
	}
	for i, b := range before {
		if find(after, b.ID) < 0 {
			out = append(out, fmt.Sprintf("line %d (%s) is gone", i+1, plain(b.Kind)))
		} else {
			left = append(left, b.ID)
		}
	}
	if !slices.Equal(left, stayed) {
		out = append(out, "its lines stand in another order")
	}
	return out
}

func (c *comparison) constants(before, after []form.Constant) {
	for _, x := range after {
		i := slices.IndexFunc(before, func(o form.Constant) bool { return o.Key == x.Key })
		switch {
		case i < 0:
			c.say("The constant “%s” is new: %s.", x.Label, x.Value)
		case before[i].Value != x.Value:
			c.say("“%s” is %s, before %s.", x.Label, x.Value, before[i].Value)
		case before[i].Label != x.Label:
			c.say("The constant “%s” is now called “%s”.", before[i].Label, x.Label)
		}
	}
	for _, x := range before {
		if !slices.ContainsFunc(after, func(o form.Constant) bool { return o.Key == x.Key }) {
			c.say("The constant “%s” is gone.", x.Label)
		}
	}
}

func (c *comparison) fields(rows string, before, after []form.Field) {
	in := ""
	if rows != "" {
		in = " in “" + rows + "”"
	}
	find := func(list []form.Field, key string) int {
		return slices.IndexFunc(list, func(f form.Field) bool { return f.Key == key })
	}
	for _, x := range after {
		i := find(before, x.Key)
		if i < 0 {
			c.say("“%s”%s is new.", x.Label, in)
			continue
		}
		c.field(before[i], x)
	}
	for _, x := range before {
		if find(after, x.Key) < 0 {
			c.say("“%s”%s is gone.", x.Label, in)
		}
	}
	order := func(list, other []form.Field) string {
		var keys []string
		for _, x := range list {
			if find(other, x.Key) >= 0 {
				keys = append(keys, x.Key)
			}
		}
		return strings.Join(keys, " ")
	}
	if order(before, after) != order(after, before) {
		c.say("The order of the questions%s changed.", in)
	}
}

func (c *comparison) translations(before, after map[string]form.Texts) {
	for _, code := range slices.Sorted(maps.Keys(after)) {
		switch old, ok := before[code]; {
		case !ok:
			c.say("The form speaks %s, too.", languageName(code))
		case !same(old, after[code]):
			c.say("Its words in %s changed.", languageName(code))
		}
	}
	for _, code := range slices.Sorted(maps.Keys(before)) {
		if _, ok := after[code]; !ok {
			c.say("The form does not speak %s any more.", languageName(code))
		}
	}
}

// opening says what changed for who comes to the form.
func (c *comparison) opening(a, b Opening) {
	clock := func(s string) string { return strings.Replace(s, "T", " ", 1) }
	for _, s := range []struct{ before, after, with, without string }{
		{clock(a.From), clock(b.From), "It opens on %s.", "It opens at once."},
		{clock(a.Until), clock(b.Until), "It closes on %s.", "It closes by itself no more."},
		{number(a.Limit), number(b.Limit), "It takes %s submissions.", "It takes any number of submissions."},
		{a.OnePer, b.OnePer, "It takes one submission for each “%s”.", "It takes any number of submissions from one person."},
		{strings.Join(a.Sites, ", "), strings.Join(b.Sites, ", "), "It may be shown in pages of %s.", "It may be shown in no other page."},
		{a.Onward, b.Onward, "After sending it leads on to %s.", "After sending it leads nowhere else."},
		{a.Shown, b.Shown, "Respondents see the document “%s” before they send.", "Respondents see no document before they send."},
		{a.Guard, b.Guard, "Its guard against programs is %s.", "Its guard against programs is the usual one."},
	} {
		switch {
		case s.before == s.after:
		case s.after == "":
			c.say("%s", s.without)
		default:
			c.say(s.with, s.after)
		}
	}
	for _, s := range []struct {
		before, after bool
		yes, no       string
	}{
		{a.Correct, b.Correct, "Who sent it may correct it.", "What was sent cannot be corrected any more."},
		{a.Anew, b.Anew, "Corrections work out their days anew.", "Corrections keep the days of the first arrival."},
		{a.Reminders, b.Reminders, "Who keeps answers can be reminded of them.", "Nobody is reminded of answers that were kept."},
		{a.Invited, b.Invited, "Only who is invited can answer.", "Anybody can answer."},
	} {
		switch {
		case s.before == s.after:
		case s.after:
			c.say("%s", s.yes)
		default:
			c.say("%s", s.no)
		}
	}
	if !same(a.Thanks, b.Thanks) {
		c.say("The words after sending changed.")
	}
	if !same(a.Paused, b.Paused) {
		c.say("The words while it is paused changed.")
	}
}

func languageName(code string) string {
	return display.English.Languages().Name(language.Make(code))
}

func number(n int) string {
	if n == 0 {
		return ""
	}
	return strconv.Itoa(n)
}

func (c *comparison) field(a, b form.Field) {
	if same(a, b) {
		return
	}
	said := len(c.out)
	if a.Label != b.Label {
		c.say("“%s” is now called “%s”.", a.Label, b.Label)
	}
	if a.Kind != b.Kind {
		c.say("“%s” is asked as %s, before as %s.", b.Label, plain(b.Kind), plain(a.Kind))
	}
	if a.Required != b.Required {
		c.say("“%s” became %s.", b.Label, map[bool]string{true: "required", false: "optional"}[b.Required])
	}
	c.rule(b.Label, "shows always", "shows when", a.When, b.When)
	c.rule(b.Label, "is not required by a rule", "is required when", a.RequiredWhen, b.RequiredWhen)
	c.rule(b.Label, "is asked, not calculated", "is calculated as", a.Formula, b.Formula)
	c.choices(b.Label, a.Choices, b.Choices)
	for _, s := range []struct{ name, a, b string }{{"least value", a.Min, b.Min}, {"greatest value", a.Max, b.Max},
		{"default", a.Default.String(), b.Default.String()}, {"help", a.Help, b.Help}, {"pattern", a.Pattern, b.Pattern}} {
		switch {
		case s.a == s.b:
		case s.b == "":
			c.say("“%s” has no %s any more.", b.Label, s.name)
		default:
			c.say("The %s of “%s” is %s.", s.name, b.Label, s.b)
		}
	}
	if b.Kind == form.Rows {
		c.fields(b.Label, a.Fields, b.Fields)
	}
	switch rest := alike(a, b); {
	case same(rest, b):
	case said == len(c.out):
		c.say("The settings of “%s” changed: %s.", b.Label, strings.Join(parts(reflect.ValueOf(rest), reflect.ValueOf(b)), ", "))
	default:
		c.say("“%s” changed besides: %s.", b.Label, strings.Join(parts(reflect.ValueOf(rest), reflect.ValueOf(b)), ", "))
	}
}

// alike is a field with everything that is told by itself as it is in another.
func alike(a, b form.Field) form.Field {
	a.Label, a.Kind, a.Required, a.When, a.RequiredWhen, a.Formula = b.Label, b.Kind, b.Required, b.When, b.RequiredWhen, b.Formula
	a.Min, a.Max, a.Default, a.Help, a.Pattern, a.Key = b.Min, b.Max, b.Default, b.Help, b.Pattern, b.Key
	if b.Kind == form.Rows {
		a.Fields = b.Fields
	}
	values := func(list []form.Choice) (out []string) {
		for _, x := range list {
			out = append(out, x.Value)
		}
		slices.Sort(out)
		return out
	}
	if !slices.Equal(values(a.Choices), values(b.Choices)) {
		a.Choices = b.Choices
	}
	return a
}

func (c *comparison) rule(label, without, with, a, b string) {
	switch {
	case a == b:
	case b == "":
		c.say("“%s” %s.", label, without)
	default:
		c.say("“%s” %s %s.", label, with, b)
	}
}

func (c *comparison) choices(label string, a, b []form.Choice) {
	has := func(list []form.Choice, value string) bool {
		return slices.ContainsFunc(list, func(x form.Choice) bool { return x.Value == value })
	}
	for _, x := range b {
		if !has(a, x.Value) {
			c.say("“%s” can be answered with “%s”.", label, x.Label)
		}
	}
	for _, x := range a {
		if !has(b, x.Value) {
			c.say("“%s” cannot be answered with “%s” any more.", label, x.Label)
		}
	}
}

func plain[K ~string](k K) string { return strings.ReplaceAll(string(k), "_", " ") }
