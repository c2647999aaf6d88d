package panel_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/band"
	"pineledger/core/panel"
	"pineledger/core/points"
	"pineledger/core/predict"
)

// rated is a task of two cuts on a line of one and one of two points.
func rated(t require.TestingT) *panel.Task {
	form, err := panel.NewForm([]band.Line{{Points: 100}, {Points: 200, Step: 100}}, band.AtLeast)
	require.NoError(t, err)
	return &panel.Task{Method: panel.ByRatings, Form: form, Cuts: 2}
}

// marked is a task of two cuts on three lines, the second the easiest.
func marked(t require.TestingT) *panel.Task {
	form, err := panel.NewForm([]band.Line{{Points: 100}, {Points: 100}, {Points: 100}}, band.AtLeast)
	require.NoError(t, err)
	task := &panel.Task{Method: panel.ByMarks, Form: form, Cuts: 2, Probability: 2. / 3}
	for _, b := range []float64{0, -1, 2} {
		task.Lines = append(task.Lines, predict.Line{B: b, Levels: []points.Points{0, 100}})
	}
	return task
}

func TestOnlyWorkThatIsDoneCounts(t *testing.T) {
	task := rated(t)
	begun := task.Empty()
	begun.Ratings[0][1] = 40
	given, of := begun.Given()
	assert.Equal(t, []int{1, 4}, []int{given, of})
	whole := panel.Work{Ratings: panel.Ratings{{50, 20}, {90, 80}}, Done: true}
	turned := panel.Work{Ratings: panel.Ratings{{90, 80}, {50, 20}}, Done: true}
	carried := panel.Work{Ratings: whole.Ratings}
	begun.Done = true
	round := task.Round([]panel.Work{begun, whole, carried, turned})
	assert.Equal(t, []int{1, 3}, round.Counted, "neither who is not through nor who has yet to say that it stands")
	assert.Equal(t, []float64{0.9, 2.5}, round.Cuts[0].Values)
	assert.Equal(t, []panel.Disorder{{Judge: 3, Cut: 0}}, round.Disorders, "by its place among all")
	assert.Len(t, round.Lines, 2)
	assert.Nil(t, task.Round([]panel.Work{begun, task.Empty()}).Cuts)
	assert.Nil(t, task.Booklet())
}

func TestMarksAreThoseOfTheBooklet(t *testing.T) {
	task := marked(t)
	begun := task.Empty()
	assert.Equal(t, []int{panel.None, panel.None}, begun.Marks)
	begun.Marks[1] = 3
	round := task.Round([]panel.Work{{Marks: []int{1, 2}, Done: true}, begun, {Marks: []int{2, 3}, Done: true}})
	assert.Equal(t, []int{0, 2}, round.Counted)
	require.Len(t, round.Cuts, 2)
	booklet := task.Booklet()
	assert.Equal(t, []int{1, 0, 2}, []int{booklet[0].Line, booklet[1].Line, booklet[2].Line})
	assert.InDelta(t, (booklet[0].Location+booklet[1].Location)/2, round.Cuts[0].Median, 1e-12)
	assert.Equal(t, round.Cuts[0].Raw, round.Cuts[0].MedianRaw)
	assert.Nil(t, round.Lines)
}

func TestWhatCannotBeGiven(t *testing.T) {
	ratings, marks := rated(t), marked(t)
	for _, c := range []struct {
		task             *panel.Task
		cut, line, value int
		fits             bool
	}{
		{ratings, 0, 0, 0, true}, {ratings, 1, 1, 100, true}, {ratings, 0, 0, panel.None, true},
		{ratings, 2, 0, 5, false}, {ratings, -1, 0, 5, false}, {ratings, 0, 2, 5, false}, {ratings, 0, -1, 5, false}, {ratings, 0, 0, 101, false}, {ratings, 0, 0, -2, false},
		{marks, 0, 0, 1, true}, {marks, 1, 0, 3, true}, {marks, 0, 0, panel.None, true},
		{marks, 0, 0, 0, false}, {marks, 0, 0, 4, false}, {marks, 2, 0, 1, false},
	} {
		assert.Equal(t, c.fits, c.task.Fits(c.cut, c.line, c.value), "%+v", c)
	}
}

// The median's raw score lies between those of the lowest and the highest judge, and is the mean's where all agree.
func TestTheMedianBecomesARawScoreToo(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		task := rated(t)
		var works []panel.Work
		for range rapid.IntRange(1, 7).Draw(t, "judges") {
			share := rapid.IntRange(0, 100)
			w := task.Empty()
			w.Done = true
			for c := range w.Ratings {
				for l := range w.Ratings[c] {
					w.Ratings[c][l] = share.Draw(t, "share")
				}
			}
			works = append(works, w)
		}
		for c, cut := range task.Round(works).Cuts {
			lowest, highest := cut.MedianRaw, cut.MedianRaw
			for _, w := range works {
				alone := task.Round([]panel.Work{w}).Cuts[c]
				assert.Equal(t, alone.Raw, alone.MedianRaw)
				lowest, highest = min(lowest, alone.Raw), max(highest, alone.Raw)
			}
			assert.GreaterOrEqual(t, cut.MedianRaw, lowest)
			assert.LessOrEqual(t, cut.MedianRaw, highest)
			if len(works)%2 == 1 {
				exact := points.Points(0)
				for _, w := range works {
					if alone := task.Round([]panel.Work{w}).Cuts[c]; alone.Values[0] == cut.Median {
						exact = alone.Raw
					}
				}
				assert.Equal(t, exact, cut.MedianRaw, "of an odd number it is the middle judge's")
			}
		}
	})
}
