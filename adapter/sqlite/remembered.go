package sqlite

import "sync"

// remembered keeps what was read until something changes. It is safe for many goroutines: what was read before a change is not
// kept after it.
type remembered[K comparable, V any] struct {
	mu      sync.Mutex
	changes int
	of      map[K]V
}

// mostRemembered is how many entries are kept; then all are forgotten.
const mostRemembered = 1_000

// get gives what is remembered, or reads it.
func (r *remembered[K, V]) get(key K, read func() (V, error)) (V, error) {
	r.mu.Lock()
	v, ok := r.of[key]
	changes := r.changes
	r.mu.Unlock()
	if ok {
		return v, nil
	}
	v, err := read()
	if err != nil {
		return v, err
	}
	r.mu.Lock()
	defer r.mu.Unlock()
	if changes == r.changes {
		if r.of == nil || len(r.of) >= mostRemembered {
			r.of = map[K]V{}
		}
		r.of[key] = v
	}
	return v, nil
}

// forget is called after a change was committed.
func (r *remembered[K, V]) forget() {
	r.mu.Lock()
	defer r.mu.Unlock()
	r.changes++
	r.of = nil
}
