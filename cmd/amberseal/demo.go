package main

import (
	"context"
	"flag"
	"fmt"
	"io"
	"os"
	"path/filepath"

	"amberseal/app/people"
	"amberseal/demo"
	"amberseal/web/api"
)

func runDemo(ctx context.Context, args []string, stdout, stderr io.Writer) error {
	flags := flag.NewFlagSet("amberseal demo", flag.ContinueOnError)
	address := flags.String("listen", "127.0.0.1:8080", "the `ADDRESS` to answer at")
	data := flags.String("data", "", "the `FOLDER` to keep the demo in; a new one, removed at the end, when left out")
	mail := flags.String("mail-listen", "127.0.0.1:0", "the `ADDRESS` of the stand-in mail server")
	empty := flags.Bool("empty", false, "begin with an empty house")
	verbose := flags.Bool("verbose", false, "log every request")
	if err := parse(flags, args, stderr); err != nil {
		return err
	}
	l, err := listen(*address)
	if err != nil {
		return err
	}
	defer l.Close()
	if *data == "" {
		dir, err := os.MkdirTemp("", "amberseal-demo-")
		if err != nil {
			return err
		}
		defer os.RemoveAll(dir)
		defer os.Remove(dir + ".key")
		*data = dir
	}
	if err := dataFolder(*data); err != nil {
		return err
	}
	outside, err := openStandIns(*data, *mail)
	defer outside.close()
	if err != nil {
		return err
	}
	p, err := wire(ctx, *data, "", "smtp+plain://"+outside.box.Address(), logger(stderr, *verbose))
	if err != nil {
		return err
	}
	defer p.close()
	if err := outside.returns(ctx, p); err != nil {
		return err
	}
	if err := outside.destinations(ctx, p.server.Destinations); err != nil {
		return err
	}
	if err := furnish(ctx, p, "http://"+l.Addr().String(), *empty); err != nil {
		return err
	}
	p.server.StandIns = outside.pages()
	p.server.Demo = &api.Credentials{Email: demo.Email, Password: demo.Password}
	fmt.Fprintf(
		stdout,
		"Amber Seal's demo house answers at http://%s\nSign in as %s with the password %s\nIts mail ends at http://%s/standin/mailbox; "+
			"it files to %s and to stand-ins for a bucket, a share and a vault, at /standin/bucket, /standin/share and "+
			"/standin/vault\nStop it with Ctrl+C.\n",
		l.Addr(),
		demo.Email,
		demo.Password,
		l.Addr(),
		filepath.Join(*data, "cabinet"),
	)
	return p.serveUntilDone(ctx, l)
}

// furnish fills a demo that is not yet there.
func furnish(ctx context.Context, p *program, site string, empty bool) error {
	staff, err := p.db.People(ctx, people.Person{}, 1)
	if err != nil || len(staff) > 0 {
		return err
	}
	if err := demo.Furnish(ctx, p.server.Office, p.server.People, site); err != nil {
		return err
	}
	if empty {
		return nil
	}
	return demo.Fill(ctx, p.server.Workshop, p.server.People, p.server.Counter)
}
