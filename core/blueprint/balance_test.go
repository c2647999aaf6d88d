package blueprint_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/blueprint"
	"pineledger/core/points"
)

func tree(t require.TestingT) blueprint.Tree {
	out, err := blueprint.NewTree([]blueprint.Standard{
		{"M6", ""}, {"M6.RR", "M6"}, {"M6.RR.3", "M6.RR"}, {"M6.RR.3a", "M6.RR.3"}, {"M6.FS", "M6"},
	})
	require.NoError(t, err)
	return out
}

func line(id string, p points.Points, standards ...string) blueprint.Item {
	return blueprint.Item{ID: id, Standards: standards, Points: p, Kind: "number", Language: "en"}
}

func count(id string, min, max int, f blueprint.Filter) blueprint.Row {
	return blueprint.Row{ID: id, Filter: f, Min: points.Points(min) * points.One, Max: points.Points(max) * points.One}
}

func TestFilters(t *testing.T) {
	easy := 710
	it := blueprint.Item{ID: "i", Standards: []string{"M6.RR.3a"}, Kind: "number", Depth: 2, Difficulty: &easy, Language: "en", Tags: []string{"tide"}}
	bare := blueprint.Item{ID: "j", Kind: "number"}
	for _, c := range []struct {
		name string
		f    blueprint.Filter
		it   blueprint.Item
		want bool
	}{
		{"nothing asked", blueprint.Filter{}, bare, true},
		{"a standard above", blueprint.Filter{Standards: []string{"M6.RR"}}, it, true},
		{"a standard beside", blueprint.Filter{Standards: []string{"M6.FS"}}, it, false},
		{"difficulty is inclusive", blueprint.Filter{Difficulty: &[2]int{710, 710}}, it, true},
		{"just too hard", blueprint.Filter{Difficulty: &[2]int{711, 1000}}, it, false},
		{"just too easy", blueprint.Filter{Difficulty: &[2]int{0, 709}}, it, false},
		{"no difficulty does not match", blueprint.Filter{Difficulty: &[2]int{0, 1000}}, bare, false},
		{"all tags", blueprint.Filter{Tags: []string{"tide", "boat"}}, it, false},
		{"from one of two banks", blueprint.Filter{Banks: []string{"Quarry", "Harbor"}}, blueprint.Item{Bank: "Harbor"}, true},
		{"from another bank", blueprint.Filter{Banks: []string{"Quarry"}}, blueprint.Item{Bank: "Harbor"}, false},
		{"without a tag", blueprint.Filter{Without: []string{"tide"}}, it, false},
		{"depth and kind and language", blueprint.Filter{Depth: []int{1, 2}, Kinds: []string{"number"}, Language: "en"}, it, true},
		{"another language", blueprint.Filter{Language: "es"}, it, false},
	} {
		assert.Equal(t, c.want, tree(t).Meets(c.f, c.it), c.name)
	}
}

func TestBalanceIsNotFirstComeFirstServed(t *testing.T) {
	wide := blueprint.Filter{Standards: []string{"M6"}}
	narrow := blueprint.Filter{Standards: []string{"M6.RR"}}
	b, err := blueprint.Compute(tree(t), []blueprint.Row{count("wide", 1, 1, wide), count("narrow", 1, 1, narrow)},
		[]blueprint.Item{line("a", 100, "M6.RR.3a"), line("b", 100, "M6.FS"), line("c", 100)})
	require.NoError(t, err)
	assert.Zero(t, b.Shortage)
	assert.Equal(t, []string{"b"}, b.Rows[0].Lines)
	assert.Equal(t, []string{"a"}, b.Rows[1].Lines)
	assert.Equal(t, []string{"c"}, b.Unclaimed)
}

func TestShortAndOver(t *testing.T) {
	b, err := blueprint.Compute(tree(t), []blueprint.Row{
		count("rr", 3, 4, blueprint.Filter{Standards: []string{"M6.RR"}}),
		{ID: "fs", Filter: blueprint.Filter{Standards: []string{"M6.FS"}}, ByPoints: true, Min: 150, Max: 200},
	}, []blueprint.Item{line("a", 100, "M6.RR"), line("b", 250, "M6.FS")})
	require.NoError(t, err)
	assert.Equal(t, points.Points(-200), b.Rows[0].Balance)
	assert.Equal(t, points.Points(50), b.Rows[1].Balance)
	assert.Equal(t, points.Points(200), b.Shortage)
	assert.Equal(t, points.Points(50), b.Excess)
}

func TestRefusedBlueprints(t *testing.T) {
	ok := count("r", 1, 1, blueprint.Filter{})
	for _, c := range []struct {
		row  blueprint.Row
		line blueprint.Item
		want string
	}{
		{count("r", 1, 1, blueprint.Filter{Depth: []int{5}}), line("a", 1), "rows[0].filter.depth: 5 is not 1–4"},
		{count("r", 1, 1, blueprint.Filter{Standards: []string{"X"}}), line("a", 1), `rows[0].filter.standards[0]: "X" is not in the tree`},
		{count("r", 1, 1, blueprint.Filter{Tags: []string{}}), line("a", 1), "rows[0].filter.tags: is empty; leave it out where nothing is asked"},
		{count("r", 1, 1, blueprint.Filter{Standards: []string{}}), line("a", 1), "rows[0].filter.standards: is empty; leave it out where nothing is asked"},
		{count("r", 1, 1, blueprint.Filter{Kinds: []string{}}), line("a", 1), "rows[0].filter.kinds: is empty; leave it out where nothing is asked"},
		{count("r", 1, 1, blueprint.Filter{Depth: []int{}}), line("a", 1), "rows[0].filter.depth: is empty; leave it out where nothing is asked"},
		{count("r", 1, 1, blueprint.Filter{Without: []string{}}), line("a", 1), "rows[0].filter.without: is empty; leave it out where nothing is asked"},
		{count("r", 1, 1, blueprint.Filter{Depth: []int{0}}), line("a", 1), "rows[0].filter.depth: 0 is not 1–4"},
		{count("r", 1, 1, blueprint.Filter{Kinds: []string{"riddle"}}), line("a", 1), `rows[0].filter.kinds[0]: "riddle" is not a kind of item`},
		{count("r", 1, 1, blueprint.Filter{Difficulty: &[2]int{-1, 500}}), line("a", 1), "rows[0].filter.difficulty: is not a range from 0 to 1"},
		{count("r", 1, 1, blueprint.Filter{Difficulty: &[2]int{500, 1001}}), line("a", 1), "rows[0].filter.difficulty: is not a range from 0 to 1"},
		{count("r", 1, 1, blueprint.Filter{Difficulty: &[2]int{501, 500}}), line("a", 1), "rows[0].filter.difficulty: is not a range from 0 to 1"},
		{count("r", 2, 1, blueprint.Filter{}), line("a", 1), "rows[0].count.max: 1 is below min 2"},
		{ok, line("a", 0), "lines[0].points: 0 is not above 0"},
		{ok, line("", 1), "lines[0].id: is empty"},
	} {
		_, err := blueprint.Compute(tree(t), []blueprint.Row{c.row}, []blueprint.Item{c.line})
		assert.EqualError(t, err, c.want)
	}
	for _, ends := range [][2]int{{0, 1000}, {500, 500}} {
		_, err := blueprint.Compute(tree(t), []blueprint.Row{count("r", 0, 1, blueprint.Filter{Difficulty: &ends, Depth: []int{1, 4}})}, nil)
		assert.NoError(t, err)
	}
	_, err := blueprint.NewTree([]blueprint.Standard{{"a", "x"}})
	assert.EqualError(t, err, `standards[0].parent: "x" is not in the tree`)
	_, err = blueprint.NewTree([]blueprint.Standard{{"a", "b"}, {"b", "a"}})
	assert.EqualError(t, err, `standards[0].parent: "a" is above itself`)
	_, err = blueprint.NewTree([]blueprint.Standard{{"a", ""}, {"a", ""}})
	assert.EqualError(t, err, `standards[1].code: "a" is given twice`)
}

// Every way to assign a few lines is tried; none may beat the balance.
func TestNoAssignmentIsBetter(t *testing.T) {
	tags := []string{"x", "y", "z"}
	rapid.Check(t, func(t *rapid.T) {
		var rows []blueprint.Row
		for i := range rapid.IntRange(1, 4).Draw(t, "rows") {
			r := blueprint.Row{ID: fmt.Sprint("r", i), ByPoints: rapid.Bool().Draw(t, "by points")}
			if rapid.Bool().Draw(t, "filtered") {
				r.Filter.Tags = []string{rapid.SampledFrom(tags).Draw(t, "tag")}
			}
			r.Min = points.One * points.Points(rapid.IntRange(0, 4).Draw(t, "min"))
			r.Max = r.Min + points.One*points.Points(rapid.IntRange(0, 2).Draw(t, "more"))
			rows = append(rows, r)
		}
		var lines []blueprint.Item
		for i := range rapid.IntRange(0, 7).Draw(t, "lines") {
			lines = append(lines, blueprint.Item{
				ID: fmt.Sprint("i", i), Points: points.Points(rapid.SampledFrom([]int{50, 100, 200, 300}).Draw(t, "points")),
				Tags: rapid.SliceOfDistinct(rapid.SampledFrom(tags), rapid.ID).Draw(t, "tags"),
			})
		}
		got, err := blueprint.Compute(blueprint.Tree{}, rows, lines)
		require.NoError(t, err)
		require.True(t, got.Proven)
		shortage, excess := bruteForce(rows, lines)
		require.Equal(t, [2]points.Points{shortage, excess}, [2]points.Points{got.Shortage, got.Excess})

		claimed := len(got.Unclaimed)
		for _, r := range got.Rows {
			claimed += len(r.Lines)
		}
		require.Equal(t, len(lines), claimed, "every line is claimed once or not at all")
	})
}

func bruteForce(rows []blueprint.Row, lines []blueprint.Item) (bestShort, bestOver points.Points) {
	bestShort = points.Most
	fill := make([]points.Points, len(rows))
	var try func(i int)
	try = func(i int) {
		if i == len(lines) {
			var short, over points.Points
			for j, r := range rows {
				short += max(r.Min-fill[j], 0)
				over += max(fill[j]-r.Max, 0)
			}
			if short < bestShort || short == bestShort && over < bestOver {
				bestShort, bestOver = short, over
			}
			return
		}
		fits := false
		for j, r := range rows {
			if !(blueprint.Tree{}).Meets(r.Filter, lines[i]) {
				continue
			}
			fits = true
			w := points.One
			if r.ByPoints {
				w = lines[i].Points
			}
			fill[j] += w
			try(i + 1)
			fill[j] -= w
		}
		if !fits {
			try(i + 1)
		}
	}
	try(0)
	return bestShort, bestOver
}

func TestAHundredLinesFillFortyOverlappingRows(t *testing.T) {
	var rows []blueprint.Row
	var lines []blueprint.Item
	for i := range 40 {
		rows = append(rows, count(fmt.Sprint("r", i), 2, 3, blueprint.Filter{Tags: []string{fmt.Sprint("t", i%20)}}))
	}
	for i := range 100 {
		lines = append(lines, blueprint.Item{ID: fmt.Sprint("i", i), Points: 100, Tags: []string{fmt.Sprint("t", i%20), fmt.Sprint("t", (i*7)%20)}})
	}
	b, err := blueprint.Compute(blueprint.Tree{}, rows, lines)
	require.NoError(t, err)
	assert.Zero(t, b.Shortage)
}
