package blueprint

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"pineledger/core/points"
)

// A bound that is too high would drop the best answer, which is rarely seen from outside: most puzzles are solved before it matters.
func TestTheBoundIsExactForOneLineAndOneRow(t *testing.T) {
	row := Row{ByPoints: true, Min: 10, Max: 10}
	for want, has := range map[cost]struct{ fill, line points.Points }{
		{}:     {6, 4},
		{3, 0}: {3, 4},
		{0, 2}: {8, 4},
	} {
		p := &puzzle{rows: []Row{row}, lines: []Item{{Points: has.line}}, fits: [][]int{{0}}}
		assert.Equal(t, want, p.bound([]int{0}, []int{0}, []points.Points{has.fill}, cost{}), "%+v", has)
	}
}

func TestTheBoundIsNoMoreThanAnyWayToPlaceTheRest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		small := rapid.Int64Range(0, 9)
		p := &puzzle{}
		var rows []int
		var fill []points.Points
		for j := range rapid.IntRange(1, 3).Draw(t, "rows") {
			low := points.Points(small.Draw(t, "min"))
			p.rows = append(p.rows, Row{ByPoints: true, Min: low, Max: low + points.Points(small.Draw(t, "more"))})
			rows, fill = append(rows, j), append(fill, points.Points(small.Draw(t, "fill")))
		}
		var rest []int
		for i := range rapid.IntRange(0, 4).Draw(t, "lines") {
			p.lines = append(p.lines, Item{Points: points.Points(small.Draw(t, "points"))})
			fits := rapid.SliceOfNDistinct(rapid.SampledFrom(rows), 1, len(rows), rapid.ID[int]).Draw(t, "fits")
			p.fits, rest = append(p.fits, fits), append(rest, i)
		}
		bound := p.bound(rest, rows, fill, cost{})
		var place func(at int)
		place = func(at int) {
			if at < len(rest) {
				for _, j := range p.fits[at] {
					fill[j] += p.lines[at].Points
					place(at + 1)
					fill[j] -= p.lines[at].Points
				}
				return
			}
			end := p.costOf(rows, fill)
			assert.False(t, end.less(bound), "%v is less than the bound %v", end, bound)
		}
		place(0)
	})
}
