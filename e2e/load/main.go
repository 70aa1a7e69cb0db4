// Command load measures a running house: submissions accepted and delivered each second with 64
// clients, on loopback, against the real program with its stand-ins. A submission is delivered when its
// document, two messages and filing are done. It ends with one line for machines. With the argument full each submission has four
// messages and is filed at three destinations; with off besides, one of those is off for the whole run.
package main

import (
	"bufio"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"slices"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"

	"amberseal/demo"
)

const (
	clients     = 64
	submissions = 2_000
	longest     = 5 * time.Minute
)

func main() {
	if err := run(); err != nil {
		fmt.Fprintln(os.Stderr, "load:", err)
		os.Exit(1)
	}
}

func run() error {
	data, err := os.MkdirTemp("", "amberseal-load-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(data)
	program := exec.Command("bin/amberseal", "demo", "--empty", "--listen", "127.0.0.1:0", "--data", data)
	out, err := program.StdoutPipe()
	if err != nil {
		return err
	}
	program.Stderr = os.Stderr
	if err := program.Start(); err != nil {
		return fmt.Errorf("%w; build it with make build", err)
	}
	defer func() {
		program.Process.Signal(syscall.SIGTERM)
		program.Wait()
	}()
	line, err := bufio.NewReader(out).ReadString('\n')
	if err != nil {
		return err
	}
	go io.Copy(io.Discard, out)
	h, err := enter(strings.TrimSpace(line[strings.LastIndex(line, "http://"):]))
	if err != nil {
		return err
	}
	full, off := slices.Contains(os.Args[1:], "full"), slices.Contains(os.Args[1:], "off")
	slug, err := h.open(full)
	if err != nil {
		return err
	}
	if off {
		r, err := h.client.PostForm(h.url+"/standin/vault/switch", map[string][]string{"mode": {"off"}})
		if err != nil {
			return err
		}
		r.Body.Close()
	}
	return h.measure(slug, program.Process.Pid, full, off)
}

type house struct {
	url    string
	client *http.Client
}

func enter(url string) (*house, error) {
	jar, err := cookiejar.New(nil)
	if err != nil {
		return nil, err
	}
	h := &house{url, &http.Client{Jar: jar, Timeout: time.Minute, Transport: &http.Transport{MaxIdleConnsPerHost: clients}}}
	return h, h.call("POST", "/api/session", map[string]string{"email": demo.Email, "password": demo.Password}, nil)
}

func (h *house) call(method, path string, body, into any) error {
	data, err := json.Marshal(body)
	if err != nil {
		return err
	}
	req, err := http.NewRequest(method, h.url+path, bytes.NewReader(data))
	if err != nil {
		return err
	}
	req.Header.Set("Content-Type", "application/json")
	r, err := h.client.Do(req)
	if err != nil {
		return err
	}
	defer r.Body.Close()
	answer, err := io.ReadAll(r.Body)
	if err != nil {
		return err
	}
	if r.StatusCode > 299 {
		return fmt.Errorf("%s %s: %d %s", method, path, r.StatusCode, answer)
	}
	if into == nil {
		return nil
	}
	return json.Unmarshal(answer, into)
}

// notices and filings are those of a house that does much with each submission.
const (
	notices = `[{"key":"a","name":"A","to":"{{email}}","subject":"{{@number}}","message":"Thank you.","attach":[{"document":"receipt"}]},
  {"key":"b","name":"B","to":"{{@house_email}}","subject":"{{@number}}","message":"{{@answers}}","attach":[{"document":"receipt"}]},
  {"key":"c","name":"C","to":"books@house.example","copy":"desk@house.example","subject":"{{@number}}","message":"Booked.","attach":[]},
  {"key":"d","name":"D","to":"archive@house.example","subject":"{{@number}}","message":"Filed.",
   "attach":[{"document":"receipt","link":{"days":9}}]}]`
	filings = `[{"key":"f","name":"F","what":[{"document":"receipt"}],"to":["records","office","vault"],"path":"{{@year}}/{{@number}}"}]`
)

func (h *house) open(full bool) (string, error) {
	var made struct {
		ID       int
		Revision int
		Design   map[string]any
	}
	questions := "Your name *\nYour email *\nTelephone\nWhat is it about: repair, hire, gift\nDate of the visit\nDescribe what you need"
	if err := h.call("POST", "/api/intakes", map[string]string{"name": "Load", "questions": questions}, &made); err != nil {
		return "", err
	}
	if full {
		made.Design["notices"], made.Design["filings"] = json.RawMessage(notices), json.RawMessage(filings)
		body := map[string]any{"design": made.Design, "revision": made.Revision}
		if err := h.call("PUT", fmt.Sprintf("/api/intakes/%d/design", made.ID), body, nil); err != nil {
			return "", err
		}
	}
	slug := made.Design["slug"].(string)
	return slug, h.call("PUT", fmt.Sprintf("/api/intakes/%d/opening", made.ID), map[string]bool{"open": true}, nil)
}

// waits reports whether something waits besides what is before the vault.
func (h *house) waits() (bool, error) {
	var lines []struct {
		Destination struct{ Key string }
		Waiting     int
	}
	var messages struct{ Entries []any }
	err := errors.Join(h.call("GET", "/api/destinations", nil, &lines), h.call("GET", "/api/messages/waiting", nil, &messages))
	for _, l := range lines {
		if l.Destination.Key != "vault" && l.Waiting > 0 {
			return true, err
		}
	}
	return len(messages.Entries) > 0, err
}

func (h *house) measure(slug string, pid int, full, off bool) error {
	body := map[string]any{"answers": map[string]any{
		"name": "Łucja Brzęk", "email": "lucja@brzek.example", "telephone": "+44 20 7946 0123", "what_is_it_about": "repair",
		"date_of_the_visit": "2026-12-24", "describe_what_you_need": strings.Repeat("The bow was dropped and the tip plate came away. ", 6),
	}}
	var mu sync.Mutex
	var took []time.Duration
	var failed error
	var all sync.WaitGroup
	// Connections are made before the clock starts: acceptance is measured, not the handshake.
	for range clients {
		all.Go(func() {
			err := h.call("GET", "/api/house", nil, nil)
			mu.Lock()
			defer mu.Unlock()
			failed = errors.Join(failed, err)
		})
	}
	all.Wait()
	before := cpu(pid)
	start := time.Now()
	for range clients {
		all.Go(func() {
			for range submissions / clients {
				at := time.Now()
				err := h.call("POST", "/api/public/intakes/"+slug+"/submissions", body, nil)
				mu.Lock()
				took = append(took, time.Since(at))
				failed = errors.Join(failed, err)
				mu.Unlock()
			}
		})
	}
	all.Wait()
	if failed != nil {
		return failed
	}
	accepted := time.Since(start)
	var page struct{ All, Failed, Unfinished int }
	for {
		if err := h.call("GET", "/api/submissions", nil, &page); err != nil {
			return err
		}
		if page.Failed > 0 || time.Since(start) > longest {
			return fmt.Errorf("after %v: %+v", time.Since(start), page)
		}
		if off {
			waits, err := h.waits()
			if err != nil {
				return err
			}
			if !waits {
				break
			}
		}
		if page.Unfinished == 0 {
			break
		}
		time.Sleep(500 * time.Millisecond) // asking is work too
	}
	delivered := time.Since(start)
	slices.Sort(took)
	n := float64(len(took))
	ms := func(share float64) float64 { return float64(took[int(share*n)].Microseconds()) / 1000 }
	fmt.Printf(
		"%d submissions by %d clients: accepted in %v, each delivered (document, messages, filing) after %v\n", len(took), clients,
		accepted.Round(time.Millisecond), delivered.Round(time.Millisecond),
	)
	name := "load"
	if full {
		name = "load-full"
	}
	if off {
		name = "load-full-off"
	}
	fmt.Printf(name+" accepted_per_s=%.0f delivered_per_s=%.1f accept_p50_ms=%.1f accept_p99_ms=%.1f cpu_ms=%.2f rss_mb=%d\n",
		n/accepted.Seconds(), n/delivered.Seconds(), ms(0.5), ms(0.99), (cpu(pid)-before).Seconds()*1000/n, peak(pid))
	return nil
}

// cpu is the processor time of a process so far: what a submission costs of it does not depend on who else is at work.
func cpu(pid int) time.Duration {
	stat, err := os.ReadFile(fmt.Sprintf("/proc/%d/stat", pid))
	if err != nil {
		return 0
	}
	// Fields are counted behind the name, which is in brackets: utime and stime are 14 and 15 (proc_pid_stat(5)), in hundredths.
	fields := strings.Fields(string(stat[bytes.LastIndexByte(stat, ')')+1:]))
	var ticks int64
	for _, f := range fields[11:13] {
		n, err := strconv.ParseInt(f, 10, 64)
		if err != nil {
			return 0
		}
		ticks += n
	}
	return time.Duration(ticks) * time.Second / 100
}

// peak is the largest resident memory of the process so far, in megabytes.
func peak(pid int) int {
	status, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	if err != nil {
		return 0
	}
	for line := range strings.Lines(string(status)) {
		var kb int
		if _, err := fmt.Sscanf(line, "VmHWM: %d kB", &kb); err == nil {
			return kb / 1024
		}
	}
	return 0
}
