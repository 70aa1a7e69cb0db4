package access

import (
	"maps"
	"slices"
)

// About is what an operation is about, which decides where its permission must hold.
type About string

// What operations are about.
const (
	AboutHouse      About = "house"      // the house, or what every intake shares
	AboutIntake     About = "intake"     // the intake of the path
	AboutSubmission About = "submission" // the intake of the submission of the path
	AboutUpload     About = "upload"     // the intake of the uploaded file of the path
	AboutSeveral    About = "several"    // several intakes: those where the permission holds, and nothing of the others
)

// Who is somebody with what they may do: by a role in the house, and besides by roles on single intakes.
type Who struct {
	Person  int64 // who it is, 0 for nobody of the house
	Role    Role
	Intakes map[int64]Role
}

// May reports whether somebody may do something in the whole house.
func (w Who) May(p Permission) bool { return w.Role.May(p) }

// MayOn reports whether somebody may do something on an intake.
func (w Who) MayOn(p Permission, intake int64) bool {
	return w.Role.May(p) || p != House && p != People && w.Intakes[intake].May(p)
}

// Sees reports whether somebody may know that there is such an intake.
func (w Who) Sees(intake int64) bool { return w.MayOn(Look, intake) }

// Scope is where somebody may do something.
func (w Who) Scope(p Permission) Scope {
	if w.Role.May(p) {
		return Scope{All: true}
	}
	s := Scope{}
	for _, id := range slices.Sorted(maps.Keys(w.Intakes)) {
		if w.MayOn(p, id) {
			s.Intakes = append(s.Intakes, id)
		}
	}
	return s
}

// InSession is the name under which a session holds the number of its person.
const InSession = "person"

// Scope is a set of intakes: all, or some.
type Scope struct {
	All     bool
	Intakes []int64
}

// Everywhere is all of them.
var Everywhere = Scope{All: true}

// Empty reports whether no intake is in it.
func (s Scope) Empty() bool { return !s.All && len(s.Intakes) == 0 }

// Has reports whether an intake is in it.
func (s Scope) Has(intake int64) bool { return s.All || slices.Contains(s.Intakes, intake) }
