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
	s.Door, s.Spans = attempt.Open, []window.Window{{From: nine, To: nine.Add(time.Hour)}}
	assert.NoError(t, s.MayWork(nine.Add(time.Hour-1)))
	assert.Equal(t, attempt.ErrOutsideHours, s.MayWork(nine.Add(time.Hour)))
	assert.Equal(t, attempt.Stop("outside hours"), attempt.StopOf(attempt.ErrOutsideHours))
	s.Spans = []window.Window{}
	assert.Equal(t, attempt.ErrOutsideHours, s.MayWork(nine), "no hour at all")
}

// reading is a clock of fifty minutes that began at nine, with the door as it is.
func reading(t require.TestingT, s attempt.Sitting, now time.Time) window.Reading {
	clock, err := attempt.NewTerms(attempt.NewSetup(settings.Values{settings.Minutes: settings.Raw(50)}, nil, s.Opens, s.Closes, time.UTC), nil).Plan().Clock()
	require.NoError(t, err)
	require.NoError(t, clock.Apply(attempt.DoorEvent(attempt.Open, s.Opens)))
	require.NoError(t, clock.Apply(window.Event{At: s.Opens, What: window.Begin}))
	if s.Door != attempt.Open && !s.DoorAt.After(now) {
		require.NoError(t, clock.Apply(attempt.DoorEvent(s.Door, s.DoorAt)))
	}
	return clock.At(now)
}

func TestGraceIsFifteenSeconds(t *testing.T) {
	shut := nine.Add(30 * time.Minute)
	s := attempt.Sitting{Door: attempt.Closed, DoorAt: shut, Opens: nine, Closes: nine.Add(8 * time.Hour)}
	at := func(seconds int) error {
		now := shut.Add(time.Duration(seconds) * time.Second)
		return s.TakesAnswers(reading(t, s, now), now)
	}
	assert.NoError(t, at(14))
	assert.Equal(t, attempt.ErrDoorClosed, at(15))
}

func TestAnswersOnTheirWayStillArrive(t *testing.T) {
	takes := func(s attempt.Sitting, now time.Time) error { return s.TakesAnswers(reading(t, s, now), now) }
	shut := nine.Add(30 * time.Minute)
	s := attempt.Sitting{Door: attempt.Closed, DoorAt: shut, Opens: nine, Closes: nine.Add(8 * time.Hour)}
	assert.NoError(t, takes(s, shut.Add(attempt.Grace-1)))
	assert.Equal(t, attempt.ErrDoorClosed, takes(s, shut.Add(attempt.Grace)))
	s.Door = attempt.Held
	assert.NoError(t, takes(s, shut.Add(attempt.Grace-1)))
	assert.Equal(t, attempt.ErrDoorPaused, takes(s, shut.Add(attempt.Grace)))
	s.Door = attempt.Open
	over := nine.Add(50 * time.Minute)
	assert.NoError(t, takes(s, over.Add(attempt.Grace-1)))
	assert.Equal(t, attempt.ErrTimeOver, takes(s, over.Add(attempt.Grace)))
	hour := s
	hour.Spans = []window.Window{{From: nine, To: nine.Add(10 * time.Minute)}}
	waiting := window.Reading{State: window.Waiting}
	assert.NoError(t, hour.TakesAnswers(waiting, nine.Add(10*time.Minute+attempt.Grace-1)))
	assert.Equal(t, attempt.ErrOutsideHours, hour.TakesAnswers(waiting, nine.Add(10*time.Minute+attempt.Grace)))
	s.Closes = nine.Add(20 * time.Minute)
	assert.NoError(t, takes(s, s.Closes.Add(attempt.Grace-1)))
	assert.Equal(t, attempt.ErrWindowOver, takes(s, s.Closes.Add(attempt.Grace)))
}

func TestWhyWorkStandsStill(t *testing.T) {
	s := attempt.Sitting{Door: attempt.Waiting, Opens: nine, Closes: nine.Add(time.Hour)}
	now := nine.Add(time.Minute)
	for _, c := range []struct {
		name string
		r    window.Reading
		want error
	}{
		{"working", window.Reading{State: window.Working}, nil},
		{"resting", window.Reading{State: window.Resting}, attempt.ErrResting},
		{"handed in", window.Reading{State: window.HandedIn}, attempt.ErrHandedIn},
		{"over by its limit", window.Reading{State: window.Over, Because: window.ByLimit}, attempt.ErrTimeOver},
		{"over with the window", window.Reading{State: window.Over, Because: window.ByWindow}, attempt.ErrWindowOver},
		{"waiting", window.Reading{State: window.Waiting}, attempt.ErrDoorNotOpen},
		{"not begun", window.Reading{State: window.NotBegun}, attempt.ErrDoorNotOpen},
	} {
		assert.Equal(t, c.want, s.MayGoOn(c.r, now), c.name)
	}
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
		{attempt.Closed, attempt.Open, nine.Add(8 * time.Hour), attempt.ErrWindowOver},
		{attempt.Waiting, attempt.Open, nine, nil},
		{attempt.Open, attempt.Held, inside, nil},
		{attempt.Closed, attempt.Held, inside, attempt.ErrDoorMove},
		{attempt.Waiting, attempt.Held, inside, attempt.ErrDoorMove},
		{attempt.Held, attempt.Closed, inside, nil},
		{attempt.Closed, attempt.Closed, inside, attempt.ErrDoorMove},
		{attempt.Open, attempt.Closed, after, nil},
		{attempt.Waiting, attempt.Closed, inside, attempt.ErrDoorMove},
		{attempt.Open, attempt.Waiting, inside, attempt.ErrDoorMove},
	} {
		s := attempt.Sitting{Door: c.from, Opens: nine, Closes: nine.Add(8 * time.Hour)}
		assert.Equal(t, c.want, s.MoveDoor(c.to, c.at), "%s to %s", c.from, c.to)
	}
}

func TestWhichTryCounts(t *testing.T) {
	var none settings.Deductions
	tries := []attempt.Try{{1, true, 700, none}, {2, true, 900, none}, {3, true, 900, none}, {4, false, 300, none}}
	loses := []attempt.Try{{1, true, 700, none}, {2, true, 800, settings.Deductions{Retake: 160}}, {3, true, 950, settings.Deductions{Retake: 200, Late: 100, Days: 1}}}
	for _, c := range []struct {
		name  string
		tries []attempt.Try
		keep  attempt.Keep
		want  attempt.Counted
	}{
		{"the only one", tries[:1], attempt.KeepMean, attempt.Counted{1, true, 700, "The only try."}},
		{"of equal ones the earlier is the best", tries[:3], attempt.KeepBest, attempt.Counted{2, true, 900, "The best of 3 tries."}},
		{"one that waits could still be the best", tries, attempt.KeepBest, attempt.Counted{2, false, 900, "The best of 4 tries."}},
		{"the last, whatever the others", tries, attempt.KeepLast, attempt.Counted{4, false, 300, "The last of 4 tries."}},
		{"an earlier one that waits does not hold up the last", []attempt.Try{{1, false, 0, none}, {2, true, 500, none}}, attempt.KeepLast, attempt.Counted{2, true, 500, "The last of 2 tries."}},
		{"the mean is rounded half up", []attempt.Try{{1, true, 100, none}, {2, true, 101, none}}, attempt.KeepMean, attempt.Counted{2, true, 101, "The mean of 2 tries."}},
		{"a better retake that loses more is not the best", loses, attempt.KeepBest, attempt.Counted{1, true, 700, "The best of 3 tries."}},
		{"the last says what it loses", loses, attempt.KeepLast, attempt.Counted{3, true, 650, "The last of 3 tries. Try 3 earned 9.5 and loses 2 as a retake. Try 3 earned 9.5 and loses 1 as it came 1 day late."}},
		{"a mean says what each loses", loses[:2], attempt.KeepMean, attempt.Counted{2, true, 670, "The mean of 2 tries. Try 2 earned 8 and loses 1.6 as a retake."}},
		{"the only one, two days late", []attempt.Try{{1, true, 500, settings.Deductions{Late: 600, Days: 2}}}, attempt.KeepBest, attempt.Counted{1, true, 0, "The only try. Try 1 earned 5 and loses 6 as it came 2 days late."}},
		{"the mean of three", tries[:3], attempt.KeepMean, attempt.Counted{3, true, 833, "The mean of 3 tries."}},
	} {
		got, any := attempt.Counting(c.tries, c.keep)
		assert.True(t, any)
		assert.Equal(t, c.want, got, c.name)
	}
	_, any := attempt.Counting(nil, attempt.KeepBest)
	assert.False(t, any)
}

func TestNotReachedIsBlankToTheEnd(t *testing.T) {
	assert.Equal(t, 2, attempt.LastReached([]bool{true, false, true, false}))
	assert.Equal(t, -1, attempt.LastReached([]bool{false}))
	assert.Equal(t, -1, attempt.LastReached(nil))
	assert.Equal(t, 0, attempt.LastReached([]bool{true, false, false}), "the first alone")
	assert.Equal(t, 2, attempt.LastReached([]bool{false, false, true}), "the last alone")
}
