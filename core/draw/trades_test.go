package draw

import (
	"fmt"
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
