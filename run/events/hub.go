// Package events tells those who watch a thing that it has changed. It carries no
// content: whoever is told looks for themselves, with their own rights.
package events

import "sync"

// Thing names what can be watched: a kind of thing and its id.
type Thing struct {
	Kind string
	ID   int64
}

// Hub is safe for concurrent use.
type Hub struct {
	mu       sync.Mutex
	watchers map[Thing]map[chan struct{}]bool
}

// New makes a hub.
func New() *Hub { return &Hub{watchers: map[Thing]map[chan struct{}]bool{}} }

// Watch gives a channel that has something to read after any of the things has
// changed, once for however many changes since it was read. End it with stop.
func (h *Hub) Watch(things ...Thing) (changed <-chan struct{}, stop func()) {
	c := make(chan struct{}, 1)
	h.mu.Lock()
	defer h.mu.Unlock()
	for _, thing := range things {
		if h.watchers[thing] == nil {
			h.watchers[thing] = map[chan struct{}]bool{}
		}
		h.watchers[thing][c] = true
	}
	return c, func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		for _, thing := range things {
			if delete(h.watchers[thing], c); len(h.watchers[thing]) == 0 {
				delete(h.watchers, thing)
			}
		}
	}
}

// Changed tells all who watch a thing. It never waits for them.
func (h *Hub) Changed(thing Thing) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for c := range h.watchers[thing] {
		select {
		case c <- struct{}{}:
		default: // they are told already
		}
	}
}

// Watched is how many watch a thing.
func (h *Hub) Watched(thing Thing) int {
	h.mu.Lock()
	defer h.mu.Unlock()
	return len(h.watchers[thing])
}
