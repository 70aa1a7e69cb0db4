package form

import (
	"encoding/json"
	"slices"
	"strings"
	"unicode/utf8"
)

func (c Circumstances) readFiles(x Field, raw json.RawMessage) (Value, string) {
	var given []json.RawMessage
	if json.Unmarshal(raw, &given) != nil {
		return Value{}, "This answer must be a list of uploaded files."
	}
	if n := len(given); n > x.MostFiles() {
		return Value{}, c.say("These are %d files; at most %d can be sent.", n, x.MostFiles())
	}
	var kept []File
	for _, g := range given {
		f, problem := c.readFile(g)
		if problem == "" {
			problem = c.FitsFile(x, f)
		}
		if problem != "" {
			return Value{}, problem
		}
		kept = append(kept, f)
	}
	if kept == nil {
		return Value{}, ""
	}
	return files(x.Kind, kept), ""
}

// readFile takes an upload's id, or the description that Check gives back.
func (c Circumstances) readFile(raw json.RawMessage) (File, string) {
	var f File
	if json.Unmarshal(raw, &f.ID) != nil && json.Unmarshal(raw, &f) != nil || f.ID == "" {
		return File{}, "An uploaded file is named by its id."
	}
	if c.File == nil {
		f.Name = clean(f.Name, false)
		return f, ""
	}
	kept, ok := c.File(f.ID)
	if !ok {
		return File{}, c.say("One of the files is not there any more. Please upload it again.")
	}
	return kept, ""
}

// endings of the kinds of file that uploads can be limited to, by their media type.
var endings = map[string][]string{
	"application/pdf": {
		"pdf",
	}, "image/jpeg": {"jpg", "jpeg"}, "image/png": {"png"}, "image/gif": {"gif"}, "image/webp": {"webp"}, "text/plain": {"txt"},
	"text/csv": {"csv"},
	"application/vnd.openxmlformats-officedocument.wordprocessingml.document": {"docx"},
	"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet":       {"xlsx"},
	"application/vnd.oasis.opendocument.text": {
		"odt",
	}, "application/vnd.oasis.opendocument.spreadsheet": {"ods"},
	"application/zip": {"zip"}, "audio/mpeg": {"mp3"}, "video/mp4": {"mp4"},
}

// Endings lists the endings that uploads can be limited to.
func Endings() []string {
	var out []string
	for _, e := range endings {
		out = append(out, e...)
	}
	slices.Sort(out)
	return out
}

// FitsFile says why a file cannot be an answer of the field, or nothing.
func (c Circumstances) FitsFile(f Field, x File) string {
	switch {
	case x.Size > f.LargestFile():
		return c.say("“%s” is too large; a file may have %d MB.", shorten(x.Name), f.LargestFile()>>20)
	case f.Kind == Photo && x.Type != "" && x.Type != "image/jpeg" && x.Type != "image/png":
		return c.say("“%s” is not a photo. Send a JPEG or PNG picture.", shorten(x.Name))
	case f.Kind == Upload && len(f.Accept) > 0 && x.Type != "":
		media, _, _ := strings.Cut(x.Type, ";")
		if !slices.ContainsFunc(endings[media], func(e string) bool { return slices.Contains(f.Accept, e) }) {
			return c.say("“%s” is not of a kind that can be sent here: %s.", shorten(x.Name), strings.Join(f.Accept, ", "))
		}
	}
	return ""
}

// Limits of a drawn signature.
const (
	maxStrokes = 500
	maxPoints  = 20_000
)

func (c Circumstances) readSignature(raw json.RawMessage) (Value, string) {
	wrong := c.say("This is not a signature. Draw it, type it or upload a picture of it.")
	var given struct {
		Mark
		File json.RawMessage `json:"file"`
	}
	if json.Unmarshal(raw, &given) != nil {
		return Value{}, wrong
	}
	m := given.Mark
	m.Typed = clean(m.Typed, false)
	switch {
	case len(given.File) > 0 && string(given.File) != "null":
		f, problem := c.readFile(given.File)
		if problem == "" {
			problem = c.FitsFile(Field{Kind: Photo}, f)
		}
		if problem != "" {
			return Value{}, problem
		}
		return signed(&Mark{File: &f}), ""
	case m.Typed != "":
		if utf8.RuneCountInString(m.Typed) > longestPart {
			return Value{}, wrong
		}
		return signed(&Mark{Typed: m.Typed}), ""
	case len(m.Strokes) == 0:
		return Value{}, ""
	}
	points := 0
	for _, s := range m.Strokes {
		points += len(s)
		if len(s) < 2 || len(s)%2 != 0 || slices.ContainsFunc(s, func(v float64) bool { return v < -10_000 || v > 10_000 }) {
			return Value{}, wrong
		}
	}
	if len(m.Strokes) > maxStrokes || points > maxPoints || m.Width <= 0 || m.Height <= 0 || m.Width > 10_000 || m.Height > 10_000 {
		return Value{}, wrong
	}
	return signed(&Mark{Strokes: m.Strokes, Width: m.Width, Height: m.Height}), ""
}
