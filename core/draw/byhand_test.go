package draw_test

import (
	"math"
	"slices"

	"pineledger/core/blueprint"
	"pineledger/core/draw"
	"pineledger/core/points"
)

// byHand settles a small draw by trying every way to put each item into no form,
// one form or, where it must be in common, all of them. It reads the rules anew, from the
// reference, and shares no code with the draw but the filters.
type byHand struct {
	r     draw.Request
	forms int
	in    []int // form of each item, -1 for none, all for every form
	sets  int   // feasible ways
	best  draw.Aims
	seen  map[string]int // each feasible set of items with its forms
}

const all = 1000

func tryAll(r draw.Request) *byHand {
	h := &byHand{r: r, forms: max(r.Plan.Forms, 1), in: make([]int, len(r.Items)), best: draw.Aims{Difficulty: math.MaxInt}, seen: map[string]int{}}
	h.from(0)
	return h
}

func (h *byHand) feasible() bool { return h.sets > 0 }

func (h *byHand) from(i int) {
	if i == len(h.in) {
		if h.valid() {
			h.sets++
			h.seen[h.name()]++
			if a := h.aims(); less(a, h.best) {
				h.best = a
			}
		}
		return
	}
	id := h.r.Items[i].ID
	if slices.Contains(h.r.Plan.Fixed, id) || slices.Contains(h.r.Plan.Anchors, id) {
		h.in[i] = all
		h.from(i + 1)
		return
	}
	for f := -1; f < h.forms; f++ {
		h.in[i] = f
		h.from(i + 1)
	}
}

func (h *byHand) name() string {
	var out []byte
	for _, f := range h.in {
		out = append(out, byte('a'+f%32))
	}
	return string(out)
}

func (h *byHand) form(f int) []blueprint.Item {
	var out []blueprint.Item
	for i, in := range h.in {
		if in == f || in == all {
			out = append(out, h.r.Items[i])
		}
	}
	return out
}

func (h *byHand) valid() bool {
	for f := range h.forms {
		if !validForm(h.r, h.form(f)) {
			return false
		}
	}
	return true
}

// validForm tells whether items are a form by the plan.
func validForm(r draw.Request, items []blueprint.Item) bool {
	plan := r.Plan
	if plan.Total != nil && len(items) != *plan.Total {
		return false
	}
	for _, it := range items {
		if it.Hold || slices.Contains(plan.Exclude, it.ID) {
			return false
		}
	}
	return validPassages(r, items) && validKeys(r, items) && (!plan.ForbidMeeting || !meeting(r, items)) && claimable(r, items, make([]points.Points, len(plan.Rows)))
}

// meeting tells whether hostile items meet, or near copies of which one at least does not stand there anyway.
func meeting(r draw.Request, items []blueprint.Item) bool {
	stands := func(it blueprint.Item) bool {
		return slices.Contains(r.Plan.Fixed, it.ID) || slices.Contains(r.Plan.Anchors, it.ID)
	}
	for _, a := range items {
		for _, b := range items {
			if slices.Contains(a.Enemies, b.ID) || a.ID != b.ID && a.Kin != "" && a.Kin == b.Kin && !(stands(a) && stands(b)) {
				return true
			}
		}
	}
	return false
}

func validPassages(r draw.Request, items []blueprint.Item) bool {
	rules := r.Plan.Passages
	n := map[string]int{}
	for _, it := range items {
		if it.Passage != "" {
			n[it.Passage]++
		}
	}
	if rules.Max != nil && len(n) > *rules.Max {
		return false
	}
	for passage, k := range n {
		if k < rules.ItemsMin || rules.ItemsMax > 0 && k > rules.ItemsMax {
			return false
		}
		of := 0
		for _, it := range r.Items {
			if it.Passage == passage {
				of++
			}
		}
		if rules.Whole && k < of {
			return false
		}
	}
	return true
}

func validKeys(r draw.Request, items []blueprint.Item) bool {
	if r.Plan.KeySpread == nil {
		return true
	}
	n := map[string]int{}
	for _, it := range r.Items {
		if it.Kind == "single-choice" && it.Key != "" {
			n[it.Key] = 0
		}
	}
	for _, it := range items {
		if it.Kind == "single-choice" && it.Key != "" {
			n[it.Key]++
		}
	}
	least, most := math.MaxInt, 0
	for _, k := range n {
		least, most = min(least, k), max(most, k)
	}
	return len(n) == 0 || most-least <= *r.Plan.KeySpread
}

func claimable(r draw.Request, items []blueprint.Item, fill []points.Points) bool {
	if len(items) == 0 {
		for j, row := range r.Plan.Rows {
			if fill[j] < row.Min {
				return false
			}
		}
		return true
	}
	for j, row := range r.Plan.Rows {
		w := points.One
		if row.ByPoints {
			w = items[0].Points
		}
		if !r.Tree.Meets(row.Filter, items[0]) || fill[j]+w > row.Max {
			continue
		}
		fill[j] += w
		ok := claimable(r, items[1:], fill)
		fill[j] -= w
		if ok {
			return true
		}
	}
	return false
}

func (h *byHand) aims() draw.Aims {
	var a draw.Aims
	least, most := math.MaxInt, math.MinInt
	for f := range h.forms {
		sum, n := 0, 0
		for _, it := range h.form(f) {
			a.Uses += it.Uses
			if it.Difficulty != nil {
				sum += *it.Difficulty
				n++
			}
		}
		if t := h.r.Plan.Difficulty; t != nil {
			off := sum - n*t.Target
			a.Difficulty += max(0, max(off, -off)-n*t.Tolerance)
		}
		least, most = min(least, sum), max(most, sum)
	}
	a.Spread = most - least
	return a
}

func less(a, b draw.Aims) bool {
	return a.Difficulty < b.Difficulty || a.Difficulty == b.Difficulty && (a.Spread < b.Spread || a.Spread == b.Spread && a.Uses < b.Uses)
}

// mostServed is the most, in hundredths, that the pool can give these rows of their minimum over
// all forms. Whatever is chosen has a row with room for it.
func mostServed(r draw.Request, rows []int) (most int) {
	forms := max(r.Plan.Forms, 1)
	in := make([]int, len(r.Items))
	var from func(i int)
	from = func(i int) {
		if i == len(in) {
			total := 0
			for f := range forms {
				var items []blueprint.Item
				for k, it := range r.Items {
					if in[k] == f || in[k] == all {
						items = append(items, it)
					}
				}
				if !validPassages(r, items) || r.Plan.ForbidMeeting && meeting(r, items) {
					return
				}
				n, claimed := served(r, rows, items, make([]points.Points, len(r.Plan.Rows)))
				if !claimed {
					return
				}
				total += n
			}
			most = max(most, total)
			return
		}
		it := r.Items[i]
		in[i] = -1
		from(i + 1)
		if it.Hold || slices.Contains(r.Plan.Exclude, it.ID) {
			return
		}
		if slices.Contains(r.Plan.Fixed, it.ID) || slices.Contains(r.Plan.Anchors, it.ID) {
			in[i] = all
			from(i + 1)
			return
		}
		for f := range forms {
			in[i] = f
			from(i + 1)
		}
	}
	from(0)
	return most
}

// served is the most that items give to rows of their minimum, when each item goes to a row that has room; false where one cannot.
func served(r draw.Request, rows []int, items []blueprint.Item, fill []points.Points) (best int, claimed bool) {
	if len(items) == 0 {
		sum := points.Points(0)
		for _, j := range rows {
			sum += min(fill[j], r.Plan.Rows[j].Min)
		}
		return int(sum), true
	}
	for j, row := range r.Plan.Rows {
		w := points.One
		if row.ByPoints {
			w = items[0].Points
		}
		if r.Tree.Meets(row.Filter, items[0]) && fill[j]+w <= row.Max {
			fill[j] += w
			n, ok := served(r, rows, items[1:], fill)
			fill[j] -= w
			if ok {
				best, claimed = max(best, n), true
			}
		}
	}
	return best, claimed
}
