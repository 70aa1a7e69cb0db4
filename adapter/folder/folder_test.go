package folder_test

import (
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"amberseal/adapter/folder"
	"amberseal/app/file"
	"amberseal/app/work"
)

func open(t *testing.T) (*folder.Folder, string) {
	dir := t.TempDir()
	f, err := folder.Open(dir, "mark", false)
	if err != nil {
		t.Fatal(err)
	}
	return f, dir
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
	put := func(name string) error {
		_, err := file.Put(t.Context(), f, name, file.File{Data: []byte(name)}, "")
		return err
	}
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
