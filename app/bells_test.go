package app_test

import (
	"maps"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	"pineledger/app/intake"
	"pineledger/core/attempt"
	"pineledger/store"
)

// The window of giveOut's sitting is from Tuesday, Oct 13 to Friday, Oct 16.
func TestADoorClosesByItselfAtTheBell(t *testing.T) {
	w := newWorld(t)
	g := giveOut(w)
	school := g.sitting.SchoolID
	zone, err := w.app.Zone(w.ctx)
	require.NoError(t, err)
	clock := func(text string) time.Time {
		at, err := time.ParseInLocation("2006-01-02 15:04", "2026-10-14 "+text, zone)
		require.NoError(t, err)
		return at
	}
	door := func(to attempt.DoorState) {
		t.Helper()
		_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, g.sitting.ID, to)
		require.NoError(t, err)
	}
	stands := func() (attempt.DoorState, time.Time) {
		t.Helper()
		room, err := w.app.Take.Room(w.ctx, w.teacher, g.sitting.ID)
		require.NoError(t, err)
		if room.Sitting.DoorUntil == 0 {
			return room.Sitting.Door, time.Time{}
		}
		return room.Sitting.Door, store.Time(room.Sitting.DoorUntil).In(zone)
	}

	_, until := stands()
	assert.Zero(t, until, "without bell times nothing closes by itself")
	got, err := w.app.Take.PutBells(w.ctx, w.coordinator, school, "3\tMon-Fri\t9:10\t10:00", "")
	require.NoError(t, err)
	assert.Equal(t, "3, Mon-Fri, 9:10 am, 10:00 am\n", got.Text)
	_, until = stands()
	assert.Zero(t, until, "a door that is open keeps the end that it was opened with")

	w.now = clock("09:08")
	door(attempt.Closed)
	door(attempt.Open)
	_, until = stands()
	assert.Equal(t, clock("10:00"), until)
	w.now = clock("09:40")
	g.begin()
	assert.Equal(t, clock("10:00"), g.open().DoorCloses.In(zone), "who works is told")

	w.now = clock("09:58")
	require.NoError(t, w.app.Take.Tick(w.ctx))
	room, err := w.app.Take.KeepOpen(w.ctx, w.teacher, g.sitting.ID, false)
	require.NoError(t, err)
	assert.Equal(t, clock("10:10"), store.Time(room.Sitting.DoorUntil).In(zone), "ten minutes more")
	w.now = clock("10:09")
	require.NoError(t, w.app.Take.Tick(w.ctx))
	state, _ := stands()
	assert.Equal(t, attempt.Open, state)
	w.now = clock("10:10")
	require.NoError(t, w.app.Take.Tick(w.ctx))
	state, until = stands()
	assert.Equal(t, attempt.Closed, state)
	assert.Zero(t, until)
	assert.NotEmpty(t, g.open().Stopped, "work stops and is kept")
	_, err = w.app.Take.KeepOpen(w.ctx, w.teacher, g.sitting.ID, false)
	assert.ErrorContains(t, err, "does not close by itself")

	w.now = clock("10:30")
	door(attempt.Open)
	_, until = stands()
	assert.Zero(t, until, "between the periods nothing closes it")
	assert.Empty(t, g.open().Stopped, "it goes on")

	w.now = w.now.AddDate(0, 0, 1).Add(-time.Hour)
	door(attempt.Closed)
	door(attempt.Open)
	_, err = w.app.Take.KeepOpen(w.ctx, w.teacher, g.sitting.ID, true)
	require.NoError(t, err)
	w.now = w.now.Add(time.Hour)
	require.NoError(t, w.app.Take.Tick(w.ctx))
	state, _ = stands()
	assert.Equal(t, attempt.Open, state, "it was to stay open until somebody closes it")
	require.NoError(t, w.app.Record.PutAnchor(w.ctx))
	_, err = w.app.Record.Verify(w.ctx)
	require.NoError(t, err)
}

func TestBellTimesAreKeptBySchoolAndNobodysChangeIsLost(t *testing.T) {
	w := newWorld(t)
	school := giveOut(w).sitting.SchoolID
	_, err := w.app.Take.PutBells(w.ctx, w.coordinator, school, "1, 8:15, 9:05\n2, 9:00, 10:00", "")
	assert.ErrorContains(t, err, "Line 2: it overlaps")
	_, err = w.app.Take.PutBells(w.ctx, w.coordinator, school, "1, 8:15, 9:05", "2, Mon, 8:15 am, 9:05 am\n")
	assert.ErrorIs(t, err, desk.ErrStale)
	_, err = w.app.Take.PutBells(w.ctx, w.teacher, school, "1, 8:15, 9:05", "")
	assert.ErrorIs(t, err, desk.ErrForbidden)
	_, err = w.app.Take.PutBells(w.ctx, w.coordinator, school+999, "", "")
	assert.ErrorIs(t, err, desk.ErrNotFound)
	_, err = w.app.Take.PutBells(w.ctx, w.coordinator, school, "1, 8:15, 9:05", "")
	require.NoError(t, err)
	got, err := w.app.Take.Bells(w.ctx, w.teacher, school)
	require.NoError(t, err)
	assert.Equal(t, "1, Mon-Fri, 8:15 am, 9:05 am\n", got.Text)
	assert.False(t, got.MayChange)
	_, err = w.app.Take.Bells(w.ctx, w.student, school)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	got, err = w.app.Take.PutBells(w.ctx, w.coordinator, school, "", got.Text)
	require.NoError(t, err)
	assert.Empty(t, got.Text)
}

// The roster says in which periods a section meets: a door that is opened in the break before a lesson of two stays open to its end.
func TestTheRosterSaysWhichPeriodsASectionMeets(t *testing.T) {
	w := newWorld(t)
	files := maps.Clone(rosterFiles)
	files["classes.csv"] = "sourcedId,title,grades,courseSourcedId,schoolSourcedId,periods\nc1,6-A,06,m,s1,\"2,3\"\nc2,6-B,06,m,s2,\n"
	report := w.take(w.coordinator, intake.ImportRoster, w.folder(files), 0)
	assert.Equal(t, 2, report.Counts.Changed)
	g := giveOut(w)
	_, err := w.app.Take.PutBells(w.ctx, w.coordinator, g.sitting.SchoolID, "1, 8:15, 9:05\n2, 9:10, 10:00\n3, 10:05, 10:55\n4, 11:00, 11:50", "")
	require.NoError(t, err)
	zone, err := w.app.Zone(w.ctx)
	require.NoError(t, err)
	w.now = time.Date(2026, 10, 14, 9, 8, 0, 0, zone)
	g.door(attempt.Closed)
	room := g.door(attempt.Open)
	assert.Equal(t, "10:55", store.Time(room.Sitting.DoorUntil).In(zone).Format("15:04"))

	files["classes.csv"] = "sourcedId,title,grades,courseSourcedId,schoolSourcedId,periods\nc1,6-A,06,m,s1,\"" + strings.Repeat("x", 201) + "\"\n"
	report, err = w.app.Intake.Import(w.ctx, w.coordinator, intake.File{Kind: intake.ImportRoster, Name: "roster", Path: w.folder(files)}, func(string, intake.ImportCounts) {})
	require.NoError(t, err)
	require.NotEmpty(t, report.Refusals)
	assert.Contains(t, report.Refusals[0].Reason, "more than 200 characters")
}
