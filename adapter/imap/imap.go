// Package imap reads messages from a mailbox by IMAP (RFC 9051, RFC 3501).
package imap

import (
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"io"
	"net"
	"slices"
	"strconv"
	"time"

	"github.com/emersion/go-imap/v2"
	"github.com/emersion/go-imap/v2/imapclient"

	"amberseal/adapter/reach"
	"amberseal/app/bounces"
	"amberseal/app/work"
	"amberseal/core/account"
	"amberseal/core/words/quote"
)

// Inbox is a mailbox. It deletes and moves nothing; of what was taken it says that it was read.
type Inbox struct {
	of     account.Inbox
	secret string
}

// Open makes one; nothing is reached yet.
func Open(of account.Inbox, secret string) *Inbox { return &Inbox{of, secret} }

const (
	dialTime = 20 * time.Second
	longest  = 5 * time.Minute // of one look
	look     = 7               // days back at the first look
	most     = 500             // messages of one look
	largest  = 4 << 20         // bytes of a message that is read: reports are small
)

// Read gives what came since a place, the oldest first, and gives the place behind it. What take takes is marked as read.
func (b *Inbox) Read(ctx context.Context, since bounces.Place, take func(raw []byte) (taken bool, err error)) (bounces.Place, error) {
	ctx, cancel := context.WithTimeout(ctx, longest)
	defer cancel()
	c, line, err := b.connect(ctx)
	if err != nil {
		return since, err
	}
	defer c.Close()
	end := context.AfterFunc(ctx, func() { c.Close() })
	defer end()
	if err := c.Login(b.of.User, b.secret).Wait(); err != nil {
		return since, b.told(ctx, err, "does not let “"+b.of.User+"” sign in")
	}
	box, err := c.Select(b.of.FolderOrUsual(), nil).Wait()
	if err != nil {
		return since, b.told(ctx, err, "has no folder “"+b.of.FolderOrUsual()+"”")
	}
	if since.Validity != box.UIDValidity { // its numbers mean other messages now
		since = bounces.Place{Validity: box.UIDValidity}
	}
	uids, err := b.search(ctx, c, since)
	if err != nil {
		return since, err
	}
	for _, uid := range uids {
		line.Allow(largest)
		taken, err := b.one(ctx, c, uid, take)
		if err != nil {
			return since, err
		}
		if taken {
			seen := imap.StoreFlags{Op: imap.StoreFlagsAdd, Flags: []imap.Flag{imap.FlagSeen}, Silent: true}
			if err := c.Store(imap.UIDSetNum(uid), &seen, nil).Close(); err != nil {
				return since, b.told(ctx, err, "does not let messages be marked as read")
			}
		}
		since.Last = uint32(uid)
	}
	c.Logout().Wait() // whatever it answers: all is done
	return since, nil
}

func (b *Inbox) search(ctx context.Context, c *imapclient.Client, since bounces.Place) ([]imap.UID, error) {
	var what imap.SearchCriteria
	if since.Last == 0 {
		what.Since = time.Now().AddDate(0, 0, -look)
	} else {
		what.UID = []imap.UIDSet{{imap.UIDRange{Start: imap.UID(since.Last) + 1}}} // up to *
	}
	found, err := c.UIDSearch(&what, nil).Wait()
	if err != nil {
		return nil, b.told(ctx, err, "cannot be searched")
	}
	// “n:*” is the last message where there is none from n on (RFC 9051 section 9).
	uids := slices.DeleteFunc(found.AllUIDs(), func(u imap.UID) bool { return uint32(u) <= since.Last })
	slices.Sort(uids)
	return uids[:min(len(uids), most)], nil
}

// one reads a message without marking it. One that is too large to be a report is passed over.
func (b *Inbox) one(ctx context.Context, c *imapclient.Client, uid imap.UID, take func([]byte) (bool, error)) (bool, error) {
	whole := &imap.FetchItemBodySection{Peek: true, Partial: &imap.SectionPartial{Size: largest}}
	fetch := c.Fetch(imap.UIDSetNum(uid), &imap.FetchOptions{UID: true, BodySection: []*imap.FetchItemBodySection{whole}})
	defer fetch.Close()
	for m := fetch.Next(); m != nil; m = fetch.Next() {
		for item := m.Next(); item != nil; item = m.Next() {
			body, ok := item.(imapclient.FetchItemDataBodySection)
			if !ok || body.Literal == nil {
				continue
			}
			raw, err := io.ReadAll(body.Literal)
			if err != nil {
				return false, b.told(ctx, err, "cannot be read")
			}
			if err := fetch.Close(); err != nil {
				return false, b.told(ctx, err, "cannot be read")
			}
			return take(raw)
		}
	}
	return false, nil // it is gone by now
}

func (b *Inbox) connect(ctx context.Context) (*imapclient.Client, *reach.Line, error) {
	address := net.JoinHostPort(b.of.Host, strconv.Itoa(b.of.PortOrUsual()))
	socket, err := (&net.Dialer{Timeout: dialTime}).DialContext(ctx, "tcp", address)
	if err != nil {
		return nil, nil, b.told(ctx, err, "")
	}
	line := reach.NewLine(socket)
	line.Allow(largest)
	settings := &tls.Config{ServerName: b.of.Host, MinVersion: tls.VersionTLS12, NextProtos: []string{"imap"}}
	if b.of.Protection == account.StartTLS {
		c, err := imapclient.NewStartTLS(line, &imapclient.Options{TLSConfig: settings})
		if err != nil {
			line.Close()
			return nil, nil, b.told(ctx, err, "")
		}
		return c, line, nil
	}
	var spoken net.Conn = line
	if b.of.Protection == account.TLS {
		secure := tls.Client(line, settings)
		if err := secure.HandshakeContext(ctx); err != nil {
			line.Close()
			return nil, nil, b.told(ctx, err, "")
		}
		spoken = secure
	}
	c := imapclient.New(spoken, nil)
	if err := c.WaitGreeting(); err != nil {
		c.Close()
		return nil, nil, b.told(ctx, err, "")
	}
	return c, line, nil
}

// told is an error in words: what the server refused, or why there is no connection.
func (b *Inbox) told(ctx context.Context, err error, refused string) error {
	where := fmt.Sprintf("The mailbox at %s", b.of.Host)
	var said *imap.Error
	if errors.As(err, &said) && refused != "" {
		return work.Again{Reason: where + " " + refused + ": " + quote.Words(said.Text) + ".", Outage: true}
	}
	return reach.Told(ctx, where, err)
}
