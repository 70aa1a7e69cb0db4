/** What the page says that tells whether a document is genuine. */
const en = {
  title: 'Is this document genuine?',
  about: 'Type the code that stands on the document, or choose the file itself.',
  code: 'Code',
  look: 'Look it up',
  genuine: 'A document with this code was made here',
  same: 'This file is exactly as it was made here',
  replaced: 'It was replaced: revision {n} is the newest. Ask for that one.',
  unknown: 'No document carries this code. Compare it with your document, letter by letter.',
  changed:
    'This file was not made here in this form. It may have been changed, printed anew or saved by another program.',
  another: 'This file is genuine, but it is another document than the one with the code.',
  trial: 'This document is a trial. It was made to try a design and proves nothing.',
  hold: 'Whether yours is unchanged shows when the file is held against ours. It is compared and not kept.',
  choose: 'Choose the PDF',
  busy: 'One moment',
  failed: 'This could not be asked. Try again in a moment.',
  house: 'Made by',
  document: 'Document',
  number: 'Number',
  made: 'Made on',
  revision: 'Revision',
  pages: 'Pages',
}
export type CheckWords = typeof en

const de: CheckWords = {
  title: 'Ist dieses Dokument echt?',
  about: 'Geben Sie den Code ein, der auf dem Dokument steht, oder wählen Sie die Datei selbst.',
  code: 'Code',
  look: 'Nachsehen',
  genuine: 'Ein Dokument mit diesem Code wurde hier erstellt',
  same: 'Diese Datei ist genau so, wie sie hier erstellt wurde',
  replaced: 'Es wurde ersetzt: Fassung {n} ist die neueste. Bitten Sie um diese.',
  unknown: 'Kein Dokument trägt diesen Code. Vergleichen Sie ihn Zeichen für Zeichen mit Ihrem Dokument.',
  changed:
    'Diese Datei wurde so nicht hier erstellt. Sie kann verändert, neu gedruckt oder mit einem anderen Programm gespeichert worden sein.',
  another: 'Diese Datei ist echt, aber ein anderes Dokument als das mit dem Code.',
  trial: 'Dieses Dokument ist eine Probe. Es wurde erstellt, um einen Entwurf zu prüfen, und beweist nichts.',
  hold: 'Ob Ihres unverändert ist, zeigt der Vergleich der Datei mit unserer. Sie wird verglichen und nicht aufbewahrt.',
  choose: 'PDF wählen',
  busy: 'Einen Moment',
  failed: 'Das konnte nicht gefragt werden. Versuchen Sie es gleich noch einmal.',
  house: 'Erstellt von',
  document: 'Dokument',
  number: 'Nummer',
  made: 'Erstellt am',
  revision: 'Fassung',
  pages: 'Seiten',
}

const fr: CheckWords = {
  title: 'Ce document est-il authentique ?',
  about: 'Saisissez le code qui figure sur le document ou choisissez le fichier.',
  code: 'Code',
  look: 'Rechercher',
  genuine: 'Un document portant ce code a été établi ici',
  same: 'Ce fichier est exactement tel qu’il a été établi ici',
  replaced: 'Il a été remplacé : la révision {n} est la plus récente. Demandez-la.',
  unknown: 'Aucun document ne porte ce code. Comparez-le à votre document, lettre par lettre.',
  changed:
    'Ce fichier n’a pas été établi ici sous cette forme. Il a pu être modifié, réimprimé ou enregistré par un autre programme.',
  another: 'Ce fichier est authentique, mais c’est un autre document que celui qui porte le code.',
  trial: 'Ce document est un essai. Il a été établi pour essayer une mise en page et ne prouve rien.',
  hold: 'Comparez le fichier au nôtre pour savoir si le vôtre est inchangé. Il est comparé et n’est pas conservé.',
  choose: 'Choisir le PDF',
  busy: 'Un instant',
  failed: 'La question n’a pas pu être posée. Réessayez dans un instant.',
  house: 'Établi par',
  document: 'Document',
  number: 'Numéro',
  made: 'Établi le',
  revision: 'Révision',
  pages: 'Pages',
}

const es: CheckWords = {
  title: '¿Es auténtico este documento?',
  about: 'Escriba el código que figura en el documento o elija el archivo.',
  code: 'Código',
  look: 'Buscar',
  genuine: 'Un documento con este código se hizo aquí',
  same: 'Este archivo está exactamente como se hizo aquí',
  replaced: 'Ha sido sustituido: la revisión {n} es la más reciente. Pídala.',
  unknown: 'Ningún documento lleva este código. Compárelo con su documento, letra por letra.',
  changed:
    'Este archivo no se hizo aquí en esta forma. Puede haber sido modificado, impreso de nuevo o guardado con otro programa.',
  another: 'Este archivo es auténtico, pero es otro documento que el del código.',
  trial: 'Este documento es una prueba. Se hizo para probar un diseño y no demuestra nada.',
  hold: 'Para saber si el suyo no ha cambiado, compare el archivo con el nuestro. Se compara y no se guarda.',
  choose: 'Elegir el PDF',
  busy: 'Un momento',
  failed: 'No se ha podido preguntar. Inténtelo de nuevo en un momento.',
  house: 'Hecho por',
  document: 'Documento',
  number: 'Número',
  made: 'Hecho el',
  revision: 'Revisión',
  pages: 'Páginas',
}

const pl: CheckWords = {
  title: 'Czy ten dokument jest autentyczny?',
  about: 'Wpisz kod, który jest na dokumencie, albo wybierz plik.',
  code: 'Kod',
  look: 'Sprawdź',
  genuine: 'Dokument z tym kodem powstał tutaj',
  same: 'Ten plik jest dokładnie taki, jaki powstał tutaj',
  replaced: 'Został zastąpiony: najnowsza jest wersja {n}. Poproś o nią.',
  unknown: 'Żaden dokument nie ma tego kodu. Porównaj go z dokumentem litera po literze.',
  changed:
    'Ten plik nie powstał tutaj w tej postaci. Mógł zostać zmieniony, wydrukowany na nowo lub zapisany w innym programie.',
  another: 'Ten plik jest autentyczny, ale to inny dokument niż ten z kodem.',
  trial: 'Ten dokument jest próbny. Powstał, aby wypróbować projekt, i niczego nie dowodzi.',
  hold: 'Czy Twój jest niezmieniony, pokaże porównanie pliku z naszym. Plik jest porównywany i nie jest przechowywany.',
  choose: 'Wybierz PDF',
  busy: 'Chwileczkę',
  failed: 'Nie udało się zapytać. Spróbuj ponownie za chwilę.',
  house: 'Wystawca',
  document: 'Dokument',
  number: 'Numer',
  made: 'Utworzono',
  revision: 'Wersja',
  pages: 'Strony',
}

/** The words in the reader's language; English where it is not known. */
export function wordsFor(language: string): CheckWords {
  const known: Record<string, CheckWords> = { en, de, fr, es, pl }
  return known[language.split('-')[0] ?? ''] ?? en
}
