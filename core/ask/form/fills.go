package form

import (
	"regexp"
	"strings"
)

// Whom a question is about, for the browser that may answer it by itself.
const (
	AboutSelf  = "self"
	AboutOther = "other"
)

// others are words of questions about somebody else, in the five languages respondents read.
var others = wordsIn(
	"guardian",
	"parent",
	"mother",
	"father",
	"child",
	"pupil",
	"student's",
	"emergency",
	"witness",
	"referee",
	"reference",
	"spouse",
	"partner",
	"husband",
	"wife",
	"landlord",
	"employer",
	"doctor",
	"dentist",
	"friend",
	"recipient",
	"next of kin",
	"companion",
	"second",
	"other",
	"another",
	"their",
	"his",
	"her",
	"manager",
	"supervisor",
	"send",
	"copy to",
	"manufacturer",
	"maker",
	"seller",
	"supplier",
	"vormund",
	"eltern",
	"mutter",
	"vater",
	"kind",
	"kindes",
	"notfall",
	"notfallkontakt",
	"zeuge",
	"zeugin",
	"ehepartner",
	"partnerin",
	"vermieter",
	"arbeitgeber",
	"arzt",
	"hausarzt",
	"empfänger",
	"empfängerin",
	"begleitperson",
	"zweite",
	"zweiter",
	"tuteur",
	"tutrice",
	"parents",
	"mère",
	"père",
	"enfant",
	"enfants",
	"urgence",
	"témoin",
	"conjoint",
	"conjointe",
	"partenaire",
	"bailleur",
	"employeur",
	"médecin",
	"destinataire",
	"accompagnant",
	"deuxième",
	"tutor",
	"tutora",
	"padre",
	"madre",
	"hijo",
	"hija",
	"emergencia",
	"testigo",
	"cónyuge",
	"pareja",
	"arrendador",
	"empleador",
	"médico",
	"destinatario",
	"acompañante",
	"segundo",
	"segunda",
	"opiekun",
	"opiekuna",
	"rodzic",
	"rodzica",
	"matka",
	"matki",
	"ojciec",
	"ojca",
	"dziecko",
	"dziecka",
	"nagłym",
	"nagłych",
	"świadek",
	"świadka",
	"małżonek",
	"małżonka",
	"współmałżonka",
	"pracodawca",
	"pracodawcy",
	"lekarz",
	"lekarza",
	"odbiorca",
	"odbiorcy",
	"drugi",
	"druga",
)

// firms and births are questions for an organization and for a day of birth.
var (
	firms = wordsIn(
		"company", "organisation", "organization", "firm", "business", "firma", "unternehmen", "organisation", "société", "entreprise",
		"organisme", "empresa", "organización", "organizacja", "firmy", "nazwa firmy",
	)
	birth = wordsIn(
		"birth", "born", "birthday", "geburtsdatum", "geburtstag", "geboren", "naissance", "né", "née", "nacimiento", "cumpleaños",
		"urodzenia",
		"urodzin",
	)
)

func wordsIn(words ...string) *regexp.Regexp {
	return regexp.MustCompile(`(?i)(?:^|[^\p{L}])(?:` + strings.Join(words, "|") + `)(?:['’]s)?(?:$|[^\p{L}])`)
}

// Fills says what a browser may put into the questions by itself, by their paths (lines.name in rows): tokens of HTML's autocomplete
// attribute (HTML standard, 4.10.18.7.1), and “off” for what is about somebody else, so that nobody's own address is put there
// (WCAG 2.2, 1.3.5). What the design says comes first, else it is guessed from the words.
func (f Form) Fills() map[string]string {
	out := map[string]string{}
	asked := map[string]bool{} // each is filled once: a second address is somebody else's
	section := ""
	for _, x := range f.Fields {
		switch x.Kind {
		case Section, Page:
			section = x.Label
		case Rows:
			for _, c := range x.Fields {
				if c.fill() != "" && c.About != AboutSelf {
					out[x.Key+"."+c.Key] = "off"
				}
			}
		}
		token := x.fill()
		if token == "" {
			continue
		}
		other := x.About == AboutOther || x.About == "" && (others.MatchString(x.Label) || others.MatchString(section) || asked[token])
		if other {
			token = "off"
		}
		asked[token] = asked[token] || !other
		out[x.Key] = token
	}
	return out
}

// fill is the token of a question about who answers, or nothing for what no browser knows. “parts” stands for a name or an address
// whose parts have tokens of their own.
func (x Field) fill() string {
	switch {
	case x.Calculated():
	case x.Kind == Email:
		return "email"
	case x.Kind == Phone:
		return "tel"
	case x.Kind == Name || x.Kind == Address:
		return "parts"
	case x.Kind == Date && birth.MatchString(x.Label):
		return "bday"
	case x.Kind == ShortText && firms.MatchString(x.Label):
		return "organization"
	case x.Kind == ShortText && nameWords.MatchString(x.Label):
		return "name"
	}
	return ""
}
