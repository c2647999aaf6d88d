package milp

// candidate is a variable with the number by which it is picked, the smallest first.
type candidate struct {
	ratio float64
	at    int
}

func heapify(h []candidate) {
	for i := len(h)/2 - 1; i >= 0; i-- {
		sink(h, i)
	}
}

func sink(h []candidate, i int) {
	for {
		c := 2*i + 1
		if c >= len(h) {
			return
		}
		if c+1 < len(h) && h[c+1].ratio < h[c].ratio {
			c++
		}
		if h[i].ratio <= h[c].ratio {
			return
		}
		h[i], h[c] = h[c], h[i]
		i = c
	}
}

// unpark brings in the parked columns that would lower the cost, the best first, and
// tells whether there were any.
func (s *simplex) unpark() bool {
	y := s.duals()
	s.cand = s.cand[:0]
	for j, parked := range s.parked {
		if !parked {
			continue
		}
		d := s.cost[j]
		for _, e := range s.p.cols[j] {
			d -= y[e.row] * e.value
		}
		s.d[j] = d
		if d < -dualTolerance && s.hi[j] > s.lo[j] {
			s.cand = append(s.cand, candidate{d, j})
		}
	}
	heapify(s.cand)
	for h, n := s.cand, 0; len(h) > 0 && n < 200; n++ {
		s.parked[h[0].at] = false
		h[0] = h[len(h)-1]
		h = h[:len(h)-1]
		sink(h, 0)
	}
	return len(s.cand) > 0
}

// unparkAll brings in every column, since without them nothing can be proven.
func (s *simplex) unparkAll() bool {
	any := false
	for j, parked := range s.parked {
		any = any || parked
		s.parked[j] = false
	}
	return any
}
