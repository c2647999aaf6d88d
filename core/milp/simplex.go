package milp

import (
	"math"
	"math/rand/v2"
)

const (
	primalTolerance = 1e-8
	dualTolerance   = 1e-9
	pivotTolerance  = 1e-7
	// refactorEvery bounds how far rounding can grow in the explicit inverse.
	refactorEvery = 120
)

// outcome of one linear program.
type outcome int

const (
	solved outcome = iota
	infeasible
	cutOff // the bound has passed the limit
	lost   // numbers could not be trusted; nothing is proven
)

// simplex solves min c·x, A x − s = 0, every x and s between finite bounds, by the
// dual simplex method with bound flipping and steepest-edge weights. Variables
// 0..n-1 are the columns, n..n+m-1 the rows' activities s. As all bounds are
// finite, any basis can be made dual feasible by putting each variable outside
// of it at the bound that its reduced cost asks for: bounds, rows and aims may
// change at will between two calls of run.
type simplex struct {
	p      *Program
	n, m   int
	lo, hi []float64
	cost   []float64 // of the columns, with tiny differences that break ties
	x, d   []float64
	basic  []int // variable in each place of the basis
	place  []int // place of a variable, -1 outside
	inv    [][]float64
	weight []float64 // squared length of each row of inv
	aged   int       // pivots since the inverse was last made anew
	alpha  []float64
	column []float64
	places []int
	cand   []candidate
	free   []int // columns whose bounds differ and that are not parked; others cannot enter
	parked []bool
	noise  *rand.Rand
	Pivots int
}

func newSimplex(p *Program) *simplex {
	s := &simplex{p: p, n: p.Columns(), noise: rand.New(rand.NewPCG(11, 17))}
	s.lo, s.hi = append([]float64{}, p.lo...), append([]float64{}, p.hi...)
	s.x, s.d, s.alpha = make([]float64, s.n), make([]float64, s.n), make([]float64, s.n)
	s.parked = append([]bool{}, p.parked...)
	s.place = make([]int, s.n)
	for j := range s.place {
		s.place[j] = -1
	}
	s.aim()
	s.grow()
	return s
}

// aim takes the program's costs.
func (s *simplex) aim() {
	s.cost = append(s.cost[:0], s.p.cost...)
	for j := range s.cost {
		s.cost[j] += 1e-6 * (1 + math.Abs(s.cost[j])) * (s.noise.Float64() - 0.3)
	}
}

// settle computes reduced costs, puts what is outside the basis at its bound, and computes the basis' values.
func (s *simplex) settle() {
	y := s.duals()
	s.free = s.free[:0]
	rest := make([]float64, s.m)
	for j := range s.n {
		if s.hi[j] > s.lo[j] && !s.parked[j] {
			s.free = append(s.free, j)
		}
		if s.place[j] >= 0 {
			s.d[j] = 0
			continue
		}
		d := s.cost[j]
		for _, e := range s.p.cols[j] {
			d -= y[e.row] * e.value
		}
		s.d[j] = d
		s.x[j] = s.lo[j]
		if d < 0 && !s.parked[j] {
			s.x[j] = s.hi[j]
		}
		if s.x[j] != 0 {
			for _, e := range s.p.cols[j] {
				rest[e.row] -= e.value * s.x[j]
			}
		}
	}
	for i := range s.m {
		v := s.n + i
		if s.place[v] >= 0 {
			s.d[v] = 0
			continue
		}
		s.d[v] = y[i]
		s.x[v] = s.lo[v]
		if y[i] < 0 {
			s.x[v] = s.hi[v]
		}
		rest[i] += s.x[v]
	}
	for k, row := range s.inv {
		var sum float64
		for i, a := range row {
			sum += a * rest[i]
		}
		s.x[s.basic[k]] = sum
	}
}

func (s *simplex) duals() []float64 {
	y := make([]float64, s.m)
	for k, v := range s.basic {
		if v < s.n && s.cost[v] != 0 {
			for i, a := range s.inv[k] {
				y[i] += s.cost[v] * a
			}
		}
	}
	return y
}

// bound is proven: no point within the bounds has a lower true cost. It holds for
// any multipliers, so rounding in them can only make it weaker.
func (s *simplex) bound() float64 {
	y := s.duals()
	var sum float64
	for i, v := range y {
		sum += math.Min(v*s.lo[s.n+i], v*s.hi[s.n+i])
	}
	for j := range s.n {
		d := s.p.cost[j]
		for _, e := range s.p.cols[j] {
			d -= y[e.row] * e.value
		}
		sum += math.Min(d*s.lo[j], d*s.hi[j])
	}
	return sum
}

// run solves for the bounds and costs as they are. A cost that is proven to
// reach limit ends it early.
func (s *simplex) run(limit float64, stop func() bool) outcome {
	s.settle()
	retried := false
	for step := 1; ; step++ {
		if step%64 == 0 {
			if stop() {
				return lost
			}
			if !math.IsInf(limit, 1) && s.bound() >= limit {
				return cutOff
			}
		}
		if s.aged >= refactorEvery {
			s.refactor()
			s.settle()
		}
		r, over := s.leaving()
		if r < 0 {
			if s.aged > 0 && !s.sound() {
				s.refactor()
				s.settle()
				continue
			}
			if s.unpark() {
				s.settle()
				continue
			}
			return solved
		}
		if q, ok := s.entering(r, over); ok {
			s.pivot(r, q, over)
			s.Pivots++
			continue
		}
		if s.blocked(r) {
			return infeasible
		}
		if s.unparkAll() {
			s.settle()
			continue
		}
		if retried && s.aged == 0 {
			return lost
		}
		retried = true
		s.refactor()
		s.settle()
	}
}

// leaving picks the basis' variable that is farthest outside its bounds, in
// steepest-edge measure; over is by how much it is above (or, negative, below).
func (s *simplex) leaving() (place int, over float64) {
	place = -1
	var best float64
	for k, v := range s.basic {
		out := 0.0
		if x := s.x[v]; x > s.hi[v]+primalTolerance {
			out = x - s.hi[v]
		} else if x < s.lo[v]-primalTolerance {
			out = x - s.lo[v]
		} else {
			continue
		}
		if score := out * out / s.weight[k]; score > best {
			place, over, best = k, out, score
		}
	}
	return place, over
}

// entering finds who takes the place, after flipping those that the step may pass.
func (s *simplex) entering(r int, over float64) (q int, ok bool) {
	rho := s.inv[r]
	sign := 1.0
	if over < 0 {
		sign = -1
	}
	s.cand = s.cand[:0]
	consider := func(j int, a float64) {
		s.alpha[j] = a
		if s.place[j] >= 0 || s.hi[j] <= s.lo[j] {
			return // what is fixed cannot enter
		}
		a *= sign
		d := s.d[j]
		if s.x[j] == s.lo[j] {
			if a > pivotTolerance {
				s.cand = append(s.cand, candidate{math.Max(d, 0) / a, j})
			}
		} else if a < -pivotTolerance {
			s.cand = append(s.cand, candidate{math.Min(d, 0) / a, j})
		}
	}
	for _, j := range s.free {
		if s.place[j] >= 0 {
			continue
		}
		var a float64
		for _, e := range s.p.cols[j] {
			a += rho[e.row] * e.value
		}
		consider(j, a)
	}
	for i := range s.m {
		consider(s.n+i, -rho[i])
	}
	if len(s.cand) == 0 {
		return 0, false
	}
	heapify(s.cand)
	slope := math.Abs(over)
	h := s.cand
	var flips []int
	for {
		c := h[0]
		j := c.at
		left := slope - math.Abs(s.alpha[j])*(s.hi[j]-s.lo[j])
		if left < 0 || len(h) == 1 {
			if left >= 0 && len(h) == 1 && left > primalTolerance {
				return 0, false // even with all flipped it stays outside
			}
			q = j
			break
		}
		slope = left
		flips = append(flips, j)
		h[0] = h[len(h)-1]
		h = h[:len(h)-1]
		sink(h, 0)
	}
	// Of those at the same ratio the largest pivot is the safest.
	for k := 0; k < len(h); k++ {
		if h[k].ratio <= s.ratio(q, sign)+dualTolerance && math.Abs(s.alpha[h[k].at]) > math.Abs(s.alpha[q]) {
			q = h[k].at
		}
	}
	if len(flips) > 0 {
		s.flip(flips)
	}
	return q, true
}

func (s *simplex) ratio(j int, sign float64) float64 { return s.d[j] / (sign * s.alpha[j]) }

// flip moves variables to their other bound and carries that into the basis.
func (s *simplex) flip(flips []int) {
	rest := make([]float64, s.m)
	for _, j := range flips {
		to := s.lo[j]
		if s.x[j] == s.lo[j] {
			to = s.hi[j]
		}
		step := to - s.x[j]
		s.x[j] = to
		if j >= s.n {
			rest[j-s.n] += step
			continue
		}
		for _, e := range s.p.cols[j] {
			rest[e.row] -= e.value * step
		}
	}
	moved := s.nonzero(rest)
	for k, row := range s.inv {
		var sum float64
		for _, i := range moved {
			sum += row[i] * rest[i]
		}
		s.x[s.basic[k]] += sum
	}
}

// nonzero gives the places of a vector that are not zero. The list is used again at the next call.
func (s *simplex) nonzero(v []float64) []int {
	s.places = s.places[:0]
	for i, a := range v {
		if a != 0 {
			s.places = append(s.places, i)
		}
	}
	return s.places
}

func (s *simplex) pivot(r, q int, over float64) {
	col := s.column
	for k, row := range s.inv {
		if q >= s.n {
			col[k] = -row[q-s.n]
			continue
		}
		var sum float64
		for _, e := range s.p.cols[q] {
			sum += row[e.row] * e.value
		}
		col[k] = sum
	}
	out := s.basic[r]
	bound := s.hi[out]
	if over < 0 {
		bound = s.lo[out]
	}
	theta := s.d[q] / s.alpha[q]
	for _, j := range s.free {
		if s.place[j] < 0 {
			s.d[j] -= theta * s.alpha[j]
		}
	}
	for v := s.n; v < s.n+s.m; v++ {
		if s.place[v] < 0 {
			s.d[v] -= theta * s.alpha[v]
		}
	}
	s.d[q], s.d[out] = 0, -theta

	step := (s.x[out] - bound) / col[r]
	for k, a := range col {
		if a != 0 {
			s.x[s.basic[k]] -= step * a
		}
	}
	s.x[q] += step
	s.x[out] = bound

	pivotRow := s.inv[r]
	scale := 1 / col[r]
	for i := range pivotRow {
		pivotRow[i] *= scale
	}
	s.weight[r] *= scale * scale
	places := s.nonzero(pivotRow)
	for k, row := range s.inv {
		f := col[k]
		if k == r || math.Abs(f) < 1e-13 {
			continue
		}
		var change float64
		for _, i := range places {
			step := f * pivotRow[i]
			change += step * (step - 2*row[i])
			row[i] -= step
		}
		s.weight[k] = math.Max(s.weight[k]+change, 1e-4)
	}
	s.basic[r] = q
	s.place[q], s.place[out] = r, -1
	s.aged++
}

// sound tells whether the basis' values still satisfy the rows.
func (s *simplex) sound() bool {
	rest := make([]float64, s.m)
	for j := range s.n {
		if s.x[j] != 0 {
			for _, e := range s.p.cols[j] {
				rest[e.row] += e.value * s.x[j]
			}
		}
	}
	for i, v := range rest {
		if math.Abs(v-s.x[s.n+i]) > 1e-7 {
			return false
		}
	}
	return true
}

// blocked proves that no point satisfies the rows: a sum of rows, which must be
// zero, cannot be zero within the bounds of all variables.
func (s *simplex) blocked(r int) bool {
	rho := s.inv[r]
	var least, most, size float64
	add := func(a, lo, hi float64) {
		least += math.Min(a*lo, a*hi)
		most += math.Max(a*lo, a*hi)
		size += math.Abs(a) * math.Max(math.Abs(lo), math.Abs(hi))
	}
	for j := range s.n {
		var a float64
		for _, e := range s.p.cols[j] {
			a += rho[e.row] * e.value
		}
		add(a, s.lo[j], s.hi[j])
	}
	for i, a := range rho {
		add(-a, s.lo[s.n+i], s.hi[s.n+i])
	}
	margin := 1e-10*size + 1e-9
	return least > margin || most < -margin
}
