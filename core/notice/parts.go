package notice

import (
	"html"
	"slices"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
)

// line is a line of the table of answers: a question and its answer, or a section's heading.
type line struct {
	label, text string
	heading     bool
}

// answers are the lines of the table: what was asked and answered, in the form's order; of chosen fields alone where some are.
func answers(facts phrase.Facts, chosen []string) []line {
	var out []line
	shown := facts.Shown()
	for _, x := range facts.Form.Fields {
		switch {
		case !shown(x.Key):
		case (x.Kind == form.Section || x.Kind == form.Page) && x.Label != "" && len(chosen) == 0:
			if n := len(out); n > 0 && out[n-1].heading { // of a section of which nothing was answered
				out = out[:n-1]
			}
			out = append(out, line{label: x.Label, heading: true})
		case !x.Answered() || len(chosen) > 0 && !slices.Contains(chosen, x.Key):
		case x.Kind == form.Rows:
			for _, row := range facts.Rows(x.Key) {
				if text := rowText(row, x); text != "" {
					out = append(out, line{label: x.Label, text: text})
				}
			}
		default:
			if text := facts.Text(x); text != "" {
				out = append(out, line{label: x.Label, text: text})
			}
		}
	}
	if n := len(out); n > 0 && out[n-1].heading {
		out = out[:n-1]
	}
	return out
}

// rowText is a row of a repeating group on one line.
func rowText(row phrase.Facts, rows form.Field) string {
	var cells []string
	for _, s := range rows.Fields {
		if text := (phrase.Phrase{{Field: rows.Key + "." + s.Key}}).Plain(row); text != "" {
			cells = append(cells, s.Label+": "+text)
		}
	}
	return strings.Join(cells, " · ")
}

func plainTable(table []line) string {
	var out []string
	for _, l := range table {
		switch {
		case l.heading:
			out = append(out, "", strings.ToUpper(l.label))
		default:
			out = append(out, l.label+": "+strings.ReplaceAll(l.text, "\n", "\n  "))
		}
	}
	return strings.TrimPrefix(strings.Join(out, "\n"), "\n")
}

func table(all []line) string {
	var out strings.Builder
	out.WriteString(`<table class="answers" width="100%" cellpadding="0" cellspacing="0" border="0" style="border-collapse:collapse;` +
		`font:14px/1.45 Helvetica,Arial,sans-serif;margin:4px 0 16px">`)
	for _, l := range all {
		label, text := html.EscapeString(l.label), strings.ReplaceAll(html.EscapeString(l.text), "\n", "<br>")
		if l.heading {
			out.WriteString(`<tr><th colspan="2" scope="colgroup" style="text-align:start;padding:12px 0 4px;font-weight:bold">` +
				label + `</th></tr>`)
			continue
		}
		out.WriteString(`<tr><th scope="row" style="text-align:start;vertical-align:top;width:38%;padding:5px 12px 5px 0;` +
			`font-weight:normal;border-top:1px solid #C4CDC9">` + label + `</th>` +
			`<td style="text-align:start;vertical-align:top;padding:5px 0;` +
			`border-top:1px solid #C4CDC9;overflow-wrap:anywhere">` + text + `</td></tr>`)
	}
	out.WriteString("</table>")
	return out.String()
}

// button is the paragraph's only run where that is a link on words of its own, outside lists: it is shown as something to press.
func (p bound) button() (phrase.Run, bool) {
	if p.List != "" || len(p.runs) != 1 || p.runs[0].Link == "" || p.runs[0].Link == p.runs[0].Text {
		return phrase.Run{}, false
	}
	return p.runs[0], true
}

// button is a link that looks like something to press, of a table's cell: readers that know no padding of links show the colour at least.
func button(r phrase.Run, c house.Colours) string {
	return `<table role="presentation" cellpadding="0" cellspacing="0" border="0" style="margin:4px 0 16px"><tr><td bgcolor="` + c.Band +
		`" style="background:` + c.Band + `"><a class="button" href="` + html.EscapeString(r.Link) + `" style="display:inline-block;` +
		`padding:11px 20px;color:` + c.On + `;font:bold 15px/1.3 Helvetica,Arial,sans-serif;text-decoration:none">` +
		html.EscapeString(r.Text) + `</a></td></tr></table>`
}

// linked are the paragraphs by which files come: for each something to press, and how long that works.
func linked(all []Linked, facts phrase.Facts) []bound {
	var out []bound
	l := facts.Locale()
	for _, x := range all {
		out = append(out, bound{runs: []phrase.Run{{Text: x.Name, Style: phrase.Style{Link: x.Address}}}})
		var said []string
		if !x.Until.IsZero() {
			said = append(said, l.Until(x.Until.In(facts.House.Location())))
		}
		if x.Times > 0 {
			said = append(said, l.Times(x.Times))
		}
		if len(said) > 0 {
			out = append(out, bound{runs: []phrase.Run{{Text: strings.Join(said, ", "), Style: phrase.Style{Size: 9}}}})
		}
	}
	return out
}
