package remind_test

import (
	"context"
	"encoding/json"
	"errors"
	"log/slog"
	"net/url"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"testing/synctest"
	"time"

	"amberseal/adapter/sqlite"
	"amberseal/app/invite"
	"amberseal/app/notify"
	"amberseal/app/receive"
	"amberseal/app/remind"
	"amberseal/app/work"
	"amberseal/app/workshop"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/link"
	"amberseal/core/plan"
	"amberseal/core/words/house"
)

var secret = link.Secret("0123456789abcdef0123456789abcdef")

// post keeps what is sent; an address that begins with gone is none.
type post struct {
	mu   sync.Mutex
	sent []notify.Letter
}

func (p *post) Send(_ context.Context, l notify.Letter) error {
	p.mu.Lock()
	defer p.mu.Unlock()
	if strings.HasPrefix(l.To[0], "gone") {
		return work.GiveUp{Reason: "There is no such address."}
	}
	p.sent = append(p.sent, l)
	return nil
}

func (p *post) Post(context.Context, string) (notify.Post, notify.Sender, error) {
	return p, notify.Sender{}, nil
}

// desk is a house with a form, whose crew works until the test ends.
type desk struct {
	*receive.Counter
	db     *sqlite.DB
	post   *post
	works  *workshop.Workshop
	intake workshop.Intake
}

func open(t *testing.T, change func(*intake.Design)) *desk {
	t.Helper()
	db, err := sqlite.Open(t.Context(), filepath.Join(t.TempDir(), "amberseal.db"))
	if err != nil {
		t.Fatal(err)
	}
	h := house.New()
	h.Name, h.Email, h.Site = "Lake House", "desk@house.example", "https://forms.house.example"
	if err := db.SetHouse(t.Context(), h); err != nil {
		t.Fatal(err)
	}
	d := &desk{db: db, post: &post{}, works: &workshop.Workshop{Store: db, Now: time.Now}}
	x := intake.New("Lake day", []form.Field{{Key: "name", Kind: form.ShortText, Label: "Name"},
		{Key: "mail", Kind: form.Email, Label: "Email"}})
	x.Opening.Reminders = true
	change(&x)
	made, err := d.works.Add(t.Context(), x)
	if err == nil {
		d.intake, err = d.works.Open(t.Context(), made.ID)
	}
	if err != nil {
		t.Fatal(err)
	}
	names := func(ctx context.Context, id int64) (name, slug string, err error) {
		i, err := db.Intake(ctx, id)
		return i.Design.Name, i.Address, err
	}
	crew := &work.Crew{
		Store: db, Now: time.Now, Changed: func() {}, Log: slog.New(slog.DiscardHandler), Slots: map[string]int{plan.Mail: 4},
		Hands: map[plan.Kind]work.Hand{plan.Reminder: remind.Hand(db, secret, d.post, names, time.Now)},
	}
	d.Counter = &receive.Counter{Store: db, Secret: secret, Now: time.Now, Arrived: crew.Wake}
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
	return d
}

// keep keeps answers and asks to be reminded of them.
func (d *desk) keep(t *testing.T, email string, days int, page receive.Page) (token string) {
	t.Helper()
	token, err := d.SaveDraft(t.Context(), d.intake.Address, "", page, answers)
	if err == nil {
		_, err = d.Remind(t.Context(), d.intake.Address, token, email, days, page)
	}
	if err != nil {
		t.Fatal(err)
	}
	return token
}

var answers = form.Raw{"name": json.RawMessage(`"Ann"`)}

// One letter goes on its day, in the language of the page, with the link under which the answers lie; the address is forgotten then. What
// was handed in, or asked for anew, or lies at a form that closed, or is asked for an address that is none, brings no letter.
func TestOneReminderGoes(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		d := open(t, func(*intake.Design) {})
		kept := d.keep(t, "ann@guest.example", 1, receive.Page{Language: "de"})
		sent := d.keep(t, "bob@guest.example", 1, receive.Page{})
		d.keep(t, "gone@guest.example", 1, receive.Page{})
		if _, err := d.Submit(t.Context(), d.intake.Address, receive.Sending{Answers: answers, Draft: sent}); err != nil {
			t.Fatal(err)
		}
		d.keep(t, "zoe@guest.example", 1, receive.Page{}) // and then on the device where the answers were kept, too
		zoe := form.Raw{"name": json.RawMessage(`"Zoe"`), "mail": json.RawMessage(`"zoe@guest.example"`)}
		if _, err := d.Submit(t.Context(), d.intake.Address, receive.Sending{Answers: zoe}); err != nil {
			t.Fatal(err)
		}
		if due, err := d.Remind(t.Context(), d.intake.Address, kept, "ann@guest.example", 2, receive.Page{Language: "de"}); err != nil ||
			!due.Equal(time.Now().AddDate(0, 0, 2)) {
			t.Fatal(due, err)
		}
		time.Sleep(2*24*time.Hour - time.Minute)
		if err := d.db.Hold(t.Context(), d.intake.ID, time.Now()); err != nil {
			t.Fatal(err)
		}
		time.Sleep(time.Hour)
		if len(d.post.sent) != 0 {
			t.Fatalf("before its day, or while messages are held, went %+v", d.post.sent)
		}
		if err := d.db.Release(t.Context(), d.intake.ID, time.Now()); err != nil {
			t.Fatal(err)
		}
		time.Sleep(24 * time.Hour)
		if len(d.post.sent) != 1 {
			t.Fatalf("%d letters went", len(d.post.sent))
		}
		l := d.post.sent[0]
		_, at, _ := strings.Cut(l.Text, "<https://")
		at, _, _ = strings.Cut(at, ">")
		u, err := url.Parse("https://" + at)
		if err != nil || u.Path != "/f/lake-day" || u.Query().Get("go-on") != kept || u.Query().Get("language") != "de" ||
			!strings.Contains(l.Subject, "Ihre Antworten") || strings.Contains(l.Text, "Ann") || l.To[0] != "ann@guest.example" {
			t.Errorf("the letter is %+v (%v)", l, err)
		}
		if raw, err := d.Draft(t.Context(), d.intake.Address, u.Query().Get("go-on")); err != nil || string(raw["name"]) != `"Ann"` {
			t.Errorf("under its link lies %s: %v", raw, err)
		}
		for id := range int64(5) {
			if x, err := d.db.Reminded(t.Context(), id); err == nil && x.Email != "" {
				t.Errorf("the address %s is still there", x.Email)
			}
		}
		d.keep(t, "eve@guest.example", 1, receive.Page{})
		if _, err := d.works.Close(t.Context(), d.intake.ID); err != nil {
			t.Fatal(err)
		}
		time.Sleep(25 * time.Hour)
		if len(d.post.sent) != 1 {
			t.Errorf("of a form that is closed went %+v", d.post.sent[1:])
		}
	})
}

// Who came by an invitation comes back by it; one that was withdrawn brings no letter.
func TestAReminderCarriesItsInvitation(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		d := open(t, func(x *intake.Design) { x.Opening.Invited = true })
		all := []invite.Invitation{{IntakeID: d.intake.ID, Ref: "oneoneoneone", Email: "a@guest.example"},
			{IntakeID: d.intake.ID, Ref: "twotwotwotwo", Email: "b@guest.example"}}
		if _, err := d.db.AddInvitations(t.Context(), all, nil, time.Now()); err != nil {
			t.Fatal(err)
		}
		one, two := secret.Token(link.Invite, "oneoneoneone", 1), secret.Token(link.Invite, "twotwotwotwo", 1)
		d.keep(t, "a@guest.example", 1, receive.Page{Invitation: one})
		d.keep(t, "b@guest.example", 1, receive.Page{Invitation: two})
		if err := d.db.WithdrawInvitation(t.Context(), d.intake.ID, 2, time.Now()); err != nil {
			t.Fatal(err)
		}
		time.Sleep(25 * time.Hour)
		if len(d.post.sent) != 1 || !strings.Contains(d.post.sent[0].Text, "&invitation="+one) {
			t.Errorf("there went %+v", d.post.sent)
		}
	})
}

// Nobody is reminded without end because strangers name them, nor by a form that offers none, nor of what is not there.
func TestRemindersAreFew(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		d := open(t, func(*intake.Design) {})
		slug := d.intake.Address
		for range receive.MostReminders {
			d.keep(t, "ann@guest.example", 14, receive.Page{})
		}
		token, err := d.SaveDraft(t.Context(), slug, "", receive.Page{}, answers)
		if err != nil {
			t.Fatal(err)
		}
		var invalid receive.Invalid
		for _, x := range []struct {
			token, email string
			says         func(error) bool
		}{
			{token, "ANN@guest.example", func(err error) bool { return errors.Is(err, receive.ErrReminders) }},
			{token, "no address", func(err error) bool { return errors.As(err, &invalid) }},
			{secret.Token(link.GoOn, "nonenonenone", 1), "b@guest.example", func(err error) bool { return err != nil }},
		} {
			if _, err := d.Remind(t.Context(), slug, x.token, x.email, 1, receive.Page{}); !x.says(err) {
				t.Errorf("%s is answered by %v", x.email, err)
			}
		}
		i, err := d.db.Intake(t.Context(), d.intake.ID)
		if err != nil {
			t.Fatal(err)
		}
		i.Design.Opening.Reminders = false
		if _, err := d.works.Change(t.Context(), i.ID, i.Revision, i.Design); err != nil {
			t.Fatal(err)
		}
		if _, err := d.works.Open(t.Context(), i.ID); err != nil {
			t.Fatal(err)
		}
		if _, err := d.Remind(t.Context(), slug, token, "b@guest.example", 1, receive.Page{}); !errors.Is(err, receive.ErrNoReminder) {
			t.Errorf("a form without reminders says %v", err)
		}
	})
}
