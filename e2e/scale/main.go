// Command scale measures how quick the lists and counts of a large house are: a house of 500 intakes with 300,000 submissions beside one
// with 3,000, over HTTP, the real program. It ends with one line for machines: the slowest question of each sort in milliseconds, and
// how many times longer the large house takes at most.
package main

import (
	"bufio"
	"bytes"
	"database/sql"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"time"

	_ "modernc.org/sqlite"

	"amberseal/demo"
)

const (
	intakes = 500
	small   = 3_000
	large   = 300_000
	rounds  = 9
)

func main() {
	if err := run(); err != nil {
		fmt.Fprintln(os.Stderr, "scale:", err)
		os.Exit(1)
	}
}

// question is one that a page asks.
type question struct{ sort, path string }

func questions() []question {
	all := []question{{"desk", "/api/desk"}, {"intakes", "/api/intakes"}, {"one", "/api/submissions/2000"}}
	finds := []struct{ sort, words string }{
		{"register", ""}, {"find", "zephyr"}, {"find", "violin"}, {"find", "violin repair"}, {"find", "S-00001500"}, {"find", "vio"},
	}
	for _, f := range finds {
		for _, narrowed := range []string{"", "intake=7", "state=unfinished", "intake=7&state=failed"} {
			q := narrowed
			if f.words != "" {
				q = strings.TrimLeft(q+"&words="+url.QueryEscape(f.words), "&")
			}
			all = append(all, question{f.sort, "/api/submissions?" + q})
		}
	}
	return all
}

func run() error {
	asked := questions()
	var took [2][]time.Duration
	for n, submissions := range []int{small, large} {
		h, err := open(submissions)
		if err != nil {
			return err
		}
		took[n], err = h.ask(asked)
		h.close()
		if err != nil {
			return err
		}
	}
	slowest, ratio := map[string]time.Duration{}, 0.0
	for i, q := range asked {
		times := float64(took[1][i]) / float64(max(took[0][i], time.Millisecond)) // less than a millisecond is the network's
		fmt.Printf("%8.1f ms  %8.1f ms  %5.2f  %s\n", ms(took[0][i]), ms(took[1][i]), times, q.path)
		slowest[q.sort], ratio = max(slowest[q.sort], took[1][i]), max(ratio, times)
	}
	fmt.Printf("scale register_ms=%.1f find_ms=%.1f desk_ms=%.1f intakes_ms=%.1f one_ms=%.1f ratio=%.2f\n", ms(slowest["register"]),
		ms(slowest["find"]), ms(slowest["desk"]), ms(slowest["intakes"]), ms(slowest["one"]), ratio)
	return nil
}

func ms(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 }

// house is a running one.
type house struct {
	url     string
	client  *http.Client
	program *exec.Cmd
	data    string
}

func (h *house) close() {
	h.program.Process.Signal(syscall.SIGTERM)
	h.program.Wait()
	os.RemoveAll(h.data)
}

// open fills a house and starts it.
func open(submissions int) (*house, error) {
	data, err := os.MkdirTemp("", "amberseal-scale-")
	if err != nil {
		return nil, err
	}
	h := &house{data: data}
	if err := h.start(); err != nil {
		return nil, err
	}
	for i := range intakes {
		body, err := json.Marshal(map[string]string{
			"name": fmt.Sprintf("Intake %d", i+1), "questions": "Your name *\nYour email *\nInstrument\nWhat is wrong\nWhen did you buy " +
				"it\nMay we ring you?",
		})
		if err != nil {
			return nil, err
		}
		var made struct{ ID int }
		if err := h.call("POST", "/api/intakes", body, &made); err != nil {
			return nil, err
		}
		if err := h.call("PUT", fmt.Sprintf("/api/intakes/%d/opening", made.ID), []byte(`{"open": true}`), nil); err != nil {
			return nil, err
		}
	}
	h.program.Process.Signal(syscall.SIGTERM)
	h.program.Wait()
	if err := fill(filepath.Join(data, "amberseal.db"), submissions); err != nil {
		return nil, err
	}
	return h, h.start()
}

func (h *house) start() error {
	h.program = exec.Command("bin/amberseal", "demo", "--empty", "--listen", "127.0.0.1:0", "--data", h.data)
	out, err := h.program.StdoutPipe()
	if err != nil {
		return err
	}
	if err := h.program.Start(); err != nil {
		return fmt.Errorf("%w; build it with make build", err)
	}
	line, err := bufio.NewReader(out).ReadString('\n')
	if err != nil {
		return fmt.Errorf("the program did not start: %w", err)
	}
	go io.Copy(io.Discard, out)
	h.url = line[strings.Index(line, "http"):]
	h.url = strings.Fields(h.url)[0]
	jar, err := cookiejar.New(nil)
	if err != nil {
		return err
	}
	h.client = &http.Client{Jar: jar}
	body, err := json.Marshal(map[string]string{"email": demo.Email, "password": demo.Password})
	if err != nil {
		return err
	}
	return h.call("POST", "/api/session", body, nil)
}

func (h *house) call(method, path string, body []byte, into any) error {
	r, err := http.NewRequest(method, h.url+path, bytes.NewReader(body))
	if err != nil {
		return err
	}
	r.Header.Set("Content-Type", "application/json")
	answer, err := h.client.Do(r)
	if err != nil {
		return err
	}
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	if err != nil || answer.StatusCode >= 300 {
		return fmt.Errorf("%s %s: %d %.200s %w", method, path, answer.StatusCode, text, err)
	}
	if into == nil {
		return nil
	}
	return json.Unmarshal(text, into)
}

// ask takes the median time of each question, after it was asked once.
func (h *house) ask(all []question) ([]time.Duration, error) {
	out := make([]time.Duration, len(all))
	for i, q := range all {
		var times []time.Duration
		for n := range rounds + 1 {
			start := time.Now()
			if err := h.call("GET", q.path, nil, nil); err != nil {
				return nil, err
			}
			if n > 0 {
				times = append(times, time.Since(start))
			}
		}
		slices.Sort(times)
		out[i] = times[rounds/2]
	}
	return out, nil
}

// fill writes submissions as the program keeps them, with four jobs each. What is not finished is of the newest 3,000, one in twelve
// failed and one in twelve waits; intake 7 has a tenth of all. Both houses then fill each page that is asked for, so that their times
// differ by what lies behind the page and not by its lines. Handing them in would take an hour of making documents.
func fill(file string, submissions int) error {
	db, err := sql.Open("sqlite", file)
	if err != nil {
		return err
	}
	defer db.Close()
	tx, err := db.Begin()
	if err != nil {
		return err
	}
	defer tx.Rollback()
	const numbered = `WITH RECURSIVE seq(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM seq WHERE n < ?1) `
	const of = `CASE WHEN n % 10 = 3 THEN 7 ELSE 1 + n % 500 END`
	const newest = `3000`
	const person = `'Łucja Brzęk ' || (n * 7919 % 10007)`
	for _, statement := range []string{
		numbered + `INSERT INTO submission (id, intake, version, number, person, ref, answers, received, once, body_hash)
		  SELECT n, ` + of + `, 1, printf('S-%08d', n), ` + person + `, printf('ref%09d', n),
		  json_object('your_name', ` + person + `, 'your_email', 'a' || n || '@b.example', 'instrument', 'violin'), 1700000000000000 + ` +
			`n * 60000000, NULL, ''
		  FROM seq`,
		numbered + `INSERT INTO submission_words (rowid, intake, words) SELECT n, ` + of + `, printf('S-%08d', n) || char(10) || ` +
			person +
			` || ' violin ' || CASE WHEN n % 3 = 0 THEN 'repair' ELSE 'rental' END || CASE WHEN n % (?1 / 5) = 7 THEN ' zephyr' ELSE '' ` +
			`END FROM seq`,
		numbered + `INSERT INTO job (about, subject, run, kind, key, name, share, target, lane, state, due, since, updated, reason)
		  SELECT 'submission', n, 1, k.column1, k.column2, k.column2, ` + of + `, k.column3, 0,
		  CASE WHEN k.column2 = 'staff' AND n > ?1 - ` + newest + ` AND n % 12 = 3 THEN 'failed'
		  WHEN k.column2 = 'staff' AND n > ?1 - ` + newest + ` AND n % 12 = 7 THEN 'waits' ELSE 'done' END,
		  1700000000000000, 1700000000000000, 1700000000000000, ''
		  FROM seq, (VALUES ('document', 'receipt', 'press'), ('notice', 'respondent', 'mail'), ('notice', 'staff', 'mail'), ('filing', ` +
			`'cabinet', 'cabinet')) k`,
		numbered + `INSERT INTO tally (intake, submissions) SELECT ` + of + `, count(*) FROM seq GROUP BY 1`,
	} {
		if _, err := tx.Exec(statement, submissions); err != nil {
			return fmt.Errorf("%.80s: %w", statement, err)
		}
	}
	return tx.Commit()
}
