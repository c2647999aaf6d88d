package draw

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/blueprint"
	"pineledger/core/points"
)

// standing is an answer of four items, a row each, with six to trade for. Items may be hostile to each other.
func standing(t require.TestingT, enemies map[int]int, difficulty func(i int) int) *answer {
	tree, err := blueprint.NewTree([]blueprint.Standard{{Code: "M6"}})
	require.NoError(t, err)
	r := Request{Tree: tree, Plan: Plan{Forms: 1, ForbidMeeting: true, Difficulty: &Target{Target: 600, Tolerance: 0}}}
	for i := range 10 {
		d := difficulty(i)
		it := blueprint.Item{ID: fmt.Sprintf("i%d", i), Kind: "number", Standards: []string{"M6"}, Points: points.One, Difficulty: &d, Uses: i}
		if enemy, has := enemies[i]; has {
			it.Enemies = []string{fmt.Sprintf("i%d", enemy)}
		}
		r.Items = append(r.Items, it)
	}
	r.Plan.Rows = []blueprint.Row{{ID: "all", Min: 4 * points.One, Max: 4 * points.One}}
	p, err := newPool(r)
	require.NoError(t, err)
	require.Len(t, p.items, 10)
	a := newAnswer(p, [][]int{{0, 1, 2, 3}})
	require.NotNil(t, a)
	return a
}

func alike(int) int { return 600 }

// sound says which two hostile items stand together, or that an item stands twice.
func sound(a *answer) error {
	seen := map[int]bool{}
	for _, i := range a.forms[0].chosen {
		if seen[i] {
			return fmt.Errorf("item %d stands twice", i)
		}
		seen[i] = true
	}
	for i := range seen {
		for _, o := range a.p.hostile[i] {
			if seen[o] {
				return fmt.Errorf("items %d and %d are hostile", i, o)
			}
		}
	}
	return nil
}

func TestThreeTradesOfWhichTheLastDoesNotFitAreAllUndone(t *testing.T) {
	for name, c := range map[string]struct {
		enemies map[int]int
		trades  []trade
		done    bool
	}{
		"all fit":                           {nil, []trade{{0, 0, 4}, {0, 1, 5}, {0, 2, 6}}, true},
		"the third is hostile to a new one": {map[int]int{6: 4}, []trade{{0, 0, 4}, {0, 1, 5}, {0, 2, 6}}, false},
		"the third is hostile to one left":  {map[int]int{6: 0}, []trade{{0, 0, 4}, {0, 1, 5}, {0, 2, 6}}, true},
		"the third is hostile to one there": {map[int]int{6: 3}, []trade{{0, 0, 4}, {0, 1, 5}, {0, 2, 6}}, false},
		"the first does not fit":            {map[int]int{4: 3}, []trade{{0, 0, 4}, {0, 1, 5}, {0, 2, 6}}, false},
		"one goes twice":                    {nil, []trade{{0, 0, 4}, {0, 1, 5}, {0, 0, 6}}, false},
		"one comes twice":                   {nil, []trade{{0, 0, 4}, {0, 1, 5}, {0, 2, 4}}, false},
	} {
		a := standing(t, c.enemies, alike)
		before := a.aims()
		o := &polisher{a: a}
		assert.Equal(t, c.done, o.doThree(c.trades...), name)
		assert.NoError(t, sound(a), name)
		if !c.done {
			assert.ElementsMatch(t, []int{0, 1, 2, 3}, a.forms[0].chosen, name)
			assert.Equal(t, before, a.aims(), name)
			for i, f := range a.at {
				assert.Equal(t, i < 4, f == 0, "%s: item %d", name, i)
			}
		}
	}
}

// However items are hostile, polishing keeps the rules and makes nothing worse, and its sums are those of what stands.
func TestPolishingKeepsTheRules(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		enemies := map[int]int{}
		for range rapid.IntRange(0, 6).Draw(t, "pairs") {
			i, o := rapid.IntRange(0, 9).Draw(t, "one"), rapid.IntRange(4, 9).Draw(t, "other")
			if i != o && i >= 4 || i < 4 {
				enemies[i] = o
			}
		}
		levels := rapid.SliceOfN(rapid.IntRange(0, 3), 10, 10).Draw(t, "difficulties")
		a := standing(t, enemies, func(i int) int { return 450 + 100*levels[i] })
		out := polish(a, func() bool { return false })
		require.NoError(t, sound(out))
		require.Len(t, out.forms[0].chosen, 4)
		require.False(t, a.aims().less(out.aims()))
		again := newAnswer(out.p, [][]int{out.forms[0].chosen})
		require.Equal(t, again.aims(), out.aims(), "the sums follow from what stands")
		for f := range out.forms {
			for _, from := range out.forms[f].chosen {
				for to := range out.p.items {
					if out.at[to] < 0 && out.fits(trade{f, from, to}) {
						o := &polisher{a: out}
						require.False(t, o.after(trade{f, from, to}).less(out.aims()), "no single trade is left that helps")
					}
				}
			}
		}
	})
}

// A trade fits where, and only where, what it leaves obeys the rules, which are read there another way.
func TestATradeFitsWhereWhatItLeavesObeysTheRules(t *testing.T) {
	tree, err := blueprint.NewTree([]blueprint.Standard{{Code: "M6"}})
	require.NoError(t, err)
	rapid.Check(t, func(t *rapid.T) {
		r := Request{Tree: tree, Plan: Plan{Forms: 1}}
		flip := func(name string) bool { return rapid.Bool().Draw(t, name) }
		n := rapid.IntRange(4, 8).Draw(t, "items")
		for i := range n {
			it := blueprint.Item{ID: fmt.Sprintf("i%d", i), Kind: "number", Standards: []string{"M6"}, Points: points.Points(rapid.SampledFrom([]int{100, 150, 200}).Draw(t, "points")),
				Passage: rapid.SampledFrom([]string{"", "p", "q", "r"}).Draw(t, "passage"), Key: rapid.SampledFrom([]string{"A", "B", "C", ""}).Draw(t, "key")}
			if o := rapid.IntRange(0, 2*n).Draw(t, "enemy"); o < n && o != i {
				it.Enemies = []string{fmt.Sprintf("i%d", o)}
			}
			r.Items = append(r.Items, it)
		}
		rules := &r.Plan.Passages
		rules.Whole = flip("whole")
		if flip("passages at most") {
			rules.Max = new(rapid.IntRange(0, 2).Draw(t, "at most"))
		}
		rules.ItemsMin, rules.ItemsMax = rapid.IntRange(0, 2).Draw(t, "at least"), rapid.SampledFrom([]int{0, 2, 3}).Draw(t, "items at most")
		if flip("keys") {
			r.Plan.KeySpread = new(rapid.IntRange(0, 2).Draw(t, "spread"))
		}
		r.Plan.ForbidMeeting = flip("forbid meeting")
		row := blueprint.Row{ID: "all", ByPoints: flip("by points"), Max: 4 * points.One}
		row.Min = points.One * points.Points(rapid.IntRange(1, 4).Draw(t, "min"))
		r.Plan.Rows = []blueprint.Row{row}
		p, err := newPool(r)
		require.NoError(t, err)

		for mask := range 1 << len(p.items) {
			var chosen []int
			for i := range p.items {
				if mask&(1<<i) != 0 {
					chosen = append(chosen, i)
				}
			}
			if len(chosen) > 4 || !p.obeys([][]int{chosen}) {
				continue
			}
			a := newAnswer(p, [][]int{chosen})
			require.NotNil(t, a)
			for at, out := range chosen {
				for in := range p.items {
					if a.at[in] >= 0 {
						continue
					}
					left := slices.Clone(chosen)
					left[at] = in
					obeys := p.obeys([][]int{left})
					fits := a.fits(trade{0, out, in})
					// Where passages come whole, one of a passage alone is not looked at.
					if rules.Whole && (p.passage[out] >= 0 || p.passage[in] >= 0) {
						require.False(t, fits && !obeys, "%v, %d for %d", chosen, in, out)
					} else {
						require.Equal(t, obeys, fits, "%v, %d for %d", chosen, in, out)
					}
				}
			}
		}
	})
}
