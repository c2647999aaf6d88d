package ledger_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/ledger"
)

func chain(n int) []ledger.Entry {
	hash := ledger.Genesis
	var out []ledger.Entry
	for i := range n {
		e := ledger.Entry{Number: int64(i + 1), At: time.UnixMilli(1_790_000_000_000 + int64(i)), Actor: "Ines Okafor", Act: "line.place", ThingID: int64(i)}
		e.Hash = ledger.Chain(hash, e)
		hash = e.Hash
		out = append(out, e)
	}
	return out
}

func walk(entries []ledger.Entry) error {
	var w ledger.Walk
	for _, e := range entries {
		if err := w.Next(e); err != nil {
			return err
		}
	}
	return nil
}

func TestAnUntouchedChainHolds(t *testing.T) {
	require.NoError(t, walk(chain(5)))
}

func TestEveryTamperingIsFound(t *testing.T) {
	for name, tamper := range map[string]func([]ledger.Entry) []ledger.Entry{
		"an actor changed":    func(e []ledger.Entry) []ledger.Entry { e[2].Actor = "someone"; return e },
		"a time changed":      func(e []ledger.Entry) []ledger.Entry { e[2].At = e[2].At.Add(time.Millisecond); return e },
		"an entry taken out":  func(e []ledger.Entry) []ledger.Entry { return append(e[:2], e[3:]...) },
		"two entries swapped": func(e []ledger.Entry) []ledger.Entry { e[1], e[2] = e[2], e[1]; return e },
		"rehashed but not all": func(e []ledger.Entry) []ledger.Entry {
			e[2].After = "x"
			e[2].Hash = ledger.Chain(e[1].Hash, e[2])
			return e
		},
	} {
		var broken *ledger.BrokenError
		assert.ErrorAs(t, walk(tamper(chain(5))), &broken, name)
	}
}

func TestFieldsDoNotRunIntoEachOther(t *testing.T) {
	a := ledger.Chain("", ledger.Entry{Act: "ab", Thing: "c"})
	b := ledger.Chain("", ledger.Entry{Act: "a", Thing: "bc"})
	assert.NotEqual(t, a, b)
}

func TestFingerprintDependsOnContentAlone(t *testing.T) {
	a, err := ledger.Fingerprint([]byte(`{"lines":[1,2],"total":3}`))
	require.NoError(t, err)
	b, err := ledger.Fingerprint([]byte(`{ "total":3, "lines":[1,2] }`))
	require.NoError(t, err)
	c, err := ledger.Fingerprint([]byte(`{"lines":[2,1],"total":3}`))
	require.NoError(t, err)
	assert.Equal(t, a, b)
	assert.NotEqual(t, a, c)
	_, err = ledger.Fingerprint([]byte(`{`))
	assert.Error(t, err)
}
