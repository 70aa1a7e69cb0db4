// Package access says who may do what: one table for the whole house. Every operation of the interface names its permission in
// web/api/openapi.yaml; docs/access.md shows both, and a test holds them together.
package access

import "slices"

// Role is what somebody is in the house.
type Role string

// The roles.
const (
	Owner    Role = "owner"    // everything
	Designer Role = "designer" // makes intakes, opens and closes them; reads no answers
	Staff    Role = "staff"    // receives and handles what comes in
	Auditor  Role = "auditor"  // reads everything and changes nothing
	Guest    Role = "guest"    // works on single intakes and sees no other
)

// Roles are all of them, in the order in which they are shown.
var Roles = []Role{Owner, Designer, Staff, Auditor, Guest}

// Permission is a sort of thing that can be done.
type Permission string

// The permissions. Public and Self need no role.
const (
	Public  Permission = "public"  // anybody
	Self    Permission = "self"    // who is signed in, about themselves
	Look    Permission = "look"    // see intakes, their designs and proofs of them, and the house
	Design  Permission = "design"  // make and change intakes
	Open    Permission = "open"    // open, pause and close them
	Records Permission = "records" // read what came in and what became of it
	Handle  Permission = "handle"  // try again, invite, hand in copies, withdraw
	House   Permission = "house"   // change who the house is
	People  Permission = "people"  // ask people in, change what they may, and let them go
)

// Permissions are all that hang on a role, in the order in which they are shown.
var Permissions = []Permission{Look, Design, Open, Records, Handle, House, People}

var table = map[Role][]Permission{
	Owner:    {Look, Design, Open, Records, Handle, House, People},
	Designer: {Look, Design, Open},
	Staff:    {Look, Records, Handle},
	Auditor:  {Look, Records},
	Guest:    {},
}

// OnIntakes are the roles that somebody can have on a single intake; what is of the house stays with the house's own roles.
var OnIntakes = []Role{Owner, Designer, Staff, Auditor}

// Known reports whether there is such a role.
func (r Role) Known() bool { return slices.Contains(Roles, r) }

// May reports whether a role may do something. Who is nobody has the empty role.
func (r Role) May(p Permission) bool {
	switch p {
	case Public:
		return true
	case Self:
		return r.Known()
	}
	return slices.Contains(table[r], p)
}
