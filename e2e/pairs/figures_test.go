package main

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"
)

// Every figure that is printed is found, also those of Go's benchmarks, and each is judged by its own direction.
func TestFiguresAreFoundAndJudged(t *testing.T) {
	got := read([]byte("LibreOffice sets it in 20 ms=3.\nload-full accepted_per_s=1926 cpu_ms=1.25\n" +
		"scale register_ms=4.5 ratio=1.02\nBenchmarkEngine/four-2   \t1\t 12 ns/op\t 340.5 jobs/s\nok  \tamberseal 3.2s\n"))
	want := figures{"load-full accepted_per_s": 1926, "load-full cpu_ms": 1.25, "scale register_ms": 4.5, "scale ratio": 1.02,
		"BenchmarkEngine/four ns/op": 12, "BenchmarkEngine/four jobs/s": 340.5}
	if len(got) != len(want) {
		t.Errorf("%v", got)
	}
	for name, v := range want {
		if got[name] != v {
			t.Errorf("%s is %v, want %v", name, got[name], v)
		}
	}
	before, now := []figures{}, []figures{}
	for n := range 10 {
		wobble := 1 + float64(n-5)/100
		before = append(before, figures{"load accepted_per_s": 100, "load cpu_ms": 2, "load rss_mb": 200, "bench gone_ms": 1})
		now = append(now, figures{"load accepted_per_s": 120 * wobble, "load cpu_ms": 3 * wobble, "load rss_mb": 201 * wobble})
	}
	lines := strings.Join(compare(before, now), "\n")
	for _, want := range []string{
		"gone_ms is told by one of the commits alone", "accepted_per_s before=100 now=119.4 ratio=1.194",
		"pairs=10 better\npairs load cpu_ms before=2 now=2.985 ratio=1.492", "worse\npairs load rss_mb", "even",
	} {
		if !strings.Contains(lines, want) {
			t.Errorf("%q is not in\n%s", want, lines)
		}
	}
}

// The interval holds the true middle about as often as it says. With ten values the bootstrap of a middle is somewhat wide or narrow by its
// steps: the binomial count of values below the middle allows 89 % (ranks 3 to 8) to 98 % (ranks 2 to 9).
func TestTheIntervalHoldsTheMiddle(t *testing.T) {
	const tries = 200
	chance := rand.New(rand.NewPCG(3, 4))
	held := 0
	for range tries {
		ratios := make([]float64, 10)
		for i := range ratios {
			ratios[i] = math.Exp(0.1 * chance.NormFloat64()) // its middle is 1
		}
		if low, high := interval(ratios); low <= 1 && high >= 1 {
			held++
		}
	}
	if share := float64(held) / tries; share < 0.84 || share > 0.98 {
		t.Errorf("the middle lies in %.0f %% of the intervals", 100*share)
	}
}
