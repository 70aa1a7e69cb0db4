// Package share files in a share that speaks WebDAV (RFC 4918).
package share

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io"
	"io/fs"
	rand2 "math/rand/v2"
	"net/http"
	"os"
	"path"
	"time"

	"github.com/studio-b12/gowebdav"

	"amberseal/adapter/reach"
	"amberseal/app/file"
	"amberseal/app/work"
	"amberseal/core/destination"
)

// Share is a place. A file is written beside, and moved to its name when it is whole (RFC 4918 section 9.9): the server itself refuses
// where the name is taken.
type Share struct {
	d         destination.Destination
	secret    string
	transport http.RoundTripper
}

// Open makes one; nothing is reached yet.
func Open(d destination.Destination, secret string) (*Share, error) {
	return &Share{d, secret, reach.Transport()}, nil
}

// bound gives each request of a client a context, and keeps why one failed first: the library takes none, and tells what failed as an
// answer of the server's, or takes an answer that broke off for a whole one.
type bound struct {
	ctx    context.Context
	next   http.RoundTripper
	failed error
}

func (b *bound) RoundTrip(r *http.Request) (*http.Response, error) {
	a, err := b.next.RoundTrip(r.WithContext(b.ctx))
	if err != nil {
		b.fail(err)
		return nil, err
	}
	a.Body = watched{a.Body, b}
	return a, nil
}

func (b *bound) fail(err error) {
	if b.failed == nil {
		b.failed = err
	}
}

type watched struct {
	io.ReadCloser
	by *bound
}

func (w watched) Read(p []byte) (int, error) {
	n, err := w.ReadCloser.Read(p)
	if err != nil && !errors.Is(err, io.EOF) {
		w.by.fail(err)
	}
	return n, err
}

// stat says what is there. An answer that says nothing of it is no answer.
func stat(c *gowebdav.Client, path string) (os.FileInfo, error) {
	there, err := c.Stat(path)
	if f, is := there.(*gowebdav.File); err == nil && is && f == nil {
		return nil, errors.New("does not speak WebDAV there")
	}
	return there, err
}

// do lends a client for a task, within the time that so many bytes may take.
func (s *Share) do(ctx context.Context, bytes int, task func(*gowebdav.Client) error) error {
	if err := ctx.Err(); err != nil {
		return err
	}
	ctx, cancel := reach.Within(ctx, bytes)
	defer cancel()
	c := gowebdav.NewClient(s.d.Address, s.d.User, s.secret)
	b := &bound{ctx: ctx, next: s.transport}
	c.SetTransport(b)
	for pause := 20 * time.Millisecond; ; pause *= 2 {
		b.failed = nil
		err := task(c)
		if b.failed != nil {
			err = b.failed
		}
		// A task that is done again finds what it did before.
		if pause > longestPause || !locked(err) && !(reach.Broken(err) && pause < longestPause/16) {
			return s.told(ctx, err)
		}
		select {
		case <-ctx.Done():
		case <-time.After(pause/2 + rand2.N(pause)):
		}
	}
}

// longestPause is how long a lock is waited for at last, each time twice as long: servers lock for a moment what somebody writes.
const longestPause = time.Second

// locked reports whether somebody else has a lock (RFC 4918 section 11.3).
func locked(err error) bool {
	var of *os.PathError
	return errors.As(err, &of) && gowebdav.IsErrCode(of, http.StatusLocked)
}

// below is a path as the client wants it.
func (s *Share) below(name string) string { return "/" + s.d.Below(name) }

// Create writes a file under a name that nobody has.
func (s *Share) Create(ctx context.Context, name string, f file.File) error {
	return s.put(ctx, name, f, false)
}

// Replace writes over what is there.
func (s *Share) Replace(ctx context.Context, name string, f file.File) error {
	return s.put(ctx, name, f, true)
}

func (s *Share) put(ctx context.Context, name string, f file.File, over bool) error {
	return s.do(ctx, len(f.Data), func(c *gowebdav.Client) error {
		if !over {
			switch _, err := stat(c, s.below(name)); {
			case err == nil:
				return file.Taken
			case !gowebdav.IsErrNotFound(err):
				return err
			}
		}
		if dir := path.Dir(s.below(name)); dir != "/" {
			if err := c.MkdirAll(dir, 0); err != nil {
				return err
			}
		}
		own := s.below(file.Own)
		if err := c.MkdirAll(own, 0); err != nil {
			return err
		}
		temp := path.Join(own, "part-"+rand.Text())
		if err := c.Write(temp, f.Data, 0); err != nil {
			return errors.Join(err)
		}
		there, err := stat(c, temp)
		if err == nil && there.Size() != int64(len(f.Data)) || gowebdav.IsErrNotFound(err) {
			return errors.Join(reach.Lies(s.where(), name))
		}
		if err == nil {
			err = c.Rename(temp, s.below(name), over)
		}
		if err != nil {
			return errors.Join(err)
		}
		if there, err = stat(c, s.below(name)); err == nil && there.Size() != int64(len(f.Data)) || gowebdav.IsErrNotFound(err) {
			return reach.Lies(s.where(), name)
		}
		return err
	})
}

// ignored is the error of tidying up, beside which the one before is to be told.
func ignored(error) error { return nil }

// Read gives a file.
func (s *Share) Read(ctx context.Context, name string, most int) (data []byte, err error) {
	err = s.do(ctx, most, func(c *gowebdav.Client) error {
		if there, err := stat(c, s.below(name)); err == nil && there.IsDir() {
			return file.Gone
		}
		in, err := c.ReadStream(s.below(name))
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
func (s *Share) Move(ctx context.Context, from, to string) error {
	return s.do(ctx, 0, func(c *gowebdav.Client) error { return c.Rename(s.below(from), s.below(to), false) })
}

// Remove takes a file away.
func (s *Share) Remove(ctx context.Context, name string) error {
	return s.do(ctx, 0, func(c *gowebdav.Client) error { return c.Remove(s.below(name)) })
}

// List gives the files below a folder.
func (s *Share) List(ctx context.Context, folder string) (all []file.Entry, err error) {
	err = s.do(ctx, reach.Listing, func(c *gowebdav.Client) error {
		all, err = nil, nil
		return walk(c, s.below(""), folder, &all, 0)
	})
	return all, err
}

const deepest = 30 // folders in folders, where a server would go round in a circle

func walk(c *gowebdav.Client, root, dir string, all *[]file.Entry, depth int) error {
	entries, err := c.ReadDir(path.Join(root, dir))
	if gowebdav.IsErrNotFound(err) && (depth > 0 || dir != "") {
		return nil
	}
	if err != nil || depth > deepest {
		return err
	}
	for _, e := range entries {
		name := path.Join(dir, e.Name())
		switch {
		case name == file.Own:
		case e.IsDir():
			if err := walk(c, root, name, all, depth+1); err != nil {
				return err
			}
		case len(*all) == file.MostListed:
			return reach.ErrTooMuch
		default:
			*all = append(*all, file.Entry{Path: name, Size: e.Size()})
		}
	}
	return nil
}

// Tidy takes away what was begun before a time and never got its name.
func (s *Share) Tidy(ctx context.Context, before time.Time) error {
	return s.do(ctx, reach.Listing, func(c *gowebdav.Client) error {
		entries, err := c.ReadDir(s.below(file.Own))
		if gowebdav.IsErrNotFound(err) {
			return nil
		}
		for _, e := range entries {
			if err == nil && !e.IsDir() && file.Unfinished(e.Name()) && e.ModTime().Before(before) {
				err = c.Remove(path.Join(s.below(file.Own), e.Name()))
			}
		}
		return err
	})
}

// Link is a file's address.
func (s *Share) Link(name string) string {
	base := s.d.Reach
	if base == "" {
		base = s.d.Address
	}
	return reach.Link(base, s.d.Below(name))
}

func (s *Share) where() string { return "The share at " + s.d.Address }

// told is an error as people are told of it. The library's errors for a status are those of a path.
func (s *Share) told(ctx context.Context, err error) error {
	var again work.Again
	var giveUp work.GiveUp
	if err == nil || errors.Is(err, file.Taken) || errors.Is(err, file.Gone) || errors.As(err, &again) || errors.As(err, &giveUp) {
		return err
	}
	out := func(reason string) error { return work.Again{Reason: s.where() + " " + reason, Outage: true} }
	var of *os.PathError
	var status gowebdav.StatusError
	if errors.As(err, &of) && errors.As(of.Err, &status) {
		switch code := status.Status; {
		case code == http.StatusPreconditionFailed:
			return file.Taken
		case code == http.StatusNotFound:
			return file.Gone
		case code == http.StatusUnauthorized:
			return out("refuses the user or the password. Set them right; what waits is filed then.")
		case code == http.StatusForbidden || code == http.StatusMethodNotAllowed:
			return out("does not let this user do it. Give the right to write, read, list and delete there.")
		case code == http.StatusInsufficientStorage || code == http.StatusRequestEntityTooLarge:
			return out("is full. Make room there; what waits is filed then.")
		case code == http.StatusLocked || code == http.StatusConflict:
			return work.Again{Reason: fmt.Sprintf("%s cannot take it at present (%d).", s.where(), code)}
		case code >= 500:
			return out(fmt.Sprintf("answers with a fault of its own (%d).", code))
		default:
			return work.GiveUp{Reason: fmt.Sprintf("%s refuses it (%d).", s.where(), code)}
		}
	}
	if errors.Is(err, fs.ErrNotExist) {
		return file.Gone
	}
	return reach.Told(ctx, s.where(), err)
}
