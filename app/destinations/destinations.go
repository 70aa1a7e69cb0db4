// Package destinations is the places where the house files: kept, tried, and opened for whoever files there.
package destinations

import (
	"bytes"
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"slices"
	"sync"
	"time"

	"amberseal/app/file"
	"amberseal/app/register"
	"amberseal/app/safe"
	"amberseal/app/work"
	"amberseal/core/destination"
	"amberseal/core/plan"
	"amberseal/core/words/finding"
)

// Store keeps destinations. Look-ups of nothing give register.NotFound.
type Store interface {
	Destinations(ctx context.Context) ([]destination.Destination, error)
	Destination(ctx context.Context, key string) (destination.Destination, error)
	SetDestination(ctx context.Context, d destination.Destination, now time.Time) error
	RemoveDestination(ctx context.Context, key, target string) error
	WaitingAt(ctx context.Context, target string) (waiting int, reason string, err error)
	Trial(ctx context.Context, target string) (register.Trial, error)
	KeepTrial(ctx context.Context, target string, t register.Trial) error
}

// Builder makes a place of settings and a password. first keeps the host key that is met first.
type Builder func(d destination.Destination, secret string, first func(hostKey string) error) (file.Place, error)

// Depot keeps the house's destinations and opens them. It is safe for many goroutines.
type Depot struct {
	Store   Store
	Safe    *safe.Safe
	Build   Builder
	Cabinet file.Place // that the house has by itself
	Now     func() time.Time
	Again   func(ctx context.Context, target string) error // tries at once what waits for a target

	mu   sync.Mutex
	open map[string]opened
}

type opened struct {
	d     destination.Destination
	place file.Place
}

// Line is a destination as lists show it.
type Line struct {
	destination.Destination
	Secret  bool   // one is kept
	Waiting int    // how much waits for it
	Reason  string // what keeps it, or empty
	Trial   register.Trial
}

// List gives all of the house, with what waits for each.
func (p *Depot) List(ctx context.Context) ([]Line, error) {
	all, err := p.Store.Destinations(ctx)
	if err != nil {
		return nil, err
	}
	all = append([]destination.Destination{{Key: destination.Cabinet, Name: "Cabinet", Kind: destination.Folder}}, all...)
	var out []Line
	for _, d := range all {
		l := Line{Destination: d}
		if l.Waiting, l.Reason, err = p.Store.WaitingAt(ctx, plan.At(d.Key)); err != nil {
			return nil, err
		}
		switch _, err := p.Safe.Store.Secret(ctx, d.SecretName()); {
		case err == nil:
			l.Secret = true
		case !errors.Is(err, register.NotFound):
			return nil, err
		}
		if l.Trial, err = p.Store.Trial(ctx, plan.At(d.Key)); err != nil {
			return nil, err
		}
		out = append(out, l)
	}
	return out, nil
}

// Set keeps a destination, with its password where one is given, or gives the findings that stand against it. What waits for it is tried
// again at once.
func (p *Depot) Set(ctx context.Context, d destination.Destination, secret *string) (finding.List, error) {
	if l := d.Check(); l.Faults() > 0 {
		return l, nil
	}
	if d.Key == destination.Cabinet {
		var l finding.List
		l.Fault("destination/key", "destination.cabinet-is-the-houses")
		return l, nil
	}
	before, err := p.Store.Destination(ctx, d.Key)
	if err != nil && !errors.Is(err, register.NotFound) {
		return nil, err
	}
	switch {
	case d.HostKey == destination.ForgetKey:
		d.HostKey = ""
	case d.HostKey == "" && !elsewhere(before, d): // who saves an older page forgets no key by that
		d.HostKey = before.HostKey
	}
	switch fits, err := p.Safe.Fits(ctx, d.SecretName(), d.Door()); {
	case err != nil && !errors.Is(err, register.NotFound):
		return nil, err
	case d.User == "":
		if err := p.forgetSecret(ctx, d.Key); err != nil {
			return nil, err
		}
	case secret != nil && *secret != "":
		if err := p.Safe.Put(ctx, d.SecretName(), d.Door(), *secret); err != nil {
			return nil, err
		}
	case err == nil && !fits:
		var l finding.List // a password is never handed to a server that it was not entered for
		l.Fault("destination/secret", "destination.password-for-another")
		return l, nil
	}
	if err := p.Store.SetDestination(ctx, d, p.Now()); err != nil {
		return nil, err
	}
	if before != d || secret != nil { // what was tried was something else
		if err := p.Store.KeepTrial(ctx, plan.At(d.Key), register.Trial{}); err != nil {
			return nil, err
		}
	}
	p.forget(d.Key)
	return nil, p.Again(ctx, plan.At(d.Key))
}

// elsewhere reports whether a destination is on another server now.
func elsewhere(before, now destination.Destination) bool {
	return before.Address != now.Address || before.Kind != now.Kind || before.HostKey != "" && now.HostKey != before.HostKey &&
		now.HostKey != "" && now.HostKey != destination.ForgetKey
}

// Remove forgets a destination and its password. What waits for it is given up when it is its turn.
func (p *Depot) Remove(ctx context.Context, key string) error {
	if err := p.Store.RemoveDestination(ctx, key, plan.At(key)); err != nil {
		return err
	}
	p.forget(key)
	return errors.Join(p.Store.KeepTrial(ctx, plan.At(key), register.Trial{}), p.forgetSecret(ctx, key))
}

func (p *Depot) forgetSecret(ctx context.Context, key string) error {
	err := p.Safe.Store.RemoveSecret(ctx, destination.Destination{Key: key}.SecretName())
	if errors.Is(err, register.NotFound) {
		return nil
	}
	return err
}

// Bind keeps passwords of a time before they were kept for one server for that of their destination.
func (p *Depot) Bind(ctx context.Context) error {
	all, err := p.Store.Destinations(ctx)
	for _, d := range all {
		if err == nil {
			err = p.Safe.Bind(ctx, d.SecretName(), d.Door())
		}
	}
	return err
}

func (p *Depot) forget(key string) {
	p.mu.Lock()
	defer p.mu.Unlock()
	if c, ok := p.open[key].place.(interface{ Close() }); ok {
		go c.Close() // somebody may be filing over it
	}
	delete(p.open, key)
}

// Place opens a destination, or gives the one that is open.
func (p *Depot) Place(ctx context.Context, key string) (file.Place, error) {
	if key == "" || key == destination.Cabinet {
		return p.Cabinet, nil
	}
	p.mu.Lock()
	defer p.mu.Unlock()
	if x, ok := p.open[key]; ok {
		return x.place, nil
	}
	d, err := p.Store.Destination(ctx, key)
	if err != nil {
		return nil, err
	}
	secret, err := p.Safe.Get(ctx, d.SecretName(), d.Door())
	switch {
	case safe.Shut(err):
		return nil, work.Again{Reason: "The password of “" + d.Name + "” cannot be opened: " + err.Error() + ".", Outage: true}
	case err != nil && !errors.Is(err, register.NotFound):
		return nil, err
	}
	place, err := p.Build(d, secret, func(hostKey string) error {
		was := d.Door()
		d.HostKey = hostKey
		ctx := context.WithoutCancel(ctx)
		if err := p.Store.SetDestination(ctx, d, p.Now()); err != nil {
			return err
		}
		return p.Safe.Move(ctx, d.SecretName(), was, d.Door())
	})
	if err != nil {
		return nil, work.Again{Reason: fmt.Sprintf("“%s” cannot be used as it is set: %v.", d.Name, err), Outage: true}
	}
	if p.open == nil {
		p.open = map[string]opened{}
	}
	p.open[key] = opened{d, place}
	return place, nil
}

// Step is a part of a trial.
type Step string

// The parts, in the order in which they are tried.
const (
	Write  Step = "write"
	Read   Step = "read"
	List   Step = "list"
	Delete Step = "delete"
)

// Result is how a part of a trial ended: the reason is empty where it went well.
type Result struct {
	Step   Step
	Reason string
}

// Try writes a small file to a destination, reads it, finds it in its list and takes it away again. It stops at the part that fails. When
// all went well, what waits is tried again at once.
func (p *Depot) Try(ctx context.Context, key string) ([]Result, error) {
	place, err := p.Place(ctx, key)
	if errors.Is(err, register.NotFound) {
		return nil, err
	}
	name := "amberseal-trial/" + rand.Text()[:12] + ".txt"
	text := []byte("Amber Seal tries whether it can file here. This file is taken away at once.\n")
	var out []Result
	for _, part := range []struct {
		step Step
		do   func() error
	}{
		{Write, func() error {
			if err != nil {
				return err
			}
			return place.Create(ctx, name, file.File{Data: text, Type: "text/plain"})
		}},
		{Read, func() error {
			have, err := place.Read(ctx, name, len(text))
			if err == nil && !bytes.Equal(have, text) {
				err = errors.New("it holds other bytes than were written")
			}
			return err
		}},
		{List, func() error {
			all, err := place.List(ctx, "amberseal-trial")
			if err == nil && !slices.ContainsFunc(all, func(e file.Entry) bool { return e.Path == name }) {
				err = errors.New("its list does not show what was written")
			}
			return err
		}},
		{Delete, func() error { return place.Remove(ctx, name) }},
	} {
		if err := part.do(); err != nil {
			if ctx.Err() != nil {
				return nil, ctx.Err()
			}
			failed := register.Trial{At: p.Now(), Part: string(part.step), Reason: sentence(err)}
			return append(out, Result{part.step, failed.Reason}), p.Store.KeepTrial(ctx, plan.At(key), failed)
		}
		out = append(out, Result{Step: part.step})
	}
	return out, errors.Join(p.Store.KeepTrial(ctx, plan.At(key), register.Trial{At: p.Now()}), p.Again(ctx, plan.At(key)))
}

func sentence(err error) string {
	s := err.Error()
	if s != "" && s[len(s)-1] != '.' {
		s += "."
	}
	return s
}
