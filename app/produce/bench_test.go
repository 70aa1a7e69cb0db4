package produce_test

import (
	"amberseal/app/produce"
	"amberseal/core/ask/form"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
	"amberseal/core/words/house"
	"amberseal/core/words/phrase"
	"fmt"
	"os"
	"regexp"
	"runtime/debug"
	"strconv"
	"sync"
	"syscall"
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

func BenchmarkReceipt(b *testing.B) {
	d, f := facts(b, "repair-drop-off", nil)
	size := len(compose(b, d, "receipt", f).PDF)
	b.ReportAllocs()
	before := cpu(b)
	for b.Loop() {
		compose(b, d, "receipt", f)
	}
	b.ReportMetric(float64(cpu(b)-before)/float64(b.N), "cpu-ns/op")
	b.ReportMetric(float64(size), "file-bytes")
}

// BenchmarkLetterPaper makes a letter with and without letter paper behind it; the paper was taken apart once, as the program keeps it.
func BenchmarkLetterPaper(b *testing.B) {
	d, f := facts(b, "gift", nil)
	kept, err := pictures(paper.GroundFile("letter-paper.pdf"))
	if err != nil {
		b.Fatal(err)
	}
	find := func(name string) ([]byte, error) {
		if _, ok := paper.GroundName(name); ok {
			return kept, nil
		}
		return pictures(name)
	}
	for name, behind := range map[string]*paper.Printed{"without": nil, "behind": {First: "letter-paper.pdf"}} {
		b.Run(name, func(b *testing.B) {
			d.Documents[0].Page.Printed = behind
			before := cpu(b)
			for b.Loop() {
				if _, err := produce.Compose(d, "letter", f, find, produce.Apart{}); err != nil {
					b.Fatal(err)
				}
			}
			b.ReportMetric(float64(cpu(b)-before)/float64(b.N), "cpu-ns/op")
		})
	}
}

// cpu is the processor time that the process has used, with its garbage collection.
func cpu(b *testing.B) int64 {
	var u syscall.Rusage
	if err := syscall.Getrusage(syscall.RUSAGE_SELF, &u); err != nil {
		b.Fatal(err)
	}
	return u.Utime.Nano() + u.Stime.Nano()
}

// tableOf is an intake whose receipt is one table of that many rows, with words of its own: what was set before is remembered,
// and must not make it look fast.
func tableOf(rows, own int) (intake.Design, phrase.Facts) {
	var fields []form.Field
	for i := range rows {
		fields = append(fields, form.Field{Key: "f" + strconv.Itoa(i), Kind: form.ShortText,
			Label: fmt.Sprintf("Question %d of %d", i, own)})
	}
	d := intake.New("Table", fields)
	for i := range d.Documents[0].Blocks {
		d.Documents[0].Blocks[i].Headed = true
	}
	at := time.Unix(1e9, 0).UTC()
	return d, phrase.Facts{
		House:    house.New(),
		Intake:   d.Name,
		Form:     d.Form,
		Answers:  form.Sample(d.Form, form.MadeUp),
		Number:   "T-1",
		Received: at,
		Made:     at,
	}
}

func BenchmarkTable(b *testing.B) {
	for _, rows := range []int{100, 1000, 10_000} {
		b.Run(strconv.Itoa(rows), func(b *testing.B) {
			own := 0
			b.ReportAllocs()
			for b.Loop() {
				b.StopTimer()
				own++
				d, f := tableOf(rows, own)
				b.StartTimer()
				compose(b, d, "receipt", f)
			}
			b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/float64(rows), "ns/row")
		})
	}
}
