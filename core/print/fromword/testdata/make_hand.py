"""Makes hand-*.docx: files as the most used word processor writes them, written by hand from ISO/IEC 29500-1 (transitional), and more of
three writers (pandoc-2-*, python-2-*, office-2-*). Run by hand with python3-docx, pandoc and LibreOffice; the files are kept."""
import random, subprocess, zipfile

random.seed(23)
W = ("bow hair violin repair workshop agreement hire instrument player guardian deposit month string bridge varnish receipt invoice number "
     "name address delivery condition insurance payment care season damage return letter report because however although between").split()


def some(n):
    return " ".join(random.choice(W) for _ in range(n))


def sent(n=None):
    s = some(n or random.randint(6, 20))
    return s[0].upper() + s[1:] + "."


def text(n=4):
    return " ".join(sent() for _ in range(n))


NS = ('xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main" '
      'xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" '
      'xmlns:w14="http://schemas.microsoft.com/office/word/2010/wordml" xmlns:mc="http://schemas.openxmlformats.org/markup-compatibility/2006" '
      'xmlns:wp="http://schemas.openxmlformats.org/drawingml/2006/wordprocessingDrawing" '
      'xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" '
      'xmlns:wps="http://schemas.microsoft.com/office/word/2010/wordprocessingShape" '
      'xmlns:v="urn:schemas-microsoft-com:vml" mc:Ignorable="w14"')
REL = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/"
TYPE = "application/vnd.openxmlformats-officedocument.wordprocessingml."
STYLES = f"""<w:styles {NS}><w:docDefaults><w:rPrDefault><w:rPr><w:rFonts w:asciiTheme="minorHAnsi" w:eastAsiaTheme="minorHAnsi"
w:hAnsiTheme="minorHAnsi" w:cstheme="minorBidi"/><w:sz w:val="22"/><w:szCs w:val="22"/><w:lang w:val="en-US" w:eastAsia="en-US"
w:bidi="ar-SA"/></w:rPr></w:rPrDefault><w:pPrDefault><w:pPr><w:spacing w:after="160" w:line="259" w:lineRule="auto"/></w:pPr></w:pPrDefault>
</w:docDefaults><w:style w:type="paragraph" w:default="1" w:styleId="Normal"><w:name w:val="Normal"/><w:qFormat/></w:style>
<w:style w:type="paragraph" w:styleId="Heading1"><w:name w:val="heading 1"/><w:basedOn w:val="Normal"/><w:next w:val="Normal"/><w:pPr>
<w:keepNext/><w:keepLines/><w:spacing w:before="240" w:after="0"/><w:outlineLvl w:val="0"/></w:pPr><w:rPr><w:rFonts
w:asciiTheme="majorHAnsi" w:hAnsiTheme="majorHAnsi"/><w:color w:val="2F5496" w:themeColor="accent1" w:themeShade="BF"/><w:sz w:val="32"/>
</w:rPr></w:style><w:style w:type="paragraph" w:styleId="ListParagraph"><w:name w:val="List Paragraph"/><w:basedOn w:val="Normal"/><w:pPr>
<w:ind w:left="720"/><w:contextualSpacing/></w:pPr></w:style><w:style w:type="table" w:default="1" w:styleId="TableNormal"><w:name
w:val="Normal Table"/><w:tblPr><w:tblInd w:w="0" w:type="dxa"/><w:tblCellMar><w:top w:w="0" w:type="dxa"/><w:left w:w="108"
w:type="dxa"/><w:bottom w:w="0" w:type="dxa"/><w:right w:w="108" w:type="dxa"/></w:tblCellMar></w:tblPr></w:style>
<w:style w:type="table" w:styleId="TableGrid"><w:name w:val="Table Grid"/><w:basedOn w:val="TableNormal"/><w:pPr><w:spacing w:after="0"
w:line="240" w:lineRule="auto"/></w:pPr><w:tblPr><w:tblBorders><w:top w:val="single" w:sz="4" w:space="0" w:color="auto"/><w:left
w:val="single" w:sz="4" w:space="0" w:color="auto"/><w:bottom w:val="single" w:sz="4" w:space="0" w:color="auto"/><w:right w:val="single"
w:sz="4" w:space="0" w:color="auto"/><w:insideH w:val="single" w:sz="4" w:space="0" w:color="auto"/><w:insideV w:val="single" w:sz="4"
w:space="0" w:color="auto"/></w:tblBorders></w:tblPr></w:style><w:style w:type="paragraph" w:styleId="Header"><w:name w:val="header"/>
<w:basedOn w:val="Normal"/><w:pPr><w:tabs><w:tab w:val="center" w:pos="4513"/><w:tab w:val="right" w:pos="9026"/></w:tabs><w:spacing
w:after="0" w:line="240" w:lineRule="auto"/></w:pPr></w:style><w:style w:type="paragraph" w:styleId="TOC1"><w:name w:val="toc 1"/>
<w:basedOn w:val="Normal"/><w:pPr><w:tabs><w:tab w:val="right" w:leader="dot" w:pos="9016"/></w:tabs><w:spacing w:after="100"/></w:pPr>
</w:style></w:styles>"""
THEME = """<a:theme xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" name="Office"><a:themeElements><a:clrScheme name="Office">
<a:dk1><a:sysClr val="windowText" lastClr="000000"/></a:dk1><a:lt1><a:sysClr val="window" lastClr="FFFFFF"/></a:lt1><a:dk2><a:srgbClr
val="44546A"/></a:dk2><a:lt2><a:srgbClr val="E7E6E6"/></a:lt2><a:accent1><a:srgbClr val="4472C4"/></a:accent1><a:accent2><a:srgbClr
val="ED7D31"/></a:accent2><a:accent3><a:srgbClr val="A5A5A5"/></a:accent3><a:accent4><a:srgbClr val="FFC000"/></a:accent4><a:accent5>
<a:srgbClr val="5B9BD5"/></a:accent5><a:accent6><a:srgbClr val="70AD47"/></a:accent6><a:hlink><a:srgbClr val="0563C1"/></a:hlink><a:folHlink>
<a:srgbClr val="954F72"/></a:folHlink></a:clrScheme><a:fontScheme name="Office"><a:majorFont><a:latin typeface="Cambria"/><a:ea
typeface=""/><a:cs typeface=""/></a:majorFont><a:minorFont><a:latin typeface="Calibri"/><a:ea typeface=""/><a:cs typeface=""/></a:minorFont>
</a:fontScheme><a:fmtScheme name="Office"><a:fillStyleLst/><a:lnStyleLst/><a:effectStyleLst/><a:bgFillStyleLst/></a:fmtScheme>
</a:themeElements></a:theme>"""
NUMBERING = f"""<w:numbering {NS}><w:abstractNum w:abstractNumId="0"><w:multiLevelType w:val="multilevel"/>{"".join(
    f'<w:lvl w:ilvl="{i}"><w:start w:val="1"/><w:numFmt w:val="{fmt}"/><w:lvlText w:val="{t}"/><w:lvlJc w:val="left"/><w:pPr><w:ind '
    f'w:left="{720 + 432 * i}" w:hanging="{360 + 72 * i}"/></w:pPr></w:lvl>'
    for i, (fmt, t) in enumerate([("decimal", "%1."), ("lowerLetter", "(%2)"), ("lowerRoman", "(%3)")]))}</w:abstractNum><w:abstractNum
w:abstractNumId="1"><w:multiLevelType w:val="hybridMultilevel"/><w:lvl w:ilvl="0"><w:start w:val="1"/><w:numFmt w:val="bullet"/><w:lvlText
w:val="•"/><w:lvlJc w:val="left"/><w:pPr><w:ind w:left="720" w:hanging="360"/></w:pPr></w:lvl></w:abstractNum><w:num w:numId="1">
<w:abstractNumId w:val="0"/></w:num><w:num w:numId="2"><w:abstractNumId w:val="1"/></w:num></w:numbering>"""
SECT = ('<w:sectPr w:rsidR="00A77427">{refs}<w:pgSz w:w="11906" w:h="16838"/><w:pgMar w:top="1440" w:right="1440" w:bottom="1440" '
        'w:left="1440" w:header="708" w:footer="708" w:gutter="0"/>{cols}{more}<w:docGrid w:linePitch="360"/></w:sectPr>')


def r(words, pr=""):
    return f'<w:r w:rsidRPr="00{random.randint(100000, 999999)}">{f"<w:rPr>{pr}</w:rPr>" if pr else ""}<w:t xml:space="preserve">{words}</w:t></w:r>'


def split(words):
    """Runs as they are left by corrections: parted anywhere, with proofing marks between."""
    out, parts = "", words.split(" ")
    i = 0
    while i < len(parts):
        n = random.randint(1, 4)
        chunk = " ".join(parts[i:i + n]) + (" " if i + n < len(parts) else "")
        if random.random() < 0.2:
            out += '<w:proofErr w:type="spellStart"/>' + r(chunk) + '<w:proofErr w:type="spellEnd"/>'
        else:
            out += r(chunk)
        i += n
    return out


def p(inner, pr=""):
    return f'<w:p w:rsidR="00A77427" w:rsidRDefault="00A77427" w14:paraId="{random.randint(1, 0x7fffffff):08X}">' + (
        f"<w:pPr>{pr}</w:pPr>" if pr else "") + inner + "</w:p>"


def save(name, body, refs="", cols='<w:cols w:space="708"/>', more="", compat=15, parts=None, settings="", rels=""):
    types = {"/word/document.xml": TYPE + "document.main+xml", "/word/styles.xml": TYPE + "styles+xml", "/word/numbering.xml": TYPE +
             "numbering+xml", "/word/settings.xml": TYPE + "settings+xml",
             "/word/theme/theme1.xml": "application/vnd.openxmlformats-officedocument.theme+xml"}
    files = {"word/styles.xml": STYLES, "word/numbering.xml": NUMBERING, "word/theme/theme1.xml": THEME,
             "word/document.xml": f"<w:document {NS}><w:body>{body}{SECT.format(refs=refs, cols=cols, more=more)}</w:body></w:document>",
             "word/settings.xml": f'<w:settings {NS}>{settings}<w:defaultTabStop w:val="720"/><w:compat><w:compatSetting '
                                  f'w:name="compatibilityMode" w:uri="http://schemas.microsoft.com/office/word" w:val="{compat}"/></w:compat>'
                                  f'<w:themeFontLang w:val="en-GB"/></w:settings>'}
    links = [("styles", "styles.xml"), ("numbering", "numbering.xml"), ("settings", "settings.xml"), ("theme", "theme/theme1.xml")]
    for part, (kind, xml) in (parts or {}).items():
        files["word/" + part] = xml
        types["/word/" + part] = TYPE + kind + "+xml"
        links.append((kind, part))
    with zipfile.ZipFile(f"hand-{name}.docx", "w", zipfile.ZIP_DEFLATED) as z:
        z.writestr("[Content_Types].xml", '<?xml version="1.0" encoding="UTF-8" standalone="yes"?><Types xmlns="http://schemas.openxmlformats.org/'
                   'package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
                   '<Default Extension="xml" ContentType="application/xml"/>' + "".join(
                       f'<Override PartName="{k}" ContentType="{v}"/>' for k, v in types.items()) + "</Types>")
        head = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">'
        z.writestr("_rels/.rels", head + f'<Relationship Id="rId1" Type="{REL}officeDocument" Target="word/document.xml"/></Relationships>')
        z.writestr("word/_rels/document.xml.rels", head + "".join(
            f'<Relationship Id="rId{i + 1}" Type="{REL}{k}" Target="{t}"/>' for i, (k, t) in enumerate(links)) + rels + "</Relationships>")
        for k, v in files.items():
            z.writestr(k, '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>' + v)


H1 = '<w:pStyle w:val="Heading1"/>'
num = lambda i, n=1: f'<w:pStyle w:val="ListParagraph"/><w:numPr><w:ilvl w:val="{i}"/><w:numId w:val="{n}"/></w:numPr>'
cell = lambda w, inner, more="": f'<w:tc><w:tcPr><w:tcW w:w="{w}" w:type="dxa"/>{more}</w:tcPr>{inner}</w:tc>'
table = lambda ws, rows, more="": ('<w:tbl><w:tblPr><w:tblStyle w:val="TableGrid"/><w:tblW w:w="0" w:type="auto"/>' + more + "<w:tblLook w:val=\"04A0\"/>"
                                   "</w:tblPr><w:tblGrid>" + "".join(f'<w:gridCol w:w="{w}"/>' for w in ws) + "</w:tblGrid>" + rows + "</w:tbl>")
simple = lambda code, shown="1": f'<w:fldSimple w:instr=" {code} "><w:r><w:t>{shown}</w:t></w:r></w:fldSimple>'
field = lambda code, shown="1": ('<w:r><w:fldChar w:fldCharType="begin"/></w:r><w:r><w:instrText xml:space="preserve"> ' + code +
                                 ' </w:instrText></w:r><w:r><w:fldChar w:fldCharType="separate"/></w:r><w:r><w:t>' + shown +
                                 '</w:t></w:r><w:r><w:fldChar w:fldCharType="end"/></w:r>')


def hand():
    save("runs", "".join(p(split(text(6))) for _ in range(14)))
    save("headings", "".join(p(r(sent(4)), H1) + p(split(text(5))) + p(split(text(4))) for _ in range(8)))
    save("numbers", "".join(p(split(sent(18)), num(i % 3)) for i in range(36)))
    save("bullets", p(split(text(5))) + "".join(p(split(sent(16)), num(0, 2)) for _ in range(30)) + p(split(text(5))))
    save("looks", "".join(p(split(sent(6))[:0] + "".join(
        r(w + " ", random.choice(["", "", "", "<w:b/>", "<w:i/>", '<w:u w:val="single"/>', "<w:b/><w:bCs/><w:i/>", '<w:color w:val="C00000"/>',
                                  '<w:sz w:val="28"/>', '<w:vertAlign w:val="superscript"/>', "<w:caps/>", '<w:highlight w:val="yellow"/>']))
        for w in text(5).split())) for _ in range(12)))
    save("justified", "".join(p(split(text(6)), '<w:jc w:val="both"/>') for _ in range(14)))
    save("older", "".join(p(split(text(5)), '<w:spacing w:after="0" w:line="240" w:lineRule="auto"/><w:ind w:firstLine="567"/>') for _ in range(20)),
         compat=12)
    save("spacing", "".join(p(split(text(4)), f'<w:spacing w:before="{120 * (i % 3)}" w:after="{100 * (i % 4)}" w:line="{[240, 276, 360, 300][i % 4]}" '
                              f'w:lineRule="{["auto", "auto", "auto", "exact"][i % 4]}"/><w:ind w:left="{360 * (i % 3)}" w:hanging="{180 * (i % 2)}"/>')
                            for i in range(16)))
    rows = "".join("<w:tr>" + cell(2200, p(split(some(3)))) + cell(4600, p(split(sent(10)))) + cell(2200, p(r(str(7 * i)), '<w:jc w:val="right"/>')) +
                   "</w:tr>" for i in range(30))
    head = ("<w:tr><w:trPr><w:cantSplit/><w:tblHeader/></w:trPr>" + cell(2200, p(r("Part", "<w:b/>"))) + cell(4600, p(r("Words", "<w:b/>"))) +
            cell(2200, p(r("Price", "<w:b/>"))) + "</w:tr>")
    save("table", p(split(text(4))) + table([2200, 4600, 2200], head + rows) + p(split(text(4))))
    save("fixed", table([1500, 6000, 1500], "".join(
        "<w:tr>" + cell(1500, p(r(some(1)))) + cell(6000, p(split(text(2)))) + cell(1500, p(r(some(1)))) + "</w:tr>" for _ in range(16)),
        '<w:tblLayout w:type="fixed"/>') + p(""))
    merged = "".join(
        "<w:tr>" + cell(2250, p(split(some(2))) if i % 3 == 0 else p(""), f'<w:vMerge{" w:val=" + chr(34) + "restart" + chr(34) if i % 3 == 0 else ""}/>') +
        (cell(4500, p(split(sent(7))), '<w:gridSpan w:val="2"/>') if i % 2 else cell(2250, p(split(some(2)))) + cell(2250, p(split(some(3))))) +
        cell(2250, p(split(some(2))), '<w:shd w:val="clear" w:color="auto" w:fill="D9E2F3"/>') + "</w:tr>" for i in range(18))
    save("merged", p(split(text(3))) + table([2250, 2250, 2250, 2250], merged) + p(split(text(3))))
    header = f"<w:hdr {NS}>" + p(r("Tarn Hollow") + "<w:r><w:tab/></w:r>" + r("Agreement") + "<w:r><w:tab/></w:r>" + r("Page ") + field("PAGE"),
                                 '<w:pStyle w:val="Header"/>') + "</w:hdr>"
    first = f"<w:hdr {NS}>" + p(r("The first page"), '<w:pStyle w:val="Header"/>') + "</w:hdr>"
    footer = f"<w:ftr {NS}>" + p(r("Page ") + simple("PAGE") + r(" of ") + simple("NUMPAGES"), '<w:jc w:val="center"/>') + "</w:ftr>"
    save("headers", "".join(p(split(text(6))) for _ in range(18)), parts={"header1.xml": ("header", header), "header2.xml": ("header", first),
                                                                         "footer1.xml": ("footer", footer)},
         refs='<w:headerReference w:type="default" r:id="rId5"/><w:headerReference w:type="first" r:id="rId6"/><w:footerReference w:type="default" '
              'r:id="rId7"/>', more="<w:titlePg/>")
    control = lambda words: (f'<w:sdt><w:sdtPr><w:alias w:val="x"/><w:tag w:val="x"/><w:id w:val="{random.randint(1, 99999)}"/><w:dataBinding '
                             f'w:xpath="/a" w:storeItemID="{{00000000-0000-0000-0000-000000000000}}"/><w:text/></w:sdtPr><w:sdtContent>' + r(words) +
                             "</w:sdtContent></w:sdt>")
    tick = ('<w:sdt><w:sdtPr><w14:checkbox><w14:checked w14:val="0"/><w14:checkedState w14:val="2612" w14:font="MS Gothic"/><w14:uncheckedState '
            'w14:val="2610" w14:font="MS Gothic"/></w14:checkbox></w:sdtPr><w:sdtContent>' + r("x") + "</w:sdtContent></w:sdt>")
    save("controls", "".join(p(split(sent(9)) + r(" ") + control(some(2)) + r(" ") + (tick if i % 3 == 0 else "") + split(" " + sent(12)))
                             for i in range(24)))
    toc = "".join(p(f'<w:hyperlink w:anchor="_Toc{i}" w:history="1">' + r(f"Part {i}") + "<w:r><w:tab/></w:r>" + field(f"PAGEREF _Toc{i} \\h", str(i // 3 + 1)) +
                    "</w:hyperlink>", '<w:pStyle w:val="TOC1"/>') for i in range(8))
    save("contents", toc + "".join(f'<w:bookmarkStart w:id="{i}" w:name="_Toc{i}"/>' + p(r(f"Part {i}"), H1) + f'<w:bookmarkEnd w:id="{i}"/>' +
                                   p(split(text(6))) + p(split(text(5))) for i in range(8)))
    save("keep", "".join(p(split(text(4)), random.choice(["", "<w:keepNext/>", "<w:keepLines/>", '<w:widowControl w:val="0"/>', "<w:pageBreakBefore/>",
                                                          ""]) if i % 5 else "") for i in range(22)))
    save("tabs", "".join(p(r(some(3)) + "<w:r><w:tab/></w:r>" + r(some(2)) + "<w:r><w:tab/></w:r>" + r(str(i * 11) + ".50"),
                           '<w:tabs><w:tab w:val="left" w:pos="4000"/><w:tab w:val="decimal" w:leader="dot" w:pos="8200"/></w:tabs>')
                         for i in range(30)))
    save("hyphens", "".join(p(split(" ".join(random.choice(["responsibility", "instrumental", "maintenance", "reconstruction", "administration",
                                                             "the", "of", "and", "a"]) for _ in range(60))), '<w:jc w:val="both"/>')
                            for _ in range(10)), settings='<w:autoHyphenation/><w:hyphenationZone w:val="425"/>')
    save("columns", "".join(p(split(text(5))) for _ in range(16)), cols='<w:cols w:num="2" w:space="708"/>')
    notes = f"<w:footnotes {NS}>" + '<w:footnote w:type="separator" w:id="-1"><w:p><w:r><w:separator/></w:r></w:p></w:footnote>' \
        '<w:footnote w:type="continuationSeparator" w:id="0"><w:p><w:r><w:continuationSeparator/></w:r></w:p></w:footnote>' + "".join(
            f'<w:footnote w:id="{i}">' + p('<w:r><w:rPr><w:vertAlign w:val="superscript"/></w:rPr><w:footnoteRef/></w:r>' + r(" " + sent(14))) + "</w:footnote>"
            for i in range(1, 7)) + "</w:footnotes>"
    save("notes", "".join(p(split(text(4)) + (f'<w:r><w:rPr><w:vertAlign w:val="superscript"/></w:rPr><w:footnoteReference w:id="{i // 2 + 1}"/></w:r>'
                                              if i % 2 == 0 else "")) for i in range(12)), parts={"footnotes.xml": ("footnotes", notes)})


def pandoc():
    mds = {
        "defs": "# Words\n\n" + "\n\n".join(f"{some(2)}\n:   {text(3)}" for _ in range(12)),
        "nested": "# Lists\n\n" + "\n".join(f"1. {sent()}\n\n    {text(2)}\n\n    - {sent()}\n    - {sent(24)}\n" for _ in range(7)),
        "mixed": "\n\n".join(f"# {sent(4)[:-1]}\n\n{text(5)}\n\n| A | B |\n|---|---|\n| {some(2)} | {some(4)} |\n| {some(1)} | {some(6)} |\n\n{text(4)}"
                             for _ in range(5)),
        "breaks": "\n\n".join(text(3).replace(". ", ".\\\n") for _ in range(9)),
        "links": "\n\n".join(f"{text(3)} [{some(2)}](https://tarnhollow.example/{i}) {text(2)}" for i in range(12)),
        "plain": "\n\n".join(text(9) for _ in range(14)),
    }
    for n, t in mds.items():
        subprocess.run(["pandoc", "-f", "markdown", "-o", f"pandoc-2-{n}.docx"], input=t.encode(), check=True)


def python():
    import docx
    from docx.enum.section import WD_ORIENT
    from docx.enum.text import WD_ALIGN_PARAGRAPH
    from docx.shared import Cm, Pt

    def made(n, f):
        d = docx.Document()
        f(d)
        d.save(f"python-2-{n}.docx")

    def invoice(d):
        d.add_heading("Invoice", 0)
        for x in ["Tarn Hollow", "4 Weir Lane", "To: " + some(2)]:
            d.add_paragraph(x)
        t = d.add_table(rows=1, cols=4)
        t.style = "Table Grid"
        for i, x in enumerate(["Part", "Words", "Each", "Amount"]):
            t.rows[0].cells[i].text = x
        for i in range(14):
            c = t.add_row().cells
            c[0].text, c[1].text, c[2].text, c[3].text = some(1), sent(5), str(i) + ".00", str(i * 3) + ".00"
            c[3].paragraphs[0].alignment = WD_ALIGN_PARAGRAPH.RIGHT
        d.add_paragraph(text(4))

    def landscape(d):
        d.add_paragraph(text(6))
        s = d.add_section()
        s.orientation, s.page_width, s.page_height = WD_ORIENT.LANDSCAPE, s.page_height, s.page_width
        for _ in range(8):
            d.add_paragraph(text(6))

    def quotes(d):
        for i in range(14):
            d.add_paragraph(text(4), style=["Normal", "Quote", "Intense Quote", "Body Text"][i % 4])

    def levels(d):
        for i in range(14):
            d.add_heading(sent(4)[:-1], i % 4 + 1)
            d.add_paragraph(text(4))

    def lists(d):
        for i in range(30):
            d.add_paragraph(sent(14), style=["List Bullet", "List Bullet 2", "List Number", "List Continue"][i % 4])

    def inside(d):
        t = d.add_table(rows=6, cols=2)
        t.style = "Table Grid"
        for row in t.rows:
            row.cells[0].text = sent(8)
            u = row.cells[1].add_table(rows=2, cols=2)
            u.style = "Table Grid"
            for x in u.rows:
                for c in x.cells:
                    c.text = some(2)

    def runs(d):
        for _ in range(12):
            q = d.add_paragraph()
            for w in text(5).split():
                run = q.add_run(w + " ")
                run.bold, run.italic = random.random() < 0.1, random.random() < 0.1
                run.font.size = Pt(random.choice([10, 11, 11, 11, 14]))

    def margins(d):
        s = d.sections[0]
        s.left_margin, s.right_margin, s.top_margin = Cm(4), Cm(1.5), Cm(5)
        for _ in range(16):
            d.add_paragraph(text(5))

    for f in (invoice, landscape, quotes, levels, lists, inside, runs, margins):
        made(f.__name__, f)


def office():
    htmls = {
        "memo": "<h1>Memo</h1>" + "".join(f"<p>{text(5)}</p>" for _ in range(12)),
        "rules": "".join(f"<h2>{sent(4)}</h2><ol>" + "".join(f"<li>{sent(16)}</li>" for _ in range(5)) + "</ol>" for _ in range(7)),
        "grid": "<table border=1 cellpadding=4>" + "".join(f"<tr><td>{some(2)}</td><td>{sent(9)}</td><td>{some(1)}</td></tr>" for _ in range(24)) +
                "</table>",
        "looks": "".join("<p>" + " ".join(random.choice(["{}", "{}", "{}", "<b>{}</b>", "<i>{}</i>", "<u>{}</u>"]).format(w) for w in text(5).split()) +
                         "</p>" for _ in range(10)),
        "points": "".join(f"<p>{text(2)}</p><ul>" + "".join(f"<li>{sent(14)}</li>" for _ in range(4)) + "</ul>" for _ in range(7)),
        "aligned": "".join(f'<p align="{["left", "center", "right", "justify"][i % 4]}">{text(5)}</p>' for i in range(14)),
        "long": "".join(f"<h1>{sent(3)}</h1>" + "".join(f"<p>{text(6)}</p>" for _ in range(5)) for _ in range(8)),
        "small": "".join(f'<p style="font-size:{[9, 10, 12, 14][i % 4]}pt;font-family:{["Arial", "Times New Roman"][i % 2]}">{text(5)}</p>'
                         for i in range(14)),
    }
    for n, t in htmls.items():
        with open(f"office-2-{n}.html", "w") as f:
            f.write(f"<html><head><meta charset=utf-8></head><body>{t}</body></html>")
        subprocess.run(["soffice", "--headless", "--infilter=HTML (StarWriter)", "--convert-to", "docx:MS Word 2007 XML", f"office-2-{n}.html"], check=True,
                       stdout=subprocess.DEVNULL)
        subprocess.run(["rm", f"office-2-{n}.html"])


if __name__ == "__main__":
    hand(), pandoc(), python(), office()
