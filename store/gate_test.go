package store

import (
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// However many wait, who comes with answers is next.
func TestAnswersGoBeforeEverythingElse(t *testing.T) {
	g := newGate()
	g.enter(shortTurn, 0) // somebody writes
	var order []string
	var all sync.WaitGroup
	wait := func(name string, first turn) {
		all.Go(func() {
			g.enter(first, 0)
			order = append(order, name)
			g.leave()
		})
	}
	for range 50 {
		wait("sign-in", shortTurn)
	}
	wait("answers", answersTurn)
	require.Eventually(t, func() bool {
		g.mu.Lock()
		defer g.mu.Unlock()
		return g.waits[answersTurn] == 1
	}, 5*time.Second, time.Millisecond)
	g.leave()
	all.Wait()
	assert.Len(t, order, 51)
	assert.Equal(t, "answers", order[0])
	assert.False(t, g.busy)
}

// A stream of answers without a pause lets somebody else through from time to time.
func TestAnswersWithoutAPauseHoldNobodyUpForGood(t *testing.T) {
	g := newGate()
	g.enter(shortTurn, 0)
	turns, waited := 0, -1
	var all sync.WaitGroup
	all.Go(func() {
		g.enter(shortTurn, 0)
		waited = turns
		g.leave()
	})
	for range 3 * mostPassed[shortTurn] {
		all.Go(func() {
			g.enter(answersTurn, 0)
			turns++
			g.leave()
		})
	}
	require.Eventually(t, func() bool {
		g.mu.Lock()
		defer g.mu.Unlock()
		return g.waits[answersTurn] == 3*mostPassed[shortTurn] && g.waits[shortTurn] == 1
	}, 5*time.Second, time.Millisecond)
	g.leave()
	all.Wait()
	assert.Equal(t, mostPassed[shortTurn], waited)
	assert.Equal(t, 3*mostPassed[shortTurn], turns)
}

// Whoever writes in many steps lets small writes through between them, and is not passed for good.
func TestStepsOfSomethingLongLetOthersThrough(t *testing.T) {
	g := newGate()
	g.enter(longTurn, 0) // one step
	var order []string
	var all sync.WaitGroup
	for range mostPassed[longTurn] + 5 {
		all.Go(func() {
			g.enter(shortTurn, 0)
			order = append(order, "begin")
			g.leave()
		})
	}
	all.Go(func() {
		g.enter(longTurn, 0) // the next one
		order = append(order, "step")
		g.leave()
	})
	require.Eventually(t, func() bool {
		g.mu.Lock()
		defer g.mu.Unlock()
		return g.waits[shortTurn] == mostPassed[longTurn]+5 && g.waits[longTurn] == 1
	}, 5*time.Second, time.Millisecond)
	g.leave()
	all.Wait()
	require.Len(t, order, mostPassed[longTurn]+6)
	assert.Equal(t, "step", order[mostPassed[longTurn]])
}
