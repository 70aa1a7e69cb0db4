package typeset

// The rule over a page’s notes, and the room it takes.
const (
	noteRule  = 0.5
	noteRoom  = 9.0
	noteWidth = 144.0
	mostNote  = 0.6 // of a page’s height: a longer note stands behind the text
)

// notesIn are the notes that a line speaks of.
func notesIn(p *Paragraph, l line) (out []*Note) {
	last := -1
	for i := range l.pieces {
		if run := l.pieces[i].run; run != last && run < len(p.Runs) {
			last = run
			if n := p.Runs[run].Note; n != nil {
				out = append(out, n)
			}
		}
	}
	return out
}

// fittingNoted counts the lines that fit the room that is left, each with its notes at the foot.
func (f *flow) fittingNoted(p *Paragraph, lines []line) int {
	noted := false
	for i := range p.Runs {
		noted = noted || p.Runs[i].Note != nil
	}
	if !noted {
		return fitting(lines, f.left())
	}
	h, begun, owed := 0.0, len(f.notes) > 0, 0.0
	if begun {
		owed = f.notes[len(f.notes)-1].owed()
	}
	for i, l := range lines {
		h += l.height
		for _, n := range notesIn(p, l) {
			c := f.measuredNote(n.Nodes)
			if c.height > (f.foot-f.top)*mostNote {
				continue
			}
			if !begun {
				h, begun = h+noteRoom, true
			}
			h += owed + c.height - c.owed()
			owed = c.owed()
		}
		if h > f.left()+0.01 {
			return i
		}
	}
	return len(lines)
}

func (f *flow) measuredNote(nodes []Node) cellLines {
	f.bare = true
	defer func() { f.bare = false }()
	return f.measureCell(nodes, f.width(), 0, 0)
}

// owes is the room at the foot for the notes of a row.
func (f *flow) owes(m *rowLines) float64 {
	h := 0.0
	for _, c := range m.cells {
		for _, s := range c.slices {
			switch n := s.node.(type) {
			case *Paragraph:
				for _, note := range notesIn(n, s.line) {
					if high := f.measuredNote(note.Nodes).height; high <= (f.foot-f.top)*mostNote {
						h += high
					}
				}
			case *Table:
				h += f.owes(s.row)
			}
		}
	}
	if h > 0 && len(f.notes) == 0 {
		h += noteRoom
	}
	return h
}

// noteRow takes room at the foot for the notes of a row that was drawn.
func (f *flow) noteRow(m *rowLines) {
	for _, c := range m.cells {
		if c.element == nil || c.element.artifact {
			continue
		}
		for _, s := range c.slices {
			if p, ok := s.node.(*Paragraph); ok {
				f.note(p, []line{s.line})
			}
		}
	}
}

// note takes room at the foot for the notes of lines that were drawn.
func (f *flow) note(p *Paragraph, lines []line) {
	for _, l := range lines {
		for _, n := range notesIn(p, l) {
			c := f.measuredNote(n.Nodes)
			if c.height > (f.foot-f.top)*mostNote {
				f.behind = append(f.behind, n.Nodes...)
				continue
			}
			if len(f.notes) == 0 {
				f.bottom -= noteRoom
				f.notePaper = f.paper
			} else {
				f.bottom -= f.notes[len(f.notes)-1].owed()
			}
			f.bottom -= c.height - c.owed()
			f.notes = append(f.notes, c)
		}
	}
}

// owed is the room below a cell’s last words.
func (c *cellLines) owed() float64 {
	if n := len(c.slices); n > 0 && c.slices[n-1].node == nil {
		return c.slices[n-1].height
	}
	return 0
}

// footnotes draws the notes of the page or column at hand.
func (f *flow) footnotes() {
	if len(f.notes) == 0 {
		return
	}
	y, paper, high := f.y, f.paper, noteRoom
	for i := range f.notes {
		high += f.notes[i].height
	}
	high -= f.notes[len(f.notes)-1].owed()
	f.paper, f.y = f.notePaper, f.foot-high
	f.draw(&Box{X: f.paper.Left, Y: f.y + noteRoom/2, W: min(noteWidth, f.width()), H: noteRule})
	f.y += noteRoom
	for i := range f.notes {
		c := &f.notes[i]
		c.element = f.out.Root.add("Div")
		f.drawCell(c, f.paper.Left)
	}
	f.notes = nil
	f.y, f.paper = y, paper
}
