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
	f, err := folder.Open(dir)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { f.Close() })
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
	left, err := filepath.Glob(filepath.Join(dir, "a/b/.*"))
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
	if _, err := folder.Open(filepath.Join(blocked, "cabinet")); err == nil || !strings.Contains(err.Error(), "could not be made") {
		t.Errorf("got %v", err)
	}
}
