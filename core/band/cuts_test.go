package band_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/band"
	"pineledger/core/points"
)

func ptr(p points.Points) *points.Points { return &p }

func percent(p points.Points) band.Cut { return band.Cut{Percent: &p} }

func ones(n int) []band.Line {
	lines := make([]band.Line, n)
	for i := range lines {
		lines[i].Points = points.One
	}
	return lines
}

func set(cuts ...band.Cut) []band.Band {
	bands := []band.Band{{Name: "Launching"}}
	for i, c := range cuts {
		bands = append(bands, band.Band{Name: fmt.Sprintf("band %d", i+1), Cut: c})
	}
	return bands
}

func raws(t *testing.T, f band.Form) []string {
	t.Helper()
	cuts, err := band.Compute(f)
	require.NoError(t, err)
	var out []string
	for _, s := range cuts.Starts {
		if s.Raw == nil {
			out = append(out, "none")
			continue
		}
		out = append(out, s.Raw.String())
	}
	return out
}

func ExampleCompute() {
	p := points.Points(5500)
	cuts, _ := band.Compute(band.Form{Lines: make18(), Bands: []band.Band{{Name: "Launching"}, {Name: "Underway", Cut: band.Cut{Percent: &p}}}})
	fmt.Println(cuts.Total, *cuts.Starts[1].Raw)
	// Output: 18 10
}

func make18() []band.Line { return ones(18) }

func TestCutsInPartsOfPointsRoundUp(t *testing.T) {
	at := func(hundredths ...points.Points) (bands []band.Band) {
		bands = []band.Band{{Name: "a"}}
		for i, h := range hundredths {
			bands = append(bands, band.Band{Name: string(rune('b' + i)), Cut: band.Cut{Raw: &h}})
		}
		return bands
	}
	cuts, err := band.Compute(band.Form{Lines: []band.Line{{Points: 1050, Step: 50}}, Bands: at(450, 500, 550, 1050, 1075)})
	require.NoError(t, err)
	var up []string
	for _, r := range cuts.Rounded() {
		if r == nil {
			up = append(up, "-")
		} else {
			up = append(up, r.String())
		}
	}
	assert.Equal(t, []string{"-", "5", "-", "6", "-", "-"}, up, "what is above the total has nowhere to go")
}

func TestCuts(t *testing.T) {
	halves := []band.Line{{Points: 200, Step: 50}, {Points: 100, Step: 50}}
	for _, c := range []struct {
		name string
		form band.Form
		want []string
	}{
		{"55, 70 and 85 percent of 18 points", band.Form{Lines: ones(18), Bands: set(percent(5500), percent(7000), percent(8500))}, []string{"0", "10", "13", "16"}},
		{"a cut exactly on a reachable score keeps it", band.Form{Lines: ones(20), Bands: set(percent(5000))}, []string{"0", "10"}},
		{"a hair above goes to the next", band.Form{Lines: ones(20), Bands: set(percent(5001))}, []string{"0", "11"}},
		{"nearest goes down under a half", band.Form{Lines: ones(18), Rule: band.Nearest, Bands: set(percent(5800))}, []string{"0", "10"}},
		{"nearest goes up from a half", band.Form{Lines: ones(10), Rule: band.Nearest, Bands: set(percent(5500))}, []string{"0", "6"}},
		{"half points are reachable where steps allow", band.Form{Lines: halves, Bands: set(percent(4000))}, []string{"0", "1.5"}},
		{"a void line leaves the total", band.Form{Lines: append(ones(10), band.Line{Points: 1000, Void: true}), Bands: set(percent(5000))}, []string{"0", "5"}},
		{"a line credited to all stays", band.Form{Lines: append(ones(9), band.Line{Points: 100, CreditAll: true}), Bands: set(percent(5000))}, []string{"0", "5"}},
		{"100 percent is the total", band.Form{Lines: ones(7), Bands: set(percent(10000))}, []string{"0", "7"}},
		{"a raw cut is kept as given", band.Form{Lines: ones(7), Bands: set(band.Cut{Raw: ptr(250)})}, []string{"0", "2.5"}},
		{"a scale cut goes through the table", band.Form{Lines: ones(2), Conversion: []band.Conversion{{Raw: 0, Scale: 30000}, {Raw: 100, Scale: 35000}, {Raw: 200, Scale: 40000}}, Bands: set(band.Cut{Scale: ptr(35001)}, band.Cut{Scale: ptr(50000)})}, []string{"0", "2", "none"}},
	} {
		t.Run(c.name, func(t *testing.T) { assert.Equal(t, c.want, raws(t, c.form)) })
	}
}

func TestTotalAndGrainAndPercentOfAForm(t *testing.T) {
	cuts, err := band.Compute(band.Form{Lines: []band.Line{{Points: 200, Step: 50}, {Points: 75}, {Points: 1000, Void: true, Step: 1}}, Bands: set(percent(3300))})
	require.NoError(t, err)
	assert.Equal(t, []points.Points{275, 25}, []points.Points{cuts.Total, cuts.Grain})
	tenths := func(i int) int64 { return *cuts.Starts[i].PercentTenths }
	assert.Equal(t, []int64{0, 364}, []int64{tenths(0), tenths(1)}, "1 of 2.75 points")
}

func TestCautions(t *testing.T) {
	raw := func(r, of points.Points) band.Cut { return band.Cut{Raw: &r, Of: &of} }
	for _, c := range []struct {
		name  string
		bands []band.Band
		want  []band.Caution
	}{
		{"none", set(percent(5000)), nil},
		{"two cuts on one raw score", set(percent(5000), percent(4500)), []band.Caution{{Kind: band.SameRaw, Bands: []string{"band 1", "band 2"}}}},
		{"the first band counts too", set(percent(0)), []band.Caution{{Kind: band.SameRaw, Bands: []string{"Launching", "band 1"}}}},
		{"above the total is not also unreachable", set(raw(1150, 1000)), []band.Caution{{Kind: band.AboveTotal, Bands: []string{"band 1"}}}},
		{"no score of this form", set(raw(250, 1000)), []band.Caution{{Kind: band.Unreachable, Bands: []string{"band 1"}}}},
		{"set for another total", set(raw(500, 1200)), []band.Caution{{Kind: band.OtherTotal, Bands: []string{"band 1"}}}},
		{"exactly the total can be reached", set(raw(1000, 1000)), nil},
		{"three on one raw score are told once", set(percent(5000), percent(4500), percent(4999)), []band.Caution{{Kind: band.SameRaw, Bands: []string{"band 1", "band 2", "band 3"}}}},
		{"two pairs are told apart", set(percent(0), percent(5000), percent(4500)), []band.Caution{{Kind: band.SameRaw, Bands: []string{"Launching", "band 1"}}, {Kind: band.SameRaw, Bands: []string{"band 2", "band 3"}}}},
		{"all kinds, kind by kind", set(raw(950, 900), percent(9000), raw(1100, 1000)), []band.Caution{{Kind: band.AboveTotal, Bands: []string{"band 3"}}, {Kind: band.Unreachable, Bands: []string{"band 1"}}, {Kind: band.OtherTotal, Bands: []string{"band 1"}}, {Kind: band.Order, Bands: []string{"band 1", "band 2"}}}},
		{"out of order names both", set(percent(8000), percent(5000)), []band.Caution{{Kind: band.Order, Bands: []string{"band 1", "band 2"}}}},
	} {
		t.Run(c.name, func(t *testing.T) {
			cuts, err := band.Compute(band.Form{Lines: ones(10), Bands: c.bands})
			require.NoError(t, err)
			assert.Equal(t, c.want, cuts.Cautions)
		})
	}
}

func TestRefusals(t *testing.T) {
	good := set(percent(5000))
	for _, c := range []struct {
		form band.Form
		want string
	}{
		{band.Form{Bands: good}, "lines: no line is left to score"},
		{band.Form{Lines: []band.Line{{Points: 0}}, Bands: good}, "lines[0].points: 0 is not above 0"},
		{band.Form{Lines: []band.Line{{Points: 100, Step: 30}}, Bands: good}, "lines[0].step: 0.3 does not divide 1 points"},
		{band.Form{Lines: []band.Line{{Points: 100, Void: true, CreditAll: true}}, Bands: good}, "lines[0]: a line cannot be void and credited to all"},
		{band.Form{Lines: ones(1), Rule: "highest", Bands: good}, `rule: "highest" is not atLeast or nearest`},
		{band.Form{Lines: ones(1), Bands: set(band.Cut{})}, "bands[1].cut: a cut is missing"},
		{band.Form{Lines: ones(1), Bands: set(band.Cut{Scale: ptr(1)})}, "bands[1].cut.scale: a scale cut needs a conversion table"},
		{band.Form{Lines: ones(1)}, "bands: at least one band is needed"},
		{band.Form{Lines: ones(1), Bands: []band.Band{{}}}, "bands[0].name: a band needs a name"},
		{band.Form{Lines: ones(1), Bands: []band.Band{{Name: "Far"}, {Name: "Far", Cut: percent(5000)}}}, `bands[1].name: "Far" is used twice`},
		{band.Form{Lines: ones(1), Bands: []band.Band{{Name: "Far", Cut: percent(0)}}}, "bands[0].cut: the first band begins at 0 and has no cut"},
		{band.Form{Lines: ones(1), Bands: set(band.Cut{Percent: ptr(5000), Raw: ptr(50)})}, "bands[1].cut: give one of percent, raw and scale"},
		{band.Form{Lines: ones(1), Bands: set(percent(5000), band.Cut{Raw: ptr(50), Scale: ptr(50)})}, "bands[2].cut: give one of percent, raw and scale"},
		{band.Form{Lines: ones(1), Bands: set(percent(-1))}, "bands[1].cut.percent: -0.01 is not between 0 and 100"},
		{band.Form{Lines: ones(1), Bands: set(band.Cut{Raw: ptr(-1)})}, "bands[1].cut.raw: -0.01 is negative"},
		{band.Form{Lines: ones(1), Bands: set(band.Cut{Scale: ptr(-1)})}, "bands[1].cut.scale: -0.01 is negative"},
		{band.Form{Lines: ones(1), Bands: set(band.Cut{Percent: ptr(1), Of: ptr(1)})}, "bands[1].cut.of: only a raw cut names its total"},
		{band.Form{Lines: ones(1), Bands: set(band.Cut{Raw: ptr(1), Of: ptr(0)})}, "bands[1].cut.of: 0 is not above 0"},
		{band.Form{Lines: []band.Line{{Points: -100}}, Bands: good}, "lines[0].points: -1 is not above 0"},
		{band.Form{Lines: []band.Line{{Points: 100, Step: -50}}, Bands: good}, "lines[0].step: -0.5 does not divide 1 points"},
		{band.Form{Lines: []band.Line{{Points: 100, Void: true}}, Bands: good}, "lines: no line is left to score"},
		{band.Form{Lines: ones(2), Bands: good, Conversion: []band.Conversion{{Raw: 0}, {Raw: 0}}}, "conversion[1].raw: 0 does not rise"},
		{band.Form{Lines: ones(2), Bands: good, Conversion: []band.Conversion{{Raw: 0}, {Raw: 50}}}, "conversion[1].raw: 0.5 is not a multiple of the grain 1"},
		{band.Form{Lines: ones(1), Bands: good, Conversion: []band.Conversion{{Raw: 0}, {Raw: 100}, {Raw: 200}}}, "conversion[2].raw: 2 is above the total 1"},
		{band.Form{Lines: ones(1), Bands: good, Conversion: []band.Conversion{{Raw: 100}}}, "conversion[0].raw: 0 is missing before 1"},
		{band.Form{Lines: ones(1), Bands: good, Conversion: []band.Conversion{}}, "conversion: the raw score 0 is missing"},
		{band.Form{Lines: ones(1), Bands: set(percent(10001))}, "bands[1].cut.percent: 100.01 is not between 0 and 100"},
		{band.Form{Lines: ones(2), Bands: good, Conversion: []band.Conversion{{Raw: 0}, {Raw: 200}}}, "conversion[1].raw: 1 is missing before 2"},
		{band.Form{Lines: ones(2), Bands: good, Conversion: []band.Conversion{{Raw: 0}, {Raw: 100}}}, "conversion: the raw score 2 is missing"},
		{band.Form{Lines: ones(1), Bands: good, Conversion: []band.Conversion{{Raw: 0, Scale: 5}, {Raw: 100, Scale: 4}}}, "conversion[1].scale: 0.04 falls below 0.05"},
	} {
		_, err := band.Compute(c.form)
		assert.EqualError(t, err, c.want)
	}
}

// The smallest reachable score rule is checked against a plain search over all
// multiples of the grain.
func TestPercentCutIsTheSmallestReachableScore(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var lines []band.Line
		for range rapid.IntRange(1, 12).Draw(t, "n") {
			step := points.Points(rapid.SampledFrom([]int{1, 25, 50, 100}).Draw(t, "step"))
			lines = append(lines, band.Line{Step: step, Points: step * points.Points(rapid.IntRange(1, 8).Draw(t, "times"))})
		}
		p := points.Points(rapid.IntRange(0, 10000).Draw(t, "percent"))
		cuts, err := band.Compute(band.Form{Lines: lines, Bands: set(percent(p))})
		require.NoError(t, err)
		want := points.Points(-1)
		for raw := points.Points(0); raw <= cuts.Total; raw += cuts.Grain {
			if int64(raw)*10000 >= int64(p)*int64(cuts.Total) {
				want = raw
				break
			}
		}
		require.Equal(t, want, *cuts.Starts[1].Raw)

		at, err := cuts.Of(want)
		require.NoError(t, err)
		assert.Equal(t, 1, at, "a cut is inclusive")
		if want > 0 {
			at, err = cuts.Of(want - 1)
			require.NoError(t, err)
			assert.Equal(t, 0, at)
		}
	})
}

func TestBandOfAScoreOutsideTheForm(t *testing.T) {
	cuts, err := band.Compute(band.Form{Lines: ones(3), Bands: set(percent(5000))})
	require.NoError(t, err)
	for score, want := range map[points.Points]int{0: 0, 199: 0, 200: 1, 300: 1} {
		at, err := cuts.Of(score)
		require.NoError(t, err)
		assert.Equal(t, want, at)
	}
	for _, score := range []points.Points{-1, 301} {
		_, err := cuts.Of(score)
		assert.ErrorIs(t, err, band.ErrScore)
	}
}
