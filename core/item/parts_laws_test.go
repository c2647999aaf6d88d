package item_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/item"
	"pineledger/core/item/itemtest"
	"pineledger/core/points"
)

var keyed = []item.Kind{item.SingleChoice, item.MultipleChoice, item.TrueFalse, item.Order, item.Match, item.Sort, item.BoxTable, item.Text, item.Number,
	item.NumberLine, item.SelectText, item.Menus}

// The key earns everything, whatever the kind and the rule (of a mapping, what it
// values most).
func TestTheKeyEarnsEverything(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		it := itemtest.Of(t, rapid.SampledFrom(keyed).Draw(t, "kind")).Item
		if it.Credit == item.Mapped {
			it.Declarations[0].Mapping.Entries = slices.DeleteFunc(it.Declarations[0].Mapping.Entries, func(e item.MapEntry) bool { return len(e.Key) > 1 })
			if len(it.RightResponse()) == 0 {
				return // it values nothing
			}
		}
		worth := points.Points(rapid.IntRange(1, 900).Draw(t, "points"))
		r := it.RightResponse()
		require.NoError(t, it.Accepts(r))
		c := it.Score(r, worth)
		require.Equal(t, worth, c.Credit, "%s: %s", it.Kind, c.Why)
		require.Equal(t, item.Right, c.Outcome)
	})
}

// Of several parts, one made right never lowers the credit, whatever depends on what.
func TestAPartMadeRightNeverLowersTheCredit(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := itemtest.Any(t)
		if d.Item.Kind != item.Parts {
			return
		}
		before := d.Respond(t)
		after := item.Response{}
		for id, values := range before {
			after[id] = values
		}
		right := d.Item.RightResponse()
		which := rapid.SampledFrom(d.Item.Declarations).Draw(t, "part")
		if which.Credit == item.Mapped || which.Credit == item.PerPart && len(which.Areas) > 0 {
			return // a mapping has answers of more value than its key; several spots want several areas
		}
		after[which.Response] = right[which.Response]
		if err := d.Item.Accepts(after); err != nil {
			return // all spots at once have no one right answer
		}
		worth := points.Points(rapid.IntRange(1, 900).Draw(t, "points"))
		require.GreaterOrEqual(t, d.Item.Score(after, worth).Credit, d.Item.Score(before, worth).Credit, "%v and then %s", before, which.Response)
	})
}

// The parts' credits, unrounded, make up the whole: their sum is within a hundredth
// for each part.
func TestPartCreditsMakeUpTheWhole(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := itemtest.Any(t)
		if d.Item.Kind != item.Parts || d.Item.Credit != item.PerPart {
			return
		}
		r := d.Respond(t)
		worth := points.Points(rapid.IntRange(1, 900).Draw(t, "points"))
		var credit, most points.Points
		parts := d.Item.PartCredits(r, worth)
		for _, p := range parts {
			require.LessOrEqual(t, p.Credit, p.Max)
			credit, most = credit+p.Credit, most+p.Max
		}
		slack := float64(len(parts))
		require.InDelta(t, float64(worth), float64(most), slack)
		require.InDelta(t, float64(d.Item.Score(r, worth).Credit), float64(credit), slack)
	})
}

// Choices that are offered in another order earn the same.
func TestTheOrderOfTheOfferDoesNotMatter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := itemtest.Of(t, rapid.SampledFrom([]item.Kind{item.SingleChoice, item.MultipleChoice, item.Match, item.Sort, item.BoxTable}).Draw(t, "kind"))
		r := d.Respond(t)
		turned := d.Item
		turned.Body = slices.Clone(turned.Body)
		in := *turned.Body[1].Interaction
		in.Choices = rapid.Permutation(in.Choices).Draw(t, "choices")
		in.Targets = rapid.Permutation(in.Targets).Draw(t, "targets")
		turned.Body[1].Interaction = &in
		worth := points.Points(rapid.IntRange(1, 900).Draw(t, "points"))
		require.Equal(t, d.Item.Score(r, worth).Credit, turned.Score(r, worth).Credit)
	})
}

// A response is noted whole: nothing that was answered is left out of it.
func TestEveryAnswerIsNoted(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		d := itemtest.Any(t)
		r := d.Respond(t)
		require.Equal(t, d.Item.Answered(r), len(d.Item.ResponseShort(r)) > 0, "%s: %v", d.Item.Kind, r)
	})
}

// What a student gets holds nothing of the key, the credit rule, directions or notes.
func TestNothingOfTheKeyIsShown(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		it := itemtest.Any(t).Item
		it.Notes, it.Feedback = "only for authors", &item.Feedback{Right: "only later"}
		it.Variants = []item.Variant{{Language: "es", Body: it.Body, Feedback: it.Feedback}}
		shown := fmt.Sprintf("%+v", it.Shown("en"))
		for _, secret := range []string{"only for authors", "only later", string(it.Credit), "Point to the row", "the second"} {
			if secret != string(item.PerPart) || it.Kind != item.Parts {
				require.NotContains(t, shown, secret)
			}
		}
	})
}
