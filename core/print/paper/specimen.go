package paper

import (
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// SpecimenKey is the key of the specimen.
const SpecimenKey = "specimen"

// Specimen is a letter that shows how a house presents itself: its letterhead, headings, text, a table and a footer.
func Specimen(h house.House, look Look) Document {
	body := phrase.Body{
		{Spans: phrase.Parse("Dear reader,")},
		{
			Spans: phrase.Parse(
				"this is how letters and documents of {{@house}} look. What is said about the house here, its name and address, its " +
					"colour and its font, stands in every document, message and form from now on; nothing that was made before changes.",
			),
			Align: "justify",
		},
		{
			Spans: phrase.Phrase{
				{Text: "Words may be "},
				{Text: "bold", Style: phrase.Style{Bold: true}},
				{Text: ", "},
				{Text: "italic", Style: phrase.Style{Italic: true}},
				{Text: ", "},
				{Text: "both", Style: phrase.Style{Bold: true, Italic: true}},
				{Text: " or lead to "},
				{Text: "another place", Style: phrase.Style{Link: "https://example.org"}},
				{Text: "."},
			},
		},
	}
	cell := func(words string) GridCell { return GridCell{Body: phrase.ParseBody(words)} }
	sums := func(words string) GridCell { return GridCell{Body: phrase.ParseBody(words), Align: "end"} }
	footer := phrase.Parse("{{@house}} · page {{@page}} of {{@pages}}")
	if h.Registration != "" {
		footer = append(phrase.Phrase{{Text: h.Registration + " · "}}, footer...)
	}
	return Document{
		Key: SpecimenKey, Name: "Letter", Look: look, Title: phrase.Parse("Letter"), FileName: phrase.Parse("Letter"), Footer: footer,
		Blocks: []Block{
			{ID: "letterhead", Kind: Letterhead},
			{ID: "heading", Kind: Heading, Settings: Settings{Level: 1, Text: phrase.Parse("Letter {{@number}}")}},
			{ID: "text", Kind: Text, Settings: Settings{Body: body}},
			{ID: "second", Kind: Heading, Settings: Settings{Level: 2, Text: phrase.Parse("A table")}},
			{ID: "table", Kind: FixedTable, Settings: Settings{Grid: &Grid{Header: true, Shares: []float64{3, 1}, Rows: []GridRow{
				{
					Cells: []GridCell{cell("What"), sums("How many")},
				}, {Cells: []GridCell{cell("Letters"), sums("1,234.50")}},
				{Cells: []GridCell{cell("Stamps, äöü ßéèñ ąęłż"), sums("67.89")}},
			}}}},
			{ID: "day", Kind: Text, Settings: Settings{Body: phrase.ParseBody("{{@today}}")}},
		},
	}
}
