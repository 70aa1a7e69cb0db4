// Package folder files documents in a folder of this machine.
package folder

import (
	"bytes"
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"strings"

	"amberseal/app/work"
)

// Folder is a cabinet. Nothing is written outside it, whatever a path says.
type Folder struct{ root *os.Root }

// Open opens a folder, making it when it is not there.
func Open(dir string) (*Folder, error) {
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, fmt.Errorf("the cabinet's folder could not be made: %w", err)
	}
	root, err := os.OpenRoot(dir)
	if err != nil {
		return nil, fmt.Errorf("the cabinet's folder could not be opened: %w", err)
	}
	return &Folder{root}, nil
}

// Close lets go of the folder.
func (f *Folder) Close() error { return f.root.Close() }

const mostCopies = 10_000

// Put writes a file, complete or not at all, and never over another one.
func (f *Folder) Put(ctx context.Context, name string, data []byte) (string, error) {
	if !fs.ValidPath(name) {
		return "", work.GiveUp{Reason: "The path “" + name + "” cannot be a file."}
	}
	dir := path.Dir(name)
	if err := f.root.MkdirAll(dir, 0o700); err != nil {
		return "", work.Again{Reason: "The cabinet’s folder cannot be written: " + err.Error()}
	}
	temp, err := f.write(dir, data)
	if err != nil {
		return "", work.Again{Reason: "The cabinet’s folder cannot be written: " + err.Error()}
	}
	defer f.root.Remove(temp)
	ext := path.Ext(name)
	stem := strings.TrimSuffix(name, ext)
	for n := 1; n < mostCopies && ctx.Err() == nil; n++ {
		try := name
		if n > 1 {
			try = fmt.Sprintf("%s (%d)%s", stem, n, ext)
		}
		err := f.root.Link(temp, try)
		switch {
		case err == nil:
			return try, f.syncDir(dir)
		case !errors.Is(err, fs.ErrExist):
			return "", work.Again{Reason: "The document could not be filed: " + err.Error()}
		}
		if have, err := f.root.ReadFile(try); err == nil && bytes.Equal(have, data) {
			return try, nil
		}
	}
	return "", work.GiveUp{Reason: "There are too many files called “" + name + "”."}
}

// write puts the bytes on the disk under a name nobody else uses.
func (f *Folder) write(dir string, data []byte) (string, error) {
	temp := path.Join(dir, ".part-"+rand.Text())
	file, err := f.root.OpenFile(temp, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return "", err
	}
	_, err = file.Write(data)
	err = errors.Join(err, file.Sync(), file.Close())
	if err != nil {
		f.root.Remove(temp) // the write's error is the one to report
		return "", err
	}
	return temp, nil
}

func (f *Folder) syncDir(dir string) error {
	d, err := f.root.Open(dir)
	if err != nil {
		return err
	}
	return errors.Join(d.Sync(), d.Close())
}
