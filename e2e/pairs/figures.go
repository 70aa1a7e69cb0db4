package main

import (
	"math/rand/v2"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// figures are what a run tells, by name: "load accepted_per_s", "BenchmarkEngine jobs/s".
type figures map[string]float64

var (
	told      = regexp.MustCompile(`^([a-z][a-z-]*)((?: [a-z0-9_]+=[\d.]+)+)$`)
	one       = regexp.MustCompile(`([a-z0-9_]+)=([\d.]+)`)
	benchmark = regexp.MustCompile(`^(Benchmark\S+?)(?:-\d+)?\s+\d+\s+(\d.*)$`)
)

// read finds the figures in what a target of the Makefile printed: lines of NAME FIGURE=VALUE…, and those of Go's benchmarks.
func read(out []byte) figures {
	all := figures{}
	for line := range strings.Lines(string(out)) {
		line = strings.TrimSpace(line)
		if m := told.FindStringSubmatch(line); m != nil {
			for _, f := range one.FindAllStringSubmatch(m[2], -1) {
				all.add(m[1]+" "+f[1], f[2])
			}
		}
		if m := benchmark.FindStringSubmatch(line); m != nil {
			words := strings.Fields(m[2])
			for i := 0; i+1 < len(words); i += 2 {
				all.add(m[1]+" "+words[i+1], words[i])
			}
		}
	}
	return all
}

func (f figures) add(name, value string) {
	if v, err := strconv.ParseFloat(value, 64); err == nil {
		f[name] = v
	}
}

// higher reports whether more of a figure is better: what is done in a time, and how many times quicker something is than another.
func higher(name string) bool {
	return strings.HasSuffix(name, "_per_s") || strings.HasSuffix(name, "/s") || strings.Contains(name, "_vs_") ||
		strings.HasSuffix(name, " two_cores")
}

func verdict(name string, low, high float64) string {
	switch {
	case low <= 1 && high >= 1:
		return "even"
	case (low > 1) == higher(name):
		return "better"
	}
	return "worse"
}

// interval is the one in which the middle of the ratios lies with 90 %: the percentile bootstrap (Efron and Tibshirani, An Introduction to
// the Bootstrap, 13.3) of ten thousand drawings, the same ones in each run.
func interval(ratios []float64) (low, high float64) {
	const drawings = 10_000
	chance := rand.New(rand.NewPCG(1, 2))
	middles, drawn := make([]float64, drawings), make([]float64, len(ratios))
	for i := range middles {
		for j := range drawn {
			drawn[j] = ratios[chance.IntN(len(ratios))]
		}
		middles[i] = middle(drawn)
	}
	slices.Sort(middles)
	return middles[drawings/20], middles[drawings-drawings/20-1]
}

func middle(v []float64) float64 {
	v = slices.Sorted(slices.Values(v))
	n := len(v)
	if n%2 == 1 {
		return v[n/2]
	}
	return (v[n/2-1] + v[n/2]) / 2
}
