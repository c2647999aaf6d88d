package band_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/band"
	"pineledger/core/points"
)

// onTen computes three bands on ten points of one each.
func onTen(t require.TestingT, second, third points.Points) band.Cuts {
	f := band.Form{Bands: []band.Band{{Name: "low"}, {Name: "middle", Cut: band.Cut{Raw: &second}}, {Name: "high", Cut: band.Cut{Raw: &third}}}}
	for range 10 {
		f.Lines = append(f.Lines, band.Line{Points: points.One})
	}
	cuts, err := band.Compute(f)
	require.NoError(t, err)
	return cuts
}

func TestMoves(t *testing.T) {
	before, after := onTen(t, 400, 700), onTen(t, 500, 700)
	moves, err := band.Moves(before, after, []band.Scored{{300, 2}, {400, 5}, {500, 3}, {700, 4}})
	require.NoError(t, err)
	assert.Equal(t, [][]int{{2, 0, 0}, {5, 3, 0}, {0, 0, 4}}, moves, "only those between the two cuts fall")

	_, err = band.Moves(before, after, []band.Scored{{1001, 1}})
	assert.ErrorIs(t, err, band.ErrScore)
}

func TestMovesKeepEverybody(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		cut := rapid.IntRange(0, 10)
		draw := func(label string) band.Cuts {
			return onTen(t, points.Points(100*cut.Draw(t, label+" second")), points.Points(100*cut.Draw(t, label+" third")))
		}
		before, after := draw("before"), draw("after")
		var scores []band.Scored
		was := make([]int, 3)
		for _, raw := range rapid.SliceOf(cut).Draw(t, "scores") {
			scores = append(scores, band.Scored{Raw: points.Points(100 * raw), N: 1})
			at, err := before.Of(points.Points(100 * raw))
			require.NoError(t, err)
			was[at]++
		}
		moves, err := band.Moves(before, after, scores)
		require.NoError(t, err)
		back, err := band.Moves(after, before, scores)
		require.NoError(t, err)
		for i := range moves {
			sum := 0
			for k, n := range moves[i] {
				sum += n
				assert.Equal(t, n, back[k][i], "the way back is the way there, turned")
			}
			assert.Equal(t, was[i], sum)
		}
	})
}
