// Package depot is what the stand-ins for destinations share: the switch by which each of them fails in one way, and the page that shows
// what arrived.
package depot

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"amberseal/standin/sheet"
)

// Mode is how a stand-in behaves.
type Mode string

// The modes.
const (
	On        Mode = "on"
	Off       Mode = "off"       // nothing listens
	Slow      Mode = "slow"      // each answer takes seconds
	Full      Mode = "full"      // nothing more can be written
	Forbidden Mode = "forbidden" // nothing may be read or written
	Closing   Mode = "closing"   // connections break off in the middle
	Lying     Mode = "lying"     // it says that it took what it did not keep
	Endless   Mode = "endless"   // what it gives does not end
)

// Modes are all of them, in the order in which they are shown.
var Modes = []Mode{On, Off, Slow, Full, Forbidden, Closing, Lying, Endless}

var says = map[Mode]string{
	On: "It answers as it should.", Off: "Nothing listens.", Slow: "Each answer takes seconds.", Full: "There is no room left.",
	Forbidden: "Nobody may read or write.", Closing: "Connections break off in the middle.",
	Lying: "It says that it took what it does not keep.", Endless: "What it gives does not end.",
}

// File is what arrived.
type File struct {
	Path    string            `json:"path"`
	Size    int64             `json:"size"`
	SHA256  string            `json:"sha256"`
	Changed time.Time         `json:"changed"`
	About   map[string]string `json:"about,omitempty"`
}

// Sum is the SHA-256 of bytes in hexadecimal.
func Sum(data []byte) string {
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:])
}

// Stock is what a stand-in holds. Read gives false where there is nothing.
type Stock interface {
	Files() ([]File, error)
	Read(path string) ([]byte, bool)
}

// Depot is the switch of one stand-in and the address at which it listens. It is safe for many goroutines.
type Depot struct {
	Path  string // the last part of its page's address, such as bucket
	List  string // that of the JSON, such as objects
	Title string
	Hint  string // how it is reached
	Stock Stock

	// Serve answers on a listener until that closes.
	Serve func(net.Listener)

	mode    atomic.Value
	sent    atomic.Int64
	mu      sync.Mutex
	address string
	open    net.Listener
	conns   map[net.Conn]bool
}

// Open makes the depot listen. A port of 0 takes a free one, which is then kept.
func (d *Depot) Open(address string) error {
	d.address, d.conns = address, map[net.Conn]bool{}
	d.mode.Store(Off)
	return d.Switch(On)
}

// Address is where it listens, or listened last.
func (d *Depot) Address() string {
	d.mu.Lock()
	defer d.mu.Unlock()
	return d.address
}

// Mode is how it behaves now.
func (d *Depot) Mode() Mode { return d.mode.Load().(Mode) }

// Sent is how many bytes it has given since it was opened.
func (d *Depot) Sent() int64 { return d.sent.Load() }

// Switch makes it behave in another way. Connections that are open break off.
func (d *Depot) Switch(to Mode) error {
	if !slices.Contains(Modes, to) {
		return fmt.Errorf("a stand-in cannot be “%s”", to)
	}
	d.mu.Lock()
	defer d.mu.Unlock()
	d.mode.Store(to)
	for c := range d.conns {
		c.Close()
	}
	if to == Off && d.open != nil {
		err := d.open.Close()
		d.open = nil
		return err
	}
	if to == Off || d.open != nil {
		return nil
	}
	l, err := net.Listen("tcp", d.address)
	if err != nil {
		return fmt.Errorf("a stand-in cannot listen: %w", err)
	}
	d.address, d.open = l.Addr().String(), l
	go d.Serve(listener{l, d})
	return nil
}

// Close turns it off.
func (d *Depot) Close() { d.Switch(Off) }

type listener struct {
	net.Listener
	d *Depot
}

func (l listener) Accept() (net.Conn, error) {
	c, err := l.Listener.Accept()
	if err != nil {
		return nil, err
	}
	l.d.mu.Lock()
	defer l.d.mu.Unlock()
	l.d.conns[c] = true
	return &conn{Conn: c, d: l.d}, nil
}

// conn is a connection that fails as its depot is told to.
type conn struct {
	net.Conn
	d    *Depot
	read int
}

const (
	slowness = 3 * time.Second
	halfWay  = 6_000 // bytes that a connection carries before it breaks off
)

func (c *conn) Read(b []byte) (int, error) {
	n, err := c.Conn.Read(b)
	if c.read += n; c.d.Mode() == Closing && c.read > halfWay {
		c.Close()
		return 0, net.ErrClosed
	}
	return n, err
}

func (c *conn) Write(b []byte) (int, error) {
	if c.d.Mode() == Slow {
		time.Sleep(slowness)
	}
	n, err := c.Conn.Write(b)
	c.d.sent.Add(int64(n))
	return n, err
}

func (c *conn) Close() error {
	go func() { // the switch closes connections while it holds the lock
		c.d.mu.Lock()
		defer c.d.mu.Unlock()
		delete(c.d.conns, c.Conn)
	}()
	return c.Conn.Close()
}

// Handle serves its pages under /standin/.
func (d *Depot) Handle(mux *http.ServeMux) {
	base := "/standin/" + d.Path
	page := sheet.Page(d.Title, true, `<h1>`+d.Title+`</h1><p id="said" role="status"></p><p>`+d.Hint+` It listens at {{.Address}}.</p>
<form method="post" action="`+base+`/switch"><p>{{.Says}}</p><p>{{range .Modes}}<button name="mode" value="{{.}}"`+
		`{{if eq . $.Mode}} aria-pressed="true" disabled{{end}}>{{.}}</button> {{end}}</p></form>
<div id="arrived" class="wide">{{if .Files}}<table><thead><tr><th scope="col">Changed</th><th scope="col">Path</th>`+
		`<th scope="col">Bytes</th></tr></thead><tbody>{{range .Files}}<tr><td>{{.Changed.Format "15:04:05"}}</td>`+
		`<td><a href="`+base+`/file?path={{.Path}}">{{.Path}}</a></td><td>{{.Size}}</td></tr>{{end}}</tbody></table>`+
		`{{else}}<p>Nothing has come yet.</p>{{end}}</div>`)
	mux.HandleFunc("GET "+base, func(w http.ResponseWriter, _ *http.Request) {
		files, err := d.Stock.Files()
		if err != nil {
			http.Error(w, err.Error(), http.StatusInternalServerError)
			return
		}
		slices.Reverse(files)
		sheet.Show(w, page, map[string]any{"Address": d.Address(), "Mode": d.Mode(), "Modes": Modes, "Says": says[d.Mode()],
			"Files": files})
	})
	mux.HandleFunc("GET "+base+"/"+d.List, func(w http.ResponseWriter, _ *http.Request) {
		files, err := d.Stock.Files()
		if err != nil {
			http.Error(w, err.Error(), http.StatusInternalServerError)
			return
		}
		w.Header().Set("Content-Type", "application/json")
		json.NewEncoder(w).Encode(append([]File{}, files...))
	})
	mux.HandleFunc("GET "+base+"/file", func(w http.ResponseWriter, r *http.Request) {
		data, ok := d.Stock.Read(r.FormValue("path"))
		if !ok {
			http.NotFound(w, r)
			return
		}
		kind := http.DetectContentType(data)
		if !strings.HasPrefix(kind, "application/pdf") && !strings.HasPrefix(kind, "text/plain") {
			kind = "application/octet-stream" // a page among the files is not shown as one of ours
		}
		w.Header().Set("Content-Type", kind)
		w.Write(data)
	})
	mux.HandleFunc("POST "+base+"/switch", func(w http.ResponseWriter, r *http.Request) {
		if err := d.Switch(Mode(r.FormValue("mode"))); err != nil {
			http.Error(w, err.Error(), http.StatusUnprocessableEntity)
			return
		}
		http.Redirect(w, r, base, http.StatusSeeOther)
	})
}

// Refuses is a handler that fails as the depot is told to, by words of the protocol's own; writes says which requests write.
func (d *Depot) Refuses(next http.Handler, writes func(*http.Request) bool, refuse func(w http.ResponseWriter, m Mode)) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch m := d.Mode(); {
		case m == Forbidden, (m == Full || m == Lying) && writes(r):
			refuse(w, m)
		case m == Endless:
			endless(w, r)
		default:
			next.ServeHTTP(w, r)
		}
	})
}

// endless answers anything with XML that goes on until nobody reads it any more, or half a gigabyte was taken.
func endless(w http.ResponseWriter, r *http.Request) {
	w.Header().Set("Content-Type", "application/xml")
	w.Header().Set("Last-Modified", time.Now().UTC().Format(http.TimeFormat))
	w.Header().Set("ETag", `"00000000000000000000000000000000"`)
	if r.Method == "PROPFIND" {
		w.WriteHeader(http.StatusMultiStatus)
	}
	io.WriteString(w, `<?xml version="1.0"?><a>`)
	part := []byte("<b>" + strings.Repeat("x", 32<<10) + "</b>")
	for n := 0; n < 512<<20; n += len(part) {
		if _, err := w.Write(part); err != nil {
			return
		}
	}
}
