// Package vault files on a server that speaks SFTP (draft-ietf-secsh-filexfer-02).
package vault

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net"
	"os"
	"path"
	"strings"
	"sync"
	"time"

	"github.com/pkg/sftp"
	"golang.org/x/crypto/ssh"

	"amberseal/adapter/reach"
	"amberseal/app/file"
	"amberseal/app/work"
	"amberseal/core/destination"
	"amberseal/core/words/quote"
)

// Vault is a place. It keeps one connection for all who file there.
type Vault struct {
	d      destination.Destination
	secret string
	first  func(hostKey string) error // keeps the key that a server shows the first time

	mu   sync.Mutex
	line *line
}

// line is a connection that is kept.
type line struct {
	conn *reach.Line
	ssh  *ssh.Client
	*sftp.Client
}

// Open makes one; nothing is reached yet. first is called with the server's key where none is known: who changes it later is not who was
// met first (RFC 4251 section 4.1).
func Open(d destination.Destination, secret string, first func(hostKey string) error) (*Vault, error) {
	return &Vault{d: d, secret: secret, first: first}, nil
}

// Close ends the connection.
func (v *Vault) Close() {
	v.mu.Lock()
	defer v.mu.Unlock()
	v.hangUp()
}

func (v *Vault) hangUp() {
	if v.line != nil {
		v.line.Client.Close()
		v.line.ssh.Close()
		v.line = nil
	}
}

// changed is the error of a server that shows another key than before.
type changed struct{ before, now string }

func (e changed) Error() string {
	return "shows another host key (" + e.now + ") than when it was first met (" + e.before + "). If the server was really changed, " +
		"take the new key on the House page; else somebody stands between"
}

// meet holds a server's key against the one that is known.
func (v *Vault) meet(_ string, _ net.Addr, key ssh.PublicKey) error {
	shown := strings.TrimSpace(string(ssh.MarshalAuthorizedKey(key)))
	if v.d.HostKey == "" {
		if err := v.first(shown); err != nil {
			return err
		}
		v.d.HostKey = shown
		return nil
	}
	if v.d.HostKey != shown {
		return changed{destination.Fingerprint(v.d.HostKey), destination.Fingerprint(shown)}
	}
	return nil
}

// connected gives the connection that is kept, or a new one. The lock is held.
func (v *Vault) connected(ctx context.Context) (*line, error) {
	if v.line != nil {
		return v.line, nil
	}
	host, port := v.d.HostPort()
	socket, err := (&net.Dialer{}).DialContext(ctx, "tcp", net.JoinHostPort(host, port))
	if err != nil {
		return nil, err
	}
	conn := reach.NewLine(socket)
	stop := context.AfterFunc(ctx, func() { conn.SetDeadline(time.Now()) })
	defer stop()
	auth := []ssh.AuthMethod{ssh.Password(v.secret), ssh.KeyboardInteractive(v.answer)}
	if signer, err := ssh.ParsePrivateKey([]byte(v.secret)); err == nil {
		auth = []ssh.AuthMethod{ssh.PublicKeys(signer)}
	}
	c, channels, requests, err := ssh.NewClientConn(conn, host, &ssh.ClientConfig{
		User: v.d.User, Auth: auth, HostKeyCallback: v.meet, HostKeyAlgorithms: algorithms(v.d.HostKey),
	})
	if err != nil {
		conn.Close()
		return nil, err
	}
	client := ssh.NewClient(c, channels, requests)
	files, err := sftp.NewClient(client)
	if err != nil {
		client.Close()
		return nil, err
	}
	v.line = &line{conn, client, files}
	return v.line, nil
}

// algorithms asks for a key of the kind that is known, so that a server with several does not seem to be another one.
func algorithms(hostKey string) []string {
	kind, _, _ := strings.Cut(hostKey, " ")
	switch kind {
	case "":
		return nil
	case ssh.KeyAlgoRSA:
		return []string{ssh.KeyAlgoRSASHA512, ssh.KeyAlgoRSASHA256}
	}
	return []string{kind}
}

// answer gives the password to whatever a server asks.
func (v *Vault) answer(_, _ string, questions []string, _ []bool) ([]string, error) {
	out := make([]string, len(questions))
	for i := range out {
		out[i] = v.secret
	}
	return out, nil
}

// do does a task over the connection. The protocol runs one after the other on it: a task that takes too long, or a stop, breaks it off.
func (v *Vault) do(ctx context.Context, bytes int, task func(*line) error) error {
	if err := ctx.Err(); err != nil {
		return err
	}
	ctx, cancel := reach.Within(ctx, bytes)
	defer cancel()
	v.mu.Lock()
	defer v.mu.Unlock()
	for attempt := 0; ; attempt++ {
		kept := v.line != nil
		l, err := v.connected(ctx)
		if err != nil {
			return v.told(ctx, err)
		}
		l.conn.SetDeadline(time.Time{})
		l.conn.Allow(bytes)
		stop := context.AfterFunc(ctx, func() { l.conn.SetDeadline(time.Now()) })
		err = task(l)
		stop()
		if l.conn.Over() {
			v.hangUp()
			return v.told(ctx, reach.ErrTooMuch)
		}
		if broken(err) || ctx.Err() != nil {
			v.hangUp()
			if kept && attempt == 0 && ctx.Err() == nil {
				continue // it was kept too long; nothing is done twice, since a file is written beside first
			}
		}
		return v.told(ctx, err)
	}
}

// broken reports whether the connection itself failed.
func broken(err error) bool {
	var said *sftp.StatusError
	var of *fs.PathError
	return err != nil && !errors.As(err, &said) && !errors.As(err, &of) && !errors.Is(err, fs.ErrNotExist) && !errors.Is(err,
		fs.ErrExist) &&
		!errors.Is(err, fs.ErrPermission) && !errors.Is(err, file.Taken) && !errors.Is(err, file.Gone) && !errors.As(err,
		new(work.Again)) ||
		errors.Is(err, io.EOF) || errors.Is(err, sftp.ErrSSHFxConnectionLost)
}

// below is a path on the server: below its own beginning where the folder does not begin at the root.
func (v *Vault) below(name string) string {
	p := v.d.Below(name)
	if strings.HasPrefix(v.d.Folder, "/") {
		return "/" + p
	}
	if p == "" {
		return "."
	}
	return p
}

// Create writes a file under a name that nobody has. The protocol's third version renames as it likes, so that an empty file holds the
// name until ours takes its place. One that a broken line left behind is empty too, and nothing that is filed is.
func (v *Vault) Create(ctx context.Context, name string, f file.File) error {
	return v.do(ctx, len(f.Data), func(l *line) error {
		at := v.below(name)
		if there, err := l.Stat(at); err == nil && (there.IsDir() || there.Size() > 0) {
			return file.Taken
		}
		temp, err := v.write(l, name, f.Data)
		if err != nil {
			return err
		}
		if err := l.place(temp, at); err != nil {
			l.Remove(temp) // what stays lies in our own folder
			return err
		}
		return v.holds(l, name, len(f.Data))
	})
}

// place gives a file a name that nobody has.
func (l *line) place(from, to string) error {
	if there, err := l.Stat(to); err == nil && (there.IsDir() || there.Size() > 0) {
		return file.Taken
	}
	hold, err := l.OpenFile(to, os.O_WRONLY|os.O_CREATE|os.O_EXCL)
	if err == nil {
		err = hold.Close()
	} else if there, stat := l.Stat(to); stat == nil {
		if there.IsDir() || there.Size() > 0 {
			return file.Taken
		}
		err = nil // an empty one holds it
	}
	if err != nil {
		return err
	}
	return l.over(from, to)
}

// over renames over what is there.
func (l *line) over(from, to string) error {
	if _, can := l.HasExtension("posix-rename@openssh.com"); can {
		return l.PosixRename(from, to)
	}
	if err := l.Remove(to); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	return l.Rename(from, to)
}

// write puts the bytes under a name nobody else uses, with the folders of the name that they are to have.
func (v *Vault) write(l *line, name string, data []byte) (string, error) {
	for _, dir := range []string{path.Dir(v.below(name)), v.below(file.Own)} {
		if dir == "." || dir == "/" {
			continue
		}
		if err := l.MkdirAll(dir); err != nil {
			return "", err
		}
	}
	temp := path.Join(v.below(file.Own), "part-"+rand.Text())
	out, err := l.OpenFile(temp, os.O_WRONLY|os.O_CREATE|os.O_EXCL)
	if err != nil {
		return "", err
	}
	_, err = out.Write(data)
	if _, can := l.HasExtension("fsync@openssh.com"); can && err == nil {
		err = out.Sync()
	}
	if shut := out.Close(); err == nil {
		err = shut
	}
	if err != nil && !broken(err) {
		l.Remove(temp)
	}
	return temp, err
}

// holds looks whether a file lies there whole.
func (v *Vault) holds(l *line, name string, size int) error {
	there, err := l.Stat(v.below(name))
	if errors.Is(err, fs.ErrNotExist) || err == nil && there.Size() != int64(size) {
		return reach.Lies(v.where(), name)
	}
	return err
}

// Replace writes over what is there.
func (v *Vault) Replace(ctx context.Context, name string, f file.File) error {
	return v.do(ctx, len(f.Data), func(l *line) error {
		temp, err := v.write(l, name, f.Data)
		if err != nil {
			return err
		}
		if err := l.over(temp, v.below(name)); err != nil {
			l.Remove(temp)
			return err
		}
		return v.holds(l, name, len(f.Data))
	})
}

// Read gives a file.
func (v *Vault) Read(ctx context.Context, name string, most int) (data []byte, err error) {
	err = v.do(ctx, most, func(l *line) error {
		if there, err := l.Stat(v.below(name)); err == nil && there.IsDir() {
			return file.Gone
		}
		in, err := l.Open(v.below(name))
		if err != nil {
			return err
		}
		defer in.Close()
		data, err = file.ReadAll(in, most)
		return err
	})
	return data, err
}

// Move gives a file another name.
func (v *Vault) Move(ctx context.Context, from, to string) error {
	return v.do(ctx, 0, func(l *line) error {
		if _, err := l.Stat(v.below(from)); err != nil {
			return err
		}
		return l.place(v.below(from), v.below(to))
	})
}

// Remove takes a file away.
func (v *Vault) Remove(ctx context.Context, name string) error {
	return v.do(ctx, 0, func(l *line) error { return l.Remove(v.below(name)) })
}

// List gives the files below a folder.
func (v *Vault) List(ctx context.Context, folder string) (all []file.Entry, err error) {
	err = v.do(ctx, reach.Listing, func(l *line) error {
		all = nil
		root := v.below("")
		walk := l.Walk(path.Join(root, folder))
		for walk.Step() {
			if err := walk.Err(); err != nil {
				if errors.Is(err, fs.ErrNotExist) {
					continue
				}
				return err
			}
			name := strings.TrimPrefix(strings.TrimPrefix(walk.Path(), root), "/")
			switch {
			case name == file.Own:
				walk.SkipDir()
			case len(all) == file.MostListed:
				return reach.ErrTooMuch
			case walk.Stat().Mode().IsRegular():
				all = append(all, file.Entry{Path: name, Size: walk.Stat().Size()})
			}
		}
		return nil
	})
	return all, err
}

// Tidy takes away what was begun before a time and never got its name.
func (v *Vault) Tidy(ctx context.Context, before time.Time) error {
	return v.do(ctx, reach.Listing, func(l *line) error {
		entries, err := l.ReadDir(v.below(file.Own))
		if errors.Is(err, fs.ErrNotExist) {
			return nil
		}
		for _, e := range entries {
			if err == nil && e.Mode().IsRegular() && file.Unfinished(e.Name()) && e.ModTime().Before(before) {
				err = l.Remove(path.Join(v.below(file.Own), e.Name()))
			}
		}
		return err
	})
}

// Link is a file's address.
func (v *Vault) Link(name string) string {
	base := v.d.Reach
	if base == "" {
		base = "sftp://" + v.d.Address
	}
	return reach.Link(base, v.d.Below(name))
}

func (v *Vault) where() string { return "The vault at " + v.d.Address }

// told is an error as people are told of it.
func (v *Vault) told(ctx context.Context, err error) error {
	var said *sftp.StatusError
	var other changed
	var again work.Again
	out := func(reason string) error { return work.Again{Reason: v.where() + " " + reason, Outage: true} }
	switch {
	case err == nil, errors.Is(err, file.Taken), errors.Is(err, file.Gone), errors.As(err, &again):
		return err
	case ctx.Err() != nil:
		return reach.Told(ctx, v.where(), errors.Join(err, ctx.Err()))
	case errors.As(err, &other):
		return out(other.Error() + ".")
	case strings.Contains(err.Error(), "unable to authenticate"):
		return out("refuses the user or the password. Set them right; what waits is filed then.")
	case errors.Is(err, fs.ErrNotExist):
		return file.Gone
	case errors.Is(err, fs.ErrExist):
		return file.Taken
	case errors.Is(err, fs.ErrPermission):
		return out("does not let this user do it. Give the right to write, read, list and delete there.")
	case errors.As(err, &said) && full(said):
		return out("is full. Make room there; what waits is filed then.")
	case errors.As(err, &said):
		return out(fmt.Sprintf("answers with a fault of its own: %s.", quote.Words(said.Error())))
	}
	return reach.Told(ctx, v.where(), err)
}

// full reads a full disk from a server's words: the third version of the protocol has no code for it.
func full(said *sftp.StatusError) bool {
	words := strings.ToLower(said.Error())
	return strings.Contains(words, "no space") || strings.Contains(words, "quota") || strings.Contains(words, "disk full")
}
