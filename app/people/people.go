// Package people is who works in the house: what they may do, how they are asked in, and how they sign in.
package people

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"strings"
	"time"

	"amberseal/app/access"
	"amberseal/app/register"
	"amberseal/core/ask/form"
	"amberseal/core/link"
	"amberseal/core/plan"
	"amberseal/core/words/house"
)

// Person is somebody who works in the house.
type Person struct {
	ID      int64
	Email   string
	Name    string
	Role    access.Role
	Intakes map[int64]access.Role // roles on single intakes, besides

	Ref        string         // what the link of the letter is about; see package link
	Generation int            // counts up with each new password, which ends all sessions
	Run        int            // which letter was the last one, 0 for none
	Invited    time.Time      // when it was asked for
	Signed     bool           // has a password
	Seen       time.Time      // when a session of theirs was last used, to the hour
	Letter     register.State // where their last letter stands, empty for none
	Reason     string         // why it has not gone, in plain words
}

// Who is what they may do.
func (p Person) Who() access.Who { return access.Who{Person: p.ID, Role: p.Role, Intakes: p.Intakes} }

// Store is where people are kept. Look-ups of nothing give register.NotFound.
type Store interface {
	House(ctx context.Context) (house.House, error)
	// AddPerson adds somebody who can sign in, or gives somebody of that address a new name, role and password.
	AddPerson(ctx context.Context, p Person, hash string, now time.Time) error
	// InvitePerson adds somebody without a password, with the steps of their letter, in one commit; ErrTaken where the address is.
	InvitePerson(ctx context.Context, p Person, letter []plan.Step, now time.Time) (int64, error)
	// ReinvitePerson plans a further letter.
	ReinvitePerson(ctx context.Context, id int64, letter []plan.Step, now time.Time) error
	// SetPerson changes name, role and roles on intakes. It refuses with ErrLastOwner where no owner with a password would be left.
	SetPerson(ctx context.Context, p Person) error
	// RemovePerson forgets somebody; ErrLastOwner as with SetPerson.
	RemovePerson(ctx context.Context, id int64, now time.Time) error
	// SetPassword gives a new one, where the generation is still the one that was looked at, and counts it up; ErrLink where it is not.
	SetPassword(ctx context.Context, id int64, generation int, hash string) error
	// SawPerson notes when somebody was there last.
	SawPerson(ctx context.Context, id int64, now time.Time) error
	// EndSessions ends all of somebody's sessions and gives the new generation.
	EndSessions(ctx context.Context, id int64) (generation int, err error)
	PersonByEmail(ctx context.Context, email string) (Person, string, error)
	PersonByRef(ctx context.Context, ref string) (Person, error)
	Person(ctx context.Context, id int64) (Person, error)
	// People gives at most so many by name, behind the name and ID of after.
	People(ctx context.Context, after Person, limit int) ([]Person, error)
}

// People looks after them.
type People struct {
	Store  Store
	Secret link.Secret
	Now    func() time.Time
	Wake   func() // called when there are letters to be sent
}

// The errors people meet.
var (
	ErrSignIn    = errors.New("the email address or the password is not right") // it does not say which
	ErrBusy      = errors.New("many people sign in at this moment; please try again in a moment")
	ErrTaken     = errors.New("somebody of this address works here already")
	ErrLastOwner = errors.New("the house needs an owner who can sign in; make somebody else one first")
	ErrLink      = errors.New(
		"this link has been used, has lapsed, or was replaced by a newer one; ask an owner of the house for another letter",
	)
	ErrNoSite = errors.New("the house does not say where its pages are reached; write its address on the House page first")
)

// Unfit is the error of something about a person that cannot be kept, in words for who wrote it.
type Unfit struct{ Reason string }

func (e Unfit) Error() string { return e.Reason }

// SignIn finds the person of an address and password. It takes equally long for an
// address nobody has.
func (o *People) SignIn(ctx context.Context, email, password string) (Person, error) {
	p, hash, err := o.Store.PersonByEmail(ctx, strings.TrimSpace(email))
	unknown := errors.Is(err, register.NotFound)
	if err != nil && !unknown {
		return Person{}, err
	}
	leave, err := turn(ctx)
	if err != nil {
		return Person{}, err
	}
	defer leave()
	if unknown || hash == "" {
		hash = nobody()
	}
	right, err := matches(hash, password)
	if err != nil {
		return Person{}, err
	}
	if !right || unknown || !p.Signed {
		return Person{}, ErrSignIn
	}
	return p, nil
}

// fit says what is wrong with somebody, or tidies them.
func fit(p Person) (Person, error) {
	p.Email, p.Name = strings.TrimSpace(p.Email), strings.TrimSpace(p.Name)
	asked := form.Form{Fields: []form.Field{{Key: "e", Kind: form.Email, Label: "e"}}}
	r := form.Check(asked, form.Raw{"e": []byte(fmt.Sprintf("%q", p.Email))}, form.Circumstances{})
	switch {
	case p.Name == "":
		return p, Unfit{"write a name"}
	case len(p.Name) > mostName:
		return p, Unfit{"the name is too long"}
	case p.Email == "" || len(r.Findings) > 0:
		return p, Unfit{"“" + p.Email + "” is not an email address"}
	case !p.Role.Known():
		return p, Unfit{fmt.Sprintf("“%s” is no role; there are owner, designer, staff, auditor and guest", p.Role)}
	}
	for _, role := range p.Intakes {
		if !contains(access.OnIntakes, role) {
			return p, Unfit{fmt.Sprintf("“%s” is no role on an intake; there are owner, designer, staff and auditor", role)}
		}
	}
	return p, nil
}

// mostName is how long a name may be, in bytes.
const mostName = 400

func contains(list []access.Role, r access.Role) bool {
	for _, x := range list {
		if x == r {
			return true
		}
	}
	return false
}

// Add lets somebody sign in, or gives somebody who can a new name, role and password; their sessions end then. Without a role
// it is an owner.
func (o *People) Add(ctx context.Context, p Person, password string) error {
	if p.Role == "" {
		p.Role = access.Owner
	}
	if p.Name == "" {
		p.Name = p.Email
	}
	p, err := fit(p)
	if err != nil {
		return err
	}
	if problem := weak(password, p); problem != "" {
		return Unfit{problem}
	}
	h, err := hash(ctx, password)
	if err != nil {
		return err
	}
	p.Ref = link.NewRef(rand.Reader)
	return o.Store.AddPerson(ctx, p, h, o.Now())
}

// Invite asks somebody in by a letter with a link, by which they choose a password.
func (o *People) Invite(ctx context.Context, p Person) (int64, error) {
	p, err := fit(p)
	if err != nil {
		return 0, err
	}
	if err := o.sited(ctx); err != nil {
		return 0, err
	}
	p.Ref = link.NewRef(rand.Reader)
	id, err := o.Store.InvitePerson(ctx, p, plan.Welcome(o.Now().Add(LinkLasts)), o.Now())
	o.Wake()
	return id, err
}

// Reinvite sends a letter anew: to somebody who never came, or who forgot their password. Links of letters before open nothing more.
func (o *People) Reinvite(ctx context.Context, id int64) error {
	if err := o.sited(ctx); err != nil {
		return err
	}
	err := o.Store.ReinvitePerson(ctx, id, plan.Welcome(o.Now().Add(LinkLasts)), o.Now())
	o.Wake()
	return err
}

func (o *People) sited(ctx context.Context) error {
	h, err := o.Store.House(ctx)
	if err == nil && h.Site == "" {
		err = ErrNoSite
	}
	return err
}

// Set changes somebody's name, role and roles on single intakes.
func (o *People) Set(ctx context.Context, p Person) error {
	was, err := o.Store.Person(ctx, p.ID)
	if err != nil {
		return err
	}
	p.Email = was.Email
	if p, err = fit(p); err != nil {
		return err
	}
	return o.Store.SetPerson(ctx, p)
}

// ChangePassword takes a new password from somebody who knows the present one. All their sessions end; the generation of new ones is
// given back.
func (o *People) ChangePassword(ctx context.Context, id int64, present, next string) (generation int, err error) {
	p, err := o.Store.Person(ctx, id)
	if err != nil {
		return 0, err
	}
	if _, err := o.SignIn(ctx, p.Email, present); errors.Is(err, ErrSignIn) {
		return 0, Unfit{"the present password is not right"}
	} else if err != nil {
		return 0, err
	}
	return o.setPassword(ctx, p, next)
}

func (o *People) setPassword(ctx context.Context, p Person, next string) (int, error) {
	if problem := weak(next, p); problem != "" {
		return 0, Unfit{problem}
	}
	h, err := hash(ctx, next)
	if err != nil {
		return 0, err
	}
	return p.Generation + 1, o.Store.SetPassword(ctx, p.ID, p.Generation, h)
}

// LinkLasts is how long the link of a letter opens something.
const LinkLasts = 7 * 24 * time.Hour

// counter of somebody's link: each letter and each password make those before void.
func counter(p Person) int { return p.Generation<<16 | p.Run }

// Token is that of the link in somebody's last letter.
func (o *People) Token(p Person) string { return o.Secret.Token(link.Welcome, p.Ref, counter(p)) }

// Held is who a link is for; ErrLink where it opens nothing, or nothing more.
func (o *People) Held(ctx context.Context, token string) (Person, error) {
	ref, ok := link.Ref(token)
	if !ok {
		return Person{}, ErrLink
	}
	p, err := o.Store.PersonByRef(ctx, ref)
	switch {
	case errors.Is(err, register.NotFound):
		return Person{}, ErrLink
	case err != nil:
		return Person{}, err
	case p.Run == 0 || !o.Secret.Proves(token, link.Welcome, ref, counter(p)) || o.Now().After(p.Invited.Add(LinkLasts)):
		return Person{}, ErrLink
	}
	return p, nil
}

// Welcome takes the password that somebody chose by their link, and gives them with their new generation.
func (o *People) Welcome(ctx context.Context, token, password string) (Person, error) {
	p, err := o.Held(ctx, token)
	if err != nil {
		return p, err
	}
	p.Generation, err = o.setPassword(ctx, p, password)
	return p, err
}
