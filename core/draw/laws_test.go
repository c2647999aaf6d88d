package draw_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/blueprint"
	"pineledger/core/draw"
	"pineledger/core/points"
)

// patient is a clock that never runs out.
var patient = draw.Clock{Left: func() float64 { return 1 }, Over: func() bool { return false }}

func tree(t require.TestingT) blueprint.Tree {
	tr, err := blueprint.NewTree([]blueprint.Standard{{Code: "M6"}, {Code: "M6.RR", Parent: "M6"}, {Code: "M6.NS", Parent: "M6"}})
	require.NoError(t, err)
	return tr
}

func someRequest(t *rapid.T) draw.Request {
	r := draw.Request{Tree: tree(t), Seed: rapid.Uint64Range(0, 1000).Draw(t, "seed")}
	flip := func(name string) bool { return rapid.IntRange(0, 3).Draw(t, name) == 0 }
	forms := rapid.IntRange(1, 2).Draw(t, "forms")
	r.Plan.Forms = forms
	n := rapid.IntRange(1, 10-2*forms).Draw(t, "items")
	ids := make([]string, n)
	for i := range ids {
		ids[i] = fmt.Sprintf("i%d", i)
	}
	for i := range n {
		it := blueprint.Item{ID: ids[i], Kind: rapid.SampledFrom([]string{"single-choice", "single-choice", "number"}).Draw(t, "kind"), Depth: rapid.IntRange(1, 2).Draw(t, "depth"),
			Standards: rapid.SampledFrom([][]string{{"M6.RR"}, {"M6.NS"}, {"M6.RR", "M6.NS"}, nil}).Draw(t, "standards"),
			Points:    points.Points(rapid.SampledFrom([]int{100, 100, 200, 150}).Draw(t, "points")), Uses: rapid.IntRange(0, 5).Draw(t, "uses"),
			Passage: rapid.SampledFrom([]string{"", "", "p", "q", "r"}).Draw(t, "passage"), Key: rapid.SampledFrom([]string{"A", "B", "C", ""}).Draw(t, "key")}
		if !flip("no difficulty") {
			d := rapid.IntRange(300, 900).Draw(t, "difficulty")
			it.Difficulty = &d
		}
		if flip("hostile") {
			if other := rapid.SampledFrom(ids).Draw(t, "enemy"); other != it.ID {
				it.Enemies = []string{other}
			}
		}
		if flip("has near copies") {
			it.Kin = rapid.SampledFrom([]string{"visitors", "tides"}).Draw(t, "kin")
		}
		it.Hold = rapid.IntRange(0, 9).Draw(t, "hold") == 0
		r.Items = append(r.Items, it)
	}
	for j := range rapid.IntRange(1, 3).Draw(t, "rows") {
		row := blueprint.Row{ID: fmt.Sprintf("r%d", j), Filter: rapid.SampledFrom([]blueprint.Filter{{}, {Standards: []string{"M6.RR"}}, {Standards: []string{"M6.NS"}}, {Standards: []string{"M6"}},
			{Kinds: []string{"single-choice"}}, {Depth: []int{1}}, {Depth: []int{2}, Standards: []string{"M6"}}}).Draw(t, "filter")}
		row.ByPoints = flip("by points")
		row.Min = points.One * points.Points(rapid.IntRange(0, 3).Draw(t, "min"))
		row.Max = row.Min + points.One*points.Points(rapid.IntRange(0, 1).Draw(t, "more"))
		r.Plan.Rows = append(r.Plan.Rows, row)
	}
	somePlan(t, &r, ids, flip)
	return r
}

func somePlan(t *rapid.T, r *draw.Request, ids []string, flip func(string) bool) {
	if flip("total") {
		n := rapid.IntRange(0, 5).Draw(t, "total of")
		r.Plan.Total = &n
	}
	if flip("passages at most") {
		n := rapid.IntRange(0, 2).Draw(t, "at most")
		r.Plan.Passages.Max = &n
	}
	if flip("items of a passage") {
		r.Plan.Passages.ItemsMin = rapid.IntRange(1, 2).Draw(t, "at least")
	}
	if flip("most items of a passage") {
		r.Plan.Passages.ItemsMax = max(r.Plan.Passages.ItemsMin, rapid.IntRange(1, 2).Draw(t, "at most"))
	}
	r.Plan.Passages.Whole = flip("whole")
	if !flip("no target") {
		r.Plan.Difficulty = &draw.Target{Target: rapid.IntRange(400, 700).Draw(t, "target"), Tolerance: rapid.IntRange(0, 60).Draw(t, "tolerance")}
	}
	if flip("keys") {
		n := rapid.IntRange(0, 2).Draw(t, "spread")
		r.Plan.KeySpread = &n
	}
	r.Plan.ForbidMeeting = flip("forbid meeting")
	if flip("exclude") {
		r.Plan.Exclude = []string{rapid.SampledFrom(ids).Draw(t, "excluded")}
	}
	for _, list := range []*[]string{&r.Plan.Fixed, &r.Plan.Anchors} {
		if flip("stays") {
			id := rapid.SampledFrom(ids).Draw(t, "staying")
			at := slices.IndexFunc(r.Items, func(it blueprint.Item) bool { return it.ID == id })
			if !r.Items[at].Hold && !slices.Contains(r.Plan.Exclude, id) {
				*list = []string{id}
			}
		}
	}
}

// holds checks that a result is what the plan asks for, by the rules read anew.
func holds(t require.TestingT, r draw.Request, result draw.Result) {
	byID := map[string]blueprint.Item{}
	for _, it := range r.Items {
		byID[it.ID] = it
	}
	in := map[string]int{}
	require.Len(t, result.Forms, max(r.Plan.Forms, 1))
	for _, f := range result.Forms {
		var items []blueprint.Item
		fill := map[string]points.Points{}
		for _, c := range f.Items {
			it := byID[c.ID]
			items = append(items, it)
			in[c.ID]++
			row := r.Plan.Rows[slices.IndexFunc(r.Plan.Rows, func(row blueprint.Row) bool { return row.ID == c.Row })]
			require.True(t, r.Tree.Meets(row.Filter, it), "%s does not meet %s", c.ID, c.Row)
			if row.ByPoints {
				fill[c.Row] += it.Points
			} else {
				fill[c.Row] += points.One
			}
		}
		require.True(t, validForm(r, items), "%v", f)
		require.Equal(t, meanDifficulty(items), f.MeanDifficulty)
		for _, row := range r.Plan.Rows {
			require.True(t, fill[row.ID] >= row.Min && fill[row.ID] <= row.Max, "row %s holds %v", row.ID, fill[row.ID])
		}
	}
	for id, n := range in {
		common := slices.Contains(r.Plan.Fixed, id) || slices.Contains(r.Plan.Anchors, id)
		require.True(t, n == 1 && !common || n == len(result.Forms) && common, "%s is in %d forms", id, n)
	}
}

// meanDifficulty is the mean in thousandths, half up, of the items that have one.
func meanDifficulty(items []blueprint.Item) *int {
	var sum, n float64
	for _, it := range items {
		if it.Difficulty != nil {
			sum += float64(*it.Difficulty)
			n++
		}
	}
	if n == 0 {
		return nil
	}
	return new(int(math.Floor(sum/n + 0.5)))
}

func TestABestDrawIsTheBestThereIs(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := someRequest(t)
		hand := tryAll(r)
		result, err := r.Run(patient)
		require.NoError(t, err)
		require.Equal(t, hand.feasible(), result.Feasible)
		if !result.Feasible {
			return
		}
		holds(t, r, result)
		assert.Equal(t, hand.best, result.Objective)
		assert.Equal(t, hand.best, *result.Bound, "proven")
	})
}

func TestARandomDrawFindsAnAnswerWheneverThereIsOne(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := someRequest(t)
		r.Mode = draw.Random
		hand := tryAll(r)
		result, err := r.Run(patient)
		require.NoError(t, err)
		require.Equal(t, hand.feasible(), result.Feasible)
		if result.Feasible {
			holds(t, r, result)
			again, err := r.Run(patient)
			require.NoError(t, err)
			assert.Equal(t, result, again, "the same seed draws the same")
		}
	})
}

func TestAShortageIsExactAndNoPartOfItIsShort(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := someRequest(t)
		if r.Plan.Fixed, r.Plan.Anchors = nil, nil; tryAll(r).feasible() {
			return
		}
		result, err := r.Run(patient)
		require.NoError(t, err)
		require.NotEmpty(t, result.Shortage)
		require.NotEmpty(t, result.Because)
		need := func(rows []int) int {
			sum := 0
			for _, j := range rows {
				sum += int(r.Plan.Rows[j].Min)
			}
			return sum * max(r.Plan.Forms, 1)
		}
		var every []int
		for j := range r.Plan.Rows {
			every = append(every, j)
		}
		if mostServed(r, every) >= need(every) { // no set of rows is short: a rule is named
			require.Len(t, result.Shortage, 1)
			assert.Len(t, result.Shortage[0].Rows, len(r.Plan.Rows))
			assert.Less(t, result.Shortage[0].Have, result.Shortage[0].Need, "%s", result.Because)
			return
		}
		for _, s := range result.Shortage {
			var rows []int
			for _, id := range s.Rows {
				rows = append(rows, slices.IndexFunc(r.Plan.Rows, func(row blueprint.Row) bool { return row.ID == id }))
			}
			assert.Equal(t, need(rows), s.Need)
			assert.Equal(t, mostServed(r, rows), s.Have)
			assert.Less(t, s.Have, s.Need)
			for k := range rows {
				fewer := slices.Delete(slices.Clone(rows), k, k+1)
				assert.GreaterOrEqual(t, mostServed(r, fewer), need(fewer), "a part of it is short")
			}
		}
	})
}
