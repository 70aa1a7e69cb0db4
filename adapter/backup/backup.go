// Package backup writes a whole house into one file, and makes a house of such a file again.
//
// The file is a tar archive (POSIX pax, readable by every tar): the database as it was at one moment, the house's secret, the
// cabinet, and at the end SHA256SUMS with the sum of each of them (as sha256sum writes it). It is written beside its place and put
// there once it was read again and found right; a house is made beside its place in the same way. The running house may go on.
package backup

import (
	"archive/tar"
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"amberseal/adapter/sqlite"
)

// House is where the parts of a house lie.
type House struct {
	Data     string   // the data folder
	Database string   // its database's name
	Files    []string // names of its other files
	Cabinet  string   // the folder documents are filed in
}

// Names in the archive.
const (
	sumsFile      = "SHA256SUMS"
	cabinetFolder = "cabinet"
)

// Written is what went into a backup, or came out of it. Missing are those of a house's other files that the backup has not.
type Written struct {
	Files   int
	Bytes   int64
	Missing []string
}

// Write makes a backup of a house, running or not. to must not be there yet. The error leaves nothing behind.
func Write(ctx context.Context, h House, to string) (w Written, err error) {
	if _, err := os.Lstat(to); !errors.Is(err, fs.ErrNotExist) {
		return w, fmt.Errorf("%s is there already; choose another name", to)
	}
	database := filepath.Join(h.Data, h.Database)
	if _, err := os.Stat(database); err != nil {
		return w, fmt.Errorf("there is no house in %s: %w", h.Data, err)
	}
	work, err := os.MkdirTemp(filepath.Dir(to), ".amberseal-backup-")
	if err != nil {
		return w, err
	}
	defer os.RemoveAll(work)
	copied := filepath.Join(work, h.Database)
	if err := sqlite.Copy(ctx, database, copied); err != nil {
		return w, fmt.Errorf("the database could not be copied: %w", err)
	}
	if err := sqlite.Check(ctx, copied); err != nil {
		return w, err
	}
	part := filepath.Join(work, "backup.tar")
	if w, err = write(ctx, h, copied, part); err != nil {
		return w, err
	}
	if err := verify(ctx, part, w.Files); err != nil {
		return w, fmt.Errorf("the backup was written and does not read as it should: %w", err)
	}
	if err := os.Rename(part, to); err != nil {
		return w, err
	}
	return w, syncFolder(filepath.Dir(to))
}

func write(ctx context.Context, h House, database, to string) (w Written, err error) {
	f, err := os.OpenFile(to, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return w, err
	}
	defer func() { err = errors.Join(err, f.Close()) }()
	a := &archive{tar: tar.NewWriter(f)}
	if err := a.add(h.Database, database); err != nil {
		return w, err
	}
	for _, name := range h.Files {
		if err := a.add(name, filepath.Join(h.Data, name)); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return w, err
		}
	}
	if err := a.folder(ctx, h.Cabinet); err != nil {
		return w, fmt.Errorf("the cabinet could not be read: %w", err)
	}
	w = a.Written
	if err := a.text(sumsFile, a.sums.Bytes()); err != nil {
		return w, err
	}
	return w, errors.Join(a.tar.Close(), f.Sync())
}

type archive struct {
	tar  *tar.Writer
	sums bytes.Buffer
	Written
}

func (a *archive) add(name, file string) error {
	f, err := os.Open(file)
	if err != nil {
		return err
	}
	defer f.Close()
	s, err := f.Stat()
	if err != nil {
		return err
	}
	if err := a.tar.WriteHeader(&tar.Header{Name: name, Mode: 0o600, Size: s.Size(), ModTime: s.ModTime().UTC().Truncate(time.Second),
		Format: tar.FormatPAX}); err != nil {
		return err
	}
	sum := sha256.New()
	if _, err := io.CopyN(io.MultiWriter(a.tar, sum), f, s.Size()); err != nil {
		return fmt.Errorf("%s: %w", name, err)
	}
	sumsLine(&a.sums, hex.EncodeToString(sum.Sum(nil)), name)
	a.Files++
	a.Bytes += s.Size()
	return nil
}

func (a *archive) text(name string, data []byte) error {
	if err := a.tar.WriteHeader(&tar.Header{Name: name, Mode: 0o600, Size: int64(len(data)), Format: tar.FormatPAX}); err != nil {
		return err
	}
	_, err := a.tar.Write(data)
	return err
}

// folder adds the cabinet: everything but files that are being written, which are filed again.
func (a *archive) folder(ctx context.Context, dir string) error {
	return filepath.WalkDir(dir, func(file string, d fs.DirEntry, err error) error {
		switch {
		case err != nil && errors.Is(err, fs.ErrNotExist):
			return nil // it went while we looked
		case err != nil:
			return err
		case ctx.Err() != nil:
			return ctx.Err()
		case !d.Type().IsRegular() || strings.HasPrefix(d.Name(), "part-") && filepath.Base(filepath.Dir(file)) == ".amberseal":
			return nil
		}
		name, err := filepath.Rel(dir, file)
		if err != nil {
			return err
		}
		if err := a.add(path.Join(cabinetFolder, filepath.ToSlash(name)), file); !errors.Is(err, fs.ErrNotExist) {
			return err
		}
		return nil
	})
}

// each visits the files of a backup and gives the sums that it says of them.
func each(ctx context.Context, from string, visit func(name string, r io.Reader) error) (sums map[string]string, err error) {
	f, err := os.Open(from)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	in := tar.NewReader(f)
	for {
		h, err := in.Next()
		switch {
		case errors.Is(err, io.EOF):
			if sums == nil {
				return nil, errors.New("it has no list of sums at its end; it is not whole")
			}
			return sums, nil
		case err != nil:
			return nil, fmt.Errorf("it cannot be read: %w", err)
		case ctx.Err() != nil:
			return nil, ctx.Err()
		case h.Typeflag != tar.TypeReg || !filepath.IsLocal(h.Name) || sparse(h):
			return nil, fmt.Errorf("“%s” does not belong into a backup", h.Name)
		case h.Name == sumsFile:
			text, err := io.ReadAll(in)
			if err != nil {
				return nil, err
			}
			sums = map[string]string{}
			for line := range strings.Lines(string(text)) {
				sum, name := readSumsLine(strings.TrimSuffix(line, "\n"))
				sums[name] = sum
			}
		default:
			if err := visit(h.Name, in); err != nil {
				return nil, err
			}
		}
	}
}

// sumsLine writes a line as sha256sum does: one whose name has line breaks or backslashes begins with a backslash, and has them escaped
// (GNU coreutils manual, “cksum output modes”).
func sumsLine(w io.Writer, sum, name string) {
	if escaped := escape.Replace(name); escaped != name {
		fmt.Fprintf(w, "\\%s  %s\n", sum, escaped)
		return
	}
	fmt.Fprintf(w, "%s  %s\n", sum, name)
}

func readSumsLine(line string) (sum, name string) {
	sum, name, _ = strings.Cut(line, "  ")
	if escaped, is := strings.CutPrefix(sum, "\\"); is {
		return escaped, unescape.Replace(name)
	}
	return sum, name
}

var (
	escape   = strings.NewReplacer("\\", "\\\\", "\n", "\\n", "\r", "\\r")
	unescape = strings.NewReplacer("\\\\", "\\", "\\n", "\n", "\\r", "\r")
)

// sparse reports whether a file says that it has zeros which are not in the archive: a small archive would fill a disk.
func sparse(h *tar.Header) bool {
	for key := range h.PAXRecords {
		if strings.HasPrefix(key, "GNU.sparse.") {
			return true
		}
	}
	return false
}

// verify reads a backup and holds each file against its sum.
func verify(ctx context.Context, from string, files int) error {
	got := map[string]string{}
	said, err := each(ctx, from, func(name string, r io.Reader) error {
		sum := sha256.New()
		if _, err := io.Copy(sum, r); err != nil {
			return err
		}
		got[name] = hex.EncodeToString(sum.Sum(nil))
		return nil
	})
	if err != nil {
		return err
	}
	if files >= 0 && len(got) != files {
		return fmt.Errorf("it has %d files instead of %d", len(got), files)
	}
	return compare(said, got)
}

func compare(said, got map[string]string) error {
	for name, sum := range said {
		if got[name] != sum {
			return fmt.Errorf("“%s” is not as it was written", name)
		}
	}
	if len(said) != len(got) {
		return errors.New("it has files that are not in its list of sums")
	}
	return nil
}

// Restore makes a house of a backup. Its data folder, and a cabinet that lies elsewhere, must be empty or not there yet. The error
// leaves them so.
func Restore(ctx context.Context, from string, h House) (w Written, err error) {
	inside := filepath.Clean(h.Cabinet) == filepath.Join(filepath.Clean(h.Data), cabinetFolder)
	folders := []string{h.Data}
	if !inside {
		folders = append(folders, h.Cabinet)
	}
	for _, dir := range folders {
		if entries, err := os.ReadDir(dir); err == nil && len(entries) > 0 {
			return w, fmt.Errorf("%s is not empty; choose a new folder", dir)
		}
	}
	if err := os.MkdirAll(filepath.Dir(filepath.Clean(h.Data)), 0o700); err != nil {
		return w, err
	}
	work, err := os.MkdirTemp(filepath.Dir(filepath.Clean(h.Data)), ".amberseal-restore-")
	if err != nil {
		return w, err
	}
	defer os.RemoveAll(work)
	root, err := os.OpenRoot(work)
	if err != nil {
		return w, err
	}
	defer root.Close()
	got := map[string]string{}
	said, err := each(ctx, from, func(name string, r io.Reader) error {
		if name != h.Database && !slices.Contains(h.Files, name) && !strings.HasPrefix(name, cabinetFolder+"/") {
			return fmt.Errorf("“%s” does not belong into a backup", name)
		}
		n, sum, err := extract(root, name, r)
		got[name] = sum
		w.Files++
		w.Bytes += n
		return err
	})
	if err != nil {
		return w, fmt.Errorf("the backup is not right: %w", err)
	}
	if err := compare(said, got); err != nil {
		return w, fmt.Errorf("the backup is not right: %w", err)
	}
	if err := sqlite.Check(ctx, filepath.Join(work, h.Database)); err != nil {
		return w, err
	}
	for _, name := range h.Files {
		if got[name] == "" {
			w.Missing = append(w.Missing, name)
		}
	}
	if err := os.MkdirAll(filepath.Join(work, cabinetFolder), 0o700); err != nil {
		return w, err
	}
	if !inside {
		if err := moveFolder(filepath.Join(work, cabinetFolder), h.Cabinet); err != nil {
			return w, fmt.Errorf("the cabinet could not be put into its place: %w", err)
		}
	}
	return w, moveFolder(work, h.Data)
}

func extract(root *os.Root, name string, r io.Reader) (int64, string, error) {
	if err := root.MkdirAll(path.Dir(name), 0o700); err != nil {
		return 0, "", err
	}
	f, err := root.OpenFile(name, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return 0, "", err
	}
	sum := sha256.New()
	n, err := io.Copy(io.MultiWriter(f, sum), r)
	return n, hex.EncodeToString(sum.Sum(nil)), errors.Join(err, f.Sync(), f.Close())
}

// moveFolder puts a folder into the place of an empty one, or copies it where that lies on another disk.
func moveFolder(from, to string) error {
	if err := os.Remove(to); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	if err := os.MkdirAll(filepath.Dir(filepath.Clean(to)), 0o700); err != nil {
		return err
	}
	err := os.Rename(from, to)
	if err == nil {
		return syncFolder(filepath.Dir(filepath.Clean(to)))
	}
	if err := os.CopyFS(to, os.DirFS(from)); err != nil {
		return err
	}
	return os.RemoveAll(from)
}

func syncFolder(dir string) error {
	d, err := os.Open(dir)
	if err != nil {
		return err
	}
	return errors.Join(d.Sync(), d.Close())
}
