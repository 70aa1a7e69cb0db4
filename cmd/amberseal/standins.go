package main

import (
	"context"
	"fmt"
	"net/http"
	"path/filepath"

	"amberseal/app/destinations"
	"amberseal/core/account"
	"amberseal/core/destination"
	"amberseal/core/plan"
	"amberseal/standin/bucket"
	"amberseal/standin/mailbox"
	"amberseal/standin/share"
	"amberseal/standin/sheet"
	"amberseal/standin/vault"
)

// standIns are the services outside that the demo brings along.
type standIns struct {
	box    *mailbox.Mailbox
	bucket *bucket.Bucket
	share  *share.Share
	vault  *vault.Vault
}

// openStandIns opens them with what a data folder holds of them.
func openStandIns(data, mail string) (s standIns, err error) {
	cannot := func(err error) error { return fmt.Errorf("the data folder cannot be used: %w", err) }
	if s.box, err = mailbox.Open(mail, filepath.Join(data, "mailbox")); err != nil {
		return s, cannot(err)
	}
	if err = s.box.Switch(true); err != nil {
		return s, err
	}
	const anyPort = "127.0.0.1:0"
	if s.bucket, err = bucket.Open(anyPort, filepath.Join(data, "bucket.db")); err != nil {
		return s, cannot(err)
	}
	if s.share, err = share.Open(anyPort, filepath.Join(data, "share")); err != nil {
		return s, cannot(err)
	}
	if s.vault, err = vault.Open(anyPort, filepath.Join(data, "vault")); err != nil {
		return s, cannot(err)
	}
	return s, nil
}

// returns makes the account that the program is started with read what comes back.
func (s standIns) returns(ctx context.Context, p *program) error {
	book := p.book
	// A house reads its mailboxes every two minutes; nobody waits so long for a demo.
	host, port, err := s.box.OpenReturns(func() {
		if err := p.db.Plan(ctx, plan.Subject{About: plan.House}, 0, plan.ReadReturns(p.now()), p.now()); err != nil && ctx.Err() == nil {
			p.log.Error("a look into the mailbox could not be planned", "error", err)
		}
		p.crew.Wake()
	})
	if err != nil {
		return err
	}
	book.Given.Returns = mailbox.Returns
	book.Given.Inbox = &account.Inbox{Host: host, Port: port, Protection: account.None, User: mailbox.ReturnsUser}
	book.GivenInbox = mailbox.ReturnsPassword
	return nil
}

// close turns them off.
func (s standIns) close() {
	if s.box != nil {
		s.box.Switch(false)
		s.box.CloseReturns()
	}
	if s.bucket != nil {
		s.bucket.Close()
	}
	if s.share != nil {
		s.share.Close()
	}
	if s.vault != nil {
		s.vault.Close()
	}
}

// pages serves theirs under /standin/.
func (s standIns) pages() http.Handler {
	mux := http.NewServeMux()
	sheet.Handle(mux)
	s.box.Handle(mux)
	s.bucket.Handle(mux)
	s.share.Handle(mux)
	s.vault.Handle(mux)
	return mux
}

// destinations are those of the demo house. Their ports are others at each start.
func (s standIns) destinations(ctx context.Context, depot *destinations.Depot) error {
	for _, x := range []struct {
		destination.Destination
		secret string
	}{
		{destination.Destination{
			Key: "records", Name: "Records bucket", Kind: destination.Bucket, Address: "http://" + s.bucket.Address(), Bucket: bucket.Name,
			Region: "eu-central-1", User: bucket.User,
		}, bucket.Secret},
		{destination.Destination{
			Key: "office", Name: "Office share", Kind: destination.Share, Address: "http://" + s.share.Address(), Folder: "Amber Seal",
			User: share.User,
		}, share.Password},
		{destination.Destination{
			Key: "vault", Name: "Bookkeeper’s vault", Kind: destination.Vault, Address: s.vault.Address(), Folder: "incoming",
			User: vault.User,
		}, vault.Password},
	} {
		if l, err := depot.Set(ctx, x.Destination, &x.secret); err != nil || l.Faults() > 0 {
			return fmt.Errorf("the demo’s destination %s: %v %w", x.Key, l, err)
		}
		if _, err := depot.Try(ctx, x.Key); err != nil {
			return fmt.Errorf("the demo’s destination %s: %w", x.Key, err)
		}
	}
	return nil
}
