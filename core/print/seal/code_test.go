package seal_test

import (
	"fmt"
	"strings"
	"testing"

	"amberseal/core/link"
	"amberseal/core/print/seal"
)

func ExampleTidy() {
	fmt.Println(seal.Tidy("7k3m 9qxd–zhvf o1lw"))
	fmt.Println(seal.Tidy("7K3M"))
	// Output:
	// 7K3M-9QXD-ZHVF-011W true
	//  false
}

func TestCodesAreTheirDocumentsAlone(t *testing.T) {
	seen := map[string]string{}
	for s := range 200 {
		for _, document := range []string{"receipt", "receipt2", "bench"} {
			for revision := 1; revision < 23; revision++ {
				of := fmt.Sprint(s, document, revision)
				c := seal.Code(link.Secret("house"), fmt.Sprint("submission", s), document, revision)
				if c != seal.Code(link.Secret("house"), fmt.Sprint("submission", s), document, revision) {
					t.Fatal("the same document has two codes")
				}
				if other, taken := seen[c]; taken {
					t.Fatalf("%s and %s share a code", of, other)
				}
				seen[c] = of
				if tidy, ok := seal.Tidy(strings.ToLower(strings.ReplaceAll(c, "-", ""))); !ok || tidy != c {
					t.Fatalf("%q is read as %q", c, tidy)
				}
			}
		}
	}
	if seal.Code(link.Secret("a"), "s", "d", 1) == seal.Code(link.Secret("b"), "s", "d", 1) {
		t.Error("two houses share a code")
	}
	for _, wrong := range []string{"", "UUUU-UUUU-UUUU-UUUU", "7K3M-9QXD-2HVF-8TWN1", "7K3M-9QXD-2HVF-8TW", "../../etc/passwd",
		"７K3M9QXD2HVF8TWN"} {
		if got, ok := seal.Tidy(wrong); ok {
			t.Errorf("%q is taken for the code %s", wrong, got)
		}
	}
}
