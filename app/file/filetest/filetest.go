// Package filetest holds places against what package file asks of them.
package filetest

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"amberseal/app/file"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/filing"
)

// Place is one that is held against the suite, and what it looks like from outside.
type Place struct {
	file.Place
	Read func(path string) ([]byte, error)
	All  func() ([]string, error) // the paths of all files that were filed, and of none besides
	Out  func(out bool)           // takes what it stands on away, and brings it back
	Sent func() int64             // bytes that it gave; nil where no server does
	Ill  map[string]func(on bool) // ways in which it can fail, and be well again: full, forbidden, closing, lying

	Endless func(on bool) // what it gives does not end
}

// TestPlace runs the suite. open gives one that is empty. Every place must pass it.
func TestPlace(t *testing.T, open func(t *testing.T) Place) {
	for name, test := range map[string]func(*testing.T, Place){
		"equal bytes once":  equalBytesOnce,
		"whole":             whole,
		"many at once":      manyAtOnce,
		"names":             names,
		"nowhere else":      nowhereElse,
		"a stop":            stopped,
		"out and back":      outAndBack,
		"cut off each time": cutOff,
		"versions":          versions,
		"written over":      writtenOver,
		"swapped":           swapped,
		"read and removed":  readAndRemoved,
		"ill and well":      illAndWell,
		"without an end":    withoutEnd,
	} {
		t.Run(name, func(t *testing.T) { test(t, open(t)) })
	}
}

// file files as a rule does that puts a number behind a name that is taken.
func (c Place) file(ctx context.Context, path string, data []byte) (string, error) {
	return file.Put(ctx, c.Place, path, file.File{Data: data, Type: "application/pdf", About: map[string]string{"number": "B-1 Ł"}}, "")
}

func (c Place) put(t *testing.T, path string, data []byte) string {
	t.Helper()
	got, err := c.file(t.Context(), path, data)
	if err != nil {
		t.Fatalf("%q was not filed: %v", path, err)
	}
	if have, err := c.Read(got); err != nil || !bytes.Equal(have, data) {
		t.Fatalf("%q holds %d bytes, not the %d that were filed: %v", got, len(have), len(data), err)
	}
	return got
}

func (c Place) count(t *testing.T, want int) {
	t.Helper()
	all, err := c.All()
	if err != nil || len(all) != want {
		t.Errorf("there are %q, want %d files: %v", all, want, err)
	}
}

// Equal bytes under a path are there once; others get a count behind their name, and keep it when they are filed again.
func equalBytesOnce(t *testing.T, c Place) {
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
func whole(t *testing.T, c Place) {
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
func manyAtOnce(t *testing.T, c Place) {
	var mu sync.Mutex
	var paths []string
	var all sync.WaitGroup
	for i := range 20 {
		all.Go(func() {
			path, err := c.file(t.Context(), "same.pdf", fmt.Appendf(nil, "content %d", i))
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
func names(t *testing.T, c Place) {
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

// Nothing is filed outside the place; what cannot be a path is given up.
func nowhereElse(t *testing.T, c Place) {
	for _, path := range []string{"../x.pdf", "/etc/x.pdf", "a/../../x.pdf", "", "a//b.pdf", ".", "a/", "./x.pdf", "nul\x00.pdf"} {
		if got, err := c.file(t.Context(), path, []byte("x")); !errors.As(err, new(work.GiveUp)) {
			t.Errorf("%q was filed as %q: %v", path, got, err)
		}
	}
	c.count(t, 0)
}

// Who is stopped has not failed for ever.
func stopped(t *testing.T, c Place) {
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	if _, err := c.file(ctx, "x.pdf", []byte("x")); err == nil || errors.As(err, new(work.GiveUp)) {
		t.Errorf("a stop: %v", err)
	}
}

// While it is out that is told as an outage; when it is back filing goes on.
func outAndBack(t *testing.T, c Place) {
	c.put(t, "a/first.pdf", []byte("first"))
	c.Out(true)
	var again work.Again
	if _, err := c.file(t.Context(), "a/second.pdf", []byte("second")); !errors.As(err, &again) || !again.Outage || again.Reason == "" {
		t.Errorf("while it is out: %v", err)
	}
	c.Out(false)
	c.put(t, "a/second.pdf", []byte("second"))
	c.put(t, "a/first.pdf", []byte("first"))
	c.count(t, 2)
}

// Filing that breaks off leaves the file whole or not at all, and can be done again.
func cutOff(t *testing.T, c Place) {
	data := bytes.Repeat([]byte("0123456789abcdef"), 1<<16)
	for n := range 20 {
		ctx, cancel := context.WithCancel(t.Context())
		go func() {
			for range n * 100 {
				_ = ctx.Err() // a while, and another one each time
			}
			cancel()
		}()
		_, err := c.file(ctx, fmt.Sprintf("cut/%d.pdf", n), data)
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

// What was there before is kept beside, or under the same name where the place does that, and the newest has the name.
func versions(t *testing.T, c Place) {
	for _, data := range []string{"one", "two", "two", "three"} {
		got, err := file.Put(t.Context(), c.Place, "a/v.pdf", file.File{Data: []byte(data)}, filing.Version)
		if err != nil || got != "a/v.pdf" {
			t.Fatalf("%s lies at %q: %v", data, got, err)
		}
		if have, err := c.Read("a/v.pdf"); err != nil || string(have) != data {
			t.Fatalf("the name has %q, not %q: %v", have, data, err)
		}
	}
	keeps := false
	if v, ok := c.Place.(file.Versioned); ok {
		var err error
		if keeps, err = v.KeepsVersions(t.Context()); err != nil {
			t.Fatal(err)
		}
	}
	if keeps {
		c.count(t, 1)
		return
	}
	c.count(t, 3)
	for name, want := range map[string]string{"a/v (version 2).pdf": "one", "a/v (version 3).pdf": "two"} {
		if have, err := c.Read(name); err != nil || string(have) != want {
			t.Errorf("%s has %q, not %q: %v", name, have, want, err)
		}
	}
}

// What takes another's place has its name, and the other is gone.
func writtenOver(t *testing.T, c Place) {
	for _, data := range []string{"one", "two two", "3"} {
		if got, err := file.Put(t.Context(), c.Place, "a/r.pdf", file.File{Data: []byte(data)}, filing.Replace); err != nil ||
			got != "a/r.pdf" {
			t.Fatalf("%s lies at %q: %v", data, got, err)
		}
		if have, err := c.Read("a/r.pdf"); err != nil || string(have) != data {
			t.Fatalf("the name has %q, not %q: %v", have, data, err)
		}
	}
	c.count(t, 1)
}

// A file is swapped for another only where it is still the one that was meant.
func swapped(t *testing.T, c Place) {
	c.put(t, "a/r.csv", []byte("one"))
	for _, x := range []struct {
		name  string
		meant []string
		to    string
		want  error
		has   string
	}{
		{"a/r.csv", []string{"one"}, "two", nil, "two"},
		{"a/r.csv", []string{"one"}, "three", file.Other, "two"},
		{"a/r.csv", []string{"nothing", "two"}, "three", nil, "three"},
		{"a/none.csv", []string{"one"}, "two", file.Gone, ""},
	} {
		var sums []string
		for _, m := range x.meant {
			sums = append(sums, register.Sum([]byte(m)))
		}
		err := file.Swap(t.Context(), c.Place, x.name, sums, file.File{Data: []byte(x.to), Type: "text/csv"})
		if have, _ := c.Read(x.name); !errors.Is(err, x.want) || string(have) != x.has {
			t.Errorf("%q for %q gives %v, and it has %q", x.to, x.meant, err, have)
		}
	}
	if g, ok := c.Place.(file.Guarded); ok { // somebody writes between the look and the swap
		_, tag, err := g.ReadTagged(t.Context(), "a/r.csv", 100)
		if err == nil {
			err = c.Replace(t.Context(), "a/r.csv", file.File{Data: []byte("theirs")})
		}
		if err != nil {
			t.Fatal(err)
		}
		err = g.ReplaceTagged(t.Context(), "a/r.csv", tag, file.File{Data: []byte("ours")})
		if have, _ := c.Read("a/r.csv"); !errors.Is(err, file.Other) || string(have) != "theirs" {
			t.Errorf("a swap over what somebody wrote meanwhile: %v, %q", err, have)
		}
	}
	c.count(t, 1)
}

// What was filed is read, listed and removed under its name; what is not there is said to be gone.
func readAndRemoved(t *testing.T, c Place) {
	ctx := t.Context()
	for _, name := range []string{"top.pdf", "a/1.pdf", "a/b/Größe ü.pdf", "ab/3.pdf"} {
		c.put(t, name, []byte(name))
		if have, err := c.Place.Read(ctx, name, len(name)); err != nil || string(have) != name {
			t.Errorf("%q reads %q: %v", name, have, err)
		}
		if have, err := c.Place.Read(ctx, name, 3); err != nil || string(have) != name[:4] {
			t.Errorf("%q, which is longer than three bytes, reads %q: %v", name, have, err)
		}
	}
	for folder, want := range map[string]string{"": "a/1.pdf a/b/Größe ü.pdf ab/3.pdf top.pdf", "a": "a/1.pdf a/b/Größe ü.pdf",
		"none": ""} {
		all, err := c.List(ctx, folder)
		var names []string
		for _, e := range all {
			if names = append(names, e.Path); e.Size != int64(len(e.Path)) {
				t.Errorf("%q has %d bytes", e.Path, e.Size)
			}
		}
		slices.Sort(names)
		if got := strings.Join(names, " "); err != nil || got != want {
			t.Errorf("below %q lie %q, not %q: %v", folder, got, want, err)
		}
	}
	if err := c.Remove(ctx, "a/1.pdf"); err != nil {
		t.Error(err)
	}
	for _, name := range []string{"a/1.pdf", "none.pdf", "no/such/folder.pdf"} {
		if _, err := c.Place.Read(ctx, name, 100); !errors.Is(err, file.Gone) {
			t.Errorf("%q is not gone: %v", name, err)
		}
	}
	if err := c.Place.Create(ctx, "top.pdf", file.File{Data: []byte("other")}); !errors.Is(err, file.Taken) {
		t.Errorf("a name that is taken: %v", err)
	}
	if err := c.Move(ctx, "top.pdf", "ab/3.pdf"); !errors.Is(err, file.Taken) {
		t.Errorf("moved over another: %v", err)
	}
}

// However it fails, that is an outage with a reason and nothing is said to be filed that is not; when it is well all is there once.
func illAndWell(t *testing.T, c Place) {
	data := bytes.Repeat([]byte("0123456789abcdef"), 1<<10)
	for name, ill := range c.Ill {
		ill(true)
		path := "ill/" + name + ".pdf"
		var again work.Again
		if _, err := c.file(t.Context(), path, data); !errors.As(err, &again) || !again.Outage || again.Reason == "" {
			t.Errorf("%s: %#v", name, err)
		}
		t.Logf("%s: %s", name, again.Reason)
		ill(false)
		if got := c.put(t, path, data); got != path {
			t.Errorf("%s: filed again it lies at %q", name, got)
		}
	}
	c.count(t, len(c.Ill))
}

// A server whose answers do not end is hung up, whatever was asked; of a file no more is read than was asked for.
func withoutEnd(t *testing.T, c Place) {
	if c.Sent == nil {
		return
	}
	data := bytes.Repeat([]byte("x"), 1000)
	c.put(t, "a/1.pdf", data)
	const most = 48 << 20 // what was allowed, and what lay on the line by then
	given := func(what string, do func() error) {
		before := c.Sent()
		err := do()
		if n := c.Sent() - before; n > most {
			t.Errorf("%s takes %d bytes: %v", what, n, err)
		}
	}
	outage := func(err error) bool {
		var again work.Again
		return errors.As(err, &again) && again.Outage && strings.Contains(again.Reason, "sends more than it was asked for")
	}
	c.Endless(true)
	given("a file", func() error {
		have, err := c.Place.Read(t.Context(), "a/1.pdf", len(data))
		if err != nil && !outage(err) || len(have) > len(data)+1 {
			t.Errorf("a file without an end gives %d bytes and %v", len(have), err)
		}
		return err
	})
	given("a list", func() error {
		all, err := c.List(t.Context(), "")
		if !outage(err) {
			t.Errorf("a list without an end has %d names: %v", len(all), err)
		}
		return err
	})
	given("filing", func() error {
		_, err := c.file(t.Context(), "a/2.pdf", data)
		return err
	})
	c.Endless(false)
	if have, err := c.Place.Read(t.Context(), "a/1.pdf", len(data)); err != nil || !bytes.Equal(have, data) {
		t.Errorf("afterwards it reads %d bytes: %v", len(have), err)
	}
}

// TestTidied holds a place against Tidied: what a killed run left in its own folder is taken away once it is a day old, and nothing else.
// dir is what the place stands on.
func TestTidied(t *testing.T, dir string, p file.Tidied) {
	if err := p.Tidy(t.Context(), time.Now()); err != nil { // there is no folder of its own yet
		t.Error(err)
	}
	for name, age := range map[string]time.Duration{".amberseal/part-old": 48 * time.Hour, ".amberseal/part-new": time.Minute,
		".amberseal/mark": 48 * time.Hour, "part-of-the-house.pdf": 48 * time.Hour} {
		at := filepath.Join(dir, name)
		err := os.MkdirAll(filepath.Dir(at), 0o700)
		if err == nil {
			err = os.WriteFile(at, []byte("x"), 0o600)
		}
		if err == nil {
			err = os.Chtimes(at, time.Now().Add(-age), time.Now().Add(-age))
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	if err := p.Tidy(t.Context(), time.Now().Add(-24*time.Hour)); err != nil {
		t.Fatal(err)
	}
	for name, stays := range map[string]bool{".amberseal/part-old": false, ".amberseal/part-new": true, ".amberseal/mark": true,
		"part-of-the-house.pdf": true} {
		if _, err := os.Stat(filepath.Join(dir, name)); (err == nil) != stays {
			t.Errorf("%s: %v", name, err)
		}
	}
}
