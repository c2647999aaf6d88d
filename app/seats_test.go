package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	"pineledger/app/give"
	takeroom "pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/officerows"
	"pineledger/store/recordrows"
)

// Somebody who comes to a section after it was sent gets a seat by their teacher, once.
func TestALateStudentIsSeatedByTheTeacher(t *testing.T) {
	w := newWorld(t)
	s := w.send(w.sealed(), func(s officerows.Section) bool { return s.Title == "6-A" })
	sitting := w.sittingOf(w.teacher)
	room, err := w.app.Take.Room(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	assert.Len(t, room.Seats, 2)
	assert.Empty(t, room.Unseated)

	var late int64
	require.NoError(t, w.store.Write(w.ctx, func(tx *store.Tx) error {
		if err := tx.Get(w.ctx, &late, "SELECT p.id FROM person p JOIN enrolment e ON e.person_id = p.id JOIN section s ON s.id = e.section_id WHERE s.title = '6-B' AND e.role = 'student'"); err != nil {
			return err
		}
		return tx.Exec(w.ctx, "INSERT INTO enrolment (sourced_id, section_id, person_id, role, active, digest) SELECT 'late', id, ?, 'student', 1, '' FROM section WHERE title = '6-A'", late)
	}))
	room, err = w.app.Take.Room(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	require.Len(t, room.Unseated, 1)
	assert.Equal(t, late, room.Unseated[0].StudentID)

	_, err = w.app.Take.Seat(w.ctx, w.otherTeacher, sitting.ID, late)
	assert.ErrorIs(t, err, desk.ErrNotFound)
	_, err = w.app.Take.Seat(w.ctx, w.student, sitting.ID, late)
	assert.ErrorIs(t, err, desk.ErrForbidden)
	_, err = w.app.Take.Seat(w.ctx, w.teacher, sitting.ID, w.student.PersonID)
	assert.ErrorIs(t, err, desk.ErrNotFound, "who has a seat needs none")
	room, err = w.app.Take.Seat(w.ctx, w.teacher, sitting.ID, late)
	require.NoError(t, err)
	assert.Len(t, room.Seats, 3)
	assert.Empty(t, room.Unseated)
	_, err = w.app.Take.Seat(w.ctx, w.teacher, sitting.ID, late)
	assert.ErrorIs(t, err, desk.ErrNotFound, "once")
	entries, err := recordrows.Ledger(w.ctx, w.store.Reader, recordrows.LedgerFilter{Limit: 1})
	require.NoError(t, err)
	assert.Equal(t, "sitting.seat", entries[0].Act)

	w.now = room.Sitting.Rules().Opens.Add(1)
	_, err = w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	student, err := w.app.Viewer(w.ctx, late)
	require.NoError(t, err)
	_, err = w.app.Take.Begin(w.ctx, student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)

	// Their other section would give it to them a second time.
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, s.Assessment.ID)
	require.NoError(t, err)
	in := give.DistributionInput{Waves: give.OneWave("2026-10-13T08:00", "2026-10-16T16:00"), Version: view.Distribution.Version}
	for _, c := range view.Candidates {
		if c.Title == "6-B" {
			in.Whom = roster.ToSections(c.ID)
		}
	}
	codes := func() (out []string) {
		view, err = w.app.Give.PutDistribution(w.ctx, w.coordinator, s.Assessment.ID, in)
		require.NoError(t, err)
		for _, f := range view.Findings {
			if f.Severity == roster.Stop {
				out = append(out, f.Code)
			}
		}
		in.Version = view.Distribution.Version
		return out
	}
	assert.Equal(t, []string{"had-elsewhere"}, codes())
	in.Whom = in.Whom.Without(late)
	assert.Equal(t, []string{"no-targets"}, codes(), "left out, they are not counted, and nobody is left")
}
