package form_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/attempt"
	"pineledger/core/form"
	"pineledger/core/item"
	"pineledger/core/points"
)

// in makes a line in a part and a pool, worth a point.
func in(part, pool int, passage string) form.Placed {
	return form.Placed{Part: part, Pool: pool, Passage: passage, Points: points.One}
}

func pools(choose ...int) form.Layout {
	var l form.Layout
	for _, n := range choose {
		l.Pools = append(l.Pools, form.Pool{Choose: n})
	}
	return l
}

func TestFiveOfEighteenAndAllThree(t *testing.T) {
	l := pools(5)
	var lines []form.Placed
	for range 3 {
		lines = append(lines, in(0, 0, ""))
	}
	for range 18 {
		lines = append(lines, form.Placed{Pool: 1, Points: 2 * points.One, Step: points.One})
	}
	require.NoError(t, l.Check(lines))
	require.Empty(t, l.Faults(lines))
	total, _ := l.Worth(lines)
	assert.Equal(t, 13*points.One, total, "three of one point and five of two")
	assert.Len(t, l.Each(lines), 8)
	given := l.Given(lines, 41)
	assert.Len(t, given, 8)
	assert.Equal(t, []int{0, 1, 2}, given[:3])
	assert.Equal(t, given, l.Given(lines, 41), "the same attempt, the same lines")
}

// What stands in for a pool is worth its points and changes by the finest step of any of its lines: cuts are set on that grain.
func TestTheGrainOfPooledLines(t *testing.T) {
	l := form.Layout{Parts: []form.Part{{}, {}}, Pools: []form.Pool{{Choose: 2}, {Choose: 3}, {Choose: 1}}}
	worth := func(part, pool int, most, step points.Points) form.Placed {
		return form.Placed{Part: part, Pool: pool, Points: most, Step: step}
	}
	lines := []form.Placed{
		worth(1, 0, 100, 50), worth(1, 1, 200, 100), worth(1, 1, 200, 50), worth(1, 1, 200, 0),
		worth(2, 2, 300, 0), worth(2, 2, 300, 0),
	}
	assert.Equal(t, []form.Placed{
		worth(1, 0, 100, 50),
		worth(1, 1, 200, 50), worth(1, 1, 200, 50),
		worth(2, 2, 300, 300), worth(2, 2, 300, 300), // three are asked for, two are there
	}, l.Each(lines))
	total, parts := l.Worth(lines)
	assert.Equal(t, points.Points(1100), total)
	assert.Equal(t, []points.Points{500, 600}, parts)
	assert.Equal(t, []int{0, 4, 5}, slices.DeleteFunc(l.Given(lines, 3), func(i int) bool { return lines[i].Pool == 1 }), "an empty pool gives nothing")
}

func TestSettledLines(t *testing.T) {
	l := form.Layout{Parts: []form.Part{{}, {}}, Pools: []form.Pool{{Choose: 1}, {Choose: 1}}}
	stand := func(pairs ...[2]int) (out []form.Placed) {
		for _, p := range pairs {
			out = append(out, in(p[0], p[1], ""))
		}
		return out
	}
	for name, c := range map[string]struct{ lines, want []form.Placed }{
		"without a part stands in the first":       {stand([2]int{0, 0}), stand([2]int{1, 0})},
		"without a part stands in the neighbour's": {stand([2]int{2, 0}, [2]int{0, 0}), stand([2]int{2, 0}, [2]int{2, 0})},
		"a part that is not there":                 {stand([2]int{1, 0}, [2]int{3, 0}), stand([2]int{1, 0}, [2]int{1, 0})},
		"a part that goes back":                    {stand([2]int{2, 0}, [2]int{1, 0}), stand([2]int{2, 0}, [2]int{2, 0})},
		"a pool that is not there":                 {stand([2]int{1, 3}, [2]int{1, -1}), stand([2]int{1, 0}, [2]int{1, 0})},
		"the last pool is there":                   {stand([2]int{1, 2}), stand([2]int{1, 2})},
		"torn from its pool":                       {stand([2]int{1, 1}, [2]int{1, 0}, [2]int{1, 1}), stand([2]int{1, 1}, [2]int{1, 0}, [2]int{1, 0})},
		"a pool over the end of a part":            {stand([2]int{1, 1}, [2]int{2, 1}), stand([2]int{1, 1}, [2]int{2, 0})},
	} {
		assert.Equal(t, c.want, l.Settled(c.lines), name)
	}
	assert.Equal(t, stand([2]int{0, 0}), form.Layout{}.Settled(stand([2]int{4, 2})), "without parts and pools in none")
}

func TestAPassageOfAPoolComesWhole(t *testing.T) {
	l := pools(4)
	lines := []form.Placed{in(0, 1, "ferry"), in(0, 1, "ferry"), in(0, 1, "tide"), in(0, 1, "tide"), in(0, 1, "marsh"), in(0, 1, "marsh")}
	require.Empty(t, l.Faults(lines))
	for seed := range int64(50) {
		given := l.Given(lines, seed)
		require.Len(t, given, 4)
		for k := 0; k < 4; k += 2 {
			require.Equal(t, lines[given[k]].Passage, lines[given[k+1]].Passage)
		}
	}
}

func TestWhatKeepsALayoutFromBeingSealed(t *testing.T) {
	two := in(0, 1, "")
	two.Points = 2 * points.One
	part := form.Layout{Parts: []form.Part{{Title: "Without a calculator"}, {Title: "With one"}}}
	for name, c := range map[string]struct {
		layout form.Layout
		lines  []form.Placed
		says   string
	}{
		"too few lines":      {pools(3), []form.Placed{in(0, 1, ""), in(0, 1, "")}, "Pool 1 gives each student 3 of 2 lines: it is 1 short."},
		"no line at all":     {pools(1), nil, "Pool 1 gives each student 1 of 0 lines: it is 1 short."},
		"unlike points":      {pools(1), []form.Placed{in(0, 1, ""), two}, "Pool 1: its lines are worth unlike points, so its draws would not be equal."},
		"unlike passages":    {pools(2), []form.Placed{in(0, 1, "ferry"), in(0, 1, "ferry"), in(0, 1, "")}, "Pool 1: passages come whole, and its passages and single lines hold unlike numbers of lines."},
		"half a passage":     {pools(3), []form.Placed{in(0, 1, "ferry"), in(0, 1, "ferry"), in(0, 1, "tide"), in(0, 1, "tide")}, "Pool 1: passages come whole with 2 lines each, and 3 is not a multiple of that."},
		"a part without any": {part, []form.Placed{in(1, 0, "")}, "Part 2, With one, has no lines."},
	} {
		t.Run(name, func(t *testing.T) {
			require.NoError(t, c.layout.Check(c.lines))
			faults := c.layout.Faults(c.lines)
			require.Len(t, faults, 1)
			assert.Equal(t, c.says, faults[0])
		})
	}
}

func TestLayoutsThatCannotBeMeant(t *testing.T) {
	parts := form.Layout{Parts: []form.Part{{}, {}}, Pools: []form.Pool{{Choose: 1}, {Choose: 1}}}
	for name, c := range map[string]struct {
		layout form.Layout
		lines  []form.Placed
		says   string
	}{
		"a part that is not there":  {pools(1), []form.Placed{in(0, 0, ""), in(1, 0, "")}, "line 2: there is no part 1"},
		"a part before the first":   {parts, []form.Placed{in(-1, 0, "")}, "line 1: there is no part -1"},
		"a line outside the parts":  {parts, []form.Placed{in(0, 0, "")}, "line 1 stands in no part"},
		"parts that go back":        {parts, []form.Placed{in(2, 0, ""), in(1, 0, "")}, "line 2: part 1 comes after part 2"},
		"a pool that is not there":  {pools(1), []form.Placed{in(0, 2, "")}, "line 1: there is no pool 2"},
		"a pool before the first":   {pools(1), []form.Placed{in(0, -1, "")}, "line 1: there is no pool -1"},
		"a pool in two parts":       {parts, []form.Placed{in(1, 1, ""), in(2, 1, "")}, "line 2: pool 1 reaches over the end of a part"},
		"a torn pool":               {pools(1), []form.Placed{in(0, 1, ""), in(0, 0, ""), in(0, 1, "")}, "line 3: the lines of pool 1 do not stand together"},
		"a pool that gives nothing": {pools(1, 0), nil, "pool 2: each student gets one line at least"},
		"too many pools":            {form.Layout{Pools: make([]form.Pool, 51)}, nil, "an assessment has 50 pools at most"},
		"too many parts":            {form.Layout{Parts: make([]form.Part, 21)}, nil, "an assessment has 20 parts at most"},
	} {
		t.Run(name, func(t *testing.T) { assert.EqualError(t, c.layout.Check(c.lines), c.says) })
	}
	assert.NoError(t, parts.Check([]form.Placed{in(1, 1, ""), in(1, 1, ""), in(2, 0, ""), in(2, 2, "")}))
	full := form.Layout{Parts: make([]form.Part, 20)}
	for range 50 {
		full.Pools = append(full.Pools, form.Pool{Choose: 1})
	}
	assert.NoError(t, full.Check([]form.Placed{in(20, 50, "")}), "the last of each")
}

// anyLayout draws parts and pools with lines that pass Check, some of them in passages.
func anyLayout(t *rapid.T) (form.Layout, []form.Placed) {
	var l form.Layout
	var lines []form.Placed
	parts := rapid.IntRange(0, 3).Draw(t, "parts")
	for range parts {
		l.Parts = append(l.Parts, form.Part{Title: "part"})
	}
	for part := min(1, parts); part <= parts; part++ {
		for range rapid.IntRange(0, 3).Draw(t, "stretches") {
			pool := 0
			if rapid.Bool().Draw(t, "pool") {
				l.Pools = append(l.Pools, form.Pool{Choose: rapid.IntRange(1, 5).Draw(t, "choose")})
				pool = len(l.Pools)
			}
			worth := points.Points(rapid.IntRange(1, 4).Draw(t, "worth")) * points.One
			for range rapid.IntRange(0, 6).Draw(t, "lines") {
				lines = append(lines, form.Placed{Part: part, Pool: pool, Points: worth, Passage: rapid.SampledFrom([]string{"", "", "ferry", "tide"}).Draw(t, "passage")})
			}
		}
	}
	return l, lines
}

func TestEveryDrawIsWorthTheSame(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l, lines := anyLayout(t)
		require.NoError(t, l.Check(lines))
		if len(l.Faults(lines)) > 0 {
			t.Skip("it would not be sealed")
		}
		total, worth := l.Worth(lines)
		given := l.Given(lines, rapid.Int64().Draw(t, "seed"))
		if given == nil {
			require.Empty(t, l.Pools)
			return
		}
		require.True(t, slices.IsSorted(given))
		require.Len(t, slices.Compact(slices.Clone(given)), len(given), "no line twice")
		require.Len(t, given, len(l.Each(lines)))
		var sum points.Points
		parts := make([]points.Points, len(l.Parts))
		of := map[int]int{}
		for _, at := range given {
			sum += lines[at].Points
			if p := lines[at].Part; p > 0 {
				parts[p-1] += lines[at].Points
			}
			of[lines[at].Pool]++
		}
		require.Equal(t, total, sum)
		require.Equal(t, worth, parts)
		for i, p := range l.Pools {
			require.Equal(t, p.Choose, of[i+1], "pool %d", i+1)
		}
	})
}

func TestSettledLinesPassAndGoodOnesStay(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l, lines := anyLayout(t)
		require.Equal(t, lines, append([]form.Placed(nil), l.Settled(lines)...), "what is good stays")
		shuffled := rapid.Permutation(lines).Draw(t, "shuffled")
		for range rapid.IntRange(0, 3).Draw(t, "new") {
			shuffled = slices.Insert(shuffled, rapid.IntRange(0, len(shuffled)).Draw(t, "at"), form.Placed{Points: points.One})
		}
		require.NoError(t, l.Check(l.Settled(shuffled)))
	})
}

// Each of the C(6,2) pairs comes up, and no line far more often than another.
func TestEveryLineOfAPoolHasItsChance(t *testing.T) {
	pairs, lines := map[string]int{}, map[int]int{}
	for seed := range int64(3000) {
		chosen := attempt.Chosen(2, 6, seed, 1)
		pairs[fmt.Sprint(chosen)]++
		for _, l := range chosen {
			lines[l]++
		}
	}
	assert.Len(t, pairs, 15)
	for l, n := range lines {
		assert.InDelta(t, 1000, n, 120, "line %d", l)
	}
	apart := 0
	for seed := range int64(300) {
		if !slices.Equal(attempt.Chosen(2, 6, seed, 1), attempt.Chosen(2, 6, seed, 2)) {
			apart++
		}
	}
	assert.Greater(t, apart, 240, "two pools are drawn apart")
}

func TestLinesNotGivenAreNoPartOfTheScore(t *testing.T) {
	f := sample()
	f.Pools = []form.Pool{{Choose: 1}}
	f.Lines[1].Pool, f.Lines[2].Pool = 1, 1
	assert.Equal(t, 3*points.One, f.Total())
	cuts, err := f.Cuts()
	require.NoError(t, err)
	assert.Equal(t, 3*points.One, cuts.Total)
	s, err := f.Score(map[int]item.Response{0: give("B"), 2: give("B")}, []int{0, 2, 3})
	require.NoError(t, err)
	assert.Equal(t, 2*points.One, s.Raw)
	assert.Equal(t, 1, s.Band, "2 of 3 is more than half")
	var outcomes []item.Outcome
	for _, c := range s.Credits {
		outcomes = append(outcomes, c.Outcome)
	}
	assert.Equal(t, []item.Outcome{item.Right, item.NotGiven, item.Right, item.NotReached}, outcomes)
}
