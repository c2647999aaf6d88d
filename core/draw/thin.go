package draw

import (
	"slices"

	"pineledger/core/points"
)

const (
	thinAbove    = 1500 // items in a pool that is thinned out
	keptPassages = 150
	keptGroups   = 24 // groups of like difficulty, of each of which some stay
)

// thinned looks for a good answer among a part of a large pool: of each row the items
// used least, on the whole and at every difficulty, and the passages that serve most
// rows. nil where find has none there; that proves nothing of the whole.
func (d *drawing) thinned(left float64, find func(*drawing) *answer) *answer {
	p := d.pool
	if len(p.items) < thinAbove {
		return nil
	}
	only, kept := p.without(p.thin())
	found := find(&drawing{pool: only, clock: d.clock.until(left), seed: d.seed})
	if found == nil {
		return nil
	}
	var chosen [][]int
	for _, f := range found.forms {
		chosen = append(chosen, placed(sorted(f.chosen), kept))
	}
	if !p.obeys(chosen) {
		return nil
	}
	return polish(newAnswer(p, chosen), func() bool { return d.clock.Left() <= left })
}

// without is the pool less the items that are out, with the places in p of those that are kept.
func (p *pool) without(out []bool) (only *pool, kept []int) {
	for i, gone := range out {
		if !gone {
			kept = append(kept, i)
		}
	}
	less := *p
	less.keep(out)
	return &less, kept
}

// placed gives the place of each item in the larger pool.
func placed(items, kept []int) []int {
	out := make([]int, len(items))
	for k, i := range items {
		out[k] = kept[i]
	}
	return out
}

// thin says which items of the pool to leave out.
func (p *pool) thin() []bool {
	out := make([]bool, len(p.items))
	for i := range out {
		out[i] = !p.shared[i]
	}
	of := make([][]int, len(p.rows))
	for i, rows := range p.meets {
		for _, j := range rows {
			of[j] = append(of[j], i)
		}
	}
	for j, items := range of {
		slices.SortStableFunc(items, func(a, b int) int { return p.items[a].Uses - p.items[b].Uses })
		most := min(int(p.rows[j].Max/points.One), 60)
		for _, i := range items[:min(len(items), 12+2*p.forms*most)] {
			out[i] = false
		}
		slices.SortStableFunc(items, func(a, b int) int { return ease(p.items[a]) - ease(p.items[b]) })
		for g := range keptGroups {
			group := items[g*len(items)/keptGroups : (g+1)*len(items)/keptGroups]
			slices.SortStableFunc(group, func(a, b int) int { return p.items[a].Uses - p.items[b].Uses })
			for _, i := range group[:min(len(group), 1+p.forms)] {
				out[i] = false
			}
		}
	}
	p.thinPassages(out)
	return out
}

// thinPassages keeps whole those passages that serve most rows and are used least, and no others.
func (p *pool) thinPassages(out []bool) {
	order := make([]int, len(p.passages))
	worth := make([]int, len(p.passages))
	for k, items := range p.passages {
		order[k] = k
		rows := map[int]bool{}
		for _, i := range items {
			for _, r := range p.meets[i] {
				rows[r] = true
			}
			if p.shared[i] {
				worth[k] += 1_000_000
			}
			worth[k] -= min(p.items[i].Uses, 100)
		}
		worth[k] += 100 * len(rows) * len(items)
	}
	slices.SortStableFunc(order, func(a, b int) int { return worth[b] - worth[a] })
	for n, k := range order {
		for _, i := range p.passages[k] {
			out[i] = n >= keptPassages && !p.shared[i]
		}
	}
}
