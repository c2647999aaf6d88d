package draw

import (
	"math"

	"pineledger/core/milp"
)

// share gives the mark of the clock at which an aim hands on to the next one: an
// aim that is not yet proven may take this part of what is left.
func (d *drawing) share(part float64) float64 { return d.clock.Left() * (1 - part) }

// best gives the best answer that it finds in the budget; nil: there is none.
func (d *drawing) best() (*answer, error) {
	if d.pool.forms > 1 {
		return d.twins()
	}
	a := d.thinnedForm()
	if a == nil {
		var err error
		if a, err = d.settled(); a == nil || err != nil {
			return nil, err
		}
	}
	return d.leastUsed(d.evenSpread(d.easiest(a))), nil
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
	visits := 0
	return milp.Search{Program: h.m.program, Step: 1, Known: h.known(), Lazy: h.m.lazy, Stop: h.stop, Visit: func(x []float64, whole bool) float64 {
		// Now and then what is not yet whole is rounded: it is often one trade away from an answer.
		if visits++; whole || worthRounding(visits) {
			h.accept(h.m.chosen(x))
		}
		return h.known()
	}}.Run()
}

// worthRounding is true often at first, and later once in a hundred programs.
func worthRounding(visits int) bool { return visits&(visits-1) == 0 || visits%100 == 0 }

func (h *hunt) known() float64 {
	if h.best == nil {
		return math.Inf(1)
	}
	return h.worth(h.best.aims())
}

func (h *hunt) accept(chosen [][]int) {
	if !h.d.pool.obeys(chosen) {
		return
	}
	a := polish(newAnswer(h.d.pool, chosen), func() bool { return h.d.clock.Left() <= h.left })
	if h.best == nil || a.aims().less(h.best.aims()) {
		h.best = a
	}
}

// soon finds an answer, however good, within the budget; nil: none was found.
func (d *drawing) soon() *answer {
	if a := d.thinnedForm(); a != nil {
		return a
	}
	return d.first()
}

// thinnedForm finds a good form in a thinned pool, if there is one.
func (d *drawing) thinnedForm() *answer {
	return d.thinned(d.share(0.3), func(small *drawing) *answer {
		if a := small.first(); a != nil {
			return small.leastUsed(small.evenSpread(small.easiest(a)))
		}
		return nil
	})
}

// plain gives one form that needed no search, with trades that make it better; nil where it was not so simple.
func (d *drawing) plain() *answer {
	if d.pool.forms > 1 {
		return nil
	}
	a := d.pool.plainly()
	if a == nil {
		return nil
	}
	left := d.share(0.5)
	return polish(a, func() bool { return d.clock.Left() <= left })
}

// first finds an answer within half of the budget; nil: none was found.
func (d *drawing) first() *answer {
	if a := d.plain(); a != nil {
		return a
	}
	h := &hunt{d: d, m: newModel(d.pool, d.pool.forms, 1, looseness{}), worth: unworthy, left: d.share(0.5)}
	h.run(nil)
	return h.best
}

// settled finds an answer, however good, or proves that there is none.
func (d *drawing) settled() (*answer, error) {
	if a := d.plain(); a != nil {
		return a, nil
	}
	h := &hunt{d: d, m: newModel(d.pool, d.pool.forms, 1, looseness{}), worth: unworthy, left: d.share(0.5)}
	if found := h.run(nil); h.best != nil || found.Proven {
		return h.best, nil
	}
	// That rows are short is often seen sooner by asking how much they can get.
	rows := make([]bool, len(d.pool.rows))
	for j, r := range d.pool.rows {
		rows[j] = r.Min > 0
	}
	if set, _, _, err := d.blocking(rows); set != nil && err == nil {
		return nil, nil
	}
	h = &hunt{d: d, m: newModel(d.pool, d.pool.forms, 1, looseness{}), worth: unworthy, left: 0, settle: true}
	if found := h.run(nil); h.best == nil && !found.Proven {
		return nil, ErrUnsettled
	}
	return h.best, nil
}

// unworthy makes any answer end the search.
func unworthy(Aims) float64 { return math.Inf(-1) }

// easiest minimizes how far the forms are outside their difficulty.
func (d *drawing) easiest(a *answer) *answer {
	if a.aims().Difficulty == 0 {
		return a
	}
	m := newModel(d.pool, d.pool.forms, 1, looseness{})
	m.difficultyRows()
	h := &hunt{d: d, m: m, best: a, worth: func(a Aims) float64 { return float64(a.Difficulty) }, left: d.share(0.4)}
	d.bound.Difficulty = int(math.Max(h.run(m.off).Bound, 0))
	return h.best
}

// leastUsed minimizes the uses among answers that are as good in the aims before.
func (d *drawing) leastUsed(a *answer) *answer {
	m := newModel(d.pool, d.pool.forms, 1, looseness{})
	m.difficultyRows()
	aims := a.aims()
	m.keepTo(m.off, float64(aims.Difficulty))
	if d.pool.compared() {
		m.keepTo(m.spreadTerms(), float64(aims.Spread-d.pool.apart()))
	}
	h := &hunt{d: d, m: m, best: a, worth: func(a Aims) float64 { return float64(a.Uses) }}
	d.bound.Uses = max(d.bound.Uses, int(math.Max(h.run(m.uses).Bound, 0)))
	return h.best
}
