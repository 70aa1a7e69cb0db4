"""Makes the documents that the demo house has already, with general tools: python3-docx and python3-reportlab (Debian's). Run by "
"hand; the
files are kept.

hire-agreement.docx    the agreement as a house would have typed it: a clause for guardians, rows, two signatures, header and footer
insurance-notice.pdf   a form with fields, of an insurer that does not exist
lending-slip.pdf       a printed slip without fields
"""
import os

from docx import Document
from docx.enum.text import WD_ALIGN_PARAGRAPH
from docx.oxml import OxmlElement
from docx.oxml.ns import qn
from docx.shared import Mm, Pt, RGBColor
from reportlab.lib.colors import Color, black, white
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen import canvas

here = os.path.dirname(os.path.abspath(__file__))


def agreement():
    d = Document()
    s = d.sections[0]
    s.page_width, s.page_height = Mm(210), Mm(297)
    s.left_margin = s.right_margin = Mm(25)
    s.top_margin, s.bottom_margin = Mm(28), Mm(24)
    base = d.styles["Normal"]
    base.font.name, base.font.size = "Cambria", Pt(11)
    base.paragraph_format.space_after, base.paragraph_format.line_spacing = Pt(6), 1.1
    for name, size in [("Title", 24), ("Heading 1", 14)]:
        st = d.styles[name]
        st.font.name, st.font.size, st.font.color.rgb, st.font.bold = "Cambria", Pt(size), RGBColor(0x1F, 0x4F, 0x4A), True
        st.element.rPr.rFonts.set(qn("w:asciiTheme"), "")
        for a in ("w:asciiTheme", "w:hAnsiTheme", "w:eastAsiaTheme", "w:cstheme"):
            st.element.rPr.rFonts.attrib.pop(qn(a), None)
        st.element.rPr.rFonts.set(qn("w:hAnsi"), "Cambria")
    head = s.header.paragraphs[0]
    head.text = "{{@house}}\t\tAgreement {{@number}}"
    foot = s.footer.paragraphs[0]
    foot.alignment = WD_ALIGN_PARAGRAPH.CENTER
    foot.add_run("Page ")
    for code in ("PAGE", None, "NUMPAGES"):
        if code is None:
            foot.add_run(" of ")
            continue
        e = OxmlElement("w:fldSimple")
        e.set(qn("w:instr"), code)
        r = OxmlElement("w:r")
        t = OxmlElement("w:t")
        t.text = "1"
        r.append(t)
        e.append(r)
        foot._p.append(e)
    d.add_paragraph("Hire of an instrument", style="Title")
    d.add_paragraph("Between {{@house}} (the house) and {{player}}, born on {{born}} (the player), on {{@received}}.")
    d.add_paragraph("1. The instrument", style="Heading 1")
    d.add_paragraph("The house hires out {{which}} ({{family}}{{when size <> \"\"}}, {{size}}{{end}}) to the player. "
                    "It stays the property of the house.")
    d.add_paragraph("2. The time", style="Heading 1")
    d.add_paragraph("The hire begins on {{first_day}} and ends on {{last_day}}, which is {{days|day/days}}. {{months|month is/months are}} charged.")
    d.add_paragraph("3. What it costs", style="Heading 1")
    t = d.add_table(rows=1, cols=2)
    t.style = "Light Grid Accent 1" if "Light Grid Accent 1" in [x.name for x in d.styles] else "Table Grid"
    t.rows[0].cells[0].text, t.rows[0].cells[1].text = "For", "Amount"
    for a, b in [("Each month", "{{monthly}}"), ("Insurance", "{{insurance}}"), ("The whole hire", "{{price}}"), ("Deposit",
        "{{deposit}}")]:
        row = t.add_row().cells
        row[0].text, row[1].text = a, b
    for row in t.rows:
        row.cells[1].paragraphs[0].alignment = WD_ALIGN_PARAGRAPH.RIGHT
    d.add_paragraph()
    d.add_paragraph("4. Care", style="Heading 1")
    for words in ["The player keeps the instrument as the care sheet says and plays it alone.",
                  "Damage is told within three days; repairs are made by the house.",
                  "The instrument does not leave the country without the house's word in writing."]:
        d.add_paragraph(words, style="List Number")
    for title, clauses in [
        ("5. Repairs", [
            "Strings, reeds, oil and rosin are the player's; everything else that wears out in proper use is the house's.",
            "A repair that the player has caused is paid by the player up to the deposit; what it costs beyond that is carried by "
            "the insurance, "
            "as far as it is agreed above.",
            "While an instrument is on the bench for more than five working days the house lends another of the same kind, if it "
            "has one."]),
        ("6. Loss", [
            "Theft is told to the police and to the house on the day on which it is noticed.",
            "Until the matter is settled the monthly hire goes on; it is paid back for the time after the day on which the loss was "
            "told, when the "
            "player is not to blame."]),
        ("7. The end of the hire", [
            "The player brings the instrument back on the last day, in its case, with everything that came with it.",
            "The house looks at it together with the player and writes down what it finds; the deposit is paid back within ten "
            "days, less what "
            "repairs cost that the player has to bear.",
            "Whoever wants to keep the instrument longer says so two weeks before the last day; the hire then goes on month by "
            "month, and each "
            "side can end it with a month's notice.",
            "Half of the hire that was paid is taken off the price if the player buys the instrument within a year."])]:
        d.add_paragraph(title, style="Heading 1")
        for words in clauses:
            d.add_paragraph(words)
    d.add_paragraph("{{when guardian <> \"\"}}")
    d.add_paragraph("8. The guardian", style="Heading 1")
    d.add_paragraph("{{guardian}} signs for the player, who is not of age, and answers for the instrument.")
    d.add_paragraph("{{end}}")
    d.add_paragraph("Signed", style="Heading 1")
    sign = d.add_table(rows=2, cols=2)
    sign.rows[0].cells[0].text = "{{signature|width 55 mm}}"
    sign.rows[0].cells[1].text = "\n________________________"
    sign.rows[1].cells[0].text = "{{when guardian <> \"\"}}{{guardian}}, guardian{{otherwise}}{{player}}{{end}}"
    sign.rows[1].cells[1].text = "For {{@house}}"
    d.core_properties.title, d.core_properties.author = "Hire of an instrument", "Tarn Hollow Instrument Works"
    d.save(os.path.join(here, "hire-agreement.docx"))


ink, pale = Color(0.13, 0.2, 0.36), Color(0.93, 0.95, 0.98)


def notice():
    c = canvas.Canvas(os.path.join(here, "insurance-notice.pdf"), pagesize=A4, invariant=1)
    c.setTitle("Notice of an instrument on hire")
    c.setFillColor(ink)
    c.rect(0, 780, 596, 62, fill=1, stroke=0)
    c.setFillColor(white)
    c.setFont("Helvetica-Bold", 17)
    c.drawString(50, 804, "Fellshire Mutual")
    c.setFont("Helvetica", 10)
    c.drawRightString(545, 806, "Form 7 · Notice of an instrument on hire")
    f = c.acroForm

    def label(x, y, words):
        c.setFillColor(black)
        c.setFont("Helvetica", 8)
        c.drawString(x, y, words)

    def field(name, words, x, y, w, h=20, **more):
        label(x, y + h + 4, words)
        f.textfield(name=name, tooltip=words, x=x, y=y, width=w, height=h, borderWidth=0.5, borderColor=ink, fillColor=pale,
            textColor=black,
                    fontName="Helvetica", fontSize=more.pop("size", 10), forceBorder=True, **more)

    def head(y, words):
        c.setFillColor(ink)
        c.setFont("Helvetica-Bold", 11)
        c.drawString(50, y, words)
        c.setLineWidth(0.7)
        c.setStrokeColor(ink)
        c.line(50, y - 5, 545, y - 5)

    head(745, "1  Who holds the instrument")
    field("Player", "Name of the player", 50, 695, 240)
    label(310, 719, "Date of birth (day, month, year)")
    for name, x, w, n in [("born_dd", 310, 36, 2), ("born_mm", 352, 36, 2), ("born_yyyy", 394, 72, 4)]:
        f.textfield(name=name, tooltip=name[-4:].strip("_"), x=x, y=695, width=w, height=20, borderWidth=0.5, borderColor=ink,
            fillColor=pale,
                    fontName="Courier", fontSize=11, maxlen=n, fieldFlags="comb", forceBorder=True)
    field("Email", "Email", 50, 650, 240)
    field("Telephone", "Telephone", 310, 650, 235)
    head(615, "2  The instrument")
    label(50, 592, "Family")
    for i, (value, words) in enumerate([("Strings", "Strings"), ("Woodwind", "Woodwind"), ("Brass", "Brass")]):
        f.radio(name="family", tooltip="Family", value=value, x=50 + 95 * i, y=570, size=13, borderWidth=0.7, borderColor=ink,
            fillColor=white,
                buttonStyle="circle", selected=False)
        c.setFillColor(black)
        c.setFont("Helvetica", 10)
        c.drawString(68 + 95 * i, 573, words)
    field("which", "Which instrument", 50, 525, 300)
    field("Deposit", "Deposit held", 370, 525, 175)
    head(490, "3  The time of the hire")
    field("First day", "From", 50, 440, 150)
    field("Last day", "To", 220, 440, 150)
    field("days", "Days", 390, 440, 60)
    field("price", "Price of the hire", 465, 440, 80)
    head(405, "4  Declaration")
    f.checkbox(name="agree", tooltip="The player looks after the instrument", x=50, y=374, size=13, borderWidth=0.7, borderColor=ink,
               fillColor=white, buttonStyle="check")
    c.setFillColor(black)
    c.setFont("Helvetica", 10)
    c.drawString(70, 377, "The player has agreed in writing to look after the instrument.")
    field("remark", "Remarks of the house", 50, 300, 495, 50, fieldFlags="multiline", size=9)
    c.setFont("Helvetica", 7)
    c.drawString(50, 40, "Fellshire Mutual is made up, and so is this form.")
    c.showPage()
    c.save()


def slip():
    c = canvas.Canvas(os.path.join(here, "lending-slip.pdf"), pagesize=A4, invariant=1)
    c.setTitle("Shelf slip")
    c.setFont("Times-Bold", 20)
    c.drawString(60, 770, "Shelf slip")
    c.setFont("Times-Roman", 11)
    c.drawString(60, 748, "Stays with the instrument in its case.")
    c.setLineWidth(0.6)
    for i, words in enumerate(["Shelf", "Instrument", "Looked at on", "By"]):
        y = 700 - 36 * i
        c.drawString(60, y, words)
        c.line(150, y - 3, 480, y - 3)
    c.drawString(60, 545, "Fit to be lent")
    c.rect(150, 541, 14, 14)
    c.drawString(170, 545, "yes")
    c.rect(210, 541, 14, 14)
    c.drawString(230, 545, "no")
    c.drawString(60, 505, "Humidity")
    for i in range(6):
        c.rect(150 + 20 * i, 498, 20, 22)
    c.drawString(60, 465, "Remarks")
    c.rect(60, 330, 420, 125)
    c.showPage()
    c.save()


if __name__ == "__main__":
    agreement()
    notice()
    slip()
