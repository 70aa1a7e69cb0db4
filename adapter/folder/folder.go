// Package folder files documents in a folder of this machine.
package folder

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path"
	"path/filepath"
	"strings"
	"syscall"

	"amberseal/app/file"
	"amberseal/app/work"
	"amberseal/core/destination"
)

// Folder is a cabinet. Nothing is written outside it, whatever a path says. The folder is opened for each document, so that one
// that was moved, or a share that was mounted elsewhere, is not filed into.
type Folder struct {
	dir  string
	mark string

	Reach string // the address under which people open it, or empty
}

// own is the folder inside the cabinet for what is ours: the mark, and files while they are written.
const own = file.Own

// Open takes a folder as the cabinet of a mark, making it when it is not there. known says that the cabinet was used before: then
// a folder without its mark is another one, such as the empty place at which a share is not mounted, and nothing is filed until
// the right one is back.
func Open(dir, mark string, known bool) (*Folder, error) {
	f := &Folder{dir: dir, mark: mark}
	if known {
		if root, err := f.open(); err == nil {
			f.sweep(root)
			root.Close()
		}
		return f, nil
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, fmt.Errorf("the folder could not be made: %w", err)
	}
	root, err := os.OpenRoot(dir)
	if err != nil {
		return nil, fmt.Errorf("the folder could not be opened: %w", err)
	}
	defer root.Close()
	if err := root.MkdirAll(own, 0o700); err != nil {
		return nil, fmt.Errorf("the folder cannot be written: %w", err)
	}
	if err := root.WriteFile(path.Join(own, "mark"), []byte(mark+"\n"), 0o600); err != nil {
		return nil, fmt.Errorf("the folder cannot be written: %w", err)
	}
	return f, nil
}

// At is a folder as a destination. Its mark is made when it is first filed into: where a folder has none then, it is taken for ours.
func At(d destination.Destination) (*Folder, error) {
	mark := "destination " + d.Key
	_, err := os.Stat(d.Folder)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("there is no folder %s; make it, or write another", d.Folder)
	}
	f, err := Open(d.Folder, mark, marked(d.Folder))
	if err == nil {
		f.Reach = d.Reach
	}
	return f, err
}

// marked reports whether a folder has a mark.
func marked(dir string) bool {
	_, err := os.Stat(filepath.Join(dir, own, "mark"))
	return err == nil
}

// open opens the folder that is there now, if it is the cabinet.
func (f *Folder) open() (*os.Root, error) {
	root, err := os.OpenRoot(f.dir)
	if err != nil {
		return nil, work.Again{Reason: "The folder " + f.dir + " cannot be opened: " + plain(err) + ".", Outage: true}
	}
	mark, err := root.ReadFile(path.Join(own, "mark"))
	if err == nil && strings.TrimSpace(string(mark)) == f.mark {
		return root, nil
	}
	root.Close()
	return nil, work.Again{
		Reason: fmt.Sprintf(
			"The folder %s is not the one that this house files in: its mark is missing. Perhaps a share is not mounted. If it is the "+
				"right folder, write %s into %s/mark there.",
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
		if file.Unfinished(e.Name()) {
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

// Create writes a file, complete or not at all, and never over another one.
func (f *Folder) Create(ctx context.Context, name string, x file.File) error {
	return f.writing(ctx, name, func(root *os.Root) error {
		if there, err := root.Stat(name); err == nil && (there.IsDir() || there.Size() > 0) {
			return file.Taken
		}
		temp, err := write(root, x.Data)
		if err != nil {
			return err
		}
		defer root.Remove(temp)
		if err := place(root, temp, name); err != nil {
			return err
		}
		return syncDir(root, path.Dir(name))
	})
}

// Replace writes a file over what is there.
func (f *Folder) Replace(ctx context.Context, name string, x file.File) error {
	return f.writing(ctx, name, func(root *os.Root) error {
		temp, err := write(root, x.Data)
		if err != nil {
			return err
		}
		if err := root.Rename(temp, name); err != nil {
			root.Remove(temp)
			return err
		}
		return syncDir(root, path.Dir(name))
	})
}

// Move gives a file another name.
func (f *Folder) Move(ctx context.Context, from, to string) error {
	return f.writing(ctx, to, func(root *os.Root) error {
		if err := place(root, from, to); err != nil {
			return err
		}
		if err := root.Remove(from); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return err
		}
		return syncDir(root, path.Dir(to))
	})
}

// Read gives a file.
func (f *Folder) Read(ctx context.Context, name string, most int) (data []byte, err error) {
	err = f.inside(ctx, func(root *os.Root) error {
		if there, err := root.Stat(name); err == nil && there.IsDir() {
			return file.Gone
		}
		in, err := root.Open(name)
		if err != nil {
			return err
		}
		defer in.Close()
		data, err = file.ReadAll(in, most)
		return err
	})
	return data, err
}

// Remove takes a file away.
func (f *Folder) Remove(ctx context.Context, name string) error {
	return f.inside(ctx, func(root *os.Root) error { return root.Remove(name) })
}

// List gives the files below a folder.
func (f *Folder) List(ctx context.Context, dir string) (all []file.Entry, err error) {
	if dir == "" {
		dir = "."
	}
	err = f.inside(ctx, func(root *os.Root) error {
		return fs.WalkDir(root.FS(), dir, func(name string, e fs.DirEntry, err error) error {
			switch {
			case errors.Is(err, fs.ErrNotExist) && name == dir:
				return fs.SkipAll
			case err != nil:
				return err
			case ctx.Err() != nil:
				return ctx.Err()
			case name == file.Own:
				return fs.SkipDir
			case !e.Type().IsRegular():
				return nil
			}
			about, err := e.Info()
			if err == nil {
				all = append(all, file.Entry{Path: name, Size: about.Size()})
			}
			return err
		})
	})
	return all, err
}

// Link is where people who can reach the folder find a file.
func (f *Folder) Link(name string) string {
	if f.Reach == "" {
		return ""
	}
	return strings.TrimSuffix(f.Reach, "/") + "/" + (&url.URL{Path: name}).EscapedPath()
}

// inside does something in the folder that is there now.
func (f *Folder) inside(ctx context.Context, do func(*os.Root) error) error {
	if err := ctx.Err(); err != nil {
		return err
	}
	root, err := f.open()
	if err != nil {
		return err
	}
	defer root.Close()
	return f.told(do(root))
}

// writing does something for which a file's folders are there.
func (f *Folder) writing(ctx context.Context, name string, do func(*os.Root) error) error {
	return f.inside(ctx, func(root *os.Root) error {
		if err := makeFolders(root, path.Dir(name)); err != nil {
			return err
		}
		return do(root)
	})
}

// told is an error as people are told of it.
func (f *Folder) told(err error) error {
	switch {
	case err == nil, errors.Is(err, file.Taken), errors.Is(err, file.Gone), errors.Is(err, context.Canceled),
		errors.Is(err, context.DeadlineExceeded):
		return err
	case errors.Is(err, fs.ErrExist):
		return file.Taken
	case errors.Is(err, fs.ErrNotExist):
		return file.Gone
	case errors.Is(err, syscall.ENOSPC), errors.Is(err, syscall.EDQUOT):
		return work.Again{Reason: "The folder " + f.dir + " is full: " + plain(err) + ".", Outage: true}
	}
	return work.Again{Reason: "The folder " + f.dir + " cannot be used: " + plain(err) + ".", Outage: outage(err)}
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
