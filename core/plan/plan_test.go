package plan_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"amberseal/core/filing"
	"amberseal/core/form"
	"amberseal/core/house"
	"amberseal/core/intake"
	"amberseal/core/notice"
	"amberseal/core/paper"
	"amberseal/core/phrase"
	"amberseal/core/plan"
)

func design() (intake.Design, phrase.Facts) {
	d := intake.New("Gift", []form.Field{{Key: "email", Kind: form.Email, Label: "Email"}, {Key: "value", Kind: form.Money, Label: "Value"}})
	f := phrase.Facts{House: house.New(), Form: d.Form, Answers: form.Load(d.Form, form.Raw{"email": []byte(`"a@b.example"`), "value": []byte(`"5"`)}), Made: time.Unix(0, 0)}
	return d, f
}

func told(steps []plan.Step) string {
	var out []string
	for _, s := range steps {
		out = append(out, fmt.Sprint(s.Kind, " ", s.Key))
	}
	return strings.Join(out, ", ")
}

func ExampleFor() {
	d, f := design()
	for _, s := range plan.For(d, f)[:2] {
		fmt.Println(s.Kind, s.Key)
	}
	// Output:
	// document receipt
	// notice respondent
}

// What is made depends on the answers: a document whose condition does not hold is neither made, attached nor filed; a
// notice whose condition does not hold is not sent.
func TestStepsFollowTheConditions(t *testing.T) {
	d, f := design()
	d.Documents = append(d.Documents, paper.Document{Key: "big", Name: "Big gift", When: "value > 100", Blocks: []paper.Block{{ID: "r", Kind: paper.Rule}}})
	d.Notices = []notice.Notice{{Key: "always", Name: "Always", To: phrase.Parse("{{email}}"), Attach: []string{"receipt", "big"}}, {Key: "never", Name: "Never", When: "value < 0"}}
	d.Filings = []filing.Filing{{Key: "small", Name: "Small", Document: "receipt"}, {Key: "large", Name: "Large", Document: "big"}}
	if got := told(plan.For(d, f)); got != "document receipt, notice always, filing small" {
		t.Errorf("a small gift gives %s", got)
	}
	f.Answers = form.Load(d.Form, form.Raw{"email": []byte(`"a@b.example"`), "value": []byte(`"500"`)})
	if got := told(plan.For(d, f)); got != "document receipt, document big, notice always, filing small, filing large" {
		t.Errorf("a large gift gives %s", got)
	}
}
