package bank_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"pineledger/core/bank"
)

func like(a, b string) int { return bank.Likeness(bank.Shingles(a), bank.Shingles(b)) }

func TestHowLikeTextsAre(t *testing.T) {
	ferry := "The ferry Petrel leaves at 10:50 and sails for 50 minutes. When does it arrive?"
	assert.Equal(t, 1000, like(ferry, ferry))
	assert.Equal(t, 1000, like(ferry, "the ferry petrel leaves at 10:50, and sails for 50 minutes - when does it arrive"), "case and punctuation do not matter")
	assert.GreaterOrEqual(t, like(ferry, "The ferry Petrel leaves at 10:50 and it sails for 50 minutes. When does it arrive?"), bank.NearlySame)
	assert.Less(t, like(ferry, "The ferry Petrel leaves at 9:15 and sails for 35 minutes. When does it arrive?"), bank.NearlySame, "other numbers are another question")
	assert.Less(t, like(ferry, "Which tide table shows the lowest water of the week?"), 200)
	assert.Equal(t, 0, like("", ferry))
	assert.Equal(t, 1000, like("ebb", "Ebb!"), "a text shorter than a shingle")
}

// What is nearly the same is found by its sketch, what is not mostly is not.
func TestSketchesFindTwins(t *testing.T) {
	words := strings.Fields("the tide table of the harbor shows when the ferry can pass over the bar at low water and how long the crew has to wait before it turns")
	share := func(a, b string) bool {
		other := bank.Sketch(bank.Shingles(b))
		return slices.ContainsFunc(bank.Sketch(bank.Shingles(a)), func(k int64) bool { return slices.Contains(other, k) })
	}
	text := strings.Join(words, " ")
	missed, near := 0, 0
	for i := range words {
		for _, with := range []string{"captain", "pilot", "lighthouse", ""} {
			changed := slices.Clone(words)
			changed[i] = with
			other := strings.Join(changed, " ")
			if like(text, other) >= bank.NearlySame {
				near++
				if !share(text, other) {
					missed++
				}
			}
		}
	}
	assert.Greater(t, near, 80)
	assert.LessOrEqual(t, missed, near/50, "%d of %d twins are missed", missed, near)
	assert.False(t, share(text, "Which of these animals lives in a salt marsh all year round and feeds on crabs?"))
	assert.Nil(t, bank.Sketch(nil))
}

func TestLawsOfLikeness(t *testing.T) {
	text := rapid.StringMatching(`([a-z]{1,7} |[0-9]{1,3} ){0,20}`)
	rapid.Check(t, func(t *rapid.T) {
		a, b := bank.Shingles(text.Draw(t, "a")), bank.Shingles(text.Draw(t, "b"))
		assert.Equal(t, bank.Likeness(a, b), bank.Likeness(b, a))
		assert.GreaterOrEqual(t, bank.Likeness(a, b), 0)
		assert.LessOrEqual(t, bank.Likeness(a, b), 1000)
		if len(a) > 0 {
			assert.Equal(t, 1000, bank.Likeness(a, a))
			assert.Len(t, bank.Sketch(a), 10)
		}
	})
}
