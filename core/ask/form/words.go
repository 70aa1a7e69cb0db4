package form

import (
	"regexp"
	"strings"
	"sync"
)

// clue is words that make a kind likely, in the languages of our respondents: English, German, French, Spanish and Polish.
// One table serves all five, since a label does not say its language; words that mean different things in two of them stand
// only where the words around them tell.
type clue struct {
	kind  Kind
	words whole
}

// clues are tried in order; the first whose words stand in the label wins.
var clues = []clue{
	// Codes and names of things: they speak of numbers and names, but are neither.
	words(
		ShortText,
		`(serial|invoice|order|account|reference|customer|member(ship)?|passport|policy|house|registration|licen[cs]e|tracking|tax|file|`+
			`case|ticket|flight|room|bank|id|model|part|article) (number|no|code|id)`,
		`zip( codes?)?|post ?codes?|year group|(licen[cs]e|number) plate|name of (the |your `+
			`)?(school|event|company|product|project|organi[sz]ation|business|dog|pet|street|course|venue|hotel|employer|bank|`+
			`institution)|(company|product|project|business|event|school|organi[sz]ation|user|pet|brand|file|course|team) name|iban|vat`,
		`plz|postleitzahl|(serien|kunden|bestell|mitglieds?|versicherungs|steuer|pass|ausweis|rechnungs|vertrags|artikel|haus|konto|`+
			`matrikel|referenz|auftrags|reisepass|fahrgestell|personal|akten|flug|zimmer|inventar)\pL*(nummer|nr)`,
		`(firmen|produkt|projekt|vereins|schul|benutzer|kurs|strassen|straßen|haustier)name|name (der|des|ihrer|ihres) `+
			`(schule|veranstaltung|firma|produkts?|projekts?|vereins?|unternehmens|tiers|hundes|kurses|hotels|bank|arbeitgebers|`+
			`organisation)`,
		`(numéro|n°|no) (de |d’|d'|du )?(série|commande|passeport|police|client|adhérent|compte|dossier|facture|contrat|membre|siret|`+
			`sécurité sociale|chambre|vol|carte)|numéro fiscal|plaque d.immatriculation|immatriculation|code postal`,
		`nom (de l.|de la |du |de )(école|entreprise|événement|société|produit|projet|association|établissement|chien|animal|rue|cours|`+
			`hôtel|employeur|organisme)`,
		`(número|n.º|nº) (de |del )?(serie|pedido|socio|pasaporte|póliza|cliente|cuenta|factura|contrato|referencia|expediente|`+
			`habitación|vuelo|tarjeta|identificación)|número fiscal|código postal`,
		`nombre (de la |del |de )(empresa|colegio|evento|producto|proyecto|escuela|curso|hotel|perro|mascota|asociación|organización|`+
			`calle|usuario)`,
		`(numer|nr) (seryjny|zamówienia|członkowski|paszportu|polisy|klienta|rejestracyjny|konta|faktury|umowy|dowodu|referencyjny|domu|`+
			`pokoju|lotu|nip|pesel|sprawy|artykułu)|nazwa|kod pocztowy`,
	),
	words(Money, `hourly rate|rate per hour|stundensatz|taux horaire|tarifa por hora|stawka godzinowa`),
	words(Decimal, `hours (worked|spent)|arbeitsstunden|heures travaillées|horas trabajadas|przepracowane godziny`),
	words(Name, `nombre (de (la|los|las|su|cada)|del|y apellidos|completo)( .*)?`),
	words(
		LongText,
		`anything else|is there anything|sonst noch|noch wissen|autre chose|quelque chose à ajouter|algo más|coś jeszcze|coś dodać`,
	),
	words(
		Consent,
		`i (hereby |do |also )*(agree|consent|accept|confirm|declare|give|understand|acknowledge|authori[sz]e|have read)|consent|terms `+
			`(and|&) conditions|you may (send|contact|use|store)|i would like to (receive|subscribe)|newsletter`,
		`ich (stimme|akzeptiere|bestätige|erkläre|willige|bin (damit |mit .*)?einverstanden|erkenne|habe `+
			`.*(gelesen|verstanden|kenntnis)|möchte .*(newsletter|erhalten))|hiermit|einverständnis|einwilligung|zustimmung`,
		`j.(accepte|autorise|ai lu|ai pris|atteste|approuve)|je (confirme|consens|déclare|certifie|souhaite `+
			`recevoir|donne|reconnais|m.engage)|consentement`,
		`^(acepto|confirmo|autorizo|he leído|doy mi|declaro|deseo recibir|consiento|estoy de acuerdo|me comprometo|quiero `+
			`recibir)|consentimiento`,
		`^(akceptuję|potwierdzam|wyrażam|zapoznał[ae]m|oświadczam|chcę otrzymywać|zgadzam|zobowiązuję)|zgoda na|wyrażam zgodę`,
	),
	words(
		Signature,
		`signatures?|signed by|sign here|\pL*unterschrift(en)?|unterschreiben|unterzeichnet|signez|signer ici|firma del?|firme aquí|su `+
			`firma|podpis\pL*|podpisz`,
	),
	words(
		Photo,
		`photos?|photographs?|pictures?( of)?|\pL*fotos?|bild(er)?( des| der| vom| von)?|images? (de|d.|du)|imagen(es)?( `+
			`del?)?|fotografías?|zdjęci[ae]\pL*|fotografi[ae]`,
	),
	words(
		Upload, `uploads?|attach(ments?|ed)?|files?|enclosed?|supporting documents|(proof|copy|scan) of|certificate|documents`,
		`hochladen|anhang|anhänge|beifügen|anfügen|laden sie|\pL*nachweise?|\pL*unterlagen|(kopie|scan) `+
			`(des|der|ihres)|lebenslauf|\pL*zeugnis(se)?`,
		`joindre (le|la|les|un|une|votre|vos)|pièces? (jointes?|justificatives?)|téléverse[rz]|justificatif|copie `+
			`(de|du)|certificat|fichiers?|cv`,
		`adjunt[eao]r?|suba|documentos|copia (de|del)|comprobante|certificado|archivos?`,
		`załącz\pL*|prześlij|dokumenty|kopia|certyfikat|zaświadczenie|pliki?|skan`,
	),
	words(
		Rating,
		`rate (the|our|your|us|this|how)|ratings?|how (would you rate|satisfied|happy|likely)|stars|out of (5|five|10|ten)|from 1 `+
			`to|satisfaction`,
		`bewerte[nt]?( sie)?|\pL*bewertung|wie zufrieden|zufriedenheit|weiterempfehlen|sterne|\(1 bis|schulnote`,
		`notez|note (globale|générale)|évalue[rz]\pL*|évaluation|degré de satisfaction|satisfait|recommande(r|riez)|étoiles`,
		`valor[ea](r|ción)?( nuestr| su| la| el)?|cómo `+
			`valora|valoración|satisfech[oa]|satisfacción|califi(que|cación)|puntuación|recomendaría|estrellas`,
		`oceń|ocena|oceni\pL*|jak bardzo|zadowol\pL*|poleci\pL*|gwiazdki`,
	),
	words(WebAddress,
		`web ?(sites?|address|pages?)|url|home ?page|link to|linkedin( profile)?|portfolio`,
		`web(seite|site|auftritt)|internetadresse|internetseite|link zu`,
		`site (web|internet)|adresse du site|page d.accueil|lien vers`,
		`sitio web|página web|^web$|dirección web|enlace a`,
		`strona (internetowa|www)|adres strony|witryna|link do`,
	),
	words(
		Email,
		`e-?mails?( address)?|mail address|\pL*mail-?adresse|adresse (mail|électronique|e-?mail)|courriel|mail|correo( `+
			`electrónico)?|poczta elektroniczna|e-?mail\pL*`,
	),
	words(
		YesNo, `^(do|does|did|is|are|was|were|has|have|can|may|will|would|should|could) .*|yes ?/ ?no`,
		`^(haben|hat|hatten|ist|sind|war|waren|bringen|benötigen|brauchen|wurden?|dürfen|darf|möchten|wollen|besitzen|nehmen|können|`+
			`kann|werden|wird|rauchen|gab|gibt|sollen?|leben|leiden|arbeiten|kommen|fahren|trinken|tragen|spielen|wünschen|stimmen|`+
			`liegt|liegen|besteht|bestehen|kennen) .*\?|ja ?/ ?nein`,
		`^(y a|est|a|ont|sont|\pL+ .*\pL+)-(t-)?(vous|il|elle|ils|elles|ce|on|nous).*\?|^\pL+-(t-)?(vous|il|elle|ils|elles|ce|on|nous) `+
			`.*\?|^\pL+-(vous|ce)( | )*\?|^(est-ce que|l.\pL+ (a|est)-t-(il|elle)).*|oui ?/ ?non`,
		`^¿(tiene|es|está|ha|han|hubo|hay|podemos|puede|desea|quiere|necesita|fuma|se `+
			`ha|toma|vendrá|viene|padece|vive|trabaja|sabe|posee|lleva|le gustaría|será|fue|son|existe|conoce|practica|acepta)( `+
			`.*)?\?|sí ?/ ?no`,
		`^czy .*|tak ?/ ?nie`,
	),
	words(
		DateTime,
		`date (and|&) time|time and date|when exactly|datum (und|mit|&) uhrzeit|date et (l.)?heure|fecha y (la )?hora|data i `+
			`(godzina|czas)|wann genau`,
	),
	words(
		Time,
		`(arrival|start|end|pick-?up|collection|departure|preferred|opening|closing) time|(at )?what time|time of `+
			`(day|the|arrival|departure)|^time|time`,
		`\pL*uhrzeit|um wie ?viel uhr|\pL*(abhol|ankunfts|anfangs|start|öffnungs|abfahrts|end)zeit(en)?|beginnzeit`,
		`heure|à quelle heure|horaires?`, `hora|a qué hora|horario`, `godzin[ay]|o której|godz`,
	),
	words(
		Phone,
		`(tele)?phones?( numbers?)?|mobile( number)?|cell( ?phone)?|tel|whatsapp|(contact|daytime|emergency|landline|home|work|fax) `+
			`(tele)?(phone|number)|(what|which) number.*(reach|call)|number.*(reach|call) you`,
		`\pL*telefon\pL*|handy\pL*|mobil(nummer|telefon)|\pL*rufnummer|festnetz\pL*|rückrufnummer|notfallnummer|unter welcher nummer.*|fax`,
		`téléphone( .*)?|portable|numéro d.urgence|tél|à quel numéro.*|joindre`,
		`teléfonos?|móvil|celular|en qué número.*|número de (móvil|contacto)`,
		`komórka|telefony|numer (telefonu|komórki)|nr (telefonu|tel)|pod jakim numerem.*`,
	),
	words(
		Address,
		`(postal|home|delivery|billing|mailing|shipping|residential|current|work|street) address|address|where do(es)? .* live|where `+
			`(should|shall|can) we (send|deliver|ship)`,
		`\pL*adresse( .*)?|\pL*anschrift|wo wohnen.*|wohnsitz|wohin .*(liefern|schicken|senden).*`,
		`adresse( .*)?|domicile|où habite.*|où .*(livrer|envoyer).*`,
		`dirección( .*)?|domicilio( .*)?|dónde vive.*|dónde .*(entregamos|enviamos).*`,
		`adres( .*)?|gdzie .*(mieszka|dostarczyć|wysłać).*|miejsce zamieszkania`,
	),
	words(
		Date,
		`dates?|day of|on (what|which) day|birthdays?|born( on)?|when (is|was|were|did|do|does|should|will|would|are|can)|deadline|due `+
			`by|until|(last|first) day`,
		`\pL*dat(um|en)|\pL*geburtstag|geboren|(an|ab)reise(tag)?|wunschtermin|termin|wann .*|bis `+
			`wann.*|(letzter|erster|welcher|welchem|welchen) \pL*tag|\pL*beginn`,
		`quand .*|pour quand.*|né(e|\(e\))?|anniversaire|(dernier|premier|quel) jour|date( .*)?`,
		`fechas?( .*)?|cuándo .*|para cuándo.*|cumpleaños|nació|(último|primer|qué) día`,
		`dat[ay]( .*)?|kiedy .*|na kiedy.*|urodziny|(ostatni|pierwszy|który) dzień|termin`,
	),
	words(
		Money,
		`prices?|amounts?|costs?|fees?|budget|deposit|salary( .*)?|totals?|donation|payments?|rent|income|wages?|(value|worth)( `+
			`.*)?|(insured|estimated|market) value|how much (money|will|does|do|did|is|was|would).*|rate per hour|hourly rate`,
		`\pL*preis|\pL*betrag|\pL*kosten|\pL*gebühr(en)?|budget|anzahlung|kaution|\pL*miete|\pL*einkommen|\pL*wert( `+
			`.*)?|\pL*gehalt\pL*|stundensatz|spende|was hat .*gekostet|wie ?viel .*(kostet|gekostet|geld|bezahlt)|honorar|\pL*lohn`,
		`prix|montants?|coûts?|frais|loyer|acompte|caution|dépôt de garantie|revenus?|salaire|prétentions? salariales?|taux `+
			`horaire|valeur( .*)?|tarif|don|combien .*(coût|payé).*`,
		`precios?|importes?|costes?|costos?|alquiler|anticipo|fianza|depósito|ingresos|salario|sueldo|presupuesto|valor `+
			`(asegurado|del?|estimado|de mercado)|tarifa|donación|cuánto (costó|cuesta|pagó).*`,
		`cen[ay]|kwot[ay]|koszty?|opłat[ay]|czynsz|zaliczka|kaucja|depozyt|dochód|wynagrodzenie|pensja|budżet|wartość( `+
			`.*)?|stawka|darowizna|ile .*(kosztował|zapłaci).*`,
	),
	words(
		Decimal,
		`weights?|heights?|widths?|lengths?|depth|temperature|percentage|hours `+
			`(worked|spent)|distance|metres|meters|litres|liters|kilos?|kilograms?|kg|cm|mm|km|area|in (square|cubic) `+
			`.*|\((m|cm|mm|km|kg|g|l|m²|ha|h)\)|m²|°c`,
		`\pL*gewicht|(körper)?größe in .*|länge|breite|höhe|tiefe|entfernung|temperatur|\pL*stunden|\pL*fläche|liter|prozent\pL*`,
		`poids|taille( .*)?|longueur|largeur|hauteur|profondeur|température|superficie|surface|litres|heures travaillées|pourcentage`,
		`peso|altura|estatura|longitud|anchura|ancho|profundidad|distancia|temperatura|superficie|litros|horas trabajadas|porcentaje`,
		`waga|wzrost|długość|szerokość|wysokość|głębokość|odległość|powierzchnia|litrów|masa( ciała)?|przepracowane godziny|procent`,
	),
	words(
		WholeNumber,
		`how many( .*)?|number of( .*)?|quantity|count|age|how old( .*)?|years?( .*)?|guests|people `+
			`attending|(seats|places|tickets|rooms|nights) (needed|required|wanted)|floor|mileage|headcount`,
		`wie ?viele( .*)?|anzahl( .*)?|\pL*zahl|alter|wie alt( .*)?|menge|baujahr|\pL*jahr|\pL*stand|stockwerk|etage`,
		`combien (de|d.).*|nombre (de|d.) ?\pL+.*|âge|quel âge( .*)?|quantité|année( .*)?|kilométrage|étage`,
		`cuánt[oa]s( .*)?|número de( .*)?|cantidad|edad|año( .*)?|kilometraje|planta|piso`,
		`ile( .*)?|liczba( .*)?|wiek|ilość|rok( .*)?|przebieg|piętro`,
	),
	words(ShortText, `^(your |ihr |votre |su |the )?(name|nom|nombre)$`), // whoever asks no more is content with one line
	words(
		Name,
		`names?( of .*)?|(full|first and last|your|patient.s|player.s|tenant|contact) name|who should we contact|contact `+
			`person|emergency contact( name)?|first name.*last name`,
		`\pL*name( .*)?|vor- und nachname|wie `+
			`heißen.*|ansprechpartner(in)?|notfallkontakt.*|zeug(e|in)|erziehungsberechtigte.*|kontaktperson`,
		`(votre )?nom( .*)?|prénom( .*)?|comment vous appelez.*|personne à contacter|contact en cas d.urgence|interlocuteur`,
		`(su )?nombre( .*)?|apellidos( .*)?|cómo se llama.*|persona de contacto|contacto de emergencia`,
		`imi(ę|ona)( .*)?|nazwisko( .*)?|.*\(imię i nazwisko\).*|jak się .*nazywa.*|osoba (do kontaktu|kontaktowa).*|opiekun( prawny)?`,
	),
	words(
		LongText,
		`describe|description|details?|comments?|remarks?|notes?|messages?|tell us|explain|explanation|reasons?|what `+
			`happened|(other|additional|further|more) information|what (is wrong|can we|should|do `+
			`you|would)|why|faults?|feedback|suggestions?|(special|other) (requests?|requirements|needs|wishes)|history|list `+
			`of|problem|background|experience|motivation|instructions`,
		`beschreib\pL*|beschreibung|bemerkung(en)?|anmerkung(en)?|erzählen.*|schildern.*|erläuter\pL*|begründung|warum|weshalb|was `+
			`(ist|sollten|können|möchten|wünschen).*|weitere `+
			`(informationen|angaben|hinweise)|nachricht|mitteilung|kommentare?|sonstiges|anliegen|rückmeldung|\pL*geschichte|(besondere|`+
			`sonstige|spezielle) (wünsche|hinweise)|wünsche|hinweise|grund|details?|vorschläge`,
		`décri(vez|re)|description|commentaires?|remarques?|observations?|parlez-nous.*|expliquez|précis(ez|ions?)|motifs?|raisons?|`+
			`pourquoi.*|que s.est-il.*|que (pouvons|devons|souhaitez).*|informations? complémentaires?|demandes? (particulières?|`+
			`spéciales?)|message|antécédents.*|avis|détails?|attentes|suggestions?|souhaits`,
		`describa|descripción|comentarios?|observaciones|háblenos.*|cuéntenos.*|expli(que|cación)|motivos?|razón|por qué.*|qué `+
			`(pasó|ocurrió|podemos|debemos|desea|espera).*|información (adicional|complementaria)|(peticiones|solicitudes|necesidades) `+
			`(especiales|particulares)?|mensaje|historial.*|opinión|detalles?|sugerencias?|notas`,
		`opis( .*)?|opisać.*|opisz.*|uwagi|komentarze?|opowiedz.*|wyjaśni\pL*|uzasadnienie|dlaczego.*|co `+
			`(się|możemy|powinniśmy|chciał).*|dodatkowe informacje|(specjalne|szczególne) `+
			`(życzenia|potrzeby)|wiadomość|historia.*|opinia|szczegóły.*|powód.*|notatki|sugestie|życzenia`,
	),
}

// words makes a clue of what may stand in a label, whole words each.
func words(kind Kind, languages ...string) clue {
	return clue{kind, re(strings.Join(languages, "|"))}
}

// whole finds whole words. It is made when it is first asked: there are some hundred of them, and a command that guesses nothing should not
// wait for them.
type whole func() *regexp.Regexp

func (w whole) MatchString(s string) bool { return w().MatchString(s) }

func re(words string) whole {
	return sync.OnceValue(func() *regexp.Regexp { return regexp.MustCompile(`(?i)(?:^|[^\pL])(?:` + words + `)(?:$|[^\pL])`) })
}

// asks are the beginnings of questions that yes or no does not answer.
var asks = regexp.MustCompile(
	`(?i)^[¿ ]*(à |de |pour |depuis |en |auf |um |bis |seit |mit |in |at |on |for |since |a |por |para |desde |z |na |od |do |w |o )?` +
		`(what|when|where|who|why|how|which|wann|wo|wohin|woher|wer|wen|wem|warum|wieso|weshalb|wie|wieviele?|welche[rnms]?|` +
		`was (ist|sind|können|könnten|sollen|sollten|möchten|wünschen|haben|hat|wollen|erwarten|gefällt|gefiel|fehlt|wird|wurde|war|` +
		`dürfen|machen|brauchen|kostet)|` +
		`où|que|qu.|quoi|qui|quand|comment|pourquoi|combien|quel(le)?s?|qué|cuándo|dónde|quién|cómo|cuál(es)?|cuánt[oa]s?|` +
		`co|kiedy|gdzie|kto|dlaczego|jak|jaki[em]?|która?|które|której|ile|pod|skąd|dokąd)([^\pL]|$)`,
)

// GuessKind guesses a field's kind from the words of its label.
func GuessKind(label string) Kind {
	open := asks.MatchString(label)
	for _, c := range clues {
		if c.words.MatchString(label) && !(open && c.kind == YesNo) {
			return c.kind
		}
	}
	return ShortText
}
