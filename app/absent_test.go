package app_test

import (
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	"pineledger/app/give"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/store/officerows"
)

func TestWhoHasNotHandedInIsListedOverAllSections(t *testing.T) {
	w := newWorld(t)
	g := giveOut(w)
	id := g.sheet.Assessment.ID
	list := func(v roster.Viewer, f give.AbsentFilter) ([]give.Absent, int) {
		t.Helper()
		out, found, err := w.app.Give.Absent(w.ctx, v, id, f)
		require.NoError(t, err)
		return out, found
	}
	all, found := list(w.coordinator, give.AbsentFilter{})
	require.NotEmpty(t, all)
	assert.Len(t, all, found)
	yes, no := true, false

	view := g.begin()
	g.save(view.Attempt.ID, right)
	begun, n := list(w.coordinator, give.AbsentFilter{Begun: &yes})
	require.Equal(t, 1, n)
	assert.Equal(t, []any{w.student.PersonID, true, 1, attempt.Open}, []any{begun[0].StudentID, begun[0].Begun, begun[0].Answered, begun[0].Door})
	assert.NotNil(t, begun[0].SavedAt)
	_, n = list(w.coordinator, give.AbsentFilter{Begun: &no})
	assert.Equal(t, found-1, n)
	page, n := list(w.coordinator, give.AbsentFilter{From: 1, Limit: 1})
	assert.Equal(t, found, n, "a page tells of all")
	assert.Equal(t, all[1].StudentID, page[0].StudentID)
	_, n = list(w.coordinator, give.AbsentFilter{SchoolID: g.sitting.SchoolID + 999})
	assert.Zero(t, n)
	met, n := list(w.coordinator, give.AbsentFilter{Met: true})
	assert.Less(t, n, found, "one section has not opened")
	for _, s := range met {
		assert.Equal(t, g.sitting.ID, s.SittingID)
	}

	_, err := w.app.Take.HandIn(w.ctx, w.student, view.Attempt.ID)
	require.NoError(t, err)
	_, n = list(w.coordinator, give.AbsentFilter{})
	assert.Equal(t, found-1, n, "who has handed in is none of them")
	_, _, err = w.app.Give.Absent(w.ctx, w.teacher, id, give.AbsentFilter{})
	assert.ErrorIs(t, err, desk.ErrNotFound)
}

func TestTeachersAreRemindedOfADoorThatIsNotOpened(t *testing.T) {
	w := newWorld(t)
	id := w.send(w.sealed(), func(s officerows.Section) bool { return slices.Contains(w.teacher.Sections, s.ID) }).Assessment.ID
	w.now = w.now.Add(2 * time.Hour)
	n, err := w.app.Give.Remind(w.ctx, w.coordinator, id)
	require.NoError(t, err)
	assert.Equal(t, 1, n)
	today, err := w.app.Today(w.ctx, w.teacher)
	require.NoError(t, err)
	require.NotEmpty(t, today.Notices)
	assert.Contains(t, today.Notices[0].Words, "the door has not been opened yet")
	list, err := w.app.Take.Sittings(w.ctx, w.teacher)
	require.NoError(t, err)
	_, err = w.app.Take.MoveDoor(w.ctx, w.teacher, list[0].ID, attempt.Open)
	require.NoError(t, err)
	_, err = w.app.Give.Remind(w.ctx, w.coordinator, id)
	assert.ErrorContains(t, err, "has")
	_, err = w.app.Give.Remind(w.ctx, w.teacher, id)
	assert.ErrorIs(t, err, desk.ErrNotFound)
}
