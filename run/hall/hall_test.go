package hall_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/window"
	"pineledger/run/hall"
)

var nine = time.Date(2026, 11, 30, 9, 0, 0, 0, time.UTC)

func minute(n int) time.Time { return nine.Add(time.Duration(n) * time.Minute) }

func begun(t require.TestingT, minutes int) window.Clock {
	c, err := window.New(window.Window{From: nine, To: minute(360)}, window.Allowance{Minutes: minutes})
	require.NoError(t, err)
	require.NoError(t, c.Apply(window.Event{At: nine, What: window.DoorOpens}))
	require.NoError(t, c.Apply(window.Event{At: nine, What: window.Begin}))
	return c
}

func TestWhoIsDue(t *testing.T) {
	h := hall.New()
	h.Enter(1, 10, begun(t, 60), nine, h.Epoch())
	h.Enter(2, 10, begun(t, 30), nine, h.Epoch())
	h.Enter(3, 11, begun(t, 40), nine, h.Epoch())
	assert.Empty(t, h.Due(minute(30).Add(-1)))
	assert.Equal(t, []int64{2}, h.Due(minute(30)), "at its very instant")
	assert.Equal(t, []int64{2}, h.Due(minute(31)), "it stays until it leaves")

	h.PutOff(2, minute(50))
	assert.Empty(t, h.Due(minute(31)), "put off, it keeps nobody from being handed in")
	assert.Equal(t, []int64{3}, h.Due(minute(45)))
	h.Leave(3)
	assert.Equal(t, []int64{2, 1}, h.Due(minute(61)), "the longest over first")
	h.Leave(2)
	h.Leave(2)
	h.Leave(1)
	assert.Zero(t, h.Len())
	assert.Empty(t, h.Due(minute(999)))
}

func TestADoorMovesItsOwnSitting(t *testing.T) {
	h := hall.New()
	h.Enter(1, 10, begun(t, 60), nine, h.Epoch())
	h.Enter(2, 11, begun(t, 60), nine, h.Epoch())
	h.Door(10, window.Event{At: minute(20), What: window.DoorCloses})
	assert.Equal(t, []int64{2}, h.Due(minute(61)), "behind a closed door time stands still")
	h.Door(10, window.Event{At: minute(90), What: window.DoorOpens})
	assert.NotContains(t, h.Due(minute(130).Add(-1)), int64(1))
	assert.Contains(t, h.Due(minute(130)), int64(1), "twenty minutes before and forty after")
	clock, here := h.Clock(1)
	require.True(t, here)
	assert.Equal(t, 30*time.Minute, clock.At(minute(100)).Worked)
}

func TestWhatWasReadBeforeAChangeIsNotEntered(t *testing.T) {
	h := hall.New()
	before := h.Epoch()
	h.Door(10, window.Event{At: nine, What: window.DoorCloses})
	h.Enter(1, 10, begun(t, 60), nine, before)
	_, here := h.Clock(1)
	assert.False(t, here)
}

// Whatever comes and goes, those due are exactly those whose time is over.
func TestTheHeapForgetsNobody(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		h := hall.New()
		ends := map[int64]int{}
		for range rapid.IntRange(1, 60).Draw(t, "steps") {
			id := rapid.Int64Range(1, 12).Draw(t, "attempt")
			switch rapid.IntRange(0, 2).Draw(t, "what") {
			case 0:
				minutes := rapid.IntRange(1, 90).Draw(t, "minutes")
				h.Enter(id, id%3, begun(t, minutes), nine, h.Epoch())
				if _, here := ends[id]; !here {
					ends[id] = minutes
				}
			case 1:
				h.Leave(id)
				delete(ends, id)
			default:
				at := rapid.IntRange(0, 100).Draw(t, "now")
				var want []int64
				for id, end := range ends {
					if end <= at {
						want = append(want, id)
					}
				}
				got := h.Due(minute(at))
				require.True(t, slices.IsSortedFunc(got, func(a, b int64) int { return ends[a] - ends[b] }))
				require.ElementsMatch(t, want, got)
			}
			require.Equal(t, len(ends), h.Len())
		}
	})
}
