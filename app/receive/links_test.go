package receive_test

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"amberseal/app/invite"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/app/sweep"
	"amberseal/app/work"
	"amberseal/app/workshop"
	"amberseal/core/ask/form"
	"amberseal/core/enclosure"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/print/paper"
	"amberseal/core/words/phrase"
)

// Each invitation is good once, however many hold it at the same moment, and for its own form.
func TestAnInvitationIsGoodOnce(t *testing.T) {
	d := newBench(t)
	i := d.open(t, guests(func(x *intake.Design) { x.Opening.Invited = true }))
	other := d.open(t, guests(func(x *intake.Design) { x.Opening.Invited, x.Name, x.Slug = true, "Others", "others" }))
	if n, err := d.db.AddInvitations(t.Context(), []invite.Invitation{{IntakeID: i.ID, Ref: "oneoneoneone", Email: "a@guest.example"},
		{IntakeID: i.ID, Ref: "twotwotwotwo", Email: "b@guest.example"}, {IntakeID: i.ID, Ref: "threethreeth", Email: "A@guest.example"}},
		nil, d.now); err != nil ||
		n != 2 {
		t.Fatalf("%d were invited: %v", n, err)
	}
	one, two := secret.Token(link.Invite, "oneoneoneone", 1), secret.Token(link.Invite, "twotwotwotwo", 1)
	var in, used atomic.Int32
	var all sync.WaitGroup
	for n := range 20 {
		all.Go(func() {
			_, err := d.Submit(
				context.Background(),
				i.Design.Slug,
				receive.Sending{
					Answers: form.Raw{"name": json.RawMessage(fmt.Sprintf(`"G%d"`, n))},
					Page:    receive.Page{Invitation: one},
					Once:    fmt.Sprint(n),
				},
			)
			switch {
			case err == nil:
				in.Add(1)
			case errors.Is(err, receive.ErrInvitationUsed):
				used.Add(1)
			default:
				t.Error(err)
			}
		})
	}
	all.Wait()
	if in.Load() != 1 || used.Load() != 19 {
		t.Errorf("one invitation let %d in and %d not", in.Load(), used.Load())
	}
	for _, c := range []struct {
		slug, token string
		want        error
	}{
		{i.Design.Slug, "", receive.ErrInvitation}, {i.Design.Slug, "never", receive.ErrInvitationUsed},
		{i.Design.Slug, one, receive.ErrInvitationUsed}, {other.Design.Slug, two, receive.ErrInvitationUsed},
		{i.Design.Slug, two[:31] + "!", receive.ErrInvitationUsed},
		{i.Design.Slug, secret.Token(link.Read, "twotwotwotwo", 1), receive.ErrInvitationUsed},
	} {
		in := receive.Sending{Answers: raw(t, `{"name": "A"}`), Page: receive.Page{Invitation: c.token}, Once: c.slug + c.token}
		if _, err := d.Submit(t.Context(), c.slug, in); !errors.Is(err, c.want) {
			t.Errorf("%s with the invitation %q: %v", c.slug, c.token, err)
		}
	}
	if _, err := d.Submit(t.Context(), i.Design.Slug,
		receive.Sending{Answers: raw(t, `{"name": "A"}`), Page: receive.Page{Invitation: two}}); err != nil {
		t.Errorf("the second invitation: %v", err)
	}
	// Withdrawn, an invitation opens nothing; given anew it does, by another link.
	if n, err := d.db.AddInvitations(t.Context(), []invite.Invitation{{IntakeID: i.ID, Ref: "fourfourfour", Email: "d@guest.example"}},
		nil, d.now); err != nil ||
		n != 1 {
		t.Fatal(n, err)
	}
	x, err := d.db.InvitationByRef(t.Context(), "fourfourfour")
	if err == nil {
		err = d.db.WithdrawInvitation(t.Context(), i.ID, x.ID, d.now)
	}
	if err != nil {
		t.Fatal(err)
	}
	before := secret.Token(link.Invite, "fourfourfour", 1)
	if _, err := d.Submit(t.Context(), i.Design.Slug,
		receive.Sending{Answers: raw(t, `{"name": "A"}`), Page: receive.Page{Invitation: before}}); !errors.Is(
		err,
		receive.ErrInvitationUsed,
	) {
		t.Errorf("withdrawn: %v", err)
	}
	if n, err := d.db.AddInvitations(t.Context(), []invite.Invitation{{IntakeID: i.ID, Ref: "another_one_", Email: "d@guest.example"}},
		nil, d.now); err != nil ||
		n != 1 {
		t.Fatal(n, err)
	}
	for token, want := range map[string]error{before: receive.ErrInvitationUsed, secret.Token(link.Invite, "fourfourfour", 2): nil} {
		if _, err := d.Submit(t.Context(), i.Design.Slug,
			receive.Sending{Answers: raw(t, `{"name": "A"}`), Page: receive.Page{Invitation: token}}); !errors.Is(
			err,
			want,
		) {
			t.Errorf("given anew: %v, want %v", err, want)
		}
	}
}

// Half a form is kept for thirty days and found by its token alone, whatever state the answers are in.
func TestDrafts(t *testing.T) {
	d := newBench(t)
	i := d.open(t, guests(nil))
	half := raw(t, `{"name": "", "plate": "½", "unknown": [1,{"a":null}]}`)
	token, err := d.SaveDraft(t.Context(), i.Design.Slug, "", receive.Page{}, half)
	if err != nil {
		t.Fatal(err)
	}
	if again, err := d.SaveDraft(t.Context(), i.Design.Slug, token, receive.Page{}, half); err != nil || again != token {
		t.Errorf("kept again it is %s: %v", again, err)
	}
	// A token that somebody made up is replaced: nobody reads what others keep under it.
	if own, err := d.SaveDraft(t.Context(), i.Design.Slug, "spring-offer", receive.Page{}, half); err != nil || own == "spring-offer" {
		t.Errorf("kept under a token of one's own: %s %v", own, err)
	}
	got, err := d.Draft(t.Context(), i.Design.Slug, token)
	delete(half, "unknown") // what the form does not ask is not kept
	if err != nil || fmt.Sprint(got) != fmt.Sprint(half) {
		t.Errorf("what was kept is %s: %v", got, err)
	}
	other := d.open(t, guests(func(x *intake.Design) { x.Slug = "other" }))
	if _, err := d.Draft(t.Context(), other.Design.Slug, token); !errors.Is(err, register.NotFound) {
		t.Errorf("another form shows it: %v", err)
	}
	sent, err := d.SaveDraft(t.Context(), i.Design.Slug, "", receive.Page{}, half)
	if err == nil {
		_, err = d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "A"}`), Draft: sent})
	}
	if _, gone := d.Draft(t.Context(), i.Design.Slug, sent); err != nil || !errors.Is(gone, register.NotFound) {
		t.Errorf("a draft that was handed in: %v %v", err, gone)
	}
	d.now = d.now.Add(31 * 24 * time.Hour)
	if _, err := sweep.Hand(d.db, func() time.Time { return d.now }).Do(t.Context(), work.Job{}); err != nil {
		t.Fatal(err)
	}
	if _, err := d.Draft(t.Context(), i.Design.Slug, token); !errors.Is(err, register.NotFound) {
		t.Errorf("after 31 days: %v", err)
	}
}

// A link opens what it is for and nothing else: reading is not correcting, a submission of one form is none of another, and
// withdrawn links open nothing.
func TestLinksOpenWhatTheyAreFor(t *testing.T) {
	d := newBench(t)
	i := d.open(t, guests(func(x *intake.Design) { x.Opening.Correct = true }))
	other := d.open(t, guests(func(x *intake.Design) { x.Opening.Correct, x.Slug = true, "others" }))
	r, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "A"}`)})
	if err != nil {
		t.Fatal(err)
	}
	try := func(slug, token string) map[string]error {
		_, sent := d.Sent(t.Context(), slug, token)
		_, read := d.ReadAgain(t.Context(), slug, token)
		_, changed := d.Submit(t.Context(), slug, receive.Sending{Answers: raw(t, `{"name": "B"}`), Page: receive.Page{Correct: token}})
		return map[string]error{"sent": sent, "read": read, "changed": changed}
	}
	for _, c := range []struct{ what, slug, token, opens string }{
		{"the link to read it", i.Design.Slug, r.Read, "read"}, {"the link to correct it", i.Design.Slug, r.Correct, "sent changed"},
		{"the link to read it, elsewhere", other.Design.Slug, r.Read, ""},
		{"the link to correct it, elsewhere", other.Design.Slug, r.Correct, ""},
	} {
		for door, err := range try(c.slug, c.token) {
			if open := strings.Contains(c.opens, door); open && err != nil || !open && !errors.Is(err, register.NotFound) {
				t.Errorf("%s at the door %s: %v", c.what, door, err)
			}
		}
	}
	s, _, err := d.Held(t.Context(), link.Read, r.Read)
	if err == nil {
		err = d.db.WithdrawLinks(t.Context(), s.ID, d.now)
	}
	if err != nil {
		t.Fatal(err)
	}
	for _, token := range []string{r.Read, r.Correct} {
		for door, err := range try(i.Design.Slug, token) {
			if !errors.Is(err, register.NotFound) {
				t.Errorf("withdrawn, the door %s: %v", door, err)
			}
		}
	}
}

// A document that no message to the respondent attaches is the staff's: it is not named to the respondent, nor opened. What a
// document says itself comes first.
func TestStaffDocumentsAreForStaff(t *testing.T) {
	d := newBench(t)
	design := guests(func(x *intake.Design) {
		x.Form.Fields = append(x.Form.Fields, form.Field{Key: "mail", Kind: form.Email, Label: "Mail"})
		for _, key := range []string{"bench", "open", "secret"} {
			doc := paper.Usual(key, key, x.Form)
			x.Documents = append(x.Documents, doc)
		}
		x.Documents[2].Audience = []paper.Audience{paper.Respondent, paper.Staff}
		x.Documents[3].Audience = []paper.Audience{paper.Staff}
		x.Notices = append(x.Notices, x.Notices[0])
		x.Notices[1].Key, x.Notices[1].To, x.Notices[1].Attach = "you", phrase.Phrase{{Field: "mail"}}, enclosure.Of("receipt")
		x.Notices[0].Attach = enclosure.Of("receipt", "bench", "secret")
	})
	i := d.open(t, design)
	r, err := d.Submit(t.Context(), i.Design.Slug, receive.Sending{Answers: raw(t, `{"name": "A", "mail": "a@guest.example"}`)})
	if err != nil {
		t.Fatal(err)
	}
	var named []string
	for _, l := range r.Documents {
		named = append(named, l.Key)
	}
	if fmt.Sprint(named) != "[receipt open]" {
		t.Errorf("the respondent is told of %v", named)
	}
	for key, open := range map[string]bool{"receipt": true, "open": true, "bench": false, "secret": false, "nothing": false} {
		if _, err := d.Counter.Document(t.Context(), r.Read, key); (err == nil) != open {
			t.Errorf("%s: %v", key, err)
		}
	}
	if _, err := d.Counter.Document(t.Context(), r.Correct, "receipt"); err == nil {
		t.Error("a token for another purpose opens a document")
	}
	design.Notices[1].Attach = enclosure.Of("secret")
	if l := d.workshop.Check(t.Context(), design); l.Faults() == 0 {
		t.Error("nobody says that a message hands out what is for staff")
	}
}

// A draft changes nothing that is public: not the address either. What was published under an address before is still found there.
func TestADraftMovesNothing(t *testing.T) {
	d := newBench(t)
	i := d.open(t, guests(nil))
	for _, slug := range []string{"elsewhere", "", "guests"} {
		x := i.Design
		x.Slug = slug
		changed, err := d.workshop.Change(t.Context(), i.ID, i.Revision, x)
		if err != nil {
			t.Fatal(slug, err)
		}
		if _, err := d.Submit(t.Context(), "guests", receive.Sending{Answers: raw(t, `{"name": "A"}`)}); err != nil ||
			changed.Address != "guests" {
			t.Errorf("while the draft's address is %q: %v, published under %q", slug, err, changed.Address)
		}
		if slug == "elsewhere" {
			if _, _, err := d.Form(t.Context(), slug); !errors.Is(err, register.NotFound) {
				t.Errorf("an address of a draft opens: %v", err)
			}
		}
		i = changed
	}
	x := i.Design
	x.Slug = "moved"
	moved, err := d.workshop.Change(t.Context(), i.ID, i.Revision, x)
	if err == nil {
		moved, err = d.workshop.Open(t.Context(), i.ID)
	}
	if err != nil || moved.Address != "moved" {
		t.Fatal(moved.Address, err)
	}
	for _, slug := range []string{"guests", "moved"} {
		if p, _, err := d.Form(t.Context(), slug); err != nil || p.IntakeID != i.ID {
			t.Errorf("%s leads to %d: %v", slug, p.IntakeID, err)
		}
	}
	if _, err := d.workshop.Store.AddIntake(t.Context(), guests(nil), d.now); !errors.Is(err, workshop.ErrSlugTaken) {
		t.Errorf("an address that leads somewhere was given to another: %v", err)
	}
}
