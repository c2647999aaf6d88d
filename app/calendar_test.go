package app_test

import (
	"bytes"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	"pineledger/app/give"
	"pineledger/core/roster"
	"pineledger/core/window"
	"pineledger/store/officerows"
)

func TestTheCalendarOfWindows(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	w.inWaves(s.Assessment.ID, everyone)
	days := []give.DayOff{{Day: "2026-10-21", Name: "Storm"}, {Day: "2026-11-11"}}
	require.NoError(t, w.app.Give.PutDaysOff(w.ctx, w.coordinator, 0, days, nil))
	var stale *desk.ConflictError
	assert.ErrorAs(t, w.app.Give.PutDaysOff(w.ctx, w.second, 0, nil, nil), &stale)
	assert.ErrorIs(t, w.app.Give.PutDaysOff(w.ctx, w.principal, 0, days, nil), desk.ErrForbidden)
	days[0].Name = "" // not said again: it keeps its name
	require.NoError(t, w.app.Give.PutDaysOff(w.ctx, w.coordinator, 0, append(days, give.DayOff{Day: "2026-12-24"}), []string{"2026-10-21", "2026-11-11"}))
	require.NoError(t, w.app.Give.PutDaysOff(w.ctx, w.coordinator, 0, days, []string{"2026-10-21", "2026-11-11", "2026-12-24"}))
	ask := give.CalendarInput{From: "2026-10-12", To: "2026-10-31"}
	c, err := w.app.Give.Calendar(w.ctx, w.coordinator, ask)
	require.NoError(t, err)
	require.Len(t, c.Windows, 1, "the waves of a grade are one window")
	one := c.Windows[0]
	assert.Equal(t, [4]any{"2026-10-14", "2026-10-21", "06", 3}, [4]any{one.From, one.To, one.Grade, one.Students})
	assert.Equal(t, []give.DayOff{{Day: "2026-10-21", Name: "Storm"}}, c.Off)
	assert.Equal(t, 14, c.Days)
	// One of three students in the first week, two of three in the second: 50 minutes each, on the day that is left.
	require.Len(t, c.Loads, 2)
	assert.InDelta(t, 50.0/3, c.Loads[0].Minutes, 1e-9)
	assert.InDelta(t, 100.0/3, c.Loads[1].Minutes, 1e-9)
	_, err = w.app.Give.Calendar(w.ctx, w.student, ask)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	_, err = w.app.Give.Calendar(w.ctx, w.coordinator, give.CalendarInput{From: "2026-10-12", To: "2028-10-31"})
	assert.Error(t, err)

	token, err := w.app.Give.NewFeed(w.ctx, w.teacher, give.CalendarInput{})
	require.NoError(t, err)
	var file bytes.Buffer
	require.NoError(t, w.app.Give.Feed(w.ctx, &file, token))
	parsed, err := ics.ParseCalendar(bytes.NewReader(file.Bytes()))
	require.NoError(t, err)
	var titles []string
	for _, e := range parsed.Events() {
		titles = append(titles, e.GetProperty(ics.ComponentPropertySummary).Value)
	}
	assert.Equal(t, []string{"Fall, grade 6", "No school: Storm", "No school"}, titles)
	assert.NotContains(t, file.String(), "Mei", "no names of students")
	_, err = w.app.Give.NewFeed(w.ctx, w.teacher, give.CalendarInput{})
	require.NoError(t, err)
	assert.ErrorIs(t, w.app.Give.Feed(w.ctx, &file, token), desk.ErrNotFound, "a new address ends the one before")
}

// Two assessments at once for the same students are a clash, also while one is only planned.
func TestWindowsThatClash(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	w.inWaves(s.Assessment.ID, everyone)
	other := w.sealed()
	in := give.DistributionInput{Whom: everyone, Waves: give.OneWave("2026-10-21T08:00", "2026-10-22T16:00")}
	view, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, other.Assessment.ID, in)
	require.NoError(t, err)
	var clashes []roster.Finding
	for _, f := range view.Findings {
		if strings.HasPrefix(f.Code, "clash:") {
			clashes = append(clashes, f)
		}
	}
	require.Len(t, clashes, 1)
	assert.Equal(t, 2, clashes[0].Students, "those of the wave that is at that time")
	assert.Equal(t, "2 students also sit Fall in this window, which takes 50 minutes more.", clashes[0].Text)
	c, err := w.app.Give.Calendar(w.ctx, w.coordinator, give.CalendarInput{From: "2026-10-12", To: "2026-10-31"})
	require.NoError(t, err)
	require.Len(t, c.Clashes, 1)
	assert.Equal(t, 3, c.Clashes[0].Students)
	teachers, err := w.app.Give.Calendar(w.ctx, w.teacher, give.CalendarInput{From: "2026-10-12", To: "2026-10-31"})
	require.NoError(t, err)
	require.Len(t, teachers.Windows, 1, "what is only planned is not theirs to see")
	assert.Equal(t, "out", teachers.Windows[0].State)
	assert.Equal(t, [2]string{"2026-10-21", "2026-10-21"}, [2]string{c.Clashes[0].From, c.Clashes[0].To})
}

func TestTheCalendarOfAStudent(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	w.inWaves(s.Assessment.ID, everyone) // Oct 14 to 21
	planned := w.sealed()
	_, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, planned.Assessment.ID, give.DistributionInput{Whom: everyone, Waves: give.OneWave("2026-10-20T08:00", "2026-10-23T16:00")})
	require.NoError(t, err)
	ask := give.CalendarInput{From: "2026-10-12", To: "2026-10-31", Student: w.student.PersonID}
	c, err := w.app.Give.Calendar(w.ctx, w.coordinator, ask)
	require.NoError(t, err)
	assert.Equal(t, "Mei Sato", c.Student)
	require.Len(t, c.Windows, 2)
	assert.Equal(t, []int{1, 1}, []int{c.Windows[0].Students, c.Windows[1].Students})
	require.Len(t, c.Clashes, 1)
	assert.Equal(t, 1, c.Clashes[0].Students)
	assert.Equal(t, []give.Term{{Title: "Year", Begins: "2026-08-24", Ends: "2027-06-11"}}, c.Terms)
	_, err = w.app.Give.Calendar(w.ctx, w.otherTeacher, ask)
	assert.ErrorIs(t, err, desk.ErrNotFound, "of another school")
}

// A planned window moves away from one that is out, all of its waves by as many days.
func TestPlannedWindowsAreSpread(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	w.inWaves(s.Assessment.ID, everyone) // Oct 14 to 21
	other := w.sealed()
	in := give.DistributionInput{Whom: everyone, Waves: give.OneWave("2026-10-22T08:00", "2026-10-23T16:00")}
	_, err := w.app.Give.PutDistribution(w.ctx, w.coordinator, other.Assessment.ID, in)
	require.NoError(t, err)
	require.NoError(t, w.app.Give.PutDaysOff(w.ctx, w.coordinator, 0, []give.DayOff{{Day: "2026-10-28", Name: "Storm"}}, nil))
	ask := give.CalendarInput{From: "2026-10-12", To: "2026-11-30"}
	list, err := w.app.Give.SpreadOut(w.ctx, w.coordinator, ask, 5, false)
	require.NoError(t, err)
	require.Len(t, list, 1)
	// Five school days lie between: Oct 22, 23, 26, 27, 29; the storm is none.
	assert.Equal(t, window.Proposal{ID: list[0].Distribution, From: "2026-10-30", To: "2026-11-02", Kept: true, Nearest: 5}, list[0].Proposal)
	_, err = w.app.Give.SpreadOut(w.ctx, w.coordinator, ask, 5, true)
	require.NoError(t, err)
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, other.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, "2026-10-30T08:00", view.Waves[0].Opens)
	assert.Equal(t, "2026-11-02T16:00", view.Waves[0].Closes, "a day of school, not the Saturday")
	id := list[0].Distribution
	assert.ErrorIs(t, w.app.Give.UndoSpread(w.ctx, w.teacher, []int64{id}), desk.ErrForbidden)
	assert.ErrorIs(t, w.app.Give.UndoSpread(w.ctx, w.coordinator, []int64{id, 9999}), desk.ErrNotFound, "all or none")
	require.NoError(t, w.app.Give.UndoSpread(w.ctx, w.coordinator, []int64{id}))
	back, err := w.app.Give.Distribution(w.ctx, w.coordinator, other.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, []string{"2026-10-22T08:00", "2026-10-23T16:00"}, []string{back.Waves[0].Opens, back.Waves[0].Closes})
	require.NoError(t, w.app.Give.UndoSpread(w.ctx, w.coordinator, []int64{id}), "undone again, it is spread again")
	in.Version = back.Distribution.Version + 1
	_, err = w.app.Give.PutDistribution(w.ctx, w.coordinator, other.Assessment.ID, in)
	require.NoError(t, err)
	assert.ErrorContains(t, w.app.Give.UndoSpread(w.ctx, w.coordinator, []int64{id}), "has other dates by now")
	assert.Equal(t, 3, w.acts("distribution.spread"))
	_, err = w.app.Give.SpreadOut(w.ctx, w.teacher, ask, 5, true)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	_, err = w.app.Give.SpreadOut(w.ctx, w.coordinator, ask, 99, false)
	assert.Error(t, err)
}

// What was given is given again on the same weekdays a year later; the rule of whom it goes to goes along, names do not.
func TestAYearIsCopied(t *testing.T) {
	w := newWorld(t)
	s := w.sealed()
	w.inWaves(s.Assessment.ID, everyone)                                                     // in waves, Oct 14 to 21
	named := w.send(w.sealed(), func(c officerows.Section) bool { return c.Title == "6-A" }) // by sections, Oct 13 to 16
	require.NoError(t, w.app.Give.PutDaysOff(w.ctx, w.coordinator, 0, []give.DayOff{{Day: "2027-10-13", Name: "Storm"}}, nil))
	ask := give.CalendarInput{From: "2026-10-01", To: "2026-11-30"}
	look, err := w.app.Give.CopyYear(w.ctx, w.coordinator, ask, nil, false)
	require.NoError(t, err)
	require.Len(t, look, 2)
	by := map[int64]give.NextYear{}
	for _, n := range look {
		by[n.Assessment] = n
		assert.Zero(t, n.Copy, "only looked at")
	}
	rule := by[s.Assessment.ID]
	assert.Equal(t, [][2]string{{"2026-10-14", "2026-10-21"}, {"2027-10-14", "2027-10-20"}}, [][2]string{rule.Was, rule.Becomes}, "a Wednesday that is none becomes the Thursday")
	assert.Equal(t, []bool{false, true}, []bool{rule.Anew, by[named.Assessment.ID].Anew})

	made, err := w.app.Give.CopyYear(w.ctx, w.coordinator, ask, []int64{rule.Distribution, by[named.Assessment.ID].Distribution}, true)
	require.NoError(t, err)
	require.Len(t, made, 2)
	for _, n := range made {
		view, err := w.app.Give.Distribution(w.ctx, w.coordinator, n.Copy)
		require.NoError(t, err)
		sheet, err := w.app.Build.Sheet(w.ctx, w.coordinator, n.Copy)
		require.NoError(t, err)
		assert.Len(t, sheet.Lines, 3)
		if n.Anew {
			assert.Empty(t, view.Entries)
			assert.Equal(t, "2027-10-12T08:00", view.Waves[0].Opens)
			continue
		}
		assert.Equal(t, 3, view.Total.Students)
		assert.Equal(t, []string{"2027-10-14T08:00", "2027-10-14T16:00", "2027-10-19T08:00", "2027-10-20T16:00"},
			[]string{view.Waves[0].Opens, view.Waves[0].Closes, view.Waves[1].Opens, view.Waves[1].Closes})
	}
	assert.Equal(t, 1, w.acts("calendar.copy"))
	_, err = w.app.Give.CopyYear(w.ctx, w.coordinator, ask, []int64{rule.Distribution, 999}, true)
	assert.ErrorIs(t, err, desk.ErrNotFound)
	_, err = w.app.Give.CopyYear(w.ctx, w.coordinator, ask, nil, true)
	assert.ErrorContains(t, err, "between 1 and")
	_, err = w.app.Give.CopyYear(w.ctx, w.teacher, ask, nil, false)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	assert.Equal(t, 1, w.acts("calendar.copy"), "what is refused leaves nothing")
}

func TestDaysWithoutSchoolAreReadFromAListOrACalendar(t *testing.T) {
	w := newWorld(t)
	days, err := w.app.Give.ReadDays(w.principal, "2026-12-24 to 2026-12-28, Break")
	require.NoError(t, err)
	assert.Equal(t, []give.DayOff{{Day: "2026-12-24", Name: "Break"}, {Day: "2026-12-25", Name: "Break"}, {Day: "2026-12-28", Name: "Break"}}, days)
	calendar := ics.NewCalendar()
	whole := calendar.AddEvent("a")
	whole.SetSummary("Harbor Day, no school")
	whole.SetAllDayStartAt(time.Date(2027, 1, 18, 0, 0, 0, 0, time.UTC))
	whole.SetAllDayEndAt(time.Date(2027, 1, 20, 0, 0, 0, 0, time.UTC))
	hours := calendar.AddEvent("b")
	hours.SetStartAt(time.Date(2027, 1, 21, 9, 0, 0, 0, time.UTC))
	hours.SetEndAt(time.Date(2027, 1, 21, 10, 0, 0, 0, time.UTC))
	days, err = w.app.Give.ReadDays(w.coordinator, calendar.Serialize())
	require.NoError(t, err)
	assert.Equal(t, []give.DayOff{{Day: "2027-01-18", Name: "Harbor Day, no school"}, {Day: "2027-01-19", Name: "Harbor Day, no school"}}, days)
	for text, says := range map[string]string{"soon\nsooner": "Line 2", "2026-12-26, a Saturday": "No weekday", "BEGIN:VCALENDAR\nBEGIN:VEVENT\nEND:VALARM": "no iCalendar file"} {
		_, err = w.app.Give.ReadDays(w.coordinator, text)
		assert.ErrorContains(t, err, says)
	}
	_, err = w.app.Give.ReadDays(w.teacher, "2026-12-24")
	assert.ErrorIs(t, err, desk.ErrForbidden)

	// A school's own days are its coordinator's to say, and hold there alone.
	school := w.principal.Posts[0].SchoolID
	require.NoError(t, w.app.Give.PutDaysOff(w.ctx, w.principal, school, []give.DayOff{{Day: "2026-10-14", Name: "Flood"}}, nil))
	assert.ErrorIs(t, w.app.Give.PutDaysOff(w.ctx, w.principal, school+1, nil, nil), desk.ErrNotFound)
	assert.ErrorIs(t, w.app.Give.PutDaysOff(w.ctx, w.principal, 0, nil, nil), desk.ErrForbidden)
	c, err := w.app.Give.Calendar(w.ctx, w.principal, give.CalendarInput{From: "2026-10-12", To: "2026-10-31", School: school})
	require.NoError(t, err)
	assert.Equal(t, []give.DayOff{{Day: "2026-10-14", Name: "Flood", School: true}}, c.Off)
	assert.True(t, c.MayPlan)
}
