package bucket

import (
	"bytes"
	"fmt"
	"io"
	"path/filepath"
	"testing"
)

// What was asked for stays what it was while others write and the file grows; it once lay in pages that a write took away.
func TestWhatIsReadStaysWhileOthersWrite(t *testing.T) {
	s, err := Open("127.0.0.1:0", filepath.Join(t.TempDir(), "stock"))
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	put := func(key string, data []byte) {
		if _, err := s.back.PutObject(Name, key, nil, bytes.NewReader(data), int64(len(data)), nil); err != nil {
			t.Fatal(err)
		}
	}
	want := bytes.Repeat([]byte("first "), 20_000)
	put("a", want)
	o, err := s.back.GetObject(Name, "a", nil)
	if err != nil {
		t.Fatal(err)
	}
	for i := range 12 { // far beyond what the file was first mapped for, and over what was freed
		put("a", bytes.Repeat([]byte("later "), 20_000))
		put(fmt.Sprint("b", i), make([]byte, 1<<20))
	}
	if got, err := io.ReadAll(o.Contents); err != nil || !bytes.Equal(got, want) {
		t.Errorf("what was read has changed under the reader (%v)", err)
	}
}
