package main

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"

	"amberseal/core/annex"
)

// limited is set in the environment of a child that reads what somebody sent.
const limited = "AMBERSEAL_LIMITED"

// limit bounds what reading a hostile file can cost: 10 s of processor time and 3 GB of address space.
func limit() error {
	if err := syscall.Setrlimit(syscall.RLIMIT_CPU, &syscall.Rlimit{Cur: 10, Max: 10}); err != nil {
		return err
	}
	const space = 3 << 30
	return syscall.Setrlimit(syscall.RLIMIT_AS, &syscall.Rlimit{Cur: space, Max: space})
}

// child runs this program once more with limits, so that a hostile file ends the child alone. said is what it complains of.
func child(ctx context.Context, args ...string) (out []byte, said string, err error) {
	self, err := os.Executable()
	if err != nil {
		return nil, "", err
	}
	ctx, cancel := context.WithTimeout(ctx, 20*time.Second)
	defer cancel()
	cmd := exec.CommandContext(ctx, self, args...)
	cmd.Env = append(os.Environ(), limited+"=1")
	var complaint bytes.Buffer
	cmd.Stderr = &complaint
	out, err = cmd.Output()
	return out, strings.TrimSpace(complaint.String()), err
}

// join adds the pages of PDFs that were sent to a document, in a child.
func join(document []byte, sent [][]byte) (joined []byte, added int, err error) {
	dir, err := os.MkdirTemp("", "amberseal-join-")
	if err != nil {
		return nil, 0, err
	}
	defer os.RemoveAll(dir)
	args := []string{"join"}
	for i, data := range append([][]byte{document}, sent...) {
		name := filepath.Join(dir, fmt.Sprintf("%03d.pdf", i))
		if err := os.WriteFile(name, data, 0o600); err != nil {
			return nil, 0, err
		}
		args = append(args, name)
	}
	out, said, err := child(context.Background(), args...)
	if err == nil { // the number of pages stands before the file
		count, file, _ := bytes.Cut(out, []byte("\n"))
		added, err = strconv.Atoi(string(count))
		return file, added, err
	}
	if _, after, ok := strings.Cut(said, "amberseal: "); ok {
		return nil, 0, errors.New(after)
	}
	return nil, 0, errors.New("a PDF could not be read within its limits")
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
