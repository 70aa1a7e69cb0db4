"""Makes hand-f-*.docx: what stands beside the text, written by hand from ISO/IEC 29500-1 (DrawingML, part 20.4) and 29500-4 (VML). Run by
hand; the files are kept."""
import random, struct, zipfile, zlib
from make_hand import H1, NS, REL, cell, p, r, save, sent, some, split, table, text

random.seed(31)
PIC = "http://schemas.openxmlformats.org/drawingml/2006/picture"
WPS = "http://schemas.microsoft.com/office/word/2010/wordprocessingShape"
EMU = 12700


def png(w, h, colour):
    row = b"\0" + bytes(colour) * w
    chunk = lambda kind, data: struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))
    return (b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", struct.pack(">IIBBBBB", w, h, 8, 2, 0, 0, 0)) + chunk(b"IDAT", zlib.compress(row * h)) +
            chunk(b"IEND", b""))


def anchor(w, h, inner, x=("column", 0), y=("paragraph", 0), wrap='<wp:wrapSquare wrapText="bothSides"/>', behind=0, alt="A picture"):
    """A drawing that floats; places are points, or words of 20.4.3.1 and 20.4.3.2."""
    at = lambda v: f"<wp:align>{v}</wp:align>" if isinstance(v, str) else f"<wp:posOffset>{round(v * EMU)}</wp:posOffset>"
    gap = 'distT="0" distB="0" distL="114300" distR="114300"'
    return (f'<w:r><w:drawing><wp:anchor {gap} simplePos="0" relativeHeight="251658240" behindDoc="{behind}" locked="0" layoutInCell="1" '
            f'allowOverlap="1"><wp:simplePos x="0" y="0"/><wp:positionH relativeFrom="{x[0]}">{at(x[1])}</wp:positionH><wp:positionV '
            f'relativeFrom="{y[0]}">{at(y[1])}</wp:positionV><wp:extent cx="{round(w * EMU)}" cy="{round(h * EMU)}"/><wp:effectExtent l="0" t="0" '
            f'r="0" b="0"/>{wrap}<wp:docPr id="{random.randint(1, 9999)}" name="x" descr="{alt}"/><wp:cNvGraphicFramePr/><a:graphic>'
            f"{inner}</a:graphic></wp:anchor></w:drawing></w:r>")


def picture(w, h, rid="rIdP"):
    return (f'<a:graphicData uri="{PIC}"><pic:pic xmlns:pic="{PIC}"><pic:nvPicPr><pic:cNvPr id="0" name="x"/><pic:cNvPicPr/></pic:nvPicPr>'
            f'<pic:blipFill><a:blip r:embed="{rid}"/><a:stretch><a:fillRect/></a:stretch></pic:blipFill><pic:spPr><a:xfrm><a:off x="0" y="0"/>'
            f'<a:ext cx="{round(w * EMU)}" cy="{round(h * EMU)}"/></a:xfrm><a:prstGeom prst="rect"><a:avLst/></a:prstGeom></pic:spPr></pic:pic>'
            "</a:graphicData>")


def shape(kind, w, h, fill="", line='<a:ln w="12700"><a:solidFill><a:srgbClr val="1F3864"/></a:solidFill></a:ln>', words="", body=""):
    box = f"<wps:txbx><w:txbxContent>{words}</w:txbxContent></wps:txbx>" if words else ""
    geom = kind if kind.startswith("<") else f'<a:prstGeom prst="{kind}"><a:avLst/></a:prstGeom>'
    return (f'<a:graphicData uri="{WPS}"><wps:wsp><wps:cNvSpPr/><wps:spPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="{round(w * EMU)}" '
            f'cy="{round(h * EMU)}"/></a:xfrm>{geom}{fill or "<a:noFill/>"}{line}</wps:spPr>{box}<wps:bodyPr lIns="91440" tIns="45720" rIns="91440" '
            f'bIns="45720" {body}/></wps:wsp></a:graphicData>')


TINT = '<a:solidFill><a:schemeClr val="accent1"><a:lumMod val="40000"/><a:lumOff val="60000"/></a:schemeClr></a:solidFill>'
TOPDOWN = "<wp:wrapTopAndBottom/>"
NONE = "<wp:wrapNone/>"


def kept(name, body, pictures=(), header="", **more):
    """Saves a file with pictures rIdP, rIdQ … of its body and its header."""
    refs, parts = "", dict(more.pop("parts", {}))
    rels = "".join(f'<Relationship Id="rId{k}" Type="{REL}image" Target="media/{k}.png"/>' for k in "PQR"[:len(pictures)])
    if header:
        parts["header1.xml"] = ("header", f"<w:hdr {NS} xmlns:o=\"urn:schemas-microsoft-com:office:office\">{header}</w:hdr>")
        refs = f'<w:headerReference w:type="default" r:id="rId{4 + len(parts)}"/>'
    save("f-" + name, body, refs=refs, parts=parts, rels=rels, **more)
    file = f"hand-f-{name}.docx"
    with zipfile.ZipFile(file) as z:
        all_ = [(i.filename, z.read(i.filename)) for i in z.infolist()]
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as z:
        for n, data in all_:
            if n == "[Content_Types].xml":
                data = data.replace(b"<Override", b'<Default Extension="png" ContentType="image/png"/><Override', 1)
            z.writestr(n, data)
        for k, v in zip("PQR", pictures):
            z.writestr(f"word/media/{k}.png", v)
        if header and pictures:
            z.writestr("word/_rels/header1.xml.rels", '<?xml version="1.0" encoding="UTF-8" standalone="yes"?><Relationships '
                       'xmlns="http://schemas.openxmlformats.org/package/2006/relationships">' + rels + "</Relationships>")


def made():
    blue, amber, grey = png(40, 30, (60, 90, 160)), png(30, 30, (220, 150, 40)), png(50, 20, (200, 205, 210))
    words = lambda n: "".join(p(split(text(6))) for _ in range(n))
    kept("letterhead", words(9), [amber], header=table([6000, 3026], "<w:tr>" + cell(6000, p(r("Tarn Hollow", "<w:b/>")) + p(r("4 Weir Lane"))) +
         cell(3026, p(r("Telephone 01632 960 114"), '<w:jc w:val="right"/>')) + "</w:tr>") +
         p(anchor(60, 60, picture(60, 60), ("page", 500), ("page", 20), NONE) + r("Under the table"), '<w:pStyle w:val="Header"/>'))
    kept("square", words(1) + p(anchor(160, 120, picture(160, 120), ("margin", "right")) + split(text(14))) + words(2) +
         p(anchor(120, 90, picture(120, 90), ("column", "left")) + split(text(9))) + words(4), [blue])
    kept("beside", "".join(p(anchor(90, 70, picture(90, 70), ("column", "left" if i % 2 else "right"), ("paragraph", 6)) + split(text(8))) + words(1)
                           for i in range(7)), [blue])
    kept("topdown", words(2) + p(anchor(200, 110, picture(200, 110), ("margin", "center"), ("paragraph", 0), TOPDOWN) + split(text(6))) + words(3) +
         p(anchor(300, 90, picture(300, 90), ("column", 20), ("paragraph", 40), TOPDOWN) + split(text(8))) + words(3), [blue])
    kept("absolute", p(anchor(120, 60, picture(120, 60), ("page", 40), ("page", 40), NONE) + split(text(5))) +
         p(anchor(595, 842, picture(595, 842, "rIdQ"), ("page", 0), ("page", 0), NONE, 1) + split(text(6))) + words(8) +
         p(anchor(100, 100, picture(100, 100), ("margin", "right"), ("margin", "bottom")) + split(text(6))) + words(5), [blue, grey])
    kept("boxes", words(1) + p(anchor(170, 110, shape("rect", 170, 110, TINT, words=p(r("Please note", "<w:b/>")) + p(r(sent(14)))), ("margin", "right"))
                               + split(text(12))) + words(2) +
         p(anchor(200, 60, shape("roundRect", 200, 60, "", words=p(r(sent(6)), '<w:jc w:val="center"/>'), body='anchor="ctr"'), ("margin", "center"),
                  wrap=TOPDOWN) + split(text(5))) + words(4))
    arrow = ('<a:custGeom><a:avLst/><a:gdLst/><a:pathLst><a:path w="100" h="50"><a:moveTo><a:pt x="0" y="10"/></a:moveTo><a:lnTo><a:pt x="70" y="10"/>'
             '</a:lnTo><a:cubicBezTo><a:pt x="80" y="10"/><a:pt x="90" y="20"/><a:pt x="100" y="25"/></a:cubicBezTo><a:lnTo><a:pt x="0" y="40"/>'
             "</a:lnTo><a:close/></a:path></a:pathLst></a:custGeom>")
    kept("shapes", words(1) + p("".join(anchor(60, 40, shape(k, 60, 40, TINT), ("column", 75 * i), ("paragraph", 0), NONE, 1) for i, k in enumerate(
        ["rect", "ellipse", "roundRect", "triangle", "rightArrow", arrow])) + r(sent(4))) + words(2) +
         p(anchor(450, 0.01, shape("line", 450, 0.01), ("column", 0), ("paragraph", 30), NONE) + split(text(3))) + words(2))
    mark = ('<w:r><w:pict><v:shape id="mark" type="#_x0000_t136" style="position:absolute;margin-left:0;margin-top:0;width:400pt;height:120pt;'
            'rotation:315;z-index:-251658752;mso-position-horizontal:center;mso-position-horizontal-relative:margin;mso-position-vertical:center;'
            'mso-position-vertical-relative:margin" fillcolor="silver" stroked="f"><v:fill opacity=".5"/><v:textpath style="font-family:&quot;Calibri&quot;;'
            'font-size:1pt" string="SPECIMEN"/></v:shape></w:pict></w:r>')
    kept("watermark", words(9), header=p(mark + r("Tarn Hollow"), '<w:pStyle w:val="Header"/>'))
    old = lambda tag, more, inner="": f'<w:r><w:pict><v:{tag} {more}>{inner}</v:{tag}></w:pict></w:r>'
    kept("vml", words(1) + p(old("rect", 'style="position:absolute;margin-left:300pt;margin-top:0;width:140pt;height:70pt;z-index:1" fillcolor="#fff2cc" '
         'strokecolor="#bf9000"', "<v:textbox><w:txbxContent>" + p(r("An older box")) + p(r(sent(6))) +
         '</w:txbxContent></v:textbox><w10:wrap xmlns:w10="urn:schemas-microsoft-com:office:word" type="square"/>') + split(text(10))) +
         p(old("line", 'style="position:absolute;z-index:2" from="0,20pt" to="400pt,20pt" strokecolor="#c00000" strokeweight="2pt"') + r(sent(5))) + words(3))
    head = lambda *cells: "<w:tr><w:trPr><w:tblHeader/></w:trPr>" + "".join(cells) + "</w:tr>"
    rows = "".join("<w:tr>" + cell(3000, p(split(some(3)))) + cell(3000, p(split(sent(9)))) + cell(3000, p(r(str(i)))) + "</w:tr>" for i in range(48))
    kept("headrows", words(1) + table([3000] * 3, head(cell(9000, p(r("All that was hired", "<w:b/>")), '<w:gridSpan w:val="3"/>')) +
                                      head(cell(3000, p(r("Part"))), cell(3000, p(r("Words"))), cell(3000, p(r("Number")))) + rows) + words(1))
    kept("uneven", words(14), cols='<w:cols w:num="2" w:space="400" w:equalWidth="0"><w:col w:w="5600" w:space="400"/><w:col w:w="3026"/></w:cols>')
    notes = f"<w:footnotes {NS}>" + '<w:footnote w:type="separator" w:id="-1"><w:p><w:r><w:separator/></w:r></w:p></w:footnote>' \
        '<w:footnote w:type="continuationSeparator" w:id="0"><w:p><w:r><w:continuationSeparator/></w:r></w:p></w:footnote>' + "".join(
            f'<w:footnote w:id="{i}">' + p('<w:r><w:rPr><w:vertAlign w:val="superscript"/></w:rPr><w:footnoteRef/></w:r>' + r(" " + sent(12))) + "</w:footnote>"
            for i in range(1, 6)) + "</w:footnotes>"
    ref = lambda i: f'<w:r><w:rPr><w:vertAlign w:val="superscript"/></w:rPr><w:footnoteReference w:id="{i}"/></w:r>'
    kept("cellnotes", words(2) + table([4500, 4500], "".join(
        "<w:tr>" + cell(4500, p(split(some(3)) + (ref(i // 8 + 1) if i % 8 == 0 else ""))) + cell(4500, p(split(sent(10)))) + "</w:tr>" for i in range(40))) +
         words(1), parts={"footnotes.xml": ("footnotes", notes)})
    kept("cells", words(1) + table([4500, 4500], "".join("<w:tr>" + cell(4500, p(anchor(70, 50, picture(70, 50), ("column", "left")) + split(text(4)))) +
         cell(4500, p(split(text(3)))) + "</w:tr>" for _ in range(5))) + words(2), [blue])
    fr = lambda more: f"<w:framePr {more}/>"
    big = '<w:spacing w:after="0" w:line="800" w:lineRule="exact"/>'
    kept("frames", p(r("Tarn Hollow"), fr('w:w="2600" w:hSpace="180" w:wrap="around" w:vAnchor="text" w:hAnchor="margin" w:xAlign="right" w:y="1"')) +
         p(r("4 Weir Lane, Ashby"), fr('w:w="2600" w:hSpace="180" w:wrap="around" w:vAnchor="text" w:hAnchor="margin" w:xAlign="right" w:y="1"')) +
         words(3) + p(r("B", '<w:sz w:val="76"/>'), '<w:keepNext/>' + fr('w:dropCap="drop" w:lines="3" w:wrap="around" w:vAnchor="text" w:hAnchor="text"') + big) +
         words(3) + p(r("A window"), fr('w:w="3000" w:h="900" w:hRule="exact" w:wrap="around" w:vAnchor="page" w:hAnchor="page" w:x="1440" w:y="700"')) + words(3))
    up = lambda d: f'<w:textDirection w:val="{d}"/><w:vAlign w:val="center"/>'
    kept("upright", words(1) + table([900, 4000, 900, 3200], "".join("<w:tr>" + cell(900, p(r(some(2)), '<w:jc w:val="center"/>'), up("btLr")) +
         cell(4000, p(split(text(2)))) + cell(900, p(r(some(2))), up("tbRl")) + cell(3200, p(split(text(2))),
         '<w:tcBorders><w:left w:val="double" w:sz="12" w:color="C00000"/></w:tcBorders>') + "</w:tr>" for _ in range(4))) + words(2))
    kept("heads", "".join(p(r(sent(4)), H1) + p(anchor(130, 100, picture(130, 100), ("margin", "right"), ("paragraph", 10)) + split(text(5))) + words(1)
                          for _ in range(6)), [blue])


if __name__ == "__main__":
    made()
