package store

import "sync"

// mostInARow is how many commits of answers go before something else that waits, so that
// a stream of answers without any pause holds nobody up for good.
const mostInARow = 20

// gate lets one writer through at a time. Answers go before everything else: whoever
// waits with them is next, however many others wait. database/sql alone would hand
// the one writing connection to any waiter at random.
type gate struct {
	mu              sync.Mutex
	free            sync.Cond
	busy            bool
	answers, others int // that wait
	inARow          int // answers that went before others that waited
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
	waits := &g.others
	if first {
		waits = &g.answers
	}
	*waits++
	for g.busy || first != g.answersNext() {
		g.free.Wait()
	}
	*waits--
	g.busy = true
	if first && g.others > 0 {
		g.inARow++
	} else {
		g.inARow = 0
	}
}

// answersNext tells whether the next turn is one of answers. Somebody waits.
func (g *gate) answersNext() bool {
	return g.answers > 0 && (g.others == 0 || g.inARow < mostInARow)
}

func (g *gate) leave() {
	g.mu.Lock()
	defer g.mu.Unlock()
	g.busy = false
	g.free.Broadcast()
}
