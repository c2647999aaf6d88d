package roster_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"pineledger/core/roster"
)

func TestDealingFormsOverSeats(t *testing.T) {
	// One room ends on the first form, the next begins with the second.
	assert.Equal(t, [][]int{{0, 1, 0}, {1, 0}}, roster.BySeat.Over([]int{3, 2}, 2))
	assert.Equal(t, [][]int{{0, 1, 2, 0}, {1, 2}, {0}}, roster.BySeat.Over([]int{4, 2, 1}, 3))
	assert.Equal(t, [][]int{{0, 0, 0}, {1, 1}, {1, 1}, {0}}, roster.BySection.Over([]int{3, 2, 2, 1}, 2))
	assert.Equal(t, [][]int{{0, 0}, nil, {0}}, roster.OneForm.Over([]int{2, 0, 1}, 2))
	assert.False(t, roster.Deal("by eye").Known())
	assert.Equal(t, 1, roster.Fewest([]int{2, 1, 1}, []int{9, 3, 3}), "among equals the first")
	assert.Equal(t, 2, roster.Fewest([]int{2, 1, 1}, []int{9, 4, 3}), "of the fewest here the one with the fewest in all")
}

func count(forms []int, n int) []int {
	out := make([]int, n)
	for _, f := range forms {
		out[f]++
	}
	return out
}

func TestEveryFormComesEquallyOften(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 5).Draw(t, "forms")
		sections := rapid.SliceOfN(rapid.IntRange(0, 34), 0, 20).Draw(t, "sections")
		var all []int
		for i, forms := range roster.BySeat.Over(sections, n) {
			assert.Len(t, forms, sections[i])
			here := count(forms, n)
			assert.LessOrEqual(t, slices.Max(here)-slices.Min(here), 1, "in a section")
			all = append(all, forms...)
		}
		total := count(all, n)
		assert.LessOrEqual(t, slices.Max(total)-slices.Min(total), 1, "in all")

		most := 0
		all = nil
		for i, forms := range roster.BySection.Over(sections, n) {
			assert.Len(t, forms, sections[i])
			assert.LessOrEqual(t, len(slices.Compact(slices.Clone(forms))), 1, "a section has one form")
			all, most = append(all, forms...), max(most, sections[i])
		}
		total = count(all, n)
		assert.LessOrEqual(t, slices.Max(total)-slices.Min(total), most, "no form is further ahead than by a section")
	})
}
