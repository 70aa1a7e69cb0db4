// Package house holds who we are: the name, address, looks, language, time zone
// and currency that every document, message and form page takes from one place.
package house

import (
	"net/url"
	"regexp"
	"strings"
	"sync"
	"time"

	"github.com/nyaruka/phonenumbers"

	"amberseal/core/ask/form"
	"amberseal/core/print/typeface"
	"amberseal/core/words/finding"
)

// House is said once and used everywhere. Its JSON is the file that
// `amberseal compose --house` reads and the body of the API's house.
type House struct {
	Name         string   `json:"name"`
	Address      []string `json:"address"`      // lines under the name in a letterhead
	Registration string   `json:"registration"` // company or charity registration, one line
	Email        string   `json:"email"`        // where staff notices go and replies come from
	Phone        string   `json:"phone"`
	Website      string   `json:"website"`
	Site         string   `json:"site,omitempty"`    // origin at which respondents reach this program, for links in documents and mail
	Logo         string   `json:"logo,omitempty"`    // name of a picture, empty for none
	Accent       string   `json:"accent"`            // colour #RRGGBB for rules and headings
	Tint         string   `json:"tint,omitempty"`    // colour #RRGGBB behind shaded rows; a pale green when empty
	Language     string   `json:"language"`          // BCP 47, e.g. en-GB
	Country      string   `json:"country,omitempty"` // ISO 3166, by which national things are read; see CountryOrUsual
	Zone         string   `json:"zone"`              // IANA name, e.g. Europe/London
	Currency     string   `json:"currency"`          // ISO 4217, e.g. EUR
	Paper        string   `json:"paper"`             // A4 or Letter
	Font         string   `json:"font,omitempty"`    // family of documents, see package typeface
	Fonts        []Font   `json:"fonts,omitempty"`
	Files        []File   `json:"files,omitempty"`
}

// File is a fixed file of the house, which messages and filings carry.
type File struct {
	Name string `json:"name"` // with its ending, as its readers see it
	File string `json:"file"` // under which its bytes are kept
}

// Fixed finds a fixed file by its name.
func (h House) Fixed(name string) (File, bool) {
	for _, f := range h.Files {
		if f.Name == name {
			return f, true
		}
	}
	return File{}, false
}

// Font is a family of one's own: the names of its font files. Regular stands in for those that are empty.
type Font struct {
	Family     string `json:"family"`
	Regular    string `json:"regular"`
	Bold       string `json:"bold,omitempty"`
	Italic     string `json:"italic,omitempty"`
	BoldItalic string `json:"boldItalic,omitempty"`
}

// Link is a page of this program as respondents reach it, or empty where the house does not say where that is.
func (h House) Link(path string) string {
	if h.Site == "" {
		return ""
	}
	return strings.TrimSuffix(h.Site, "/") + path
}

// Own finds a family of one's own.
func (h House) Own(family string) (Font, bool) {
	for _, f := range h.Fonts {
		if f.Family == family {
			return f, true
		}
	}
	return Font{}, false
}

// New is a house before anybody said anything about it.
func New() House {
	return House{
		Name: "Our house", Accent: "#16262B", Language: "en-GB",
		Zone: "UTC", Currency: "EUR", Paper: "A4", Address: []string{},
	}
}

// WithDefaults fills what a hand-written file left out.
func (h House) WithDefaults() House {
	d := New()
	for _, p := range []struct {
		v *string
		d string
	}{{&h.Name, d.Name}, {&h.Accent, d.Accent}, {&h.Language, d.Language}, {&h.Zone, d.Zone}, {&h.Currency, d.Currency},
		{&h.Paper, d.Paper}} {
		if *p.v == "" {
			*p.v = p.d
		}
	}
	if h.Address == nil {
		h.Address = []string{}
	}
	return h
}

// zones are those that were asked for before: the library reads a zone's file each time.
var zones sync.Map // name to *time.Location

// Location is the house's time zone. Check makes sure it exists; an unknown one is UTC.
func (h House) Location() *time.Location {
	if known, ok := zones.Load(h.Zone); ok {
		return known.(*time.Location)
	}
	loc, err := time.LoadLocation(h.Zone)
	if err != nil {
		return time.UTC
	}
	zones.Store(h.Zone, loc)
	return loc
}

// Circumstances are what checking answers needs to know of the house, at a time.
func (h House) Circumstances(now time.Time) form.Circumstances {
	return form.Circumstances{Now: now.In(h.Location()), Country: h.CountryOrUsual(), Currency: h.Currency,
		Language: h.Language}
}

var (
	colour   = regexp.MustCompile(`^#[0-9A-Fa-f]{6}$`)
	currency = regexp.MustCompile(`^[A-Z]{3}$`)
)

// Check finds what would not work in documents or mail.
func (h House) Check() finding.List {
	var l finding.List
	if u, err := url.Parse(h.Site); h.Site != "" &&
		(err != nil || u.Scheme != "http" && u.Scheme != "https" || u.Host == "" || u.Path != "" && u.Path != "/" || u.RawQuery != "") {
		l.Fault("house/site", "house.site-unusable")
	}
	if h.Name == "" {
		l.Fault("house/name", "house.no-name")
	}
	if !colour.MatchString(h.Accent) {
		l.Fault("house/accent", "house.accent-unusable")
	}
	switch {
	case h.Tint == "":
	case !colour.MatchString(h.Tint):
		l.Fault("house/tint", "house.tint-unusable")
	case Contrast(h.Tint, "#4A5B5F") < readable:
		l.Fault("house/tint", "house.tint-dark")
	}
	if colour.MatchString(h.Accent) && Contrast(h.Accent, "#FFFFFF") < readable {
		l.Notice("house/accent", "house.accent-pale")
	}
	if _, err := time.LoadLocation(h.Zone); err != nil || h.Zone == "Local" {
		l.Fault("house/zone", "house.zone-unknown")
	}
	if h.Country != "" && phonenumbers.GetCountryCodeForRegion(h.Country) == 0 {
		l.Fault("house/country", "house.country-unknown", "country", h.Country)
	}
	if !currency.MatchString(h.Currency) {
		l.Fault("house/currency", "house.currency-unusable")
	}
	seen := map[string]bool{"": true}
	for _, f := range typeface.Families() {
		seen[f] = true
	}
	for _, f := range h.Fonts {
		switch {
		case seen[f.Family]:
			l.Fault("house/fonts", "house.family-name", "family", f.Family)
		case f.Regular == "":
			l.Fault("house/fonts", "house.family-without-regular", "family", f.Family)
		}
		seen[f.Family] = true
	}
	names := map[string]bool{}
	for _, f := range h.Files {
		if name := strings.TrimSpace(f.Name); name == "" || name != f.Name || len(name) > 200 || strings.ContainsAny(name, "/\\\x00\n\r") ||
			names[strings.ToLower(name)] || f.File == "" {
			l.Fault("house/files", "house.file-name", "name", f.Name)
		}
		names[strings.ToLower(f.Name)] = true
	}
	if !seen[h.Font] {
		l.Fault("house/font", "house.font-unknown", "font", h.Font)
	}
	if h.Paper != "A4" && h.Paper != "Letter" {
		l.Fault("house/paper", "house.paper-unknown")
	}
	return l
}
