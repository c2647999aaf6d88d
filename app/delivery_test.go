package app_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	bankroom "pineledger/app/bank"
	"pineledger/app/intake"
	"pineledger/app/read"
	takeroom "pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/item"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
	"pineledger/store/readrows"
)

// A window of several days: what is not finished goes on the next day with the time that is left.
func TestADayThatGoesOn(t *testing.T) {
	w := newWorld(t)
	w.sent()
	sitting := w.sittingOf(w.teacher)
	door := func(to attempt.DoorState) {
		t.Helper()
		_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, to)
		require.NoError(t, err)
	}
	door(attempt.Open)
	first, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	require.Equal(t, 50*time.Minute, first.Left)
	w.now = w.now.Add(30 * time.Minute)
	_, err = w.app.Take.SaveAnswers(w.ctx, w.student, first.Attempt.ID, "", []takeroom.Answered{answer(1, 1, "A")})
	require.NoError(t, err)
	door(attempt.Closed)

	w.now = w.now.Add(23 * time.Hour)
	require.NoError(t, w.app.Take.Tick(w.ctx))
	shut, err := w.app.Take.Open(w.ctx, w.student, sitting.ID, "", false)
	require.NoError(t, err)
	assert.Equal(t, attempt.Working, shut.Attempt.State, "overnight nothing is handed in")
	assert.Equal(t, "Your teacher has closed the door; your answers are kept.", shut.Stopped)
	assert.Empty(t, shut.Lines, "behind a closed door nothing of the items is sent")

	door(attempt.Open)
	second, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	assert.Equal(t, 20*time.Minute, second.Left)
	assert.Equal(t, w.now.Add(20*time.Minute), second.End)
	assert.NotNil(t, second.Lines[0].Answer)
	w.now = w.now.Add(20*time.Minute + attempt.Grace)
	require.NoError(t, w.app.Take.Tick(w.ctx))
	over, err := w.app.Take.Open(w.ctx, w.student, sitting.ID, "", false)
	require.NoError(t, err)
	assert.Equal(t, attempt.Scored, over.Attempt.State)
}

// Who watches a room is told of all that shows there; a student only of the door and of the own work.
func TestARoomIsPushed(t *testing.T) {
	w := newWorld(t)
	w.sent()
	sitting := w.sittingOf(w.teacher)
	watch := func(v roster.Viewer) <-chan struct{} {
		t.Helper()
		changed, stop, err := w.app.Take.Watch(w.ctx, v, sitting.ID)
		require.NoError(t, err)
		t.Cleanup(stop)
		return changed
	}
	teacher, student := watch(w.teacher), watch(w.student)
	_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	assert.True(t, told(teacher))
	assert.True(t, told(student))
	begun, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	assert.True(t, told(teacher), "one has begun")
	_, err = w.app.Take.SaveAnswers(w.ctx, w.student, begun.Attempt.ID, "", []takeroom.Answered{answer(1, 1, "A")})
	require.NoError(t, err)
	assert.True(t, told(teacher), "one has answered")
	assert.False(t, told(student))
	_, err = w.app.Take.HandIn(w.ctx, w.student, begun.Attempt.ID)
	require.NoError(t, err)
	assert.True(t, told(teacher), "one has handed in")
	assert.True(t, told(student))
	_, err = w.app.Take.OfferLate(w.ctx, w.student, begun.Attempt.ID, []takeroom.Answered{answer(2, 2, "B")})
	require.NoError(t, err)
	assert.True(t, told(teacher), "something came late")
	require.NoError(t, w.app.Take.DecideLate(w.ctx, w.teacher, sitting.ID, begun.Attempt.ID, false))
	assert.True(t, told(teacher))
}

func told(changed <-chan struct{}) bool {
	select {
	case <-changed:
		return true
	default:
		return false
	}
}

// The page of directions starts no clock.
func TestDirectionsStartNoClock(t *testing.T) {
	w := newWorld(t)
	w.sent()
	sitting := w.sittingOf(w.teacher)
	_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	directions, err := w.app.Take.Open(w.ctx, w.student, sitting.ID, "", false)
	require.NoError(t, err)
	assert.Zero(t, directions.Attempt.ID)
	assert.Empty(t, directions.Lines)
	assert.Equal(t, 3, directions.Count)
	assert.Equal(t, "<p>Think.</p>", directions.Instructions)
	w.now = w.now.Add(40 * time.Minute)
	begun, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	assert.Equal(t, 50*time.Minute, begun.Left)
	_, err = w.app.Take.Open(w.ctx, w.otherStudent, sitting.ID, "", false)
	assert.ErrorIs(t, err, store.ErrNotFound)
}

// A program that stops and starts again knows all clocks.
func TestClocksOutliveTheProgram(t *testing.T) {
	w := newWorld(t)
	w.sent()
	sitting, begun := w.atWork(w.teacher, w.student)
	w.restart()
	w.now = begun.End.Add(attempt.Grace - 1)
	require.NoError(t, w.app.Take.Tick(w.ctx))
	room, err := w.app.Take.Room(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	assert.Zero(t, room.Sitting.Done)
	w.now = begun.End.Add(attempt.Grace)
	require.NoError(t, w.app.Take.Tick(w.ctx))
	room, err = w.app.Take.Room(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	assert.Equal(t, 1, room.Sitting.Done)
}

// An attempt that cannot be handed in stops no other.
func TestOneThatCannotBeHandedInStopsNoOther(t *testing.T) {
	w := newWorld(t)
	w.sent()
	var ids []int64
	for _, who := range []struct{ teacher, student roster.Viewer }{{w.teacher, w.student}, {w.otherTeacher, w.otherStudent}} {
		_, begun := w.atWork(who.teacher, who.student)
		ids = append(ids, begun.Attempt.ID)
	}
	require.NoError(t, w.store.Write(w.ctx, func(tx *store.Tx) error {
		return tx.Exec(w.ctx, "INSERT INTO answer (attempt_id, line, number, response, marked, saved_at) VALUES (?, 1, 1, 'damaged', 0, 1)", ids[0])
	}))
	w.now = w.now.Add(2 * time.Hour)
	require.NoError(t, w.app.Take.Tick(w.ctx))
	for i, want := range []int{0, 1} {
		scorings, err := readrows.Scorings(w.ctx, w.store.Reader, ids[i])
		require.NoError(t, err)
		assert.Len(t, scorings, want)
	}
}

// Results and tallies made anew from the scorings are what they were.
func TestResultsFollowFromTheScorings(t *testing.T) {
	w := newWorld(t)
	w.sent()
	for _, who := range []struct{ teacher, student roster.Viewer }{{w.teacher, w.student}, {w.otherTeacher, w.otherStudent}} {
		_, begun := w.atWork(who.teacher, who.student)
		_, err := w.app.Take.SaveAnswers(w.ctx, who.student, begun.Attempt.ID, "", []takeroom.Answered{answer(1, 1, "A"), answer(3, 2, "A")})
		require.NoError(t, err)
		_, err = w.app.Take.HandIn(w.ctx, who.student, begun.Attempt.ID)
		require.NoError(t, err)
	}
	read := func() ([]readrows.MatrixRow, []readrows.LineTally) {
		all := roster.Scope{District: true}
		rows, err := readrows.Matrix(w.ctx, w.store.Reader, all, 1, readrows.MatrixFilter{})
		require.NoError(t, err)
		tallies, err := readrows.LineTallies(w.ctx, w.store.Reader, all, 1)
		require.NoError(t, err)
		return rows, tallies
	}
	rows, tallies := read()
	require.Len(t, rows, 2)
	require.NoError(t, w.store.Write(w.ctx, func(tx *store.Tx) error {
		return tx.Exec(w.ctx, "UPDATE line_tally SET credit = credit + 7, n = n + 1")
	}))
	seats, err := w.app.Take.Rebuild(w.ctx)
	require.NoError(t, err)
	assert.Equal(t, 2, seats)
	again, sums := read()
	assert.Equal(t, rows, again)
	assert.Equal(t, tallies, sums)
}

// A seat with several tries: each is an attempt of its own, and the result says which counts.
func TestSeveralTries(t *testing.T) {
	w := newWorld(t)
	s := w.sent()
	w.setting(s.Assessment.ID, settings.Attempts, 2)
	sitting := w.sittingOf(w.teacher)
	_, err := w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	var ids []int64
	for _, answers := range [][]takeroom.Answered{{answer(1, 1, "A")}, {answer(1, 1, "B")}} {
		begun, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
		require.NoError(t, err)
		_, err = w.app.Take.SaveAnswers(w.ctx, w.student, begun.Attempt.ID, "", answers)
		require.NoError(t, err)
		_, err = w.app.Take.HandIn(w.ctx, w.student, begun.Attempt.ID)
		require.NoError(t, err)
		ids = append(ids, begun.Attempt.ID)
		w.now = w.now.Add(time.Minute)
	}
	assert.NotEqual(t, ids[0], ids[1])
	third, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	assert.Equal(t, ids[1], third.Attempt.ID, "there is no third")
	rows, err := readrows.Matrix(w.ctx, w.store.Reader, roster.Scope{District: true}, sitting.DistributionID, readrows.MatrixFilter{})
	require.NoError(t, err)
	require.Len(t, rows, 1)
	assert.EqualValues(t, 100, rows[0].Raw)
	assert.Equal(t, ids[0], rows[0].AttemptID)
	assert.Equal(t, "The best of 2 tries.", rows[0].Why)
	room, err := w.app.Take.Room(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	assert.Equal(t, []int{1, 1, 2}, []int{room.Sitting.Begun, room.Sitting.Done, len(room.Seats)}, "a seat counts once")
}

// Stems and keys of what a class has yet to sit are closed to its teacher until the
// window is over, unless a coordinator opens them.
func TestKeysBeforeTheWindowIsOver(t *testing.T) {
	w := newWorld(t)
	w.sent()
	sitting := w.sittingOf(w.teacher)
	head := func(v roster.Viewer) read.ResultHead {
		t.Helper()
		b, err := w.app.Read.ResultsByBand(w.ctx, v, sitting.DistributionID, "")
		require.NoError(t, err)
		return b.Head
	}
	page, err := w.app.Bank.Items(w.ctx, w.coordinator, bankroom.ItemSearch{})
	require.NoError(t, err)
	id := page.Items[0].ID
	look := func() error { _, err := w.app.Bank.Item(w.ctx, w.teacher, id, 0); return err }

	assert.True(t, head(w.teacher).KeysClosed)
	for _, l := range head(w.teacher).Lines {
		assert.Empty(t, l.Stem+l.Key+l.Identifier)
		assert.Zero(t, l.ItemID)
	}
	assert.NotEmpty(t, head(w.coordinator).Lines[0].Key)
	assert.ErrorContains(t, look(), "your class has yet to sit")
	found, err := w.app.Bank.Items(w.ctx, w.teacher, bankroom.ItemSearch{})
	require.NoError(t, err)
	assert.Empty(t, found.Items, "nor does a search find them")
	_, err = w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	begun, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, takeroom.Entry{})
	require.NoError(t, err)
	_, err = w.app.Take.HandIn(w.ctx, w.student, begun.Attempt.ID)
	require.NoError(t, err)
	_, err = w.app.Read.Trail(w.ctx, w.teacher, sitting.DistributionID, begun.Attempt.ID)
	assert.ErrorContains(t, err, "open when the window is over")

	assert.Error(t, w.app.Read.OpenKeys(w.ctx, w.teacher, sitting.DistributionID, true))
	require.NoError(t, w.app.Read.OpenKeys(w.ctx, w.coordinator, sitting.DistributionID, true))
	assert.Equal(t, "keys.open", w.entries()[0].Act)
	assert.NotEmpty(t, head(w.teacher).Lines[0].Key)
	assert.NoError(t, look())
	require.NoError(t, w.app.Read.OpenKeys(w.ctx, w.coordinator, sitting.DistributionID, false))
	assert.True(t, head(w.teacher).KeysClosed)

	w.now = store.Time(sitting.ClosesAt)
	assert.NotEmpty(t, head(w.teacher).Lines[0].Key)
	assert.NoError(t, look())
}

// A written answer that nobody has read is not scored yet: no percent, no band, in no mean.
// What else the student answered counts for the statistics of its lines.
func TestWhatWaitsForAReaderIsNotWrong(t *testing.T) {
	w := newWorld(t)
	file := strings.SplitN(itemsFile, "\n", 2)[0] + "\nI4,Bank,short-written,Mathematics,06,M6.RR,2,,Explain the tide.,,,,,,,,\n"
	w.take(roster.Viewer{Name: "system", Posts: []roster.Post{{Role: roster.DistrictCoordinator}}}, intake.ImportItems, w.file("more.csv", file), 1)
	w.sent()
	sitting, begun := w.atWork(w.teacher, w.student)
	saved, err := w.app.Take.SaveAnswers(w.ctx, w.student, begun.Attempt.ID, "", []takeroom.Answered{answer(1, 1, "A"), answer(4, 2, "The moon pulls.")})
	require.NoError(t, err)
	require.Empty(t, saved.Refused)
	done, err := w.app.Take.HandIn(w.ctx, w.student, begun.Attempt.ID)
	require.NoError(t, err)
	assert.Equal(t, attempt.HandedIn, done.Attempt.State)

	b, err := w.app.Read.ResultsByBand(w.ctx, w.coordinator, sitting.DistributionID, "")
	require.NoError(t, err)
	assert.Equal(t, []int{0, 1}, []int{b.All.N, b.All.Waiting})
	assert.Equal(t, []int{0, 0}, b.All.Bands)
	assert.EqualValues(t, -1, b.All.Mean)
	m, err := w.app.Read.Matrix(w.ctx, w.coordinator, sitting.DistributionID, read.MatrixQuery{})
	require.NoError(t, err)
	require.Len(t, m.Rows, 1)
	assert.False(t, m.Rows[0].Final)
	assert.Equal(t, -1, m.Rows[0].Band)
	assert.Equal(t, item.Unread, m.Rows[0].Credits[3].Outcome)
	assert.Equal(t, []int{1, 0}, []int{m.Lines[0].N, m.Lines[3].N})
	trail, err := w.app.Read.Trail(w.ctx, w.coordinator, sitting.DistributionID, begun.Attempt.ID)
	require.NoError(t, err)
	assert.EqualValues(t, -1, trail.Percent)
}
