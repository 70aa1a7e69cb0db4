package form

import (
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/cockroachdb/apd/v3"

	"amberseal/core/ask/formula"
)

// sheet is a form, or one row of it, with its answers: what shows, what the calculated
// fields are. Everything is settled when it is first asked for, so that conditions and
// calculations may refer to each other in any order; one that refers to itself is empty.
type sheet struct {
	form   Form
	c      Circumstances
	fields []Field
	index  map[string]int
	under  []int  // the section that a field stands under, -1 for none
	page   []int  // the page that a field stands on, -1 for the first
	whole  *sheet // the form of a row
	typed  Answers
	states []state
	scope  formula.Scope
	rows   map[string][]*sheet // made when they are asked for
	once   *formula.Kept       // of the form
	kept   bool                // the answers were settled when they came in: nothing is calculated anew
	shown  bool                // everything that has an answer shows: no condition is decided anew
}

// state is what was settled of a field.
type state struct {
	busy, done bool
	value      Value
	hidden     *Hiding
}

// Hiding says why a field does not show.
type Hiding struct {
	By   string `json:"by"`   // key of the field, section, page or rows whose condition does not hold
	When string `json:"when"` // the condition
}

// newSheet lays answers out on the form. kept answers are taken as they are.
func newSheet(f Form, c Circumstances, typed Answers, kept bool) *sheet {
	s := &sheet{form: f, c: c, kept: kept, shown: kept, once: &formula.Kept{}}
	s.lay(f.Fields, indexOf(f.Fields), typed)
	section, page := -1, -1
	s.under, s.page = make([]int, len(f.Fields)), make([]int, len(f.Fields))
	for i, x := range f.Fields {
		switch x.Kind {
		case Page:
			section, page = -1, i
			s.under[i], s.page[i] = -1, -1
			continue
		case Section:
			section = i
			s.under[i], s.page[i] = -1, page
			continue
		}
		s.under[i], s.page[i] = section, page
	}
	return s
}

func (s *sheet) lay(fields []Field, index map[string]int, typed Answers) {
	s.fields, s.index, s.typed, s.states = fields, index, typed, make([]state, len(fields))
	s.scope = formula.Scope{Values: s.value, Labels: s.label, Now: s.c.Now, Received: s.c.Received, Kept: s.once}
	if s.whole != nil {
		s.scope.Own = func(name string) bool { _, own := index[name]; return own }
	}
}

func indexOf(fields []Field) map[string]int {
	index := make(map[string]int, len(fields))
	for i, x := range fields {
		index[x.Key] = i
	}
	return index
}

// rowsOf lays out the rows of a repeating group; nil for what is none.
func (s *sheet) rowsOf(key string) []*sheet {
	if all, ok := s.rows[key]; ok {
		return all
	}
	i, ok := s.index[key]
	if !ok || s.fields[i].Kind != Rows {
		return nil
	}
	rows := s.typed[key].Rows
	all := make([]*sheet, len(rows))
	index := indexOf(s.fields[i].Fields)
	for r := range rows {
		all[r] = s.row(i, index, rows[r])
	}
	if s.rows == nil {
		s.rows = map[string][]*sheet{}
	}
	s.rows[key] = all
	return all
}

func (s *sheet) row(of int, index map[string]int, answers Answers) *sheet {
	row := &sheet{form: s.form, c: s.c, whole: s, once: s.once, kept: s.kept, shown: s.shown}
	row.lay(s.fields[of].Fields, index, answers)
	return row
}

// at settles the field and gives what became of it.
func (s *sheet) at(i int) *state {
	st := &s.states[i]
	if st.done {
		return st
	}
	if st.busy {
		s.once.Unsettled++
		return st
	}
	st.busy = true
	x := s.fields[i]
	if !s.shown {
		st.hidden = s.hiding(i)
	}
	if st.hidden == nil {
		if x.Calculated() && !s.kept {
			st.value = s.calculate(x)
		} else {
			st.value = s.typed[x.Key]
		}
	}
	st.busy, st.done = false, true
	return st
}

// hiding is why the field does not show, or nil.
func (s *sheet) hiding(i int) *Hiding {
	if s.under != nil {
		for _, heading := range []int{s.page[i], s.under[i]} {
			if heading >= 0 {
				if h := s.at(heading).hidden; h != nil {
					return h
				}
			}
		}
	}
	if x := s.fields[i]; !s.holds(x.When) {
		return &Hiding{x.Key, x.When}
	}
	return nil
}

// holds evaluates a condition. An empty one holds, and so does one that cannot be evaluated:
// what should perhaps be asked is better asked.
func (s *sheet) holds(src string) bool {
	if src == "" {
		return true
	}
	v, err := s.evaluate(src)
	return err != nil || v.Truth()
}

// trees keeps formulas that were parsed: a form is checked again and again. It begins anew when it is full.
var trees struct {
	sync.Mutex
	of map[string]*formula.Tree
}

const mostTrees = 4_000

func parsed(src string) (*formula.Tree, error) {
	trees.Lock()
	tree := trees.of[src]
	trees.Unlock()
	if tree != nil {
		return tree, nil
	}
	tree, err := formula.Parse(src)
	if err != nil {
		return nil, err
	}
	trees.Lock()
	defer trees.Unlock()
	if trees.of == nil || len(trees.of) >= mostTrees {
		trees.of = map[string]*formula.Tree{}
	}
	trees.of[src] = tree
	return tree, nil
}

func (s *sheet) evaluate(src string) (formula.Value, error) {
	tree, err := parsed(src)
	if err != nil {
		return formula.Value{}, err
	}
	return tree.Evaluate(s.scope)
}

// label is a choice's label by the name of its field.
func (s *sheet) label(name, value string) string {
	if i, ok := s.index[name]; ok {
		return s.fields[i].ChoiceLabel(value)
	}
	if x, ok := s.form.Field(name); ok {
		return x.ChoiceLabel(value)
	}
	return value
}

// value is what a name stands for: a field of the row, of the form, a column, the rows themselves, a
// constant, or a bare word that is a choice.
func (s *sheet) value(name string) formula.Value {
	if i, ok := s.index[name]; ok {
		if key := s.fields[i].Key; s.fields[i].Kind == Rows {
			// The rows themselves are one value, not a column: they are empty or not, and can be counted.
			items, _ := s.column(key, func(*sheet) formula.Value { return formula.Bool(true) }).Items()
			return formula.List(items)
		}
		return s.at(i).value.formula()
	}
	if s.whole != nil {
		return s.whole.value(name)
	}
	if rows, column, ok := strings.Cut(name, "."); ok && s.rowsOf(rows) != nil {
		return s.column(rows, func(row *sheet) formula.Value { return row.value(column) })
	}
	if c, ok := s.form.Constant(name); ok {
		return c.formula()
	}
	return formula.Text(name)
}

func (s *sheet) column(rows string, of func(row *sheet) formula.Value) formula.Value {
	if s.at(s.index[rows]).hidden != nil {
		return formula.Column(nil)
	}
	all := s.rowsOf(rows)
	out := make([]formula.Value, len(all))
	for i, row := range all {
		out[i] = of(row)
	}
	return formula.Column(out)
}

// formula is the value as formulas see it.
func (v Value) formula() formula.Value {
	switch {
	case v.Empty():
		return formula.Value{}
	case v.Number != nil:
		return formula.Number(v.Number)
	}
	switch v.Shape() {
	case Truth:
		return formula.Bool(v.Yes)
	case Day:
		return formula.Date(v.Date)
	case Moment:
		return formula.Moment(v.Date)
	case Hour:
		return formula.Time(v.Clock)
	case Several:
		return formula.Texts(v.List)
	case Parts:
		if v.Kind == Name {
			return formula.Text(JoinParts(v.Parts, NameParts, " "))
		}
		return formula.Text(JoinParts(v.Parts, AddressParts, ", "))
	case Files:
		names := make([]string, len(v.Files))
		for i, f := range v.Files {
			names[i] = f.Name
		}
		return formula.Texts(names)
	case Drawn:
		return formula.Bool(true)
	}
	return formula.Text(v.Text)
}

// JoinParts joins the parts of a name or address that are there, in an order.
func JoinParts(parts map[string]string, order []string, sep string) string {
	var out []string
	for _, p := range order {
		if parts[p] != "" {
			out = append(out, parts[p])
		}
	}
	return strings.Join(out, sep)
}

// formula is the constant's value: a number or percentage where it reads as one, else its words.
func (c Constant) formula() formula.Value {
	tree, err := formula.Parse(strings.ReplaceAll(c.Value, " ", ""))
	if err == nil && len(tree.References()) == 0 {
		if v, err := tree.Evaluate(formula.Scope{}); err == nil {
			if _, ok := v.Decimal(); ok {
				return v
			}
		}
	}
	return formula.Text(c.Value)
}

// calculate evaluates the field's formula; a result that cannot be had or is not of the field's kind is empty.
func (s *sheet) calculate(x Field) Value {
	v, err := s.evaluate(x.Formula)
	if err != nil || v.Empty() {
		return Value{}
	}
	return convert(x.Kind, v)
}

// convert makes a formula's value one of a kind.
func convert(k Kind, v formula.Value) Value {
	switch k {
	case WholeNumber, Decimal, Money:
		d, ok := v.Decimal()
		if !ok {
			return Value{}
		}
		d = new(apd.Decimal).Set(d)
		if k == WholeNumber {
			whole := apd.BaseContext.WithPrecision(40)
			whole.Rounding = apd.RoundHalfUp
			if _, err := whole.Quantize(d, d, 0); err != nil {
				return Value{}
			}
		}
		return number(k, d)
	case Date:
		if t, ok := v.Day(); ok {
			return date(k, t)
		}
	case DateTime:
		if t, ok := v.Day(); ok {
			at, _ := v.Clock()
			return date(k, t.Add(at).Truncate(time.Minute))
		}
	case Time:
		if at, ok := v.Clock(); ok {
			return clock(at.Truncate(time.Minute))
		}
	case YesNo:
		return yesNo(k, v.Truth())
	default:
		if s := clean(v.String(), k == LongText); s != "" {
			return text(k, s)
		}
	}
	return Value{}
}

// Shown tells which fields show with answers that were settled when they came in: a function of a
// field's path, such as phone or lines/0/part.
func (f Form) Shown(a Answers, now, received time.Time) func(path string) bool {
	s := newSheet(f, Circumstances{Now: now, Received: received}, a, true)
	s.shown = false
	return func(path string) bool {
		parts := strings.Split(path, "/")
		i, ok := s.index[parts[0]]
		if !ok || s.at(i).hidden != nil || len(parts) < 3 {
			return ok && s.at(i).hidden == nil
		}
		n, err := strconv.Atoi(parts[1])
		rows := s.rowsOf(parts[0])
		if err != nil || n < 0 || n >= len(rows) {
			return false
		}
		i, ok = rows[n].index[parts[2]]
		return ok && rows[n].at(i).hidden == nil
	}
}

// Laid is a form with answers that were settled when they came in, for the formulas of one goroutine.
type Laid struct{ sheet *sheet }

// Lay lays answers out.
func (f Form) Lay(a Answers, now, received time.Time) Laid {
	return Laid{newSheet(f, Circumstances{Now: now, Received: received}, a, true)}
}

// Scope is what formulas see.
func (l Laid) Scope() formula.Scope { return l.sheet.scope }

// Row is the scope inside one row, counted from 0: its own fields come before the form's, and a column is that row's item where no function
// of the whole column is asked.
func (l Laid) Row(rows string, i int) formula.Scope {
	all := l.sheet.rowsOf(rows)
	if i >= len(all) {
		return l.sheet.scope
	}
	scope := all[i].scope
	scope.Rows, scope.Row = rows, i
	return scope
}
