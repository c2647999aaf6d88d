package attempt_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"pineledger/core/attempt"
)

func TestAMixedOrderHoldsEveryLineAndComesAgain(t *testing.T) {
	assert.Equal(t, []int{3, 1, 4, 2}, attempt.Mixed(4, 7), "an order once seen stays for good")
	rapid.Check(t, func(t *rapid.T) {
		n, seed := rapid.IntRange(0, 60).Draw(t, "lines"), rapid.Int64().Draw(t, "seed")
		mixed := attempt.Mixed(n, seed)
		assert.Equal(t, mixed, attempt.Mixed(n, seed))
		sorted := slices.Sorted(slices.Values(mixed))
		for i, line := range sorted {
			assert.Equal(t, i+1, line)
		}
		assert.Len(t, mixed, n)
	})
}

// The orders are pinned for good: a student who comes back must find the one that was. They are the
// order of SHA-256 over the seed and the line as 64 bits each, computed outside this package.
func TestOrdersOnceSeenStayForGood(t *testing.T) {
	for seed, want := range map[int64][]int{0: {10, 4, 2, 7, 1, 3, 6, 8, 12, 9, 5, 11}, 1: {10, 9, 8, 3, 7, 1, 11, 4, 2, 6, 5, 12}, -1: {5, 8, 7, 10, 11, 1, 12, 4, 6, 9, 2, 3}, 1 << 40: {11, 8, 5, 9, 7, 2, 3, 10, 4, 12, 6, 1}} {
		assert.Equal(t, want, attempt.Mixed(12, seed), "seed %d", seed)
	}
	assert.Equal(t, []int{2, 3, 6, 7, 10}, attempt.Chosen(5, 12, 9, 1))
	assert.Equal(t, []int{1, 2, 8, 9, 11}, attempt.Chosen(5, 12, 9, 2), "another pool of the same student")
	assert.Equal(t, []int{2, 4, 5, 7, 11}, attempt.Chosen(5, 12, 10, 1), "another student")
	assert.Equal(t, []int{1, 2, 3}, attempt.Chosen(7, 3, 9, 1), "no more than there are")
	assert.Empty(t, attempt.Chosen(0, 3, 9, 1))
}

// Every line comes first for about as many children as any other.
func TestMixedOrdersFavorNoLine(t *testing.T) {
	first := map[int]int{}
	for seed := range int64(4000) {
		first[attempt.Mixed(4, seed)[0]]++
	}
	for line := 1; line <= 4; line++ {
		assert.InDelta(t, 1000, first[line], 120, "line %d", line)
	}
}
