package foreign

import (
	"container/list"
	"crypto/sha256"
	"sync"
)

// Kept are opened files by the hash of their bytes: a file of an intake is filled again and again. It is safe for many goroutines.
type Kept[T any] struct {
	Open func(data []byte) (T, error)
	Most int // bytes of files that are kept opened

	mu    sync.Mutex
	files map[[sha256.Size]byte]*list.Element
	order list.List // of entries, the latest used first
	bytes int
}

type kept[T any] struct {
	hash [sha256.Size]byte
	file T
	size int
}

// Get opens a file, or gives it as it was opened before.
func (k *Kept[T]) Get(data []byte) (T, error) {
	hash := sha256.Sum256(data)
	k.mu.Lock()
	defer k.mu.Unlock()
	if e, ok := k.files[hash]; ok {
		k.order.MoveToFront(e)
		return e.Value.(kept[T]).file, nil
	}
	f, err := k.Open(data)
	if err != nil {
		return f, err
	}
	if k.files == nil {
		k.files = map[[sha256.Size]byte]*list.Element{}
	}
	k.files[hash] = k.order.PushFront(kept[T]{hash, f, len(data)})
	k.bytes += len(data)
	for k.bytes > k.Most && k.order.Len() > 1 {
		last := k.order.Back()
		k.bytes -= last.Value.(kept[T]).size
		delete(k.files, last.Value.(kept[T]).hash)
		k.order.Remove(last)
	}
	return f, nil
}
