package attempt_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/attempt"
)

var doors = []attempt.DoorState{attempt.Waiting, attempt.Open, attempt.Held, attempt.Closed}

// However people push at a door over a day: work goes on exactly while it is open
// inside the window, and nobody gets it back to waiting.
func TestADoorThroughADay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := attempt.Sitting{Door: attempt.Waiting, Opens: nine, Closes: nine.Add(8 * time.Hour)}
		now := nine.Add(-2 * time.Hour)
		opened := false
		for range rapid.IntRange(1, 30).Draw(t, "pushes") {
			now = now.Add(time.Duration(rapid.IntRange(0, 90).Draw(t, "minutes")) * time.Minute)
			to := rapid.SampledFrom(doors).Draw(t, "to")
			if s.MoveDoor(to, now) == nil {
				require.NotEqual(t, attempt.Waiting, to)
				require.True(t, opened || to == attempt.Open, "a door is opened before it is anything else")
				s.Door, s.DoorAt = to, now
				opened = true
			}
			inside := !now.Before(s.Opens) && now.Before(s.Closes)
			require.Equal(t, s.Door == attempt.Open && inside, s.MayWork(now) == nil)
			if s.MayWork(now) == nil {
				require.NoError(t, s.TakesAnswers(now), "who may work may also be kept")
			}
		}
	})
}

// Grace lets late answers in and nothing else: it is over after its length, and
// it never lets anybody begin.
func TestGraceIsShort(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := attempt.Sitting{Door: rapid.SampledFrom(doors).Draw(t, "door"), Opens: nine, Closes: nine.Add(8 * time.Hour)}
		s.DoorAt = nine.Add(time.Duration(rapid.IntRange(0, 8*3600).Draw(t, "moved")) * time.Second)
		now := nine.Add(time.Duration(rapid.IntRange(-3600, 10*3600).Draw(t, "now")) * time.Second)
		if s.TakesAnswers(now) != nil || s.MayWork(now) == nil {
			return
		}
		sinceDoor, sinceWindow := now.Sub(s.DoorAt), now.Sub(s.Closes)
		require.True(t, sinceDoor < attempt.Grace || (sinceWindow >= 0 && sinceWindow < attempt.Grace), "%s after the door, %s after the window", sinceDoor, sinceWindow)
	})
}

func TestTheClockNeverRunsPastTheWindow(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		minutes := func(name string, most int) time.Duration {
			return time.Duration(rapid.IntRange(0, most).Draw(t, name)) * time.Minute
		}
		c := attempt.Clock{Started: nine.Add(minutes("started", 400)), Limit: minutes("limit", 180), Paused: minutes("paused", 60), Closes: nine.Add(8 * time.Hour)}
		end := c.End()
		require.False(t, end.After(c.Closes))
		if c.Limit > 0 {
			require.False(t, end.After(c.Started.Add(c.Limit+c.Paused)), "nobody gets more than the limit and the pauses")
		}
		more := c
		more.Paused += time.Minute
		require.False(t, more.End().Before(end), "a pause never takes time away")
		require.True(t, c.Takes(end.Add(-time.Nanosecond)))
		require.False(t, c.Takes(end.Add(attempt.Grace)))
	})
}
