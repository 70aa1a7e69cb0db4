// Command pairs measures this work beside an earlier commit: every figure that `make bench`, `make load` and `make scale` print, run in
// turn so that a machine that swings carries both along. For each figure it prints the middle before and now, the middle of the ratios
// with its 90 % interval, and whether that is better, worse, or neither for certain.
//
//	go run ./e2e/pairs [-of bench,load,scale] [-runs 10] COMMIT
package main

import (
	"errors"
	"flag"
	"fmt"
	"io"
	"maps"
	"os"
	"os/exec"
	"slices"
	"strings"
)

func main() {
	if err := run(os.Args[1:], os.Stdout); err != nil {
		fmt.Fprintln(os.Stderr, "pairs:", err)
		os.Exit(1)
	}
}

func run(args []string, out io.Writer) error {
	flags := flag.NewFlagSet("pairs", flag.ContinueOnError)
	of := flags.String("of", "bench,load,scale", "what is measured, by the names of its targets in the Makefile")
	runs := flags.Int("runs", 10, "how often each is run")
	if err := flags.Parse(args); err != nil {
		return err
	}
	if flags.NArg() != 1 || *runs < 1 {
		return errors.New("say which commit to compare with, and how often, at least once")
	}
	here, err := os.Getwd()
	if err != nil {
		return err
	}
	before, err := os.MkdirTemp("", "amberseal-before-")
	if err != nil {
		return err
	}
	defer os.RemoveAll(before)
	defer command(here, "git", "worktree", "prune").Run()
	if err := command(here, "git", "worktree", "add", "--force", "--detach", before, flags.Arg(0)).Run(); err != nil {
		return fmt.Errorf("the commit %s cannot be laid out: %w", flags.Arg(0), err)
	}
	var measured [2][]figures
	for n := range *runs {
		for i, dir := range []string{before, here} {
			f, err := measure(dir, strings.Split(*of, ","))
			if err != nil {
				return err
			}
			measured[i] = append(measured[i], f)
			fmt.Fprintf(out, "%d %s %v\n", n+1, [2]string{"before", "now"}[i], f)
		}
	}
	for _, line := range compare(measured[0], measured[1]) {
		fmt.Fprintln(out, line)
	}
	return nil
}

func measure(dir string, targets []string) (figures, error) {
	all := figures{}
	for _, t := range targets {
		out, err := command(dir, "make", t).Output()
		if err != nil {
			return nil, fmt.Errorf("make %s in %s: %w", t, dir, err)
		}
		found := read(out)
		if len(found) == 0 {
			return nil, fmt.Errorf("make %s in %s tells no figures:\n%s", t, dir, out)
		}
		for name, v := range found {
			all[name] = v
		}
	}
	return all, nil
}

// compare tells of each figure how it was and is. One that only one of the commits has is told by name, and not compared.
func compare(before, now []figures) []string {
	names := map[string]bool{}
	for _, f := range slices.Concat(before, now) {
		for name := range f {
			names[name] = true
		}
	}
	var out []string
	for _, name := range slices.Sorted(maps.Keys(names)) {
		var old, new, ratios []float64
		for n := range before {
			a, was := before[n][name]
			b, is := now[n][name]
			if was && is && a > 0 && b > 0 {
				old, new, ratios = append(old, a), append(new, b), append(ratios, b/a)
			}
		}
		if len(ratios) == 0 {
			out = append(out, fmt.Sprintf("pairs %s is told by one of the commits alone, or is nothing", name))
			continue
		}
		low, high := interval(ratios)
		out = append(out, fmt.Sprintf("pairs %s before=%.4g now=%.4g ratio=%.3f interval=%.3f..%.3f pairs=%d %s", name, middle(old),
			middle(new), middle(ratios), low, high, len(ratios), verdict(name, low, high)))
	}
	return out
}

func command(dir, name string, args ...string) *exec.Cmd {
	c := exec.Command(name, args...)
	c.Dir, c.Stderr = dir, os.Stderr
	return c
}
