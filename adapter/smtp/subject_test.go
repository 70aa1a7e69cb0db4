package smtp

import (
	"bytes"
	"math/rand/v2"
	"os/exec"
	"strings"
	"testing"
)

// Python's email package reads every subject as it was written, and no line of it is too long or empty.
func TestSubjectsAreReadAsTheyWereWritten(t *testing.T) {
	all := []string{
		"", "Plain", strings.Repeat("long plain words ", 9), "=?UTF-8?q?not_one?=", "Größe: “ähm” – 価格",
		strings.Repeat("価格", 60),
	}
	signs := []rune("aZ09 ,.?=_:–ßŁ価🎻\"<>@")
	for range 200 {
		s := ""
		for range rand.IntN(160) {
			s += string(signs[rand.IntN(len(signs))])
		}
		all = append(all, strings.TrimSpace(s))
	}
	var in bytes.Buffer
	for _, s := range all {
		head := "Subject: " + subject(s)
		for i, line := range strings.Split(head, "\r\n") {
			if len(line) > longestLine || i > 0 && strings.TrimSpace(line) == "" || i == 0 && s != "" && line == "Subject: " {
				t.Fatalf("%q is written %q", s, head)
			}
		}
		in.WriteString(head + "\r\n\r\n\x00")
	}
	cmd := exec.Command("python3", "-c", `
import email, email.policy, sys
for raw in sys.stdin.buffer.read().split(b"\0")[:-1]:
    sys.stdout.buffer.write(str(email.message_from_bytes(raw, policy=email.policy.default)["subject"]).encode() + b"\0")`)
	cmd.Stdin = &in
	out, err := cmd.Output()
	if err != nil {
		t.Fatal(err)
	}
	for i, got := range strings.Split(strings.TrimSuffix(string(out), "\x00"), "\x00") {
		if got != all[i] {
			t.Errorf("%q is read %q", all[i], got)
		}
	}
}
