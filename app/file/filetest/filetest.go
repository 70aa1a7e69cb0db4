// Package filetest holds cabinets against what package file asks of them.
package filetest

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"sync"
	"testing"

	"amberseal/app/file"
	"amberseal/app/work"
)

// Cabinet is one that is held against the suite, and what it looks like from outside.
type Cabinet struct {
	file.Cabinet
	Read func(path string) ([]byte, error)
	All  func() ([]string, error) // the paths of all files that were filed, and of none besides
	Out  func(out bool)           // takes what it stands on away, and brings it back; nil where that cannot be done
}

// TestCabinet runs the suite. open gives one that is empty. Every cabinet must pass it.
func TestCabinet(t *testing.T, open func(t *testing.T) Cabinet) {
	for name, test := range map[string]func(*testing.T, Cabinet){
		"equal bytes once":  equalBytesOnce,
		"whole":             whole,
		"many at once":      manyAtOnce,
		"names":             names,
		"nowhere else":      nowhereElse,
		"a stop":            stopped,
		"out and back":      outAndBack,
		"cut off each time": cutOff,
	} {
		t.Run(name, func(t *testing.T) { test(t, open(t)) })
	}
}

func (c Cabinet) put(t *testing.T, path string, data []byte) string {
	t.Helper()
	got, err := c.Put(t.Context(), path, data)
	if err != nil {
		t.Fatalf("%q was not filed: %v", path, err)
	}
	if have, err := c.Read(got); err != nil || !bytes.Equal(have, data) {
		t.Fatalf("%q holds %d bytes, not the %d that were filed: %v", got, len(have), len(data), err)
	}
	return got
}

func (c Cabinet) count(t *testing.T, want int) {
	t.Helper()
	all, err := c.All()
	if err != nil || len(all) != want {
		t.Errorf("there are %q, want %d files: %v", all, want, err)
	}
}

// Equal bytes under a path are there once; others get a count behind their name, and keep it when they are filed again.
func equalBytesOnce(t *testing.T, c Cabinet) {
	used := map[string]string{}
	for _, data := range []string{"one", "two", "one", "two", "three", "one"} {
		path := c.put(t, "Booking/2026/B-1.pdf", []byte(data))
		if before, known := used[data]; known && before != path {
			t.Errorf("%s lies at %q and %q", data, before, path)
		}
		used[data] = path
		if !strings.HasPrefix(path, "Booking/2026/B-1") || !strings.HasSuffix(path, ".pdf") {
			t.Errorf("%s lies at %q", data, path)
		}
	}
	if used["one"] != "Booking/2026/B-1.pdf" {
		t.Errorf("the first lies at %q", used["one"])
	}
	c.count(t, 3)
}

// Files of all sizes arrive whole.
func whole(t *testing.T, c Cabinet) {
	for _, n := range []int{1, 4095, 4096, 65_537, 5 << 20} {
		data := make([]byte, n)
		for i := range data {
			data[i] = byte(rand.Uint32())
		}
		c.put(t, fmt.Sprintf("size/%d.pdf", n), data)
	}
	c.count(t, 5)
}

// Of many under one name each gets a path of its own.
func manyAtOnce(t *testing.T, c Cabinet) {
	var mu sync.Mutex
	var paths []string
	var all sync.WaitGroup
	for i := range 20 {
		all.Go(func() {
			path, err := c.Put(t.Context(), "same.pdf", fmt.Appendf(nil, "content %d", i))
			if err != nil {
				t.Error(err)
			}
			mu.Lock()
			paths = append(paths, path)
			mu.Unlock()
		})
	}
	all.Wait()
	slices.Sort(paths)
	if n := len(slices.Compact(paths)); n != 20 {
		t.Errorf("20 documents have %d paths", n)
	}
	c.count(t, 20)
}

// Names of all scripts are kept as they are.
func names(t *testing.T, c Cabinet) {
	all := []string{"Łódź – Größe/Ærø 100 %.pdf", "周小明/發票.pdf", "مرحبا/إيصال.pdf", "a b/c'd #1+2&3.pdf"}
	for _, name := range all {
		if got := c.put(t, name, []byte(name)); got != name {
			t.Errorf("%q became %q", name, got)
		}
	}
	if have, err := c.All(); err != nil || len(have) != len(all) {
		t.Errorf("there are %q: %v", have, err)
	}
}

// Nothing is filed outside the cabinet; what cannot be a path is given up.
func nowhereElse(t *testing.T, c Cabinet) {
	for _, path := range []string{"../x.pdf", "/etc/x.pdf", "a/../../x.pdf", "", "a//b.pdf", ".", "a/", "./x.pdf", "nul\x00.pdf"} {
		if got, err := c.Put(t.Context(), path, []byte("x")); !errors.As(err, new(work.GiveUp)) {
			t.Errorf("%q was filed as %q: %v", path, got, err)
		}
	}
	c.count(t, 0)
}

// Who is stopped has not failed for ever.
func stopped(t *testing.T, c Cabinet) {
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	if _, err := c.Put(ctx, "x.pdf", []byte("x")); err == nil || errors.As(err, new(work.GiveUp)) {
		t.Errorf("a stop: %v", err)
	}
}

// While it is out that is told as an outage; when it is back filing goes on.
func outAndBack(t *testing.T, c Cabinet) {
	if c.Out == nil {
		t.Skip("this cabinet cannot be taken away in a test")
	}
	c.put(t, "a/first.pdf", []byte("first"))
	c.Out(true)
	var again work.Again
	if _, err := c.Put(t.Context(), "a/second.pdf", []byte("second")); !errors.As(err, &again) || !again.Outage || again.Reason == "" {
		t.Errorf("while it is out: %v", err)
	}
	c.Out(false)
	c.put(t, "a/second.pdf", []byte("second"))
	c.put(t, "a/first.pdf", []byte("first"))
	c.count(t, 2)
}

// Filing that breaks off leaves the file whole or not at all, and can be done again.
func cutOff(t *testing.T, c Cabinet) {
	data := bytes.Repeat([]byte("0123456789abcdef"), 1<<16)
	for n := range 20 {
		ctx, cancel := context.WithCancel(t.Context())
		go func() {
			for range n * 100 {
				_ = ctx.Err() // a while, and another one each time
			}
			cancel()
		}()
		_, err := c.Put(ctx, fmt.Sprintf("cut/%d.pdf", n), data)
		cancel()
		if errors.As(err, new(work.GiveUp)) {
			t.Errorf("what was broken off was given up: %v", err)
		}
	}
	for n := range 20 {
		if got := c.put(t, fmt.Sprintf("cut/%d.pdf", n), data); got != fmt.Sprintf("cut/%d.pdf", n) {
			t.Errorf("filed again it lies at %q", got)
		}
	}
	c.count(t, 20)
}
