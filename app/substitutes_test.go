package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	takeroom "pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/store/giverows"
)

const substituteDay = "2026-10-13" // on which a sent assessment is open

func (w *world) substitute(v roster.Viewer, sitting giverows.Sitting, in takeroom.SubstituteInput) (giverows.Substitute, string, error) {
	if in.Sittings == nil {
		in.Sittings = []int64{sitting.ID}
	}
	return w.app.Take.AddSubstitute(w.ctx, v, sitting.ID, in)
}

func TestASubstituteSeesToARoomForADay(t *testing.T) {
	w := newWorld(t)
	w.sent()
	sitting := w.sittingOf(w.teacher)
	made, secret, err := w.substitute(w.teacher, sitting, takeroom.SubstituteInput{Name: " Dana  Reyes ", Day: substituteDay})
	require.NoError(t, err)
	assert.Equal(t, []any{"Dana Reyes", 1, substituteDay}, []any{made.Name, made.Rooms, made.Day})

	w.now = time.Date(2026, 10, 12, 23, 0, 0, 0, time.UTC)
	link, err := w.app.Take.LinkOf(w.ctx, secret)
	require.NoError(t, err)
	assert.False(t, link.Today)
	_, err = w.app.Take.ComeBy(w.ctx, secret)
	assert.ErrorContains(t, err, "another day")
	_, err = w.app.Take.ComeBy(w.ctx, secret+"X")
	assert.ErrorIs(t, err, takeroom.ErrNoLink)

	w.now = time.Date(2026, 10, 13, 16, 0, 0, 0, time.UTC)
	v, err := w.app.Take.ComeBy(w.ctx, secret)
	require.NoError(t, err)
	list, err := w.app.Take.Sittings(w.ctx, v)
	require.NoError(t, err)
	require.Len(t, list, 1)
	room, err := w.app.Take.MoveDoor(w.ctx, v, sitting.ID, attempt.Open)
	require.NoError(t, err)
	assert.Equal(t, attempt.Open, room.Sitting.Door)
	assert.False(t, room.MaySubstitute, "nobody stands in for a substitute")
	_, _, err = w.substitute(v, sitting, takeroom.SubstituteInput{Name: "A B", Day: substituteDay})
	assert.ErrorIs(t, err, desk.ErrForbidden)
	all, err := w.app.Take.Sittings(w.ctx, w.coordinator)
	require.NoError(t, err)
	require.Len(t, all, 2)
	for _, other := range all {
		if other.ID != sitting.ID {
			_, err = w.app.Take.Room(w.ctx, v, other.ID)
			assert.ErrorIs(t, err, desk.ErrNotFound, "no other room")
		}
	}
	assert.False(t, v.MayReadKeys())
	_, err = w.app.Read.Results(w.ctx, v)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	_, err = w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err, "students come in")

	w.now = w.now.Add(16 * time.Hour)
	_, err = w.app.Viewer(w.ctx, v.PersonID)
	assert.ErrorIs(t, err, desk.ErrNotFound, "the day is over, also for who is still signed in")
	_, err = w.app.Take.LinkOf(w.ctx, secret)
	assert.ErrorIs(t, err, takeroom.ErrNoLink)
	assert.Equal(t, 1, w.acts("sitting.substitute"))
}

func TestALinkIsTakenBack(t *testing.T) {
	w := newWorld(t)
	w.sent()
	w.now = time.Date(2026, 10, 13, 16, 0, 0, 0, time.UTC)
	sitting := w.sittingOf(w.teacher)
	made, secret, err := w.substitute(w.coordinator, sitting, takeroom.SubstituteInput{Name: "Dana Reyes", Day: substituteDay})
	require.NoError(t, err)
	v, err := w.app.Take.ComeBy(w.ctx, secret)
	require.NoError(t, err)
	room, err := w.app.Take.Substitutes(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	require.Len(t, room.List, 1)
	assert.Positive(t, room.List[0].CameAt)
	assert.ErrorIs(t, w.app.Take.EndSubstitute(w.ctx, w.otherTeacher, sitting.ID, made.ID), desk.ErrNotFound)
	assert.ErrorIs(t, w.app.Take.EndSubstitute(w.ctx, v, sitting.ID, made.ID), desk.ErrForbidden)
	require.NoError(t, w.app.Take.EndSubstitute(w.ctx, w.teacher, sitting.ID, made.ID))
	_, err = w.app.Viewer(w.ctx, v.PersonID)
	assert.ErrorIs(t, err, desk.ErrNotFound)
	_, err = w.app.Take.ComeBy(w.ctx, secret)
	assert.ErrorIs(t, err, takeroom.ErrNoLink)
	assert.ErrorIs(t, w.app.Take.EndSubstitute(w.ctx, w.teacher, sitting.ID, made.ID), desk.ErrNotFound, "once")
	assert.Equal(t, 1, w.acts("substitute.end"))
}

func TestASubstituteIsRefusedWithTheReason(t *testing.T) {
	w := newWorld(t)
	w.sent()
	sitting := w.sittingOf(w.teacher)
	others, err := w.app.Take.Sittings(w.ctx, w.coordinator)
	require.NoError(t, err)
	for _, c := range []struct {
		name string
		who  roster.Viewer
		in   takeroom.SubstituteInput
		why  string
	}{
		{"half a name", w.teacher, takeroom.SubstituteInput{Name: "Dana", Day: substituteDay}, "first and the last name"},
		{"no day", w.teacher, takeroom.SubstituteInput{Name: "Dana Reyes", Day: "tomorrow!!"}, "is no day"},
		{"a day that is over", w.teacher, takeroom.SubstituteInput{Name: "Dana Reyes", Day: "2026-10-01"}, "is over"},
		{"a day far ahead", w.teacher, takeroom.SubstituteInput{Name: "Dana Reyes", Day: "2027-01-01"}, "at most 14 days ahead"},
		{"a day without a window", w.teacher, takeroom.SubstituteInput{Name: "Dana Reyes", Day: w.now.AddDate(0, 0, 12).Format(time.DateOnly)}, "has no window on that day"},
		{"a room twice", w.teacher, takeroom.SubstituteInput{Name: "Dana Reyes", Day: substituteDay, Sittings: []int64{sitting.ID, sitting.ID}}, "stands there twice"},
		{"no room", w.teacher, takeroom.SubstituteInput{Name: "Dana Reyes", Day: substituteDay, Sittings: []int64{}}, "at least one room"},
		{"another's room beside it", w.teacher, takeroom.SubstituteInput{Name: "Dana Reyes", Day: substituteDay, Sittings: []int64{others[0].ID, others[1].ID}}, "not found"},
		{"another teacher", w.otherTeacher, takeroom.SubstituteInput{Name: "Dana Reyes", Day: substituteDay}, "not found"},
		{"a student", w.student, takeroom.SubstituteInput{Name: "Dana Reyes", Day: substituteDay}, ""},
	} {
		_, _, err := w.substitute(c.who, sitting, c.in)
		if assert.Error(t, err, c.name) {
			assert.Contains(t, err.Error(), c.why, c.name)
		}
	}
	left, err := w.app.Take.Substitutes(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	assert.Empty(t, left.List, "nothing half done")
	assert.NotEmpty(t, left.Rooms)
}
