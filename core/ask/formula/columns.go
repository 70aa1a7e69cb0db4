package formula

import "slices"

// Kept is what functions of whole columns gave that read nothing of a row: it is the same for all rows, and worked out once. It is for one
// form with its answers, and for one goroutine.
type Kept struct {
	Unsettled int // counts each value that was asked for while it is being worked out itself: what hangs on one is not kept
	values    map[string]Value
}

// wholeColumn computes a function of a whole column, once where no row has a part in it.
func (s *state) wholeColumn(n *call) (Value, error) {
	outer := *s
	defer func() { s.row, s.all = outer.row, outer.all }()
	s.row, s.all = -1, true
	if s.Kept == nil || s.Own != nil && mentions(n, s.Own) {
		return s.do(n)
	}
	at := n.span()
	words := s.src[at.Start:at.End]
	if v, ok := s.Kept.values[words]; ok {
		return v, nil
	}
	unsettled := s.Kept.Unsettled
	v, err := s.do(n)
	if err == nil && s.Kept.Unsettled == unsettled {
		if s.Kept.values == nil {
			s.Kept.values = map[string]Value{}
		}
		s.Kept.values[words] = v
	}
	return v, err
}

// mentions reports whether a part of a formula names anything of a kind.
func mentions(n node, of func(name string) bool) bool {
	switch n := n.(type) {
	case *reference:
		return of(n.name)
	case *unary:
		return mentions(n.x, of)
	case *binary:
		return mentions(n.x, of) || mentions(n.y, of)
	case *call:
		return slices.ContainsFunc(n.args, func(x node) bool { return mentions(x, of) })
	}
	return false
}
