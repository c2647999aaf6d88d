package attempt_test

import (
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"pineledger/core/attempt"
)

func TestAccessCodes(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	seen := map[string]bool{}
	for range 500 {
		code := attempt.NewCode(r.IntN)
		assert.Len(t, code, attempt.CodeLength)
		assert.False(t, strings.ContainsAny(code, "0O1ILSB5G6Q28Z"), code)
		seen[code] = true
	}
	assert.Greater(t, len(seen), 490)
	assert.True(t, attempt.SameCode(" acd efh ", "ACDEFH"))
	assert.False(t, attempt.SameCode("ACDEF", "ACDEFH"))
	assert.False(t, attempt.SameCode("", ""), "without a code nothing is right")
}
