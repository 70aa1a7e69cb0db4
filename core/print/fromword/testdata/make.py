import subprocess, random, os
random.seed(7)
W="the bow hair violin repair workshop agreement hire instrument player guardian deposit month string bridge varnish receipt invoice number name address delivery condition insurance payment care season damage return letter report because however although between after before under without several another important".split()
def sent(n=None):
    n=n or random.randint(6,22)
    s=' '.join(random.choice(W) for _ in range(n))
    return s[0].upper()+s[1:]+'.'
def para(k=None): return ' '.join(sent() for _ in range(k or random.randint(2,7)))
mds={}
mds['letter']='\n\n'.join(['Tarn Hollow Instrument Works','4 Weir Lane','Dear Ms Brzęk,']+[para() for _ in range(6)]+['Yours sincerely,','Ottoline Marsh'])
mds['contract']='# Agreement of hire\n\n'+'\n\n'.join(f'## {i+1}. '+sent(4)[:-1]+'\n\n'+'\n\n'.join(para() for _ in range(3)) for i in range(9))
mds['lists']='# Lists\n\n'+para()+'\n\n'+'\n'.join(f'- {sent()}' for _ in range(8))+'\n\n'+para()+'\n\n'+'\n'.join(f'{i+1}. {sent()}\n   - {sent()}\n   - {sent(30)}' for i in range(6))+'\n\n'+para()
mds['table']='# Table\n\n'+para()+'\n\n| Part | How many | Price |\n|:--|--:|--:|\n'+'\n'.join(f'| {" ".join(random.choice(W) for _ in range(3))} | {random.randint(1,90)} | {random.randint(1,900)}.00 |' for _ in range(45))+'\n\n'+para()
mds['long']='\n\n'.join(('# '+sent(5)[:-1] if i%6==0 else ('## '+sent(4)[:-1] if i%3==0 else para(7))) for i in range(80))
mds['quotes']='# Quotes\n\n'+'\n\n'.join((('> '+para()) if i%2 else para()) for i in range(10))+'\n\n```\ncode one\n  code two\n```\n\n'+para()
mds['wide']='# Wide\n\n'+'+-----------------+------------------------------+\n| '+'Key'.ljust(15)+' | '+'Words'.ljust(28)+' |\n+=================+==============================+\n'+''.join('| '+random.choice(W).ljust(15)+' | '+(' '.join(random.choice(W) for _ in range(3)))[:28].ljust(28)+' |\n|'+' '*17+'| '+(' '.join(random.choice(W) for _ in range(3)))[:28].ljust(28)+' |\n+-----------------+------------------------------+\n' for _ in range(14))
mds['emph']='# Looks\n\n'+'\n\n'.join(' '.join((f'**{w}**' if random.random()<.1 else f'*{w}*' if random.random()<.1 else w) for w in para(6).split()) for _ in range(8))
for n,t in mds.items():
    open(f'pandoc-{n}.md','w').write(t)
    subprocess.check_call(['pandoc',f'pandoc-{n}.md','-o',f'pandoc-{n}.docx'])
import docx
from docx.shared import Pt, Cm
from docx.enum.text import WD_ALIGN_PARAGRAPH
def pd(n,f):
    d=docx.Document(); f(d); d.save(f'python-{n}.docx')
def letter(d):
    for l in ['Tarn Hollow','4 Weir Lane','','Dear reader,']: d.add_paragraph(l)
    for _ in range(7): d.add_paragraph(para())
def contract(d):
    d.add_heading('Agreement',0)
    for i in range(8):
        d.add_heading(sent(4)[:-1],1)
        for _ in range(3):
            p=d.add_paragraph(para()); p.alignment=WD_ALIGN_PARAGRAPH.JUSTIFY
def lists(d):
    d.add_heading('Lists',1)
    for _ in range(10): d.add_paragraph(sent(),style='List Bullet')
    for _ in range(10): d.add_paragraph(sent(28),style='List Number')
    d.add_paragraph(para())
def table(d):
    t=d.add_table(rows=1,cols=3); t.style='Light Grid Accent 1'
    for i,x in enumerate(['Part','Words','Price']): t.rows[0].cells[i].text=x
    for _ in range(30):
        r=t.add_row().cells
        r[0].text=random.choice(W); r[1].text=sent(9); r[2].text=str(random.randint(1,999))
def grid(d):
    d.add_paragraph(para())
    t=d.add_table(rows=20,cols=4); t.style='Table Grid'
    for r in t.rows:
        for c in r.cells: c.text=' '.join(random.choice(W) for _ in range(random.randint(1,6)))
    a=t.cell(2,0); a.merge(t.cell(2,1)); b=t.cell(5,3); b.merge(t.cell(7,3))
def fonts(d):
    for f in ['Arial','Times New Roman','Calibri','Cambria','Courier New']:
        p=d.add_paragraph(); r=p.add_run(para(6)); r.font.name=f; r.font.size=Pt(random.choice([9,10,11,12]))
def spaced(d):
    for i in range(12):
        p=d.add_paragraph(para()); pf=p.paragraph_format
        pf.line_spacing=[1,1.5,2,1.15][i%4]; pf.space_after=Pt([0,6,12][i%3]); pf.left_indent=Cm([0,1,2][i%3]); pf.first_line_indent=Cm([0,1,-1,0.5][i%4]) 
def headers(d):
    s=d.sections[0]; s.header.paragraphs[0].text='Tarn Hollow\tAgreement\tPage'; s.footer.paragraphs[0].text='Made-up house'
    for _ in range(25): d.add_paragraph(para())
def narrow(d):
    s=d.sections[0]; s.page_width,s.page_height=Cm(14.8),Cm(21); s.left_margin=s.right_margin=Cm(1.5)
    for _ in range(14): d.add_paragraph(para())
def breaks(d):
    for i in range(5):
        d.add_paragraph(para(9)); d.add_page_break()
    d.add_paragraph(para())
for n,f in dict(letter=letter,contract=contract,lists=lists,table=table,grid=grid,fonts=fonts,spaced=spaced,headers=headers,narrow=narrow,breaks=breaks).items(): pd(n,f)
# LibreOffice as a writer: from html and from odt
os.makedirs('lo',exist_ok=True)
for n,h in dict(
 letter='<p>Tarn Hollow</p>'+''.join(f'<p>{para()}</p>' for _ in range(9)),
 lists='<h1>Lists</h1><ul>'+''.join(f'<li>{sent()}</li>' for _ in range(9))+'</ul><ol>'+''.join(f'<li>{sent(25)}</li>' for _ in range(9))+'</ol>'+f'<p>{para()}</p>',
 table='<table border=1 width=100%><tr><th>A</th><th>B</th><th>C</th></tr>'+''.join(f'<tr><td>{random.choice(W)}</td><td>{sent(9)}</td><td>{random.randint(1,999)}</td></tr>' for _ in range(30))+'</table>',
 justified=''.join(f'<p style="text-align:justify">{para(8)}</p>' for _ in range(12)),
).items():
    open(f'lo/office-{n}.html','w').write('<html><body>'+h+'</body></html>')
    subprocess.call(['soffice','--headless','--convert-to','docx:Office Open XML Text','--outdir','.',f'lo/office-{n}.html'],stdout=subprocess.DEVNULL,stderr=subprocess.DEVNULL)
