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

// placed is a puzzle of rows by points with exactly so much each, its lines where they stand.
func placed(wants []points.Points, worth []points.Points, fits [][]int, at []int) *puzzle {
	p := &puzzle{fits: fits, fill: make([]points.Points, len(wants))}
	for _, want := range wants {
		p.rows = append(p.rows, Row{ByPoints: true, Min: want, Max: want})
	}
	for i, w := range worth {
		p.lines, p.at = append(p.lines, Item{Points: w}), append(p.at, -1)
		p.put(i, at[i])
	}
	return p
}

// Moving either line alone makes it worse.
func TestClimbingTradesTwoLines(t *testing.T) {
	p := placed([]points.Points{5, 3}, []points.Points{5, 3}, [][]int{{0, 1}, {0, 1}}, []int{1, 0})
	p.climb([]int{0, 1})
	assert.Equal(t, []int{0, 1}, p.at)
	assert.Equal(t, []points.Points{5, 3}, p.fill)
}

// Three lines have to go round at once, which no move and no trade does.
func TestTheSearchFindsWhatClimbingDoesNot(t *testing.T) {
	p := placed([]points.Points{3, 2, 4}, []points.Points{3, 2, 4}, [][]int{{0, 1}, {1, 2}, {2, 0}}, []int{1, 2, 0})
	part := []int{0, 1, 2}
	p.climb(part)
	assert.Equal(t, []int{1, 2, 0}, p.at, "climbing is stuck")
	assert.True(t, p.search(part))
	assert.Equal(t, []int{0, 1, 2}, p.at)
	assert.Equal(t, []points.Points{3, 2, 4}, p.fill)
	assert.False(t, p.even(part), "a row can hold lines of unlike points")
	assert.True(t, placed([]points.Points{4}, []points.Points{2, 2}, [][]int{{0}, {0}}, []int{0, 0}).even([]int{0, 1}))
}
