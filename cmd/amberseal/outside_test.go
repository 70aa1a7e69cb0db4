package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"net/url"
	"os/exec"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"
)

// desk is an intake of the test's own, with notices and filings that use all there is.
func (h *running) desk(notices, filings string) (id int64, slug string) {
	h.t.Helper()
	h.signIn()
	var made struct {
		ID       int64
		Revision int
		Design   map[string]any
	}
	if status := h.call("POST", "/api/intakes", map[string]string{"name": "Outside", "questions": "Your name *\nYour email *\nPhoto of it"},
		&made); status != 201 {
		h.t.Fatal("the intake: ", status)
	}
	for key, text := range map[string]string{"notices": notices, "filings": filings} {
		var part any
		if err := json.Unmarshal([]byte(text), &part); err != nil {
			h.t.Fatal(key, err)
		}
		made.Design[key] = part
	}
	var p problem
	if status := h.call("PUT", fmt.Sprintf("/api/intakes/%d/design", made.ID), map[string]any{"design": made.Design,
		"revision": made.Revision},
		&p); status != 200 {
		h.t.Fatalf("the design: %d %+v", status, p)
	}
	if status := h.call("PUT", fmt.Sprintf("/api/intakes/%d/opening", made.ID), map[string]bool{"open": true}, &p); status != 200 {
		h.t.Fatalf("the opening: %d %+v", status, p)
	}
	return made.ID, "outside"
}

func (h *running) send(email string) (number string) {
	h.t.Helper()
	var r receipt
	body := map[string]any{"answers": map[string]any{"name": "Łucja Brzęk", "email": email}}
	if status := h.call("POST", "/api/public/intakes/outside/submissions", body, &r); status != 201 {
		h.t.Fatal("a submission: ", status)
	}
	return r.Number
}

// turn switches a stand-in.
func (h *running) turn(path, mode string) {
	h.t.Helper()
	r, err := h.client.PostForm(h.url+"/standin/"+path+"/switch", url.Values{"mode": {mode}})
	if err != nil {
		h.t.Fatal(err)
	}
	r.Body.Close()
}

func (h *running) stock(list string) (paths, sums []string) {
	var all []struct{ Path, SHA256 string }
	h.call("GET", "/standin/"+list, nil, &all)
	for _, f := range all {
		paths, sums = append(paths, f.Path), append(sums, f.SHA256)
	}
	return paths, sums
}

const toAll = `[{"key":"away","name":"Away","what":[{"document":"receipt"},{"answers":true}],"to":["cabinet","records","office","vault"],
	"path":"{{@intake}}/{{@year}}/{{@number}}"}]`

// What is filed lies at every destination once and whole. One that fails, in whatever way, holds up no other, says why, and has all when it
// is well; nothing is there twice. The link of what was filed goes with the notice, which waited for it.
func TestEveryDestinationHasWhatIsFiled(t *testing.T) {
	t.Parallel()
	h := startProgram(t, "--empty")
	h.desk(`[{"key":"n","name":"N","to":"{{email}}","subject":"{{@number}}","message":"It lies at {{@filed}}.","attach":[]}]`,
		strings.Replace(toAll, `"cabinet","records"`, `"records","cabinet"`, 1))
	lists := map[string]string{"bucket": "objects", "share": "files", "vault": "files"}
	for mode, ill := range map[string]string{"off": "bucket", "full": "share", "lying": "vault", "forbidden": "share",
		"closing": "bucket"} {
		h.turn(ill, mode)
		number := h.send(mode + "@one.example")
		holds := func(path string) bool {
			paths, _ := h.stock(path + "/" + lists[path])
			return slices.ContainsFunc(paths, func(p string) bool { return strings.HasSuffix(p, number+".pdf") })
		}
		soon(t, 20*time.Second, "those that are well have "+number, func() bool {
			for path := range lists {
				if path != ill && !holds(path) {
					return false
				}
			}
			return true
		})
		var lines []struct {
			Destination struct{ Kind string }
			Reason      string
			Waiting     int
		}
		soon(t, 20*time.Second, "the destination that is "+mode+" says why", func() bool {
			h.call("GET", "/api/destinations", nil, &lines)
			return slices.ContainsFunc(lines, func(l struct {
				Destination struct{ Kind string }
				Reason      string
				Waiting     int
			}) bool {
				return l.Destination.Kind == ill && l.Reason != "" && l.Waiting > 0
			})
		})
		h.turn(ill, "on")
		soon(t, 40*time.Second, ill+" has it when it is well again", func() bool { return holds(ill) })
	}
	// One that is slow takes its time, and nobody else's.
	h.turn("bucket", "slow")
	begun := time.Now()
	number := h.send("slow@one.example")
	has := func(path string) bool {
		paths, _ := h.stock(path + "/" + lists[path])
		return slices.ContainsFunc(paths, func(p string) bool { return strings.HasSuffix(p, number+".pdf") })
	}
	soon(t, 20*time.Second, "the others have "+number, func() bool { return has("share") && has("vault") })
	soon(t, time.Minute, "the slow one is done too", func() bool {
		var desk struct{ Unfinished int }
		h.call("GET", "/api/desk", nil, &desk)
		return desk.Unfinished == 0
	})
	if time.Since(begun) < 3*time.Second {
		t.Error("the bucket is not slow")
	}
	h.turn("bucket", "on")
	var all [][]string
	for path, list := range lists {
		paths, sums := h.stock(path + "/" + list)
		if len(paths) != 12 {
			t.Errorf("%s has %q, not twelve files", path, paths)
		}
		slices.Sort(sums)
		all = append(all, sums)
	}
	if !slices.Equal(all[0], all[1]) || !slices.Equal(all[1], all[2]) {
		t.Error("the destinations hold other bytes than each other")
	}
	soon(t, 20*time.Second, "the notice has the link", func() bool {
		for _, m := range h.mailTo("off@one.example") {
			_, raw := h.try("GET", "/standin/mailbox/messages/"+m.ID, nil)
			return bytes.Contains(raw, []byte("/records/Outside/"))
		}
		return false
	})
}

// A scanner that follows a link a thousand times uses nothing up; a press gives the file, and each is on record; more than may be are
// refused, and so is what was withdrawn.
func TestLinksInsteadOfFiles(t *testing.T) {
	t.Parallel()
	h := startProgram(t, "--empty")
	h.desk(`[{"key":"n","name":"N","to":"{{email}}","subject":"{{@number}}","message":"Here it is.",
		"attach":[{"document":"receipt","link":{"days":3,"openings":2}}]}]`, `[]`)
	h.send("reader@one.example")
	soon(t, 10*time.Second, "the message came", func() bool { return len(h.mailTo("reader@one.example")) == 1 })
	m := h.mailTo("reader@one.example")[0]
	if len(m.Attachments) > 0 {
		t.Errorf("it carries %+v", m.Attachments)
	}
	text := h.pythonReads(m.ID)["text"]
	found := regexp.MustCompile(`http://[^ >]+(/o/[A-Za-z0-9_-]+)`).FindStringSubmatch(text)
	if found == nil || !strings.Contains(text, "2 times") {
		t.Fatalf("the text has no link: %s", text)
	}
	reader := &http.Client{}
	for range 1000 {
		r, err := reader.Get(h.url + found[1])
		if err != nil {
			t.Fatal(err)
		}
		r.Body.Close()
		if r.StatusCode != 200 {
			t.Fatalf("looking gives %d", r.StatusCode)
		}
	}
	press := func() (int, []byte) {
		r, err := reader.PostForm(h.url+found[1], url.Values{})
		if err != nil {
			t.Fatal(err)
		}
		defer r.Body.Close()
		var b bytes.Buffer
		b.ReadFrom(r.Body)
		return r.StatusCode, b.Bytes()
	}
	for range 2 {
		if status, data := press(); status != 200 || !bytes.HasPrefix(data, []byte("%PDF-")) {
			t.Fatalf("a press gives %d %.60q", status, data)
		}
	}
	if status, data := press(); status != 410 || !bytes.Contains(data, []byte("as often as it may be")) {
		t.Errorf("a third press gives %d %s", status, data)
	}
	var page struct{ Entries []struct{ ID int64 } }
	h.call("GET", "/api/submissions", nil, &page)
	var s struct {
		Events []struct{ Kind, What string }
	}
	of := fmt.Sprintf("/api/submissions/%d", page.Entries[0].ID)
	h.call("GET", of, nil, &s)
	opened := 0
	for _, e := range s.Events {
		if e.Kind == "opened" {
			opened++
		}
	}
	if opened != 2 {
		t.Errorf("%d openings are on record: %+v", opened, s.Events)
	}
	if status, _ := h.try("DELETE", of+"/links", nil); status != 204 {
		t.Fatal(status)
	}
	if r, err := reader.Get(h.url + found[1]); err != nil || r.StatusCode != 410 {
		t.Errorf("withdrawn it gives %v %v", r, err)
	}
	if status, _ := h.try("GET", found[1][:len(found[1])-1]+"x", nil); status != 404 {
		t.Errorf("another token gives %d", status)
	}
}

// pythonReads gives a message as Python's email package reads it.
func (h *running) pythonReads(id string) map[string]string {
	h.t.Helper()
	_, raw := h.try("GET", "/standin/mailbox/messages/"+id, nil)
	cmd := exec.Command("python3", "-c", `
import sys, json, email, email.policy
m = email.message_from_bytes(sys.stdin.buffer.read(), policy=email.policy.default)
out = {k.lower(): str(v) for k, v in m.items()}
out['text'] = m.get_body(('plain',)).get_content()
out['html'] = m.get_body(('html',)).get_content()
print(json.dumps(out))`)
	cmd.Stdin = bytes.NewReader(raw)
	out, err := cmd.Output()
	read := map[string]string{}
	if err != nil || json.Unmarshal(out, &read) != nil {
		h.t.Fatalf("python cannot read the message: %v %s", err, out)
	}
	return read
}

// Copies are seen and blind copies are not; staff's answers go to who answered; somebody who is refused among others has a job of their own
// that says why, and the others have the message once.
func TestRecipientsOfAMessage(t *testing.T) {
	t.Parallel()
	h := startProgram(t, "--empty")
	h.desk(`[{"key":"n","name":"To staff","to":"one@house.example, nobody@gone.example","copy":"two@house.example",
		"blindCopy":"three@house.example","roles":["auditor"],"senderName":"Desk of {{@house}}","subject":"{{@number}}",
		"message":"{{@answers}}","attach":[{"answers":true}]}]`, `[]`)
	h.send("reader@one.example")
	soon(t, 10*time.Second, "the message came", func() bool { return len(h.mailTo("one@house.example")) == 1 })
	read := h.pythonReads(h.mailTo("one@house.example")[0].ID)
	if read["cc"] != "two@house.example" || read["bcc"] != "" || read["reply-to"] != "reader@one.example" ||
		!strings.HasPrefix(read["from"], "Desk of ") || !strings.Contains(read["to"], "teodor@lunn.example") {
		t.Errorf("python reads %+v", read)
	}
	for _, want := range []string{"one@house.example", "two@house.example", "three@house.example", "teodor@lunn.example"} {
		if !strings.Contains(read["x-envelope-to"], want) {
			t.Errorf("%s is not among %s", want, read["x-envelope-to"])
		}
	}
	if !strings.Contains(read["text"], "Your name: Łucja Brzęk") || !strings.Contains(read["html"], "Łucja Brzęk</td>") {
		t.Errorf("the table is %q", read["text"])
	}
	var page struct {
		Entries []struct {
			State string
			Steps []struct{ Kind, Key, State, Reason string }
		}
	}
	soon(t, 10*time.Second, "who was refused is told", func() bool {
		h.call("GET", "/api/submissions", nil, &page)
		return len(page.Entries) == 1 && page.Entries[0].State == "failed"
	})
	for _, s := range page.Entries[0].Steps {
		if s.Kind == "notice" && s.State == "failed" && (s.Key != "n left nobody@gone.example" || !strings.Contains(s.Reason,
			"no such mailbox")) {
			t.Errorf("what failed is %+v", s)
		}
	}
	if n := len(h.messages()); n != 1 {
		t.Errorf("%d messages went out", n)
	}
	for words, want := range map[string]int{"one@house.example": 1, "TWO@house": 1, "three@house": 1, "lunn": 1, "nobody@gone": 0,
		"amber%seal": 0, "Desk": 0} {
		var found struct{ Entries []struct{ ID int } }
		if h.call("GET", "/api/messages?words="+url.QueryEscape(words), nil, &found); len(found.Entries) != want {
			t.Errorf("by %q %d messages are found", words, len(found.Entries))
		}
	}
}

// A mail account of the house's page sends what names it, signed so that a library which knows nothing of ours (dkimpy) verifies it by the
// line for the DNS; a trial says at which part it fails.
func TestMailAccounts(t *testing.T) {
	t.Parallel()
	h := startProgram(t, "--empty")
	h.signIn()
	var lines []struct {
		Account struct {
			Key, Host string
			Port      int
		}
		Record string
	}
	h.call("GET", "/api/accounts", nil, &lines)
	account := map[string]any{"key": "second", "name": "Second", "host": "127.0.0.1", "port": lines[0].Account.Port, "protection": "none",
		"sender": "second@house.example", "selector": "seal"}
	if status := h.call("PUT", "/api/accounts/second", map[string]any{"account": account}, nil); status != 204 {
		t.Fatal(status)
	}
	var trial struct {
		Parts []struct{ Part, Reason string }
	}
	for to, last := range map[string]string{"ann@reader.example": "message", "ann@gone.example": "recipient"} {
		h.call("POST", "/api/accounts/second/trial", map[string]string{"to": to}, &trial)
		end := trial.Parts[len(trial.Parts)-1]
		if end.Part != last || (end.Reason == "") != (last == "message") {
			t.Errorf("a trial to %s: %+v", to, trial.Parts)
		}
	}
	account["port"] = 1
	h.call("PUT", "/api/accounts/second", map[string]any{"account": account}, nil)
	h.call("POST", "/api/accounts/second/trial", map[string]string{"to": "ann@reader.example"}, &trial)
	if end := trial.Parts[len(trial.Parts)-1]; end.Part != "connection" || !strings.Contains(end.Reason, "nothing listens there") {
		t.Errorf("a trial where nothing listens: %+v", trial.Parts)
	}
	h.call("GET", "/api/accounts", nil, &lines)
	record := lines[slices.IndexFunc(lines, func(l struct {
		Account struct {
			Key, Host string
			Port      int
		}
		Record string
	}) bool {
		return l.Account.Key == "second"
	})].Record
	name, text, ok := strings.Cut(record, " TXT ")
	if !ok || name != "seal._domainkey.house.example." {
		t.Fatalf("the line for the DNS is %q", record)
	}
	m := h.mailTo("ann@reader.example")
	if len(m) != 1 {
		t.Fatalf("the trial's message came %d times", len(m))
	}
	_, raw := h.try("GET", "/standin/mailbox/messages/"+m[0].ID, nil)
	verify := func(raw []byte) string {
		cmd := exec.Command("/usr/bin/python3", "-c", `
import sys, dkim
record = sys.argv[1].replace('" "', '').strip('"').encode()
print(dkim.verify(sys.stdin.buffer.read(), dnsfunc=lambda name,
	timeout=5: record if name == b'seal._domainkey.house.example.' else None))`, text)
		cmd.Stdin = bytes.NewReader(raw)
		out, err := cmd.CombinedOutput()
		if err != nil {
			t.Fatalf("dkimpy: %v %s", err, out)
		}
		return strings.TrimSpace(string(out))
	}
	if got := verify(raw); got != "True" {
		t.Errorf("dkimpy says %s of the message", got)
	}
	if got := verify(bytes.Replace(raw, []byte("mail account works"), []byte("mail account world"), 1)); got != "False" {
		t.Errorf("dkimpy says %s of a changed message", got)
	}
}
