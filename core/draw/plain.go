package draw

import (
	"slices"

	"pineledger/core/points"
)

// plainly fills one form row by row with the items used least, the scarcest row first,
// and takes no passage but those that stand. In a rich pool that is an answer at once;
// nil says only that it was not so simple.
func (p *pool) plainly() *answer {
	of := p.plainItems()
	if a := p.filled(of); a != nil || !p.byPoints() {
		return a
	}
	// With fewer items worth more the total may fit.
	for j, items := range of {
		slices.SortStableFunc(items, func(a, b int) int { return int(p.worth(b, j) - p.worth(a, j)) })
	}
	return p.filled(of)
}

// filled fills a form from each row's items in their order.
func (p *pool) filled(of [][]int) *answer {
	f := &filling{p: p, taken: make([]bool, len(p.items)), barred: make([]bool, len(p.items)), fill: make([]points.Points, len(p.rows)), keys: make([]int, p.keys), of: of}
	for i, shared := range p.shared {
		if shared {
			f.take(i, f.neediest(i))
		}
	}
	for _, j := range f.scarcest() {
		for f.fill[j] < p.rows[j].Min {
			if !f.add(j) {
				return nil
			}
		}
	}
	if p.plan.Total != nil {
		for len(f.items) < *p.plan.Total {
			if !slices.ContainsFunc(f.scarcest(), f.add) {
				return nil
			}
		}
	}
	if chosen := [][]int{f.items}; p.obeys(chosen) {
		return newAnswer(p, chosen)
	}
	return nil
}

// plainItems are each row's items that hang on no passage, those used least first.
func (p *pool) plainItems() [][]int {
	of := make([][]int, len(p.rows))
	for i, rows := range p.meets {
		for _, j := range rows {
			if p.passage[i] < 0 {
				of[j] = append(of[j], i)
			}
		}
	}
	for _, items := range of {
		slices.SortStableFunc(items, func(a, b int) int { return p.items[a].Uses - p.items[b].Uses })
	}
	return of
}

// filling is a form that is being filled.
type filling struct {
	p             *pool
	items         []int
	taken, barred []bool // barred: must not meet one that was taken
	fill          []points.Points
	keys          []int
	of            [][]int
}

// scarcest are the rows, those with the fewest items for what they ask first.
func (f *filling) scarcest() []int {
	order := make([]int, len(f.p.rows))
	for j := range order {
		order[j] = j
	}
	slices.SortStableFunc(order, func(a, b int) int {
		return len(f.of[a])*int(f.p.rows[b].Min) - len(f.of[b])*int(f.p.rows[a].Min)
	})
	return order
}

// neediest is the row, of those that an item meets, that lacks most.
func (f *filling) neediest(i int) int {
	return slices.MaxFunc(f.p.meets[i], func(a, b int) int {
		return int(f.p.rows[a].Min-f.fill[a]) - int(f.p.rows[b].Min-f.fill[b])
	})
}

// add takes an item into a row that has room for it; false where none can be.
func (f *filling) add(row int) bool {
	best := -1
	for _, i := range f.of[row] {
		if f.taken[i] || f.barred[i] || f.fill[row]+f.p.worth(i, row) > f.p.rows[row].Max {
			continue
		}
		if f.keyFits(i) {
			best = i
			break
		}
		if best < 0 || f.keys[f.p.key[i]] < f.keys[f.p.key[best]] {
			best = i // not even, but a later item may make it so
		}
	}
	if best < 0 {
		return false
	}
	f.take(best, row)
	return true
}

func (f *filling) keyFits(i int) bool {
	k := f.p.key[i]
	return k < 0 || f.p.plan.KeySpread == nil || f.keys[k]+1-slices.Min(f.keys) <= *f.p.plan.KeySpread
}

func (f *filling) take(i, row int) {
	f.items = append(f.items, i)
	f.taken[i] = true
	f.fill[row] += f.p.worth(i, row)
	if k := f.p.key[i]; k >= 0 {
		f.keys[k]++
	}
	for _, o := range f.p.hostile[i] {
		f.barred[o] = true
	}
	if k := f.p.kin[i]; k >= 0 {
		for _, o := range f.p.kins[k] {
			f.barred[o] = true
		}
	}
}
