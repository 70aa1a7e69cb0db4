package fill

import (
	"bytes"
	"errors"
	"fmt"
	"strconv"
	"strings"

	"amberseal/core/foreign"
)

// IsFDF reports whether the data is a Forms Data Format file.
func IsFDF(data []byte) bool { return bytes.HasPrefix(bytes.TrimSpace(data), []byte("%FDF-")) }

// FDF reads the values of a Forms Data Format file (ISO 32000-1 section 12.7.7), by full name of their fields.
func FDF(data []byte) (map[string]string, error) {
	if len(data) > MaxBytes {
		return nil, fmt.Errorf("the FDF file has more than %d MB", MaxBytes>>20)
	}
	at := bytes.Index(data, []byte("/Fields"))
	if at < 0 {
		return nil, errors.New("the FDF file has no fields")
	}
	p := &fdfParser{data: data, at: at + len("/Fields")}
	v, err := p.value(0)
	if err != nil {
		return nil, err
	}
	fields, ok := v.([]any)
	if !ok {
		return nil, errors.New("the FDF file has no list of fields")
	}
	out := map[string]string{}
	collect(fields, "", out)
	return out, nil
}

func collect(fields []any, prefix string, out map[string]string) {
	for _, f := range fields {
		d, ok := f.(map[string]any)
		if !ok {
			continue
		}
		name, _ := d["T"].(string)
		if prefix != "" {
			name = prefix + "." + name
		}
		switch v := d["V"].(type) {
		case string:
			if v != "" {
				out[name] = v
			}
		case fdfName:
			if v != "Off" {
				out[name] = string(v)
			}
		}
		if kids, ok := d["Kids"].([]any); ok {
			collect(kids, name, out)
		}
	}
}

type fdfName string

// fdfParser reads the few objects that FDF values are made of.
type fdfParser struct {
	data []byte
	at   int
}

func (p *fdfParser) space() {
	for p.at < len(p.data) {
		switch c := p.data[p.at]; {
		case c == '%':
			for p.at < len(p.data) && p.data[p.at] != '\n' && p.data[p.at] != '\r' {
				p.at++
			}
		case c <= ' ':
			p.at++
		default:
			return
		}
	}
}

func (p *fdfParser) fault(what string) error {
	return fmt.Errorf("the FDF file cannot be read at byte %d: %s", p.at+1, what)
}

func (p *fdfParser) has(s string) bool { return bytes.HasPrefix(p.data[p.at:], []byte(s)) }

func (p *fdfParser) value(depth int) (any, error) {
	if depth > maxDepth {
		return nil, p.fault("it is nested too deep")
	}
	p.space()
	if p.at >= len(p.data) {
		return nil, p.fault("it ends too soon")
	}
	switch {
	case p.has("<<"):
		return p.dict(depth)
	case p.data[p.at] == '[':
		return p.array(depth)
	case p.data[p.at] == '(':
		return p.literal()
	case p.data[p.at] == '<':
		return p.hex()
	case p.data[p.at] == '/':
		return p.name(), nil
	}
	start := p.at
	for p.at < len(p.data) && p.data[p.at] > ' ' && !bytes.ContainsRune([]byte("[]<>()/%"), rune(p.data[p.at])) {
		p.at++
	}
	if p.at == start {
		return nil, p.fault("an object is expected")
	}
	return nil, nil // numbers, references and the like say nothing about answers
}

func (p *fdfParser) dict(depth int) (any, error) {
	p.at += 2
	out := map[string]any{}
	for {
		p.space()
		if p.at >= len(p.data) {
			return nil, p.fault("a dictionary is not closed")
		}
		if p.has(">>") {
			p.at += 2
			return out, nil
		}
		if p.data[p.at] != '/' {
			if _, err := p.value(depth + 1); err != nil { // the rest of a reference
				return nil, err
			}
			continue
		}
		key := string(p.name())
		v, err := p.value(depth + 1)
		if err != nil {
			return nil, err
		}
		out[key] = v
	}
}

func (p *fdfParser) array(depth int) (any, error) {
	p.at++
	out := []any{}
	for {
		p.space()
		if p.at >= len(p.data) {
			return nil, p.fault("a list is not closed")
		}
		if p.data[p.at] == ']' {
			p.at++
			return out, nil
		}
		v, err := p.value(depth + 1)
		if err != nil {
			return nil, err
		}
		if out = append(out, v); len(out) > maxFields {
			return nil, p.fault("it has too many fields")
		}
	}
}

func (p *fdfParser) name() fdfName {
	p.at++
	var b strings.Builder
	for p.at < len(p.data) && p.data[p.at] > ' ' && !bytes.ContainsRune([]byte("[]<>()/%"), rune(p.data[p.at])) {
		if p.data[p.at] == '#' && p.at+2 < len(p.data) {
			if n, err := strconv.ParseUint(string(p.data[p.at+1:p.at+3]), 16, 8); err == nil {
				b.WriteByte(byte(n))
				p.at += 3
				continue
			}
		}
		b.WriteByte(p.data[p.at])
		p.at++
	}
	return fdfName(b.String())
}

// literal reads a string in brackets with its escapes (section 7.3.4.2).
func (p *fdfParser) literal() (any, error) {
	p.at++
	var b []byte
	for depth := 1; p.at < len(p.data); p.at++ {
		c := p.data[p.at]
		switch c {
		case '(':
			depth++
		case ')':
			if depth--; depth == 0 {
				p.at++
				return foreign.Text(b), nil
			}
		case '\\':
			p.at++
			if p.at >= len(p.data) {
				return nil, p.fault("a string is not closed")
			}
			b = p.escape(b)
			continue
		}
		b = append(b, c)
	}
	return nil, p.fault("a string is not closed")
}

func (p *fdfParser) escape(b []byte) []byte {
	c := p.data[p.at]
	switch c {
	case 'n':
		return append(b, '\n')
	case 'r':
		return append(b, '\r')
	case 't':
		return append(b, '\t')
	case 'b':
		return append(b, '\b')
	case 'f':
		return append(b, '\f')
	case '\n':
		return b
	}
	if c < '0' || c > '7' {
		return append(b, c)
	}
	n, digits := 0, 0
	for digits < 3 && p.at < len(p.data) && p.data[p.at] >= '0' && p.data[p.at] <= '7' {
		n = n*8 + int(p.data[p.at]-'0')
		p.at++
		digits++
	}
	p.at--
	return append(b, byte(n))
}

func (p *fdfParser) hex() (any, error) {
	end := bytes.IndexByte(p.data[p.at:], '>')
	if end < 0 {
		return nil, p.fault("a string is not closed")
	}
	digits := strings.Join(strings.Fields(string(p.data[p.at+1:p.at+end])), "")
	p.at += end + 1
	if len(digits)%2 == 1 {
		digits += "0"
	}
	b := make([]byte, len(digits)/2)
	for i := range b {
		n, err := strconv.ParseUint(digits[2*i:2*i+2], 16, 8)
		if err != nil {
			return nil, p.fault("a string is not hexadecimal")
		}
		b[i] = byte(n)
	}
	return foreign.Text(b), nil
}
