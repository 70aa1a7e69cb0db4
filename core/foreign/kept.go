package foreign

import (
	"container/list"
	"hash/maphash"
	"sync"
)

// key is a file by a hash whose seed nobody knows, so that no two files can be made to share it.
type key struct {
	sum  uint64
	size int
}

var seed = maphash.MakeSeed()

// Kept are opened files by the hash of their bytes: a file of an intake is filled again and again. It is safe for many goroutines.
type Kept[T any] struct {
	Open func(data []byte) (T, error)
	Most int // bytes of files that are kept opened

	mu    sync.Mutex
	files map[key]*list.Element
	order list.List // of entries, the latest used first
	bytes int
}

type kept[T any] struct {
	key  key
	file T
	size int
}

// Get opens a file, or gives it as it was opened before.
func (k *Kept[T]) Get(data []byte) (T, error) {
	at := key{maphash.Bytes(seed, data), len(data)}
	k.mu.Lock()
	defer k.mu.Unlock()
	if e, ok := k.files[at]; ok {
		k.order.MoveToFront(e)
		return e.Value.(kept[T]).file, nil
	}
	f, err := k.Open(data)
	if err != nil {
		return f, err
	}
	if k.files == nil {
		k.files = map[key]*list.Element{}
	}
	k.files[at] = k.order.PushFront(kept[T]{at, f, len(data)})
	k.bytes += len(data)
	for k.bytes > k.Most && k.order.Len() > 1 {
		last := k.order.Back()
		k.bytes -= last.Value.(kept[T]).size
		delete(k.files, last.Value.(kept[T]).key)
		k.order.Remove(last)
	}
	return f, nil
}
