// Package hall keeps the clocks of all live attempts in memory, and a heap of
// their deadlines: who is due is known without asking everybody.
package hall

import (
	"container/heap"
	"sync"
	"time"

	"pineledger/core/window"
)

// Hall is safe for concurrent use.
type Hall struct {
	mu       sync.RWMutex
	live     map[int64]*live
	sittings map[int64]map[int64]*live // by sitting, by attempt
	due      deadlines
	epoch    int64
}

type live struct {
	attempt, sitting int64
	clock            window.Clock
	at               time.Time // its deadline
	place            int       // in the heap
}

// New opens an empty hall.
func New() *Hall { return &Hall{live: map[int64]*live{}, sittings: map[int64]map[int64]*live{}} }

// Epoch counts what has changed clocks. A clock that was read from the store is
// entered with the epoch of before reading.
func (h *Hall) Epoch() int64 {
	h.mu.RLock()
	defer h.mu.RUnlock()
	return h.epoch
}

// Enter takes in a clock, unless any clock was changed since an epoch: what was read
// before may not hold any more.
func (h *Hall) Enter(attempt, sitting int64, clock window.Clock, now time.Time, epoch int64) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.epoch != epoch || h.live[attempt] != nil {
		return
	}
	l := &live{attempt: attempt, sitting: sitting, clock: clock, at: clock.At(now).EndsAt}
	h.live[attempt] = l
	if h.sittings[sitting] == nil {
		h.sittings[sitting] = map[int64]*live{}
	}
	h.sittings[sitting][attempt] = l
	heap.Push(&h.due, l)
}

// Clock gives an attempt's clock, and whether it is here.
func (h *Hall) Clock(attempt int64) (window.Clock, bool) {
	h.mu.RLock()
	defer h.mu.RUnlock()
	l, ok := h.live[attempt]
	if !ok {
		return window.Clock{}, false
	}
	return l.clock, true
}

// Leave lets an attempt go: it was handed in, or its clock is to be read anew.
func (h *Hall) Leave(attempt int64) {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.epoch++
	h.drop(h.live[attempt])
}

// LeaveSitting lets all attempts of a sitting go, to be read anew.
func (h *Hall) LeaveSitting(sitting int64) {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.epoch++
	for _, l := range h.sittings[sitting] {
		h.drop(l)
	}
}

func (h *Hall) drop(l *live) {
	if l == nil {
		return
	}
	heap.Remove(&h.due, l.place)
	delete(h.live, l.attempt)
	if delete(h.sittings[l.sitting], l.attempt); len(h.sittings[l.sitting]) == 0 {
		delete(h.sittings, l.sitting)
	}
}

// Door moves every clock of a sitting. A clock that will not move is dropped, to be
// read anew.
func (h *Hall) Door(sitting int64, e window.Event) {
	h.mu.Lock()
	defer h.mu.Unlock()
	h.epoch++
	for _, l := range h.sittings[sitting] {
		if l.clock.Apply(e) != nil {
			h.drop(l)
			continue
		}
		l.at = l.clock.At(e.At).EndsAt
		heap.Fix(&h.due, l.place)
	}
}

// Due lists the attempts whose time was over by a moment, the longest over first.
// They stay until they leave or are put off.
func (h *Hall) Due(by time.Time) []int64 {
	h.mu.Lock()
	defer h.mu.Unlock()
	var over []*live
	for h.due.Len() > 0 && !h.due[0].at.After(by) {
		over = append(over, heap.Pop(&h.due).(*live))
	}
	out := make([]int64, len(over))
	for i, l := range over {
		out[i] = l.attempt
		heap.Push(&h.due, l)
	}
	return out
}

// PutOff lets an attempt that could not be handed in be due again later.
func (h *Hall) PutOff(attempt int64, until time.Time) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if l := h.live[attempt]; l != nil {
		l.at = until
		heap.Fix(&h.due, l.place)
	}
}

// Len is how many attempts are here.
func (h *Hall) Len() int {
	h.mu.RLock()
	defer h.mu.RUnlock()
	return len(h.live)
}

// deadlines is a heap, the earliest first.
type deadlines []*live

func (d deadlines) Len() int           { return len(d) }
func (d deadlines) Less(i, j int) bool { return d[i].at.Before(d[j].at) }
func (d deadlines) Swap(i, j int) {
	d[i], d[j] = d[j], d[i]
	d[i].place, d[j].place = i, j
}

// Push and Pop are for container/heap.
func (d *deadlines) Push(x any) {
	l := x.(*live)
	l.place = len(*d)
	*d = append(*d, l)
}

func (d *deadlines) Pop() any {
	old := *d
	l := old[len(old)-1]
	old[len(old)-1] = nil
	*d = old[:len(old)-1]
	return l
}
