package produce_test

import (
	"os"
	"regexp"
	"runtime/debug"
	"strconv"
	"sync"
	"testing"
	"time"
)

// BenchmarkAtOnce makes the receipt 64 times at once; with -cpu 1,2 its times tell how far two processors share the work.
func BenchmarkAtOnce(b *testing.B) {
	d, f := facts(b, "repair-drop-off", nil)
	compose(b, d, "receipt", f)
	for b.Loop() {
		var all sync.WaitGroup
		for range 64 {
			all.Go(func() { compose(b, d, "receipt", f) })
		}
		all.Wait()
	}
}

// resident reads a figure of the process's memory from Linux, in bytes.
func resident(b *testing.B, what string) float64 {
	data, err := os.ReadFile("/proc/self/status")
	if err != nil {
		b.Skip(err)
	}
	m := regexp.MustCompile(what + `:\s+(\d+) kB`).FindSubmatch(data)
	n, err := strconv.ParseFloat(string(m[1]), 64)
	if err != nil {
		b.Fatal(err)
	}
	return n * 1024
}

// BenchmarkPeak is the most memory that a table of 10,000 rows takes while it is made, above what the process has before
// and above the document's own size. The collector is held to a limit, as a house with little memory would.
func BenchmarkPeak(b *testing.B) {
	d, f := tableOf(10_000, 0)
	compose(b, d, "receipt", f)
	defer debug.SetGCPercent(debug.SetGCPercent(25))
	for b.Loop() {
		debug.FreeOSMemory()
		time.Sleep(50 * time.Millisecond)
		before := resident(b, "VmRSS")
		if err := os.WriteFile("/proc/self/clear_refs", []byte("5"), 0); err != nil {
			b.Skip(err)
		}
		c := compose(b, d, "receipt", f)
		b.ReportMetric((resident(b, "VmHWM")-before-float64(len(c.PDF)))/1e6, "MB-above")
		b.ReportMetric(float64(len(c.PDF))/1e6, "MB-file")
	}
}
