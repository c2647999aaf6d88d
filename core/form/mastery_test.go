package form_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/attempt"
	"pineledger/core/band"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/points"
)

func TestMasteryIsToldFromEnoughPoints(t *testing.T) {
	on := func(worth points.Points, pool int, standards ...string) form.Line {
		return form.Line{Points: worth, Pool: pool, Standards: standards, Item: item.NewChoice(item.SingleChoice, "x", []string{"a", "b"}, []int{0}, item.AllOrNothing)}
	}
	seventy := points.Points(7000)
	f := form.Form{
		Standards: []form.Standard{{Code: "R"}, {Code: "R.1", Parent: "R"}, {Code: "R.1a", Parent: "R.1"}, {Code: "R.2", Parent: "R"}, {Code: "D"}},
		Lines:     []form.Line{on(100, 0, "R.1a"), on(100, 0, "R.1"), on(100, 0, "R.1", "R.2"), on(100, 0, "D"), on(200, 1, "D")},
		Mastery:   &form.Mastery{Set: "Mastery", Least: 300, Bands: []band.Band{{Name: "not yet"}, {Name: "met", Cut: band.Cut{Percent: &seventy}}}},
	}
	told, err := f.Tells()
	require.NoError(t, err)
	var codes []string
	for _, s := range told {
		codes = append(codes, s.Code)
	}
	assert.Equal(t, []string{"R", "R.1", "R.1a", "R.2", "D"}, codes, "in the order of the form")
	assert.Equal(t, told[0].Lines, told[1].Lines)
	first := told[1]
	assert.Equal(t, []int{0, 1, 2}, first.Lines, "with all below it")
	require.NotNil(t, first.Cuts)
	assert.Equal(t, points.Points(300), *first.Cuts.Starts[1].Raw, "70%% of 3 points is 2.1, the next score 3")
	for _, few := range told[2:] {
		assert.Nil(t, few.Cuts, few.Code)
	}
	assert.Equal(t, points.Points(100), told[4].Points, "what a pool may not give is not counted on")

	credit := func(outcomes ...item.Outcome) []attempt.LineCredit {
		out := make([]attempt.LineCredit, 5)
		for i, o := range outcomes {
			out[i].Outcome = o
			if o == item.Right {
				out[i].Credit = 100
			}
		}
		return out
	}
	earned, at, ok := first.Of(credit(item.Right, item.Right, item.Right))
	assert.Equal(t, []any{points.Points(300), 1, true}, []any{earned, at, ok})
	_, at, ok = first.Of(credit(item.Right, item.Omitted, item.Right))
	assert.Equal(t, []any{0, true}, []any{at, ok}, "what is omitted earns nothing")
	_, _, ok = first.Of(credit(item.Right, item.Unread, item.Right))
	assert.False(t, ok, "it waits for a reader")
	_, _, ok = told[2].Of(credit(item.Right))
	assert.False(t, ok, "too few points")

	under := f
	under.Standards = append([]form.Standard{{Code: "all"}}, f.Standards...)
	under.Standards[1].Parent, under.Standards[5].Parent = "all", "all"
	again, err := under.Tells()
	require.NoError(t, err)
	assert.Len(t, again, 5, "what holds all lines is the form itself")

	f.Mastery = nil
	told, err = f.Tells()
	require.NoError(t, err)
	assert.Empty(t, told)
}
