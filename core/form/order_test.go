package form_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/form"
)

// Every line comes once, parts stay in their order, passages whole and in theirs, and a seed gives the same again.
func TestTheOrderOfASeed(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		f := form.Form{}
		for part := 1; part <= rapid.IntRange(1, 3).Draw(t, "parts"); part++ {
			for range rapid.IntRange(1, 6).Draw(t, "lines") {
				f.Lines = append(f.Lines, form.Line{Part: part, Passage: rapid.SampledFrom([]string{"", "", "p", "q"}).Draw(t, "passage")})
			}
		}
		var given []int
		for i := range f.Lines {
			if rapid.IntRange(0, 4).Draw(t, "given") > 0 {
				given = append(given, i)
			}
		}
		seed := rapid.Int64().Draw(t, "seed")
		got := f.Order(given, seed)
		require.Equal(t, got, f.Order(given, seed))
		sorted := slices.Clone(got)
		slices.Sort(sorted)
		if given == nil { // nil is all
			require.Len(t, sorted, len(f.Lines))
		} else {
			require.Equal(t, given, sorted)
		}
		for i := 1; i < len(got); i++ {
			require.LessOrEqual(t, f.Lines[got[i-1]].Part, f.Lines[got[i]].Part)
			a, b := f.Lines[got[i-1]], f.Lines[got[i]]
			if a.Passage != "" && a.Passage == b.Passage && a.Part == b.Part {
				require.Less(t, got[i-1], got[i])
			}
			again := slices.IndexFunc(got[:i-1+1], func(at int) bool {
				return f.Lines[at].Part == b.Part && f.Lines[at].Passage == b.Passage && b.Passage != ""
			})
			if again >= 0 {
				require.Equal(t, b.Passage, a.Passage, "a passage is not torn")
			}
		}
	})
}

func TestAnOrderIsAnother(t *testing.T) {
	f := form.Form{Lines: make([]form.Line, 12)}
	assert.NotEqual(t, f.Order(nil, 1), f.Order(nil, 2))
	assert.NotEqual(t, []int{0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11}, f.Order(nil, 1))
	first := map[int]int{}
	for seed := range int64(1200) {
		first[f.Order(nil, seed)[0]]++
	}
	for at := range 12 {
		assert.InDelta(t, 100, first[at], 50, "each comes first about as often")
	}
}
