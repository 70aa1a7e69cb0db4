package pdf

// Base is a PDF of somebody else, taken apart so that it can be written again with more on its pages. It is plain data that nobody
// changes. The bodies of its objects speak of each other by their places in Objects, counted from 1; those of pages, the catalog and what
// holds fields in the structure are empty and written anew.
type Base struct {
	Objects []Object
	Lasting int    // so many of them, the first ones, are there with or without fields
	Catalog string // entries of the catalog besides its pages, structure, form and metadata
	Pages   []BasePage
	Tree    *BaseTree // nil where the file says nothing of its structure

	Form   string // entries of the interactive form besides its fields
	Fields []int  // the objects of the fields at the top of their tree
}

// Object is one of a file's, written out.
type Object struct {
	Body   []byte // of a stream its dictionary, with its length at the end
	Stream []byte // as the filters of the dictionary leave it; nil for what is no stream
}

// BasePage is a page of a base. Matrix brings points of the page as it is seen, from its lower left corner, to those of the page itself.
type BasePage struct {
	Object        int
	Width, Height float64 // in points, as it is seen
	Matrix        [6]float64
	Entries       string            // besides the ones below
	Contents      []int             // streams
	Resources     string            // besides those by name
	Named         map[string]string // entries of its Font, XObject and Shading resources, by the dictionary’s name
	Notes         []int             // annotations that are no fields
	Widgets       []int             // annotations of fields
	Parents       int               // the page’s number in the tree of parents
	Marked        []string          // what each marked content of it belongs to
}

// BaseTree is the structure of a base.
type BaseTree struct {
	Object   int         // the root
	Entries  string      // of the root, besides its kids and the tree of parents
	Kids     []string    // of the root
	Top      BaseElement // the one under which what is added stands; without an object that is the root
	Parents  string      // the tree of parents without pages: numbers and what they belong to
	Next     int         // the first number that is free in it
	Elements []BaseElement
}

// BaseElement is an element of the structure that is written anew.
type BaseElement struct {
	Object  int
	Entries string // besides its kids
	Kids    []BaseKid
}

// BaseKid is a kid of an element: a widget, or something else written out.
type BaseKid struct {
	Body   string
	Widget int // its object
	Page   int // counted from 0
}
