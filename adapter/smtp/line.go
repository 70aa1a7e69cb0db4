package smtp

import (
	"context"
	"crypto/tls"
	"errors"
	"io"
	"net"
	"net/textproto"
	"sync/atomic"
	"time"

	"github.com/wneessen/go-mail"
	gosmtp "github.com/wneessen/go-mail/smtp"

	"amberseal/adapter/reach"
	"amberseal/app/notify"
	"amberseal/core/account"
)

// How long the server may take. RFC 5321 section 4.5.3.2 asks for five minutes a command, three for a part of the letter and ten
// for the end of it, since filters read the whole letter then; commands get two, so that a server that hangs is told before long.
const (
	dialTime    = 20 * time.Second
	commandTime = 2 * time.Minute
	partTime    = 3 * time.Minute
	endTime     = 10 * time.Minute
	noopTime    = 10 * time.Second
	stopTime    = 10 * time.Second // for the answer to a letter's end when the program stops
)

// line is one connection to the server, kept between letters. One goroutine uses it at a time.
type line struct {
	client *mail.Client
	conn   *reach.Line // the socket itself, under TLS where that is used
	smtp   *gosmtp.Client
	dots   bool // the server takes no chunks, whatever it says
}

// dialer makes connections.
type dialer func(ctx context.Context, network, address string) (net.Conn, error)

func newLine(a Account, reached dialer) (*line, error) {
	l := &line{}
	dial := func(ctx context.Context, network, address string) (net.Conn, error) {
		socket, err := reached(ctx, network, address)
		if err != nil {
			return nil, err
		}
		conn := reach.NewLine(socket)
		l.conn = conn
		if a.Protection != account.TLS {
			return conn, nil
		}
		secured := tls.Client(conn, &tls.Config{ServerName: a.Host, MinVersion: tls.VersionTLS12})
		if err := secured.HandshakeContext(ctx); err != nil {
			conn.Close()
			return nil, err
		}
		return secured, nil
	}
	options := []mail.Option{
		mail.WithPort(a.PortOrUsual()),
		mail.WithTimeout(dialTime),
		mail.WithHELO("amberseal.localhost"),
		mail.WithDialContextFunc(dial),
	}
	switch a.Protection {
	case account.None:
		options = append(options, mail.WithTLSPolicy(mail.NoTLS))
	case account.StartTLS:
		options = append(options, mail.WithTLSPolicy(mail.TLSMandatory))
	case account.TLS:
		options = append(options, mail.WithSSL())
	}
	if a.User != "" {
		kind := mail.SMTPAuthAutoDiscover
		if a.Protection == account.None {
			kind = mail.SMTPAuthPlainNoEnc // asked for by smtp+plain://; the library sends no password in the clear by itself
		}
		options = append(options, mail.WithSMTPAuth(kind), mail.WithUsername(a.User), mail.WithPassword(a.Password))
	}
	var err error
	l.client, err = mail.NewClient(a.Host, options...)
	return l, err
}

// ready gives the line a connection that answers.
func (l *line) ready(ctx context.Context) error {
	if l.smtp != nil {
		l.allow(noopTime)
		if l.smtp.Noop() == nil {
			return nil
		}
		l.drop()
	}
	var err error
	if l.smtp, err = l.client.DialToSMTPClientWithContext(ctx); err != nil {
		l.drop()
	}
	return err
}

// drop lets go of a connection that is of no use any more.
func (l *line) drop() {
	if l.conn != nil {
		l.conn.Close() // nothing is under way on it
	}
	l.smtp, l.conn = nil, nil
}

// close says goodbye.
func (l *line) close() {
	if l.smtp != nil {
		l.allow(noopTime)
		l.smtp.Quit() // the letters are delivered; a failing goodbye changes nothing
	}
	l.drop()
}

func (l *line) allow(d time.Duration) {
	if l.conn != nil {
		l.conn.Allow(0)
		l.conn.SetDeadline(time.Now().Add(d)) // a closed connection tells its fault at the next command
	}
}

// stage is how far a letter came.
type stage int

const (
	atSender stage = iota
	atRecipient
	atData
	atPart
	atEnd
)

// refused is a letter that was not taken, and where.
type refused struct {
	at  stage
	err error
}

func (r refused) Error() string { return r.err.Error() }

// code is the server's reply code, or 0 where there was no reply.
func (r refused) code() int {
	var said *textproto.Error
	if errors.As(r.err, &said) {
		return said.Code
	}
	return 0
}

// errNoChunks is that of a server which says that it takes chunks and does not know the word after all. What it made of the chunk is not
// known, so that the letter goes again by another connection.
var errNoChunks = errors.New("the server takes no chunks")

// deliver hands a letter over. The error is a refused, or errNoChunks. When the context ends the connection breaks off at once, but
// for a moment that the answer to a letter's end has.
func (l *line) deliver(ctx context.Context, msg letter) (err error) {
	var ended atomic.Bool
	conn := l.conn
	stop := context.AfterFunc(ctx, func() {
		if ended.Load() {
			conn.SetDeadline(time.Now().Add(stopTime))
			return
		}
		conn.SetDeadline(time.Now())
	})
	defer stop()
	allow := func(d time.Duration) error { l.allow(d); return ctx.Err() } // the end that came before it is seen here
	step := func(at stage, d time.Duration, do func() error) error {
		if err := allow(d); err != nil {
			return refused{at, err}
		}
		if err := do(); err != nil {
			return refused{at, err}
		}
		return nil
	}
	if err := step(atSender, commandTime, func() error { return l.smtp.Mail(msg.from) }); err != nil {
		return err
	}
	refusedTo, err := l.recipients(msg.to, step)
	if err != nil {
		return err
	}
	defer func() {
		if err == nil && len(refusedTo) > 0 {
			err = notify.Partly{Left: refusedTo}
		}
	}()
	end := func() error {
		ended.Store(true)
		l.allow(endTime)
		if ctx.Err() != nil {
			l.allow(stopTime)
		}
		return nil
	}
	if ok, _ := l.smtp.Extension("CHUNKING"); ok && !l.dots {
		c := &chunks{text: l.smtp.Text, part: func() error { return allow(partTime) }, ending: end}
		if _, err = msg.WriteTo(c); err != nil && !c.unknown(err) {
			return refused{atPart, err}
		}
		if err == nil {
			err = c.Close()
		}
		switch {
		case c.unknown(err):
			l.dots = true
			return errNoChunks
		case err != nil:
			return refused{atEnd, err}
		}
		return nil
	}
	var body io.WriteCloser
	if err := step(atData, commandTime, func() (err error) { body, err = l.smtp.Data(); return err }); err != nil {
		return err
	}
	if _, err := msg.WriteTo(parts{body, func() error { return allow(partTime) }}); err != nil {
		return refused{atPart, err}
	}
	end()
	if err := body.Close(); err != nil {
		return refused{atEnd, err}
	}
	return nil
}

// recipients names whom a letter is for. Those that the server refuses among others are given back; where it takes none, or does not
// answer, that is the error: of two the one that may pass.
func (l *line) recipients(to []recipient, step func(stage, time.Duration, func() error) error) (left []string, err error) {
	for _, who := range to {
		e := step(atRecipient, commandTime, func() error { return l.smtp.Rcpt(who.path) })
		var r refused
		if e == nil {
			continue
		}
		if !errors.As(e, &r) || r.code() == 0 || r.code() == 421 {
			return nil, e
		}
		if left = append(left, who.address); err == nil || r.code() < 500 {
			err = e
		}
	}
	if len(left) < len(to) {
		return left, nil
	}
	return nil, err
}

// parts writes a letter in parts, each with time of its own: a large letter on a slow line is no outage.
type parts struct {
	io.Writer
	allow func() error
}

const partSize = 32 << 10

func (p parts) Write(b []byte) (n int, err error) {
	for len(b) > 0 {
		if err := p.allow(); err != nil {
			return n, err
		}
		wrote, err := p.Writer.Write(b[:min(len(b), partSize)])
		if n += wrote; err != nil {
			return n, err
		}
		b = b[wrote:]
	}
	return n, nil
}
