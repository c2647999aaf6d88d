package attempt

import (
	"cmp"
	"crypto/sha256"
	"encoding/binary"
	"slices"
)

// Mixed puts n lines, counted from 1, into an order that depends on a seed alone:
// the same seed gives the same order again, here and in every later version.
func Mixed(n int, seed int64) []int {
	type keyed struct {
		line int
		key  [sha256.Size]byte
	}
	list := make([]keyed, n)
	for i := range list {
		var in [16]byte
		binary.BigEndian.PutUint64(in[:8], uint64(seed))
		binary.BigEndian.PutUint64(in[8:], uint64(i+1))
		list[i] = keyed{i + 1, sha256.Sum256(in[:])}
	}
	slices.SortFunc(list, func(a, b keyed) int {
		return cmp.Or(slices.Compare(a.key[:], b.key[:]), cmp.Compare(a.line, b.line))
	})
	out := make([]int, n)
	for i, k := range list {
		out[i] = k.line
	}
	return out
}
