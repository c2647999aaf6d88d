package milp

import "math"

// grow takes in rows that the program has got since; their activities enter the
// basis. The inverse grows with them: the new row is [a_B·inv −1].
func (s *simplex) grow() {
	before := s.m
	for i := before; i < len(s.p.rowLo); i++ {
		s.lo, s.hi = append(s.lo, s.p.rowLo[i]), append(s.hi, s.p.rowHi[i])
		s.x, s.d, s.alpha = append(s.x, 0), append(s.d, 0), append(s.alpha, 0)
		s.basic = append(s.basic, s.n+i)
		s.place = append(s.place, len(s.basic)-1)
	}
	s.m = len(s.p.rowLo)
	s.column = make([]float64, s.m)
	for k := range s.inv {
		s.inv[k] = append(s.inv[k], make([]float64, s.m-before)...)
	}
	for i := before; i < s.m; i++ {
		row := make([]float64, s.m)
		row[i] = -1
		s.inv, s.weight = append(s.inv, row), append(s.weight, 0)
	}
	for k, v := range s.basic[:before] {
		if v >= s.n {
			continue
		}
		for _, e := range s.p.cols[v] {
			if e.row < before {
				continue
			}
			row := s.inv[e.row]
			for i, a := range s.inv[k][:before] {
				row[i] += e.value * a
			}
		}
	}
	for i := before; i < s.m; i++ {
		s.weight[i] = squared(s.inv[i])
	}
}

// refactor makes the inverse anew. With the basis' columns S on the rows R1
// whose activity is outside it, and R2 the other rows, it is [K⁻¹ 0; A₂K⁻¹ −I].
func (s *simplex) refactor() {
	s.aged = 0
	var cols []int // places that hold columns
	rowOf := make([]int, 0, s.m)
	isBasicRow := make([]bool, s.m)
	for k, v := range s.basic {
		if v < s.n {
			cols = append(cols, k)
		} else {
			isBasicRow[v-s.n] = true
		}
	}
	at := make([]int, s.m) // row → its place in K
	for i := range s.m {
		at[i] = -1
		if !isBasicRow[i] {
			at[i] = len(rowOf)
			rowOf = append(rowOf, i)
		}
	}
	k := len(cols)
	kernel := make([][]float64, k)
	for i := range kernel {
		kernel[i] = make([]float64, k)
	}
	for c, place := range cols {
		for _, e := range s.p.cols[s.basic[place]] {
			if at[e.row] >= 0 {
				kernel[at[e.row]][c] = e.value
			}
		}
	}
	inverse, bad := invert(kernel)
	if bad >= 0 { // singular: begin again from the rows' activities
		for i := range s.m {
			if v := s.basic[i]; v < s.n {
				s.place[v] = -1
			}
			s.basic[i], s.place[s.n+i] = s.n+i, i
		}
		cols, k, inverse = nil, 0, nil
		for i := range at {
			at[i] = -1
		}
		rowOf = rowOf[:0]
	}
	s.inv = make([][]float64, s.m)
	for c, place := range cols {
		row := make([]float64, s.m)
		for i, r := range rowOf {
			row[r] = inverse[c][i]
		}
		s.inv[place] = row
	}
	for i := range s.m {
		if v := s.n + i; s.place[v] >= 0 {
			row := make([]float64, s.m)
			row[i] = -1
			s.inv[s.place[v]] = row
		}
	}
	for c, place := range cols {
		for _, e := range s.p.cols[s.basic[place]] {
			if at[e.row] >= 0 {
				continue
			}
			row := s.inv[s.place[s.n+e.row]]
			for i, r := range rowOf {
				row[r] += e.value * inverse[c][i]
			}
		}
	}
	s.weight = make([]float64, s.m)
	for i, row := range s.inv {
		s.weight[i] = squared(row)
	}
}

func squared(v []float64) float64 {
	var sum float64
	for _, a := range v {
		sum += a * a
	}
	return sum
}

// invert gives the inverse by Gauss and Jordan with partial pivoting; bad is
// the first column that depends on those before it, or -1.
func invert(a [][]float64) (inverse [][]float64, bad int) {
	k := len(a)
	inverse = make([][]float64, k)
	for i := range inverse {
		inverse[i] = make([]float64, k)
		inverse[i][i] = 1
	}
	for c := range k {
		best := c
		for i := c + 1; i < k; i++ {
			if math.Abs(a[i][c]) > math.Abs(a[best][c]) {
				best = i
			}
		}
		if math.Abs(a[best][c]) < 1e-10 {
			return nil, c
		}
		a[c], a[best] = a[best], a[c]
		inverse[c], inverse[best] = inverse[best], inverse[c]
		scale := 1 / a[c][c]
		for j := range k {
			a[c][j] *= scale
			inverse[c][j] *= scale
		}
		for i := range k {
			f := a[i][c]
			if i == c || f == 0 {
				continue
			}
			for j := c; j < k; j++ {
				a[i][j] -= f * a[c][j]
			}
			for j := range k {
				inverse[i][j] -= f * inverse[c][j]
			}
		}
	}
	return inverse, -1
}
