package web

import (
	"fmt"
	"net/http"
	"net/netip"
	"strings"
)

// ParseProxies reads networks and addresses parted by commas: those of the proxies whose word about their clients is taken.
func ParseProxies(s string) ([]netip.Prefix, error) {
	var out []netip.Prefix
	for part := range strings.FieldsFuncSeq(s, func(r rune) bool { return r == ',' || r == ' ' }) {
		p, err := netip.ParsePrefix(part)
		if err != nil {
			a, err := netip.ParseAddr(part)
			if err != nil {
				return nil, fmt.Errorf("“%s” is neither an address nor a network such as 10.0.0.0/8", part)
			}
			p = netip.PrefixFrom(a, a.BitLen())
		}
		out = append(out, p.Masked())
	}
	return out, nil
}

// client is who a request comes from: the peer, or behind trusted proxies the last address that none of them has. Addresses before
// that one may be made up. Of IPv6 it is the /64 network, which one household has.
func (s *Server) client(r *http.Request) string {
	at, ok := peer(r)
	if !ok {
		return r.RemoteAddr
	}
	if s.trusted(at) {
		said := strings.Split(strings.Join(r.Header.Values("X-Forwarded-For"), ","), ",")
		for i := len(said) - 1; i >= 0; i-- {
			a, err := netip.ParseAddr(strings.TrimSpace(said[i]))
			if err != nil {
				break
			}
			if at = a.Unmap(); !s.trusted(at) {
				break
			}
		}
	}
	if at.Is6() {
		if p, err := at.WithZone("").Prefix(64); err == nil {
			return p.String()
		}
	}
	return at.String()
}

func (s *Server) trusted(a netip.Addr) bool {
	for _, p := range s.Proxies {
		if p.Contains(a) {
			return true
		}
	}
	return false
}

func peer(r *http.Request) (netip.Addr, bool) {
	at, err := netip.ParseAddrPort(r.RemoteAddr)
	return at.Addr().Unmap(), err == nil
}

// own reports whether a request comes from a program on this machine, which the limits of respondents do not bind. Where a proxy
// stands in front, as with HTTPS, everything seems to come from here and nothing is exempt.
func (s *Server) own(r *http.Request) bool {
	a, ok := peer(r)
	return ok && a.IsLoopback() && !s.Secure && len(s.Proxies) == 0 && r.Header.Get("X-Forwarded-For") == ""
}
