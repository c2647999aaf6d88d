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
	return mixed(n, func(line int) []byte { return keyOf(seed, int64(line)) })
}

// Chosen gives k of n, counted from 1, in rising order. It depends on the seed and
// on which of an assessment's pools they are of, so that two pools are drawn apart.
func Chosen(k, n int, seed int64, pool int) []int {
	order := mixed(n, func(line int) []byte { return keyOf(seed, int64(pool), int64(line)) })
	out := order[:min(k, n)]
	slices.Sort(out)
	return out
}

// MixedOf is Mixed for several things of one seed, which are mixed apart.
func MixedOf(n int, seed int64, of ...int) []int {
	return mixed(n, func(line int) []byte {
		numbers := []int64{seed, int64(line)}
		for _, o := range of {
			numbers = append(numbers, int64(o))
		}
		return keyOf(numbers...)
	})
}

// mixed orders 1 to n by the digests of their keys.
func mixed(n int, key func(line int) []byte) []int {
	type keyed struct {
		line int
		key  [sha256.Size]byte
	}
	list := make([]keyed, n)
	for i := range list {
		list[i] = keyed{i + 1, sha256.Sum256(key(i + 1))}
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

func keyOf(numbers ...int64) []byte {
	var out []byte
	for _, n := range numbers {
		out = binary.BigEndian.AppendUint64(out, uint64(n))
	}
	return out
}
