package ledger_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/ledger"
)

func TestMarks(t *testing.T) {
	hash := strings.Repeat("0123456789abcdef", 4)
	for text, want := range map[string]ledger.Mark{
		"812 " + hash:                            {Number: 812, Hash: hash},
		" 1  " + hash[:32]:                       {Number: 1, Hash: hash[:32]},
		"7 01234567 89ABCDEF\n01234567-89abcdef": {Number: 7, Hash: hash[:32]},
	} {
		got, err := ledger.ReadMark(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, got)
	}
	for _, text := range []string{"", "x " + hash, "0 " + hash, "-3 " + hash, "812", "812 " + hash[:31], "812 " + hash + "0", "812 " + hash[:31] + "g"} {
		_, err := ledger.ReadMark(text)
		assert.Error(t, err, text)
	}
	m := ledger.Mark{Number: 812, Hash: hash[:32]}
	assert.True(t, m.Meets(ledger.Entry{Number: 812, Hash: hash}))
	assert.False(t, m.Meets(ledger.Entry{Number: 811, Hash: hash}))
	assert.False(t, m.Meets(ledger.Entry{Number: 812, Hash: "1" + hash[1:]}))
}
