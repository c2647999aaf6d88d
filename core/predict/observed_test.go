package predict_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/band"
	"pineledger/core/points"
	"pineledger/core/predict"
)

func TestWhatCutsMakeOfScores(t *testing.T) {
	five := points.Points(500)
	cuts, err := band.Compute(band.Form{Lines: []band.Line{{Points: 1000, Step: 100}}, Bands: []band.Band{{Name: "low"}, {Name: "high", Cut: band.Cut{Raw: &five}}}})
	require.NoError(t, err)
	got := func(name string, counts ...int) predict.Got {
		g := predict.Got{Name: name}
		for i, n := range counts {
			g.Scores = append(g.Scores, band.Scored{Raw: points.Points(400 + 100*i), N: n})
		}
		return g
	}
	each, all, err := predict.Observe(cuts, []predict.Got{got("Heron Point", 4, 6), got("Quarry Road", 15, 5), got("too few", 0, 9)})
	require.NoError(t, err)
	assert.Equal(t, []predict.Tallied{
		{"Heron Point", 10, []predict.InBand{{"low", 4, .4}, {"high", 6, .6}}},
		{"Quarry Road", 20, []predict.InBand{{"low", 15, .75}, {"high", 5, .25}}},
	}, each)
	assert.Equal(t, 30, all.N, "those who are too few are in neither")
	assert.InDelta(t, 11./30, all.Bands[1].Share, 1e-12)

	_, all, err = predict.Observe(cuts, []predict.Got{got("too few", 9)})
	require.NoError(t, err)
	assert.Nil(t, all)
	_, _, err = predict.Observe(cuts, []predict.Got{{Name: "x", Scores: []band.Scored{{Raw: 1100, N: 10}}}})
	assert.EqualError(t, err, "11 is not between 0 and the total 10")
}
