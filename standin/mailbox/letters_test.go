package mailbox

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"
)

// Letters come back as they were, also after a new start and with lines that look like the beginning of another; Python's mailbox
// module, an independent reader, counts as many.
func TestLetters(t *testing.T) {
	name := filepath.Join(t.TempDir(), "letters.mbox")
	f, all, err := openLetters(name)
	if err != nil || len(all) > 0 {
		t.Fatal(all, err)
	}
	letters := []string{
		"Subject: one\r\n\r\nFrom here\r\n>From there\r\n\r\nFrom mailbox@localhost Mon Jan  2 15:04:05 2006\r\n",
		"Subject: two\r\n\r\n\n\nno end", "Subject: three\n\n\n\n", "",
	}
	at := time.Date(2026, 11, 27, 12, 0, 0, 0, time.UTC)
	for range 2 {
		for _, l := range letters {
			k, err := add(f, []byte(l), at)
			if err != nil {
				t.Fatal(err)
			}
			all = append(all, k)
		}
		if err := f.Close(); err != nil {
			t.Fatal(err)
		}
		var again []kept
		if f, again, err = openLetters(name); err != nil || len(again) != len(all) {
			t.Fatalf("%d of %d letters are there: %v", len(again), len(all), err)
		}
		for i, k := range again {
			if raw, err := k.raw(f); err != nil || !bytes.Equal(raw, []byte(letters[i%len(letters)])) || !k.at.Equal(at) ||
				k.offset != all[i].offset {
				t.Errorf("letter %d is %q of %v: %v", i, raw, k.at, err)
			}
		}
	}
	out, err := exec.Command("python3", "-c", "import mailbox,sys; print(len(mailbox.mbox(sys.argv[1])))", name).CombinedOutput()
	if err != nil || string(out) != "8\n" {
		t.Errorf("python counts %s: %v", out, err)
	}
	last := all[len(all)-2] // of three lines
	if err := os.Truncate(name, last.offset+int64(last.size)-3); err != nil {
		t.Fatal(err)
	}
	if f, all, err = openLetters(name); err != nil || len(all) != 6 {
		t.Fatalf("of a file that was cut off %d letters are left: %v", len(all), err)
	}
	if _, err := add(f, []byte("next"), at); err != nil {
		t.Fatal(err)
	}
	if _, all, err := openLetters(name); err != nil || len(all) != 7 {
		t.Errorf("behind what was cut off %d letters are there: %v", len(all), err)
	}
	if err := os.Truncate(name, 10); err != nil {
		t.Fatal(err)
	}
	if _, all, err := openLetters(name); err != nil || len(all) > 0 {
		t.Errorf("what was cut off gives %d letters: %v", len(all), err)
	}
}
