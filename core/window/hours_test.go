package window_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/window"
)

func instant(t require.TestingT, text string) time.Time {
	out, err := time.Parse(time.RFC3339, text)
	require.NoError(t, err)
	return out.UTC()
}

func pacific(t require.TestingT) *time.Location {
	zone, err := time.LoadLocation("America/Los_Angeles")
	require.NoError(t, err)
	return zone
}

func TestHoursOfTheDayAreSaidAsAmericansDo(t *testing.T) {
	for want, s := range map[string]window.Stretch{
		"8:45 to 11:30 am":     {From: "08:45", To: "11:30"},
		"8:45 am to 1:05 pm":   {From: "08:45", To: "13:05"},
		"12:00 to 12:30 pm":    {From: "12:00", To: "12:30"},
		"12:00 to 1:00 am":     {From: "00:00", To: "01:00"},
		"10:00 pm to 12:00 am": {From: "22:00", To: "24:00"},
	} {
		assert.Equal(t, want, s.String())
	}
	assert.Equal(t, 165, window.Stretch{From: "08:45", To: "11:30"}.Minutes())
	assert.Zero(t, window.Stretch{From: "9", To: "11:30"}.Minutes())
}

func TestStretchesThatCannotBe(t *testing.T) {
	for name, c := range map[string]struct {
		stretches []window.Stretch
		want      error
	}{
		"one":                     {[]window.Stretch{{"08:45", "11:30"}}, nil},
		"two that touch":          {[]window.Stretch{{"11:30", "12:00"}, {"08:45", "11:30"}}, nil},
		"two that overlap":        {[]window.Stretch{{"11:29", "12:00"}, {"08:45", "11:30"}}, window.ErrOverlaps},
		"an end at the beginning": {[]window.Stretch{{"08:45", "08:45"}}, window.ErrStretch},
		"no such hour":            {[]window.Stretch{{"08:45", "25:00"}}, window.ErrStretch},
		"without its zero":        {[]window.Stretch{{"8:45", "11:30"}}, window.ErrStretch},
		"to midnight":             {[]window.Stretch{{"08:45", "24:00"}}, nil},
	} {
		got, err := window.Ordered(c.stretches)
		assert.Equal(t, c.want, err, name)
		if err == nil && len(got) == 2 {
			assert.Equal(t, "08:45", got[0].From, name)
		}
	}
}

// The week in which clocks go back (Sunday, November 1, 2026), in Pacific time: nine in the morning is nine by the wall.
func TestATimetableFollowsTheClockOnTheWall(t *testing.T) {
	table := window.Timetable{Hours: []window.Stretch{{"09:00", "10:00"}}, Weekdays: []time.Weekday{time.Monday, time.Friday}, Zone: pacific(t)}
	w := window.Window{From: instant(t, "2026-10-30T16:30:00Z"), To: instant(t, "2026-11-09T17:30:00Z")}
	assert.Equal(t, []window.Window{
		{From: instant(t, "2026-10-30T16:30:00Z"), To: instant(t, "2026-10-30T17:00:00Z")}, // Friday, in summer time, cut by the window
		{From: instant(t, "2026-11-02T17:00:00Z"), To: instant(t, "2026-11-02T18:00:00Z")},
		{From: instant(t, "2026-11-06T17:00:00Z"), To: instant(t, "2026-11-06T18:00:00Z")},
		{From: instant(t, "2026-11-09T17:00:00Z"), To: instant(t, "2026-11-09T17:30:00Z")},
	}, table.Spans(w))
	table.Off = []string{"2026-11-06"}
	assert.Len(t, table.Spans(w), 3, "a day without school is left out")
}

func TestTheHoursInWhichClocksChange(t *testing.T) {
	for name, c := range map[string]struct {
		day, from, to string
		want          time.Duration
	}{
		"autumn, over the hour that comes twice": {"2026-11-01", "00:30", "02:00", 150 * time.Minute},
		"autumn, all day":                        {"2026-11-01", "00:00", "24:00", 25 * time.Hour},
		"spring, over the hour that is left out": {"2027-03-14", "01:30", "03:30", time.Hour},
		"spring, within the hour left out":       {"2027-03-14", "02:10", "02:40", 0},
		"spring, from within it":                 {"2027-03-14", "02:30", "03:30", 30 * time.Minute},
		"spring, all day":                        {"2027-03-14", "00:00", "24:00", 23 * time.Hour},
		"any other day":                          {"2026-12-01", "02:10", "02:40", 30 * time.Minute},
	} {
		day, err := time.ParseInLocation(time.DateOnly, c.day, pacific(t))
		require.NoError(t, err)
		table := window.Timetable{Hours: []window.Stretch{{c.from, c.to}}, Zone: pacific(t)}
		var sum time.Duration
		for _, s := range table.Spans(window.Window{From: day, To: day.AddDate(0, 0, 1)}) {
			sum += s.To.Sub(s.From)
		}
		assert.Equal(t, c.want, sum, name)
	}
}

func TestDaysThatFollowAreOneSpan(t *testing.T) {
	w := window.Window{From: instant(t, "2026-11-30T08:00:00Z"), To: instant(t, "2026-12-05T08:00:00Z")}
	table := window.Timetable{Off: []string{"2026-12-02"}}
	assert.Equal(t, []window.Window{
		{From: w.From, To: instant(t, "2026-12-02T00:00:00Z")}, {From: instant(t, "2026-12-03T00:00:00Z"), To: w.To},
	}, table.Spans(w))
	assert.Equal(t, []window.Window{w}, window.Timetable{}.Spans(w))
}

// 60 minutes, 9 to 9:40 each day: who begins at 9:10 is through half an hour the first day, and goes on the next.
func TestAClockRunsInTheHoursOfTheDay(t *testing.T) {
	w := window.Window{From: instant(t, "2026-11-30T00:00:00Z"), To: instant(t, "2026-12-03T00:00:00Z")}
	plan := window.Plan{Window: w, Allowance: window.Allowance{Minutes: 60}, Spans: window.Timetable{Hours: []window.Stretch{{"09:00", "09:40"}}}.Spans(w)}
	clock, err := plan.Clock()
	require.NoError(t, err)
	require.NoError(t, clock.Apply(window.Event{At: instant(t, "2026-11-30T08:00:00Z"), What: window.DoorOpens}))
	early := clock
	require.EqualError(t, early.Apply(window.Event{At: instant(t, "2026-11-30T08:59:59Z"), What: window.Begin}), "begin: it is outside the hours of the day")
	require.NoError(t, clock.Apply(window.Event{At: instant(t, "2026-11-30T09:10:00Z"), What: window.Begin}))
	for now, want := range map[string]window.Reading{
		"2026-11-30T09:20:00Z": {State: window.Working, Worked: 10 * time.Minute, Left: 50 * time.Minute, EndsAt: instant(t, "2026-12-01T09:30:00Z"), Because: window.ByLimit},
		"2026-11-30T09:40:00Z": {State: window.Waiting, Worked: 30 * time.Minute, Left: 30 * time.Minute, EndsAt: instant(t, "2026-12-01T09:30:00Z"), Because: window.ByLimit},
		"2026-12-01T09:10:00Z": {State: window.Working, Worked: 40 * time.Minute, Left: 20 * time.Minute, EndsAt: instant(t, "2026-12-01T09:30:00Z"), Because: window.ByLimit},
		"2026-12-01T09:35:00Z": {State: window.Over, Worked: time.Hour, EndsAt: instant(t, "2026-12-01T09:30:00Z"), Because: window.ByLimit},
	} {
		assert.Equal(t, want, clock.At(instant(t, now)), now)
	}
	shut := clock
	require.NoError(t, shut.Apply(window.Event{At: instant(t, "2026-11-30T09:20:00Z"), What: window.DoorCloses}))
	assert.Equal(t, plan.Window.To, shut.At(instant(t, "2026-11-30T09:25:00Z")).EndsAt, "behind a shut door only the window ends it")
}

func TestARestEndsByItself(t *testing.T) {
	plan := window.Plan{Window: window.Window{From: instant(t, "2026-11-30T09:00:00Z"), To: instant(t, "2026-11-30T15:00:00Z")}, Allowance: window.Allowance{Minutes: 60}, RestFor: 5 * time.Minute}
	clock, err := plan.Clock()
	require.NoError(t, err)
	for _, e := range []window.Event{
		{At: instant(t, "2026-11-30T09:00:00Z"), What: window.DoorOpens}, {At: instant(t, "2026-11-30T09:00:00Z"), What: window.Begin},
		{At: instant(t, "2026-11-30T09:10:00Z"), What: window.Rest}, {At: instant(t, "2026-11-30T09:12:00Z"), What: window.Rest},
	} {
		require.NoError(t, clock.Apply(e))
	}
	assert.Equal(t, 1, clock.Rests(), "to rest while resting is no second rest")
	assert.Equal(t, window.Reading{State: window.Resting, Worked: 10 * time.Minute, Left: 50 * time.Minute, EndsAt: instant(t, "2026-11-30T10:05:00Z"), Because: window.ByLimit}, clock.At(instant(t, "2026-11-30T09:14:00Z")))
	assert.Equal(t, window.Reading{State: window.Working, Worked: 15 * time.Minute, Left: 45 * time.Minute, EndsAt: instant(t, "2026-11-30T10:05:00Z"), Because: window.ByLimit}, clock.At(instant(t, "2026-11-30T09:20:00Z")))
	require.NoError(t, clock.Apply(window.Event{At: instant(t, "2026-11-30T09:21:00Z"), What: window.Rest}))
	assert.Equal(t, 2, clock.Rests())
}

// Other hours from 9:20 on: what was worked before counts, what comes goes by the new ones, and an end stays an end.
func TestAClockUnderOtherTerms(t *testing.T) {
	w := window.Window{From: instant(t, "2026-11-30T09:00:00Z"), To: instant(t, "2026-11-30T15:00:00Z")}
	plan := func(from, to string, minutes int) window.Plan {
		return window.Plan{Window: w, Allowance: window.Allowance{Minutes: minutes}, Spans: window.Timetable{Hours: []window.Stretch{{from, to}}}.Spans(w)}
	}
	clock, err := plan("09:00", "12:00", 60).Clock()
	require.NoError(t, err)
	require.NoError(t, clock.Apply(window.Event{At: w.From, What: window.DoorOpens}))
	require.NoError(t, clock.Apply(window.Event{At: w.From, What: window.Begin}))
	ended := clock
	require.NoError(t, clock.Turn(instant(t, "2026-11-30T09:20:00Z"), plan("10:00", "11:00", 75)))
	assert.Equal(t, window.Reading{State: window.Waiting, Worked: 20 * time.Minute, Left: 55 * time.Minute, EndsAt: instant(t, "2026-11-30T10:55:00Z"), Because: window.ByLimit}, clock.At(instant(t, "2026-11-30T09:50:00Z")))
	assert.Equal(t, window.Working, clock.At(instant(t, "2026-11-30T10:10:00Z")).State)
	require.Error(t, clock.Turn(w.From, plan("10:00", "11:00", 75)), "not before what has happened")
	require.ErrorIs(t, clock.Turn(instant(t, "2026-11-30T10:30:00Z"), window.Plan{}), window.ErrWindow)
	require.NoError(t, ended.Turn(instant(t, "2026-11-30T10:30:00Z"), plan("10:00", "15:00", 600)))
	assert.Equal(t, window.Over, ended.At(instant(t, "2026-11-30T10:30:00Z")).State)
}

// However a day is cut into stretches, what is worked never exceeds what the stretches hold nor what is allowed, and time
// that was read in many steps is the time read at once.
func TestTimeCountsOnlyInTheHours(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		from := rapid.IntRange(0, 1300).Draw(t, "from")
		to := rapid.IntRange(from+1, 1439).Draw(t, "to")
		hhmm := func(m int) string {
			return time.Date(2026, 1, 1, 0, m, 0, 0, time.UTC).Format("15:04")
		}
		w := window.Window{From: instant(t, "2026-11-30T00:00:00Z"), To: instant(t, "2026-12-03T00:00:00Z")}
		minutes := rapid.IntRange(1, 3000).Draw(t, "minutes")
		plan := window.Plan{Window: w, Allowance: window.Allowance{Minutes: minutes}, Spans: window.Timetable{Hours: []window.Stretch{{hhmm(from), hhmm(to)}}}.Spans(w)}
		clock, err := plan.Clock()
		require.NoError(t, err)
		begin := w.From.Add(time.Duration(from) * time.Minute)
		require.NoError(t, clock.Apply(window.Event{At: begin, What: window.DoorOpens}))
		require.NoError(t, clock.Apply(window.Event{At: begin, What: window.Begin}))
		stepped := clock
		now := begin
		for range rapid.IntRange(1, 12).Draw(t, "steps") {
			now = now.Add(time.Duration(rapid.IntRange(0, 600).Draw(t, "step")) * time.Minute)
			_ = stepped.Apply(window.Event{At: now, What: window.DoorOpens}) // an open door that opens changes nothing
		}
		got := clock.At(now)
		require.Equal(t, got, stepped.At(now))
		require.LessOrEqual(t, got.Worked, time.Duration(minutes)*time.Minute)
		require.LessOrEqual(t, got.Worked, 3*time.Duration(to-from)*time.Minute)
		if got.Because == window.ByLimit && got.State != window.Over {
			require.Equal(t, window.Over, clock.At(got.EndsAt).State, "it ends when it said")
			require.NotEqual(t, window.Over, clock.At(got.EndsAt.Add(-time.Second)).State)
		}
	})
}

func TestWhatOneTimetableAndAnotherLeaveOut(t *testing.T) {
	assert.True(t, window.Timetable{}.Always())
	assert.True(t, window.Timetable{Zone: time.UTC}.Always(), "a zone leaves nothing out")
	for name, leaves := range map[string]window.Timetable{
		"hours": {Hours: []window.Stretch{{From: "08:00", To: "09:00"}}}, "weekdays": {Weekdays: []time.Weekday{time.Monday}}, "days off": {Off: []string{"2026-11-30"}},
	} {
		assert.False(t, leaves.Always(), name)
	}
	from := instant(t, "2026-11-30T00:00:00Z")
	monday := window.Timetable{Weekdays: []time.Weekday{time.Monday}}
	assert.Equal(t, []window.Window{{From: from, To: from.Add(24 * time.Hour)}}, monday.Spans(window.Window{From: from, To: from.Add(24 * time.Hour)}), "a window that ends at midnight has no next day")
}

func TestAStretchThatCannotBeIsSaidAsItStands(t *testing.T) {
	assert.Equal(t, "9 to 11:30", window.Stretch{From: "9", To: "11:30"}.String())
	assert.Zero(t, window.Stretch{From: "08:00", To: "soon"}.Minutes())
}

func TestAWindowEndsLaterOnlyForWhoHasALimitAndMore(t *testing.T) {
	w := window.Window{From: instant(t, "2026-11-30T17:00:00Z"), To: instant(t, "2026-11-30T19:00:00Z")}
	assert.Equal(t, w.To, window.Allowance{Minutes: 60, Factor: 150}.End(w), "it is not said that it ends later")
	assert.Equal(t, w.To, window.Allowance{Factor: 150, Extra: 9, Extends: true}.End(w), "without a limit nothing is added")
	assert.Equal(t, w.To.Add(30*time.Minute), window.Allowance{Minutes: 60, Factor: 150, Extends: true}.End(w))
	assert.Equal(t, w.To.Add(35*time.Minute), window.Allowance{Minutes: 60, Factor: 150, Extra: 5, Extends: true}.End(w))
}

func TestARestWithoutALengthGoesOnUntilItIsEnded(t *testing.T) {
	from := instant(t, "2026-11-30T17:00:00Z")
	clock, err := window.Plan{Window: window.Window{From: from, To: from.Add(4 * time.Hour)}, Allowance: window.Allowance{Minutes: 60}}.Clock()
	require.NoError(t, err)
	for _, e := range []window.Event{{At: from, What: window.DoorOpens}, {At: from, What: window.Begin}, {At: from.Add(10 * time.Minute), What: window.Rest}} {
		require.NoError(t, clock.Apply(e))
	}
	later := clock.At(from.Add(90 * time.Minute))
	assert.Equal(t, []any{window.Resting, 50 * time.Minute, from.Add(4 * time.Hour)}, []any{later.State, later.Left, later.EndsAt}, "nobody knows when it goes on, so the window is its end")
}
