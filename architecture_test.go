// Package amberseal holds the test of the house's rules: which room may know which.
package amberseal

import (
	"os/exec"
	"strings"
	"testing"
)

// pure are the libraries that core may use besides the standard library.
var pure = []string{
	"github.com/cockroachdb/apd/v3", "github.com/bojanz/currency", "github.com/go-playground/locales",
	"github.com/go-text/typesetting", "github.com/klauspost/compress", "github.com/nyaruka/phonenumbers", "github.com/pdfcpu/pdfcpu", "github.com/boombuler/barcode", "github.com/srwiley/oksvg", "github.com/srwiley/rasterx", "rsc.io/qr", "golang.org/x/image", "golang.org/x/text", "golang.org/x/net/idna",
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
