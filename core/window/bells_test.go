package window_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/window"
)

func TestBellTimesAreReadAsTheyAreTyped(t *testing.T) {
	got, err := window.ReadBells("Period\tDays\tFrom\tTo\n1\tMon–Thu\t8:15 am\t9:05 am\n\nAdvisory\tFriday\t08:15\t8:40 AM\n2\tmon wed\t13:00\t1:50pm\r\n")
	require.NoError(t, err)
	assert.Len(t, got, 7)
	assert.Equal(t, window.Bell{Name: "1", Weekday: time.Monday, Stretch: window.Stretch{From: "08:15", To: "09:05"}}, got[0])
	assert.Equal(t, "1, Mon-Thu, 8:15 am, 9:05 am\n2, Mon Wed, 1:00 pm, 1:50 pm\nAdvisory, Fri, 8:15 am, 8:40 am\n", got.String())
	got, err = window.ReadBells("1, 8:15, 9:05")
	require.NoError(t, err)
	assert.Equal(t, "1, Mon-Fri, 8:15 am, 9:05 am\n", got.String(), "no days are Monday to Friday")
	got, err = window.ReadBells("late, Fri-Mon, 22:00, 23:59")
	require.NoError(t, err)
	assert.Equal(t, "late, Sun Mon Fri Sat, 10:00 pm, 11:59 pm\n", got.String())
	got, err = window.ReadBells(" \n")
	require.NoError(t, err)
	assert.Empty(t, got)
}

func TestBellTimesThatCannotBeNameTheirLine(t *testing.T) {
	for text, want := range map[string]string{
		"1, Mon, 8:15, 9:05\n2, Mon":                  "Line 2: write the period",
		"1, Mon, 8:15, 9:05, 10:00":                   "Line 1: write the period",
		", Mon, 8:15, 9:05":                           "Line 1: a period has a name",
		strings.Repeat("x", 41) + ", Mon, 8:15, 9:05": "Line 1: a period has a name of at most 40",
		"1, Mo, 8:15, 9:05":                           `Line 1: "Mo" is no day`,
		"1, Mon-Funday, 8:15, 9:05":                   `"Funday" is no day`,
		"1, ; , 8:15, 9:05":                           "say on which days",
		"1, Mon, 8:15, 25:00":                         `"25:00" is no time`,
		"1, Mon, 9:05, 9:05":                          "ends before it begins",
		"1, Mon, 8:15, 9:05\n2, Sun-Tue, 9:04, 10:00": `Line 2: it overlaps the period "1" of line 1 on Monday`,
	} {
		_, err := window.ReadBells(text)
		var fault *window.LineFault
		require.ErrorAs(t, err, &fault, text)
		assert.Contains(t, err.Error(), want, text)
	}
	_, err := window.ReadBells("1, Mon, 8:15, 9:05\n2, Mon, 9:05, 10:00")
	require.NoError(t, err, "two that touch do not overlap")
	var many strings.Builder
	for i := range 29 {
		many.WriteString("p, Mon-Sun, " + time.Date(2026, 1, 1, 8, 10*i, 0, 0, time.UTC).Format("15:04") + ", " + time.Date(2026, 1, 1, 8, 10*i+9, 0, 0, time.UTC).Format("15:04") + "\n")
	}
	_, err = window.ReadBells(many.String())
	require.ErrorContains(t, err, "Line 29: a week has at most 200 periods")
}

func TestADoorIsOpenedForAPeriod(t *testing.T) {
	zone, err := time.LoadLocation("America/Los_Angeles")
	require.NoError(t, err)
	bells, err := window.ReadBells("1, 8:15, 9:05\n2, 9:10, 10:00\n3, 10:00, 10:50\nlast, 14:00, 14:50")
	require.NoError(t, err)
	for clock, want := range map[string]string{
		"08:04": "",           // eleven minutes before the first
		"08:05": "1 09:05",    // early
		"08:15": "1 09:05",    // with the bell
		"08:59": "1 09:05",    // late, and still six minutes of it
		"09:00": "2 10:00",    // five minutes before it ends the next is meant
		"09:55": "3 10:50",    // back to back
		"10:44": "3 10:50",    // the last minutes but five
		"10:45": "",           // nothing follows
		"13:50": "last 14:50", // ten minutes before
	} {
		at, err := time.ParseInLocation("2006-01-02 15:04", "2026-11-30 "+clock, zone) // a Monday
		require.NoError(t, err)
		bell, ends, ok := bells.For(at.UTC(), zone, nil)
		got := ""
		if ok {
			got = bell.Name + " " + ends.In(zone).Format("15:04")
		}
		assert.Equal(t, want, got, clock)
		_, _, ok = bells.For(at.AddDate(0, 0, 5), zone, nil)
		assert.False(t, ok, "on a Saturday there is none")
	}
}

func TestADoorIsOpenedForTheSectionsOwnPeriod(t *testing.T) {
	bells, err := window.ReadBells("1, 8:15, 9:05\n2, 9:10, 10:00\nPeriod 3, 10:10, 11:00\n4, 13:00, 13:50")
	require.NoError(t, err)
	for _, c := range []struct{ clock, own, want string }{
		{"09:04", "2", "2 10:00"},
		{"09:03", "1,2", "2 10:00"},      // the first has five minutes no more
		{"08:20", "1,2", "1 10:00"},      // a lesson of two
		{"08:20", "1, 2,3", "1 11:00"},   // of three, each within a quarter of an hour
		{"09:30", "1,4", "2 10:00"},      // out of turn: whichever is on
		{"10:01", "3", "Period 3 11:00"}, // by its number
		{"12:55", "period 4", "4 13:50"}, // and the other way around
		{"10:01", "", "Period 3 11:00"},  // none is known
		{"09:30", "2,4", "2 10:00"},      // the noon between is no pause
	} {
		at, err := time.Parse("2006-01-02 15:04", "2026-11-30 "+c.clock) // a Monday
		require.NoError(t, err)
		bell, ends, ok := bells.For(at, time.UTC, strings.Split(c.own, ","))
		require.True(t, ok, c)
		assert.Equal(t, c.want, bell.Name+" "+ends.Format("15:04"), c)
	}
}

// What is written is read again the same, and whoever opens a door has it for at least five minutes.
func TestBellTimesComeBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var bells window.Bells
		for d := range 7 {
			for from, n := rapid.IntRange(0, 600).Draw(t, "from"), 0; from < 1400 && n < window.MostBells/7; n++ {
				to := min(from+rapid.IntRange(1, 300).Draw(t, "long"), 1439)
				clock := func(m int) string { return time.Date(2026, 1, 1, 0, m, 0, 0, time.UTC).Format("15:04") }
				bells = append(bells, window.Bell{Name: rapid.StringMatching(`[A-Z][a-z]{0,5}`).Draw(t, "name"), Weekday: time.Weekday(d), Stretch: window.Stretch{From: clock(from), To: clock(to)}})
				from = to + rapid.IntRange(0, 200).Draw(t, "pause")
			}
		}
		back, err := window.ReadBells(bells.String())
		require.NoError(t, err)
		require.Equal(t, bells, back)
		at := time.Date(2026, 11, 29, 0, 0, 0, 0, time.UTC).Add(time.Duration(rapid.IntRange(0, 7*24*60).Draw(t, "at")) * time.Minute)
		if _, ends, ok := bells.For(at, time.UTC, nil); ok {
			require.Greater(t, ends.Sub(at), 5*time.Minute)
		}
	})
}
