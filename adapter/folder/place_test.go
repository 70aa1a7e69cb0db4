package folder_test

import (
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"amberseal/app/file/filetest"
)

func TestPlace(t *testing.T) {
	filetest.TestPlace(t, func(t *testing.T) filetest.Place {
		f, dir := open(t)
		return filetest.Place{
			Place: f,
			Read:  func(path string) ([]byte, error) { return os.ReadFile(filepath.Join(dir, filepath.FromSlash(path))) },
			All: func() (all []string, err error) {
				err = fs.WalkDir(os.DirFS(dir), ".", func(path string, d fs.DirEntry, err error) error {
					if err == nil && !d.IsDir() && !strings.HasPrefix(path, ".amberseal/") {
						all = append(all, path)
					}
					return err
				})
				return all, err
			},
			Out: func(out bool) {
				from, to := dir, dir+"-away"
				if !out {
					from, to = to, from
				}
				if err := os.Rename(from, to); err != nil {
					t.Fatal(err)
				}
			},
		}
	})
}
