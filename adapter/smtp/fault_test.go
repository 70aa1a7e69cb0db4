package smtp

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"net"
	"regexp"
	"strings"
	"sync"
	"testing"
	"testing/synctest"
	"time"

	"amberseal/app/notify"
	"amberseal/app/work"
	"amberseal/core/account"
)

// server answers one connection after another by a script: what it says to a command, how late, and whether it hangs up then.
// Time is that of the bubble, so that minutes pass in a moment.
type server struct {
	greeting string
	say      func(command string) (answer string, late time.Duration, hangUp bool)

	mu      sync.Mutex
	letters int // that were taken whole
	calls   int
}

// grammar is what a command must look like, to the letter (RFC 5321 sections 4.1.1.2 and 4.1.1.3, with the parameters of RFC 6152 and
// RFC 6531): paths stand in brackets, no space is beside the colon, and a line ends with CR LF.
var grammar = map[string]*regexp.Regexp{
	"EHLO": regexp.MustCompile(`^EHLO [A-Za-z0-9.-]+\r\n$`),
	"MAIL": regexp.MustCompile(`^MAIL FROM:<([^<>\s@]+@[^<>\s@]+)?>( BODY=8BITMIME)?( SMTPUTF8)?\r\n$`),
	"RCPT": regexp.MustCompile(`^RCPT TO:<("[^"]+"|[^<>\s@"]+)@[^<>\s@]+>\r\n$`),
}

func (s *server) dial(context.Context, string, string) (net.Conn, error) {
	ours, theirs := net.Pipe()
	s.mu.Lock()
	s.calls++
	s.mu.Unlock()
	go s.serve(theirs)
	return ours, nil
}

func (s *server) serve(c net.Conn) {
	defer c.Close()
	in := bufio.NewReader(c)
	if s.greeting == "" {
		s.greeting = "220 house.example"
	}
	fmt.Fprintf(c, "%s\r\n", s.greeting)
	inData := false
	for {
		line, err := in.ReadString('\n')
		if err != nil {
			return
		}
		command := strings.ToUpper(strings.Fields(line + " x")[0])
		if inData {
			if strings.TrimRight(line, "\r\n") != "." {
				continue
			}
			inData, command = false, "END"
			s.mu.Lock()
			s.letters++
			s.mu.Unlock()
		}
		answer, late, hangUp := s.say(command)
		if want := grammar[command]; want != nil && !want.MatchString(line) {
			answer, late, hangUp = "501 5.5.4 syntax error", 0, false
		}
		if answer == "" {
			answer = map[string]string{"DATA": "354 go on", "EHLO": "250 8BITMIME"}[command]
		}
		if answer == "" {
			answer = "250 ok"
		}
		time.Sleep(late)
		if answer != "-" {
			fmt.Fprintf(c, "%s\r\n", answer)
		}
		if hangUp {
			return
		}
		inData = command == "DATA" && strings.HasPrefix(answer, "354")
	}
}

func send(t *testing.T, s *server, letters int, size int) (errs []error) {
	t.Helper()
	p, err := newPost(Account{Account: account.Account{Host: "mail.house.example", Port: 25, Protection: account.None}}, 1, s.dial)
	if err != nil {
		t.Fatal(err)
	}
	defer p.Close()
	for range letters {
		errs = append(errs, p.Send(t.Context(), notify.Letter{
			ID: "x", From: "desk@house.example", To: []string{"you@guest.example"}, Subject: "S", Text: "T", HTML: "H",
			Attached: []notify.Attachment{{Name: "a.pdf", Data: make([]byte, size)}},
		}))
	}
	return errs
}

// Servers as there are: each letter that was taken is told as sent, once, and what a refusal concerns decides what becomes of it.
func TestServersThatAreOdd(t *testing.T) {
	none := func(string) (string, time.Duration, bool) { return "", 0, false }
	at := func(command, answer string, late time.Duration, hangUp bool) func(string) (string, time.Duration, bool) {
		return func(c string) (string, time.Duration, bool) {
			if c == command {
				return answer, late, hangUp
			}
			return "", 0, false
		}
	}
	type want struct {
		sent, outage, unsure, gaveUp bool
		words                        string
	}
	sent, outage := want{sent: true}, want{outage: true}
	for _, c := range []struct {
		what     string
		greeting string
		say      func(string) (string, time.Duration, bool)
		want     want
	}{
		{"a good one", "", none, sent},
		{"it closes after its 250", "", at("END", "", 0, true), sent},
		{"it refuses RSET", "", at("RSET", "502 no", 0, false), sent},
		{"it answers the end after 25 s", "", at("END", "", 25*time.Second, false), sent},
		{"it answers the end after nine minutes", "", at("END", "", 9*time.Minute, false), sent},
		{"its answer to the end is lost", "", at("END", "-", 0, true), want{unsure: true, words: "broke off"}},
		{"it never answers the end", "", at("END", "-", 11*time.Minute, false), want{unsure: true}},
		{"its EHLO is slow", "", at("EHLO", "250 8BITMIME", 15*time.Second, false), sent},
		{"its RCPT is slow", "", at("RCPT", "", 110*time.Second, false), sent},
		{"it hangs", "", at("EHLO", "-", time.Hour, false), want{outage: true, words: "answers too slowly"}},
		{"a greeting without an end", strings.Repeat("220 welcome ", 1<<20), none, want{outage: true, words: "sends more"}},
		{"an EHLO without an end", "", at("EHLO", strings.Repeat("250-X\r\n", 1<<20), 0, false), want{outage: true, words: "sends more"}},
		{"long words", "", at("RCPT", "550 call +44 900 "+strings.Repeat("9", 300), 0, false), want{gaveUp: true, words: "99… (550)"}},
		{"greeting 421", "421 too busy", none, want{outage: true, words: "too busy (421)"}},
		{"greeting 554", "554 go away", none, want{outage: true, words: "go away (554)"}},
		{"sender refused", "", at("MAIL", "550 5.7.1 no such sender", 0, false), want{outage: true, words: "no such sender (550)"}},
		{"sender later", "", at("MAIL", "450 later", 0, false), outage},
		{"password first", "", at("MAIL", "530 5.7.0 authenticate first", 0, false), outage},
		{"recipient refused", "", at("RCPT", "550 5.1.1 no such mailbox", 0, false), want{gaveUp: true, words: "no such mailbox (550)"}},
		{"recipient later", "", at("RCPT", "451 4.7.1 come back later", 0, false), want{words: "come back later (451)"}},
		{"data refused", "", at("DATA", "554 no", 0, false), want{gaveUp: true}},
		{"end refused", "", at("END", "552 too large", 0, false), want{gaveUp: true, words: "too large (552)"}},
		{"end later", "", at("END", "452 disk full", 0, false), want{words: "disk full (452)"}},
		{"it closes at the end with 421", "", at("END", "421 shutting down", 0, true), outage},
		{"it hangs up at DATA", "", at("DATA", "-", 0, true), outage},
	} {
		synctest.Test(t, func(t *testing.T) {
			s := &server{greeting: c.greeting, say: c.say}
			for n, err := range send(t, s, 2, 1000) {
				var again work.Again
				var giveUp work.GiveUp
				errors.As(err, &again)
				got := want{sent: err == nil, outage: again.Outage, unsure: again.Unsure, gaveUp: errors.As(err, &giveUp)}
				if err != nil && !strings.Contains(err.Error(), c.want.words) {
					t.Errorf("%s, letter %d: says %q, want %q in it", c.what, n+1, err, c.want.words)
				}
				if got.words = c.want.words; got != c.want {
					t.Errorf("%s, letter %d: %+v (%v), want %+v", c.what, n+1, got, err, c.want)
				}
			}
			time.Sleep(2 * time.Hour) // the server says what nobody hears
			if c.want.sent && s.letters != 2 {
				t.Errorf("%s: it has %d copies of two letters", c.what, s.letters)
			}
		})
	}
}

// slow is a line that carries so many bytes a second.
type slow struct {
	net.Conn
	rate int
}

func (s slow) Write(b []byte) (int, error) {
	time.Sleep(time.Duration(len(b)) * time.Second / time.Duration(s.rate))
	return s.Conn.Write(b)
}

// A large letter on a slow line takes its time and is no outage.
func TestALargeLetterOnASlowLine(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		s := &server{say: func(string) (string, time.Duration, bool) { return "", 0, false }}
		p, err := newPost(
			Account{Account: account.Account{Host: "mail.house.example", Port: 25, Protection: account.None}},
			1,
			func(ctx context.Context, network, address string) (net.Conn, error) {
				c, err := s.dial(ctx, network, address)
				return slow{c, 20_000}, err
			},
		)
		if err != nil {
			t.Fatal(err)
		}
		defer p.Close()
		began := time.Now()
		err = p.Send(
			t.Context(),
			notify.Letter{
				ID:       "x",
				From:     "a@house.example",
				To:       []string{"b@guest.example"},
				Attached: []notify.Attachment{{Name: "a.pdf", Data: make([]byte, 6<<20)}},
			},
		)
		if took := time.Since(began); err != nil || s.letters != 1 || took < 5*time.Minute {
			t.Errorf("after %v: %v, %d letters", took, err, s.letters)
		}
	})
}

// A program that stops waits a moment for the answer to a letter that was handed over, and for nothing else.
func TestAStopInTheMiddle(t *testing.T) {
	for _, c := range []struct {
		command string
		late    time.Duration
		sent    bool
	}{{"END", 5 * time.Second, true}, {"END", time.Minute, false}, {"RCPT", time.Minute, false}} {
		synctest.Test(t, func(t *testing.T) {
			s := &server{say: func(command string) (string, time.Duration, bool) {
				if command == c.command {
					return "", c.late, false
				}
				return "", 0, false
			}}
			p, err := newPost(Account{Account: account.Account{Host: "mail.house.example", Port: 25, Protection: account.None}}, 1, s.dial)
			if err != nil {
				t.Fatal(err)
			}
			ctx, cancel := context.WithCancel(t.Context())
			time.AfterFunc(time.Second, cancel)
			began := time.Now()
			err = p.Send(ctx, notify.Letter{ID: "x", From: "a@house.example", To: []string{"b@guest.example"}})
			if took := time.Since(began); (err == nil) != c.sent || took > 12*time.Second {
				t.Errorf("stopped while %s takes %v: %v after %v", c.command, c.late, err, took)
			}
			p.Close()
			time.Sleep(2 * time.Minute) // the server says what nobody hears
		})
	}
}
