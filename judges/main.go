// Command judges holds what Amber Seal makes against judges that are fetched from package registries: veraPDF (Maven) judges the
// documents, Apache POI with the full schemas of ISO/IEC 29500 (Maven) word-processor files,
// python-docx and pikepdf (PyPI) what was filled in, jsonschema (PyPI) the schemas of forms,
// schemathesis (PyPI) the interface by its description; s3cmd, cadaver, sftp and litmus (Debian) what is filed, OpenSSH's server,
// Postfix and OpenSMTPD (Debian) how it is filed and sent.
//
// It ends with 0 when all of them were content, with 1 when one found a fault, and with 2 when none did but one could not be
// fetched, which it says by name. Run it from the project's folder, with bin/amberseal built; with names only those judge.
package main

import (
	"errors"
	"fmt"
	"os"
	"os/exec"
	"slices"
	"strings"
)

// judge is one of them. work is a folder of its own.
type judge struct {
	name string
	run  func(work string) error
}

// unfetched is the error of a judge that cannot be had.
type unfetched struct{ error }

func main() {
	work, err := os.MkdirTemp("", "amberseal-judges-")
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	defer os.RemoveAll(work)
	var missing, faulty []string
	for _, j := range []judge{
		{"veraPDF", documents}, {"POI", wordFiles}, {"readers", readers}, {"jsonschema", schemas},
		{"clients", clients}, {"OpenSSH", openSSH}, {"Postfix", postfix}, {"OpenSMTPD", strict}, {"schemathesis", description},
	} {
		if len(os.Args) > 1 && !slices.Contains(os.Args[1:], j.name) {
			continue
		}
		fmt.Println("==", j.name)
		own := work + "/" + j.name
		err := os.Mkdir(own, 0o700)
		if err == nil {
			err = j.run(own)
		}
		var not unfetched
		switch {
		case errors.As(err, &not):
			missing = append(missing, j.name)
			fmt.Println(not)
		case err != nil:
			faulty = append(faulty, j.name)
			fmt.Println(err)
		}
	}
	switch {
	case len(faulty) > 0:
		fmt.Println("Faults were found by", strings.Join(faulty, ", ")+".")
		os.RemoveAll(work)
		os.Exit(1)
	case len(missing) > 0:
		fmt.Println("Could not be fetched, and judged nothing:", strings.Join(missing, ", ")+".")
		os.RemoveAll(work)
		os.Exit(2)
	}
}

// tool runs a program and gives what it said.
func tool(name string, args ...string) (string, error) {
	out, err := exec.Command(name, args...).CombinedOutput()
	return string(out), err
}

// fetch runs a program that gets a judge from its registry.
func fetch(name string, args ...string) error {
	if out, err := tool(name, args...); err != nil {
		return unfetched{fmt.Errorf("%s %s: %w\n%s", name, strings.Join(args, " "), err, tail(out))}
	}
	return nil
}

// tail is the end of what a program said.
func tail(out string) string {
	lines := strings.Split(strings.TrimSpace(out), "\n")
	return strings.Join(lines[max(0, len(lines)-12):], "\n")
}
