package draw

import (
	"slices"

	"pineledger/core/points"
)

// seats are the rows that claim the items of a form, where all rows count items. They follow
// small changes of the form by paths from row to row, without claiming everything anew.
type seats struct {
	p     *pool
	items []int
	row   []int // of each item
	fill  []int // items of each row
}

// newSeats gives nil where rows count points: then each form is a puzzle of its own.
func newSeats(p *pool, items []int) *seats {
	if p.byPoints() {
		return nil
	}
	claim := p.claims(items)
	if claim == nil {
		return nil
	}
	s := &seats{p: p, items: slices.Clone(items), fill: make([]int, len(p.rows))}
	for _, i := range items {
		s.row = append(s.row, claim[i])
		s.fill[claim[i]]++
	}
	return s
}

func (s *seats) clone() *seats {
	return &seats{s.p, slices.Clone(s.items), slices.Clone(s.row), slices.Clone(s.fill)}
}

// with gives the seats of another form; nil where its rows cannot claim it.
func (s *seats) with(items []int) *seats {
	next := &seats{p: s.p, fill: slices.Clone(s.fill)}
	for k, i := range s.items {
		if slices.Contains(items, i) {
			next.items, next.row = append(next.items, i), append(next.row, s.row[k])
		} else {
			next.fill[s.row[k]]--
		}
	}
	for _, i := range items {
		if !slices.Contains(s.items, i) && !next.seat(i) {
			return nil
		}
	}
	if !next.full() {
		return newSeats(s.p, items) // others could move up; whether they do is told by claiming everything anew
	}
	return next
}

// full tells whether every row has its minimum.
func (s *seats) full() bool {
	for row, r := range s.p.rows {
		if s.fill[row] < int(r.Min/points.One) {
			return false
		}
	}
	return true
}

// seat finds room for one more item: in a row of its own, or by moving others on, row by row. Where there is
// no such way, no rows can claim all of the items (augmenting paths; Berge's theorem).
func (s *seats) seat(item int) bool {
	came := make([]int, len(s.p.rows)) // the item that led to a row, by its place; -1: not yet come to
	for r := range came {
		came[r] = -1
	}
	newcomer := len(s.items)
	s.items, s.row = append(s.items, item), append(s.row, -1)
	queue := []int{}
	reach := func(by int) {
		for _, r := range s.p.meets[s.items[by]] {
			if came[r] < 0 {
				came[r] = by
				queue = append(queue, r)
			}
		}
	}
	for reach(newcomer); len(queue) > 0; queue = queue[1:] {
		r := queue[0]
		if s.fill[r] < int(s.p.rows[r].Max/points.One) {
			s.fill[r]++
			for {
				by := came[r]
				r, s.row[by] = s.row[by], r
				if by == newcomer {
					return true
				}
			}
		}
		for k, at := range s.row {
			if at == r {
				reach(k)
			}
		}
	}
	s.items, s.row = s.items[:newcomer], s.row[:newcomer]
	return false
}
