package panel_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/band"
	"pineledger/core/panel"
	"pineledger/core/points"
	"pineledger/core/predict"
)

func ExampleAngoff() {
	form, _ := panel.NewForm([]band.Line{{Points: 100}, {Points: 200, Step: 100}}, band.AtLeast)
	cuts, _, _ := panel.Angoff(form, []panel.Ratings{{{60, 50}}, {{70, 40}}})
	fmt.Println(cuts[0].Values, cuts[0].Raw)
	// Output: [1.6 1.5] 2
}

func TestJudgesWorkedOutByHand(t *testing.T) {
	form, err := panel.NewForm([]band.Line{{Points: 100}, {Points: 300, Step: 50}}, band.AtLeast)
	require.NoError(t, err)
	cuts, lines, disorders := panel.Angoff(form, []panel.Ratings{{{20, 30}, {90, 60}}, {{40, 50}, {40, 50}}, {{60, 10}, {80, 90}}, {{0, 0}, {0, 1}}})
	first := cuts[0]
	assert.Equal(t, []float64{1.1, 1.9, 0.9, 0}, first.Values)
	assert.InDelta(t, 0.975, first.Mean, 1e-12)
	assert.InDelta(t, 1, first.Median, 1e-12, "between the two in the middle")
	assert.InDelta(t, math.Sqrt(1.8275/3), *first.SD, 1e-12)
	assert.InDelta(t, *first.SD/2, *first.SE, 1e-12)
	assert.Equal(t, []float64{0, 1.9}, []float64{first.Low, first.High})
	assert.Equal(t, points.Points(100), first.Raw, "0.975 is 1 in half points")
	assert.Equal(t, int64(250), first.Tenths)
	assert.Nil(t, first.Theta)
	assert.Equal(t, []panel.Disorder{{Judge: 1, Cut: 0}}, disorders, "equal is not above")
	assert.InDelta(t, 0.3, lines[0].Mean[0], 1e-12)
	assert.InDelta(t, math.Sqrt((0.01+0.01+0.09+0.09)/3), *lines[0].SD[0], 1e-12)
	assert.InDelta(t, 0.5025, lines[1].Mean[1], 1e-12)

	one, _, _ := panel.Angoff(form, []panel.Ratings{{{50, 50}}})
	assert.Nil(t, one[0].SD, "one judge has no spread")
	assert.Nil(t, one[0].SE)
}

func TestAMeanBecomesARawScoreByTheRule(t *testing.T) {
	for _, c := range []struct {
		rule    band.Rule
		ratings []int
		raw     points.Points
	}{
		{band.AtLeast, []int{50, 50}, 50}, {band.AtLeast, []int{50, 51}, 100}, {band.AtLeast, []int{0, 0}, 0}, {band.AtLeast, []int{100, 100}, 100},
		{band.Nearest, []int{25, 25}, 50}, {band.Nearest, []int{25, 24}, 0}, {band.Nearest, []int{74, 75}, 50}, {band.Nearest, []int{75, 75}, 100},
	} {
		form, err := panel.NewForm([]band.Line{{Points: 100, Step: 50}}, c.rule)
		require.NoError(t, err)
		cuts, _, _ := panel.Angoff(form, []panel.Ratings{{{c.ratings[0]}}, {{c.ratings[1]}}})
		assert.Equal(t, c.raw, cuts[0].Raw, "%+v", c)
	}
}

func TestABookletGoesByDifficulty(t *testing.T) {
	right, three := []points.Points{0, 100}, []points.Points{0, 100, 200}
	lines := []predict.Line{{B: 1, Levels: right}, {B: -1, Levels: right}, {B: 0, Levels: three}, {B: 1, Levels: right}}
	booklet := panel.Booklet(lines, 2./3)
	var order []string
	for _, e := range booklet {
		order = append(order, fmt.Sprint(e.Line, ".", e.Level))
	}
	assert.Equal(t, []string{"1.1", "2.1", "2.2", "0.1", "3.1"}, order, "equal ones by line")
	assert.InDelta(t, -1+math.Log(2), booklet[0].Location, 1e-12)
	form, err := panel.NewForm([]band.Line{{Points: 100}, {Points: 100}, {Points: 200, Step: 100}, {Points: 100}}, band.Nearest)
	require.NoError(t, err)
	cuts, disorders := panel.OrderedItems(form, lines, booklet, [][]int{{1, 3}, {3, 4}, {2, 2}})
	c := cuts[0]
	assert.Equal(t, []float64{booklet[0].Location, booklet[2].Location, booklet[1].Location}, c.Values)
	assert.Equal(t, booklet[1].Location, *c.Theta, "the median")
	mean := (booklet[0].Location + booklet[1].Location + booklet[2].Location) / 3
	assert.InDelta(t, mean, c.Mean, 1e-12)
	assert.InDelta(t, *c.SD/math.Sqrt(3)*math.Sqrt(math.Pi/2), *c.SE, 1e-12, "of a median")
	expected := predict.Expected(lines, *c.Theta)
	assert.Equal(t, points.Points(100*math.Round(expected)), c.Raw)
	assert.Equal(t, []panel.Disorder{{Judge: 2, Cut: 0}}, disorders)
}

func TestAnExpectedScoreBecomesARawScoreByTheRule(t *testing.T) {
	lines := []predict.Line{{B: 0, Levels: []points.Points{0, 100}}, {B: 0, Levels: []points.Points{0, 100}}}
	booklet := []panel.Entry{{Line: 0, Level: 1, Location: 0}, {Line: 1, Level: 1, Location: math.Log(3)}}
	for _, c := range []struct {
		rule band.Rule
		mark int
		raw  points.Points
	}{{band.AtLeast, 1, 100}, {band.Nearest, 1, 100}, {band.AtLeast, 2, 200}, {band.Nearest, 2, 200}} { // expected 1 and 1.5
		form, err := panel.NewForm([]band.Line{{Points: 100}, {Points: 100}}, c.rule)
		require.NoError(t, err)
		cuts, _ := panel.OrderedItems(form, lines, booklet, [][]int{{c.mark}})
		assert.Equal(t, c.raw, cuts[0].Raw, "%+v", c)
	}
}

// A cut lies between the judges' ends, and the raw score is the one that band.Compute makes of the mean.
func TestCutsLieAmongTheJudges(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var lines []band.Line
		for range rapid.IntRange(1, 6).Draw(t, "lines") {
			lines = append(lines, band.Line{Points: points.Points(100 * rapid.IntRange(1, 4).Draw(t, "points")), Step: points.Points(rapid.SampledFrom([]int{25, 50, 100}).Draw(t, "step"))})
		}
		rule := rapid.SampledFrom([]band.Rule{band.AtLeast, band.Nearest}).Draw(t, "rule")
		form, err := panel.NewForm(lines, rule)
		require.NoError(t, err)
		var judges []panel.Ratings
		for range rapid.IntRange(1, 5).Draw(t, "judges") {
			judges = append(judges, panel.Ratings{rapid.SliceOfN(rapid.IntRange(0, 100), len(lines), len(lines)).Draw(t, "ratings")})
		}
		cuts, rated, _ := panel.Angoff(form, judges)
		c := cuts[0]
		require.LessOrEqual(t, c.Low, c.Mean+1e-12)
		require.LessOrEqual(t, c.Mean, c.High+1e-12)
		require.GreaterOrEqual(t, c.Raw, points.Points(0))
		require.LessOrEqual(t, c.Raw, form.Total)
		require.Zero(t, c.Raw%form.Grain)
		sum := 0.0
		for l, r := range rated {
			sum += r.Mean[0] * float64(lines[l].Points) / 100
		}
		require.InDelta(t, c.Mean, sum, 1e-9, "the mean of the sums is the sum of the means")
		off := float64(c.Raw)/100 - c.Mean
		if grain := float64(form.Grain) / 100; rule == band.AtLeast {
			require.True(t, off > -1e-9 && off < grain, "%v", off)
		} else {
			require.True(t, off > -grain/2 && off <= grain/2+1e-9, "%v", off)
		}
	})
}
