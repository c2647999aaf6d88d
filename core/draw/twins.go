package draw

import (
	"math"
	"slices"

	"pineledger/core/milp"
)

// twins draws several forms at once. They are found one after another where the
// pool is rich, else together; then made equal by trades within and between
// them; and the rest of the budget goes to proving how good they are.
func (d *drawing) twins() (*answer, error) {
	a := d.oneByOne()
	if a == nil {
		var err error
		if a, err = d.settled(); a == nil || err != nil {
			return nil, err
		}
	}
	a = d.easiest(a)
	a = d.evenSpread(a)
	return d.leastUsedTwins(a), nil
}

// oneByOne draws each form from what the ones before left over; nil where one finds nothing.
func (d *drawing) oneByOne() *answer {
	left := d.share(0.5)
	var chosen [][]int
	for range d.pool.forms {
		m := newModel(d.pool, 1, 1, looseness{})
		for _, before := range chosen {
			for _, i := range before {
				if !d.pool.shared[i] {
					m.program.Fix(m.parts[0].x[i], 0, 0)
				}
			}
		}
		items, found := d.first(m, m.uses, left)
		if !found {
			return nil
		}
		chosen = append(chosen, items[0])
	}
	if a := newAnswer(d.pool, chosen); a != nil {
		return polish(a, func() bool { return d.clock.Left() <= left })
	}
	return nil
}

// mostSplits is how many programs a search for a first point may solve.
const mostSplits = 2000

// first gives the first whole point that a short search comes to.
func (d *drawing) first(m *model, aim []milp.Term, left float64) (chosen [][]int, found bool) {
	return d.firstWithin(m, aim, func() bool { return d.clock.Left() <= left })
}

// firstWithin is first with an end of its own.
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
	if a.aims().Spread == 0 {
		return a
	}
	m := newModel(d.pool, d.pool.forms, 1, looseness{})
	m.difficultyRows()
	m.keepTo(m.off, float64(a.aims().Difficulty))
	h := &hunt{d: d, m: m, best: a, worth: func(a Aims) float64 { return float64(a.Spread) }, left: d.share(0.4)}
	d.bound.Spread = int(math.Max(h.run(m.spreadTerms()).Bound, 0))
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
	found := milp.Search{Program: joint.program, WholeCosts: true, Known: float64(a.aims().Uses), Lazy: joint.lazy,
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
	chosen, found := d.first(newModel(&only, only.forms, 1, looseness{}), nil, left)
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
