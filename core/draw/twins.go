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
		h := &hunt{d: d, m: newModel(d.pool, d.pool.forms, 1, looseness{}), worth: func(Aims) float64 { return 0 }, left: leftAfterDifficulty, settle: true}
		found := h.run(nil)
		if h.best == nil {
			if !found.Proven {
				return nil, ErrUnsettled
			}
			return nil, nil
		}
		a = h.best
	}
	a = d.evenDifficulty(a)
	a = d.evenSpread(a)
	return d.leastUsedTwins(a), nil
}

// oneByOne draws each form from what the ones before left over; nil where one finds nothing.
func (d *drawing) oneByOne() *answer {
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
		items, found := d.first(m, m.uses, leftAfterDifficulty)
		if !found {
			return nil
		}
		chosen = append(chosen, items[0])
	}
	if a := newAnswer(d.pool, chosen); a != nil {
		return polish(a, func() bool { return d.clock.Left() <= leftAfterSpread })
	}
	return nil
}

// first gives the first whole point that the search comes to.
func (d *drawing) first(m *model, aim []milp.Term, left float64) (chosen [][]int, found bool) {
	m.program.Minimize(aim)
	milp.Search{Program: m.program, Known: math.Inf(1), Lazy: m.lazy,
		Stop: func() bool { return found || d.clock.Left() <= left },
		Visit: func(x []float64, whole bool) float64 {
			if whole && !found {
				chosen, found = m.chosen(x), true
			}
			return math.Inf(1)
		}}.Run()
	return chosen, found
}

func (d *drawing) evenDifficulty(a *answer) *answer {
	if a.aims().Difficulty == 0 {
		return a
	}
	m := newModel(d.pool, d.pool.forms, 1, looseness{})
	m.difficultyRows()
	h := &hunt{d: d, m: m, best: a, worth: func(a Aims) float64 { return float64(a.Difficulty) }, left: leftAfterDifficulty}
	d.bound.Difficulty = int(math.Max(h.run(m.off).Bound, 0))
	return h.best
}

func (d *drawing) evenSpread(a *answer) *answer {
	if a.aims().Spread == 0 {
		return a
	}
	m := newModel(d.pool, d.pool.forms, 1, looseness{})
	m.difficultyRows()
	m.keepTo(m.off, float64(a.aims().Difficulty))
	h := &hunt{d: d, m: m, best: a, worth: func(a Aims) float64 { return float64(a.Spread) }, left: leftAfterSpread}
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
	best := a
	found := milp.Search{Program: joint.program, WholeCosts: true, Known: float64(a.aims().Uses), Lazy: joint.lazy,
		Stop: func() bool { return d.clock.Left() <= leftAfterSpread/2 },
		Visit: func(x []float64, whole bool) float64 {
			if !whole {
				return float64(best.aims().Uses)
			}
			if split := d.split(joint.chosen(x)[0]); split != nil && split.aims().less(best.aims()) {
				best = split
			}
			return float64(best.aims().Uses)
		}}.Run()
	d.bound.Uses = int(math.Max(found.Bound, 0))
	if d.bound.Uses >= best.aims().Uses {
		return best
	}
	return d.leastUsedApart(best)
}

// split makes forms of a union of items, and evens them; nil where that cannot be.
func (d *drawing) split(union []int) *answer {
	m := newModel(d.pool, d.pool.forms, 1, looseness{})
	for i := range d.pool.items {
		if !slices.Contains(union, i) {
			for _, t := range m.parts {
				m.program.Fix(t.x[i], 0, 0)
			}
		}
	}
	chosen, found := d.first(m, nil, leftAfterSpread/2)
	if !found {
		return nil
	}
	if a := newAnswer(d.pool, chosen); a != nil {
		return polish(a, func() bool { return d.clock.Left() <= leftAfterSpread/2 })
	}
	return nil
}

func (d *drawing) leastUsedApart(a *answer) *answer {
	m := newModel(d.pool, d.pool.forms, 1, looseness{})
	m.difficultyRows()
	aims := a.aims()
	m.keepTo(m.off, float64(aims.Difficulty))
	m.keepTo(m.spreadTerms(), float64(aims.Spread))
	h := &hunt{d: d, m: m, best: a, worth: func(a Aims) float64 { return float64(a.Uses) }}
	found := h.run(m.uses)
	d.bound.Uses = max(d.bound.Uses, int(math.Max(found.Bound, 0)))
	return h.best
}
