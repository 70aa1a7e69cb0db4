// Package share is a stand-in for a share that speaks WebDAV (RFC 4918), in a folder.
package share

import (
	"crypto/subtle"
	"net"
	"net/http"
	"os"

	"golang.org/x/net/webdav"

	"amberseal/standin/depot"
)

// User and Password are those that it takes.
const (
	User     = "demo"
	Password = "demo-secret"
)

// Share is the stand-in.
type Share struct {
	*depot.Depot
	dir string
}

// Open makes the stand-in, with what a folder holds.
func Open(address, dir string) (*Share, error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, err
	}
	s := &Share{&depot.Depot{Path: "share", List: "files", Title: "Stand-in share",
		Hint: "A share that speaks WebDAV; its user is “" + User + "”, its password “" + Password + "”."}, dir}
	s.Stock, s.Serve = depot.Folder(dir), s.serve
	return s, s.Depot.Open(address)
}

func (s *Share) serve(l net.Listener) {
	dav := &webdav.Handler{FileSystem: webdav.Dir(s.dir), LockSystem: webdav.NewMemLS()}
	signed := http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		user, password, _ := r.BasicAuth()
		if user != User || subtle.ConstantTimeCompare([]byte(password), []byte(Password)) != 1 {
			w.Header().Set("WWW-Authenticate", `Basic realm="share"`)
			w.WriteHeader(http.StatusUnauthorized)
			return
		}
		dav.ServeHTTP(w, r)
	})
	writes := func(r *http.Request) bool {
		return r.Method == http.MethodPut || r.Method == "MKCOL" || r.Method == "MOVE"
	}
	server := &http.Server{Handler: s.Refuses(signed, writes, func(w http.ResponseWriter, m depot.Mode) {
		w.WriteHeader(map[depot.Mode]int{depot.Lying: http.StatusCreated, depot.Full: http.StatusInsufficientStorage,
			depot.Forbidden: http.StatusForbidden}[m])
	})}
	server.Serve(l) // ends when the listener closes
}
