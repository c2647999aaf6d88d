package item_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/item"
	"pineledger/core/points"
)

func TestAPointOnANumberLine(t *testing.T) {
	quarters := item.NewNumberLine("Put 3/4.", item.Line{From: "0", To: "2", Step: "1/4", Labels: 4}, []string{"3/4"}, "")
	require.Empty(t, quarters.Check())
	for given, want := range map[string]item.Outcome{"0.75": item.Right, "3/4": item.Right, "0.5": item.Wrong, "2": item.Wrong} {
		require.NoError(t, quarters.Accepts(answer(given)))
		assert.Equal(t, want, quarters.Score(answer(given), 100).Outcome, given)
	}
	assert.Equal(t, `Put at "0.5"; the key is 3/4.`, quarters.Score(answer("0.5"), 100).Why)
	for _, strange := range []string{"0.8", "-0.25", "2.25", "half", ""} {
		if err := quarters.Accepts(answer(strange)); strange != "" {
			assert.Error(t, err, strange)
		}
	}
	near := item.NewNumberLine("About where is 47?", item.Line{From: "0", To: "100", Step: "1", Labels: 10}, []string{"47"}, "3")
	assert.Equal(t, item.Right, near.Score(answer("44"), 100).Outcome, "the tolerance is inclusive")
	assert.Equal(t, item.Wrong, near.Score(answer("43"), 100).Outcome)
}

func TestPlacesOfALine(t *testing.T) {
	line := func(from, to, step string) item.Line { return item.Line{From: from, To: to, Step: step, Labels: 1} }
	assert.Equal(t, []string{"-1", "-0.5", "0", "0.5", "1"}, line("-1", "1", "0.5").Places())
	assert.Equal(t, []string{"0", "1/3", "2/3", "1"}, line("0", "1", "1/3").Places())
	for want, l := range map[string]item.Line{
		"no whole number of steps": line("0", "1", "0.3"),
		"is not above 0":           line("0", "1", "0"),
		"is not a number":          line("zero", "1", "1"),
		"more than 1000 places":    line("0", "10000", "1"),
	} {
		assert.Nil(t, l.Places())
		assert.Contains(t, fmt.Sprint(item.NewNumberLine("x", l, []string{"0"}, "").Check()), want)
	}
	assert.Contains(t, fmt.Sprint(item.NewNumberLine("x", line("0", "1", "0.5"), []string{"0.3"}, "").Check()), "not a place of the line")
}

// Every place can be given, and only the keys' neighborhood is right.
func TestEveryPlaceOfALineCanBeGiven(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		from, steps := rapid.IntRange(-50, 50).Draw(t, "from"), rapid.IntRange(1, 60).Draw(t, "steps")
		step := rapid.SampledFrom([]string{"1", "0.5", "1/4", "2", "1/3"}).Draw(t, "step")
		probe := item.Line{From: fmt.Sprint(from), To: fmt.Sprint(from + 2*steps), Step: step, Labels: 1}
		places := probe.Places()
		require.NotEmpty(t, places)
		key := rapid.SampledFrom(places).Draw(t, "key")
		it := item.NewNumberLine("x", probe, []string{key}, "")
		require.Empty(t, it.Check())
		for _, p := range places {
			require.NoError(t, it.Accepts(answer(p)), p)
			require.Equal(t, p == key, it.Score(answer(p), points.One).Outcome == item.Right, "%s for %s", p, key)
		}
	})
}
