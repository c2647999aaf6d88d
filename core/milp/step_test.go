package milp_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/milp"
)

// covering looks for the fewest of five things in a ring that meet every pair of neighbors, each at the cost of a step: the linear program takes
// halves of all, answers are whole.
func covering(step float64, stop func() bool) (best float64, result milp.Result) {
	p := &milp.Program{}
	var aim []milp.Term
	for range 5 {
		aim = append(aim, milp.Term{Column: p.Column(0, 1, true, 0), Value: step})
	}
	for _, pair := range [][2]int{{0, 1}, {1, 2}, {2, 3}, {3, 4}, {4, 0}} {
		p.Row(1, math.Inf(1), []milp.Term{{Column: pair[0], Value: 1}, {Column: pair[1], Value: 1}})
	}
	p.Minimize(aim)
	best = math.Inf(1)
	result = milp.Search{Program: p, Step: step, Known: best, Stop: stop, Visit: func(x []float64, whole bool) float64 {
		if whole {
			cost := 0.0
			for _, v := range x {
				cost += step * math.Round(v)
			}
			best = math.Min(best, cost)
		}
		return best
	}}.Run()
	return best, result
}

// What answers can cost says what a bound is worth: 2.5 steps are three.
func TestABoundIsRoundedUpToTheNextStep(t *testing.T) {
	for _, step := range []float64{0.25, 1, 4, 1024} {
		best, result := covering(step, func() bool { return false })
		assert.True(t, result.Proven)
		assert.InDelta(t, 3*step, best, 1e-9)
		assert.InDelta(t, best, result.Bound, 1e-9)

		// Stopped right after the first program, what is left open is known to cost three steps at least.
		asked := 0
		_, result = covering(step, func() bool { asked++; return asked > 1 })
		assert.False(t, result.Proven)
		assert.InDelta(t, 3*step, result.Bound, 1e-9, "step %g", step)
	}
}
