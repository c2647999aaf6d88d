package stats

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"

	"pineledger/core/results"
)

// Mark is how a student did on a line that is right or wrong.
type Mark int8

const (
	NotTaken Mark = iota // the line was not on the student's form
	Wrong
	Right
)

// RaschLine is a line on the Rasch scale: the chance of a student of ability θ to get it
// right is 1/(1 + exp(B − θ)).
type RaschLine struct {
	B  float64 // logits; the lines of a scale have the mean 0
	SE float64 // of B under that constraint
	// Mean squares of the residuals at the maximum-likelihood ability of each raw score,
	// near 1 where a line works as the model says: weighted by information, and unweighted.
	Infit, Outfit float64
	N             int // students who took it and whose score tells something
}

// Calibrate estimates difficulties by conditional maximum likelihood (Andersen 1972): the
// chance of each student's marks given the raw score, which does not hang on abilities. Students may have taken
// different forms, as long as shared lines link them. A row is a student, a column a line. A line that everybody
// or nobody got right is nil. The reason is empty where there is a scale.
func Calibrate(marks [][]Mark) (scale []*RaschLine, because string) {
	if len(marks) == 0 {
		return nil, tooFew(0)
	}
	a := NewAnswers(len(marks[0]))
	for _, row := range marks {
		a.Add(row)
	}
	return a.Calibrate()
}

func tooFew(students int) string {
	return fmt.Sprintf("%d students are too few: nothing is computed for fewer than %d", students, results.Fewest)
}

// calibration is what conditional likelihood needs of the answers.
type calibration struct {
	forms []*taken
	lines int
}

// scale puts the lines that vary, which are kept of so many, on the scale.
func (c calibration) scale(of int, kept []int) (scale []*RaschLine, because string) {
	b, information := c.solve()
	if b == nil {
		return nil, "no difficulties fit these answers best"
	}
	covariance, ok := inverse(information)
	if !ok {
		return nil, "no difficulties fit these answers best"
	}
	scale = make([]*RaschLine, of)
	for i, fit := range c.fits(b) {
		fit.B, fit.SE = b[i], math.Sqrt(covariance.At(i, i)-1/float64(c.lines))
		scale[kept[i]] = &fit
	}
	return scale, ""
}

// solve climbs by Newton's steps to the difficulties that make the answers likeliest, until a step moves none by more than
// 1e-10 logits.
func (c calibration) solve() ([]float64, *mat.SymDense) {
	b := c.start()
	at, slope, information := c.likelihood(b)
	for range 100 {
		var chol mat.Cholesky
		step := mat.NewVecDense(c.lines, nil)
		if !chol.Factorize(information) || chol.SolveVecTo(step, mat.NewVecDense(c.lines, slope)) != nil {
			return nil, nil
		}
		longest := mat.Norm(step, math.Inf(1))
		for length := 1.0; ; length /= 2 {
			if length*longest < 1e-10 {
				return b, information
			}
			tried := make([]float64, c.lines)
			for i := range tried {
				tried[i] = b[i] + length*step.AtVec(i)
			}
			centered(tried)
			next, s, inf := c.likelihood(tried)
			// Near the top the likelihood no longer tells two places apart; the slope still does.
			if next >= at-1e-12*math.Abs(at) {
				b, at, slope, information = tried, next, s, inf
				break
			}
		}
	}
	return nil, nil
}

// start is the logit of each line's share of wrong answers.
func (c calibration) start() []float64 {
	b, right, all := make([]float64, c.lines), make([]float64, c.lines), make([]float64, c.lines)
	for _, f := range c.forms {
		for i, place := range f.lines {
			for r, n := range f.n {
				right[place] += float64(f.right[i][r])
				all[place] += float64(n)
			}
		}
	}
	for i := range b {
		b[i] = math.Log((all[i] - right[i] + 0.5) / (right[i] + 0.5))
	}
	centered(b)
	return b
}

func centered(b []float64) {
	mean := 0.0
	for _, v := range b {
		mean += v / float64(len(b))
	}
	for i := range b {
		b[i] -= mean
	}
}

// likelihood gives the logarithm of the conditional likelihood at b, its slope, and the information, to which
// 1/lines is added everywhere: that holds the mean at 0 and leaves all else as it is.
func (c calibration) likelihood(b []float64) (at float64, slope []float64, information *mat.SymDense) {
	slope = make([]float64, c.lines)
	information = mat.NewSymDense(c.lines, nil)
	for i := range c.lines {
		for j := i; j < c.lines; j++ {
			information.SetSym(i, j, 1/float64(c.lines))
		}
	}
	for _, f := range c.forms {
		at += f.add(b, slope, information)
	}
	return at, slope, information
}

func (f *taken) add(b, slope []float64, information *mat.SymDense) (at float64) {
	eps := make([]float64, len(f.lines))
	for i, place := range f.lines {
		eps[i] = math.Exp(-b[place])
	}
	gamma := symmetric(eps)
	for r, n := range f.n {
		at -= float64(n) * math.Log(gamma[r])
	}
	chance := make([][]float64, len(eps)) // of the line being right, by raw score
	for i, without := range leftOut(eps) {
		chance[i] = make([]float64, len(f.n))
		place := f.lines[i]
		for r := 1; r < len(f.n); r++ {
			chance[i][r] = eps[i] * without[r-1] / gamma[r]
			slope[place] += float64(f.n[r])*chance[i][r] - float64(f.right[i][r])
			at -= float64(f.right[i][r]) * b[place]
		}
	}
	for i := range eps {
		rest := slices.Delete(slices.Clone(eps), i, i+1)
		for j, both := range leftOut(rest) {
			if j < i {
				continue // rest[j] is line j+1 from i on; the pairs before were had already
			}
			sum := 0.0
			for r, n := range f.n {
				together := 0.0
				if r >= 2 {
					together = eps[i] * rest[j] * both[r-2] / gamma[r]
				}
				sum += float64(n) * (together - chance[i][r]*chance[j+1][r])
			}
			p, q := f.lines[i], f.lines[j+1]
			information.SetSym(p, q, information.At(p, q)+sum)
		}
		own, p := 0.0, f.lines[i]
		for r, n := range f.n {
			own += float64(n) * chance[i][r] * (1 - chance[i][r])
		}
		information.SetSym(p, p, information.At(p, p)+own)
	}
	return at
}

// symmetric are the elementary symmetric functions of values, from order 0 on.
func symmetric(values []float64) []float64 {
	out := make([]float64, 1, len(values)+1)
	out[0] = 1
	for _, v := range values {
		out = append(out, 0)
		for r := len(out) - 1; r > 0; r-- {
			out[r] += v * out[r-1]
		}
	}
	return out
}

// leftOut are the symmetric functions of all values but one, for each. They are multiplied from those before and
// those behind, where taking one out again by subtraction would lose digits.
func leftOut(values []float64) [][]float64 {
	behind := make([][]float64, len(values)+1)
	behind[len(values)] = []float64{1}
	for i := len(values) - 1; i >= 0; i-- {
		behind[i] = times(behind[i+1], values[i])
	}
	out := make([][]float64, len(values))
	before := []float64{1}
	for i, v := range values {
		product := make([]float64, len(values))
		for a, x := range before {
			for c, y := range behind[i+1] {
				product[a+c] += x * y
			}
		}
		out[i] = product
		before = times(before, v)
	}
	return out
}

// times is the polynomial multiplied by 1 + v·x.
func times(p []float64, v float64) []float64 {
	out := make([]float64, len(p)+1)
	for i, c := range p {
		out[i] += c
		out[i+1] += v * c
	}
	return out
}

func inverse(s *mat.SymDense) (*mat.SymDense, bool) {
	var chol mat.Cholesky
	var out mat.SymDense
	if !chol.Factorize(s) || chol.InverseTo(&out) != nil {
		return nil, false
	}
	return &out, true
}

// fits are the mean squares of each line.
func (c calibration) fits(b []float64) []RaschLine {
	out := make([]RaschLine, c.lines)
	squares, information := make([]float64, c.lines), make([]float64, c.lines)
	for _, f := range c.forms {
		own := make([]float64, len(f.lines))
		for i, place := range f.lines {
			own[i] = b[place]
		}
		for r, n := range f.n {
			if n == 0 {
				continue
			}
			theta := likeliest(own, r)
			for i, place := range f.lines {
				p := 1 / (1 + math.Exp(own[i]-theta))
				right, wrong := float64(f.right[i][r]), float64(n-f.right[i][r])
				square := right*(1-p)*(1-p) + wrong*p*p
				squares[place] += square
				information[place] += float64(n) * p * (1 - p)
				out[place].Outfit += square / (p * (1 - p))
				out[place].N += n
			}
		}
	}
	for i := range out {
		out[i].Infit = squares[i] / information[i]
		out[i].Outfit /= float64(out[i].N)
	}
	return out
}

// likeliest is the ability at which so many of the lines are expected right, neither none nor all.
func likeliest(b []float64, right int) float64 {
	expected := func(theta float64) float64 {
		sum := 0.0
		for _, v := range b {
			sum += 1 / (1 + math.Exp(v-theta))
		}
		return sum
	}
	low, high := -1.0, 1.0
	for expected(low) > float64(right) {
		low *= 2
	}
	for expected(high) < float64(right) {
		high *= 2
	}
	for high-low > 1e-12*max(1, math.Abs(low)) {
		middle := (low + high) / 2
		if middle == low || middle == high {
			break
		}
		if expected(middle) < float64(right) {
			low = middle
		} else {
			high = middle
		}
	}
	return (low + high) / 2
}
