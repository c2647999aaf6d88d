package predict

import (
	"cmp"
	"math"
	"slices"

	"pineledger/core/points"
)

// Ability is where a raw score places a student.
type Ability struct {
	Raw       points.Points
	Theta, SE float64 // mean and standard deviation of the posterior, in logits
}

// Abilities gives for each raw score that can occur the ability it speaks for, where students are
// standard normal beforehand. It computes with logarithms: scores that hardly ever occur have an ability, too.
func Abilities(lines []Line) []Ability {
	var grain points.Points
	for _, l := range lines {
		for _, c := range l.Levels {
			grain = points.GCD(grain, c)
		}
	}
	occurs := occurring(lines, grain)
	prior := Normal(0, 1)
	likely := make([][]float64, len(prior)) // logarithms
	for g, a := range prior {
		likely[g] = logScores(lines, grain, a.Theta)
	}
	var out []Ability
	for r, can := range occurs {
		if !can {
			continue
		}
		top := slices.MaxFunc(likely, func(a, b []float64) int { return cmp.Compare(a[r], b[r]) })[r]
		var sum, mean, square float64
		for g, a := range prior {
			w := a.Weight * math.Exp(likely[g][r]-top)
			sum += w
			mean += w * a.Theta
		}
		mean /= sum
		for g, a := range prior {
			square += a.Weight * math.Exp(likely[g][r]-top) * (a.Theta - mean) * (a.Theta - mean)
		}
		out = append(out, Ability{points.Points(r) * grain, mean, math.Sqrt(square / sum)})
	}
	return out
}

// logScores are the logarithms of the chances that scores gives, without their underflow.
func logScores(lines []Line, grain points.Points, theta float64) []float64 {
	never := math.Inf(-1)
	out := []float64{0}
	for _, l := range lines {
		next := slices.Repeat([]float64{never}, len(out)+int(l.Levels[len(l.Levels)-1]/grain))
		for k, p := range l.logChances(theta) {
			shift := int(l.Levels[k] / grain)
			for r, q := range out {
				next[r+shift] = added(next[r+shift], q+p)
			}
		}
		out = next
	}
	return out
}

func (l Line) logChances(theta float64) []float64 {
	out := make([]float64, len(l.Levels))
	sum := math.Inf(-1)
	for k := range out {
		out[k] = float64(k) * (theta - l.B)
		sum = added(sum, out[k])
	}
	for k := range out {
		out[k] -= sum
	}
	return out
}

// added is the logarithm of the sum of two numbers that are given by theirs.
func added(a, b float64) float64 {
	if a < b {
		a, b = b, a
	}
	if math.IsInf(b, -1) {
		return a
	}
	return a + math.Log1p(math.Exp(b-a))
}
