// Package accounts is the mail accounts of the house: kept, tried by a real message, and opened for whoever sends.
package accounts

import (
	"cmp"
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"sync"
	"time"

	"amberseal/app/bounces"
	"amberseal/app/notify"
	"amberseal/app/register"
	"amberseal/app/safe"
	"amberseal/app/work"
	"amberseal/core/account"
	"amberseal/core/link"
	"amberseal/core/plan"
	"amberseal/core/words/finding"
	"amberseal/core/words/house"
)

// Store keeps accounts. Look-ups of nothing give register.NotFound.
type Store interface {
	House(ctx context.Context) (house.House, error)
	Accounts(ctx context.Context) ([]account.Account, error)
	Account(ctx context.Context, key string) (account.Account, error)
	RuleAccount(ctx context.Context) (account.Account, error)
	SetAccount(ctx context.Context, a account.Account, now time.Time) error
	RemoveAccount(ctx context.Context, key, target string) error
	Look(ctx context.Context, account string) (bounces.Look, error)
	WaitingAt(ctx context.Context, target string) (waiting int, reason string, err error)
	Trial(ctx context.Context, target string) (register.Trial, error)
	KeepTrial(ctx context.Context, target string, t register.Trial) error
}

// Post is an account that is open.
type Post interface {
	notify.Post
	// Try hands a letter over and says how each part of it ended.
	Try(ctx context.Context, l notify.Letter) []Result
	Close()
}

// Step is a part of handing a message over.
type Step string

// The parts, in the order in which they come.
const (
	Name       Step = "name"       // of the server is found
	Connection Step = "connection" // it answers
	Protected  Step = "protection" // its certificate is to be trusted
	SignIn     Step = "sign-in"
	Sender     Step = "sender"
	Recipient  Step = "recipient"
	Message    Step = "message"
)

// Steps are all of them in their order.
var Steps = []Step{Name, Connection, Protected, SignIn, Sender, Recipient, Message}

// Result is how a part of a trial ended: the reason is empty where it went well.
type Result struct {
	Step   Step
	Reason string
}

// Builder opens an account by its settings and password.
type Builder func(a account.Account, secret string, s Signing) (Post, error)

// Book keeps the house's accounts and opens them. It is safe for many goroutines.
type Book struct {
	Store  Store
	Safe   *safe.Safe
	Secret link.Secret
	Build  Builder
	Given  *account.Account // that the program was started with, with GivenSecret: it is the rule
	// GivenSecret is the password of Given.
	GivenSecret string
	// GivenInbox is the password of its mailbox.
	GivenInbox string
	BuildInbox func(of account.Inbox, secret string) bounces.Inbox
	Now        func() time.Time
	Again      func(ctx context.Context, target string) error // tries at once what waits for a target

	mu   sync.Mutex
	open map[string]Post
}

// Given is the key of the account that the program was started with.
const Given = "given"

// Line is an account as lists show it.
type Line struct {
	account.Account
	Given   bool   // the program was started with it
	Secret  bool   // a password is kept
	Record  string // what the DNS is to say of its signing key, or empty
	Waiting int    // how much waits for it
	Reason  string // what keeps it, or empty
	Inbox   bool   // a password of its mailbox is kept
	Look    bounces.Look
	Trial   register.Trial
}

// List gives all of the house, the rule first.
func (b *Book) List(ctx context.Context) ([]Line, error) {
	all, err := b.Store.Accounts(ctx)
	if err != nil {
		return nil, err
	}
	h, err := b.Store.House(ctx)
	if err != nil {
		return nil, err
	}
	var out []Line
	if b.Given != nil {
		for i := range all {
			all[i].Rule = false
		}
		out = append(out, Line{Account: *b.Given, Given: true, Secret: b.GivenSecret != "", Inbox: b.GivenInbox != ""})
	}
	for _, a := range all {
		l := Line{Account: a}
		for name, kept := range map[string]*bool{a.SecretName(): &l.Secret, a.InboxName(): &l.Inbox} {
			switch _, err := b.Safe.Store.Secret(ctx, name); {
			case err == nil:
				*kept = true
			case !errors.Is(err, register.NotFound):
				return nil, err
			}
		}
		if a.Selector != "" {
			key, err := b.Safe.Get(ctx, a.KeyName(), "")
			if err == nil {
				l.Record, err = Record(a.Selector, a.Domain(h.Email), key)
			}
			if err != nil && !errors.Is(err, register.NotFound) && !safe.Shut(err) {
				return nil, err
			}
		}
		out = append(out, l)
	}
	for i, l := range out {
		if out[i].Waiting, out[i].Reason, err = b.Store.WaitingAt(ctx, target(l.Account)); err != nil {
			return nil, err
		}
		if out[i].Trial, err = b.Store.Trial(ctx, plan.MailBy(l.Key)); err != nil {
			return nil, err
		}
		if out[i].Look, err = b.Store.Look(ctx, l.Key); err != nil && !errors.Is(err, register.NotFound) {
			return nil, err
		}
	}
	return out, nil
}

// Inboxes opens the mailboxes in which reports of what came back are read.
func (b *Book) Inboxes(ctx context.Context) ([]bounces.Reading, error) {
	all, err := b.Store.Accounts(ctx)
	if err != nil {
		return nil, err
	}
	var out []bounces.Reading
	if b.Given != nil && b.Given.Inbox != nil {
		out = append(out, bounces.Reading{Key: Given, Inbox: b.BuildInbox(*b.Given.Inbox, b.GivenInbox)})
	}
	for _, a := range all {
		if a.Inbox == nil {
			continue
		}
		secret, err := b.secret(ctx, a.InboxName(), a.Inbox.Door())
		out = append(out, bounces.Reading{Key: a.Key, Inbox: b.BuildInbox(*a.Inbox, secret), Err: err})
	}
	return out, nil
}

// Inbox opens that of one account, or gives register.NotFound.
func (b *Book) Inbox(ctx context.Context, key string) (bounces.Reading, error) {
	all, err := b.Inboxes(ctx)
	for _, r := range all {
		if r.Key == key {
			return r, err
		}
	}
	return bounces.Reading{}, cmp.Or(err, register.NotFound)
}

// target is what steps of an account knock at.
func target(a account.Account) string {
	if a.Rule {
		return plan.Mail
	}
	return plan.MailBy(a.Key)
}

// Passwords are those of an account that are entered anew; what is kept stays where one is nil.
type Passwords struct{ Sending, Inbox *string }

// Set keeps an account, with its passwords where some are given, or gives the findings that stand against it. What waits for it is tried
// again at once.
func (b *Book) Set(ctx context.Context, a account.Account, given Passwords) (finding.List, error) {
	l := a.Check()
	if a.Key == Given {
		l.Fault("account/key", "account.given-is-the-programs")
	}
	before, err := b.Store.Account(ctx, a.Key)
	if err != nil && !errors.Is(err, register.NotFound) {
		return nil, err
	}
	passwords := []password{{a.SecretName(), a.Door(), "account/secret", a.User != "", given.Sending}}
	if a.Inbox != nil {
		passwords = append(passwords, password{a.InboxName(), a.Inbox.Door(), "account/inbox/secret", true, given.Inbox})
	} else {
		passwords = append(passwords, password{name: a.InboxName()})
	}
	for _, p := range passwords {
		fits, err := b.Safe.Fits(ctx, p.name, p.door)
		if err != nil && !errors.Is(err, register.NotFound) {
			return nil, err
		}
		if err == nil && p.used && !fits && p.given == nil {
			l.Fault(p.place, "account.password-for-another")
		}
	}
	if l.Faults() > 0 {
		return l, nil
	}
	for _, p := range passwords {
		if err := b.keep(ctx, p); err != nil {
			return nil, err
		}
	}
	if a.Selector != "" {
		if err := b.sign(ctx, a); err != nil {
			return nil, err
		}
	}
	if err := b.Store.SetAccount(ctx, a, b.Now()); err != nil {
		return nil, err
	}
	if !sameServer(before, a) || given.Sending != nil { // what was tried was something else
		if err := b.Store.KeepTrial(ctx, plan.MailBy(a.Key), register.Trial{}); err != nil {
			return nil, err
		}
	}
	b.forget(a.Key)
	return nil, b.again(ctx, a.Key)
}

// sameServer reports whether messages are handed over as before.
func sameServer(a, b account.Account) bool {
	return a.Door() == b.Door() && a.User == b.User && a.Sender == b.Sender && a.Selector == b.Selector
}

// password is one of an account: under which name and for which server it is kept, where findings about it stand, whether the account
// has a use for it, and what was entered anew.
type password struct {
	name, door, place string
	used              bool
	given             *string
}

// keep keeps a password that was entered anew, and forgets one that has no use any more.
func (b *Book) keep(ctx context.Context, p password) error {
	if !p.used {
		if err := b.Safe.Store.RemoveSecret(ctx, p.name); err != nil && !errors.Is(err, register.NotFound) {
			return err
		}
		return nil
	}
	if p.given == nil || *p.given == "" {
		return nil
	}
	return b.Safe.Put(ctx, p.name, p.door, *p.given)
}

// Bind keeps passwords of a time before they were kept for one server for that of their account.
func (b *Book) Bind(ctx context.Context) error {
	all, err := b.Store.Accounts(ctx)
	for _, a := range all {
		if err == nil {
			err = b.Safe.Bind(ctx, a.SecretName(), a.Door())
		}
		if err == nil && a.Inbox != nil {
			err = b.Safe.Bind(ctx, a.InboxName(), a.Inbox.Door())
		}
	}
	return err
}

func (b *Book) again(ctx context.Context, key string) error {
	return errors.Join(b.Again(ctx, plan.Mail), b.Again(ctx, plan.MailBy(key)))
}

// Remove forgets an account, its password and its key.
func (b *Book) Remove(ctx context.Context, key string) error {
	a := account.Account{Key: key}
	if err := b.Store.RemoveAccount(ctx, key, plan.MailBy(key)); err != nil {
		return err
	}
	if err := b.Store.KeepTrial(ctx, plan.MailBy(key), register.Trial{}); err != nil {
		return err
	}
	b.forget(key)
	for _, name := range []string{a.SecretName(), a.KeyName(), a.InboxName()} {
		if err := b.Safe.Store.RemoveSecret(ctx, name); err != nil && !errors.Is(err, register.NotFound) {
			return err
		}
	}
	return nil
}

func (b *Book) forget(key string) {
	b.mu.Lock()
	defer b.mu.Unlock()
	if p := b.open[key]; p != nil {
		go p.Close() // somebody may be sending by it
	}
	delete(b.open, key)
}

// Close ends all connections.
func (b *Book) Close() {
	b.mu.Lock()
	defer b.mu.Unlock()
	for key, p := range b.open {
		p.Close()
		delete(b.open, key)
	}
}

// signingBits is the length of keys: RFC 8301 asks for 1,024 at least and says that verifiers take up to 4,096.
const signingBits = 2048

// NoAccount is why a house without an account sends nothing.
const NoAccount = "No mail account is set. Set one on the House page; the message goes out then."

// Post gives the account of a key, or the one that is the rule for none, with the addresses that its messages come from and back to.
func (b *Book) Post(ctx context.Context, key string) (notify.Post, notify.Sender, error) {
	p, a, err := b.opened(ctx, key)
	return p, notify.Sender{From: a.Sender, Returns: a.Returns, PerReader: a.PerReader}, err
}

func (b *Book) opened(ctx context.Context, key string) (Post, account.Account, error) {
	a, err := b.account(ctx, key)
	if err != nil {
		return nil, a, err
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	if p := b.open[a.Key]; p != nil {
		return p, a, nil
	}
	secret, s := b.GivenSecret, Signing{}
	if a.Key != Given {
		if secret, err = b.secret(ctx, a.SecretName(), a.Door()); err != nil {
			return nil, a, err
		}
		if a.Selector != "" {
			h, err := b.Store.House(ctx)
			if err != nil {
				return nil, a, err
			}
			s = Signing{Domain: a.Domain(h.Email), Selector: a.Selector}
			if s.Key, err = b.secret(ctx, a.KeyName(), ""); err != nil {
				return nil, a, err
			}
		}
	}
	p, err := b.Build(a, secret, s)
	if err != nil {
		return nil, a, work.Again{Reason: fmt.Sprintf("The mail account “%s” cannot be used as it is set: %v.", a.Name, err), Outage: true}
	}
	if b.open == nil {
		b.open = map[string]Post{}
	}
	b.open[a.Key] = p
	return p, a, nil
}

func (b *Book) account(ctx context.Context, key string) (account.Account, error) {
	var a account.Account
	var err error
	switch {
	case key == "" && b.Given != nil, key == Given && b.Given != nil:
		return *b.Given, nil
	case key == "":
		a, err = b.Store.RuleAccount(ctx)
	default:
		a, err = b.Store.Account(ctx, key)
	}
	if errors.Is(err, register.NotFound) {
		reason := NoAccount
		if key != "" {
			reason = "The house has no mail account “" + key + "” any more. Set it up again on the House page; the message goes out then."
		}
		return a, work.Again{Reason: reason, Outage: true}
	}
	return a, err
}

// secret opens one; there may be none.
func (b *Book) secret(ctx context.Context, name, door string) (string, error) {
	s, err := b.Safe.Get(ctx, name, door)
	switch {
	case safe.Shut(err):
		return "", work.Again{Reason: "The mail account’s password cannot be opened: " + err.Error() + ".", Outage: true}
	case errors.Is(err, register.NotFound):
		return "", nil
	}
	return s, err
}

// Send sends by the account that is the rule.
func (b *Book) Send(ctx context.Context, l notify.Letter) error {
	p, a, err := b.opened(ctx, "")
	if err != nil {
		return err
	}
	if a.Sender != "" {
		l.From = a.Sender
	}
	return p.Send(ctx, l)
}

// Try sends a message to an address by an account, and says how each part of that ended. When all went well, what waits is tried again at
// once.
func (b *Book) Try(ctx context.Context, key, to string) ([]Result, error) {
	if key != Given {
		if _, err := b.Store.Account(ctx, key); err != nil {
			return nil, err
		}
	}
	h, err := b.Store.House(ctx)
	if err != nil {
		return nil, err
	}
	p, a, err := b.opened(ctx, key)
	if err != nil {
		var again work.Again
		if errors.As(err, &again) {
			out := []Result{{SignIn, again.Reason}}
			return out, b.tried(ctx, key, out)
		}
		return nil, err
	}
	from := a.Sender
	if from == "" {
		from = h.Email
	}
	if from == "" {
		out := []Result{{Sender, notify.NoSender}}
		return out, b.tried(ctx, key, out)
	}
	out := p.Try(ctx, notify.Letter{
		ID: b.Secret.MessageID("trial", key, rand.Text()), FromName: h.Name, From: from, To: []string{to},
		Subject: "Amber Seal can send by “" + a.Name + "”",
		Text:    "This message shows that the mail account works. Nothing needs to be done.\n",
		HTML:    "<p>This message shows that the mail account works. Nothing needs to be done.</p>", Date: b.Now().UTC(),
	})
	if ctx.Err() != nil {
		return nil, ctx.Err()
	}
	return out, b.tried(ctx, key, out)
}

// tried keeps how a trial ended; when all went well, what waits is tried again at once.
func (b *Book) tried(ctx context.Context, key string, out []Result) error {
	t := register.Trial{At: b.Now()}
	if n := len(out); n > 0 && out[n-1].Reason != "" {
		t.Part, t.Reason = string(out[n-1].Step), out[n-1].Reason
	}
	if err := b.Store.KeepTrial(ctx, plan.MailBy(key), t); err != nil || t.Reason != "" {
		return err
	}
	return b.again(ctx, key)
}
