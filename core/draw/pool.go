package draw

import (
	"encoding/binary"
	"fmt"
	"slices"

	"pineledger/core/blueprint"
	"pineledger/core/points"
)

// pool is what a draw can choose from, with everything looked up.
type pool struct {
	plan  Plan
	forms int
	rows  []blueprint.Row
	items []blueprint.Item // that may be chosen, in the order given
	meets [][]int          // rows that each item meets
	class []int            // of each item
	// classes hold items that the rows cannot tell apart.
	classes  []class
	passage  []int   // of each item; -1: none
	passages [][]int // items of each passage
	hostile  [][]int // of each item, where meeting is forbidden
	kin      []int   // class of near copies of each item, where meeting is forbidden; -1: none
	kins     [][]int // near copies of which one may come to a form
	cliques  [][]int // items of which each is hostile to all others; together they hold every pair
	shared   []bool  // in every form
	beside   []int   // sums of difficulties of the forms that stand beside those to be drawn
	key      []int   // position of each item's key; -1: it does not count
	keys     int     // positions in all
	// impossible says why no draw can be, where that shows before any search; rule is its rule.
	impossible string
	rule       rule
}

type class struct {
	items  []int
	rows   []int
	points points.Points // where one of the rows counts points; else 0
}

// rule is a part of a plan that can make it impossible.
type rule string

const (
	ruleRows     rule = "rows"
	ruleTotal    rule = "total"
	rulePassages rule = "passages"
	ruleHostile  rule = "hostile items"
	ruleKeys     rule = "keys"
	ruleFixed    rule = "fixed"
	ruleForms    rule = "forms"
)

func newPool(r Request) (*pool, error) {
	if err := r.check(); err != nil {
		return nil, err
	}
	p := &pool{plan: r.Plan, forms: max(r.Plan.Forms, 1), rows: r.Plan.Rows}
	fixed, excluded := p.sharedIDs(), asSet(r.Plan.Exclude)
	p.excludeKin(r.Items, fixed, excluded)
	meets, closed := p.openness(r, excluded)
	at := map[string]int{} // id → place among the items that may be chosen
	for i, it := range r.Items {
		if meets[i] == nil || closed[i] || it.Hold || excluded[it.ID] {
			if fixed[it.ID] {
				p.cannot(ruleFixed, "%s stands on the form and %s", it.ID, why(meets[i] == nil))
			}
			continue
		}
		at[it.ID] = len(p.items)
		if it.Difficulty == nil {
			it.Difficulty = r.Plan.Estimate
		}
		p.items = append(p.items, it)
		p.meets = append(p.meets, meets[i])
		p.shared = append(p.shared, fixed[it.ID])
	}
	p.sortKeys(r.Items)
	p.sortClasses()
	p.sortPassages()
	p.sortHostile(r.Items, at)
	p.sortKin()
	p.sortCliques()
	return p, nil
}

// excludeKin excludes the near copies of what stands on the form. Those that stand already stay beside each other.
func (p *pool) excludeKin(items []blueprint.Item, fixed, excluded map[string]bool) {
	if !p.plan.ForbidMeeting {
		return
	}
	standing := map[string]bool{}
	for _, it := range items {
		if fixed[it.ID] && it.Kin != "" {
			standing[it.Kin] = true
		}
	}
	for _, it := range items {
		if standing[it.Kin] && !fixed[it.ID] {
			excluded[it.ID] = true
		}
	}
}

// sortKin gathers the near copies among what may be chosen anew.
func (p *pool) sortKin() {
	p.kin, p.kins = p.groups(func(i int) string {
		if p.shared[i] || !p.plan.ForbidMeeting {
			return ""
		}
		return p.items[i].Kin
	})
}

// groups gathers the items that have the same name for something; "" is none. It gives the
// group of each item, -1 for none, and the items of each group.
func (p *pool) groups(name func(i int) string) (of []int, items [][]int) {
	of = make([]int, len(p.items))
	known := map[string]int{}
	for i := range p.items {
		of[i] = -1
		n := name(i)
		if n == "" {
			continue
		}
		k, ok := known[n]
		if !ok {
			k = len(items)
			known[n] = k
			items = append(items, nil)
		}
		of[i] = k
		items[k] = append(items[k], i)
	}
	return of, items
}

// clash tells whether an item must not meet one of others.
func (p *pool) clash(i int, others []int) bool {
	return slices.ContainsFunc(others, func(o int) bool {
		return o != i && (p.kin[i] >= 0 && p.kin[i] == p.kin[o] || slices.Contains(p.hostile[i], o))
	})
}

func why(meetsNone bool) string {
	if meetsNone {
		return "meets no row"
	}
	return "its passage cannot come whole"
}

func (p *pool) sharedIDs() map[string]bool {
	return asSet(slices.Concat(p.plan.Fixed, p.plan.Anchors))
}

func asSet(ids []string) map[string]bool {
	out := make(map[string]bool, len(ids))
	for _, id := range ids {
		out[id] = true
	}
	return out
}

func (p *pool) cannot(r rule, format string, args ...any) {
	if p.impossible == "" {
		p.impossible, p.rule = fmt.Sprintf(format, args...), r
	}
}

// openness tells which rows each item meets, and which items hang on a passage
// that must come whole and cannot.
func (p *pool) openness(r Request, excluded map[string]bool) (meets [][]int, closed []bool) {
	meets, closed = make([][]int, len(r.Items)), make([]bool, len(r.Items))
	whole := p.plan.Passages.Whole
	shut, size := map[string]bool{}, map[string]int{}
	for i, it := range r.Items {
		for j, row := range p.rows {
			if r.Tree.Meets(row.Filter, it) {
				meets[i] = append(meets[i], j)
			}
		}
		if it.Passage != "" {
			size[it.Passage]++
			if meets[i] == nil || it.Hold || excluded[it.ID] {
				shut[it.Passage] = true
			}
		}
	}
	for i, it := range r.Items {
		n := size[it.Passage]
		tooMany := p.plan.Passages.ItemsMax > 0 && n > p.plan.Passages.ItemsMax
		closed[i] = whole && it.Passage != "" && (shut[it.Passage] || n < p.plan.Passages.ItemsMin || tooMany)
	}
	return meets, closed
}

func (p *pool) sortKeys(all []blueprint.Item) {
	position := map[string]int{}
	for _, it := range all {
		if it.Kind == "single-choice" && it.Key != "" {
			if _, ok := position[it.Key]; !ok {
				position[it.Key] = len(position)
			}
		}
	}
	p.keys = len(position)
	p.key = make([]int, len(p.items))
	for i, it := range p.items {
		p.key[i] = -1
		if it.Kind == "single-choice" && it.Key != "" {
			p.key[i] = position[it.Key]
		}
	}
}

func (p *pool) sortClasses() {
	known := map[string]int{}
	p.class = make([]int, len(p.items))
	for i, rows := range p.meets {
		worth := points.Points(0)
		var key []byte
		for _, j := range rows {
			key = binary.AppendUvarint(key, uint64(j))
			if p.rows[j].ByPoints {
				worth = p.items[i].Points
			}
		}
		key = binary.AppendVarint(append(key, 0xff), int64(worth))
		c, ok := known[string(key)]
		if !ok {
			c = len(p.classes)
			known[string(key)] = c
			p.classes = append(p.classes, class{rows: rows, points: worth})
		}
		p.class[i] = c
		p.classes[c].items = append(p.classes[c].items, i)
	}
}

func (p *pool) sortPassages() {
	p.passage, p.passages = p.groups(func(i int) string { return p.items[i].Passage })
	if !p.plan.Passages.Whole || p.forms == 1 {
		return
	}
	for _, items := range p.passages {
		n := 0
		for _, i := range items {
			if p.shared[i] {
				n++
			}
		}
		if n > 0 && n < len(items) {
			p.cannot(rulePassages, "passage %s must come whole into every form, and only some of its items may be in common", p.items[items[0]].Passage)
		}
	}
}

func (p *pool) sortHostile(all []blueprint.Item, at map[string]int) {
	p.hostile = make([][]int, len(p.items))
	if !p.plan.ForbidMeeting {
		return
	}
	for _, it := range all {
		for _, other := range it.Enemies {
			a, ok := at[it.ID]
			b, also := at[other]
			if !ok || !also || slices.Contains(p.hostile[a], b) {
				continue
			}
			p.hostile[a], p.hostile[b] = append(p.hostile[a], b), append(p.hostile[b], a)
			if p.shared[a] && p.shared[b] {
				p.cannot(ruleFixed, "%s and %s stand on the form and must not meet", it.ID, other)
			}
		}
	}
}

// sortCliques gathers hostile items: of near copies that are all hostile to one another
// one rule says that one of them may come, which says more than a rule for each pair.
func (p *pool) sortCliques() {
	p.cliques = nil
	for _, copies := range p.kins {
		if len(copies) > 1 {
			p.cliques = append(p.cliques, copies)
		}
	}
	held := map[[2]int]bool{}
	for i, others := range p.hostile {
		for _, o := range others {
			if o < i || held[[2]int{i, o}] {
				continue
			}
			clique := []int{i, o}
			for _, c := range others {
				if c != o && !slices.ContainsFunc(clique[1:], func(k int) bool { return !slices.Contains(p.hostile[c], k) }) {
					clique = append(clique, c)
				}
			}
			slices.Sort(clique)
			for a, k := range clique {
				for _, l := range clique[a+1:] {
					held[[2]int{k, l}] = true
				}
			}
			p.cliques = append(p.cliques, clique)
		}
	}
}

// trim takes out what the rules keep from every form: passages with too few
// items left, and, where the items in common are sure to stand, those hostile to them.
func (p *pool) trim(commonStand bool) {
	out := make([]bool, len(p.items))
	for i := range p.items {
		out[i] = commonStand && !p.shared[i] && slices.ContainsFunc(p.hostile[i], func(o int) bool { return p.shared[o] })
	}
	rules := p.plan.Passages
	for again := true; again; {
		again = false
		for _, items := range p.passages {
			left, gone := 0, 0
			for _, i := range items {
				if !out[i] {
					left++
				} else {
					gone++
				}
			}
			none := rules.Max != nil && *rules.Max == 0
			if left == 0 || !(left < rules.ItemsMin || rules.Whole && gone > 0 || none) {
				continue
			}
			again = true
			for _, i := range items {
				if p.shared[i] {
					p.cannot(rulePassages, "%s stands on the form, and the rules for passages keep passage %s out", p.items[i].ID, p.items[i].Passage)
				}
				out[i] = true
			}
		}
	}
	p.keep(out)
}

// keep forgets the items that are out.
func (p *pool) keep(out []bool) {
	if !slices.Contains(out, true) {
		return
	}
	at := make([]int, len(p.items))
	var items []blueprint.Item
	var meets [][]int
	var shared []bool
	var key []int
	for i := range p.items {
		at[i] = -1
		if !out[i] {
			at[i] = len(items)
			items, meets, shared, key = append(items, p.items[i]), append(meets, p.meets[i]), append(shared, p.shared[i]), append(key, p.key[i])
		}
	}
	hostile := make([][]int, len(items))
	for i, others := range p.hostile {
		for _, o := range others {
			if at[i] >= 0 && at[o] >= 0 {
				hostile[at[i]] = append(hostile[at[i]], at[o])
			}
		}
	}
	p.items, p.meets, p.shared, p.key, p.hostile = items, meets, shared, key, hostile
	p.classes, p.passages = nil, nil
	p.sortClasses()
	p.sortPassages()
	p.sortKin()
	p.sortCliques()
}

// worth is what an item adds to a row, in hundredths.
func (p *pool) worth(item, row int) points.Points {
	if p.rows[row].ByPoints {
		return p.items[item].Points
	}
	return points.One
}
