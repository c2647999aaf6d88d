package store

import (
	"sync"
	"time"
)

// turn says what somebody wants to write.
type turn int

const (
	answersTurn turn = iota // students' answers
	shortTurn               // small things of many people together
	longTurn                // anything else: it may take long, and ends no attempt
)

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
	holder          turn
	answers, others int // that wait
	inARow          int // answers that went before others that waited
}

func newGate() *gate {
	g := &gate{}
	g.free.L = &g.mu
	return g
}

// enter waits for its turn. With a patience above 0 it waits for a long turn no longer
// than that, and gives false.
func (g *gate) enter(t turn, patience time.Duration) bool {
	g.mu.Lock()
	defer g.mu.Unlock()
	waits := &g.others
	if t == answersTurn {
		waits = &g.answers
	}
	*waits++
	defer func() { *waits-- }()
	until := time.Now().Add(patience)
	if patience > 0 {
		defer time.AfterFunc(patience, g.wake).Stop()
	}
	for g.busy || (t == answersTurn) != g.answersNext() {
		if patience > 0 && g.busy && g.holder == longTurn && !time.Now().Before(until) {
			return false
		}
		g.free.Wait()
	}
	g.busy, g.holder = true, t
	if t == answersTurn && g.others > 0 {
		g.inARow++
	} else {
		g.inARow = 0
	}
	return true
}

// wake lets those who wait look again. It holds the lock, so that nobody is between looking and waiting.
func (g *gate) wake() {
	g.mu.Lock()
	defer g.mu.Unlock()
	g.free.Broadcast()
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
