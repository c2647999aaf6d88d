package official_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/band"
	"pineledger/core/official"
	"pineledger/core/points"
)

// rows makes a table of "raw scale band" rows; "-" stands for nothing.
func rows(list ...[3]string) official.Table {
	var t official.Table
	for i, r := range list {
		raw, _ := points.Parse(r[0])
		row := official.Row{Line: i + 2, Raw: raw}
		if r[1] != "-" {
			scale, _ := points.Parse(r[1])
			row.Scale = &scale
		}
		if r[2] != "-" {
			row.Band = r[2]
		}
		t.Rows = append(t.Rows, row)
	}
	return t
}

var published = rows([3]string{"0", "300", "Low"}, [3]string{"1", "310", "Low"}, [3]string{"2", "310", "Middle"}, [3]string{"3", "340", "High"}, [3]string{"4", "360", "High"})

func ExampleTable_Cuts() {
	for _, c := range published.Cuts() {
		fmt.Printf("%s from %s of %s, scale %s, line %d\n", c.Band, c.Raw, c.Of, c.Scale, c.Line)
	}
	// Output:
	// Middle from 2 of 4, scale 310, line 4
	// High from 3 of 4, scale 340, line 5
}

func TestWhatNoPublishedTableCanHave(t *testing.T) {
	assert.Empty(t, published.Check())
	five, four := points.Points(500), points.Points(400)
	right, wrong := published, published
	right.Total, wrong.Total = &four, &five
	assert.Empty(t, right.Check())
	assert.Zero(t, official.Table{}.Most())
	assert.EqualValues(t, 300, rows([3]string{"3", "1", "a"}).Most(), "of one row too")
	assert.Empty(t, official.Table{}.Cuts())
	assert.Empty(t, rows([3]string{"0", "1", "a"}, [3]string{"0.01", "1", "a"}, [3]string{"0.02", "1", "a"}).Check(), "steps of a hundredth")
	assert.Empty(t, rows([3]string{"0", "1", "a"}, [3]string{"1", "1", "a"}).Check(), "equal scale scores")
	for name, c := range map[string]struct {
		table official.Table
		says  official.Problem
	}{
		"one row":                   {rows([3]string{"0", "1", "a"}), official.Problem{Field: "raw", Reason: "there are fewer than two raw scores"}},
		"no zero":                   {rows([3]string{"1", "1", "a"}, [3]string{"2", "1", "a"}), official.Problem{Line: 2, Field: "raw", Reason: "the first raw score is 1, and 0 is missing"}},
		"whole points of two":       {rows([3]string{"0", "1", "a"}, [3]string{"2", "1", "a"}, [3]string{"4", "1", "a"}), official.Problem{Line: 3, Field: "raw", Reason: "the raw score 1 is missing before 2"}},
		"a gap":                     {rows([3]string{"0", "1", "a"}, [3]string{"1", "1", "a"}, [3]string{"3", "1", "a"}), official.Problem{Line: 4, Field: "raw", Reason: "the raw score 2 is missing before 3"}},
		"twice":                     {rows([3]string{"0", "1", "a"}, [3]string{"1", "1", "a"}, [3]string{"1", "2", "a"}), official.Problem{Line: 4, Field: "raw", Reason: "the raw score 1 is on line 3 already"}},
		"a raw score that falls":    {rows([3]string{"0", "1", "a"}, [3]string{"1", "1", "a"}, [3]string{"0.5", "2", "a"}), official.Problem{Line: 4, Field: "raw", Reason: "the raw score falls from 1 to 0.5"}},
		"a scale score that falls":  {rows([3]string{"0", "2", "a"}, [3]string{"1", "1.5", "a"}), official.Problem{Line: 3, Field: "scale", Reason: "the scale score falls from 2 to 1.5"}},
		"a scale score left out":    {rows([3]string{"0", "2", "a"}, [3]string{"1", "-", "a"}), official.Problem{Line: 3, Field: "scale", Reason: "some rows have a scale score and some have none"}},
		"a band left out":           {rows([3]string{"0", "2", "a"}, [3]string{"1", "3", "-"}), official.Problem{Line: 3, Field: "band", Reason: "some rows name a band and some do not"}},
		"a band that begins again":  {rows([3]string{"0", "2", "a"}, [3]string{"1", "3", "b"}, [3]string{"2", "3", "a"}), official.Problem{Line: 4, Field: "band", Reason: "the band a begins again after b"}},
		"a total that is not so":    {wrong, official.Problem{Line: 6, Field: "total", Reason: "the rows end at 4, and the total is given as 5"}},
		"half points with a gap":    {rows([3]string{"0", "1", "a"}, [3]string{"0.5", "1", "a"}, [3]string{"1.5", "1", "a"}), official.Problem{Line: 4, Field: "raw", Reason: "the raw score 1 is missing before 1.5"}},
		"no bands, and scales fall": {rows([3]string{"0", "2", "-"}, [3]string{"1", "1", "-"}), official.Problem{Line: 3, Field: "scale", Reason: "the scale score falls from 2 to 1"}},
	} {
		problems := c.table.Check()
		if assert.NotEmpty(t, problems, name) {
			assert.Equal(t, c.says, problems[0], name)
		}
	}
	assert.Empty(t, rows([3]string{"0", "-", "a"}, [3]string{"1", "-", "b"}).Check(), "bands alone are a table")
}

func TestAnOfficialCutOnAnotherForm(t *testing.T) {
	cut := published.Cuts()[0] // half of the points
	assert.Equal(t, points.Points(5000), cut.Percent())
	for _, c := range []struct {
		total, grain points.Points
		rule         band.Rule
		raw          points.Points
	}{{3800, 100, band.AtLeast, 1900}, {3700, 100, band.AtLeast, 1900}, {3700, 100, band.Nearest, 1900}, {3700, 50, band.AtLeast, 1850}} {
		assert.Equal(t, c.raw, cut.On(c.total, c.grain, c.rule), "%+v", c)
	}
	third := official.Cut{Raw: 100, Of: 300}
	assert.Equal(t, points.Points(3333), third.Percent())
	assert.Equal(t, points.Points(100), third.On(300, 100, band.AtLeast), "exact, where 33.33% would be too")
	rapid.Check(t, func(t *rapid.T) {
		of := points.Points(rapid.IntRange(1, 80).Draw(t, "of"))
		c := official.Cut{Raw: points.Points(rapid.IntRange(0, int(of)).Draw(t, "raw")) * 100, Of: of * 100}
		if got := c.On(c.Of, 100, band.AtLeast); got != c.Raw {
			t.Fatalf("on its own total %s is %s", c.Raw, got)
		}
	})
}

func TestACutThatEqualsNothingOfficial(t *testing.T) {
	at := func(raws ...points.Points) band.Cuts {
		bands := []band.Band{{Name: "Launching"}}
		for i, r := range raws {
			bands = append(bands, band.Band{Name: string(rune('A' + i)), Cut: band.Cut{Raw: &r}})
		}
		cuts, err := band.Compute(band.Form{Lines: []band.Line{{Points: 2000, Step: 100}}, Bands: bands})
		require.NoError(t, err)
		return cuts
	}
	tables := []official.Table{published} // half and three quarters: 10 and 15 of 20
	assert.Empty(t, official.Differing(at(1000, 1500), band.AtLeast, nil, tables))
	off := official.Differing(at(1000, 1400), band.AtLeast, nil, tables)
	require.Len(t, off, 1)
	assert.Equal(t, "B", off[0].Band)
	require.Len(t, off[0].Nearest, 2)
	assert.Equal(t, []points.Points{1500, 1000}, []points.Points{off[0].Nearest[0].Here, off[0].Nearest[1].Here}, "the nearer first")
	assert.Equal(t, "High", off[0].Nearest[0].Cut.Band)
	named := published
	named.Rows = slices.Clone(named.Rows)
	for i := range named.Rows {
		if named.Rows[i].Band == "Middle" {
			named.Rows[i].Band = "B"
		}
	}
	off = official.Differing(at(1000, 1400), band.AtLeast, nil, []official.Table{named})
	require.Len(t, off[0].Nearest, 1)
	assert.Equal(t, points.Points(1000), off[0].Nearest[0].Here, "a band of the same name comes before a nearer one of another")
	assert.Equal(t, band.Cut{Percent: new(points.Points(5000)), Source: &band.Source{Raw: 200}}, off[0].Nearest[0].As, "it follows where lines change")
	assert.Empty(t, official.Differing(at(1400), band.AtLeast, nil, nil), "without a table nothing differs from it")
}

// An official cut comes to the score of its exact share, however a form takes it: on the scale of the form, as a share of two decimals, or in points.
func TestAnOfficialCutIsTakenSoThatItFollows(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		of := rapid.IntRange(2, 90).Draw(t, "of")
		raw := rapid.IntRange(1, of).Draw(t, "raw")
		table := official.Table{ID: 7, Rows: []official.Row{{Raw: 0, Band: "Low"}}}
		for r := 1; r <= of; r++ {
			row := official.Row{Raw: points.Points(r) * points.One, Band: "Low"}
			if r >= raw {
				row.Band = "High"
			}
			table.Rows = append(table.Rows, row)
		}
		rule := rapid.SampledFrom([]band.Rule{band.AtLeast, band.Nearest}).Draw(t, "rule")
		form := band.Form{Rule: rule, Bands: []band.Band{{Name: "Low"}, {Name: "High", Cut: band.Cut{Raw: new(points.Points(0))}}}}
		for range rapid.IntRange(1, 60).Draw(t, "lines") {
			form.Lines = append(form.Lines, band.Line{Points: points.One, Step: points.Points(rapid.SampledFrom([]int{100, 50, 25}).Draw(t, "step"))})
		}
		cuts, err := band.Compute(form)
		require.NoError(t, err)
		off := official.Differing(cuts, rule, nil, []official.Table{table})
		if len(off) == 0 {
			return // it comes to no points here
		}
		choice := off[0].Nearest[0]
		require.Equal(t, &band.Source{Table: 7, Raw: points.Points(raw) * points.One}, choice.As.Source)
		form.Bands[1].Cut = choice.As
		cuts, err = band.Compute(form)
		require.NoError(t, err)
		require.Equal(t, choice.Here, *cuts.Starts[1].Raw)
		if of <= 50 {
			require.NotNil(t, choice.As.Percent, "a share of few points is told apart by two decimals")
		}
	})
}

func TestAnOfficialCutIsTakenOnTheFormsOwnScale(t *testing.T) {
	cuts, err := band.Compute(band.Form{Lines: []band.Line{{Points: 400, Step: 100}}, Bands: []band.Band{{Name: "Low"}, {Name: "High", Cut: band.Cut{Raw: new(points.Points(100))}}}})
	require.NoError(t, err)
	own := func(scales ...points.Points) (out []band.Conversion) {
		for i, s := range scales {
			out = append(out, band.Conversion{Raw: points.Points(i) * points.One, Scale: s})
		}
		return out
	}
	as := func(conversion []band.Conversion) band.Cut {
		return official.Differing(cuts, band.AtLeast, conversion, []official.Table{published})[0].Nearest[0].As
	}
	assert.Equal(t, points.Points(34000), *as(own(30000, 31000, 31000, 34000, 36000)).Scale)
	assert.Equal(t, points.Points(7500), *as(own(30000, 33000, 34000, 35000, 36000)).Percent, "by the form's scale it would be another score")
}
