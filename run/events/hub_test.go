package events_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/run/events"
)

func told(c <-chan struct{}) bool {
	select {
	case <-c:
		return true
	default:
		return false
	}
}

func TestWhoWatchesIsToldOnceForManyChanges(t *testing.T) {
	room, seat, other := events.Thing{Kind: "sitting", ID: 1}, events.Thing{Kind: "student", ID: 1}, events.Thing{Kind: "sitting", ID: 2}
	h := events.New()
	mine, stop := h.Watch(room, seat)
	also, stopAlso := h.Watch(room)
	elsewhere, stopElsewhere := h.Watch(other)
	defer stopElsewhere()
	h.Changed(room)
	h.Changed(room)
	h.Changed(seat)
	assert.True(t, told(mine))
	assert.False(t, told(mine), "once for all three")
	assert.True(t, told(also))
	assert.False(t, told(elsewhere), "another thing is not mine")
	h.Changed(seat)
	assert.True(t, told(mine))
	assert.False(t, told(also), "the same number of another kind is another thing")
	stop()
	h.Changed(room)
	assert.False(t, told(mine))
	assert.True(t, told(also))
	stopAlso()
	assert.Zero(t, h.Watched(room))
	assert.Zero(t, h.Watched(seat))
	assert.Equal(t, 1, h.Watched(other))
}
