package backup_test

import (
	"archive/tar"
	"bytes"
	"crypto/sha256"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"amberseal/adapter/backup"
	"amberseal/adapter/sqlite"
)

// house is one with a cabinet whose files have names as people and programs give them.
func house(t *testing.T, names ...string) backup.House {
	t.Helper()
	dir := t.TempDir()
	h := backup.House{Data: dir, Database: "house.db", Files: []string{"secret", "note"}, Cabinet: filepath.Join(dir, "cabinet")}
	db, err := sqlite.Open(t.Context(), filepath.Join(dir, h.Database))
	if err == nil {
		err = db.Close()
	}
	for _, name := range append([]string{"secret"}, names...) {
		at := filepath.Join(h.Cabinet, filepath.FromSlash(name))
		if name == "secret" {
			at = filepath.Join(dir, name)
		}
		if err == nil {
			err = os.MkdirAll(filepath.Dir(at), 0o700)
		}
		if err == nil {
			err = os.WriteFile(at, []byte("in "+name), 0o600)
		}
	}
	if err != nil {
		t.Fatal(err)
	}
	return h
}

func elsewhere(t *testing.T, h backup.House) backup.House {
	h.Data = filepath.Join(t.TempDir(), "new")
	h.Cabinet = filepath.Join(h.Data, "cabinet")
	return h
}

// Whatever names the files of a cabinet have, they go into a backup and come out of it, and sha256sum holds them against their sums.
func TestNamesInABackup(t *testing.T) {
	names := []string{"plain.pdf", "a/b/Größe ü.pdf", "line\nbreak.txt", "re\rturn.txt", `back\slash.txt`, `\n.txt`, "two  spaces.txt",
		" x", ".hidden", "SHA256SUMS", strings.Repeat("x", 255)}
	h := house(t, append(names, ".amberseal/mark", ".amberseal/part-7")...)
	to := filepath.Join(t.TempDir(), "house.tar")
	if w, err := backup.Write(t.Context(), h, to); err != nil || w.Files != len(names)+3 { // the database, the secret and the mark
		t.Fatalf("%+v %v", w, err)
	}
	dir := t.TempDir()
	check := exec.Command("sh", "-c", `tar -xf "$1" && sha256sum --quiet --strict -c SHA256SUMS`, "sh", to)
	check.Dir = dir
	if out, err := check.CombinedOutput(); err != nil {
		t.Errorf("sha256sum says %v: %s", err, out)
	}
	new := elsewhere(t, h)
	w, err := backup.Restore(t.Context(), to, new)
	if err != nil || !slices.Equal(w.Missing, []string{"note"}) {
		t.Fatalf("%+v %v", w, err)
	}
	for _, name := range names {
		if have, err := os.ReadFile(filepath.Join(new.Cabinet, name)); err != nil || string(have) != "in "+name {
			t.Errorf("%q came out as %q: %v", name, have, err)
		}
	}
	if _, err := os.Stat(filepath.Join(new.Cabinet, ".amberseal/part-7")); err == nil {
		t.Error("what was being written came along")
	}
}

// An archive with anything that a backup has not is refused, and leaves nothing behind: other names, links, other kinds, a list of sums
// that says something else, and files that are larger than the archive.
func TestWhatIsNoBackup(t *testing.T) {
	h := house(t, "a.pdf")
	good := filepath.Join(t.TempDir(), "house.tar")
	if _, err := backup.Write(t.Context(), h, good); err != nil {
		t.Fatal(err)
	}
	whole, err := os.ReadFile(good)
	if err != nil {
		t.Fatal(err)
	}
	file := func(name string) tar.Header {
		return tar.Header{Name: name, Typeflag: tar.TypeReg, Mode: 0o600, Size: 1}
	}
	link, folder, sparse := file("cabinet/l"), file("cabinet/d"), file("cabinet/s")
	link.Typeflag, link.Linkname, link.Size = tar.TypeSymlink, "/etc/passwd", 0
	folder.Typeflag, folder.Size = tar.TypeDir, 0
	sparse.PAXRecords = map[string]string{"VENDOR.sparse": "1"}
	for what, x := range map[string]struct {
		h    tar.Header
		says string
	}{
		"another name": {file("other-name.sh"), "does not belong"}, "another case": {file("HOUSE.DB"), "does not belong"},
		"the lock": {file("lock"), "does not belong"}, "a way out": {file("cabinet/../../x"), "does not belong"},
		"the cabinet itself": {file("cabinet"), "does not belong"}, "an absolute one": {file("/etc/x"), "does not belong"},
		"a link": {link, "does not belong"}, "a folder": {folder, "does not belong"}, "zeros": {sparse, "does not belong"},
		"no sum": {file("cabinet/more.pdf"), "not in its list"},
	} {
		var b bytes.Buffer
		w := tar.NewWriter(&b)
		x.h.Format = tar.FormatPAX
		if err := w.WriteHeader(&x.h); err != nil {
			t.Fatal(err)
		}
		if x.h.Size > 0 {
			w.Write([]byte("x"))
		}
		if err := w.Flush(); err != nil {
			t.Fatal(err)
		}
		// archive/tar writes no sparse files; the record's name is put in with as many letters
		head := bytes.Replace(b.Bytes(), []byte("VENDOR.sparse=1"), []byte("GNU.sparse.x1=1"), 1)
		bad := filepath.Join(t.TempDir(), "bad.tar")
		if err := os.WriteFile(bad, append(head, whole...), 0o600); err != nil {
			t.Fatal(err)
		}
		new := elsewhere(t, h)
		if _, err := backup.Restore(t.Context(), bad, new); err == nil || !strings.Contains(err.Error(), x.says) {
			t.Errorf("%s: %v", what, err)
		}
		if left, err := filepath.Glob(filepath.Join(filepath.Dir(new.Data), "*")); err != nil || len(left) > 0 {
			t.Errorf("%s left %q", what, left)
		}
	}
	for what, data := range map[string][]byte{
		"half of it": whole[:len(whole)/2], "other bytes": bytes.Replace(whole, []byte("in a.pdf"), []byte("in b.pdf"), 1),
		"another sum": bytes.Replace(whole, fmt.Appendf(nil, "%x", sha256.Sum256([]byte("in a.pdf"))), bytes.Repeat([]byte("0"), 64), 1),
	} {
		bad := filepath.Join(t.TempDir(), "bad.tar")
		if err := os.WriteFile(bad, data, 0o600); err != nil {
			t.Fatal(err)
		}
		if _, err := backup.Restore(t.Context(), bad, elsewhere(t, h)); err == nil {
			t.Errorf("%s was taken for a backup", what)
		}
	}
	if _, err := backup.Restore(t.Context(), good, h); err == nil || !strings.Contains(err.Error(), "not empty") {
		t.Errorf("over a house: %v", err)
	}
	if _, err := backup.Write(t.Context(), h, good); err == nil || !strings.Contains(err.Error(), "is there already") {
		t.Errorf("over a backup: %v", err)
	}
}
