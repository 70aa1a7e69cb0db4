package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"
)

// A backup of a house that is busy is whole: general tools read it, a house made of it has every acknowledged submission up to that
// moment, opens the links that were given out, and files into the same cabinet. What is not right is refused, and nothing is
// written over.
func TestBackupOfARunningHouse(t *testing.T) {
	h := startProgram(t)
	h.signIn()
	var stop atomic.Bool
	var taken atomic.Int32
	var clients sync.WaitGroup
	for c := range 4 {
		clients.Go(func() {
			for n := 0; !stop.Load(); n++ {
				if status, _ := h.try("POST", "/api/public/intakes/practice-room/submissions",
					bookingBody(fmt.Sprintf("b%d.%d@many.example", c, n))); status == 201 {
					taken.Add(1)
				}
			}
		})
	}
	soon(t, time.Minute, "some were taken in", func() bool { return taken.Load() > 40 })
	before := int(taken.Load())
	file := filepath.Join(t.TempDir(), "house.tar")
	out, err := exec.Command(binary, "backup", "--data", h.data, "--to", file).CombinedOutput()
	stop.Store(true)
	clients.Wait()
	if err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	var r receipt
	if status := h.call("POST", "/api/public/intakes/practice-room/submissions", string(bookingBody("link@one.example")),
		&r); status != 201 {
		t.Fatal(status)
	}
	if out, err := exec.Command(binary, "backup", "--data", h.data, "--to", file).CombinedOutput(); err == nil ||
		!strings.Contains(string(out), "is there already") {
		t.Errorf("a backup was written over: %s", out)
	}
	late := filepath.Join(t.TempDir(), "late.tar")
	if out, err := exec.Command(binary, "backup", "--data", h.data, "--to", late).CombinedOutput(); err != nil {
		t.Fatalf("%v: %s", err, out)
	}

	dir := t.TempDir()
	if out, err := exec.Command("sh", "-c", "tar -xf "+file+" -C "+dir+" && cd "+dir+" && sha256sum --quiet -c "+
		"SHA256SUMS").CombinedOutput(); err != nil {
		t.Errorf("tar and sha256sum say %v: %s", err, out)
	}
	whole, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	for what, data := range map[string][]byte{"half of it": whole[:len(whole)/2],
		"another byte in it": bytes.Replace(whole, []byte("%PDF-"), []byte("%PDE-"), 1), "nothing": {}} {
		bad := filepath.Join(t.TempDir(), "bad.tar")
		if err := os.WriteFile(bad, data, 0o600); err != nil {
			t.Fatal(err)
		}
		to := filepath.Join(t.TempDir(), "new")
		if out, err := exec.Command(binary, "restore", "--from", bad, "--data", to).CombinedOutput(); err == nil {
			t.Errorf("%s was taken for a backup: %s", what, out)
		}
		if _, err := os.Stat(to); err == nil {
			t.Errorf("of %s something was left", what)
		}
	}
	if out, err := exec.Command(binary, "restore", "--from", file, "--data", h.data).CombinedOutput(); err == nil ||
		!strings.Contains(string(out), "is not empty") {
		t.Errorf("a house was written over: %s", out)
	}

	h.cmd.Process.Signal(syscall.SIGTERM)
	h.cmd.Wait()
	for n, from := range []string{file, late} {
		again := &running{t: t, data: filepath.Join(t.TempDir(), "again")}
		if out, err := exec.Command(binary, "restore", "--from", from, "--data", again.data).CombinedOutput(); err != nil {
			t.Fatalf("%v: %s", err, out)
		}
		again.start()
		t.Cleanup(func() { again.cmd.Process.Kill() })
		again.signIn()
		rests(t, again)
		var page struct{ All, Failed, Unfinished int }
		// A running register is written once a minute at most.
		soon(t, 3*time.Minute, "all is done in the house that was made again", func() bool {
			again.call("GET", "/api/submissions", nil, &page)
			return page.Unfinished <= 1 // the demo has one that waits
		})
		if page.All < before {
			t.Errorf("backup %d has %d submissions, %d were acknowledged before it", n, page.All, before)
		}
		status, pdf := again.try("GET", r.Documents[0].Href, nil)
		if n == 1 && (status != 200 || !bytes.HasPrefix(pdf, []byte("%PDF"))) {
			t.Errorf("a link that was given out gives %d", status)
		}
		again.cmd.Process.Signal(syscall.SIGTERM)
		again.cmd.Wait()
	}
}

// rests checks that a house made of a backup does nothing outside until it is let, and that it passes over numbers then.
func rests(t *testing.T, again *running) {
	t.Helper()
	var desk struct{ Resting *time.Time }
	again.call("GET", "/api/desk", nil, &desk)
	if desk.Resting == nil {
		t.Error("the desk does not say that the house rests")
	}
	if status, answer := again.try("POST", "/api/public/intakes/practice-room/submissions",
		bookingBody("rest@one.example")); status != 409 && status != 410 {
		t.Errorf("a house that rests took something in: %d %s", status, answer)
	}
	mails := len(again.messages())
	time.Sleep(1500 * time.Millisecond)
	if now := len(again.messages()); now != mails {
		t.Errorf("a house that rests sent %d mails", now-mails)
	}
	var last struct{ Entries []struct{ Number string } }
	again.call("GET", "/api/submissions", nil, &last)
	if status := again.call("DELETE", "/api/house/rest", `{"skip":1000}`, nil); status != 204 {
		t.Fatal(status)
	}
	var r receipt
	if status := again.call("POST", "/api/public/intakes/practice-room/submissions", string(bookingBody("woken@one.example")),
		&r); status != 201 {
		t.Fatal(status)
	}
	before, after := ordinal(t, last.Entries[0].Number), ordinal(t, r.Number)
	if after <= before+1000 {
		t.Errorf("after %d came %d, though 1000 were to be passed over", before, after)
	}
}

// ordinal is the number at the end of a submission's number.
func ordinal(t *testing.T, number string) int {
	t.Helper()
	n, err := strconv.Atoi(number[strings.LastIndexByte(number, '-')+1:])
	if err != nil {
		t.Fatalf("%q ends with no number", number)
	}
	return n
}

// bookingBody is a booking as a request's body.
func bookingBody(email string) []byte {
	body, err := json.Marshal(booking(email))
	if err != nil {
		panic(err)
	}
	return body
}

// After a stop the database's file is whole by itself.
func TestTheFileIsWholeAfterAStop(t *testing.T) {
	h := startProgram(t)
	h.signIn()
	for n := range 30 {
		if status, answer := h.try("POST", "/api/public/intakes/practice-room/submissions",
			bookingBody(fmt.Sprintf("w%d@many.example", n))); status != 201 {
			t.Fatalf("%d %s", status, answer)
		}
	}
	h.cmd.Process.Signal(syscall.SIGTERM)
	h.cmd.Wait()
	data, err := os.ReadFile(filepath.Join(h.data, "amberseal.db"))
	if err != nil {
		t.Fatal(err)
	}
	alone := filepath.Join(t.TempDir(), "alone.db")
	if err := os.WriteFile(alone, data, 0o600); err != nil {
		t.Fatal(err)
	}
	out, err := exec.Command("python3", "-c", `import sqlite3, sys
c = sqlite3.connect(sys.argv[1])
print(c.execute("PRAGMA integrity_check").fetchone()[0], c.execute("SELECT count(*) >= 30 FROM submission").fetchone()[0])`,
		alone).CombinedOutput()
	if err != nil || strings.TrimSpace(string(out)) != "ok 1" {
		t.Errorf("the file alone: %v %s", err, out)
	}
}
