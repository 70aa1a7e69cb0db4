package form

import (
	"fmt"
	"slices"
)

// Kind is what sort of answer a field takes.
type Kind string

// The kinds of field.
const (
	ShortText   Kind = "short_text"
	LongText    Kind = "long_text"
	WholeNumber Kind = "whole_number"
	Decimal     Kind = "decimal"
	Money       Kind = "money"
	Email       Kind = "email"
	Phone       Kind = "phone"
	WebAddress  Kind = "web_address"
	Date        Kind = "date"
	Time        Kind = "time"
	DateTime    Kind = "date_time"
	OneOf       Kind = "one_of"
	SeveralOf   Kind = "several_of"
	OnePictured Kind = "one_pictured" // one of several, shown as pictures
	YesNo       Kind = "yes_no"
	Consent     Kind = "consent"
	Rating      Kind = "rating"
	Name        Kind = "name"
	Address     Kind = "address"
	Upload      Kind = "upload"
	Photo       Kind = "photo"
	Signature   Kind = "signature"
	Hidden      Kind = "hidden"
	Rows        Kind = "rows"    // a repeating group: its fields are asked once a row
	Section     Kind = "section" // a heading; it takes no answer, like those below
	Page        Kind = "page"    // what follows is asked on a page of its own
	Text        Kind = "text"    // fixed words between fields
	Picture     Kind = "picture" // a fixed picture between fields
)

// The parts of names and addresses, in the order in which they are asked.
var (
	NameParts    = []string{"title", "given", "middle", "family", "suffix"}
	AddressParts = []string{"street", "extra", "postcode", "city", "region", "country"}

	// DayFormats are those of a day in digits alone, as forms with a box for each ask for it.
	DayFormats = []string{"dd", "mm", "yyyy", "yy", "ddmmyyyy", "mmddyyyy", "yyyymmdd", "ddmmyy"}

	usualNameParts    = []string{"given", "family"}
	usualAddressParts = []string{"street", "postcode", "city", "country"}
)

// AskedParts are the parts a name or address asks for.
func (f Field) AskedParts() []string {
	all, usual := NameParts, usualNameParts
	if f.Kind == Address {
		all, usual = AddressParts, usualAddressParts
	}
	if len(f.Parts) == 0 {
		return usual
	}
	var out []string
	for _, p := range all {
		if slices.Contains(f.Parts, p) {
			out = append(out, p)
		}
	}
	return out
}

// Limits of what is asked.
const (
	DefaultScale   = 5
	MaxScale       = 10
	DefaultLargest = 10  // megabytes
	MaxLargest     = 25  // megabytes
	MaxFiles       = 20  // of one field
	MaxRows        = 500 // of one group
)

// HighestRating is the best rating the field takes.
func (f Field) HighestRating() int {
	if f.Scale < 2 {
		return DefaultScale
	}
	return min(f.Scale, MaxScale)
}

// MostFiles is how many files the field takes.
func (f Field) MostFiles() int {
	if f.Most < 1 {
		return 1
	}
	return min(f.Most, MaxFiles)
}

// LargestFile is how many bytes a file may have.
func (f Field) LargestFile() int64 {
	n := f.Largest
	if n < 1 {
		n = DefaultLargest
	}
	return int64(min(n, MaxLargest)) << 20
}

// MostRows is how many rows the group takes.
func (f Field) MostRows() int {
	if f.Most < 1 {
		return MaxRows
	}
	return min(f.Most, MaxRows)
}

// UnmarshalText refuses kinds that are not there. One that is not said is short text.
func (k *Kind) UnmarshalText(text []byte) error {
	if *k = Kind(text); *k == "" {
		*k = ShortText
	}
	if !slices.Contains(Kinds(), *k) {
		return fmt.Errorf("there is no kind of field called “%s”", text)
	}
	return nil
}

// MarshalText writes the kind, short text for one that was left out.
func (k Kind) MarshalText() ([]byte, error) {
	if k == "" {
		k = ShortText
	}
	return []byte(k), nil
}
