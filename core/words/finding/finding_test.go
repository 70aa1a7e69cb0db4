package finding_test

import (
	"fmt"
	"testing"

	"amberseal/core/words/finding"
)

func ExampleList() {
	var l finding.List
	l.Notice("documents/receipt", "intake.document-for-nobody")
	l.Fault("documents/receipt/blocks/lead", "phrase.field-unknown", "field", "gone")
	l.Sort()
	fmt.Println(l.Faults(), l[0].Place)
	fmt.Println(l.Err())
	// Output:
	// 1 documents/receipt/blocks/lead
	// documents/receipt/blocks/lead: The placeholder “gone” has no field. Choose a field for it, or ask for it in the form.
}

// Faults come before notices, each in the order in which they were found; a list without faults is no error.
func TestTheWorstComesFirst(t *testing.T) {
	var l finding.List
	for i := range 6 {
		if i%2 == 0 {
			l.Notice(fmt.Sprint("n", i), "x")
		} else {
			l.Fault(fmt.Sprint("f", i), "x")
		}
	}
	l.Sort()
	got := ""
	for _, f := range l {
		got += f.Place + " "
	}
	if got != "f1 f3 f5 n0 n2 n4 " {
		t.Errorf("sorted as %s", got)
	}
	if l[3:].Err() != nil || l.Err() == nil {
		t.Error("only faults are errors")
	}
}
