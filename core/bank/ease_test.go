package bank_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/bank"
)

func TestALabelOfDifficultyStandsForTheItemsThatBearIt(t *testing.T) {
	for _, e := range []bank.Ease{bank.Hard, bank.Medium, bank.Easy} {
		from, to := e.Range()
		for p := range int64(1001) {
			assert.Equal(t, bank.EaseOf(&p) == e, p >= int64(from) && p <= int64(to), "%s and %d", e, p)
		}
	}
}
