package app_test

import (
	"encoding/json"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	"pineledger/app/give"
	takeroom "pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/settings"
	"pineledger/store/officerows"
)

// one gives a setting of a view.
func one(t testing.TB, view give.SettingsView, key string) give.SettingView {
	t.Helper()
	for _, s := range view.Settings {
		if s.Key == key {
			return s
		}
	}
	t.Fatalf("no setting %s", key)
	return give.SettingView{}
}

func TestEveryLevelSaysItsOwnAndALockHolds(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	place := settings.Place{Assessment: s.Assessment.ID}
	benchmark := settings.Place{Purpose: s.Assessment.Purpose}
	_, err := w.set(w.coordinator, settings.Place{}, settings.Minutes, 60, settings.NoLock)
	require.NoError(t, err)
	_, err = w.set(w.coordinator, benchmark, settings.Minutes, 45, settings.NoLock)
	require.NoError(t, err)
	view, err := w.app.Give.Settings(w.ctx, w.coordinator, place)
	require.NoError(t, err)
	minutes := one(t, view, settings.Minutes)
	assert.Equal(t, []any{"45", settings.Purpose, false, true}, []any{string(minutes.Value), minutes.From, minutes.Differs, minutes.MayChange}, "an assessment starts with what its purpose says")

	view = w.setting(s.Assessment.ID, settings.Minutes, 75)
	minutes = one(t, view, settings.Minutes)
	assert.True(t, minutes.Differs)
	require.Len(t, minutes.Trail, 3)
	assert.Equal(t, []any{"Ines Okafor", w.now.UTC()}, []any{minutes.Trail[2].By, minutes.Trail[2].At.UTC()})

	_, err = w.set(w.coordinator, settings.Place{}, settings.Minutes, 50, settings.LockRest)
	require.NoError(t, err)
	view, err = w.app.Give.Settings(w.ctx, w.coordinator, place)
	require.NoError(t, err)
	minutes = one(t, view, settings.Minutes)
	assert.Equal(t, []any{"50", settings.District, "Ines Okafor", false, "Ines Okafor locked it."}, []any{string(minutes.Value), minutes.LockedAt, minutes.LockedBy, minutes.MayChange, minutes.WhyNot})
	_, err = w.set(w.coordinator, place, settings.Minutes, 90, settings.NoLock)
	assert.ErrorContains(t, err, "Time limit: Ines Okafor locked it.")
	_, err = w.set(w.principal, settings.Place{}, settings.Minutes, 90, settings.NoLock)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	_, err = w.set(w.coordinator, settings.Place{Purpose: "falconry"}, settings.Minutes, 90, settings.NoLock)
	assert.ErrorIs(t, err, desk.ErrNotFound)
}

func TestTwoEditorsOfASettingAreTold(t *testing.T) {
	w := newWorld(t)
	s := w.draft()
	place := settings.Place{Assessment: s.Assessment.ID}
	put := func(was json.RawMessage, value any) error {
		_, err := w.app.Give.PutSettings(w.ctx, w.second, place, []give.SettingChange{{Key: settings.Minutes, Value: settings.Raw(value), Was: was}}, nil)
		return err
	}
	require.NoError(t, put(nil, 40))
	assert.ErrorContains(t, put(nil, 50), "Tomás Lindqvist changed this meanwhile")
	require.NoError(t, put(settings.Raw(40), 50))
	_, err := w.app.Give.PutSettings(w.ctx, w.second, place, []give.SettingChange{{Key: settings.Breaks, Value: settings.Raw(2)}, {Key: settings.Minutes, Value: settings.Raw(-1), Was: settings.Raw(50)}}, nil)
	var invalid *desk.InvalidError
	require.ErrorAs(t, err, &invalid)
	assert.Equal(t, []desk.FieldError{{Pointer: "/changes/1/value", Message: "Time limit: Give a whole number from 0 to 1440."}}, invalid.Fields)
	view, err := w.app.Give.Settings(w.ctx, w.second, place)
	require.NoError(t, err)
	assert.Nil(t, one(t, view, settings.Breaks).Here, "all at once or nothing")
	_, err = w.app.Give.PutSettings(w.ctx, w.second, place, []give.SettingChange{{Key: "burn", Value: settings.Raw(1)}}, nil)
	assert.ErrorAs(t, err, &invalid)
	_, err = w.set(w.second, place, settings.LaterWhen, "date", settings.NoLock)
	require.NoError(t, err, "with nothing to show later a missing day is no matter")
	_, err = w.set(w.second, place, settings.Later, []string{"key"}, settings.NoLock)
	assert.ErrorContains(t, err, "Choose the day.")
}

// What changes at a school or section is in force there alone, at once, also for who works; what may not change any more is refused.
func TestAChangeReachesThoseWhoWork(t *testing.T) {
	w := newWorld(t)
	s := w.sent()
	mine, other := w.sittingOf(w.teacher), w.sittingOf(w.otherTeacher)
	_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, mine.ID, attempt.Open)
	require.NoError(t, err)
	take, err := w.app.Take.Begin(w.ctx, w.student, mine.ID, takeroom.Entry{})
	require.NoError(t, err)
	assert.Equal(t, 50*time.Minute, take.Left)

	section := settings.Place{Assessment: s.Assessment.ID, Section: mine.SectionID}
	_, err = w.set(w.principal, section, settings.Minutes, 65, settings.NoLock)
	require.NoError(t, err)
	take, err = w.app.Take.Open(w.ctx, w.student, mine.ID, "", false)
	require.NoError(t, err)
	assert.Equal(t, 65*time.Minute, take.Left)
	assert.Equal(t, 50, w.sittingOf(w.otherTeacher).Setup.V.Minutes(), "the other section keeps its own")
	_, err = w.set(w.principal, settings.Place{Assessment: s.Assessment.ID, Section: other.SectionID}, settings.Minutes, 65, settings.NoLock)
	assert.ErrorIs(t, err, desk.ErrNotFound, "another school's section")
	_, err = w.set(w.coordinator, settings.Place{Assessment: s.Assessment.ID, Section: mine.SectionID}, settings.MixItems, true, settings.NoLock)
	assert.ErrorContains(t, err, "so that their results compare")

	_, err = w.set(w.principal, section, settings.Minutes, 40, settings.NoLock)
	assert.ErrorContains(t, err, "1 student has begun in Quarry Road, 6-A. Time limit: somebody has begun. It may grow longer, not shorter.")
	_, err = w.set(w.principal, section, settings.Minutes, nil, settings.NoLock)
	assert.ErrorContains(t, err, "not shorter", "nor by saying nothing any more")
	_, err = w.set(w.coordinator, settings.Place{Assessment: s.Assessment.ID, School: mine.SchoolID}, settings.Minutes, 45, settings.LockRest)
	assert.ErrorContains(t, err, "not shorter", "nor by a lock above it")
	_, err = w.set(w.coordinator, settings.Place{}, settings.AccessCode, true, settings.LockRest)
	require.NoError(t, err, "what holds for all passes those by who have begun")
	assert.Equal(t, []bool{false, true}, []bool{w.sittingOf(w.teacher).Setup.V.Settings.Flag(settings.AccessCode), w.sittingOf(w.otherTeacher).Setup.V.Settings.Flag(settings.AccessCode)})
	view, err := w.app.Give.Settings(w.ctx, w.coordinator, settings.Place{Assessment: s.Assessment.ID})
	require.NoError(t, err)
	require.Len(t, view.Quarrels, 1)
	assert.Equal(t, "Access code: where somebody has begun it stays not asked (1 section).", view.Quarrels[0].Text)
	_, err = w.set(w.coordinator, settings.Place{Assessment: s.Assessment.ID, School: other.SchoolID}, settings.Minutes, 45, settings.NoLock)
	require.NoError(t, err, "where nobody has begun it may")
	assert.Equal(t, 45, w.sittingOf(w.otherTeacher).Setup.V.Minutes())
	w.verified()
}

// A change for all is looked at first: what it reaches, what stays by choice, and what has to; it is made and undone as one.
func TestAChangeForAll(t *testing.T) {
	w := newWorld(t)
	begun, waiting, draft := w.sent(), w.send(w.sealed(), func(s officerows.Section) bool { return s.Title == "6-B" }), w.draft()
	for _, s := range []int64{begun.Assessment.ID, waiting.Assessment.ID} {
		view, err := w.app.Give.Settings(w.ctx, w.coordinator, settings.Place{Assessment: s})
		require.NoError(t, err)
		_, err = w.app.Give.PutSettings(w.ctx, w.coordinator, settings.Place{Assessment: s}, []give.SettingChange{{Key: settings.Minutes, Was: one(t, view, settings.Minutes).Here.Value}}, nil)
		require.NoError(t, err)
	}
	all := settings.Place{Purpose: draft.Assessment.Purpose}
	_, err := w.set(w.coordinator, all, settings.Minutes, 60, settings.NoLock)
	require.NoError(t, err)
	mine := w.sittingOf(w.teacher)
	_, err = w.app.Take.MoveDoor(w.ctx, w.teacher, mine.ID, attempt.Open)
	require.NoError(t, err)
	_, err = w.app.Take.Begin(w.ctx, w.student, mine.ID, takeroom.Entry{})
	require.NoError(t, err)

	change := []give.SettingChange{{Key: settings.Minutes, Value: settings.Raw(55), Was: settings.Raw(60)}}
	keep := []int64{draft.Assessment.ID}
	look, err := w.app.Give.LookAtSettings(w.ctx, w.coordinator, all, change, keep)
	require.NoError(t, err)
	by := map[int64]give.Affected{}
	for _, a := range look {
		by[a.Assessment] = a
	}
	require.Len(t, by, 3)
	assert.Equal(t, []any{true, 1, 2}, []any{by[begun.Assessment.ID].Stays, by[begun.Assessment.ID].Begun, by[begun.Assessment.ID].Sections})
	assert.Contains(t, by[begun.Assessment.ID].Why, "not shorter")
	assert.Equal(t, []any{true, ""}, []any{by[draft.Assessment.ID].Stays, by[draft.Assessment.ID].Why})
	assert.False(t, by[waiting.Assessment.ID].Stays)
	value := func(id int64) string {
		view, err := w.app.Give.Settings(w.ctx, w.coordinator, settings.Place{Assessment: id})
		require.NoError(t, err)
		return string(one(t, view, settings.Minutes).Value)
	}
	assert.Equal(t, "60", value(waiting.Assessment.ID), "a look changes nothing")

	view, err := w.app.Give.PutSettings(w.ctx, w.coordinator, all, change, keep)
	require.NoError(t, err)
	values := func() []string {
		return []string{value(begun.Assessment.ID), value(waiting.Assessment.ID), value(draft.Assessment.ID)}
	}
	assert.Equal(t, []string{"60", "55", "60"}, values())
	_, err = w.app.Give.UndoSettings(w.ctx, w.principal, all, view.Wrote)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	_, err = w.app.Give.UndoSettings(w.ctx, w.coordinator, all, view.Wrote)
	require.NoError(t, err)
	assert.Equal(t, []string{"60", "60", "60"}, values())
	_, err = w.app.Give.UndoSettings(w.ctx, w.coordinator, all, view.Wrote)
	assert.ErrorContains(t, err, "changed again meanwhile")
	w.verified()
}

// Hours of the day stop work and the clock; the next day goes on.
func TestWorkGoesOnInTheHoursOfTheDay(t *testing.T) {
	w := newWorld(t)
	s := w.sent() // it is nine in the morning there
	mine := w.sittingOf(w.teacher)
	w.setting(s.Assessment.ID, settings.Hours, []map[string]string{{"from": "09:00", "to": "09:30"}})
	_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, mine.ID, attempt.Open)
	require.NoError(t, err)
	take, err := w.app.Take.Begin(w.ctx, w.student, mine.ID, takeroom.Entry{})
	require.NoError(t, err)
	w.now = w.now.Add(31 * time.Minute)
	take, err = w.app.Take.Open(w.ctx, w.student, mine.ID, "", false)
	require.NoError(t, err)
	assert.Equal(t, attempt.Stop("outside hours"), take.StoppedBy)
	assert.Empty(t, take.Lines, "nothing of the items is sent")
	_, err = w.app.Take.SaveAnswers(w.ctx, w.student, take.Attempt.ID, "", []takeroom.Answered{answer(1, 1, "A")})
	assert.ErrorContains(t, err, "time of day")
	w.now = w.now.Add(24*time.Hour - 26*time.Minute) // 9:05 the next day
	take, err = w.app.Take.Open(w.ctx, w.student, mine.ID, "", false)
	require.NoError(t, err)
	assert.Equal(t, 15*time.Minute, take.Left)
	assert.NotEmpty(t, take.Lines)
}

// Taking back is no way around a level or a lock.
func TestUndoIsNoWayAroundALock(t *testing.T) {
	w := newWorld(t)
	s := w.sent()
	school := settings.Place{Assessment: s.Assessment.ID, School: w.sittingOf(w.teacher).SchoolID}
	undo := func(key string, value any) error {
		_, err := w.app.Give.UndoSettings(w.ctx, w.principal, school, []give.SettingsRow{{Level: settings.School, Assessment: school.Assessment, Thing: school.School, Key: key, Before: &give.SettingSaid{Value: settings.Raw(value)}}})
		return err
	}
	assert.ErrorContains(t, undo(settings.MixItems, true), "so that their results compare")
	_, err := w.set(w.coordinator, settings.Place{}, settings.AccessCode, true, settings.LockRest)
	require.NoError(t, err)
	assert.ErrorContains(t, undo(settings.AccessCode, false), "Ines Okafor locked it.")
	assert.ErrorIs(t, func() error {
		_, err := w.app.Give.UndoSettings(w.ctx, w.principal, school, []give.SettingsRow{{Level: settings.District, Key: settings.Minutes, Before: &give.SettingSaid{Value: settings.Raw(5)}}})
		return err
	}(), desk.ErrForbidden)
}

// Where the district's zone moves, the hours of what is out are those of the new one, also for who works.
func TestHoursFollowTheDistrictsZone(t *testing.T) {
	w := newWorld(t)
	s := w.sent()
	mine := w.sittingOf(w.teacher)
	w.setting(s.Assessment.ID, settings.Hours, []map[string]string{{"from": "09:00", "to": "10:00"}})
	_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, mine.ID, attempt.Open)
	require.NoError(t, err)
	take, err := w.app.Take.Begin(w.ctx, w.student, mine.ID, takeroom.Entry{})
	require.NoError(t, err)
	require.NotEmpty(t, take.Lines)
	before := w.sittingOf(w.teacher).Setup.V
	require.NoError(t, w.app.Give.MoveTo(w.ctx, "America/New_York")) // where it is noon
	take, err = w.app.Take.Open(w.ctx, w.student, mine.ID, "", false)
	require.NoError(t, err)
	assert.Equal(t, attempt.Stop("outside hours"), take.StoppedBy)
	after := w.sittingOf(w.teacher).Setup.V
	assert.Equal(t, []time.Time{before.Opens, before.Ends}, []time.Time{after.Opens, after.Ends}, "the window is the moments that it was")
	require.NoError(t, w.app.Give.MoveTo(w.ctx, "America/New_York"), "the same zone changes nothing")
	assert.Error(t, w.app.Give.MoveTo(w.ctx, "Nowhere/At all"))
}

// verified expects that everything kept agrees with everything else.
func (w *world) verified() {
	w.Helper()
	require.NoError(w, w.app.Record.PutAnchor(w.ctx))
	_, err := w.app.Record.Verify(w.ctx)
	require.NoError(w, err)
}
