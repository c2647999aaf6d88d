package draw

import "slices"

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
	for !stop() && (o.single() || o.across() || o.double()) {
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

// step is what a trade would change: the place of a form's sum and its uses.
type step struct {
	trade trade
	sum   int
	uses  int
}

// double looks for two trades that help together: of each change of a sum only
// the trades that cost fewest uses are kept, and all pairs of those are tried.
func (o *polisher) double() bool {
	if o.a.p.plan.Difficulty == nil && len(o.a.forms) == 1 {
		return false // then one trade at a time says it all
	}
	steps := o.steps()
	best, found := o.a.aims(), [2]step{}
	improved := false
	for x := range steps {
		if x%64 == 0 && o.stop() {
			break
		}
		for y := x + 1; y < len(steps); y++ {
			s, t := steps[x], steps[y]
			if s.trade.out == t.trade.out && s.trade.form == t.trade.form || s.trade.in == t.trade.in {
				continue
			}
			if aims := o.afterBoth(s, t); aims.less(best) && o.bothFit(s.trade, t.trade) {
				best, found, improved = aims, [2]step{s, t}, true
			}
		}
	}
	if improved {
		o.a.do(found[0].trade)
		o.a.do(found[1].trade)
	}
	return improved
}

func (o *polisher) steps() []step {
	type kind struct{ form, sum, dated int }
	kept := map[kind][]step{}
	var order []kind
	const each = 2
	for f, h := range o.a.forms {
		for _, out := range h.chosen {
			if o.a.p.shared[out] {
				continue
			}
			for _, in := range o.row[h.claim[out]] {
				if o.a.at[in] >= 0 {
					continue
				}
				t := trade{f, out, in}
				was := held{}
				o.shift(&was, t)
				k := kind{f, was.sum, was.dated}
				list := kept[k]
				if len(list) == each && list[each-1].uses <= was.uses || !o.a.fits(t) {
					continue
				}
				if list == nil {
					order = append(order, k)
				}
				list = append(list, step{t, was.sum, was.uses})
				slices.SortStableFunc(list, func(a, b step) int { return a.uses - b.uses })
				kept[k] = list[:min(len(list), each)]
			}
		}
	}
	var out []step
	for _, k := range order {
		out = append(out, kept[k]...)
	}
	return out
}

func (o *polisher) afterBoth(s, t step) Aims {
	hs, ht := o.a.forms[s.trade.form], o.a.forms[t.trade.form]
	savedS, savedT := [3]int{hs.sum, hs.dated, hs.uses}, [3]int{ht.sum, ht.dated, ht.uses}
	o.shift(hs, s.trade)
	o.shift(ht, t.trade)
	aims := o.a.aims()
	ht.sum, ht.dated, ht.uses = savedT[0], savedT[1], savedT[2]
	hs.sum, hs.dated, hs.uses = savedS[0], savedS[1], savedS[2]
	return aims
}

// bothFit tries the second trade after the first.
func (o *polisher) bothFit(s, t trade) bool {
	if !o.a.fits(s) {
		return false
	}
	o.a.do(s)
	ok := o.a.fits(t)
	o.a.do(s.back())
	return ok
}
