package formula

import (
	"slices"

	"github.com/cockroachdb/apd/v3"
)

// Places is how many decimals a number has, without zeroes at its end.
func Places(d *apd.Decimal) int {
	short, _ := new(apd.Decimal).Reduce(d)
	return max(int(-short.Exponent), 0)
}

// anyDecimals is what may have any number of decimals.
const anyDecimals = 1 << 10

// Decimals is the most decimals a result can have, where names have those that of says; ok is false where there is no most, as
// of a division. A multiplication has as many as its factors have together.
func (t *Tree) Decimals(of func(name string) (n int, ok bool)) (n int, ok bool) {
	n = decimals(t.root, of)
	return n, n < anyDecimals
}

func decimals(n node, of func(name string) (int, bool)) int {
	most := func(args []node) int {
		out := 0
		for _, a := range args {
			out = max(out, decimals(a, of))
		}
		return out
	}
	switch n := n.(type) {
	case *literal:
		if d, ok := n.value.Decimal(); ok {
			return Places(d)
		}
	case *reference:
		if d, ok := of(n.name); ok {
			return d
		}
	case *unary:
		return decimals(n.x, of)
	case *binary:
		x, y := decimals(n.x, of), decimals(n.y, of)
		switch n.sign {
		case "+", "-":
			return max(x, y)
		case "*":
			return min(x+y, anyDecimals)
		}
	case *call:
		switch {
		case n.name == "if":
			return most(n.args[1:])
		case slices.Contains([]string{"sum", "min", "max", "abs"}, n.name):
			return most(n.args)
		case slices.Contains(rounding, n.name) && len(n.args) == 1:
			return 0
		case slices.Contains(rounding, n.name):
			if l, ok := n.args[1].(*literal); ok {
				if d, ok := l.value.Decimal(); ok {
					if places, err := d.Int64(); err == nil {
						return max(int(places), 0)
					}
				}
			}
		case n.f != nil && n.f.gives == NumberType && n.name != "average" && n.name != "number":
			return 0 // counts and parts of days and times
		}
	}
	return anyDecimals
}

// rounding are the functions that round.
var rounding = []string{"round", "round_half_even", "round_up", "round_down"}
