package smtp

import (
	"bytes"
	"encoding/base64"
	"fmt"
	"io"
	"mime"
	"mime/multipart"
	"net"
	"net/mail"
	"strings"
	"testing"
	"time"

	library "github.com/emersion/go-smtp"

	"amberseal/app/notify"
	"amberseal/core/account"
)

// shelf is a server that keeps letters as they came.
type shelf struct{ letters [][]byte }

func (s *shelf) NewSession(*library.Conn) (library.Session, error) { return s, nil }
func (s *shelf) Reset()                                            {}
func (s *shelf) Logout() error                                     { return nil }
func (s *shelf) Mail(string, *library.MailOptions) error           { return nil }
func (s *shelf) Rcpt(string, *library.RcptOptions) error           { return nil }
func (s *shelf) Data(r io.Reader) error {
	raw, err := io.ReadAll(r)
	s.letters = append(s.letters, raw)
	return err
}

// A letter comes the same by chunks as by lines that end with a dot, whatever its size and whatever its lines begin and end with; the
// judge of both is the reader of MIME of the standard library.
func TestChunksAndDotsBringTheSame(t *testing.T) {
	s := &shelf{}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	h := library.NewServer(s)
	go h.Serve(l)
	t.Cleanup(func() { h.Close() })
	p, err := newPost(Account{Account: account.Account{Host: "127.0.0.1", Port: l.Addr().(*net.TCPAddr).Port, Protection: account.None}},
		1, (&net.Dialer{}).DialContext)
	if err != nil {
		t.Fatal(err)
	}
	defer p.Close()
	for _, size := range []int{0, 1, 57, 3_000, chunkSize * 3 / 4, chunkSize, 3 * chunkSize} {
		data := bytes.Repeat([]byte{'.', '\n', 0, '\r', 255}, size/5+1)[:size]
		sent := notify.Letter{
			ID: "x", From: "desk@house.example", To: []string{"you@guest.example"}, Subject: "S", Date: time.Unix(1e9, 0),
			Text: ".\n..\nTwo\r\n.end", HTML: "<p>.\n.</p>", Attached: []notify.Attachment{{Name: "a.pdf", Data: data}},
		}
		var came [2]string
		for i, dots := range []bool{false, true} {
			line := <-p.lines
			line.dots = dots
			p.lines <- line
			if err := p.Send(t.Context(), sent); err != nil {
				t.Fatal(size, dots, err)
			}
			raw := s.letters[len(s.letters)-1]
			if bare := bytes.Count(raw, []byte("\n")) - bytes.Count(raw, []byte("\r\n")); bare != 0 {
				t.Errorf("%d lines of a letter of %d bytes end without a carriage return", bare, size)
			}
			came[i] = unfolded(t, raw)
			if !strings.Contains(came[i], base64.StdEncoding.EncodeToString(data)) {
				t.Errorf("the attachment of %d bytes is another", size)
			}
		}
		if came[0] != came[1] {
			t.Errorf("with %d bytes by chunks\n%.300s\nby dots\n%.300s", size, came[0], came[1])
		}
	}
}

// unfolded are the parts of a letter, decoded, without the boundaries between them, which are of chance.
func unfolded(t *testing.T, raw []byte) string {
	m, err := mail.ReadMessage(bytes.NewReader(raw))
	if err != nil {
		t.Fatal(err)
	}
	var out strings.Builder
	var walk func(kind string, r io.Reader)
	walk = func(kind string, r io.Reader) {
		media, with, err := mime.ParseMediaType(kind)
		if err != nil {
			t.Fatal(err)
		}
		if !strings.HasPrefix(media, "multipart/") {
			data, err := io.ReadAll(r)
			if err != nil {
				t.Fatal(err)
			}
			fmt.Fprintf(&out, "%s %s\n", media, bytes.ReplaceAll(data, []byte("\r\n"), nil))
			return
		}
		parts := multipart.NewReader(r, with["boundary"])
		for {
			part, err := parts.NextPart()
			if err == io.EOF {
				return
			}
			if err != nil {
				t.Fatal(err)
			}
			walk(part.Header.Get("Content-Type"), part)
		}
	}
	walk(m.Header.Get("Content-Type"), m.Body)
	return out.String()
}

// A server that says that it takes chunks and does not know the word gets the letter by another connection, once.
func TestAServerThatOnlySaysItTakesChunks(t *testing.T) {
	s := &server{say: func(command string) (string, time.Duration, bool) {
		switch command {
		case "EHLO":
			return "250-house.example\r\n250 CHUNKING", 0, false
		case "BDAT":
			return "502 5.5.1 What?", 0, false
		}
		return "", 0, false
	}}
	for i, err := range send(t, s, 2, 40) {
		if err != nil {
			t.Errorf("letter %d: %v", i, err)
		}
	}
	if s.letters != 2 || s.calls != 2 {
		t.Errorf("%d letters came by %d connections", s.letters, s.calls)
	}
}
