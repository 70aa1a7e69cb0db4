package depot

import "slices"

// Ills are the ways in which it can fail, each with what switches it to that and back.
func (d *Depot) Ills(modes ...Mode) map[string]func(on bool) {
	out := map[string]func(bool){}
	for _, m := range modes {
		out[string(m)] = func(on bool) {
			to := On
			if on {
				to = m
			}
			d.Switch(to)
		}
	}
	return out
}

// Paths are those of all that arrived.
func Paths(s Stock) ([]string, error) {
	all, err := s.Files()
	var out []string
	for _, f := range all {
		out = append(out, f.Path)
	}
	slices.Sort(out)
	return out, err
}
