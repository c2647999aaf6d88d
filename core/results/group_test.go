package results_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/points"
	"pineledger/core/results"
)

// Two students of 20 points: 12 and 15.
func ExampleGroup_MeanTenths() {
	g := results.NewGroup(3, 0)
	g.Final(1, 1, 1200)
	g.Final(1, 2, 1500)
	fmt.Println(g.N, g.Bands, g.MeanTenths(2000))
	// Output: 2 [0 1 1] 675
}

func TestWhatWaitsIsInNoFigure(t *testing.T) {
	g := results.NewGroup(2, 1)
	assert.EqualValues(t, -1, g.MeanTenths(2000))
	assert.EqualValues(t, -1, g.Strands[0].Tenths())
	g.Waiting++
	g.Final(2, -1, 2000)
	assert.Equal(t, []int{0, 0}, g.Bands, "a form without bands")
	assert.EqualValues(t, 500, g.MeanTenths(2000))

	strands := []form.Strand{{Lines: []int{0, 2}}}
	g.Line(strands, 0, 100, 2, 150)
	g.Line(strands, 1, 100, 2, 200)
	g.Line(strands, 2, 300, 2, 300)
	assert.Equal(t, results.Share{Earned: 450, Possible: 800}, g.Strands[0], "the second line is in no strand")
	assert.EqualValues(t, 563, g.Strands[0].Tenths(), "450 of 800 is 56.25 %")
}

// However students are put into groups, the groups add up to all of them.
func TestGroupsAddUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		strands := []form.Strand{{Lines: []int{0}}, {Lines: []int{0, 1}}}
		all := results.NewGroup(3, 2)
		groups := make([]results.Group, rapid.IntRange(1, 4).Draw(t, "groups"))
		for i := range groups {
			groups[i] = results.NewGroup(3, 2)
		}
		for range rapid.IntRange(0, 30).Draw(t, "students") {
			g := &groups[rapid.IntRange(0, len(groups)-1).Draw(t, "group")]
			if rapid.IntRange(0, 5).Draw(t, "waits") == 0 {
				g.Waiting++
				all.Waiting++
				continue
			}
			raw, band := points.Points(rapid.IntRange(0, 300).Draw(t, "raw")), rapid.IntRange(0, 2).Draw(t, "band")
			line := rapid.IntRange(0, 1).Draw(t, "line")
			for _, into := range []*results.Group{g, &all} {
				into.Final(1, band, raw)
				into.Line(strands, line, 200, 1, raw/2)
			}
		}
		sum := results.NewGroup(3, 2)
		for _, g := range groups {
			sum.Add(g)
		}
		assert.Equal(t, all, sum)
	})
}

func TestWhatMayStandBesideAPart(t *testing.T) {
	of := func(n int) results.Group { return results.Group{N: n} }
	assert.True(t, of(30).MayStandBeside(of(20)))
	assert.False(t, of(29).MayStandBeside(of(20)), "nine others could be worked out")
	assert.False(t, of(20).MayStandBeside(of(20)), "nobody else: the part says it all")
	assert.True(t, of(10).MayStandBeside(of(0)))
	assert.False(t, of(9).MayStandBeside(of(0)))
}

func TestALineOfTooFewHasNoDifficulty(t *testing.T) {
	worth := func(int) points.Points { return 200 }
	lines := results.NewLines(2)
	for range results.Fewest - 1 {
		lines.Count(0, 100, item.Part)
	}
	assert.Equal(t, []results.Line{{N: 9, Difficulty: -1}, {Difficulty: -1}}, strip(lines.Of(worth)))
	lines.Count(0, 0, item.Unread)
	lines.Count(0, 0, item.NotGiven)
	assert.EqualValues(t, -1, lines.Of(worth)[0].Difficulty, "who waits and who was not given it are not counted")
	lines.Count(0, 0, item.Omitted)
	lines.Count(1, 0, item.NotReached)
	assert.Equal(t, []results.Line{{N: 10, Difficulty: 450, Omitted: 1}, {N: 1, Difficulty: -1}}, strip(lines.Of(worth)))
	for range 6 {
		lines.Count(0, 100, item.Part)
	}
	assert.EqualValues(t, 469, lines.Of(worth)[0].Difficulty, "15 of 32 is 0.46875")
}

// strip leaves what is told.
func strip(lines []results.Line) []results.Line {
	out := make([]results.Line, len(lines))
	for i, l := range lines {
		out[i] = results.Line{N: l.N, Difficulty: l.Difficulty, Omitted: l.Omitted}
	}
	return out
}
