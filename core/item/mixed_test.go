package item_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/item"
)

// turned reverses.
func turned(n, _ int) []int {
	var out []int
	for i := n; i > 0; i-- {
		out = append(out, i)
	}
	return out
}

func ids(in *item.Interaction) string {
	out := ""
	for _, c := range in.Choices {
		out += c.ID
	}
	return out
}

func TestChoicesAreMixedButThePinned(t *testing.T) {
	choices := []item.Choice{{ID: "A"}, {ID: "B"}, {ID: "C"}, {ID: "N", Pinned: true}}
	body := func(kind item.Kind) []item.Block {
		return []item.Block{{HTML: "x"}, {Interaction: &item.Interaction{Kind: kind, Choices: slices.Clone(choices)}}}
	}
	for _, c := range []struct {
		kind, own item.Kind
		want      string
	}{
		{item.SingleChoice, "", "CBAN"}, {item.MultipleChoice, "", "CBAN"}, {item.Order, "", "ABCN"}, {item.Parts, item.SingleChoice, "CBAN"}, {item.Parts, item.Match, "ABCN"},
	} {
		shown := item.Shown{Kind: c.kind, Body: body(c.own), Variants: []item.Variant{{Language: "es", Body: body(c.own)}}}
		got := shown.Mixed(turned)
		assert.Equal(t, c.want, ids(got.Body[1].Interaction), "%s %s", c.kind, c.own)
		assert.Equal(t, c.want, ids(got.Variants[0].Body[1].Interaction), "the same in every language")
		assert.Equal(t, "ABCN", ids(shown.Body[1].Interaction), "the item itself stays")
		assert.Equal(t, "ABCN", ids(shown.Variants[0].Body[1].Interaction))
	}
	pinned := item.Shown{Kind: item.SingleChoice, Body: []item.Block{{Interaction: &item.Interaction{Choices: []item.Choice{{ID: "N", Pinned: true}, {ID: "A"}, {ID: "B"}}}}}}
	assert.Equal(t, "NBA", ids(pinned.Mixed(turned).Body[0].Interaction))
}

func TestWhatAnItemTells(t *testing.T) {
	it := item.Item{Feedback: &item.Feedback{Right: "yes", Wrong: "no", ByAnswers: []item.Advice{{Response: "R", Value: "A", HTML: "ratios"}, {Response: "R", Value: "B", HTML: "rates"}, {Response: "R", Value: "C", HTML: "ratios"}}}}
	for _, c := range []struct {
		values  []string
		outcome item.Outcome
		want    item.Told
	}{
		{[]string{"K"}, item.Right, item.Told{Why: "yes"}},
		{[]string{"A"}, item.Right, item.Told{Why: "yes"}},
		{[]string{"A"}, item.Wrong, item.Told{Why: "no", GoOver: []string{"ratios"}}},
		{[]string{"A", "C", "B"}, item.Part, item.Told{Why: "no", GoOver: []string{"ratios", "rates"}}},
		{nil, item.Omitted, item.Told{Why: "no"}},
		{nil, item.NotReached, item.Told{Why: "no"}},
		{[]string{"K"}, item.Unread, item.Told{}},
	} {
		assert.Equal(t, c.want, it.Tell(item.Response{"R": c.values}, c.outcome), "%v %s", c.values, c.outcome)
	}
	assert.Equal(t, item.Told{}, item.Item{}.Tell(nil, item.Wrong))
}
