package invite_test

import (
	"context"
	"errors"
	"log/slog"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"
	"testing/synctest"
	"time"

	"amberseal/adapter/sqlite"
	"amberseal/app/invite"
	"amberseal/app/notify"
	"amberseal/app/work"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/plan"
	"amberseal/core/words/house"
)

// Addresses as people paste them; those that RFC 5322 section 3.4.1 forbids are told.
func TestAddresses(t *testing.T) {
	good, bad := invite.Addresses(
		"Name;Email\n\"Marsh, O.\" <o.marsh@house.example>, bao+lake@tran.example;\nO.MARSH@house.example\nżółw@żółw.example. " +
			"two@@at.example a..b@dots.example x@y no address here\n",
	)
	if want := []string{"o.marsh@house.example", "bao+lake@tran.example", "żółw@żółw.example"}; !slices.Equal(good, want) {
		t.Errorf("good are %q, want %q", good, want)
	}
	if want := []string{"two@@at.example", "a..b@dots.example", "x@y"}; !slices.Equal(bad, want) {
		t.Errorf("bad are %q, want %q", bad, want)
	}
}

// Entries of a plain list that are no addresses are told; the other columns of a table are not taken for some.
func TestStrayEntriesAreTold(t *testing.T) {
	for pasted, want := range map[string][]string{
		"ann@guest.example, not-an-address; bob@guest.example": {"not-an-address"}, "ann@guest.example\nbob": {"bob"},
		"Name;Email\nAnn;ann@guest.example\nBob;bob@guest.example": nil, "Ann <ann@guest.example>, Bob <bob@guest.example>": nil,
	} {
		if _, bad := invite.Addresses(pasted); !slices.Equal(bad, want) {
			t.Errorf("%q: told are %q, want %q", pasted, bad, want)
		}
	}
}

// However long mail is out, no invitation fails, and all go out when it is back; one that is refused for five days is given up.
func TestALongOutageFailsNoInvitation(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		db, err := sqlite.Open(t.Context(), filepath.Join(t.TempDir(), "amberseal.db"))
		if err != nil {
			t.Fatal(err)
		}
		h := house.New()
		h.Email, h.Site = "desk@house.example", "https://forms.house.example"
		if err := db.SetHouse(t.Context(), h); err != nil {
			t.Fatal(err)
		}
		made, err := db.AddIntake(t.Context(), intake.New("Lake day", nil), time.Now())
		if err != nil {
			t.Fatal(err)
		}
		out := work.Again{Reason: "The mail server does not answer.", Outage: true}
		p := &post{answer: map[string]error{}, tried: map[string][]string{}}
		for _, who := range []string{"a", "b", "c"} {
			p.answers(who+"@guest.example", out)
		}
		p.answers("busy@guest.example", errors.New("come back later"))
		inviter := at(t, db, p, func(context.Context, int64) (string, string, error) { return "Lake day", "lake-day", nil })
		if _, err := inviter.Invite(t.Context(), made.ID, "", "a@guest.example b@guest.example c@guest.example "+
			"busy@guest.example"); err != nil {
			t.Fatal(err)
		}
		states := func() map[string]invite.State {
			all, err := db.Invitations(t.Context(), made.ID, 0, 10)
			if err != nil {
				t.Fatal(err)
			}
			out := map[string]invite.State{}
			for _, x := range all {
				out[x.Email] = x.State
			}
			return out
		}
		time.Sleep(24 * time.Hour)
		for who, state := range states() {
			if state != invite.Waits {
				t.Errorf("after a day %s stands at %s", who, state)
			}
		}
		for _, who := range []string{"a", "b", "c"} {
			p.answers(who+"@guest.example", nil)
		}
		time.Sleep(5 * 24 * time.Hour)
		for who, want := range map[string]invite.State{"a": invite.Sent, "b": invite.Sent, "c": invite.Sent, "busy": invite.Failed} {
			if got := states()[who+"@guest.example"]; got != want {
				t.Errorf("after six days %s stands at %s, want %s", who, got, want)
			}
		}
	})
}

// at is an inviter with a crew that sends what it plans, until the test ends.
func at(t *testing.T, db *sqlite.DB, p notify.Post, names invite.Names) *invite.Inviter {
	crew := &work.Crew{
		Store: db, Now: time.Now, Changed: func() {}, Log: slog.New(slog.DiscardHandler), Slots: map[string]int{plan.Mail: 4},
		Hands: map[plan.Kind]work.Hand{plan.Invitation: invite.Hand(db, secret, p, names, time.Now)},
	}
	ctx, stop := context.WithCancel(t.Context())
	ended := make(chan error, 1)
	go func() { ended <- crew.Run(ctx) }()
	t.Cleanup(func() {
		stop()
		if err := <-ended; err != nil {
			t.Error(err)
		}
		db.Close()
	})
	return &invite.Inviter{Store: db, Now: time.Now, Wake: crew.Wake}
}

var secret = link.Secret("0123456789abcdef0123456789abcdef")

// post is a mail server that answers as it is told.
type post struct {
	mu     sync.Mutex
	answer map[string]error
	sent   []notify.Letter
	tried  map[string][]string // Message-IDs of each address
}

func (p *post) Send(_ context.Context, l notify.Letter) error {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.tried[l.To[0]] = append(p.tried[l.To[0]], l.ID)
	if err := p.answer[l.To[0]]; err != nil {
		return err
	}
	p.sent = append(p.sent, l)
	return nil
}

func (p *post) answers(address string, err error) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.answer[address] = err
}

// Each address gets one letter with a link of its own; one that is not taken is tried again for hours under the same Message-ID, one that
// is refused needs a hand, and by hand it goes out.
func TestInvitationsGoOut(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		db, err := sqlite.Open(t.Context(), filepath.Join(t.TempDir(), "amberseal.db"))
		if err != nil {
			t.Fatal(err)
		}
		h := house.New()
		h.Name, h.Email, h.Site = `Tarn & Hollow <"Works">`, "desk@house.example", "https://forms.house.example"
		if err := db.SetHouse(t.Context(), h); err != nil {
			t.Fatal(err)
		}
		made, err := db.AddIntake(t.Context(), intake.New("Lake day", []form.Field{{Key: "a", Kind: form.ShortText, Label: "A"}}),
			time.Now())
		if err != nil {
			t.Fatal(err)
		}
		if made, err = db.Publish(t.Context(), made.ID, made.Revision, time.Now()); err != nil {
			t.Fatal(err)
		}
		p := &post{
			answer: map[string]error{
				"busy@guest.example": errors.New("come back later"),
				"gone@guest.example": work.GiveUp{Reason: "There is no such address."},
			},
			tried: map[string][]string{},
		}
		inviter := at(t, db, p, func(ctx context.Context, id int64) (name, slug string, err error) {
			i, err := db.Intake(ctx, id)
			return i.Design.Name, i.Address, err
		})

		done, err := inviter.Invite(t.Context(), made.ID, "", "good@guest.example busy@guest.example gone@guest.example")
		if done.Added != 3 || len(done.Bad) > 0 || err != nil {
			t.Fatal(done, err)
		}
		if done, err := inviter.Invite(t.Context(), made.ID, "Come & see\nus", "GOOD@guest.example more@guest.example"); done.Added != 1 ||
			done.Already != 1 ||
			err != nil {
			t.Errorf("invited again: %+v %v", done, err)
		}
		time.Sleep(5 * time.Second)
		list := func() map[string]invite.Invitation {
			all, err := db.Invitations(t.Context(), made.ID, 0, 10)
			if err != nil {
				t.Fatal(err)
			}
			out := map[string]invite.Invitation{}
			for _, x := range all {
				out[x.Email] = x
			}
			return out
		}
		for email, want := range map[string]invite.State{"good@guest.example": invite.Sent, "more@guest.example": invite.Sent,
			"busy@guest.example": invite.Waits, "gone@guest.example": invite.Failed} {
			if x := list()[email]; x.State != want || want == invite.Sent && x.Sent.IsZero() || want != invite.Sent && x.Reason == "" {
				t.Errorf("%s stands at %+v, want %s", email, x, want)
			}
		}
		tokens := map[string]bool{}
		for _, l := range p.sent {
			x := list()[l.To[0]]
			token := secret.Token(link.Invite, x.Ref, x.Links)
			at := "https://forms.house.example/f/lake-day?invitation=" + token
			tokens[token] = true
			if strings.Count(l.Text, at) != 1 || !strings.Contains(l.HTML, `href="`+at+`"`) || strings.Contains(l.ID, x.Ref) ||
				l.Subject != "Lake day" ||
				l.From != h.Email {
				t.Errorf("the letter to %s is %+v", l.To, l)
			}
			if strings.Contains(l.HTML, `<"Works">`) || !strings.Contains(l.HTML, "Tarn &amp; Hollow") {
				t.Errorf("the house's name is not escaped in %s", l.HTML)
			}
		}
		for _, l := range p.sent {
			if own := strings.Contains(l.Text, "Come & see\nus") &&
				strings.Contains(l.HTML, "Come &amp; see<br>us"); own != (l.To[0] == "more@guest.example") {
				t.Errorf("the words of the letter to %s are %s", l.To, l.Text)
			}
		}
		if len(p.sent) != 2 || len(tokens) != 2 {
			t.Errorf("%d letters with %d tokens went out", len(p.sent), len(tokens))
		}

		time.Sleep(30 * time.Minute)
		p.answers("busy@guest.example", nil)
		time.Sleep(40 * time.Minute)
		ids := p.tried["busy@guest.example"]
		if x := list()["busy@guest.example"]; x.State != invite.Sent || len(ids) < 5 || len(slices.Compact(slices.Clone(ids))) != 1 {
			t.Errorf("after an hour it stands at %+v, tried as %q", x, ids)
		}
		gone := list()["gone@guest.example"]
		if n := len(p.tried["gone@guest.example"]); n != 1 {
			t.Errorf("a refused one was tried %d times", n)
		}
		p.answers("gone@guest.example", nil)
		if err := db.RetryInvitation(t.Context(), made.ID, gone.ID, plan.Letter(false), time.Now()); err != nil {
			t.Fatal(err)
		}
		inviter.Wake()
		time.Sleep(3 * time.Second)
		if x := list()["gone@guest.example"]; x.State != invite.Sent || x.Ref != gone.Ref || x.Links != gone.Links {
			t.Errorf("by hand it stands at %+v", x)
		}
	})
}

func TestTooManyAtOnce(t *testing.T) {
	db, err := sqlite.Open(t.Context(), filepath.Join(t.TempDir(), "amberseal.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	inviter := &invite.Inviter{Store: db, Now: time.Now}
	if _, err := inviter.Invite(t.Context(), 1, "", "a@guest.example"); !errors.Is(err, invite.ErrNoSite) {
		t.Errorf("a house without an address: %v", err)
	}
	if err := db.SetHouse(t.Context(), house.House{Site: "https://forms.house.example"}); err != nil {
		t.Fatal(err)
	}
	var b strings.Builder
	for n := range invite.MostAtOnce + 1 {
		b.WriteString(strings.Repeat("a", 1+n%50) + string(rune('a'+n/50%26)) + string(rune('a'+n/1300%26)) + "@guest.example\n")
	}
	if _, err := inviter.Invite(t.Context(), 1, "", b.String()); !errors.Is(err, invite.ErrTooMany) {
		t.Errorf("%d at once: %v", invite.MostAtOnce+1, err)
	}
}
