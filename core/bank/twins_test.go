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

// Sketches are stored beside the texts: one that came out otherwise would find none of the old ones.
func TestSketchesOnceStoredStayForGood(t *testing.T) {
	ferry := bank.Shingles("The ferry Petrel leaves at 10:50 and sails for 50 minutes. When does it arrive?")
	assert.Len(t, ferry, 89)
	assert.Equal(t, []int64{
		-7959454268278855522, -3417936731940246673, 1177841858174748681, -7151805369714614065, -8687728332206135948,
		-3640238063887929748, 1235464901701555249, -4598225277974217894, -8913037325740256098, -4341530941391108035,
	}, bank.Sketch(ferry))
	assert.Equal(t, []int64{
		5493331189996811486, -8120125595047117810, 7547174522408583625, -7545896846015702312, -3314640230201839815,
		-2365423064434498387, -3231784668381709357, 7219290632043190660, 5443619952707384308, -2364045975799838411,
	}, bank.Sketch(bank.Shingles("ebb")))
}

// The likeness is what both have over what either has.
func TestLikenessOfSets(t *testing.T) {
	for _, c := range []struct {
		a, b []uint64
		want int
	}{
		{[]uint64{1, 2, 3}, []uint64{2, 3, 4}, 500},
		{[]uint64{1, 2, 3}, []uint64{4, 5}, 0},
		{[]uint64{5}, []uint64{1, 2, 5}, 333},
		{[]uint64{1, 9}, []uint64{9}, 500},
		{[]uint64{7}, []uint64{7}, 1000},
		{[]uint64{7}, nil, 0},
	} {
		assert.Equal(t, c.want, bank.Likeness(c.a, c.b))
		assert.Equal(t, c.want, bank.Likeness(c.b, c.a))
	}
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
