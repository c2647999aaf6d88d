package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/app/build"
	"pineledger/app/read"
	"pineledger/app/take"
	"pineledger/core/attempt"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/store/buildrows"
	"pineledger/store/officerows"
)

// laidOut is a draft of two parts; each student gets one of the two lines of the second.
func (w *world) laidOut() build.Sheet {
	w.Helper()
	s := w.draft()
	s, err := w.app.Build.PutLayout(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, placedIn(s, [][2]int{{1, 0}, {2, 1}, {2, 1}}), twoParts())
	require.NoError(w, err)
	return s
}

func twoParts() form.Layout {
	return form.Layout{Parts: []form.Part{{Title: "By hand", Directions: "<p>Write it down.</p><script>x</script>"}, {Title: "With a calculator", Calculator: true}}, Pools: []form.Pool{{Choose: 1}}}
}

// placedIn are the lines of a sheet, each in a part and a pool.
func placedIn(s build.Sheet, at [][2]int) []build.LineInput {
	var out []build.LineInput
	for i, l := range s.Lines {
		out = append(out, build.LineInput{ItemID: l.ItemID, Points: points.Points(l.Points), Part: at[i][0], Pool: at[i][1]})
	}
	return out
}

func TestPartsAndPoolsFromDraftToScore(t *testing.T) {
	w := newWorld(t)
	s := w.laidOut()
	assert.Equal(t, 2*points.One, s.Total, "a line and one of two")
	assert.Equal(t, []points.Points{points.One, points.One}, s.Worth)
	assert.Equal(t, 2, s.Each)
	assert.Equal(t, "<p>Write it down.</p>", s.Layout.Parts[0].Directions, "cleaned")
	assert.Empty(t, s.Faults)
	listed, err := w.app.Build.Assessments(w.ctx, w.coordinator, buildrows.AssessmentFilter{})
	require.NoError(t, err)
	assert.Equal(t, int64(2*points.One), listed[0].Points, "nor more in the list")

	s = w.seal(s)
	w.send(s, func(officerows.Section) bool { return true })
	w.now = w.now.Add(time.Hour)
	sitting := w.sittingOf(w.teacher)
	_, err = w.app.Take.MoveDoor(w.ctx, w.teacher, sitting.ID, attempt.Open)
	require.NoError(t, err)
	room, err := w.app.Take.Room(w.ctx, w.teacher, sitting.ID)
	require.NoError(t, err)
	assert.Equal(t, 2, room.Lines)

	view, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, take.Entry{})
	require.NoError(t, err)
	require.Len(t, view.Lines, 2)
	assert.Equal(t, []int{1, 2}, []int{view.Lines[0].Part, view.Lines[1].Part})
	assert.Equal(t, 1, view.Lines[0].Line)
	drawn := view.Lines[1].Line
	other := 5 - drawn // of lines 2 and 3
	again, err := w.app.Take.Begin(w.ctx, w.student, sitting.ID, take.Entry{})
	require.NoError(t, err)
	assert.Equal(t, drawn, again.Lines[1].Line, "what was drawn stays")

	saved, err := w.app.Take.SaveAnswers(w.ctx, w.student, view.Attempt.ID, "", []take.Answered{answer(other, 1, "A")})
	require.NoError(t, err)
	require.Len(t, saved.Refused, 1)
	require.Contains(t, saved.Refused[0].Message, "There is no line")
	_, err = w.app.Take.HandIn(w.ctx, w.student, view.Attempt.ID)
	require.NoError(t, err)

	list, err := w.app.Read.Results(w.ctx, w.coordinator)
	require.NoError(t, err)
	result := list[0].DistributionID
	m, err := w.app.Read.Matrix(w.ctx, w.coordinator, result, read.MatrixQuery{})
	require.NoError(t, err)
	require.Len(t, m.Rows, 1)
	assert.Equal(t, item.NotGiven, m.Rows[0].Credits[other-1].Outcome)
	assert.Equal(t, []int{1, 0}, []int{m.Lines[drawn-1].N, m.Lines[other-1].N})
	trail, err := w.app.Read.Trail(w.ctx, w.coordinator, result, view.Attempt.ID)
	require.NoError(t, err)
	assert.Equal(t, 2*points.One, trail.Head.Total)
	assert.Equal(t, item.NotGiven, trail.Lines[other-1].Credit.Outcome)
	by, err := w.app.Read.ResultsByBand(w.ctx, w.coordinator, result, "")
	require.NoError(t, err)
	for i, strand := range by.Strands {
		var possible points.Points
		for _, at := range strand.Lines {
			if at+1 != other {
				possible += points.One
			}
		}
		assert.Equal(t, possible, by.All.Strands[i].Possible, "under %s only what was given could be earned", strand.Code)
	}
}

func TestALayoutThatIsNotReadyIsNotSealed(t *testing.T) {
	w := newWorld(t)
	s := w.laidOut()
	lines := placedIn(s, [][2]int{{1, 0}, {2, 1}, {2, 1}})
	lines[2].Points = 3 * points.One
	s, err := w.app.Build.PutLayout(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, lines, twoParts())
	require.NoError(t, err, "a draft may be unready")
	require.Len(t, s.Faults, 1)
	assert.Contains(t, s.Parts[2].State, "1 to mend")
	_, err = w.app.Build.Seal(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version)
	require.ErrorContains(t, err, "unlike points")

	lines[2].Pool = 2
	_, err = w.app.Build.PutLayout(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, lines, twoParts())
	require.ErrorContains(t, err, "there is no pool 2")
	_, err = w.app.Build.PutLayout(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, nil, form.Layout{Parts: []form.Part{{Title: " "}}})
	require.ErrorContains(t, err, "Part 1 needs a title")
}

func TestLinesWithoutALayoutStayInTheirs(t *testing.T) {
	w := newWorld(t)
	s := w.laidOut()
	id := s.Assessment.ID
	in := []build.LineInput{{ItemID: s.Lines[2].ItemID, Points: points.One}, {ItemID: s.Lines[0].ItemID, Points: points.One}}
	turned, err := w.app.Build.PutLines(w.ctx, w.coordinator, id, s.Assessment.Version, in)
	require.NoError(t, err)
	assert.Equal(t, [][2]int{{2, 1}, {2, 0}}, [][2]int{{turned.Lines[0].Part, turned.Lines[0].Line.Pool}, {turned.Lines[1].Part, turned.Lines[1].Line.Pool}},
		"a line that now follows the second part stands in it")

	list, err := w.app.Build.History(w.ctx, w.coordinator, id)
	require.NoError(t, err)
	back, err := w.app.Build.Restore(w.ctx, w.coordinator, id, turned.Assessment.Version, list[1].Number)
	require.NoError(t, err)
	assert.Equal(t, s.Layout, back.Layout)
	assert.Equal(t, 1, back.Lines[1].Line.Pool, "back as they were, pools and all")

	copied, err := w.app.Build.CopyAssessment(w.ctx, w.coordinator, id, "")
	require.NoError(t, err)
	assert.Equal(t, back.Layout, copied.Layout)
	assert.Equal(t, []int{1, 2, 2}, []int{copied.Lines[0].Part, copied.Lines[1].Part, copied.Lines[2].Part})
}

func TestAPreviewIsWhatASeedGets(t *testing.T) {
	w := newWorld(t)
	s := w.laidOut()
	seen := map[int]bool{}
	for seed := range int64(20) {
		view, err := w.app.Take.Preview(w.ctx, w.coordinator, s.Assessment.ID, seed+1)
		require.NoError(t, err)
		require.Len(t, view.Lines, 2)
		seen[view.Lines[1].Line] = true
	}
	assert.Equal(t, map[int]bool{2: true, 3: true}, seen)
}

func TestAPoolCountsInTheBalanceAsWhatItGives(t *testing.T) {
	w := newWorld(t)
	s := w.laidOut()
	s, err := w.app.Build.PutBlueprint(w.ctx, w.coordinator, s.Assessment.ID, s.Assessment.Version, []build.RowInput{{Min: 2 * points.One, Max: 2 * points.One}})
	require.NoError(t, err)
	assert.Equal(t, 2*points.One, s.Rows[0].Balance.Placed)
	assert.Equal(t, []int{1}, s.Pools[0].Counts)
	assert.Zero(t, s.Shortage+s.Excess)
}
