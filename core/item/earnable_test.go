package item_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/item"
	"pineledger/core/points"
)

// What is sound gives its right answer full credit, whatever its kind; what could not is refused.
func TestWhatNobodyCouldEarnIsRefused(t *testing.T) {
	two := item.NewChoice(item.MultipleChoice, "Which are tides?", []string{"ebb", "flood", "fog"}, []int{0, 1}, item.AllOrNothing)
	assert.Empty(t, two.Check())
	two.Body[1].Interaction.MaxChoices = 1
	assert.Equal(t, []item.Problem{{Place: "declarations[0].correct", Reason: "the key has 2 answers, and a student may choose 1: nobody could earn full credit"}}, two.Check())
	two.Body[1].Interaction.MaxChoices = 2
	assert.Empty(t, two.Check())

	parts := item.NewParts("Two questions.", []item.Item{item.NewNumber("How many?", []string{"4"}, item.NumberKey{}, ""), two}, nil, item.PerPart)
	assert.Empty(t, parts.Check())
	for _, b := range parts.Body {
		if b.Interaction != nil && b.Interaction.Kind == item.MultipleChoice {
			b.Interaction.MaxChoices = 1
		}
	}
	assert.Equal(t, "parts[1].declarations[0].correct", parts.Check()[0].Place)
}

func TestAWrittenAnswerCanBeAPart(t *testing.T) {
	assert.Contains(t, item.PartKinds(), item.LongWritten)
	rubric := &item.Rubric{Traits: []item.Trait{{Name: "Reasons", Levels: []item.Level{{Points: 200, Text: "Two"}, {Points: 0, Text: "None"}}}}}
	it := item.NewParts("A and B.", []item.Item{
		item.NewChoice(item.SingleChoice, "Which tide falls?", []string{"ebb", "flood"}, []int{0}, item.AllOrNothing),
		item.NewWritten(item.LongWritten, "Why?", 6, rubric, nil)}, nil, item.PerPart)
	assert.Empty(t, it.Check())
	s := it.Score(item.Response{"RESPONSE1": {"A"}, "RESPONSE2": {"Because the moon pulls."}}, 2*points.One)
	assert.Equal(t, item.Unread, s.Outcome, "until it is read the whole waits")
	assert.Equal(t, points.One, s.Credit)
}
