// Package formula is the small language in which an intake computes and decides:
//
//	hours * rate
//	instrument = "viola" and days > 30
//
// A formula is parsed into a tree whose every node knows its place in the source; the
// tree lists the fields it refers to and evaluates against answers with exact
// decimals. There are numbers, texts in double quotes, true and false, the names of
// fields, + - * / = <> < <= > >=, and, or, not, and brackets. The package knows
// nothing of forms: whoever evaluates brings the values.
package formula

import (
	"fmt"
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

// Reference is one mention of a field.
type Reference struct {
	Name string
	Span Span
}

// References lists every mention of a field in the order of the source.
func (t *Tree) References() []Reference { return t.refs }

// String is the source.
func (t *Tree) String() string { return t.source }

// Rename gives the source with every mention of one field replaced by another name.
func (t *Tree) Rename(from, to string) string {
	var b strings.Builder
	at := 0
	for _, r := range t.refs {
		if r.Name == from {
			b.WriteString(t.source[at:r.Span.Start])
			b.WriteString(to)
			at = r.Span.End
		}
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
		return nil, errorAt(src, t.span.Start, fmt.Sprintf("“%s” is not expected here", t.text))
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

// binding is how strongly a sign holds its sides together; 0 is no binary sign.
func binding(t token) int {
	switch {
	case t.kind == tokenName && t.text == "or":
		return 1
	case t.kind == tokenName && t.text == "and":
		return 2
	case t.kind != tokenSign:
		return 0
	}
	switch t.text {
	case "=", "<>", "<", "<=", ">", ">=":
		return 4
	case "+", "-":
		return 5
	case "*", "/":
		return 6
	}
	return 0
}

const (
	bindNot   = 3
	bindMinus = 7
)

func (p *parser) expression(least, depth int) (node, error) {
	if depth > MaxDepth {
		return nil, errorAt(p.src, p.peek().span.Start, fmt.Sprintf("the formula is nested more than %d deep", MaxDepth))
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
		right, err := p.expression(b, depth+1)
		if err != nil {
			return nil, err
		}
		if b == 4 && binding(p.peek()) == 4 {
			return nil, errorAt(p.src, p.peek().span.Start, "comparisons cannot be chained; join two with “and”")
		}
		left = &binary{Span{left.span().Start, right.span().End}, t.text, left, right}
	}
}

func (p *parser) operand(depth int) (node, error) {
	t := p.next()
	switch t.kind {
	case tokenNumber:
		d, _, err := apd.NewFromString(t.text)
		if err != nil {
			return nil, errorAt(p.src, t.span.Start, fmt.Sprintf("“%s” is not a number", t.text))
		}
		return &literal{t.span, Number(d)}, nil
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
			if c := p.next(); c.text != ")" || c.kind != tokenSign {
				return nil, errorAt(p.src, c.span.Start, "a closing bracket is missing")
			}
			return x, nil
		}
		return nil, errorAt(p.src, t.span.Start, fmt.Sprintf("a value is expected before “%s”", t.text))
	default:
		return nil, errorAt(p.src, t.span.Start, "the formula ends where a value is expected")
	}
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
	case "and", "or":
		return nil, errorAt(p.src, t.span.Start, fmt.Sprintf("a value is expected before “%s”", t.text))
	}
	if n := p.peek(); n.kind == tokenSign && n.text == "(" {
		return nil, errorAt(p.src, t.span.Start, fmt.Sprintf("there is no function “%s”", t.text))
	}
	p.refs = append(p.refs, Reference{t.text, t.span})
	return &reference{t.span, t.text}, nil
}
