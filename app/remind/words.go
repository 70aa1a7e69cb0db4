package remind

import "strings"

// words are those of a reminder in a language; {form} is the form's name.
type words struct{ subject, hello, asked, goOn, kept string }

var known = map[string]words{
	"en": {
		"Your answers are kept: {form}", "Good day,",
		"you asked to be reminded of “{form}”, which you began and have not sent yet.", "Go on with it",
		"The link is yours alone: who has it sees your answers. They are kept for 30 days from when you asked, and then forgotten. " +
			"If you did not ask for this, you need not do anything; it is the only message.",
	},
	"de": {
		"Ihre Antworten sind aufgehoben: {form}", "Guten Tag,",
		"Sie wollten an „{form}“ erinnert werden, das Sie begonnen und noch nicht abgesendet haben.", "Weiter ausfüllen",
		"Der Link ist nur für Sie: Wer ihn hat, sieht Ihre Antworten. Sie werden 30 Tage von Ihrer Bitte an aufgehoben und dann " +
			"vergessen. Wenn Sie nicht darum gebeten haben, brauchen Sie nichts zu tun; es ist die einzige Nachricht.",
	},
	"fr": {
		"Vos réponses sont conservées : {form}", "Bonjour,",
		"vous avez demandé un rappel pour « {form} », que vous avez commencé et pas encore envoyé.", "Continuer",
		"Ce lien n’est que pour vous : qui l’a voit vos réponses. Elles sont conservées 30 jours à partir de votre demande, puis " +
			"oubliées. Si vous n’avez rien demandé, vous n’avez rien à faire ; c’est le seul message.",
	},
	"es": {
		"Sus respuestas están guardadas: {form}", "Buenos días:",
		"pidió que le recordáramos «{form}», que empezó y todavía no ha enviado.", "Continuar",
		"El enlace es solo para usted: quien lo tiene ve sus respuestas. Se guardan 30 días desde su petición y después se olvidan. " +
			"Si no lo pidió, no tiene que hacer nada; es el único mensaje.",
	},
	"pl": {
		"Odpowiedzi są zachowane: {form}", "Dzień dobry,",
		"przypominamy zgodnie z prośbą o „{form}”: formularz jest zaczęty, ale jeszcze niewysłany.", "Wypełnij dalej",
		"Link jest tylko dla Państwa: kto go ma, widzi Państwa odpowiedzi. Przechowujemy je 30 dni od prośby, potem są usuwane. " +
			"Jeśli to nie Państwa prośba, nie trzeba nic robić; to jedyna wiadomość.",
	},
}

// wordsIn gives the words of a language (BCP 47), English where there are none.
func wordsIn(language string) words {
	base, _, _ := strings.Cut(language, "-")
	if w, ok := known[base]; ok {
		return w
	}
	return known["en"]
}

func filled(sentence, form string) string { return strings.ReplaceAll(sentence, "{form}", form) }
