package ledger_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"pineledger/core/ledger"
)

func chain(n int) []ledger.Entry {
	var out []ledger.Entry
	for i := range n {
		out = append(out, ledger.Entry{Number: int64(i + 1), At: time.UnixMilli(1_790_000_000_000 + int64(i)), Actor: "Ines Okafor", Act: "line.place", ThingID: int64(i)})
	}
	return bound(out)
}

// bound gives each entry the hash that binds it to those before it.
func bound(entries []ledger.Entry) []ledger.Entry {
	hash := ledger.Genesis
	for i := range entries {
		entries[i].Hash = ledger.Chain(hash, entries[i])
		hash = entries[i].Hash
	}
	return entries
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
	var w ledger.Walk
	for i, e := range chain(5) {
		require.NoError(t, w.Next(e))
		require.EqualValues(t, i+1, w.Last())
	}
}

func TestEveryTamperingIsFound(t *testing.T) {
	const missing, changed = "is missing", "does not match its hash: it or an entry before it was changed"
	for name, c := range map[string]struct {
		tamper func([]ledger.Entry) []ledger.Entry
		want   ledger.BrokenError
	}{
		"an actor changed":     {func(e []ledger.Entry) []ledger.Entry { e[2].Actor = "someone"; return e }, ledger.BrokenError{Number: 3, Reason: changed}},
		"a time changed":       {func(e []ledger.Entry) []ledger.Entry { e[2].At = e[2].At.Add(time.Millisecond); return e }, ledger.BrokenError{Number: 3, Reason: changed}},
		"the first changed":    {func(e []ledger.Entry) []ledger.Entry { e[0].Act = "x"; return e }, ledger.BrokenError{Number: 1, Reason: changed}},
		"the last changed":     {func(e []ledger.Entry) []ledger.Entry { e[4].Act = "x"; return e }, ledger.BrokenError{Number: 5, Reason: changed}},
		"the first taken out":  {func(e []ledger.Entry) []ledger.Entry { return e[1:] }, ledger.BrokenError{Number: 1, Reason: missing}},
		"an entry taken out":   {func(e []ledger.Entry) []ledger.Entry { return append(e[:2], e[3:]...) }, ledger.BrokenError{Number: 3, Reason: missing}},
		"two entries swapped":  {func(e []ledger.Entry) []ledger.Entry { e[1], e[2] = e[2], e[1]; return e }, ledger.BrokenError{Number: 2, Reason: missing}},
		"one taken, all bound": {func(e []ledger.Entry) []ledger.Entry { return bound(append(e[:2], e[3:]...)) }, ledger.BrokenError{Number: 3, Reason: missing}},
		"rehashed but not all": {func(e []ledger.Entry) []ledger.Entry { e[2].After = "x"; bound(e[:3]); return e }, ledger.BrokenError{Number: 4, Reason: changed}},
	} {
		var broken *ledger.BrokenError
		if assert.ErrorAs(t, walk(c.tamper(chain(5))), &broken, name) {
			assert.Equal(t, c.want, *broken, name)
		}
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
