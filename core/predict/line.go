package predict

import (
	"errors"
	"fmt"
	"math"

	"pineledger/core/points"
)

// Line is a line with its place on the scale. At ability θ the chance of level number k is
// proportional to exp(k(θ − B)).
type Line struct {
	B      float64         // logits, finite
	Levels []points.Points // the credits that it can award, from 0 rising to its points
}

// CheckLevels refuses levels that do not rise from 0 to the points by multiples of the step.
func CheckLevels(levels []points.Points, worth, step points.Points) error {
	switch {
	case len(levels) < 2 || levels[0] != 0:
		return errors.New("do not begin at 0 and rise")
	case levels[len(levels)-1] != worth:
		return fmt.Errorf("do not end at the line's %s points", worth)
	}
	for i, l := range levels[1:] {
		switch {
		case l <= levels[i]:
			return fmt.Errorf("do not rise from %s to %s", levels[i], l)
		case l%step != 0:
			return fmt.Errorf("have %s, which is not a multiple of the step %s", l, step)
		}
	}
	return nil
}

// chances are those of each level at an ability.
func (l Line) chances(theta float64) []float64 {
	out := make([]float64, len(l.Levels))
	top := max(0, float64(len(out)-1)*(theta-l.B)) // the largest exponent, so that none overflows
	var sum float64
	for k := range out {
		out[k] = math.Exp(float64(k)*(theta-l.B) - top)
		sum += out[k]
	}
	for k := range out {
		out[k] /= sum
	}
	return out
}

// moments are the mean and the variance of the credit at an ability, in points and points².
func (l Line) moments(theta float64) (mean, variance float64) {
	var square float64
	for k, p := range l.chances(theta) {
		credit := float64(l.Levels[k]) / 100
		mean += p * credit
		square += p * credit * credit
	}
	return mean, square - mean*mean
}

// Location is the B at which students of the standard normal ability earn the share p of the
// line's points, to 1e-12; p is strictly between 0 and 1.
func Location(p float64, levels []points.Points) float64 {
	worth := float64(levels[len(levels)-1]) / 100
	abilities := Normal(0, 1)
	return falling(func(b float64) float64 {
		var mean float64
		for _, a := range abilities {
			m, _ := Line{b, levels}.moments(a.Theta)
			mean += a.Weight * m
		}
		return mean/worth - p
	})
}

// falling finds where a function that falls all the way crosses 0, to 1e-13 or as near as floats come.
func falling(f func(float64) float64) float64 {
	low, high := -1.0, 1.0
	for f(low) < 0 {
		low *= 2
	}
	for f(high) > 0 {
		high *= 2
	}
	for high-low > 1e-13 {
		middle := (low + high) / 2
		if middle == low || middle == high {
			break
		}
		if f(middle) > 0 {
			low = middle
		} else {
			high = middle
		}
	}
	return (low + high) / 2
}

// Reaching is the ability at which a level or a higher one is reached with a probability, to 1e-12.
func (l Line) Reaching(level int, probability float64) float64 {
	return falling(func(theta float64) float64 {
		var reached float64
		for _, p := range l.chances(theta)[level:] {
			reached += p
		}
		return probability - reached
	})
}

// Expected is the mean raw score at an ability, in points.
func Expected(lines []Line, theta float64) float64 {
	var sum float64
	for _, l := range lines {
		m, _ := l.moments(theta)
		sum += m
	}
	return sum
}

// AbilityAt is the ability at which a raw score is expected, to 1e-12; ok is false for nothing and for everything right, which no
// ability expects.
func AbilityAt(lines []Line, raw points.Points) (theta float64, ok bool) {
	var total points.Points
	for _, l := range lines {
		total += l.Levels[len(l.Levels)-1]
	}
	if raw <= 0 || raw >= total {
		return 0, false
	}
	return falling(func(theta float64) float64 { return float64(raw)/100 - Expected(lines, theta) }), true
}

// ErrorAt is the standard error of a raw score, in points: the standard deviation of the raw scores of students whose expected one
// it is. It is 0 where no ability expects it.
func ErrorAt(lines []Line, raw points.Points) float64 {
	theta, ok := AbilityAt(lines, raw)
	if !ok {
		return 0
	}
	var variance float64
	for _, l := range lines {
		_, v := l.moments(theta)
		variance += v
	}
	return math.Sqrt(max(0, variance))
}
