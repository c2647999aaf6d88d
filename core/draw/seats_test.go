package draw

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/blueprint"
	"pineledger/core/points"
)

// Seats that follow a walk claim a form exactly where claiming it anew does.
func TestSeatsFollowWhatClaimsSay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		tree, err := blueprint.NewTree([]blueprint.Standard{{Code: "A"}, {Code: "B"}, {Code: "C"}})
		require.NoError(t, err)
		r := Request{Tree: tree}
		for i := range rapid.IntRange(3, 14).Draw(t, "items") {
			r.Items = append(r.Items, blueprint.Item{ID: fmt.Sprint(i), Kind: "number", Depth: 1, Points: points.One,
				Standards: rapid.SliceOfNDistinct(rapid.SampledFrom([]string{"A", "B", "C"}), 1, 3, rapid.ID).Draw(t, "standards")})
		}
		for j := range rapid.IntRange(1, 4).Draw(t, "rows") {
			least := points.Points(rapid.IntRange(0, 2).Draw(t, "least"))
			row := blueprint.Row{ID: fmt.Sprint("r", j), Min: least * points.One, Max: (least + points.Points(rapid.IntRange(0, 2).Draw(t, "more"))) * points.One}
			row.Filter.Standards = rapid.SliceOfNDistinct(rapid.SampledFrom([]string{"A", "B", "C"}), 1, 2, rapid.ID).Draw(t, "of")
			r.Plan.Rows = append(r.Plan.Rows, row)
		}
		p, err := newPool(r)
		require.NoError(t, err)
		if len(p.items) == 0 {
			return
		}
		form := func(name string) []int {
			return rapid.SliceOfNDistinct(rapid.IntRange(0, len(p.items)-1), 0, len(p.items), rapid.ID).Draw(t, name)
		}
		s := newSeats(p, form("first"))
		if s == nil {
			return
		}
		for range 5 {
			items := form("next")
			next := s.with(items)
			require.Equal(t, p.claims(items) != nil, next != nil, "%v after %v", items, s.items)
			if next == nil {
				continue
			}
			fill := make([]int, len(p.rows))
			for k, i := range next.items {
				require.Contains(t, p.meets[i], next.row[k])
				fill[next.row[k]]++
			}
			require.Equal(t, fill, next.fill)
			require.ElementsMatch(t, items, next.items)
			for j, row := range p.rows {
				require.True(t, fill[j] >= int(row.Min/points.One) && fill[j] <= int(row.Max/points.One))
			}
			s = next
		}
	})
}
