package main

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// Secrets are kept with a key outside the data folder; a house restored without it says what must be entered again, and runs.
func TestSecretsAfterARestore(t *testing.T) {
	dir := t.TempDir()
	data, file := filepath.Join(dir, "house"), filepath.Join(dir, "backup")
	command := func(stdin string, fine bool, args ...string) string {
		t.Helper()
		c := exec.Command(binary, args...)
		c.Env, c.Stdin = append(os.Environ(), "CREDENTIALS_DIRECTORY=", "AMBERSEAL_KEY="+os.Getenv("TEST_KEY")), strings.NewReader(stdin)
		out, err := c.CombinedOutput()
		if (err == nil) != fine {
			t.Fatalf("amberseal %s: %v\n%s", strings.Join(args, " "), err, out)
		}
		return string(out)
	}
	if said := command("x\n", false, "secret", "--data", data, "--set", "mail"); !strings.Contains(said, "--new-key") {
		t.Errorf("without a key it says %s", said)
	}
	command("", true, "secret", "--data", data, "--new-key")
	if said := command("", false, "secret", "--data", data, "--new-key"); !strings.Contains(said, "already") {
		t.Errorf("a second key: %s", said)
	}
	command("a password of the mail account\n", true, "secret", "--data", data, "--set", "mail")
	if said := command("", true, "secret", "--data", data); !strings.Contains(said, "mail, of ") ||
		strings.Contains(said, "cannot be opened") {
		t.Errorf("listed: %s", said)
	}
	command("", true, "backup", "--data", data, "--to", file)
	other := filepath.Join(dir, "other")
	if said := command("", true, "restore", "--from", file, "--data", other); !strings.Contains(
		said,
		"cannot be opened with the key at hand: mail",
	) {
		t.Errorf("restored without the key: %s", said)
	}
	t.Setenv("TEST_KEY", data+".key")
	if said := command("", true, "secret", "--data", other); strings.Contains(said, "cannot be opened") {
		t.Errorf("restored with the key: %s", said)
	}
	t.Setenv("TEST_KEY", filepath.Join(other, "key"))
	if said := command("", false, "secret", "--data", other); !strings.Contains(said, "put it elsewhere") {
		t.Errorf("a key inside the data folder: %s", said)
	}
}
