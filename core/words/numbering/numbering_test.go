package numbering_test

import (
	"fmt"
	"time"

	"amberseal/core/words/numbering"
)

func ExamplePattern() {
	p := numbering.Usual("Repair drop-off")
	t := time.Date(2026, 12, 31, 23, 0, 0, 0, time.UTC)
	fmt.Println(p, p.Number(42, t), p.Series(t), numbering.Pattern("R{n}").Series(t))
	fmt.Println(numbering.Pattern("R-{year}").Problem())
	// Output:
	// RD-{year}-{n:5} RD-2026-00042 2026 all
	// numbering.no-count
}
