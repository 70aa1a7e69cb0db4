// Package watch tells those who look on that something changed.
package watch

import "sync"

// Hub passes on that something changed, not what: whoever listens looks again. It is safe
// for many goroutines and never waits for a listener.
type Hub struct {
	mu        sync.Mutex
	listeners map[chan struct{}]bool
}

// Changed wakes every listener.
func (h *Hub) Changed() {
	h.mu.Lock()
	defer h.mu.Unlock()
	for c := range h.listeners {
		select {
		case c <- struct{}{}:
		default: // it is awake already
		}
	}
}

// Listen gives a channel that receives after changes, and a function that ends it.
func (h *Hub) Listen() (<-chan struct{}, func()) {
	c := make(chan struct{}, 1)
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.listeners == nil {
		h.listeners = map[chan struct{}]bool{}
	}
	h.listeners[c] = true
	return c, func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		delete(h.listeners, c)
	}
}
