// Package predict tells what a form's cuts would do, before anybody has sat it: from the
// lines' difficulties and the abilities of those who will, by the Rasch model and, for lines
// that give parts of their points, the partial credit model (Masters 1982).
package predict

import "math"

// Weighed is an ability, in logits, and its weight among all, 0 to 1.
type Weighed struct{ Theta, Weight float64 }

const gridPoints = 81

// Normal stands for normal abilities: 81 points evenly from mean − 4 sd to mean + 4 sd, weighed by
// the density there. With sd 0 it is one point.
func Normal(mean, sd float64) []Weighed {
	if sd == 0 {
		return []Weighed{{mean, 1}}
	}
	out := make([]Weighed, gridPoints)
	var sum float64
	for i := range out {
		z := float64(i-gridPoints/2) / 10
		out[i] = Weighed{mean + z*sd, math.Exp(-z * z / 2)}
		sum += out[i].Weight
	}
	for i := range out {
		out[i].Weight /= sum
	}
	return out
}

// Each gives every one of some abilities the same weight.
func Each(thetas []float64) []Weighed {
	out := make([]Weighed, len(thetas))
	for i, t := range thetas {
		out[i] = Weighed{t, 1 / float64(len(thetas))}
	}
	return out
}
