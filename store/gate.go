package store

import "sync"

// gate lets one writer through at a time. Answers go before everything else: whoever
// waits with them is next, however many others wait. database/sql alone would hand
// the one writing connection to any waiter at random.
type gate struct {
	mu      sync.Mutex
	free    sync.Cond
	busy    bool
	answers int // that wait
}

func newGate() *gate {
	g := &gate{}
	g.free.L = &g.mu
	return g
}

// enter waits for its turn; first goes before all that are not.
func (g *gate) enter(first bool) {
	g.mu.Lock()
	defer g.mu.Unlock()
	if first {
		g.answers++
	}
	for g.busy || !first && g.answers > 0 {
		g.free.Wait()
	}
	if first {
		g.answers--
	}
	g.busy = true
}

func (g *gate) leave() {
	g.mu.Lock()
	defer g.mu.Unlock()
	g.busy = false
	g.free.Broadcast()
}
