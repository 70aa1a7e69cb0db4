package sqlite_test

import (
	"cmp"
	"fmt"
	"maps"
	"math/rand/v2"
	"path"
	"slices"
	"strings"
	"testing"
	"time"

	"amberseal/app/access"
	"amberseal/app/register"
	"amberseal/app/work"
	"amberseal/core/enclosure"
	"amberseal/core/filing"
	"amberseal/core/intake"
	"amberseal/core/plan"
	"amberseal/core/words/phrase"
)

// lying is a file as it lies at a destination, of an intake.
type lying struct {
	destination, path string
	intake            int64
	at                time.Time
	amiss             bool
}

// Folder by folder all that lies at the destinations is seen once, and what lies in a folder is counted as a plain walk counts it: with
// names that begin alike, that are patterns elsewhere, in other scripts, and taken by a later file; and of a scope nothing but its own.
func TestFoldersHoldAllThatWasFiled(t *testing.T) {
	h := furnished(t)
	names := []string{"2026", "2026 more", "20_6", "a%b", "Größe", "日本", "a-b", "a.b", "a0", "a"}
	var paths []string
	for i := range 200 {
		var in []string
		for range rand.IntN(4) {
			in = append(in, names[rand.IntN(len(names))])
		}
		paths = append(paths, path.Join(append(in, fmt.Sprint(i, ".pdf"))...))
	}
	var all []lying
	for n := range 2 { // two intakes, some of whose files have the same names
		d := h.opened(t, func(d *intake.Design) {
			d.Name, d.Documents, d.Notices[0].Attach = fmt.Sprint("Book ", n), d.Documents[:1], nil
		})
		if _, err := h.counter.Submit(t.Context(), d.Slug, answers("Ann", "")); err != nil {
			t.Fatal(err)
		}
		j := h.claim(t, plan.Document)
		var left []register.Record
		for i, to := range paths {
			if rand.IntN(3) == 0 {
				continue
			}
			at := noon.Add(time.Duration(rand.IntN(1000)*1000+n*500+i) * time.Minute)
			x := lying{[]string{"share", "vault"}[i%2], to, int64(n + 1), at, false}
			all = append(all, x)
			left = append(left, &register.Filed{Destination: x.destination, Path: x.path, SHA256: "00", Size: 1, At: x.at})
		}
		if err := h.Fail(t.Context(), j, "There is no room.", left, noon); err != nil {
			t.Fatal(err)
		}
	}
	filed, err := h.Filed(t.Context(), access.Everywhere, register.FiledQuery{Limit: 1000})
	if err != nil || len(filed) != len(all) {
		t.Fatal(len(filed), err)
	}
	for _, f := range filed {
		if rand.IntN(5) > 0 {
			continue
		}
		if err := h.KeepStanding(t.Context(), f, "lost", "", noon); err != nil {
			t.Fatal(err)
		}
		for i := range all {
			all[i].amiss = all[i].amiss || all[i].at.Equal(f.At) // no two at the same time
		}
	}
	now := map[[2]string]time.Time{} // what lies under a name is what was filed last
	for _, x := range all {
		if at := now[[2]string{x.destination, x.path}]; x.at.After(at) {
			now[[2]string{x.destination, x.path}] = x.at
		}
	}
	for _, scope := range []access.Scope{access.Everywhere, {Intakes: []int64{2}}, {Intakes: []int64{1}}, {}} {
		var mine []lying
		for _, x := range all {
			if scope.All || slices.Contains(scope.Intakes, x.intake) {
				mine = append(mine, x)
			}
		}
		h.walk(t, scope, "", "", mine, now)
	}
}

// walk holds a folder, and those in it, against what lies there.
func (h house) walk(t *testing.T, scope access.Scope, destination, folder string, all []lying, now map[[2]string]time.Time) {
	t.Helper()
	type found struct {
		register.FiledFolder
		paths map[string]bool
	}
	want, here := map[string]*found{}, map[string]bool{}
	for _, x := range all {
		rest, inside := x.path, true
		if folder != "" {
			rest, inside = strings.CutPrefix(x.path, folder+"/")
		}
		name, deeper := x.destination, true
		if destination != "" {
			inside = inside && x.destination == destination
			name, _, deeper = strings.Cut(rest, "/")
		}
		latest := now[[2]string{x.destination, x.path}].Equal(x.at)
		switch {
		case !inside:
		case !deeper && latest:
			here[x.path] = true
		case deeper:
			f := want[name]
			if f == nil {
				f = &found{register.FiledFolder{Name: name}, map[string]bool{}}
				want[name] = f
			}
			f.paths[x.path] = true
			f.Files = len(f.paths)
			if x.amiss && latest {
				f.Amiss++
			}
		}
	}
	var got []register.FiledFolder
	for q := (register.FolderQuery{Destination: destination, Folder: folder, Limit: 3}); ; q.After = got[len(got)-1].Name {
		page, err := h.FiledFolders(t.Context(), scope, q)
		if err != nil {
			t.Fatal(err)
		}
		if got = append(got, page...); len(page) < q.Limit {
			break
		}
	}
	wanted := slices.SortedFunc(maps.Values(want), func(a, b *found) int { return cmp.Compare(a.Name+"/", b.Name+"/") })
	if !slices.EqualFunc(got, wanted, func(a register.FiledFolder, b *found) bool {
		return a.Name == b.Name && a.Files == b.Files && a.Amiss == b.Amiss
	}) {
		t.Errorf("%v: in %q of %q are %+v", scope, folder, destination, got)
		return
	}
	if destination != "" {
		files, err := h.Filed(t.Context(), scope, register.FiledQuery{Destination: destination, Folder: folder, Here: true, Limit: 1000})
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range files {
			if !here[f.Path] {
				t.Errorf("%v: in %q of %q lies %s, which does not, or twice", scope, folder, destination, f.Path)
			}
			delete(here, f.Path)
		}
		if len(here) > 0 {
			t.Errorf("%v: in %q of %q are not seen: %v", scope, folder, destination, here)
		}
	}
	for _, f := range got {
		if destination == "" {
			h.walk(t, scope, f.Name, "", all, now)
		} else {
			h.walk(t, scope, destination, path.Join(folder, f.Name), all, now)
		}
	}
}

// A register leads to what was filed of the present revision: to nothing while that is on its way, and never to what it replaced.
func TestARegisterLeadsToTheNewestRevision(t *testing.T) {
	h := furnished(t)
	d := h.opened(t, func(d *intake.Design) {
		d.Opening.Correct = true
		d.Documents, d.Notices = d.Documents[:1], nil
		d.Filings = []filing.Filing{{Key: "f", Name: "F", What: enclosure.Of(d.Documents[0].Key), To: []string{"cabinet", "records"},
			Path: phrase.Parse("{{@number}}")}}
	})
	link := func() string {
		t.Helper()
		all, err := h.FiledLinks(t.Context(), 1, 0, 99)
		if err != nil {
			t.Fatal(err)
		}
		return all[1]
	}
	file := func(addresses ...string) {
		t.Helper()
		j := h.claim(t, plan.Document)
		if _, err := h.Finish(t.Context(), j, document(j.Key, fmt.Sprint(addresses)), terms("")); err != nil {
			t.Fatal(err)
		}
		jobs, err := h.Claim(t.Context(), terms(plan.Filing))
		if err != nil || len(jobs) != 2 {
			t.Fatal(len(jobs), err)
		}
		for i, j := range jobs { // the cabinet's file has no address
			o := work.Outcome{Records: []register.Record{&register.Filed{Destination: d.Filings[0].To[i], Path: addresses[0] + ".pdf",
				Link: []string{"", addresses[0]}[i], At: noon}}}
			if _, err := h.Finish(t.Context(), j, o, terms("")); err != nil {
				t.Fatal(err)
			}
		}
	}
	r, err := h.counter.Submit(t.Context(), d.Slug, answers("Before", ""))
	if err != nil {
		t.Fatal(err)
	}
	file("https://files.example/1")
	if got := link(); got != "https://files.example/1" {
		t.Errorf("at first it leads to %q", got)
	}
	in := answers("After", "")
	in.Correct = r.Correct
	if _, err := h.counter.Submit(t.Context(), d.Slug, in); err != nil {
		t.Fatal(err)
	}
	if got := link(); got != "" {
		t.Errorf("while the correction is on its way it leads to %q", got)
	}
	file("https://files.example/2")
	if got := link(); got != "https://files.example/2" {
		t.Errorf("after the correction it leads to %q", got)
	}
}
