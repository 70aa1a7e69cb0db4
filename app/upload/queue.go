package upload

import (
	"context"
	"sync"
	"time"
)

// queue lets one picture after the other be unpacked: some take 200 MB. A client stands in it once, whatever it sends, so that each waits
// for as many others as there are clients, and nobody shuts out anybody. The zero queue is ready.
type queue struct {
	mu   sync.Mutex
	turn chan struct{}
	of   map[string]*place
}

// place is that of a client: one of its pictures stands in the queue, the others wait behind it.
type place struct {
	front chan struct{}
	all   int
}

const (
	mostOfOne   = 6 // pictures of a client at once
	mostClients = 100
	longestTurn = 30 * time.Second
)

// enter waits for a turn. The error is ErrBusy or the context's.
func (q *queue) enter(ctx context.Context, client string) (leave func(), err error) {
	p, ok := q.stand(client)
	if !ok {
		return nil, ErrBusy
	}
	timed, cancel := context.WithTimeoutCause(ctx, longestTurn, ErrBusy)
	defer cancel()
	for i, step := range []chan struct{}{p.front, q.turn} {
		select {
		case step <- struct{}{}:
		case <-timed.Done():
			if i > 0 {
				<-p.front
			}
			q.leave(client, p)
			return nil, context.Cause(timed)
		}
	}
	return func() {
		<-q.turn
		<-p.front
		q.leave(client, p)
	}, nil
}

func (q *queue) stand(client string) (*place, bool) {
	q.mu.Lock()
	defer q.mu.Unlock()
	if q.of == nil {
		q.of, q.turn = map[string]*place{}, make(chan struct{}, 1)
	}
	p := q.of[client]
	if p == nil {
		if len(q.of) >= mostClients {
			return nil, false
		}
		p = &place{front: make(chan struct{}, 1)}
		q.of[client] = p
	}
	if p.all >= mostOfOne {
		return nil, false
	}
	p.all++
	return p, true
}

func (q *queue) leave(client string, p *place) {
	q.mu.Lock()
	defer q.mu.Unlock()
	if p.all--; p.all == 0 {
		delete(q.of, client)
	}
}
