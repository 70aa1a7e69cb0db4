package main

import (
	"crypto/sha256"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"
)

// Forty megabytes are too much for a message: they come by links, which open; and they are filed whole at each destination.
func TestFortyMegabytes(t *testing.T) {
	t.Parallel()
	h := startProgram(t, "--empty")
	h.signIn()
	var house map[string]any
	h.call("GET", "/api/house", nil, &house)
	var files, carried []map[string]string
	sums := map[string]bool{}
	for n := range 4 {
		data := make([]byte, 10<<20)
		for i := range data { // nothing that could be made smaller
			data[i] = byte(i*i*(n+7)>>9 ^ i>>3)
		}
		_, answer := h.try("POST", "/api/house/files", data, "Content-Type", "application/octet-stream")
		var kept struct{ File string }
		if err := json.Unmarshal(answer, &kept); err != nil {
			t.Fatal(err)
		}
		name := fmt.Sprintf("Part %d.bin", n+1)
		files = append(files, map[string]string{"name": name, "file": kept.File})
		carried = append(carried, map[string]string{"house": name})
		sums[fmt.Sprintf("%x", sha256.Sum256(data))] = true
	}
	house["files"] = files
	h.call("PUT", "/api/house", house, nil)
	what, err := json.Marshal(carried)
	if err != nil {
		t.Fatal(err)
	}
	h.desk(`[{"key":"n","name":"N","to":"{{email}}","subject":"{{@number}}","message":"Hello.","attach":`+string(what)+`}]`,
		`[{"key":"f","name":"F","what":`+string(what)+`,"to":["records","office","vault"],"path":"{{@number}}"}]`)
	h.send("ann@reader.example")
	soon(t, 30*time.Second, "the message goes", func() bool { return len(h.mailTo("ann@reader.example")) == 1 })
	m := h.mailTo("ann@reader.example")[0]
	_, raw := h.try("GET", "/standin/mailbox/messages/"+m.ID, nil)
	if len(raw) > 15<<20 || strings.Count(h.pythonReads(m.ID)["text"], "/o/") != 3 {
		t.Errorf("the message has %d bytes, and says %s", len(raw), h.pythonReads(m.ID)["text"])
	}
	for _, list := range []string{"bucket/objects", "share/files", "vault/files"} {
		soon(t, time.Minute, list+" has all", func() bool {
			_, got := h.stock(list)
			if len(got) != len(sums) {
				return false
			}
			for _, sum := range got {
				if !sums[sum] {
					t.Fatalf("%s has a file that is none of them", list)
				}
			}
			return true
		})
	}
}

// A fixed file of the house goes with messages and is filed as it is now; one that is gone says so, and no intake opens that names one the
// house has not.
func TestAFixedFileGoesAlong(t *testing.T) {
	t.Parallel()
	h := startProgram(t, "--empty")
	h.desk(`[{"key":"n","name":"N","to":"{{email}}","subject":"{{@number}}","message":"Dear {{name}}.",
		"attach":[{"house":"Notes on insurance.pdf"}]}]`,
		`[{"key":"f","name":"F","what":[{"house":"Notes on insurance.pdf"}],"to":["records"],"path":"{{@number}}"}]`)
	fixed, err := os.ReadFile("../../demo/files/insurance-notice.pdf")
	if err != nil {
		t.Fatal(err)
	}
	h.send("ann@reader.example")
	soon(t, 20*time.Second, "the message goes", func() bool { return len(h.mailTo("ann@reader.example")) == 1 })
	m := h.mailTo("ann@reader.example")[0]
	_, raw := h.try("GET", "/standin/mailbox/messages/"+m.ID, nil)
	readBack(t, raw, m.Subject, fixed)
	soon(t, 20*time.Second, "it is filed", func() bool {
		_, sums := h.stock("bucket/objects")
		return len(sums) == 1 && sums[0] == fmt.Sprintf("%x", sha256.Sum256(fixed))
	})
	var house map[string]any
	h.call("GET", "/api/house", nil, &house)
	delete(house, "files")
	if status := h.call("PUT", "/api/house", house, nil); status != 200 && status != 204 {
		t.Fatal("the house: ", status)
	}
	h.send("ben@reader.example")
	var page struct{ Entries []struct{ Reason string } }
	soon(t, 20*time.Second, "the next one says what is gone", func() bool {
		h.call("GET", "/api/messages/waiting", nil, &page)
		return len(page.Entries) == 1 && strings.Contains(page.Entries[0].Reason, "has no file “Notes on insurance.pdf”")
	})
	var p problem
	if status := h.call("PUT", "/api/intakes/1/opening", map[string]bool{"open": true}, &p); status != 422 {
		t.Errorf("an intake with a file that the house has not was opened: %d", status)
	}
}

// What somebody changed or took away where it was filed is found when all is compared, on its history and among the filings, also while
// another place is out; put back, it is amiss no more.
func TestWhatWasFiledIsCompared(t *testing.T) {
	t.Parallel()
	h := startProgram(t, "--empty")
	h.desk(`[]`, `[{"key":"f","name":"F","what":[{"document":"receipt"}],"to":["cabinet","office"],"path":"{{@number}}"}]`)
	var numbers []string
	for range 3 {
		numbers = append(numbers, h.send("ann@reader.example"))
	}
	paths := func(list string) int { all, _ := h.stock(list); return len(all) }
	name := func(i int) string { return filepath.Join(h.data, "cabinet", numbers[i]+".pdf") }
	soon(t, 20*time.Second, "all is filed", func() bool {
		_, err := os.Stat(name(2))
		return err == nil && paths("share/files") == 3
	})
	var desk struct{ Amiss, Unfinished int }
	soon(t, 20*time.Second, "nothing is under way", func() bool {
		h.call("GET", "/api/desk", nil, &desk)
		return desk.Unfinished == 0
	})
	h.turn("share", "off")
	if err := errors.Join(os.Chmod(name(0), 0o600), os.WriteFile(name(0), []byte("other"), 0o600), os.Remove(name(1))); err != nil {
		t.Fatal(err)
	}
	if status := h.call("POST", "/api/filings/compare", nil, nil); status != 204 {
		t.Fatal("comparing: ", status)
	}
	soon(t, 20*time.Second, "two are amiss", func() bool {
		h.call("GET", "/api/desk", nil, &desk)
		return desk.Amiss == 2
	})
	h.turn("share", "on")
	var page struct {
		Entries []struct {
			ID           int64
			SubmissionID int64 `json:"submissionId"`
			Number       string
			Amiss        string
		}
	}
	h.call("GET", "/api/filings?amiss=true", nil, &page)
	for _, f := range page.Entries {
		want := map[string]string{numbers[0]: "changed", numbers[1]: "lost"}[f.Number]
		if f.Amiss != want {
			t.Errorf("%s is %q, not %q", f.Number, f.Amiss, want)
		}
		_, told := h.try("GET", fmt.Sprintf("/api/submissions/%d", f.SubmissionID), nil)
		if !strings.Contains(string(told), f.Number+".pdf” is not ") {
			t.Errorf("the history of %s does not tell it: %s", f.Number, told)
		}
		h.call("POST", fmt.Sprintf("/api/submissions/%d/filings/%d/putback", f.SubmissionID, f.ID), nil, nil)
	}
	if h.call("GET", "/api/desk", nil, &desk); desk.Amiss != 0 || len(page.Entries) != 2 {
		t.Errorf("put back, %d are amiss of %+v", desk.Amiss, page)
	}
}

// A rule that is changed while its files wait changes nothing for them: they are filed as the design said when they came in.
func TestARuleIsChangedWhileItsFilesWait(t *testing.T) {
	t.Parallel()
	h := startProgram(t, "--empty")
	rule := `[{"key":"f","name":"F","what":[{"document":"receipt"}],"to":["office"],"path":"%s/{{@number}}"}]`
	id, _ := h.desk(`[]`, fmt.Sprintf(rule, "Before"))
	h.turn("share", "off")
	first := h.send("ann@reader.example")
	at := fmt.Sprintf("/api/intakes/%d", id)
	var i struct {
		Revision int
		Design   map[string]any
	}
	h.call("GET", at, nil, &i)
	var changed any
	if err := json.Unmarshal(fmt.Appendf(nil, rule, "After"), &changed); err != nil {
		t.Fatal(err)
	}
	i.Design["filings"] = changed
	h.call("PUT", at+"/design", map[string]any{"design": i.Design, "revision": i.Revision}, nil)
	h.call("PUT", at+"/opening", map[string]bool{"open": true}, nil)
	second := h.send("ben@reader.example")
	h.turn("share", "on")
	soon(t, 40*time.Second, "both are filed", func() bool {
		paths, _ := h.stock("share/files")
		all := strings.Join(paths, " ")
		return len(paths) == 2 && strings.Contains(all, "Before/"+first+".pdf") && strings.Contains(all, "After/"+second+".pdf")
	})
}
