package draw

import (
	"math"
	"slices"
)

// polisher improves an answer by trading items for others of the same row: one
// at a time, between forms, and two at once so that difficulties can meet a sum.
type polisher struct {
	a    *answer
	stop func() bool
	row  [][]int // items that meet each row
}

func polish(a *answer, stop func() bool) *answer {
	o := &polisher{a: a.clone(), stop: stop, row: make([][]int, len(a.p.rows))}
	for i, rows := range a.p.meets {
		for _, r := range rows {
			if !a.p.shared[i] {
				o.row[r] = append(o.row[r], i)
			}
		}
	}
	for !stop() && (o.single() || o.across() || o.double() || o.triple()) {
		continue
	}
	return o.a
}

// after gives the aims after a trade, without doing it.
func (o *polisher) after(t trade) Aims {
	h := o.a.forms[t.form]
	saved := *h
	o.shift(h, t)
	aims := o.a.aims()
	h.sum, h.dated, h.uses = saved.sum, saved.dated, saved.uses
	return aims
}

// shift changes the sums of a form as a trade would.
func (o *polisher) shift(h *held, t trade) {
	in, out := o.a.p.items[t.in], o.a.p.items[t.out]
	if in.Difficulty != nil {
		h.sum += *in.Difficulty
		h.dated++
	}
	if out.Difficulty != nil {
		h.sum -= *out.Difficulty
		h.dated--
	}
	h.uses += in.Uses - out.Uses
}

// single does, for each chosen item, the one trade that helps most.
func (o *polisher) single() bool {
	better := false
	for f, h := range o.a.forms {
		for _, out := range slices.Clone(h.chosen) {
			if o.a.p.shared[out] {
				continue
			}
			best, bestAims := -1, o.a.aims()
			for _, in := range o.row[h.claim[out]] {
				t := trade{f, out, in}
				if o.a.at[in] >= 0 {
					continue
				}
				if aims := o.after(t); aims.less(bestAims) && o.a.fits(t) {
					best, bestAims = in, aims
				}
			}
			if best >= 0 {
				o.a.do(trade{f, out, best})
				better = true
			}
			if o.stop() {
				return better
			}
		}
	}
	return better
}

// across swaps two items between two forms where that helps.
func (o *polisher) across() bool {
	for f := range o.a.forms {
		for g := range o.a.forms[:f] {
			for _, i := range slices.Clone(o.a.forms[f].chosen) {
				for _, j := range slices.Clone(o.a.forms[g].chosen) {
					if o.crossed(f, g, i, j) {
						return true
					}
				}
			}
		}
	}
	return false
}

// crossed swaps item i of form f with item j of form g if they can take each other's row and it helps.
func (o *polisher) crossed(f, g, i, j int) bool {
	p := o.a.p
	rowF, rowG := o.a.forms[f].claim[i], o.a.forms[g].claim[j]
	if p.shared[i] || p.shared[j] || !slices.Contains(p.meets[j], rowF) || !slices.Contains(p.meets[i], rowG) {
		return false
	}
	there, back := trade{f, i, j}, trade{g, j, i}
	before := o.a.aims()
	hf, hg := o.a.forms[f], o.a.forms[g]
	savedF, savedG := *hf, *hg
	o.shift(hf, there)
	o.shift(hg, back)
	helps := o.a.aims().less(before)
	hf.sum, hf.dated, hg.sum, hg.dated = savedF.sum, savedF.dated, savedG.sum, savedG.dated
	hf.uses, hg.uses = savedF.uses, savedG.uses
	if !helps || !o.a.fits(there) || !o.a.fits(back) {
		return false
	}
	o.a.take(f, i)
	o.a.take(g, j)
	o.a.put(f, j, rowF)
	o.a.put(g, i, rowG)
	return true
}

// step is a trade with what it would change.
type step struct {
	trade trade
	uses  int
}

const (
	// mostShift is the most that one trade can change a sum of difficulties.
	mostShift = 1000
	// stepsKept is how many trades are kept for each change of a sum, those that cost fewest uses.
	stepsKept = 3
)

// double looks, form by form, for two trades that help together. For each change
// of the form's sum that would be as good as it can get, the cheapest two trades
// that make it up are tried.
func (o *polisher) double() bool {
	if o.a.p.plan.Difficulty == nil && !o.a.p.compared() {
		return false // then one trade at a time says it all
	}
	for f := range o.a.forms {
		if o.doubleIn(f) {
			return true
		}
		if o.stop() {
			return false
		}
	}
	return false
}

func (o *polisher) doubleIn(f int) bool {
	steps := o.steps(f)
	var shifts []int // that some trade makes
	for k := range steps {
		if steps[k] != nil {
			shifts = append(shifts, k-mostShift)
		}
	}
	h := o.a.forms[f]
	before := o.a.aims()
	best, found := before, [2]step{}
	sum, uses := h.sum, h.uses
	defer func() { h.sum, h.uses = sum, uses }()
	for total := -2 * mostShift; total <= 2*mostShift; total++ {
		h.sum = sum + total
		aims := o.a.aims()
		// Uses apart, is this sum at least as good as what is known?
		if aims.Uses = math.MinInt; !aims.less(best) {
			continue
		}
		h.sum = sum
		for _, x := range shifts {
			y := total - x
			if y < x || y > mostShift || steps[y+mostShift] == nil {
				continue
			}
			for _, s := range steps[x+mostShift] {
				for _, t := range steps[y+mostShift] {
					aims.Uses = before.Uses + s.uses + t.uses
					if !aims.less(best) {
						break
					}
					if s.trade.out != t.trade.out && s.trade.in != t.trade.in && o.bothFit(s.trade, t.trade) {
						best, found = aims, [2]step{s, t}
						break
					}
				}
			}
		}
	}
	h.sum, h.uses = sum, uses
	if !best.less(before) {
		return false
	}
	o.a.do(found[0].trade)
	o.a.do(found[1].trade)
	sum, uses = h.sum, h.uses
	return true
}

// triple looks, form by form, for three trades that leave the form's sum as it is and
// cost fewer uses.
func (o *polisher) triple() bool {
	if o.a.p.plan.Difficulty == nil && !o.a.p.compared() {
		return false
	}
	for f := range o.a.forms {
		if o.tripleIn(f) {
			return true
		}
	}
	return false
}

func (o *polisher) tripleIn(f int) bool {
	steps := o.steps(f)
	var shifts []int // places in steps, those of the cheapest trades first
	for k := range steps {
		if steps[k] != nil {
			shifts = append(shifts, k)
		}
	}
	slices.SortStableFunc(shifts, func(a, b int) int { return steps[a][0].uses - steps[b][0].uses })
	for x, a := range shifts {
		least := steps[a][0].uses
		if least >= 0 || o.stop() {
			return false // of three that save together, one saves
		}
		for _, b := range shifts[x:] {
			if least+2*steps[b][0].uses >= 0 {
				break // the third would have to be cheaper than the second, and comes before it
			}
			c := 3*mostShift - a - b
			if c < 0 || c > 2*mostShift || steps[c] == nil || least+steps[b][0].uses+steps[c][0].uses >= 0 {
				continue
			}
			if o.anyThree(steps[a], steps[b], steps[c]) {
				return true
			}
		}
	}
	return false
}

// anyThree does three trades, one of each list, if they save and fit together.
func (o *polisher) anyThree(as, bs, cs []step) bool {
	for _, a := range as {
		for _, b := range bs {
			for _, c := range cs {
				if a.uses+b.uses+c.uses < 0 && o.doThree(a.trade, b.trade, c.trade) {
					return true
				}
			}
		}
	}
	return false
}

// doThree does trades one after the other; where one does not fit all is undone.
func (o *polisher) doThree(trades ...trade) bool {
	for k, t := range trades {
		for _, before := range trades[:k] {
			if before.out == t.out || before.in == t.in {
				o.undo(trades[:k])
				return false
			}
		}
		if !o.a.fits(t) {
			o.undo(trades[:k])
			return false
		}
		o.a.do(t)
	}
	return true
}

func (o *polisher) undo(done []trade) {
	for _, t := range slices.Backward(done) {
		o.a.do(t.back())
	}
}

// steps are the cheapest trades in a form for each change of its sum. Only trades
// between items that both have a difficulty, or both have none, are looked at.
func (o *polisher) steps(f int) [][]step {
	out := make([][]step, 2*mostShift+1)
	p := o.a.p
	for _, from := range o.a.forms[f].chosen {
		if p.shared[from] {
			continue
		}
		was := p.items[from]
		for _, to := range o.row[o.a.forms[f].claim[from]] {
			is := p.items[to]
			if o.a.at[to] >= 0 || (is.Difficulty == nil) != (was.Difficulty == nil) {
				continue
			}
			shift := mostShift
			if is.Difficulty != nil {
				shift += *is.Difficulty - *was.Difficulty
			}
			list, s := out[shift], step{trade{f, from, to}, is.Uses - was.Uses}
			if len(list) == stepsKept && list[stepsKept-1].uses <= s.uses || !o.a.fits(s.trade) {
				continue
			}
			at := len(list)
			for at > 0 && list[at-1].uses > s.uses {
				at--
			}
			list = slices.Insert(list, at, s)
			out[shift] = list[:min(len(list), stepsKept)]
		}
	}
	return out
}

// bothFit tries the second trade after the first.
func (o *polisher) bothFit(s, t trade) bool {
	h := o.a.forms[s.form]
	sum, uses := h.sum, h.uses
	if !o.a.fits(s) {
		return false
	}
	o.a.do(s)
	ok := o.a.fits(t)
	o.a.do(s.back())
	h.sum, h.uses = sum, uses
	return ok
}
