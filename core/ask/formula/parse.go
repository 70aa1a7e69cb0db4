// Package formula is the small language in which an intake computes and decides:
//
//	round(sum(lines.hours * lines.rate) * (1 + tax_rate), 2)
//	instrument is "viola" and days > 30
//
// A formula is parsed into a tree whose every node knows its place in the source. The
// tree lists the fields it refers to, renames them, checks its types against what the
// names stand for, and evaluates with exact decimals. The language is described, with
// examples that are run as tests, in docs/formulas.md. The package knows nothing of
// forms: whoever checks or evaluates brings the names' types and values.
package formula

import (
	"strings"

	"github.com/cockroachdb/apd/v3"
)

// Span is the bytes of the source that a node came from.
type Span struct{ Start, End int }

// Tree is a parsed formula. It is immutable and safe for use by many goroutines.
type Tree struct {
	source string
	root   node
	refs   []Reference
}

// Reference is one mention of a name.
type Reference struct {
	Name string
	Span Span
}

// References lists every mention of a name in the order of the source.
func (t *Tree) References() []Reference { return t.refs }

// String is the source.
func (t *Tree) String() string { return t.source }

// Rename gives the source with every mention of one name replaced by another.
func (t *Tree) Rename(from, to string) string {
	return t.Replace(func(name string) string {
		if name == from {
			return to
		}
		return name
	})
}

// Replace gives the source with every mention of a name replaced by what the function gives for it.
func (t *Tree) Replace(by func(name string) string) string {
	var b strings.Builder
	at := 0
	for _, r := range t.refs {
		b.WriteString(t.source[at:r.Span.Start])
		b.WriteString(by(r.Name))
		at = r.Span.End
	}
	b.WriteString(t.source[at:])
	return b.String()
}

type node interface{ span() Span }

type (
	literal struct {
		Span
		value Value
	}
	reference struct {
		Span
		name string
	}
	unary struct {
		Span
		sign string
		x    node
	}
	binary struct {
		Span
		sign string
		x, y node
	}
	call struct {
		Span
		name string
		f    *function
		args []node
	}
)

func (s Span) span() Span { return s }

// Parse reads a formula. The error is an *Error with the column of the fault.
func Parse(src string) (*Tree, error) {
	tokens, err := lex(src)
	if err != nil {
		return nil, err
	}
	p := &parser{src: src, tokens: tokens}
	root, err := p.expression(0, 0)
	if err != nil {
		return nil, err
	}
	if t := p.peek(); t.kind != tokenEnd {
		return nil, errorAt(src, t.span.Start, "formula.not-expected", "part", t.text)
	}
	return &Tree{src, root, p.refs}, nil
}

type parser struct {
	src    string
	tokens []token
	at     int
	refs   []Reference
}

func (p *parser) peek() token { return p.tokens[p.at] }

func (p *parser) next() token {
	t := p.tokens[p.at]
	if t.kind != tokenEnd {
		p.at++
	}
	return t
}

func (t token) is(kind tokenKind, text string) bool { return t.kind == kind && t.text == text }

// operators by how strongly they hold their sides together.
const (
	bindOr = iota + 1
	bindAnd
	bindNot
	bindCompare
	bindJoin
	bindSum
	bindProduct
	bindMinus
)

var signBinding = map[string]int{
	"=": bindCompare, "<>": bindCompare, "<": bindCompare, "<=": bindCompare, ">": bindCompare, ">=": bindCompare,
	"&": bindJoin, "+": bindSum, "-": bindSum, "*": bindProduct, "/": bindProduct,
}

var wordBinding = map[string]int{"or": bindOr, "and": bindAnd, "is": bindCompare, "contains": bindCompare}

// binding is how strongly a token holds its sides together; 0 is no operator between two values.
func binding(t token) int {
	switch t.kind {
	case tokenName:
		return wordBinding[t.text]
	case tokenSign:
		return signBinding[t.text]
	}
	return 0
}

func (p *parser) expression(least, depth int) (node, error) {
	if depth > MaxDepth {
		return nil, errorAt(p.src, p.peek().span.Start, "formula.too-deep", "most", MaxDepth)
	}
	left, err := p.operand(depth)
	if err != nil {
		return nil, err
	}
	for {
		t := p.peek()
		b := binding(t)
		if b == 0 || b <= least {
			return left, nil
		}
		p.next()
		if left, err = p.joined(left, t, b, depth); err != nil {
			return nil, err
		}
		if b == bindCompare && binding(p.peek()) == bindCompare {
			return nil, errorAt(p.src, p.peek().span.Start, "formula.comparisons-chained")
		}
	}
}

// joined reads what stands to the right of an operator. “is”, “is not”, “is empty” and “contains” are the
// words of sentences for =, <>, empty() and contains().
func (p *parser) joined(left node, t token, b, depth int) (node, error) {
	sign, not := t.text, false
	if t.is(tokenName, "is") {
		sign = "="
		if p.peek().is(tokenName, "not") {
			p.next()
			not = true
		}
		if e := p.peek(); e.is(tokenName, "empty") && !p.tokens[p.at+1].is(tokenSign, "(") {
			p.next()
			var n node = &call{Span{left.span().Start, e.span.End}, "empty", functions["empty"], []node{left}}
			if not {
				n = &unary{n.span(), "not", n}
			}
			return n, nil
		}
		if not {
			sign = "<>"
		}
	}
	right, err := p.expression(b, depth+1)
	if err != nil {
		return nil, err
	}
	span := Span{left.span().Start, right.span().End}
	if t.is(tokenName, "contains") {
		return &call{span, "contains", functions["contains"], []node{left, right}}, nil
	}
	return &binary{span, sign, left, right}, nil
}

func (p *parser) operand(depth int) (node, error) {
	t := p.next()
	switch t.kind {
	case tokenNumber:
		return p.number(t)
	case tokenText:
		return &literal{t.span, Text(t.text)}, nil
	case tokenName:
		return p.name(t, depth)
	case tokenSign:
		switch t.text {
		case "-":
			x, err := p.expression(bindMinus, depth+1)
			if err != nil {
				return nil, err
			}
			return &unary{Span{t.span.Start, x.span().End}, "-", x}, nil
		case "(":
			x, err := p.expression(0, depth+1)
			if err != nil {
				return nil, err
			}
			return x, p.close()
		}
		return nil, errorAt(p.src, t.span.Start, "formula.value-expected-before", "part", t.text)
	default:
		return nil, errorAt(p.src, t.span.Start, "formula.ends-early")
	}
}

func (p *parser) close() error {
	if c := p.next(); !c.is(tokenSign, ")") {
		return errorAt(p.src, c.span.Start, "formula.bracket-missing")
	}
	return nil
}

// number reads digits, and a hundredth of them before a percent sign.
func (p *parser) number(t token) (node, error) {
	d, _, err := apd.NewFromString(t.text)
	if err != nil {
		return nil, errorAt(p.src, t.span.Start, "formula.not-a-number", "text", t.text)
	}
	if percent := p.peek(); percent.is(tokenSign, "%") {
		p.next()
		d.Exponent -= 2
		t.span.End = percent.span.End
	}
	return &literal{t.span, Number(d)}, nil
}

func (p *parser) name(t token, depth int) (node, error) {
	switch t.text {
	case "true", "false":
		return &literal{t.span, Bool(t.text == "true")}, nil
	case "not":
		x, err := p.expression(bindNot, depth+1)
		if err != nil {
			return nil, err
		}
		return &unary{Span{t.span.Start, x.span().End}, "not", x}, nil
	case "and", "or", "is", "contains":
		if !p.peek().is(tokenSign, "(") || t.text != "contains" {
			return nil, errorAt(p.src, t.span.Start, "formula.value-expected-before", "part", t.text)
		}
	}
	if p.peek().is(tokenSign, "(") {
		return p.call(t, depth)
	}
	p.refs = append(p.refs, Reference{t.text, t.span})
	return &reference{t.span, t.text}, nil
}

func (p *parser) call(t token, depth int) (node, error) {
	f := functions[t.text]
	if f == nil {
		if near := Nearest(t.text, FunctionNames()); near != "" {
			return nil, errorAt(p.src, t.span.Start, "formula.no-such-function-but-another", "name", t.text, "near", near)
		}
		return nil, errorAt(p.src, t.span.Start, "formula.no-such-function", "name", t.text)
	}
	p.next()
	c := &call{t.span, t.text, f, nil}
	if p.peek().is(tokenSign, ")") {
		c.End = p.next().span.End
	} else {
		for {
			x, err := p.expression(0, depth+1)
			if err != nil {
				return nil, err
			}
			c.args = append(c.args, x)
			if p.peek().is(tokenSign, ",") {
				p.next()
				continue
			}
			c.End = p.peek().span.End
			if err := p.close(); err != nil {
				return nil, err
			}
			break
		}
	}
	if n := len(c.args); n < f.least || n > f.most {
		return nil, errorAt(p.src, t.span.Start, "formula.takes-another-number", "name", t.text, "takes", f.takes(), "given", n, "usage",
			f.usage)
	}
	return c, nil
}
