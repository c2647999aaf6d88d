package attempt_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"pineledger/core/attempt"
)

var nine = time.Date(2026, 10, 13, 17, 0, 0, 0, time.UTC)

func TestWhenWorkMayGoOn(t *testing.T) {
	s := attempt.Sitting{Door: attempt.Open, Opens: nine, Closes: nine.Add(8 * time.Hour)}
	for _, c := range []struct {
		name string
		door attempt.DoorState
		at   time.Duration
		want error
	}{
		{"open inside the window", attempt.Open, 0, nil},
		{"before the window", attempt.Open, -time.Second, attempt.ErrWindowNotOpen},
		{"the window's end is exclusive", attempt.Open, 8 * time.Hour, attempt.ErrWindowOver},
		{"nobody has opened", attempt.Waiting, time.Hour, attempt.ErrDoorNotOpen},
		{"paused", attempt.Held, time.Hour, attempt.ErrDoorPaused},
		{"closed", attempt.Closed, time.Hour, attempt.ErrDoorClosed},
	} {
		s.Door = c.door
		assert.Equal(t, c.want, s.MayWork(nine.Add(c.at)), c.name)
	}
}

func TestAnswersOnTheirWayStillArrive(t *testing.T) {
	shut := nine.Add(time.Hour)
	s := attempt.Sitting{Door: attempt.Closed, DoorAt: shut, Opens: nine, Closes: nine.Add(8 * time.Hour)}
	assert.NoError(t, s.TakesAnswers(shut.Add(attempt.Grace-1)))
	assert.Equal(t, attempt.ErrDoorClosed, s.TakesAnswers(shut.Add(attempt.Grace)))
	assert.NoError(t, s.TakesAnswers(shut.Add(-time.Minute)), "clocks may run apart by a little")
	s.Door = attempt.Open
	assert.NoError(t, s.TakesAnswers(s.Closes.Add(attempt.Grace-1)))
	assert.Equal(t, attempt.ErrWindowOver, s.TakesAnswers(s.Closes.Add(attempt.Grace)))
	s.Door = attempt.Waiting
	assert.Equal(t, attempt.ErrDoorNotOpen, s.TakesAnswers(shut))
}

func TestHowTheDoorMoves(t *testing.T) {
	inside, after := nine.Add(time.Hour), nine.Add(9*time.Hour)
	for _, c := range []struct {
		from, to attempt.DoorState
		at       time.Time
		want     error
	}{
		{attempt.Waiting, attempt.Open, inside, nil},
		{attempt.Closed, attempt.Open, inside, nil},
		{attempt.Closed, attempt.Open, after, attempt.ErrWindowOver},
		{attempt.Waiting, attempt.Open, nine.Add(-1), attempt.ErrWindowNotOpen},
		{attempt.Open, attempt.Held, inside, nil},
		{attempt.Open, attempt.Closed, after, nil},
		{attempt.Waiting, attempt.Closed, inside, attempt.ErrDoorMove},
		{attempt.Open, attempt.Waiting, inside, attempt.ErrDoorMove},
	} {
		s := attempt.Sitting{Door: c.from, Opens: nine, Closes: nine.Add(8 * time.Hour)}
		assert.Equal(t, c.want, s.MoveDoor(c.to, c.at), "%s to %s", c.from, c.to)
	}
}

func TestTheEndIsTheEarlierOne(t *testing.T) {
	c := attempt.Clock{Started: nine, Limit: 50 * time.Minute, Closes: nine.Add(8 * time.Hour)}
	assert.Equal(t, nine.Add(50*time.Minute), c.End())
	c.Paused = 10 * time.Minute
	assert.Equal(t, nine.Add(time.Hour), c.End(), "granted pauses are given back")
	c.Closes = nine.Add(30 * time.Minute)
	assert.Equal(t, nine.Add(30*time.Minute), c.End())
	c.Limit = 0
	assert.Equal(t, c.Closes, c.End(), "no limit: the window's end")
	assert.True(t, c.Takes(c.End().Add(attempt.Grace-1)))
	assert.False(t, c.Takes(c.End().Add(attempt.Grace)))
}

// In whatever order numbered answers arrive, and however often, the highest wins.
func TestTheNewestAnswerWinsInAnyOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		arrivals := rapid.SliceOfN(rapid.Int64Range(1, 20), 1, 40).Draw(t, "arrivals")
		kept, highest := int64(0), int64(0)
		for _, n := range arrivals {
			if attempt.Newer(kept, n) {
				kept = n
			}
			highest = max(highest, n)
		}
		assert.Equal(t, highest, kept)
	})
}

func TestNotReachedIsBlankToTheEnd(t *testing.T) {
	assert.Equal(t, 2, attempt.LastReached([]bool{true, false, true, false}))
	assert.Equal(t, -1, attempt.LastReached([]bool{false}))
}
