package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/desk"
	"pineledger/app/intake"
	"pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/roster"
	"pineledger/store"
	"pineledger/store/readrows"
)

// faceToFace gives the bank's three items and two that an adult records, as lines
// 4 and 5, and opens the door of the world's student.
func (w *world) faceToFace() int64 {
	w.Helper()
	w.take(w.coordinator, intake.ImportItems, w.file("face.csv", "identifier,bank,kind,subject,grade,standards,stem,key,directions\n"+
		"F1,Bank,examiner,Mathematics,06,M6.RR,Which is a circle?,the second one,Say: point to the circle.\n"+
		"F2,Bank,examiner,Mathematics,06,M6.RR,How many are there?,five,Say: count them.\n"), 2)
	w.sent()
	sitting := w.sittingOf(w.teacher)
	_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(w, err)
	return sitting.ID
}

func TestAnAdultRecordsAChild(t *testing.T) {
	w := newWorld(t)
	sitting, child := w.faceToFace(), w.student.PersonID
	view, err := w.app.Take.BeginRecording(w.ctx, w.teacher, sitting, child)
	require.NoError(t, err)
	require.Len(t, view.Lines, 2, "the line that the student answers is not recorded")
	assert.Equal(t, []any{4, "Say: point to the circle.", "the second one"}, []any{view.Lines[0].Line, view.Lines[0].Directions, view.Lines[0].Right})
	assert.ElementsMatch(t, []int{4, 5}, view.Mixed)

	for i, c := range []struct {
		line     int
		recorded string
	}{{4, item.RecordedWrong}, {4, item.RecordedRight}, {5, item.RecordedNone}} {
		_, err = w.app.Take.RecordAnswer(w.ctx, w.teacher, sitting, child, c.line, c.recorded, int64(i+1))
		require.NoError(t, err)
	}
	_, err = w.app.Take.RecordAnswer(w.ctx, w.teacher, sitting, child, 4, item.RecordedWrong, 1)
	require.NoError(t, err, "an older number changes nothing")
	_, err = w.app.Take.RecordAnswer(w.ctx, w.teacher, sitting, child, 2, item.RecordedRight, 9)
	assert.ErrorContains(t, err, "Line 2 is not recorded by an adult")
	_, err = w.app.Take.RecordAnswer(w.ctx, w.teacher, sitting, child, 4, "maybe", 9)
	assert.ErrorContains(t, err, "not right, wrong or none")

	view, err = w.app.Take.BeginRecording(w.ctx, w.teacher, sitting, child)
	require.NoError(t, err)
	assert.Equal(t, []string{"right", "none"}, []string{view.Lines[0].Recorded, view.Lines[1].Recorded}, "what was recorded is there again")

	own, err := w.app.Take.Begin(w.ctx, w.student, sitting, take.Entry{})
	require.NoError(t, err)
	saved, err := w.app.Take.SaveAnswers(w.ctx, w.student, own.Attempt.ID, "", []take.Answered{{Line: 5, Number: 99, Response: item.Response{"RESPONSE": {"right"}}}})
	require.NoError(t, err)
	assert.Equal(t, []take.RefusedAnswer{{Line: 5, Message: "Line 5 is recorded by an adult."}}, saved.Refused, "no child records itself")

	view, err = w.app.Take.HandInFor(w.ctx, w.teacher, sitting, child)
	require.NoError(t, err)
	assert.NotEqual(t, attempt.Working, view.State)
	score, _, err := readrows.ScoreInScope(w.ctx, w.store.Reader, roster.Scope{District: true}, view.AttemptID)
	require.NoError(t, err)
	assert.Equal(t, points.Points(100), score.Raw)
	var outcomes []item.Outcome
	for _, c := range score.Credits {
		outcomes = append(outcomes, c.Outcome)
	}
	assert.Equal(t, []item.Outcome{item.Omitted, item.Omitted, item.Omitted, item.Right, item.Omitted}, outcomes, "no response is recorded, so the line was reached")
	_, err = w.app.Take.RecordAnswer(w.ctx, w.teacher, sitting, child, 4, item.RecordedWrong, 99)
	var conflict *desk.ConflictError
	require.ErrorAs(t, err, &conflict, "what is handed in stays")
}

func TestWhoMayRecord(t *testing.T) {
	w := newWorld(t)
	sitting, child := w.faceToFace(), w.student.PersonID
	for who, want := range map[*roster.Viewer]error{&w.student: desk.ErrForbidden, &w.otherTeacher: store.ErrNotFound} {
		_, err := w.app.Take.BeginRecording(w.ctx, *who, sitting, child)
		require.ErrorIs(t, err, want)
		_, err = w.app.Take.RecordAnswer(w.ctx, *who, sitting, child, 4, item.RecordedRight, 1)
		require.ErrorIs(t, err, want)
		_, err = w.app.Take.HandInFor(w.ctx, *who, sitting, child)
		require.ErrorIs(t, err, want)
	}
	_, err := w.app.Take.BeginRecording(w.ctx, w.teacher, sitting, w.otherStudent.PersonID)
	require.ErrorIs(t, err, store.ErrNotFound, "a child of another section has no place here")
	_, err = w.app.Take.RecordAnswer(w.ctx, w.teacher, sitting, child, 4, item.RecordedRight, 1)
	assert.ErrorContains(t, err, "has not begun")
	_, err = w.app.Take.MoveDoor(w.ctx, w.teacher, sitting, attempt.Closed)
	require.NoError(t, err)
	_, err = w.app.Take.BeginRecording(w.ctx, w.teacher, sitting, child)
	var conflict *desk.ConflictError
	require.ErrorAs(t, err, &conflict, "behind a closed door nothing begins")
}
