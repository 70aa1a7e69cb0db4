package ground

import (
	"fmt"
	"slices"
	"strings"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"amberseal/core/foreign"
	"amberseal/core/print/pdf"
)

// holder is an element of the structure that holds fields, or the one under which what is added stands (ISO 32000-1, 14.7).
type holder struct {
	dict   types.Dict
	number int // of its object in the new file
	holds  bool
}

// holders finds the elements that are written anew, and gives them their numbers.
func (t *taking) holders() {
	root := t.Dict(t.root["StructTreeRoot"])
	if root == nil {
		return
	}
	widgets := map[int]bool{}
	for _, x := range t.widgets {
		widgets[x.number] = true
	}
	hold := func(o types.Object, d types.Dict, holds bool) {
		number := foreign.NumberOf(o)
		if _, ok := t.elementOf[number]; ok || number == 0 {
			return
		}
		n := t.add(nil)
		t.numbers[number], t.elementOf[number] = n, len(t.elements)
		t.elements = append(t.elements, &holder{d, n, holds})
	}
	top := t.kids(root["K"])
	if len(top) == 1 {
		if d := t.Dict(top[0]); d != nil && d["S"] != nil {
			hold(top[0], d, false)
		}
	}
	seen := map[int]bool{}
	var walk func(o types.Object, depth int)
	walk = func(o types.Object, depth int) {
		d, number := t.Dict(o), foreign.NumberOf(o)
		if d == nil || depth > maxDepth || number != 0 && seen[number] || len(seen) > maxObjects {
			return
		}
		seen[number] = true
		for _, k := range t.kids(d["K"]) {
			kid := t.Dict(k)
			if kid == nil {
				continue
			}
			if t.Name(kid["Type"]) == "OBJR" && widgets[foreign.NumberOf(kid["Obj"])] {
				hold(o, d, true)
				if at, ok := t.elementOf[number]; ok {
					t.elements[at].holds = true
				}
				continue
			}
			if kid["S"] != nil {
				walk(k, depth+1)
			}
		}
	}
	for _, k := range top {
		walk(k, 0)
	}
}

// kids are what an entry K holds: one or several.
func (t *taking) kids(o types.Object) types.Array {
	if a := t.Array(o); a != nil {
		return a
	}
	if o == nil {
		return nil
	}
	return types.Array{o}
}

// structure writes the structure but for what is written anew.
func (t *taking) structure() {
	root := t.Dict(t.root["StructTreeRoot"])
	if root == nil {
		return
	}
	tree := &pdf.BaseTree{Entries: string(t.entries(nil, root, 0, "Type", "K", "ParentTree", "ParentTreeNextKey"))}
	if number := foreign.NumberOf(t.root["StructTreeRoot"]); number != 0 {
		tree.Object = t.add(nil)
		if n, ok := t.numbers[number]; ok { // something spoke of it already
			tree.Object = n
		}
		t.numbers[number] = tree.Object
	} else {
		tree.Object = t.add(nil)
	}
	top := t.kids(root["K"])
	for _, k := range top {
		tree.Kids = append(tree.Kids, string(t.write(nil, k, 0)))
	}
	for i, h := range t.elements {
		e := pdf.BaseElement{Object: h.number, Entries: string(t.entries(nil, h.dict, 0, "K"))}
		for _, k := range t.kids(h.dict["K"]) {
			if kid := t.Dict(k); kid != nil && t.Name(kid["Type"]) == "OBJR" && t.withheld[foreign.NumberOf(kid["Obj"])] {
				e.Kids = append(e.Kids, pdf.BaseKid{Widget: foreign.NumberOf(kid["Obj"])})
				continue
			}
			e.Kids = append(e.Kids, pdf.BaseKid{Body: string(t.write(nil, k, 0))})
		}
		if i == 0 && len(top) == 1 && foreign.NumberOf(top[0]) != 0 && t.elementOf[foreign.NumberOf(top[0])] == 0 {
			tree.Top = e
		}
		if h.holds {
			tree.Elements = append(tree.Elements, e)
		}
	}
	t.parents(tree, root["ParentTree"])
	t.out.Base.Tree = tree
}

// parents reads the tree of parents: pages keep theirs apart, since more is marked on them.
func (t *taking) parents(tree *pdf.BaseTree, o types.Object) {
	all := map[int]types.Object{}
	seen := map[int]bool{}
	var walk func(o types.Object, depth int)
	walk = func(o types.Object, depth int) {
		d, number := t.Dict(o), foreign.NumberOf(o)
		if d == nil || depth > maxDepth || number != 0 && seen[number] {
			return
		}
		seen[number] = true
		nums := t.Array(d["Nums"])
		for i := 0; i+1 < len(nums); i += 2 {
			all[int(t.Number(nums[i]))] = nums[i+1]
		}
		for _, k := range t.Array(d["Kids"]) {
			walk(k, depth+1)
		}
	}
	walk(o, 0)
	for key := range all {
		tree.Next = max(tree.Next, key+1)
	}
	for i := range t.pages {
		p := &t.out.Base.Pages[i]
		d := t.pages[i].dict
		p.Parents = -1
		if d["StructParents"] != nil {
			p.Parents = int(t.Number(d["StructParents"]))
			for _, e := range t.Array(all[p.Parents]) {
				p.Marked = append(p.Marked, string(t.write(nil, e, 0)))
			}
			delete(all, p.Parents)
		}
		if p.Parents < 0 {
			p.Parents = tree.Next
			tree.Next++
		}
	}
	keys := make([]int, 0, len(all))
	for key := range all {
		keys = append(keys, key)
	}
	slices.Sort(keys)
	var b strings.Builder
	for _, key := range keys {
		number := foreign.NumberOf(all[key])
		if number == 0 { // of a form XObject’s marks, as a list
			n := t.add(nil)
			t.out.Base.Objects[n-1].Body = t.write(nil, all[key], 0)
			fmt.Fprintf(&b, " %d %d 0 R", key, n)
			continue
		}
		if !t.nothing(number) && !t.withheld[number] {
			fmt.Fprintf(&b, " %d %d 0 R", key, t.reserve(number))
		}
	}
	tree.Parents = b.String()
}

// named gives the widgets in the structure the numbers of their new objects.
func (t *taking) named() {
	tree := t.out.Base.Tree
	if tree == nil {
		return
	}
	page := map[int]int{}
	for _, f := range t.out.Fields {
		for _, w := range f.Widgets {
			page[w.Object] = w.Page
		}
	}
	name := func(kids []pdf.BaseKid) {
		for i := range kids {
			if k := &kids[i]; k.Widget != 0 && k.Body == "" {
				k.Widget = t.numbers[k.Widget]
				k.Page = page[k.Widget]
			}
		}
	}
	for i := range tree.Elements {
		name(tree.Elements[i].Kids)
	}
	if len(tree.Elements) == 0 || tree.Elements[0].Object != tree.Top.Object { // the same kids otherwise
		name(tree.Top.Kids)
	}
}
