package pdf

import (
	"crypto/md5" // #nosec: the standard's check sum of embedded files, no protection
	"errors"
	"fmt"
	"strings"
	"time"
)

// File is a file that the document carries (ISO 32000-1 section 7.11.4), associated with it as ISO 19005-3 section 6.8 asks.
type File struct {
	Name     string
	Type     string // media type
	Says     string // what it is, for people
	Data     []byte
	Relation Relation
}

// Relation is what a carried file is to the document.
type Relation string

// The relations of ISO 19005-3, annex E.
const (
	RelatedData Relation = "Data"       // what the document shows, for machines
	Supplement  Relation = "Supplement" // something besides it
)

var errCarries = errors.New("files of this archival level cannot carry others")

// carry adds files and gives the catalog's entries. Names are told apart by a number where two are equal, since readers find
// files by their names.
func (w *writer) carry(files []File, made time.Time) string {
	if len(files) == 0 {
		return ""
	}
	var names, all strings.Builder
	seen := map[string]int{}
	for i, f := range files {
		name := f.Name
		if seen[f.Name]++; seen[f.Name] > 1 {
			name = fmt.Sprintf("%d %s", seen[f.Name], f.Name)
		}
		kind := strings.ReplaceAll(nameObject(f.Type), "/", "#2F")
		stream := w.stream(
			fmt.Sprintf(
				"/Type /EmbeddedFile /Subtype /%s /Params <</Size %d /ModDate (%s) /CheckSum <%X>>>", kind, len(f.Data), moment(made),
				md5.Sum(f.Data),
			),
			f.Data,
		)
		spec := w.add(
			"<</Type /Filespec /F %s /UF %s /Desc %s /EF <</F %s /UF %s>> /AFRelationship /%s>>", TextString(name), TextString(name),
			TextString(f.Says), stream, stream, f.Relation,
		)
		fmt.Fprintf(&names, "(%05d) %s ", i, spec)
		fmt.Fprintf(&all, "%s ", spec)
	}
	return fmt.Sprintf(
		" /Names <</EmbeddedFiles <</Names [%s]>>>> /AF [%s]", strings.TrimSpace(names.String()), strings.TrimSpace(all.String()),
	)
}

// nameObject writes a media type as a name; what a name may not hold is left out.
func nameObject(kind string) string {
	kind = strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || strings.ContainsRune("/+.-", r) {
			return r
		}
		return -1
	}, kind)
	if kind == "" {
		return "application/octet-stream"
	}
	return kind
}
