// Package stats computes item statistics by classical test theory.
package stats

import (
	"math"

	"pineledger/core/points"
	"pineledger/core/results"
)

// Answer is one student's credit on a line, and their raw score on the form.
type Answer struct {
	Credit, Raw points.Points
	Omitted     bool // no answer, though later lines were answered
	NotReached  bool
}

// Line is how a line worked.
type Line struct {
	N                   int
	Omitted, NotReached int
	// Difficulty is the p-value in thousandths, mean credit over the points that
	// could be earned, rounded half up; -1 for fewer than results.Fewest students.
	Difficulty int
	// Discrimination is the Pearson correlation of the line's credit with the raw
	// score without it, -1 to 1; nil for fewer than results.Fewest students, and where
	// either does not vary.
	Discrimination *float64
}

// OfLine computes how a line of so many points worked.
func OfLine(most points.Points, answers []Answer) Line {
	out := Line{N: len(answers), Difficulty: -1}
	var credit int64
	for _, a := range answers {
		credit += int64(a.Credit)
		if a.Omitted {
			out.Omitted++
		}
		if a.NotReached {
			out.NotReached++
		}
	}
	if out.N < results.Fewest || most <= 0 {
		return out
	}
	whole := int64(most) * int64(out.N)
	out.Difficulty = int((2000*credit + whole) / (2 * whole))
	out.Discrimination = correlation(answers)
	return out
}

// correlation sums in integers, so that the order of the students does not matter:
// the sums stay below 2⁶³ for 100,000 students with 1,000 points each.
func correlation(answers []Answer) *float64 {
	var n, x, y, xx, yy, xy int64
	for _, a := range answers {
		c, rest := int64(a.Credit), int64(a.Raw-a.Credit)
		n++
		x += c
		y += rest
		xx += c * c
		yy += rest * rest
		xy += c * rest
	}
	vx := float64(n)*float64(xx) - float64(x)*float64(x)
	vy := float64(n)*float64(yy) - float64(y)*float64(y)
	if vx <= 0 || vy <= 0 {
		return nil
	}
	r := (float64(n)*float64(xy) - float64(x)*float64(y)) / math.Sqrt(vx*vy)
	r = max(-1, min(1, r))
	return &r
}
