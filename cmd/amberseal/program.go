package main

import (
	"context"
	"crypto/rand"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"os"
	"path/filepath"
	"runtime/debug"
	"strings"
	"syscall"
	"time"

	"amberseal/adapter/bucket"
	"amberseal/adapter/folder"
	"amberseal/adapter/imap"
	"amberseal/adapter/share"
	"amberseal/adapter/smtp"
	"amberseal/adapter/sqlite"
	"amberseal/adapter/vault"
	"amberseal/app/accounts"
	"amberseal/app/administer"
	"amberseal/app/bounces"
	"amberseal/app/destinations"
	"amberseal/app/dossier"
	"amberseal/app/file"
	"amberseal/app/handing"
	"amberseal/app/invite"
	"amberseal/app/notify"
	"amberseal/app/people"
	"amberseal/app/produce"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/app/remind"
	"amberseal/app/rest"
	"amberseal/app/safe"
	"amberseal/app/sheets"
	"amberseal/app/sweep"
	"amberseal/app/upload"
	"amberseal/app/watch"
	"amberseal/app/work"
	"amberseal/app/workshop"
	"amberseal/core/account"
	"amberseal/core/destination"
	"amberseal/core/link"
	"amberseal/core/plan"
	"amberseal/demo"
	"amberseal/ui"
	"amberseal/web"
)

// program is the parts of a running house.
type program struct {
	now     func() time.Time
	data    string
	lock    *os.File
	secret  link.Secret
	db      *sqlite.DB
	safe    *safe.Safe
	cabinet *folder.Folder
	book    *accounts.Book
	crew    *work.Crew
	server  *web.Server
	log     *slog.Logger
}

// The collector runs when the heap has grown almost fourfold, and ever more often towards half a gigabyte: making a document
// leaves much behind and keeps little, so that a house with memory to spare saves a tenth of its processor.
const (
	heapGrowth = 280 // per cent
	heapLimit  = 512 << 20
)

// easeCollector leaves to GOGC and GOMEMLIMIT what they say.
func easeCollector() {
	if os.Getenv("GOGC") == "" {
		debug.SetGCPercent(heapGrowth)
	}
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(heapLimit)
	}
}

// wire opens a data folder and joins the parts. No mail account means that notices wait.
func wire(ctx context.Context, data, cabinet, mailAccount string, log *slog.Logger) (*program, error) {
	return wireBy(ctx, time.Now, data, cabinet, mailAccount, log)
}

// wireBy does so by a clock.
func wireBy(ctx context.Context, now func() time.Time, data, cabinet, mailAccount string, log *slog.Logger) (*program, error) {
	syscall.Umask(0o077) // nothing we make is for other users of the machine
	if err := dataFolder(data); err != nil {
		return nil, err
	}
	for _, name := range []string{databaseFile, databaseFile + "-wal", databaseFile + "-shm"} {
		if err := os.Chmod(filepath.Join(data, name), 0o600); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return nil, fmt.Errorf("%s cannot be closed to others: %w", filepath.Join(data, name), err)
		}
	}
	lock, err := lockFolder(data)
	if err != nil {
		return nil, err
	}
	if err := tidy(os.TempDir(), now()); err != nil {
		log.Warn("what an earlier run left could not be taken away", "error", err)
	}
	// A core would hold answers and passwords.
	if err := syscall.Setrlimit(syscall.RLIMIT_CORE, &syscall.Rlimit{}); err != nil {
		log.Warn("the system may keep the program's memory when it crashes", "error", err)
	}
	p := &program{data: data, lock: lock, log: log, now: now}
	if err := p.join(ctx, cabinet, mailAccount); err != nil {
		p.close()
		return nil, err
	}
	return p, nil
}

func (p *program) join(ctx context.Context, cabinet, mailAccount string) (err error) {
	if p.secret, err = houseSecret(p.data); err != nil {
		return err
	}
	if p.db, err = sqlite.OpenSaying(ctx, filepath.Join(p.data, databaseFile), p.upgrading); err != nil {
		return err
	}
	if p.cabinet, err = p.openCabinet(cabinet); err != nil {
		return err
	}
	if p.safe, err = openSafe(p.data, p.db); err != nil {
		return err
	}
	if err := p.openBook(ctx, mailAccount); err != nil {
		return err
	}
	depot := &destinations.Depot{Store: p.db, Safe: p.safe, Build: p.openPlace, Cabinet: p.cabinet, Now: p.now}
	hub := &watch.Hub{}
	resting := &rest.Rest{Store: p.db, Now: p.now}
	if err := resting.Load(ctx); err != nil {
		return err
	}
	counter := &receive.Counter{Store: p.db, Secret: p.secret, Now: p.now, Resting: resting.Resting}
	names := func(ctx context.Context, id int64) (name, slug string, err error) {
		i, err := p.db.Intake(ctx, id)
		return i.Design.Name, i.Address, err
	}
	files, aside := shelf{p.db}, apart(filepath.Join(p.data, "libreoffice"))
	dossiers := &dossier.Opener{Store: p.db, Secret: p.secret}
	registers := &sheets.Keeper{Records: p.db, Places: depot, Now: p.now}
	inventory := &file.Inventory{Store: p.db, Places: depot, Now: p.now}
	taker := &bounces.Taker{Store: p.db, Secret: p.secret, Now: p.now}
	p.crew = &work.Crew{
		Store: p.db, Now: p.now, Changed: hub.Changed, Log: p.log, Resting: resting.Resting,
		Hands: map[plan.Kind]work.Hand{
			plan.Document:   produce.Hand(dossiers, files, p.now, counter.Busy, aside),
			plan.Notice:     notify.Hand(dossiers, p.book, p.db, p.now),
			plan.Filing:     registers.Hand(file.Hand(dossiers, depot, p.now)),
			plan.Invitation: invite.Hand(p.db, p.secret, p.book, names, p.now),
			plan.Reminder:   remind.Hand(p.db, p.secret, p.book, names, p.now),
			plan.Welcoming:  people.Hand(p.db, p.secret, p.book, p.now),
			plan.Inventory:  inventory.Hand(),
			plan.Returns:    taker.Hand(p.book, p.db),
			plan.Sweep:      sweep.Hand(p.db, p.now),
		},
		Slots: map[string]int{plan.Press: 3, plan.Mail: mailConnections, plan.Cabinet: 4},
	}
	depot.Again, p.book.Again = p.crew.Again, p.crew.Again
	resting.Woken = func() {
		p.crew.Wake()
		hub.Changed()
	}
	if err := errors.Join(p.book.Bind(ctx), depot.Bind(ctx)); err != nil {
		return err
	}
	h, err := p.db.House(ctx)
	if err != nil {
		return err
	}
	night := plan.Night(p.now(), h.Location())
	if err := p.db.Plan(ctx, plan.Subject{About: plan.House}, 0, plan.Housekeeping(night), p.now()); err != nil {
		return err
	}
	counter.Arrived = func() {
		p.crew.Wake()
		hub.Changed()
	}
	examples, err := demo.Examples()
	if err != nil {
		return err
	}
	uploads := &upload.Taker{Store: p.db, Now: p.now, Unpack: unpack}
	p.server = &web.Server{
		Office:       &administer.Office{Store: p.db, Pictures: uploads, Now: p.now, Wake: p.crew.Wake},
		People:       &people.People{Store: p.db, Secret: p.secret, Now: p.now, Wake: p.crew.Wake},
		Workshop:     &workshop.Workshop{Store: p.db, Take: take, Now: p.now},
		Destinations: depot, Accounts: p.book,
		Rest: resting, Bounces: taker, Looks: p.db, Source: smtp.Source,
		Inventory: inventory, Post: &notify.Desk{
			Store: p.db, Now: p.now, Wake: p.crew.Wake, Posts: p.book, Secret: p.secret,
		},
		Hatch:   &handing.Hatch{Store: p.db, Dossiers: dossiers, Secret: p.secret, Now: p.now},
		Counter: counter, Uploads: uploads,
		Invitations: &invite.Inviter{Store: p.db, Now: p.now, Wake: p.crew.Wake}, Shelf: files, Copies: readCopy, Apart: aside,
		Examples: examples,
		Records:  p.db, Secret: p.secret, Sessions: sqlite.Sessions{DB: p.db}, Hub: hub, Wake: p.crew.Wake, Now: p.now, Log: p.log,
		Pages: ui.Pages(),
	}
	return nil
}

// shelf is the database with PDFs as they were taken apart.
type shelf struct{ *sqlite.DB }

func (s shelf) Ground(ctx context.Context, name string) ([]byte, error) {
	return produce.Ground(ctx, s.DB, take, name)
}

// upgrading tells who starts a newer program on a full house why it takes a while.
func (p *program) upgrading(from, to int64) {
	p.log.Info("the database is brought up to this program; with many submissions this takes some seconds", "from", from, "to", to)
}

// mailSecret names the password of a mail account that does not say its own.
const mailSecret = "mail"

// openBook opens the house's mail accounts, with the one that the program is started with where there is one.
func (p *program) openBook(ctx context.Context, mailAccount string) error {
	p.book = &accounts.Book{Store: p.db, Safe: p.safe, Secret: p.secret, Now: p.now, Build: openAccount, BuildInbox: openInbox}
	if mailAccount == "" {
		return nil
	}
	given, err := smtp.ParseAccount(mailAccount)
	if err != nil {
		return usageError{err.Error()}
	}
	given.Key, given.Name, given.Rule = accounts.Given, given.Host, true
	p.book.Given, p.book.GivenSecret = &given.Account, given.Password
	if given.User != "" && given.Password == "" {
		if err := p.safe.Bind(ctx, mailSecret, given.Door()); err != nil {
			return err
		}
		switch p.book.GivenSecret, err = p.safe.Get(ctx, mailSecret, given.Door()); {
		case safe.Shut(err):
			p.log.Warn("the mail account cannot be used", "error", err)
			p.book.Build = func(account.Account, string, accounts.Signing) (accounts.Post, error) { return nil, err }
		case err != nil && !errors.Is(err, register.NotFound):
			return err
		}
	}
	return nil
}

// openAccount opens a mail account.
func openAccount(a account.Account, secret string, s accounts.Signing) (accounts.Post, error) {
	return smtp.New(smtp.Account{Account: a, Password: secret, Signing: s}, mailConnections)
}

func openInbox(of account.Inbox, secret string) bounces.Inbox { return imap.Open(of, secret) }

// openPlace opens a destination. None lies in the data folder, nor around it: there a file of somebody's could take another's name.
func (p *program) openPlace(d destination.Destination, secret string, first func(hostKey string) error) (file.Place, error) {
	switch d.Kind {
	case destination.Folder:
		data, err := filepath.Abs(p.data)
		if err != nil {
			return nil, err
		}
		if inside(data, d.Folder) || inside(d.Folder, data) {
			return nil, errors.New("the house’s own data lies there; choose another folder")
		}
		return folder.At(d)
	case destination.Bucket:
		return bucket.Open(d, secret)
	case destination.Share:
		return share.Open(d, secret)
	case destination.Vault:
		return vault.Open(d, secret, first)
	}
	return nil, fmt.Errorf("there is no kind of destination “%s”", d.Kind)
}

// inside reports whether a folder is another one, or lies in it.
func inside(folder, of string) bool {
	rel, err := filepath.Rel(of, folder)
	return err == nil && rel != ".." && !strings.HasPrefix(rel, ".."+string(filepath.Separator))
}

// openCabinet opens the folder documents are filed in: the one in the data folder where none is named. A cabinet carries a mark of
// this house, and the data folder notes that there is one.
func (p *program) openCabinet(dir string) (*folder.Folder, error) {
	if dir == "" {
		dir = filepath.Join(p.data, cabinetFolder)
	}
	note := filepath.Join(p.data, cabinetNote)
	mark := hex.EncodeToString(p.secret.Sum("cabinet")[:12])
	noted, err := os.ReadFile(note)
	f, err2 := folder.Open(dir, mark, err == nil && strings.TrimSpace(string(noted)) == mark)
	if err2 != nil || err == nil {
		return f, err2
	}
	return f, os.WriteFile(note, []byte(mark+"\n"), 0o600)
}

// Names inside the data folder.
const (
	databaseFile  = "amberseal.db"
	cabinetFolder = "cabinet"
	secretFile    = "secret"
	cabinetNote   = "cabinet-mark"
)

// houseSecret reads the secret on which personal links and check codes hang, or makes one for a new house. It lies beside the
// database, so that a copy of that alone opens nothing.
func houseSecret(data string) (link.Secret, error) {
	name := filepath.Join(data, secretFile)
	text, err := os.ReadFile(name)
	if err == nil {
		secret, err := base64.RawStdEncoding.DecodeString(strings.TrimSpace(string(text)))
		if err != nil || len(secret) != 32 {
			return nil, fmt.Errorf("%s is damaged; take it from a backup, or all personal links and check codes are lost", name)
		}
		return secret, nil
	}
	if !errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("the house’s secret cannot be read: %w", err)
	}
	secret := make([]byte, 32)
	rand.Read(secret) // never fails
	if err := safely(name, []byte(base64.RawStdEncoding.EncodeToString(secret)+"\n")); err != nil {
		return nil, fmt.Errorf("the house’s secret cannot be kept: %w", err)
	}
	return secret, nil
}

// safely writes a file that is there whole or not at all, for its owner only.
func safely(name string, data []byte) error {
	f, err := os.CreateTemp(filepath.Dir(name), ".part-")
	if err != nil {
		return err
	}
	_, err = f.Write(data)
	err = errors.Join(err, f.Sync(), f.Close())
	if err == nil {
		err = os.Rename(f.Name(), name)
	}
	if err != nil {
		os.Remove(f.Name())
	}
	return err
}

const mailConnections = 4

// dataFolder makes the folder, for its owner only. One that is there is closed to others too, when it is
// empty or ours: the folder of somebody else's things is left as it is.
func dataFolder(data string) error {
	if err := os.MkdirAll(data, 0o700); err != nil {
		return fmt.Errorf("the data folder could not be made: %w", err)
	}
	inside, err := os.ReadDir(data)
	if err != nil {
		return fmt.Errorf("the data folder %s cannot be read: %w", data, err)
	}
	if _, err := os.Stat(filepath.Join(data, "amberseal.db")); err != nil && len(inside) > 0 {
		return nil
	}
	if err := os.Chmod(data, 0o700); err != nil {
		return fmt.Errorf("the data folder %s cannot be closed to others: %w", data, err)
	}
	return nil
}

// lockFolder makes sure that one program works in a folder at a time.
func lockFolder(data string) (*os.File, error) {
	f, err := os.OpenFile(filepath.Join(data, "lock"), os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		if errors.Is(err, fs.ErrPermission) {
			return nil, fmt.Errorf("the data folder %s cannot be written; choose another with --data or change its owner", data)
		}
		return nil, fmt.Errorf("the data folder %s cannot be used: %w", data, err)
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		f.Close()
		return nil, fmt.Errorf("another amberseal is using the data folder %s; stop it or choose another with --data", data)
	}
	return f, nil
}

func (p *program) close() error {
	var errs []error
	if p.book != nil {
		p.book.Close()
	}
	if p.db != nil {
		errs = append(errs, p.db.Close())
	}
	return errors.Join(append(errs, p.lock.Close())...)
}
