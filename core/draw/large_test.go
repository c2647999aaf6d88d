package draw_test

import (
	"fmt"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/blueprint"
	"pineledger/core/draw"
	"pineledger/core/points"
)

// large is a request over a pool so large that it is thinned out and its columns
// are parked: overlapping rows, passages, hostile pairs, keys.
func large(t *testing.T, n int) draw.Request {
	noise := rand.New(rand.NewPCG(3, 5))
	r := draw.Request{Tree: tree(t)}
	for i := range n {
		p := 200 + noise.IntN(700)
		it := blueprint.Item{ID: fmt.Sprintf("i%d", i), Kind: []string{"single-choice", "number", "text"}[noise.IntN(3)], Depth: 1 + noise.IntN(4), Standards: []string{[]string{"M6.RR", "M6.NS"}[noise.IntN(2)]},
			Difficulty: &p, Points: points.One, Uses: 1 + noise.IntN(20), Key: string(rune('A' + noise.IntN(4)))}
		if i%4 == 0 {
			it.Passage = fmt.Sprintf("p%d", i/16)
		}
		if i > 0 && i%50 == 0 {
			it.Enemies = []string{fmt.Sprintf("i%d", i-1)}
		}
		r.Items = append(r.Items, it)
	}
	r.Plan = draw.Plan{Forms: 1, ForbidMeeting: true, KeySpread: intp(1), Difficulty: &draw.Target{Target: 550, Tolerance: 1}, Passages: draw.Passages{Max: intp(2), ItemsMin: 2},
		Rows: []blueprint.Row{
			count("ratios", 8, 8, blueprint.Filter{Standards: []string{"M6.RR"}}),
			count("deep", 5, 6, blueprint.Filter{Depth: []int{3, 4}}),
			count("choices", 6, 6, blueprint.Filter{Kinds: []string{"single-choice"}, Standards: []string{"M6"}}),
			count("easy", 4, 4, blueprint.Filter{Difficulty: &[2]int{700, 900}}),
		}}
	return r
}

// within draws in a budget; what it finds must hold however much of it was used.
func within(t *testing.T, r draw.Request, budget time.Duration) draw.Result {
	t.Helper()
	began := time.Now()
	result, err := r.Run(draw.Clock{Left: func() float64 { return 1 - time.Since(began).Seconds()/budget.Seconds() }, Over: func() bool { return time.Since(began) > time.Minute }})
	require.NoError(t, err)
	return result
}

func TestALargePoolIsDrawnFromByTheSameRules(t *testing.T) {
	r := large(t, 6000)
	best := within(t, r, 2*time.Second)
	require.True(t, best.Feasible, best.Because)
	holds(t, r, best)
	assert.Zero(t, best.Objective.Difficulty)
	assert.LessOrEqual(t, best.Bound.Uses, best.Objective.Uses)
	assert.Less(t, best.Objective.Uses, 40, "23 or 24 items out of thousands of those that were used once")

	r.Mode = draw.Random
	random := within(t, r, 2*time.Second)
	require.True(t, random.Feasible)
	holds(t, r, random)
	assert.Greater(t, random.Objective.Uses, best.Objective.Uses, "no random draw is as little used as the best")
}

func TestALargePoolNamesTheRowThatIsShort(t *testing.T) {
	r := large(t, 6000)
	rare := blueprint.Filter{Depth: []int{1}, Kinds: []string{"text"}, Difficulty: &[2]int{300, 304}}
	pool := 0
	for _, it := range r.Items {
		if it.Passage == "" && r.Tree.Meets(rare, it) {
			pool++
		}
	}
	require.Positive(t, pool)
	r.Plan.Rows = append(r.Plan.Rows, count("rare", pool+10, pool+10, rare))
	short := within(t, r, 2*time.Second)
	require.False(t, short.Feasible)
	require.Len(t, short.Shortage, 1)
	assert.Equal(t, []string{"rare"}, short.Shortage[0].Rows)
	assert.GreaterOrEqual(t, short.Shortage[0].Have, 100*pool)
	assert.Less(t, short.Shortage[0].Have, short.Shortage[0].Need)
}

func TestTwinFormsFromALargePool(t *testing.T) {
	r := large(t, 3000)
	r.Plan.Forms = 3
	r.Plan.Anchors = []string{"i1"}
	twins := within(t, r, 3*time.Second)
	require.True(t, twins.Feasible, twins.Because)
	holds(t, r, twins)
	assert.Zero(t, twins.Objective.Difficulty)
	assert.LessOrEqual(t, twins.Bound.Uses, twins.Objective.Uses)
}
