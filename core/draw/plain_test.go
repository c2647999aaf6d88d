package draw_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/blueprint"
	"pineledger/core/draw"
	"pineledger/core/points"
)

// noTime is the clock of a draw whose time is over when it begins.
var noTime = draw.Clock{Left: func() float64 { return 0 }, Over: func() bool { return true }}

func TestARichPoolIsDrawnFromWithoutASearch(t *testing.T) {
	r := draw.Request{Tree: tree(t)}
	for i := range 300 {
		it := blueprint.Item{ID: fmt.Sprintf("i%d", i), Kind: "single-choice", Key: string(rune('A' + i%4)), Standards: []string{[]string{"M6.RR", "M6.NS"}[i%2]}, Points: points.One * points.Points(1+i%3), Uses: i % 17}
		if i%10 == 0 {
			it.Passage = fmt.Sprintf("p%d", i/50)
		}
		if i%7 == 1 {
			it.Enemies = []string{fmt.Sprintf("i%d", i-1)}
		}
		r.Items = append(r.Items, it)
	}
	total := 14
	worth := count("worth", 9, 10, blueprint.Filter{Standards: []string{"M6.NS"}})
	worth.ByPoints = true
	r.Plan = draw.Plan{Rows: []blueprint.Row{count("ratios", 5, 6, blueprint.Filter{Standards: []string{"M6.RR"}}), worth, count("any", 2, 8, blueprint.Filter{})},
		Total: &total, KeySpread: intp(1), ForbidMeeting: true, Passages: draw.Passages{Max: intp(1), ItemsMin: 2}, Fixed: []string{"i3"}}
	result, err := r.Run(noTime)
	require.NoError(t, err)
	require.True(t, result.Feasible, result.Because)
	holds(t, r, result)
	assert.Len(t, result.Forms[0].Items, total)
}

// The pool's one-point items alone would pass the total: fewer that are worth more fit.
func TestARichPoolIsDrawnFromWithFewerItemsWorthMore(t *testing.T) {
	r := draw.Request{Tree: tree(t)}
	for i := range 40 {
		r.Items = append(r.Items, blueprint.Item{ID: fmt.Sprintf("i%d", i), Kind: "number", Points: points.One * points.Points(1+i%2*3), Uses: i % 2 * 10})
	}
	total := 3
	worth := count("worth", 12, 12, blueprint.Filter{})
	worth.ByPoints = true
	r.Plan = draw.Plan{Rows: []blueprint.Row{worth}, Total: &total}
	result, err := r.Run(noTime)
	require.NoError(t, err)
	require.True(t, result.Feasible, result.Because)
	holds(t, r, result)
	assert.Equal(t, 30, result.Objective.Uses)
}

// sparing is a clock that is over once it was asked so often: a count of steps, not of time.
func sparing(asks int) draw.Clock {
	return draw.Clock{Left: func() float64 { return 0 }, Over: func() bool { asks--; return asks < 0 }}
}

// Of a set of near copies one may come. Said pair by pair, half of each item could: proving
// that thirty sets give no more than thirty items then takes longer than anyone waits.
func TestNearCopiesCountOnce(t *testing.T) {
	r := draw.Request{Tree: tree(t), Plan: draw.Plan{ForbidMeeting: true, Rows: []blueprint.Row{count("all", 31, 31, blueprint.Filter{})}}}
	for i := range 180 {
		it := blueprint.Item{ID: fmt.Sprintf("i%d", i), Kind: "number", Points: points.One}
		for k := 1; k <= i%6; k++ {
			it.Enemies = append(it.Enemies, fmt.Sprintf("i%d", i-k))
		}
		r.Items = append(r.Items, it)
	}
	result, err := r.Run(sparing(1000))
	require.NoError(t, err)
	assert.Equal(t, []draw.Shortage{{Rows: []string{"all"}, Need: 3100, Have: 3000}}, result.Shortage)
	r.Plan.Rows[0] = count("all", 30, 30, blueprint.Filter{})
	result, err = r.Run(sparing(1000))
	require.NoError(t, err)
	assert.True(t, result.Feasible)
}

// Rows that leave room are filled no further than the aims ask, and twin forms come out equal.
func TestTwinFormsOfRoomyRowsTakeNoMoreThanTheyNeed(t *testing.T) {
	r := draw.Request{Tree: tree(t), Plan: draw.Plan{Forms: 2, Rows: []blueprint.Row{
		count("ratios", 2, 9, blueprint.Filter{Standards: []string{"M6.RR"}}), count("numbers", 2, 9, blueprint.Filter{Standards: []string{"M6.NS"}})}}}
	for i := range 200 {
		d := 400 + i/4*5
		r.Items = append(r.Items, blueprint.Item{ID: fmt.Sprintf("i%d", i), Kind: "number", Standards: []string{[]string{"M6.RR", "M6.NS"}[i%2]}, Points: points.One, Uses: 10 + i, Difficulty: &d})
	}
	result, err := r.Run(patient)
	require.NoError(t, err)
	require.True(t, result.Feasible)
	holds(t, r, result)
	// The eight items used least are two of each standard at each of two difficulties.
	assert.Equal(t, draw.Aims{Uses: 8*10 + 28}, result.Objective)
	assert.Equal(t, result.Objective, *result.Bound)
}
