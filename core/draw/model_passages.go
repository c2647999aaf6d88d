package draw

import (
	"math"

	"pineledger/core/milp"
)

// passageRows bound the items of each passage, and the passages. The rest is said
// once it is broken.
func (m *model) passageRows(f int, t *part) {
	p, rules := m.p, m.p.plan.Passages
	if m.loose.passages {
		return
	}
	for k, items := range p.passages {
		if most := m.mostOf(k); most < len(items) {
			var all []milp.Term
			for _, i := range items {
				all = append(all, milp.Term{Column: t.x[i], Value: 1})
			}
			m.row(0, float64(m.times*most), all)
		}
	}
	if rules.Max != nil {
		for range p.passages {
			t.z = append(t.z, m.program.Column(0, float64(m.times), true, rankPassage))
			m.program.Raise(t.z[len(t.z)-1])
		}
		m.usePassages(f, t)
	}
}

// mostOf is how many items of a passage a form can take.
func (m *model) mostOf(k int) int {
	if most := m.p.plan.Passages.ItemsMax; most > 0 {
		return min(most, len(m.p.passages[k]))
	}
	return len(m.p.passages[k])
}

// usePassages bounds the passages: those that are linked by their columns, the others
// by how many the items used make up at least.
func (m *model) usePassages(f int, t *part) {
	var used []milp.Term
	for k, items := range m.p.passages {
		if m.linked[[2]int{f, k}] {
			used = append(used, milp.Term{Column: t.z[k], Value: 1})
			continue
		}
		for _, i := range items {
			used = append(used, milp.Term{Column: t.x[i], Value: 1 / float64(m.mostOf(k))})
		}
	}
	m.row(0, float64(m.times**m.p.plan.Passages.Max), used)
}

// countPassages says, where more passages are used than may be, that no choice of
// one item from each can exceed their number: it takes the item of the largest
// value. That is exact for whole values, and one row speaks for all passages. The
// passages that are most in play get a column of their own, to be branched on: it
// stands for all of their items.
func (m *model) countPassages(f int, t *part, x []float64) {
	p := m.p
	if m.loose.passages {
		return
	}
	var largest []milp.Term
	var inPlay []int
	var n float64
	for k, items := range p.passages {
		first := items[0]
		for _, i := range items {
			if x[t.x[i]] > x[t.x[first]] {
				first = i
			}
		}
		m.enoughOf(t, items, first, x)
		column := t.x[first]
		if m.linked[[2]int{f, k}] {
			if x[t.z[k]] > x[column] {
				column = t.z[k]
			}
		} else if x[column] > 0.25 {
			inPlay = append(inPlay, k)
		}
		n += x[column]
		largest = append(largest, milp.Term{Column: column, Value: 1})
	}
	if t.z == nil {
		return
	}
	if n > float64(m.times**p.plan.Passages.Max)+1e-6 {
		m.row(0, float64(m.times**p.plan.Passages.Max), largest)
	}
	for _, k := range inPlay {
		m.linked[[2]int{f, k}] = true
		m.link(t, k)
	}
	if inPlay != nil {
		m.usePassages(f, t)
	}
}

// link ties a passage's column to its items.
func (m *model) link(t *part, k int) {
	least, most := []milp.Term{}, []milp.Term{}
	for _, i := range m.p.passages[k] {
		least = append(least, milp.Term{Column: t.x[i], Value: 1})
		most = append(most, milp.Term{Column: t.x[i], Value: 1})
	}
	m.row(0, math.Inf(1), append(least, milp.Term{Column: t.z[k], Value: -float64(max(m.p.plan.Passages.ItemsMin, 1))}))
	m.row(math.Inf(-1), 0, append(most, milp.Term{Column: t.z[k], Value: -float64(m.mostOf(k))}))
}

// enoughOf says, where it is broken, that an item brings the least number of its passage with it.
func (m *model) enoughOf(t *part, items []int, first int, x []float64) {
	least := float64(m.p.plan.Passages.ItemsMin)
	var n float64
	for _, i := range items {
		n += x[t.x[i]]
	}
	if x[t.x[first]]*least <= n+1e-6 {
		return
	}
	terms := []milp.Term{{Column: t.x[first], Value: -least}}
	for _, i := range items {
		terms = append(terms, milp.Term{Column: t.x[i], Value: 1})
	}
	m.row(0, math.Inf(1), terms)
}
