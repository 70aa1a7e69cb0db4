package typeset

import (
	"github.com/go-text/typesetting/font/opentype"
	"github.com/go-text/typesetting/shaping"

	"amberseal/core/print/typeface"
)

// Kinds of features that are asked for together.
const (
	asTabular = 1 << iota
	asOldstyle
	asSmall
	asFraction
	asAll
)

// featureSets are the sets of features by their kinds (OpenType 1.9, registered features).
var featureSets = func() (sets [asAll][]shaping.FontFeature) {
	tags := map[int][]string{asTabular: {"tnum", "lnum"}, asOldstyle: {"onum"}, asSmall: {"smcp"}, asFraction: {"frac"}}
	for kinds := range sets {
		for kind := 1; kind < asAll; kind <<= 1 {
			if kinds&kind == 0 {
				continue
			}
			for _, tag := range tags[kind] {
				sets[kinds] = append(sets[kinds], shaping.FontFeature{Tag: opentype.MustNewTag(tag), Value: 1})
			}
		}
	}
	return sets
}()

// tabular are the features of figures in columns.
var tabular = featureSets[asTabular]

// styled tells sets of features apart.
func styled(f []shaping.FontFeature) int {
	if len(f) == 0 {
		return 0
	}
	if f[0].Value == 0 {
		return -len(f)
	}
	for i, set := range featureSets {
		if len(set) > 0 && &set[0] == &f[0] {
			return i
		}
	}
	return asAll
}

// features are those of a place of the passage. Figures of words in capitals are as high as they are.
func (t passage) features(run, at int) []shaping.FontFeature {
	kinds := 0
	switch {
	case t.p.Tabular:
		kinds = asTabular
	case t.p.Running && !t.p.Runs[run].Caps:
		kinds = asOldstyle
	}
	if t.small(run) {
		kinds |= asSmall
	}
	for _, f := range t.fractions {
		if at+t.offset >= f[0] && at+t.offset < f[1] {
			kinds = asFraction
		}
	}
	return featureSets[kinds]
}

var smallCapitals = opentype.MustNewTag("smcp")

// smallRuns are the runs of small capitals whose face has its own, nil for none.
func (s *setter) smallRuns(p *Paragraph) []bool {
	var out []bool
	for i := range p.Runs {
		r := &p.Runs[i]
		if !r.SmallCaps || p.Greedy {
			continue
		}
		family := p.Family
		if r.Family != "" {
			family = r.Family
		}
		if hasFeature(s.primary(family, r.Style), smallCapitals) {
			if out == nil {
				out = make([]bool, len(p.Runs))
			}
			out[i] = true
		}
	}
	return out
}

func hasFeature(f *typeface.Face, tag opentype.Tag) bool {
	for _, x := range f.Font.GSUB.Features {
		if x.Tag == tag {
			return true
		}
	}
	return false
}

// fractions are the places of common fractions in a text: halves, thirds, quarters, fifths, sixths and eighths that stand alone. Others
// may be dates, numbers of houses or of pages.
func fractions(text []rune) [][2]int {
	var out [][2]int
	figure := func(i int) rune {
		if i < 0 || i >= len(text) {
			return 0
		}
		return text[i]
	}
	alone := func(r rune) bool {
		return r == 0 || r == ' ' || r == '\n' || r == noBreak || r == '(' || r == ')' || r == ',' || r == '.' || r == ';' || r == '-'
	}
	for i, r := range text {
		before, behind, then := figure(i-2), figure(i+2), figure(i+3)
		if r != '/' || !alone(before) || !alone(behind) || before == '.' || before == ',' || behind != ' ' && then >= '0' && then <= '9' {
			continue
		}
		over, under := figure(i-1), figure(i+1)
		if over < '1' || over >= under || !commonUnder(under) {
			continue
		}
		out = append(out, [2]int{i - 1, i + 2})
	}
	return out
}

func commonUnder(r rune) bool { return r >= '2' && r <= '6' || r == '8' }
