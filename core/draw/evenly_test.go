package draw_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/blueprint"
	"pineledger/core/draw"
	"pineledger/core/points"
)

func bank(ratios, figures, texts int) []blueprint.Item {
	var out []blueprint.Item
	for range ratios {
		out = append(out, blueprint.Item{Standards: []string{"M6.RR"}, Kind: "number", Points: points.One})
	}
	for range figures {
		out = append(out, blueprint.Item{Standards: []string{"M6.NS"}, Kind: "number", Points: points.One})
	}
	for range texts {
		out = append(out, blueprint.Item{Standards: []string{"M6.NS"}, Kind: "text", Points: points.One})
	}
	return out
}

func TestAQuestionIsSpreadEvenly(t *testing.T) {
	q := draw.Question{Total: 6, Standards: []string{"M6.RR", "M6.NS"}}
	s, err := q.Spread(tree(t), bank(9, 9, 0))
	require.NoError(t, err)
	require.Len(t, s.Rows, 2)
	assert.Equal(t, points.Points(300), s.Rows[0].Min)
	assert.Equal(t, points.Points(300), s.Rows[1].Min)
	assert.Empty(t, s.Uneven)

	s, err = q.Spread(tree(t), bank(9, 1, 0))
	require.NoError(t, err)
	assert.Equal(t, points.Points(500), s.Rows[0].Min, "what one pool lacks goes to the others")
	assert.Equal(t, []draw.Uneven{{Standard: "M6.NS", Even: 3, Have: 1}}, s.Uneven)
}

func TestAQuestionKeepsItsKinds(t *testing.T) {
	q := draw.Question{Total: 6, Standards: []string{"M6.RR", "M6.NS"}, Kinds: []draw.KindShare{{Kinds: []string{"number"}, Count: 4}, {Kinds: []string{"text"}, Count: 2}}}
	s, err := q.Spread(tree(t), bank(9, 9, 5))
	require.NoError(t, err)
	got := map[string]points.Points{}
	for _, r := range s.Rows {
		got[r.Filter.Kinds[0]+" "+r.Filter.Standards[0]] = r.Min
	}
	assert.Equal(t, map[string]points.Points{"number M6.RR": 300, "number M6.NS": 100, "text M6.NS": 200}, got, "texts are of one standard alone, numbers make up for it")
}

func TestQuestionsThatCannotBeMeant(t *testing.T) {
	for want, q := range map[string]draw.Question{
		"total: 0 is not 1–300":                {},
		"kinds: add up to 3, not to 4":         {Total: 4, Kinds: []draw.KindShare{{Count: 3}}},
		`standards[0]: "X" is not in the tree`: {Total: 4, Standards: []string{"X"}},
		"kinds[0].count: 0 is not above 0":     {Total: 4, Kinds: []draw.KindShare{{Count: 0}}},
	} {
		_, err := q.Spread(tree(t), nil)
		assert.EqualError(t, err, want)
	}
}

// Whatever the pools: all items are asked for; no two standards that still had
// items differ by more than one.
func TestNoSpreadCouldBeMoreEven(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		pools := []int{rapid.IntRange(0, 8).Draw(t, "ratios"), rapid.IntRange(0, 8).Draw(t, "figures")}
		q := draw.Question{Total: rapid.IntRange(1, 12).Draw(t, "total"), Standards: []string{"M6.RR", "M6.NS"}, Seed: rapid.Uint64().Draw(t, "seed")}
		s, err := q.Spread(tree(t), bank(pools[0], pools[1], 0))
		require.NoError(t, err)
		got := map[string]int{}
		sum := 0
		for _, r := range s.Rows {
			got[r.Filter.Standards[0]] += int(r.Min / points.One)
			sum += int(r.Min / points.One)
		}
		require.Equal(t, q.Total, sum)
		if q.Total > pools[0]+pools[1] {
			return // the draw says what is short
		}
		for i, code := range q.Standards {
			other := got[q.Standards[1-i]]
			assert.True(t, got[code] >= other-1 || got[code] == pools[i], "%s has %d of %d, the other %d", code, got[code], pools[i], other)
		}
	})
}
