// Package amberseal holds the test of the house's rules: which room may know which.
package amberseal

import (
	"io/fs"
	"os"
	"os/exec"
	"path"
	"strings"
	"testing"
	"unicode/utf8"
)

// pure are the libraries that core may use besides the standard library.
var pure = []string{
	"github.com/cockroachdb/apd/v3", "github.com/bojanz/currency", "github.com/go-playground/locales",
	"github.com/go-text/typesetting", "github.com/klauspost/compress", "github.com/nyaruka/phonenumbers", "github.com/pdfcpu/pdfcpu",
	"github.com/beevik/etree", "github.com/boombuler/barcode", "rsc.io/qr",
	"golang.org/x/image",
	"golang.org/x/text", "golang.org/x/net/idna",
}

// closed are the standard packages by which core would reach the outside.
var closed = []string{"net", "net/http", "os", "os/exec", "database/sql", "math/rand", "math/rand/v2", "crypto/rand"}

// rooms are the arrows: a package whose path begins with the key may import only what begins with
// one of the values, inside the house.
var rooms = map[string][]string{
	"amberseal/core/":    {"amberseal/core/"},
	"amberseal/app/":     {"amberseal/core/", "amberseal/app/"},
	"amberseal/adapter/": {"amberseal/core/", "amberseal/app/", "amberseal/adapter/"},
	"amberseal/standin/": {"amberseal/core/", "amberseal/app/", "amberseal/standin/"},
	"amberseal/web":      {"amberseal/core/", "amberseal/app/", "amberseal/web"},
	"amberseal/demo":     {"amberseal/core/", "amberseal/app/"},
	"amberseal/ui":       {},
}

func TestArrowsPointInward(t *testing.T) {
	out, err := exec.Command("go", "list", "-f", `{{.ImportPath}} {{join .Imports ","}}`, "./...").Output()
	if err != nil {
		t.Fatal(err)
	}
	seen := 0
	for line := range strings.Lines(string(out)) {
		pkg, imports, _ := strings.Cut(strings.TrimSpace(line), " ")
		for room, allowed := range rooms {
			if !strings.HasPrefix(pkg+"/", strings.TrimSuffix(room, "/")+"/") {
				continue
			}
			seen++
			for _, imp := range strings.Split(imports, ",") {
				if strings.HasPrefix(imp, "amberseal/") && !hasPrefix(imp, allowed) {
					t.Errorf("%s imports %s, against the house's arrows", pkg, imp)
				}
				if room == "amberseal/core/" {
					checkPure(t, pkg, imp)
				}
			}
		}
	}
	if seen < 20 {
		t.Fatalf("only %d packages were checked", seen)
	}
}

func checkPure(t *testing.T, pkg, imp string) {
	first, _, _ := strings.Cut(imp, "/")
	if strings.Contains(first, ".") && !hasPrefix(imp, pure) {
		t.Errorf("%s imports the library %s, which is not among core's", pkg, imp)
	}
	for _, c := range closed {
		// net/mail and net/url only parse.
		if imp == c {
			t.Errorf("%s imports %s: core does not reach outside", pkg, imp)
		}
	}
}

func hasPrefix(s string, prefixes []string) bool {
	for _, p := range prefixes {
		if strings.HasPrefix(s, p) {
			return true
		}
	}
	return false
}

// Files that somebody reads are short enough to be read: at most 500 lines, of at most 140 characters with a tab for four. What is
// generated, fixtures, and the description of the interface are not.
func TestFilesAreShort(t *testing.T) {
	seen := 0
	err := fs.WalkDir(os.DirFS("."), ".", func(name string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		if d.IsDir() {
			switch d.Name() {
			case "node_modules", "dist", "bin", "testdata", "shapes", "test-results", ".git":
				return fs.SkipDir
			}
			return nil
		}
		switch path.Ext(name) {
		case ".go", ".ts", ".vue", ".mjs", ".css":
		default:
			return nil
		}
		if strings.Contains(name, ".gen.") || strings.HasSuffix(name, "schema.d.ts") {
			return nil
		}
		data, err := os.ReadFile(name)
		if err != nil {
			return err
		}
		seen++
		lines := strings.Split(strings.TrimSuffix(string(data), "\n"), "\n")
		if len(lines) > 500 {
			t.Errorf("%s has %d lines", name, len(lines))
		}
		for i, line := range lines {
			if n := utf8.RuneCountInString(strings.ReplaceAll(line, "\t", "    ")); n > 140 {
				t.Errorf("%s:%d has %d characters", name, i+1, n)
			}
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
	if seen < 300 {
		t.Errorf("only %d files were looked at", seen)
	}
}
