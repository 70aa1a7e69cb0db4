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
	"syscall"

	"amberseal/app/work"
)

// Folder is a cabinet. Nothing is written outside it, whatever a path says. The folder is opened for each document, so that one
// that was moved, or a share that was mounted elsewhere, is not filed into.
type Folder struct {
	dir  string
	mark string
}

// own is the folder inside the cabinet for what is ours: the mark, and files while they are written.
const own = ".amberseal"

// Open takes a folder as the cabinet of a mark, making it when it is not there. known says that the cabinet was used before: then
// a folder without its mark is another one, such as the empty place at which a share is not mounted, and nothing is filed until
// the right one is back.
func Open(dir, mark string, known bool) (*Folder, error) {
	f := &Folder{dir, mark}
	if known {
		if root, err := f.open(); err == nil {
			f.sweep(root)
			root.Close()
		}
		return f, nil
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, fmt.Errorf("the cabinet’s folder could not be made: %w", err)
	}
	root, err := os.OpenRoot(dir)
	if err != nil {
		return nil, fmt.Errorf("the cabinet’s folder could not be opened: %w", err)
	}
	defer root.Close()
	if err := root.MkdirAll(own, 0o700); err != nil {
		return nil, fmt.Errorf("the cabinet’s folder cannot be written: %w", err)
	}
	if err := root.WriteFile(path.Join(own, "mark"), []byte(mark+"\n"), 0o600); err != nil {
		return nil, fmt.Errorf("the cabinet’s folder cannot be written: %w", err)
	}
	return f, nil
}

// open opens the folder that is there now, if it is the cabinet.
func (f *Folder) open() (*os.Root, error) {
	root, err := os.OpenRoot(f.dir)
	if err != nil {
		return nil, work.Again{Reason: "The cabinet’s folder " + f.dir + " cannot be opened: " + plain(err) + ".", Outage: true}
	}
	mark, err := root.ReadFile(path.Join(own, "mark"))
	if err == nil && strings.TrimSpace(string(mark)) == f.mark {
		return root, nil
	}
	root.Close()
	return nil, work.Again{
		Reason: fmt.Sprintf(
			"The folder %s is not the cabinet of this house: its mark is missing. Perhaps a share is not mounted. If it is the right "+
				"folder, write %s into %s/mark there.",
			f.dir, f.mark, own,
		),
		Outage: true,
	}
}

// sweep removes what a program that ended in the middle left behind.
func (f *Folder) sweep(root *os.Root) {
	entries, err := fs.ReadDir(root.FS(), own)
	if err != nil {
		return // it is looked at again when something is filed
	}
	for _, e := range entries {
		if strings.HasPrefix(e.Name(), "part-") {
			root.Remove(path.Join(own, e.Name())) // what stays is removed at the next start
		}
	}
}

// plain is what went wrong, without the names of files.
func plain(err error) string {
	var p *fs.PathError
	var l *os.LinkError
	switch {
	case errors.As(err, &p):
		err = p.Err
	case errors.As(err, &l):
		err = l.Err
	}
	return err.Error()
}

func cannot(err error) error {
	return work.Again{Reason: "The cabinet’s folder cannot be written: " + plain(err) + ".", Outage: outage(err)}
}

// outage tells a cabinet that takes nothing from a path that cannot be used.
func outage(err error) bool {
	for _, e := range []error{syscall.ENOSPC, syscall.EDQUOT, syscall.EROFS, syscall.EIO, syscall.ESTALE, syscall.ENOTCONN,
		syscall.EHOSTDOWN, fs.ErrPermission} {
		if errors.Is(err, e) {
			return true
		}
	}
	return false
}

const mostCopies = 10_000

// Put writes a file, complete or not at all, and never over another one.
func (f *Folder) Put(ctx context.Context, name string, data []byte) (string, error) {
	if !fs.ValidPath(name) || name == "." || strings.ContainsRune(name, 0) || strings.HasPrefix(name, own+"/") {
		return "", work.GiveUp{Reason: "The path “" + name + "” cannot be a file."}
	}
	root, err := f.open()
	if err != nil {
		return "", err
	}
	defer root.Close()
	if err := makeFolders(root, path.Dir(name)); err != nil {
		return "", cannot(err)
	}
	temp, err := write(root, data)
	if err != nil {
		return "", cannot(err)
	}
	defer root.Remove(temp)
	ext := path.Ext(name)
	stem := strings.TrimSuffix(name, ext)
	for n := 1; n < mostCopies; n++ {
		if err := ctx.Err(); err != nil {
			return "", err
		}
		try := name
		if n > 1 {
			try = fmt.Sprintf("%s (%d)%s", stem, n, ext)
		}
		err := place(root, temp, try)
		switch {
		case err == nil:
			if err := syncDir(root, path.Dir(try)); err != nil {
				return "", cannot(err)
			}
			return try, nil
		case !errors.Is(err, fs.ErrExist):
			return "", cannot(err)
		}
		if have, err := root.ReadFile(try); err == nil && bytes.Equal(have, data) {
			return try, nil
		}
	}
	return "", work.GiveUp{Reason: "There are too many files called “" + name + "”."}
}

// place gives the written file its name, unless another has it.
func place(root *os.Root, temp, name string) error {
	err := root.Link(temp, name)
	if err == nil || errors.Is(err, fs.ErrExist) {
		return err
	}
	// Some file systems, such as FAT and shares, have no links: there an empty file holds the name until ours takes its place. One
	// that a crash left behind is empty too, and no document is.
	hold, err := root.OpenFile(name, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	switch {
	case err == nil:
		if err := hold.Close(); err != nil {
			return err
		}
	case errors.Is(err, fs.ErrExist):
		if there, stat := root.Stat(name); stat != nil || there.Size() > 0 || there.IsDir() {
			return err
		}
	default:
		return err
	}
	if err := root.Rename(temp, name); err != nil {
		root.Remove(name) // the empty file that holds the name
		return err
	}
	return nil
}

// makeFolders makes the folders of a path, each kept safely on the disk with its name.
func makeFolders(root *os.Root, dir string) error {
	if dir == "." {
		return nil
	}
	if there, err := root.Stat(dir); err == nil && there.IsDir() {
		return nil
	}
	parent := path.Dir(dir)
	if err := makeFolders(root, parent); err != nil {
		return err
	}
	if err := root.Mkdir(dir, 0o700); err != nil && !errors.Is(err, fs.ErrExist) {
		return err
	}
	return syncDir(root, parent)
}

// write puts the bytes on the disk under a name nobody else uses.
func write(root *os.Root, data []byte) (string, error) {
	temp := path.Join(own, "part-"+rand.Text())
	file, err := root.OpenFile(temp, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return "", err
	}
	_, err = file.Write(data)
	err = errors.Join(err, file.Sync(), file.Close())
	if err != nil {
		root.Remove(temp) // the write's error is the one to report
		return "", err
	}
	return temp, nil
}

// syncDir writes a folder's names to the disk. Some shares cannot.
func syncDir(root *os.Root, dir string) error {
	d, err := root.Open(dir)
	if err != nil {
		return err
	}
	err = d.Sync()
	if errors.Is(err, syscall.EINVAL) || errors.Is(err, syscall.ENOTSUP) {
		err = nil
	}
	return errors.Join(err, d.Close())
}
