package people_test

import (
	"context"
	"encoding/base64"
	"errors"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"golang.org/x/crypto/argon2"

	"amberseal/adapter/sqlite"
	"amberseal/app/access"
	"amberseal/app/notify"
	"amberseal/app/people"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/link"
	"amberseal/core/plan"
	"amberseal/core/words/house"
)

var clock = time.Date(2026, time.November, 28, 9, 0, 0, 0, time.UTC)

func staff(t *testing.T) (*people.People, *sqlite.DB) {
	t.Helper()
	db, err := sqlite.Open(t.Context(), filepath.Join(t.TempDir(), "amberseal.db"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { db.Close() })
	h := house.New()
	h.Name, h.Email, h.Site = "House", "house@house.example", "https://house.example"
	if err := db.SetHouse(t.Context(), h); err != nil {
		t.Fatal(err)
	}
	return &people.People{
		Store: db, Secret: link.Secret("0123456789abcdef0123456789abcdef"), Now: func() time.Time { return clock }, Wake: func() {},
	}, db
}

func TestSigningIn(t *testing.T) {
	o, db := staff(t)
	const password = "zażółć gęślą jaźń"
	if err := o.Add(t.Context(), people.Person{Email: "Ottoline@House.example", Name: "Ottoline"}, password); err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		email, password string
		right           bool
	}{
		{"Ottoline@House.example", password, true}, {" ottoline@house.example\n", password, true},
		{"OTTOLINE@HOUSE.EXAMPLE", password, true},
		{"ottoline@house.example", password + " ", false}, {"ottoline@house.example", strings.ToUpper(password), false},
		{"ottoline@house.example", "", false},
		{"nobody@house.example", password, false}, {"", "", false}, {"' OR 1=1 --", password, false},
	} {
		p, err := o.SignIn(t.Context(), c.email, c.password)
		if (err == nil) != c.right || err != nil && !errors.Is(err, people.ErrSignIn) || c.right && p.Name != "Ottoline" {
			t.Errorf("%q with %q gives %+v %v", c.email, c.password, p, err)
		}
	}
	_, hash, err := db.PersonByEmail(t.Context(), "ottoline@house.example")
	if err != nil || strings.Contains(hash, password) || !strings.HasPrefix(hash, "$argon2id$v=19$m=19456,t=2,p=1$") {
		t.Errorf("what is kept of a password is %q: %v", hash, err)
	}
	// The same address again is the same person with another password; equal passwords are kept as different words.
	if err := o.Add(t.Context(), people.Person{Email: "ottoline@house.example", Name: "Ottoline Marsh"}, password); err != nil {
		t.Fatal(err)
	}
	if _, again, err := db.PersonByEmail(t.Context(), "ottoline@house.example"); err != nil || again == hash {
		t.Errorf("an equal password is kept as the same words: %v", err)
	}
	if all, err := db.People(t.Context(), people.Person{}, 9); len(all) != 1 || err != nil {
		t.Errorf("there are %d people: %v", len(all), err)
	}
	if p, err := o.SignIn(t.Context(), "ottoline@house.example", password); err != nil || p.Generation != 2 {
		t.Errorf("with a new password sessions of before end: %+v %v", p, err)
	}
	// A hash as the first versions kept it.
	old := "argon2id$AAAAAAAAAAAAAAAAAAAAAA$" + base64.RawStdEncoding.EncodeToString(
		argon2.IDKey([]byte(password), make([]byte, 16), 2, 19*1024, 1, 32),
	)
	if err := db.AddPerson(t.Context(), people.Person{Email: "old@house.example"}, old, time.Unix(1e9, 0)); err != nil {
		t.Fatal(err)
	}
	if _, err := o.SignIn(t.Context(), "old@house.example", password); err != nil {
		t.Errorf("a hash of before: %v", err)
	}
	for _, c := range []struct{ email, password string }{
		{"no address", "long enough it is"}, {"a@b.example", "too short"}, {"a@b.example", "aaaaaaaaaaaaaa"},
		{"a@b.example", "123456789012"}, {"a@b.example", "qwertyuiopas"}, {"a@b.example", "Password1234"}, {"a@b.example", "P@ssw0rd!2026"},
		{"ottoline@b.example", "ottoline2026"}, {"a@b.example", "abababababab"},
	} {
		if err := o.Add(t.Context(), people.Person{Email: c.email}, c.password); err == nil {
			t.Errorf("%s with %q was added", c.email, c.password)
		}
	}
}

// outbox keeps letters.
type outbox struct{ letters []notify.Letter }

func (o *outbox) Send(_ context.Context, l notify.Letter) error {
	o.letters = append(o.letters, l)
	return nil
}

// Somebody is asked in by a letter, chooses a password by its link once, and is changed and let go; the house keeps an owner.
func TestPeopleComeAndGo(t *testing.T) {
	o, db := staff(t)
	ctx := t.Context()
	if err := o.Add(ctx, people.Person{Email: "owner@house.example", Name: "Owner"}, "a long enough passphrase"); err != nil {
		t.Fatal(err)
	}
	id, err := o.Invite(
		ctx,
		people.Person{Email: "ines@house.example", Name: "Ines", Role: access.Staff, Intakes: map[int64]access.Role{99: access.Designer}},
	)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := o.Invite(ctx, people.Person{Email: "INES@house.example", Name: "Ines", Role: access.Staff}); !errors.Is(
		err,
		people.ErrTaken,
	) {
		t.Errorf("the same address again: %v", err)
	}
	for _, p := range []people.Person{
		{Email: "x", Name: "X", Role: access.Staff}, {Email: "x@house.example", Role: access.Staff},
		{Email: "x@house.example", Name: "X", Role: "king"},
		{Email: "x@house.example", Name: "X", Role: access.Guest, Intakes: map[int64]access.Role{1: access.Guest}},
	} {
		if _, err := o.Invite(ctx, p); !errors.As(err, new(people.Unfit)) {
			t.Errorf("%+v: %v", p, err)
		}
	}
	post := &outbox{}
	send := func(run int) error {
		_, err := people.Hand(db, o.Secret, post, o.Now).
			Do(ctx, work.Job{Job: register.Job{Subject: plan.Subject{About: plan.Person, ID: id, Run: run}}})
		return err
	}
	if err := send(1); err != nil || len(post.letters) != 1 {
		t.Fatal(post.letters, err)
	}
	_, token, ok := strings.Cut(post.letters[0].Text, "https://house.example/welcome/")
	if token, _, _ = strings.Cut(token, "\n"); !ok {
		t.Fatal("the letter has no link: " + post.letters[0].Text)
	}
	if _, err := o.SignIn(ctx, "ines@house.example", ""); !errors.Is(err, people.ErrSignIn) {
		t.Errorf("somebody without a password signs in: %v", err)
	}
	// A later letter makes the link of the one before void, and the letter itself if it has not gone.
	if err := o.Reinvite(ctx, id); err != nil {
		t.Fatal(err)
	}
	if _, err := o.Held(ctx, token); !errors.Is(err, people.ErrLink) {
		t.Errorf("the link of the letter before: %v", err)
	}
	if err := send(1); !errors.As(err, new(work.GiveUp)) {
		t.Errorf("the letter before goes out: %v", err)
	}
	if err := send(2); err != nil || post.letters[1].ID == post.letters[0].ID {
		t.Fatal(post.letters, err)
	}
	_, token, _ = strings.Cut(post.letters[1].Text, "/welcome/")
	token, _, _ = strings.Cut(token, "\n")
	late := *o
	late.Now = func() time.Time { return clock.Add(people.LinkLasts + time.Minute) }
	if _, err := late.Held(ctx, token); !errors.Is(err, people.ErrLink) {
		t.Errorf("the link lasts for ever: %v", err)
	}
	if _, err := o.Welcome(ctx, token, "short"); !errors.As(err, new(people.Unfit)) {
		t.Errorf("a short password: %v", err)
	}
	const chosen = "willow over water"
	p, err := o.Welcome(ctx, token, chosen)
	if err != nil || p.ID != id {
		t.Fatal(p, err)
	}
	if _, err := o.Welcome(ctx, token, "another long password"); !errors.Is(err, people.ErrLink) {
		t.Errorf("the link works twice: %v", err)
	}
	in, err := o.SignIn(ctx, "ines@house.example", chosen)
	if err != nil || in.Generation != p.Generation || len(in.Intakes) != 0 {
		t.Errorf("%+v %v", in, err)
	}
	if _, err := o.ChangePassword(ctx, id, "wrong", "another long password"); !errors.As(err, new(people.Unfit)) {
		t.Errorf("a password is changed by who does not know it: %v", err)
	}
	if next, err := o.ChangePassword(ctx, id, chosen, "another long password"); err != nil || next != p.Generation+1 {
		t.Errorf("changed: %d %v", next, err)
	}
	// The last owner can neither go nor become less.
	owner, _, err := db.PersonByEmail(ctx, "owner@house.example")
	if err != nil {
		t.Fatal(err)
	}
	if err := db.RemovePerson(ctx, owner.ID, clock); !errors.Is(err, people.ErrLastOwner) {
		t.Errorf("the last owner goes: %v", err)
	}
	owner.Role = access.Staff
	if err := o.Set(ctx, owner); !errors.Is(err, people.ErrLastOwner) {
		t.Errorf("the last owner becomes less: %v", err)
	}
	in.Role = access.Owner
	if err := o.Set(ctx, in); err != nil {
		t.Fatal(err)
	}
	if err := db.RemovePerson(ctx, owner.ID, clock); err != nil {
		t.Fatal(err)
	}
	if all, err := db.People(ctx, people.Person{}, 9); err != nil || len(all) != 1 || all[0].Email != "ines@house.example" {
		t.Errorf("%+v %v", all, err)
	}
}
