package imap_test

import (
	"bufio"
	"errors"
	"fmt"
	"net"
	"strconv"
	"strings"
	"testing"
	"time"

	goimap "github.com/emersion/go-imap/v2"
	"github.com/emersion/go-imap/v2/imapclient"

	"amberseal/adapter/imap"
	"amberseal/app/bounces"
	"amberseal/app/work"
	"amberseal/core/account"
	"amberseal/standin/mailbox"
)

var unseen = &goimap.SearchCriteria{NotFlag: []goimap.Flag{goimap.FlagSeen}}

// A mailbox is read from where it was read last, each message once; what is taken is marked as read and all else left as it was; an end
// in the middle begins again with the message that was not taken; and what a server refuses is said in words.
func TestAMailboxIsReadOnwards(t *testing.T) {
	box, err := mailbox.Open("127.0.0.1:0", t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	host, port, err := box.OpenReturns(nil)
	if err != nil {
		t.Fatal(err)
	}
	defer box.CloseReturns()
	deliver := func(n int) {
		if err := box.Deliver(fmt.Appendf(nil, "Subject: %d\r\n\r\n%s\r\n", n, strings.Repeat("x", n))); err != nil {
			t.Fatal(err)
		}
	}
	for n := range 5 {
		deliver(n)
	}
	of := account.Inbox{Host: host, Port: port, Protection: account.None, User: mailbox.ReturnsUser}
	inbox := imap.Open(of, mailbox.ReturnsPassword)
	var got []string
	stop := errors.New("stop")
	read := func(since bounces.Place, until string) bounces.Place {
		t.Helper()
		place, err := inbox.Read(t.Context(), since, func(raw []byte) (bool, error) {
			subject, _, _ := strings.Cut(strings.TrimPrefix(string(raw), "Subject: "), "\r\n")
			if subject == until {
				return false, stop
			}
			got = append(got, subject)
			return subject != "1", nil
		})
		if until == "" && err != nil || until != "" && !errors.Is(err, stop) {
			t.Fatal(err)
		}
		return place
	}
	place := read(bounces.Place{}, "3")
	place = read(place, "")
	place = read(place, "")
	deliver(5)
	place = read(place, "")
	if strings.Join(got, " ") != "0 1 2 3 4 5" {
		t.Errorf("it read %q", got)
	}
	read(bounces.Place{Validity: place.Validity + 1, Last: 99}, "") // the server numbers anew
	if len(got) != 12 {
		t.Errorf("numbered anew it read %q", got)
	}

	c, err := imapclient.DialInsecure(net.JoinHostPort(host, strconv.Itoa(port)), nil)
	if err == nil {
		defer c.Close()
		err = c.Login(mailbox.ReturnsUser, mailbox.ReturnsPassword).Wait()
	}
	if err == nil {
		_, err = c.Select("INBOX", nil).Wait()
	}
	if err != nil {
		t.Fatal(err)
	}
	if unread, err := c.Search(unseen, nil).Wait(); err != nil || fmt.Sprint(unread.AllSeqNums()) != "[2]" {
		t.Errorf("unread are %v, %v", unread, err)
	}

	for what, c := range map[string]struct {
		of     account.Inbox
		secret string
		says   string
	}{
		"a wrong password": {of, "wrong", "does not let “returns” sign in"},
		"no such folder": {
			account.Inbox{Host: host, Port: port, Protection: account.None, User: of.User, Folder: "Nowhere"}, "", "Nowhere",
		},
		"nothing that hears": {account.Inbox{Host: host, Port: 1, Protection: account.None, User: of.User}, "", "nothing listens there"},
		"no TLS":             {account.Inbox{Host: host, Port: port, Protection: account.TLS, User: of.User}, "", "does not speak TLS"},
	} {
		if c.secret == "" {
			c.secret = mailbox.ReturnsPassword
		}
		begun := time.Now()
		_, err := imap.Open(c.of, c.secret).Read(t.Context(), bounces.Place{}, nil)
		if again := (work.Again{}); !errors.As(err, &again) || !strings.Contains(again.Reason, c.says) || time.Since(begun) > time.Minute {
			t.Errorf("%s: %v", what, err)
		}
	}
}

// A mailbox that gives a message without an end is hung up.
func TestAMailboxWithoutAnEnd(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	defer l.Close()
	sent := make(chan int, 1)
	go func() {
		c, err := l.Accept()
		if err != nil {
			return
		}
		defer c.Close()
		fmt.Fprint(c, "* OK [CAPABILITY IMAP4rev1] ready\r\n")
		for in := bufio.NewScanner(c); in.Scan(); {
			tag, command, _ := strings.Cut(in.Text(), " ")
			switch {
			case strings.HasPrefix(command, "SELECT"):
				fmt.Fprint(c, "* 1 EXISTS\r\n* OK [UIDVALIDITY 7] x\r\n")
			case strings.HasPrefix(command, "UID SEARCH"):
				fmt.Fprint(c, "* SEARCH 1\r\n")
			case strings.HasPrefix(command, "UID FETCH"):
				fmt.Fprint(c, "* 1 FETCH (UID 1 BODY[]<0> {629145600}\r\n")
				part := make([]byte, 64<<10)
				n := 0
				for err == nil && n < 600<<20 {
					_, err = c.Write(part)
					n += len(part)
				}
				sent <- n
				return
			}
			fmt.Fprintf(c, "%s OK done\r\n", tag)
		}
	}()
	port := l.Addr().(*net.TCPAddr).Port
	of := account.Inbox{Host: "127.0.0.1", Port: port, Protection: account.None, User: "x"}
	_, err = imap.Open(of, "y").Read(t.Context(), bounces.Place{}, func([]byte) (bool, error) {
		t.Error("it was taken")
		return true, nil
	})
	if again := (work.Again{}); !errors.As(err, &again) || !again.Outage || !strings.Contains(again.Reason, "sends more than") {
		t.Errorf("it is told as %v", err)
	}
	if n := <-sent; n > 32<<20 {
		t.Errorf("%d bytes were taken", n)
	}
}
