package web

import (
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
	"github.com/klauspost/compress/gzhttp"
)

// packed compresses what the interface says. Assets are compressed when they are built, documents and pictures in themselves, and an
// event stream must not be held back.
func packed(next http.Handler) http.Handler {
	wrap, err := gzhttp.NewWrapper(
		gzhttp.MinSize(1_000),
		gzhttp.ContentTypes([]string{"application/json", "text/html", "text/csv", "image/svg+xml", "text/css", "text/javascript"}),
	)
	if err != nil {
		return next
	}
	handler := wrap(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.URL.Path == "/api/events" || strings.HasPrefix(r.URL.Path, "/assets/") || strings.HasPrefix(r.URL.Path, "/d/") {
			next.ServeHTTP(w, r)
			return
		}
		handler.ServeHTTP(w, r)
	})
}

// packings are the encodings that assets were built with, the smallest first.
var packings = []struct{ name, ending string }{{"br", ".br"}, {"gzip", ".gz"}}

// asset serves a file of the pages, packed as it was built. Folders are not shown.
func (d *handlers) asset(c *gin.Context) {
	name := strings.TrimPrefix(path.Clean(c.Param("path")), "/")
	data, err := fs.ReadFile(d.Pages, name)
	if err != nil || path.Ext(name) == "" || path.Ext(name) == ".html" {
		problem(c, pNothing, http.StatusNotFound, "There is nothing at this address.")
		return
	}
	kind := mime.TypeByExtension(path.Ext(name))
	if kind == "" {
		kind = map[string]string{".woff2": "font/woff2", ".mjs": "text/javascript; charset=utf-8"}[path.Ext(name)]
	}
	c.Header("Vary", "Accept-Encoding")
	for _, p := range packings {
		small, err := fs.ReadFile(d.Pages, name+p.ending)
		if err == nil && accepts(c.GetHeader("Accept-Encoding"), p.name) {
			c.Header("Content-Encoding", p.name)
			data = small
			break
		}
	}
	// Vite puts a hash of the content into every name but index.html's.
	c.Header("Cache-Control", "public, max-age=31536000, immutable")
	c.Header("Content-Length", strconv.Itoa(len(data)))
	c.Data(http.StatusOK, kind, data)
}

// accepts reports whether an Accept-Encoding header takes an encoding (RFC 9110, section 12.5.3).
func accepts(header, encoding string) bool {
	for part := range strings.SplitSeq(header, ",") {
		name, weight, _ := strings.Cut(strings.TrimSpace(part), ";")
		if strings.EqualFold(strings.TrimSpace(name), encoding) {
			q := strings.TrimSpace(strings.TrimPrefix(strings.ReplaceAll(weight, " ", ""), "q="))
			return q == "" || strings.Trim(q, "0.") != ""
		}
	}
	return false
}
