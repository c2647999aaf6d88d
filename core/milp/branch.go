package milp

import (
	"container/heap"
	"math"
)

// Search looks for the whole answer of least cost.
type Search struct {
	Program *Program
	// Step says that the cost of every answer is a multiple of it: the larger, the
	// sooner a bound ends a branch. 0: any cost.
	Step float64
	// Known is the cost of the best answer that the caller already has; +Inf for none.
	// Only cheaper answers are looked for.
	Known float64
	// Lazy adds rows that x violates to the program and tells whether there were any. nil: none.
	Lazy func(x []float64) bool
	// Visit is called with the values of each linear program that was solved. Where they
	// are whole they are an answer. It gives the cost of the best answer the caller knows now.
	Visit func(x []float64, whole bool) float64
	// Stop is asked often; true ends the search with what is known.
	Stop func() bool
}

// Result of a search.
type Result struct {
	// Bound is proven: no answer costs less. It is at most the cost of the best
	// answer known, and +Inf where there is none at all.
	Bound float64
	// Proven says that the search is over: the best answer known is the best there is.
	Proven bool
	Nodes  int
	Pivots int
}

// node narrows one column of its parent.
type node struct {
	parent *node
	column int
	lo, hi float64
	bound  float64
	depth  int
	up     bool
	shift  float64 // how far the branching moves the column, for the pseudo costs
}

type open []*node

func (o open) Len() int { return len(o) }
func (o open) Less(a, b int) bool {
	return o[a].bound < o[b].bound || o[a].bound == o[b].bound && o[a].depth > o[b].depth
}
func (o open) Swap(a, b int) { o[a], o[b] = o[b], o[a] }
func (o *open) Push(n any)   { *o = append(*o, n.(*node)) }
func (o *open) Pop() any {
	last := len(*o) - 1
	n := (*o)[last]
	*o = (*o)[:last]
	return n
}

// wholeTolerance is how far a value may be from a whole number and still count as one.
const wholeTolerance = 1e-6

// mostPlunge is how deep a search goes on from one node, once it has an answer to
// beat, before it looks again at the node with the best bound.
const mostPlunge = 30

type search struct {
	Search
	lp      *simplex
	open    open
	changed []int // columns whose bounds differ from the program's
	// gain[0] and gain[1] sum up what rounding a column down or up by one added to the bound.
	gain  [2][]float64
	tried [2][]float64
	// What the root's reduced costs said, to fix columns when a better answer comes up.
	rootBound float64
	rootCost  []float64
	nodes     int
}

// Run searches until the best answer is proven or Stop says so.
func (q Search) Run() Result {
	s := &search{Search: q, lp: newSimplex(q.Program)}
	n := q.Program.Columns()
	for k := range s.gain {
		s.gain[k], s.tried[k] = make([]float64, n), make([]float64, n)
	}
	s.open = open{{column: -1, bound: math.Inf(-1)}}
	var at *node
	plunged := 0 // nodes since the last jump to the best open one
	for !q.Stop() {
		if plunged++; at != nil && plunged > mostPlunge && !math.IsInf(s.Known, 1) {
			heap.Push(&s.open, at)
			at = nil
		}
		if at == nil {
			plunged = 0
			for len(s.open) > 0 && s.open[0].bound >= s.limit() {
				heap.Pop(&s.open)
			}
			if len(s.open) == 0 {
				return Result{Bound: s.Known, Proven: true, Nodes: s.nodes, Pivots: s.lp.Pivots}
			}
			at = heap.Pop(&s.open).(*node)
		}
		next, finished := s.visit(at)
		if !finished {
			break
		}
		at = next
	}
	least := s.Known
	if at != nil {
		least = math.Min(least, at.bound)
	}
	for _, o := range s.open {
		least = math.Min(least, o.bound)
	}
	return Result{Bound: s.rounded(least), Nodes: s.nodes, Pivots: s.lp.Pivots}
}

// limit is what a bound must stay below to be of use.
func (s *search) limit() float64 {
	if s.Step > 0 {
		return s.Known - s.Step + 1e-6
	}
	return s.Known - 1e-6
}

func (s *search) rounded(bound float64) float64 {
	if s.Step > 0 {
		return math.Ceil(bound/s.Step-1e-6) * s.Step
	}
	return bound
}

// How often rows are added to one node's program before it is branched on all the
// same. What is whole must break none.
const (
	rootRounds = 20
	nodeRounds = 4
)

// visit solves a node and branches. It gives the child to go on with, nil where
// the branch has ended; finished is false when it was stopped in the middle.
func (s *search) visit(at *node) (next *node, finished bool) {
	s.nodes++
	s.enter(at)
	rounds := nodeRounds
	if at.parent == nil {
		rounds = rootRounds
	}
	for ; ; rounds-- {
		switch s.lp.run(s.limit(), s.Stop) {
		case infeasible, cutOff:
			return nil, true
		case lost:
			if s.Stop() {
				return nil, false
			}
			return s.branchBlind(at), true
		}
		before := at.bound
		at.bound = math.Max(at.bound, s.lp.bound())
		s.learn(at, before)
		if at.bound >= s.limit() {
			return nil, true
		}
		if s.Lazy == nil || rounds <= 0 && s.pick() >= 0 || !s.Lazy(s.lp.x[:s.lp.n]) {
			break
		}
		s.lp.grow()
		if s.Stop() {
			return nil, false
		}
	}
	column := s.pick()
	s.Known = math.Min(s.Known, s.Visit(s.lp.x[:s.lp.n], column < 0))
	if at.parent == nil {
		s.rootBound = at.bound
		s.rootCost = append([]float64{}, s.lp.d[:s.lp.n]...)
	}
	s.fix()
	if column < 0 || at.bound >= s.limit() {
		return nil, true
	}
	return s.branch(at, column, s.lp.x[column]), true
}

// enter narrows the columns' bounds as the node and those above it say.
func (s *search) enter(at *node) {
	for _, j := range s.changed {
		s.lp.lo[j], s.lp.hi[j] = s.Program.lo[j], s.Program.hi[j]
	}
	s.changed = s.changed[:0]
	for o := at; o != nil && o.column >= 0; o = o.parent {
		s.lp.lo[o.column] = math.Max(s.lp.lo[o.column], o.lo)
		s.lp.hi[o.column] = math.Min(s.lp.hi[o.column], o.hi)
		s.changed = append(s.changed, o.column)
	}
}

// fix takes columns out for good whose reduced cost at the root says that moving
// them by one cannot lead to a cheaper answer.
func (s *search) fix() {
	if s.rootCost == nil || math.IsInf(s.Known, 1) {
		return
	}
	room := s.limit() - s.rootBound + 1e-4
	p := s.Program
	for j, d := range s.rootCost {
		if !p.whole[j] || p.hi[j] <= p.lo[j] {
			continue
		}
		if d > room {
			p.hi[j] = p.lo[j]
		} else if -d > room {
			p.lo[j] = p.hi[j]
		} else {
			continue
		}
		s.lp.lo[j], s.lp.hi[j] = p.lo[j], p.hi[j]
	}
}

// learn keeps what the branching that led here did to the bound.
func (s *search) learn(at *node, before float64) {
	if at.column < 0 || at.shift <= 0 || math.IsInf(before, -1) {
		return
	}
	k := 0
	if at.up {
		k = 1
	}
	s.gain[k][at.column] += math.Max(at.bound-before, 0) / at.shift
	s.tried[k][at.column]++
	at.shift = 0
}

// pick chooses the column to branch on: of the lowest rank that has one that is
// not whole, the one that promises to raise both children's bounds. -1: all are whole.
func (s *search) pick() int {
	best, bestRank := -1, math.MaxInt
	var bestScore float64
	x := s.lp.x
	for _, j := range s.lp.free {
		if !s.Program.whole[j] || s.Program.rank[j] > bestRank {
			continue
		}
		down := x[j] - math.Floor(x[j])
		up := 1 - down
		if down < wholeTolerance || up < wholeTolerance {
			continue
		}
		score := math.Max(s.promise(0, j)*down, 1e-4*down) * math.Max(s.promise(1, j)*up, 1e-4*up)
		if s.Program.up[j] {
			score = x[j]
		}
		if s.Program.rank[j] < bestRank || score > bestScore {
			best, bestRank, bestScore = j, s.Program.rank[j], score
		}
	}
	return best
}

func (s *search) promise(k, j int) float64 {
	if s.tried[k][j] == 0 {
		return math.Abs(s.Program.cost[j]) + 0.01
	}
	return s.gain[k][j] / s.tried[k][j]
}

// branch makes the two children; the nearer one is gone on with.
func (s *search) branch(at *node, column int, x float64) *node {
	down := &node{at, column, math.Inf(-1), math.Floor(x), at.bound, at.depth + 1, false, x - math.Floor(x)}
	up := &node{at, column, math.Ceil(x), math.Inf(1), at.bound, at.depth + 1, true, math.Ceil(x) - x}
	if x-math.Floor(x) > 0.5 || s.Program.up[column] {
		up, down = down, up
	}
	heap.Push(&s.open, up)
	return down
}

// branchBlind splits a node whose linear program could not be trusted.
func (s *search) branchBlind(at *node) *node {
	for j := range s.lp.n {
		if s.Program.whole[j] && s.lp.hi[j]-s.lp.lo[j] >= 1 {
			return s.branch(at, j, math.Floor((s.lp.lo[j]+s.lp.hi[j])/2)+0.5)
		}
	}
	return nil
}
