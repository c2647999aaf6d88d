package item_test

import (
	"encoding/json"
	"maps"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/item"
	"pineledger/core/item/itemtest"
)

// While an item is written anything of it may be missing. Whatever is asked of it then gives an answer.
func TestAnItemWithPiecesMissingGivesAnswers(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		drawn := itemtest.Any(t)
		data, err := json.Marshal(drawn.Item)
		require.NoError(t, err)
		var document any
		require.NoError(t, json.Unmarshal(data, &document))
		for range rapid.IntRange(1, 4).Draw(t, "pieces") {
			document = without(t, document)
		}
		data, err = json.Marshal(document)
		require.NoError(t, err)
		var it item.Item
		if json.Unmarshal(data, &it) != nil {
			return
		}
		r := drawn.Respond(t)
		require.NotPanics(t, func() {
			it.Check()
			it.Cautions()
			it.Examples()
			it.Stem()
			it.KeyShort()
			it.OtherWords()
			it.Shown("en")
			it.RightResponse()
			it.Tidied()
			it.GapParts()
			it.Step(100)
			it.In("es")
			it.Media()
			if it.Accepts(r) == nil {
				it.Score(r, 100)
				it.PartCredits(r, 100)
				it.ResponseShort(r)
			}
			it.Score(r, 100) // what was given before the item was changed
		}, "%s", data)
	})
}

// without takes away one thing, at some depth.
func without(t *rapid.T, v any) any {
	switch v := v.(type) {
	case map[string]any:
		if len(v) == 0 {
			return v
		}
		k := rapid.SampledFrom(slices.Sorted(maps.Keys(v))).Draw(t, "field")
		if rapid.Bool().Draw(t, "here") {
			delete(v, k)
		} else {
			v[k] = without(t, v[k])
		}
		return v
	case []any:
		if len(v) == 0 {
			return v
		}
		i := rapid.IntRange(0, len(v)-1).Draw(t, "place")
		if rapid.Bool().Draw(t, "here") {
			return append(v[:i:i], v[i+1:]...)
		}
		v[i] = without(t, v[i])
		return v
	case string:
		return ""
	case float64:
		return 0
	}
	return v
}

func TestARecordedItemWithoutAKey(t *testing.T) {
	it := item.NewExaminer("Count.", "Point at the dots.", "six")
	it.Declarations[0].Correct = nil
	require.NotEmpty(t, it.Check())
	assert.Empty(t, it.KeyShort())
	assert.Empty(t, it.RightResponse())
	assert.Equal(t, item.Right, it.Score(answer(item.RecordedRight), 100).Outcome)
	it.Declarations = nil
	require.NotEmpty(t, it.Check())
	assert.Empty(t, it.KeyShort())
}

func TestTheRightResponseToASpotIsASpotOfEachArea(t *testing.T) {
	circle := item.Area{Shape: item.Circle, At: []int{100, 100, 50}}
	box := item.Area{Shape: item.Rectangle, At: []int{200, 10, 220, 30}}
	triangle := item.Area{Shape: item.Polygon, At: []int{300, 0, 400, 0, 400, 100}}
	it := item.NewSpot("Where is the pier?", harbor, []item.Area{circle, box, triangle})
	assert.Equal(t, answer("100 100"), it.RightResponse(), "one is asked for")
	it.Body[1].Interaction.MaxChoices, it.Credit = 0, item.PerPart
	assert.Equal(t, answer("100 100", "200 10", "300 0"), it.RightResponse())
	assert.EqualValues(t, 300, it.Score(it.RightResponse(), 300).Credit)
	it.Declarations[0].Areas[0].At = []int{100, 100}
	assert.Equal(t, answer("200 10", "300 0"), it.RightResponse(), "a circle without a radius is none")
	assert.Equal(t, "an area that is none or 200 10 to 220 30 or polygon at 300 0", it.KeyShort())
	assert.NotPanics(t, func() { it.Score(answer("100 100"), 300) })
}

func TestAnAreaIsOneOrIsNot(t *testing.T) {
	for name, c := range map[string]struct {
		area item.Area
		good bool
	}{
		"a circle":                       {item.Area{Shape: item.Circle, At: []int{5, 5, 1}}, true},
		"a circle without radius":        {item.Area{Shape: item.Circle, At: []int{5, 5}}, false},
		"a circle of radius 0":           {item.Area{Shape: item.Circle, At: []int{5, 5, 0}}, false},
		"a circle with too much":         {item.Area{Shape: item.Circle, At: []int{5, 5, 1, 1}}, false},
		"a rectangle":                    {item.Area{Shape: item.Rectangle, At: []int{1, 2, 1, 2}}, true},
		"a rectangle from right to left": {item.Area{Shape: item.Rectangle, At: []int{3, 2, 2, 4}}, false},
		"a rectangle upside down":        {item.Area{Shape: item.Rectangle, At: []int{1, 5, 2, 4}}, false},
		"a polygon":                      {item.Area{Shape: item.Polygon, At: []int{0, 0, 4, 0, 4, 4}}, true},
		"a polygon of two corners":       {item.Area{Shape: item.Polygon, At: []int{0, 0, 4, 0}}, false},
		"a polygon with half a corner":   {item.Area{Shape: item.Polygon, At: []int{0, 0, 4, 0, 4, 4, 5}}, false},
		"a shape of no kind":             {item.Area{Shape: "star", At: []int{0, 0, 4, 0, 4, 4}}, false},
		"far to the left":                {item.Area{Shape: item.Circle, At: []int{-10_001, 5, 1}}, false},
		"at the edge of far":             {item.Area{Shape: item.Circle, At: []int{-10_000, 20_000, 1}}, true},
		"far to the right":               {item.Area{Shape: item.Circle, At: []int{20_001, 5, 1}}, false},
	} {
		it := item.NewSpot("Where?", harbor, []item.Area{c.area})
		assert.Equal(t, c.good, len(it.Check()) == 0, name)
	}
}

func TestAPartBeginsAsAnItemOfItsKind(t *testing.T) {
	assert.NotContains(t, item.PartKinds(), item.Parts)
	for _, kind := range item.PartKinds() {
		place, key := item.BlankPart(kind, "RESPONSE7")
		assert.Equal(t, []string{"RESPONSE7", "RESPONSE7", string(kind)}, []string{place.Response, key.Response, string(place.Kind)})
		assert.Contains(t, item.Credits(kind), key.Credit)
		assert.NotNil(t, key.Correct)
		whole := item.Blank(kind)
		assert.Len(t, place.Choices, len(whole.Body[1].Interaction.Choices), kind)
	}
}
