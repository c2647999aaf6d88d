package draw

import (
	"slices"

	"pineledger/core/points"
)

// answer is what each form holds and which row claims it.
type answer struct {
	p     *pool
	forms []*held
	at    []int // form of each item that is in one form only; -1: none. Shared items are in all.
}

// held is one form with its sums.
type held struct {
	chosen   []int
	claim    map[int]int
	fill     []points.Points // of each row
	keys     []int           // chosen items with each key position
	of       []int           // chosen items of each passage
	passages int             // passages used
	kin      []int           // chosen items of each class of near copies
	sum      int             // of the difficulties, in thousandths
	dated    int             // items that have a difficulty
	uses     int
}

// newAnswer holds what was chosen; nil if the rows cannot claim it.
func newAnswer(p *pool, chosen [][]int) *answer {
	a := &answer{p: p, at: make([]int, len(p.items))}
	for i := range a.at {
		a.at[i] = -1
	}
	for f, items := range chosen {
		claim := p.claims(items)
		if claim == nil {
			return nil
		}
		h := &held{claim: map[int]int{}, fill: make([]points.Points, len(p.rows)), keys: make([]int, p.keys), of: make([]int, len(p.passages)), kin: make([]int, len(p.kins))}
		a.forms = append(a.forms, h)
		for _, i := range items {
			a.put(f, i, claim[i])
		}
	}
	return a
}

func (a *answer) clone() *answer {
	out := &answer{p: a.p, at: slices.Clone(a.at)}
	for _, h := range a.forms {
		c := *h
		c.chosen, c.fill, c.keys, c.of, c.kin = slices.Clone(h.chosen), slices.Clone(h.fill), slices.Clone(h.keys), slices.Clone(h.of), slices.Clone(h.kin)
		c.claim = make(map[int]int, len(h.claim))
		for i, r := range h.claim {
			c.claim[i] = r
		}
		out.forms = append(out.forms, &c)
	}
	return out
}

func (a *answer) put(f, i, row int) {
	h := a.forms[f]
	h.chosen = append(h.chosen, i)
	h.claim[i] = row
	h.count(a.p, i, row, 1)
	if !a.p.shared[i] {
		a.at[i] = f
	}
}

func (a *answer) take(f, i int) {
	h := a.forms[f]
	h.chosen = slices.DeleteFunc(h.chosen, func(c int) bool { return c == i })
	h.count(a.p, i, h.claim[i], -1)
	delete(h.claim, i)
	a.at[i] = -1
}

// count adds an item to the sums, or takes it off.
func (h *held) count(p *pool, i, row, sign int) {
	h.fill[row] += points.Points(sign) * p.worth(i, row)
	if k := p.key[i]; k >= 0 {
		h.keys[k] += sign
	}
	if k := p.passage[i]; k >= 0 {
		if h.of[k] += sign; h.of[k] == max(sign, 0) {
			h.passages += sign
		}
	}
	if k := p.kin[i]; k >= 0 {
		h.kin[k] += sign
	}
	if d := p.items[i].Difficulty; d != nil {
		h.sum += sign * *d
		h.dated += sign
	}
	h.uses += sign * p.items[i].Uses
}

func (a *answer) aims() Aims {
	var out Aims
	least, most := a.forms[0].sum, a.forms[0].sum
	for _, sum := range a.p.beside {
		least, most = min(least, sum), max(most, sum)
	}
	for _, h := range a.forms {
		out.Difficulty += a.p.outside(h.sum, h.dated)
		out.Uses += h.uses
		least, most = min(least, h.sum), max(most, h.sum)
	}
	out.Spread = most - least
	return out
}

// compared tells whether the sum of a form's difficulties is held against that of another.
func (p *pool) compared() bool { return p.forms > 1 || p.beside != nil }

// apart is the spread of the forms that stand beside.
func (p *pool) apart() int {
	if p.beside == nil {
		return 0
	}
	return slices.Max(p.beside) - slices.Min(p.beside)
}

// outside is how far n difficulties that add up to sum are from the target, beyond the tolerance.
func (p *pool) outside(sum, n int) int {
	t := p.plan.Difficulty
	if t == nil {
		return 0
	}
	off := sum - n*t.Target
	return max(0, max(off, -off)-n*t.Tolerance)
}

// trade is item out of a form for item in, in the same row.
type trade struct{ form, out, in int }

// fits tells whether a trade keeps every rule.
func (a *answer) fits(t trade) bool {
	p, h := a.p, a.forms[t.form]
	row := h.claim[t.out]
	if r := p.rows[row]; r.ByPoints {
		if fill := h.fill[row] - p.items[t.out].Points + p.items[t.in].Points; fill < r.Min || fill > r.Max {
			return false
		}
	}
	for _, o := range p.hostile[t.in] {
		if o != t.out && (a.at[o] == t.form || p.shared[o]) {
			return false
		}
	}
	if k := p.kin[t.in]; k >= 0 && h.kin[k] > 0 && p.kin[t.out] != k {
		return false
	}
	return a.keepsPassages(h, t) && a.keepsKeys(h, t)
}

func (a *answer) keepsPassages(h *held, t trade) bool {
	p, rules := a.p, a.p.plan.Passages
	from, to := p.passage[t.out], p.passage[t.in]
	if from == to {
		return from < 0 || !rules.Whole
	}
	if rules.Whole {
		return from < 0 && to < 0
	}
	used := h.passages
	if from >= 0 {
		if left := h.of[from] - 1; left == 0 {
			used--
		} else if left < rules.ItemsMin {
			return false
		}
	}
	if to >= 0 {
		n := h.of[to] + 1
		if n == 1 {
			used++
		}
		if n < rules.ItemsMin || rules.ItemsMax > 0 && n > rules.ItemsMax {
			return false
		}
	}
	return rules.Max == nil || used <= *rules.Max
}

func (a *answer) keepsKeys(h *held, t trade) bool {
	p := a.p
	if p.plan.KeySpread == nil || p.keys < 2 || p.key[t.out] == p.key[t.in] {
		return true
	}
	least, most := len(p.items), 0
	for k, n := range h.keys {
		if k == p.key[t.out] {
			n--
		}
		if k == p.key[t.in] {
			n++
		}
		least, most = min(least, n), max(most, n)
	}
	return most-least <= *p.plan.KeySpread
}

func (a *answer) do(t trade) {
	row := a.forms[t.form].claim[t.out]
	a.take(t.form, t.out)
	a.put(t.form, t.in, row)
}

func (t trade) back() trade { return trade{t.form, t.in, t.out} }
