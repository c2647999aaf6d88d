package store

import (
	"sync"
	"time"
)

// turn says what somebody wants to write, who goes first at the head.
type turn int

const (
	answersTurn turn = iota // students' answers
	shortTurn               // small things of many people together
	longTurn                // anything else: it may take long, and ends no attempt
	turns
)

// mostPassed is how many turns of others go before somebody who waits, so that a stream
// of answers without any pause holds nobody up for good.
var mostPassed = [turns]int{shortTurn: 5, longTurn: 20}

// gate lets one writer through at a time, who goes first before the others, however
// many others wait. database/sql alone would hand the one writing connection to any
// waiter at random.
type gate struct {
	mu     sync.Mutex
	free   sync.Cond
	busy   bool
	holder turn
	waits  [turns]int // that wait
	passed [turns]int // how many have gone before those that wait
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
	g.waits[t]++
	defer func() { g.waits[t]-- }()
	until := time.Now().Add(patience)
	if patience > 0 {
		defer time.AfterFunc(patience, g.wake).Stop()
	}
	for g.busy || t != g.next() {
		if patience > 0 && g.busy && g.holder == longTurn && !time.Now().Before(until) {
			return false
		}
		g.free.Wait()
	}
	g.busy, g.holder = true, t
	for other, waiting := range g.waits {
		switch {
		case turn(other) == t || waiting == 0:
			g.passed[other] = 0
		default:
			g.passed[other]++
		}
	}
	return true
}

// wake lets those who wait look again. It holds the lock, so that nobody is between looking and waiting.
func (g *gate) wake() {
	g.mu.Lock()
	defer g.mu.Unlock()
	g.free.Broadcast()
}

// next tells whose turn is next: of those who wait, who has been passed too often, or else who goes first. Somebody waits.
func (g *gate) next() turn {
	first := turns
	for t := longTurn; t >= answersTurn; t-- {
		if g.waits[t] == 0 {
			continue
		}
		if t != answersTurn && g.passed[t] >= mostPassed[t] {
			return t
		}
		first = t
	}
	return first
}

func (g *gate) leave() {
	g.mu.Lock()
	defer g.mu.Unlock()
	g.busy = false
	g.free.Broadcast()
}
