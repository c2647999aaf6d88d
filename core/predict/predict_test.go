package predict_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/band"
	"pineledger/core/points"
	"pineledger/core/predict"
)

func ExampleAbilities() {
	right := []points.Points{0, 100}
	for _, a := range predict.Abilities([]predict.Line{{B: -0.5, Levels: right}, {B: 1, Levels: right}}) {
		fmt.Printf("%s: %.2f ± %.2f\n", a.Raw, a.Theta, a.SE)
	}
	// Output:
	// 0: -0.66 ± 0.86
	// 1: 0.07 ± 0.85
	// 2: 0.79 ± 0.85
}

// worked is a form of a point line, a line of two levels, one credited to all and a void one; cuts at 2 and 3 of 4 points.
func worked() (band.Form, []predict.Line) {
	two, three := points.Points(200), points.Points(300)
	return band.Form{
		Lines: []band.Line{{Points: 100}, {Points: 200, Step: 100}, {Points: 100, CreditAll: true}, {Points: 500, Void: true}},
		Bands: []band.Band{{Name: "Launching"}, {Name: "Underway", Cut: band.Cut{Raw: &two}}, {Name: "On course", Cut: band.Cut{Raw: &three}}},
	}, []predict.Line{{B: 0, Levels: []points.Points{0, 100}}, {B: 0, Levels: []points.Points{0, 100, 200}}, {B: 9, Levels: []points.Points{0, 100}}, {B: 9, Levels: []points.Points{0, 500}}}
}

func TestAFormWorkedOutByHand(t *testing.T) {
	form, lines := worked()
	cuts, err := band.Compute(form)
	require.NoError(t, err)
	// At ability 0 the first line is right half the time, and each level of the second comes a third of the time.
	p := predict.Of(form, cuts, lines, []predict.Group{{Name: "6-A", N: 12, Abilities: predict.Normal(0, 0)}})
	g := p.Groups[0]
	assert.Equal(t, []points.Points{100, 200, 300, 400}, raws(g), "the sure point is always there")
	for i, want := range []float64{1. / 6, 2. / 6, 2. / 6, 1. / 6} {
		assert.InDelta(t, want, g.Distribution[i].Share, 1e-12)
	}
	assert.InDelta(t, 2.5, g.Mean, 1e-12)
	assert.InDelta(t, math.Sqrt(1./4+2./3), g.SD, 1e-12)
	assert.InDelta(t, 4, g.Bands[1].Count, 1e-9)
	assert.InDelta(t, 12*(1./3-1.96*math.Sqrt(2./9/12)), g.Bands[1].Low, 1e-9)
	assert.InDelta(t, 12*(1./3+1.96*math.Sqrt(2./9/12)), g.Bands[1].High, 1e-9)
	assert.InDelta(t, 1./3, g.Accuracy, 1e-12, "the expected 2.5 is Underway")
	assert.InDelta(t, 1./36+4./36+9./36, g.Consistency, 1e-12)
	assert.InDelta(t, 0, *g.Kappa, 1e-9, "one ability gives nothing beyond chance")
	assert.Equal(t, []predict.Near{{Band: "Underway", Share: 1}, {Band: "On course", Share: 1}}, g.Near, "both cuts are within √(11/12) of 2.5")
	g.Name = ""
	assert.InDeltaSlice(t, shares(g), shares(p.All), 1e-12, "all of one group is that group")
}

func raws(o predict.Outlook) (out []points.Points) {
	for _, c := range o.Distribution {
		out = append(out, c.Raw)
	}
	return out
}

func shares(o predict.Outlook) (out []float64) {
	for _, b := range o.Bands {
		out = append(out, b.Share)
	}
	return out
}

func TestABandThatNobodyReachesHasNoShare(t *testing.T) {
	form, lines := worked()
	scale := points.Points(90_000)
	form.Conversion = []band.Conversion{{Raw: 0, Scale: 100}, {Raw: 100, Scale: 200}, {Raw: 200, Scale: 300}, {Raw: 300, Scale: 400}, {Raw: 400, Scale: 500}}
	form.Bands[2].Cut = band.Cut{Scale: &scale}
	cuts, err := band.Compute(form)
	require.NoError(t, err)
	g := predict.Of(form, cuts, lines, []predict.Group{{Name: "x", N: 5, Abilities: predict.Each([]float64{-1, 1})}}).Groups[0]
	assert.Zero(t, g.Bands[2].Share)
	assert.Len(t, g.Near, 1, "where a band begins nowhere, nobody is near it")

	form.Bands = form.Bands[:1]
	cuts, err = band.Compute(form)
	require.NoError(t, err)
	one := predict.Of(form, cuts, lines, []predict.Group{{Name: "x", N: 5, Abilities: predict.Normal(0, 1)}}).All
	assert.Nil(t, one.Kappa, "with one band nothing is beyond chance")
	assert.InDelta(t, 1, one.Accuracy, 1e-12)
}

// The recursion gives what adding up every pattern of levels gives, and the pool is the groups by their numbers.
func TestPredictionsAreThoseOfEveryPattern(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var form band.Form
		var lines []predict.Line
		for i := range rapid.IntRange(1, 5).Draw(t, "lines") {
			l := band.Line{Points: points.Points(50 * rapid.IntRange(1, 4).Draw(t, "points")), Step: 50, CreditAll: rapid.IntRange(0, 5).Draw(t, "sure") == 0}
			levels := []points.Points{0}
			for p := points.Points(50); p < l.Points; p += 50 {
				if rapid.Bool().Draw(t, "level") {
					levels = append(levels, p)
				}
			}
			l.Void = i > 0 && !l.CreditAll && rapid.IntRange(0, 5).Draw(t, "void") == 0
			form.Lines = append(form.Lines, l)
			lines = append(lines, predict.Line{B: rapid.Float64Range(-3, 3).Draw(t, "b"), Levels: append(levels, l.Points)})
		}
		percent := points.Points(rapid.IntRange(0, 10_000).Draw(t, "cut"))
		form.Bands = []band.Band{{Name: "a"}, {Name: "b", Cut: band.Cut{Percent: &percent}}}
		cuts, err := band.Compute(form)
		require.NoError(t, err)
		thetas := rapid.SliceOfN(rapid.Float64Range(-3, 3), 1, 4).Draw(t, "thetas")
		want := map[points.Points]float64{}
		for _, theta := range thetas {
			everyPattern(form.Lines, lines, theta, 0, 1/float64(len(thetas)), want)
		}
		other := predict.Group{Name: "other", N: 3 * len(thetas), Abilities: predict.Normal(0.5, 1.5)}
		p := predict.Of(form, cuts, lines, []predict.Group{{Name: "each", N: len(thetas), Abilities: predict.Each(thetas)}, other})
		g := p.Groups[0]
		require.Len(t, g.Distribution, len(want))
		for _, c := range g.Distribution {
			require.InDelta(t, want[c.Raw], c.Share, 1e-12)
		}
		for i, b := range p.All.Bands {
			require.InDelta(t, (g.Bands[i].Share+3*p.Groups[1].Bands[i].Share)/4, b.Share, 1e-12)
		}
		require.InDelta(t, (g.Accuracy+3*p.Groups[1].Accuracy)/4, p.All.Accuracy, 1e-12)
		require.InDelta(t, (g.Consistency+3*p.Groups[1].Consistency)/4, p.All.Consistency, 1e-12)
		for i, n := range p.All.Near {
			require.InDelta(t, (g.Near[i].Share+3*p.Groups[1].Near[i].Share)/4, n.Share, 1e-12)
		}
		require.Equal(t, 4*len(thetas), p.All.N)
		require.GreaterOrEqual(t, p.All.Consistency, 1./2-1e-12, "two bands agree by half at least")
	})
}

// everyPattern adds up the chances of all patterns of levels from a line on.
func everyPattern(form []band.Line, lines []predict.Line, theta float64, raw points.Points, chance float64, into map[points.Points]float64) {
	if len(form) == 0 {
		into[raw] += chance
		return
	}
	l := lines[0]
	if form[0].Void || form[0].CreditAll {
		if form[0].CreditAll {
			raw += form[0].Points
		}
		everyPattern(form[1:], lines[1:], theta, raw, chance, into)
		return
	}
	var sum float64
	for k := range l.Levels {
		sum += math.Exp(float64(k) * (theta - l.B))
	}
	for k, credit := range l.Levels {
		everyPattern(form[1:], lines[1:], theta, raw+credit, chance*math.Exp(float64(k)*(theta-l.B))/sum, into)
	}
}

func TestALocationEarnsItsShare(t *testing.T) {
	for _, levels := range [][]points.Points{{0, 100}, {0, 100, 200}, {0, 50, 300}} {
		for _, share := range []float64{1e-9, 0.02, 0.5, 0.72, 0.999} {
			b := predict.Location(share, levels)
			mean := 0.0
			for _, a := range predict.Normal(0, 1) {
				mean += a.Weight * predict.Expected([]predict.Line{{B: b, Levels: levels}}, a.Theta)
			}
			assert.InDelta(t, share, mean/float64(levels[len(levels)-1])*100, 1e-12, "%v %v", levels, share)
		}
	}
	assert.InDelta(t, 0, predict.Location(0.5, []points.Points{0, 100}), 1e-12)
}

func TestALevelIsReachedWithAProbability(t *testing.T) {
	right := predict.Line{B: 0.7, Levels: []points.Points{0, 100}}
	assert.InDelta(t, 0.7+math.Log(2), right.Reaching(1, 2./3), 1e-12, "two thirds are log 2 above")
	steps := predict.Line{B: 0.7, Levels: []points.Points{0, 100, 200}}
	assert.Less(t, steps.Reaching(1, 0.6), steps.Reaching(2, 0.6))
}

// The ability of a score is the mean of what the model says of those who get it.
func TestAbilitiesAreThoseOfWhoGetsAScore(t *testing.T) {
	lines := []predict.Line{{B: -1, Levels: []points.Points{0, 100}}, {B: 0.3, Levels: []points.Points{0, 50, 200}}, {B: 1, Levels: []points.Points{0, 100}}}
	form := make([]band.Line, len(lines))
	sum, mean, square := map[points.Points]float64{}, map[points.Points]float64{}, map[points.Points]float64{}
	for _, a := range predict.Normal(0, 1) {
		chance := map[points.Points]float64{}
		everyPattern(form, lines, a.Theta, 0, a.Weight, chance)
		for raw, p := range chance {
			sum[raw] += p
			mean[raw] += p * a.Theta
			square[raw] += p * a.Theta * a.Theta
		}
	}
	table := predict.Abilities(lines)
	require.Len(t, table, len(sum))
	for i, a := range table {
		m := mean[a.Raw] / sum[a.Raw]
		assert.InDelta(t, m, a.Theta, 1e-12)
		assert.InDelta(t, math.Sqrt(square[a.Raw]/sum[a.Raw]-m*m), a.SE, 1e-9)
		if i > 0 {
			assert.Greater(t, a.Raw, table[i-1].Raw)
		}
	}
}

func TestScoresThatHardlyEverOccurHaveAnAbility(t *testing.T) {
	lines := make([]predict.Line, 200)
	for i := range lines {
		lines[i] = predict.Line{B: 10, Levels: []points.Points{0, 100}}
	}
	table := predict.Abilities(lines)
	require.Len(t, table, 201)
	for i, a := range table[1:] {
		assert.False(t, math.IsNaN(a.Theta) || math.IsNaN(a.SE), i)
		assert.GreaterOrEqual(t, a.Theta, table[i].Theta)
	}
}

func TestLevelsThatCannotBeMeant(t *testing.T) {
	for name, c := range map[string]struct {
		levels []points.Points
		says   string
	}{
		"as they should be": {[]points.Points{0, 50, 200}, ""},
		"one alone":         {[]points.Points{0}, "do not begin at 0 and rise"},
		"none":              {nil, "do not begin at 0 and rise"},
		"not from 0":        {[]points.Points{50, 200}, "do not begin at 0 and rise"},
		"not to the points": {[]points.Points{0, 150}, "do not end at the line's 2 points"},
		"twice the same":    {[]points.Points{0, 50, 50, 200}, "do not rise from 0.5 to 0.5"},
		"between the steps": {[]points.Points{0, 75, 200}, "have 0.75, which is not a multiple of the step 0.5"},
	} {
		err := predict.CheckLevels(c.levels, 200, 50)
		if c.says == "" {
			assert.NoError(t, err, name)
		} else {
			assert.EqualError(t, err, c.says, name)
		}
	}
}

func TestTheErrorOfAScore(t *testing.T) {
	var lines []predict.Line
	for range 4 {
		lines = append(lines, predict.Line{Levels: []points.Points{0, 200}})
	}
	assert.InDelta(t, 2, predict.ErrorAt(lines, 400), 1e-9, "half right of four lines of two points: √(4·4·¼)")
	assert.InDelta(t, math.Sqrt(3), predict.ErrorAt(lines, 200), 1e-9, "a quarter right: √(4·4·³⁄₁₆)")
	assert.Zero(t, predict.ErrorAt(lines, 0))
	assert.Zero(t, predict.ErrorAt(lines, 800))
	for raw, can := range map[points.Points]bool{-100: false, 0: false, 1: true, 799: true, 800: false, 900: false} {
		theta, ok := predict.AbilityAt(lines, raw)
		assert.Equal(t, can, ok, "%s", raw)
		if can {
			assert.InDelta(t, float64(raw)/100, predict.Expected(lines, theta), 1e-9)
		}
	}
}
