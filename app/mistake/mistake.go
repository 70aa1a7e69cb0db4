// Package mistake writes down what the program did not expect of itself. Where it happened goes into the log under a number, and people are
// told the number alone: by it whoever carries on finds the place.
package mistake

import (
	"crypto/rand"
	"log/slog"
	"runtime/debug"
)

// Log writes a panic's value down with the stack, which must be that of the goroutine that recovered it, and gives the number.
func Log(log *slog.Logger, p any, about ...any) (number string) {
	number = rand.Text()[:8]
	log.Error("the program made a mistake", append([]any{"number", number, "mistake", p, "stack", string(debug.Stack())}, about...)...)
	return number
}
