"""Makes the forms of this folder with general tools: python3-reportlab and python3-pikepdf (Debian's). Run by hand; the
files are kept. pdflib.pdf is made by make.mjs.

reportlab.pdf   text, lines, a list, boxes, buttons, as that library writes them
hand.pdf        what ISO 32000-1, 12.7 allows: names in a tree, what is inherited, combs, options by number, a turned page with an
                offset, a field turned in its widget, two widgets of one field, a script, a hidden field
flat.pdf        no fields: rules, boxes and words
signed.pdf, locked.pdf, xfa.pdf   what nothing can be printed over
"""
import os
import pikepdf
from pikepdf import Array, Dictionary, Name, Stream, String
from reportlab.lib.pagesizes import A4
from reportlab.pdfgen import canvas

here = os.path.dirname(os.path.abspath(__file__))
at = lambda name: os.path.join(here, name)


def reportlab():
    c = canvas.Canvas(at("reportlab.pdf"), pagesize=A4, invariant=1)
    c.setTitle("Notice of insurance")
    c.setFont("Helvetica", 14)
    c.drawString(60, 790, "Notice of insurance")
    c.setFont("Helvetica", 10)
    f = c.acroForm
    y = 750
    for name, label in [("holder", "Holder"), ("born", "Born"), ("email", "Email"), ("Telephone", "Telephone"),
                        ("address_street", "Street"), ("address_postcode", "Postcode"), ("address_city", "Town"), ("worth", "Worth")]:
        c.drawString(60, y + 6, label)
        f.textfield(name=name, tooltip=label, x=160, y=y, width=220, height=20, borderWidth=1, fontSize=10, forceBorder=True)
        y -= 28
    c.drawString(60, y, "Notes")
    f.textfield(name="notes", x=160, y=y - 40, width=300, height=60, fieldFlags="multiline", fontSize=0)
    y -= 70
    for value, label in [("theft", "Theft"), ("damage", "Damage"), ("travel", "Travel")]:
        f.checkbox(name="cover_" + value, tooltip=label, x=160, y=y, size=14, buttonStyle="check")
        c.drawString(180, y + 3, label)
        y -= 20
    for value in ["new", "renewal"]:
        f.radio(name="kind", value=value, x=160, y=y, size=14, buttonStyle="circle", selected=False)
        c.drawString(180, y + 3, value)
        y -= 20
    f.choice(name="paid", x=160, y=y, width=100, height=18, options=["Yes", "No"], value="No")
    c.showPage()
    c.save()


def page(pdf, content, **more):
    font = pdf.make_indirect(Dictionary(Type=Name.Font, Subtype=Name.Type1, BaseFont=Name.Helvetica, Encoding=Name.WinAnsiEncoding))
    p = Dictionary(Type=Name.Page, MediaBox=Array([0, 0, 595, 842]), Contents=pdf.make_stream(content),
                   Resources=Dictionary(Font=Dictionary(AsF1=font)), **more)
    pdf.pages.append(pikepdf.Page(pdf.make_indirect(p)))
    return pdf.pages[-1].obj, font


def look(pdf, w, h, content=b"0 0 m %d %d l S"):
    s = pdf.make_stream(content % (w, h) if b"%" in content else content)
    s.Type, s.Subtype, s.BBox = Name.XObject, Name.Form, Array([0, 0, w, h])
    return s


def hand():
    pdf = pikepdf.new()
    one, font = page(pdf, b"BT /AsF1 14 Tf 60 790 Td (Notice of insurance) Tj ET 0.5 w 60 700 300 24 re S")
    two, _ = page(pdf, b"BT /AsF1 14 Tf 120 320 Td (The turned page) Tj ET", Rotate=90, CropBox=Array([50, 40, 545, 802]))
    fields = []

    def widget(p, rect, **more):
        w = pdf.make_indirect(Dictionary(Type=Name.Annot, Subtype=Name.Widget, Rect=Array(rect), F=4, P=p, **more))
        p.Annots = Array(list(p.get("/Annots", Array())) + [w])
        return w

    def field(w):
        fields.append(w)
        return w

    da = String("/Helv 0 Tf 0 0 0.5 rg")
    # a tree of names; what the fields take from it
    top = pdf.make_indirect(Dictionary(T=String("holder"), FT=Name.Tx, DA=da, Kids=Array()))
    for part, x in [("given", 60), ("family", 180)]:
        k = widget(one, [x, 740, x + 100, 760], T=String(part), Parent=top)
        top.Kids.append(k)
    fields.append(top)
    # a comb, two widgets of one field, a hidden one, one with a script
    field(widget(one, [60, 700, 260, 724], T=String("born"), FT=Name.Tx, Ff=1 << 24, MaxLen=8, DA=String("/Cour 14 Tf 0 g"), Q=0,
                 MK=Dictionary(BC=Array([0]), BG=Array([0.95, 0.95, 1])), BS=Dictionary(W=0.5)))
    both = pdf.make_indirect(Dictionary(T=String("serial"), FT=Name.Tx, DA=String("/Helv 9 Tf 1 0 0 rg"), Q=2, Kids=Array()))
    for p, rect in [(one, [300, 700, 420, 720]), (two, [100, 100, 220, 120])]:
        both.Kids.append(widget(p, rect, Parent=both))
    fields.append(both)
    field(widget(one, [300, 740, 420, 760], T=String("email"), FT=Name.Tx, DA=da, AA=Dictionary(
        K=Dictionary(S=Name.JavaScript, JS=String("app.alert('x')")))))
    hidden = field(widget(one, [440, 740, 540, 760], T=String("phone"), FT=Name.Tx, DA=da))
    hidden.F = 2
    # rows by number
    for i in (1, 2, 3):
        field(widget(one, [60, 660 - 24 * i, 240, 680 - 24 * i], T=String(f"item_{i}"), FT=Name.Tx, DA=da, TU=String(f"Item {i}")))
        field(widget(one, [250, 660 - 24 * i, 330, 680 - 24 * i], T=String(f"amount_{i}"), FT=Name.Tx, DA=da, Q=2))
    # parts of a day over boxes
    for part, x, most in [("dd", 60, 2), ("mm", 100, 2), ("yyyy", 140, 4)]:
        field(widget(one, [x, 540, x + 14 * most, 558], T=String("begins_" + part), FT=Name.Tx, DA=da, Ff=1 << 24, MaxLen=most))
    # buttons whose states are numbers and whose words are options
    kind = pdf.make_indirect(Dictionary(T=String("kind"), FT=Name.Btn, Ff=(1 << 15) | (1 << 14), V=Name.Off, Kids=Array(),
                                        Opt=Array([String("A new policy"), String("A renewal")])))
    for i in range(2):
        kind.Kids.append(widget(one, [60 + 60 * i, 500, 74 + 60 * i, 514], Parent=kind, AS=Name.Off, AP=Dictionary(
            N=Dictionary({f"/{i}": look(pdf, 14, 14, b"2 2 10 10 re f"), "/Off": look(pdf, 14, 14, b"2 2 10 10 re S")}))))
    fields.append(kind)
    field(widget(one, [200, 500, 214, 514], T=String("consent"), FT=Name.Btn, V=Name.Off, AS=Name.Off, AP=Dictionary(
        N=Dictionary(On=look(pdf, 14, 14), Off=look(pdf, 14, 14, b"0 0 14 14 re S")))))
    field(widget(one, [60, 400, 300, 460], T=String("notes"), FT=Name.Tx, Ff=1 << 12, DA=da))
    field(widget(one, [320, 400, 420, 418], T=String("place"), FT=Name.Ch, Ff=1 << 17, DA=da, Opt=Array(
        [Array([String("th"), String("Tarn Hollow")]), Array([String("wb"), String("Weirbridge")])])))
    field(widget(one, [60, 320, 260, 380], T=String("signature"), FT=Name.Sig))
    field(widget(one, [280, 320, 340, 380], T=String("photo"), FT=Name.Btn, Ff=1 << 16))
    field(widget(one, [500, 300, 520, 460], T=String("sideways"), FT=Name.Tx, DA=da, MK=Dictionary(R=90)))
    field(widget(two, [100, 500, 300, 520], T=String("remark"), FT=Name.Tx, DA=String("/Helv 10 Tf 0 g"), V=String("as it was"),
                 AP=Dictionary(N=look(pdf, 200, 20, b"0.8 g 0 0 200 20 re f"))))
    pdf.Root.AcroForm = Dictionary(Fields=Array(fields), DR=Dictionary(Font=Dictionary(Helv=font)), DA=da, XFA=String("x"))
    pdf.Root.OpenAction = Dictionary(S=Name.JavaScript, JS=String("app.alert('open')"))
    pdf.save(at("hand.pdf"), static_id=True)
    for name in ["signed.pdf", "xfa.pdf"]:
        with pikepdf.open(at("hand.pdf")) as p:
            if name == "signed.pdf":
                for f in p.Root.AcroForm.Fields:
                    if f.get("/FT") == Name.Sig:
                        f.V = Dictionary(Type=Name.Sig)
            else:
                p.Root.AcroForm.Fields = Array()
            p.save(at(name), static_id=True)
    with pikepdf.open(at("hand.pdf")) as p:
        p.save(at("locked.pdf"), encryption=pikepdf.Encryption(owner="owner", user="open me", R=6))


def flat():
    c = canvas.Canvas(at("flat.pdf"), pagesize=A4, invariant=1)
    c.setTitle("Declaration of loan")
    c.setFont("Times-Roman", 16)
    c.drawString(60, 780, "Declaration of loan")
    c.setFont("Times-Roman", 11)
    for i, label in enumerate(["Name", "Day", "Instrument"]):
        y = 730 - 34 * i
        c.drawString(60, y, label)
        c.line(140, y - 3, 420, y - 3)
    c.drawString(60, 620, "yes / no")
    c.rect(140, 615, 14, 14)
    for i in range(8):
        c.rect(200 + 16 * i, 612, 16, 20)
    c.rect(60, 500, 400, 90)
    for i in range(1, 3):
        c.line(60, 500 + 30 * i, 460, 500 + 30 * i)
    c.line(300, 500, 300, 590)
    c.drawString(60, 440, "Signature")
    c.line(140, 437, 340, 437)
    c.showPage()
    c.save()


if __name__ == "__main__":
    reportlab(); hand(); flat()
