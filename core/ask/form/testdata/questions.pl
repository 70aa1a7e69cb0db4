name: Imię i nazwisko|Nazwisko i imię|Imię i nazwisko dziecka|Imię i nazwisko wnioskodawcy|Pełne imię i nazwisko|Osoba do kontaktu|Imię i nazwisko rodzica|Jak się Pan/Pani nazywa?|Imię i nazwisko najemcy|Osoba kontaktowa w nagłych wypadkach|Imię i nazwisko pacjenta|Imię i nazwisko świadka|Opiekun prawny|Dane uczestnika (imię i nazwisko)
email: E-mail|Adres e-mail|Twój e-mail|Email|Poczta elektroniczna|Na jaki adres e-mail możemy napisać?|E-mail do faktury|E-mail rodzica|Potwierdź adres e-mail|Służbowy e-mail
phone: Telefon|Numer telefonu|Telefon komórkowy|Komórka|Pod jakim numerem możemy się skontaktować?|Telefon stacjonarny|Telefon alarmowy|Tel.|Numer komórki|Telefon kontaktowy|Nr telefonu
address: Adres|Adres zamieszkania|Adres pocztowy|Gdzie Pan/Pani mieszka?|Adres dostawy|Adres do faktury|Adres lokalu|Adres korespondencyjny|Gdzie mamy dostarczyć?|Adres najemcy
date: Data urodzenia|Kiedy się Pan/Pani urodził(a)?|Data|Data przyjazdu|Data wyjazdu|Preferowana data|Data wprowadzenia|Kiedy to się stało?|Data zakupu|Data rozpoczęcia|Data ważności|Urodziny|Na kiedy jest potrzebne?|Data wypadku|Ostatni dzień pracy
time: Godzina|Godzina przyjazdu|O której godzinie to się stało?|O której możemy zadzwonić?|Godzina rozpoczęcia|Godzina odbioru|Preferowana godzina
date_time: Data i godzina|Data i godzina wizyty|Data i godzina zdarzenia|Odbiór (data i godzina)
whole_number: Ile osób przyjdzie?|Liczba gości|Wiek|Ile ma Pan/Pani lat?|Liczba pokoi|Ilość|Ile ma Pan/Pani dzieci?|Liczba nocy|Rok produkcji|Przebieg|Liczba egzemplarzy|Piętro|Liczba uczestników|Liczba pracowników|Liczba miejsc
decimal: Waga w kg|Wzrost w cm|Długość (m)|Odległość w km|Przepracowane godziny|Temperatura w °C|Szerokość w mm|Powierzchnia w m²|Ile litrów?|Masa ciała
money: Cena|Miesięczny czynsz|Zapłacona kwota|Zaliczka|Roczny dochód|Jaki jest budżet?|Wartość ubezpieczenia|Koszt całkowity|Kwota darowizny|Ile to kosztowało?|Stawka godzinowa|Oczekiwane wynagrodzenie|Kaucja|Wartość przedmiotu|Depozyt
yes_no: Czy ma Pan/Pani alergie?|Czy to pierwsza wizyta?|Czy Pan/Pani pali?|Czy jest Pan/Pani członkiem?|Czy był(a) Pan/Pani już u nas?|Czy przyjdzie Pan/Pani z kimś?|Czy pojazd jest ubezpieczony?|Czy potrzebne jest miejsce parkingowe?|Czy ktoś został ranny?|Czy możemy oddzwonić?|Czy wystawić fakturę?|Czy ma Pan/Pani zwierzę?|Czy urządzenie było naprawiane?|Czy przyjmuje Pan/Pani leki?
consent: Akceptuję regulamin|Akceptuję politykę prywatności|Potwierdzam prawdziwość danych|Wyrażam zgodę na publikację zdjęć|Zapoznałem się z regulaminem|Wyrażam zgodę na przetwarzanie danych|Oświadczam, że dane są prawdziwe|Chcę otrzymywać newsletter
long_text: Opisz problem|Co się stało?|Uwagi|Opowiedz nam o sobie|Czy jest coś jeszcze, o czym powinniśmy wiedzieć?|Proszę opisać szkodę|Specjalne życzenia|Uzasadnienie|Dodatkowe informacje|Wiadomość|Komentarz|Dlaczego chcesz wziąć udział?|Co możemy poprawić?|Historia choroby|Wyjaśnienie|Opis|Twoja opinia|Szczegóły zdarzenia|Powód zgłoszenia|Notatki
rating: Jak bardzo jest Pan/Pani zadowolony?|Oceń naszą obsługę|Jak oceniasz pobyt?|Ocena ogólna|Stopień zadowolenia|Ocena jedzenia
upload: Załącz CV|Kopia dowodu osobistego|Dokumenty potwierdzające|Załącz fakturę|Prześlij dokumenty|Certyfikat (PDF)|Załączniki
photo: Zdjęcie szkody|Zdjęcie instrumentu|Zdjęcia pokoju|Zdjęcie paszportowe|Fotografia psa
signature: Podpis|Podpisz tutaj|Podpis najemcy|Twój podpis|Podpis rodzica
web_address: Strona internetowa|Strona www|Link do portfolio|URL|Adres strony|Witryna
short_text: Firma|Zawód|Numer seryjny|Model|Numer rejestracyjny|Numer zamówienia|Temat|Narodowość|Miasto|Kod pocztowy|Kraj|Numer członkowski|Marka i model|Numer paszportu|Nazwa szkoły|Nazwa firmy|Nazwa produktu|Tytuł projektu|Numer polisy|Kolor|Marka|Dział|Nazwa wydarzenia|IBAN|NIP|Numer klienta
