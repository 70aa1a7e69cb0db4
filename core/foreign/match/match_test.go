package match_test

import (
	"testing"

	"amberseal/core/ask/form"
	"amberseal/core/foreign/match"
)

// A name stands for what it says, and for nothing that it nearly says: what it may be meant for is offered, and a formula is none of them.
func TestNamesAreTakenAtTheirWord(t *testing.T) {
	n := match.For(form.Form{Fields: []form.Field{
		{Key: "fee", Kind: form.Money, Label: "Fee"},
		{Key: "agreed", Kind: form.YesNo, Label: "Agreed"},
		{Key: "first_day", Kind: form.Date, Label: "First day"},
		{Key: "name", Kind: form.ShortText, Label: "Your name"},
		{Key: "hives", Kind: form.WholeNumber, Label: "Number of hives"},
		{Key: "mail", Kind: form.Email, Label: "Your e-mail"},
	}}, map[string]match.Match{"Kept": {}})
	for name, c := range map[string]struct{ field, near string }{
		"fee": {"fee", ""}, "Fee": {"fee", ""}, " your  NAME ": {"name", ""}, "first-day": {"first_day", ""}, "Your email": {"mail", ""},
		"Not agreed": {"", ""}, "First name": {"", "first_day"}, "Your names": {"", "name"}, "Numbr of hives": {"", "hives"},
		"fee / 2": {"", ""}, "fee - 9": {"", ""}, "fee * 2": {"", ""}, "=fee * 2": {"", ""},
		"=fee": {"", ""}, "-fee": {"", ""}, "fee %": {"", ""},
		"fee + 100": {"", ""}, "Kept": {"", ""},
	} {
		found, how := n.Find(name)
		near, offered := n.Nearly(name)
		if found.Field() != c.field || (how == match.None) != (c.field == "" && name != "Kept") || how == match.NearLabel {
			t.Errorf("“%s” stands for %q (%s), want %q", name, found.Field(), how, c.field)
		}
		if c.field == "" && c.near != "" && (!offered || near.Field() != c.near) {
			t.Errorf("for “%s” %q is offered, want %q", name, near.Field(), c.near)
		}
		if offered && match.Calculates(name) {
			t.Errorf("for the formula “%s” %q is offered", name, near.Field())
		}
	}
	if m, how := n.Find("kept"); how != match.Chosen || !m.Left() {
		t.Errorf("what is left on purpose is %+v, %s", m, how)
	}
}
