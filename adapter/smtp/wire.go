package smtp

import (
	"errors"
	"strings"

	"golang.org/x/net/idna"

	"amberseal/app/notify"
)

// wired is a letter with the domains of its addresses in the letters of the wire (RFC 5891): any server takes these, while their own
// letters are for those alone that know RFC 6531. named gives back each address as it was.
func wired(l notify.Letter) (out notify.Letter, named map[string]string) {
	named = map[string]string{}
	one := func(address string) string {
		at := strings.LastIndex(address, "@")
		domain, err := idna.Lookup.ToASCII(address[at+1:])
		if at < 0 || err != nil {
			return address
		}
		wire := address[:at+1] + domain
		named[wire] = address
		return wire
	}
	all := func(list []string) []string {
		made := make([]string, len(list))
		for i, address := range list {
			made[i] = one(address)
		}
		return made
	}
	l.From, l.To, l.Copy, l.Blind, l.ReplyTo = one(l.From), all(l.To), all(l.Copy), all(l.Blind), all(l.ReplyTo)
	if l.Return != "" {
		l.Return = one(l.Return)
	}
	return l, named
}

// unwired is an error that names the addresses as they were.
func unwired(err error, named map[string]string) error {
	var p notify.Partly
	if !errors.As(err, &p) {
		return err
	}
	for i, address := range p.Left {
		if was := named[address]; was != "" {
			p.Left[i] = was
		}
	}
	return p
}
