// Package milp minimizes a linear function over whole and real numbers under
// linear rows: a bounded dual simplex, and branch and bound on top of it.
//
// It is made for programs with many columns (tens of thousands) and few rows
// (some hundreds), each column with finite bounds. Floating point is used
// inside; bounds and proofs of infeasibility are computed again from the
// program's own numbers, so that a tired factorization can cost time but not truth.
package milp

import "math"

// Term is one coefficient of a row.
type Term struct {
	Column int
	Value  float64
}

// Program is what is to be solved. Make columns first, then rows.
type Program struct {
	cost         []float64
	lo, hi       []float64
	whole        []bool
	rank         []int  // columns of the lowest rank are branched on first
	up           []bool // columns that are best settled by raising the largest
	parked       []bool // columns that are looked at only once they would help
	cols         [][]entry
	rowLo, rowHi []float64
}

// entry is a coefficient in a column.
type entry struct {
	row   int
	value float64
}

// Column adds a column with finite bounds and gives its number. Whole columns
// take whole values; those of a lower rank are branched on first.
func (p *Program) Column(lo, hi float64, whole bool, rank int) int {
	p.cost = append(p.cost, 0)
	p.lo, p.hi = append(p.lo, lo), append(p.hi, hi)
	p.whole, p.rank, p.parked = append(p.whole, whole), append(p.rank, rank), append(p.parked, false)
	p.up = append(p.up, false)
	p.cols = append(p.cols, nil)
	return len(p.lo) - 1
}

// Columns is how many columns there are.
func (p *Program) Columns() int { return len(p.lo) }

// Row adds lo ≤ Σ terms ≤ hi; either end may be infinite. Each column at most once.
func (p *Program) Row(lo, hi float64, terms []Term) {
	var least, most, size float64
	for _, t := range terms {
		least += math.Min(t.Value*p.lo[t.Column], t.Value*p.hi[t.Column])
		most += math.Max(t.Value*p.lo[t.Column], t.Value*p.hi[t.Column])
		size = math.Max(size, math.Abs(t.Value))
	}
	if size == 0 {
		size = 1
	}
	row := len(p.rowLo)
	// Ends that no choice can pass are drawn in, a little wider: then every variable has two finite bounds.
	p.rowLo = append(p.rowLo, math.Max(lo, least-1)/size)
	p.rowHi = append(p.rowHi, math.Min(hi, most+1)/size)
	for _, t := range terms {
		if t.Value != 0 {
			p.cols[t.Column] = append(p.cols[t.Column], entry{row, t.Value / size})
		}
	}
}

// Minimize sets the aim; columns that are not named cost nothing.
func (p *Program) Minimize(terms []Term) {
	clear(p.cost)
	for _, t := range terms {
		p.cost[t.Column] += t.Value
	}
}

// Raise says that of the columns of this rank the one with the largest value is
// branched on, and raised first: as where few of many are to be chosen.
func (p *Program) Raise(column int) { p.up[column] = true }

// Park leaves a column at its lower bound until the multipliers of a solved
// program say that it would help. It changes how fast an answer comes, not which.
func (p *Program) Park(column int) { p.parked[column] = true }

// Fix narrows the bounds of a column.
func (p *Program) Fix(column int, lo, hi float64) { p.lo[column], p.hi[column] = lo, hi }

// Rows is how many rows there are.
func (p *Program) Rows() int { return len(p.rowLo) }
