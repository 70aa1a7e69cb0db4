package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"time"

	"amberseal/adapter/sqlite"
	"amberseal/app/safe"
)

// credentialName is the name of the key among systemd's credentials (systemd.exec, LoadCredential=).
const credentialName = "amberseal-key"

// keyFile is where the key of a house's secrets lies: where AMBERSEAL_KEY says, among systemd's credentials, or beside the data folder.
func keyFile(data string) (string, error) {
	if at := os.Getenv("AMBERSEAL_KEY"); at != "" {
		folder, err := filepath.Abs(data)
		if err != nil {
			return "", err
		}
		file, err := filepath.Abs(at)
		if err != nil {
			return "", err
		}
		if strings.HasPrefix(file, folder+string(filepath.Separator)) {
			return "", fmt.Errorf("the key %s lies in the data folder, where every backup would hold it; put it elsewhere", at)
		}
		return at, nil
	}
	if dir := os.Getenv("CREDENTIALS_DIRECTORY"); dir != "" {
		at := filepath.Join(dir, credentialName)
		if _, err := os.Stat(at); err == nil {
			return at, nil
		}
	}
	return strings.TrimRight(data, string(filepath.Separator)) + ".key", nil
}

// openSafe is the safe of a house, with its key where there is one.
func openSafe(data string, db *sqlite.DB) (*safe.Safe, error) {
	s := &safe.Safe{Store: db, Now: time.Now}
	at, err := keyFile(data)
	if err != nil {
		return nil, err
	}
	text, err := os.ReadFile(at)
	switch {
	case errors.Is(err, fs.ErrNotExist) && os.Getenv("AMBERSEAL_KEY") == "":
		s.Make = func() (safe.Key, error) { return makeKey(at) }
		return s, nil
	case err != nil:
		return nil, fmt.Errorf("the key of the house’s secrets cannot be read: %w", err)
	}
	key, err := safe.ReadKey(string(text))
	if err != nil {
		return nil, fmt.Errorf("%s: %w", at, err)
	}
	s.Key = &key
	return s, nil
}

// makeKey makes a key and keeps it in a file.
func makeKey(at string) (safe.Key, error) {
	key := safe.NewKey()
	if err := safely(at, []byte(key.Text())); err != nil {
		return key, fmt.Errorf("the key of the house’s secrets cannot be kept at %s: %w", at, err)
	}
	return key, nil
}

// sayLost tells which secrets must be entered again.
func sayLost(ctx context.Context, s *safe.Safe, w io.Writer) error {
	lost, err := s.Lost(ctx)
	if err == nil && len(lost) > 0 {
		fmt.Fprintf(
			w, "These secrets cannot be opened with the key at hand: %s. Bring their key, which is no part of a backup; or enter each "+
				"again on the House page, or with amberseal secret --set NAME.\n",
			strings.Join(lost, ", "),
		)
	}
	return err
}

// secrets lists, sets and removes the house's secrets, and makes a key for them.
func secrets(ctx context.Context, args []string, stdout, stderr io.Writer) error {
	flags := flag.NewFlagSet("amberseal secret", flag.ContinueOnError)
	data := flags.String("data", "amberseal-data", "the `FOLDER` that holds everything; its key lies beside it, or where "+
		"AMBERSEAL_KEY says")
	set := flags.String("set", "", "keep a secret under this `NAME`, read from the terminal; “mail” is the mail account’s password")
	remove := flags.String("remove", "", "forget the secret of this `NAME`")
	newKey := flags.Bool("new-key", false, "make a key where there is none yet")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	at, err := keyFile(*data)
	if err != nil {
		return err
	}
	if *newKey {
		if _, err := os.Stat(at); err == nil {
			return fmt.Errorf("there is a key at %s already; it is left as it is", at)
		}
		if _, err := makeKey(at); err != nil {
			return err
		}
		fmt.Fprintf(stdout, "The key lies at %s. Keep a copy of it apart from the backups of the house: without it its secrets "+
			"are lost.\n", at)
		return nil
	}
	p, err := wire(ctx, *data, "", "", logger(stderr, false))
	if err != nil {
		return err
	}
	defer p.close()
	p.safe.Make = nil // here somebody decides where the key lies
	switch {
	case *set != "":
		fmt.Fprintf(stderr, "The secret “%s”: ", *set)
		words, err := readPassword(os.Stdin)
		if words = strings.TrimRight(words, "\r\n"); err != nil || words == "" {
			return errors.New("no secret was given")
		}
		door, err := p.door(ctx, *set)
		if err != nil {
			return err
		}
		if err := p.safe.Put(ctx, *set, door, words); err != nil {
			return err
		}
		fmt.Fprintf(stdout, "\nThe secret “%s” is kept.\n", *set)
		return nil
	case *remove != "":
		if err := p.db.RemoveSecret(ctx, *remove); err != nil {
			return fmt.Errorf("“%s”: %w", *remove, err)
		}
		fmt.Fprintf(stdout, "The secret “%s” is forgotten.\n", *remove)
		return nil
	}
	all, err := p.db.Secrets(ctx)
	if err != nil {
		return err
	}
	for _, s := range all {
		fmt.Fprintf(stdout, "%s, of %s\n", s.Name, s.At.Format(time.DateOnly))
	}
	if len(all) == 0 {
		fmt.Fprintln(stdout, "The house keeps no secrets yet.")
	}
	return sayLost(ctx, p.safe, stdout)
}

// door is the server that a secret of a name is for: that of its account or destination. Other secrets, such as that of the account which
// the program is started with, are for none.
func (p *program) door(ctx context.Context, name string) (string, error) {
	kind, key, _ := strings.Cut(name, "/")
	switch kind {
	case "account", "inbox":
		a, err := p.db.Account(ctx, key)
		if err != nil {
			return "", fmt.Errorf("there is no mail account “%s”: %w", key, err)
		}
		if kind == "account" {
			return a.Door(), nil
		}
		if a.Inbox == nil {
			return "", fmt.Errorf("the mail account “%s” has no mailbox", key)
		}
		return a.Inbox.Door(), nil
	case "destination":
		d, err := p.db.Destination(ctx, key)
		if err != nil {
			return "", fmt.Errorf("there is no destination “%s”: %w", key, err)
		}
		return d.Door(), nil
	}
	return "", nil
}
