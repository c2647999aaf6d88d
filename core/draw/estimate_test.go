package draw_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/blueprint"
	"pineledger/core/draw"
)

func TestAnEstimateIsTheMeanOfWhatIsKnown(t *testing.T) {
	known := func(list ...int) (out []blueprint.Item) {
		for _, d := range list {
			it := blueprint.Item{Difficulty: &d}
			if d == 0 {
				it.Difficulty = nil
			}
			out = append(out, it)
		}
		return out
	}
	assert.Equal(t, 551, *draw.Estimate(known(500, 0, 601)), "half up")
	assert.Equal(t, 500, *draw.Estimate(known(0, 500, 0)))
	assert.Nil(t, draw.Estimate(known(500, 600)), "nothing is missing")
	assert.Nil(t, draw.Estimate(known(0, 0)), "nothing is known")
	assert.Nil(t, draw.Estimate(nil))
}

// An estimate counts in sums and means, but no filter takes an item by it.
func TestWhatIsNotKnownIsEstimated(t *testing.T) {
	items := numbers(4) // .8, .75, .7, .65
	items[0].Difficulty, items[2].Difficulty = nil, nil
	estimate := 900
	r := draw.Request{Items: items, Tree: tree(t), Plan: draw.Plan{Rows: []blueprint.Row{count("r1", 2, 2, blueprint.Filter{})},
		Difficulty: &draw.Target{Target: 900}, Estimate: &estimate}}
	result := drawn(t, r)
	assert.Equal(t, "i1 i3", ids(result.Forms[0]))
	assert.Equal(t, 900, *result.Forms[0].MeanDifficulty)

	r.Plan.Rows[0].Filter.Difficulty = &[2]int{600, 1000}
	result = drawn(t, r)
	assert.Equal(t, "i2 i4", ids(result.Forms[0]), "the two whose difficulty is known")

	estimate = 1001
	_, err := r.Run(patient)
	assert.ErrorContains(t, err, "blueprint.estimate: is not from 0 to 1")
	estimate = -1
	_, err = r.Run(patient)
	assert.ErrorContains(t, err, "blueprint.estimate")
	for _, end := range []int{0, 1000} {
		estimate = end
		_, err = r.Run(patient)
		assert.NoError(t, err)
	}
}
