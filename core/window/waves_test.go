package window_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/window"
)

func TestWhichWaveASectionIsIn(t *testing.T) {
	w := window.Waves{Waves: []window.Wave{{Name: "rest"}, {Name: "two", Schools: []int64{2, 3}}, {Name: "late", Sections: []int64{31}}}}
	for name, c := range map[string]struct {
		school, section int64
		wave            int
	}{
		"its own before its school's": {3, 31, 2},
		"its school's":                {3, 30, 1},
		"the rest":                    {1, 10, 0},
	} {
		assert.Equal(t, c.wave, w.Of(c.school, c.section), name)
	}
	assert.Equal(t, -1, window.Waves{Waves: w.Waves[1:]}.Of(1, 10), "no wave is for it")
}

func TestWavesThatCannotBe(t *testing.T) {
	for name, c := range map[string]struct {
		waves []window.Wave
		at    int
		err   error
	}{
		"none at all":      {nil, -1, nil},
		"all apart":        {[]window.Wave{{Schools: []int64{1}}, {Schools: []int64{2}, Sections: []int64{1}}, {}}, -1, nil},
		"a school twice":   {[]window.Wave{{Schools: []int64{1}}, {Schools: []int64{2, 1}}}, 1, window.ErrSchoolTwice},
		"a section twice":  {[]window.Wave{{}, {Sections: []int64{5}}, {Sections: []int64{5}}}, 2, window.ErrSectionTwice},
		"two for the rest": {[]window.Wave{{}, {Schools: []int64{1}}, {}}, 2, window.ErrTwoRests},
	} {
		at, err := window.Waves{Waves: c.waves}.Fault()
		assert.Equal(t, c.at, at, name)
		assert.Equal(t, c.err, err, name)
	}
}

func TestTheWholeOfWaves(t *testing.T) {
	day := func(n int) time.Time { return time.Date(2026, 10, n, 8, 0, 0, 0, time.UTC) }
	w := window.Waves{Waves: []window.Wave{{From: day(13), To: day(15)}, {From: day(12), To: day(14)}, {To: day(20)}, {}}}
	assert.Equal(t, window.Window{From: day(12), To: day(20)}, w.Whole())
	assert.Equal(t, window.Window{}, window.Waves{}.Whole())
	assert.True(t, w.Waves[0].Dated())
	assert.False(t, w.Waves[2].Dated())
	assert.Equal(t, window.Window{From: day(13), To: day(15)}, window.OneWave(day(13), day(15)).Waves[0].Window())
}

func TestTheDaysOfAWindow(t *testing.T) {
	zone := pacific(t)
	local := func(day, hour int) time.Time { return time.Date(2027, 1, day, hour, 0, 0, 0, zone) }
	// Monday to the Wednesday after; Tuesday is snow.
	w := window.Window{From: local(11, 9), To: local(20, 16)}
	table := window.Timetable{Hours: []window.Stretch{{From: "08:00", To: "10:00"}, {From: "12:00", To: "13:00"}}, Off: []string{"2027-01-12"}, Zone: zone}
	days := table.Days(w)
	require.Len(t, days, 10)
	assert.Equal(t, window.Day{Date: "2027-01-11", Spans: []window.Window{{From: local(11, 9).UTC(), To: local(11, 10).UTC()}, {From: local(11, 12).UTC(), To: local(11, 13).UTC()}}}, inUTC(days[0]))
	assert.Equal(t, window.Day{Date: "2027-01-12", Off: true}, days[1])
	assert.Equal(t, []string{"2027-01-11", "2027-01-13", "2027-01-14", "2027-01-15", "2027-01-18", "2027-01-19", "2027-01-20"}, table.SchoolDays(w), "no weekend")
	table.Weekdays = []time.Weekday{time.Saturday}
	assert.Equal(t, []string{"2027-01-16"}, table.SchoolDays(w), "but where it is said")
	assert.Len(t, window.Timetable{}.Days(window.Window{From: local(11, 9).UTC(), To: local(12, 9).UTC()}), 2)
	// A window without hours goes on over midnight: each day has its part.
	whole := window.Timetable{Zone: zone}.Days(window.Window{From: local(11, 9), To: local(12, 9)})
	assert.Equal(t, []window.Window{{From: local(11, 9).UTC(), To: local(12, 0).UTC()}}, inUTC(whole[0]).Spans)
	assert.Equal(t, []window.Window{{From: local(12, 0).UTC(), To: local(12, 9).UTC()}}, inUTC(whole[1]).Spans)
}

func inUTC(d window.Day) window.Day {
	for i, s := range d.Spans {
		d.Spans[i] = window.Window{From: s.From.UTC(), To: s.To.UTC()}
	}
	return d
}

func TestWhichWindowMayMove(t *testing.T) {
	hour := func(n int) time.Time { return time.Date(2026, 10, 13, n, 0, 0, 0, time.UTC) }
	was := window.Window{From: hour(8), To: hour(12)}
	for name, c := range map[string]struct {
		from, to int
		begun    bool
		now      int
		err      error
	}{
		"later, nobody has begun":      {9, 13, false, 7, nil},
		"earlier, nobody has begun":    {6, 8, false, 5, nil},
		"into the past":                {6, 8, false, 8, window.ErrMovesOver},
		"to this very moment":          {6, 9, true, 9, window.ErrMovesOver},
		"its end later, though begun":  {8, 13, true, 9, nil},
		"begins earlier, though begun": {7, 12, true, 9, nil},
		"ends earlier where begun":     {8, 11, true, 9, window.ErrEndsEarlier},
		"begins later where begun":     {9, 13, true, 10, window.ErrBeginsLater},
		"once more when it was over":   {8, 20, true, 12, window.ErrStaysForGood},
		"when it is over, begun never": {8, 20, false, 12, nil},
	} {
		assert.Equal(t, c.err, window.MayMove(was, window.Window{From: hour(c.from), To: hour(c.to)}, c.begun, hour(c.now)), name)
	}
	assert.Equal(t, was, window.Waves{Waves: []window.Wave{{From: was.From, To: was.To}}}.WindowOf(1, 1))
	assert.Equal(t, window.Window{}, window.Waves{}.WindowOf(1, 1))
}
