package form

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"
)

// FromQuestions makes fields from typed or pasted questions, one a line. Empty lines
// and list marks (“1.”, “-”, “•”) are passed over, a trailing * makes the field
// required, a line that ends in a colon or has questions indented below it is a section, and
// words after a colon, separated by commas or slashes, are choices. So are lines below a
// question that begin with a box to tick, and short indented ones below a question mark.
func FromQuestions(pasted string) []Field { return FromLines(pasted, nil, "") }

// FromLines is FromQuestions for a form that has fields already: keys in taken are not used again. Where
// a section, the present one or one of the list, asks what another has asked, its key is part of the
// field's: guardian.name.
func FromLines(pasted string, taken []string, section string) []Field {
	var lines []pastedLine
	for raw := range strings.Lines(pasted) {
		if l := readLine(raw); l.text != "" {
			lines = append(lines, l)
		}
	}
	var fields []Field
	for i := 0; i < len(lines); i++ {
		l := lines[i]
		x, ok := FromQuestion(l.text, taken)
		if !ok {
			continue
		}
		below := 0
		for i+1+below < len(lines) && (lines[i+1+below].indent > l.indent || lines[i+1+below].box && !l.box) {
			below++
		}
		switch inner := lines[i+1 : i+1+below]; {
		case below == 0:
		case areChoices(l, inner):
			x.Kind, x.Choices = OneOf, choicesOf(inner)
			if severalWords.MatchString(x.Label) {
				x.Kind = SeveralOf
			}
			x.Label = strings.TrimSpace(strings.TrimSuffix(x.Label, ":"))
			i += below
		case x.Kind != Section && len(x.Choices) == 0:
			x.Kind, x.Required = Section, false
		}
		if x.Kind == Section {
			section = x.Key
		} else if plain := KeyFor(x.Label, nil); x.Key != plain && section != "" && !slices.Contains(taken, section+"."+plain) && !strings.Contains(section, ".") {
			x.Key = section + "." + plain
		}
		fields, taken = append(fields, x), append(taken, x.Key)
	}
	return fields
}

// pastedLine is one line of a list: how far in it stands, and whether it begins with a box to tick.
type pastedLine struct {
	text   string
	indent int
	box    bool
}

var boxMark = regexp.MustCompile(`^\s*(?:[☐□◯○⬜▢]|\[\s?\]|\(\s?\))\s*`)

func readLine(raw string) pastedLine {
	raw = strings.TrimRight(raw, "\r\n")
	l := pastedLine{box: boxMark.MatchString(raw)}
	for _, r := range raw {
		if r == '\t' {
			l.indent += 4
		} else if r == ' ' || r == '\u00A0' {
			l.indent++
		} else {
			break
		}
	}
	l.text = strings.TrimSpace(raw)
	if l.box {
		l.text = strings.TrimSpace(boxMark.ReplaceAllString(raw, ""))
	}
	return l
}

// areChoices tells choices below a question from questions of a section.
func areChoices(question pastedLine, below []pastedLine) bool {
	if below[0].box {
		return true
	}
	for _, l := range below {
		if len(strings.Fields(l.text)) > 5 || strings.ContainsAny(l.text, "?*:_") {
			return false
		}
	}
	return strings.HasSuffix(strings.TrimRight(question.text, " *"), "?") && len(below) > 1
}

func choicesOf(lines []pastedLine) []Choice {
	var out []Choice
	var taken []string
	for _, l := range lines {
		label := strings.TrimSpace(listMark.ReplaceAllString(clean(l.text, false), ""))
		if label == "" {
			continue
		}
		c := Choice{Value: KeyFor(label, taken), Label: label}
		out, taken = append(out, c), append(taken, c.Value)
	}
	return out
}

var listMark = regexp.MustCompile(`^\s*(?:[-*•‣◦▪☐□–]\s+|\(?\d{1,3}[.)]\s+|\(?[a-z][.)]\s+|\[\s?\]\s*)`)

// FromQuestion makes one field from one line, or reports that the line is empty.
// Keys in taken are not used again.
func FromQuestion(line string, taken []string) (Field, bool) {
	label := strings.TrimSpace(listMark.ReplaceAllString(clean(line, false), ""))
	label = strings.TrimRight(label, " _.…")
	var x Field
	if l, ok := strings.CutSuffix(label, "*"); ok {
		label, x.Required = strings.TrimSpace(l), true
	}
	if label == "" || !strings.ContainsFunc(label, func(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) }) {
		return Field{}, false
	}
	if r := []rune(label); len(r) > 300 {
		label = string(r[:300])
	}
	head, tail, colon := strings.Cut(label, ":")
	choices := splitChoices(tail)
	switch {
	case colon && strings.TrimSpace(tail) == "":
		x.Label, x.Kind = strings.TrimSpace(head), Section
	case colon && len(choices) > 1:
		x.Label, x.Choices = strings.TrimSpace(head), choices
		x.Kind = OneOf
		if severalWords.MatchString(head) {
			x.Kind = SeveralOf
		}
		if len(choices) == 2 && isYesNo(choices) {
			x.Kind, x.Choices = YesNo, nil
		}
	default:
		x.Label, x.Kind = label, GuessKind(label)
	}
	x.Key = KeyFor(x.Label, taken)
	return x, true
}

var severalWords = re(`all that apply|which of|choose any|tick|several|days|select all|as many`)

func splitChoices(s string) []Choice {
	sep := ","
	if !strings.Contains(s, ",") {
		sep = "/"
		if strings.Contains(s, ";") {
			sep = ";"
		}
	}
	var out []Choice
	var taken []string
	for part := range strings.SplitSeq(s, sep) {
		part = strings.Trim(strings.TrimSpace(part), "?.")
		part = strings.TrimPrefix(part, "or ")
		if part == "" {
			continue
		}
		c := Choice{Value: KeyFor(part, taken), Label: part}
		out, taken = append(out, c), append(taken, c.Value)
	}
	return out
}

func isYesNo(c []Choice) bool {
	return slices.Contains([]string{"yes", "Yes", "YES"}, c[0].Label) && slices.Contains([]string{"no", "No", "NO"}, c[1].Label)
}

// latin are the letters that are no accented ones, and what does not part words.
var latin = strings.NewReplacer("ß", "ss", "ł", "l", "ø", "o", "æ", "ae", "œ", "oe", "đ", "d", "’", "", "'", "")

// KeyFor makes a key from a label: small letters, digits and underscores, unlike the
// taken ones. A label in another script gets field_N.
func KeyFor(label string, taken []string) string {
	plain := latin.Replace(norm.NFD.String(strings.ToLower(label)))
	var b strings.Builder
	for _, r := range plain {
		switch {
		case unicode.Is(unicode.Mn, r): // an accent, taken off its letter
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9':
			b.WriteRune(r)
		case b.Len() > 0 && !strings.HasSuffix(b.String(), "_"):
			b.WriteByte('_')
		}
		if b.Len() >= 40 {
			break
		}
	}
	key := strings.TrimPrefix(strings.Trim(b.String(), "_"), "your_")
	if key == "" {
		key = "field"
	}
	if key[0] >= '0' && key[0] <= '9' {
		key = "f_" + key
	}
	return KeyFree(key, taken)
}

// KeyFree puts a count behind a key that is taken.
func KeyFree(key string, taken []string) string {
	base, n := key, 2
	for slices.Contains(taken, key) {
		key = base + "_" + strconv.Itoa(n)
		n++
	}
	return key
}
