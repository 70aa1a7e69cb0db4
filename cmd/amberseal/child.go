package main

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"

	"amberseal/adapter/libreoffice"
	"amberseal/app/produce"
	"amberseal/app/upload"
	"amberseal/core/foreign/annex"
	"amberseal/core/foreign/ground"
)

// limited is set in the environment of a child that reads what somebody sent.
const limited = "AMBERSEAL_LIMITED"

// limit bounds what reading a hostile file can cost: 10 s of processor time, 3 GB of address space, most of which is only set
// aside, and 1 GB of it that can be written to. Where it ends badly it leaves nothing of the file behind.
func limit() error {
	for what, most := range map[int]uint64{syscall.RLIMIT_CPU: 10, syscall.RLIMIT_AS: 3 << 30, syscall.RLIMIT_DATA: 1 << 30,
		syscall.RLIMIT_CORE: 0} {
		if err := syscall.Setrlimit(what, &syscall.Rlimit{Cur: most, Max: most}); err != nil {
			return err
		}
	}
	return nil
}

// workshops are the folders in which children find what somebody sent, by how their names begin.
var workshops = []string{"amberseal-unpack-", "amberseal-join-", "amberseal-take-", "amberseal-copy-", "amberseal-libreoffice-"}

// leftFor is how long a folder lies before it is known that nobody works in it: no child has half an hour.
const leftFor = time.Hour

// tidy takes away what a kill or a power cut left of children's work in a folder.
func tidy(dir string, now time.Time) error {
	entries, err := os.ReadDir(dir)
	if err != nil {
		return err
	}
	var failed error
	for _, e := range entries {
		if !e.IsDir() || !slices.ContainsFunc(workshops, func(p string) bool { return strings.HasPrefix(e.Name(), p) }) {
			continue
		}
		if about, err := e.Info(); err == nil && now.Sub(about.ModTime()) > leftFor {
			failed = errors.Join(failed, os.RemoveAll(filepath.Join(dir, e.Name())))
		}
	}
	return failed
}

// children is how many children run at once; waiting are those in the queue for that.
var (
	children = make(chan struct{}, 2)
	waiting  = make(chan struct{}, 8)
)

// longestTurn is how long a child waits to be run.
const longestTurn = 20 * time.Second

// errBusy is the error of a child for which there is no turn soon.
var errBusy = produce.ErrBusy

// child runs this program once more with limits, so that a hostile file ends the child alone. It has an environment of its own, in
// which no password stands.
func child(ctx context.Context, args ...string) (e ended, err error) {
	self, err := os.Executable()
	if err != nil {
		return e, err
	}
	select {
	case waiting <- struct{}{}:
		defer func() { <-waiting }()
	default:
		return e, errBusy
	}
	turn := time.NewTimer(longestTurn)
	defer turn.Stop()
	select {
	case children <- struct{}{}:
		defer func() { <-children }()
	case <-turn.C:
		return e, errBusy
	case <-ctx.Done():
		return e, ctx.Err()
	}
	ctx, cancel := context.WithTimeout(ctx, 20*time.Second)
	defer cancel()
	cmd := exec.CommandContext(ctx, self, args...)
	cmd.Env = []string{limited + "=1", "GOMEMLIMIT=700MiB", "TMPDIR=" + os.TempDir()}
	var complaint bytes.Buffer
	cmd.Stderr = &complaint
	e.out, err = cmd.Output()
	e.said = strings.TrimSpace(complaint.String())
	if s := cmd.ProcessState; s != nil {
		e.cost = s.UserTime() + s.SystemTime()
	}
	return e, err
}

// ended is how a child ended: what it gave, what it complains of, and the processor's time that it took.
type ended struct {
	out  []byte
	said string
	cost time.Duration
}

// unpack unpacks a picture and packs it anew, in a child.
func unpack(ctx context.Context, data []byte, media string) (clean []byte, cost time.Duration, err error) {
	dir, err := os.MkdirTemp("", "amberseal-unpack-")
	if err != nil {
		return nil, 0, err
	}
	defer os.RemoveAll(dir)
	name := filepath.Join(dir, "picture")
	if err := os.WriteFile(name, data, 0o600); err != nil {
		return nil, 0, err
	}
	e, err := child(ctx, "unpack", name, media)
	switch {
	case err == nil, ctx.Err() != nil:
		return e.out, e.cost, err
	case errors.Is(err, errBusy):
		return nil, e.cost, upload.ErrBusy
	case e.said != "":
		return nil, e.cost, upload.Refused{Reason: "The picture is damaged."}
	}
	return nil, e.cost, upload.Refused{Reason: "The picture takes too long to unpack; save it anew, as an ordinary JPEG."}
}

// runUnpack is the child’s side of unpack.
func runUnpack(args []string) ([]byte, error) {
	if os.Getenv(limited) != "" {
		if err := limit(); err != nil {
			return nil, err
		}
	}
	if len(args) != 2 {
		return nil, usageError{"unpack takes a picture and its media type"}
	}
	data, err := os.ReadFile(args[0])
	if err != nil {
		return nil, err
	}
	return upload.Clean(data, args[1])
}

// apart is what is done in children, which end with the context. A program that sets files is found where it is installed; its profile
// lies in a folder.
func apart(profile string) func(context.Context) produce.Apart {
	other := libreoffice.Find(profile)
	return func(ctx context.Context) produce.Apart {
		out := produce.Apart{Join: join(ctx), Done: ctx.Done()}
		if other != nil {
			out.Setter = func(docx []byte) ([]byte, error) {
				set, err := other.Set(ctx, docx)
				if errors.Is(err, libreoffice.ErrBusy) {
					return nil, fmt.Errorf("%w: %w", produce.ErrBusy, err)
				}
				if err != nil {
					return nil, err
				}
				return take(ctx, set)
			}
		}
		return out
	}
}

// join adds the pages of PDFs that were sent to a document, in a child that ends with the context.
func join(ctx context.Context) produce.Join {
	return func(document []byte, sent [][]byte) (joined []byte, added int, err error) {
		return joinIn(ctx, document, sent)
	}
}

func joinIn(ctx context.Context, document []byte, sent [][]byte) (joined []byte, added int, err error) {
	dir, err := os.MkdirTemp("", "amberseal-join-")
	if err != nil {
		return nil, 0, produce.Passing{Err: err}
	}
	defer os.RemoveAll(dir)
	args := []string{"join"}
	for i, data := range append([][]byte{document}, sent...) {
		name := filepath.Join(dir, fmt.Sprintf("%03d.pdf", i))
		if err := os.WriteFile(name, data, 0o600); err != nil {
			return nil, 0, produce.Passing{Err: err}
		}
		args = append(args, name)
	}
	e, err := child(ctx, args...)
	if err != nil {
		err = complained(ctx, e.said, err)
		if one, is := annex.ReadRefused(err.Error()); is {
			err = one
		}
		return nil, 0, err
	}
	count, file, _ := bytes.Cut(e.out, []byte("\n")) // the number of pages stands before the file
	added, err = strconv.Atoi(string(count))
	return file, added, err
}

// complained is the error of a child that read PDFs, in its own words where it had any.
func complained(ctx context.Context, said string, err error) error {
	if ctx.Err() != nil {
		return produce.Passing{Err: ctx.Err()}
	}
	if _, ended := errors.AsType[*exec.ExitError](err); !ended { // it was not begun
		return produce.Passing{Err: err}
	}
	if _, after, ok := strings.Cut(said, "amberseal: "); ok {
		return errors.New(after)
	}
	return errors.New("a PDF could not be read within its limits")
}

// take takes a PDF apart in a child.
func take(ctx context.Context, data []byte) ([]byte, error) {
	dir, err := os.MkdirTemp("", "amberseal-take-")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	name := filepath.Join(dir, "file.pdf")
	if err := os.WriteFile(name, data, 0o600); err != nil {
		return nil, err
	}
	e, err := child(ctx, "take", name)
	if err != nil {
		return nil, complained(ctx, e.said, err)
	}
	return e.out, nil
}

// runTake is the child’s side of take.
func runTake(files []string) ([]byte, error) {
	if os.Getenv(limited) != "" {
		if err := limit(); err != nil {
			return nil, err
		}
	}
	if len(files) != 1 {
		return nil, usageError{"take takes a PDF"}
	}
	data, err := os.ReadFile(files[0])
	if err != nil {
		return nil, err
	}
	return ground.Keep(data)
}

// runJoin is the child's side of join: how many pages were added, and the joined file, go to its output.
func runJoin(files []string) ([]byte, error) {
	if os.Getenv(limited) != "" {
		if err := limit(); err != nil {
			return nil, err
		}
	}
	if len(files) < 2 {
		return nil, usageError{"join takes a document and the PDFs whose pages are added to it"}
	}
	data := make([][]byte, len(files))
	for i, name := range files {
		var err error
		if data[i], err = os.ReadFile(name); err != nil {
			return nil, err
		}
	}
	joined, added, err := annex.Join(data[0], data[1:])
	return append([]byte(strconv.Itoa(added)+"\n"), joined...), err
}
