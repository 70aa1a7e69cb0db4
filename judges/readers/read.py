"""Reads filled files with python-docx and pikepdf: every word of a word-processor file is in the PDF of it, and a PDF form holds its answers."""
import json
import re
import subprocess
import sys
import unicodedata

import docx
import pikepdf

asked = json.load(open(sys.argv[1], encoding="utf-8"))
good, faults = 0, []


def plain(text):
    """Letters and figures alone: PDFs part words at the ends of lines, and write ligatures and right-to-left words in other ways."""
    return re.sub(r"[^\w]+", "", unicodedata.normalize("NFKC", text).lower())


def said(parent):
    """The words of paragraphs and tables, in their order."""
    for block in parent.iter_inner_content():
        if hasattr(block, "rows"):
            for row in block.rows:
                for cell in row.cells:
                    yield from said(cell)
        else:
            yield from block.text.split()


for file, pdf in asked["pairs"]:
    text = plain(subprocess.run(["pdftotext", "-raw", pdf, "-"], capture_output=True, check=True, text=True).stdout)
    words = [w for w in said(docx.Document(file)) if w.isascii() and plain(w)]
    missing = [w for w in words if plain(w) not in text]
    if missing or len(words) < 50:
        faults.append(f"{file}: {len(words)} words, of which the PDF lacks {missing[:12]}")
    else:
        good += 1

for form in asked["forms"]:
    with pikepdf.open(form["file"]) as pdf:
        values = {str(f.get("/T", "")): str(f.get("/V", "")) for f in pdf.Root.AcroForm.Fields}
    lacking = [v for v in form["has"] if not any(v in x for x in values.values())]
    if lacking or len(values) != form["count"]:
        faults.append(f"{form['file']}: {len(values)} fields of {form['count']}; no field holds {lacking}: {values}")
    else:
        good += 1

for copy in asked["noted"]:
    found = [c for c in docx.Document(copy["file"]).comments if c.text.strip() and c.author]
    if len(found) != copy["comments"] or not found:
        faults.append(f"{copy['file']}: {len(found)} comments of {copy['comments']}")
    else:
        good += 1

print(f"{good} of {len(asked['pairs']) + len(asked['forms']) + len(asked['noted'])} files are read as they were filled")
if faults:
    sys.exit("\n".join(faults))
