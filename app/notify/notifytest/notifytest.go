// Package notifytest holds posts against what package notify asks of them.
package notifytest

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"strings"
	"sync"
	"testing"
	"time"

	"amberseal/app/notify"
	"amberseal/app/work"
)

// Post is one that is held against the suite, and its other end.
type Post struct {
	notify.Post
	Arrived func() []Arrived
	Out     func(out bool) // switches the server off, and on again; nil where that cannot be done
	Busy    string         // an address that takes nothing at present, or empty
	Gone    string         // an address that is none, or empty
}

// Arrived is a letter at the other end.
type Arrived struct {
	ID       string // its Message-ID, without brackets
	To       []string
	Subject  string
	Text     string
	Attached map[string][]byte
}

// TestPost runs the suite. open gives one by which nothing has gone yet. Every post must pass it.
func TestPost(t *testing.T, open func(t *testing.T) Post) {
	for name, test := range map[string]func(*testing.T, Post){
		"whole":        whole,
		"one letter":   oneLetter,
		"many at once": manyAtOnce,
		"verdicts":     verdicts,
		"out and back": outAndBack,
		"a stop":       stopped,
	} {
		t.Run(name, func(t *testing.T) { test(t, open(t)) })
	}
}

func letter(n int, to ...string) notify.Letter {
	return notify.Letter{
		ID: fmt.Sprintf("letter.%d", n), FromName: `Tarn "Hollow" Łódź`, From: "desk@house.example", To: to,
		Subject: fmt.Sprintf("Größe %d", n),
		Text:    "Grüße,\n.\nŁucja", HTML: "<p>Grüße,</p>", Date: time.Unix(1_800_000_000, 0),
	}
}

// A letter arrives with all it has, at everybody it is for.
func whole(t *testing.T, p Post) {
	l := letter(1, "ann@reader.example", "bob@reader.example")
	l.Attached = []notify.Attachment{
		{Name: "Łucja 1.pdf", Data: []byte("%PDF-1.7 \x00\xff\r\n.\r\n")},
		{Name: "large.pdf", Data: bytes.Repeat([]byte("%PDF"), 500_000)},
	}
	if err := p.Send(t.Context(), l); err != nil {
		t.Fatal(err)
	}
	all := p.Arrived()
	if len(all) != 1 {
		t.Fatalf("%d letters arrived", len(all))
	}
	a := all[0]
	if strings.Join(a.To, " ") != "ann@reader.example bob@reader.example" || a.Subject != l.Subject || !strings.Contains(a.Text, "Łucja") ||
		!strings.HasPrefix(a.ID, l.ID) {
		t.Errorf("arrived has %q %q %q %q", a.ID, a.To, a.Subject, a.Text)
	}
	for _, x := range l.Attached {
		if !bytes.Equal(a.Attached[x.Name], x.Data) {
			t.Errorf("%s arrived with %d bytes of %d", x.Name, len(a.Attached[x.Name]), len(x.Data))
		}
	}
}

// A letter that is sent again is the same letter, by its Message-ID; another is another.
func oneLetter(t *testing.T, p Post) {
	for _, n := range []int{1, 1, 2} {
		if err := p.Send(t.Context(), letter(n, "ann@reader.example")); err != nil {
			t.Fatal(err)
		}
	}
	if all := p.Arrived(); len(all) != 3 || all[0].ID != all[1].ID || all[1].ID == all[2].ID {
		t.Errorf("arrived are %+v", all)
	}
}

// Many at once arrive once each.
func manyAtOnce(t *testing.T, p Post) {
	var all sync.WaitGroup
	for n := range 30 {
		all.Go(func() {
			if err := p.Send(t.Context(), letter(n, "ann@reader.example")); err != nil {
				t.Error(err)
			}
		})
	}
	all.Wait()
	ids := map[string]int{}
	for _, a := range p.Arrived() {
		ids[a.ID]++
	}
	if len(ids) != 30 || len(p.Arrived()) != 30 {
		t.Errorf("%d letters arrived, %d of them different", len(p.Arrived()), len(ids))
	}
}

// Who takes nothing at present is asked again; who is not there is given up; and neither is an outage, nor in the way of the next.
func verdicts(t *testing.T, p Post) {
	var again work.Again
	if p.Busy != "" {
		if err := p.Send(t.Context(), letter(1, p.Busy)); !errors.As(err, &again) || again.Outage || again.Unsure || again.Reason == "" {
			t.Errorf("a busy mailbox: %#v", err)
		}
	}
	var giveUp work.GiveUp
	if p.Gone != "" {
		if err := p.Send(t.Context(), letter(2, p.Gone)); !errors.As(err, &giveUp) || giveUp.Reason == "" {
			t.Errorf("no mailbox: %#v", err)
		}
	}
	if err := p.Send(t.Context(), letter(3, "ann@reader.example")); err != nil || len(p.Arrived()) != 1 {
		t.Errorf("after both: %v, %d arrived", err, len(p.Arrived()))
	}
}

// While the server is out that is told as an outage; when it is back letters go on.
func outAndBack(t *testing.T, p Post) {
	if p.Out == nil {
		t.Skip("this post cannot be switched off in a test")
	}
	if err := p.Send(t.Context(), letter(1, "ann@reader.example")); err != nil {
		t.Fatal(err)
	}
	p.Out(true)
	for range 3 {
		var again work.Again
		if err := p.Send(t.Context(), letter(2, "ann@reader.example")); !errors.As(err, &again) || !again.Outage || again.Reason == "" {
			t.Errorf("while it is out: %#v", err)
		}
	}
	p.Out(false)
	if err := p.Send(t.Context(), letter(2, "ann@reader.example")); err != nil || len(p.Arrived()) != 2 {
		t.Errorf("when it is back: %v, %d arrived", err, len(p.Arrived()))
	}
}

// Who is stopped has not failed for ever, and does not wait.
func stopped(t *testing.T, p Post) {
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	begun := time.Now()
	if err := p.Send(ctx, letter(1, "ann@reader.example")); err == nil || errors.As(err, new(work.GiveUp)) ||
		time.Since(begun) > 10*time.Second {
		t.Errorf("a stop after %v: %v", time.Since(begun), err)
	}
}
