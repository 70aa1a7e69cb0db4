package destinations_test

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"amberseal/adapter/folder"
	"amberseal/adapter/sqlite"
	"amberseal/adapter/vault"
	"amberseal/app/destinations"
	"amberseal/app/file"
	"amberseal/app/register"
	"amberseal/app/safe"
	"amberseal/app/work"
	"amberseal/core/destination"
	standin "amberseal/standin/vault"
)

// A vault's key is kept when it is first met; another one stops everything there, also for who saves an older page, until somebody takes it
// on purpose. A password is handed to no other server than its own, and lies nowhere in the clear.
func TestHostKeysAndPasswords(t *testing.T) {
	ctx, dir := t.Context(), t.TempDir()
	db, err := sqlite.Open(ctx, filepath.Join(dir, "house.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	s, err := standin.Open("127.0.0.1:0", filepath.Join(dir, "stock"))
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	cabinet, err := folder.Open(filepath.Join(dir, "cabinet"), "mark", false)
	if err != nil {
		t.Fatal(err)
	}
	key := safe.NewKey()
	depot := &destinations.Depot{
		Store: db, Safe: &safe.Safe{Store: db, Key: &key, Now: time.Now}, Cabinet: cabinet, Now: time.Now,
		Build: func(d destination.Destination, secret string, first func(string) error) (file.Place, error) {
			return vault.Open(d, secret, first)
		},
		Again: func(context.Context, string) error { return nil },
	}
	d := destination.Destination{Key: "vault", Name: "Vault", Kind: destination.Vault, Address: s.Address(), User: standin.User}
	secret := standin.Password
	set := func(d destination.Destination, secret *string) string {
		t.Helper()
		l, err := depot.Set(ctx, d, secret)
		if err != nil {
			t.Fatal(err)
		}
		var codes []string
		for _, f := range l {
			codes = append(codes, f.Code)
		}
		return strings.Join(codes, " ")
	}
	last := func() destinations.Result {
		t.Helper()
		all, err := depot.Try(ctx, "vault")
		if err != nil {
			t.Fatal(err)
		}
		return all[len(all)-1]
	}
	if codes := set(d, &secret); codes != "" {
		t.Fatal(codes)
	}
	if r := last(); r.Step != destinations.Delete || r.Reason != "" {
		t.Fatalf("a trial ends with %+v", r)
	}
	met, err := db.Destination(ctx, "vault")
	if err != nil || !strings.HasPrefix(met.HostKey, "ssh-ed25519 ") {
		t.Fatalf("known is %+v %v", met, err)
	}
	if err := s.NewHostKey(); err != nil {
		t.Fatal(err)
	}
	place, err := depot.Place(ctx, "vault")
	if err != nil {
		t.Fatal(err)
	}
	var again work.Again
	if _, err := file.Put(ctx, place, "a.pdf", file.File{Data: []byte("x")}, ""); !errors.As(err, &again) || !again.Outage ||
		!strings.Contains(again.Reason, destination.Fingerprint(met.HostKey)) {
		t.Errorf("with another key: %v", err)
	}
	d.Name = "Saved from an older page"
	if codes := set(d, nil); codes != "" {
		t.Fatal(codes)
	}
	if r := last(); r.Step != destinations.Write || !strings.Contains(r.Reason, "another host key") {
		t.Errorf("saved from an older page: %+v", r)
	}
	d.HostKey = destination.ForgetKey
	if codes := set(d, nil); codes != "destination.password-for-another" {
		t.Errorf("for a key that was never seen: %q", codes)
	}
	set(d, &secret)
	if r := last(); r.Reason != "" {
		t.Errorf("taken on purpose: %+v", r)
	}
	d.Address, d.HostKey = "elsewhere.example:22", ""
	if codes := set(d, nil); codes != "destination.password-for-another" {
		t.Errorf("for another server: %q", codes)
	}
	share := destination.Destination{Key: "share", Name: "Share", Kind: destination.Share, Address: "https://share.example/", User: "u"}
	set(share, &secret)
	share.User = "" // two steps lead to another server no more than one does
	if codes := set(share, nil); codes != "" {
		t.Fatal(codes)
	}
	share.User, share.Address = "u", "https://evil.example/"
	set(share, nil)
	if _, err := depot.Safe.Store.Secret(ctx, share.SecretName()); !errors.Is(err, register.NotFound) {
		t.Errorf("a password that nobody signs in with is still kept: %v", err)
	}
	for _, name := range []string{"house.db", "house.db-wal"} {
		if data, err := os.ReadFile(filepath.Join(dir, name)); err == nil && strings.Contains(string(data), secret) {
			t.Errorf("%s has the password in the clear", name)
		}
	}
	if err := depot.Remove(ctx, "vault"); err != nil {
		t.Fatal(err)
	}
	if _, err := depot.Place(ctx, "vault"); !errors.Is(err, register.NotFound) {
		t.Errorf("removed: %v", err)
	}
	if kept, err := db.Secrets(ctx); err != nil || len(kept) > 0 {
		t.Errorf("secrets left are %v %v", kept, err)
	}
}
