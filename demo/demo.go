// Package demo is the demo house, Tarn Hollow Instrument Works: its intakes, answers and
// pictures, all made up.
package demo

import (
	"context"
	"embed"
	"encoding/json"
	"fmt"
	"io/fs"
	"path"
	"slices"
	"strings"
	"time"

	"amberseal/app/access"
	"amberseal/app/administer"
	"amberseal/app/people"
	"amberseal/app/receive"
	"amberseal/app/workshop"
	"amberseal/core/ask/form"
	"amberseal/core/foreign/ground"
	"amberseal/core/intake"
	"amberseal/core/print/paper"
	"amberseal/core/words/house"
)

//go:embed house.json intakes/*.json answers/*.json pictures/* files/*.docx files/*.pdf
var files embed.FS

// The demo's owner, shown at its door.
const (
	Email    = "owner@tarnhollow.example"
	Password = "amber-and-paper"
)

// Furnish sets up the house with its people and pictures. site is the address at which its pages are reached.
func Furnish(ctx context.Context, office *administer.Office, staff *people.People, site string) error {
	var h house.House
	if err := read("house.json", &h); err != nil {
		return err
	}
	h.Site = site
	pictures, err := fs.Glob(files, "pictures/*")
	if err != nil {
		return err
	}
	for _, p := range pictures {
		data, err := files.ReadFile(p)
		if err != nil {
			return err
		}
		if err := office.Store.AddPicture(ctx, path.Base(p), data, office.Now()); err != nil {
			return err
		}
	}
	notes, err := files.ReadFile("files/insurance-notice.pdf")
	if err != nil {
		return err
	}
	kept, err := office.AddFile(ctx, notes)
	if err != nil {
		return err
	}
	h.Files = []house.File{{Name: "Notes on insurance.pdf", File: kept}}
	if findings, err := office.SetHouse(ctx, h); err != nil || findings != nil {
		return fmt.Errorf("the demo's house: %v %w", findings, err)
	}
	for _, p := range []people.Person{
		{Email: Email, Name: "Ottoline Marsh", Role: access.Owner},
		{Email: "bram@tarnhollow.example", Name: "Bram Holt", Role: access.Designer},
		{Email: "ines@tarnhollow.example", Name: "Ines Quill", Role: access.Staff},
		{Email: "teodor@lunn.example", Name: "Teodor Lunn", Role: access.Auditor},
	} {
		if err := staff.Add(ctx, p, Password); err != nil {
			return err
		}
	}
	return nil
}

// Fill makes and opens the demo's intakes and hands in its submissions, received over the
// last three weeks, the oldest first.
func Fill(ctx context.Context, workshop *workshop.Workshop, staff *people.People, counter *receive.Counter) error {
	names, err := bring(ctx, workshop)
	if err != nil {
		return err
	}
	intakes, err := designs()
	if err != nil {
		return err
	}
	guest := people.Person{Email: "wren@alder.example", Name: "Wren Alder", Role: access.Guest, Intakes: map[int64]access.Role{}}
	for _, x := range intakes {
		for i := range x.Documents {
			if file := x.Documents[i].File; file != "" {
				x.Documents[i].File = names[file]
			}
			if p := x.Documents[i].Page.Printed; p != nil {
				p.First, p.Rest = names[p.First], names[p.Rest]
			}
		}
		made, err := workshop.Add(ctx, x)
		if err != nil {
			return err
		}
		if _, err := workshop.Open(ctx, made.ID); err != nil {
			return fmt.Errorf("%s: %w", x.Slug, err)
		}
		if x.Slug == "practice-room" {
			guest.Intakes[made.ID] = access.Staff
		}
	}
	if _, err := staff.Invite(ctx, guest); err != nil {
		return err
	}
	past := &receive.Counter{Store: counter.Store, Secret: counter.Secret, Now: counter.Now, Arrived: counter.Arrived}
	return submit(ctx, past)
}

// bring keeps the documents that the house has already, and gives the names by which designs speak of them.
func bring(ctx context.Context, workshop *workshop.Workshop) (map[string]string, error) {
	brought, err := fs.Glob(files, "files/*")
	if err != nil {
		return nil, err
	}
	names := map[string]string{}
	for _, file := range brought {
		data, err := files.ReadFile(file)
		if err != nil {
			return nil, err
		}
		if names[path.Base(file)], err = workshop.AddBrought(ctx, path.Base(file), data); err != nil {
			return nil, fmt.Errorf("%s: %w", file, err)
		}
	}
	return names, nil
}

// Examples are the demo's intakes, to begin with. What they make of files of the demo house is left out: another house has none of them.
func Examples() ([]intake.Design, error) {
	all, err := designs()
	for i := range all {
		all[i] = all[i].WithoutFiles()
	}
	return all, err
}

func designs() ([]intake.Design, error) {
	names, err := fs.Glob(files, "intakes/*.json")
	if err != nil {
		return nil, err
	}
	out := make([]intake.Design, len(names))
	for i, name := range names {
		data, err := files.ReadFile(name)
		if err != nil {
			return nil, err
		}
		if out[i], err = intake.Read(data); err != nil {
			return nil, fmt.Errorf("%s: %w", name, err)
		}
	}
	return out, nil
}

// Pictures finds what the demo's documents print: its pictures, and the files that some are made of.
func Pictures(name string) ([]byte, error) {
	if file, ok := paper.GroundName(name); ok {
		data, err := files.ReadFile("files/" + file)
		if err != nil {
			return nil, err
		}
		return ground.Keep(data)
	}
	if file, ok := paper.BroughtName(name); ok {
		return files.ReadFile("files/" + file)
	}
	return files.ReadFile("pictures/" + name)
}

// languages are those in which some of the answers were given, where that is not the house's.
var languages = map[string]string{"practice-room.json": "de"}

func submit(ctx context.Context, counter *receive.Counter) error {
	answers, err := fs.Glob(files, "answers/*.json")
	if err != nil {
		return err
	}
	// The order of a register: intakes mixed, as they come in.
	slices.SortStableFunc(answers, func(a, b string) int { return strings.Compare(mixed(a), mixed(b)) })
	end := counter.Now()
	for i, f := range answers {
		var raw form.Raw
		if err := read(f, &raw); err != nil {
			return err
		}
		before := time.Duration(len(answers)-i) * 16 * time.Hour
		at := end.Add(-before + time.Duration(i*37%240)*time.Minute)
		counter.Now = func() time.Time { return at }
		slug := strings.TrimRight(strings.TrimSuffix(path.Base(f), ".json"), "-0123456789")
		page := receive.Page{Language: languages[path.Base(f)]}
		if _, err := counter.Submit(ctx, slug, receive.Sending{Page: page, Answers: raw}); err != nil {
			return fmt.Errorf("%s: %w", f, err)
		}
	}
	return nil
}

func mixed(file string) string {
	stem := strings.TrimSuffix(path.Base(file), ".json")
	return stem[len(strings.TrimRight(stem, "0123456789")):] + stem
}

func read(name string, into any) error {
	data, err := files.ReadFile(name)
	if err != nil {
		return err
	}
	if err := json.Unmarshal(data, into); err != nil {
		return fmt.Errorf("%s: %w", name, err)
	}
	return nil
}
