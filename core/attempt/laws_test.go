package attempt_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/attempt"
	"pineledger/core/window"
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
				require.NoError(t, s.TakesAnswers(window.Reading{State: window.Working}, now), "who may work may also be kept")
			}
		}
	})
}

// Grace lets late answers in and nothing else: it is over after its length, and
// it never lets anybody work.
func TestGraceIsShort(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		seconds := func(name string, most int) time.Duration {
			return time.Duration(rapid.IntRange(0, most).Draw(t, name)) * time.Second
		}
		s := attempt.Sitting{Door: rapid.SampledFrom([]attempt.DoorState{attempt.Open, attempt.Held, attempt.Closed}).Draw(t, "door"), Opens: nine, Closes: nine.Add(seconds("window", 4000) + time.Second)}
		s.DoorAt = nine.Add(seconds("moved", 3000))
		now := nine.Add(seconds("now", 4000))
		if s.DoorAt.After(now) {
			s.Door = attempt.Open
		}
		r := reading(t, s, now)
		if s.TakesAnswers(r, now) != nil || s.MayGoOn(r, now) == nil {
			return
		}
		sinceDoor, sinceEnd := now.Sub(s.DoorAt), now.Sub(r.EndsAt)
		require.True(t, sinceDoor < attempt.Grace || r.State == window.Over && sinceEnd < attempt.Grace, "%s after the door, %s after the end", sinceDoor, sinceEnd)
	})
}
