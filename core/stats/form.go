package stats

import (
	"fmt"
	"math"
	"slices"

	"pineledger/core/points"
	"pineledger/core/results"
)

// Responses are the credits of a form's lines: a row a student, a column a line.
type Responses struct {
	Most    []points.Points // what each line is worth, above 0
	Credits [][]points.Points
	Omitted [][]bool // nil where it is not known what was left out
}

// Flag names what a person should look at in a line.
type Flag string

const (
	Hard              Flag = "hard"              // p below .2
	Easy              Flag = "easy"              // p above .95
	LowDiscrimination Flag = "lowDiscrimination" // below .15
	MuchOmitted       Flag = "omitted"           // by more than 10% of the students
)

// A Reason says why a figure is not there.
type Reason struct{ At, Because string }

// FormLine is how a line worked within its form.
type FormLine struct {
	P              float64  // mean credit over points
	Discrimination *float64 // of the credit with the raw score without it; nil where either does not vary
	// Shares of all students: of those who left the line out, and of those who answered
	// nothing from there to the end.
	Omitted, NotReached float64
	Flags               []Flag
}

// ErrorAt is the conditional standard error of measurement at a raw score.
type ErrorAt struct {
	Raw   points.Points
	Error float64 // in points
}

// Form is how a form worked, by classical test theory. What cannot be told is nil, with a reason.
type Form struct {
	N              int
	Mean, SD       *float64   // of the raw scores, in points; SD with n − 1
	Alpha, SEM     *float64   // Cronbach's alpha, and SD·√(1 − alpha) in points
	CSEM           []ErrorAt  // Lord's binomial error; nil where lines give parts of their points or differ in worth
	AlphaIfDropped []*float64 // a line each
	Lines          []FormLine
	Reasons        []Reason
}

// OfForm computes how a form worked. For fewer than results.Fewest students there is their number and a reason.
func OfForm(r Responses) Form {
	out := Form{N: len(r.Credits)}
	reason := func(at, format string, args ...any) {
		out.Reasons = append(out.Reasons, Reason{at, fmt.Sprintf(format, args...)})
	}
	if out.N < results.Fewest {
		reason("n", "%d students are too few: nothing is computed for fewer than %d", out.N, results.Fewest)
		return out
	}
	raws := make([]points.Points, out.N)
	for s, row := range r.Credits {
		for _, c := range row {
			raws[s] += c
		}
	}
	total := spreadOf(raws)
	mean, sd := total.mean(), math.Sqrt(total.variance())
	out.Mean, out.SD = &mean, &sd
	columns := make([]spread, len(r.Most))
	var within float64
	for l := range r.Most {
		columns[l] = spreadOf(column(r.Credits, l))
		within += columns[l].variance()
	}
	var because string
	if out.Alpha, because = alpha(len(r.Most), within, total); because != "" {
		reason("alpha", "%s", because)
		reason("sem", "it is made from alpha, which is not there")
	} else {
		sem := sd * math.Sqrt(max(0, 1-*out.Alpha))
		out.SEM = &sem
	}
	if out.CSEM, because = lordErrors(r); because != "" {
		reason("csem", "%s", because)
	}
	reached := reachedBy(r)
	for l := range r.Most {
		rest := make([]points.Points, out.N)
		for s, row := range r.Credits {
			rest[s] = raws[s] - row[l]
		}
		dropped, because := alpha(len(r.Most)-1, within-columns[l].variance(), spreadOf(rest))
		if because != "" {
			reason(fmt.Sprintf("alphaIfDropped[%d]", l), "%s", because)
		}
		out.AlphaIfDropped = append(out.AlphaIfDropped, dropped)
		line := formLine(r, l, raws, columns[l], reached)
		if line.Discrimination == nil {
			reason(fmt.Sprintf("lines[%d].discrimination", l), "the credits of the line, or the scores without it, do not vary")
		}
		out.Lines = append(out.Lines, line)
	}
	return out
}

func column(credits [][]points.Points, l int) []points.Points {
	out := make([]points.Points, len(credits))
	for s, row := range credits {
		out[s] = row[l]
	}
	return out
}

// spread sums in integers, so that a set that does not vary has a variance of exactly 0.
type spread struct{ n, sum, squares int64 }

func spreadOf(values []points.Points) spread {
	out := spread{n: int64(len(values))}
	for _, v := range values {
		out.sum += int64(v)
		out.squares += int64(v) * int64(v)
	}
	return out
}

func (s spread) mean() float64 { return float64(s.sum) / float64(s.n) / 100 }

// variance with n − 1, in points².
func (s spread) variance() float64 {
	return (float64(s.n)*float64(s.squares) - float64(s.sum)*float64(s.sum)) / float64(s.n) / float64(s.n-1) / 10_000
}

// alpha is Cronbach's, which is KR-20 where lines are right or wrong.
func alpha(lines int, within float64, total spread) (*float64, string) {
	switch {
	case lines < 2:
		return nil, "it needs two lines"
	case total.variance() <= 0:
		return nil, "the scores do not vary"
	}
	k := float64(lines)
	out := k / (k - 1) * (1 - within/total.variance())
	return &out, ""
}

// lordErrors is Lord's binomial error √(x(k−x)/(k−1)) for x of k lines right, in points.
func lordErrors(r Responses) ([]ErrorAt, string) {
	k := len(r.Most)
	for l, most := range r.Most {
		if most != r.Most[0] {
			return nil, "the lines are not all worth the same"
		}
		if slices.ContainsFunc(r.Credits, func(row []points.Points) bool { return row[l] != 0 && row[l] != most }) {
			return nil, "a line gives parts of its points"
		}
	}
	if k < 2 {
		return nil, "it needs two lines"
	}
	out := make([]ErrorAt, k+1)
	for x := range out {
		out[x] = ErrorAt{points.Points(x) * r.Most[0], math.Sqrt(float64(x*(k-x))/float64(k-1)) * float64(r.Most[0]) / 100}
	}
	return out, ""
}

// reachedBy gives for each student how many lines were reached: the last answered one and all before it.
func reachedBy(r Responses) []int {
	out := make([]int, len(r.Credits))
	for s := range out {
		out[s] = len(r.Most)
		for r.Omitted != nil && out[s] > 0 && r.Omitted[s][out[s]-1] {
			out[s]--
		}
	}
	return out
}

func formLine(r Responses, l int, raws []points.Points, credits spread, reached []int) FormLine {
	answers := make([]Answer, len(raws))
	var omitted, notReached int
	for s, row := range r.Credits {
		answers[s] = Answer{Credit: row[l], Raw: raws[s]}
		switch {
		case l >= reached[s]:
			notReached++
		case r.Omitted != nil && r.Omitted[s][l]:
			omitted++
		}
	}
	n := int64(len(raws))
	whole := int64(r.Most[l]) * n
	out := FormLine{P: float64(credits.sum) / float64(whole), Discrimination: correlation(answers), Omitted: float64(omitted) / float64(n), NotReached: float64(notReached) / float64(n), Flags: []Flag{}}
	for _, f := range []struct {
		flag  Flag
		holds bool
	}{
		{Hard, 5*credits.sum < whole},
		{Easy, 100*credits.sum > 95*whole},
		{LowDiscrimination, out.Discrimination != nil && *out.Discrimination < .15},
		{MuchOmitted, 10*int64(omitted) > n},
	} {
		if f.holds {
			out.Flags = append(out.Flags, f.flag)
		}
	}
	return out
}
