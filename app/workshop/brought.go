package workshop

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"path"
	"strings"

	"amberseal/core/foreign/word"
)

// errOther is the error of a file that is neither of the kinds which documents are made of.
var errOther = errors.New("the file is neither a word-processor file (.docx) nor a PDF; save it as one of them, and bring that")

// AddBrought keeps a file that a document is to be made of, a word-processor file or a PDF, and gives the name by which the document
// speaks of it: whoever
// may design could ask for any file by its name, and so it cannot be guessed. The
// error says in plain words why the file cannot be used.
func (w *Workshop) AddBrought(ctx context.Context, name string, data []byte) (string, error) {
	var kept []byte
	var err error
	ending := ".docx"
	switch {
	case bytes.HasPrefix(data, []byte("%PDF-")):
		ending = ".pdf"
		kept, err = w.Take(ctx, data)
	case strings.EqualFold(path.Ext(name), ".pdf") || !strings.EqualFold(path.Ext(name), ".docx") && !bytes.HasPrefix(data, []byte("PK")):
		err = errOther
	default:
		_, err = word.Open(data)
	}
	if err != nil {
		return "", err
	}
	sum := sha256.Sum256(data)
	name = stem(name) + "-" + hex.EncodeToString(sum[:8]) + ending
	return name, w.Store.AddBrought(ctx, name, data, kept, w.Now())
}

// longestStem is how long the name of a file may be, in characters, before the sign that tells files apart.
const longestStem = 60

// stem is a file's name without folders, ending and what names may not hold.
func stem(name string) string {
	name = path.Base(strings.ReplaceAll(name, `\`, "/"))
	name = strings.TrimSuffix(name, path.Ext(name))
	name = strings.Map(func(r rune) rune {
		if r < ' ' || strings.ContainsRune(`/\:*?"<>|`, r) {
			return -1
		}
		return r
	}, name)
	if r := []rune(name); len(r) > longestStem {
		name = string(r[:longestStem])
	}
	if name = strings.Trim(name, " ."); name == "" {
		name = "document"
	}
	return name
}
