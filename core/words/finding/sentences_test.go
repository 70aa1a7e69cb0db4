package finding

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
)

// Every code that the program says has its sentence, every sentence is said, and each is given the values that its braces name. Codes
// that are chosen at run time stand as words of the same form somewhere in the program.
func TestEveryCodeHasItsSentence(t *testing.T) {
	said := map[string]bool{}
	code := regexp.MustCompile(`^[a-z]+\.[a-z0-9-]+$`)
	root := os.DirFS("../../..")
	for _, wing := range []string{"core", "app"} {
		err := fs.WalkDir(root, wing, func(name string, _ fs.DirEntry, err error) error {
			if err != nil || !strings.HasSuffix(name, ".go") || strings.HasSuffix(name, "_test.go") {
				return err
			}
			data, err := fs.ReadFile(root, name)
			if err != nil {
				return err
			}
			tree, err := parser.ParseFile(token.NewFileSet(), name, data, 0)
			if err != nil {
				return err
			}
			ast.Inspect(tree, func(n ast.Node) bool {
				switch x := n.(type) {
				case *ast.BasicLit:
					if words := unquoted(x); code.MatchString(words) && sentences[words] != (sentence{}) {
						said[words] = true
					}
				case *ast.CallExpr:
					if f, ok := x.Fun.(*ast.SelectorExpr); ok && (f.Sel.Name == "Fault" || f.Sel.Name == "Notice") && len(x.Args) > 1 {
						checkValues(t, name, x.Args[1:])
					}
					// A formula's faults say the column before all else.
					for i, a := range x.Args {
						if l, ok := a.(*ast.BasicLit); ok && strings.HasPrefix(unquoted(l), "formula.") &&
							strings.HasSuffix(path.Dir(name), "/formula") {
							checkValues(t, name, x.Args[i:], "column")
						}
					}
				}
				return true
			})
			return nil
		})
		if err != nil {
			t.Fatal(err)
		}
	}
	for c, s := range sentences {
		if !said[c] {
			t.Errorf("nothing says %s", c)
		}
		if !sentenceEnds.MatchString(s.Message) || s.Mend != "" && !sentenceEnds.MatchString(s.Mend) {
			t.Errorf("%s: no sentences: %+v", c, s)
		}
	}
}

var sentenceEnds = regexp.MustCompile(`[.?}]$`)

// checkValues is called with a code and what follows it; extra are values that are given to all.
func checkValues(t *testing.T, file string, args []ast.Expr, extra ...string) {
	t.Helper()
	lit, ok := args[0].(*ast.BasicLit)
	if !ok {
		return
	}
	s, ok := sentences[unquoted(lit)]
	if !ok {
		t.Errorf("%s: %s has no sentence", file, lit.Value)
	}
	given := slices.Clone(extra)
	for i := 1; i < len(args); i += 2 {
		if name, ok := args[i].(*ast.BasicLit); ok {
			given = append(given, unquoted(name))
		}
	}
	var asked []string
	for _, part := range braces.FindAllString(s.Message+s.Mend, -1) {
		asked = append(asked, part[1:len(part)-1])
	}
	slices.Sort(given)
	slices.Sort(asked)
	if asked = slices.Compact(asked); !slices.Equal(given, asked) {
		t.Errorf("%s: %s is given %v, and its braces ask for %v", file, lit.Value, given, asked)
	}
}

func unquoted(l *ast.BasicLit) string {
	s, err := strconv.Unquote(l.Value)
	if err != nil {
		return ""
	}
	return s
}
