package accounts_test

import (
	"context"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"amberseal/adapter/sqlite"
	"amberseal/app/accounts"
	"amberseal/app/bounces"
	"amberseal/app/notify"
	"amberseal/app/safe"
	"amberseal/core/account"
)

// spy is a post that only notes by which server and password it was opened.
type spy struct{ notify.Post }

func (spy) Try(context.Context, notify.Letter) []accounts.Result { return nil }
func (spy) Close()                                               {}

// Whatever is changed in which order, no password is handed to a server that it was not entered for.
func TestPasswordsStayWithTheirServer(t *testing.T) {
	ctx := t.Context()
	db, err := sqlite.Open(ctx, filepath.Join(t.TempDir(), "house.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	key := safe.NewKey()
	told := map[string]string{} // what each server was told
	book := &accounts.Book{
		Store: db, Safe: &safe.Safe{Store: db, Key: &key, Now: time.Now}, Now: time.Now,
		Again: func(context.Context, string) error { return nil },
		Build: func(a account.Account, secret string, _ accounts.Signing) (accounts.Post, error) {
			told[a.Host] += secret
			return spy{}, nil
		},
		BuildInbox: func(of account.Inbox, secret string) bounces.Inbox {
			told[of.Host] += secret
			return nil
		},
	}
	sending, inbox := "SENDING", "INBOX"
	real := account.Account{
		Key: "second", Name: "Second", Host: "mail.example", Protection: account.StartTLS, User: "u",
		Inbox: &account.Inbox{Host: "imap.example", Protection: account.TLS, User: "u"},
	}
	set := func(a account.Account, p accounts.Passwords) string {
		t.Helper()
		l, err := book.Set(ctx, a, p)
		if err != nil {
			t.Fatal(err)
		}
		if _, _, err := book.Post(ctx, "second"); err != nil && !strings.Contains(err.Error(), "another server") {
			t.Fatal(err)
		}
		if _, err := book.Inboxes(ctx); err != nil {
			t.Fatal(err)
		}
		var codes []string
		for _, f := range l {
			codes = append(codes, f.Place+" "+f.Code)
		}
		return strings.Join(codes, ", ")
	}
	type change func(*account.Account)
	elsewhere := func(a *account.Account) { a.Host = "evil.example" }
	inboxAt := func(host string, p account.Protection) change {
		return func(a *account.Account) { a.Inbox = &account.Inbox{Host: host, Port: 993, Protection: p, User: "u"} }
	}
	steps := map[string][]change{
		"at once":                  {elsewhere},
		"another port":             {func(a *account.Account) { a.Port = 2525 }},
		"in the clear":             {func(a *account.Account) { a.Protection, a.Port = account.None, 587 }},
		"without a user first":     {func(a *account.Account) { a.User = "" }, func(a *account.Account) { a.User = "u"; elsewhere(a) }},
		"the mailbox at once":      {inboxAt("evil.example", account.TLS)},
		"without a mailbox first":  {func(a *account.Account) { a.Inbox = nil }, inboxAt("evil.example", account.TLS)},
		"the mailbox in the clear": {inboxAt("imap.example", account.None)},
	}
	for what, all := range steps {
		if said := set(real, accounts.Passwords{Sending: &sending, Inbox: &inbox}); said != "" {
			t.Fatal(said)
		}
		clear(told)
		a, refused := real, ""
		for _, step := range all {
			step(&a)
			refused = set(a, accounts.Passwords{})
		}
		if len(all) == 1 && !strings.Contains(refused, "account.password-for-another") {
			t.Errorf("%s: it is not refused, but %q", what, refused)
		}
		if strings.Contains(told["evil.example"], "SENDING") || strings.Contains(told["evil.example"], "INBOX") {
			t.Errorf("%s: another server was told %q", what, told)
		}
		if kept, err := db.Account(ctx, "second"); err != nil || len(all) == 1 && kept.Host != real.Host {
			t.Errorf("%s: kept is %+v: %v", what, kept, err)
		}
	}
	safer := real
	safer.Host, safer.Protection, safer.Port = "127.0.0.1", account.None, 587
	set(safer, accounts.Passwords{Sending: &sending, Inbox: &inbox})
	safer.Protection = account.StartTLS
	if said := set(safer, accounts.Passwords{}); said != "" {
		t.Errorf("a connection that is protected by now: %s", said)
	}
}
