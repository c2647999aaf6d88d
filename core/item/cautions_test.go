package item_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/item"
	"pineledger/core/item/itemtest"
	"pineledger/core/points"
)

func TestCautions(t *testing.T) {
	it := item.NewChoice(item.SingleChoice, "Which?", []string{"short", "brief", "by far the longest of them all"}, []int{2}, item.AllOrNothing)
	assert.Equal(t, []item.Problem{{Place: "choices", Reason: "the key is by far the longest choice"}}, it.Cautions())
	it.Declarations[0].Correct = []string{"A"}
	assert.Empty(t, it.Cautions())
	it.Body[0].HTML = `<img src="/media/` + itemtest.Hash + `" alt="" width="40">`
	it.Body[1].Interaction.Choices[1].HTML = `<img src="/media/` + itemtest.Hash + `">`
	assert.Equal(t, []item.Problem{{Place: "body[0]", Reason: item.NoAltText}, {Place: "choices[1]", Reason: item.NoAltText}}, it.Cautions())
}

func TestExamplesOfPartlyRightAnswers(t *testing.T) {
	it := item.NewChoice(item.MultipleChoice, "Which?", []string{"a", "b", "c", "d"}, []int{0, 2}, item.KeyMinus)
	earned := map[string]points.Points{}
	for _, e := range it.Examples() {
		earned[e.Words] = it.Score(e.Response, 100).Credit
	}
	assert.Equal(t, map[string]points.Points{"a key left out": 50, "all keys and a distractor": 50, "everything chosen": 0}, earned)
}

// Every example is a response that the item takes.
func TestExamplesFit(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		it := itemtest.Any(t).Item
		for _, e := range it.Examples() {
			require.NoError(t, it.Accepts(e.Response), "%s: %s", it.Kind, e.Words)
		}
	})
}

func TestAWordThatIsMarkedIsExplainedOnceItsCardSaysSomething(t *testing.T) {
	it := item.NewChoice(item.SingleChoice, "Where?", []string{"a", "b"}, []int{0}, item.AllOrNothing)
	it.Body[0].HTML = `Where do <span data-catalog-idref="w1">ferries</span> <span data-catalog-idref="w2">moor</span>?`
	it.Body[1].Interaction.Choices[0].HTML = `at the <em data-catalog-idref="w3">jetty</em>`
	it.Cards = []item.Card{
		{Catalog: "w3", Support: item.GlossaryCard, HTML: "a low wall in the water"},
		{Catalog: "w2", Support: item.GlossaryCard, HTML: "<p> </p>"},
		{Catalog: "w2", Support: item.TranslationCard, Language: "es", HTML: "amarrar"},
		{Catalog: "w1", Support: "spoken", HTML: "FER-eez"},
		{Catalog: "nowhere", Support: item.GlossaryCard, HTML: "x"},
	}
	it = it.Cleaned()
	assert.Equal(t, []item.Gloss{{Word: "moor", Language: "es", HTML: "amarrar"}, {Word: "jetty", HTML: "a low wall in the water"}}, it.Glossary(), "in the order of the text")
	assert.Equal(t, []item.Problem{{Place: "cards", Reason: `the help for "moor" is not written`}}, it.Cautions())
	it.Cards = nil
	assert.Empty(t, it.Glossary())
}
