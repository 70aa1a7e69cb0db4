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
	"sync"
	"syscall"
	"testing"
	"time"

	"amberseal/adapter/sqlite"
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
		"name": "Łucja Brzęk", "email": email, "room": "loft", "day": "2026-12-24", "time": "evening", "players": 3, "needs": []string{"piano"}, "rules": true,
	}}
}

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
			slices.ContainsFunc(h.mailTo("workshop@tarnhollow.example"), func(m message) bool { return strings.Contains(m.Subject, r.Number) })
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
print(json.dumps({'defects': defects, 'subject': m['subject'], 'attachments': a, 'text': m.get_body(('plain',)).get_content(), 'html': m.get_body(('html',)).get_content(), 'from': m['from'], 'id': m['message-id']}))`
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
			var open []struct{ Email, State, Reason string }
			h.call("GET", "/api/intakes/2/invitations", nil, &open)
			for _, x := range open {
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

// openIntake makes and opens an intake and gives its slug.
func (h *running) openIntake(name, questions string) string {
	h.t.Helper()
	var made struct {
		ID     int
		Design struct{ Slug string }
	}
	if status := h.call("POST", "/api/intakes", map[string]string{"name": name, "questions": questions}, &made); status != 201 {
		h.t.Fatal(status)
	}
	if status := h.call("PUT", fmt.Sprintf("/api/intakes/%d/opening", made.ID), map[string]bool{"open": true}, nil); status != 200 {
		h.t.Fatal(status)
	}
	return made.Design.Slug
}

func TestBadSubmissions(t *testing.T) {
	h := startProgram(t)
	for name, c := range map[string]struct {
		path, body, finding string
		status              int
	}{
		"missing":       {submissions, `{"answers":{}}`, "email", 422},
		"unknown":       {submissions, `{"answers":{"shoe_size":"44"}}`, "shoe_size", 422},
		"wrong type":    {submissions, `{"answers":{"players":{"a":[]}}}`, "players", 422},
		"no answers":    {submissions, `{}`, "name", 422},
		"null":          {submissions, `null`, "name", 422},
		"not JSON":      {submissions, `answers=1`, "", 400},
		"a list":        {submissions, `[1]`, "", 400},
		"nothing":       {submissions, ``, "", 400},
		"10 MB":         {submissions, `{"answers":{"name":"` + strings.Repeat("x", 10<<20) + `"}}`, "", 413},
		"no such form":  {"/api/public/intakes/nowhere/submissions", `{"answers":{}}`, "", 404},
		"odd slug":      {"/api/public/intakes/..%2f..%2fetc/submissions", `{"answers":{}}`, "", 404},
		"no such route": {"/api/public/whatever", `{}`, "", 404},
	} {
		var p problem
		if status := h.call("POST", c.path, c.body, &p); status != c.status || p.Message == "" {
			t.Errorf("%s: %d %+v, want %d", name, status, p, c.status)
		}
		if c.finding != "" &&
			!slices.ContainsFunc(p.Findings, func(f struct{ Path, Message string }) bool { return f.Path == c.finding && f.Message != "" }) {
			t.Errorf("%s: no finding for %s in %+v", name, c.finding, p.Findings)
		}
	}
}

func TestHostileTextStaysText(t *testing.T) {
	h := startProgram(t)
	b := booking("evil@one.example")
	a := b["answers"].(map[string]any)
	a["name"] = "Eve\r\nBcc: victim@one.example\r\n\r\n../../etc/passwd <script>alert(1)</script> 🎻 שלום"
	b2 := map[string]any{
		"answers": map[string]any{
			"workshop": "../../../../tmp/evil\u0000/..\\x",
			"name":     a["name"],
			"email":    "evil@one.example",
			"address":  map[string]any{"street": a["name"], "postcode": "../x", "city": a["name"]},
			"lines":    []any{map[string]any{"part": a["name"], "quantity": 1, "price": "1.00"}},
		},
	}
	var r receipt
	if status := h.call("POST", submissions, b, nil); status != 201 {
		t.Fatal(status)
	}
	if status := h.call("POST", "/api/public/intakes/parts-order/submissions", b2, &r); status != 201 {
		t.Fatal(status)
	}
	soon(t, 15*time.Second, "both went out", func() bool { return len(h.mailTo("evil@one.example")) == 2 })
	for _, m := range h.mailTo("evil@one.example") {
		_, raw := h.try("GET", "/standin/mailbox/messages/"+m.ID, nil)
		head, body, _ := strings.Cut(string(raw), "\r\n\r\n")
		if strings.Contains(strings.ToLower(head), "\nbcc:") {
			t.Errorf("a header was injected:\n%s", head)
		}
		// Once in the plain text, where it is text, and escaped in the HTML.
		if strings.Count(body, "<script>") != 1 || !strings.Contains(body, "&lt;script&gt;") {
			t.Error("markup of an answer became markup of the message")
		}
	}
	if len(h.mailTo("victim@one.example")) > 0 {
		t.Error("a message went to an injected address")
	}
	soon(t, 10*time.Second, "the order is filed", func() bool {
		found := false
		filepath.Walk(filepath.Join(h.data, "cabinet"), func(path string, _ os.FileInfo, _ error) error {
			found = found || strings.Contains(path, r.Number)
			return nil
		})
		return found
	})
}

// Emoji and text that runs from right to left in every field that takes words, and the words come back from
// the respondent's document.
func TestEveryScriptInEveryField(t *testing.T) {
	h := startProgram(t)
	words := "🎻 שלום نور Łódź"
	answers := map[string]any{"email": "scripts@one.example", "instrument": "viola", "agree": true}
	answers["address"] = map[string]any{"street": words, "postcode": words, "city": words}
	answers["lines"] = []any{map[string]any{"work": "set_up", "note": words, "hours": "1", "rate": "48"}}
	answers["signature"] = map[string]any{"typed": words}
	for _, key := range []string{"name", "maker", "serial", "fault", "remarks"} {
		answers[key] = words
	}
	var r receipt
	if status := h.call("POST", "/api/public/intakes/repair-drop-off/submissions", map[string]any{"answers": answers}, &r); status != 201 {
		t.Fatal(status)
	}
	_, pdf := h.try("GET", r.Documents[0].Href, nil)
	file := filepath.Join(t.TempDir(), "r.pdf")
	if err := os.WriteFile(file, pdf, 0o600); err != nil {
		t.Fatal(err)
	}
	if out, err := exec.Command("qpdf", "--check", file).CombinedOutput(); err != nil {
		t.Errorf("%v %s", err, out)
	}
	text, err := exec.Command("pdftotext", file, "-").Output()
	if err != nil {
		t.Fatal(err)
	}
	for _, word := range strings.Fields(words) {
		if n := strings.Count(string(text), word); n < 6 {
			t.Errorf("%s stands %d times in the document, want 6 or more", word, n)
		}
	}
	soon(t, 20*time.Second, "the message came", func() bool { return len(h.mailTo("scripts@one.example")) == 1 })
	if m := h.mailTo("scripts@one.example")[0]; !strings.Contains(m.Subject, r.Number) {
		t.Errorf("the subject is %q", m.Subject)
	}
}

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
	var all []struct {
		ID   int
		Slug string
	}
	h.call("GET", "/api/intakes", nil, &all)
	for _, i := range all {
		if i.Slug == "practice-room" {
			h.call("PUT", fmt.Sprintf("/api/intakes/%d/opening", i.ID), map[string]bool{"open": false}, nil)
		}
	}
	if status := h.call("POST", submissions, booking("late@one.example"), &p); status != 409 || !strings.Contains(p.Message, "closed") {
		t.Errorf("a closed intake: %d %+v", status, p)
	}
}

func TestDoors(t *testing.T) {
	h := startProgram(t)
	for _, path := range []string{"/api/desk", "/api/intakes", "/api/submissions", "/api/messages", "/api/house", "/api/events", "/api/submissions/1/documents/receipt", "/api/pictures/bench.jpg"} {
		if status, _ := h.try("GET", path, nil); status != 401 {
			t.Errorf("%s without sign-in gives %d", path, status)
		}
	}
	if status, _ := h.try("POST", submissions, []byte(`{}`), "Sec-Fetch-Site", "cross-site", "Origin", "https://evil.example"); status != 403 {
		t.Errorf("a write from another site gives %d", status)
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
		{"line 2, column", 1, []string{"compose", "--intake", file("broken.json", "{\n\"name\": }"), "--document", "x", "--answers", ans, "--out", out}},
		{"line 1, column 16 (colour): the format has no “colour” here", 1, []string{"compose", "--intake", file("odd.json", `{"amberseal":1,"colour":"red"}`), "--document", "x", "--answers", ans, "--out", out}},
		{"this program reads up to version 2", 1, []string{"compose", "--intake", file("new.json", `{"amberseal":7}`), "--document", "x", "--answers", ans, "--out", out}},
		{"form/fields: The form asks nothing yet", 1, []string{"compose", "--intake", file("empty.json", `{"amberseal":1,"name":"X","slug":"x","number":"{n}"}`), "--document", "x", "--answers", ans, "--out", out}},
		{"has no document", 1, []string{"compose", "--intake", in, "--document", "nothing", "--answers", ans, "--out", out}},
		{"email: ", 1, []string{"compose", "--intake", in, "--document", "confirmation", "--answers", file("a.json", `{"email":"x"}`), "--out", out}},
		{"could not be written", 1, []string{"compose", "--intake", in, "--document", "confirmation", "--answers", ans, "--out", filepath.Join(dir, "no", "where.pdf")}},
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
