// Command amberseal turns submissions into documents. See amberseal --help.
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"os/signal"
	"strings"
	"syscall"

	_ "time/tzdata" // time zones, also where the system has none
)

const help = `Amber Seal: forms whose every submission becomes a branded PDF.

  amberseal serve     run the house: its pages, its post and its cabinet
  amberseal demo      run the demo house with stand-ins for the outside world
  amberseal person    let somebody sign in
  amberseal secret    keep passwords sealed: of the mail account, and what else the house must not tell
  amberseal backup    write a whole house, running or not, into one file
  amberseal restore   make a house of such a file
  amberseal compose   make one document from files, without a server
  amberseal inspect   find what is to be filled in a document of your own, and what is wrong with it
  amberseal notes     copy a .docx with a comment at each of its faults
  amberseal start     make a .docx to begin with, of a form or of a document designed here
  amberseal questions make an intake of what a .docx asks to be filled
  amberseal typeset   set a .docx as it is, as a PDF
  amberseal check     check answers against a form: what shows, what is calculated, what is wrong
  amberseal schema    write a form as a JSON Schema
  amberseal blank     make the empty form as a PDF, to print or to fill on screen
  amberseal read      read the answers from a filled copy

Each command explains itself with --help.
`

// usageError is a mistake in the command's words.
type usageError struct{ message string }

func (e usageError) Error() string { return e.message }

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	easeCollector()
	err := run(ctx, os.Args[1:], os.Stdout, os.Stderr)
	var usage usageError
	switch {
	case err == nil, errors.Is(err, flag.ErrHelp):
	case errors.As(err, &usage):
		fmt.Fprintln(os.Stderr, "amberseal:", err)
		os.Exit(2)
	default:
		fmt.Fprintln(os.Stderr, "amberseal:", err)
		os.Exit(1)
	}
}

func run(ctx context.Context, args []string, stdout, stderr io.Writer) error {
	if len(args) == 0 {
		fmt.Fprint(stderr, help)
		return usageError{"a command is missing"}
	}
	switch args[0] {
	case "serve":
		return serve(ctx, args[1:], stdout, stderr)
	case "demo":
		return runDemo(ctx, args[1:], stdout, stderr)
	case "person":
		return addPerson(ctx, args[1:], stdout, stderr)
	case "secret":
		return secrets(ctx, args[1:], stdout, stderr)
	case "backup":
		return writeBackup(ctx, args[1:], stdout, stderr)
	case "restore":
		return readBackup(ctx, args[1:], stdout, stderr)
	case "compose":
		return compose(args[1:], stderr)
	case "inspect":
		return inspect(args[1:], stdout, stderr)
	case "notes":
		return writeNotes(args[1:], stdout, stderr)
	case "start":
		return writeStart(args[1:], stderr)
	case "questions":
		return writeQuestions(args[1:], stderr)
	case "typeset":
		return setFile(args[1:], stderr)
	case "check":
		return check(args[1:], stdout, stderr)
	case "schema":
		return writeSchema(args[1:], stdout, stderr)
	case "blank":
		return writeBlank(args[1:], stderr)
	case "read":
		return readFilled(args[1:], stdout, stderr)
	case "join":
		data, err := runJoin(args[1:])
		if err == nil {
			_, err = stdout.Write(data)
		}
		return err
	case "take":
		data, err := runTake(args[1:])
		if err == nil {
			_, err = stdout.Write(data)
		}
		return err
	case "unpack":
		data, err := runUnpack(args[1:])
		if err == nil {
			_, err = stdout.Write(data)
		}
		return err
	case "help", "--help", "-h":
		fmt.Fprint(stdout, help)
		return nil
	}
	fmt.Fprint(stderr, help)
	return usageError{fmt.Sprintf("there is no command “%s”", args[0])}
}

// parse reads a command's flags and refuses words that are none.
func parse(flags *flag.FlagSet, args []string, stderr io.Writer) error {
	flags.SetOutput(io.Discard)
	flags.Usage = func() { usage(flags, stderr) }
	if err := flags.Parse(args); err != nil {
		if errors.Is(err, flag.ErrHelp) {
			return err
		}
		return usageError{err.Error()}
	}
	if flags.NArg() > 0 && flags.Name() != takesFile {
		return usageError{fmt.Sprintf("“%s” is not expected", flags.Arg(0))}
	}
	return nil
}

// usage lists a command's flags with what they take and what they are when left out.
func usage(flags *flag.FlagSet, w io.Writer) {
	fmt.Fprintf(w, "%s\n\n", flags.Name())
	flags.VisitAll(func(f *flag.Flag) {
		takes, says := flag.UnquoteUsage(f)
		if f.DefValue != "" && f.DefValue != "false" {
			says += " (" + f.DefValue + " when left out)"
		}
		fmt.Fprintf(w, "  --%-22s %s\n", strings.TrimSpace(f.Name+" "+takes), says)
	})
}
