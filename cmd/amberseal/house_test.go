package main

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"

	"amberseal/demo"
)

// running is the real program, run as a process with the demo's stand-ins.
type running struct {
	t      *testing.T
	data   string
	mail   string
	url    string
	cmd    *exec.Cmd
	client *http.Client
}

var binary string

func TestMain(m *testing.M) {
	dir, err := os.MkdirTemp("", "amberseal-test-")
	if err != nil {
		panic(err)
	}
	binary = filepath.Join(dir, "amberseal")
	if out, err := exec.Command("go", "build", "-o", binary, ".").CombinedOutput(); err != nil {
		fmt.Fprintf(os.Stderr, "%s", out)
		os.Exit(1)
	}
	code := m.Run()
	os.RemoveAll(dir)
	os.Exit(code)
}

func startProgram(t *testing.T, args ...string) *running {
	h := &running{t: t, data: t.TempDir()}
	h.start(args...)
	t.Cleanup(func() {
		h.cmd.Process.Kill()
		h.cmd.Wait()
	})
	return h
}

func (h *running) start(args ...string) {
	h.t.Helper()
	h.cmd = exec.Command(binary, append([]string{"demo", "--listen", "127.0.0.1:0", "--data", h.data}, args...)...)
	out, err := h.cmd.StdoutPipe()
	if err != nil {
		h.t.Fatal(err)
	}
	h.cmd.Stderr = os.Stderr
	if err := h.cmd.Start(); err != nil {
		h.t.Fatal(err)
	}
	line, err := bufio.NewReader(out).ReadString('\n')
	if err != nil {
		h.t.Fatal("the program said nothing: ", err)
	}
	go io.Copy(io.Discard, out)
	h.url = strings.TrimSpace(line[strings.LastIndex(line, "http://"):])
	jar, err := cookiejar.New(nil)
	if err != nil {
		h.t.Fatal(err)
	}
	h.client = &http.Client{Jar: jar, Timeout: 30 * time.Second}
}

func (h *running) signIn() {
	h.t.Helper()
	if status := h.call("POST", "/api/session", map[string]string{"email": demo.Email, "password": demo.Password}, nil); status != 200 {
		h.t.Fatal("sign-in gave ", status)
	}
}

// call sends JSON and reads JSON; into may be nil.
func (h *running) call(method, path string, body, into any, headers ...string) int {
	h.t.Helper()
	data, err := json.Marshal(body)
	if err != nil {
		h.t.Fatal(err)
	}
	if raw, ok := body.(string); ok {
		data = []byte(raw)
	}
	status, answer := h.try(method, path, data, headers...)
	if status == 0 {
		h.t.Fatal("no answer to ", path)
	}
	if into != nil {
		if err := json.Unmarshal(answer, into); err != nil {
			h.t.Fatalf("%s %s: %v in %s", method, path, err, answer)
		}
	}
	return status
}

// try is call without failing the test when the program is gone: it gives status 0 then.
func (h *running) try(method, path string, body []byte, headers ...string) (int, []byte) {
	req, err := http.NewRequest(method, h.url+path, bytes.NewReader(body))
	if err != nil {
		h.t.Fatal(err)
	}
	req.Header.Set("Content-Type", "application/json")
	for i := 0; i+1 < len(headers); i += 2 {
		req.Header.Set(headers[i], headers[i+1])
	}
	r, err := h.client.Do(req)
	if err != nil {
		return 0, nil
	}
	defer r.Body.Close()
	answer, err := io.ReadAll(r.Body)
	if err != nil {
		return 0, nil
	}
	return r.StatusCode, answer
}

type problem struct {
	Type     string
	Status   int
	Message  string `json:"detail"`
	Findings []struct{ Path, Message string }
}

type receipt struct {
	Number    string
	Documents []struct{ Key, Name, Href string }
}

type message struct {
	ID, Subject, MessageID string
	To                     []string
	Attachments            []struct {
		Name string
		Size int
	}
}

func (h *running) messages() []message {
	var all []message
	h.call("GET", "/standin/mailbox/messages", nil, &all)
	return all
}

func (h *running) mailTo(address string) []message {
	return slices.DeleteFunc(h.messages(), func(m message) bool { return !slices.Contains(m.To, address) })
}

// soon waits until a condition holds.
func soon(t *testing.T, limit time.Duration, what string, holds func() bool) {
	t.Helper()
	for end := time.Now().Add(limit); !holds(); {
		if time.Now().After(end) {
			t.Fatalf("after %v still not: %s", limit, what)
		}
		time.Sleep(30 * time.Millisecond)
	}
}

// booking is a valid answer to the demo's practice-room form.
func booking(email string) map[string]any {
	return map[string]any{"answers": map[string]any{
		"name": "Łucja Brzęk", "email": email, "room": "loft", "day": "2026-12-24", "time": "evening", "players": 3,
		"needs": []string{"piano"}, "rules": true,
	}}
}

func TestDoors(t *testing.T) {
	h := startProgram(t)
	for _, path := range []string{"/api/desk", "/api/intakes", "/api/submissions", "/api/messages", "/api/house", "/api/events",
		"/api/submissions/1/documents/receipt", "/api/pictures/bench.jpg"} {
		if status, _ := h.try("GET", path, nil); status != 401 {
			t.Errorf("%s without sign-in gives %d", path, status)
		}
	}
	status, said := h.try("POST", submissions, []byte(`{}`), "Sec-Fetch-Site", "cross-site", "Origin", "https://evil.example")
	if status != 403 || !strings.Contains(string(said), `"type":"tag:amberseal.example,2026:problem/elsewhere"`) {
		t.Errorf("a write from another site gives %d %s", status, said)
	}
	for _, path := range []string{"/d/none/receipt", "/p/none", "/o/none", "/api/none"} {
		r, err := h.client.Get(h.url + path)
		if err != nil {
			t.Fatal(err)
		}
		r.Body.Close()
		if kept := r.Header.Get("Cache-Control"); r.StatusCode == 200 || kept != "no-store" {
			t.Errorf("%s gives %d, and %q says who keeps it", path, r.StatusCode, kept)
		}
	}
	r, err := h.client.Get(h.url + "/f/practice-room")
	if err != nil {
		t.Fatal(err)
	}
	r.Body.Close()
	if csp := r.Header.Get("Content-Security-Policy"); !strings.Contains(csp, "default-src 'self'; style-src 'self'; script-src 'self'") ||
		strings.Contains(csp, "unsafe") {
		t.Errorf("the content policy is %q", csp)
	}
	last := 0
	for range 14 {
		last = h.call("POST", "/api/session", map[string]string{"email": demo.Email, "password": "wrong password"}, nil)
	}
	if last != 429 {
		t.Errorf("the fourteenth wrong password gives %d", last)
	}
	if status := h.call("POST", "/api/session", map[string]string{"email": demo.Email, "password": demo.Password}, nil); status != 429 {
		t.Errorf("guessing is not slowed down: %d", status)
	}
}

func TestTheSecondEditorIsTold(t *testing.T) {
	h := startProgram(t)
	h.signIn()
	var i struct {
		Revision int
		Design   map[string]any
	}
	h.call("GET", "/api/intakes/1", nil, &i)
	change := func(name string) int {
		i.Design["name"] = name
		return h.call("PUT", "/api/intakes/1/design", map[string]any{"revision": i.Revision, "design": i.Design}, nil)
	}
	if one, two := change("First"), change("Second"); one != 200 || two != 409 {
		t.Errorf("got %d and %d", one, two)
	}
	var now struct{ Design struct{ Name string } }
	if h.call("GET", "/api/intakes/1", nil, &now); now.Design.Name != "First" {
		t.Errorf("the second editor overwrote the first: %s", now.Design.Name)
	}
}

func TestCommandsExplainThemselves(t *testing.T) {
	dir := t.TempDir()
	file := func(name, content string) string {
		p := filepath.Join(dir, name)
		if err := os.WriteFile(p, []byte(content), 0o600); err != nil {
			t.Fatal(err)
		}
		return p
	}
	const in, ans = "../../demo/intakes/practice-room.json", "../../demo/answers/practice-room.json"
	out := filepath.Join(dir, "out.pdf")
	h := startProgram(t)
	readOnly := filepath.Join(dir, "ro")
	if err := os.WriteFile(readOnly, nil, 0o600); err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		says string
		code int
		args []string
	}{
		{"a command is missing", 2, nil},
		{"there is no command", 2, []string{"fly"}},
		{"Amber Seal:", 0, []string{"--help"}},
		{"--intake", 0, []string{"compose", "--help"}},
		{"--listen", 0, []string{"serve", "--help"}},
		{"--data", 0, []string{"demo", "--help"}},
		{"is missing", 2, []string{"compose", "--intake", in}},
		{"no such file", 1, []string{"compose", "--intake", "none.json", "--document", "x", "--answers", ans, "--out", out}},
		{"line 2, column", 1, []string{"compose", "--intake", file("broken.json", "{\n\"name\": }"), "--document", "x", "--answers", ans,
			"--out", out}},
		{"line 1, column 16 (colour): the format has no “colour” here", 1,
			[]string{"compose", "--intake", file("odd.json", `{"amberseal":1,"colour":"red"}`), "--document", "x", "--answers", ans,
				"--out", out}},
		{"this program reads up to version 2", 1, []string{"compose", "--intake", file("new.json", `{"amberseal":7}`), "--document", "x",
			"--answers", ans, "--out", out}},
		{"form/fields: The form asks nothing yet", 1,
			[]string{"compose", "--intake", file("empty.json", `{"amberseal":1,"name":"X","slug":"x","number":"{n}"}`), "--document", "x",
				"--answers", ans, "--out", out}},
		{"has no document", 1, []string{"compose", "--intake", in, "--document", "nothing", "--answers", ans, "--out", out}},
		{"email: ", 1, []string{"compose", "--intake", in, "--document", "confirmation", "--answers", file("a.json", `{"email":"x"}`),
			"--out", out}},
		{"could not be written", 1, []string{"compose", "--intake", in, "--document", "confirmation", "--answers", ans, "--out",
			filepath.Join(dir, "no", "where.pdf")}},
		{"", 0, []string{"compose", "--intake", in, "--document", "confirmation", "--answers", ans, "--out", out}},
		{"is in use", 1, []string{"serve", "--data", filepath.Join(dir, "d"), "--listen", strings.TrimPrefix(h.url, "http://")}},
		{"data folder could not be made", 1, []string{"serve", "--data", filepath.Join(readOnly, "d"), "--listen", "127.0.0.1:0"}},
		{"another amberseal is using", 1, []string{"serve", "--data", h.data, "--listen", "127.0.0.1:0"}},
		{"is not a mail account", 2, []string{"serve", "--data", filepath.Join(dir, "e"), "--listen", "127.0.0.1:0", "--mail", "smtp://"}},
	} {
		said, err := exec.Command(binary, c.args...).CombinedOutput()
		code := 0
		if exit, ok := err.(*exec.ExitError); ok {
			code = exit.ExitCode()
		}
		if code != c.code || !strings.Contains(string(said), c.says) {
			t.Errorf("%v: exit %d, said %q; want exit %d and %q", c.args, code, said, c.code, c.says)
		}
	}
	if data, err := os.ReadFile(out); err != nil || !bytes.HasPrefix(data, []byte("%PDF-")) {
		t.Error("compose wrote no PDF")
	}
}

func TestAStopIsGraceful(t *testing.T) {
	h := startProgram(t)
	h.signIn()
	req, err := http.NewRequest("GET", h.url+"/api/events", nil)
	if err != nil {
		t.Fatal(err)
	}
	stream, err := h.client.Do(req)
	if err != nil || stream.StatusCode != 200 {
		t.Fatal("no event stream: ", err)
	}
	defer stream.Body.Close()
	if status := h.call("POST", submissions, booking("stop@one.example"), nil); status != 201 {
		t.Fatal(status)
	}
	h.cmd.Process.Signal(syscall.SIGTERM)
	ended := make(chan error, 1)
	go func() { ended <- h.cmd.Wait() }()
	select {
	case err := <-ended:
		if err != nil {
			t.Errorf("the program ended with %v", err)
		}
	case <-time.After(15 * time.Second):
		t.Fatal("an open event stream holds the program up")
	}
	h.start()
	soon(t, 20*time.Second, "the submission is finished after the restart", func() bool { return len(h.mailTo("stop@one.example")) == 1 })
}

// Before the house says its address letters wait, each with the same reason, and go by themselves when it is written.
func TestLettersWaitForTheHouseToSayItsAddress(t *testing.T) {
	h := startProgram(t)
	h.signIn()
	var own map[string]any
	if status := h.call("GET", "/api/house", nil, &own); status != 200 {
		t.Fatal(status)
	}
	was := own["email"]
	own["email"] = ""
	if status := h.call("PUT", "/api/house", own, nil); status != 200 && status != 204 {
		t.Fatal(status)
	}
	var r receipt
	if status := h.call("POST", submissions, booking("waits@one.example"), &r); status != 201 {
		t.Fatal(status)
	}
	waiting := func() (reasons []string) {
		var page struct {
			Entries []struct{ Number, State, Reason string }
		}
		h.call("GET", "/api/messages/waiting", nil, &page)
		for _, m := range page.Entries {
			if m.Number == r.Number {
				reasons = append(reasons, m.State+": "+m.Reason)
				slices.Sort(reasons)
			}
		}
		return reasons
	}
	soon(t, time.Minute, "its letters wait with the reason", func() bool {
		all := waiting()
		return len(all) == 2 && strings.HasPrefix(all[0], "ready: The house has no email address to send from") &&
			strings.HasPrefix(all[1], "ready: The house has no email address. ")
	})
	if n := len(h.mailTo("waits@one.example")); n != 0 {
		t.Errorf("%d letters went", n)
	}
	own["email"] = was
	if status := h.call("PUT", "/api/house", own, nil); status != 200 && status != 204 {
		t.Fatal(status)
	}
	soon(t, time.Minute, "they go when the address is written", func() bool {
		return len(h.mailTo("waits@one.example")) == 1 && len(waiting()) == 0
	})
}
