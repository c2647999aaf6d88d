package window_test

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"pineledger/core/window"
)

func TestTheLoadOfAGradeInAWeek(t *testing.T) {
	loads := window.Loads([]window.Booking{
		{Grade: "05", Minutes: 60, Students: 50, Days: []string{"2027-01-14", "2027-01-15", "2027-01-18"}}, // two days of one week, one of the next
		{Grade: "05", Minutes: 30, Students: 100, Days: []string{"2027-01-19"}},
		{Grade: "06", Minutes: 90, Students: 10, Days: []string{"2027-01-17"}}, // a Sunday ends its week
		{Grade: "06", Minutes: 0, Students: 10, Days: []string{"2027-01-18"}},
		{Grade: "09", Minutes: 90, Students: 10, Days: []string{"2027-01-18"}}, // a grade without students
		{Grade: "06", Minutes: 90, Students: 10},
	}, map[string]int{"05": 100, "06": 20})
	assert.Equal(t, []window.Load{{"05", "2027-01-11", 20}, {"05", "2027-01-18", 40}, {"06", "2027-01-11", 45}}, loads)
	assert.Equal(t, "2027-01-18", window.WeekOf("2027-01-18"))
	assert.Equal(t, "", window.WeekOf("soon"))
}

func schoolDays(n int) []string {
	var out []string
	for at := time.Date(2027, 1, 4, 0, 0, 0, 0, time.UTC); len(out) < n; at = at.AddDate(0, 0, 1) {
		if at.Weekday() != time.Saturday && at.Weekday() != time.Sunday {
			out = append(out, at.Format(time.DateOnly))
		}
	}
	return out
}

func TestDatesThatKeepTheirDistance(t *testing.T) {
	days := schoolDays(20)
	five := []string{"05"}
	for name, c := range map[string]struct {
		windows  []window.Planned
		distance int
		want     []window.Proposal
	}{
		"alone it stays": {[]window.Planned{{ID: 1, Grades: five, From: days[3], Days: 2}}, 5,
			[]window.Proposal{{1, days[3], days[4], true, -1}}},
		"another grade is no neighbor": {[]window.Planned{{ID: 1, Grades: five, From: days[3], Days: 2}, {ID: 2, Grades: []string{"06"}, From: days[3], Days: 1, Fixed: true}}, 5,
			[]window.Proposal{{1, days[3], days[4], true, -1}}},
		"it moves away from a fixed one, as little as it can": {[]window.Planned{{ID: 1, Grades: five, From: days[6], Days: 2}, {ID: 2, Grades: five, From: days[3], Days: 2, Fixed: true}}, 3,
			[]window.Proposal{{1, days[8], days[9], true, 3}}},
		"earlier where that is nearer": {[]window.Planned{{ID: 1, Grades: five, From: days[9], Days: 1}, {ID: 2, Grades: five, From: days[10], Days: 2, Fixed: true}}, 2,
			[]window.Proposal{{1, days[7], days[7], true, 2}}},
		"what cannot be kept is said": {[]window.Planned{{ID: 1, Grades: five, From: days[0], Days: 2}, {ID: 2, Grades: five, From: days[5], Days: 10, Fixed: true}}, 9,
			[]window.Proposal{{1, days[0], days[1], false, 3}}},
		"one that ends after the last day is pulled in": {[]window.Planned{{ID: 1, Grades: five, From: "2027-09-01", Days: 2}}, 5,
			[]window.Proposal{{1, days[18], days[19], true, -1}}},
		"one that is longer than all is left out": {[]window.Planned{{ID: 1, Grades: five, From: days[0], Days: 21}}, 5, nil},
	} {
		assert.Equal(t, c.want, window.Spread(c.windows, days, c.distance), name)
	}
}

// What is proposed lies on school days, is as long as asked, and says truly what it keeps.
func TestWhatSpreadSaysIsSo(t *testing.T) {
	days := schoolDays(30)
	rapid.Check(t, func(t *rapid.T) {
		var windows []window.Planned
		for i := range rapid.IntRange(1, 5).Draw(t, "windows") {
			windows = append(windows, window.Planned{ID: int64(i + 1), Grades: []string{fmt.Sprint(rapid.IntRange(5, 6).Draw(t, "grade"))},
				From: days[rapid.IntRange(0, 27).Draw(t, "from")], Days: rapid.IntRange(1, 3).Draw(t, "days"), Fixed: rapid.Bool().Draw(t, "fixed")})
		}
		distance := rapid.IntRange(0, 6).Draw(t, "distance")
		type span struct {
			window.Planned
			first, last int
		}
		at := map[int64]span{}
		for _, w := range windows {
			if w.Fixed {
				first := slices.Index(days, w.From)
				at[w.ID] = span{w, first, first + w.Days - 1}
			}
		}
		proposals := window.Spread(windows, days, distance)
		for _, p := range proposals {
			w := windows[p.ID-1]
			first, last := slices.Index(days, p.From), slices.Index(days, p.To)
			assert.Equal(t, w.Days, last-first+1)
			at[p.ID] = span{w, first, last}
		}
		for _, p := range proposals {
			near := -1
			for id, o := range at {
				if id != p.ID && o.Grades[0] == at[p.ID].Grades[0] {
					gap := max(0, o.first-at[p.ID].last-1, at[p.ID].first-o.last-1)
					if near < 0 || gap < near {
						near = gap
					}
				}
			}
			assert.Equal(t, near, p.Nearest)
			assert.Equal(t, near < 0 || near >= distance, p.Kept)
		}
	})
}

func TestAMomentMovesBySchoolDays(t *testing.T) {
	zone := pacific(t)
	days := schoolDays(10) // from Monday, Jan 4
	at := time.Date(2027, 1, 7, 15, 30, 0, 0, zone)
	for by, want := range map[int]string{0: "2027-01-07", 1: "2027-01-08", 2: "2027-01-11", -3: "2027-01-04", -9: "2027-01-04", 99: "2027-01-15"} {
		assert.Equal(t, want+" 15:30", window.MovedBy(at, by, days, zone).Format("2006-01-02 15:04"), "by %d", by)
	}
	assert.Equal(t, "2027-01-11", window.MovedBy(time.Date(2027, 1, 9, 12, 0, 0, 0, zone), 0, days, zone).Format(time.DateOnly), "a Saturday is the Monday after")
	assert.Equal(t, at, window.MovedBy(at, 3, nil, zone))
	// Over the change of the clocks the hour on the wall stays.
	assert.Equal(t, 8, window.MovedBy(time.Date(2027, 3, 12, 8, 0, 0, 0, zone), 1, []string{"2027-03-12", "2027-03-15"}, zone).Hour())
}
