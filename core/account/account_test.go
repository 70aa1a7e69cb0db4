package account_test

import (
	"slices"
	"testing"

	"amberseal/core/account"
)

// What cannot be a mail account is found at its entry; a password crosses no line in the clear.
func TestWhatIsWrongWithAnAccount(t *testing.T) {
	good := account.Account{
		Key: "office", Name: "Office", Host: "mail.house.example", Protection: account.StartTLS, User: "desk", Sender: "desk@house.example",
		Returns: "returns@house.example", Selector: "s2026", PerMinute: 30,
		Inbox: &account.Inbox{Host: "mail.house.example", Protection: account.TLS, User: "returns"},
	}
	if l := good.Check(); len(l) > 0 {
		t.Fatal(l)
	}
	for _, c := range []struct {
		change func(*account.Account)
		place  string
	}{
		{func(a *account.Account) { a.Key = "Office" }, "key"},
		{func(a *account.Account) { a.Name = "" }, "name"},
		{func(a *account.Account) { a.Host = "" }, "host"},
		{func(a *account.Account) { a.Host = "mail.house.example/x" }, "host"},
		{func(a *account.Account) { a.Host = "-mail" }, "host"},
		{func(a *account.Account) { a.Port = 65536 }, "port"},
		{func(a *account.Account) { a.Port = -1 }, "port"},
		{func(a *account.Account) { a.Protection = account.None }, "protection"},
		{func(a *account.Account) { a.Protection = "ssl" }, "protection"},
		{func(a *account.Account) { a.Sender = "Desk <desk@house.example>" }, "sender"},
		{func(a *account.Account) { a.Sender = "desk" }, "sender"},
		{func(a *account.Account) { a.Returns = "returns+1@house.example" }, "returns"},
		{func(a *account.Account) { a.PerMinute = -1 }, "perMinute"},
		{func(a *account.Account) { a.PerReader = -1 }, "perReader"},
		{func(a *account.Account) { a.Selector = "S_2026" }, "selector"},
		{func(a *account.Account) { a.Inbox.User = "" }, "inbox/user"},
		{func(a *account.Account) { a.Inbox.Host = "a b" }, "inbox/host"},
		{func(a *account.Account) { a.Inbox.Protection = account.None }, "inbox/protection"},
	} {
		a, inbox := good, *good.Inbox
		a.Inbox = &inbox
		c.change(&a)
		if l := a.Check(); l.Faults() != 1 || l[0].Place != "account/"+c.place {
			t.Errorf("%+v %+v: %v, want a fault at %s", a, *a.Inbox, l, c.place)
		}
	}
	for _, host := range []string{"localhost", "127.0.0.1", "::1"} { // the line never leaves this machine
		a := good
		a.Host, a.Protection = host, account.None
		if l := a.Check(); len(l) > 0 {
			t.Errorf("%s: %v", host, l)
		}
	}
}

// The usual ports are those of the standards (RFC 6409, RFC 8314, RFC 9051 section 11.1), and the door of a password changes with host,
// port and protection, and with nothing else.
func TestTheDoorOfAPassword(t *testing.T) {
	for protection, want := range map[account.Protection][2]int{
		account.None: {25, 143}, account.StartTLS: {587, 143}, account.TLS: {465, 993},
	} {
		a := account.Account{Host: "m", Protection: protection}
		if got := [2]int{a.PortOrUsual(), (account.Inbox{Protection: protection}).PortOrUsual()}; got != want {
			t.Errorf("%s: ports %v, want %v", protection, got, want)
		}
		if a.Port = 2525; a.PortOrUsual() != 2525 {
			t.Errorf("%s: a port of its own is %d", protection, a.PortOrUsual())
		}
	}
	a := account.Account{Host: "Mail.house.example", Protection: account.TLS}
	for _, same := range []account.Account{
		{Host: "mail.house.example", Protection: account.TLS, Port: 465},
		{Host: "mail.HOUSE.example", Protection: account.TLS, User: "other"},
	} {
		if same.Door() != a.Door() {
			t.Errorf("%+v has the door %s, not %s", same, same.Door(), a.Door())
		}
	}
	doors := []string{a.Door(), account.Inbox{Host: a.Host, Protection: account.TLS, Port: 465}.Door()}
	for _, other := range []account.Account{
		{Host: "mail.house.example", Protection: account.TLS, Port: 466}, {Host: "mail.evil.example", Protection: account.TLS},
		{Host: "mail.house.example", Protection: account.None, Port: 465},
	} {
		if slices.Contains(doors, other.Door()) {
			t.Errorf("%+v has the door of another", other)
		}
		doors = append(doors, other.Door())
	}
	if doors[0] == doors[1] {
		t.Error("a mailbox has the door of an account")
	}
}

// Whom a signature speaks for is the sender, else the house.
func TestWhoseDomainSigns(t *testing.T) {
	for sender, want := range map[string]string{"": "house.example", "desk@Other.Example": "other.example", "odd": ""} {
		if got := (account.Account{Sender: sender}).Domain("office@house.example"); got != want {
			t.Errorf("of %q signs %q, not %q", sender, got, want)
		}
	}
}
