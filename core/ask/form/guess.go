package form

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"
)

// FromQuestions makes fields from typed or pasted questions, one a line. Empty lines, list marks (“1.”, “-”, “•”, “Q1:”) and
// room to write on (“____”) are passed over, a trailing * or “(required)” makes the field required, “(yes/no)” asks for one of
// the two. A heading, a line that ends in a colon or has questions indented below it is a section, and words after a colon,
// separated by commas or slashes, are choices. So are lines below a question that begin with a box to tick or a bullet, and
// short indented ones below a question mark. A table with tabs or bars makes a field of each column.
func FromQuestions(pasted string) []Field { return FromLines(pasted, nil, "") }

// pastedTable reads a table that was copied from a spreadsheet (cells parted by tabs) or written with bars, and gives its header
// and rows, or nothing.
func pastedTable(pasted string) (header []string, rows [][]string) {
	width := 0
	for raw := range strings.Lines(pasted) {
		line := strings.Trim(raw, "\r\n ")
		if strings.TrimSpace(line) == "" {
			continue
		}
		var cells []string
		switch {
		case strings.Contains(line, "\t") && !strings.HasPrefix(line, "\t"):
			cells = strings.Split(line, "\t")
		case strings.HasPrefix(line, "|") && strings.HasSuffix(line, "|") && len(line) > 2:
			cells = strings.Split(strings.Trim(line, "|"), "|")
		}
		if len(cells) < 2 || width > 0 && len(cells) > width {
			return nil, nil
		}
		for i := range cells {
			cells[i] = strings.TrimSpace(cells[i])
		}
		switch {
		case header == nil:
			header, width = cells, len(cells)
		case strings.Trim(strings.Join(cells, ""), "-: ") == "": // the line under a header
		default:
			rows = append(rows, cells)
		}
	}
	return header, rows
}

// FromLines is FromQuestions for a form that has fields already: keys in taken are not used again. Where
// a section, the present one or one of the list, asks what another has asked, its key is part of the
// field's: guardian.name.
func FromLines(pasted string, taken []string, section string) []Field {
	var lines []pastedLine
	colons := 0
	for raw := range strings.Lines(pasted) {
		if l := readLine(raw); l.text != "" {
			lines = append(lines, l)
			if strings.HasSuffix(l.text, ":") {
				colons++
			}
		}
	}
	if header, rows := pastedTable(pasted); header != nil {
		return FromTable(header, rows)
	}
	asking := colons > 2 && 2*colons > len(lines) // on paper forms a colon stands before the room for each answer
	var fields []Field
	for i := 0; i < len(lines); i++ {
		l := lines[i]
		below := 0
		for i+1+below < len(lines) && lines[i+1+below].under(l) {
			below++
		}
		if below > 0 && lines[i+1].indent <= l.indent && !lines[i+1].box && !areChoices(l, lines[i+1:i+1+below]) {
			below = 0 // bullets that are questions of their own
		}
		if asking && below == 0 {
			l.text = strings.TrimSuffix(l.text, ":")
		}
		x, ok := FromQuestion(l.text, taken)
		if !ok {
			continue
		}
		if l.heading {
			x.Kind, x.Choices, x.Required = Section, nil, false
		}
		switch inner := lines[i+1 : i+1+below]; {
		case below == 0 || l.heading:
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
		} else if plain := KeyFor(x.Label, nil); x.Key != plain && section != "" && !slices.Contains(taken, section+"."+plain) &&
			!strings.Contains(section, ".") {
			x.Key = section + "." + plain
		}
		fields, taken = append(fields, x), append(taken, x.Key)
	}
	return fields
}

// pastedLine is one line of a list: how far in it stands, whether it begins with a box to tick or a mark, and whether it is
// set as a heading.
type pastedLine struct {
	text    string
	indent  int
	box     bool
	bullet  bool
	heading bool
}

// under reports whether the line belongs to one above it.
func (l pastedLine) under(above pastedLine) bool {
	return !l.heading && (l.indent > above.indent || l.box && !above.box || l.bullet && !above.bullet && !above.heading)
}

var (
	bulletMark  = regexp.MustCompile(`^\s*[-*•‣◦▪–·]\s+`)
	headingMark = regexp.MustCompile(`^\s*(?:#{1,4}\s+(.+?)\s*#*|={2,}\s*(.+?)\s*={2,}|\*\*(.+?):?\*\*:?|__(.+?):?__:?)$`)
	partMark    = regexp.MustCompile(
		`(?i)^(?:section|part|teil|abschnitt|partie|rubrique|sección|parte|część|sekcja)\s+(?:\d+|[a-z]|[ivx]+)\s*[:.–-]\s*`,
	)
)

// capitals reports whether words are written in capitals only, as headings are.
func capitals(s string) bool {
	letters := 0
	for _, r := range s {
		if unicode.IsLower(r) {
			return false
		}
		if unicode.IsLetter(r) {
			letters++
		}
	}
	return letters > 5 && strings.Contains(strings.TrimSpace(s), " ") && !strings.ContainsAny(s, "?*_:")
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
	l.bullet = bulletMark.MatchString(raw)
	if m := headingMark.FindStringSubmatch(l.text); m != nil {
		l.heading, l.text = true, strings.Join(m[1:], "")
	} else if at := partMark.FindStringIndex(l.text); at != nil && at[1] < len(l.text) {
		l.heading, l.text = true, l.text[at[1]:]
	} else {
		l.heading = capitals(l.text)
	}
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
	bullets := true
	for _, l := range below {
		bullets = bullets && l.bullet
		words := strings.TrimSpace(listMark.ReplaceAllString(l.text, ""))
		if len(strings.Fields(words)) > 5 || strings.ContainsAny(words, "?*:_") {
			return false
		}
	}
	if bullets && !question.bullet && len(below) > 1 {
		return true
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

var listMark = regexp.MustCompile(
	`^\s*(?:[-*•‣◦▪☐□–·]\s+|\d{1,3}(?:\.\d{1,2})+[.)]?\s+|(?i:q|question|frage|pregunta|pytanie|nr\.?)?\s?\(?\d{1,` +
		`3}[.):]\s*|\(?[a-z][.)]\s+|\[\s?\]\s*)`,
)

// What lines of paper forms say besides the question: room to write on, that it must be answered, that yes or no answers it.
var (
	roomMark     = regexp.MustCompile(`\s*:?\s*(?:_{2,}|\.{4,}|…{2,})[_./\-\s…€$£%]*$`)
	requiredMark = regexp.MustCompile(
		`(?i)\s*[\[(](?:required|mandatory|erforderlich|pflichtfeld|pflicht|obligatoire|requis|obligatorio|requerido|wymagane|` +
			`obowiązkowe|wymagany)[\])]`,
	)
	optionalMark = regexp.MustCompile(`(?i)\s*[\[(](?:optional|freiwillig|facultatif|optionnel|opcional|opcjonalne|nieobowiązkowe)[\])]`)
	yesNoMark    = regexp.MustCompile(
		`(?i)\s*:?\s*[\[(]?\s*(?:yes|ja|oui|sí|si|tak|y)\s*(?:/|\||,| or | oder | ou | o | lub )\s*(?:no|nein|non|nie|n)\s*[\])]?\s*[?.]?$`,
	)
)

// FromQuestion makes one field from one line, or reports that the line is empty.
// Keys in taken are not used again.
func FromQuestion(line string, taken []string) (Field, bool) {
	label := strings.TrimSpace(listMark.ReplaceAllString(clean(line, false), ""))
	var x Field
	x.Required = requiredMark.MatchString(label)
	label = optionalMark.ReplaceAllString(requiredMark.ReplaceAllString(label, ""), "")
	room := roomMark.MatchString(label)
	label = strings.TrimRight(roomMark.ReplaceAllString(label, ""), " _.…")
	asked := yesNoMark.ReplaceAllString(label, "")
	yesNo := asked != label && strings.TrimSpace(asked) != ""
	if yesNo {
		label = asked
	}
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
	case yesNo:
		x.Label, x.Kind = strings.TrimSuffix(label, ":"), YesNo
	case room:
		x.Label = strings.TrimSpace(strings.TrimSuffix(label, ":"))
		x.Kind = GuessKind(x.Label)
	case colon && strings.TrimSpace(tail) == "" && GuessKind(head) != ShortText && GuessKind(head) != Name:
		x.Label, x.Kind = strings.TrimSpace(head), GuessKind(head)
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
