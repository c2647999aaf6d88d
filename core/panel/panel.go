// Package panel computes what judges set as cuts: by the modified Angoff method, where they rate each line for a
// student just at a cut, and by ordered items, where they mark a place in a booklet that goes by difficulty.
package panel

import (
	"cmp"
	"math"
	"slices"

	"pineledger/core/band"
	"pineledger/core/points"
	"pineledger/core/predict"
)

// Cut is what the judges of a round made of one cut.
type Cut struct {
	Values       []float64 // a judge's each: points by Angoff, logits by ordered items
	Mean, Median float64
	SD, SE       *float64 // with n − 1; nil for one judge. SE is the mean's, by ordered items the median's
	Low, High    float64
	Theta        *float64      // by ordered items: the median
	Raw          points.Points // by Angoff of the mean, by ordered items of theta
	MedianRaw    points.Points // of the median
	Tenths       int64         // of a percent of the total, for display
}

// Rated is how the judges of a round rated a line, for each cut.
type Rated struct {
	Mean []float64
	SD   []*float64
}

// Disorder is a judge whose later cut is not above the earlier.
type Disorder struct {
	Judge int // place in the round, from 0
	Cut   int // place of the earlier cut, from 0
}

// Form is what a panel needs of a form's lines.
type Form struct {
	Lines        []band.Line
	Rule         band.Rule
	Total, Grain points.Points
}

// NewForm adds up a form's lines; errors are *band.PlaceError.
func NewForm(lines []band.Line, rule band.Rule) (Form, error) {
	sums, err := band.Compute(band.Form{Lines: lines, Rule: rule, Bands: []band.Band{{Name: "all"}}})
	return Form{lines, rule, sums.Total, sums.Grain}, err
}

// Ratings are one judge's: for each cut and line the share of the line's points, in hundredths, that a student
// just at the cut would earn.
type Ratings [][]int

// Angoff gives the cuts of one round, and how its lines were rated. There is at least one judge.
func Angoff(f Form, judges []Ratings) (cuts []Cut, lines []Rated, disorders []Disorder) {
	values := make([][]int64, len(judges[0])) // by cut and judge, in hundredths of hundredths of a point
	for c := range values {
		for _, ratings := range judges {
			var sum int64
			for l, share := range ratings[c] {
				sum += int64(share) * int64(f.Lines[l].Points)
			}
			values[c] = append(values[c], sum)
		}
		cut := summary(values[c], 10_000)
		cut.Raw, cut.MedianRaw = f.fromExact(values[c]), f.middle(values[c])
		cut.Tenths = points.Tenths(cut.Raw, f.Total)
		cuts = append(cuts, cut)
	}
	for l := range f.Lines {
		var rated Rated
		for c := range values {
			shares := make([]int64, len(judges))
			for j, ratings := range judges {
				shares[j] = int64(ratings[c][l])
			}
			s := summary(shares, 100)
			rated.Mean, rated.SD = append(rated.Mean, s.Mean), append(rated.SD, s.SD)
		}
		lines = append(lines, rated)
	}
	return cuts, lines, disordered(values)
}

// summary describes whole numbers that are so many times the values.
func summary(whole []int64, scale int64) Cut {
	values := make([]float64, len(whole))
	for i, v := range whole {
		values[i] = float64(v) / float64(scale)
	}
	return described(values)
}

// described gives median, mean, spread and ends.
func described(values []float64) Cut {
	out := Cut{Values: values, Low: slices.Min(values), High: slices.Max(values)}
	sorted := slices.Sorted(slices.Values(values))
	n := len(sorted)
	out.Median = (sorted[(n-1)/2] + sorted[n/2]) / 2
	for _, v := range values {
		out.Mean += v
	}
	out.Mean /= float64(n)
	if n > 1 {
		var squares float64
		for _, v := range values {
			squares += (v - out.Mean) * (v - out.Mean)
		}
		sd := math.Sqrt(squares / float64(n-1))
		se := sd / math.Sqrt(float64(n))
		out.SD, out.SE = &sd, &se
	}
	return out
}

// fromExact is the raw score that the mean of exact values becomes by the rule, all in integers.
func (f Form) fromExact(values []int64) points.Points {
	var sum int64
	for _, v := range values {
		sum += v
	}
	unit := int64(len(values)) * int64(f.Grain) * 100 // a grain, in the sum's measure
	if f.Rule == band.Nearest {
		return points.Points((2*sum+unit)/(2*unit)) * f.Grain
	}
	return points.Points((sum+unit-1)/unit) * f.Grain
}

// Entry is a place in the booklet of ordered items: a level of a line, where a student of that ability
// reaches it with the response probability.
type Entry struct {
	Line, Level int // from 0; from 1
	Location    float64
}

// Booklet orders every level above 0 of every line by its location, then line, then level.
func Booklet(lines []predict.Line, probability float64) []Entry {
	var out []Entry
	for i, l := range lines {
		for level := 1; level < len(l.Levels); level++ {
			out = append(out, Entry{i, level, l.Reaching(level, probability)})
		}
	}
	slices.SortStableFunc(out, func(a, b Entry) int { return cmp.Compare(a.Location, b.Location) })
	return out
}

// OrderedItems gives the cuts of one round from the judges' marks: for each cut the place in the booklet, from 1, of
// the last entry that a student just at it would still reach. There is at least one judge.
func OrderedItems(f Form, lines []predict.Line, booklet []Entry, judges [][]int) (cuts []Cut, disorders []Disorder) {
	values := make([][]float64, len(judges[0]))
	for c := range values {
		for _, marks := range judges {
			values[c] = append(values[c], booklet[marks[c]-1].Location)
		}
		cut := described(values[c])
		if cut.SE != nil {
			*cut.SE *= math.Sqrt(math.Pi / 2) // of a median
		}
		theta := cut.Median
		cut.Theta = &theta
		cut.Raw = band.Reached(predict.Expected(lines, theta), f.Grain, f.Rule)
		cut.MedianRaw = cut.Raw
		cut.Tenths = points.Tenths(cut.Raw, f.Total)
		cuts = append(cuts, cut)
	}
	return cuts, disordered(values)
}

// disordered finds the judges whose later cut is not above the one before, by judge and cut.
func disordered[T int64 | float64](values [][]T) (out []Disorder) {
	for j := range values[0] {
		for c := 1; c < len(values); c++ {
			if values[c][j] <= values[c-1][j] {
				out = append(out, Disorder{j, c - 1})
			}
		}
	}
	return out
}
