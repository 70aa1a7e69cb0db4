package web

import (
	_ "embed"
	"errors"
	"html/template"
	"mime"
	"net/http"
	"slices"
	"strings"

	"github.com/gin-gonic/gin"

	"amberseal/app/dossier"
	"amberseal/app/handing"
	"amberseal/app/register"
)

//go:embed hatch.html
var hatchPage string

//go:embed hatch.css
var hatchCSS []byte

const hatchStyle = "/hatch.css"

var hatchTemplate = template.Must(template.New("hatch").Parse(hatchPage))

// hatchShown is what the page of a link says.
type hatchShown struct {
	Language, House, Dress, Reach string
	Name, Size, Until             string
	Left                          int // openings that are left, 0 for any number
	Over                          handing.Reason
	Lost                          bool // there is no such link
}

// hatch is the page of a file that came by a link. Looking at it uses nothing up and confirms nothing, whoever looks and however often.
func (d *handlers) hatch(c *gin.Context) {
	var x handing.Handed
	var s *dossier.Dossier
	err := d.opened(c.Request, func() (err error) { x, s, err = d.Hatch.Look(c.Request.Context(), c.Param("token")); return err }, linkless)
	d.hatchSays(c, x, s, err)
}

// hatchSays shows the page.
func (d *handlers) hatchSays(c *gin.Context, x handing.Handed, s *dossier.Dossier, err error) {
	ctx := c.Request.Context()
	h, err2 := d.Office.Store.House(ctx)
	if err2 != nil {
		d.fail(c, err2)
		return
	}
	p := hatchShown{House: h.Name, Language: h.Language, Dress: d.dressLink(ctx, h)}
	p.Reach = strings.Join(slices.DeleteFunc([]string{h.Phone, h.Email}, func(s string) bool { return s == "" }), " · ")
	status := http.StatusOK
	var over handing.Over
	switch {
	case errors.As(err, &over):
		p.Over, status = over.Why, http.StatusGone
	case errors.Is(err, register.NotFound):
		p.Lost, status = true, http.StatusNotFound
	case err != nil:
		d.fail(c, err)
		return
	}
	if s != nil {
		p.Name, p.Size = x.What.Name, size(int64(x.What.Size))
		if !x.Expires.IsZero() {
			p.Until = s.Facts(d.Now()).Locale().DateLong(x.Expires.In(h.Location()))
		}
		if x.Most > 0 {
			p.Left = x.Most - x.Opened
		}
	}
	c.Header("Cache-Control", "no-store")
	c.Header("Referrer-Policy", "no-referrer") // the address is the key
	c.Header("X-Robots-Tag", "noindex")
	c.Header("Content-Type", "text/html; charset=utf-8")
	c.Status(status)
	hatchTemplate.Execute(c.Writer, p) // a reader that goes away is no fault
}

// take gives the file, since somebody pressed for it.
func (d *handlers) take(c *gin.Context) {
	var p dossier.Piece
	err := d.opened(c.Request, func() (err error) { p, err = d.Hatch.Take(c.Request.Context(), c.Param("token")); return err }, linkless)
	if err != nil {
		var over handing.Over
		if errors.As(err, &over) || errors.Is(err, register.NotFound) {
			x, s, _ := d.Hatch.Look(c.Request.Context(), c.Param("token"))
			d.hatchSays(c, x, s, err)
			return
		}
		d.fail(c, err)
		return
	}
	as := "attachment"
	if p.Type == "application/pdf" && c.PostForm("keep") == "" {
		as = "inline"
	}
	c.Header("Content-Disposition", mime.FormatMediaType(as, map[string]string{"filename": p.Name}))
	c.Header("Cache-Control", "no-store")
	c.Header("Referrer-Policy", "no-referrer")
	c.Data(http.StatusOK, p.Type, p.Data)
}

func (d *handlers) hatchDress(c *gin.Context) {
	c.Header("Cache-Control", "public, max-age=3600")
	c.Data(http.StatusOK, "text/css; charset=utf-8", hatchCSS)
}
