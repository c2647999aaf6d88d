package draw

import "slices"

const (
	thinAbove    = 4000 // items in a pool that is thinned out
	keptPassages = 150
)

// thinned looks for a good answer among a part of a large pool: of each class the items
// used least and some of every difficulty, and the passages that serve most
// rows. nil where the part has none; that proves nothing of the whole.
func (d *drawing) thinned() *answer {
	p := d.pool
	if len(p.items) < thinAbove {
		return nil
	}
	out := p.thin()
	var kept []int
	for i, gone := range out {
		if !gone {
			kept = append(kept, i)
		}
	}
	only := *p
	only.keep(out)
	sub := &drawing{pool: &only, clock: d.clock, seed: d.seed}
	h := &hunt{d: sub, m: newModel(&only, p.forms, 1, looseness{}), worth: unworthy, left: d.share(0.3)}
	h.run(nil)
	if h.best == nil {
		return nil
	}
	m := newModel(&only, p.forms, 1, looseness{})
	m.difficultyRows()
	m.keepTo(m.off, float64(h.best.aims().Difficulty))
	h = &hunt{d: sub, m: m, best: h.best, worth: func(a Aims) float64 { return float64(a.Uses) }, left: d.share(0.3)}
	h.run(m.uses)
	var chosen [][]int
	for _, f := range h.best.forms {
		var items []int
		for _, i := range f.chosen {
			items = append(items, kept[i])
		}
		slices.Sort(items)
		chosen = append(chosen, items)
	}
	return polish(newAnswer(p, chosen), func() bool { return d.clock.Left() <= 0 })
}

// thin says which items of the pool to leave out.
func (p *pool) thin() []bool {
	out := make([]bool, len(p.items))
	for _, c := range p.classes {
		for _, i := range p.lessUseful(c.items) {
			out[i] = true
		}
	}
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
	return out
}
