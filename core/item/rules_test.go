package item_test

import (
	"encoding/json"
	"math/big"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/item"
	"pineledger/core/item/itemtest"
	"pineledger/core/points"
)

// A credit rule and the expressions that it amounts to earn the same.
func TestRulesEarnWhatTheCreditRuleEarns(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := itemtest.Any(t)
		require.Empty(t, d.Item.Check())
		told, ok := d.Item.AsRules()
		if !ok {
			assert.Contains(t, []item.Kind{item.ShortWritten, item.LongWritten, item.Examiner}, d.Item.Kind)
			return
		}
		require.Empty(t, told.Check())
		r := d.Respond(t)
		require.NoError(t, d.Item.Accepts(r))
		worth := points.Points(rapid.IntRange(1, 700).Draw(t, "points"))
		toldResponse := r
		if d.Item.Kind == item.Menus {
			toldResponse = item.Response{}
			for _, v := range r["RESPONSE"] {
				toldResponse["RESPONSE_"+v[2:]] = []string{v[:1]}
			}
		}
		want, got := d.Item.Score(r, worth), told.Score(toldResponse, worth)
		require.Equal(t, want.Credit, got.Credit, "%s, %s: %v", d.Item.Kind, d.Item.Credit, r)
		require.Equal(t, want.Outcome, got.Outcome)
		high, err := told.HighestScore()
		require.NoError(t, err)
		most, ok := new(big.Rat).SetString(told.Processing.Most)
		require.True(t, ok)
		require.GreaterOrEqual(t, high.Cmp(most), 0, "the bound is below the highest score")
	})
}

// What an item holds survives its document, in every kind.
func TestADocumentIsReadAsItWasWritten(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		it := itemtest.Any(t).Item
		document, err := json.Marshal(it)
		require.NoError(t, err)
		again, err := item.Read(document)
		require.NoError(t, err)
		require.Equal(t, it, again.Cleaned())
	})
}

// Credits stay within 0 and the points, and every one is a multiple of the step,
// whatever the kind.
func TestEveryKindKeepsItsBounds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := itemtest.Any(t)
		worth := points.Points(25 * rapid.IntRange(1, 24).Draw(t, "quarters"))
		c := d.Item.Score(d.Respond(t), worth)
		require.GreaterOrEqual(t, c.Credit, points.Points(0))
		require.LessOrEqual(t, c.Credit, worth)
		require.Zero(t, c.Credit%d.Item.Step(worth), "%s is no multiple of %s", c.Credit, d.Item.Step(worth))
	})
}

func TestMenusAndTheirGaps(t *testing.T) {
	menus := item.NewMenus("Choose.", []string{"The ", " is ", "."}, []item.Menu{{Words: []string{"a", "b"}, Right: 1}, {Words: []string{"c", "d"}, Right: 0}}, item.PerPart)
	told, ok := menus.AsRules()
	require.True(t, ok)
	assert.Equal(t, item.Parts, told.Kind)
	told.Credit, told.Processing = item.PerPart, nil
	again, ok := told.AsMenus("RESPONSE")
	require.True(t, ok)
	assert.Equal(t, menus, again.Cleaned())
}

func TestTheHighestScoreOfRules(t *testing.T) {
	choice := item.NewChoice(item.MultipleChoice, "x", []string{"a", "b", "c"}, []int{0, 1}, item.AllOrNothing)
	high, err := asWritten(t, choice, halfForTheSecond).HighestScore()
	require.NoError(t, err)
	assert.Equal(t, "9/4", high.RatString(), "two and a quarter: the bound does not know that exit ends it")
	_, err = asWritten(t, choice, `{"most":"1","rules":[{"set":"SCORE","value":{"op":"container-size","of":[{"op":"null"}]}}]}`).HighestScore()
	assert.Error(t, err)
}
