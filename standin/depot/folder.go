package depot

import (
	"io/fs"
	"os"
)

// Folder is the stock of a stand-in that keeps what arrives as files of a folder.
type Folder string

// Files lists what arrived, but for what lies in folders of our own, where files lie while they are written.
func (f Folder) Files() (all []File, err error) {
	err = fs.WalkDir(os.DirFS(string(f)), ".", func(path string, e fs.DirEntry, err error) error {
		switch {
		case err != nil:
			return err
		case e.IsDir() && e.Name() == ".amberseal":
			return fs.SkipDir
		case !e.Type().IsRegular():
			return nil
		}
		about, err := e.Info()
		if err != nil {
			return err
		}
		data, _ := f.Read(path)
		all = append(all, File{Path: path, Size: about.Size(), SHA256: Sum(data), Changed: about.ModTime()})
		return nil
	})
	return all, err
}

// Read gives a file.
func (f Folder) Read(path string) ([]byte, bool) {
	root, err := os.OpenRoot(string(f))
	if err != nil {
		return nil, false
	}
	defer root.Close()
	data, err := root.ReadFile(path)
	return data, err == nil
}
