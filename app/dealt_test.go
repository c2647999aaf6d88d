package app_test

import (
	"maps"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/build"
	"pineledger/app/give"
	"pineledger/app/read"
	takeroom "pineledger/app/take"
	"pineledger/core/assessment"
	"pineledger/core/attempt"
	"pineledger/core/draw"
	"pineledger/core/roster"
	"pineledger/core/settings"
	"pineledger/store"
)

// twins are two forms of one blueprint, of which the first is sealed.
func (w *world) twins() (a, b build.Sheet) {
	w.Helper()
	s := w.blueprinted(30)
	d := w.drawn(s, build.DrawQuestion{Mode: draw.Best, Forms: 2, Target: &draw.Target{Target: 600, Tolerance: 20}})
	s, err := w.app.Draws.PlaceDraw(w.ctx, w.coordinator, s.Assessment.ID, d.ID, s.Assessment.Version)
	require.NoError(w, err)
	b, err = w.app.Build.Sheet(w.ctx, w.coordinator, s.Forms[1].ID)
	require.NoError(w, err)
	return w.seal(s), b
}

// dealt asks for a form after the other over the seats, to everyone from the 13th to the 16th.
func (w *world) dealt(id int64, deal roster.Deal) give.DistributionView {
	w.Helper()
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, id)
	require.NoError(w, err)
	view, err = w.app.Give.PutDistribution(w.ctx, w.coordinator, id, give.DistributionInput{Whom: everyone, Deal: deal, Version: view.Distribution.Version,
		Waves: give.OneWave("2026-10-13T08:00", "2026-10-16T16:00")})
	require.NoError(w, err)
	return view
}

// sendDealt sends both forms and lets the window begin.
func (w *world) sendDealt(deal roster.Deal) (a, b build.Sheet) {
	w.Helper()
	a, b = w.twins()
	b = w.seal(b)
	w.setting(a.Assessment.ID, settings.Minutes, 40)
	view := w.dealt(a.Assessment.ID, deal)
	reasons := map[string]string{}
	for _, f := range view.Findings {
		require.Equal(w, roster.Caution, f.Severity, f.Text)
		reasons[f.Code] = "agreed"
	}
	_, err := w.app.Give.Send(w.ctx, w.coordinator, a.Assessment.ID, view.Distribution.Version, reasons)
	require.NoError(w, err)
	w.now = w.now.Add(time.Hour)
	return a, b
}

func TestTwinFormsAreDealtOverTheSeatsOfARoom(t *testing.T) {
	w := newWorld(t)
	a, b := w.twins()
	w.setting(a.Assessment.ID, settings.Minutes, 40)
	view := w.dealt(a.Assessment.ID, roster.BySeat)
	require.Len(t, view.Forms, 2)
	assert.Equal(t, []int{2, 1}, []int{view.Forms[0].Students, view.Forms[1].Students})
	assert.Equal(t, []string{"A"}, view.Rooms[0].Letters)
	assert.Equal(t, []string{"B", "A"}, view.Rooms[1].Letters, "one room ends on A, the next begins with B")
	var codes []string
	for _, f := range view.Findings {
		codes = append(codes, f.Code)
	}
	assert.Contains(t, codes, "not-sealed:B")
	_, err := w.app.Give.Send(w.ctx, w.coordinator, a.Assessment.ID, view.Distribution.Version, nil)
	assert.ErrorContains(t, err, "Form B: The assessment is not sealed yet.")
	b = w.seal(b)
	view, err = w.app.Give.Distribution(w.ctx, w.coordinator, a.Assessment.ID)
	require.NoError(t, err)
	reasons := map[string]string{}
	for _, f := range view.Findings {
		reasons[f.Code] = "agreed"
	}
	_, err = w.app.Give.Send(w.ctx, w.coordinator, a.Assessment.ID, view.Distribution.Version, reasons)
	require.NoError(t, err)
	w.now = w.now.Add(time.Hour)

	sitting := w.sittingOf(w.teacher) // one row for both forms
	assert.Equal(t, 2, sitting.Seats)
	room, err := w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	require.Len(t, room.Seats, 2)
	assert.Empty(t, room.Unseated, "who has the other form has a seat")
	letters := map[string]string{}
	for _, s := range room.Seats {
		letters[s.Given] = s.Letter
	}
	assert.Equal(t, map[string]string{"Noor": "B", "Mei": "A"}, letters)
	noor := w.person("Noor")
	sittings, err := w.app.Take.MySittings(w.ctx, noor)
	require.NoError(t, err)
	require.Len(t, sittings, 1)
	assert.Equal(t, 40, sittings[0].Minutes, "the settings of the form that was sent hold for both")
	work, err := w.app.Take.Begin(w.ctx, noor, sittings[0].ID, takeroom.Entry{})
	require.NoError(t, err, "its door is open with the other one")
	_, err = w.app.Take.HandIn(w.ctx, noor, work.Attempt.ID)
	require.NoError(t, err)

	for _, sheet := range []build.Sheet{a, b} {
		progress, err := w.app.Give.Progress(w.ctx, w.coordinator, sheet.Assessment.ID)
		require.NoError(t, err)
		assert.Equal(t, []int{2, 3, 1}, []int{progress.Total.Sections, progress.Total.Students, progress.Total.Done}, "of both forms")
		_, absent, err := w.app.Give.Absent(w.ctx, w.coordinator, sheet.Assessment.ID, give.AbsentFilter{})
		require.NoError(t, err)
		assert.Equal(t, 2, absent)
		now, err := w.app.Build.Sheet(w.ctx, w.coordinator, sheet.Assessment.ID)
		require.NoError(t, err)
		assert.Equal(t, assessment.Out, now.Assessment.State)
	}
	sentA, sentB := w.outNow(a.Assessment.ID), w.outNow(b.Assessment.ID)
	assert.Equal(t, []any{[]string{"A", "B"}, 2, 3, true}, []any{sentA.Letters, sentA.Sections, sentA.Students, sentA.MayChange})
	assert.Equal(t, []any{a.Assessment.ID, 1, false}, []any{sentB.With, sentB.Students, sentB.MayChange})
	matrix, err := w.app.Read.Matrix(w.ctx, w.coordinator, sentB.Distribution.ID, read.MatrixQuery{})
	require.NoError(t, err)
	assert.Len(t, matrix.Rows, 1, "results are told form by form")
	for id, absent := range map[int64]int{sentA.Distribution.ID: 2, sentB.Distribution.ID: 0} {
		sheet, err := w.app.Read.MatrixSheet(w.ctx, w.coordinator, id, read.MatrixQuery{})
		require.NoError(t, err)
		assert.Len(t, sheet.Absent, absent)
	}
	w.verified()
}

func TestWhatIsSentTogetherIsMovedAndRecalledTogether(t *testing.T) {
	w := newWorld(t)
	a, b := w.sendDealt(roster.BySeat)
	first, second := w.outNow(a.Assessment.ID), w.outNow(b.Assessment.ID)
	other := give.OneWave("2026-10-13T08:00", "2026-10-20T16:00")
	_, err := w.app.Give.ChangeDates(w.ctx, w.coordinator, second.Distribution.ID, other, second.Distribution.Version, true)
	assert.ErrorContains(t, err, "Change it where that one was sent")
	look, err := w.app.Give.ChangeDates(w.ctx, w.coordinator, first.Distribution.ID, other, first.Distribution.Version, true)
	require.NoError(t, err)
	assert.Equal(t, []int{2, 3}, []int{look.Sections, look.Students})
	assert.Equal(t, time.Date(2026, 10, 20, 23, 0, 0, 0, time.UTC), w.outNow(b.Assessment.ID).Distribution.Closes)

	assert.ErrorContains(t, w.app.Give.Recall(w.ctx, w.coordinator, second.Distribution.ID, second.Distribution.Version+1), "where that one was sent")
	require.NoError(t, w.app.Give.Recall(w.ctx, w.coordinator, first.Distribution.ID, first.Distribution.Version+1))
	for _, sheet := range []build.Sheet{a, b} {
		now, err := w.app.Build.Sheet(w.ctx, w.coordinator, sheet.Assessment.ID)
		require.NoError(t, err)
		assert.Equal(t, assessment.Sealed, now.Assessment.State)
		assert.Empty(t, now.Sittings)
	}
	view, err := w.app.Give.Distribution(w.ctx, w.coordinator, b.Assessment.ID)
	require.NoError(t, err)
	assert.Zero(t, view.Distribution.ID, "nothing is left of the one that sending made")
	view, err = w.app.Give.Distribution(w.ctx, w.coordinator, a.Assessment.ID)
	require.NoError(t, err)
	assert.Equal(t, roster.BySeat, view.Distribution.Deal, "it is to be sent again")
	w.verified()
}

// Who comes later gets the form that fewer of the section have; who changes sections keeps theirs.
func TestLatecomersAreDealtAFormToo(t *testing.T) {
	w := newWorld(t)
	a, b := w.sendDealt(roster.BySeat)
	files := maps.Clone(rosterFiles)
	files["users.csv"] += "d,true,Lena,Brandt,1004,,06,2222\n"
	files["roles.csv"] += "r10,d,student,s2\n"
	// Lena joins 6-B beside Hugo, who has form A; Noor, who has form B, comes from 6-A.
	files["enrollments.csv"] = "sourcedId,classSourcedId,userSourcedId,role\ne1,c1,t1,teacher\ne2,c2,t2,teacher\ne3,c1,a,student\ne4,c2,b,student\ne5,c2,c,student\ne6,c2,d,student\n"
	w.roster(files)
	room, err := w.app.Take.Room(w.ctx, w.otherTeacher, w.sittingOf(w.otherTeacher).ID)
	require.NoError(t, err)
	letters := map[string]string{}
	for _, s := range room.Seats {
		letters[s.Given] = s.Letter
	}
	assert.Equal(t, "A", letters["Hugo"])
	assert.Equal(t, "B", letters["Noor"], "she keeps her form")
	assert.Contains(t, []string{"A", "B"}, letters["Lena"])
	assert.Len(t, letters, 3)
	assert.Equal(t, 4, w.outNow(a.Assessment.ID).Students)
	assert.NotEmpty(t, w.outNow(b.Assessment.ID).Waves)
	w.verified()
}

// What somebody has chosen for the other form alone is not lost without a word.
func TestATwinThatIsBeingPreparedIsSaid(t *testing.T) {
	w := newWorld(t)
	a, b := w.twins()
	w.dealt(b.Assessment.ID, roster.OneForm)
	view := w.dealt(a.Assessment.ID, roster.BySeat)
	assert.True(t, slices.ContainsFunc(view.Findings, func(f roster.Finding) bool { return f.Code == "form-prepared:B" && f.Severity == roster.Caution }))
	view = w.dealt(a.Assessment.ID, roster.OneForm)
	assert.False(t, slices.ContainsFunc(view.Findings, func(f roster.Finding) bool { return f.Code == "form-prepared:B" }), "alone it takes nothing")
}

func TestFormsBySection(t *testing.T) {
	w := newWorld(t)
	a, b := w.sendDealt(roster.BySection)
	assert.Equal(t, 2, w.outNow(a.Assessment.ID).Sections, "of both forms")
	assert.Equal(t, 1, w.outNow(b.Assessment.ID).Sections)
	assert.Zero(t, w.sittingOf(w.teacher).RoomID, "each section has a room of its own")
	files := maps.Clone(rosterFiles)
	files["users.csv"] += "d,true,Lena,Brandt,1004,,06,2222\n"
	files["roles.csv"] += "r10,d,student,s2\n"
	files["enrollments.csv"] += "e6,c2,d,student\n"
	w.roster(files)
	room, err := w.app.Take.Room(w.ctx, w.otherTeacher, w.sittingOf(w.otherTeacher).ID)
	require.NoError(t, err)
	require.Len(t, room.Seats, 2)
	assert.Equal(t, room.Seats[0].Letter, room.Seats[1].Letter, "who comes later gets the form of the section")
}

// A teacher seats a newcomer, who gets a form of those that are in the room.
func TestANewcomerIsSeatedByHandInARoomOfTwinForms(t *testing.T) {
	w := newWorld(t)
	a, _ := w.sendDealt(roster.BySeat)
	require.NoError(t, w.store.Write(w.ctx, func(tx *store.Tx) error { // sent without taking in who comes later
		return tx.Exec(w.ctx, "UPDATE distribution SET whom = json_set(whom, '$.follow', json('false'))")
	}))
	files := maps.Clone(rosterFiles)
	files["users.csv"] += "d,true,Lena,Brandt,1004,,06,2222\n"
	files["roles.csv"] += "r10,d,student,s2\n"
	files["enrollments.csv"] += "e6,c2,d,student\n"
	w.roster(files)
	sitting := w.sittingOf(w.otherTeacher)
	room, err := w.app.Take.Room(w.ctx, w.otherTeacher, sitting.ID)
	require.NoError(t, err)
	require.Len(t, room.Unseated, 1)
	room, err = w.app.Take.Seat(w.ctx, w.otherTeacher, sitting.ID, room.Unseated[0].StudentID)
	require.NoError(t, err)
	assert.Len(t, room.Seats, 2)
	assert.Empty(t, room.Unseated)
	assert.Equal(t, 4, w.outNow(a.Assessment.ID).Students)
}
