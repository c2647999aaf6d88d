package blueprint_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/blueprint"
)

func TestSwapsRankTheNearestEqualFirst(t *testing.T) {
	tree, err := blueprint.NewTree([]blueprint.Standard{{Code: "M6.RR"}, {Code: "M6.NS"}})
	assert.NoError(t, err)
	p := func(n int) *int { return &n }
	line := blueprint.Item{ID: "line", Standards: []string{"M6.RR"}, Kind: "number", Depth: 2, Difficulty: p(600)}
	item := func(id, standard, kind string, depth, difficulty, uses int) blueprint.Item {
		it := blueprint.Item{ID: id, Standards: []string{standard}, Kind: kind, Depth: depth, Uses: uses}
		if difficulty > 0 {
			it.Difficulty = p(difficulty)
		}
		return it
	}
	pool := []blueprint.Item{
		item("elsewhere", "M6.NS", "number", 2, 600, 0),
		item("unknown", "M6.RR", "number", 2, 0, 0),
		item("hard", "M6.RR", "number", 2, 480, 0),
		item("deeper", "M6.RR", "number", 3, 610, 0),
		item("deeper and just as hard", "M6.RR", "number", 4, 600, 0),
		item("other kind", "M6.RR", "text", 2, 610, 0),
		item("used", "M6.RR", "number", 2, 600, 9),
		item("fresh", "M6.RR", "number", 2, 620, 1),
		item("fresh and farther", "M6.RR", "number", 2, 630, 1),
		item("fresh, and last by name", "M6.RR", "number", 2, 620, 1),
		{ID: "held", Standards: []string{"M6.RR"}, Kind: "number", Depth: 2, Hold: true},
		line,
	}
	row := blueprint.Filter{Standards: []string{"M6.RR"}}
	for _, c := range []struct {
		row *blueprint.Filter
		own string
	}{{&row, "row"}, {nil, "standard"}} {
		var got []string
		why := map[string][]string{}
		for _, e := range tree.Swaps(line, c.row, pool) {
			got = append(got, e.Item.ID)
			why[e.Item.ID] = e.Why
		}
		assert.Equal(t, []string{"fresh", "fresh, and last by name", "fresh and farther", "used", "other kind", "deeper", "deeper and just as hard", "hard", "unknown", "elsewhere"}, got)
		assert.Equal(t, []string{"same " + c.own, "as hard"}, why["fresh"])
		assert.Equal(t, []string{"same " + c.own, "harder by 0.12"}, why["hard"])
		assert.Equal(t, []string{"same " + c.own, "as hard", "depth 3, not 2"}, why["deeper"])
		assert.Equal(t, []string{"another " + c.own, "as hard"}, why["elsewhere"])
	}
}

func TestASwapSaysByHowMuchItIsEasierOrHarder(t *testing.T) {
	tree, err := blueprint.NewTree([]blueprint.Standard{{Code: "M6.RR"}})
	assert.NoError(t, err)
	item := func(id string, difficulty int) blueprint.Item {
		return blueprint.Item{ID: id, Standards: []string{"M6.RR"}, Difficulty: &difficulty}
	}
	why := map[string]string{}
	for _, e := range tree.Swaps(item("line", 600), nil, []blueprint.Item{item("easier", 725), item("harder", 475), item("a step", 650), item("no step", 649)}) {
		why[e.Item.ID] = e.Why[1]
	}
	assert.Equal(t, map[string]string{"easier": "easier by 0.12", "harder": "harder by 0.12", "a step": "easier by 0.05", "no step": "as hard"}, why)
	unknown := blueprint.Item{ID: "unknown", Standards: []string{"M6.RR"}}
	assert.Equal(t, []string{"same standard", "difficulty not known"}, tree.Swaps(item("line", 600), nil, []blueprint.Item{unknown})[0].Why)
}
