package band_test

import (
	"math/big"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/band"
	"pineledger/core/points"
)

// naiveCut looks at every reachable score in turn, in fractions: the rule as it
// is written, without arithmetic of our own.
func naiveCut(total, grain, percent int64, rule band.Rule) int64 {
	exact := big.NewRat(total*percent, 10_000) // percent has two places
	best := int64(-1)
	for r := int64(0); r <= total; r += grain {
		at := new(big.Rat).SetInt64(r)
		if rule == band.AtLeast {
			if at.Cmp(exact) >= 0 {
				return r
			}
			continue
		}
		off := func(r int64) *big.Rat {
			d := new(big.Rat).Sub(new(big.Rat).SetInt64(r), exact)
			return d.Abs(d)
		}
		if best < 0 || off(r).Cmp(off(best)) <= 0 { // halves upward
			best = r
		}
	}
	return best
}

func TestPercentCutsAgreeWithALookAtEveryScore(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var lines []band.Line
		for range rapid.IntRange(1, 15).Draw(t, "lines") {
			step := rapid.SampledFrom([]points.Points{25, 50, 100}).Draw(t, "step")
			lines = append(lines, band.Line{Points: step * points.Points(rapid.IntRange(1, 6).Draw(t, "steps")), Step: step})
		}
		p := rapid.Int64Range(0, 10_000).Draw(t, "percent")
		rule := rapid.SampledFrom([]band.Rule{band.AtLeast, band.Nearest}).Draw(t, "rule")
		cut := points.Points(p)
		c, err := band.Compute(band.Form{Lines: lines, Rule: rule, Bands: set(band.Cut{Percent: &cut})})
		require.NoError(t, err)
		require.Equal(t, naiveCut(int64(c.Total), int64(c.Grain), p, rule), int64(*c.Starts[1].Raw))
	})
}

// rising draws percent cuts in order.
func rising(t *rapid.T) (cuts []band.Cut) {
	percents := rapid.SliceOfN(rapid.IntRange(0, 10_000), 1, 6).Draw(t, "percents")
	slices.Sort(percents)
	for _, p := range percents {
		cuts = append(cuts, percent(points.Points(p)))
	}
	return cuts
}

func TestCutsKeepTheOrderOfTheirPercents(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		cuts := rising(t)
		rule := rapid.SampledFrom([]band.Rule{band.AtLeast, band.Nearest}).Draw(t, "rule")
		c, err := band.Compute(band.Form{Lines: ones(rapid.IntRange(1, 60).Draw(t, "lines")), Rule: rule, Bands: set(cuts...)})
		require.NoError(t, err)
		for i := 1; i < len(c.Starts); i++ {
			require.GreaterOrEqual(t, *c.Starts[i].Raw, *c.Starts[i-1].Raw)
		}
		for _, caution := range c.Cautions {
			require.Equal(t, band.SameRaw, caution.Kind, "percent cuts in order can only fall together")
		}
	})
}

func TestAHigherScoreIsNeverInALowerBand(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		cuts := rising(t)
		c, err := band.Compute(band.Form{Lines: ones(20), Bands: set(cuts...)})
		require.NoError(t, err)
		before := 0
		for raw := points.Points(0); raw <= c.Total; raw += c.Grain {
			in, err := c.Of(raw)
			require.NoError(t, err)
			require.GreaterOrEqual(t, in, before)
			require.LessOrEqual(t, *c.Starts[in].Raw, raw, "a band begins at or below every score in it")
			before = in
		}
		require.Equal(t, len(c.Starts)-1, before, "the whole total is in the last band")
	})
}

// Doubling every line's points doubles every percent cut: percents are of the total.
func TestCutsGrowWithTheForm(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 40).Draw(t, "lines")
		p := points.Points(rapid.IntRange(0, 10_000).Draw(t, "percent"))
		one, err := band.Compute(band.Form{Lines: ones(n), Bands: set(percent(p))})
		require.NoError(t, err)
		doubled := ones(n)
		for i := range doubled {
			doubled[i].Points *= 2
			doubled[i].Step *= 2
		}
		two, err := band.Compute(band.Form{Lines: doubled, Bands: set(percent(p))})
		require.NoError(t, err)
		require.Equal(t, 2**one.Starts[1].Raw, *two.Starts[1].Raw)
	})
}
