package blueprint_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/blueprint"
	"pineledger/core/points"
)

var leaves = []string{"M6.RR", "M6.RR.3", "M6.RR.3a", "M6.FS"}

// anyPuzzle draws rows in items over a small tree, and lines.
func anyPuzzle(t *rapid.T) ([]blueprint.Row, []blueprint.Item) {
	var rows []blueprint.Row
	for i := range rapid.IntRange(1, 5).Draw(t, "rows") {
		min := rapid.IntRange(0, 4).Draw(t, "min")
		f := blueprint.Filter{Standards: rapid.SliceOfNDistinct(rapid.SampledFrom(append([]string{"M6"}, leaves...)), 1, 2, rapid.ID).Draw(t, "standards")}
		rows = append(rows, count(fmt.Sprint("r", i), min, min+rapid.IntRange(0, 2).Draw(t, "slack"), f))
	}
	var lines []blueprint.Item
	for i := range rapid.IntRange(0, 10).Draw(t, "lines") {
		lines = append(lines, line(fmt.Sprint("i", i), points.One, rapid.SampledFrom(leaves).Draw(t, "aligned")))
	}
	return rows, lines
}

func TestEveryLineIsClaimedOnceByARowItMeets(t *testing.T) {
	tr := tree(t)
	rapid.Check(t, func(t *rapid.T) {
		rows, lines := anyPuzzle(t)
		b, err := blueprint.Compute(tr, rows, lines)
		require.NoError(t, err)
		byID := map[string]blueprint.Item{}
		for _, l := range lines {
			byID[l.ID] = l
		}
		claimed := map[string]int{}
		var shortage, excess points.Points
		for i, r := range b.Rows {
			require.Equal(t, rows[i].ID, r.ID)
			require.Equal(t, points.Points(len(r.Lines))*points.One, r.Placed)
			for _, id := range r.Lines {
				claimed[id]++
				require.True(t, tr.Meets(rows[i].Filter, byID[id]), "%s does not meet %s", id, r.ID)
			}
			switch {
			case r.Placed < rows[i].Min:
				require.Equal(t, r.Placed-rows[i].Min, r.Balance)
				shortage -= r.Balance
			case r.Placed > rows[i].Max:
				require.Equal(t, r.Placed-rows[i].Max, r.Balance)
				excess += r.Balance
			default:
				require.Zero(t, r.Balance)
			}
		}
		require.Equal(t, shortage, b.Shortage)
		require.Equal(t, excess, b.Excess)
		for _, id := range b.Unclaimed {
			claimed[id]++
			for _, r := range rows {
				require.False(t, tr.Meets(r.Filter, byID[id]), "%s meets %s and is unclaimed", id, r.ID)
			}
		}
		require.Len(t, claimed, len(lines))
		for id, n := range claimed {
			require.Equal(t, 1, n, id)
		}
		require.True(t, b.Proven, "rows in items are solved exactly")
	})
}

func TestTheOrderOfRowsAndLinesDoesNotMatter(t *testing.T) {
	tr := tree(t)
	rapid.Check(t, func(t *rapid.T) {
		rows, lines := anyPuzzle(t)
		before, err := blueprint.Compute(tr, rows, lines)
		require.NoError(t, err)
		after, err := blueprint.Compute(tr, rapid.Permutation(rows).Draw(t, "rows shuffled"), rapid.Permutation(lines).Draw(t, "lines shuffled"))
		require.NoError(t, err)
		require.Equal(t, before.Shortage, after.Shortage)
		require.Equal(t, before.Excess, after.Excess)
	})
}

func TestOneMoreLineNeverMakesTheBlueprintShorter(t *testing.T) {
	tr := tree(t)
	rapid.Check(t, func(t *rapid.T) {
		rows, lines := anyPuzzle(t)
		before, err := blueprint.Compute(tr, rows, lines)
		require.NoError(t, err)
		more := append(lines, line("more", points.One, rapid.SampledFrom(leaves).Draw(t, "more aligned")))
		after, err := blueprint.Compute(tr, rows, more)
		require.NoError(t, err)
		require.LessOrEqual(t, after.Shortage, before.Shortage)
		require.GreaterOrEqual(t, after.Shortage, before.Shortage-points.One, "one line fills one place at most")
	})
}

func TestAFilterWithMoreAskedMeetsLess(t *testing.T) {
	tr := tree(t)
	rapid.Check(t, func(t *rapid.T) {
		p := rapid.IntRange(0, 1000).Draw(t, "difficulty")
		it := blueprint.Item{ID: "i", Standards: []string{rapid.SampledFrom(leaves).Draw(t, "aligned")}, Kind: "number", Depth: rapid.IntRange(1, 4).Draw(t, "depth"),
			Difficulty: &p, Language: "en", Tags: rapid.SliceOfDistinct(rapid.SampledFrom([]string{"tide", "boat"}), rapid.ID).Draw(t, "tags")}
		f := blueprint.Filter{Standards: []string{rapid.SampledFrom(append([]string{"M6"}, leaves...)).Draw(t, "asked")}}
		narrower := f
		switch rapid.IntRange(0, 4).Draw(t, "what more") {
		case 0:
			narrower.Depth = []int{rapid.IntRange(1, 4).Draw(t, "asked depth")}
		case 1:
			narrower.Tags = []string{"tide"}
		case 2:
			narrower.Without = []string{"boat"}
		case 3:
			from := rapid.IntRange(0, 1000).Draw(t, "from")
			narrower.Difficulty = &[2]int{from, rapid.IntRange(from, 1000).Draw(t, "to")}
		default:
			narrower.Language = rapid.SampledFrom([]string{"en", "es"}).Draw(t, "language")
		}
		if tr.Meets(narrower, it) {
			require.True(t, tr.Meets(f, it))
		}
	})
}

// What a pool gives counts as lines that meet what all of its lines meet.
func TestAPoolCountsWhereAllOfItsLinesWould(t *testing.T) {
	tr := tree(t)
	rapid.Check(t, func(t *rapid.T) {
		rows, lines := anyPuzzle(t)
		from := len(lines)
		var pool blueprint.Pool
		for i := range rapid.IntRange(1, 5).Draw(t, "pool") {
			pool.Lines = append(pool.Lines, len(lines))
			lines = append(lines, line(fmt.Sprint("p", i), points.One, rapid.SampledFrom(leaves).Draw(t, "pooled")))
		}
		pool.Choose = rapid.IntRange(1, len(pool.Lines)).Draw(t, "choose")
		b, err := blueprint.Compute(tr, rows, lines, pool)
		require.NoError(t, err)

		alike := lines[:from:from]
		for i, r := range rows {
			all := true
			for _, at := range pool.Lines {
				all = all && tr.Meets(r.Filter, lines[at])
			}
			require.LessOrEqual(t, b.Rows[i].Pools[0], pool.Choose)
			if !all {
				require.Zero(t, b.Rows[i].Pools[0], "row %s is not met by all", r.ID)
			}
			require.Equal(t, points.Points(len(b.Rows[i].Lines)+b.Rows[i].Pools[0])*points.One, b.Rows[i].Placed)
		}
		// Where its lines are alike, so many of them stand for the pool.
		for _, at := range pool.Lines[1:] {
			if lines[at].Standards[0] != lines[from].Standards[0] {
				return
			}
		}
		want, err := blueprint.Compute(tr, rows, append(alike, lines[from:from+pool.Choose]...))
		require.NoError(t, err)
		require.Equal(t, want.Shortage, b.Shortage)
		require.Equal(t, want.Excess, b.Excess)
	})
}

func TestAPoolWithoutLinesFillsNothing(t *testing.T) {
	rows := []blueprint.Row{count("rr", 1, 1, blueprint.Filter{Standards: []string{"M6.RR"}})}
	b, err := blueprint.Compute(tree(t), rows, []blueprint.Item{line("a", points.One, "M6.FS")}, blueprint.Pool{Choose: 1})
	require.NoError(t, err)
	require.Equal(t, points.One, b.Shortage)
	require.Zero(t, b.Rows[0].Pools[0])
}
