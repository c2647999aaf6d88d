package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	"pineledger/core/roster"
)

func TestSectionsAndStudentsAreFoundByWhoMaySeeThem(t *testing.T) {
	w := newWorld(t)
	sections, err := w.app.Office.SectionsOf(w.ctx, w.principal, w.principal.HomeSchool())
	require.NoError(t, err)
	students, err := w.app.Office.StudentsOfSection(w.ctx, w.principal, sections[0].ID)
	require.NoError(t, err)
	student := students[0]
	found := func(v roster.Viewer, words string) (names []string) {
		list, err := w.app.Office.Find(w.ctx, v, words)
		require.NoError(t, err)
		for _, f := range list {
			names = append(names, f.Name)
		}
		return names
	}
	full := student.Given + " " + student.Family
	for _, v := range []roster.Viewer{w.coordinator, w.principal} {
		assert.Contains(t, found(v, full[:len(full)-1]), full)
		assert.Contains(t, found(v, sections[0].Title), sections[0].Title)
		assert.Equal(t, []string{full}, found(v, student.Number), "by their number, whole")
	}
	elsewhere := 0
	for _, v := range []roster.Viewer{w.teacher, w.otherTeacher} {
		if len(found(v, full)) == 0 {
			elsewhere++
		}
	}
	assert.Equal(t, 1, elsewhere, "one of the two teachers has them, the other does not find them")
	assert.Empty(t, found(w.coordinator, "%%"), "what is typed is no pattern")
	assert.Empty(t, found(w.coordinator, "a"), "one letter asks for nothing")
	_, err = w.app.Office.Find(w.ctx, w.student, full)
	assert.ErrorIs(t, err, desk.ErrForbidden)
}
