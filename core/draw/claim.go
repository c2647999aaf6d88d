package draw

import (
	"math"

	"pineledger/core/milp"
	"pineledger/core/points"
)

// claims assigns each chosen item to a row that it meets, so that every row is
// within its plan; nil where that cannot be. Where all rows count items this is a
// flow over the classes; rows in points are a packing puzzle, solved as a program.
func (p *pool) claims(chosen []int) map[int]int {
	for _, c := range p.classes {
		if c.points != 0 {
			return p.packed(chosen)
		}
	}
	f := newFlow(p, chosen)
	f.fill(func(row int) int { return int(p.rows[row].Min / points.One) })
	for row, n := range f.filled {
		if n < int(p.rows[row].Min/points.One) {
			return nil
		}
	}
	f.fill(func(row int) int { return int(p.rows[row].Max / points.One) })
	if f.left > 0 {
		return nil
	}
	return f.claims(chosen)
}

// flow moves items from classes to rows.
type flow struct {
	p      *pool
	count  []int   // chosen items of a class without a row
	to     [][]int // class → its k-th row → how many
	filled []int
	left   int
	used   []int // classes with chosen items
}

func newFlow(p *pool, chosen []int) *flow {
	f := &flow{p: p, count: make([]int, len(p.classes)), to: make([][]int, len(p.classes)), filled: make([]int, len(p.rows)), left: len(chosen)}
	for _, i := range chosen {
		c := p.class[i]
		if f.count[c]++; f.count[c] == 1 {
			f.used = append(f.used, c)
			f.to[c] = make([]int, len(p.classes[c].rows))
		}
	}
	return f
}

// fill sends as many items as can go to rows below room, along shortest
// augmenting paths; rows never lose what they have.
func (f *flow) fill(room func(row int) int) {
	type step struct{ row, class, k, from int } // class gives an item to row (its k-th); from: the step before
	for {
		var queue []step
		seen := make([]bool, len(f.filled))
		visit := func(class, from int) {
			for k, row := range f.p.classes[class].rows {
				if !seen[row] {
					seen[row] = true
					queue = append(queue, step{row, class, k, from})
				}
			}
		}
		for _, c := range f.used {
			if f.count[c] > 0 {
				visit(c, -1)
			}
		}
		end := -1
		for at := 0; at < len(queue) && end < 0; at++ {
			row := queue[at].row
			if f.filled[row] < room(row) {
				end = at
				break
			}
			for _, c := range f.used {
				for k, r := range f.p.classes[c].rows {
					if r == row && f.to[c][k] > 0 {
						visit(c, at)
					}
				}
			}
		}
		if end < 0 {
			return
		}
		f.filled[queue[end].row]++
		f.left--
		for at := end; ; at = queue[at].from {
			s := queue[at]
			f.to[s.class][s.k]++
			if s.from < 0 {
				f.count[s.class]--
				break
			}
			before := queue[s.from].row
			for k, r := range f.p.classes[s.class].rows {
				if r == before {
					f.to[s.class][k]--
				}
			}
		}
	}
}

func (f *flow) claims(chosen []int) map[int]int {
	out := make(map[int]int, len(chosen))
	for _, i := range chosen {
		c := f.p.class[i]
		for k, n := range f.to[c] {
			if n > 0 {
				f.to[c][k]--
				out[i] = f.p.classes[c].rows[k]
				break
			}
		}
	}
	return out
}

// packed solves the claims as a program of their own: how many of a class go to which row.
func (p *pool) packed(chosen []int) map[int]int {
	count := map[int]int{}
	var used []int
	for _, i := range chosen {
		if count[p.class[i]]++; count[p.class[i]] == 1 {
			used = append(used, p.class[i])
		}
	}
	program := &milp.Program{}
	terms := make([][]milp.Term, len(p.rows))
	columns := map[int][]int{}
	for _, c := range used {
		for range p.classes[c].rows {
			columns[c] = append(columns[c], program.Column(0, float64(count[c]), true, 0))
		}
	}
	for _, c := range used {
		var all []milp.Term
		for k, row := range p.classes[c].rows {
			all = append(all, milp.Term{Column: columns[c][k], Value: 1})
			terms[row] = append(terms[row], milp.Term{Column: columns[c][k], Value: float64(p.worth(p.classes[c].items[0], row))})
		}
		program.Row(float64(count[c]), float64(count[c]), all)
	}
	for j, row := range p.rows {
		program.Row(float64(row.Min), float64(row.Max), terms[j])
	}
	var out map[int]int
	known := math.Inf(1)
	milp.Search{Program: program, Step: 1, Known: known, Stop: func() bool { return false }, Visit: func(x []float64, whole bool) float64 {
		if whole {
			known = 0
			f := newFlow(p, chosen)
			for c, cols := range columns {
				for k, column := range cols {
					f.to[c][k] = int(math.Round(x[column]))
				}
			}
			out = f.claims(chosen)
		}
		return known
	}}.Run()
	return out
}
