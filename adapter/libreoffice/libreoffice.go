// Package libreoffice sets word-processor files by LibreOffice, where that is installed: in a process and with a profile of its own,
// without a network, with limits and a deadline, one file at a time.
//
// A Setter may be used by many goroutines at once; each waits for its turn.
package libreoffice

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"time"
)

// longest is how long one file may take, and longestTurn how long it waits for others.
const (
	longest     = 60 * time.Second
	longestTurn = 30 * time.Second
)

// ErrBusy is the error of a file for which there is no turn soon.
var ErrBusy = errors.New("LibreOffice has much to do; please try again in a moment")

// Setter runs the program.
type Setter struct {
	program, profile string
	turn             chan struct{}
}

// Find gives nil where the program is not installed. The profile lies in a folder that nobody else uses.
func Find(profile string) *Setter {
	program, err := exec.LookPath("soffice")
	if err != nil {
		return nil
	}
	if profile, err = filepath.Abs(profile); err != nil {
		return nil
	}
	return &Setter{program: program, profile: profile, turn: make(chan struct{}, 1)}
}

// limits bound what a file can cost: seconds of processor time, and kilobytes of address space and of what is written.
const limits = `ulimit -t 60; ulimit -v 8000000; ulimit -f 400000; exec "$@"`

// how a PDF is written: tagged, archival (2 is PDF/A-2b), for all readers, without fields to fill and without a network.
const how = `pdf:writer_pdf_Export:{"SelectPdfVersion":{"type":"long","value":"2"},"UseTaggedPDF":{"type":"boolean","value":"true"},` +
	`"PDFUACompliance":{"type":"boolean","value":"true"},"ExportFormFields":{"type":"boolean","value":"false"},` +
	`"ExportBookmarks":{"type":"boolean","value":"true"}}`

// Set makes the PDF of a word-processor file.
func (s *Setter) Set(ctx context.Context, docx []byte) ([]byte, error) {
	wait := time.NewTimer(longestTurn)
	defer wait.Stop()
	select {
	case s.turn <- struct{}{}:
		defer func() { <-s.turn }()
	case <-wait.C:
		return nil, ErrBusy
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	dir, err := os.MkdirTemp("", "amberseal-libreoffice-")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	if err := os.WriteFile(filepath.Join(dir, "file.docx"), docx, 0o600); err != nil {
		return nil, err
	}
	within, cancel := context.WithTimeout(ctx, longest)
	defer cancel()
	said, err := s.run(within, dir, true)
	if errors.Is(err, syscall.EPERM) || errors.Is(err, syscall.EINVAL) || errors.Is(err, syscall.ENOSPC) {
		said, err = s.run(within, dir, false) // the system gives nobody a network of their own
	}
	if ctx.Err() != nil {
		return nil, ctx.Err()
	}
	if within.Err() != nil {
		return nil, fmt.Errorf("LibreOffice took longer than %d seconds", longest/time.Second)
	}
	out, unread := os.ReadFile(filepath.Join(dir, "file.pdf"))
	if err != nil || unread != nil {
		return nil, fmt.Errorf("LibreOffice made no PDF: %s", lastLine(said))
	}
	return out, nil
}

// run runs the program. Apart it has no network.
func (s *Setter) run(ctx context.Context, dir string, apart bool) (said []byte, err error) {
	profile := url.URL{Scheme: "file", Path: s.profile}
	cmd := exec.CommandContext(ctx, "/bin/sh", "-c", limits, "sh", s.program, "-env:UserInstallation="+profile.String(), "--headless",
		"--nologo", "--norestore", "--nolockcheck", "--nodefault", "--convert-to", how, "--outdir", dir, filepath.Join(dir, "file.docx"))
	cmd.Dir = dir
	const nowhere = "http://127.0.0.1:9" // the port of nothing
	cmd.Env = []string{
		"HOME=" + dir, "PATH=/usr/local/bin:/usr/bin:/bin", "TMPDIR=" + dir, "LANG=C.UTF-8",
		"http_proxy=" + nowhere, "https_proxy=" + nowhere,
	}
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	if apart {
		cmd.SysProcAttr.Cloneflags = syscall.CLONE_NEWUSER | syscall.CLONE_NEWNET
		cmd.SysProcAttr.UidMappings = []syscall.SysProcIDMap{{ContainerID: os.Getuid(), HostID: os.Getuid(), Size: 1}}
		cmd.SysProcAttr.GidMappings = []syscall.SysProcIDMap{{ContainerID: os.Getgid(), HostID: os.Getgid(), Size: 1}}
	}
	cmd.Cancel = func() error { return syscall.Kill(-cmd.Process.Pid, syscall.SIGKILL) }
	cmd.WaitDelay = 2 * time.Second
	var complaint bytes.Buffer
	cmd.Stdout, cmd.Stderr = &complaint, &complaint
	err = cmd.Run()
	return complaint.Bytes(), err
}

func lastLine(said []byte) string {
	lines := strings.Split(strings.TrimSpace(string(said)), "\n")
	return lines[len(lines)-1]
}
