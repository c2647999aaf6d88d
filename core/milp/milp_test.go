package milp_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"pineledger/core/milp"
)

// A knapsack: of three things that weigh 3, 4 and 5, at most 8 in all, the most worth.
func ExampleSearch() {
	p := &milp.Program{}
	a, b, c := p.Column(0, 1, true, 0), p.Column(0, 1, true, 0), p.Column(0, 1, true, 0)
	p.Row(math.Inf(-1), 8, []milp.Term{{a, 3}, {b, 4}, {c, 5}})
	p.Minimize([]milp.Term{{a, -4}, {b, -5}, {c, -6}})
	best := math.Inf(1)
	milp.Search{Program: p, Step: 1, Known: best, Stop: func() bool { return false },
		Visit: func(x []float64, whole bool) float64 {
			if whole {
				best = math.Min(best, math.Round(-4*x[a]-5*x[b]-6*x[c]))
			}
			return best
		}}.Run()
	fmt.Println(-best)
	// Output: 10
}

type small struct {
	cost         []float64
	lo, hi       []int
	rows         [][]int
	rowLo, rowHi []int
	best         float64
}

func drawSmall(t *rapid.T) small {
	n := rapid.IntRange(1, 7).Draw(t, "columns")
	m := rapid.IntRange(0, 5).Draw(t, "rows")
	s := small{best: math.Inf(1)}
	for range n {
		s.cost = append(s.cost, float64(rapid.IntRange(-5, 5).Draw(t, "cost")))
		lo := rapid.IntRange(-1, 1).Draw(t, "lo")
		s.lo = append(s.lo, lo)
		s.hi = append(s.hi, lo+rapid.IntRange(0, 2).Draw(t, "width"))
	}
	for range m {
		var row []int
		for range n {
			row = append(row, rapid.IntRange(-4, 4).Draw(t, "a"))
		}
		lo := rapid.IntRange(-8, 8).Draw(t, "row lo")
		s.rows, s.rowLo, s.rowHi = append(s.rows, row), append(s.rowLo, lo), append(s.rowHi, lo+rapid.IntRange(0, 6).Draw(t, "row width"))
	}
	return s
}

// byHand tries every point.
func (s *small) byHand() {
	x := append([]int{}, s.lo...)
	for {
		ok, cost := true, 0.0
		for j, v := range x {
			cost += s.cost[j] * float64(v)
		}
		for i, row := range s.rows {
			sum := 0
			for j, a := range row {
				sum += a * x[j]
			}
			ok = ok && sum >= s.rowLo[i] && sum <= s.rowHi[i]
		}
		if ok {
			s.best = math.Min(s.best, cost)
		}
		j := 0
		for ; j < len(x); j++ {
			if x[j]++; x[j] <= s.hi[j] {
				break
			}
			x[j] = s.lo[j]
		}
		if j == len(x) {
			return
		}
	}
}

func (s *small) terms(row []int) []milp.Term {
	var out []milp.Term
	for j, a := range row {
		out = append(out, milp.Term{Column: j, Value: float64(a)})
	}
	return out
}

// search solves it; rows from lazyFrom on are only given when they are violated.
func (s *small) search(lazyFrom int) (best float64, result milp.Result) {
	p := &milp.Program{}
	for j := range s.cost {
		p.Column(float64(s.lo[j]), float64(s.hi[j]), true, j%2)
	}
	var aim []milp.Term
	for j, c := range s.cost {
		aim = append(aim, milp.Term{Column: j, Value: c})
	}
	p.Minimize(aim)
	for i, row := range s.rows[:min(lazyFrom, len(s.rows))] {
		p.Row(float64(s.rowLo[i]), float64(s.rowHi[i]), s.terms(row))
	}
	best = math.Inf(1)
	q := milp.Search{Program: p, Step: 1, Known: best, Stop: func() bool { return false }}
	q.Lazy = func(x []float64) bool {
		more := false
		for i := lazyFrom; i < len(s.rows); i++ {
			var sum float64
			for j, a := range s.rows[i] {
				sum += float64(a) * x[j]
			}
			if sum < float64(s.rowLo[i])-1e-6 || sum > float64(s.rowHi[i])+1e-6 {
				p.Row(float64(s.rowLo[i]), float64(s.rowHi[i]), s.terms(s.rows[i]))
				more = true
			}
		}
		return more
	}
	q.Visit = func(x []float64, whole bool) float64 {
		if whole {
			cost := 0.0
			for j, c := range s.cost {
				cost += c * math.Round(x[j])
			}
			best = math.Min(best, cost)
		}
		return best
	}
	result = q.Run()
	return best, result
}

func TestTheBestIsFoundAndProven(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := drawSmall(t)
		s.byHand()
		for _, lazyFrom := range []int{len(s.rows), len(s.rows) / 2} {
			best, result := s.search(lazyFrom)
			require.True(t, result.Proven)
			assert.Equal(t, s.best, result.Bound)
			assert.Equal(t, s.best, best)
		}
	})
}
