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
	Rule       bool       `json:"rule,omitempty"`      // it is taken where an intake names none
	Selector   string     `json:"selector,omitempty"`  // of its signing key (RFC 6376 section 3.1); unsigned when empty
}

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

// Check finds what is wrong. Places begin with account/. Without encryption only this machine is reached: a password would cross the line.
func (a Account) Check() finding.List {
	var l finding.List
	if !key.MatchString(a.Key) {
		l.Fault("account/key", "account.key-unusable")
	}
	if strings.TrimSpace(a.Name) == "" {
		l.Fault("account/name", "account.no-name")
	}
	if !host.MatchString(a.Host) {
		l.Fault("account/host", "account.no-host")
	}
	if a.Port < 0 || a.Port > 65535 {
		l.Fault("account/port", "account.no-port", "port", fmt.Sprint(a.Port))
	}
	switch a.Protection {
	case TLS, StartTLS:
	case None:
		if ip, err := netip.ParseAddr(a.Host); a.Host != "localhost" && (err != nil || !ip.IsLoopback()) {
			l.Fault("account/protection", "account.in-the-clear")
		}
	default:
		l.Fault("account/protection", "account.unknown-protection", "protection", string(a.Protection))
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
	if a.Selector != "" && !selector.MatchString(a.Selector) {
		l.Fault("account/selector", "account.selector-unusable")
	}
	return l
}
