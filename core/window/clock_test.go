package window_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/window"
)

var (
	nine   = time.Date(2026, 11, 30, 9, 0, 0, 0, time.UTC)
	school = window.Window{From: nine, To: nine.Add(6 * time.Hour)}
	week   = window.Window{From: nine, To: nine.Add(5 * 24 * time.Hour)}
)

// at makes an event so many minutes after nine.
func at(minutes float64, what window.What) window.Event {
	return window.Event{At: nine.Add(time.Duration(minutes * float64(time.Minute))), What: what}
}

func clock(t require.TestingT, w window.Window, a window.Allowance, events ...window.Event) window.Clock {
	c, err := window.New(w, a)
	require.NoError(t, err)
	for _, e := range events {
		require.NoError(t, c.Apply(e))
	}
	return c
}

func TestWhatTheClockShows(t *testing.T) {
	hour := window.Allowance{Minutes: 60}
	for _, c := range []struct {
		name   string
		window window.Window
		allow  window.Allowance
		events []window.Event
		now    float64
		want   window.Reading // EndsAt as minutes after nine in ends
		ends   float64
	}{
		{"nobody has begun", school, hour, []window.Event{at(0, window.DoorOpens)}, 30,
			window.Reading{State: window.NotBegun, Left: time.Hour}, -1},
		{"time counts from begin", school, hour, []window.Event{at(0, window.DoorOpens), at(5, window.Begin)}, 25,
			window.Reading{State: window.Working, Worked: 20 * time.Minute, Left: 40 * time.Minute, Because: window.ByLimit}, 65},
		{"a closed door stops it, and the next day goes on with what is left", week, window.Allowance{Minutes: 90},
			[]window.Event{at(0, window.DoorOpens), at(0, window.Begin), at(50, window.DoorCloses), at(24*60, window.DoorOpens)}, 24*60 + 10,
			window.Reading{State: window.Working, Worked: time.Hour, Left: 30 * time.Minute, Because: window.ByLimit}, 24*60 + 40},
		{"overnight nothing is handed in", week, window.Allowance{Minutes: 90},
			[]window.Event{at(0, window.DoorOpens), at(0, window.Begin), at(50, window.DoorCloses)}, 20 * 60,
			window.Reading{State: window.Waiting, Worked: 50 * time.Minute, Left: 40 * time.Minute, Because: window.ByWindow}, 5 * 24 * 60},
		{"a paused door stops it", school, hour, []window.Event{at(0, window.DoorOpens), at(0, window.Begin), at(10, window.DoorPauses)}, 30,
			window.Reading{State: window.Waiting, Worked: 10 * time.Minute, Left: 50 * time.Minute, Because: window.ByWindow}, 360},
		{"a granted rest stops it", school, hour, []window.Event{at(0, window.DoorOpens), at(0, window.Begin), at(10, window.Rest), at(15, window.Rest), at(20, window.Resume)}, 30,
			window.Reading{State: window.Working, Worked: 20 * time.Minute, Left: 40 * time.Minute, Because: window.ByLimit}, 70},
		{"the limit ends it at its very instant", school, hour, []window.Event{at(0, window.DoorOpens), at(0, window.Begin)}, 60,
			window.Reading{State: window.Over, Worked: time.Hour, Because: window.ByLimit}, 60},
		{"the limit is named where the window ends at the same instant", window.Window{From: nine, To: nine.Add(time.Hour)}, hour, []window.Event{at(0, window.DoorOpens), at(0, window.Begin)}, 90,
			window.Reading{State: window.Over, Worked: time.Hour, Because: window.ByLimit}, 60},
		{"the window ends who rests", school, hour, []window.Event{at(0, window.DoorOpens), at(0, window.Begin), at(10, window.Rest)}, 400,
			window.Reading{State: window.Over, Worked: 10 * time.Minute, Left: 50 * time.Minute, Because: window.ByWindow}, 360},
		{"extra time is a factor and minutes, and may extend the window", window.Window{From: nine, To: nine.Add(time.Hour)}, window.Allowance{Minutes: 60, Factor: 150, Extra: 5, Extends: true},
			[]window.Event{at(0, window.DoorOpens), at(0, window.Begin)}, 70,
			window.Reading{State: window.Working, Worked: 70 * time.Minute, Left: 25 * time.Minute, Because: window.ByLimit}, 95},
		{"handing in needs no open door", school, hour, []window.Event{at(0, window.DoorOpens), at(0, window.Begin), at(10, window.DoorCloses), at(12, window.HandIn), at(13, window.Resume)}, 30,
			window.Reading{State: window.HandedIn, Worked: 10 * time.Minute, Left: 50 * time.Minute, Because: window.ByHand}, 12},
		{"a hand-in at the instant of the end is late", school, hour, []window.Event{at(0, window.DoorOpens), at(0, window.Begin), at(60, window.HandIn)}, 61,
			window.Reading{State: window.Over, Worked: time.Hour, Because: window.ByLimit}, 60},
		{"without a limit only the window ends it", school, window.Allowance{Factor: 900, Extra: -3, Extends: true}, []window.Event{at(0, window.DoorOpens), at(0, window.Begin)}, 300,
			window.Reading{State: window.Working, Worked: 5 * time.Hour, Because: window.ByWindow}, 360},
	} {
		got := clock(t, c.window, c.allow, c.events...).At(at(c.now, "").At)
		if c.ends >= 0 {
			c.want.EndsAt = at(c.ends, "").At
		}
		assert.Equal(t, c.want, got, c.name)
	}
}

func TestWhatIsAllowedIsRoundedUpToASecond(t *testing.T) {
	assert.Equal(t, 61*time.Second, window.Allowance{Minutes: 1, Factor: 101}.Time())
	assert.Equal(t, 60*time.Second, window.Allowance{Minutes: 1}.Time())
	assert.Equal(t, 75*time.Second+2*time.Minute, window.Allowance{Minutes: 1, Factor: 125, Extra: 2}.Time())
	assert.Zero(t, window.Allowance{Extra: 2}.Time())
}

func TestWhatCannotFollowIsRefused(t *testing.T) {
	open := at(0, window.DoorOpens)
	for _, c := range []struct {
		events []window.Event
		want   string
	}{
		{[]window.Event{at(5, window.Begin)}, "begin: the door is not open"},
		{[]window.Event{at(-2, window.DoorOpens), at(-1, window.Begin)}, "begin: the window is not open"},
		{[]window.Event{open, at(360, window.Begin)}, "begin: the window is not open"},
		{[]window.Event{open, at(1, window.Begin), at(2, window.Begin)}, "begin: it has begun already"},
		{[]window.Event{open, at(1, window.Rest)}, "rest: it has not begun"},
		{[]window.Event{open, at(1, window.HandIn)}, "handIn: it has not begun"},
		{[]window.Event{open, at(1, window.Begin), at(2, window.Resume)}, "resume: there is no rest to end"},
		{[]window.Event{open, at(1, window.Begin), at(2, window.Rest), at(3, window.Resume), at(4, window.Resume)}, "resume: there is no rest to end"},
		{[]window.Event{at(3, window.DoorOpens), at(2, window.Begin)}, "begin: comes before the one before it"},
		{[]window.Event{open, at(1, "sing")}, "sing: there is no such event"},
	} {
		k, err := window.New(school, window.Allowance{Minutes: 60})
		require.NoError(t, err)
		for i, e := range c.events {
			if err = k.Apply(e); i < len(c.events)-1 {
				require.NoError(t, err, c.want)
			}
		}
		assert.EqualError(t, err, c.want)
	}
	late := clock(t, window.Window{From: nine, To: nine.Add(time.Hour)}, window.Allowance{Minutes: 60, Factor: 200, Extends: true}, open, at(90, window.Begin))
	assert.Equal(t, window.Working, late.At(at(91, "").At).State, "with a window that extends one may begin until its later end")
}

func TestWhatCannotBeIsRefused(t *testing.T) {
	for _, c := range []struct {
		window window.Window
		allow  window.Allowance
		want   error
	}{
		{window.Window{From: nine, To: nine}, window.Allowance{}, window.ErrWindow},
		{school, window.Allowance{Minutes: -1}, window.ErrMinutes},
		{school, window.Allowance{Minutes: window.MostMinutes + 1}, window.ErrMinutes},
		{school, window.Allowance{Minutes: 1, Factor: 99}, window.ErrFactor},
		{school, window.Allowance{Minutes: 1, Factor: 401}, window.ErrFactor},
		{school, window.Allowance{Minutes: 1, Extra: -1}, window.ErrExtra},
		{school, window.Allowance{Minutes: 1, Extra: window.MostMinutes + 1}, window.ErrExtra},
		{school, window.Allowance{Minutes: 1, Factor: 100}, nil},
		{school, window.Allowance{Minutes: window.MostMinutes, Factor: 400, Extra: window.MostMinutes}, nil},
	} {
		_, err := window.New(c.window, c.allow)
		assert.Equal(t, c.want, err, "%+v", c.allow)
	}
}

// byTheSecond keeps a clock as one would with a stopwatch: second by second.
func byTheSecond(w window.Window, a window.Allowance, events []window.Event, now time.Time) (worked time.Duration, state window.State) {
	open, begun, resting := false, false, false
	state = window.NotBegun
	end := a.End(w)
	for s := nine.Add(-time.Hour); ; s = s.Add(time.Second) {
		if begun && (state == window.Working || state == window.Resting || state == window.Waiting) {
			if a.Limited() && worked >= a.Time() || !s.Before(end) {
				state = window.Over
			}
		}
		for _, e := range events {
			if !e.At.Equal(s) || state == window.Over || state == window.HandedIn {
				continue
			}
			switch e.What {
			case window.DoorOpens:
				open = true
			case window.DoorPauses, window.DoorCloses:
				open = false
			case window.Begin:
				begun = true
			case window.Rest:
				resting = true
			case window.Resume:
				resting = false
			case window.HandIn:
				state = window.HandedIn
			}
		}
		if begun && state != window.Over && state != window.HandedIn {
			state = window.Working
			if resting {
				state = window.Resting
			} else if !open {
				state = window.Waiting
			}
		}
		if s.Equal(now) {
			return worked, state
		}
		if state == window.Working {
			worked += time.Second
		}
	}
}

// Whatever happens over a morning, the clock agrees with a stopwatch, never shows
// more than is allowed, and its reading does not depend on how often it was read.
func TestTheClockIsAStopwatch(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w := window.Window{From: nine, To: nine.Add(time.Duration(rapid.IntRange(1, 600).Draw(t, "window")) * time.Second)}
		a := window.Allowance{Minutes: rapid.IntRange(0, 6).Draw(t, "minutes"), Factor: rapid.IntRange(100, 400).Draw(t, "factor"),
			Extra: rapid.IntRange(0, 2).Draw(t, "extra"), Extends: rapid.Bool().Draw(t, "extends")}
		c, err := window.New(w, a)
		require.NoError(t, err)
		now := nine.Add(-time.Minute)
		var events []window.Event
		for range rapid.IntRange(0, 12).Draw(t, "events") {
			now = now.Add(time.Duration(rapid.IntRange(0, 120).Draw(t, "later")) * time.Second)
			e := window.Event{At: now, What: rapid.SampledFrom(window.Whats).Draw(t, "what")}
			before := c
			if c.Apply(e) != nil {
				c = before
				continue
			}
			events = append(events, e)
		}
		now = now.Add(time.Duration(rapid.IntRange(0, 400).Draw(t, "last")) * time.Second)
		r := c.At(now)
		worked, state := byTheSecond(w, a, events, now)
		require.Equal(t, fmt.Sprint(worked, state), fmt.Sprint(r.Worked, r.State), "%+v", events)
		if a.Limited() {
			require.Equal(t, a.Time(), r.Worked+r.Left)
			require.GreaterOrEqual(t, r.Left, time.Duration(0))
		}
		if r.State == window.Working {
			require.Equal(t, window.Working, c.At(r.EndsAt.Add(-time.Nanosecond)).State)
			require.Equal(t, window.Over, c.At(r.EndsAt).State)
		}
		ended := r.State == window.Over || r.State == window.HandedIn
		require.Equal(t, ended, !r.EndsAt.IsZero() && !r.EndsAt.After(now))
	})
}
