package main

import (
	"crypto/sha256"
	"fmt"
	"os"
	"strings"
	"testing"
	"time"
)

// A fixed file of the house goes with messages and is filed as it is now; one that is gone says so, and no intake opens that names one the
// house has not.
func TestAFixedFileGoesAlong(t *testing.T) {
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
