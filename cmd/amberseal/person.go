package main

import (
	"bufio"
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"strings"

	"golang.org/x/term"

	"amberseal/app/access"
	"amberseal/app/people"
)

// readPassword reads a line, without showing it where a person types.
func readPassword(in *os.File) (string, error) {
	if term.IsTerminal(int(in.Fd())) {
		text, err := term.ReadPassword(int(in.Fd()))
		return string(text), err
	}
	text, err := bufio.NewReader(in).ReadString('\n')
	if text != "" {
		err = nil // the last line may have no end
	}
	return text, err
}

func addPerson(ctx context.Context, args []string, stdout, stderr io.Writer) error {
	flags := flag.NewFlagSet("amberseal person", flag.ContinueOnError)
	data := flags.String("data", "amberseal-data", "the `FOLDER` that holds everything")
	email := flags.String("email", "", "the person's email `ADDRESS`")
	name := flags.String("name", "", "the person's `NAME`")
	role := flags.String("role", string(access.Owner), "what the person is: `ROLE` owner, designer, staff, auditor or guest")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	if *email == "" || *name == "" {
		return usageError{"--email and --name are needed; see amberseal person --help"}
	}
	fmt.Fprint(stderr, "Password (at least 12 characters): ")
	password, err := readPassword(os.Stdin)
	if err != nil || password == "" {
		return errors.New("no password was given")
	}
	p, err := wire(ctx, *data, "", "", logger(stderr, false))
	if err != nil {
		return err
	}
	defer p.close()
	somebody := people.Person{Email: *email, Name: *name, Role: access.Role(*role)}
	if err := p.server.People.Add(ctx, somebody, strings.TrimRight(password, "\r\n")); err != nil {
		return err
	}
	fmt.Fprintf(stdout, "\n%s can sign in now.\n", *name)
	return nil
}
