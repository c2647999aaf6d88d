package stats_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"pineledger/core/stats"
)

func placed(se float64, b ...float64) []*stats.RaschLine {
	out := make([]*stats.RaschLine, len(b))
	for i, v := range b {
		out[i] = &stats.RaschLine{B: v, SE: se}
	}
	return out
}

func TestALineThatDriftsIsTold(t *testing.T) {
	before := placed(0.1, -1, 0, 0.5, 1, 2)
	after := placed(0.1, -0.7, 0.3, 0.8, 1.3, 1.2) // all moved by the scale's own 0.3, the last fell by 1.1 besides
	drifts := stats.Drifts(before, after)
	assert.Len(t, drifts, 1)
	assert.Equal(t, 4, drifts[0].Line)
	assert.InDelta(t, 0.9, drifts[0].To, 1e-12)
	assert.InDelta(t, 0.1414, drifts[0].SE, 1e-4)

	assert.Empty(t, stats.Drifts(placed(0.5, -1, 0, 0.5, 1, 2), placed(0.5, -0.7, 0.3, 0.8, 1.3, 1.2)), "not beyond what errors can do")
	assert.Empty(t, stats.Drifts(placed(0.01, 0, 0, 0, 0), placed(0.01, 0, 0, 0, 0.49)), "less than half a logit")
	three := stats.Drifts(placed(0.1, 0, 0, 0), placed(0.1, 0, 0, 0.5))
	assert.Len(t, three, 1, "three lines are enough, and half a logit is")
	four := stats.Drifts(placed(0.1, 0, 0, 0, 0), placed(0.1, 0, 0.2, 0.4, 2))
	assert.Len(t, four, 1)
	assert.InDelta(t, 1.7, four[0].To, 1e-12, "of an even number the median is the mean of the middle two")
	assert.Len(t, stats.Drifts(placed(0.3, 0, 0, 0), placed(0.4, 0, 0, 1)), 1, "twice the error of the difference is enough")
	before[0], before[1], after[2] = nil, nil, nil
	assert.Empty(t, stats.Drifts(before, after), "two lines in common tell nothing")
}

func TestAScaleThatMovesAsAWholeIsNoDrift(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		b := rapid.SliceOfN(rapid.Float64Range(-3, 3), 3, 20).Draw(t, "b")
		shift := rapid.Float64Range(-4, 4).Draw(t, "shift")
		after := make([]float64, len(b))
		for i := range b {
			after[i] = b[i] + shift
		}
		assert.Empty(t, stats.Drifts(placed(0.05, b...), placed(0.05, after...)))
	})
}
