// Command pairs measures this work beside an earlier commit: the load of e2e/load and the receipt's benchmark, run in turn so that
// a machine that swings carries both along. It prints the middle of each figure before and now, and the middle of their ratios.
//
//	go run ./e2e/pairs COMMIT [RUNS]
package main

import (
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
)

func main() {
	if err := run(os.Args[1:]); err != nil {
		fmt.Fprintln(os.Stderr, "pairs:", err)
		os.Exit(1)
	}
}

func run(args []string) error {
	if len(args) < 1 {
		return errors.New("say which commit to compare with")
	}
	runs := 10
	if len(args) > 1 {
		n, err := strconv.Atoi(args[1])
		if err != nil || n < 1 {
			return fmt.Errorf("%q is no number of runs", args[1])
		}
		runs = n
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
	if err := command(here, "git", "worktree", "add", "--force", "--detach", before, args[0]).Run(); err != nil {
		return fmt.Errorf("the commit %s cannot be laid out: %w", args[0], err)
	}
	for _, dir := range []string{before, here} {
		if err := command(dir, "make", "build").Run(); err != nil {
			return fmt.Errorf("%s cannot be built: %w", dir, err)
		}
	}
	measured := [2][]map[string]float64{}
	for n := range runs {
		for i, dir := range []string{before, here} {
			m, err := measure(dir)
			if err != nil {
				return err
			}
			measured[i] = append(measured[i], m)
			fmt.Printf("%d %s %v\n", n+1, [2]string{"before", "now"}[i], m)
		}
	}
	for _, name := range figures {
		var old, now, ratio []float64
		for n := range runs {
			a, b := measured[0][n][name], measured[1][n][name]
			old, now, ratio = append(old, a), append(now, b), append(ratio, b/a)
		}
		fmt.Printf("pairs %s before=%.1f now=%.1f ratio=%.3f\n", name, middle(old), middle(now), middle(ratio))
	}
	return nil
}

// figures are what is compared.
var figures = []string{"accepted_per_s", "delivered_per_s", "rss_mb", "receipt_ms", "receipt_cpu_ms"}

var (
	loaded  = regexp.MustCompile(`(accepted_per_s|delivered_per_s|rss_mb)=([\d.]+)`)
	receipt = regexp.MustCompile(`BenchmarkReceipt\S*\s+\d+\s+(\d+) ns/op\s+(\d+) cpu-ns/op`)
)

func measure(dir string) (map[string]float64, error) {
	out := map[string]float64{}
	load, err := command(dir, "go", "run", "./e2e/load").Output()
	if err != nil {
		return nil, fmt.Errorf("the load in %s: %w", dir, err)
	}
	for _, m := range loaded.FindAllSubmatch(load, -1) {
		out[string(m[1])], _ = strconv.ParseFloat(string(m[2]), 64)
	}
	bench, err := command(
		filepath.Join(dir, "app/produce"), "go", "test", "-run", "^$", "-bench", "Receipt", "-benchtime", "500x", "-count", "4",
	).Output()
	if err != nil {
		return nil, fmt.Errorf("the benchmark in %s: %w", dir, err)
	}
	all := receipt.FindAllSubmatch(bench, -1)
	if len(all) == 0 {
		return nil, fmt.Errorf("the benchmark in %s says nothing:\n%s", dir, bench)
	}
	for i, name := range []string{"receipt_ms", "receipt_cpu_ms"} {
		for _, m := range all { // the quickest: what is slower was disturbed
			ns, _ := strconv.ParseFloat(string(m[i+1]), 64)
			if ms := ns / 1e6; out[name] == 0 || ms < out[name] {
				out[name] = ms
			}
		}
	}
	return out, nil
}

func middle(v []float64) float64 {
	v = slices.Sorted(slices.Values(v))
	n := len(v)
	if n%2 == 1 {
		return v[n/2]
	}
	return (v[n/2-1] + v[n/2]) / 2
}

func command(dir, name string, args ...string) *exec.Cmd {
	c := exec.Command(name, args...)
	c.Dir, c.Stderr = dir, os.Stderr
	return c
}
