package house

import (
	_ "embed" // the zones of countries
	"strings"
	"sync"

	"github.com/nyaruka/phonenumbers"
	"golang.org/x/text/language"
)

// zoneLines are time zones with the ISO 3166 country that each lies in: zone.tab of the time zone database (RFC 6557), in the public
// domain.
//
//go:embed zones.txt
var zoneLines string

var countryOfZone = sync.OnceValue(func() map[string]string {
	out := map[string]string{}
	for line := range strings.Lines(zoneLines) {
		if zone, country, ok := strings.Cut(strings.TrimSpace(line), " "); ok {
			out[zone] = country
		}
	}
	return out
})

// CountryOrUsual is the ISO 3166 country that the house is in: the one that it says; else that of its own telephone number, of its time
// zone, or of its language's tag, in this order. It is empty where none of them tells: what is national is not guessed then.
func (h House) CountryOrUsual() string {
	if h.Country != "" {
		return h.Country
	}
	if n, err := phonenumbers.Parse(h.Phone, "ZZ"); err == nil {
		if region := phonenumbers.GetRegionCodeForNumber(n); region != "" && region != "ZZ" {
			return region
		}
	}
	if country := countryOfZone()[h.Zone]; country != "" {
		return country
	}
	tag, err := language.Parse(h.Language)
	if region, sure := tag.Region(); err == nil && sure == language.Exact {
		return region.String()
	}
	return ""
}
