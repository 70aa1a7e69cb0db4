package reach_test

import (
	"errors"
	"io"
	"net/http"
	"net/http/httptest"
	"strings"
	"sync/atomic"
	"testing"

	"amberseal/adapter/bucket"
	"amberseal/adapter/share"
	"amberseal/app/file"
	"amberseal/app/work"
	"amberseal/core/destination"
)

// A server that sends us on to another one, or to another scheme, gets nothing there: what is entered is the only one that is spoken to,
// and the answer of another is never given. On to itself a reading goes, as servers do that tidy a path.
func TestSentOn(t *testing.T) {
	var strangers atomic.Int32
	stranger := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		strangers.Add(1)
		io.WriteString(w, "INTERNAL")
	}))
	defer stranger.Close()
	for _, status := range []int{302, 307} {
		server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			http.Redirect(w, r, stranger.URL+r.URL.Path, status)
		}))
		b, err := bucket.Open(destination.Destination{Kind: destination.Bucket, Address: server.URL, Bucket: "records",
			Region: "eu-central-1", User: "x"}, "y")
		if err != nil {
			t.Fatal(err)
		}
		s, err := share.Open(destination.Destination{Kind: destination.Share, Address: server.URL, User: "x"}, "y")
		if err != nil {
			t.Fatal(err)
		}
		for name, p := range map[string]file.Place{"bucket": b, "share": s} {
			_, read := p.Read(t.Context(), "a.pdf", 100)
			_, list := p.List(t.Context(), "")
			for what, err := range map[string]error{
				"a file": read, "a list": list, "filing": p.Create(t.Context(), "a.pdf", file.File{Data: []byte("x")}),
				"moving": p.Move(t.Context(), "a.pdf", "b.pdf"), "removing": p.Remove(t.Context(), "a.pdf"),
			} {
				var again work.Again
				if !errors.As(err, &again) || !again.Outage || !strings.Contains(again.Reason, "sends us on to") {
					t.Errorf("%s, %s by %d: %v", name, what, status, err)
				}
			}
		}
		server.Close()
	}
	if n := strangers.Load(); n > 0 {
		t.Errorf("the other server was asked %d times", n)
	}

	server := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch {
		case r.Method == "PROPFIND":
			http.NotFound(w, r)
		case r.URL.Path == "/a.pdf":
			http.Redirect(w, r, "/there/a.pdf", http.StatusFound)
		default:
			io.WriteString(w, "of our own")
		}
	}))
	defer server.Close()
	s, err := share.Open(destination.Destination{Kind: destination.Share, Address: server.URL, User: "x"}, "y")
	if err != nil {
		t.Fatal(err)
	}
	if have, err := s.Read(t.Context(), "a.pdf", 100); err != nil || string(have) != "of our own" {
		t.Errorf("sent on to itself it reads %q: %v", have, err)
	}
}
