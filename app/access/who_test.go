package access_test

import (
	"fmt"
	"slices"
	"testing"

	"amberseal/app/access"
)

// A role on one intake opens that intake and nothing of the house or of its people, whatever the role; a role in the house opens all; and
// what somebody may do anywhere is what the two say together.
func TestRolesHoldWhereTheyWereGiven(t *testing.T) {
	const theirs, other = 7, 8
	for _, role := range access.Roles {
		guest := access.Who{Person: 1, Intakes: map[int64]access.Role{theirs: role}}
		member := access.Who{Person: 1, Role: role}
		for _, p := range access.Permissions {
			if guest.May(p) || guest.MayOn(p, other) {
				t.Errorf("%s of one intake may %s elsewhere", role, p)
			}
			mine := role.May(p) && p != access.House && p != access.People
			if got := guest.MayOn(p, theirs); got != mine {
				t.Errorf("%s of an intake may %s there: %v", role, p, got)
			}
			s := guest.Scope(p)
			if s.All || s.Empty() == mine || s.Has(theirs) != mine || s.Has(other) {
				t.Errorf("%s of an intake may %s in %+v", role, p, s)
			}
			if got := member.MayOn(p, other); got != role.May(p) || got != member.May(p) || got != member.Scope(p).Has(other) {
				t.Errorf("%s of the house may %s on an intake: %v", role, p, got)
			}
		}
		if guest.Sees(other) || guest.Sees(theirs) != role.May(access.Look) {
			t.Errorf("%s of an intake sees others, or not its own", role)
		}
		both := access.Who{Person: 1, Role: access.Auditor, Intakes: map[int64]access.Role{theirs: role, 9: role}}
		for _, p := range access.Permissions {
			s := both.Scope(p)
			var want []int64
			if !access.Auditor.May(p) && role.May(p) && p != access.House && p != access.People {
				want = []int64{theirs, 9}
			}
			if s.All != access.Auditor.May(p) || !slices.Equal(s.Intakes, want) {
				t.Errorf("an auditor who is %s of two intakes may %s in %s", role, p, fmt.Sprint(s))
			}
		}
	}
	var nobody access.Who
	for _, p := range access.Permissions {
		if nobody.May(p) || nobody.MayOn(p, theirs) || !nobody.Scope(p).Empty() || !access.Everywhere.Has(theirs) {
			t.Errorf("nobody may %s", p)
		}
	}
}
