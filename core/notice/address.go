package notice

import (
	"slices"
	"strings"

	"golang.org/x/net/idna"
)

// SameAddress reports whether two addresses name one mailbox as far as it can be told from outside: upper and lower case are not told
// apart, as is common practice, nor are the two ways of writing a domain (RFC 5891).
func SameAddress(a, b string) bool { return mailbox(a) == mailbox(b) }

func mailbox(address string) string {
	address = strings.ToLower(strings.TrimSpace(address))
	at := strings.LastIndexByte(address, '@')
	if domain, err := idna.Lookup.ToASCII(address[at+1:]); err == nil {
		address = address[:at+1] + domain
	}
	return address
}

// Only lets a message go to those of some addresses that it is for in any case, and to nobody else.
func (m *Message) Only(addresses []string) {
	among := func(list []string) []string {
		return slices.DeleteFunc(slices.Clone(list), func(a string) bool {
			return !slices.ContainsFunc(addresses, func(b string) bool { return SameAddress(a, b) })
		})
	}
	m.To, m.Copy, m.BlindCopy = among(m.To), among(m.Copy), among(m.BlindCopy)
}
