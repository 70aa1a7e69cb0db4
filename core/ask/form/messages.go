package form

import (
	"fmt"
	"strings"
)

// say gives a message in the respondent's language; the English words are the key. A language or message that
// is missing is said in English.
func (c Circumstances) say(message string, args ...any) string {
	language, _, _ := strings.Cut(c.Language, "-")
	if t, ok := messages[language][message]; ok {
		message = t
	}
	if len(args) == 0 {
		return message
	}
	return fmt.Sprintf(message, args...)
}

// Languages lists those in which respondents are spoken to.
func Languages() []string { return []string{"en", "de", "fr", "es", "pl"} }

var messages = map[string]map[string]string{"de": german, "fr": french, "es": spanish, "pl": polish}

var german = map[string]string{
	"Please answer this question.":                     "Bitte beantworten Sie diese Frage.",
	"Please choose.":                                   "Bitte wählen Sie.",
	"Please agree to this to go on.":                   "Bitte stimmen Sie zu, um fortzufahren.",
	"Please add a photo.":                              "Bitte fügen Sie ein Foto hinzu.",
	"Please add a file.":                               "Bitte fügen Sie eine Datei hinzu.",
	"Please add a row.":                                "Bitte fügen Sie eine Zeile hinzu.",
	"Please sign.":                                     "Bitte unterschreiben Sie.",
	"Please write the given name.":                     "Bitte geben Sie den Vornamen an.",
	"Please write the family name.":                    "Bitte geben Sie den Nachnamen an.",
	"Please write the street.":                         "Bitte geben Sie die Straße an.",
	"Please write the postcode.":                       "Bitte geben Sie die Postleitzahl an.",
	"Please write the town.":                           "Bitte geben Sie den Ort an.",
	"This is too long: %d of at most %d characters.":   "Das ist zu lang: %d von höchstens %d Zeichen.",
	"This is too short: %d of at least %d characters.": "Das ist zu kurz: %d von mindestens %d Zeichen.",
	"This is not an email address. It should look like name@place.example.": "Das ist keine " +
		"E-Mail-Adresse. Sie sieht aus wie name@ort.example.",
	"This is not a telephone number. Write its digits, with + and the country’s code for another country.": "Das ist keine " +
		"Telefonnummer. Schreiben Sie die Ziffern, für ein anderes Land mit + und Landesvorwahl.",
	"This is not a web address. It should look like https://place.example.": "Das ist keine Internetadresse. Sie sieht aus wie " +
		"https://ort.example.",
	"This is not a date. Write it as year-month-day, such as 2026-11-24.": "Das ist kein Datum. Schreiben Sie Jahr-Monat-Tag, etwa " +
		"2026-11-24.",
	"This is not a time. Write hours and minutes, such as 14:30.": "Das ist keine Uhrzeit. Schreiben Sie Stunden und " +
		"Minuten, etwa 14:30.",
	"This is not a date with a time. Write it as 2026-11-24T14:30.": "Das ist kein Datum mit Uhrzeit. Schreiben Sie es wie " +
		"2026-11-24T14:30.",
	"This is not one of the choices.":                                        "Das steht nicht zur Auswahl.",
	"This is not a number. Write digits only, with a point before decimals.": "Das ist keine Zahl. Schreiben Sie nur Ziffern.",
	"This must be a whole number, without decimals.":                         "Das muss eine ganze Zahl sein.",
	"A rating is from 1 to %d.":                                              "Eine Bewertung geht von 1 bis %d.",
	"An amount of this currency has no decimals.":                            "Ein Betrag dieser Währung hat keine Nachkommastellen.",
	"An amount has at most two decimals.":                                    "Ein Betrag hat höchstens zwei Nachkommastellen.",
	"An amount has at most %d decimals.":                                     "Ein Betrag hat höchstens %d Nachkommastellen.",
	"This must be %s or more.":                                               "Das muss mindestens %s sein.",
	"This must be %s or less.":                                               "Das darf höchstens %s sein.",
	"This must be %s or later.":                                              "Das muss der %s oder später sein.",
	"This must be %s or earlier.":                                            "Das muss der %s oder früher sein.",
	"This must be at %s or later.":                                           "Das muss %s oder später sein.",
	"This must be at %s or earlier.":                                         "Das muss %s oder früher sein.",
	"This must go in steps of %s.":                                           "Das geht in Schritten von %s.",
	"This should look like %s, with a digit for # and a letter for A.": "Das sollte aussehen wie %s, mit einer Ziffer für # und " +
		"einem Buchstaben für A.",
	"This does not have the form that is asked for.": "Das hat nicht die verlangte Form.",
	"One of the files is not there any more. Please upload it again.": "Eine der Dateien ist nicht mehr da. Bitte laden Sie sie " +
		"noch einmal hoch.",
	"These are %d files; at most %d can be sent.":      "Das sind %d Dateien; höchstens %d können gesendet werden.",
	"These are %d rows; at most %d can be sent.":       "Das sind %d Zeilen; höchstens %d können gesendet werden.",
	"At least %d rows are needed.":                     "Mindestens %d Zeilen sind nötig.",
	"At least %d files are needed.":                    "Mindestens %d Dateien sind nötig.",
	"“%s” is too large; a file may have %d MB.":        "„%s“ ist zu groß; eine Datei darf %d MB haben.",
	"“%s” is not a photo. Send a JPEG or PNG picture.": "„%s“ ist kein Foto. Senden Sie ein Bild als JPEG oder PNG.",
	"“%s” is not of a kind that can be sent here: %s.": "„%s“ kann hier nicht gesendet werden; möglich sind %s.",
	"This is not a signature. Draw it, type it or upload a picture of it.": "Das ist keine Unterschrift. Zeichnen oder tippen Sie sie " +
		"oder laden Sie ein Bild davon hoch.",
}

var french = map[string]string{
	"Please answer this question.":                     "Veuillez répondre à cette question.",
	"Please choose.":                                   "Veuillez choisir.",
	"Please agree to this to go on.":                   "Veuillez donner votre accord pour continuer.",
	"Please add a photo.":                              "Veuillez ajouter une photo.",
	"Please add a file.":                               "Veuillez ajouter un fichier.",
	"Please add a row.":                                "Veuillez ajouter une ligne.",
	"Please sign.":                                     "Veuillez signer.",
	"Please write the given name.":                     "Veuillez indiquer le prénom.",
	"Please write the family name.":                    "Veuillez indiquer le nom de famille.",
	"Please write the street.":                         "Veuillez indiquer la rue.",
	"Please write the postcode.":                       "Veuillez indiquer le code postal.",
	"Please write the town.":                           "Veuillez indiquer la ville.",
	"This is too long: %d of at most %d characters.":   "C’est trop long : longueur %d, au plus %d.",
	"This is too short: %d of at least %d characters.": "C’est trop court : longueur %d, au moins %d.",
	"This is not an email address. It should look like name@place.example.": "Ce n’est pas une adresse " +
		"électronique. Elle ressemble à nom@lieu.example.",
	"This is not a telephone number. Write its digits, with + and the country’s code for another country.": "Ce n’est pas un numéro de " +
		"téléphone. Écrivez ses chiffres, avec + et l’indicatif pour un autre pays.",
	"This is not a web address. It should look like https://place.example.": "Ce n’est pas une adresse web. Elle ressemble à " +
		"https://lieu.example.",
	"This is not a date. Write it as year-month-day, such as 2026-11-24.": "Ce n’est pas une date. Écrivez année-mois-jour, par " +
		"exemple 2026-11-24.",
	"This is not a time. Write hours and minutes, such as 14:30.": "Ce n’est pas une heure. Écrivez heures et minutes, par " +
		"exemple 14:30.",
	"This is not a date with a time. Write it as 2026-11-24T14:30.": "Ce n’est pas une date avec une heure. Écrivez-la comme " +
		"2026-11-24T14:30.",
	"This is not one of the choices.":                                        "Ce n’est pas l’un des choix.",
	"This is not a number. Write digits only, with a point before decimals.": "Ce n’est pas un nombre. N’écrivez que des chiffres.",
	"This must be a whole number, without decimals.":                         "Ce doit être un nombre entier.",
	"A rating is from 1 to %d.":                                              "Une note va de 1 à %d.",
	"An amount of this currency has no decimals.":                            "Un montant dans cette monnaie n’a pas de décimales.",
	"An amount has at most two decimals.":                                    "Un montant a deux décimales au plus.",
	"An amount has at most %d decimals.":                                     "Un montant a %d décimales au plus.",
	"This must be %s or more.":                                               "Ce doit être %s ou plus.",
	"This must be %s or less.":                                               "Ce doit être %s ou moins.",
	"This must be %s or later.":                                              "Ce doit être le %s ou plus tard.",
	"This must be %s or earlier.":                                            "Ce doit être le %s ou plus tôt.",
	"This must be at %s or later.":                                           "Ce doit être %s ou plus tard.",
	"This must be at %s or earlier.":                                         "Ce doit être %s ou plus tôt.",
	"This must go in steps of %s.":                                           "Cela va par pas de %s.",
	"This should look like %s, with a digit for # and a letter for A.": "Cela doit ressembler à %s, avec un chiffre pour # et une " +
		"lettre pour A.",
	"This does not have the form that is asked for.": "Cela n’a pas la forme demandée.",
	"One of the files is not there any more. Please upload it again.": "L’un des fichiers n’est plus là. Veuillez l’envoyer de " +
		"nouveau.",
	"These are %d files; at most %d can be sent.":      "Il y a %d fichiers ; %d au plus peuvent être envoyés.",
	"These are %d rows; at most %d can be sent.":       "Il y a %d lignes ; %d au plus peuvent être envoyées.",
	"At least %d rows are needed.":                     "Il faut au moins %d lignes.",
	"At least %d files are needed.":                    "Il faut au moins %d fichiers.",
	"“%s” is too large; a file may have %d MB.":        "« %s » est trop grand ; un fichier peut avoir %d Mo.",
	"“%s” is not a photo. Send a JPEG or PNG picture.": "« %s » n’est pas une photo. Envoyez une image JPEG ou PNG.",
	"“%s” is not of a kind that can be sent here: %s.": "« %s » ne peut pas être envoyé ici ; sont possibles : %s.",
	"This is not a signature. Draw it, type it or upload a picture of it.": "Ce n’est pas une signature. Dessinez-la, tapez-la ou " +
		"envoyez-en une image.",
}

var spanish = map[string]string{
	"Please answer this question.":                     "Responda a esta pregunta, por favor.",
	"Please choose.":                                   "Elija, por favor.",
	"Please agree to this to go on.":                   "Dé su conformidad para continuar.",
	"Please add a photo.":                              "Añada una foto, por favor.",
	"Please add a file.":                               "Añada un archivo, por favor.",
	"Please add a row.":                                "Añada una línea, por favor.",
	"Please sign.":                                     "Firme, por favor.",
	"Please write the given name.":                     "Escriba el nombre, por favor.",
	"Please write the family name.":                    "Escriba los apellidos, por favor.",
	"Please write the street.":                         "Escriba la calle, por favor.",
	"Please write the postcode.":                       "Escriba el código postal, por favor.",
	"Please write the town.":                           "Escriba la localidad, por favor.",
	"This is too long: %d of at most %d characters.":   "Es demasiado largo: longitud %d, como máximo %d.",
	"This is too short: %d of at least %d characters.": "Es demasiado corto: longitud %d, al menos %d.",
	"This is not an email address. It should look like name@place.example.": "No es una dirección de " +
		"correo. Se parece a nombre@lugar.example.",
	"This is not a telephone number. Write its digits, with + and the country’s code for another country.": "No es un número de " +
		"teléfono. Escriba las cifras, con + y el prefijo para otro país.",
	"This is not a web address. It should look like https://place.example.": "No es una dirección web. Se parece a https://lugar.example.",
	"This is not a date. Write it as year-month-day, such as 2026-11-24.": "No es una fecha. Escriba año-mes-día, por ejemplo " +
		"2026-11-24.",
	"This is not a time. Write hours and minutes, such as 14:30.":            "No es una hora. Escriba horas y minutos, por ejemplo 14:30.",
	"This is not a date with a time. Write it as 2026-11-24T14:30.":          "No es una fecha con hora. Escríbala como 2026-11-24T14:30.",
	"This is not one of the choices.":                                        "No es una de las opciones.",
	"This is not a number. Write digits only, with a point before decimals.": "No es un número. Escriba solo cifras.",
	"This must be a whole number, without decimals.":                         "Debe ser un número entero.",
	"A rating is from 1 to %d.":                                              "Una valoración va de 1 a %d.",
	"An amount of this currency has no decimals.":                            "Un importe en esta moneda no tiene decimales.",
	"An amount has at most two decimals.":                                    "Un importe tiene como máximo dos decimales.",
	"An amount has at most %d decimals.":                                     "Un importe tiene como máximo %d decimales.",
	"This must be %s or more.":                                               "Debe ser %s o más.",
	"This must be %s or less.":                                               "Debe ser %s o menos.",
	"This must be %s or later.":                                              "Debe ser el %s o después.",
	"This must be %s or earlier.":                                            "Debe ser el %s o antes.",
	"This must be at %s or later.":                                           "Debe ser a las %s o después.",
	"This must be at %s or earlier.":                                         "Debe ser a las %s o antes.",
	"This must go in steps of %s.":                                           "Va en pasos de %s.",
	"This should look like %s, with a digit for # and a letter for A.":       "Debe parecerse a %s, con una cifra por # y una letra por A.",
	"This does not have the form that is asked for.":                         "No tiene la forma que se pide.",
	"One of the files is not there any more. Please upload it again.":        "Uno de los archivos ya no está. Súbalo otra vez, por favor.",
	"These are %d files; at most %d can be sent.":                            "Son %d archivos; pueden enviarse %d como máximo.",
	"These are %d rows; at most %d can be sent.":                             "Son %d líneas; pueden enviarse %d como máximo.",
	"At least %d rows are needed.":                                           "Hacen falta al menos %d líneas.",
	"At least %d files are needed.":                                          "Hacen falta al menos %d archivos.",
	"“%s” is too large; a file may have %d MB.":                              "«%s» es demasiado grande; un archivo puede tener %d MB.",
	"“%s” is not a photo. Send a JPEG or PNG picture.":                       "«%s» no es una foto. Envíe una imagen JPEG o PNG.",
	"“%s” is not of a kind that can be sent here: %s.":                       "«%s» no puede enviarse aquí; se admiten %s.",
	"This is not a signature. Draw it, type it or upload a picture of it.":   "No es una firma. Dibújela, escríbala o suba una imagen.",
}

var polish = map[string]string{
	"Please answer this question.":                     "Proszę odpowiedzieć na to pytanie.",
	"Please choose.":                                   "Proszę wybrać.",
	"Please agree to this to go on.":                   "Proszę wyrazić zgodę, aby przejść dalej.",
	"Please add a photo.":                              "Proszę dodać zdjęcie.",
	"Please add a file.":                               "Proszę dodać plik.",
	"Please add a row.":                                "Proszę dodać wiersz.",
	"Please sign.":                                     "Proszę podpisać.",
	"Please write the given name.":                     "Proszę podać imię.",
	"Please write the family name.":                    "Proszę podać nazwisko.",
	"Please write the street.":                         "Proszę podać ulicę.",
	"Please write the postcode.":                       "Proszę podać kod pocztowy.",
	"Please write the town.":                           "Proszę podać miejscowość.",
	"This is too long: %d of at most %d characters.":   "To za długie: długość %d, najwyżej %d.",
	"This is too short: %d of at least %d characters.": "To za krótkie: długość %d, co najmniej %d.",
	"This is not an email address. It should look like name@place.example.": "To nie jest adres e-mail. " +
		"Wygląda on jak nazwa@miejsce.example.",
	"This is not a telephone number. Write its digits, with + and the country’s code for another country.": "To nie jest numer " +
		"telefonu. Proszę wpisać cyfry, dla innego kraju z + i kierunkowym.",
	"This is not a web address. It should look like https://place.example.": "To nie jest adres internetowy. Wygląda on jak " +
		"https://miejsce.example.",
	"This is not a date. Write it as year-month-day, such as 2026-11-24.": "To nie jest data. Proszę napisać rok-miesiąc-dzień, na " +
		"przykład 2026-11-24.",
	"This is not a time. Write hours and minutes, such as 14:30.": "To nie jest godzina. Proszę napisać godziny i minuty, na " +
		"przykład 14:30.",
	"This is not a date with a time. Write it as 2026-11-24T14:30.": "To nie jest data z godziną. Proszę napisać jak " +
		"2026-11-24T14:30.",
	"This is not one of the choices.":                                        "Tego nie ma do wyboru.",
	"This is not a number. Write digits only, with a point before decimals.": "To nie jest liczba. Proszę wpisać same cyfry.",
	"This must be a whole number, without decimals.":                         "To musi być liczba całkowita.",
	"A rating is from 1 to %d.":                                              "Ocena jest od 1 do %d.",
	"An amount of this currency has no decimals.":                            "Kwota w tej walucie nie ma miejsc po przecinku.",
	"An amount has at most two decimals.":                                    "Kwota ma najwyżej dwa miejsca po przecinku.",
	"An amount has at most %d decimals.":                                     "Kwota ma najwyżej %d miejsc po przecinku.",
	"This must be %s or more.":                                               "To musi być %s lub więcej.",
	"This must be %s or less.":                                               "To musi być %s lub mniej.",
	"This must be %s or later.":                                              "To musi być %s lub później.",
	"This must be %s or earlier.":                                            "To musi być %s lub wcześniej.",
	"This must be at %s or later.":                                           "To musi być %s lub później.",
	"This must be at %s or earlier.":                                         "To musi być %s lub wcześniej.",
	"This must go in steps of %s.":                                           "To idzie co %s.",
	"This should look like %s, with a digit for # and a letter for A.": "To powinno wyglądać jak %s, z cyfrą zamiast # i literą " +
		"zamiast A.",
	"This does not have the form that is asked for.":                  "To nie ma wymaganej postaci.",
	"One of the files is not there any more. Please upload it again.": "Jednego z plików już nie ma. Proszę przesłać go ponownie.",
	"These are %d files; at most %d can be sent.":                     "Plików jest %d; można wysłać najwyżej %d.",
	"These are %d rows; at most %d can be sent.":                      "Wierszy jest %d; można wysłać najwyżej %d.",
	"At least %d rows are needed.":                                    "Potrzeba co najmniej %d wierszy.",
	"At least %d files are needed.":                                   "Potrzeba co najmniej %d plików.",
	"“%s” is too large; a file may have %d MB.":                       "„%s” jest za duży; plik może mieć %d MB.",
	"“%s” is not a photo. Send a JPEG or PNG picture.":                "„%s” to nie zdjęcie. Proszę wysłać obraz JPEG lub PNG.",
	"“%s” is not of a kind that can be sent here: %s.":                "„%s” nie można tu wysłać; możliwe są: %s.",
	"This is not a signature. Draw it, type it or upload a picture of it.": "To nie jest podpis. Proszę go narysować, wpisać lub " +
		"przesłać obraz.",
}
