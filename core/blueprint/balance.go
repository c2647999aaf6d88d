package blueprint

import (
	"fmt"
	"slices"

	"pineledger/core/points"
)

// Row is one plan of a blueprint: so many items, or so many points, that meet a filter.
type Row struct {
	ID     string
	Filter Filter // its zero value takes every item
	// ByPoints makes Min and Max points; otherwise they are items (One each).
	ByPoints bool
	Min, Max points.Points // 0 for both: none
}

// weight is what a line adds to a row.
func (r Row) weight(line Item) points.Points {
	if r.ByPoints {
		return line.Points
	}
	return points.One
}

// RowBalance is how one row stands. Planned is the row's Min; Balance is below 0
// where the row is short, above 0 where it is over, and 0 where it is even.
type RowBalance struct {
	ID                       string
	Planned, Placed, Balance points.Points
	Lines                    []string // claimed, in the order of the lines
	Pools                    []int    // for each pool, how many of the lines that it gives are claimed
}

// Balance is how a whole blueprint stands.
type Balance struct {
	Rows             []RowBalance
	Unclaimed        []string // lines outside pools that meet no row
	Shortage, Excess points.Points
	// Proven is false only where rows in points overlap on so many lines of
	// unlike points that the search was cut off; what is given is then the best found.
	Proven bool
}

// Pool is a set of lines of which each student gets some. What it gives to a row is what every
// student gets, so it counts where all of its lines would.
type Pool struct {
	Lines  []int // places in the list of lines
	Choose int   // lines that each attempt is given; 1 at least
}

// Compute assigns each line that meets a row to exactly one such row, so that
// the total shortage, and then the total excess, is smallest. Of a pool, as many
// as it gives are assigned instead of its lines. Errors are *PlaceError.
func Compute(tree Tree, rows []Row, lines []Item, pools ...Pool) (Balance, error) {
	if err := CheckRows(tree, rows); err != nil {
		return Balance{}, err
	}
	if err := CheckItems("lines", lines); err != nil {
		return Balance{}, err
	}
	p := newPuzzle(tree, rows, lines, pools)
	proven := p.assign()
	return p.balance(proven), nil
}

// CheckRows refuses rows that cannot be meant. Errors are *PlaceError.
func CheckRows(tree Tree, rows []Row) error {
	seen := map[string]bool{}
	for i, r := range rows {
		place := fmt.Sprintf("rows[%d]", i)
		unit := "count"
		if r.ByPoints {
			unit = "points"
		}
		switch {
		case r.ID == "":
			return refuse(place+".id", "is empty")
		case seen[r.ID]:
			return refuse(place+".id", "%q is given twice", r.ID)
		case r.Min < 0:
			return refuse(place+"."+unit+".min", "%s is negative", r.Min)
		case r.Max < r.Min:
			return refuse(place+"."+unit+".max", "%s is below min %s", r.Max, r.Min)
		case !r.ByPoints && (r.Min%points.One != 0 || r.Max%points.One != 0):
			return refuse(place+".count", "is not a whole number")
		}
		seen[r.ID] = true
		if err := tree.checkFilter(place+".filter", r.Filter); err != nil {
			return err
		}
	}
	return nil
}

// CheckItems refuses items that cannot be meant; list is what the caller calls them. Errors are *PlaceError.
func CheckItems(list string, lines []Item) error {
	seen := map[string]bool{}
	for i, l := range lines {
		place := fmt.Sprintf("%s[%d]", list, i)
		switch {
		case l.ID == "":
			return refuse(place+".id", "is empty")
		case seen[l.ID]:
			return refuse(place+".id", "%q is given twice", l.ID)
		case l.Points <= 0:
			return refuse(place+".points", "%s is not above 0", l.Points)
		case l.Kind != "" && !slices.Contains(Kinds, l.Kind):
			return refuse(place+".kind", "%q is not a kind of item", l.Kind)
		}
		seen[l.ID] = true
	}
	return nil
}

// puzzle is the assignment while it is being made.
type puzzle struct {
	rows  []Row
	lines []Item // those outside pools, and for each pool stand-ins for what it gives
	pool  []int  // of each line that stands in for a pool's; -1 for the others
	pools int
	fits  [][]int // rows that each line meets
	at    []int   // row of each line; -1 while it has none
	fill  []points.Points
}

func newPuzzle(tree Tree, rows []Row, lines []Item, pools []Pool) *puzzle {
	p := &puzzle{rows: rows, pools: len(pools), fill: make([]points.Points, len(rows))}
	add := func(line Item, pool int, fits []int) {
		p.lines, p.pool, p.fits, p.at = append(p.lines, line), append(p.pool, pool), append(p.fits, fits), append(p.at, -1)
	}
	meets := make([][]int, len(lines))
	pooled := map[int]bool{}
	for _, pool := range pools {
		for _, i := range pool.Lines {
			pooled[i] = true
		}
	}
	for i, l := range lines {
		for j, r := range rows {
			if tree.Meets(r.Filter, l) {
				meets[i] = append(meets[i], j)
			}
		}
		if !pooled[i] {
			add(l, -1, meets[i])
		}
	}
	for k, pool := range pools {
		if len(pool.Lines) == 0 {
			continue
		}
		fits := slices.DeleteFunc(slices.Clone(meets[pool.Lines[0]]), func(row int) bool {
			return slices.ContainsFunc(pool.Lines, func(i int) bool { return !slices.Contains(meets[i], row) })
		})
		for range min(pool.Choose, len(pool.Lines)) {
			add(Item{Points: lines[pool.Lines[0]].Points}, k, fits)
		}
	}
	return p
}

// cost is compared shortage first.
type cost struct{ shortage, excess points.Points }

func (c cost) plus(d cost) cost  { return cost{c.shortage + d.shortage, c.excess + d.excess} }
func (c cost) minus(d cost) cost { return cost{c.shortage - d.shortage, c.excess - d.excess} }
func (c cost) less(d cost) bool {
	return c.shortage < d.shortage || c.shortage == d.shortage && c.excess < d.excess
}

func (p *puzzle) rowCost(row int, fill points.Points) cost {
	return cost{max(p.rows[row].Min-fill, 0), max(fill-p.rows[row].Max, 0)}
}

// adds is what one more line changes in a row.
func (p *puzzle) adds(line, row int) cost {
	w := p.rows[row].weight(p.lines[line])
	return p.rowCost(row, p.fill[row]+w).minus(p.rowCost(row, p.fill[row]))
}

func (p *puzzle) put(line, row int) {
	if old := p.at[line]; old >= 0 {
		p.fill[old] -= p.rows[old].weight(p.lines[line])
	}
	p.at[line] = row
	if row >= 0 {
		p.fill[row] += p.rows[row].weight(p.lines[line])
	}
}

// assign places every line that fits somewhere. Lines and rows that do not
// touch each other are separate puzzles. Where all lines that a row can hold
// weigh the same in it, a row's cost is convex in their number and the puzzle is
// a minimum-cost flow; else it is searched.
func (p *puzzle) assign() (proven bool) {
	proven = true
	for _, part := range p.parts() {
		p.flow(part)
		if !p.even(part) {
			proven = p.search(part) && proven
		}
	}
	return proven
}

// parts groups the lines that share rows, directly or through others.
func (p *puzzle) parts() [][]int {
	head := make([]int, len(p.rows))
	for j := range head {
		head[j] = j
	}
	var find func(int) int
	find = func(j int) int {
		if head[j] != j {
			head[j] = find(head[j])
		}
		return head[j]
	}
	for _, rows := range p.fits {
		for _, j := range rows {
			head[find(j)] = find(rows[0])
		}
	}
	at := map[int]int{}
	var out [][]int
	for i, rows := range p.fits {
		if len(rows) == 0 {
			continue
		}
		h := find(rows[0])
		k, ok := at[h]
		if !ok {
			k = len(out)
			at[h] = k
			out = append(out, nil)
		}
		out[k] = append(out[k], i)
	}
	return out
}

// even tells whether each row weighs all lines that it can hold alike.
func (p *puzzle) even(part []int) bool {
	weight := map[int]points.Points{}
	for _, i := range part {
		for _, j := range p.fits[i] {
			w := p.rows[j].weight(p.lines[i])
			if seen, ok := weight[j]; ok && seen != w {
				return false
			}
			weight[j] = w
		}
	}
	return true
}

// flow adds the lines one by one along a shortest augmenting path: the line goes
// into a row it fits, a line of that row moves on to another, and so on, until
// the row where one more line costs least. Only the last row changes its number,
// so the shortest path is the reachable row of least added cost. Exact for even
// parts, a good start for others.
func (p *puzzle) flow(part []int) {
	members := make([][]int, len(p.rows))
	for _, line := range part {
		type step struct{ row, mover, from int } // mover came here out of row from
		var queue []step
		seen := make(map[int]int, len(p.rows)) // row → its place in queue
		visit := func(row, mover, from int) {
			if _, ok := seen[row]; !ok {
				seen[row] = len(queue)
				queue = append(queue, step{row, mover, from})
			}
		}
		for _, row := range p.fits[line] {
			visit(row, line, -1)
		}
		best, bestCost := -1, cost{}
		for k := 0; k < len(queue); k++ {
			at := queue[k]
			if c := p.adds(at.mover, at.row); best < 0 || c.less(bestCost) {
				best, bestCost = k, c
			}
			for _, other := range members[at.row] {
				for _, row := range p.fits[other] {
					visit(row, other, at.row)
				}
			}
		}
		for k := best; ; k = seen[queue[k].from] {
			s := queue[k]
			if s.from >= 0 {
				members[s.from] = slices.DeleteFunc(members[s.from], func(i int) bool { return i == s.mover })
			}
			p.put(s.mover, s.row)
			members[s.row] = append(members[s.row], s.mover)
			if s.from < 0 {
				break
			}
		}
	}
}

func (p *puzzle) balance(proven bool) Balance {
	out := Balance{Proven: proven}
	for j, r := range p.rows {
		b := RowBalance{ID: r.ID, Planned: r.Min, Placed: p.fill[j], Lines: []string{}, Pools: make([]int, p.pools)}
		c := p.rowCost(j, p.fill[j])
		b.Balance = c.excess - c.shortage
		out.Shortage += c.shortage
		out.Excess += c.excess
		out.Rows = append(out.Rows, b)
	}
	for i, l := range p.lines {
		switch row, pool := p.at[i], p.pool[i]; {
		case pool >= 0 && row >= 0:
			out.Rows[row].Pools[pool]++
		case pool >= 0:
		case row < 0:
			out.Unclaimed = append(out.Unclaimed, l.ID)
		default:
			out.Rows[row].Lines = append(out.Rows[row].Lines, l.ID)
		}
	}
	return out
}
