package bank_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/bank"
)

func TestALabelOfDifficultyStandsForTheItemsThatBearIt(t *testing.T) {
	assert.Equal(t, bank.EaseUnknown, bank.EaseOf(nil))
	for e, want := range map[bank.Ease][2]int{bank.Hard: {0, 399}, bank.Medium: {400, 699}, bank.Easy: {700, 1000}} {
		from, to := e.Range()
		assert.Equal(t, want, [2]int{from, to})
	}
	for _, e := range []bank.Ease{bank.Hard, bank.Medium, bank.Easy} {
		from, to := e.Range()
		for p := range int64(1001) {
			assert.Equal(t, bank.EaseOf(&p) == e, p >= int64(from) && p <= int64(to), "%s and %d", e, p)
		}
	}
}
