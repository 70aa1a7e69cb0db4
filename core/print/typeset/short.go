package typeset

// endless is a width that no line fills.
const endless = 1e4

// short is a paragraph's first line, cut so that it fits a width.
func (s *setter) short(p *Paragraph, width float64) line {
	lines := s.lines(p, endless)
	if len(lines) == 0 || width <= 0 || lines[0].width <= width || len(p.Runs) == 0 {
		return lines[0].flush()
	}
	text := []rune(p.Runs[0].Text)
	q := *p
	for keep := len(text) - 1; keep > 0; keep-- {
		q.Runs = []Run{p.Runs[0]}
		q.Runs[0].Text = string(text[:keep]) + "…"
		if l := s.lines(&q, endless)[0]; l.width <= width {
			return l.flush()
		}
	}
	return line{}
}

// flush moves a line's pieces to its left end.
func (l line) flush() line {
	if len(l.pieces) > 0 {
		by := l.pieces[0].x
		for i := range l.pieces {
			l.pieces[i].x -= by
		}
	}
	return l
}
