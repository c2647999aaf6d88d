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
