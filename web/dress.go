package web

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"net/http"
	"strings"
	"sync"

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
	c.Data(http.StatusOK, "text/css; charset=utf-8", []byte(dressOf(h, d.handsOut(c.Request.Context(), h))))
}

// dressLink is where the present style sheet lies.
func (d *handlers) dressLink(ctx context.Context, h house.House) string {
	sum := sha256.Sum256([]byte(dressOf(h, d.handsOut(ctx, h))))
	return dressFile + "?v=" + hex.EncodeToString(sum[:6])
}

// handed remembers of fonts whether their licence lets anybody have them; a font's name comes from its bytes.
var handed sync.Map // name to bool

// handsOut reports whether all faces of the house's own family may be handed out: those that may only be printed are not.
func (d *handlers) handsOut(ctx context.Context, h house.House) bool {
	own, ok := h.Own(h.Font)
	if !ok {
		return false
	}
	for _, name := range []string{own.Regular, own.Bold} {
		if name == "" {
			continue
		}
		may, known := handed.Load(name)
		if !known {
			data, err := d.Office.Store.Font(ctx, name)
			if err != nil {
				return false
			}
			f, err := typeface.Read(data)
			may = err == nil && f.Installable
			handed.Store(name, may)
		}
		if !may.(bool) {
			return false
		}
	}
	return true
}

// dressOf is the style sheet; faces says whether it names those of the house's own family.
func dressOf(h house.House, faces bool) string {
	var b strings.Builder
	own, _ := h.Own(h.Font)
	if faces {
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
	if faces {
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
	if name == "" || !d.handsOut(c.Request.Context(), h) {
		problem(c, pNothing, http.StatusNotFound, "There is nothing at this address.")
		return
	}
	data, err := d.Office.Store.Font(c.Request.Context(), name)
	if err != nil {
		d.fail(c, err)
		return
	}
	c.Header("Cache-Control", "public, max-age=3600")
	c.Data(http.StatusOK, "font/sfnt", data)
}
