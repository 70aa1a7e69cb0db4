package folder_test

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"

	"amberseal/adapter/folder"
	"amberseal/app/file"
	"amberseal/app/work"
)

func open(t *testing.T) (file.Cabinet, string) {
	dir := t.TempDir()
	f, err := folder.Open(dir, "mark", false)
	if err != nil {
		t.Fatal(err)
	}
	return f, dir
}

func TestNothingIsOverwritten(t *testing.T) {
	f, dir := open(t)
	ctx := context.Background()
	for _, c := range []struct{ data, want string }{
		{"one", "a/b/x.pdf"}, {"two", "a/b/x (2).pdf"}, {"one", "a/b/x.pdf"}, {"two", "a/b/x (2).pdf"}, {"three", "a/b/x (3).pdf"},
	} {
		got, err := f.Put(ctx, "a/b/x.pdf", []byte(c.data))
		if err != nil || got != c.want {
			t.Fatalf("%s was filed as %q: %v", c.data, got, err)
		}
		if have, err := os.ReadFile(filepath.Join(dir, got)); err != nil || string(have) != c.data {
			t.Errorf("%s holds %q", got, have)
		}
	}
	left, err := filepath.Glob(filepath.Join(dir, ".amberseal/part-*"))
	if err != nil || len(left) > 0 {
		t.Errorf("parts were left behind: %v", left)
	}
}

func TestManyAtOnceUnderOneName(t *testing.T) {
	f, _ := open(t)
	var mu sync.Mutex
	var names []string
	var all sync.WaitGroup
	for i := range 40 {
		all.Go(func() {
			name, err := f.Put(context.Background(), "same.pdf", fmt.Appendf(nil, "content %d", i))
			if err != nil {
				t.Error(err)
			}
			mu.Lock()
			names = append(names, name)
			mu.Unlock()
		})
	}
	all.Wait()
	slices.Sort(names)
	if got := len(slices.Compact(names)); got != 40 {
		t.Errorf("40 documents have %d names", got)
	}
}

func TestNothingLeavesTheFolder(t *testing.T) {
	f, dir := open(t)
	outside := t.TempDir()
	if err := os.Symlink(outside, filepath.Join(dir, "door")); err != nil {
		t.Fatal(err)
	}
	for _, name := range []string{"../x.pdf", "/etc/x.pdf", "a/../../x.pdf", "", "a//b.pdf", "door/x.pdf"} {
		_, err := f.Put(context.Background(), name, []byte("x"))
		if err == nil {
			t.Errorf("%q was filed", name)
		}
		if name != "door/x.pdf" && !errors.As(err, new(work.GiveUp)) {
			t.Errorf("%q: %v should be given up", name, err)
		}
	}
	if inside, err := os.ReadDir(outside); err != nil || len(inside) > 0 {
		t.Errorf("files left the folder: %v", inside)
	}
}

func TestAFolderThatCannotBeMade(t *testing.T) {
	blocked := filepath.Join(t.TempDir(), "file")
	if err := os.WriteFile(blocked, nil, 0o600); err != nil {
		t.Fatal(err)
	}
	if _, err := folder.Open(filepath.Join(blocked, "cabinet"), "mark", false); err == nil ||
		!strings.Contains(err.Error(), "could not be made") {
		t.Errorf("got %v", err)
	}
}

// A folder that is not the cabinet any more takes nothing: one that was moved away, a share that is not mounted, one that was made
// again. When it is back, filing goes on without a new start.
func TestOnlyTheCabinetIsFiledInto(t *testing.T) {
	f, dir := open(t)
	put := func(name string) error { _, err := f.Put(t.Context(), name, []byte(name)); return err }
	outage := func(what string) {
		t.Helper()
		var again work.Again
		if err := put(what + ".pdf"); !errors.As(err, &again) || !again.Outage {
			t.Errorf("%s: %v", what, err)
		}
	}
	if err := put("first.pdf"); err != nil {
		t.Fatal(err)
	}
	away := dir + "-away"
	if err := os.Rename(dir, away); err != nil {
		t.Fatal(err)
	}
	defer os.RemoveAll(away)
	outage("moved away")
	if err := os.Mkdir(dir, 0o700); err != nil {
		t.Fatal(err)
	}
	outage("another in its place")
	if _, err := folder.Open(dir, "mark", true); err != nil {
		t.Error(err)
	}
	outage("another in its place, after a new start")
	if err := os.Remove(dir); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(dir, nil, 0o600); err != nil {
		t.Fatal(err)
	}
	outage("a file in its place")
	if err := os.Remove(dir); err != nil {
		t.Fatal(err)
	}
	if err := os.Rename(away, dir); err != nil {
		t.Fatal(err)
	}
	if err := put("second.pdf"); err != nil {
		t.Errorf("when it is back: %v", err)
	}
	left := filepath.Join(dir, ".amberseal", "part-left")
	if err := os.WriteFile(left, []byte("half"), 0o600); err != nil {
		t.Fatal(err)
	}
	if _, err := folder.Open(dir, "mark", true); err != nil {
		t.Fatal(err)
	}
	if _, err := os.Stat(left); err == nil {
		t.Error("what a crash left is still there after a new start")
	}
}

// A program that is stopped in the middle of filing has not failed.
func TestAStopIsNoFailure(t *testing.T) {
	f, _ := open(t)
	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	var giveUp work.GiveUp
	if _, err := f.Put(ctx, "x.pdf", []byte("x")); !errors.Is(err, context.Canceled) || errors.As(err, &giveUp) {
		t.Error(err)
	}
}
