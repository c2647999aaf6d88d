package draw

import (
	"fmt"
	"math"
	"math/rand/v2"

	"pineledger/core/blueprint"
	"pineledger/core/milp"
	"pineledger/core/points"
)

// Question is a draw in a sentence: so many items, of each kind so many, evenly
// over some standards, within a filter.
type Question struct {
	Total     int              // items, 1 at least
	Kinds     []KindShare      // together Total; none: any kinds
	Standards []string         // evenly over these, each with everything below it; none: over nothing
	Within    blueprint.Filter // its zero value takes every item
	Seed      uint64           // 0 is a seed like any other
}

// KindShare is how many items are to be of some kinds.
type KindShare struct {
	Kinds []string
	Count int
}

// Spread is a question as blueprint rows, with what could not be even.
type Spread struct {
	Rows []blueprint.Row
	// Uneven names the standards that had too few items; their rest went to the others.
	Uneven []Uneven
}

// Uneven is a standard that got fewer items than its even part.
type Uneven struct {
	Standard   string
	Even, Have int
}

// Spread puts a question into rows, one for each kind and standard that gets items.
// The standards' counts differ by one at most, the extra ones chosen by the seed; where a pool is
// too small its rest goes to the others. Errors are *blueprint.PlaceError.
func (q Question) Spread(tree blueprint.Tree, items []blueprint.Item) (Spread, error) {
	if err := q.check(tree); err != nil {
		return Spread{}, err
	}
	kinds, standards := q.cells()
	pool := q.pools(tree, items, kinds, standards)
	counts := q.table(kinds, pool)
	out := Spread{}
	for k, share := range kinds {
		for s := range standards {
			if counts[k][s] == 0 {
				continue
			}
			n := points.One * points.Points(counts[k][s])
			out.Rows = append(out.Rows, blueprint.Row{ID: fmt.Sprintf("row %d", len(out.Rows)+1), Filter: q.filter(share, standards[s]), Min: n, Max: n})
		}
	}
	for s, code := range standards {
		got := 0
		for k := range kinds {
			got += counts[k][s]
		}
		if even := q.Total / len(standards); got < even {
			out.Uneven = append(out.Uneven, Uneven{code, even, got})
		}
	}
	return out, nil
}

func (q Question) check(tree blueprint.Tree) error {
	if q.Total < 1 || q.Total > 300 {
		return refuse("total", "%d is not 1–300", q.Total)
	}
	sum := 0
	for i, share := range q.Kinds {
		if share.Count < 1 {
			return refuse(fmt.Sprintf("kinds[%d].count", i), "%d is not above 0", share.Count)
		}
		sum += share.Count
	}
	if len(q.Kinds) > 0 && sum != q.Total {
		return refuse("kinds", "add up to %d, not to %d", sum, q.Total)
	}
	for i, code := range q.Standards {
		if !tree.Has(code) {
			return refuse(fmt.Sprintf("standards[%d]", i), "%q is not in the tree", code)
		}
	}
	return nil
}

// cells are the kinds and standards that the table runs over; "" stands for any standard.
func (q Question) cells() ([]KindShare, []string) {
	kinds, standards := q.Kinds, q.Standards
	if len(kinds) == 0 {
		kinds = []KindShare{{Count: q.Total}}
	}
	if len(standards) == 0 {
		standards = []string{""}
	}
	return kinds, standards
}

func (q Question) filter(share KindShare, standard string) blueprint.Filter {
	f := q.Within
	if len(share.Kinds) > 0 {
		f.Kinds = share.Kinds
	}
	if standard != "" {
		f.Standards = []string{standard}
	}
	return f
}

func (q Question) pools(tree blueprint.Tree, items []blueprint.Item, kinds []KindShare, standards []string) [][]int {
	out := make([][]int, len(kinds))
	for k, share := range kinds {
		out[k] = make([]int, len(standards))
		for s, code := range standards {
			f := q.filter(share, code)
			copied := map[string]bool{} // of near copies one can come
			for _, it := range items {
				if it.Hold || copied[it.Kin] || !tree.Meets(f, it) {
					continue
				}
				out[k][s]++
				copied[it.Kin] = it.Kin != ""
			}
		}
	}
	return out
}

// table finds how many items of each kind each standard gets: as even over the
// standards as the pools allow. The u-th item of a standard costs u, so that even counts
// cost least; what the kinds cannot get in any pool is left to the draw to name, and goes to the first standard.
func (q Question) table(kinds []KindShare, pool [][]int) [][]int {
	noise := rand.New(rand.NewPCG(q.Seed, 5))
	m := len(pool[0])
	p := &milp.Program{}
	cell := make([][]int, len(kinds))
	missing := make([]int, len(kinds))
	var aim []milp.Term
	for k, share := range kinds {
		for s := range m {
			cell[k] = append(cell[k], p.Column(0, float64(min(pool[k][s], share.Count)), true, 0))
		}
		missing[k] = p.Column(0, float64(share.Count), true, 0)
		aim = append(aim, milp.Term{Column: missing[k], Value: 1e6})
	}
	for s := range m {
		column := []milp.Term{}
		for k := range kinds {
			column = append(column, milp.Term{Column: cell[k][s], Value: 1})
		}
		tie := noise.IntN(900)
		for u := range q.Total {
			unit := p.Column(0, 1, true, 1)
			column = append(column, milp.Term{Column: unit, Value: -1})
			aim = append(aim, milp.Term{Column: unit, Value: float64(1000*u + tie)})
		}
		p.Row(0, 0, column)
	}
	for k, share := range kinds {
		row := []milp.Term{{Column: missing[k], Value: 1}}
		for s := range m {
			row = append(row, milp.Term{Column: cell[k][s], Value: 1})
		}
		p.Row(float64(share.Count), float64(share.Count), row)
	}
	p.Minimize(aim)
	counts := make([][]int, len(kinds))
	best := math.Inf(1)
	milp.Search{Program: p, Step: 1, Known: best, Stop: func() bool { return false }, Visit: func(x []float64, whole bool) float64 {
		if whole && cost(aim, x) < best {
			best = cost(aim, x)
			for k := range kinds {
				counts[k] = make([]int, m)
				for s := range m {
					counts[k][s] = int(math.Round(x[cell[k][s]]))
				}
				counts[k][0] += int(math.Round(x[missing[k]]))
			}
		}
		return best
	}}.Run()
	return counts
}
