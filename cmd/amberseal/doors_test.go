package main

import (
	"encoding/json"
	"fmt"
	"io/fs"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"amberseal/demo"
)

// stranger is a browser of its own.
func (h *running) stranger(t *testing.T) *running {
	t.Helper()
	jar, err := cookiejar.New(nil)
	if err != nil {
		t.Fatal(err)
	}
	return &running{t: t, data: h.data, url: h.url, client: &http.Client{Jar: jar, Timeout: 30 * time.Second}}
}

// Sixty guesses at once are held up as sixty in a row, and the owner's own browser is not held up by them.
func TestGuessesAtOnceAreSlowedAndTheOwnerIsNot(t *testing.T) {
	h := startProgram(t)
	h.signIn()
	other := h.stranger(t)
	var mu sync.Mutex
	said := map[int]int{}
	var all sync.WaitGroup
	for range 60 {
		all.Go(func() {
			status, _ := other.try("POST", "/api/session", []byte(`{"email":"`+demo.Email+`","password":"not this one"}`))
			mu.Lock()
			said[status]++
			mu.Unlock()
		})
	}
	all.Wait()
	if said[401] > 10 || said[401]+said[429] != 60 {
		t.Errorf("sixty guesses at once gave %v; at most ten may be looked at", said)
	}
	if status := h.call("DELETE", "/api/session", nil, nil); status != 204 {
		t.Fatal(status)
	}
	h.signIn()
}

// What staff alone may have is neither listed for nor opened by who answered, though the link is theirs; links that are none
// are not guessed at without end.
func TestDocumentsOfStaffStayWithStaff(t *testing.T) {
	h := startProgram(t)
	answers, err := os.ReadFile("../../demo/answers/repair-drop-off.json")
	if err != nil {
		t.Fatal(err)
	}
	var sent receipt
	if status := h.call("POST", "/api/public/intakes/repair-drop-off/submissions", map[string]json.RawMessage{"answers": answers},
		&sent); status != 201 {
		t.Fatal(status)
	}
	if len(sent.Documents) != 1 || sent.Documents[0].Key != "receipt" {
		t.Fatalf("the respondent is shown %+v", sent.Documents)
	}
	h.signIn()
	var page struct {
		Entries []struct{ ID int64 }
	}
	soon(t, 60*time.Second, "both documents are made", func() bool {
		status, _ := h.try("GET", sent.Documents[0].Href, nil)
		return status == 200
	})
	token := strings.Split(sent.Documents[0].Href, "/")[2]
	if h.call("GET", "/api/submissions?words="+sent.Number, nil, &page); len(page.Entries) != 1 {
		t.Fatalf("%s stands %d times in the register", sent.Number, len(page.Entries))
	}
	soon(t, 60*time.Second, "the bench sheet is made", func() bool {
		status, _ := h.try("GET", fmt.Sprintf("/api/submissions/%d/documents/bench-sheet", page.Entries[0].ID), nil)
		return status == 200
	})
	if status, _ := h.stranger(t).try("GET", "/d/"+token+"/bench-sheet", nil); status != 404 {
		t.Errorf("the bench sheet opens by the respondent's link: %d", status)
	}
	limited := 0
	for i := range 50 {
		if status, _ := h.stranger(t).try("GET", "/d/"+strings.Repeat(string(rune('a'+i%26)), 22)+"/receipt", nil, "X-Forwarded-For",
			"203.0.113.7"); status == 429 {
			limited++
		}
	}
	if limited < 10 {
		t.Errorf("of 50 guessed links %d were held up", limited)
	}
}

// Nobody else on the machine reads what a house keeps, and no browser keeps what the workshop shows.
func TestWhatIsKeptIsKeptForUs(t *testing.T) {
	h := startProgram(t)
	h.signIn()
	err := filepath.WalkDir(h.data, func(path string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		info, err := d.Info()
		if err == nil && info.Mode().Perm()&0o077 != 0 && path != h.data {
			t.Errorf("%s may be read by others: %v", path, info.Mode())
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	for _, path := range []string{"/api/session", "/api/desk", "/api/submissions"} {
		r, err := h.client.Get(h.url + path)
		if err != nil {
			t.Fatal(err)
		}
		r.Body.Close()
		if got := r.Header.Get("Cache-Control"); !strings.Contains(got, "no-store") {
			t.Errorf("%s may be kept: %q", path, got)
		}
	}
}

// A new password ends every session that was begun with the one before.
func TestANewPasswordEndsSessions(t *testing.T) {
	h := startProgram(t)
	h.signIn()
	if status, _ := h.try("GET", "/api/desk", nil); status != 200 {
		t.Fatal(status)
	}
	again := func() {
		cookies := h.client.Jar
		h.start()
		h.client.Jar = cookies
	}
	stop := func() {
		if err := h.cmd.Process.Signal(os.Interrupt); err != nil {
			t.Fatal(err)
		}
		if err := h.cmd.Wait(); err != nil {
			t.Fatal(err)
		}
	}
	stop()
	again()
	if status, _ := h.try("GET", "/api/desk", nil); status != 200 {
		t.Errorf("after a restart the session gives %d", status)
	}
	stop()
	set := exec.Command(binary, "person", "--data", h.data, "--email", demo.Email, "--name", "Owner")
	set.Stdin = strings.NewReader("another-long-password\n")
	if out, err := set.CombinedOutput(); err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	again()
	if status, _ := h.try("GET", "/api/desk", nil); status != 401 {
		t.Errorf("after a new password the old session gives %d", status)
	}
	if status := h.call("POST", "/api/session", map[string]string{"email": demo.Email, "password": "another-long-password"},
		nil); status != 200 {
		t.Errorf("the new password gives %d", status)
	}
}
