package attempt_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/attempt"
	"pineledger/core/settings"
	"pineledger/core/window"
)

func TestWhoseSeatMayMove(t *testing.T) {
	for _, c := range []struct {
		name  string
		state attempt.State
		clock window.State
		err   error
	}{
		{"not begun", "", window.NotBegun, nil},
		{"begun, the door is shut", attempt.Working, window.Waiting, nil},
		{"at work", attempt.Working, window.Working, attempt.ErrAtWork},
		{"on a break", attempt.Working, window.Resting, attempt.ErrAtWork},
		{"out of time, waits for staff", attempt.Working, window.Over, attempt.ErrClockOver},
		{"handed in a moment ago", attempt.Working, window.HandedIn, attempt.ErrClockOver},
		{"handed in, waits for a reader", attempt.HandedIn, window.HandedIn, attempt.ErrHasHandedIn},
		{"scored", attempt.Scored, window.HandedIn, attempt.ErrHasHandedIn},
	} {
		assert.Equal(t, c.err, attempt.MayMove(c.state, window.Reading{State: c.clock}), c.name)
	}
}

// Twenty minutes are worked before the seat moves; they stay worked, and those of the new window come to them.
func TestTheClockOfASeatThatMoves(t *testing.T) {
	day := time.Date(2027, 1, 12, 14, 0, 0, 0, time.UTC)
	at := func(minutes int) time.Time { return day.Add(time.Duration(minutes) * time.Minute) }
	setup := attempt.Setup{Opens: at(0), Closes: at(60), Ends: at(60), Settings: settings.Values{settings.Minutes: settings.Raw(45)}}
	clock, err := attempt.NewTerms(setup, nil).Plan().Clock()
	require.NoError(t, err)
	for _, e := range []window.Event{attempt.DoorEvent(attempt.Open, at(0)), {At: at(5), What: window.Begin}, attempt.DoorEvent(attempt.Closed, at(25))} {
		require.NoError(t, clock.Apply(e))
	}
	later := attempt.Setup{Opens: at(24 * 60), Closes: at(26 * 60), Ends: at(26 * 60), Settings: settings.Values{settings.Minutes: settings.Raw(45)}}
	require.NoError(t, clock.Turn(at(30), attempt.NewTerms(later, nil).Plan()))
	require.NoError(t, clock.Apply(attempt.DoorEvent(attempt.Waiting, at(30))))
	assert.Equal(t, window.Waiting, clock.At(at(70)).State, "the old window's end ends nothing")
	require.NoError(t, clock.Apply(attempt.DoorEvent(attempt.Open, at(24*60+10))))
	r := clock.At(at(24*60 + 20))
	assert.Equal(t, 30*time.Minute, r.Worked)
	assert.Equal(t, at(24*60+35), r.EndsAt)
}
