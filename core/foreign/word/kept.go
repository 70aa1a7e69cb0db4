package word

import (
	"container/list"
	"crypto/sha256"
	"sync"
)

// Kept are opened files by the hash of their bytes: a file of an intake is filled again and again. It is safe for many goroutines.
type Kept struct {
	mu    sync.Mutex
	files map[[sha256.Size]byte]*list.Element
	order list.List // of entries, the latest used first
	bytes int
}

type kept struct {
	hash [sha256.Size]byte
	file *File
	size int
}

// mostKept is how many bytes of files, as they lie in their packages, are kept opened; in memory each is some thirty times as large.
const mostKept = 4 << 20

// Open is Open, or the file as it was opened before.
func (k *Kept) Open(data []byte) (*File, error) {
	hash := sha256.Sum256(data)
	k.mu.Lock()
	defer k.mu.Unlock()
	if e, ok := k.files[hash]; ok {
		k.order.MoveToFront(e)
		return e.Value.(kept).file, nil
	}
	f, err := Open(data)
	if err != nil {
		return nil, err
	}
	if k.files == nil {
		k.files = map[[sha256.Size]byte]*list.Element{}
	}
	k.files[hash] = k.order.PushFront(kept{hash, f, len(data)})
	k.bytes += len(data)
	for k.bytes > mostKept && k.order.Len() > 1 {
		last := k.order.Back()
		k.bytes -= last.Value.(kept).size
		delete(k.files, last.Value.(kept).hash)
		k.order.Remove(last)
	}
	return f, nil
}
