package draw

import (
	"cmp"
	"math"
	"slices"

	"pineledger/core/blueprint"
	"pineledger/core/milp"
)

// model is a pool and its plan as a program. Each part stands for one form, or
// one part for all forms together: then every amount is times their number, and
// what the program finds is a bound, not an answer (for one form it is both).
type model struct {
	p       *pool
	program *milp.Program
	times   int // forms that a part stands for
	parts   []*part
	loose   looseness
	uses    []milp.Term
	off     []milp.Term // the parts' difficulty outside the tolerance
	// Rows given only once they are broken, so that the program stays small.
	linked map[[2]int]bool // part, passage
	parted map[int]bool    // items that are in one form only
	apart  map[[2]int]bool // part, clique
}

// part is the program's columns of one form.
type part struct {
	x []int // of each item
	y [][]int
	z []int // of each passage: 1 where it is used; nil where their number is free
}

// looseness leaves rules out, to find which of them cannot be met.
type looseness struct {
	total, passages, hostile, keys, fixed bool
	// filling lets rows be short and counts instead how much of their minimum they get.
	filling bool
	rows    []bool // with filling: the rows that are counted; nil: all
	// upTo bounds the items of each part by the total instead of asking for just so many (only without total).
	upTo bool
}

const (
	rankPassage = iota
	rankClaim
	rankItem
	rankKey
)

func newModel(p *pool, parts, times int, loose looseness) *model {
	m := &model{p: p, program: &milp.Program{}, times: times, loose: loose,
		linked: map[[2]int]bool{}, parted: map[int]bool{}, apart: map[[2]int]bool{}}
	for range parts {
		m.parts = append(m.parts, &part{})
	}
	for _, part := range m.parts {
		m.columns(part)
	}
	m.park()
	for f, part := range m.parts {
		m.claimRows(part)
		m.totalRow(part)
		m.keyRows(part)
		m.passageRows(f, part)
	}
	return m
}

// columns makes a column for each item; the items of a passage that must come whole share one.
func (m *model) columns(t *part) {
	p := m.p
	all := float64(m.times)
	t.x = make([]int, len(p.items))
	for i := range p.items {
		if k := p.passage[i]; k >= 0 && p.plan.Passages.Whole && !m.loose.passages {
			if first := p.passages[k][0]; first < i {
				t.x[i] = t.x[first]
				if p.shared[i] && !m.loose.fixed {
					m.program.Fix(t.x[i], all, all)
				}
				continue
			}
		}
		lo, hi := 0.0, 1.0
		if p.shared[i] {
			hi = all
			if !m.loose.fixed {
				lo = all
			}
		}
		t.x[i] = m.program.Column(lo, hi, true, rankItem)
	}
	for i := range p.items {
		m.uses = append(m.uses, milp.Term{Column: t.x[i], Value: float64(p.items[i].Uses)})
	}
	t.y = make([][]int, len(p.classes))
	for c, cl := range p.classes {
		if len(cl.rows) < 2 {
			continue
		}
		most := 0.0
		for _, i := range cl.items {
			if p.shared[i] {
				most += all
			} else {
				most++
			}
		}
		for range cl.rows {
			t.y[c] = append(t.y[c], m.program.Column(0, most, cl.points != 0, rankClaim))
		}
	}
}

// Of a class with many items the program looks at first only at those used
// least, and at some of every difficulty.
const (
	parkAbove = 1200 // items in the pool
	keptUsed  = 12
	keptEasy  = 12
)

func (m *model) park() {
	if len(m.p.items) < parkAbove {
		return
	}
	for _, c := range m.p.classes {
		for _, i := range m.p.lessUseful(c.items) {
			for _, t := range m.parts {
				m.program.Park(t.x[i])
			}
		}
	}
}

// lessUseful are the items of a class beyond those used least and some of every difficulty.
func (p *pool) lessUseful(items []int) []int {
	if len(items) <= keptUsed+keptEasy {
		return nil
	}
	byUse := slices.Clone(items)
	slices.SortStableFunc(byUse, func(a, b int) int { return p.items[a].Uses - p.items[b].Uses })
	rest := byUse[keptUsed:]
	slices.SortStableFunc(rest, func(a, b int) int { return ease(p.items[a]) - ease(p.items[b]) })
	var out []int
	for k, i := range rest {
		if k*keptEasy/len(rest) == (k+1)*keptEasy/len(rest) && !p.shared[i] {
			out = append(out, i)
		}
	}
	return out
}

func ease(it blueprint.Item) int {
	if it.Difficulty == nil {
		return 0
	}
	return *it.Difficulty
}

// sum adds up terms so that each column comes once, in the order of the columns.
func sum(terms []milp.Term) []milp.Term {
	slices.SortStableFunc(terms, func(a, b milp.Term) int { return a.Column - b.Column })
	out := terms[:0]
	for _, t := range terms {
		if n := len(out); n > 0 && out[n-1].Column == t.Column {
			out[n-1].Value += t.Value
		} else {
			out = append(out, t)
		}
	}
	return out
}

func (m *model) row(lo, hi float64, terms []milp.Term) {
	m.program.Row(lo, hi, sum(slices.Clone(terms)))
}

// claimRows says that what is chosen of a class goes to its rows, and that each row is within its plan.
func (m *model) claimRows(t *part) {
	p := m.p
	held := make([][]milp.Term, len(p.rows))
	for c, cl := range p.classes {
		if t.y[c] == nil {
			for _, i := range cl.items {
				held[cl.rows[0]] = append(held[cl.rows[0]], milp.Term{Column: t.x[i], Value: float64(p.worth(i, cl.rows[0]))})
			}
			continue
		}
		var terms []milp.Term
		for _, i := range cl.items {
			terms = append(terms, milp.Term{Column: t.x[i], Value: 1})
		}
		for k, row := range cl.rows {
			terms = append(terms, milp.Term{Column: t.y[c][k], Value: -1})
			held[row] = append(held[row], milp.Term{Column: t.y[c][k], Value: float64(p.worth(cl.items[0], row))})
		}
		m.row(0, 0, terms)
	}
	k := float64(m.times)
	for j, r := range p.rows {
		least := k * float64(r.Min)
		if m.loose.filling {
			least = 0
		}
		m.row(least, k*float64(r.Max), held[j])
	}
	if m.loose.filling {
		m.fillRows(held)
	}
}

// fillRows aims at the most that the counted rows can get of their minimum.
func (m *model) fillRows(held [][]milp.Term) {
	k := float64(m.times)
	for j, r := range m.p.rows {
		if m.loose.rows != nil && !m.loose.rows[j] || r.Min == 0 {
			continue
		}
		filled := m.program.Column(0, k*float64(r.Min), false, rankClaim)
		m.row(0, math.Inf(1), append(slices.Clone(held[j]), milp.Term{Column: filled, Value: -1}))
		m.off = append(m.off, milp.Term{Column: filled, Value: -1})
	}
}

func (m *model) totalRow(t *part) {
	if m.p.plan.Total == nil || m.loose.total && !m.loose.upTo {
		return
	}
	var all []milp.Term
	for _, column := range t.x {
		all = append(all, milp.Term{Column: column, Value: 1})
	}
	n := float64(m.times * *m.p.plan.Total)
	least := n
	if m.loose.upTo {
		least = 0
	}
	m.row(least, n, all)
}

func (m *model) keyRows(t *part) {
	if m.p.plan.KeySpread == nil || m.p.keys < 2 || m.loose.keys {
		return
	}
	at := make([][]milp.Term, m.p.keys)
	for i, k := range m.p.key {
		if k >= 0 {
			at[k] = append(at[k], milp.Term{Column: t.x[i], Value: 1})
		}
	}
	least := m.program.Column(0, float64(len(m.p.items)*m.times), false, rankKey)
	spread := float64(m.times * *m.p.plan.KeySpread)
	for _, terms := range at {
		m.row(0, spread, append(terms, milp.Term{Column: least, Value: -1}))
	}
}

// lazy adds the rows that x breaks: items need their passage, a passage its
// least number of items, hostile items do not meet, and an item is in one form only.
func (m *model) lazy(x []float64) bool {
	before := m.rows()
	for f, t := range m.parts {
		m.countPassages(f, t, x)
		m.keepApart(f, t, x)
	}
	m.keepToOneForm(x)
	return m.rows() > before
}

func (m *model) rows() int { return m.program.Rows() }

func (m *model) keepApart(f int, t *part, x []float64) {
	if m.loose.hostile {
		return
	}
	for k, items := range m.p.cliques {
		id := [2]int{f, k}
		if m.apart[id] {
			continue
		}
		var n float64
		for _, i := range items {
			n += x[t.x[i]]
		}
		// Each of the forms that a part stands for can have one of them.
		most := float64(m.times)
		if n <= most+1e-6 {
			continue
		}
		m.apart[id] = true
		var terms []milp.Term
		for _, i := range items {
			terms = append(terms, milp.Term{Column: t.x[i], Value: 1})
		}
		m.row(math.Inf(-1), most, terms)
	}
}

func (m *model) keepToOneForm(x []float64) {
	if len(m.parts) < 2 {
		return
	}
	for i := range m.p.items {
		if m.parted[i] {
			continue
		}
		var n float64
		for _, t := range m.parts {
			n += x[t.x[i]]
		}
		if m.p.shared[i] {
			if m.loose.fixed && n > 1e-6 {
				m.parted[i] = true
				m.inAll(i)
			}
			continue
		}
		if n > 1+1e-6 {
			m.parted[i] = true
			var terms []milp.Term
			for _, t := range m.parts {
				terms = append(terms, milp.Term{Column: t.x[i], Value: 1})
			}
			m.row(math.Inf(-1), 1, terms)
		}
	}
}

// inAll says that an item is in every form or in none.
func (m *model) inAll(i int) {
	for f := range m.parts[1:] {
		m.row(0, 0, []milp.Term{{Column: m.parts[f].x[i], Value: 1}, {Column: m.parts[f+1].x[i], Value: -1}})
	}
}

// difficultyRows measure how far each part is outside the tolerance.
func (m *model) difficultyRows() {
	target := m.p.plan.Difficulty
	if target == nil {
		return
	}
	for _, t := range m.parts {
		var above, below []milp.Term
		most := 1.0
		for i, it := range m.p.items {
			if it.Difficulty == nil {
				continue
			}
			above = append(above, milp.Term{Column: t.x[i], Value: float64(*it.Difficulty - target.Target - target.Tolerance)})
			below = append(below, milp.Term{Column: t.x[i], Value: float64(target.Target - target.Tolerance - *it.Difficulty)})
			most += 2000
		}
		off := m.program.Column(0, most*float64(m.times), false, rankKey)
		m.row(math.Inf(-1), 0, append(above, milp.Term{Column: off, Value: -1}))
		m.row(math.Inf(-1), 0, append(below, milp.Term{Column: off, Value: -1}))
		m.off = append(m.off, milp.Term{Column: off, Value: 1})
	}
}

// spreadTerms give the spread: they order the parts by their sum of difficulties and
// give the last less the first. Where one form is drawn beside others, it is what
// that form adds to theirs.
func (m *model) spreadTerms() []milp.Term {
	sums := func(t *part, sign float64) []milp.Term {
		var out []milp.Term
		for i, it := range m.p.items {
			if it.Difficulty != nil {
				out = append(out, milp.Term{Column: t.x[i], Value: sign * float64(*it.Difficulty)})
			}
		}
		return out
	}
	if m.p.beside != nil {
		most := 1000 * float64(len(m.p.items)+len(m.p.beside))
		above, below := m.program.Column(0, most, false, rankKey), m.program.Column(0, most, false, rankKey)
		m.row(math.Inf(-1), float64(slices.Max(m.p.beside)), append(sums(m.parts[0], 1), milp.Term{Column: above, Value: -1}))
		m.row(float64(slices.Min(m.p.beside)), math.Inf(1), append(sums(m.parts[0], 1), milp.Term{Column: below, Value: 1}))
		return []milp.Term{{Column: above, Value: 1}, {Column: below, Value: 1}}
	}
	for f := range m.parts[1:] {
		m.row(0, math.Inf(1), append(sums(m.parts[f+1], 1), sums(m.parts[f], -1)...))
	}
	return sum(append(sums(m.parts[len(m.parts)-1], 1), sums(m.parts[0], -1)...))
}

// keepTo holds an aim at the value that was attained.
func (m *model) keepTo(terms []milp.Term, value float64) {
	if len(terms) > 0 {
		m.row(math.Inf(-1), value, slices.Clone(terms))
	}
}

// chosen reads the items of each part. Where values are not whole, each class
// gives as many items as they add up to, those with the largest values first.
func (m *model) chosen(x []float64) [][]int {
	var out [][]int
	taken := make([]bool, len(m.p.items))
	for _, t := range m.parts {
		var items []int
		for _, c := range m.p.classes {
			var some []int
			var n float64
			for _, i := range c.items {
				if v := x[t.x[i]]; v > 1e-6 {
					n += v
					if !taken[i] {
						some = append(some, i)
					}
				}
			}
			slices.SortStableFunc(some, func(a, b int) int { return cmp.Compare(x[t.x[b]], x[t.x[a]]) })
			items = append(items, some[:min(len(some), int(math.Round(n)))]...)
		}
		for _, i := range items {
			taken[i] = !m.p.shared[i]
		}
		slices.Sort(items)
		out = append(out, items)
	}
	return out
}
