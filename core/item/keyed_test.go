package item_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/item"
	"pineledger/core/points"
)

func TestAQuestionOfADocumentScores(t *testing.T) {
	for _, c := range []struct {
		says  string
		keyed item.Keyed
		given []string
		want  points.Points
		short string
	}{
		{"its own labels", item.Keyed{Number: "7", Kind: item.SingleChoice, Labels: []string{"F", "G", "H", "J"}, Key: []string{"H"}}, []string{"C3"}, 100, "H"},
		{"another label", item.Keyed{Number: "7", Kind: item.SingleChoice, Labels: []string{"F", "G", "H", "J"}, Key: []string{"H"}}, []string{"C1"}, 0, "H"},
		{"words as labels", item.Keyed{Number: "7", Kind: item.SingleChoice, Labels: []string{"true", "false", "not said"}, Key: []string{"not said"}}, []string{"C3"}, 100, "not said"},
		{"several right", item.Keyed{Number: "8", Kind: item.MultipleChoice, Labels: []string{"A", "B", "C"}, Key: []string{"A", "C"}}, []string{"C1", "C3"}, 100, "A, C"},
		{"a number in equal spellings", item.Keyed{Number: "9", Kind: item.Number, Key: []string{"3/4"}}, []string{"0.75"}, 100, "3/4"},
		{"a word", item.Keyed{Number: "10", Kind: item.Text, Key: []string{"ebb", "ebb tide"}}, []string{"Ebb Tide"}, 100, "ebb or ebb tide"},
	} {
		t.Run(c.says, func(t *testing.T) {
			require.Empty(t, c.keyed.Check())
			it := c.keyed.Item()
			require.Empty(t, it.Check())
			assert.Equal(t, c.want, it.Score(item.Response{"RESPONSE": c.given}, points.One).Credit)
			assert.Equal(t, c.short, it.KeyShort())
			again, ok := item.ReadKeyed(it)
			require.True(t, ok)
			assert.Equal(t, c.keyed, again)
		})
	}
}

func TestAQuestionWithoutItsKeyIsAProblemOfTheItemAlone(t *testing.T) {
	for _, kind := range []item.Kind{item.SingleChoice, item.MultipleChoice, item.Number, item.Text} {
		k := item.Keyed{Number: "1", Kind: kind, Key: []string{}}
		if kind == item.SingleChoice || kind == item.MultipleChoice {
			k.Labels = []string{"A", "B"}
		}
		assert.Empty(t, k.Check())
		problems := k.Item().Check()
		require.NotEmpty(t, problems, kind)
		assert.Equal(t, "there is no key", problems[0].Reason)
	}
}

func TestQuestionsThatCannotBeMeant(t *testing.T) {
	for want, k := range map[string]item.Keyed{
		`kind: "order" is not a kind of question that a document can ask`:    {Number: "1", Kind: item.Order},
		`number: a question needs a number of at most 20 characters`:         {Kind: item.Number},
		`labels: from 2 to 60 labels are needed`:                             {Number: "1", Kind: item.SingleChoice, Labels: []string{"A"}},
		`labels: the label "A" is used twice`:                                {Number: "1", Kind: item.SingleChoice, Labels: []string{"A", "A"}},
		`key: the key "E" is not one of A, B`:                                {Number: "1", Kind: item.SingleChoice, Labels: []string{"A", "B"}, Key: []string{"E"}},
		`key: a single choice has one key; take multiple choice for several`: {Number: "1", Kind: item.SingleChoice, Labels: []string{"A", "B"}, Key: []string{"A", "B"}},
	} {
		problems := k.Check()
		require.NotEmpty(t, problems, want)
		assert.Equal(t, want, problems[0].String())
	}
}

func TestAQuestionComesBackFromItsItem(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		k := item.Keyed{Number: rapid.StringMatching(`[1-9][0-9]?[a-c<&]?`).Draw(t, "number"), Kind: rapid.SampledFrom(item.KeyedKinds).Draw(t, "kind"), Key: []string{}}
		if k.Kind == item.SingleChoice || k.Kind == item.MultipleChoice {
			k.Labels = rapid.SliceOfNDistinct(rapid.StringMatching(`[A-Z<&]{1,3}`), 2, 12, func(s string) string { return s }).Draw(t, "labels")
			for i, l := range k.Labels {
				if i%3 == 0 && (k.Kind == item.MultipleChoice || i == 0) {
					k.Key = append(k.Key, l)
				}
			}
		}
		again, ok := item.ReadKeyed(k.Item().Cleaned())
		require.True(t, ok)
		assert.Equal(t, k, again)
	})
}
