package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	takeroom "pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/points"
	"pineledger/store"
	"pineledger/store/readrows"
	"pineledger/store/takerows"
)

// What was answered in time and could not be sent before the end waits for staff; where they
// count it a scoring is added, and the one of the hand-in stays as it was.
func TestLateAnswersCountWhenStaffSaySo(t *testing.T) {
	w := newWorld(t)
	w.sent()
	sitting := w.sittingOf(w.teacher)
	_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	begun, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	id := begun.Attempt.ID
	at := func(line, minute int, value string) takeroom.Answered {
		return answer(line, begun.Now.Add(time.Duration(minute)*time.Minute).UnixMilli(), value)
	}
	_, err = w.app.Take.SaveAnswers(w.ctx, w.student, id, "", []takeroom.Answered{at(1, 5, "B")})
	require.NoError(t, err)
	var conflict *desk.ConflictError
	_, err = w.app.Take.OfferLate(w.ctx, w.student, id, []takeroom.Answered{at(1, 6, "A")})
	require.ErrorAs(t, err, &conflict, "while one works, answers are saved")
	w.now = w.now.Add(51 * time.Minute)
	require.NoError(t, w.app.Take.Tick(w.ctx))
	before, err := readrows.Scorings(w.ctx, w.store.Reader, id)
	require.NoError(t, err)
	require.Len(t, before, 1)

	_, err = w.app.Take.OfferLate(w.ctx, w.otherStudent, id, []takeroom.Answered{at(1, 6, "A")})
	assert.ErrorIs(t, err, desk.ErrNotFound, "of another")
	waiting, err := w.app.Take.OfferLate(w.ctx, w.student, id, []takeroom.Answered{at(1, 40, "A"), at(3, 55, "A"), at(9, 40, "A"), at(1, 45, "Z")})
	require.NoError(t, err)
	assert.Equal(t, 2, waiting, "what is no answer to a line is left aside")
	waiting, err = w.app.Take.OfferLate(w.ctx, w.student, id, []takeroom.Answered{at(1, 4, "C"), at(1, 40, "A")})
	require.NoError(t, err)
	assert.Equal(t, 2, waiting, "older than what was handed in, and sent twice")

	room, err := w.app.Take.Room(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	late := 0
	for _, s := range room.Seats {
		late += s.Late
	}
	assert.Equal(t, 2, late)
	list, err := w.app.Take.LateAnswers(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.False(t, list[0].Decided)
	require.Len(t, list[0].Lines, 2)
	assert.Equal(t, []string{"B"}, list[0].Lines[0].Before)
	assert.Equal(t, []string{"A"}, list[0].Lines[0].Came)
	assert.True(t, list[0].Lines[0].InTime)
	assert.False(t, list[0].Lines[1].InTime, "given five minutes after the end")
	unchanged, err := readrows.Scorings(w.ctx, w.store.Reader, id)
	require.NoError(t, err)
	assert.Equal(t, before, unchanged, "nothing counts yet")

	assert.ErrorIs(t, w.app.Take.DecideLate(w.ctx, w.student, sitting.ID, id, true), desk.ErrForbidden)
	require.NoError(t, w.app.Take.DecideLate(w.ctx, w.teacher, sitting.ID, id, false))
	room, err = w.app.Take.Room(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	leftOut := 0
	for _, s := range room.Seats {
		assert.Zero(t, s.Late)
		leftOut += s.LeftOut
	}
	assert.Equal(t, 2, leftOut, "the room still tells of them")
	list, err = w.app.Take.LateAnswers(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	assert.True(t, list[0].Decided)
	assert.False(t, list[0].Counts)
	require.NoError(t, w.app.Record.PutAnchor(w.ctx))
	_, err = w.app.Record.Verify(w.ctx)
	require.NoError(t, err)

	require.NoError(t, w.app.Take.DecideLate(w.ctx, w.teacher, sitting.ID, id, true), "left out, it can still be counted")
	after, err := readrows.Scorings(w.ctx, w.store.Reader, id)
	require.NoError(t, err)
	require.Len(t, after, 2)
	assert.Equal(t, before[0], after[0])
	assert.Equal(t, readrows.ByLate, after[1].Kind)
	assert.Equal(t, points.One, after[1].Credits[0].Credit)
	assert.Greater(t, after[1].Raw, before[0].Raw)
	kept, err := takerows.Answers(w.ctx, w.store.Reader, id)
	require.NoError(t, err)
	assert.Len(t, kept, 1, "what was handed in stays")
	require.NoError(t, w.app.Record.PutAnchor(w.ctx))
	_, err = w.app.Record.Verify(w.ctx)
	require.NoError(t, err)
	require.ErrorAs(t, w.app.Take.DecideLate(w.ctx, w.teacher, sitting.ID, id, false), &conflict, "what counts stays so")

	require.NoError(t, w.store.Write(w.ctx, func(tx *store.Tx) error {
		return tx.Exec(w.ctx, "UPDATE late_answer SET response = '{\"RESPONSE\":[\"B\"]}' WHERE line = 1")
	}))
	require.NoError(t, w.app.Record.PutAnchor(w.ctx))
	_, err = w.app.Record.Verify(w.ctx)
	assert.ErrorContains(t, err, "does not follow from its answers")
}
