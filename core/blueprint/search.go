package blueprint

import (
	"encoding/binary"
	"slices"

	"pineledger/core/points"
)

// Rows in points over lines of unlike points are a packing puzzle, not a flow.
// search settles it by dynamic programming over the lines: a state is how full
// each row is (no fuller than its Max: what is over is already paid for), and of
// two ways to one state the cheaper is kept. A state whose bound is no better
// than the best answer known is dropped. mostStates keeps memory bounded.
const mostStates = 400_000

type state struct {
	fill []points.Points
	paid cost // what is already over
	from int  // state of the layer before
	row  int  // where that layer's line went
}

// search improves the assignment of a part and tells whether it is proven best.
func (p *puzzle) search(part []int) bool {
	p.climb(part)
	rows := p.rowsOf(part)
	best := p.costOf(rows, p.fill)
	lines := slices.Clone(part)
	slices.SortStableFunc(lines, func(a, b int) int { return int(p.lines[b].Points - p.lines[a].Points) })
	if !p.bound(lines, rows, make([]points.Points, len(p.rows)), cost{}).less(best) {
		return true
	}

	layers := [][]state{{{fill: make([]points.Points, len(p.rows))}}}
	states := 0
	for depth, line := range lines {
		next := p.layer(layers[depth], line, lines[depth+1:], rows, best)
		if states += len(next); states > mostStates {
			return false
		}
		layers = append(layers, next)
	}
	final := layers[len(lines)]
	at := -1
	for k, s := range final {
		if c := s.paid.plus(p.costOf(rows, s.fill)); c.less(best) {
			best, at = c, k
		}
	}
	if at < 0 {
		return true // nothing better than what climb found
	}
	for depth := len(lines); depth > 0; depth-- {
		s := layers[depth][at]
		p.put(lines[depth-1], s.row)
		at = s.from
	}
	return true
}

// layer gives the states after one more line, the cheapest way to each.
func (p *puzzle) layer(before []state, line int, rest, rows []int, best cost) []state {
	var out []state
	known := map[string]int{}
	for from, s := range before {
		for _, row := range p.fits[line] {
			fill := slices.Clone(s.fill)
			fill[row] += p.rows[row].weight(p.lines[line])
			over := max(fill[row]-p.rows[row].Max, 0)
			fill[row] -= over
			paid := s.paid.plus(cost{0, over})
			if !p.bound(rest, rows, fill, paid).less(best) {
				continue
			}
			k := stateKey(fill, rows)
			at, ok := known[k]
			if !ok {
				known[k] = len(out)
				out = append(out, state{fill, paid, from, row})
			} else if paid.less(out[at].paid) {
				out[at] = state{fill, paid, from, row}
			}
		}
	}
	return out
}

func stateKey(fill []points.Points, rows []int) string {
	key := make([]byte, 0, 4*len(rows))
	for _, j := range rows {
		key = binary.AppendVarint(key, int64(fill[j]))
	}
	return string(key)
}

func (p *puzzle) rowsOf(part []int) []int {
	var rows []int
	for _, i := range part {
		rows = append(rows, p.fits[i]...)
	}
	slices.Sort(rows)
	return slices.Compact(rows)
}

func (p *puzzle) costOf(rows []int, fill []points.Points) cost {
	var c cost
	for _, j := range rows {
		c = c.plus(p.rowCost(j, fill[j]))
	}
	return c
}

// bound is no more than any way to place the rest can end at: each row can get
// at most all that fits it, all rows together at most each line's largest
// weight; and what the lines weigh at least must go somewhere.
func (p *puzzle) bound(rest, rows []int, fill []points.Points, paid cost) cost {
	within := make(map[int]points.Points, len(rows))
	var most, least points.Points
	for _, i := range rest {
		hi, lo := points.Points(0), points.Most
		for _, j := range p.fits[i] {
			w := p.rows[j].weight(p.lines[i])
			within[j] += w
			hi, lo = max(hi, w), min(lo, w)
		}
		most += hi
		least += lo
	}
	var alone, need, room points.Points
	for _, j := range rows {
		short := max(p.rows[j].Min-fill[j], 0)
		need += short
		alone += max(short-within[j], 0)
		room += max(p.rows[j].Max-fill[j], 0)
	}
	return paid.plus(cost{max(alone, need-most), max(least-room, 0)})
}

// climb improves an assignment by moving one line, or trading two, while that helps.
func (p *puzzle) climb(part []int) {
	rows := p.rowsOf(part)
	now := p.costOf(rows, p.fill)
	for better := true; better; {
		better = false
		for _, i := range part {
			for _, to := range p.fits[i] {
				from := p.at[i]
				if p.put(i, to); p.costOf(rows, p.fill).less(now) {
					now, better = p.costOf(rows, p.fill), true
					continue
				}
				if p.trade(part, rows, i, to, from, now) {
					now, better = p.costOf(rows, p.fill), true
					continue
				}
				p.put(i, from)
			}
		}
	}
}

// trade looks for a line of row to that goes to from instead, now that line i is in to.
func (p *puzzle) trade(part, rows []int, i, to, from int, now cost) bool {
	for _, other := range part {
		if other == i || p.at[other] != to || !slices.Contains(p.fits[other], from) {
			continue
		}
		if p.put(other, from); p.costOf(rows, p.fill).less(now) {
			return true
		}
		p.put(other, to)
	}
	return false
}
