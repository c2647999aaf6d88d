package draw

import (
	"math"
	"slices"

	"pineledger/core/milp"
)

// twins draws several forms at once. They are found one after another where the pool is
// rich, else together; then each is drawn anew beside the others as long as that helps;
// and the rest of the budget goes to proving how good they are.
func (d *drawing) twins() (*answer, error) {
	a := d.thinned(d.share(0.5), func(small *drawing) *answer {
		if a := small.oneByOne(); a != nil {
			return small.renewed(a, 0)
		}
		return nil
	})
	if a == nil {
		a = d.oneByOne()
	}
	if a == nil {
		var err error
		if a, err = d.settled(); a == nil || err != nil {
			return nil, err
		}
	}
	a = d.renewed(a, d.share(0.3))
	if better := d.evenSpread(d.easiest(a)); better != a {
		a = d.renewed(better, d.share(0.4))
	}
	return d.leastUsedTwins(a), nil
}

// oneByOne draws each form as well as it can from what the ones before left over; nil
// where one finds nothing.
func (d *drawing) oneByOne() *answer {
	from, end := d.clock.Left(), d.share(0.4)
	var chosen [][]int
	var sums []int
	for f := range d.pool.forms {
		left := from - (from-end)*float64(f+1)/float64(d.pool.forms)
		next := d.beside(chosen, sums, nil, left)
		if next == nil {
			return nil
		}
		chosen, sums = append(chosen, next), append(sums, d.pool.sum(next))
	}
	if a := newAnswer(d.pool, chosen); a != nil {
		return polish(a, func() bool { return d.clock.Left() <= end })
	}
	return nil
}

// renewed draws one form after the other anew, while the rest stand, as long as that helps.
func (d *drawing) renewed(a *answer, left float64) *answer {
	for f, idle := 0, 0; idle < len(a.forms) && d.clock.Left() > left; f = (f + 1) % len(a.forms) {
		idle++
		var others [][]int
		var sums []int
		for g, h := range a.forms {
			if g != f {
				others, sums = append(others, h.chosen), append(sums, h.sum)
			}
		}
		next := d.beside(others, sums, a.forms[f].chosen, left)
		if next == nil {
			continue
		}
		if b := newAnswer(d.pool, slices.Insert(others, f, next)); b != nil && b.aims().less(a.aims()) {
			a, idle = b, 0
		}
	}
	return a
}

// beside gives one good form from what the others leave over; sums are those of their
// difficulties. It begins from the items of before, where there are any. nil: none was found.
func (d *drawing) beside(others [][]int, sums, before []int, left float64) []int {
	only := *d.pool
	only.forms, only.beside = 1, sums
	out := make([]bool, len(only.items))
	for _, items := range others {
		for _, i := range items {
			out[i] = !only.shared[i]
		}
	}
	less, kept := only.without(out)
	sub := &drawing{pool: less, clock: d.clock.until(left), seed: d.seed}
	var a *answer
	if before != nil {
		items := make([]int, len(before))
		for k, i := range before {
			items[k], _ = slices.BinarySearch(kept, i)
		}
		a = newAnswer(less, [][]int{items})
	} else {
		a = sub.soon()
	}
	if a == nil {
		return nil
	}
	a = sub.leastUsed(sub.evenSpread(sub.easiest(a)))
	return placed(sorted(a.forms[0].chosen), kept)
}

// sum adds up the difficulties of items, in thousandths.
func (p *pool) sum(items []int) int {
	sum := 0
	for _, i := range items {
		sum += ease(p.items[i])
	}
	return sum
}

// mostSplits is how many programs a search for a first point may solve.
const mostSplits = 2000

// firstPoint gives the first whole point that a short search comes to.
func (d *drawing) firstPoint(m *model, aim []milp.Term, left float64) (chosen [][]int, found bool) {
	return d.firstWithin(m, aim, func() bool { return d.clock.Left() <= left })
}

// firstWithin is firstPoint with an end of its own.
func (d *drawing) firstWithin(m *model, aim []milp.Term, stop func() bool) (chosen [][]int, found bool) {
	m.program.Minimize(aim)
	visits := 0
	milp.Search{Program: m.program, Known: math.Inf(1), Lazy: m.lazy,
		Stop: func() bool { return found || visits > mostSplits || stop() },
		Visit: func(x []float64, whole bool) float64 {
			visits++
			if whole && !found {
				chosen, found = m.chosen(x), true
			}
			return math.Inf(1)
		}}.Run()
	return chosen, found
}

func (d *drawing) evenSpread(a *answer) *answer {
	apart := d.pool.apart()
	if !d.pool.compared() || a.aims().Spread == apart {
		d.bound.Spread = apart
		return a
	}
	m := newModel(d.pool, d.pool.forms, 1, looseness{})
	m.difficultyRows()
	m.keepTo(m.off, float64(a.aims().Difficulty))
	h := &hunt{d: d, m: m, best: a, worth: func(a Aims) float64 { return float64(a.Spread - apart) }, left: d.share(0.4)}
	d.bound.Spread = apart + int(math.Max(h.run(m.spreadTerms()).Bound, 0))
	return h.best
}

// leastUsedTwins bounds the uses by all forms taken together, tries to split what
// that finds into forms that are as good, and closes what is left with the forms apart.
func (d *drawing) leastUsedTwins(a *answer) *answer {
	joint := newModel(d.pool, 1, d.pool.forms, looseness{})
	joint.difficultyRows()
	joint.keepTo(joint.off, float64(a.aims().Difficulty))
	joint.program.Minimize(joint.uses)
	best, left, visits := a, d.share(0.5), 0
	found := milp.Search{Program: joint.program, Step: 1, Known: float64(a.aims().Uses), Lazy: joint.lazy,
		Stop: func() bool { return d.clock.Left() <= left },
		Visit: func(x []float64, whole bool) float64 {
			if visits++; whole || worthRounding(visits) {
				if split := d.split(joint.chosen(x)[0], left); split != nil && split.aims().less(best.aims()) {
					best = split
				}
			}
			if !whole {
				return float64(best.aims().Uses)
			}
			// Taken together the forms can be this cheap; whether they can apart is another question.
			return math.Min(float64(best.aims().Uses), cost(joint.uses, x))
		}}.Run()
	d.bound.Uses = int(math.Max(found.Bound, 0))
	if d.bound.Uses >= best.aims().Uses {
		return best
	}
	return d.leastUsed(best)
}

func cost(terms []milp.Term, x []float64) float64 {
	var sum float64
	for _, t := range terms {
		sum += t.Value * x[t.Column]
	}
	return math.Round(sum)
}

// split makes forms of a union of items, and evens them; nil where that cannot be.
func (d *drawing) split(union []int, left float64) *answer {
	only := *d.pool
	out := make([]bool, len(only.items))
	for i := range out {
		out[i] = !slices.Contains(union, i)
	}
	only.keep(out)
	chosen, found := d.firstPoint(newModel(&only, only.forms, 1, looseness{}), nil, left)
	if !found {
		return nil
	}
	for _, items := range chosen {
		for k, i := range items {
			items[k] = union[i]
		}
	}
	if !d.pool.obeys(chosen) {
		return nil // a passage that came whole in the union alone
	}
	return polish(newAnswer(d.pool, chosen), func() bool { return d.clock.Left() <= left })
}
