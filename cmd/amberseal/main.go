// Command amberseal turns submissions into documents. See amberseal --help.
package main

import (
	"errors"
	"flag"
	"fmt"
	"os"
)

// usageError is a mistake in the command's words.
type usageError struct{ message string }

func (e usageError) Error() string { return e.message }

func main() {
	err := compose(os.Args[2:], os.Stderr)
	if err != nil && !errors.Is(err, flag.ErrHelp) {
		fmt.Fprintln(os.Stderr, "amberseal:", err)
		os.Exit(1)
	}
}
