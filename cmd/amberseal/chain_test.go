package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"syscall"
	"testing"
	"time"

	"amberseal/adapter/sqlite"
)

const submissions = "/api/public/intakes/practice-room/submissions"

func TestASubmissionBecomesMailAndFile(t *testing.T) {
	h := startProgram(t)
	var r receipt
	if status := h.call("POST", submissions, booking("lucja@one.example"), &r); status != 201 {
		t.Fatal(status)
	}
	_, pdf := h.try("GET", r.Documents[0].Href, nil)
	if !bytes.HasPrefix(pdf, []byte("%PDF-")) {
		t.Fatalf("the document is %.80q", pdf)
	}
	soon(t, 10*time.Second, "both messages came", func() bool {
		return len(h.mailTo("lucja@one.example")) == 1 &&
			slices.ContainsFunc(h.mailTo("workshop@tarnhollow.example"),
				func(m message) bool { return strings.Contains(m.Subject, r.Number) })
	})
	_, raw := h.try("GET", "/standin/mailbox/messages/"+h.mailTo("lucja@one.example")[0].ID, nil)
	readBack(t, raw, "Your booking "+r.Number+": Loft, 24 December 2026", pdf)
	file := filepath.Join(h.data, "cabinet", "Rooms", "Loft", "2026-12-24 "+r.Number+".pdf")
	soon(t, 10*time.Second, "it is filed as "+file, func() bool {
		filed, err := os.ReadFile(file)
		return err == nil && bytes.Equal(filed, pdf)
	})
	if info, err := os.Stat(h.data); err != nil || info.Mode().Perm() != 0o700 {
		t.Errorf("the data folder has mode %v", info.Mode())
	}
}

// readBack reads the message with Python's email package, which knows nothing of the library
// that wrote it (policy.default follows RFC 5322, 2045 to 2047, 2231).
func readBack(t *testing.T, raw []byte, subject string, pdf []byte) {
	t.Helper()
	const script = `
import sys, json, base64, email, email.policy
m = email.message_from_bytes(sys.stdin.buffer.read(), policy=email.policy.default)
defects = [str(d) for p in m.walk() for d in p.defects] + [str(d) for h in m.values() for d in getattr(h, 'defects', [])]
a = [(p.get_filename(), base64.b64encode(p.get_payload(decode=True)).decode()) for p in m.iter_attachments()]
print(json.dumps({'defects': defects, 'subject': m['subject'], 'attachments': a, 'text': m.get_body(('plain',)).get_content(), 'html': ` +
		`m.get_body(('html',)).get_content(), 'from': m['from'], 'id': m['message-id']}))`
	cmd := exec.Command("python3", "-c", script)
	cmd.Stdin = bytes.NewReader(raw)
	out, err := cmd.Output()
	if err != nil {
		t.Fatal(err)
	}
	var m struct {
		Defects           []string
		Subject, Text, ID string
		Attachments       [][2]any
	}
	if err := json.Unmarshal(out, &m); err != nil {
		t.Fatal(err)
	}
	if len(m.Defects) > 0 || m.Subject != subject || len(m.Attachments) != 1 || !strings.Contains(m.Text, "Łucja Brzęk") || m.ID == "" {
		t.Errorf("python reads %+v", m)
	}
	var attached []byte
	if err := json.Unmarshal([]byte(`"`+m.Attachments[0][1].(string)+`"`), &attached); err != nil || !bytes.Equal(attached, pdf) {
		t.Errorf("the attachment has other bytes than the document: %v", err)
	}
}

func TestMailWaitsWhileItsServerIsStopped(t *testing.T) {
	h := startProgram(t)
	h.signIn()
	soon(t, time.Minute, "the demo's own mail is out", func() bool { return len(h.messages()) >= 60 })
	post := func(on string) {
		r, err := http.Post(h.url+"/standin/mailbox/switch", "application/x-www-form-urlencoded", strings.NewReader("on="+on))
		if err != nil {
			t.Fatal(err)
		}
		r.Body.Close()
	}
	post("false")
	for i := range 5 {
		if status := h.call("POST", submissions, booking(fmt.Sprintf("waits%d@one.example", i)), nil); status != 201 {
			t.Fatal("not accepted while mail is down: ", status)
		}
	}
	var page struct {
		Entries []struct {
			Number string
			Steps  []struct{ Kind, State, Reason string }
		}
	}
	soon(t, 15*time.Second, "the register says why messages wait", func() bool {
		h.call("GET", "/api/submissions?state=unfinished", nil, &page)
		for _, e := range page.Entries {
			for _, s := range e.Steps {
				if s.Kind == "notice" && s.State == "ready" && strings.Contains(s.Reason, "does not answer") {
					return true
				}
			}
		}
		return false
	})
	post("true")
	soon(t, 30*time.Second, "all five went out by themselves", func() bool {
		for i := range 5 {
			if len(h.mailTo(fmt.Sprintf("waits%d@one.example", i))) == 0 {
				return false
			}
		}
		return true
	})
	time.Sleep(time.Second)
	ids := map[string]int{}
	for _, m := range h.messages() {
		ids[m.MessageID]++
		if ids[m.MessageID] > 1 {
			t.Errorf("%s went out twice", m.Subject)
		}
	}
}

// Sixteen clients submit, and people are invited, while the program is killed and started again, three times (fifty in make thorough).
// Whatever was acknowledged is kept; numbers have no gap and no double; every document is made, sent and filed once, but for the
// letters that were under way at a kill; and what happened stands in one chain.
func TestNothingIsLostWhenTheProgramIsKilled(t *testing.T) {
	h := startProgram(t, "--empty")
	h.signIn()
	slug := h.openIntake("Guest book", "Your name *\nYour email *\nRemarks")
	h.openIntake("By invitation", "Your name *")
	var mu sync.Mutex
	acknowledged := map[string]string{} // number by idempotency key
	rounds, invited := 3, 0
	if os.Getenv("AMBERSEAL_THOROUGH") != "" {
		rounds = 50
	}
	for round := range rounds {
		pasted := fmt.Sprintf("a%d@guests.example b%d@guests.example c%d@guests.example", round, round, round)
		if status := h.call("POST", "/api/intakes/2/invitations", map[string]string{"addresses": pasted}, nil); status != 201 {
			t.Fatal("not invited: ", status)
		}
		invited += 3
		var clients sync.WaitGroup
		for c := range 16 {
			clients.Go(func() {
				for i := range 40 {
					key := fmt.Sprintf("%d-%d-%d", round, c, i)
					body := fmt.Sprintf(`{"answers":{"name":"Guest %s","email":"g%s@many.example"}}`, key, key)
					status, answer := h.try("POST", "/api/public/intakes/"+slug+"/submissions", []byte(body), "Idempotency-Key", key)
					if status == 0 {
						return
					}
					var r receipt
					if err := json.Unmarshal(answer, &r); err != nil || status != 201 {
						t.Errorf("%d %s", status, answer)
						return
					}
					mu.Lock()
					acknowledged[key] = r.Number
					mu.Unlock()
				}
			})
		}
		time.Sleep(time.Duration(150+100*(round%3)) * time.Millisecond)
		h.cmd.Process.Signal(syscall.SIGKILL)
		h.cmd.Wait()
		clients.Wait()
		h.start("--empty")
		h.signIn()
	}
	if len(acknowledged) < 30 {
		t.Fatalf("only %d submissions were acknowledged; the test is too short", len(acknowledged))
	}
	for key, number := range acknowledged {
		body := fmt.Sprintf(`{"answers":{"name":"Guest %s","email":"g%s@many.example"}}`, key, key)
		var r receipt
		if h.call("POST", "/api/public/intakes/"+slug+"/submissions", body, &r, "Idempotency-Key", key); r.Number != number {
			t.Errorf("%s was acknowledged as %s and is %s now", key, number, r.Number)
		}
	}
	var page struct{ All, Failed, Unfinished int }
	soon(t, 2*time.Minute+time.Duration(rounds)*10*time.Second, "every job is done", func() bool {
		h.call("GET", "/api/submissions", nil, &page)
		return page.Unfinished == 0
	})
	filed, err := filepath.Glob(filepath.Join(h.data, "cabinet", "Guest book", "*", "*.pdf"))
	if err != nil || page.Failed > 0 || len(filed) < len(acknowledged) || len(filed) != page.All && page.All < 10_000 {
		t.Fatalf("%d files for %+v, %d acknowledged: %v", len(filed), page, len(acknowledged), err)
	}
	slices.Sort(filed)
	for i, f := range filed {
		if want := fmt.Sprintf("-%05d.pdf", i+1); !strings.HasSuffix(f, want) {
			t.Fatalf("file %d is %s, want …%s: a gap or a double", i, f, want)
		}
	}
	soon(t, time.Minute, "everybody was invited", func() bool {
		seen := map[string]bool{}
		for _, m := range h.messages() {
			if strings.HasSuffix(m.To[0], "@guests.example") {
				seen[m.To[0]] = true
			}
		}
		if len(seen) != invited {
			var open struct {
				Entries []struct{ Email, State, Reason string }
			}
			h.call("GET", "/api/intakes/2/invitations", nil, &open)
			for _, x := range open.Entries {
				if x.State == "failed" {
					t.Fatalf("%s failed: %s", x.Email, x.Reason)
				}
			}
		}
		return len(seen) == invited
	})
	ids := map[string]int{}
	for _, m := range h.messages() {
		ids[m.MessageID]++
	}
	if want := 2*len(filed) + invited; len(ids) != want {
		t.Errorf("%d different letters went out, want %d", len(ids), want)
	}
	doubles := len(h.messages()) - len(ids)
	t.Logf("%d kills, %d submissions, %d letters, %d of them twice", rounds, len(filed), len(ids), doubles)
	if doubles > rounds*(mailConnections+mostEnding) {
		t.Errorf("%d letters went out twice: more than were under way at %d kills", doubles, rounds)
	}
	h.cmd.Process.Signal(syscall.SIGKILL)
	h.cmd.Wait()
	if err := sqlite.Check(t.Context(), filepath.Join(h.data, databaseFile)); err != nil {
		t.Error(err)
	}
}

// mostEnding is how many letters may have gone out and not be written down yet.
const mostEnding = 32

func TestOnceAndClosed(t *testing.T) {
	h := startProgram(t)
	h.signIn()
	var first, second receipt
	h.call("POST", submissions, booking("once@one.example"), &first, "Idempotency-Key", "k1")
	if status := h.call("POST", submissions, booking("once@one.example"), &second, "Idempotency-Key", "k1"); status != 201 ||
		first.Number != second.Number ||
		first.Documents[0] != second.Documents[0] {
		t.Errorf("%d: %+v then %+v", status, first, second)
	}
	var p problem
	if status := h.call("POST", submissions, booking("other@one.example"), &p, "Idempotency-Key", "k1"); status != 422 ||
		len(p.Findings) == 0 {
		t.Errorf("the same key with other answers: %d %+v", status, p)
	}
	var all struct {
		Entries []struct {
			ID   int
			Slug string
		}
	}
	h.call("GET", "/api/intakes", nil, &all)
	for _, i := range all.Entries {
		if i.Slug == "practice-room" {
			h.call("PUT", fmt.Sprintf("/api/intakes/%d/opening", i.ID), map[string]bool{"open": false}, nil)
		}
	}
	if status := h.call("POST", submissions, booking("late@one.example"), &p); status != 409 || !strings.Contains(p.Message, "closed") {
		t.Errorf("a closed intake: %d %+v", status, p)
	}
}
