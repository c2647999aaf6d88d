package draw

import (
	"math"

	"pineledger/core/milp"
)

// Shares of the budget at which the aims hand on to the next one.
const (
	leftAfterDifficulty = 0.6
	leftAfterSpread     = 0.4
)

// best gives the best answer that it finds in the budget; nil: there is none.
func (d *drawing) best() (*answer, error) {
	if d.pool.forms > 1 {
		return d.twins()
	}
	a, err := d.easiest()
	if a == nil || err != nil {
		return nil, err
	}
	return d.leastUsed(a, 1), nil
}

// hunt is a search for better answers with what the draw knows of them.
type hunt struct {
	d     *drawing
	m     *model
	best  *answer
	worth func(Aims) float64 // the aim in hand
	left  float64            // the share of the budget at which it ends
	// settle goes on beyond the budget until there is an answer or none can be.
	settle bool
}

func (h *hunt) stop() bool {
	if h.best == nil && h.settle {
		return h.d.clock.Over()
	}
	return h.d.clock.Left() <= h.left
}

// run minimizes terms; every answer on the way is polished and kept if it is better.
func (h *hunt) run(terms []milp.Term) milp.Result {
	h.m.program.Minimize(terms)
	known := math.Inf(1)
	if h.best != nil {
		known = h.worth(h.best.aims())
	}
	return milp.Search{Program: h.m.program, WholeCosts: true, Known: known, Lazy: h.m.lazy, Stop: h.stop, Visit: func(x []float64, whole bool) float64 {
		if whole {
			h.accept(h.m.chosen(x))
		}
		if h.best == nil {
			return math.Inf(1)
		}
		return h.worth(h.best.aims())
	}}.Run()
}

func (h *hunt) accept(chosen [][]int) {
	a := newAnswer(h.d.pool, chosen)
	if a == nil {
		return // a rounding that the rows cannot claim is no answer
	}
	if a = polish(a, func() bool { return h.d.clock.Left() <= h.left/2 }); h.best == nil || a.aims().less(h.best.aims()) {
		h.best = a
	}
}

// easiest minimizes how far one form is outside its difficulty, and settles
// whether there is an answer at all.
func (d *drawing) easiest() (*answer, error) {
	m := newModel(d.pool, 1, 1, looseness{})
	m.difficultyRows()
	h := &hunt{d: d, m: m, worth: func(a Aims) float64 { return float64(a.Difficulty) }, left: leftAfterDifficulty, settle: true}
	found := h.run(m.off)
	if h.best == nil {
		if !found.Proven {
			return nil, ErrUnsettled
		}
		return nil, nil
	}
	d.bound.Difficulty = int(math.Max(found.Bound, 0))
	return h.best, nil
}

// leastUsed minimizes the uses among answers that are as good in the aims
// before. With forms at once, what the program finds is only a bound.
func (d *drawing) leastUsed(a *answer, forms int) *answer {
	m := newModel(d.pool, 1, forms, looseness{})
	m.difficultyRows()
	m.keepTo(m.off, float64(a.aims().Difficulty))
	h := &hunt{d: d, m: m, best: a, worth: func(a Aims) float64 { return float64(a.Uses) }}
	found := h.run(m.uses)
	d.bound.Uses = max(d.bound.Uses, int(math.Max(found.Bound, 0)))
	return h.best
}
