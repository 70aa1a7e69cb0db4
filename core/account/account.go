// Package account says by which server the house sends its mail: the settings of an account and their checks. It reaches nothing.
package account

import (
	"fmt"
	"net/mail"
	"net/netip"
	"regexp"
	"strings"

	"amberseal/core/words/finding"
)

// Protection is how the connection to the server is protected.
type Protection string

// The ways: not at all (for the stand-in on this machine), from the first byte (RFC 8314), or after STARTTLS (RFC 3207).
const (
	None     Protection = "none"
	TLS      Protection = "tls"
	StartTLS Protection = "starttls"
)

// Account is a mail account of the house. Its JSON is the body of the API's account; its password lies in the safe.
type Account struct {
	Key        string     `json:"key"`
	Name       string     `json:"name"`
	Host       string     `json:"host"`
	Port       int        `json:"port,omitempty"` // that of the protection when 0
	Protection Protection `json:"protection"`
	User       string     `json:"user,omitempty"`      // nobody signs in when empty
	Sender     string     `json:"sender,omitempty"`    // address that messages come from; the house's when empty
	Returns    string     `json:"returns,omitempty"`   // where mail comes back, with details behind a plus; the sender when empty
	PerMinute  int        `json:"perMinute,omitempty"` // how many messages leave in a minute at most; any number when 0
	PerReader  int        `json:"perReader,omitempty"` // how many of them an address that respondents name gets in an hour; 20 when 0
	Rule       bool       `json:"rule,omitempty"`      // it is taken where an intake names none
	Selector   string     `json:"selector,omitempty"`  // of its signing key (RFC 6376 section 3.1); unsigned when empty
	Inbox      *Inbox     `json:"inbox,omitempty"`     // where reports of what came back are read
}

// Inbox is a mailbox that is read by IMAP (RFC 9051); its password lies in the safe.
type Inbox struct {
	Host       string     `json:"host"`
	Port       int        `json:"port,omitempty"` // that of the protection when 0
	Protection Protection `json:"protection"`
	User       string     `json:"user"`
	Folder     string     `json:"folder,omitempty"` // INBOX when empty
}

// FolderOrUsual is the folder that is read.
func (b Inbox) FolderOrUsual() string {
	if b.Folder == "" {
		return "INBOX"
	}
	return b.Folder
}

// PortOrUsual is the port that is knocked at (RFC 9051 section 11.1).
func (b Inbox) PortOrUsual() int {
	switch {
	case b.Port != 0:
		return b.Port
	case b.Protection == TLS:
		return 993
	}
	return 143
}

// Door names the server that its password is for.
func (b Inbox) Door() string { return door("imap", b.Host, b.PortOrUsual(), b.Protection) }

// Door names the server that its password is for.
func (a Account) Door() string { return door("smtp", a.Host, a.PortOrUsual(), a.Protection) }

func door(protocol, host string, port int, p Protection) string {
	name := fmt.Sprintf("%s %s:%d", protocol, strings.ToLower(host), port)
	if p == None {
		name += " in the clear"
	}
	return name
}

// InboxName is the name of its mailbox's password in the safe.
func (a Account) InboxName() string { return "inbox/" + a.Key }

// SecretName is the name of its password in the safe.
func (a Account) SecretName() string { return "account/" + a.Key }

// KeyName is the name of its signing key in the safe.
func (a Account) KeyName() string { return "dkim/" + a.Key }

// UsualPort is that of a protection: submission (RFC 6409), submissions (RFC 8314), or plain SMTP.
func (p Protection) UsualPort() int {
	switch p {
	case TLS:
		return 465
	case StartTLS:
		return 587
	}
	return 25
}

// PortOrUsual is the port that is knocked at.
func (a Account) PortOrUsual() int {
	if a.Port != 0 {
		return a.Port
	}
	return a.Protection.UsualPort()
}

// Domain is that of the sender, which is whom a signature speaks for.
func (a Account) Domain(house string) string {
	sender := a.Sender
	if sender == "" {
		sender = house
	}
	_, domain, _ := strings.Cut(sender, "@")
	return strings.ToLower(domain)
}

var (
	key      = regexp.MustCompile(`^[a-z][a-z0-9-]{0,39}$`)
	host     = regexp.MustCompile(`^[A-Za-z0-9]([A-Za-z0-9.-]*[A-Za-z0-9])?$|^\[?[0-9a-fA-F:]+\]?$`)
	selector = regexp.MustCompile(`^[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?$`)
)

// checkServer finds what is wrong with how a server is reached.
func checkServer(l *finding.List, place, name string, port int, p Protection) {
	if !host.MatchString(name) {
		l.Fault(place+"host", "account.no-host")
	}
	if port < 0 || port > 65535 {
		l.Fault(place+"port", "account.no-port", "port", fmt.Sprint(port))
	}
	switch p {
	case TLS, StartTLS:
	case None:
		if ip, err := netip.ParseAddr(name); name != "localhost" && (err != nil || !ip.IsLoopback()) {
			l.Fault(place+"protection", "account.in-the-clear")
		}
	default:
		l.Fault(place+"protection", "account.unknown-protection", "protection", string(p))
	}
}

// Check finds what is wrong. Places begin with account/. Without encryption only this machine is reached: a password would cross the line.
func (a Account) Check() finding.List {
	var l finding.List
	if !key.MatchString(a.Key) {
		l.Fault("account/key", "account.key-unusable")
	}
	if strings.TrimSpace(a.Name) == "" {
		l.Fault("account/name", "account.no-name")
	}
	checkServer(&l, "account/", a.Host, a.Port, a.Protection)
	if b := a.Inbox; b != nil {
		checkServer(&l, "account/inbox/", b.Host, b.Port, b.Protection)
		if b.User == "" {
			l.Fault("account/inbox/user", "account.inbox-without-user")
		}
	}
	if at, err := mail.ParseAddress(a.Sender); a.Sender != "" && (err != nil || at.Address != a.Sender) {
		l.Fault("account/sender", "account.sender-unusable", "sender", a.Sender)
	}
	if at, err := mail.ParseAddress(a.Returns); a.Returns != "" && (err != nil || at.Address != a.Returns || strings.Contains(a.Returns,
		"+")) {
		l.Fault("account/returns", "account.returns-unusable")
	}
	if a.PerMinute < 0 {
		l.Fault("account/perMinute", "account.per-minute-below-nothing")
	}
	if a.PerReader < 0 {
		l.Fault("account/perReader", "account.per-minute-below-nothing")
	}
	if a.Selector != "" && !selector.MatchString(a.Selector) {
		l.Fault("account/selector", "account.selector-unusable")
	}
	return l
}
