package form

import (
	"slices"

	"pineledger/core/attempt"
)

// Order puts the lines that an attempt is given into the order of a seed, as places in Lines: within each part, the
// passages stay whole and in themselves as they are. given nil is all of them.
func (f Form) Order(given []int, seed int64) []int {
	if given == nil {
		given = all(len(f.Lines))
	}
	var out []int
	for len(given) > 0 {
		part := f.Lines[given[0]].Part
		n := slices.IndexFunc(given, func(at int) bool { return f.Lines[at].Part != part })
		if n < 0 {
			n = len(given)
		}
		blocks := f.blocks(given[:n])
		for _, at := range attempt.MixedOf(len(blocks), seed, part) {
			out = append(out, blocks[at-1]...)
		}
		given = given[n:]
	}
	return out
}

// blocks gathers lines that hang on one passage; others stand alone.
func (f Form) blocks(places []int) [][]int {
	var out [][]int
	of := map[string]int{}
	for _, at := range places {
		passage := f.Lines[at].Passage
		if k, has := of[passage]; has && passage != "" {
			out[k] = append(out[k], at)
			continue
		}
		of[passage] = len(out)
		out = append(out, []int{at})
	}
	return out
}
