package intake

import (
	"bytes"
	"embed"
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"amberseal/core/ask/form"
	"amberseal/core/print/paper"
)

// upgrades carry a design of a version of the format over to the next; the first is that of version 1. Each works on plain JSON, which
// was held against the shape of its version before, and knows nothing of later ones.
var upgrades = []func(design map[string]any){toSettingsUnderKinds}

// upgrade carries a design over to the present version.
func upgrade(data []byte, version int) ([]byte, error) {
	if version == Version {
		return data, nil
	}
	dec := json.NewDecoder(bytes.NewReader(data))
	dec.UseNumber() // figures stay as they were written
	var design map[string]any
	if err := dec.Decode(&design); err != nil {
		return nil, err
	}
	for ; version < Version; version++ {
		upgrades[version-1](design)
		design["amberseal"] = version + 1
	}
	return json.Marshal(design)
}

// toSettingsUnderKinds makes version 2 of version 1: settings of fields and blocks stand under the name of their kind, and those that
// the kind never had are left out; “default” and “missing” say which of their meanings they have; what is attached and filed are lists
// of enclosures.
func toSettingsUnderKinds(design map[string]any) {
	if form, ok := design["form"].(map[string]any); ok {
		upgradeFields(form["fields"])
	}
	each(design["documents"], func(d map[string]any) { upgradeBlocks(d["blocks"]) })
	each(design["notices"], func(n map[string]any) { n["attach"] = enclosures(n["attach"]) })
	each(design["filings"], func(f map[string]any) {
		f["what"] = enclosures([]any{f["document"]})
		delete(f, "document")
	})
}

// each visits the objects of a list.
func each(list any, visit func(map[string]any)) {
	all, _ := list.([]any)
	for _, x := range all {
		if object, ok := x.(map[string]any); ok {
			visit(object)
		}
	}
}

func enclosures(documents any) []any {
	out := []any{}
	keys, _ := documents.([]any)
	for _, key := range keys {
		out = append(out, map[string]any{"document": key})
	}
	return out
}

func upgradeFields(list any) {
	each(list, func(f map[string]any) {
		kind, _ := f["kind"].(string)
		if kind == "" {
			kind = string(form.ShortText)
			f["kind"] = kind
		}
		upgradeFields(f["fields"])
		if value, ok := f["default"].(string); ok {
			f["default"] = upgradeDefault(value)
		}
		own := []string{"key", "kind", "label", "help", "required", "when", "requiredWhen", "formula", "default", "unique", "message",
			"width"}
		under(f, kind, own, form.Kind(kind).Has)
	})
}

func upgradeDefault(value string) map[string]any {
	if !strings.HasPrefix(value, "@") {
		return map[string]any{"value": value}
	}
	from, name, ok := strings.Cut(value[1:], ":")
	if ok {
		return map[string]any{"from": from, "name": name}
	}
	return map[string]any{"from": from}
}

func upgradeBlocks(list any) {
	each(list, func(b map[string]any) {
		kind, _ := b["kind"].(string)
		upgradeBlocks(b["blocks"])
		each(b["sides"], func(s map[string]any) { upgradeBlocks(s["blocks"]) })
		switch missing, _ := b["missing"].(string); missing {
		case "":
			delete(b, "missing")
		case string(paper.LeaveSpace), string(paper.LeaveNothing):
			b["missing"] = map[string]any{"leave": missing}
		default:
			b["missing"] = map[string]any{"words": missing}
		}
		for was, is := range map[string]string{"code": "symbology", "chart": "series"} {
			if value, ok := b[was]; ok {
				delete(b, was)
				b[is] = value
			}
		}
		under(b, kind, []string{"id", "kind", "when", "each"}, paper.BlockKind(kind).Has)
	})
}

// under puts all members but those of every kind under the name of the kind, as far as it has them.
func under(object map[string]any, kind string, common []string, has func(name string) bool) {
	settings := map[string]any{}
	for name, value := range object {
		if slices.Contains(common, name) {
			continue
		}
		delete(object, name)
		if has(name) && value != nil {
			settings[name] = value
		}
	}
	if len(settings) > 0 {
		object[kind] = settings
	}
}

// kept are the shapes of the versions before this one: of each type its members, “[X]” a list, “{X}” a map, “words [X]” also a string,
// “text: a b” one of those words.
//
//go:embed shapes/*.json
var kept embed.FS

// past is the shape of an earlier version.
func past(version int) *shape {
	data, err := kept.ReadFile(fmt.Sprintf("shapes/%d.json", version))
	if err != nil {
		panic(err) // each version before this one has its file
	}
	d := recalling{made: map[string]*shape{}}
	if err := json.Unmarshal(data, &d.types); err != nil {
		panic(err)
	}
	return d.of("Design")
}

// recalling makes a shape of a file.
type recalling struct {
	types map[string]map[string]string
	made  map[string]*shape
}

func (d recalling) of(said string) *shape {
	if s, ok := d.made[said]; ok {
		return s
	}
	s := &shape{}
	d.made[said] = s
	named, words, _ := strings.Cut(said, ": ")
	inner, readsWords := strings.CutPrefix(said, "words ")
	switch {
	case inner[0] == '[':
		s.sort, s.words, s.item = list, readsWords, d.of(inner[1:len(inner)-1])
	case inner[0] == '{':
		s.sort, s.item = mapping, d.of(inner[1:len(inner)-1])
	case named == "text":
		s.sort = text
		if there := strings.Fields(words); len(there) > 0 {
			s.names = func(v string) error {
				if !slices.Contains(there, v) {
					return fmt.Errorf("there is no kind called “%s”", v)
				}
				return nil
			}
		}
	case said == "flag":
		s.sort = flag
	case said == "whole":
		s.sort = integer
	case said == "number":
		s.sort = decimal
	default:
		s.members = map[string]*shape{}
		for name, of := range d.types[said] {
			s.members[name] = d.of(of)
		}
	}
	return s
}
