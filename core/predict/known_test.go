package predict_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/points"
	"pineledger/core/predict"
)

func TestWhereADifficultyComesFrom(t *testing.T) {
	levels := predict.Levels(100, 100)
	half, none, on := 0.5, 0.0, 1.25
	for name, c := range map[string]struct {
		seen predict.Seen
		want predict.Knowledge
		b    float64
	}{
		"200 responses":                     {predict.Seen{Responses: 200, Share: 0.5, Author: &none}, predict.Knowledge{Many: 1}, 0},
		"199 responses":                     {predict.Seen{Responses: 199, Share: 0.5}, predict.Knowledge{Few: 1}, 0},
		"ten responses":                     {predict.Seen{Responses: 10, Share: 0.5}, predict.Knowledge{Few: 1}, 0},
		"nine responses and an estimate":    {predict.Seen{Responses: 9, Share: 0.9, Author: &half}, predict.Knowledge{Author: 1}, 0},
		"nine responses alone":              {predict.Seen{Responses: 9, Share: 0.9}, predict.Knowledge{Unknown: 1}, 0},
		"all right, so the author's is all": {predict.Seen{Responses: 500, Share: 1, Author: &half}, predict.Knowledge{Author: 1}, 0},
		"a place on a scale, before all":    {predict.Seen{Scaled: &on, Responses: 500, Share: 0.5, Author: &half}, predict.Knowledge{Scaled: 1}, 1.25},
		"an estimate that nobody gets it":   {predict.Seen{Author: &none}, predict.Knowledge{Unknown: 1}, 0},
	} {
		c.seen.Levels = levels
		lines, k := predict.Locate([]predict.Seen{c.seen})
		assert.Equal(t, c.want, k, name)
		assert.InDelta(t, c.b, lines[0].B, 1e-9, name)
	}
}

func TestUnknownLinesTakeTheMeanPlace(t *testing.T) {
	levels := predict.Levels(100, 100)
	easy, hard := 0.9, 0.3
	lines, k := predict.Locate([]predict.Seen{{Author: &easy, Levels: levels}, {Levels: levels}, {Author: &hard, Levels: levels}})
	assert.Equal(t, predict.Knowledge{Author: 2, Unknown: 1}, k)
	assert.InDelta(t, (lines[0].B+lines[2].B)/2, lines[1].B, 1e-12)
	assert.True(t, k.Enough())
	assert.True(t, predict.Knowledge{Many: 2, Unknown: 1}.Enough())
	assert.False(t, predict.Knowledge{Many: 2, Unknown: 2}.Enough(), "half of them")
	assert.False(t, predict.Knowledge{}.Enough())
}

func TestOneKnownLineTellsOfTheOthers(t *testing.T) {
	levels, of, on := predict.Levels(100, 100), 0.2, -1.5
	lines, k := predict.Locate([]predict.Seen{{Levels: levels}, {Author: &of, Levels: levels}})
	assert.Equal(t, predict.Knowledge{Author: 1, Unknown: 1}, k)
	assert.Equal(t, lines[1].B, lines[0].B)
	assert.Positive(t, lines[0].B)
	// A place on a scale is one of right or wrong: it says nothing of a line that awards parts of its points.
	lines, k = predict.Locate([]predict.Seen{{Scaled: &on, Levels: predict.Levels(200, 100)}, {Scaled: &on, Levels: levels}})
	assert.Equal(t, predict.Knowledge{Scaled: 1, Unknown: 1}, k)
	assert.Equal(t, []float64{on, on}, []float64{lines[0].B, lines[1].B})
}

func TestMiddles(t *testing.T) {
	levels := predict.Levels(100, 100)
	lines := []predict.Line{{B: 1}, {B: 9}, {B: 2}, {B: -6}}
	assert.Equal(t, predict.Line{B: -1, Levels: levels}, predict.Middle(lines, []int{0, 2, 3}, levels))
	assert.InDelta(t, predict.Location(0.3, levels)/2, predict.Middling([]float64{0.3, 0.5}), 1e-9)
	assert.InDelta(t, 0, predict.Middling([]float64{0.2, 0.8}), 1e-9)
}

func TestLevelsOfALine(t *testing.T) {
	assert.Equal(t, []points.Points{0, 1, 2, 3}, predict.Levels(3, 1))
	assert.Equal(t, []points.Points{0, 50, 100, 150}, predict.Levels(150, 50))
	assert.Equal(t, []points.Points{0, 100}, predict.Levels(100, 0))
	assert.Len(t, predict.Levels(2400, 100), 25)
	assert.Equal(t, []points.Points{0, 2500}, predict.Levels(2500, 100), "too many to tell apart")
}
