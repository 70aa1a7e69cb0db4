package file

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"path"
	"slices"
	"strings"
	"time"

	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/filing"
)

// Place is the far end of a destination: folders and files. It is safe for many goroutines; its conformance suite is package filetest.
//
// Paths are valid ones of package io/fs. Create writes a file whole or not at all, with its folders, under a name that nobody has; it
// gives Taken where somebody has it, also where only capitals or the writing of accents differ and the place takes that for the same.
// Replace writes over what is there, whole or not at all. Read and Remove give Gone where there is nothing. Move gives Taken where the
// new name is. List gives every file below a folder, and none of those that the place keeps for itself. Link is an address under which
// people open a file, or empty.
//
// All other errors are work.Again and work.GiveUp, with the reason in plain words.
type Place interface {
	Create(ctx context.Context, path string, f File) error
	Replace(ctx context.Context, path string, f File) error
	Read(ctx context.Context, path string, most int) ([]byte, error)
	Move(ctx context.Context, from, to string) error
	Remove(ctx context.Context, path string) error
	List(ctx context.Context, folder string) ([]Entry, error)
	Link(path string) string
}

// Versioned is a place that may keep what it is given under one name side by side.
type Versioned interface {
	KeepsVersions(ctx context.Context) (bool, error)
}

// Tidied is a place at which a file that is being written stays when the line breaks or the program is killed. Tidy takes away those that
// were begun before a time.
type Tidied interface {
	Tidy(ctx context.Context, before time.Time) error
}

// File is what is filed. About is kept beside it where a place has room for that.
type File struct {
	Data  []byte
	Type  string // media type
	About map[string]string
}

// Entry is a file at a place.
type Entry struct {
	Path string
	Size int64
}

// Errors of places that are answers.
var (
	Taken = errors.New("the name is taken")
	Gone  = errors.New("there is no such file")
	Other = errors.New("the file is another one by now")
)

// MostListed is how many files a place may say that it has; more is an outage.
const MostListed = 100_000

// ReadAll reads a file of so many bytes; of a longer one it gives one byte more, and no more is asked for.
func ReadAll(r io.Reader, most int) ([]byte, error) {
	return io.ReadAll(io.LimitReader(r, int64(most)+1))
}

// Swapped is how many bytes a file may have whose place one of so many bytes takes: it was written as that one is.
func Swapped(bytes int) int { return 2*bytes + 16<<20 }

// Own is the folder that places keep for themselves: a mark, and files while they are written.
const Own = ".amberseal"

const mostCopies = 10_000

// Unfinished reports whether a name in a place's own folder is that of a file while it is written.
func Unfinished(name string) bool { return strings.HasPrefix(name, "part-") }

// Usable reports whether a path can be that of a file somebody files.
func Usable(name string) bool {
	first, _, _ := strings.Cut(name, "/")
	return fs.ValidPath(name) && name != "." && !strings.ContainsRune(name, 0) && !strings.EqualFold(first, Own)
}

// Put files under a path, and says under which in the end. Equal bytes are there once however often they are filed, so that a repeated
// job changes nothing. Where another file has the name: a number goes behind ours; or what was there gets a number and ours the name, or
// the place keeps both under it; or ours takes its place.
func Put(ctx context.Context, p Place, name string, f File, taken filing.Taken) (string, error) {
	if !Usable(name) {
		return "", work.GiveUp{Reason: "The path “" + name + "” cannot be a file."}
	}
	if taken == filing.Replace {
		return name, p.Replace(ctx, name, f)
	}
	for n := 1; n < mostCopies; n++ {
		if err := ctx.Err(); err != nil {
			return "", err
		}
		try := numbered(name, "%s (%d)%s", n)
		err := p.Create(ctx, try, f)
		if !errors.Is(err, Taken) {
			return try, err
		}
		have, err := p.Read(ctx, try, len(f.Data))
		switch {
		case errors.Is(err, Gone) && taken != filing.Version:
			continue // a folder has the name, or another name that the place takes for it
		case err != nil && !errors.Is(err, Gone):
			return "", err
		case bytes.Equal(have, f.Data):
			return try, nil
		case taken == filing.Version:
			return name, newVersion(ctx, p, name, f)
		}
	}
	return "", work.GiveUp{Reason: "There are too many files called “" + name + "”."}
}

// Guarded is a place that itself refuses to replace a file which is another one by then: a tag tells its bytes.
type Guarded interface {
	ReadTagged(ctx context.Context, path string, most int) (data []byte, tag string, err error)
	ReplaceTagged(ctx context.Context, path, tag string, f File) error // Other
}

// Swap replaces a file whose bytes have one of some sums. Other says that somebody changed it, Gone that it is not there. Where the place
// guards nothing itself, who changes it between the look and the writing is not seen.
func Swap(ctx context.Context, p Place, name string, sums []string, f File) error {
	var have []byte
	var tag string
	var err error
	most := Swapped(len(f.Data))
	g, guarded := p.(Guarded)
	if guarded {
		have, tag, err = g.ReadTagged(ctx, name, most)
	} else {
		have, err = p.Read(ctx, name, most)
	}
	switch {
	case err != nil:
		return err
	case !slices.Contains(sums, register.Sum(have)):
		return Other
	case bytes.Equal(have, f.Data):
		return nil
	case guarded:
		return g.ReplaceTagged(ctx, name, tag, f)
	}
	return p.Replace(ctx, name, f)
}

// numbered puts a number behind a name's stem; the first has none.
func numbered(name, as string, n int) string {
	if n < 2 {
		return name
	}
	ext := path.Ext(name)
	return fmt.Sprintf(as, strings.TrimSuffix(name, ext), n, ext)
}

// newVersion gives a file the name that another has.
func newVersion(ctx context.Context, p Place, name string, f File) error {
	if v, ok := p.(Versioned); ok {
		keeps, err := v.KeepsVersions(ctx)
		if err != nil {
			return err
		}
		if keeps {
			return p.Replace(ctx, name, f)
		}
	}
	for n := 2; n < mostCopies; n++ {
		// Somebody may file between the two: then theirs is put aside too.
		err := p.Move(ctx, name, numbered(name, "%s (version %d)%s", n))
		if errors.Is(err, Taken) {
			continue
		}
		if err == nil || errors.Is(err, Gone) {
			if err = p.Create(ctx, name, f); errors.Is(err, Taken) {
				continue
			}
		}
		return err
	}
	return work.GiveUp{Reason: "There are too many versions of “" + name + "”."}
}
