package workshop

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"path"
	"strings"

	"amberseal/core/foreign/word"
)

// AddBrought keeps a word-processor file that a document is to be made of, and gives the name by which the document speaks of it: whoever
// may design could ask for any file by its name, and so it cannot be guessed. The
// error is word.Unreadable where the file cannot be used.
func (w *Workshop) AddBrought(ctx context.Context, name string, data []byte) (string, error) {
	if _, err := word.Open(data); err != nil {
		return "", err
	}
	sum := sha256.Sum256(data)
	name = stem(name) + "-" + hex.EncodeToString(sum[:8]) + ".docx"
	return name, w.Store.AddBrought(ctx, name, data, w.Now())
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
