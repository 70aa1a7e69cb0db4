package web

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"amberseal/core/print/typeface"
	"amberseal/core/words/house"
)

// dressFile is the style sheet of a house's colours and faces, for the pages that respondents see.
const dressFile = "/house.css"

// dress serves it. Every pair of colours that words stand on was measured (house.Colours).
func (d *handlers) dress(c *gin.Context) {
	h, err := d.Office.Store.House(c.Request.Context())
	if err != nil {
		d.fail(c, err)
		return
	}
	c.Header("Cache-Control", "public, max-age=31536000, immutable") // its address changes with it
	c.Data(http.StatusOK, "text/css; charset=utf-8", []byte(dressOf(h)))
}

// dressLink is where the present style sheet lies.
func dressLink(h house.House) string {
	sum := sha256.Sum256([]byte(dressOf(h)))
	return dressFile + "?v=" + hex.EncodeToString(sum[:6])
}

func dressOf(h house.House) string {
	var b strings.Builder
	own, ok := h.Own(h.Font)
	if ok {
		for _, f := range []struct{ file, face, weight string }{{own.Regular, "regular", "400"}, {own.Bold, "bold", "700"}} {
			if f.file != "" {
				fmt.Fprintf(&b, "@font-face{font-family:House;src:url(/house-font/%s);font-weight:%s;font-display:swap}\n",
					f.face, f.weight)
			}
		}
	}
	c := h.Colours()
	fmt.Fprintf(&b, ":root{--house-accent:%s;--house-band:%s;--house-on:%s;--house-words:%s;--house-tint:%s",
		c.Accent, c.Band, c.On, c.Words, c.Tint)
	if ok {
		b.WriteString(";--house-title:House,")
	}
	b.WriteString("}\n")
	return b.String()
}

// face serves a face of the house's own family.
func (d *handlers) face(c *gin.Context) {
	h, err := d.Office.Store.House(c.Request.Context())
	if err != nil {
		d.fail(c, err)
		return
	}
	own, _ := h.Own(h.Font)
	name := map[string]string{"regular": own.Regular, "bold": own.Bold}[c.Param("face")]
	if name == "" {
		problem(c, pNothing, http.StatusNotFound, "There is nothing at this address.")
		return
	}
	data, err := d.Office.Store.Font(c.Request.Context(), name)
	if err != nil {
		d.fail(c, err)
		return
	}
	if f, err := typeface.Read(data); err != nil || !f.Installable { // others may be printed, but not handed out
		problem(c, pNothing, http.StatusNotFound, "There is nothing at this address.")
		return
	}
	c.Header("Cache-Control", "public, max-age=3600")
	c.Data(http.StatusOK, "font/sfnt", data)
}
